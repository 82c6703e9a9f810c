"""Run: when to close, and what closing late or early does. Keeps nothing."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff_core.closing import MOST_POINTS, Closing, ClosingQuestion, closing
from jackstaff_core.lateness import Lateness, lateness

from .asked import Asked, FilmAsked, Instant, Number
from .bench import AdviceAnswer

router = Router(tags=["run"])


class LatenessAsked(Asked):
    planned_seconds: Number
    actual_seconds: Number


class LatenessAnswer(Schema):
    stops: float
    late_seconds: float
    verdict: str
    text: str


@router.post("/lateness", response=LatenessAnswer)
def compare(request: HttpRequest, question: LatenessAsked) -> Lateness:
    """How many stops brighter or darker than planned a frame came out."""
    return lateness(question.planned_seconds, question.actual_seconds)


class PointAsked(Asked):
    at_seconds: Number
    stops: Number

    def pair(self) -> tuple[float, float]:
        """As the core takes it."""
        return self.at_seconds, self.stops


class CloseAsked(Asked):
    """``at_seconds`` from the opening, negative before it; stops relative to the metering."""

    needed_seconds: Number
    opened_at: Instant
    now: Instant
    delay_seconds: Number = 0.0
    stops_per_minute: Number | None = None
    ev_points: Annotated[list[PointAsked], Field(max_length=MOST_POINTS)] = []
    readings: Annotated[list[PointAsked], Field(max_length=MOST_POINTS)] = []
    film: FilmAsked | None = None


class CloseAnswer(Schema):
    close_after_seconds: Number | None
    gathered: Number
    reaches: bool
    largest_reachable_seconds: Number | None
    light_left_at_close: Number | None
    error_if_closed_as_metered_stops: Number
    advice: list[AdviceAnswer]


@router.post("/close", response=CloseAnswer)
def close(request: HttpRequest, question: CloseAsked) -> Closing:
    """When to close: what has gathered by now, when it is enough, and whether it ever will be."""
    return closing(
        ClosingQuestion(
            needed_seconds=question.needed_seconds,
            now_seconds=(question.now - question.opened_at).total_seconds(),
            delay_seconds=question.delay_seconds,
            stops_per_minute=question.stops_per_minute,
            ev_points=tuple(point.pair() for point in question.ev_points),
            readings=tuple(point.pair() for point in question.readings),
            film=question.film.given() if question.film else None,
        )
    )
