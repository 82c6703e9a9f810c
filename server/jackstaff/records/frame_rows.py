"""The one mapper between a frame of the core and its row.

A row holds the frame as a document; a field that the core adds is kept without another word here. The columns beside
it are what frames are looked for by, and what the database holds together by itself.
"""

from __future__ import annotations

import unicodedata
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

from jackstaff_core.log import frame as core
from jackstaff_core.wire.reader import plain, read

from .models import Frame

_BESIDE = ("id", "events")
"""Parts of a frame that have columns and rows of their own."""


def columns(frame: core.Frame) -> dict[str, Any]:
    """Return a frame's columns: the document, and what it is looked for by."""
    review = frame.review
    return {
        "document": _document(frame),
        "state": frame.state.value,
        "opened_at": frame.opened_at,
        "closed_at": frame.closed_at,
        "set_seconds": frame.answer.set_seconds,
        "exposure_error": review.error_stops if review else None,
        "words": folded("\n".join(_searched(frame))),
    }


def frame_document(row: Frame) -> dict[str, Any]:
    """Return what is kept of a frame, as the client sent it, whether or not today's rules would take it.

    Instants are instants: whoever answers writes them as all others.
    """
    reading = row.document["reading"]
    metered = reading["metered_at"]
    return {
        "id": str(row.pk),
        **row.document,
        "opened_at": _utc(row.opened_at),
        "closed_at": row.closed_at and _utc(row.closed_at),
        "reading": {**reading, "metered_at": metered and datetime.fromisoformat(metered)},
        "events": [
            {"id": str(event.key), "at": _utc(event.at), "kind": event.kind, "seconds": event.seconds}
            for event in row.events.all()
        ],
    }


def frame_of(row: Frame) -> core.Frame:
    """Return a frame by today's rules.

    Raises
    ------
    Refusals
        They would not take it.
    """
    return read(core.Frame, frame_document(row))


def folded(text: str) -> str:
    """Return text as it is searched: whatever its case and its accents."""
    decomposed = unicodedata.normalize("NFKD", text.casefold())
    return "".join(letter for letter in decomposed if not unicodedata.combining(letter))


def _document(frame: core.Frame) -> dict[str, Any]:
    metered, closed = frame.reading.metered_at, frame.closed_at
    in_utc = replace(
        frame,
        opened_at=_utc(frame.opened_at),
        closed_at=closed and _utc(closed),
        reading=replace(frame.reading, metered_at=metered and _utc(metered)),
    )
    document = {name: value for name, value in plain(in_utc).items() if name not in _BESIDE}
    about = frame.conditions
    return {**document, "conditions": plain(about, drop_none=True) if about else None}


def _searched(frame: core.Frame) -> list[str]:
    about = frame.conditions
    places = [getattr(about, name) or "" for name in ("place", "body", "lens")] if about else []
    return [frame.note, *places, *(glass.name for glass in frame.stack)]


def _utc(instant: datetime) -> datetime:
    return instant.astimezone(UTC)
