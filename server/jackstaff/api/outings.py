"""Outings: plans kept for an account, and places and calendars in and out as open files."""

from __future__ import annotations

from dataclasses import asdict
from datetime import UTC, date, datetime
from typing import Annotated, Literal
from uuid import UUID
from zoneinfo import ZoneInfo

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from jackstaff.records import agenda, gpx
from jackstaff.records.outings import forget_outing, keep_outing, outings_of
from jackstaff_core.forecast import Scene, Sky
from jackstaff_core.hazards import BY_CODE
from jackstaff_core.refusal import Refusal

from .account import account_of, own_account
from .asked import Asked, Flag, Instant, Number, Zone
from .light import OwnReadingAsked, RidgeAsked
from .refusals import Faults

router = Router(tags=["outings"])

Clock = Annotated[str, Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]
Latitude = Annotated[Number, Field(ge=-90, le=90)]
Longitude = Annotated[Number, Field(ge=-180, le=180)]
Source = Literal["own", "simulated"]
FileText = Annotated[str, Field(min_length=1, max_length=3_000_000)]


class OwnWater(Asked):
    """A high or low water by the place's clock, within half a day of the outing."""

    time: Clock
    height_m: Annotated[Number, Field(ge=-5, le=25)]
    source: Source = "own"


class OwnWeather(Asked):
    celsius: Annotated[Number, Field(ge=-40, le=50)] | None = None
    wind_m_s: Annotated[Number, Field(ge=0, le=60)] | None = None
    wind_from_deg: Annotated[Number, Field(ge=0, le=360)] | None = None
    cloud_m: Annotated[Number, Field(ge=0, le=20_000)] | None = None
    swell_m: Annotated[Number, Field(ge=0, le=20)] | None = None
    source: Source = "own"


class OutingDoc(Asked):
    """An outing as the client keeps it; clock times are the place's own."""

    id: UUID
    name: Annotated[str, Field(max_length=60)]
    latitude: Latitude
    longitude: Longitude
    zone: Zone
    date: date
    arrive: Clock
    turn_back: Clock
    sky: Sky
    scene: Scene
    ridge: RidgeAsked | None
    readings: Annotated[list[OwnReadingAsked], Field(max_length=200)]
    waters: Annotated[list[OwnWater], Field(max_length=8)]
    floods_at_m: Annotated[Number, Field(ge=-5, le=25)] | None
    walk_minutes: Annotated[Number, Field(ge=0, le=600)]
    margin_minutes: Annotated[Number, Field(ge=0, le=600)]
    weather: OwnWeather
    hazards: Annotated[list[str], Field(max_length=30)]
    packed: Annotated[list[str], Field(max_length=100)]
    archived: Flag
    changed_at: Instant


class OutingsAnswer(Schema):
    outings: list[OutingDoc]


class TextAsked(Asked):
    text: FileText


class CalendarTextAsked(TextAsked):
    """``zone``: whose clocks times without a zone are by."""

    zone: Zone = "UTC"


class SpotDoc(Asked):
    name: Annotated[str, Field(min_length=1, max_length=60)]
    latitude: Latitude
    longitude: Longitude
    sort: Literal["waypoint", "route", "track"] = "waypoint"


class SpotsAsked(Asked):
    places: Annotated[list[SpotDoc], Field(min_length=1, max_length=gpx.MOST_PLACES)]


class SpotsAnswer(Schema):
    places: list[SpotDoc]


class EntryDoc(Asked):
    title: Annotated[str, Field(min_length=1, max_length=agenda.MOST_LETTERS)]
    start: Instant
    end: Instant
    note: Annotated[str, Field(max_length=2000)] = ""
    latitude: Latitude | None = None
    longitude: Longitude | None = None
    alarm_minutes: Annotated[int, Field(strict=True, ge=0, le=1440)] | None = None


class CalendarAsked(Asked):
    name: Annotated[str, Field(min_length=1, max_length=120)]
    entries: Annotated[list[EntryDoc], Field(min_length=1, max_length=agenda.MOST_ENTRIES)]


class EntriesAnswer(Schema):
    entries: list[EntryDoc]


def file_as(*kinds: str) -> dict[str, object]:
    """How a file of one of these kinds is described in the schema."""
    content = {kind: {"schema": {"type": "string"}} for kind in kinds}
    return {"responses": {200: {"description": "OK", "content": content}}}


@router.get("/outings", response=OutingsAnswer, auth=own_account)
def whole(request: HttpRequest) -> dict[str, object]:
    """The account's outings, archived ones included."""
    return {"outings": outings_of(account_of(request))}


@router.put("/outings/{uuid:key}", response=OutingDoc, auth=own_account)
def keep(request: HttpRequest, key: UUID, outing: OutingDoc) -> dict[str, object]:
    """Keep an outing under the client's own key; a later change held already wins and is handed back."""
    if outing.id != key:
        raise Refusal("id", "The outing's id differs from its address.", "Send the outing to its own address.")
    checked(outing)
    return keep_outing(account_of(request), key, outing.model_dump(mode="json"))


def checked(outing: OutingDoc) -> OutingDoc:
    """The outing, if its hazards are known.

    Raises
    ------
    Refusal
        They are not.
    """
    for place, hazard in enumerate(outing.hazards):
        if hazard not in BY_CODE:
            raise Refusal(f"hazards.{place}", "No such hazard is known.", f"Take one of {', '.join(BY_CODE)}.")
    return outing


@router.delete("/outings/{uuid:key}", response={204: None, 404: Faults}, auth=own_account)
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget an outing. The client may put it back under the same key."""
    if forget_outing(account_of(request), key):
        return Status(204, None)
    fault = {"field": "id", "problem": "No such outing.", "instead": "Load the outings again."}
    return Status(404, {"errors": [fault]})


@router.post("/outing/gpx/read", response=SpotsAnswer)
def read_gpx(request: HttpRequest, asked: TextAsked) -> dict[str, object]:
    """The places of a GPX file; keeps nothing."""
    return {"places": [asdict(spot) for spot in gpx.read(asked.text)]}


@router.post("/outing/gpx", response={200: str}, openapi_extra=file_as("application/gpx+xml"))
def write_gpx(request: HttpRequest, asked: SpotsAsked) -> HttpResponse:
    """Places as a GPX file; keeps nothing."""
    text = gpx.write([gpx.Spot(**dict(place)) for place in asked.places])
    return _file(text.encode(), "application/gpx+xml", "jackstaff-places.gpx")


@router.post("/outing/calendar/read", response=EntriesAnswer)
def read_calendar(request: HttpRequest, asked: CalendarTextAsked) -> dict[str, object]:
    """The entries of a calendar file; keeps nothing."""
    return {"entries": [asdict(entry) for entry in agenda.read(asked.text, ZoneInfo(asked.zone))]}


@router.post("/outing/calendar", response={200: str}, openapi_extra=file_as("text/calendar"))
def write_calendar(request: HttpRequest, asked: CalendarAsked) -> HttpResponse:
    """Entries as a calendar file with their alarms; keeps nothing."""
    entries = [agenda.Entry(**dict(entry)) for entry in asked.entries]
    return _file(agenda.write(asked.name, entries, datetime.now(UTC)), "text/calendar", "jackstaff-outing.ics")


def _file(content: bytes, kind: str, name: str) -> HttpResponse:
    answer = HttpResponse(content, content_type=f"{kind}; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer
