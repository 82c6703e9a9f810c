"""Tide between a person's own high and low waters, and when to leave.

    h = h_low + (h_high - h_low)/2 (1 - cos(pi (t - t_low)/(t_high - t_low)))        between two entered extremes
    t_flood = t_low + (t_high - t_low)/pi arccos(1 - 2 (h_flood - h_low)/(h_high - h_low))         on the rising side
    leave by = t_flood less the walk and a margin, down to the whole minute

Source: half-cosine between extremes. Limits: the entered waters alone; beyond them nothing is known. A reminder, not a
guarantee: wind, swell and pressure lift water over any table. Verdict: computed from entered values.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise

from .refusal import Refusal, within

SHORTEST_TIDE, LONGEST_TIDE = timedelta(hours=1), timedelta(hours=16)
"""Between a high water and the low water beside it."""


@dataclass(frozen=True, slots=True)
class Water:
    """A high or low water: when, and its height [m] over the chart's zero."""

    at: datetime
    height_m: float


@dataclass(frozen=True, slots=True)
class LeaveBy:
    """``at`` None when the way back does not flood between the entered waters."""

    at: datetime | None
    floods_at: datetime | None
    known_until: datetime


def _sound(waters: Sequence[Water]) -> list[Water]:
    if len(waters) < 2:
        raise Refusal("waters", "A tide needs a high and a low water.", "Enter at least two from the tide table.")
    ordered = sorted(waters, key=lambda water: water.at)
    for place, water in enumerate(ordered):
        within(f"waters.{place}.height_m", water.height_m, -5, 25, "m")
        if place and not SHORTEST_TIDE <= water.at - ordered[place - 1].at <= LONGEST_TIDE:
            raise Refusal(f"waters.{place}.at", "High and low water are hours apart.", "Check the times of the table.")
    return ordered


def height(waters: Sequence[Water], at: datetime) -> float | None:
    """Height [m] at an instant, None outside the entered waters.

    Parameters
    ----------
    waters : high and low waters in order of time, heights above the chart's zero [m].
    at : with its zone.

    Raises
    ------
    Refusal
        Fewer than two waters, a height out of bounds, or times too close or too far apart.
    """
    ordered = _sound(waters)
    for before, after in pairwise(ordered):
        if before.at <= at <= after.at:
            share = (at - before.at) / (after.at - before.at)
            return before.height_m + (after.height_m - before.height_m) / 2 * (1 - math.cos(math.pi * share))
    return None


def leave_by(
    waters: Sequence[Water], floods_at_m: float, walk_minutes: float, margin_minutes: float, now: datetime
) -> LeaveBy:
    """When to turn back for the first flooding from ``now`` on; water that already stands over the way floods now.

    Both instants are rounded down to the minute, so that what is shown is never late.

    Parameters
    ----------
    waters : high and low waters in order of time, heights above the chart's zero [m].
    floods_at_m : height at which the way is under water [m].
    walk_minutes : back to dry ground [min].
    margin_minutes : kept in hand [min].
    now : with its zone.

    Raises
    ------
    Refusal
        As :func:`height`; a height, walk or margin out of bounds.
    """
    ordered = _sound(waters)
    within("floods_at_m", floods_at_m, -5, 25, "m")
    walk = within("walk_minutes", walk_minutes, 0, 600, "min")
    back = timedelta(minutes=walk + within("margin_minutes", margin_minutes, 0, 600, "min"))
    known_until = ordered[-1].at
    start = max(now, ordered[0].at)
    for before, after in pairwise(ordered):
        if after.at < start:
            continue
        floods_at = _reaches(before, after, floods_at_m, start)
        if floods_at is not None:
            return LeaveBy(_minute(floods_at - back), _minute(floods_at), known_until)
    return LeaveBy(None, None, known_until)


def _reaches(before: Water, after: Water, level_m: float, start: datetime) -> datetime | None:
    """The first instant from ``start`` on at which the water between two extremes stands at ``level_m`` or above."""
    begin = max(start, before.at)
    level = height((before, after), begin)
    if level is not None and level >= level_m:
        return begin
    if after.height_m < level_m:
        return None
    share = (level_m - before.height_m) / (after.height_m - before.height_m)
    crossing = before.at + (after.at - before.at) * (math.acos(1 - 2 * share) / math.pi)
    # Rounding may put the crossing a hair before an instant that is still dry.
    return max(begin, crossing)


def _minute(at: datetime) -> datetime:
    """Down to the whole minute, the safe side."""
    return at.replace(second=0, microsecond=0)
