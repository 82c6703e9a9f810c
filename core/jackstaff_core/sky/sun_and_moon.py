"""Where sun and moon stand, and when the sun crosses the altitudes that have names.

Positions come from the astral library, always without refraction: refraction shifts the light's level by up to half a
stop around sunset and bends its slope. Sunrise and sunset are the geometric altitude -0.833 deg (radius and mean
refraction). Whatever does not happen (polar day, polar night) has no time.

Source: astral (after NOAA, Meeus). Limits: a flat sea horizon; the low-precision sun is good to 0.01 deg.
Verdict: computed.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from itertools import pairwise

from astral import Observer, moon
from astral.julian import julianday_2000
from astral.sidereal import lmst
from astral.sun import zenith_and_azimuth

from ..words.refusal import within

EVENTS = (
    ("astronomical_dawn", -18.0, 1),
    ("nautical_dawn", -12.0, 1),
    ("civil_dawn", -6.0, 1),
    ("sunrise", -0.833, 1),
    ("noon", None, 0),
    ("sunset", -0.833, -1),
    ("civil_dusk", -6.0, -1),
    ("nautical_dusk", -12.0, -1),
    ("astronomical_dusk", -18.0, -1),
)
"""Names, geometric altitude [deg], 1 while rising and -1 while setting."""
_STEP_MINUTES = 12.0
_NODE_MINUTES = 20.0
_NODE = timedelta(minutes=_NODE_MINUTES)


@dataclass(frozen=True, slots=True)
class Place:
    """A place on earth [degrees, north and east positive]."""

    latitude: float
    longitude: float

    def __post_init__(self) -> None:
        within("latitude", self.latitude, -90, 90, "degrees")
        within("longitude", self.longitude, -180, 180, "degrees")


@dataclass(frozen=True, slots=True)
class Event:
    """A named moment; ``at`` None when it does not happen in the period."""

    name: str
    at: datetime | None


def observer(place: Place) -> Observer:
    """Return the place as the library takes it, at sea level."""
    return Observer(place.latitude, place.longitude, 0.0)


def sun_at(place: Place, at: datetime) -> tuple[float, float]:
    """Return the geometric altitude and azimuth (north 0, east 90) of the sun [deg].

    Parameters
    ----------
    place : Place
        Where one stands.
    at : datetime
        With its zone.
    """
    zenith, azimuth = zenith_and_azimuth(observer(place), at.astimezone(UTC), with_refraction=False)
    return 90 - zenith, azimuth


class Track:
    """The sun over a period: the library every twenty minutes, and cubics through its direction in between.

    The direction is smooth where altitude and azimuth are not; four points leave less than 1e-4 deg of error.
    """

    def __init__(self, place: Place, start: datetime, end: datetime) -> None:
        self.place, self.start = place, start
        self._nodes: list[tuple[float, float, float]] = []
        watcher, begun = observer(place), start - _NODE
        count = math.ceil((end - start) / _NODE) + 4
        for turn in range(count):
            zenith, azimuth = zenith_and_azimuth(watcher, begun + turn * _NODE, with_refraction=False)
            high, round_ = math.radians(90 - zenith), math.radians(azimuth)
            level = math.cos(high)
            self._nodes.append((level * math.sin(round_), level * math.cos(round_), math.sin(high)))

    def minute(self, at: datetime) -> float:
        """Return the minutes from the start of the period to ``at``, negative before it [min]."""
        return (at - self.start).total_seconds() / 60

    def at(self, minute: float) -> tuple[float, float]:
        """Return the geometric altitude and azimuth [deg] at a minute of the period."""
        place = minute / _NODE_MINUTES
        low = min(max(int(place), 0), len(self._nodes) - 4)
        t = place - low
        # Lagrange through the nodes at -1, 0, 1 and 2.
        a = -t * (t - 1) * (t - 2) / 6
        b = (t + 1) * (t - 1) * (t - 2) / 2
        c = -(t + 1) * t * (t - 2) / 2
        d = (t + 1) * t * (t - 1) / 6
        (x0, y0, z0), (x1, y1, z1), (x2, y2, z2), (x3, y3, z3) = self._nodes[low : low + 4]
        east = a * x0 + b * x1 + c * x2 + d * x3
        north = a * y0 + b * y1 + c * y2 + d * y3
        up = a * z0 + b * z1 + c * z2 + d * z3
        return math.degrees(math.asin(max(-1.0, min(1.0, up)))), math.degrees(math.atan2(east, north)) % 360


@lru_cache(maxsize=1024)
def _moon_direction(place: Place, instant: datetime) -> tuple[float, float]:
    """Return the altitude and azimuth of the moon [deg], both from one of the library's positions, which are dear.

    sin h = sin d sin l + cos d cos l cos H, with hour angle H, declination d, latitude l (Meeus).
    """
    position = moon.moon_position(julianday_2000(instant))
    hour = math.radians(lmst(instant, place.longitude)) - position.right_ascension
    sin_d, cos_d = math.sin(position.declination), math.cos(position.declination)
    sin_l, cos_l = math.sin(math.radians(place.latitude)), math.cos(math.radians(place.latitude))
    north = sin_d * cos_l - math.cos(hour) * cos_d * sin_l
    east = -math.sin(hour) * cos_d
    up = math.cos(hour) * cos_d * cos_l + sin_d * sin_l
    return math.degrees(math.atan2(up, math.hypot(north, east))), math.degrees(math.atan2(east, north)) % 360


def moon_at(place: Place, at: datetime) -> tuple[float, float]:
    """Return the altitude of the moon and its elongation from the sun [deg]; 0 is new, 180 full.

    cos E = sin h_s sin h_m + cos h_s cos h_m cos(A_s - A_m), the angle between the two directions as seen from the
    place. Limits: the library's moon is within 0.5 deg, and parallax moves it by up to 1.

    Parameters
    ----------
    place : Place
        Where one stands.
    at : datetime
        With its zone.
    """
    instant = at.astimezone(UTC)
    zenith, azimuth = zenith_and_azimuth(observer(place), instant, with_refraction=False)
    altitude, away = _moon_direction(place, instant)
    sun, high = math.radians(90 - zenith), math.radians(altitude)
    between = math.radians(azimuth - away)
    cosine = math.sin(sun) * math.sin(high) + math.cos(sun) * math.cos(high) * math.cos(between)
    return altitude, math.degrees(math.acos(max(-1.0, min(1.0, cosine))))


def events(track: Track, end: datetime) -> tuple[Event, ...]:
    """Return every named moment of the period in order of time; those that do not happen come last, without a time.

    Parameters
    ----------
    track : Track
        The sun over the period.
    end : datetime
        Of the period.
    """
    found = sorted(_crossings(track, end), key=lambda event: (event.at, event.name))
    met = {event.name for event in found}
    return (*found, *(Event(name, None) for name, _, _ in EVENTS if name not in met))


def crossings(track: Track, end: datetime, altitude: float, names: tuple[str, str]) -> tuple[Event, ...]:
    """Return when the sun rises through an altitude of one's own and sinks through it, under the two names given.

    Both come back without a time when neither happens.

    Parameters
    ----------
    track : Track
        The sun over the period.
    end : datetime
        Of the period.
    altitude : float
        The sun's [deg].
    names : tuple[str, str]
        Of its rise through it and of its sinking.
    """
    steps = _steps(track, track.minute(end))
    passed = sorted(
        (minute, name)
        for name, way in zip(names, (1, -1), strict=True)
        for minute in _passes(track, steps, altitude, way)
    )
    found = [Event(name, track.start + timedelta(minutes=minute)) for minute, name in passed]
    met = {event.name for event in found}
    return (*found, *(Event(name, None) for name in names if name not in met))


def _steps(track: Track, last: float) -> list[tuple[float, float]]:
    """Return the minute and altitude [deg] of the sun along the period, up to ``last``."""
    minutes = [turn * _STEP_MINUTES for turn in range(math.ceil(last / _STEP_MINUTES))]
    return [(minute, track.at(minute)[0]) for minute in (*minutes, last)]


def _passes(track: Track, steps: list[tuple[float, float]], altitude: float, way: int) -> Iterator[float]:
    """Yield the minutes at which the sun rises (``way`` 1) or sinks (-1) through an altitude [deg]."""
    for (earlier, before), (later, after) in pairwise(steps):
        if before < altitude <= after if way > 0 else before >= altitude > after:
            yield _when(track, altitude, earlier, later, way)


def _noons(track: Track, steps: list[tuple[float, float]]) -> Iterator[float]:
    """Yield the minutes at which the sun is highest.

    That is told from both sides, so a step past either end is looked at.
    """
    last = steps[-1][0]
    first, past = -_STEP_MINUTES, last + _STEP_MINUTES
    around = [(first, track.at(first)[0]), *steps, (past, track.at(past)[0])]
    for (earlier, low), (_, high), (later, after) in zip(around, around[1:], around[2:], strict=False):
        if low < high >= after and 0 <= (highest := _highest(track, earlier, later)) <= last:
            yield highest


def _crossings(track: Track, end: datetime) -> Iterator[Event]:
    steps = _steps(track, track.minute(end))
    for name, altitude, way in EVENTS:
        found = _noons(track, steps) if altitude is None else _passes(track, steps, altitude, way)
        for minute in found:
            yield Event(name, track.start + timedelta(minutes=minute))


def _when(track: Track, altitude: float, low: float, high: float, way: int) -> float:
    while high - low > 1e-3:
        middle = (low + high) / 2
        above = track.at(middle)[0] >= altitude
        low, high = (low, middle) if above == (way > 0) else (middle, high)
    return high


def _highest(track: Track, low: float, high: float) -> float:
    while high - low > 0.02:
        third = (high - low) / 3
        first, two = low + third, high - third
        low, high = (first, high) if track.at(first)[0] < track.at(two)[0] else (low, two)
    return (low + high) / 2


def in_frame(
    focal_mm: float, bearing_deg: float, elevation_deg: float, sun_azimuth: float, sun_altitude: float
) -> tuple[float, float] | None:
    """Return where the sun falls on the sensor [mm, x right and y up] of a level camera, None when it is behind.

    Parameters
    ----------
    focal_mm : float
        Focal length [mm].
    bearing_deg, elevation_deg : float
        Where the camera looks [deg].
    sun_azimuth, sun_altitude : float
        Of the sun [deg].
    """
    away = math.radians(sun_azimuth - bearing_deg)
    up, tilt = math.radians(sun_altitude), math.radians(elevation_deg)
    ahead = math.cos(up) * math.cos(away) * math.cos(tilt) + math.sin(up) * math.sin(tilt)
    if ahead <= 0:
        return None
    across = math.cos(up) * math.sin(away)
    high = math.sin(up) * math.cos(tilt) - math.cos(up) * math.cos(away) * math.sin(tilt)
    return focal_mm * across / ahead, focal_mm * high / ahead
