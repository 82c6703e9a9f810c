"""A frame as the log shows it, and as the core reads it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from jackstaff.records.framerows import as_json, frame_of
from jackstaff.records.models import Frame
from jackstaff_core.finished import FinishedFrame, finished
from jackstaff_core.frame import last_aim, timing
from jackstaff_core.refusal import Refusals


def shown(row: Frame) -> dict[str, Any]:
    """A frame as the log shows it, whatever today's rules say of it."""
    seconds = (row.closed_at - row.opened_at).total_seconds() if row.closed_at else None
    if seconds is not None and row.run:
        seconds *= row.run["speed"]
    aimed = last_aim(((event.kind, event.seconds) for event in row.events.all()), row.planned_seconds)
    return {
        **as_json(row),
        "actual_seconds": seconds,
        "error": timing(aimed, seconds),
        "pictured": hasattr(row, "picture"),
    }


def finished_of(rows: Iterable[Frame]) -> list[FinishedFrame]:
    """Those the lessons can reckon with; a frame kept by the rules of another day must not silence the others."""
    found = []
    for row in rows:
        try:
            frame = finished(frame_of(row))
        except Refusals:
            continue
        if frame is not None:
            found.append(frame)
    return found
