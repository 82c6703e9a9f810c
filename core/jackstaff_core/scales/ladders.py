"""Marked and exact scales of shutter, aperture and ISO.

Dials carry rounded marks of an exact geometric scale. With n steps a stop (3 thirds,
2 halves, 1 full) and an integer rung k:

    time      t = 2^(-k/n) s
    f-number  N = 2^(k/(2n))          (exposure goes with 1/N^2)
    ISO       S = 100 * 2^(k/n)

Source: APEX (ANSI PH2.5, kept in the EXIF annex of CIPA DC-008); marking series after
ISO 516 (shutters), ISO 517 (apertures) and ISO 12232 (speeds).
Limits: 1/32000 s to 30 s on the dial, f/0.7 to f/64, ISO 6 to 409600. Anything that is not
a mark is literal. Verdict: computed.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache, cached_property, lru_cache

SHORTEST_SECONDS = 2.0**-15
"""The fastest dial mark, 1/32000, exactly."""
SHORTEST_DIAL, LONGEST_DIAL = 1 / 8, 3600.0
"""Where a body's shutter dial may end [s]."""
LONGEST_SECONDS = 86_400.0
"""24 h: beyond that nobody stands beside a tripod."""


class Step(StrEnum):
    """How finely a body's dials are divided."""

    THIRD = "third"
    HALF = "half"
    FULL = "full"

    @property
    def per_stop(self) -> int:
        """Rungs in one stop."""
        return {"third": 3, "half": 2, "full": 1}[self.value]


@dataclass(frozen=True, slots=True)
class Mark:
    """One rung of a dial: what is printed and what it means.

    ``exact`` is in seconds, f-number or ISO; ``printed`` is the number the label spells.
    """

    label: str
    exact: float
    printed: float
    rung: int


def mark_value(label: str) -> float:
    """Return the number a mark spells.

    Examples
    --------
    >>> mark_value("1/50"), mark_value("0.3")
    (0.02, 0.3)
    """
    top, slash, bottom = label.partition("/")
    return float(top) / float(bottom) if slash else float(top)


# Labels from the longest time to the shortest, the rung of the first one, per step.
_TIMES: Mapping[Step, tuple[int, str]] = {
    Step.THIRD: (
        -15,
        "30 25 20 15 13 10 8 6 5 4 3.2 2.5 2 1.6 1.3 1 0.8 0.6 0.5 0.4 0.3 1/4 1/5 1/6 1/8 1/10"
        " 1/13 1/15 1/20 1/25 1/30 1/40 1/50 1/60 1/80 1/100 1/125 1/160 1/200 1/250 1/320 1/400"
        " 1/500 1/640 1/800 1/1000 1/1250 1/1600 1/2000 1/2500 1/3200 1/4000 1/5000 1/6400 1/8000"
        " 1/10000 1/12800 1/16000 1/20000 1/25600 1/32000",
    ),
    Step.HALF: (
        -10,
        "30 20 15 10 8 6 4 3 2 1.5 1 0.7 0.5 0.3 1/4 1/6 1/8 1/10 1/15 1/20 1/30 1/45 1/60 1/90"
        " 1/125 1/180 1/250 1/350 1/500 1/750 1/1000 1/1500 1/2000 1/3000 1/4000 1/6000 1/8000"
        " 1/12000 1/16000 1/24000 1/32000",
    ),
    Step.FULL: (
        -5,
        "30 15 8 4 2 1 0.5 1/4 1/8 1/15 1/30 1/60 1/125 1/250 1/500 1/1000 1/2000 1/4000 1/8000 1/16000 1/32000",
    ),
}
_APERTURES: Mapping[Step, tuple[int, str]] = {
    Step.THIRD: (
        -3,
        "0.7 0.8 0.9 1 1.1 1.2 1.4 1.6 1.8 2 2.2 2.5 2.8 3.2 3.5 4 4.5 5 5.6 6.3 7.1 8 9 10 11 13"
        " 14 16 18 20 22 25 29 32 36 40 45 51 57 64",
    ),
    Step.HALF: (
        -2,
        "0.7 0.8 1 1.2 1.4 1.7 2 2.4 2.8 3.3 4 4.8 5.6 6.7 8 9.5 11 13 16 19 22 27 32 38 45 54 64",
    ),
    Step.FULL: (-1, "0.7 1 1.4 2 2.8 4 5.6 8 11 16 22 32 45 64"),
}
_ISOS: Mapping[Step, tuple[int, str]] = {
    Step.THIRD: (
        -12,
        "6 8 10 12 16 20 25 32 40 50 64 80 100 125 160 200 250 320 400 500 640 800 1000 1250 1600"
        " 2000 2500 3200 4000 5000 6400 8000 10000 12800 16000 20000 25600 32000 40000 51200 64000"
        " 80000 102400 128000 160000 204800 256000 320000 409600",
    ),
    Step.HALF: (
        -8,
        "6 9 12 18 25 35 50 70 100 140 200 280 400 560 800 1100 1600 2200 3200 4500 6400 9000"
        " 12800 18000 25600 36000 51200 72000 102400 144000 204800 288000 409600",
    ),
    Step.FULL: (
        -4,
        "6 12 25 50 100 200 400 800 1600 3200 6400 12800 25600 51200 102400 204800 409600",
    ),
}

# Other spellings of the same rung that displays use.
_TIME_SPELLINGS: Mapping[Step, Mapping[str, str]] = {
    Step.THIRD: {
        "1/2": "0.5", "1/2.5": "0.4", "1/3": "0.3", "1/1.6": "0.6", "1/1.3": "0.8", "1/1": "1",
        "1/12500": "1/12800", "1/13000": "1/12800", "1/25000": "1/25600",
    },
    Step.HALF: {"1/2": "0.5", "1/3": "0.3", "1/1.5": "0.7", "1/1.4": "0.7", "1/1": "1"},
    Step.FULL: {"1/2": "0.5", "1/1": "1"},
}  # fmt: skip


@dataclass(frozen=True, eq=False)
class Scale:
    """A ladder of marks in rising order of the exact quantity."""

    marks: tuple[Mark, ...]
    spellings: Mapping[str, str]

    @cached_property
    def _by_label(self) -> Mapping[str, Mark]:
        return {mark.label: mark for mark in self.marks}

    @cached_property
    def _logs(self) -> list[float]:
        return [math.log2(mark.exact) for mark in self.marks]

    def mark(self, label: str) -> Mark | None:
        """Return the mark printed ``label`` (or spelled so by some displays), or None."""
        return self._by_label.get(self.spellings.get(label, label))

    def nearest(self, value: float) -> Mark:
        """Return the rung nearest to ``value`` in log distance, clamped to the ladder's ends."""
        log = math.log2(value)
        return min(self.neighbours(value), key=lambda mark: abs(math.log2(mark.exact) - log))

    def neighbours(self, value: float) -> tuple[Mark, ...]:
        """Return the marks either side of ``value``; only one when it sits on a rung or beyond an end."""
        log = math.log2(value)
        above = bisect_left(self._logs, log - SAME_RUNG)
        if above == len(self.marks):
            return (self.marks[-1],)
        if above == 0 or self._logs[above] <= log + SAME_RUNG:
            return (self.marks[above],)
        return (self.marks[above - 1], self.marks[above])

    def between(self, low: float, high: float) -> tuple[Mark, ...]:
        """Return the marks from ``low`` to ``high`` inclusive, in rising order."""
        first = bisect_left(self._logs, math.log2(low) - SAME_RUNG)
        last = bisect_left(self._logs, math.log2(high) + SAME_RUNG)
        return self.marks[first:last]


SAME_RUNG = 1e-6
"""Octaves within which a value counts as sitting on a rung."""


def _scale(start: int, labels: str, value: Callable[[int], float], spellings: Mapping[str, str]) -> Scale:
    marks = (Mark(label, value(rung), mark_value(label), rung) for rung, label in enumerate(labels.split(), start))
    return Scale(tuple(sorted(marks, key=lambda mark: mark.exact)), spellings)


@cache
def shutter_marks(step: Step = Step.THIRD) -> Scale:
    """Return the shutter marks from 1/32000 to 30 s, exact 2^(-k/n) seconds."""
    start, labels = _TIMES[step]
    return _scale(start, labels, lambda k: 2.0 ** (-k / step.per_stop), _TIME_SPELLINGS[step])


@cache
def aperture_marks(step: Step = Step.THIRD) -> Scale:
    """Return the aperture marks from f/0.7 to f/64, exact f-number 2^(k/2n)."""
    start, labels = _APERTURES[step]
    return _scale(start, labels, lambda k: 2.0 ** (k / (2 * step.per_stop)), {})


@cache
def iso_marks(step: Step = Step.THIRD) -> Scale:
    """Return the ISO marks from 6 to 409600, exact 100 * 2^(k/n)."""
    start, labels = _ISOS[step]
    return _scale(start, labels, lambda k: 100.0 * 2.0 ** (k / step.per_stop), {})


@lru_cache(maxsize=64)
def dial_marks(limit: float, step: Step = Step.THIRD) -> Scale:
    """Return the shutter marks a body offers whose dial ends at the mark ``limit`` seconds.

    Past 30 s the marks follow the thirds of 30, 60, 120 ... and count literally, because such
    bodies time them by clock; up to 30 s they are the rounded marks of the exact scale.
    """
    marks = [mark for mark in shutter_marks(step).marks if mark.printed <= limit * (1 + 1e-9)]
    printed = [mark.printed for mark in marks]
    beyond = [
        Mark(f"{seconds:g}", seconds, seconds, -5 * step.per_stop - turn)
        for turn, seconds in enumerate(_timed(step), 1)
        if printed[-1] == 30 and seconds <= limit
    ]
    return Scale(tuple(marks + beyond), shutter_marks(step).spellings)


def _timed(step: Step) -> tuple[float, ...]:
    octave = {Step.THIRD: (40, 50, 60), Step.HALF: (45, 60), Step.FULL: (60,)}[step]
    return tuple(float(seconds * 2**turn) for turn in range(6) for seconds in octave)


def on_dial(seconds: float, limit: float, step: Step = Step.THIRD) -> Mark | None:
    """Return the mark to set for a time; None where only bulb reaches, more than half a step beyond the dial's end.

    Parameters
    ----------
    seconds : float
        The time [s].
    limit : float
        Longest time of the dial [s].
    step : Step
        How the dial is divided.

    Examples
    --------
    >>> on_dial(24.0, 30.0).label
    '25'
    >>> on_dial(203.2, 30.0) is None
    True
    """
    marks = dial_marks(limit, step)
    past = math.log2(seconds / marks.marks[-1].exact)
    return None if past > 0.5 / step.per_stop else marks.nearest(seconds)


def ev100(seconds: float, aperture: float, iso: float) -> float:
    """Return the exposure value at ISO 100: 2 log2 N - log2 t - log2(S/100).

    Source: APEX. Computed.

    Parameters
    ----------
    seconds : float
        Shutter time [s].
    aperture : float
        F-number.
    iso : float
        Speed.
    """
    return 2 * math.log2(aperture) - math.log2(seconds) - math.log2(iso / 100)
