"""Keeping frames: one idempotent write, and the ways to read them back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import Exists, OuterRef, Q, QuerySet
from django.db.models.functions import Abs

from .models import Frame, FrameEvent, FrameGlass
from .replication import DocKind, stamp
from .writing import KeyTaken, all_or_none, durable


@dataclass(frozen=True, slots=True)
class GlassKept:
    name: str
    stops: float
    offset: float | None
    in_reading: bool
    id: UUID | None = None
    kind: str | None = None


@dataclass(frozen=True, slots=True)
class EventKept:
    id: UUID
    at: datetime
    kind: str
    seconds: float | None


def save_frame(
    account: User, key: UUID, columns: dict[str, Any], stack: Sequence[GlassKept], events: Sequence[EventKept]
) -> None:
    """Create the frame ``key`` or bring it up to date; doing it twice changes nothing.

    Raises
    ------
    KeyTaken
        Another account holds a frame with this key.
    """
    with durable() if columns["state"] == Frame.State.OPEN else all_or_none():
        write_frame(account, key, columns, stack, events)
        stamp(account, DocKind.FRAME, [key])


def write_frame(
    account: User, key: UUID, columns: dict[str, Any], stack: Sequence[GlassKept], events: Sequence[EventKept]
) -> None:
    """Write a frame, without counting the change.

    Raises
    ------
    KeyTaken
        Another account holds a frame with this key.
    """
    held = Frame.objects.filter(pk=key).first()
    if held and held.account_id != account.pk:
        raise KeyTaken
    found = _findable(columns.get("review"))
    frame, _ = Frame.objects.update_or_create(pk=key, defaults={**columns, **found, "account": account})
    frame.stack.all().delete()
    FrameGlass.objects.bulk_create(
        FrameGlass(
            frame=frame,
            place=place,
            name=glass.name,
            stops=glass.stops,
            offset=glass.offset,
            in_reading=glass.in_reading,
            kit_id=glass.id,
            kind=glass.kind or "",
        )
        for place, glass in enumerate(stack)
    )
    # Events are never rewritten: what happened first stays.
    FrameEvent.objects.bulk_create(
        (FrameEvent(id=event.id, frame=frame, at=event.at, kind=event.kind, seconds=event.seconds) for event in events),
        ignore_conflicts=True,
    )


def _findable(review: dict[str, Any] | None) -> dict[str, Any]:
    """What a search looks for in a review, in columns of its own."""
    if review is None:
        return {"came_out": None, "seen": ""}
    return {"came_out": review["came_out"], "seen": "".join(f" {code} " for code in review["seen"])}


def frames_of(account: User) -> QuerySet[Frame]:
    """The account's frames, the newest first, with their glass and events, and whether a picture is kept."""
    own = Frame.objects.filter(account=account).select_related("picture").defer("picture__small", "picture__tones")
    return own.prefetch_related("stack", "events")


def finished_frames(account: User) -> QuerySet[Frame]:
    """Those that have ended."""
    return frames_of(account).exclude(state=Frame.State.OPEN)


class Sort(StrEnum):
    """In which order a search lists its frames."""

    NEWEST = "newest"
    OLDEST = "oldest"
    LONGEST = "longest"
    WORST = "worst"


class Verdict(StrEnum):
    """How a frame was reviewed."""

    RIGHT = "right"
    DARK = "dark"
    BRIGHT = "bright"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Search:
    """What a search asks for; None for anything."""

    text: str = ""
    verdict: Verdict | None = None
    seen: str | None = None
    glass: UUID | None = None
    since: datetime | None = None
    until: datetime | None = None
    sort: Sort = Sort.NEWEST


RIGHT_STOPS = 0.17
"""Within a sixth of a stop a frame is called right."""
_ORDER = {Sort.NEWEST: "-opened_at", Sort.OLDEST: "opened_at", Sort.LONGEST: "-set_seconds"}


def search(account: User, asked: Search) -> QuerySet[Frame]:
    """The account's frames that fit."""
    found = frames_of(account)
    for word in asked.text.split()[:8]:
        named = FrameGlass.objects.filter(frame=OuterRef("pk"), name__icontains=word)
        about = Q(note__icontains=word) | Q(conditions__place__icontains=word) | Q(conditions__lens__icontains=word)
        found = found.filter(about | Exists(named))
    match asked.verdict:
        case Verdict.RIGHT:
            found = found.filter(came_out__range=(-RIGHT_STOPS, RIGHT_STOPS))
        case Verdict.DARK:
            found = found.filter(came_out__lt=-RIGHT_STOPS)
        case Verdict.BRIGHT:
            found = found.filter(came_out__gt=RIGHT_STOPS)
        case Verdict.NONE:
            found = found.filter(came_out__isnull=True)
    if asked.seen:
        found = found.filter(seen__contains=f" {asked.seen} ")
    if asked.glass:
        found = found.filter(Exists(FrameGlass.objects.filter(frame=OuterRef("pk"), kit_id=asked.glass)))
    if asked.since:
        found = found.filter(opened_at__gte=asked.since)
    if asked.until:
        found = found.filter(opened_at__lt=asked.until)
    if asked.sort is Sort.WORST:
        return found.order_by(Abs("came_out").desc(nulls_last=True), "-opened_at")
    return found.order_by(_ORDER[asked.sort], "pk")


def changes(account: User, keys: Sequence[UUID]) -> QuerySet[Frame]:
    """The account's frames among these keys."""
    return frames_of(account).filter(pk__in=keys)


def running_frame(account: User) -> Frame | None:
    """The exposure that opened last and has not ended."""
    return frames_of(account).filter(state=Frame.State.OPEN).first()


def erase_frame(account: User, key: UUID) -> bool:
    """Erase a frame, without counting the change; False when there is none."""
    deleted, _ = Frame.objects.filter(account=account, pk=key).delete()
    return deleted > 0


def delete_frame(account: User, key: UUID) -> bool:
    """Forget a frame; False when the account has none with this key."""
    with all_or_none():
        forgotten = erase_frame(account, key)
        if forgotten:
            stamp(account, DocKind.FRAME, [key], removed=True)
    return forgotten
