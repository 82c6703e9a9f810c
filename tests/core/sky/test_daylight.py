"""Test core/sky/daylight.py."""

from __future__ import annotations

import math
from datetime import UTC, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.sky.daylight import NIGHT_LUX, ev100, ev_rate, moon_lux, stops_per_degree, sun_lux
from jackstaff_core.sky.sun_and_moon import Place, moon_at, sun_at
from tests.core.tables import facts, near


@given(st.floats(-25, 89), st.floats(0.001, 0.5))
def test_more_sun_is_more_light_and_the_joints_do_not_show(altitude: float, step: float) -> None:
    # A joint of the source's rows may step by what its constants leave, never by more than a hundredth of a stop.
    assert sun_lux(altitude + step) >= sun_lux(altitude) * 2**-0.01
    rise = math.log2(sun_lux(altitude + 1e-4) / sun_lux(altitude)) / 1e-4
    if all(abs(altitude - joint) > 1e-3 for joint in (-18, -12, -5, -0.8, 5, 20)):
        assert stops_per_degree(altitude) == pytest.approx(rise, abs=0.02)


@pytest.mark.parametrize("altitude", [-18.001, -30, -90])
def test_below_the_last_row_it_is_night(altitude: float) -> None:
    assert (sun_lux(altitude), stops_per_degree(altitude)) == (NIGHT_LUX, 0)
    assert moon_lux(-1, 180) == 0


VARDSUND = Place(58.05, 6.80)


def utc(text: str) -> datetime:
    return datetime.fromisoformat(text).replace(tzinfo=UTC)


@facts("daylight")
def test_clear_sky(row: dict[str, str]) -> None:
    altitude = float(row["altitude"])
    assert sun_lux(altitude) == near(row["lux"])
    assert ev100(sun_lux(altitude)) == near(row["ev100"])
    assert stops_per_degree(altitude) == near(row["slope"])


@given(st.floats(-17.9, 89), st.floats(0.01, 1))
def test_light_rises_with_the_sun_without_a_step(altitude: float, more: float) -> None:
    assert sun_lux(altitude) < sun_lux(min(90.0, altitude + more))
    assert abs(math.log2(sun_lux(altitude + 1e-6) / sun_lux(altitude))) < 1e-4


@facts("sun")
def test_sun(row: dict[str, str]) -> None:
    at = utc(row["time"].removesuffix(" UTC"))
    place = Place(float(row["latitude"]), float(row["longitude"]))
    altitude, azimuth = sun_at(place, at)
    assert altitude == pytest.approx(float(row["altitude"]), abs=0.02)
    assert azimuth == pytest.approx(float(row["azimuth"]), abs=0.03)
    assert sun_lux(altitude) == pytest.approx(float(row["lux"]), rel=0.03)
    assert ev_rate(altitude, azimuth, place.latitude) == pytest.approx(float(row["rate"]), abs=0.002)


def test_the_moon_sets_a_floor() -> None:
    # A full moon at 45 deg is the sun at -8.7 deg.
    assert moon_lux(45, 180) == pytest.approx(0.16, rel=0.1)
    assert moon_lux(45, 180) == pytest.approx(sun_lux(-8.7), rel=0.2)
    assert moon_lux(-2, 180) == 0
    assert moon_lux(30, 90) < moon_lux(30, 180) / 5
    altitude, elongation = moon_at(VARDSUND, utc("2027-04-20T22:00"))
    assert -90 <= altitude <= 90
    assert elongation > 150
