"""The frame as a document: what the client sends and keeps, how it is stored, and how its lessons read it."""

from __future__ import annotations

import math
from datetime import UTC, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, model_validator

from jackstaff.records.frames import EventKept, GlassKept, Row
from jackstaff.records.models import Frame, FrameEvent
from jackstaff_core.exposure import MOST_GLASSES, Counting
from jackstaff_core.finder import GlassKind
from jackstaff_core.forecast import Sky
from jackstaff_core.kept import Fit, FrameWas, GlassWas, Seen, Tasted
from jackstaff_core.lateness import lateness
from jackstaff_core.refusal import within
from jackstaff_core.scales import LONGEST_DIAL, LONGEST_SECONDS, SHORTEST_DIAL, SHORTEST_SECONDS, Step

from .asked import Asked, FilmAsked, Instant, Number
from .bench import StepAnswer
from .run import LatenessAnswer

Seconds = Annotated[Number, Field(gt=0, le=LONGEST_SECONDS * 2)]
Short = Annotated[str, Field(max_length=24)]
Name = Annotated[str, Field(max_length=60)]


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
    """A glass that was on; ``id`` and ``kind`` say which of the kit it was, where that is known."""

    name: Annotated[str, Field(min_length=1, max_length=60)]
    stops: Annotated[Number, Field(ge=0, le=30)]
    offset: Annotated[Number, Field(ge=-10, le=10)] | None = None
    in_reading: bool = False
    id: UUID | None = None
    kind: GlassKind | None = None


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
    ``watched`` false when nothing lived through it. ``speed`` above 1 is practice on a sped-up clock. ``closes`` is
    who closes it in bulb: a hand, or the camera at the mark.
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
    closes: Literal["hand", "mark"] | None = None
    uncertain_seconds: Annotated[Number, Field(ge=0, le=LONGEST_SECONDS)] = 0.2
    watched: bool = True
    busy_until: Instant | None = None


class FrameConditions(Asked):
    """What it was like, filled in from bench and outing. Everything may be unknown."""

    place: Name | None = None
    body: Name | None = None
    lens: Name | None = None
    body_id: UUID | None = None
    lens_id: UUID | None = None
    focal_mm: Annotated[Number, Field(ge=1, le=3000)] | None = None
    rims_mm: Annotated[Number, Field(ge=0, le=300)] | None = None
    opening_mm: Annotated[Number, Field(ge=5, le=300)] | None = None
    pitch_deg: Annotated[Number, Field(ge=-90, le=90)] | None = None
    ev100: Annotated[Number, Field(ge=-20, le=25)] | None = None
    sky: Sky | None = None
    swell_m: Annotated[Number, Field(ge=0, le=20)] | None = None
    period_s: Annotated[Number, Field(ge=0.3, le=30)] | None = None
    wind_m_s: Annotated[Number, Field(ge=0, le=60)] | None = None
    celsius: Annotated[Number, Field(ge=-40, le=50)] | None = None
    aim_from_seconds: Seconds | None = None
    aim_to_seconds: Seconds | None = None


class TastedDoc(Asked):
    """Whether the time was right for a look."""

    kind: Annotated[str, Field(min_length=1, max_length=12)]
    look: Annotated[str, Field(min_length=1, max_length=40)]
    fit: Fit


class FrameReview(Asked):
    """How it came out [stops, + brighter than right] and what was seen in it."""

    came_out: Annotated[Number, Field(ge=-5, le=5)] | None = None
    seen: Annotated[list[Seen], Field(max_length=len(Seen))] = []
    tasted: Annotated[list[TastedDoc], Field(max_length=10)] = []


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
    conditions: FrameConditions | None = None
    review: FrameReview | None = None

    @model_validator(mode="after")
    def _ends_fit_the_state(self) -> FrameDoc:
        if (self.state == Frame.State.OPEN) != (self.closed_at is None):
            raise ValueError("an open frame has no closing time, an ended one has")
        if self.closed_at and self.closed_at < self.opened_at:
            raise ValueError("a frame cannot close before it opens")
        return self


class FrameKept(FrameDoc):
    """A frame as the log shows it, with what the clock says, and whether a picture is kept beside it."""

    actual_seconds: float | None
    error: LatenessAnswer | None
    pictured: bool = False


class FramePage(Schema):
    count: int
    frames: list[FrameKept]


def checked(doc: FrameDoc) -> FrameDoc:
    """The frame, if the core can reckon with it ever after: asked before it is kept, never when it is read.

    Raises
    ------
    Refusal
        Its dial ends or its film's law lies where neither does.
    """
    within("dial_limit", doc.dial_limit, SHORTEST_DIAL, LONGEST_DIAL, "s")
    if doc.run and doc.run.film:
        doc.run.film.given()
    return doc


def row_of(doc: FrameDoc) -> Row:
    """A document as the records take it: columns, glass, events."""
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
        "conditions": doc.conditions.model_dump(mode="json", exclude_none=True) if doc.conditions else None,
        "review": doc.review.model_dump(mode="json") if doc.review else None,
    }
    stack = [GlassKept(**dict(glass)) for glass in doc.stack]
    events = [EventKept(event.id, event.at, event.kind, event.seconds) for event in doc.events]
    return columns, stack, events


def shown(frame: Frame) -> dict[str, Any]:
    """A frame as the log shows it."""
    actual = (frame.closed_at - frame.opened_at).total_seconds() if frame.closed_at else None
    if actual is not None and frame.run:
        actual *= frame.run["speed"]
    return {
        **_plan(frame),
        "actual_seconds": actual,
        "error": _error(frame, actual),
        "pictured": hasattr(frame, "picture"),
    }


def document(frame: Frame) -> FrameDoc:
    """A frame as the client sent it."""
    return FrameDoc.model_validate(_plan(frame))


def _plan(frame: Frame) -> dict[str, Any]:
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
            {
                "name": glass.name,
                "stops": glass.stops,
                "offset": glass.offset,
                "in_reading": glass.in_reading,
                "id": glass.kit_id,
                "kind": glass.kind or None,
            }
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
            {"id": event.key, "at": _utc(event.at), "kind": event.kind, "seconds": event.seconds}
            for event in frame.events.all()
        ],
        "conditions": frame.conditions,
        "review": frame.review,
    }


def _error(frame: Frame, actual: float | None) -> object:
    if actual is None:
        return None
    told = (event.seconds for event in reversed(frame.events.all()) if event.kind == FrameEvent.Kind.AIMED)
    aimed = next((seconds for seconds in told if seconds), frame.planned_seconds)
    return lateness(aimed, actual) if _reckonable(aimed, actual) else None


def _reckonable(*seconds: float) -> bool:
    return all(SHORTEST_SECONDS <= one <= LONGEST_SECONDS for one in seconds)


def was(doc: FrameDoc) -> FrameWas | None:
    """A finished frame as the core's lessons read it; None while it runs, or where its time cannot be reckoned with."""
    if doc.closed_at is None:
        return None
    run, about, review = doc.run, doc.conditions or FrameConditions(), doc.review or FrameReview()
    seconds = (doc.closed_at - doc.opened_at).total_seconds() * (run.speed if run else 1.0)
    told = (event.seconds for event in reversed(doc.events) if event.kind == FrameEvent.Kind.AIMED)
    aimed = next((one for one in told if one), doc.answer.seconds)
    if not _reckonable(seconds, aimed, doc.answer.seconds):
        return None
    start, end = about.aim_from_seconds, about.aim_to_seconds
    aim = None if start is None else (start, math.inf if end is None else end)
    return FrameWas(
        id=str(doc.id),
        opened_at=doc.opened_at,
        seconds=seconds,
        aimed_seconds=aimed,
        planned_seconds=doc.answer.seconds,
        glass=tuple(
            GlassWas(str(one.id) if one.id else None, one.name, one.kind, one.stops, one.offset, one.in_reading)
            for one in doc.stack
        ),
        came_out=review.came_out,
        seen=frozenset(review.seen),
        tasted=tuple(Tasted(one.kind, one.look, one.fit) for one in review.tasted),
        aborted=doc.state == Frame.State.ABORTED,
        watched=run.watched if run else True,
        dark=run is not None and run.purpose == "dark",
        practice=run is not None and run.device == "simulated",
        bias_stops=run.bias_stops if run else 0.0,
        film=run.film.given() if run and run.film else None,
        aperture=doc.settings.aperture,
        iso=doc.settings.iso,
        base_seconds=doc.answer.base_seconds,
        body=str(about.body_id) if about.body_id else None,
        lens=str(about.lens_id) if about.lens_id else None,
        focal_mm=about.focal_mm,
        rims_mm=about.rims_mm,
        opening_mm=about.opening_mm,
        swell_m=about.swell_m,
        period_s=about.period_s,
        celsius=about.celsius,
        aim=aim,
    )


def _utc(instant: datetime) -> datetime:
    return instant.astimezone(UTC)
