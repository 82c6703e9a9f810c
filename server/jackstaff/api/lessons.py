"""Lessons: next time for a frame, what the log says of glass, time and taste, the edit, and the card to take along."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Annotated

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff.records.frames import finished_frames
from jackstaff.records.kit import kit_of
from jackstaff_core import editing, evidence, fieldcard, lessons, review
from jackstaff_core import tally as counting
from jackstaff_core.exposure import MOST_GLASSES
from jackstaff_core.gear import Glass
from jackstaff_core.kept import FrameWas, Seen
from jackstaff_core.kitfile import Item
from jackstaff_core.reading import ReadingGiven, SettingsGiven, metered
from jackstaff_core.refusal import Refusal
from jackstaff_core.scales import Step

from . import framedoc
from .account import account_of, own_account
from .asked import Asked, DialLimit, Number, ReadingAsked
from .framedoc import FrameDoc
from .kit import ItemsAsked

router = Router(tags=["lessons"])

MOST_LESSONS = 10_000
"""Of a longer log the newest frames speak."""


class FindingAnswer(Schema):
    code: Seen
    label: str
    cause: str
    cure: str
    learns: str


class RemarkAnswer(Schema):
    code: Seen
    label: str
    cause: str
    cure: str


class NextAsked(Asked):
    """``light_stops``: how much brighter (+) it is now than for the frame; a reading of ``now`` says it instead."""

    frame: FrameDoc
    light_stops: Number = 0.0
    now: ReadingAsked | None = None
    step: Step = Step.THIRD


class NextAnswer(Schema):
    seconds: Number
    mark: str | None
    light_stops: Number
    text: str


class NoteAnswer(Schema):
    code: str
    text: str
    amount: Number | None
    unit: str


class ReviewedAnswer(Schema):
    """What a reviewed frame teaches: the time for the same picture, cause and cure of what was seen, and the edit."""

    next: NextAnswer | None
    remarks: list[RemarkAnswer]
    editing: list[NoteAnswer]


class TintAsked(Asked):
    """What a glass that was on does to the picture, where the kit knows it."""

    cast: Annotated[str, Field(max_length=60)] = ""
    mired: Annotated[Number, Field(ge=-500, le=500)] | None = None
    corner_stops: Annotated[Number, Field(ge=-10, le=10)] | None = None


class ReviewedAsked(NextAsked):
    sensor_height_mm: Annotated[Number, Field(ge=3, le=300)] = 24.0
    pitch_deg: Annotated[Number, Field(ge=-30, le=30)] | None = None
    glass: Annotated[list[TintAsked], Field(max_length=MOST_GLASSES)] = []


class OwnLog(ItemsAsked):
    """A guest's frames with the kit they were made with."""

    frames: Annotated[list[FrameDoc], Field(max_length=2000)]


class WitnessAnswer(Schema):
    frame: str
    at: datetime
    error_stops: Number


class KnownAnswer(Schema):
    """``mean`` and ``sd`` against the label [stops]; ``advice`` says what to do about it."""

    id: str
    name: str
    stops: Number
    offset: Number | None
    mean: Number
    sd: Number
    frames: int
    pairs: int
    doubted: bool
    advice: str
    trend_a_year: Number | None
    witnesses: list[WitnessAnswer]


class HabitAnswer(Schema):
    began: datetime
    mean: Number
    sd: Number
    frames: int


class EvidenceAnswer(Schema):
    glass: list[KnownAnswer]
    habits: list[HabitAnswer]
    used: int
    asides: dict[str, int]


class CleanEndAnswer(Schema):
    glass: str
    name: str
    focal_mm: Number
    stops: Number
    frames: int


class ClearFocalAnswer(Schema):
    lens: str
    focal_mm: Number
    rims_mm: Number
    opening_mm: Number | None
    frames: int


class TasteAnswer(Schema):
    kind: str
    look: str
    seconds: Number
    swell_m: Number | None
    periods: Number | None
    frames: int
    text: str


class MistakeAnswer(Schema):
    code: str
    label: str
    frames: int
    cure: str


class MissedAnswer(Schema):
    frames: int
    stops: Number
    text: str


class TallyAnswer(Schema):
    frames: int
    reviewed: int
    aborted: int
    open_seconds: Number
    lost_seconds: Number
    repeats: int
    mistakes: list[MistakeAnswer]
    missed: list[MissedAnswer]


class LearntAnswer(Schema):
    """Everything a log teaches beside the strength of the glass."""

    clean_ends: list[CleanEndAnswer]
    clear_focals: list[ClearFocalAnswer]
    tastes: list[TasteAnswer]
    tally: TallyAnswer


class CardGlassAsked(Asked):
    name: Annotated[str, Field(min_length=1, max_length=60)]
    stops: Number


class FieldCardAsked(Asked):
    """Bare times from ``fastest`` to ``slowest`` [s] down, glasses or stacks across."""

    glass: Annotated[list[CardGlassAsked], Field(min_length=1, max_length=fieldcard.MOST_COLUMNS)]
    fastest: Annotated[Number, Field(gt=0, le=60)] = 1 / 1000
    slowest: Annotated[Number, Field(gt=0, le=60)] = 1.0
    dial_limit: DialLimit = 30.0
    step: Step = Step.THIRD


class CellAnswer(Schema):
    text: str
    seconds: Number | None
    cost_stops: Number
    bulb: bool


class CardLineAnswer(Schema):
    mark: str
    cells: list[CellAnswer]


class FieldCardAnswer(Schema):
    lines: list[CardLineAnswer]


@router.get("/log/seen", response=list[FindingAnswer])
def seen(request: HttpRequest) -> list[dict[str, object]]:
    """What one may find in a frame, each with cause and cure."""
    return [asdict(one) for one in review.FINDINGS.values()]


@router.post("/log/reviewed", response=ReviewedAnswer)
def reviewed(request: HttpRequest, asked: ReviewedAsked) -> dict[str, object]:
    """What a reviewed frame teaches; keeps nothing."""
    frame = framedoc.was(asked.frame)
    if frame is None:
        return {"next": None, "remarks": [], "editing": []}
    following = None
    if frame.came_out is not None and not frame.aborted:
        light = asked.light_stops if asked.now is None else _brighter(asked.now, asked.frame)
        following = lessons.next_time(frame.seconds, frame.came_out, light, asked.frame.dial_limit, asked.step)
    edit = editing.EditQuestion(
        came_out=frame.came_out,
        seen=frame.seen,
        glass=tuple(editing.Tint(**dict(one)) for one in asked.glass),
        pitch_deg=asked.pitch_deg,
        focal_mm=frame.focal_mm,
        sensor_height_mm=asked.sensor_height_mm,
        seconds=frame.seconds,
    )
    return {"next": following, "remarks": review.remarks(frame), "editing": editing.editing_notes(edit)}


@router.get("/log/evidence", response=EvidenceAnswer, auth=own_account)
def own_evidence(request: HttpRequest) -> evidence.Evidence:
    """What the account's frames and pairs say of its glass."""
    account = account_of(request)
    return evidence.weigh(_frames(account), _solids(kit_of(account)))


@router.post("/log/evidence", response=EvidenceAnswer)
def evidence_of(request: HttpRequest, asked: OwnLog) -> evidence.Evidence:
    """The same of a log that is sent along; keeps nothing."""
    return evidence.weigh(_finished(asked.frames), _solids(asked.given()))


@router.get("/log/learnt", response=LearntAnswer, auth=own_account)
def own_lessons(request: HttpRequest) -> dict[str, object]:
    """What the account's log teaches of time, focal length, taste and mistakes."""
    return _learnt(_frames(account_of(request)))


@router.post("/log/learnt", response=LearntAnswer)
def lessons_of(request: HttpRequest, asked: OwnLog) -> dict[str, object]:
    """The same of a log that is sent along; keeps nothing."""
    return _learnt(_finished(asked.frames))


@router.post("/fieldcard", response=FieldCardAnswer)
def field_card(request: HttpRequest, asked: FieldCardAsked) -> dict[str, object]:
    """The rows of a card to take along."""
    glass = [fieldcard.CardGlass(**dict(one)) for one in asked.glass]
    return {"lines": fieldcard.field_card(glass, asked.fastest, asked.slowest, asked.dial_limit, asked.step)}


def _brighter(now: ReadingAsked, then: FrameDoc) -> float:
    """Stops by which a bare reading is brighter than it was for a frame."""
    known = then.conditions.ev100 if then.conditions else None
    if known is None:
        old = then.reading
        reading = ReadingGiven(old.shutter, old.aperture, old.iso, old.ev100, old.step)
        settings = SettingsGiven(then.settings.aperture, then.settings.iso)
        on = sum(glass.stops + (glass.offset or 0.0) for glass in then.stack if glass.in_reading)
        known = metered(reading, settings).ev100 + on
    return metered(now.given(), SettingsGiven(then.settings.aperture, then.settings.iso)).ev100 - known


def _learnt(frames: Sequence[FrameWas]) -> dict[str, object]:
    return {
        "clean_ends": lessons.clean_ends(frames),
        "clear_focals": lessons.clear_focals(frames),
        "tastes": lessons.tastes(frames),
        "tally": counting.tally(frames),
    }


def _frames(account: User) -> list[FrameWas]:
    return _finished(framedoc.document(frame) for frame in finished_frames(account)[:MOST_LESSONS])


def _finished(documents: Iterable[FrameDoc]) -> list[FrameWas]:
    """Those the lessons can reckon with; a frame kept by the rules of another day must not silence the others."""
    found = []
    for one in documents:
        try:
            frame = framedoc.was(one)
        except Refusal:
            continue
        if frame is not None:
            found.append(frame)
    return found


def _solids(kit: Sequence[Item]) -> list[evidence.GlassKnown]:
    return [
        evidence.GlassKnown(str(one.id), one.name, one.thing.stops, one.thing.offset, one.thing.pair_stops)
        for one in kit
        if isinstance(one.thing, Glass) and one.thing.kind == "solid"
    ]
