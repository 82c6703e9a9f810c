"""The log of an account as a file: how it goes out, how one is checked frame by frame, and what it would change."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal
from uuid import UUID

from jackstaff.documents.frames import FRAMES
from jackstaff.records.account import Account
from jackstaff.records.transactions import as_of_now
from jackstaff_core.log.finished_frame import finish_frame
from jackstaff_core.log.frame import VERSION, Frame
from jackstaff_core.wire.reader import plain, read
from jackstaff_core.wire.schema import Schemas
from jackstaff_core.words.refusal import Refusal, Refusals

from . import logfile

LogFormat = Literal["json", "csv", "xmp"]
MOST_SHOWN, MOST_FAULTS = 100, 20


@dataclass(frozen=True, slots=True)
class FrameChange:
    """What a file would do to one frame."""

    id: UUID
    opened_at: str
    zone: str | None
    what: str
    change: Literal["new", "changed", "same"]


@dataclass(frozen=True, slots=True)
class LogChanges:
    """What a file would do to the log, or has done; the first hundred one by one."""

    new: int
    changed: int
    same: int
    kept: bool
    frames: tuple[FrameChange, ...]


def frames_of_file(name: str, content: bytes) -> list[Frame]:
    """Return the frames of a log file (JSON, CSV or sidecar), each by the same rules as one that is sent.

    Raises
    ------
    Refusals
        All that is wrong at once, up to 20.
    """
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refusal("file", "This file is no text in UTF-8.", "Save it as UTF-8, or export it again.") from None
    start = text.lstrip()[:1]
    if name.lower().endswith(".xmp") or start == "<":
        return checked(logfile.from_xmp(text))
    if name.lower().endswith(".csv") or start != "{":
        return checked(logfile.from_csv(text))
    return checked(logfile.from_json(text))


def checked(documents: Sequence[Any]) -> list[Frame]:
    """Return documents as frames.

    Raises
    ------
    Refusals
        All that is wrong at once, up to 20, each with the number of its frame.
    """
    frames: list[Frame] = []
    wrong: list[Refusal] = []
    keys: set[UUID] = set()
    for place, document in enumerate(documents):
        try:
            frame = read(Frame, document)
        except Refusals as refusals:
            faults = refusals.under(f"frames.{place}").all
            wrong += [Refusal(fault.field, f"Frame {place + 1}: {fault.problem}", fault.instead) for fault in faults]
            if len(wrong) >= MOST_FAULTS:
                break
            continue
        if frame.id in keys:
            wrong.append(Refusal(f"frames.{place}.id", f"Frame {place + 1} stands in the file twice.", "Take one out."))
        keys.add(frame.id)
        frames.append(frame)
    if wrong:
        raise Refusals(wrong[:MOST_FAULTS])
    return frames


def changes_to_log(account: Account, frames: Sequence[Frame], kept: bool) -> LogChanges:
    """Return what these frames would change in the account's log; ``kept`` is handed on."""
    held = FRAMES.held_among(account, [frame.id for frame in frames])
    counts = {"new": 0, "changed": 0, "same": 0}
    rows: list[FrameChange] = []
    for frame in frames:
        change: Literal["new", "changed", "same"] = (
            "new" if frame.id not in held else "same" if held[frame.id] == frame else "changed"
        )
        counts[change] += 1
        if len(rows) < MOST_SHOWN and change != "same":
            what = " + ".join(glass.name for glass in frame.stack) or "bare"
            zone = frame.conditions.zone if frame.conditions else None
            rows.append(FrameChange(frame.id, frame.opened_at.isoformat(), zone, what, change))
    return LogChanges(**counts, kept=kept, frames=tuple(rows))


def part_of_log(account: Account, part: int) -> tuple[list[Frame], list[dict[str, Any]]]:
    """Return the frames of one part of a log, the oldest first, and those of it that today's rules refuse."""
    most = logfile.PART_FRAMES
    with as_of_now():
        rows = FRAMES.of(account).order_by("opened_at", "pk")[(part - 1) * most : part * most]
        return FRAMES.taken_and_refused(rows)


def parts_of_log(account: Account) -> tuple[int, int]:
    """Return how many frames an account has, and in how many files they go out."""
    count = FRAMES.of(account).count()
    return count, max(1, -(-count // logfile.PART_FRAMES))


def written(frames: Sequence[Frame], log_format: LogFormat) -> str:
    """Return frames as a file of this format; a sidecar holds exactly one."""
    by_key = {str(frame.id): frame for frame in frames}
    documents = [plain(frame) for frame in frames]

    def derived(document: dict[str, Any]) -> tuple[object, ...]:
        was = finish_frame(by_key[document["id"]])
        names = " + ".join(glass["name"] for glass in document["stack"])
        late = round(was.timing_stops, 3) if was and not was.aborted else None
        return (names, was and round(was.seconds, 3), late)

    match log_format:
        case "csv":
            return logfile.as_csv(documents, derived)
        case "xmp":
            return logfile.as_xmp(documents[0], derived(documents[0]))
        case "json":
            return logfile.as_json(documents)


def schema() -> dict[str, Any]:
    """Return the JSON Schema of a log file."""
    shapes = Schemas("#/$defs/")
    frame = shapes.input(Frame)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Jackstaff log",
        "type": "object",
        "required": ["format", "version", "frames"],
        "properties": {
            "format": {"const": logfile.FORMAT},
            "version": {"const": VERSION},
            "frames": {"type": "array", "maxItems": logfile.MOST_FRAMES, "items": frame},
        },
        "$defs": shapes.made,
    }
