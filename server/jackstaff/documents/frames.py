"""Frames: one write that may be sent again, joined with what is held, and the ways to read them back."""

from __future__ import annotations

import time
from collections.abc import Iterable, Mapping, Sequence
from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from django.utils import timezone

from jackstaff.records.account import Account
from jackstaff.records.frame_rows import columns, frame_document, frame_of
from jackstaff.records.kinds import DocKind
from jackstaff.records.models import Frame as Row
from jackstaff.records.models import FrameDefect, FrameEvent, FrameGlass
from jackstaff.records.transactions import KeyTaken, all_or_none, durable
from jackstaff_core.log.finished_frame import FinishedFrame, finish_frame
from jackstaff_core.log.frame import Frame, FrameState, last_aim, timing_of
from jackstaff_core.log.light_story import closing_error
from jackstaff_core.log.merge import merge_frames, would_lose
from jackstaff_core.wire.reader import plain
from jackstaff_core.words.refusal import Refusals

from .kind import CHUNK, batched, read_content
from .replication import stamp

PAUSE_SECONDS = 0.01


class Frames:
    """The frames of an account: what happened is kept from both sides, what is said of them is the later writer's."""

    kind = DocKind.FRAME

    def of(self, account: Account) -> QuerySet[Row]:
        """Return the account's rows, the newest first, with their events and whether a picture is kept."""
        return _whole(Row.objects.filter(account=account))

    def finished(self, account: Account, most: int) -> list[FinishedFrame]:
        """Return the newest that have ended, those the lessons can reckon with.

        A frame that was kept by the rules of another day must not silence the others.
        """
        rows = self.of(account).exclude(state=FrameState.OPEN)[:most]
        frames, _ = self.taken_and_refused(rows)
        return [frame for each in frames if (frame := finish_frame(each)) is not None]

    def running(self, account: Account) -> Row | None:
        """Return, of those that have not ended, the one written last: no clock that runs ahead hides another."""
        return self.of(account).filter(state=FrameState.OPEN).order_by("-changed_at").first()

    def among(self, account: Account, keys: Iterable[UUID]) -> list[Row]:
        """Return the account's rows among these keys, in no order.

        Looked for by their keys alone: asked for the account or an order beside, SQLite walks its whole log.
        """
        rows = _whole(Row.objects.filter(pk__in=list(keys))).order_by()
        return [row for row in rows if row.account_id == account.pk]

    def keys_among(self, account: Account, keys: Iterable[UUID]) -> set[UUID]:
        """Return those of these keys that the account holds."""
        return {key for key, owner in _owners(keys) if owner == account.pk}

    def of_others(self, account: Account, keys: Iterable[UUID]) -> set[UUID]:
        """Return those of these keys that another account of this server holds."""
        return {key for key, owner in _owners(keys) if owner != account.pk}

    def read(self, key: UUID, raw: Mapping[str, Any]) -> Frame:
        """Return a frame as a device sent it, by the rules of one that is sent alone."""
        return read_content(Frame, {**raw, "id": str(key)})

    def held(self, account: Account, key: UUID) -> Frame | None:
        """Return what is held; None for one that today's rules would refuse, which is written over."""
        row = self.of(account).filter(pk=key).first()
        return _sound(row) if row else None

    def held_among(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, Frame | None]:
        """Return the same of many, by key."""
        return {row.pk: _sound(row) for chunk in batched(keys, CHUNK) for row in self.among(account, chunk)}

    def write(self, account: Account, key: UUID, content: Frame) -> None:
        """Write it over what is held."""
        self.write_all(account, [content])

    def write_all(self, account: Account, frames: Sequence[Frame]) -> None:
        """Write frames over what is held. Call it inside a transaction.

        Raises
        ------
        KeyTaken
            Another account holds a frame with one of these keys.
        """
        keys = [frame.id for frame in frames]
        held = _own(account, keys)
        now = timezone.now()
        Row.objects.bulk_create(
            [Row(pk=frame.id, account=account, changed_at=now, **columns(frame)) for frame in frames],
            update_conflicts=True,
            unique_fields=["id"],
            update_fields=[field.name for field in Row._meta.concrete_fields if field.name not in {"id", "account"}],
        )
        # Where writes do not take turns, another account may have taken a key since.
        _own(account, keys)
        if held:
            FrameGlass.objects.filter(frame__in=held).delete()
            FrameDefect.objects.filter(frame__in=held).delete()
        FrameGlass.objects.bulk_create(
            FrameGlass(frame_id=frame.id, kit_id=thing)
            for frame in frames
            for thing in dict.fromkeys(glass.id for glass in frame.stack if glass.id)
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

    def remove(self, account: Account, key: UUID) -> bool:
        """Remove it."""
        return Row.objects.filter(account=account, pk=key).delete()[0] > 0

    def merged(self, winner: Frame, loser: Frame) -> Frame:
        """Return both in one."""
        return merge_frames(winner, loser)

    def would_lose(self, kept: Frame, loser: Frame) -> bool:
        """Return whether something said would be gone."""
        return would_lose(kept, loser)

    def plain(self, content: Frame) -> dict[str, Any]:
        """Return it as the client wrote it."""
        return dict(plain(content))

    def copies(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        """Return what a device is sent of each."""
        return {row.pk: {"content": self.shown(row)} for row in self.among(account, keys)}

    def shown(self, row: Row) -> dict[str, Any]:
        """Return a frame as the log shows it, whatever today's rules say of it."""
        document = frame_document(row)
        seconds = (row.closed_at - row.opened_at).total_seconds() if row.closed_at else None
        if seconds is not None and document["run"]:
            seconds *= document["run"]["speed"]
        try:
            error, refused = closing_error(frame_of(row)), None
        except Refusals as refusals:
            events = ((event["kind"], event["seconds"]) for event in document["events"])
            error, refused = timing_of(last_aim(events, document["answer"]["seconds"]), seconds), refusals.words
        return {
            **document,
            "actual_seconds": seconds,
            "error": error,
            "pictured": hasattr(row, "picture"),
            "refused": refused,
        }

    def taken_and_refused(self, rows: Iterable[Row]) -> tuple[list[Frame], list[dict[str, Any]]]:
        """Return the frames that today's rules take, and the others as they were kept with what is refused in them."""
        taken, refused = [], []
        for row in rows:
            try:
                taken.append(frame_of(row))
            except Refusals as refusals:
                refused.append({**plain(frame_document(row)), "refused": refusals.words})
        return taken, refused

    def keep(self, account: Account, frame: Frame) -> Row:
        """Keep a frame, joined with the one that is held, and count the change; return its row.

        Raises
        ------
        KeyTaken
            Another account holds a frame with this key.
        """
        # What is held is read and written over in one turn, so that nobody's write is lost between the two.
        with durable(account) if frame.state is FrameState.OPEN else all_or_none(account):
            held = self.held(account, frame.id)
            whole = merge_frames(frame, held) if held else frame
            self.write_all(account, [whole])
            stamp(account, self.kind, [whole.id])
            return self.of(account).get(pk=frame.id)

    def keep_all(self, account: Account, frames: Sequence[Frame]) -> None:
        """Keep many frames, some hundred at a time, so that nobody else waits long for their turn.

        What is broken off half-way stays in part; sent again, it is whole.

        Raises
        ------
        KeyTaken
            Another account holds a frame with one of these keys; nothing is kept.
        """
        coming = {frame.id: frame for frame in frames}
        if self.of_others(account, coming):
            raise KeyTaken
        for keys in batched(coming, CHUNK):
            with all_or_none(account):
                held = self.held_among(account, keys)
                whole = [merge_frames(coming[key], was) if (was := held.get(key)) else coming[key] for key in keys]
                self.write_all(account, whole)
                stamp(account, self.kind, keys)
            # Whoever waits looks again only now and then: let them in.
            time.sleep(PAUSE_SECONDS)


FRAMES = Frames()


def _whole(rows: QuerySet[Row]) -> QuerySet[Row]:
    pictured = rows.select_related("picture").defer("picture__small", "picture__tones")
    return pictured.prefetch_related("events")


def _sound(row: Row) -> Frame | None:
    try:
        return frame_of(row)
    except Refusals:
        return None


def _owners(keys: Iterable[UUID]) -> list[tuple[UUID, int]]:
    return [
        owned
        for chunk in batched(keys, CHUNK)
        for owned in Row.objects.filter(pk__in=chunk).order_by().values_list("pk", "account_id")
    ]


def _own(account: Account, keys: Sequence[UUID]) -> list[UUID]:
    """Return those of the keys that the account holds already; raise KeyTaken where another holds one."""
    owners = _owners(keys)
    if any(owner != account.pk for _, owner in owners):
        raise KeyTaken
    return [key for key, _ in owners]
