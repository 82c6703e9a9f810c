"""Looks: the drawing of a scene. Windows and what a time does are asked by the core's table of questions (mount.py)."""

from __future__ import annotations

import json
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from jackstaff import children
from jackstaff_core.motion.questions import AtQuestion
from jackstaff_core.wire.reader import read
from jackstaff_core.words.refusal import Refusal, Refusals
from jackstaff_imaging import answers

from .mount import body_of, described
from .outings import file_as

router = Router(tags=["looks"])


class SizeInput(Schema):
    """How wide the drawing is [px], and which of the made-up scenes."""

    width: Annotated[int, Field(ge=200, le=1600)] = 960
    seed: Annotated[int, Field(ge=0, le=1_000_000)] = 7


class DrawingInput(SizeInput):
    """A drawing asked for by its address alone."""

    question: Annotated[str, Field(max_length=6000)]


@router.get("/looks/drawing", response={200: bytes}, openapi_extra=file_as("image/jpeg"))
def drawing(request: HttpRequest, payload: Query[DrawingInput]) -> HttpResponse:
    """Return the made-up scene as that time would draw it, as a JPEG. ``question`` is the JSON of /looks/at."""
    try:
        question = read(AtQuestion, json.loads(payload.question))
    except (ValueError, RecursionError, Refusals):
        raise Refusal("question", "This is no question of /looks/at.", "Give its JSON as text.") from None
    answer = _drawn(question, payload)
    # The same question draws the same picture.
    answer["Cache-Control"] = "public, max-age=86400, immutable"
    return answer


@router.post("/looks/drawing", openapi_extra=described(AtQuestion, None) | file_as("image/jpeg"))
def long_drawing(request: HttpRequest, payload: Query[SizeInput]) -> HttpResponse:
    """Return the same of a question longer than an address may be."""
    return _drawn(read(AtQuestion, body_of(request)), payload)


def _drawn(question: AtQuestion, payload: SizeInput) -> HttpResponse:
    drawn = children.ask(answers.drawing, question.scene(), question.seconds, payload.width, payload.seed)
    return HttpResponse(drawn, content_type="image/jpeg")
