"""A frame as the log shows it, and as the core reads it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from jackstaff.records.framerows import as_json, frame_of
from jackstaff.records.models import Frame
from jackstaff_core.log import frame as core
from jackstaff_core.log.finished_frame import FinishedFrame, finished
from jackstaff_core.log.frame import last_aim, timing
from jackstaff_core.log.light_story import closing_error
from jackstaff_core.wire.reader import plain
from jackstaff_core.words.refusal import Refusals


def shown(row: Frame) -> dict[str, Any]:
    """A frame as the log shows it, whatever today's rules say of it."""
    seconds = (row.closed_at - row.opened_at).total_seconds() if row.closed_at else None
    if seconds is not None and row.run:
        seconds *= row.run["speed"]
    aimed = last_aim(((event.kind, event.seconds) for event in row.events.all()), row.planned_seconds)
    try:
        error, refused = closing_error(frame_of(row)), None
    except Refusals as refusals:
        error, refused = timing(aimed, seconds), refusals.words
    return {
        **as_json(row),
        "actual_seconds": seconds,
        "error": error,
        "pictured": hasattr(row, "picture"),
        "refused": refused,
    }


def taken_and_refused(rows: Iterable[Frame]) -> tuple[list[core.Frame], list[dict[str, Any]]]:
    """The frames that today's rules take, and the others as they were kept, each with what is ``refused`` in it."""
    taken, refused = [], []
    for row in rows:
        try:
            taken.append(frame_of(row))
        except Refusals as refusals:
            refused.append({**plain(as_json(row)), "refused": refusals.words})
    return taken, refused


def finished_of(rows: Iterable[Frame]) -> list[FinishedFrame]:
    """Those the lessons can reckon with; a frame kept by the rules of another day must not silence the others."""
    return [frame for row in taken_and_refused(rows)[0] if (frame := finished(row)) is not None]
