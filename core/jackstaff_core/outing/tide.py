"""Tide between a person's own high and low waters, and when to leave.

    h = h_low + (h_high - h_low)/2 (1 - cos(pi (t - t_low)/(t_high - t_low)))        between two entered extremes
    t_flood = t_low + D/pi arccos(1 - 2 p)     rising; D the flood's duration [h], p the level's share of it
    early end of t_flood = t_flood - doubt,      doubt = 8 + w max(0, 25 + 22 (D - 6.2)+ - 12 (6.2 - D)+)  [min]
                                                 w = 2 sqrt(p (1 - p)), the steepness of the rise
    after one's own crossings of this level:     t_flood + mean(e w R / (w_o R_o)), doubt = 6 + 0.07 m / rate of rise
    leave by = early end less the walk and a margin, down to the whole minute

``e`` is how much later (+) than the half cosine the level was crossed on an earlier flood of steepness ``w_o`` and
range ``R_o``. Its factor is kept between a half and two. The doubt is never larger than without a crossing.

A water is high or low because somebody says so, or because its neighbours lie both below or both above it. Two waters
tell of each other when they differ in height and lie within 9.5 h, or differ by more than a third of the largest range.
Between two waters of one kind, of unknown kind, or that do not tell of each other, another one is missing: nothing is
known there, nor before the first and after the last.

Source: half cosine between extremes; the doubt is ours, fitted to made-up coasts with quarter-day tides up to 15 %,
daily 10 %, sixth-day 3 % and heights to 0.1 m: late in 1.5 % of 16,600 floods, where a constant quarter of an hour is
late in 14 %; with one own crossing late in 1.8 %, with a mean doubt of 15 instead of 32 min.
Limits: floods of about 4 to 8 h; a reminder, not a guarantee: wind, swell and pressure lift water over any table.
Verdict: computed from entered values, at the early end of its doubt.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from enum import StrEnum
from itertools import pairwise
from typing import Annotated

from ..wire.marks import Between, Named
from ..words.refusal import Refusal, within

SHORTEST_TIDE = timedelta(hours=1)
"""Between a high water and the low water beside it."""
TELLS_WITHIN = timedelta(hours=9.5)
"""A high and a low water further apart have to differ clearly in height, or another one lies between them."""
LONGEST_TIDE = timedelta(hours=16)
"""Waters further apart say nothing of each other."""
TELLS_BY_SHARE = 1 / 3
"""Of the largest range."""
SHORTEST_EBB = timedelta(hours=4.5)
"""For so long before a low water the water falls, so that no flood begins."""
MOST_CROSSINGS = 20
"""Watched floods that are kept of a place."""

Level = Annotated[float, Between(-5, 25, "m")]


class WaterKind(StrEnum):
    """What a water of the tide table is."""

    HIGH = "high"
    LOW = "low"

    @property
    def other(self) -> WaterKind:
        """The kind that comes before and after it."""
        return WaterKind.LOW if self is WaterKind.HIGH else WaterKind.HIGH


class WayBack(StrEnum):
    """What is known of the way back: it will flood, it stays dry as far as is known, it is flooded, nobody knows."""

    FLOODS = "floods"
    DRY = "dry"
    FLOODED = "flooded"
    UNKNOWN = "unknown"


@dataclass(frozen=True, slots=True)
class Water:
    """A high or low water: when, its height [m] over the chart's zero, and its kind where somebody has said it."""

    at: datetime
    height_m: float
    kind: WaterKind | None = None

    def __post_init__(self) -> None:
        # Between two times of one zone Python counts by the clock on the wall, which jumps twice a year.
        object.__setattr__(self, "at", self.at.astimezone(UTC))


@dataclass(frozen=True, slots=True)
class Crossing:
    """A flood that was watched: when it covered a level, and the low and high water of that flood."""

    at: datetime
    level_m: Level
    low_at: datetime
    low_m: Level
    high_at: datetime
    high_m: Level

    def __post_init__(self) -> None:
        for name in ("at", "low_at", "high_at"):
            object.__setattr__(self, name, getattr(self, name).astimezone(UTC))
        if not self.low_at < self.at < self.high_at or not self.low_m < self.level_m < self.high_m:
            raise Refusal(
                "at",
                "The way floods between a low and a high water, at a height between theirs.",
                "Give the low and the high water around it.",
            )
        if self.high_at - self.low_at > LONGEST_TIDE:
            raise Refusal("high_at", "Low and high water lie too far apart.", "Give the two around the flood.")


@dataclass(frozen=True, slots=True)
class Missing:
    """Between two entered waters another one is missing; ``kind`` None where it is not known which is high or low."""

    start: Annotated[datetime, Named("from")]
    end: Annotated[datetime, Named("to")]
    kind: WaterKind | None


@dataclass(frozen=True, slots=True)
class LeaveBy:
    """When to turn back, and what it rests on.

    ``at`` is None unless the way floods within what is known. ``floods_at`` is the likeliest crossing and
    ``doubt_minutes`` how much earlier it may come. The water is known from ``known_from`` to ``known_until``; asked
    after the last water ``known_from`` is None. ``missing`` is the gap that ends this, or that the question falls into.
    ``clearance_m`` is how far the highest known water stays under the way.
    """

    state: WayBack
    at: datetime | None = None
    floods_at: datetime | None = None
    doubt_minutes: float | None = None
    missing: Missing | None = None
    known_from: datetime | None = None
    known_until: datetime | None = None
    clearance_m: float | None = None


def water_kinds(waters: Sequence[Water], level_m: float | None = None) -> tuple[WaterKind | None, ...]:
    """Return the kind of each water: as said, else by its neighbours; None where these do not tell.

    Parameters
    ----------
    waters : Sequence[Water]
        In order of time, heights above the chart's zero [m].
    level_m : float | None
        A height of interest [m]; two lone waters far apart tell of each other only where it lies between them.
    """
    found: list[WaterKind | None] = []
    for place, water in enumerate(waters):
        if water.kind is not None:
            found.append(water.kind)
            continue
        beside = [waters[other] for other in (place - 1, place + 1) if 0 <= other < len(waters)]
        votes = {vote for other in beside if (vote := _vote(waters, water, other, level_m)) is not None}
        found.append(votes.pop() if len(votes) == 1 else None)
    return tuple(found)


def _vote(waters: Sequence[Water], water: Water, other: Water, level_m: float | None) -> WaterKind | None:
    """Return what a neighbour says a water is."""
    if not _tell(waters, water, other):
        return None
    lone = len(waters) == 2 and abs(water.at - other.at) > TELLS_WITHIN
    low, high = sorted((water.height_m, other.height_m))
    if lone and (level_m is None or not low < level_m < high):
        return None
    if other.kind is not None:
        return other.kind.other
    return WaterKind.HIGH if water.height_m > other.height_m else WaterKind.LOW


def _tell(waters: Sequence[Water], first: Water, other: Water) -> bool:
    """Return whether two neighbouring waters can be a high and a low one with nothing between them."""
    apart, by = abs(first.at - other.at), abs(first.height_m - other.height_m)
    if by == 0 or apart > LONGEST_TIDE:
        return False
    heights = [water.height_m for water in waters]
    return apart <= TELLS_WITHIN or by > TELLS_BY_SHARE * (max(heights) - min(heights))


def water_height(waters: Sequence[Water], at: datetime, level_m: float | None = None) -> float | None:
    """Return the height of the water [m] at an instant, None where nothing is known.

    Parameters
    ----------
    waters : Sequence[Water]
        High and low waters in any order, heights above the chart's zero [m].
    at : datetime
        With its zone.
    level_m : float | None
        As for :func:`water_kinds`.

    Raises
    ------
    Refusal
        Fewer than two waters, a height out of bounds, waters too close, or a high water below the low one beside it.
    """
    return _height(_known(_sound(waters), level_m), at.astimezone(UTC))


def leave_by(
    waters: Sequence[Water],
    floods_at_m: float,
    walk_minutes: float,
    margin_minutes: float,
    now: datetime,
    crossings: Sequence[Crossing] = (),
) -> LeaveBy:
    """Return when to turn back for the first flooding from ``now`` on.

    Instants are rounded down to the minute, so that what is shown is never late.

    Parameters
    ----------
    waters : Sequence[Water]
        High and low waters in any order, heights above the chart's zero [m].
    floods_at_m : float
        Height at which the way is under water [m].
    walk_minutes : float
        Back to dry ground [min].
    margin_minutes : float
        Kept in hand for wind and swell [min].
    now : datetime
        With its zone.
    crossings : Sequence[Crossing]
        Floods that were watched at this place; those of another level are left out.

    Raises
    ------
    Refusal
        As :func:`water_height`; a height, walk or margin out of bounds.
    """
    ordered = _sound(waters)
    within("floods_at_m", floods_at_m, -5, 25, "m")
    walk = within("walk_minutes", walk_minutes, 0, 600, "min")
    back = timedelta(minutes=walk + within("margin_minutes", margin_minutes, 0, 600, "min"))
    tides, now = _known(ordered, floods_at_m), now.astimezone(UTC)
    first, last = ordered[0].at, ordered[-1].at
    if now >= last:
        return LeaveBy(WayBack.UNKNOWN, known_until=last)
    if now < first:
        # No flood begins while the water falls to the first low; before that, or before a high water, one may.
        falls = water_kinds(ordered, floods_at_m)[0] is WaterKind.LOW and now >= first - SHORTEST_EBB
        later = leave_by(ordered, floods_at_m, walk, margin_minutes, first, crossings) if falls else None
        nothing = LeaveBy(WayBack.UNKNOWN, known_from=first, known_until=_known_until(tides, first))
        if later is None or later.state is not WayBack.FLOODS:
            return nothing
        return replace(nothing, at=later.at, floods_at=later.floods_at, doubt_minutes=later.doubt_minutes)
    missing = next((gap for gap in _gaps(ordered, floods_at_m) if gap.end > now), None)
    if missing and missing.start <= now:
        return LeaveBy(WayBack.UNKNOWN, missing=missing, known_from=missing.end, known_until=missing.start)
    until = _known_until(tides, now)
    here = [(before, after) for before, after in tides if after.at > now and before.at < until]
    level = _height(here, now)
    if level is not None and level >= floods_at_m:
        return LeaveBy(WayBack.FLOODED, floods_at=_minute(now), missing=missing, known_from=first, known_until=until)
    for low, high in here:
        if not low.height_m < floods_at_m <= high.height_m:
            continue
        floods_at, doubt = _crossing(low, high, floods_at_m, crossings)
        # Rounding may put the crossing a hair before an instant that is still dry.
        floods_at = max(now, floods_at)
        early = floods_at - timedelta(minutes=doubt)
        return LeaveBy(WayBack.FLOODS, _minute(early - back), _minute(floods_at), doubt, missing, first, until)
    clearance = floods_at_m - max(after.height_m for _, after in here)
    return LeaveBy(
        WayBack.DRY, missing=missing, known_from=first, known_until=until, clearance_m=max(0.0, round(clearance, 2))
    )


def _sound(waters: Sequence[Water]) -> list[Water]:
    if len(waters) < 2:
        raise Refusal("waters", "A tide needs a high and a low water.", "Enter at least two from the tide table.")
    ordered = sorted(waters, key=lambda water: water.at)
    for place, water in enumerate(ordered):
        within(f"waters.{place}.height_m", water.height_m, -5, 25, "m")
        if place and water.at - ordered[place - 1].at < SHORTEST_TIDE:
            raise Refusal(f"waters.{place}.at", "High and low water are hours apart.", "Check the times of the table.")
    for place, (before, after) in enumerate(pairwise(ordered)):
        if before.kind and after.kind and before.kind is not after.kind and after.at - before.at <= LONGEST_TIDE:
            low, high = (before, after) if before.kind is WaterKind.LOW else (after, before)
            if high.height_m <= low.height_m:
                raise Refusal(
                    f"waters.{place + 1}.height_m",
                    "This high water is not above the low water beside it.",
                    "Check the heights, or which of them is high.",
                )
    return ordered


_Tide = tuple[Water, Water]
"""Two neighbouring waters between which the height is known."""


def _known(ordered: Sequence[Water], level_m: float | None) -> list[_Tide]:
    told = water_kinds(ordered, level_m)
    return [
        (before, after)
        for place, (before, after) in enumerate(pairwise(ordered))
        if told[place] and told[place + 1] and told[place] is not told[place + 1] and _tell(ordered, before, after)
    ]


def _gaps(ordered: Sequence[Water], level_m: float) -> list[Missing]:
    """Return the stretches between two neighbouring waters in which another is missing, and of which kind."""
    told, known = water_kinds(ordered, level_m), _known(ordered, level_m)
    found = []
    for place, (before, after) in enumerate(pairwise(ordered)):
        if (before, after) in known:
            continue
        sorts = {kind for kind in told[place : place + 2] if kind}
        apart = after.at - before.at > TELLS_WITHIN
        if len(sorts) == 1 and (apart or told[place] is told[place + 1]):
            kind: WaterKind | None = sorts.pop().other
        elif not sorts and apart:
            kind = WaterKind.HIGH if max(before.height_m, after.height_m) < level_m else WaterKind.LOW
        else:
            kind = None
        found.append(Missing(before.at, after.at, kind))
    return found


def _known_until(tides: Sequence[_Tide], now: datetime) -> datetime:
    """Return the end of what is known without a gap from ``now`` on."""
    until = now
    for before, after in tides:
        if before.at <= until <= after.at:
            until = after.at
    return until


def _height(tides: Sequence[_Tide], at: datetime) -> float | None:
    for before, after in tides:
        if before.at <= at <= after.at:
            share = (at - before.at) / (after.at - before.at)
            return before.height_m + (after.height_m - before.height_m) / 2 * (1 - math.cos(math.pi * share))
    return None


def _crossing(low: Water, high: Water, level_m: float, crossings: Sequence[Crossing]) -> tuple[datetime, float]:
    """Return the likeliest instant at which a rising water reaches a level, and how much earlier it may be [min]."""
    rise = _Rise(low.at, low.height_m, high.at, high.height_m, level_m)
    watched = [crossing for crossing in crossings if abs(crossing.level_m - level_m) < 0.05]
    if not watched:
        return rise.crossed_at, rise.doubt
    found = [_Rise(each.low_at, each.low_m, each.high_at, each.high_m, each.level_m) for each in watched]
    late = sum(
        (each.at - earlier.crossed_at) / timedelta(minutes=1) * min(2.0, max(0.5, rise.reach / earlier.reach))
        for each, earlier in zip(watched, found, strict=True)
    ) / len(watched)
    # However late it was on another day, the level is reached within this flood.
    at = min(high.at, max(low.at, rise.crossed_at + timedelta(minutes=late)))
    return at, min(rise.doubt, 6 + 60 * 0.07 / rise.metres_an_hour)


@dataclass(frozen=True, slots=True)
class _Rise:
    """A flood from low to high water, and a level within it."""

    low_at: datetime
    low_m: float
    high_at: datetime
    high_m: float
    level_m: float

    @property
    def _range(self) -> float:
        return self.high_m - self.low_m

    @property
    def _share(self) -> float:
        return (self.level_m - self.low_m) / self._range

    @property
    def _hours(self) -> float:
        return (self.high_at - self.low_at) / timedelta(hours=1)

    @property
    def _steepness(self) -> float:
        # A level at the very top is crossed for ever slowly; a floor keeps what divides by it finite.
        return max(0.05, 2 * math.sqrt(self._share * (1 - self._share)))

    @property
    def crossed_at(self) -> datetime:
        """When a half cosine reaches the level."""
        return self.low_at + (self.high_at - self.low_at) * (math.acos(1 - 2 * self._share) / math.pi)

    @property
    def doubt(self) -> float:
        """How much earlier a real coast may reach it [min]."""
        longer, shorter = max(0.0, self._hours - 6.2), max(0.0, 6.2 - self._hours)
        return 8 + self._steepness * max(0.0, 25 + 22 * longer - 12 * shorter)

    @property
    def metres_an_hour(self) -> float:
        """How fast the water rises at the level [m/h]."""
        return math.pi * self._range * self._steepness / (2 * self._hours)

    @property
    def reach(self) -> float:
        """What a coast's own lateness grows with: a quarter-day tide is in proportion to the square of the range."""
        return self._range * self._steepness


def _minute(at: datetime) -> datetime:
    """Down to the whole minute, the safe side."""
    return at.replace(second=0, microsecond=0)
