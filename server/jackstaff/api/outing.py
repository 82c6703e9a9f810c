"""Outing: the hazards, and what the simulated coast feeds. The core's table (mount.py) asks the rest."""

from __future__ import annotations

from datetime import UTC, timedelta
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field
from tzfpy import get_tzs

from jackstaff.standins.coast import Coast, Feed, SimulatedCoast, Waters
from jackstaff_core.outing.hazards import HAZARDS, Hazard
from jackstaff_core.outing.plan import ZONES
from jackstaff_core.sky.sun_and_moon import Place

from .schemas import Input, Instant, Number
from .wired import as_answer

router = Router(tags=["outing"])

Hazards: Any = as_answer(tuple[Hazard, ...])
FeedAnswer: Any = as_answer(Feed)
WatersAnswer: Any = as_answer(Waters)


@router.get("/hazards", response=Hazards)
def hazards(request: HttpRequest) -> object:
    """Return what can hurt somebody at a place, each with its caution and whom to ask."""
    return HAZARDS


class ZoneInput(Input):
    """A place [degrees]."""

    latitude: Number
    longitude: Number


class ZoneAnswer(Schema):
    """The zones whose clock may hang there; more than one near some borders, which only a person can decide."""

    zones: list[str]


@router.post("/zone", response=ZoneAnswer)
def zone(request: HttpRequest, question: ZoneInput) -> dict[str, object]:
    """Return the time zones of a place, from the map that ships; at sea the nautical one."""
    place = Place(question.latitude, question.longitude)
    return {"zones": [name for name in get_tzs(place.longitude, place.latitude) if name in ZONES]}


class FeedInput(Input):
    """A place and a period."""

    latitude: Number
    longitude: Number
    from_: Annotated[Instant, Field(alias="from")]
    to: Instant


@router.post("/feed", response=FeedAnswer)
def feed(request: HttpRequest, question: FeedInput) -> Feed:
    """Return the high and low waters half a day either side of a period, and its weather, from the simulated coast."""
    coast: Coast = SimulatedCoast()
    place = Place(question.latitude, question.longitude)
    start, end = question.from_.astimezone(UTC), question.to.astimezone(UTC)
    half = timedelta(hours=12)
    middle = start + (end - start) / 2
    return Feed(coast.waters(place, middle - half, middle + half), coast.weather(place, start, end))


@router.post("/feed/waters", response=WatersAnswer)
def feed_waters(request: HttpRequest, question: FeedInput) -> Waters:
    """Return the high and low waters of some days, from the simulated coast."""
    coast: Coast = SimulatedCoast()
    place = Place(question.latitude, question.longitude)
    return Waters(coast.waters(place, question.from_.astimezone(UTC), question.to.astimezone(UTC)))
