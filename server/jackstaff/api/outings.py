"""Outings: plans kept for an account, and places and calendars in and out as open files."""

from __future__ import annotations

from dataclasses import asdict
from datetime import UTC, datetime
from typing import Annotated, Any, Literal
from uuid import UUID
from zoneinfo import ZoneInfo

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from jackstaff.records import agenda, gpx
from jackstaff.records.outings import forget_outing, keep_outing, outings_of
from jackstaff_core.outing.plan import Outing, known_zone
from jackstaff_core.wire.reader import plain, read
from jackstaff_core.words.refusal import Refusal

from .account import account_of, own_account
from .mount import as_json, body_of, document
from .refusals import Faults
from .schemas import Input, Instant, Name, Number
from .wired import as_document

router = Router(tags=["outings"])

Latitude = Annotated[Number, Field(ge=-90, le=90)]
Longitude = Annotated[Number, Field(ge=-180, le=180)]
FileText = Annotated[str, Field(min_length=1, max_length=3_000_000)]
OutingDoc: Any = as_document(Outing)


class OutingsAnswer(Schema):
    outings: list[OutingDoc]


class TextInput(Input):
    text: FileText


class CalendarTextInput(TextInput):
    """``zone``: whose clocks times without a zone are by."""

    zone: Annotated[str, Field(min_length=1, max_length=60)] = "UTC"


class SpotDoc(Input):
    name: Annotated[Name, Field(min_length=1, max_length=60)]
    latitude: Latitude
    longitude: Longitude
    sort: Literal["waypoint", "route", "track"] = "waypoint"


class SpotsInput(Input):
    places: Annotated[list[SpotDoc], Field(min_length=1, max_length=gpx.MOST_PLACES)]


class SpotsAnswer(Schema):
    places: list[SpotDoc]


class EntryDoc(Input):
    title: Annotated[Name, Field(min_length=1, max_length=agenda.MOST_LETTERS)]
    start: Instant
    end: Instant
    note: Annotated[str, Field(max_length=2000)] = ""
    latitude: Latitude | None = None
    longitude: Longitude | None = None
    alarm_minutes: Annotated[int, Field(strict=True, ge=0, le=1440)] | None = None


class CalendarInput(Input):
    name: Annotated[Name, Field(min_length=1, max_length=120)]
    entries: Annotated[list[EntryDoc], Field(min_length=1, max_length=agenda.MOST_ENTRIES)]


class EntriesAnswer(Schema):
    entries: list[EntryDoc]


def file_as(*kinds: str) -> dict[str, object]:
    """How a file of one of these kinds is described in the schema."""
    content = {kind: {"schema": {"type": "object" if kind.endswith("/json") else "string"}} for kind in kinds}
    return {"responses": {200: {"description": "OK", "content": content}}}


@router.get("/outings", response=OutingsAnswer, auth=own_account)
def whole(request: HttpRequest) -> dict[str, object]:
    """The account's outings, archived ones included."""
    return {"outings": outings_of(account_of(request))}


@router.put("/outings/{uuid:key}", auth=own_account, openapi_extra=document(Outing, Outing))
def keep(request: HttpRequest, key: UUID) -> HttpResponse:
    """Keep an outing under the client's own key; a later change held already wins and is handed back."""
    outing = read(Outing, body_of(request))
    if outing.id != key:
        raise Refusal("id", "The outing's id differs from its address.", "Send the outing to its own address.")
    return as_json(keep_outing(account_of(request), key, plain(outing)))


@router.delete("/outings/{uuid:key}", response={204: None, 404: Faults}, auth=own_account)
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget an outing. The client may put it back under the same key."""
    if forget_outing(account_of(request), key):
        return Status(204, None)
    fault = {"field": "id", "problem": "No such outing.", "instead": "Load the outings again."}
    return Status(404, {"errors": [fault]})


@router.post("/outing/gpx/read", response=SpotsAnswer)
def read_gpx(request: HttpRequest, payload: TextInput) -> dict[str, object]:
    """The places of a GPX file; keeps nothing."""
    return {"places": [asdict(spot) for spot in gpx.read(payload.text)]}


@router.post("/outing/gpx", response={200: str}, openapi_extra=file_as("application/gpx+xml"))
def write_gpx(request: HttpRequest, payload: SpotsInput) -> HttpResponse:
    """Places as a GPX file; keeps nothing."""
    text = gpx.write([gpx.Spot(**dict(place)) for place in payload.places])
    return _file(text.encode(), "application/gpx+xml", "jackstaff-places.gpx")


@router.post("/outing/calendar/read", response=EntriesAnswer)
def read_calendar(request: HttpRequest, payload: CalendarTextInput) -> dict[str, object]:
    """The entries of a calendar file; keeps nothing."""
    try:
        known_zone(payload.zone)
    except Refusal as refusal:
        raise refusal.under("zone") from None
    return {"entries": [asdict(entry) for entry in agenda.read(payload.text, ZoneInfo(payload.zone))]}


@router.post("/outing/calendar", response={200: str}, openapi_extra=file_as("text/calendar"))
def write_calendar(request: HttpRequest, payload: CalendarInput) -> HttpResponse:
    """Entries as a calendar file with their alarms; keeps nothing."""
    entries = [agenda.Entry(**dict(entry)) for entry in payload.entries]
    return _file(agenda.write(payload.name, entries, datetime.now(UTC)), "text/calendar", "jackstaff-outing.ics")


def _file(content: bytes, kind: str, name: str) -> HttpResponse:
    answer = HttpResponse(content, content_type=f"{kind}; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer
