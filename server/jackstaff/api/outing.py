"""Outing: waiting for light, the swap plan, tide, frame budget, plausibility. Keeps nothing."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import AwareDatetime, Field

from jackstaff_core.budget import Budget, BudgetQuestion, budget
from jackstaff_core.finder import MOST_GLASSES, MOST_SLOTS, KitGlass
from jackstaff_core.forecast import forecast, light_at
from jackstaff_core.plausibility import plausible
from jackstaff_core.reading import SettingsGiven, metered
from jackstaff_core.scales import ev100
from jackstaff_core.swaps import SwapPlan, SwapQuestion, plan
from jackstaff_core.tide import Water, height, leave_by
from jackstaff_core.waiting import Wait, wait

from .asked import Asked, Dial, Number, ReadingAsked, Text
from .bench import AdviceAnswer
from .light import LightAsked, PlaceAsked
from .stacks import KitGlassAsked

router = Router(tags=["outing"])


class WaitAsked(LightAsked):
    wanted_ev100: Number


class WaitAnswer(Schema):
    stops_to_go: Number
    at: datetime | None
    give_or_take_minutes: Number | None


class SwapsAsked(LightAsked):
    """The aim in seconds, the kit as for /stacks, what is on the lens now."""

    from_seconds: Number
    to_seconds: Number
    glass: Annotated[list[KitGlassAsked], Field(max_length=MOST_GLASSES)]
    slots: Annotated[int, Field(strict=True, ge=0, le=MOST_SLOTS)]
    apertures: Annotated[list[Dial], Field(min_length=1, max_length=2)]
    isos: Annotated[list[Dial], Field(min_length=1, max_length=10)]
    sharp_to: Dial = "11"
    on: Annotated[list[Text], Field(max_length=8)] = []


class StretchAnswer(Schema):
    start: datetime
    end: datetime
    glass: list[str] | None
    aperture: str | None
    iso: str | None
    first_seconds: Number | None
    last_seconds: Number | None
    hand_moves: int
    hand_seconds: Number


class SwapsAnswer(Schema):
    stretches: list[StretchAnswer]
    changes: int


class WaterAsked(Asked):
    at: AwareDatetime
    height_m: Number


class TideAsked(Asked):
    waters: Annotated[list[WaterAsked], Field(max_length=60)]
    at: AwareDatetime
    floods_at_m: Number | None = None
    walk_minutes: Number = 0.0
    margin_minutes: Number = 15.0
    marks: Annotated[list[AwareDatetime], Field(max_length=600)] = []


class TideAnswer(Schema):
    """Heights are null outside the entered waters; ``leave_by`` null where nothing floods or is known."""

    height_m: Number | None
    heights: list[Number | None]
    leave_by: datetime | None
    floods_at: datetime | None
    known_until: datetime | None


class BudgetAsked(Asked):
    seconds: Number
    available_seconds: Number
    handling_seconds: Number = 30.0
    noise_reduction: bool = False
    battery_wh: Number | None = None
    draw_w: Number = 3.0
    celsius: Number = 10.0


class BudgetAnswer(Schema):
    by_time: int
    by_battery: int | None
    frames: int
    ends_by: str
    camera_busy_seconds: Number


class PlausibleAsked(PlaceAsked):
    at: AwareDatetime
    reading: ReadingAsked


class PlausibleAnswer(Schema):
    ev100: Number
    forecast_ev100: Number
    sd_stops: Number
    advice: AdviceAnswer | None


@router.post("/wait", response=WaitAnswer)
def waiting(request: HttpRequest, question: WaitAsked) -> Wait:
    """When the light will be what is wanted, from ``from`` on, or that it will not be before ``to``."""
    return wait(question.given(question.from_, question.to, question.step_seconds), question.wanted_ev100)


@router.post("/swaps", response=SwapsAnswer)
def swaps(request: HttpRequest, question: SwapsAsked) -> SwapPlan:
    """Which stack and aperture when, so that the time stays in the aim with the fewest changes."""
    light = forecast(question.given(question.from_, question.to, question.step_seconds))
    return plan(
        SwapQuestion(
            light=light.points,
            from_seconds=question.from_seconds,
            to_seconds=question.to_seconds,
            glass=tuple(KitGlass(**dict(glass)) for glass in question.glass),
            slots=question.slots,
            apertures=(question.apertures[0], question.apertures[-1]),
            isos=tuple(question.isos),
            sharp_to=question.sharp_to,
            on=tuple(question.on),
        )
    )


@router.post("/tide", response=TideAnswer)
def tide(request: HttpRequest, question: TideAsked) -> dict[str, object]:
    """The water's height between one's own high and low waters, and when to leave."""
    waters = [Water(water.at.astimezone(UTC), water.height_m) for water in question.waters]
    now = question.at.astimezone(UTC)
    answer: dict[str, object] = {
        "height_m": height(waters, now),
        "heights": [height(waters, mark.astimezone(UTC)) for mark in question.marks],
        "leave_by": None,
        "floods_at": None,
        "known_until": None,
    }
    if question.floods_at_m is not None:
        found = leave_by(waters, question.floods_at_m, question.walk_minutes, question.margin_minutes, now)
        answer |= {"leave_by": found.at, "floods_at": found.floods_at, "known_until": found.known_until}
    return answer


@router.post("/budget", response=BudgetAnswer)
def frames(request: HttpRequest, question: BudgetAsked) -> Budget:
    """How many frames fit before time or battery ends."""
    return budget(BudgetQuestion(**dict(question)))


@router.post("/plausible", response=PlausibleAnswer)
def fits(request: HttpRequest, question: PlausibleAsked) -> dict[str, object]:
    """Whether a reading fits the light there can be at that place and time."""
    reading = metered(question.reading.given(), SettingsGiven("8", "100"))
    settings = reading.settings
    own = ev100(reading.shutter.exact, settings.aperture.exact, settings.iso.exact)
    at = question.at.astimezone(UTC)
    light = light_at(question.given(at, at, 60.0), at)
    return {
        "ev100": own,
        "forecast_ev100": light.ev100,
        "sd_stops": light.sd_stops,
        "advice": plausible(own, light),
    }
