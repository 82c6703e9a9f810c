"""The one mapper between a frame of the core and its rows."""

from __future__ import annotations

import unicodedata
from datetime import UTC, datetime
from typing import Any

from jackstaff_core.log import frame as core
from jackstaff_core.wire.reader import plain, read

from .models import Frame


def columns(frame: core.Frame) -> dict[str, Any]:
    """A frame's own columns, what is searched for among them."""
    about, review = frame.conditions, frame.review
    parts = [frame.note, *((getattr(about, name) or "") for name in ("place", "body", "lens") if about)]
    return {
        "state": frame.state.value,
        "opened_at": frame.opened_at,
        "closed_at": frame.closed_at,
        "closed_by": frame.closed_by.value if frame.closed_by else "",
        "note": frame.note,
        "reading_shutter": frame.reading.shutter or "",
        "reading_aperture": frame.reading.aperture or "",
        "reading_iso": frame.reading.iso or "",
        "reading_ev100": frame.reading.ev100,
        "step": frame.reading.step.value,
        "metered_at": frame.reading.metered_at,
        "reading_through": plain(frame.reading.through),
        "aperture": frame.settings.aperture,
        "iso": frame.settings.iso,
        "scale": frame.scale.value,
        "dial_limit": frame.dial_limit,
        "planned_seconds": frame.answer.seconds,
        "set_seconds": frame.answer.set_seconds,
        "base_seconds": frame.answer.base_seconds,
        "sure_within_stops": frame.answer.sure_within_stops,
        "dial_mark": frame.answer.dial_mark,
        "sum_steps": plain(frame.answer.steps),
        "run": plain(frame.run),
        "conditions": plain(about, drop_none=True) if about else None,
        "review": plain(review),
        "exposure_error": review.error_stops if review else None,
        "words": folded("\n".join([*parts, *(glass.name for glass in frame.stack)])),
    }


def as_json(row: Frame) -> dict[str, Any]:
    """What is kept of a frame, as the client sent it, whether or not today's rules would take it."""
    return {
        "id": row.pk,
        "state": row.state,
        "opened_at": _utc(row.opened_at),
        "closed_at": row.closed_at and _utc(row.closed_at),
        "closed_by": row.closed_by or None,
        "note": row.note,
        "reading": {
            "shutter": row.reading_shutter or None,
            "aperture": row.reading_aperture or None,
            "iso": row.reading_iso or None,
            "ev100": row.reading_ev100,
            "step": row.step,
            "metered_at": row.metered_at and _utc(row.metered_at),
            "through": row.reading_through,
        },
        "settings": {"aperture": row.aperture, "iso": row.iso},
        "stack": [
            {
                "name": glass.name,
                "stops": glass.stops,
                "offset": glass.offset,
                "in_reading": glass.in_reading,
                "id": glass.kit_id,
                "kind": glass.kind or None,
            }
            for glass in row.stack.all()
        ],
        "scale": row.scale,
        "dial_limit": row.dial_limit,
        "answer": {
            "seconds": row.planned_seconds,
            "set_seconds": row.set_seconds,
            "base_seconds": row.base_seconds,
            "sure_within_stops": row.sure_within_stops,
            "dial_mark": row.dial_mark,
            "steps": row.sum_steps,
        },
        "run": row.run,
        "events": [
            {"id": event.key, "at": _utc(event.at), "kind": event.kind, "seconds": event.seconds}
            for event in row.events.all()
        ],
        "conditions": row.conditions,
        "review": row.review,
    }


def frame_of(row: Frame) -> core.Frame:
    """A frame by today's rules.

    Raises
    ------
    Refusals
        They would not take it.
    """
    return read(core.Frame, as_json(row))


def folded(text: str) -> str:
    """Text as it is searched: whatever its case and its accents."""
    decomposed = unicodedata.normalize("NFKD", text.casefold())
    return "".join(letter for letter in decomposed if not unicodedata.combining(letter))


def _utc(instant: datetime) -> datetime:
    return instant.astimezone(UTC)
