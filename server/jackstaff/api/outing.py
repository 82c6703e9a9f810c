"""Outing: waiting for light, the swap plan, tide, frame budget, plausibility. Keeps nothing."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff.standins.coast import SOURCE, Coast, SimulatedCoast
from jackstaff_core.budget import Budget, BudgetQuestion, budget
from jackstaff_core.filling import longest
from jackstaff_core.finder import MOST_GLASSES, MOST_SLOTS, KitGlass
from jackstaff_core.forecast import Sky, forecast, light_at, rate_sd
from jackstaff_core.hazards import HAZARDS
from jackstaff_core.heavens import Place
from jackstaff_core.packing import Plan, pack
from jackstaff_core.plausibility import SkyPick, fits_sky, plausible
from jackstaff_core.reading import SettingsGiven, metered
from jackstaff_core.refusal import Refusal
from jackstaff_core.scales import LONGEST_SECONDS, ev100
from jackstaff_core.swaps import SwapPlan, SwapQuestion, plan
from jackstaff_core.tide import Water, height, leave_by
from jackstaff_core.waiting import Wait, wait

from .asked import Asked, Dial, Flag, Instant, Number, ReadingAsked, Text
from .bench import AdviceAnswer
from .light import LightAsked, PlaceAsked
from .stacks import KitGlassAsked

router = Router(tags=["outing"])


class WaitAsked(LightAsked):
    """The light that is waited for: as an EV at ISO 100, or as what a camera would read."""

    wanted_ev100: Number | None = None
    wanted: ReadingAsked | None = None


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
    at: Instant
    height_m: Number


class WaterAnswer(Schema):
    at: datetime
    height_m: Number


class TideAsked(Asked):
    waters: Annotated[list[WaterAsked], Field(max_length=60)]
    at: Instant
    floods_at_m: Number | None = None
    walk_minutes: Number = 0.0
    margin_minutes: Number = 15.0
    marks: Annotated[list[Instant], Field(max_length=600)] = []


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
    noise_reduction: Flag = False
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
    at: Instant
    reading: ReadingAsked


class PlausibleAnswer(Schema):
    """``rate_sd`` is the sd of ``stops_per_minute``; a reading between the two times fits the sky within two sd."""

    ev100: Number
    forecast_ev100: Number
    sd_stops: Number
    stops_per_minute: Number
    rate_sd: Number
    from_seconds: Number
    to_seconds: Number
    advice: AdviceAnswer | None


@router.post("/wait", response=WaitAnswer)
def waiting(request: HttpRequest, question: WaitAsked) -> Wait:
    """When the light will be what is wanted, from ``from`` on, or that it will not be before ``to``."""
    if (question.wanted is None) == (question.wanted_ev100 is None):
        raise Refusal("wanted_ev100", "The light to wait for is said once.", "Give wanted_ev100, or wanted.")
    ev = _own_ev(question.wanted)[0] if question.wanted else question.wanted_ev100
    assert ev is not None
    return wait(question.given(question.from_, question.to, question.step_seconds), ev)


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
    own, shutter = _own_ev(question.reading)
    at = question.at.astimezone(UTC)
    asked = question.given(at, at, 60.0)
    light = light_at(asked, at)
    return {
        "ev100": own,
        "forecast_ev100": light.ev100,
        "sd_stops": light.sd_stops,
        "stops_per_minute": light.stops_per_minute,
        "rate_sd": rate_sd(asked, at),
        **_band(shutter, own, light.ev100 - 2 * light.sd_stops, light.ev100 + 2 * light.sd_stops),
        "advice": plausible(own, light),
    }


class SkyFitsAsked(Asked):
    sky: SkyPick
    reading: ReadingAsked


class SkyFitsAnswer(Schema):
    ev100: Number
    low_ev100: Number
    high_ev100: Number
    from_seconds: Number
    to_seconds: Number
    advice: AdviceAnswer | None


@router.post("/sky", response=SkyFitsAnswer)
def sky_fits(request: HttpRequest, question: SkyFitsAsked) -> dict[str, object]:
    """Whether a reading fits the light somebody sees, without any plan."""
    own, shutter = _own_ev(question.reading)
    low, high = question.sky.band
    band = _band(shutter, own, low, high)
    return {"ev100": own, "low_ev100": low, "high_ev100": high, **band, "advice": fits_sky(own, question.sky)}


def _band(shutter: float, own: float, low: float, high: float) -> dict[str, float]:
    """The times the reading's settings would show between two brightnesses."""
    return {"from_seconds": shutter * 2 ** (own - high), "to_seconds": shutter * 2 ** (own - low)}


def _own_ev(asked: ReadingAsked) -> tuple[float, float]:
    """EV at ISO 100 of a reading, and its time [s]."""
    reading = metered(asked.given(), SettingsGiven("8", "100"))
    settings = reading.settings
    shutter = reading.shutter.exact
    return ev100(shutter, settings.aperture.exact, settings.iso.exact), shutter


class FillableAnswer(Schema):
    """The longest metered time [s] that is still filled before the period ends, at each step; null beyond a day."""

    longest_seconds: list[Number | None]


@router.post("/fillable", response=FillableAnswer)
def fillable(request: HttpRequest, question: LightAsked) -> dict[str, object]:
    """How long a frame may be at each minute and still fill."""
    light = forecast(question.given(question.from_, question.to, question.step_seconds))
    return {"longest_seconds": [one if one <= LONGEST_SECONDS else None for one in longest(light.points)]}


class HazardAnswer(Schema):
    code: str
    name: str
    caution: str
    ask: str


@router.get("/hazards", response=list[HazardAnswer])
def hazards(request: HttpRequest) -> object:
    """What can hurt somebody at a place, each with its caution and whom to ask."""
    return list(HAZARDS)


Name = Annotated[str, Field(min_length=1, max_length=60)]


class PackAsked(Asked):
    body: Name | None = None
    lens: Name | None = None
    holder: Name | None = None
    support: Name | None = None
    release: Name | None = None
    film: Name | None = None
    polariser: Name | None = None
    glass: Annotated[list[Name], Field(max_length=MOST_GLASSES)] = []
    densest_stops: Number = 0.0
    longest_seconds: Number | None = None
    dial_limit: Number = 30.0
    frames: Annotated[int, Field(strict=True, ge=0, le=100_000)] | None = None
    battery_wh: Number | None = None
    draw_w: Number = 3.0
    noise_reduction: Flag = False
    celsius: Number | None = None
    wind_m_s: Number | None = None
    dark: Flag = False
    tide: Flag = False
    hazards: Annotated[list[Annotated[str, Field(max_length=20)]], Field(max_length=30)] = []


class PackLine(Schema):
    code: str
    what: str
    why: str
    missing: bool


class PackAnswer(Schema):
    lines: list[PackLine]


@router.post("/pack", response=PackAnswer)
def packing(request: HttpRequest, question: PackAsked) -> dict[str, object]:
    """What to take along for this plan, and why."""
    facts = dict(question)
    facts |= {"glass": tuple(question.glass), "hazards": tuple(question.hazards)}
    return {"lines": pack(Plan(**facts))}


class FeedAsked(Asked):
    latitude: Number
    longitude: Number
    from_: Annotated[Instant, Field(alias="from")]
    to: Instant


class WeatherAnswer(Schema):
    at: datetime
    sky: Sky
    cloud_m: Number | None
    wind_m_s: Number
    wind_from_deg: Number
    celsius: Number
    swell_m: Number


class FeedAnswer(Schema):
    """Never a forecast: what the stand-in that ships makes up for this place and day."""

    simulated: bool
    source: str
    waters: list[WaterAnswer]
    weather: list[WeatherAnswer]


@router.post("/feed", response=FeedAnswer)
def feed(request: HttpRequest, question: FeedAsked) -> dict[str, object]:
    """High and low waters half a day either side of a period, and its weather, from the simulated coast."""
    coast: Coast = SimulatedCoast()
    place = Place(question.latitude, question.longitude)
    start, end = question.from_.astimezone(UTC), question.to.astimezone(UTC)
    half = timedelta(hours=12)
    middle = start + (end - start) / 2
    return {
        "simulated": True,
        "source": SOURCE,
        "waters": coast.waters(place, middle - half, middle + half),
        "weather": coast.weather(place, start, end),
    }
