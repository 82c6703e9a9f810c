"""How many frames fit before something ends, with handling and noise reduction counted.

    one frame takes T (twice that with noise reduction) + handling
    in a plan: open at t for first (last/first)^((t - start)/(end - start)), then the same again with noise reduction,
    then handling; a stretch begins with its change of filters, the last frame closes before the end
    battery: frames = floor(Wh 3600 derate (1 - reserve) / (W (T (2 if NR) + 2 s)))
    derate 0.85 at 20 C, 0.7 at 0, 0.55 at -10

Source: energy; derates are the field's rules of thumb. Limits: frames back to back, 400 in a plan, one battery,
-20 to 40 C. Verdict: estimate (battery from the user's own constants).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from typing import Annotated

from ..wire.marks import Between, Size
from ..words.refusal import within

RESERVE = 0.1
_DERATES = ((-10.0, 0.55), (0.0, 0.7), (20.0, 0.85))
_AWAKE_SECONDS = 2.0


@dataclass(frozen=True, slots=True)
class BudgetQuestion:
    """``seconds`` a frame, ``available_seconds`` until light, tide or one's own end."""

    seconds: float
    available_seconds: float
    handling_seconds: float = 30.0
    noise_reduction: bool = False
    battery_wh: float | None = None
    draw_w: float = 3.0
    celsius: float = 10.0


@dataclass(frozen=True, slots=True)
class Budget:
    """Frames by time and by battery, and which of them ends first."""

    by_time: int
    by_battery: int | None
    frames: int
    ends_by: str
    camera_busy_seconds: float


def derate(celsius: float) -> float:
    """Return the share of a battery's energy that cold leaves.

    Parameters
    ----------
    celsius : float
        Temperature of the cell [deg C]; below -10 and above 20 as at these.
    """
    if celsius <= _DERATES[0][0]:
        return _DERATES[0][1]
    for (low, a), (high, b) in pairwise(_DERATES):
        if celsius <= high:
            return a + (b - a) * (celsius - low) / (high - low)
    return _DERATES[-1][1]


def battery_frames(wh: float, draw_w: float, seconds: float, noise_reduction: bool, share: float) -> int:
    """Return the frames a battery allows at a derate of ``share``, a tenth kept in reserve.

    Parameters
    ----------
    wh : float
        What is printed on the battery [Wh].
    draw_w : float
        What the open camera draws [W].
    seconds : float
        One exposure [s].
    noise_reduction : bool
        Whether each frame is followed by a dark one of its length.
    share : float
        What cold leaves of the energy, 0 to 1.
    """
    busy = seconds * (2 if noise_reduction else 1) + _AWAKE_SECONDS
    return math.floor(wh * 3600 * share * (1 - RESERVE) / (draw_w * busy))


def budget(question: BudgetQuestion) -> Budget:
    """Return how many frames fit.

    Raises
    ------
    Refusal
        A time, energy or temperature out of bounds.
    """
    seconds = within("seconds", question.seconds, 1e-5, 86_400, "s")
    available = within("available_seconds", question.available_seconds, 0, 7 * 86_400, "s")
    handling = within("handling_seconds", question.handling_seconds, 0, 3600, "s")
    busy = seconds * (2 if question.noise_reduction else 1)
    # The last frame needs its exposure in time; what the camera does after it does not matter.
    by_time = 0 if available < seconds else 1 + math.floor((available - seconds) / (busy + handling) + 1e-9)
    by_battery = None
    if question.battery_wh is not None:
        wh = within("battery_wh", question.battery_wh, 0.1, 500, "Wh")
        watts = within("draw_w", question.draw_w, 0.1, 50, "W")
        share = derate(within("celsius", question.celsius, -40, 50, "degrees"))
        by_battery = battery_frames(wh, watts, seconds, question.noise_reduction, share)
    if by_battery is not None and by_battery < by_time:
        return Budget(by_time, by_battery, by_battery, "battery", busy)
    return Budget(by_time, by_battery, by_time, "time", busy)


MOST_PLANNED = 400


@dataclass(frozen=True, slots=True)
class PlannedStretch:
    """A stretch of the filter plan: what a frame takes at its start and at its end, after a change of filters [s]."""

    start: datetime
    end: datetime
    first_seconds: Annotated[float, Between(1e-5, 86_400, "s")]
    last_seconds: Annotated[float, Between(1e-5, 86_400, "s")]
    hand_seconds: Annotated[float, Between(0, 3600, "s")] = 0.0


@dataclass(frozen=True, slots=True)
class FramesQuestion:
    """The stretches of a plan in order of time, and when the last frame has to be closed."""

    stretches: Annotated[tuple[PlannedStretch, ...], Size(0, 100)]
    until: datetime
    handling_seconds: Annotated[float, Between(1, 3600, "s")] = 30.0
    noise_reduction: bool = False


@dataclass(frozen=True, slots=True)
class PlannedFrame:
    """When the shutter opens and closes, and when the camera is ready again."""

    opens: datetime
    closes: datetime
    ready: datetime


@dataclass(frozen=True, slots=True)
class PlannedFrames:
    """``more`` says that not all of them are told."""

    frames: tuple[PlannedFrame, ...]
    more: bool


def frames(question: FramesQuestion) -> PlannedFrames:
    """Return the frames of a plan, back to back."""
    found: list[PlannedFrame] = []
    free: datetime | None = None
    for stretch in sorted(question.stretches, key=lambda each: each.start):
        opens = max(stretch.start, free or stretch.start) + timedelta(seconds=stretch.hand_seconds)
        span = max(1.0, (stretch.end - stretch.start).total_seconds())
        while opens < stretch.end:
            share = min(1.0, (opens - stretch.start).total_seconds() / span)
            seconds = stretch.first_seconds * (stretch.last_seconds / stretch.first_seconds) ** share
            closes = opens + timedelta(seconds=seconds)
            if closes > question.until:
                return PlannedFrames(tuple(found), False)
            if len(found) >= MOST_PLANNED:
                return PlannedFrames(tuple(found), True)
            ready = closes + timedelta(seconds=seconds if question.noise_reduction else 0.0)
            found.append(PlannedFrame(opens, closes, ready))
            free = opens = ready + timedelta(seconds=question.handling_seconds)
    return PlannedFrames(tuple(found), False)
