"""Test core/sky/sun_and_moon.py."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from astral import Observer
from astral.sun import sun as library_sun
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.sky.sun_and_moon import EVENTS, Event, Place, Track, crossings, events, in_frame, moon_at, sun_at

VARDSUND = Place(58.05, 6.80)


def utc(text: str) -> datetime:
    return datetime.fromisoformat(text).replace(tzinfo=UTC)


def happening(place: Place, start: datetime, end: datetime) -> tuple[Event, ...]:
    return events(Track(place, start, end), end)


@given(st.floats(-89.9, 89.9), st.floats(-180, 180), st.integers(0, 364), st.floats(0, 1440))
def test_the_track_is_the_library_s(latitude: float, longitude: float, day: int, minute: float) -> None:
    place, start = Place(latitude, longitude), utc("2027-01-01T00:00") + timedelta(days=day)
    altitude, azimuth = Track(place, start, start + timedelta(days=1)).at(minute)
    own, round_ = sun_at(place, start + timedelta(minutes=minute))
    # The library itself works to whole seconds of time.
    assert altitude == pytest.approx(own, abs=0.006)
    away = (azimuth - round_ + 180) % 360 - 180
    assert abs(away) * math.cos(math.radians(own)) < 0.006


# New and full moons and quarters of 2027 by the almanac's mean lunation (29.530589 d from 2000-01-06 18:14 UTC).
@given(st.integers(330, 345), st.sampled_from([(0.0, 0.0), (0.25, 90.0), (0.5, 180.0), (0.75, 90.0)]))
def test_the_moon_goes_round_in_a_lunation(turn: int, phase: tuple[float, float]) -> None:
    share, elongation = phase
    at = utc("2000-01-06T18:14") + timedelta(days=29.530589 * (turn + share))
    # True phases lie within 14 hours of the mean ones, at half a degree an hour; parallax and node add six.
    assert moon_at(VARDSUND, at)[1] == pytest.approx(elongation, abs=14 * 0.55 + 6.3)


@given(st.integers(0, 60 * 24 * 60))
def test_the_moon_never_jumps(minute: int) -> None:
    at = utc("2027-04-01T00:00") + timedelta(minutes=minute)
    before, after = (moon_at(VARDSUND, at + timedelta(seconds=side)) for side in (-30, 30))
    assert before == pytest.approx(after, abs=0.3)


@pytest.mark.parametrize(
    ("place", "day"),
    [
        (VARDSUND, "2027-04-17"),
        (VARDSUND, "2027-03-28"),  # the clocks change
        (Place(-33.9, 18.4), "2027-06-21"),
        (Place(0.0, -60.0), "2027-09-23"),
        (Place(65.0, 20.0), "2027-12-10"),
    ],
)
def test_sunrise_noon_and_sunset_are_the_library_s_own(place: Place, day: str) -> None:
    noon = utc(day + "T12:00") - timedelta(hours=place.longitude / 15)
    found = {event.name: event.at for event in happening(place, noon - timedelta(hours=12), noon + timedelta(hours=12))}
    own = library_sun(Observer(place.latitude, place.longitude), date=noon.date(), tzinfo=ZoneInfo("UTC"))
    for name in ("sunrise", "noon", "sunset"):
        at = found[name]
        assert at is not None
        assert abs((at - own[name]).total_seconds()) < 90, name
    order = [found[name] for name, _, _ in EVENTS if found[name] is not None]
    assert order == sorted(order, key=lambda at: at or noon)


def _own_altitude(track: Track, end: datetime) -> tuple[Event, ...]:
    return crossings(track, end, 12.5, ("up", "down"))


@pytest.mark.parametrize("found_by", [events, _own_altitude])
@pytest.mark.parametrize(("before", "after"), [(1, 3600), (20, 3600), (59, 3600), (3600, 2), (3600, 20), (800, 130)])
def test_a_moment_is_the_same_whenever_the_period_begins_and_ends(
    found_by: Callable[[Track, datetime], tuple[Event, ...]], before: int, after: int
) -> None:
    day, night = utc("2027-04-17T00:00"), utc("2027-04-18T00:00")
    happened = [(event.name, event.at) for event in found_by(Track(VARDSUND, day, night), night) if event.at]
    assert len(happened) >= 2
    for name, at in happened:
        begin, end = at - timedelta(seconds=before), at + timedelta(seconds=after)
        again = {each.name: each.at for each in found_by(Track(VARDSUND, begin, end), end)}[name]
        assert again is not None, name
        # The library works to whole seconds, and the highest point is flat.
        assert abs((again - at).total_seconds()) < (2 if name == "noon" else 1), name
        later = end + timedelta(hours=2)
        gone = {each.name: each.at for each in found_by(Track(VARDSUND, end, later), later)}
        assert gone[name] is None, name


def test_what_does_not_happen_says_so() -> None:
    north = Place(75.0, 20.0)
    summer = {event.name: event.at for event in happening(north, utc("2027-06-21T00:00"), utc("2027-06-22T00:00"))}
    winter = {event.name: event.at for event in happening(north, utc("2027-12-21T00:00"), utc("2027-12-22T00:00"))}
    assert (summer["sunrise"], summer["sunset"], summer["civil_dusk"]) == (None, None, None)
    assert summer["noon"] is not None
    assert winter["sunrise"] is None
    assert winter["nautical_dawn"] is not None
    assert summer.keys() == winter.keys() == {name for name, _, _ in EVENTS}


@pytest.mark.parametrize(
    ("focal", "azimuth", "elevation", "sun_azimuth", "sun_altitude", "place"),
    [
        (24, 90, 5, 100, 3, (4.22833, -0.818726)),
        (16, 90, 0, 130, 10, (13.4256, 3.68286)),
        (50, 90, 0, 120, 2, (28.8675, 2.01615)),
        (24, 90, 0, 270, 5, None),
    ],
)
def test_where_the_sun_is_in_the_frame(
    focal: float, azimuth: float, elevation: float, sun_azimuth: float, sun_altitude: float,
    place: tuple[float, float] | None,
) -> None:  # fmt: skip
    found = in_frame(focal, azimuth, elevation, sun_azimuth, sun_altitude)
    assert (found is None) == (place is None)
    if found and place:
        assert list(found) == pytest.approx(list(place), rel=1e-5)
