"""Kit: the answer from any side, and the stacks a kit can reach. Keeps nothing."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff_core.exposure import MOST_GLASSES as MOST_ON
from jackstaff_core.finder import (
    MOST_GLASSES,
    MOST_SLOTS,
    WINDOW_STOPS,
    FinderQuestion,
    Found,
    GlassKind,
    KitGlass,
    Target,
    find,
)
from jackstaff_core.steer import Floating, Steered, SteerQuestion, steer

from .asked import Asked, Dial, GlassAsked, Number, ReadingAsked, SettingsAsked, Text

router = Router(tags=["kit"])

Stops = Annotated[Number, Field(ge=0, le=30)]


class SteerAsked(Asked):
    float: Floating
    reading: ReadingAsked
    stops: Number = 0.0
    stack: Annotated[list[GlassAsked], Field(max_length=MOST_ON)] = []
    settings: SettingsAsked = SettingsAsked()
    target_seconds: Number | None = None
    dial_limit: Number = 30.0


class NearestAnswer(Schema):
    mark: str
    exact: Number
    cost_stops: Number


class SteerAnswer(Schema):
    value: Number
    nearest: list[NearestAnswer]
    missing_stops: Number | None = None


class KitGlassAsked(Asked):
    id: Text
    kind: GlassKind
    stops: Stops | None = None
    min: Stops | None = None
    max: Stops | None = None
    usable_max: Stops | None = None


class TargetAsked(Asked):
    seconds: Number
    within_stops: Annotated[Number, Field(ge=0, le=5)] = WINDOW_STOPS


class StacksAsked(Asked):
    reading: ReadingAsked
    glass: Annotated[list[KitGlassAsked], Field(max_length=MOST_GLASSES)]
    slots: Annotated[int, Field(strict=True, ge=0, le=MOST_SLOTS)]
    target: TargetAsked
    apertures: Annotated[list[Dial], Field(min_length=1, max_length=2)]
    isos: Annotated[list[Dial], Field(min_length=1, max_length=60)]
    must: Annotated[list[Text], Field(max_length=MOST_GLASSES)] = []
    sharp_to: Dial = "11"
    iso_base: Dial | None = None


class ReasonAnswer(Schema):
    code: str
    text: str


class StackAnswer(Schema):
    glass: list[str]
    aperture: str
    iso: str
    stops: Number
    seconds: Number
    error_stops: Number
    sure_half_range: Number
    reasons: list[ReasonAnswer]
    matters: bool


class StacksAnswer(Schema):
    count: int
    stacks: list[StackAnswer]
    none_because: str | None = None
    nearest: StackAnswer | None = None


@router.post("/steer", response=SteerAnswer, exclude_none=True)
def steering(request: HttpRequest, question: SteerAsked) -> Steered:
    """The floating quantity from the other four, with the marks either side and their cost."""
    return steer(
        SteerQuestion(
            question.float,
            question.reading.given(),
            question.stops,
            tuple(glass.given() for glass in question.stack),
            question.settings.given(),
            question.target_seconds,
            question.dial_limit,
        )
    )


@router.post("/stacks", response=StacksAnswer, exclude_none=True)
def stacks(request: HttpRequest, question: StacksAsked) -> Found:
    """The stacks of a kit that reach a time, the best first, each with its reasons."""
    first, last = question.apertures[0], question.apertures[-1]
    return find(
        FinderQuestion(
            reading=question.reading.given(),
            glass=tuple(KitGlass(**dict(glass)) for glass in question.glass),
            slots=question.slots,
            target=Target(**dict(question.target)),
            apertures=(first, last),
            isos=tuple(question.isos),
            must=tuple(question.must),
            sharp_to=question.sharp_to,
            iso_base=question.iso_base,
        )
    )
