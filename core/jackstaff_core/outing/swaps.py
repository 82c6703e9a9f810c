"""The swap plan: which stack and aperture when, so that the time stays in the aim with the fewest changes.

At each step of a forecast a way to shoot (a stack of the kit, an aperture, an ISO) gives a time: the one that gathers
its light from that minute on at the rate of that minute, as the bench and a run count it (moving_light/integral.py,
and for film camera/reciprocity.py). A way serves while that time lies in the aim.

    need(T) = EV + log2 of the metered time that T just fills       [stops above 1 s at EV 0]
    a way of level L that a variable lengthens by up to m serves while need(from) - m <= L <= need(to)

From where one stands the clean way (base ISO, sharp aperture) that serves longest is taken, any other only where no
clean one serves: interval covering, so no such plan has fewer changes. Among equals the one with the fewest hand moves
goes first, then the lowest ISO, the sharpest aperture, the fewest glasses. A stretch holds two of its frames with their
handling at least: what would have to be changed sooner is told as light that moves too fast for this look.

Source: interval covering by greedy choice. Limits: the finder's kit, 1500 steps, 100 stretches; the rate of a minute
stands for the frame's (against the whole path 0.02 stop at most in nine dusks of ten, frames to 8 min). Verdict:
computed on the forecast.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from itertools import accumulate
from typing import NamedTuple

from ..camera.reading import Given
from ..camera.reciprocity import LawGiven
from ..camera.settings import Ends, Isos, Setting, allowed_settings
from ..moving_light.integral import Path, close_film, filled_metered_seconds, open_seconds
from ..scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from ..sky.forecast import LightPoint
from ..stacks.finder import Ids, Onto, OwnGlass, Piece, Slots, Subset, pieces_of, subsets
from ..words.refusal import Refusal, within

MOST_STEPS = 1500
MOST_STRETCHES = 100
_SAME = 1e-9
GLASS_SECONDS, APERTURE_SECONDS = 30.0, 5.0
"""Hand time of a glass on or off, and of turning a dial [s]."""
HANDLING_SECONDS = 30.0
"""Between two frames: look, wind, press [s]."""
LEAST_FRAMES = 2
"""What a stretch of the plan is worth a change for."""


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
    film: LawGiven | None = None
    onto: Onto | None = None


@dataclass(frozen=True, slots=True)
class Stretch:
    """One way to shoot, from when to when; ``glass`` None where no way of this kit stays in the aim.

    ``too_fast`` says of such a one that some way would serve a moment, but not for two frames. ``turns`` is, at each
    step of the light, how far a variable is turned up from its weak end to be safely in the aim [stops]; empty without
    one. ``metered`` is, at each step, what the meter says at this aperture and ISO without a filter [s], and
    ``seconds`` the time of this way when it opens then [s]; both to four digits, empty where no way serves.
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
    metered: tuple[float, ...] = ()
    seconds: tuple[float, ...] = ()
    too_fast: bool = False


@dataclass(frozen=True, slots=True)
class SwapPlan:
    """Which filters serve from when to when, and how often they change."""

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


class _Span(NamedTuple):
    """What a way must reach to be in the aim: its ``level + more`` and its ``level`` [stops]."""

    least: float
    most: float


class _Light(NamedTuple):
    """The light of one step as frames count it, and the film in the camera."""

    ev100: float
    rate: float
    film: LawGiven | None

    @classmethod
    def of(cls, point: LightPoint, film: LawGiven | None) -> _Light:
        """Return the light of a point of a forecast."""
        return cls(point.ev100, point.stops_per_minute / 60, film)

    def span(self, aim: tuple[float, float]) -> _Span:
        """Return what a way must reach so that its time lies between two [s]."""
        return _Span(self.need(aim[0]) - _SAME, self.need(aim[1]) + _SAME)

    def need(self, seconds: float) -> float:
        """Return the level of a way whose frame takes ``seconds`` when it opens at this step [stops]."""
        return self.ev100 + math.log2(filled_metered_seconds(Path.steady(self.rate, 0.0), self.film, seconds))

    def time(self, level: float) -> float:
        """Return the time of a way of ``level`` that opens at this step [s].

        Infinite where the light never fills it.
        """
        metered = math.exp2(level - self.ev100)
        if self.film is None:
            return open_seconds(metered, self.rate)
        return close_film(Path.steady(self.rate, 0.0), metered, self.film)


def plan_swaps(light: Sequence[LightPoint], question: SwapWish) -> SwapPlan:
    """Return the swap plan over a forecast's points.

    Raises
    ------
    Refusal
        No light, too many steps, an aim that is none or so narrow that the plan changes more than 100 times, or a kit
        the finder refuses.
    """
    if not 2 <= len(light) <= MOST_STEPS:
        raise Refusal("light", f"{len(light)} steps make no plan.", f"Give 2 to {MOST_STEPS} steps.")
    run = _Run(light, question)
    settings = allowed_settings(question.apertures, question.isos, question.sharp_to)
    racks = _racks(_pieces(question), question.slots)
    # A soft aperture or a raised ISO only where nothing cleaner stays in the aim.
    choices = [_Choice(racks, [setting for setting in settings if setting.clean], run), _Choice(racks, settings, run)]
    stretches: list[Stretch] = []
    at, on, dialled = 0, question.on, None
    while at < run.steps:
        if len(stretches) == MOST_STRETCHES:
            raise Refusal("to_seconds", f"The plan would change more than {MOST_STRETCHES} times.", "Widen the aim.")
        chosen = _next(choices, at)
        if chosen is None:
            start = at
            at = next((step for step in range(at + 1, run.steps) if _next(choices, step)), run.steps)
            too_fast = any(choices[-1].levels.serve(span) for span in run.spans[start:at])
            stretches.append(_nothing(light, start, at, too_fast))
            continue
        serving, end, span = chosen
        way = serving.best(span, on, dialled)
        stretches.append(_stretch(run, way, at, end, on, dialled))
        on, dialled, at = way.glass, way.setting, end
    return SwapPlan(tuple(stretches), sum(stretch.glass is not None for stretch in stretches[1:]))


class _Run:
    """The light of a plan, step by step, against the aim; the last point of the light only ends the last step."""

    def __init__(self, light: Sequence[LightPoint], question: SwapWish) -> None:
        self.points = light
        self.steps = len(light) - 1
        self.aim = _aim(question)
        self.lights = [_Light.of(point, question.film) for point in light[:-1]]
        self.spans = [each.span(self.aim) for each in self.lights]

    def longest(self, start: int, end: int) -> float:
        """Return the longest frame of which two fit between two steps with their handling [s]."""
        return (self.points[end].at - self.points[start].at).total_seconds() / LEAST_FRAMES - HANDLING_SECONDS

    def fitting(self, step: int, longest: float) -> _Span:
        """Return what a way must reach at a step so that its time is in the aim and no longer than ``longest``."""
        span = self.spans[step]
        if longest >= self.aim[1]:
            return span
        return span._replace(most=min(span.most, self.lights[step].need(longest) + _SAME))


def _next(choices: Sequence[_Choice], at: int) -> tuple[_Choice, int, _Span] | None:
    """Return cleanest settings with a way that serves from ``at`` on for two frames, until when, and what that asks."""
    return next((found for choice in choices if (found := choice.worth_it(at))), None)


def aim_checker(question: SwapWish) -> Callable[[LightPoint], bool]:
    """Return what tells of a minute's light whether some way of the kit stays in the aim, for however short a while.

    Raises
    ------
    Refusal
        As :func:`plan_swaps`, of the wish.
    """
    aim, film = _aim(question), question.film
    settings = allowed_settings(question.apertures, question.isos, question.sharp_to)
    levels = _Levels(_racks(_pieces(question), question.slots), settings)
    return lambda point: levels.serve(_Light.of(point, film).span(aim))


def _pieces(question: SwapWish) -> list[Piece]:
    return pieces_of(question.glass, onto=question.onto, on=question.on)


def _aim(question: SwapWish) -> tuple[float, float]:
    """Return both ends of the aim [s]."""
    low = within("from_seconds", question.from_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    high = within("to_seconds", question.to_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    if high <= low:
        raise Refusal("to_seconds", "The aim ends before it begins.", "Give the longer time last.")
    return low, high


def _racks(pieces: Sequence[Piece], slots: int) -> list[_Rack]:
    """Return every stack of the kit, by how much its variable adds."""
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


_DIGITS, _ROUNDED = 7, 2e-7
"""Levels are told apart to this many digits; what rounding moves is no miss [stops]."""


class _Levels:
    """The levels of every way of some settings: many settings and stacks share one, and each is asked about once."""

    def __init__(self, racks: Sequence[_Rack], settings: Sequence[Setting]) -> None:
        steps = {round(setting.stops, _DIGITS) for setting in settings}
        self.by_more = [
            (rack.more, sorted({round(step + fixed, _DIGITS) for fixed in set(rack.fixed) for step in steps}))
            for rack in racks
        ]

    def serve(self, span: _Span) -> bool:
        """Return whether one of them stays in the aim."""
        for more, levels in self.by_more:
            place = bisect_left(levels, span.least - more - _ROUNDED)
            if place < len(levels) and levels[place] <= span.most + _ROUNDED:
                return True
        return False


class _Choice:
    """Some settings, each with every stack.

    Over any run the stacks that serve at one setting stand side by side in their rack, and two bisections find them;
    over longer runs there are only fewer, so how long the best one serves is bisected, too.
    """

    def __init__(self, racks: Sequence[_Rack], settings: Sequence[Setting], run: _Run) -> None:
        self.racks, self.settings, self.run = racks, settings, run
        self.levels = _Levels(racks, settings)

    def worth_it(self, at: int) -> tuple[_Choice, int, _Span] | None:
        """Return longest run from ``at`` on that one of these ways serves with two frames at both ends, if any does."""
        ahead = [
            _Span(*each)
            for each in zip(
                accumulate((span.least for span in self.run.spans[at:]), max),
                accumulate((span.most for span in self.run.spans[at:]), min),
                strict=True,
            )
        ]
        steps = bisect_left(ahead, True, key=lambda span: not self.levels.serve(span))
        # Times that grow fit a shorter run where they do not fit the longest; every twelfth of a long one is tried.
        for count in range(steps, 0, -max(1, steps // 12)):
            longest = self.run.longest(at, at + count)
            if longest < self.run.aim[0]:
                break
            ends = [self.run.fitting(step, longest) for step in (at, at + count - 1)]
            span = _Span(ahead[count - 1].least, min(ahead[count - 1].most, *(end.most for end in ends)))
            if self.levels.serve(span):
                return self, at + count, span
        return None

    def best(self, span: _Span, on: tuple[str, ...], dialled: Setting | None) -> _Way:
        """Of the ways that serve the one with the least hand time, then by the order of the plan."""
        worn = set(on)
        found: list[tuple[tuple[object, ...], _Way]] = []
        for rack in self.racks:
            count = len(rack.stacks)
            keys: list[int] | None = None
            for setting in self.settings:
                first = bisect_left(rack.fixed, span.least - rack.more - setting.stops - _ROUNDED)
                last = bisect_right(rack.fixed, span.most - setting.stops + _ROUNDED)
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
    """Return the hands on glass, and hand time [s]."""
    glass = len(set(way.glass) ^ set(on))
    setting = way.setting
    dials = 0 if dialled is None else (setting.aperture != dialled.aperture) + (setting.iso != dialled.iso)
    return glass, glass * GLASS_SECONDS + dials * APERTURE_SECONDS


def _stretch(run: _Run, way: _Way, start: int, end: int, on: tuple[str, ...], dialled: Setting | None) -> Stretch:
    moves, seconds = _moves(way, on, dialled)
    light = run.points
    longest = run.longest(start, end)
    turns = tuple(_turned(way, run.fitting(step, longest)) for step in range(start, end)) if way.more > 0 else ()
    times = [run.lights[step].time(way.level + (turns[step - start] if turns else 0.0)) for step in range(start, end)]
    setting = way.setting
    return Stretch(
        start=light[start].at,
        end=light[end].at,
        glass=way.glass,
        aperture=setting.aperture,
        iso=setting.iso,
        first_seconds=times[0],
        last_seconds=times[-1],
        hand_moves=moves,
        hand_seconds=seconds,
        turns=turns,
        metered=tuple(_drawn(math.exp2(setting.stops - run.lights[step].ev100)) for step in range(start, end)),
        seconds=tuple(map(_drawn, times)),
    )


def _drawn(seconds: float) -> float:
    """Return a time to the four digits that a chart needs [s]."""
    return float(f"{seconds:.4g}")


def _turned(way: _Way, span: _Span) -> float:
    """Return how far up a variable is turned to be inside the aim.

    It stays a sixth of a stop from the aim's edge where the aim is so wide.
    """
    edge = span.least + min(_SAFELY, max(0.0, span.most - span.least) / 2)
    return round(min(way.more, max(0.0, edge - way.level)), 2)


_SAFELY = 1 / 6


def _nothing(light: Sequence[LightPoint], start: int, end: int, too_fast: bool) -> Stretch:
    return Stretch(light[start].at, light[end].at, None, None, None, None, None, 0, 0.0, too_fast=too_fast)
