"""The core's table of questions as operations of the API: read, answered and described from the core's own types."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic_core import to_json

from jackstaff import children
from jackstaff_core.answering import LONG, answer, parsed
from jackstaff_core.questions import QUESTIONS
from jackstaff_core.wire.question import Question
from jackstaff_core.wire.reader import plain, read
from jackstaff_core.wire.schema import Schemas

JSON = "application/json; charset=utf-8"
SCHEMAS = Schemas()
"""What the operations mounted here are made of; the API's description carries it."""
_TAGS = {
    "outing": "outing",
    "run": "run",
    "looks": "looks",
    "light": "light",
    "calibration": "log",
    "fieldcard": "log",
    "log": "log",
    "practice": "practice",
}

router = Router()


def body_of(request: HttpRequest) -> Any:
    """Return the JSON of a request, read as the core reads it."""
    return parsed(request.body)


def as_json(found: object, *, drop_none: bool = False, documents: bool = False) -> HttpResponse:
    """Return the core's answer as it stands: asked at every key press, it is not checked again on the way out."""
    by_core = drop_none or documents
    content = json.dumps(plain(found, drop_none=drop_none)) if by_core else to_json(found, inf_nan_mode="null")
    return HttpResponse(content, content_type=JSON)


def described(input_type: Any, answer_type: Any, *, drop_none: bool = False) -> dict[str, Any]:
    """Return an operation's body and answer, as OpenAPI has them; ``answer_type`` None where the answer is no JSON."""
    body = {"requestBody": {"required": True, **_json_content(SCHEMAS.input(input_type))}}
    if answer_type is None:
        return body
    return {**body, **_ok(SCHEMAS.answer(answer_type, drop_none=drop_none))}


def document(sent: Any, handed_back: Any) -> dict[str, Any]:
    """Return the same of an operation that keeps a document and hands it back."""
    return {
        "requestBody": {"required": True, **_json_content(SCHEMAS.document(sent))},
        **_ok(SCHEMAS.document(handed_back)),
    }


def _ok(schema: dict[str, Any]) -> dict[str, Any]:
    return {"responses": {200: {"description": "OK", **_json_content(schema)}}}


def _json_content(schema: dict[str, Any]) -> dict[str, Any]:
    return {"content": {"application/json": {"schema": schema}}}


def _operation(name: str, question: Question) -> Callable[[HttpRequest], HttpResponse]:
    def in_a_child(request: HttpRequest) -> HttpResponse:
        status, text = children.ask(answer, name, request.body)
        return HttpResponse(text, content_type=JSON, status=status)

    def here(request: HttpRequest) -> HttpResponse:
        found = question.answer(read(question.question_type, body_of(request)))
        return as_json(found, drop_none=question.drop_none, documents=question.documents)

    operation = in_a_child if name in LONG else here
    operation.__name__ = name.replace("/", "_")
    operation.__doc__ = question.question_type.__doc__
    return operation


def add(to: Router, name: str) -> None:
    """Mount one question on a router."""
    question = QUESTIONS[name]
    to.post(
        f"/{name}",
        tags=[_TAGS.get(name.partition("/")[0], "bench")],
        openapi_extra=described(question.question_type, question.answer_type, drop_none=question.drop_none),
    )(_operation(name, question))


BESIDE = ("log/evidence", "log/learnt")
"""Their addresses also answer of the account's own log; they are mounted where that is (lessons.py)."""
BY_GET = ("scales",)
"""Asked by a GET, so that it may be kept (bench.py)."""
for _name in QUESTIONS:
    if _name not in (*BESIDE, *BY_GET):
        add(router, _name)
