"""JSON Schema from the core's types and their marks, for the API's description and the files' own schemas."""

from __future__ import annotations

import math
import re
import typing
from collections.abc import Callable, Mapping
from datetime import date, datetime
from enum import Enum
from typing import Any, Literal
from uuid import UUID

from .marks import Between, Matches, Size, Tagged
from .reader import is_described, is_union, narrowed, parted, parts, plain


class Schemas:
    """JSON Schema of types, each record under a name of its own in ``made``.

    Asked, a field that has a default may be left out; answered, every field stands there (``drop_none``: unless None).
    """

    def __init__(self, ref: str = "#/components/schemas/") -> None:
        self.ref = ref
        self.made: dict[str, dict[str, Any]] = {}
        self._names: dict[str, type] = {}

    def input(self, hint: Any) -> dict[str, Any]:
        """Return the schema of what is read into ``hint``."""
        return self._schema(hint, "Input", False)

    def answer(self, hint: Any, *, drop_none: bool = False) -> dict[str, Any]:
        """Return the schema of what is written from ``hint``."""
        return self._schema(hint, "Answer", drop_none)

    def document(self, hint: Any) -> dict[str, Any]:
        """Return the schema of a document that goes both ways: what has a default may be left out."""
        return self._schema(hint, "Doc", False)

    def _schema(self, hint: Any, role: str, drop_none: bool) -> dict[str, Any]:
        def again(value: Any) -> dict[str, Any]:
            return self._schema(value, role, drop_none)

        bare, marks = parted(hint)
        tagged = next((mark for mark in marks if isinstance(mark, Tagged)), None)
        if tagged:
            tags = [self._tagged(tagged.by, name, kind, role) for name, kind in tagged.shapes]
            mapping = {name: shape["$ref"] for (name, _), shape in zip(tagged.shapes, tags, strict=True)}
            return _null_too(bare, {"oneOf": tags, "discriminator": {"propertyName": tagged.by, "mapping": mapping}})
        if is_union(bare):
            shapes = [again(narrowed(get_arg, marks)) for get_arg in typing.get_args(bare) if get_arg is not type(None)]
            return _null_too(bare, shapes[0] if len(shapes) == 1 else {"anyOf": shapes})
        origin = typing.get_origin(bare)
        members: tuple[Any, ...] = typing.get_args(bare)
        if origin is Literal:
            return {"type": "string", "enum": list(members)}
        if origin in (tuple, frozenset, list) or bare is tuple:
            return self._list(origin, members, marks, again)
        if origin is not None and issubclass(origin, Mapping):
            return {"type": "object", "additionalProperties": again(members[1])}
        if isinstance(bare, type) and issubclass(bare, Enum):
            return self._named(bare.__name__, bare, lambda: {"type": "string", "enum": [each.value for each in bare]})
        if simple := _SIMPLE.get(bare):
            return {**simple, **_bounds(bare, marks)}
        if hasattr(bare, "json_schema"):
            return self._named(self._called(bare, role), bare, bare.json_schema)
        if is_described(bare):
            return {"type": "object", "additionalProperties": True}
        return self._named(self._called(bare, role), bare, lambda: self._object(bare, role, drop_none))

    def _list(self, origin: Any, members: Any, marks: tuple[Any, ...], again: Callable[[Any], Any]) -> dict[str, Any]:
        size = next((mark for mark in marks if isinstance(mark, Size)), None)
        if origin is tuple and members[-1] is not Ellipsis:
            size = Size(len(members), len(members))
        found: dict[str, Any] = {"type": "array", "items": again(members[0])}
        if size:
            found |= {"minItems": size.least, "maxItems": size.most}
        return found

    def _object(self, kind: type, role: str, drop_none: bool) -> dict[str, Any]:
        properties: dict[str, Any] = {}
        required: list[str] = []
        for part in parts(kind):
            if part.inline:
                inner = self._object(part.inline, role, drop_none)
                properties |= inner["properties"]
                required += inner["required"]
                continue
            properties[part.called] = self._schema(part.hint, role, drop_none)
            if role != "Answer" and part.default is not None:
                properties[part.called] |= {"default": plain(part.default)}
            may_miss = not part.required if role != "Answer" else drop_none and _may_be_none(part.hint)
            required += [] if may_miss else [part.called]
        about = (kind.__doc__ or "").split("\n\n")[0].strip()
        found: dict[str, Any] = {
            "type": "object",
            "title": kind.__name__,
            "properties": properties,
            "required": required,
        }
        if role == "Input":
            found["additionalProperties"] = False
        # What the dataclass writes as its own docstring is a signature, no words.
        return found if about.startswith(f"{kind.__name__}(") else {**found, "description": " ".join(about.split())}

    def _tagged(self, by: str, name: str, kind: type, role: str) -> dict[str, Any]:
        def made() -> dict[str, Any]:
            own = self._object(kind, role, False)
            own["properties"] = {by: {"const": name, "type": "string"}, **own["properties"]}
            own["required"] = [by, *own["required"]]
            return own

        return self._named(self._called(kind, role), kind, made)

    def _called(self, kind: type, role: str) -> str:
        base = re.sub("(Question|Given|Answer)$", "", kind.__name__)
        return f"{base}{role}"

    def _named(self, name: str, kind: type, make: Callable[[], dict[str, Any]]) -> dict[str, Any]:
        if self._names.setdefault(name, kind) is not kind:
            raise TypeError(f"{name} would describe both {self._names[name]} and {kind}: give one another name.")
        if name not in self.made:
            self.made[name] = {}
            self.made[name] = make()
        return {"$ref": self.ref + name}


_SIMPLE: dict[Any, dict[str, Any]] = {
    Any: {"title": "Anything"},
    float: {"type": "number"},
    int: {"type": "integer"},
    bool: {"type": "boolean"},
    str: {"type": "string"},
    datetime: {"type": "string", "format": "date-time"},
    date: {"type": "string", "format": "date"},
    UUID: {"type": "string", "format": "uuid"},
}


def _bounds(bare: Any, marks: tuple[Any, ...]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for mark in marks:
        match mark:
            case Between():
                low = "exclusiveMinimum" if mark.above else "minimum"
                found |= {low: mark.low} if math.isfinite(mark.low) else {}
                found |= {"maximum": mark.high} if math.isfinite(mark.high) else {}
            case Size() if bare is str:
                found |= {"minLength": mark.least, "maxLength": mark.most}
            case Matches():
                found["pattern"] = f"^{mark.pattern}$"
    return found


def _may_be_none(hint: Any) -> bool:
    bare, _ = parted(hint)
    return is_union(bare) and type(None) in typing.get_args(bare)


def _null_too(bare: Any, inner: dict[str, Any]) -> dict[str, Any]:
    may = is_union(bare) and type(None) in typing.get_args(bare)
    return {"anyOf": [inner, {"type": "null"}]} if may else inner
