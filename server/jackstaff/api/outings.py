"""Outings: plans kept for an account, and places and calendars in and out as open files."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Annotated, Any
from uuid import UUID
from zoneinfo import ZoneInfo

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from jackstaff.documents.outings import OUTINGS
from jackstaff.documents.replication import forget as forget_document
from jackstaff.files import calendar, gpx
from jackstaff_core.outing.plan import Outing, check_one_line, check_zone
from jackstaff_core.wire.marks import Checked, Size
from jackstaff_core.wire.reader import read
from jackstaff_core.words.refusal import Refusal

from .door import account_of, own_account
from .mount import as_json, body_of, described, document
from .refusals import Faults
from .schemas import Input, Number
from .wired import as_answer, as_document

router = Router(tags=["outings"])

Latitude = Annotated[Number, Field(ge=-90, le=90)]
Longitude = Annotated[Number, Field(ge=-180, le=180)]
FileText = Annotated[str, Field(min_length=1, max_length=3_000_000)]
OutingDoc: Any = as_document(Outing)


class OutingsAnswer(Schema):
    """The account's outings."""

    outings: list[OutingDoc]


class TextInput(Input):
    """The text of a file."""

    text: FileText


class CalendarTextInput(TextInput):
    """``zone``: whose clocks times without a zone are by."""

    zone: Annotated[str, Field(min_length=1, max_length=60)] = "UTC"


@dataclass(frozen=True, slots=True)
class PlacesQuestion:
    """Places to write."""

    places: Annotated[tuple[gpx.Spot, ...], Size(1, gpx.MOST_PLACES)]


@dataclass(frozen=True, slots=True)
class PlacesAnswer:
    """The places of a file."""

    places: tuple[gpx.Spot, ...]


@dataclass(frozen=True, slots=True)
class CalendarQuestion:
    """Entries to write, and what the calendar is called."""

    name: Annotated[str, Size(1, 120), Checked(check_one_line)]
    entries: Annotated[tuple[calendar.Entry, ...], Size(1, calendar.MOST_ENTRIES)]


@dataclass(frozen=True, slots=True)
class EntriesAnswer:
    """The entries of a calendar."""

    entries: tuple[calendar.Entry, ...]


def file_as(*kinds: str) -> dict[str, object]:
    """Return how a file of one of these kinds is described in the schema."""
    content = {kind: {"schema": {"type": "object" if kind.endswith("/json") else "string"}} for kind in kinds}
    return {"responses": {200: {"description": "OK", "content": content}}}


@router.get("/outings", response=OutingsAnswer, auth=own_account)
def whole(request: HttpRequest) -> dict[str, object]:
    """Return the account's outings, archived ones included."""
    return {"outings": OUTINGS.of(account_of(request))}


@router.put("/outings/{uuid:key}", auth=own_account, openapi_extra=document(Outing, Outing))
def keep(request: HttpRequest, key: UUID) -> HttpResponse:
    """Keep an outing under the client's own key; a later change held already wins and is handed back."""
    outing = read(Outing, body_of(request))
    if outing.id != key:
        raise Refusal("id", "The outing's id differs from its address.", "Send the outing to its own address.")
    return as_json(OUTINGS.keep(account_of(request), outing))


@router.delete("/outings/{uuid:key}", response={204: None, 404: Faults}, auth=own_account)
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget an outing. The client may put it back under the same key."""
    if forget_document(account_of(request), OUTINGS, key):
        return Status(204, None)
    fault = {"field": "id", "problem": "No such outing.", "instead": "Load the outings again."}
    return Status(404, {"errors": [fault]})


@router.post("/outing/gpx/read", response=as_answer(PlacesAnswer))
def read_gpx(request: HttpRequest, payload: TextInput) -> PlacesAnswer:
    """Return the places of a GPX file; keeps nothing."""
    return PlacesAnswer(tuple(gpx.read(payload.text)))


@router.post("/outing/gpx", openapi_extra=described(PlacesQuestion, None) | file_as("application/gpx+xml"))
def write_gpx(request: HttpRequest) -> HttpResponse:
    """Return places as a GPX file; keeps nothing."""
    text = gpx.write(list(read(PlacesQuestion, body_of(request)).places))
    return _file(text.encode(), "application/gpx+xml", "jackstaff-places.gpx")


@router.post("/outing/calendar/read", response=as_answer(EntriesAnswer))
def read_calendar(request: HttpRequest, payload: CalendarTextInput) -> EntriesAnswer:
    """Return the entries of a calendar file; keeps nothing."""
    try:
        check_zone(payload.zone)
    except Refusal as refusal:
        raise refusal.under("zone") from None
    return EntriesAnswer(tuple(calendar.read(payload.text, ZoneInfo(payload.zone))))


@router.post("/outing/calendar", openapi_extra=described(CalendarQuestion, None) | file_as("text/calendar"))
def write_calendar(request: HttpRequest) -> HttpResponse:
    """Return entries as a calendar file with their alarms; keeps nothing."""
    question = read(CalendarQuestion, body_of(request))
    return _file(
        calendar.write(question.name, list(question.entries), datetime.now(UTC)),
        "text/calendar",
        "jackstaff-outing.ics",
    )


def _file(content: bytes, kind: str, name: str) -> HttpResponse:
    answer = HttpResponse(content, content_type=f"{kind}; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer
