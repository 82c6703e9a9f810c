"""Bench: the answer from any side, the stacks a kit can reach and what is wrong with one. Keeps nothing."""

from __future__ import annotations

from typing import Annotated, Any, TypeVar

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff_core.exposure import MOST_GLASSES as MOST_ON
from jackstaff_core.facts import read
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
from jackstaff_core.gear import Accessory, Body, Glass, Holder, Lens
from jackstaff_core.reach import Reach, ReachQuestion, reach
from jackstaff_core.refusal import Refusals
from jackstaff_core.stacking import On, Rig, findings, usable_end
from jackstaff_core.steer import Floating, Steered, SteerQuestion, steer

from .asked import Asked, Dial, FilmAsked, GlassAsked, Number, ReadingAsked, SettingsAsked, Text
from .bench import AdviceAnswer

router = Router(tags=["bench"])

Stops = Annotated[Number, Field(ge=0, le=30)]


class SteerAsked(Asked):
    float: Floating
    reading: ReadingAsked
    stops: Number = 0.0
    stack: Annotated[list[GlassAsked], Field(max_length=MOST_ON)] = []
    settings: SettingsAsked = SettingsAsked()
    target_seconds: Number | None = None
    dial_limit: Number = 30.0
    film: FilmAsked | None = None


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
    on: Annotated[list[Text], Field(max_length=MOST_ON)] = []
    film: FilmAsked | None = None


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
    hand_moves: int
    turned: Number | None = None


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
            question.film.given() if question.film else None,
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
            on=tuple(question.on),
            film=question.film.given() if question.film else None,
        )
    )


class OnAsked(Asked):
    name: Text
    facts: dict[str, Any]
    stops: Stops
    in_reading: bool = False


class RigAsked(Asked):
    """Facts are those of kit items; what is left out is unknown."""

    glass: Annotated[list[OnAsked], Field(max_length=MOST_ON)]
    body: dict[str, Any] | None = None
    lens: dict[str, Any] | None = None
    holder: dict[str, Any] | None = None
    focal_mm: Annotated[Number, Field(ge=1, le=3000)] | None = None
    f_number: Annotated[Number, Field(ge=0.5, le=512)] | None = None
    step_rings: Annotated[list[dict[str, Any]], Field(max_length=24)] = []


class RigAnswer(Schema):
    findings: list[AdviceAnswer]


class UsableAsked(Asked):
    """Variable glass by its kit facts, before a lens at ``focal_mm``."""

    glass: Annotated[list[dict[str, Any]], Field(max_length=MOST_GLASSES)]
    focal_mm: Annotated[Number, Field(ge=1, le=3000)]
    body: dict[str, Any] | None = None


class UsableAnswer(Schema):
    ends: list[Number | None]


class ReachAsked(Asked):
    reading: ReadingAsked
    glass: Annotated[list[KitGlassAsked], Field(max_length=MOST_GLASSES)]
    slots: Annotated[int, Field(strict=True, ge=0, le=MOST_SLOTS)]
    widest: Dial = "5.6"
    sharp_to: Dial = "11"
    isos: Annotated[list[Dial], Field(min_length=1, max_length=60)] = ["100"]


class RungAnswer(Schema):
    stops: Number
    stops_to: Number
    seconds: Number
    seconds_to: Number
    glass: list[str]


class GapAnswer(Schema):
    from_stops: Number
    to_stops: Number
    from_seconds: Number
    to_seconds: Number
    bridges: list[str]


class PurchaseAnswer(Schema):
    stops: Number
    gap_stops_now: Number
    gap_stops_then: Number


class ReachAnswer(Schema):
    rungs: list[RungAnswer]
    gaps: list[GapAnswer]
    longest_bare_seconds: Number
    purchase: PurchaseAnswer | None


@router.post("/rig", response=RigAnswer)
def rig(request: HttpRequest, question: RigAsked) -> dict[str, object]:
    """What is wrong with a stack before it goes on, each finding with why and a cure."""
    return {
        "findings": findings(
            Rig(
                glass=tuple(
                    On(one.name, thing(Glass, f"glass.{place}.facts", one.facts), one.stops, one.in_reading)
                    for place, one in enumerate(question.glass)
                ),
                body=perhaps(Body, "body", question.body),
                lens=perhaps(Lens, "lens", question.lens),
                holder=perhaps(Holder, "holder", question.holder),
                focal_mm=question.focal_mm,
                f_number=question.f_number,
                step_rings=tuple(
                    thing(Accessory, f"step_rings.{place}", facts) for place, facts in enumerate(question.step_rings)
                ),
            )
        )
    }


@router.post("/usable", response=UsableAnswer)
def usable(request: HttpRequest, question: UsableAsked) -> dict[str, object]:
    """How far each variable glass can be turned at this focal length; null for other glass. An estimate."""
    body = perhaps(Body, "body", question.body)
    return {
        "ends": [
            usable_end(thing(Glass, f"glass.{place}", facts), question.focal_mm, body)
            for place, facts in enumerate(question.glass)
        ]
    }


@router.post("/reach", response=ReachAnswer)
def reaching(request: HttpRequest, question: ReachAsked) -> Reach:
    """The ladder of times a kit reaches, its gaps, what bridges them, and which one glass would close most."""
    return reach(
        ReachQuestion(
            reading=question.reading.given(),
            glass=tuple(KitGlass(**dict(glass)) for glass in question.glass),
            slots=question.slots,
            widest=question.widest,
            sharp_to=question.sharp_to,
            isos=tuple(question.isos),
        )
    )


Things = TypeVar("Things")


def thing(sort: type[Things], place: str, facts: dict[str, Any]) -> Things:
    try:
        return read(sort, facts)
    except Refusals as refusals:
        raise refusals.under(place) from None


def perhaps(sort: type[Things], place: str, facts: dict[str, Any] | None) -> Things | None:
    return None if facts is None else thing(sort, place, facts)
