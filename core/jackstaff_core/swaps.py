"""The swap plan: which stack and aperture when, so that the time stays in the aim with the fewest changes.

At each step of a forecast a way to shoot (a stack of the kit, an aperture, an ISO) gives a time; it serves while that
time lies in the aim. From where one stands the clean way (base ISO, sharp aperture) that serves longest is taken, any
other only where no clean one serves: interval covering, so no such plan has fewer changes. Among equals the one with
the fewest hand moves goes first, then the lowest ISO, the sharpest aperture, the fewest glasses.

Source: interval covering by greedy choice. Limits: the finder's kit, 1500 steps, 100
stretches. Verdict: computed on the forecast.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from itertools import accumulate
from typing import NamedTuple

from .finder import Ids, OwnGlass, Piece, Slots, Subset, pieces_of, subsets
from .forecast import LightPoint
from .reading import Given
from .refusal import Refusal, within
from .scales import LONGEST_SECONDS, SHORTEST_SECONDS
from .settings import Ends, Isos, Setting, allowed

MOST_STEPS = 1500
MOST_STRETCHES = 100
_SAME = 1e-9
GLASS_SECONDS, APERTURE_SECONDS = 30.0, 5.0
"""Hand time of a glass on or off, and of turning a dial [s]."""


@dataclass(frozen=True, slots=True)
class SwapWish:
    """The aim [s]; the kit as the finder takes it; what is on the lens now."""

    from_seconds: float
    to_seconds: float
    glass: OwnGlass
    slots: Slots
    apertures: Ends
    isos: Isos
    sharp_to: Given = "11"
    on: Ids = ()


@dataclass(frozen=True, slots=True)
class Stretch:
    """One way to shoot, from when to when; ``glass`` None where no way of this kit stays in the aim.

    ``turns`` is, at each step of the light, how far a variable is turned up from its weak end to be safely in the aim
    [stops]; empty without one.
    """

    start: datetime
    end: datetime
    glass: tuple[str, ...] | None
    aperture: str | None
    iso: str | None
    first_seconds: float | None
    last_seconds: float | None
    hand_moves: int
    hand_seconds: float
    turns: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class SwapPlan:
    stretches: tuple[Stretch, ...]
    changes: int


class _Way(NamedTuple):
    """A way to shoot: ``level`` is log2 of its time at EV 0, which a variable lengthens by up to ``more``."""

    glass: tuple[str, ...]
    setting: Setting
    level: float
    more: float


class _Rack(NamedTuple):
    """The stacks whose variable adds equally much, weakest first; ``ranks`` orders equals."""

    more: float
    fixed: list[float]
    stacks: list[tuple[str, ...]]
    ranks: list[int]


class _Aim(NamedTuple):
    """Both ends of the aim, log2 of seconds."""

    low: float
    high: float


def plan(light: Sequence[LightPoint], question: SwapWish) -> SwapPlan:
    """The swap plan over a forecast's points.

    Raises
    ------
    Refusal
        No light, too many steps, an aim that is none or so narrow that the plan changes more than 100 times, or a kit
        the finder refuses.
    """
    if not 2 <= len(light) <= MOST_STEPS:
        raise Refusal("light", f"{len(light)} steps make no plan.", f"Give 2 to {MOST_STEPS} steps.")
    aim = _aim(question)
    settings = allowed(question.apertures, question.isos, question.sharp_to)
    racks = _racks(pieces_of(question.glass), question.slots)
    # A soft aperture or a raised ISO only where nothing cleaner stays in the aim.
    choices = [_Choice(racks, [setting for setting in settings if setting.clean], aim), _Choice(racks, settings, aim)]
    levels = [point.ev100 for point in light]
    stretches: list[Stretch] = []
    at, on, dialled = 0, question.on, None
    while at < len(levels):
        if len(stretches) == MOST_STRETCHES:
            raise Refusal("to_seconds", f"The plan would change more than {MOST_STRETCHES} times.", "Widen the aim.")
        serving, end = next(
            ((choice, end) for choice in choices if (end := choice.end(levels, at)) > at), (choices[-1], at)
        )
        if end == at:
            after = next((step for step in range(at, len(levels)) if serving.serves(levels[step : step + 1])), None)
            at, start = len(levels) if after is None else after, at
            stretches.append(_nothing(light, start, at))
            continue
        way = serving.best(levels[at:end], on, dialled)
        stretches.append(_stretch(light, way, at, end, on, dialled, aim))
        on, dialled, at = way.glass, way.setting, end
    return SwapPlan(tuple(stretches), sum(stretch.glass is not None for stretch in stretches[1:]))


def served(question: SwapWish) -> list[tuple[float, float]]:
    """The stretches of light [EV at ISO 100] in which some way of the kit stays in the aim, from the darkest on.

    A way of level L serves from EV = L - high up to L + more - low.

    Raises
    ------
    Refusal
        As :func:`plan`, of the wish.
    """
    aim = _aim(question)
    racks = _racks(pieces_of(question.glass), question.slots)
    steps = {round(setting.stops, 9) for setting in allowed(question.apertures, question.isos, question.sharp_to)}
    ends = sorted(
        (step + fixed - aim.high, step + fixed + rack.more - aim.low)
        for rack in racks
        for fixed in {round(fixed, 6) for fixed in rack.fixed}
        for step in steps
    )
    found: list[tuple[float, float]] = []
    for low, high in ends:
        if found and low <= found[-1][1]:
            found[-1] = (found[-1][0], max(found[-1][1], high))
        else:
            found.append((low, high))
    return found


def _aim(question: SwapWish) -> _Aim:
    low = math.log2(within("from_seconds", question.from_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s"))
    high = math.log2(within("to_seconds", question.to_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s"))
    if high <= low:
        raise Refusal("to_seconds", "The aim ends before it begins.", "Give the longer time last.")
    return _Aim(low - _SAME, high + _SAME)


def _racks(pieces: Sequence[Piece], slots: int) -> list[_Rack]:
    """Every stack of the kit, by how much its variable adds."""
    by_more: dict[float, list[Subset]] = {}
    for subset in subsets(list(pieces), slots):
        by_more.setdefault(round(subset.more, 9), []).append(subset)
    racks = []
    for more, found in by_more.items():
        found.sort(key=lambda subset: subset.fixed)
        order = sorted(range(len(found)), key=lambda place: (len(found[place].ids), found[place].ids))
        ranks = [0] * len(found)
        for rank, place in enumerate(order):
            ranks[place] = rank
        racks.append(_Rack(more, [subset.fixed for subset in found], [subset.ids for subset in found], ranks))
    return racks


class _Choice:
    """Some settings, each with every stack.

    A way of level L stays in the aim over a run of light while L - min EV <= high and L + more - max EV >= low. So over
    any run the stacks that serve at one setting stand side by side in their rack, and two bisections find them; over
    longer runs there are only fewer, so how long the best one serves is bisected, too.
    """

    def __init__(self, racks: Sequence[_Rack], settings: Sequence[Setting], aim: _Aim) -> None:
        self.racks, self.settings, self.aim = racks, settings, aim
        # Many settings share a level; whether any stack serves is asked once for each.
        self.steps = sorted({round(setting.stops, 9) for setting in settings})

    def end(self, levels: Sequence[float], at: int) -> int:
        """The step after the last one in a row from ``at`` on that one of these ways serves; ``at``: none does."""
        lowest = list(accumulate(levels[at:], min))
        highest = list(accumulate(levels[at:], max))
        return at + bisect_left(range(len(lowest)), True, key=lambda step: not self._any(lowest[step], highest[step]))

    def serves(self, levels: Sequence[float]) -> bool:
        """Whether one of these ways stays in the aim over all of ``levels``."""
        return self._any(min(levels), max(levels))

    def best(self, levels: Sequence[float], on: tuple[str, ...], dialled: Setting | None) -> _Way:
        """Of the ways that serve over ``levels`` the one with the least hand time, then by the order of the plan."""
        lowest, highest = min(levels), max(levels)
        worn = set(on)
        found: list[tuple[tuple[object, ...], _Way]] = []
        for rack in self.racks:
            count = len(rack.stacks)
            keys: list[int] | None = None
            for setting in self.settings:
                first, last = self._serving(rack, setting.stops, lowest, highest)
                if first >= last:
                    continue
                # Within a setting the fewest hands on glass, then the rack's own order.
                keys = keys or [
                    len(worn.symmetric_difference(stack)) * count + rank
                    for stack, rank in zip(rack.stacks, rack.ranks, strict=True)
                ]
                place = keys.index(min(keys[first:last]), first, last)
                way = _Way(rack.stacks[place], setting, setting.stops + rack.fixed[place], rack.more)
                found.append((_order(way, on, dialled), way))
        return min(found, key=lambda each: each[0])[1]

    def _any(self, lowest: float, highest: float) -> bool:
        return any(
            first < last
            for rack in self.racks
            for step in self.steps
            for first, last in (self._serving(rack, step, lowest, highest),)
        )

    def _serving(self, rack: _Rack, stops: float, lowest: float, highest: float) -> tuple[int, int]:
        """From which to which stack of the rack one serves at a setting."""
        return (
            bisect_left(rack.fixed, self.aim.low + highest - rack.more - stops),
            bisect_right(rack.fixed, self.aim.high + lowest - stops),
        )


def _order(way: _Way, on: tuple[str, ...], dialled: Setting | None) -> tuple[object, ...]:
    setting = way.setting
    return (
        _moves(way, on, dialled)[1],
        setting.iso_distance,
        setting.diffraction,
        len(way.glass),
        way.more > 0,
        -round(setting.f_number, 9),
        way.glass,
    )


def _moves(way: _Way, on: tuple[str, ...], dialled: Setting | None) -> tuple[int, float]:
    """Hands on glass, and hand time [s]."""
    glass = len(set(way.glass) ^ set(on))
    setting = way.setting
    dials = 0 if dialled is None else (setting.aperture != dialled.aperture) + (setting.iso != dialled.iso)
    return glass, glass * GLASS_SECONDS + dials * APERTURE_SECONDS


def _stretch(
    light: Sequence[LightPoint],
    way: _Way,
    start: int,
    end: int,
    on: tuple[str, ...],
    dialled: Setting | None,
    aim: _Aim,
) -> Stretch:
    moves, seconds = _moves(way, on, dialled)
    first, last = (_time(way, light[step].ev100, aim) for step in (start, end - 1))
    until = light[min(end, len(light) - 1)].at
    setting = way.setting
    turns = tuple(_turned(way, point.ev100, aim) for point in light[start:end]) if way.more > 0 else ()
    return Stretch(light[start].at, until, way.glass, setting.aperture, setting.iso, first, last, moves, seconds, turns)


def _time(way: _Way, level: float, aim: _Aim) -> float:
    """The time this way gives; a variable is turned just far enough to be inside the aim."""
    time = way.level - level
    return math.exp2(min(time + way.more, max(time, aim[0])))


def _turned(way: _Way, level: float, aim: _Aim) -> float:
    """How far up a variable is turned to be inside the aim, a sixth of a stop from its edge where it is so wide."""
    edge = aim[0] + min(_SAFELY, (aim[1] - aim[0]) / 2)
    return round(min(way.more, max(0.0, edge - (way.level - level))), 2)


_SAFELY = 1 / 6


def _nothing(light: Sequence[LightPoint], start: int, end: int) -> Stretch:
    until = light[min(end, len(light) - 1)].at
    return Stretch(light[start].at, until, None, None, None, None, None, 0, 0.0)
