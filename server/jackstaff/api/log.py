"""Log: the account's frames, running and finished."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Query, Router, Schema, Status
from ninja.security import django_auth
from pydantic import Field, model_validator

from jackstaff.records.frames import EventKept, GlassKept, KeyTaken, delete_frame, frames_of, running_frame, save_frame
from jackstaff.records.models import Frame, FrameEvent
from jackstaff_core.exposure import MOST_GLASSES, Counting
from jackstaff_core.lateness import lateness
from jackstaff_core.refusal import Refusal
from jackstaff_core.scales import LONGEST_SECONDS, SHORTEST_SECONDS, Step

from .asked import Asked, FilmAsked, Instant, Number
from .bench import StepAnswer
from .refusals import Faults
from .run import LatenessAnswer

router = Router(tags=["log"], auth=django_auth)

Seconds = Annotated[Number, Field(gt=0, le=LONGEST_SECONDS * 2)]
Short = Annotated[str, Field(max_length=24)]


class FrameReading(Asked):
    shutter: Short | None = None
    aperture: Short | None = None
    iso: Short | None = None
    ev100: Annotated[Number, Field(ge=-20, le=25)] | None = None
    step: Step = Step.THIRD
    metered_at: Instant | None = None


class FrameSettings(Asked):
    aperture: Short
    iso: Short


class FrameGlassDoc(Asked):
    name: Annotated[str, Field(min_length=1, max_length=60)]
    stops: Annotated[Number, Field(ge=0, le=30)]
    offset: Annotated[Number, Field(ge=-10, le=10)] | None = None
    in_reading: bool = False


class FrameAnswer(Asked):
    """The answer as it stood when the frame was armed."""

    seconds: Seconds
    set_seconds: Seconds
    base_seconds: Seconds
    sure_within_stops: Annotated[Number, Field(ge=0, le=60)]
    dial_mark: Short | None = None
    steps: Annotated[list[StepAnswer], Field(max_length=40)]


class FrameEventDoc(Asked):
    id: UUID
    at: Instant
    kind: FrameEvent.Kind
    seconds: Number | None = None


class RereadDoc(Asked):
    """A reading during the run [stops against the metering], seconds from the opening."""

    at_seconds: Number
    stops: Annotated[Number, Field(ge=-40, le=40)]


class SteadyDoc(Asked):
    """The server's own count at the opening, which lives through reloads and changed clocks."""

    seconds: Number
    count: Short


class FrameRun(Asked):
    """What the clock of a frame needs beside its plan.

    ``uncertain_seconds`` is how well opening and closing are known: a press by hand is 0.2 s, a device 0.05 s;
    ``watched`` false when nothing lived through it. ``speed`` above 1 is practice on a sped-up clock.
    """

    metered_seconds: Seconds
    film: FilmAsked | None = None
    stops_per_minute: Annotated[Number, Field(ge=-30, le=30)] | None = None
    delay_seconds: Annotated[Number, Field(ge=0, le=LONGEST_SECONDS)] = 0.0
    rereads: Annotated[list[RereadDoc], Field(max_length=200)] = []
    bias_stops: Annotated[Number, Field(ge=-10, le=10)] = 0.0
    device: Literal["hand", "simulated"] = "hand"
    speed: Annotated[Number, Field(ge=1, le=1000)] = 1.0
    purpose: Literal["frame", "rehearsal", "dark", "series"] = "frame"
    steady: SteadyDoc | None = None
    uncertain_seconds: Annotated[Number, Field(ge=0, le=LONGEST_SECONDS)] = 0.2
    watched: bool = True
    busy_until: Instant | None = None


class FrameDoc(Asked):
    """A frame as the client keeps it."""

    id: UUID
    state: Frame.State
    opened_at: Instant
    closed_at: Instant | None = None
    closed_by: Frame.ClosedBy | None = None
    note: Annotated[str, Field(max_length=2000)] = ""
    reading: FrameReading
    settings: FrameSettings
    stack: Annotated[list[FrameGlassDoc], Field(max_length=MOST_GLASSES)]
    scale: Counting
    dial_limit: Number
    answer: FrameAnswer
    run: FrameRun | None = None
    events: Annotated[list[FrameEventDoc], Field(max_length=500)]

    @model_validator(mode="after")
    def _ends_fit_the_state(self) -> FrameDoc:
        if (self.state == Frame.State.OPEN) != (self.closed_at is None):
            raise ValueError("an open frame has no closing time, an ended one has")
        if self.closed_at and self.closed_at < self.opened_at:
            raise ValueError("a frame cannot close before it opens")
        return self


class FrameKept(FrameDoc):
    """A frame as the log shows it, with what the clock says."""

    actual_seconds: float | None
    error: LatenessAnswer | None


class FramePage(Schema):
    count: int
    frames: list[FrameKept]


class PageAsked(Schema):
    limit: Annotated[int, Field(ge=1, le=200)] = 50
    offset: Annotated[int, Field(ge=0, le=1_000_000)] = 0


@router.get("", response=FramePage)
def page(request: HttpRequest, asked: Query[PageAsked]) -> dict[str, object]:
    """The account's frames, the newest first."""
    frames = frames_of(_account(request))
    shown = frames[asked.offset : asked.offset + asked.limit]
    return {"count": frames.count(), "frames": [_doc(frame) for frame in shown]}


@router.get("/running", response=FrameKept | None)
def running(request: HttpRequest) -> object:
    """The exposure that is running now, or null."""
    frame = running_frame(_account(request))
    return _doc(frame) if frame else None


@router.get("/{uuid:key}", response={200: FrameKept, 404: Faults})
def show(request: HttpRequest, key: UUID) -> object:
    """One frame of the account."""
    frame = frames_of(_account(request)).filter(pk=key).first()
    return Status(200, _doc(frame)) if frame else Status(404, _NO_SUCH_FRAME)


@router.put("/{uuid:key}", response={200: FrameKept, 409: Faults})
def keep(request: HttpRequest, key: UUID, frame: FrameDoc) -> object:
    """Keep a frame under the client's own key; sending it twice keeps it once."""
    if frame.id != key:
        raise Refusal("id", "The frame's id differs from its address.", "Send the frame to its own address.")
    try:
        return Status(200, _doc(_save(_account(request), frame)))
    except KeyTaken:
        return Status(
            409,
            {"errors": [{"field": "id", "problem": "This key is taken.", "instead": "Make a new one and send again."}]},
        )


@router.delete("/{uuid:key}", response={204: None, 404: Faults})
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget a frame. The client may put it back under the same key."""
    if delete_frame(_account(request), key):
        return Status(204, None)
    return Status(404, _NO_SUCH_FRAME)


_NO_SUCH_FRAME = {"errors": [{"field": "id", "problem": "No such frame.", "instead": "Load the log again."}]}


def _account(request: HttpRequest) -> User:
    assert isinstance(request.user, User)
    return request.user


def _save(account: User, doc: FrameDoc) -> Frame:
    columns = {
        "state": doc.state,
        "opened_at": doc.opened_at,
        "closed_at": doc.closed_at,
        "closed_by": doc.closed_by or "",
        "note": doc.note,
        "reading_shutter": doc.reading.shutter or "",
        "reading_aperture": doc.reading.aperture or "",
        "reading_iso": doc.reading.iso or "",
        "reading_ev100": doc.reading.ev100,
        "step": doc.reading.step,
        "metered_at": doc.reading.metered_at,
        "aperture": doc.settings.aperture,
        "iso": doc.settings.iso,
        "scale": doc.scale,
        "dial_limit": doc.dial_limit,
        "planned_seconds": doc.answer.seconds,
        "set_seconds": doc.answer.set_seconds,
        "base_seconds": doc.answer.base_seconds,
        "sure_within_stops": doc.answer.sure_within_stops,
        "dial_mark": doc.answer.dial_mark,
        "run": doc.run.model_dump(mode="json") if doc.run else None,
        "sum_steps": [step.model_dump() for step in doc.answer.steps],
    }
    stack = [GlassKept(**dict(glass)) for glass in doc.stack]
    events = [EventKept(event.id, event.at, event.kind, event.seconds) for event in doc.events]
    return save_frame(account, doc.id, columns, stack, events)


def _doc(frame: Frame) -> dict[str, object]:
    actual = (frame.closed_at - frame.opened_at).total_seconds() if frame.closed_at else None
    if actual is not None and frame.run:
        actual *= frame.run["speed"]
    measurable = actual is not None and SHORTEST_SECONDS <= actual <= LONGEST_SECONDS
    return {
        "id": frame.pk,
        "state": frame.state,
        "opened_at": _utc(frame.opened_at),
        "closed_at": frame.closed_at and _utc(frame.closed_at),
        "closed_by": frame.closed_by or None,
        "note": frame.note,
        "reading": {
            "shutter": frame.reading_shutter or None,
            "aperture": frame.reading_aperture or None,
            "iso": frame.reading_iso or None,
            "ev100": frame.reading_ev100,
            "step": frame.step,
            "metered_at": frame.metered_at and _utc(frame.metered_at),
        },
        "settings": {"aperture": frame.aperture, "iso": frame.iso},
        "stack": [
            {"name": glass.name, "stops": glass.stops, "offset": glass.offset, "in_reading": glass.in_reading}
            for glass in frame.stack.all()
        ],
        "scale": frame.scale,
        "dial_limit": frame.dial_limit,
        "answer": {
            "seconds": frame.planned_seconds,
            "set_seconds": frame.set_seconds,
            "base_seconds": frame.base_seconds,
            "sure_within_stops": frame.sure_within_stops,
            "dial_mark": frame.dial_mark,
            "steps": frame.sum_steps,
        },
        "run": frame.run,
        "events": [
            {"id": event.pk, "at": _utc(event.at), "kind": event.kind, "seconds": event.seconds}
            for event in frame.events.all()
        ],
        "actual_seconds": actual,
        "error": lateness(_aimed(frame), actual) if measurable and actual else None,
    }


def _aimed(frame: Frame) -> float:
    """The time the light asked for in the end, where the run found another than was planned [s]."""
    told = (event.seconds for event in reversed(frame.events.all()) if event.kind == FrameEvent.Kind.AIMED)
    return next((seconds for seconds in told if seconds), frame.planned_seconds)


def _utc(instant: datetime) -> datetime:
    return instant.astimezone(UTC)
