"""The core's types as parts of the API's own schemas: read and described by the core's wire, not spelled out again."""

from __future__ import annotations

import json
from typing import Annotated, Any

from pydantic import PlainSerializer, PlainValidator, WithJsonSchema

from jackstaff_core.wire.reader import plain, read

from .mount import SCHEMAS

ELSEWHERE = "https://wire.invalid/"
"""Where pydantic takes the core's own descriptions to stand; the published description points to its components."""


def as_input(kind: Any) -> Any:
    """Return ``kind`` as part of what is asked."""
    return Annotated[kind, PlainValidator(lambda value: read(kind, value)), _pointed(SCHEMAS.input(kind)), _WRITTEN]


def as_answer(kind: Any) -> Any:
    """Return ``kind``, or JSON that has its shape, as part of what is answered."""
    return Annotated[Any, _pointed(SCHEMAS.answer(kind)), _WRITTEN]


def as_document(kind: Any) -> Any:
    """Return a document, as it is handed back."""
    return Annotated[Any, _pointed(SCHEMAS.document(kind)), _WRITTEN]


_WRITTEN = PlainSerializer(lambda value: value if isinstance(value, dict | list) else plain(value))


def _pointed(schema: dict[str, Any]) -> WithJsonSchema:
    return WithJsonSchema(json.loads(json.dumps(schema).replace(SCHEMAS.ref, ELSEWHERE)))
