"""Outing: the hazards, and what the simulated coast feeds. The core's table (mount.py) asks the rest."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field
from tzfpy import get_tzs

from jackstaff.standins.coast import SOURCE, Coast, SimulatedCoast
from jackstaff_core.outing.hazards import HAZARDS
from jackstaff_core.outing.plan import ZONES
from jackstaff_core.outing.tide import WaterKind
from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.sun_and_moon import Place

from .schemas import Input, Instant, Number

router = Router(tags=["outing"])


class HazardAnswer(Schema):
    code: str
    name: str
    caution: str
    ask: str


@router.get("/hazards", response=list[HazardAnswer])
def hazards(request: HttpRequest) -> object:
    """What can hurt somebody at a place, each with its caution and whom to ask."""
    return list(HAZARDS)


class ZoneInput(Input):
    latitude: Number
    longitude: Number


class ZoneAnswer(Schema):
    """The zones whose clock may hang there; more than one near some borders, which only a person can decide."""

    zones: list[str]


@router.post("/zone", response=ZoneAnswer)
def zone(request: HttpRequest, question: ZoneInput) -> dict[str, object]:
    """The time zones of a place, from the map that ships; at sea the nautical one."""
    place = Place(question.latitude, question.longitude)
    return {"zones": [name for name in get_tzs(place.longitude, place.latitude) if name in ZONES]}


class WaterAnswer(Schema):
    at: datetime
    height_m: Number
    kind: WaterKind


class FeedInput(Input):
    latitude: Number
    longitude: Number
    from_: Annotated[Instant, Field(alias="from")]
    to: Instant


class WatersAnswer(Schema):
    """High and low waters alone, made up by the stand-in that ships."""

    simulated: bool
    source: str
    waters: list[WaterAnswer]


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
def feed(request: HttpRequest, question: FeedInput) -> dict[str, object]:
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


@router.post("/feed/waters", response=WatersAnswer)
def feed_waters(request: HttpRequest, question: FeedInput) -> dict[str, object]:
    """High and low waters of some days, from the simulated coast."""
    coast: Coast = SimulatedCoast()
    place = Place(question.latitude, question.longitude)
    found = coast.waters(place, question.from_.astimezone(UTC), question.to.astimezone(UTC))
    return {"simulated": True, "source": SOURCE, "waters": found}
