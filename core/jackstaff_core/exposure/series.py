"""More than one frame: safety brackets, splits and repeats as a queue with clock times.

Where the dial still reaches the longest frame of a bracket, the camera's own burst does it; beyond, one bulb frame
follows another. Noise reduction keeps the camera for as long again after each frame.

    start(i+1) = start(i) + T(i) (2 with noise reduction) + handling
    split      : n frames of T/n each, for a median or to add up; each is log2 n stops darker unless ISO or aperture
                 make up for it

Source: arithmetic. Limits: 60 frames, 24 h in all. Verdict: computed.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from ..scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS, Step, on_dial
from ..words.refusal import Refusal, within

MOST_FRAMES = 60
HANDLING_SECONDS = 5.0


class SeriesSort(StrEnum):
    """Whether frames of a series repeat one exposure, bracket it, or share it out."""

    REPEAT = "repeat"
    BRACKET = "bracket"
    SPLIT = "split"


@dataclass(frozen=True, slots=True)
class SeriesQuestion:
    """``spacing_stops`` between the frames of a bracket; ``count`` frames in all."""

    seconds: float
    way: SeriesSort
    count: int = 3
    spacing_stops: float = 1.0
    dial_limit: float = 30.0
    step: Step = Step.THIRD
    noise_reduction: bool = False
    handling_seconds: float = HANDLING_SECONDS


@dataclass(frozen=True, slots=True)
class SeriesFrame:
    """``stops`` against the planned frame; times [s] from the first opening; busy until noise reduction is done."""

    seconds: float
    mark: str | None
    stops: float
    opens_at: float
    closes_at: float
    busy_until: float


@dataclass(frozen=True, slots=True)
class Series:
    """``burst`` when the camera's own bracketing reaches all; ``more_light_stops`` is what a split's frames want."""

    frames: tuple[SeriesFrame, ...]
    burst: bool
    total_seconds: float
    more_light_stops: float


def plan_series(question: SeriesQuestion) -> Series:
    """Return the queue.

    Raises
    ------
    Refusal
        Too few or too many frames, a time out of bounds, or more than a day in all.
    """
    seconds = within("seconds", question.seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    if not 2 <= question.count <= MOST_FRAMES:
        raise Refusal("count", f"{question.count} frames make no series.", f"Give 2 to {MOST_FRAMES}.")
    within("spacing_stops", question.spacing_stops, 1 / 3, 4, "stops")
    within("handling_seconds", question.handling_seconds, 0, 3600, "s")
    frames = tuple(_queue(question, list(_stops(question)), seconds))
    if frames[-1].busy_until > LONGEST_SECONDS:
        raise Refusal("count", "That series takes more than a day.", "Give fewer or shorter frames.")
    burst = question.way is SeriesSort.BRACKET and all(frame.mark is not None for frame in frames)
    more = math.log2(question.count) if question.way is SeriesSort.SPLIT else 0.0
    return Series(frames, burst, frames[-1].busy_until, more)


def _stops(question: SeriesQuestion) -> Iterator[float]:
    """Yield each frame against the planned one; the planned one first, then darker, then brighter, going outwards."""
    if question.way is SeriesSort.SPLIT:
        yield from [-math.log2(question.count)] * question.count
    elif question.way is SeriesSort.REPEAT:
        yield from [0.0] * question.count
    else:
        for place in range(question.count):
            away = (place + 1) // 2 * question.spacing_stops
            yield -away if place % 2 else away


def _queue(question: SeriesQuestion, stops: list[float], seconds: float) -> Iterator[SeriesFrame]:
    limit = within("dial_limit", question.dial_limit, 1 / 8000, 3600, "s")
    at = 0.0
    for apart in stops:
        planned = seconds * math.exp2(apart)
        within("seconds", planned, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
        mark = on_dial(planned, limit, question.step)
        length = mark.exact if mark else planned
        closes = at + length
        busy = closes + (length if question.noise_reduction and length >= 1 else 0.0)
        yield SeriesFrame(length, mark.label if mark else None, apart, at, closes, busy)
        at = busy + question.handling_seconds
