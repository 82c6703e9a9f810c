"""Statistics that help: time lost to repeats, the usual mistakes, and where the kit fell short.

A frame is a repeat of the one before when the same glass, aperture and ISO followed within ``REPEAT_WITHIN`` and the
first was given up or came out ``WRONG_STOPS`` or more from right: the first one's time is lost. Source: counting.
Limits: reviewed frames alone. Verdict: computed, from what was reviewed.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import timedelta
from itertools import pairwise

from .finished_frame import FinishedFrame
from .frame import Defect
from .review import FINDINGS

REPEAT_WITHIN = timedelta(minutes=20)
WRONG_STOPS = 2 / 3
LATE_STOPS = 1 / 3
MISSED_STOPS = 1 / 3


@dataclass(frozen=True, slots=True)
class Mistake:
    """A mistake that a log shows more than once, in how many frames, and its cure."""

    code: str
    label: str
    frames: int
    cure: str


@dataclass(frozen=True, slots=True)
class Missed:
    """Frames whose time lay outside the wished window: by about how much, and the stops that were missing."""

    frames: int
    stops: float
    text: str


@dataclass(frozen=True, slots=True)
class Statistics:
    """``open_seconds`` is all the time the shutter stood open; ``lost_seconds`` the part that had to be repeated."""

    frames: int
    reviewed: int
    aborted: int
    open_seconds: float
    lost_seconds: float
    repeats: int
    mistakes: tuple[Mistake, ...]
    missed: tuple[Missed, ...]


TOO_BRIGHT, TOO_DARK = "too_bright", "too_dark"
MISSES = (TOO_BRIGHT, TOO_DARK)
"""The codes of frames that came out wrong without a fault that has a name."""
_OTHERS: Mapping[str, tuple[str, str]] = {
    TOO_BRIGHT: ("Too bright", "Meter bare right before the frame, and take the time from Next time."),
    TOO_DARK: ("Too dark", "Meter bare right before the frame, and check what the filter measures."),
    "late": ("Closed late or early", "Let the bell or a device close, not the eye on a watch."),
    "aborted": ("Given up", "Rehearse at high ISO before anything over four minutes."),
}


def statistics(frames: Sequence[FinishedFrame]) -> Statistics:
    """Count what happened."""
    counts: Counter[str] = Counter()
    for frame in frames:
        counts.update(str(code) for code in frame.defects)
        counts.update(_others(frame))
    repeated = _repeated(sorted(frames, key=lambda frame: frame.opened_at))
    return Statistics(
        len(frames),
        sum(frame.error_stops is not None for frame in frames),
        sum(frame.aborted for frame in frames),
        math.fsum(frame.seconds for frame in frames),
        math.fsum(each.seconds for each in repeated),
        len(repeated),
        tuple(Mistake(code, *_said(code, times)) for code, times in counts.most_common()),
        _missed(frames),
    )


def _others(frame: FinishedFrame) -> list[str]:
    if frame.aborted:
        return ["aborted"]
    if frame.trial:
        return []
    found = []
    if frame.error_stops is not None and abs(frame.error_stops) >= WRONG_STOPS:
        found.append(TOO_BRIGHT if frame.error_stops > 0 else TOO_DARK)
    if not frame.dark and abs(frame.timing_stops) >= LATE_STOPS:
        found.append("late")
    return found


def _said(code: str, times: int) -> tuple[str, int, str]:
    if code in _OTHERS:
        label, cure = _OTHERS[code]
        return label, times, cure
    finding = FINDINGS[Defect(code)]
    return finding.label, times, finding.cure


def _repeated(frames: Sequence[FinishedFrame]) -> list[FinishedFrame]:
    found = []
    for entry, following in pairwise(frames):
        same = (entry.aperture, entry.iso, [each.name for each in entry.glass]) == (
            following.aperture,
            following.iso,
            [each.name for each in following.glass],
        )
        soon = following.opened_at - entry.opened_at <= REPEAT_WITHIN + timedelta(seconds=entry.seconds)
        spoilt = entry.aborted or (entry.error_stops is not None and abs(entry.error_stops) >= WRONG_STOPS)
        if same and soon and spoilt and not (entry.dark or following.dark or entry.trial):
            found.append(entry)
    return found


def _missed(frames: Sequence[FinishedFrame]) -> tuple[Missed, ...]:
    """Return where the planned time lay outside the window that was wished for, too short and too long apart."""
    short, long = [], []
    for frame in frames:
        if frame.aim is None or frame.dark or frame.trial:
            continue
        low, high = frame.aim
        planned = math.log2(frame.planned_seconds)
        below = math.log2(low) - planned
        above = planned - math.log2(high) if math.isfinite(high) else -math.inf
        if below > MISSED_STOPS:
            short.append(below)
        elif above > MISSED_STOPS:
            long.append(above)
    return tuple(
        Missed(len(each), sorted(each)[len(each) // 2], text.format(sorted(each)[len(each) // 2]))
        for each, text in (
            (short, "Too short for the look by about {:.1f} stops: that much more would have reached it."),
            (long, "Too long for the look by about {:.1f} stops: a weaker filter would have reached it."),
        )
        if each
    )
