"""Keeping frames: one idempotent write, and the ways to read them back."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import connection, transaction
from django.db.models import Exists, OuterRef, Q, QuerySet
from django.db.models.functions import Abs

from .models import Frame, FrameEvent, FrameGlass


class KeyTaken(Exception):
    """The key is already used by a record of another account."""


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
) -> Frame:
    """Create the frame ``key`` or bring it up to date; doing it twice changes nothing.

    Raises
    ------
    KeyTaken
        Another account holds a frame or an event with this key.
    """
    opening = columns["state"] == Frame.State.OPEN
    with _durable() if opening else _plain():
        held = Frame.objects.filter(pk=key).first()
        if held and held.account_id != account.pk:
            raise KeyTaken
        if held and _ended_later(held, events):
            # A device that had not heard of the end writes late: it adds its events, the end stands.
            columns = {**columns, "state": held.state, "closed_at": held.closed_at, "closed_by": held.closed_by}
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
            (
                FrameEvent(id=event.id, frame=frame, at=event.at, kind=event.kind, seconds=event.seconds)
                for event in events
            ),
            ignore_conflicts=True,
        )
    return frames_of(account).get(pk=key)


def _findable(review: dict[str, Any] | None) -> dict[str, Any]:
    """What a search looks for in a review, in columns of its own."""
    if review is None:
        return {"came_out": None, "seen": ""}
    return {"came_out": review["came_out"], "seen": "".join(f" {code} " for code in review["seen"])}


_DECIDE = (FrameEvent.Kind.OPENED, FrameEvent.Kind.CLOSED, FrameEvent.Kind.ABORTED, FrameEvent.Kind.TAKEN_BACK)


def _ended_later(held: Frame, coming: Sequence[EventKept]) -> bool:
    """Whether the frame held has ended by an event that the writer has never seen, later than all it decides by."""
    known = {event.id for event in coming}
    last = max((event.at for event in coming if event.kind in _DECIDE), default=None)
    ends = [event for event in held.events.all() if event.kind in _DECIDE]
    if held.state == Frame.State.OPEN or not ends:
        return False
    end = max(ends, key=lambda event: event.at)
    return end.pk not in known and (last is None or end.at > last)


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


@contextmanager
def all_or_none() -> Iterator[None]:
    """Everything kept inside is kept together, or nothing is."""
    with transaction.atomic():
        yield


def running_frame(account: User) -> Frame | None:
    """The exposure that opened last and has not ended."""
    return frames_of(account).filter(state=Frame.State.OPEN).first()


def delete_frame(account: User, key: UUID) -> bool:
    """Forget a frame; False when the account has none with this key."""
    deleted, _ = Frame.objects.filter(account=account, pk=key).delete()
    return deleted > 0


@contextmanager
def _durable() -> Iterator[None]:
    """A transaction that is on the disk when it returns: an opening must survive a power cut."""
    with connection.cursor() as cursor:
        nested = connection.in_atomic_block
        if not nested:
            cursor.execute("PRAGMA synchronous=FULL")
        try:
            with transaction.atomic():
                yield
        finally:
            if not nested:
                cursor.execute("PRAGMA synchronous=NORMAL")


@contextmanager
def _plain() -> Iterator[None]:
    with transaction.atomic():
        yield
