"""Which frame of the log a picture file belongs to, by the clocks of camera and log.

A camera's clock has no zone and runs off by some seconds: ``ahead`` = camera's clock - true time (UTC). A file joins a
frame when it was taken within ``NEAR_SECONDS`` of its opening or its closing (cameras differ in which they write),
and its exposure time, where the file gives one, is within ``ALIKE_STOPS`` of the real one. Where the offset is not
known yet it is learnt from the files themselves: the one offset under which most of them find a frame of the same
length; whole quarters of an hour away from each other are zones, so several can fit, and then it is asked.

Source: elementary. Limits: one camera's clock without a jump between the files. Verdict: computed; more than one
answer is never decided silently.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..words.refusal import Refusal, within

NEAR_SECONDS = 4.0
ALIKE_STOPS = 0.25
MOST_AHEAD_SECONDS = 15 * 3600.0
MOST_FILES, MOST_FRAMES = 100, 400
_SAME_OFFSET = 3.0


@dataclass(frozen=True, slots=True)
class File:
    """When a picture was taken, by its camera's clock (no zone), and how long it was open; None unknown."""

    taken_at: datetime | None
    seconds: float | None


@dataclass(frozen=True, slots=True)
class Candidate:
    """A frame of the log: its key, when it really opened, and for how long."""

    id: str
    opened_at: datetime
    seconds: float


@dataclass(frozen=True, slots=True)
class Joined:
    """The frames a file may belong to, likeliest first: one is certain, several are asked about, none is new."""

    frames: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Joining:
    """``ahead_seconds`` is the camera's clock against true time, None while unknown; ``others`` fit as well."""

    files: tuple[Joined, ...]
    ahead_seconds: float | None
    learnt: bool
    others: tuple[float, ...]


def join(files: Sequence[File], frames: Sequence[Candidate], ahead: float | None = None) -> Joining:
    """Find the frame of each file.

    Parameters
    ----------
    files : Sequence[File]
        What the pictures say of themselves, up to 100.
    frames : Sequence[Candidate]
        Of the log, up to 400, in any order.
    ahead : float | None
        Of true time, the camera's clock, -15 h to 15 h [s]; None lets it be learnt from the files.

    Raises
    ------
    Refusal
        Too many of either, or an offset beyond fifteen hours.
    """
    if len(files) > MOST_FILES or len(frames) > MOST_FRAMES:
        raise Refusal("files", "That is too much to join at once.", f"Give up to {MOST_FILES} files at a time.")
    if ahead is not None:
        within("ahead_seconds", ahead, -MOST_AHEAD_SECONDS, MOST_AHEAD_SECONDS, "s")
        return Joining(tuple(_of(file, frames, ahead) for file in files), ahead, False, ())
    offsets = _offsets(files, frames)
    if not offsets:
        return Joining(tuple(Joined(()) for _ in files), None, False, ())
    best = offsets[0]
    return Joining(tuple(_of(file, frames, best) for file in files), best, True, tuple(offsets[1:4]))


def _of(file: File, frames: Sequence[Candidate], ahead: float) -> Joined:
    if file.taken_at is None:
        return Joined(())
    near = sorted(
        (gap, frame.id) for frame in frames if _alike(file, frame) and (gap := _gap(file, frame, ahead)) is not None
    )
    return Joined(tuple(key for _, key in near))


def _gap(file: File, frame: Candidate, ahead: float) -> float | None:
    if file.taken_at is None:
        return None
    opened = frame.opened_at.replace(tzinfo=None)
    true = file.taken_at - timedelta(seconds=ahead)
    ends = (opened, opened + timedelta(seconds=frame.seconds))
    gap = min(abs((true - end).total_seconds()) for end in ends)
    return gap if gap <= NEAR_SECONDS else None


def _alike(file: File, frame: Candidate) -> bool:
    return file.seconds is None or abs(math.log2(file.seconds / frame.seconds)) <= ALIKE_STOPS


def _offsets(files: Sequence[File], frames: Sequence[Candidate]) -> list[float]:
    """Return every offset under which the most files find a frame of their length, the smallest first."""
    found: list[float] = []
    for file in files:
        for frame in frames:
            if file.taken_at is None or file.seconds is None or not _alike(file, frame):
                continue
            ahead = (file.taken_at - frame.opened_at.replace(tzinfo=None)).total_seconds()
            if abs(ahead) <= MOST_AHEAD_SECONDS:
                found.append(ahead)
    groups: list[list[float]] = []
    for ahead in sorted(found):
        if groups and ahead - groups[-1][-1] <= _SAME_OFFSET:
            groups[-1].append(ahead)
        else:
            groups.append([ahead])
    if not groups:
        return []
    most = max(len(group) for group in groups)
    return sorted((statistics.median(group) for group in groups if len(group) == most), key=abs)
