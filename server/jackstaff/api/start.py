"""Start: all that a first visit needs before it can show a time, in one answer."""

from __future__ import annotations

from functools import cache
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema

from jackstaff.documents.registry import kit_copies
from jackstaff.records.account import Account
from jackstaff_core.exposure.calculation import Exposure, ExposureQuestion
from jackstaff_core.gear.starter import STARTER_KIT, STARTER_ON, STARTER_READING
from jackstaff_core.gear.things import Body, Glass, strength
from jackstaff_core.questions import ask

from .bench import ScalesAnswer
from .kit import StarterAnswer, starter_answer
from .replica import KitCopy
from .session import Session, visited
from .wired import as_answer, as_input

router = Router(tags=["start"])


ExposureInput: Any = as_input(ExposureQuestion)
Answer: Any = as_answer(Exposure)


class StartAnswer(Schema):
    """Who is here and what they own, the starter, and the answer to the starter's own question."""

    session: Session
    starter: StarterAnswer
    kit: list[KitCopy]
    question: ExposureInput
    answer: Answer
    scales: ScalesAnswer


@router.get("", response=StartAnswer, exclude_unset=True)
def start(request: HttpRequest, response: HttpResponse) -> dict[str, object]:
    """Return session, kit and first answer together. Sets the cookie that later writes must echo."""
    session = visited(request, response)
    kit: list[dict[str, object]] = []
    if isinstance(request.user, Account):
        kit = kit_copies(request.user)
    return {
        "session": session,
        "starter": starter_answer(),
        "kit": kit,
        "question": _question(),
        "answer": ask("exposure", _question()),
        "scales": ask("scales", {"step": _body().step, "dial_limit": _body().dial_limit_s}),
    }


def _body() -> Body:
    return next(each.thing for each in STARTER_KIT if isinstance(each.thing, Body))


@cache
def _question() -> dict[str, object]:
    """Return the question that the bench asks of the starter, untouched, just as the page writes it."""
    shutter, aperture, iso = STARTER_READING
    on = [strength(each.thing) for each in STARTER_KIT if str(each.id) in STARTER_ON and isinstance(each.thing, Glass)]
    return {
        "reading": {"shutter": shutter, "aperture": aperture, "iso": iso, "step": _body().step},
        "stack": [
            {"stops": each.stops, "offset": each.offset, "offset_sd": each.offset_sd, "in_reading": False}
            for each in on
        ],
        "settings": {"aperture": aperture, "iso": iso},
        "scale": "exact",
        "dial_limit": _body().dial_limit_s,
        "film": None,
        "light": None,
    }
