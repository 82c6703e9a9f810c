"""A simulated tide and weather feed for the invented coast of Vardsund.

A stand-in for the official services of a real place, and marked as such wherever it is shown: two harmonic terms make
the high and low waters, a seeded walk makes sky, cloud, wind, temperature and swell. The same place and day give the
same answer. It says nothing about any real water or weather.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Protocol

from jackstaff_core.outing.tide import Water, WaterKind
from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.words.refusal import Refusal

SOURCE = "Simulated feed (a stand-in, not a forecast)"
LONGEST = timedelta(days=7)
_EPOCH = datetime(2027, 1, 1, tzinfo=UTC)
_MEAN_M = 1.1
_TERMS = ((0.62, 12.4206, 0.9), (0.24, 12.0, 2.1))
"""Amplitude [m], period [h], phase [rad]: the moon's and the sun's half-daily tide."""


@dataclass(frozen=True, slots=True)
class Weather:
    """An hour of weather; wind at ground height, swell as significant height."""

    at: datetime
    sky: Sky
    cloud_m: float | None
    wind_m_s: float
    wind_from_deg: float
    celsius: float
    swell_m: float


@dataclass(frozen=True, slots=True)
class Waters:
    """High and low waters alone, made up by the stand-in that ships."""

    waters: tuple[Water, ...]
    simulated: bool = True
    source: str = SOURCE


@dataclass(frozen=True, slots=True)
class Feed:
    """Never a forecast: what the stand-in that ships makes up for this place and day."""

    waters: tuple[Water, ...]
    weather: tuple[Weather, ...]
    simulated: bool = True
    source: str = SOURCE


class Coast(Protocol):
    """What a tide and weather service answers."""

    def waters(self, place: Place, start: datetime, end: datetime) -> tuple[Water, ...]:
        """Return the high and low waters of a period."""
        ...

    def weather(self, place: Place, start: datetime, end: datetime) -> tuple[Weather, ...]:
        """Return the weather of every hour of a period."""
        ...


class SimulatedCoast:
    """The stand-in that ships."""

    def waters(self, place: Place, start: datetime, end: datetime) -> tuple[Water, ...]:
        """Return the high and low waters between two instants, to the nearest minute and 5 cm."""
        _sound(start, end)
        found = []
        step = timedelta(minutes=6)
        at, before, here = start, _level(place, start - step), _level(place, start)
        while at <= end:
            after = _level(place, at + step)
            if (here - before) * (after - here) <= 0 and here != before:
                bend = before - 2 * here + after
                turn = at + step * ((before - after) / (2 * bend) if bend else 0.0)
                minute = turn.replace(second=0, microsecond=0)
                kind = WaterKind.HIGH if bend < 0 else WaterKind.LOW
                found.append(Water(minute, round(_level(place, turn) * 20) / 20, kind))
            at, before, here = at + step, here, after
        return tuple(found)

    def weather(self, place: Place, start: datetime, end: datetime) -> tuple[Weather, ...]:
        """Return each full hour from the one before ``start`` to ``end``."""
        _sound(start, end)
        hour = start.replace(minute=0, second=0, microsecond=0)
        hours = []
        while hour <= end:
            hours.append(_hour(place, hour))
            hour += timedelta(hours=1)
        return tuple(hours)


def _sound(start: datetime, end: datetime) -> None:
    if not timedelta(0) <= end - start <= LONGEST:
        raise Refusal("to", "The feed knows up to 7 days at a time.", "Give an end after the start, within 7 days.")


def _level(place: Place, at: datetime) -> float:
    hours = (at - _EPOCH) / timedelta(hours=1)
    behind = math.radians(place.longitude) * 2
    return _MEAN_M + sum(
        size * math.cos(2 * math.pi * hours / period - phase - behind) for size, period, phase in _TERMS
    )


def _dice(place: Place, day: datetime, what: str) -> random.Random:
    return random.Random(f"{place.latitude:.1f} {place.longitude:.1f} {day:%Y-%m-%d} {what}")  # noqa: S311


def _hour(place: Place, at: datetime) -> Weather:
    day = _dice(place, at, "day")
    sky = day.choices(list(Sky), (3, 4, 2, 1))[0]
    cloud = {"clear": None, "thin": 6000.0, "overcast": 1200.0, "heavy": 700.0}[sky.value]
    wind, bearing = day.uniform(2, 11), day.uniform(0, 360)
    season = -math.cos(2 * math.pi * (at.timetuple().tm_yday - 20) / 365)
    warm = 9 + 8 * season * (1 if place.latitude >= 0 else -1) - abs(place.latitude) / 15
    swing = 3.5 * math.cos(2 * math.pi * (at.hour + place.longitude / 15 - 15) / 24)
    gust = _dice(place, at, f"hour {at.hour}")
    return Weather(
        at,
        sky,
        cloud,
        round(max(0.5, wind + gust.uniform(-1, 1)), 1),
        round((bearing + gust.uniform(-10, 10)) % 360),
        round(warm + swing + day.uniform(-3, 3), 1),
        round(0.15 + wind * day.uniform(0.05, 0.14), 1),
    )
