"""The swap plan: which stack and aperture when, so that the time stays in the aim with the fewest changes.

At each step of a forecast a way to shoot (a stack of the kit, an aperture, an ISO) gives a time; it serves while that
time lies in the aim. From where one stands the clean way (base ISO, sharp aperture) that serves longest is taken, any
other only where no clean one serves: interval covering, so no such plan has fewer changes. Among equals the one with
the fewest hand moves goes first, then the lowest ISO, the sharpest aperture, the fewest glasses.

Source: interval covering by greedy choice. Limits: the finder's kit, 1500 steps. Verdict: computed on the forecast.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from .diffraction import stops_past
from .finder import SOFT_STOPS, KitGlass, pieces_of, subsets
from .forecast import LightPoint
from .reading import Given, aperture, iso
from .refusal import Refusal, within
from .scales import LONGEST_SECONDS, SHORTEST_SECONDS, Step, apertures

MOST_STEPS = 1500
GLASS_SECONDS, APERTURE_SECONDS = 30.0, 5.0
"""Hand time of a glass on or off, and of turning a dial [s]."""


@dataclass(frozen=True, slots=True)
class SwapQuestion:
    """``light`` over the time to plan; the aim [s]; the kit as the finder takes it; what is on the lens now."""

    light: tuple[LightPoint, ...]
    from_seconds: float
    to_seconds: float
    glass: tuple[KitGlass, ...]
    slots: int
    apertures: tuple[Given, Given]
    isos: tuple[Given, ...]
    sharp_to: Given = "11"
    on: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Stretch:
    """One way to shoot, from when to when; ``glass`` None where no way of this kit stays in the aim."""

    start: datetime
    end: datetime
    glass: tuple[str, ...] | None
    aperture: str | None
    iso: str | None
    first_seconds: float | None
    last_seconds: float | None
    hand_moves: int
    hand_seconds: float


@dataclass(frozen=True, slots=True)
class SwapPlan:
    stretches: tuple[Stretch, ...]
    changes: int


@dataclass(frozen=True, slots=True)
class _Way:
    """A way to shoot: ``level`` is log2 of its time at EV 0; a variable's time may be anything down from there."""

    glass: tuple[str, ...]
    aperture: str
    iso: str
    level: float
    more: float
    clean: bool
    order: tuple[object, ...]


def plan(question: SwapQuestion) -> SwapPlan:
    """The swap plan over a forecast.

    Raises
    ------
    Refusal
        No light, too many steps, an aim that is none, or a kit the finder refuses.
    """
    if not 2 <= len(question.light) <= MOST_STEPS:
        raise Refusal("light", f"{len(question.light)} steps make no plan.", f"Give 2 to {MOST_STEPS} steps.")
    low = math.log2(within("from_seconds", question.from_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s"))
    high = math.log2(within("to_seconds", question.to_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s"))
    if high <= low:
        raise Refusal("to_seconds", "The aim ends before it begins.", "Give the longer time last.")
    ways = _ways(question)
    levels = [point.ev100 for point in question.light]
    # Many ways share a strength; how long they serve is worked out once.
    strengths = {(way.level, way.more): way for way in ways}
    served = {strength: _runs(way, levels, low, high) for strength, way in strengths.items()}
    runs = [served[way.level, way.more] for way in ways]
    stretches: list[Stretch] = []
    at, on, dialled = 0, question.on, None
    while at < len(levels):
        best = _longest(ways, runs, at, on, dialled)
        if best is None:
            later = range(at, len(levels))
            after = next((step for step in later if any(run[step] > step for run in runs)), len(levels))
            stretches.append(_nothing(question, at, after))
            at = after
            continue
        place, end = best
        stretches.append(_stretch(question, ways[place], at, end, on, dialled, (low, high)))
        on, dialled, at = ways[place].glass, (ways[place].aperture, ways[place].iso), end
    return SwapPlan(tuple(stretches), sum(stretch.glass is not None for stretch in stretches[1:]))


def _ways(question: SwapQuestion) -> list[_Way]:
    ends = sorted(aperture(f"apertures.{at}", one, Step.THIRD).exact for at, one in enumerate(question.apertures))
    speeds = [iso(f"isos.{at}", one, Step.THIRD) for at, one in enumerate(question.isos)]
    if not speeds:
        raise Refusal("isos", "No ISO is allowed.", "Give at least one ISO.")
    sharp = aperture("sharp_to", question.sharp_to, Step.THIRD).exact
    base = min(speed.exact for speed in speeds)
    ways = []
    for subset in subsets(pieces_of(question.glass), question.slots):
        for mark in apertures(Step.THIRD).between(*ends):
            past = stops_past(mark.exact, sharp)
            for speed in speeds:
                ways.append(
                    _Way(
                        subset.ids,
                        mark.label,
                        speed.label or f"{speed.exact:g}",
                        # EV = 2 log2 N - log2 t - log2(S/100), and glass lengthens.
                        round(2 * math.log2(mark.exact) - math.log2(speed.exact / 100) + subset.fixed, 9),
                        subset.more,
                        speed.exact == base and past <= SOFT_STOPS + 1e-9,
                        (
                            round(math.log2(speed.exact / base), 9),
                            round(past, 9),
                            len(subset.ids),
                            subset.more > 0,
                            -round(mark.exact, 9),
                            subset.ids,
                        ),
                    )
                )
    return ways


def _runs(way: _Way, levels: Sequence[float], low: float, high: float) -> list[int]:
    """For each step, the step after the last one in a row at which this way lies in the aim (itself: not at all)."""
    runs = [0] * len(levels)
    end = len(levels)
    for step in range(len(levels) - 1, -1, -1):
        time = way.level - levels[step]
        if not (time <= high + 1e-9 and time + way.more >= low - 1e-9):
            end = step
        runs[step] = end
    return runs


def _moves(way: _Way, on: tuple[str, ...], dialled: tuple[str, str] | None) -> tuple[int, float]:
    """Hands on glass, and hand time [s]."""
    glass = len(set(way.glass) ^ set(on))
    dials = 0 if dialled is None else (way.aperture != dialled[0]) + (way.iso != dialled[1])
    return glass, glass * GLASS_SECONDS + dials * APERTURE_SECONDS


def _longest(
    ways: list[_Way], runs: list[list[int]], at: int, on: tuple[str, ...], dialled: tuple[str, str] | None
) -> tuple[int, int] | None:
    serving = [place for place in range(len(ways)) if runs[place][at] > at]
    if not serving:
        return None
    # A soft aperture or a raised ISO only where nothing cleaner stays in the aim.
    serving = [place for place in serving if ways[place].clean] or serving
    place = min(serving, key=lambda one: (-runs[one][at], _moves(ways[one], on, dialled)[1], ways[one].order))
    return place, runs[place][at]


def _stretch(
    question: SwapQuestion,
    way: _Way,
    start: int,
    end: int,
    on: tuple[str, ...],
    dialled: tuple[str, str] | None,
    aim: tuple[float, float],
) -> Stretch:
    moves, seconds = _moves(way, on, dialled)
    first, last = (_time(way, question.light[step].ev100, aim) for step in (start, end - 1))
    until = question.light[min(end, len(question.light) - 1)].at
    return Stretch(question.light[start].at, until, way.glass, way.aperture, way.iso, first, last, moves, seconds)


def _time(way: _Way, level: float, aim: tuple[float, float]) -> float:
    """The time this way gives; a variable is turned just far enough to be inside the aim."""
    time = way.level - level
    return math.exp2(min(time + way.more, max(time, aim[0])))


def _nothing(question: SwapQuestion, start: int, end: int) -> Stretch:
    until = question.light[min(end, len(question.light) - 1)].at
    return Stretch(question.light[start].at, until, None, None, None, None, None, 0, 0.0)
