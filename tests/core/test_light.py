"""The light over the clock: the model's vectors, the filter's, events that do and do not happen."""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from astral import Observer
from astral.sun import sun as library_sun
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.moving_light.anchoring import DRIFT_SD, LEVEL_SD, READING_SD, Status, anchor
from jackstaff_core.moving_light.rate import RATE_SD, WANDER, KnownRate, Rate, rate
from jackstaff_core.sky.cover import Sky, SkyChange
from jackstaff_core.sky.daylight import ev100, ev_rate, moon_lux, stops_per_degree, sun_lux
from jackstaff_core.sky.forecast import LightQuestion, OwnReading, Scene, forecast, light_at
from jackstaff_core.sky.sun_and_moon import EVENTS, Event, Place, Track, crossings, events, in_frame, moon_at, sun_at
from jackstaff_core.words.refusal import Refusal

from .tables import facts, near

VARDSUND = Place(58.05, 6.80)


def utc(text: str) -> datetime:
    return datetime.fromisoformat(text).replace(tzinfo=UTC)


def happening(place: Place, start: datetime, end: datetime) -> tuple[Event, ...]:
    return events(Track(place, start, end), end)


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


@settings(max_examples=60, deadline=None)
@given(st.floats(-89.9, 89.9), st.floats(-180, 180), st.integers(0, 364), st.floats(0, 1440))
def test_the_track_is_the_library_s(latitude: float, longitude: float, day: int, minute: float) -> None:
    place, start = Place(latitude, longitude), utc("2027-01-01T00:00") + timedelta(days=day)
    altitude, azimuth = Track(place, start, start + timedelta(days=1)).at(minute)
    own, round_ = sun_at(place, start + timedelta(minutes=minute))
    # The library itself works to whole seconds of time.
    assert altitude == pytest.approx(own, abs=0.006)
    away = (azimuth - round_ + 180) % 360 - 180
    assert abs(away) * math.cos(math.radians(own)) < 0.006


def test_the_moon_sets_a_floor() -> None:
    # A full moon at 45 deg is the sun at -8.7 deg.
    assert moon_lux(45, 180) == pytest.approx(0.16, rel=0.1)
    assert moon_lux(45, 180) == pytest.approx(sun_lux(-8.7), rel=0.2)
    assert moon_lux(-2, 180) == 0
    assert moon_lux(30, 90) < moon_lux(30, 180) / 5
    altitude, elongation = moon_at(VARDSUND, utc("2027-04-20T22:00"))
    assert -90 <= altitude <= 90
    assert elongation > 150


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
    ("values", "status", "a", "b", "sd_a", "sd_b", "ahead", "sd_ahead"),
    [
        ([-0.62, -0.55, -0.7, -0.48, -0.66, -0.52], "ok ok ok ok ok ok", -0.560353, 0.00241015, 0.113046, 0.0153002,
         -0.536252, 0.279096),
        ([-0.62, -0.55, -2.3, -0.48, -0.66, -0.52], "ok ok held ok ok ok", -0.551326, 0.00165537, 0.113629, 0.0153304,
         -0.534773, 0.279102),
        ([-0.62, -0.55, -0.6, -2.3, -2.42, -2.35], "ok ok ok held jump ok", -2.36564, -0.00432615, 0.113451, 0.0206686,
         -2.40891, 0.316159),
    ],
)  # fmt: skip
def test_readings_correct_the_forecast(
    values: list[float], status: str, a: float, b: float, sd_a: float, sd_b: float, ahead: float, sd_ahead: float
) -> None:
    found = anchor([(3.0 * turn, value) for turn, value in enumerate(values)])
    last = found.states[-1]
    assert [each.value for each in found.status] == status.split()
    assert [last.a, last.b, last.sd, math.sqrt(last.p11)] == pytest.approx([a, b, sd_a, sd_b], rel=2e-5)
    assert [last.at(25.0).a, last.at(25.0).sd] == pytest.approx([ahead, sd_ahead], rel=2e-5)


@pytest.mark.parametrize("apart", [1.0, 3.0, 20.0])
def test_two_odd_readings_are_a_jump_where_they_agree_within_three_sd_of_each_other(apart: float) -> None:
    # Each is unsure by 0.15 stop, and the level wanders between them.
    most = 3 * math.sqrt(2 * READING_SD**2 + DRIFT_SD**2 * apart)
    steady = [(3.0 * turn, 0.0) for turn in range(4)]
    for share, status in ((0.99, Status.JUMP), (1.01, Status.HELD)):
        for way in (1, -1):
            found = anchor([*steady, (12.0, -6.0), (12.0 + apart, -6.0 + way * share * most)])
            assert found.status == (*[Status.OK] * 4, Status.HELD, status)


def test_the_first_reading_always_anchors() -> None:
    found = anchor([(0.0, -5.0)])
    assert found.status == (Status.OK,)
    assert found.states[0].a == pytest.approx(-5, abs=0.02)
    assert anchor([]).at(10.0).sd == pytest.approx(1.05, abs=0.02)


def read_again(*readings: tuple[float, float], at: float | None = None, **more: Any) -> Rate:
    """The rate from readings (minute, EV), asked at a minute or at the last."""
    start = utc("2027-04-17T05:00")
    taken = [(start + timedelta(minutes=minute), ev) for minute, ev in readings]
    return rate(taken, start + timedelta(minutes=readings[-1][0] if at is None else at), **more)


def test_a_moonlit_night_goes_as_the_moon_goes() -> None:
    found = forecast(LightQuestion(VARDSUND, utc("2027-04-20T21:30"), utc("2027-04-21T00:30"))).points
    lux = [sun_lux(sun_at(VARDSUND, each.at)[0]) + moon_lux(*moon_at(VARDSUND, each.at)) for each in found]
    above = [each.ev100 - ev100(light) for each, light in zip(found, lux, strict=True)]
    # Straight lines from hour to hour are off by less than anybody sees.
    assert max(above) - min(above) < 0.05
    # Half of this light is the moon's, at least.
    assert min(moon_lux(*moon_at(VARDSUND, each.at)) / light for each, light in zip(found, lux, strict=True)) > 0.5


@pytest.mark.parametrize("read", [10.0, 8.0, 7.0, None])
def test_the_rate_is_how_the_light_of_the_forecast_moves_capped_or_not(read: float | None) -> None:
    """A reading far above the sky at dawn is held at the sun's own limit: from there on it moves with the sun."""
    begins = datetime(2027, 4, 17, 3, 40, tzinfo=UTC)
    readings = () if read is None else (OwnReading(begins, read),)
    place = Place(58.05, 6.80)
    found = forecast(LightQuestion(place, begins, begins + timedelta(minutes=90), 30.0, readings=readings)).points
    moved = [(after.ev100 - before.ev100) for before, after in zip(found, found[2:], strict=False)]
    told = [point.stops_per_minute for point in found[1:-1]]
    # Where it begins and ends to be held the curve has a corner.
    apart = [abs(told - moved) for told, moved in zip(told, moved, strict=True)]
    assert sorted(apart)[-3] < 0.01
    assert max(told) > 0.05


def test_two_readings_of_a_scene_make_a_rate_that_more_make_sure_and_age_makes_unsure() -> None:
    two = read_again((0, 8.0), (4, 7 + 1 / 3))
    # A third of a stop is nearly the noise of two readings: most of the slope is believed, not all of it.
    assert two.counts
    assert two.used == 2
    assert two.stops_per_minute == pytest.approx(-1 / 6, abs=0.03)
    assert 0.04 < two.rate_sd < 0.09
    four = read_again((0, 8.0), (4, 7 + 1 / 3), (8, 6 + 2 / 3), (12, 6.0))
    assert four.rate_sd < two.rate_sd
    assert four.stops_per_minute == pytest.approx(-1 / 6, abs=0.01)
    later = read_again((0, 8.0), (4, 7 + 1 / 3), at=30)
    assert later.counts
    assert later.rate_sd > two.rate_sd * 1.5
    old = read_again((0, 8.0), (4, 7 + 1 / 3), at=45)
    assert not old.counts
    assert old.advice
    assert old.advice.code == "readings_old"
    # One reading says nothing; the plan's rate stands, and a reading pulls it.
    assert not read_again((0, 8.0)).counts
    known = KnownRate(0.1, 0.03)
    assert read_again((0, 8.0), forecast=known).stops_per_minute == 0.1
    assert 0.1 < read_again((0, 8.0), (10, 10.0), forecast=known).stops_per_minute < 0.2


def test_a_reading_that_cannot_be_the_same_light_is_asked_about_and_a_second_one_believed() -> None:
    off = read_again((0, 8.0), (4, 7.9), (6, 5.0))
    assert off.advice
    assert off.advice.code == "reading_off"
    assert "2.9 stops darker than 2 min" in off.advice.text
    assert off.used == 2
    assert abs(off.stops_per_minute) < 0.08
    assert not read_again((0, 8.0), (2, 4.0)).counts
    again = read_again((0, 8.0), (4, 7.9), (6, 5.0), (8, 5.0))
    assert again.advice is None
    assert abs(again.stops_per_minute) < 0.2
    for wrong in [((0.0, 8.0), (0.0, 8.0)), ((4.0, 8.0), (0.0, 8.0))]:
        with pytest.raises(Refusal):
            read_again(*wrong)
    with pytest.raises(Refusal):
        read_again((0, 8.0), at=-1)


def test_the_rate_lies_within_two_sd_as_often_as_it_says() -> None:
    """Light that wanders as the model says, read with its noise: the sd is neither too proud nor too shy."""
    chance = random.Random(11)
    inside, tries = 0, 1000
    for _ in range(tries):
        level, slope = 0.0, chance.gauss(0, RATE_SD)
        readings = [(0.0, chance.gauss(0, READING_SD))]
        for minute in range(1, 11):
            slope += chance.gauss(0, WANDER)
            level += slope + chance.gauss(0, DRIFT_SD)
            if minute % 5 == 0:
                readings.append((float(minute), level + chance.gauss(0, READING_SD)))
        found = read_again(*readings)
        inside += abs(found.stops_per_minute - slope) < 2 * found.rate_sd
    assert 0.92 < inside / tries < 0.975


def dawn(**more: object) -> LightQuestion:
    return LightQuestion(VARDSUND, utc("2027-04-17T03:00"), utc("2027-04-17T06:00"), **more)  # type: ignore[arg-type]


def test_a_sky_that_is_to_change_is_both_skies_in_turn_and_least_known_in_between() -> None:
    change = utc("2027-04-17T04:30")
    found = forecast(dawn(sky=Sky.CLEAR, skies=(SkyChange(change, Sky.OVERCAST),))).points
    skies = {sky: forecast(dawn(sky=sky)).points for sky in (Sky.CLEAR, Sky.OVERCAST)}
    apart = 2.3
    for clear, mixed, grey in zip(skies[Sky.CLEAR], found, skies[Sky.OVERCAST], strict=True):
        # The chance that it has come rises evenly from half an hour before to half an hour after.
        chance = min(1.0, max(0.0, (mixed.at - change).total_seconds() / 3600 + 0.5))
        assert mixed.ev100 == pytest.approx((1 - chance) * clear.ev100 + chance * grey.ev100)
        assert mixed.sd_stops == pytest.approx(math.hypot(1.0, apart * math.sqrt(chance * (1 - chance))))
        falls = apart / 60 if 0 < chance < 1 else 0.0
        assert mixed.stops_per_minute == pytest.approx(clear.stops_per_minute - falls)
    # In whichever order they are said, and by lamps it is all one.
    two = (SkyChange(change, Sky.HEAVY), SkyChange(utc("2027-04-17T03:40"), Sky.THIN))
    assert forecast(dawn(skies=two)) == forecast(dawn(skies=two[::-1]))
    assert forecast(dawn(skies=two, scene=Scene.LAMP_LIT)).points == forecast(dawn(scene=Scene.LAMP_LIT)).points


def test_a_dawn_is_anchored_and_its_band_grows_with_the_reading_s_age() -> None:
    plain = forecast(dawn())
    assert len(plain.points) == 181
    assert plain.points[0].sd_stops == 1.0
    assert all(each.ev100 < two.ev100 for each, two in zip(plain.points, plain.points[1:], strict=False))
    at = utc("2027-04-17T04:10")
    metered = light_at(dawn(), at).ev100 - 4.2
    read = forecast(dawn(readings=(OwnReading(at, metered),)))
    point = next(each for each in read.points if each.at == at)
    assert point.ev100 == pytest.approx(metered, abs=0.1)
    assert point.sd_stops < 0.2 < read.points[-1].sd_stops
    assert read.points[0].sd_stops > point.sd_stops
    assert read.readings[0].status is Status.OK
    # The rate is that of the light itself.
    later = next(each for each in plain.points if each.at == at + timedelta(minutes=1))
    here = next(each for each in plain.points if each.at == at)
    assert later.ev100 - here.ev100 == pytest.approx(here.stops_per_minute, abs=0.01)
    # The clear-sky model itself is not touched by readings or sky.
    assert [each.lux for each in read.points] == [each.lux for each in plain.points]
    heavy = forecast(dawn(sky=Sky.HEAVY)).points[90]
    assert heavy.ev100 == pytest.approx(plain.points[90].ev100 - 3.3)
    assert heavy.lux == plain.points[90].lux
    lamps = forecast(dawn(scene=Scene.LAMP_LIT)).points
    assert {point.stops_per_minute for point in lamps} == {0.0}
    assert lamps[0].ev100 == lamps[-1].ev100
    # Clouds that may come an hour early or late are nothing to a lamp: its light is no less sure.
    skies = (SkyChange(at, Sky.OVERCAST),)
    assert max(point.sd_stops for point in forecast(dawn(skies=skies)).points) > LEVEL_SD + 0.1
    assert {point.sd_stops for point in forecast(dawn(scene=Scene.LAMP_LIT, skies=skies)).points} == {LEVEL_SD}


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
    for event in found_by(Track(VARDSUND, day, night), night):
        if event.at is not None:
            begin, end = event.at - timedelta(seconds=before), event.at + timedelta(seconds=after)
            again = {each.name: each.at for each in found_by(Track(VARDSUND, begin, end), end)}[event.name]
            assert again is not None, event.name
            # The library works to whole seconds, and the highest point is flat.
            assert abs((again - event.at).total_seconds()) < (2 if event.name == "noon" else 1), event.name
            gone = {
                each.name: each.at
                for each in found_by(Track(VARDSUND, end, end + timedelta(hours=2)), end + timedelta(hours=2))
            }
            assert gone[event.name] is None, event.name


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


@settings(max_examples=30, deadline=None)
@given(st.floats(-89, 89), st.floats(-180, 180), st.integers(0, 364))
def test_no_place_or_day_breaks_the_forecast(latitude: float, longitude: float, day: int) -> None:
    start = utc("2027-01-01T00:00") + timedelta(days=day)
    found = forecast(LightQuestion(Place(latitude, longitude), start, start + timedelta(days=1), 3600.0))
    assert len(found.points) == 25
    assert all(-15 < point.ev100 < 17 and abs(point.stops_per_minute) < 0.5 for point in found.points)


@pytest.mark.parametrize(
    "bad",
    [
        lambda: Place(91.0, 0.0),
        lambda: Place(0.0, 200.0),
        lambda: forecast(LightQuestion(VARDSUND, utc("2027-04-17T06:00"), utc("2027-04-17T03:00"))),
        lambda: forecast(LightQuestion(VARDSUND, utc("2027-04-01T00:00"), utc("2027-04-09T00:00"), 3600.0)),
        lambda: forecast(LightQuestion(VARDSUND, utc("2027-04-01T00:00"), utc("2027-04-07T00:00"), 1.0)),
        lambda: forecast(dawn(readings=(OwnReading(utc("2027-04-17T03:00"), 99.0),))),
    ],
)
def test_what_cannot_be_forecast_is_refused(bad: object) -> None:
    with pytest.raises(Refusal):
        bad()  # type: ignore[operator]
