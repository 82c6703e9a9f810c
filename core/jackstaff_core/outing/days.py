"""Which day: the coming days of a place side by side, and in which order for what one is after.

Each day runs from midnight to midnight by the place's clock. Sun and twilight are those of sky/sun_and_moon.py, the
light that of sky/forecast.py every ten minutes; the moon's height is asked every hour, and the share of its disc that
is lit is

    lit = (1 - cos E) / 2          E the elongation from the sun, 0 at new, 180 deg at full moon

and the hours of a look are those in which some way of this bag gives its time in that light (outing/swaps.py). Waters
are the person's own or a feed's; without any, nothing is said about them.

Source: sky/sun_and_moon.py, sky/forecast.py, outing/swaps.py; Meeus for the lit share. Limits: 31 days; hours to ten
minutes, under one sky for every day; the moon's rise to five minutes. Verdict: computed for sun and moon, an estimate
for the light.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, time, timedelta
from enum import StrEnum
from itertools import pairwise
from typing import Annotated
from zoneinfo import ZoneInfo

from ..scales.spoken import time_in_words
from ..sky.cover import Sky
from ..sky.forecast import LightPoint, LightQuestion, Scene, forecast
from ..sky.ridge import Ridge
from ..sky.sun_and_moon import Event, Place, moon_at
from ..wire.marks import Between, Inline, Size
from .plan import Zone
from .swaps import SwapWish, aim_checker
from .tide import Water, WaterKind, water_kinds

MOST_DAYS = 31
MOST_WATERS = 200
STEP_SECONDS = 600.0
MOON_STEP = timedelta(minutes=60)
DARK_BELOW = -12.0
"""Sun's altitude [deg] under which the sky counts as dark: nautical twilight is over."""
NEAR_RISE = (timedelta(minutes=-90), timedelta(minutes=60))
"""Around sunrise, when a dawn's pictures are made; a dusk's lie the other way round."""


class Matter(StrEnum):
    """What one is after."""

    DATE = "date"
    LOW_AT_SUNRISE = "low_at_sunrise"
    LOW_AT_SUNSET = "low_at_sunset"
    LOOK_AT_SUNRISE = "look_at_sunrise"
    LOOK_AT_SUNSET = "look_at_sunset"
    MOONLIGHT = "moonlight"
    DARK = "dark"


@dataclass(frozen=True, slots=True)
class DaysQuestion:
    """A place, the first of the days, and what matters; ``wish`` is the time looked for, with the bag."""

    place: Annotated[Place, Inline()]
    zone: Zone
    first: date
    days: Annotated[int, Between(1, MOST_DAYS, "days")] = 14
    sky: Sky = Sky.CLEAR
    scene: Scene = Scene.SKY_LIT
    ridge: Ridge | None = None
    waters: Annotated[tuple[Water, ...], Size(0, MOST_WATERS)] = ()
    wish: SwapWish | None = None
    matter: Matter = Matter.DATE


@dataclass(frozen=True, slots=True)
class Span:
    """From an instant to another."""

    start: datetime
    end: datetime


@dataclass(frozen=True, slots=True)
class Turn:
    """A high or a low water of the day."""

    at: datetime
    height_m: float
    high: bool


@dataclass(frozen=True, slots=True)
class Day:
    """One day; ``lit`` is the moon's lit share at its noon, ``why`` what speaks for it in the order asked for."""

    date: date
    begins: datetime
    ends: datetime
    events: tuple[Event, ...]
    begins_deg: float
    """The sun's altitude at the day's first midnight, so that what the sky is before the first event is known."""
    lit: float
    moon_up: tuple[Span, ...]
    dark: tuple[Span, ...]
    waters: tuple[Turn, ...]
    look: tuple[Span, ...]
    why: str | None


@dataclass(frozen=True, slots=True)
class Days:
    """The days in the order of what matters, the best first; ``none_because`` where nothing can be told about it."""

    days: tuple[Day, ...]
    none_because: str | None


def days(question: DaysQuestion) -> Days:
    """Return the coming days of a place.

    Raises
    ------
    Refusal
        What the light or the wish refuses.
    """
    zone = ZoneInfo(question.zone)
    reached = aim_checker(question.wish) if question.wish else None
    turns = _turns(question.waters)
    found = [_day(question, zone, question.first + timedelta(days=n), turns, reached) for n in range(question.days)]
    merit = _MERITS[question.matter]
    judged = [(merit(day, zone), day) for day in found]
    known = [each for each in judged if each[0] is not None]
    none_because = None if known or question.matter is Matter.DATE else _NONE[question.matter]
    ordered = sorted(judged, key=lambda each: (each[0] is None, each[0][0] if each[0] else 0.0))
    return Days(tuple(_with_why(day, why) for why, day in ordered), none_because)


def _day(
    question: DaysQuestion,
    zone: ZoneInfo,
    day: date,
    turns: Sequence[Turn],
    reached: Callable[[LightPoint], bool] | None,
) -> Day:
    begins, ends = (datetime.combine(day + timedelta(days=more), time(), zone).astimezone(UTC) for more in (0, 1))
    light = forecast(
        LightQuestion(question.place, begins, ends, STEP_SECONDS, question.sky, question.scene, ridge=question.ridge)
    )
    moon, elongation = _moon(question.place, begins, ends)
    in_reach = [reached is not None and reached(point) for point in light.points]
    return Day(
        date=day,
        begins=begins,
        ends=ends,
        events=tuple(event for event in light.events if event.at is not None),
        begins_deg=light.points[0].altitude_deg,
        lit=(1 - math.cos(math.radians(elongation))) / 2,
        moon_up=_risen(moon),
        dark=_runs(light.points, [point.altitude_deg < DARK_BELOW for point in light.points]),
        waters=tuple(turn for turn in turns if begins <= turn.at < ends),
        look=_runs(light.points, in_reach),
        why=None,
    )


def _moon(place: Place, begins: datetime, ends: datetime) -> tuple[list[tuple[datetime, float]], float]:
    """Return the moon's altitude every hour, and its elongation at midday."""
    count = int((ends - begins) / MOON_STEP)
    samples = [(begins + turn * MOON_STEP, *moon_at(place, begins + turn * MOON_STEP)) for turn in range(count + 1)]
    return [(at, altitude) for at, altitude, _ in samples], samples[len(samples) // 2][2]


def _risen(moon: Sequence[tuple[datetime, float]]) -> tuple[Span, ...]:
    """While it stands above the horizon, the crossings by straight lines."""
    spans: list[Span] = []
    start = moon[0][0] if moon[0][1] > 0 else None
    for (before, low), (after, high) in pairwise(moon):
        if (low > 0) == (high > 0):
            continue
        at = before + (after - before) * (low / (low - high))
        if start is None:
            start = at
        else:
            spans.append(Span(start, at))
            start = None
    return (*spans, Span(start, moon[-1][0])) if start is not None else tuple(spans)


def _runs(points: Sequence[LightPoint], holds: Sequence[bool]) -> tuple[Span, ...]:
    """Return the stretches of light over which something holds."""
    spans: list[Span] = []
    start: datetime | None = None
    for point, yes in zip(points, holds, strict=True):
        if yes and start is None:
            start = point.at
        elif not yes and start is not None:
            spans.append(Span(start, point.at))
            start = None
    return (*spans, Span(start, points[-1].at)) if start is not None else tuple(spans)


def _turns(waters: Sequence[Water]) -> list[Turn]:
    """Return the high and low waters (outing/tide.py).

    One of unknown kind is left out, one that was entered twice counts once.
    """
    ordered = sorted({water.at: water for water in waters}.values(), key=lambda water: water.at)
    return [
        Turn(water.at, water.height_m, kind is WaterKind.HIGH)
        for water, kind in zip(ordered, water_kinds(ordered), strict=True)
        if kind is not None
    ]


_Merit = tuple[float, str]
"""Smaller is better, and the words for it."""


def _with_why(day: Day, merit: _Merit | None) -> Day:
    if merit is None:
        return day
    return replace(day, why=merit[1])


def _at(day: Day, name: str) -> datetime | None:
    return next((event.at for event in day.events if event.name == name), None)


def _low_near(name: str, named: str) -> Callable[[Day, ZoneInfo], _Merit | None]:
    def merit(day: Day, zone: ZoneInfo) -> _Merit | None:
        sun = _at(day, name)
        lows = [turn for turn in day.waters if not turn.high]
        if sun is None or not lows:
            return None
        low = min(lows, key=lambda turn: abs(turn.at - sun))
        apart = (low.at - sun) / timedelta(minutes=1)
        when = f"{_in_words(abs(apart))} {'after' if apart > 0 else 'before'}" if abs(apart) >= 1 else "at"
        return abs(apart), f"low water {_clock(low.at, zone)}, {when} {named}"

    return merit


def _look_near(name: str, named: str, around: tuple[timedelta, timedelta]) -> Callable[[Day, ZoneInfo], _Merit | None]:
    def merit(day: Day, zone: ZoneInfo) -> _Merit | None:
        sun = _at(day, name)
        if sun is None or not day.look:
            return None
        early, late = sun + around[0], sun + around[1]
        within = [Span(max(span.start, early), min(span.end, late)) for span in day.look]
        within = [span for span in within if span.end > span.start]
        if not within:
            return None
        total = sum((span.end - span.start for span in within), timedelta()) / timedelta(minutes=1)
        hours = " and ".join(f"{_clock(span.start, zone)} to {_clock(span.end, zone)}" for span in within[:2])
        return -total, f"in reach around {named} {hours}"

    return merit


def _overlap(spans: Sequence[Span], others: Sequence[Span]) -> float:
    """Return the minutes that two sets of spans share."""
    shared = timedelta()
    for span in spans:
        for other in others:
            shared += max(timedelta(), min(span.end, other.end) - max(span.start, other.start))
    return shared / timedelta(minutes=1)


def _moonlight(day: Day, zone: ZoneInfo) -> _Merit | None:
    minutes = _overlap(day.moon_up, day.dark)
    if minutes < 1:
        return None
    return -minutes * day.lit, f"moon {round(100 * day.lit)} % lit, up for {_in_words(minutes)} of the dark"


def _dark(day: Day, zone: ZoneInfo) -> _Merit | None:
    night = sum((span.end - span.start for span in day.dark), timedelta()) / timedelta(minutes=1)
    minutes = night - _overlap(day.moon_up, day.dark)
    return (-minutes, f"{_in_words(minutes)} dark without the moon") if minutes >= 1 else None


_MERITS: dict[Matter, Callable[[Day, ZoneInfo], _Merit | None]] = {
    Matter.DATE: lambda day, zone: None,
    Matter.LOW_AT_SUNRISE: _low_near("sunrise", "sunrise"),
    Matter.LOW_AT_SUNSET: _low_near("sunset", "sunset"),
    Matter.LOOK_AT_SUNRISE: _look_near("sunrise", "sunrise", NEAR_RISE),
    Matter.LOOK_AT_SUNSET: _look_near("sunset", "sunset", (-NEAR_RISE[1], -NEAR_RISE[0])),
    Matter.MOONLIGHT: _moonlight,
    Matter.DARK: _dark,
}
_NONE = {
    Matter.LOW_AT_SUNRISE: "No low water is entered for a day with a sunrise.",
    Matter.LOW_AT_SUNSET: "No low water is entered for a day with a sunset.",
    Matter.LOOK_AT_SUNRISE: "This bag does not reach your look around any of these sunrises, or no look is chosen.",
    Matter.LOOK_AT_SUNSET: "This bag does not reach your look around any of these sunsets, or no look is chosen.",
    Matter.MOONLIGHT: "The moon is not up in the dark of any of these days.",
    Matter.DARK: "It does not get dark without the moon on any of these days.",
}


def _clock(at: datetime, zone: ZoneInfo) -> str:
    return at.astimezone(zone).strftime("%H:%M")


def _in_words(minutes: float) -> str:
    return time_in_words(60 * round(minutes))
