"""Test core/wire/schema.py."""

from __future__ import annotations

from jackstaff_core.wire.schema import Schemas
from tests.core.wire.given_wire import Asked


def test_a_schema_says_what_the_reader_holds_to() -> None:
    shapes = Schemas()
    assert shapes.input(Asked) == {"$ref": "#/components/schemas/AskedInput"}
    made = shapes.made["AskedInput"]
    assert made["required"] == ["north", "count", "at"]
    assert made["additionalProperties"] is False
    properties = made["properties"]
    assert properties["north"] == {"type": "number", "minimum": -90, "maximum": 90}
    assert properties["above"]["anyOf"][0] == {"type": "number", "exclusiveMinimum": 0, "maximum": 5}
    assert properties["words"]["items"] == {"type": "string", "minLength": 1, "maxLength": 3}
    assert properties["float"]["default"] == "low"
    assert properties["pair"]["anyOf"][0] | {"items": 0} == {"type": "array", "minItems": 2, "maxItems": 2, "items": 0}
    assert set(properties["film"]["anyOf"][0]["discriminator"]["mapping"]) == {"power", "additive", "table"}
    # A document says what is None, and may leave out what has a default.
    shapes.document(Asked)
    assert shapes.made["AskedDoc"]["properties"]["dial"]["anyOf"][-1] == {"type": "null"}
    assert shapes.made["AskedDoc"]["required"] == made["required"]
    shapes.answer(Asked, drop_none=True)
    assert "dial" not in shapes.made["AskedAnswer"]["required"]
