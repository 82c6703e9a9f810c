"""Keeping frames: one idempotent write, and the ways to read them back."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from itertools import islice
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import QuerySet
from django.utils import timezone

from jackstaff_core.log import frame as core

from .framerows import columns
from .models import Frame, FrameDefect, FrameEvent, FrameGlass
from .replication import DocKind, stamp
from .writing import KeyTaken, all_or_none, durable

CHUNK, PAUSE_SECONDS = 100, 0.01


def save_frame(account: User, frame: core.Frame) -> None:
    """Create a frame or bring it up to date; doing it twice changes nothing.

    Raises
    ------
    KeyTaken
        Another account holds a frame with this key.
    """
    with durable(account) if frame.state is core.State.OPEN else all_or_none(account):
        write_frames(account, [frame])
        stamp(account, DocKind.FRAME, [frame.id])


def save_frames(
    account: User, frames: Mapping[UUID, core.Frame], joining: Callable[[Frame, core.Frame], core.Frame]
) -> None:
    """Keep many frames, some hundred at a time, so that nobody else waits long for their turn.

    ``joining`` says what is kept of one that is held already. What is broken off half-way stays in part; sent again,
    it is whole.

    Raises
    ------
    KeyTaken
        Another account holds a frame with one of these keys; nothing is kept.
    """
    for keys in batched(frames, CHUNK):
        _own(account, keys)
    for keys in batched(frames, CHUNK):
        with all_or_none(account):
            held = {row.pk: row for row in changes(account, keys)}
            write_frames(account, [joining(held[key], frames[key]) if key in held else frames[key] for key in keys])
            stamp(account, DocKind.FRAME, keys)
        # Whoever waits looks again only now and then: let them in.
        time.sleep(PAUSE_SECONDS)


def write_frames(account: User, frames: Sequence[core.Frame]) -> None:
    """Write frames, without counting the change. Call it inside a transaction.

    Raises
    ------
    KeyTaken
        Another account holds a frame with one of these keys.
    """
    held = _own(account, [frame.id for frame in frames])
    now = timezone.now()
    Frame.objects.bulk_create(
        [Frame(pk=frame.id, account=account, changed_at=now, **columns(frame)) for frame in frames],
        update_conflicts=True,
        unique_fields=["id"],
        update_fields=[field.name for field in Frame._meta.concrete_fields if field.name not in {"id", "account"}],
    )
    # Where writes do not take turns, another account may have taken a key since.
    _own(account, [frame.id for frame in frames])
    if held:
        FrameGlass.objects.filter(frame__in=held).delete()
        FrameDefect.objects.filter(frame__in=held).delete()
    FrameGlass.objects.bulk_create(
        FrameGlass(
            frame_id=frame.id,
            place=place,
            name=glass.name,
            stops=glass.stops,
            offset=glass.offset,
            in_reading=glass.in_reading,
            kit_id=glass.id,
            kind=glass.kind.value if glass.kind else "",
        )
        for frame in frames
        for place, glass in enumerate(frame.stack)
    )
    FrameDefect.objects.bulk_create(
        FrameDefect(frame_id=frame.id, code=code.value)
        for frame in frames
        if frame.review
        for code in dict.fromkeys(frame.review.defects)
    )
    # Events are never rewritten: what happened first stays.
    FrameEvent.objects.bulk_create(
        (
            FrameEvent(key=event.id, frame_id=frame.id, at=event.at, kind=event.kind.value, seconds=event.seconds)
            for frame in frames
            for event in frame.events
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


def frames_of(account: User) -> QuerySet[Frame]:
    """The account's frames, the newest first, with their glass and events, and whether a picture is kept."""
    return _whole(Frame.objects.filter(account=account))


def _whole(frames: QuerySet[Frame]) -> QuerySet[Frame]:
    pictured = frames.select_related("picture").defer("picture__small", "picture__tones")
    return pictured.prefetch_related("stack", "events")


def finished_frames(account: User) -> QuerySet[Frame]:
    """Those that have ended."""
    return frames_of(account).exclude(state=core.State.OPEN)


def changes(account: User, keys: Sequence[UUID]) -> list[Frame]:
    """The account's frames among these keys, in no order.

    Looked for by their keys alone: asked for the account or an order beside, SQLite walks its whole log.
    """
    found = _whole(Frame.objects.filter(pk__in=keys)).order_by()
    return [row for row in found if row.account_id == account.pk]


def running_frame(account: User) -> Frame | None:
    """Of the exposures that have not ended the one written last: a device whose clock runs ahead hides no other."""
    return frames_of(account).filter(state=core.State.OPEN).order_by("-changed_at").first()


def erase_frame(account: User, key: UUID) -> bool:
    """Erase a frame, without counting the change; False when there is none."""
    deleted, _ = Frame.objects.filter(account=account, pk=key).delete()
    return deleted > 0


def delete_frame(account: User, key: UUID) -> bool:
    """Forget a frame; False when the account has none with this key."""
    with all_or_none(account):
        forgotten = erase_frame(account, key)
        if forgotten:
            stamp(account, DocKind.FRAME, [key], removed=True)
    return forgotten
