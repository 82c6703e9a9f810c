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

from astral import Observer, moon
from astral.sun import zenith_and_azimuth

from .refusal import within

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
_STEP = timedelta(minutes=12)


@dataclass(frozen=True, slots=True)
class Place:
    latitude: float
    longitude: float

    def __post_init__(self) -> None:
        within("latitude", self.latitude, -90, 90, "degrees")
        within("longitude", self.longitude, -180, 180, "degrees")

    @property
    def observer(self) -> Observer:
        return Observer(self.latitude, self.longitude, 0.0)


@dataclass(frozen=True, slots=True)
class Event:
    """A named moment; ``at`` None when it does not happen in the period."""

    name: str
    at: datetime | None


def sun_at(place: Place, at: datetime) -> tuple[float, float]:
    """Geometric altitude and azimuth (north 0, east 90) of the sun [deg]."""
    zenith, azimuth = zenith_and_azimuth(place.observer, at.astimezone(UTC), with_refraction=False)
    return 90 - zenith, azimuth


def moon_at(place: Place, at: datetime) -> tuple[float, float]:
    """Altitude of the moon and its elongation from the sun [deg]; 180 is full."""
    instant = at.astimezone(UTC)
    age = moon.phase(instant.date()) / 28 * 360
    return float(moon.elevation(place.observer, instant)), age if age <= 180 else 360 - age


def events(place: Place, start: datetime, end: datetime) -> tuple[Event, ...]:
    """Every named moment of the period in order of time; those that do not happen come last, without a time."""
    found = sorted(_crossings(place, start, end), key=lambda event: (event.at, event.name))
    met = {event.name for event in found}
    return (*found, *(Event(name, None) for name, _, _ in EVENTS if name not in met))


def _crossings(place: Place, start: datetime, end: datetime) -> Iterator[Event]:
    before, earlier = sun_at(place, start)[0], start
    slope_before: float | None = None
    while earlier < end:
        later = min(earlier + _STEP, end)
        after = sun_at(place, later)[0]
        for name, altitude, way in EVENTS:
            if altitude is not None and (before < altitude <= after if way > 0 else before >= altitude > after):
                yield Event(name, _when(place, altitude, earlier, later, way))
        slope = after - before
        if slope_before is not None and slope_before > 0 >= slope:
            yield Event("noon", _highest(place, earlier - _STEP, later))
        before, earlier, slope_before = after, later, slope


def _when(place: Place, altitude: float, low: datetime, high: datetime, way: int) -> datetime:
    while high - low > timedelta(seconds=0.5):
        middle = low + (high - low) / 2
        above = sun_at(place, middle)[0] >= altitude
        low, high = (low, middle) if above == (way > 0) else (middle, high)
    return high


def _highest(place: Place, low: datetime, high: datetime) -> datetime:
    while high - low > timedelta(seconds=2):
        third = (high - low) / 3
        one, two = low + third, high - third
        low, high = (one, high) if sun_at(place, one)[0] < sun_at(place, two)[0] else (low, two)
    return low + (high - low) / 2


def in_frame(
    focal_mm: float, bearing_deg: float, elevation_deg: float, sun_azimuth: float, sun_altitude: float
) -> tuple[float, float] | None:
    """Where the sun falls on the sensor [mm, x right and y up] of a level camera, None when it is behind."""
    away = math.radians(sun_azimuth - bearing_deg)
    up, tilt = math.radians(sun_altitude), math.radians(elevation_deg)
    ahead = math.cos(up) * math.cos(away) * math.cos(tilt) + math.sin(up) * math.sin(tilt)
    if ahead <= 0:
        return None
    across = math.cos(up) * math.sin(away)
    high = math.sin(up) * math.cos(tilt) - math.cos(up) * math.cos(away) * math.sin(tilt)
    return focal_mm * across / ahead, focal_mm * high / ahead
