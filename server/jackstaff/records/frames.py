"""Keeping frames: one idempotent write, and the ways to read them back."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import connection, transaction
from django.db.models import QuerySet

from .models import Frame, FrameEvent, FrameGlass


class KeyTaken(Exception):
    """The key is already used by a record of another account."""


@dataclass(frozen=True, slots=True)
class GlassKept:
    name: str
    stops: float
    offset: float | None
    in_reading: bool


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
        frame, _ = Frame.objects.update_or_create(pk=key, defaults={**columns, "account": account})
        frame.stack.all().delete()
        FrameGlass.objects.bulk_create(
            FrameGlass(
                frame=frame,
                place=place,
                name=glass.name,
                stops=glass.stops,
                offset=glass.offset,
                in_reading=glass.in_reading,
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
    """The account's frames, the newest first, with their glass and events."""
    return Frame.objects.filter(account=account).prefetch_related("stack", "events")


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
