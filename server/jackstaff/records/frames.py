"""Keeping frames: one idempotent write, and the ways to read them back."""

from __future__ import annotations

import time
import unicodedata
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from itertools import islice
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import Exists, OuterRef, QuerySet
from django.db.models.functions import Abs
from django.utils import timezone

from .models import Frame, FrameDefect, FrameEvent, FrameGlass
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


Row = tuple[dict[str, Any], Sequence[GlassKept], Sequence[EventKept]]
"""A frame as it is stored: its columns, its glass, its events."""
CHUNK, PAUSE_SECONDS = 100, 0.01


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
        write_frames(account, {key: (columns, stack, events)})
        stamp(account, DocKind.FRAME, [key])


def save_frames(account: User, rows: Mapping[UUID, Row]) -> None:
    """Keep many frames, some hundred at a time, so that nobody else waits long for their turn.

    What is broken off half-way stays in part; sent again, it is whole.

    Raises
    ------
    KeyTaken
        Another account holds a frame with one of these keys; nothing is kept.
    """
    _own(account, list(rows))
    for keys in batched(rows, CHUNK):
        with all_or_none():
            write_frames(account, {key: rows[key] for key in keys})
            stamp(account, DocKind.FRAME, keys)
        # Whoever waits looks again only now and then: let them in.
        time.sleep(PAUSE_SECONDS)


def write_frames(account: User, rows: Mapping[UUID, Row]) -> None:
    """Write frames, without counting the change. Call it inside a transaction.

    Raises
    ------
    KeyTaken
        Another account holds a frame with one of these keys.
    """
    held = _own(account, list(rows))
    now = timezone.now()
    frames = [
        Frame(pk=key, account=account, changed_at=now, **columns, **_searched(columns, stack))
        for key, (columns, stack, _) in rows.items()
    ]
    Frame.objects.bulk_create(
        frames,
        update_conflicts=True,
        unique_fields=["id"],
        update_fields=[field.name for field in Frame._meta.concrete_fields if field.name not in {"id", "account"}],
    )
    if held:
        FrameGlass.objects.filter(frame__in=held).delete()
        FrameDefect.objects.filter(frame__in=held).delete()
    FrameGlass.objects.bulk_create(
        FrameGlass(
            frame_id=key,
            place=place,
            name=glass.name,
            stops=glass.stops,
            offset=glass.offset,
            in_reading=glass.in_reading,
            kit_id=glass.id,
            kind=glass.kind or "",
        )
        for key, (_, stack, _) in rows.items()
        for place, glass in enumerate(stack)
    )
    FrameDefect.objects.bulk_create(
        FrameDefect(frame_id=key, code=code)
        for key, (columns, _, _) in rows.items()
        for code in dict.fromkeys((columns.get("review") or {}).get("seen") or ())
    )
    # Events are never rewritten: what happened first stays.
    FrameEvent.objects.bulk_create(
        (
            FrameEvent(key=event.id, frame_id=key, at=event.at, kind=event.kind, seconds=event.seconds)
            for key, (_, _, events) in rows.items()
            for event in events
        ),
        ignore_conflicts=True,
    )


def batched(keys: Iterable[UUID], size: int) -> Iterator[list[UUID]]:
    """The keys in lists of at most ``size``."""
    rest = iter(keys)
    while chunk := list(islice(rest, size)):
        yield chunk


def _own(account: User, keys: Sequence[UUID]) -> list[UUID]:
    """Those of the keys that the account holds already."""
    held = list(Frame.objects.filter(pk__in=keys).values_list("pk", "account_id"))
    if any(owner != account.pk for _, owner in held):
        raise KeyTaken
    return [key for key, _ in held]


def _searched(columns: dict[str, Any], stack: Sequence[GlassKept]) -> dict[str, Any]:
    """What a search looks for, in columns of its own."""
    about = columns.get("conditions") or {}
    parts = [columns.get("note", ""), *(about.get(name) or "" for name in ("place", "body", "lens"))]
    return {
        "exposure_error": (columns.get("review") or {}).get("came_out"),
        "words": folded("\n".join([*parts, *(glass.name for glass in stack)])),
    }


def folded(text: str) -> str:
    """Text as it is searched: whatever its case and its accents."""
    plain = unicodedata.normalize("NFKD", text.casefold())
    return "".join(letter for letter in plain if not unicodedata.combining(letter))


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
        found = found.filter(words__contains=folded(word))
    match asked.verdict:
        case Verdict.RIGHT:
            found = found.filter(exposure_error__range=(-RIGHT_STOPS, RIGHT_STOPS))
        case Verdict.DARK:
            found = found.filter(exposure_error__lt=-RIGHT_STOPS)
        case Verdict.BRIGHT:
            found = found.filter(exposure_error__gt=RIGHT_STOPS)
        case Verdict.NONE:
            found = found.filter(exposure_error__isnull=True)
    if asked.seen:
        found = found.filter(Exists(FrameDefect.objects.filter(frame=OuterRef("pk"), code=asked.seen)))
    if asked.glass:
        found = found.filter(Exists(FrameGlass.objects.filter(frame=OuterRef("pk"), kit_id=asked.glass)))
    if asked.since:
        found = found.filter(opened_at__gte=asked.since)
    if asked.until:
        found = found.filter(opened_at__lt=asked.until)
    if asked.sort is Sort.WORST:
        return found.order_by(Abs("exposure_error").desc(nulls_last=True), "-opened_at")
    return found.order_by(_ORDER[asked.sort], "pk")


def changes(account: User, keys: Sequence[UUID]) -> QuerySet[Frame]:
    """The account's frames among these keys."""
    return frames_of(account).filter(pk__in=keys)


def running_frame(account: User) -> Frame | None:
    """Of the exposures that have not ended the one written last: a device whose clock runs ahead hides no other."""
    return frames_of(account).filter(state=Frame.State.OPEN).order_by("-changed_at").first()


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
