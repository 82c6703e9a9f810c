"""Where a sign, a bound or a weight decides: each row fails if that one thing were otherwise."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.camera.settings import allowed
from jackstaff_core.exposure.calculation import ExposureQuestion, expose
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.filters.rims import Rim, pupil_depth, widest_clear
from jackstaff_core.log.editing import keystone_crop
from jackstaff_core.log.evidence import GlassKnown, weigh
from jackstaff_core.log.finished_frame import FinishedFrame, UsedGlass
from jackstaff_core.log.joining_pictures import ALIKE_STOPS, NEAR_SECONDS, Candidate, File, join
from jackstaff_core.log.lessons import next_time
from jackstaff_core.practice.dryrun.shipped import BY_ID
from jackstaff_core.scales.ladders import SHORTEST_SECONDS, ev100
from jackstaff_core.scales.spoken import stops_in_words, thirds, time_in_words
from jackstaff_core.sky.daylight import NIGHT_LUX, moon_lux, stops_per_degree, sun_lux
from jackstaff_core.sky.forecast import LightQuestion, OwnReading, forecast
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.sky.waiting import wait
from jackstaff_core.words.refusal import Refusal

DAWN = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)
MOLE = Place(58.052, 6.798)


@pytest.mark.parametrize(
    ("on", "brighter"),
    [
        ((), 0.0),
        # What was on when metered hid that much of the scene's light; what goes on later hid nothing.
        ((GlassGiven(stops=3, in_reading=True),), 3.0),
        ((GlassGiven(stops=3, offset=0.25, offset_sd=0.1, in_reading=True),), 3.25),
        ((GlassGiven(stops=9),), 0.0),
        ((GlassGiven(stops=3, in_reading=True), GlassGiven(stops=9)), 3.0),
    ],
)
def test_the_light_of_the_scene_is_what_the_meter_would_say_bare(on: tuple[GlassGiven, ...], brighter: float) -> None:
    answer = expose(ExposureQuestion(ReadingGiven(0.25, 8.0, 100.0), on))
    assert answer.scene_ev100 == pytest.approx(ev100(0.25, 8.0, 100.0) + brighter)


def test_a_time_no_shutter_has_is_refused_and_the_shortest_is_not() -> None:
    shortest = ReadingGiven(SHORTEST_SECONDS, 8.0, 100.0)
    assert expose(ExposureQuestion(shortest)).seconds == SHORTEST_SECONDS
    with pytest.raises(Refusal):
        expose(ExposureQuestion(shortest, settings=SettingsGiven(7.9, 100.0)))


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


@given(
    rims=st.lists(st.tuples(st.floats(1, 10), st.floats(60, 90)), min_size=1, max_size=4),
    focal=st.floats(14, 60),
    f_number=st.none() | st.floats(2.8, 22),
)
def test_what_was_clear_once_says_how_deep_the_pupil_lies(
    rims: list[tuple[float, float]], focal: float, f_number: float | None
) -> None:
    # Equal openings, so that the front rim is the one that shades first.
    built = [Rim(depth, 78.0) for depth, _ in rims]
    depth = pupil_depth(focal, built, 21.633, f_number)
    assert widest_clear(built, depth, 21.633, f_number) == pytest.approx(focal, rel=1e-6)
    assert widest_clear([*built, Rim(5.0, 78.0)], depth, 21.633, f_number) > focal
    assert widest_clear(built[:-1], depth, 21.633, f_number) < focal


def test_an_old_reading_never_makes_the_light_less_known() -> None:
    def sds(*readings: OwnReading) -> list[float]:
        question = LightQuestion(MOLE, DAWN, DAWN + timedelta(days=1), 600.0, readings=readings)
        return [point.sd_stops for point in forecast(question).points]

    bare, read = sds(), sds(OwnReading(DAWN, 6.0))
    assert all(each <= other for each, other in zip(read, bare, strict=True))
    assert read[1] < bare[1]
    assert read[-1] == bare[-1]


def test_the_band_of_a_wait_is_two_sd_at_the_light_s_own_rate() -> None:
    question = LightQuestion(MOLE, DAWN, DAWN + timedelta(hours=2), readings=(OwnReading(DAWN, 6.0),))
    points = forecast(question).points
    found = wait(question, points[40].ev100)
    assert found.at is not None
    assert found.give_or_take_minutes == pytest.approx(
        2 * points[40].sd_stops / abs(points[40].stops_per_minute), rel=0.1
    )


@pytest.mark.parametrize(
    ("late", "seconds", "joins"),
    [
        (0.0, 60.0, True),
        (NEAR_SECONDS, 60.0, True),
        (-NEAR_SECONDS, 60.0, True),
        (NEAR_SECONDS + 0.5, 60.0, False),
        # A camera may stamp the end: a minute later is near, half of it is not.
        (60.0, 60.0, True),
        (30.0, 60.0, False),
        (0.0, 60.0 * 2**ALIKE_STOPS * 0.999, True),
        (0.0, 60.0 * 2**ALIKE_STOPS * 1.001, False),
        (0.0, 60.0 / 2**ALIKE_STOPS * 1.001, True),
        (0.0, 60.0 / 2**ALIKE_STOPS * 0.999, False),
    ],
)
def test_a_picture_joins_within_its_window_alone(late: float, seconds: float, joins: bool) -> None:
    frame = Candidate("a", DAWN, 60.0)
    # The camera's clock is two hours and three seconds ahead, and that is known.
    taken = File((DAWN + timedelta(seconds=7203 + late)).replace(tzinfo=None), seconds)
    assert join([taken], [frame], 7203.0).files[0].frames == (("a",) if joins else ())


def seen(minute: float, error_stops: float) -> FinishedFrame:
    nine = UsedGlass("nine", "Slot ND 9", GlassKind.SOLID, 9.0)
    return FinishedFrame(
        id=f"{minute}", opened_at=DAWN + timedelta(minutes=minute), seconds=120.0, aimed_seconds=120.0,
        planned_seconds=120.0, glass=(nine,), error_stops=error_stops,
    )  # fmt: skip


def test_a_pair_weighs_as_much_as_four_glances() -> None:
    # Frames a day apart, so that each stands for itself; they say 0.0, the pair says 0.6.
    def mean(frames: int, *pairs: float) -> float:
        shots = [seen(1440.0 * day, 0.0) for day in range(frames)]
        pairs_ = tuple(9.0 + pair for pair in pairs)
        (known,) = weigh(shots, [GlassKnown("nine", "Slot ND 9", 9.0, None, pairs_)]).glass
        return known.mean

    assert mean(2) == pytest.approx(0, abs=1e-9)
    four, lone = mean(4, 0.6), mean(1, 0.6)
    assert 0 < four < lone < 0.6
    # More frames that disagree pull it back, another pair pulls it on.
    assert mean(12, 0.6) < four < mean(4, 0.6, 0.6)
    # One pair against one glance: four to one at least, whatever the prior and the day take.
    assert lone > 0.6 / 2


@pytest.mark.parametrize(
    ("error_stops", "light", "factor"),
    [(0.0, 0.0, 1.0), (-1.0, 0.0, 2.0), (1.0, 0.0, 0.5), (0.0, 1.0, 0.5), (0.0, -1.0, 2.0), (-1.0, 1.0, 1.0)],
)
def test_next_time_is_longer_after_dark_frames_and_shorter_in_more_light(
    error_stops: float, light: float, factor: float
) -> None:
    assert next_time(120.0, error_stops, light).seconds == pytest.approx(120.0 * factor)


@pytest.mark.parametrize(
    ("count", "short", "whole"),
    [(0, "0", "0 stop"), (1, "1/3", "1/3 stop"), (2, "2/3", "2/3 stop"), (3, "1", "1 stop"),
     (4, "1 1/3", "1 1/3 stops"), (6, "2", "2 stops"), (8, "2 2/3", "2 2/3 stops")],
)  # fmt: skip
def test_thirds_are_said_as_people_write_them(count: int, short: str, whole: str) -> None:
    assert (thirds(count), stops_in_words(count)) == (short, whole)


@pytest.mark.parametrize(
    ("seconds", "words"),
    [(1 / 4000, "1/4000 s"), (1 / 60, "1/60 s"), (1 / 6.3, "1/6 s"), (1 / 203, "1/200 s"), (0.6, "0.6 s"), (2, "2 s"),
     (59.4, "59 s"), (59.6, "1 min"), (128, "2 min 08 s"), (3600, "1 h"), (3899, "1 h 05 min")],
)  # fmt: skip
def test_times_are_said_in_the_digits_they_have(seconds: float, words: str) -> None:
    assert time_in_words(seconds) == words


def test_settings_are_clean_at_base_iso_and_sharp_apertures_alone() -> None:
    every = allowed(("8", "16"), ("64", "100"), "11")
    clean = {(frame.aperture, frame.iso) for frame in every if frame.clean}
    assert clean == {(mark, "64") for mark in ("8", "9", "10", "11", "13")}
    assert len(every) == 7 * 2
    by_mark = {(frame.aperture, frame.iso): frame.stops for frame in every}
    assert by_mark["16", "64"] - by_mark["8", "64"] == pytest.approx(2)
    assert by_mark["8", "64"] - by_mark["8", "100"] == pytest.approx(2 / 3)
    assert {each.iso for each in allowed(("8", "8"), ("64", "100"), "11", "100") if each.clean} == {"100"}


@given(st.floats(1, 25), st.floats(14, 100))
def test_a_tilt_that_is_put_right_costs_more_the_more_it_was(pitch: float, focal: float) -> None:
    assert keystone_crop(pitch, focal, 24.0) == pytest.approx(keystone_crop(-pitch, focal, 24.0))
    assert keystone_crop(pitch + 1, focal, 24.0) > keystone_crop(pitch, focal, 24.0) > keystone_crop(0.0, focal, 24.0)


@pytest.mark.parametrize(
    ("starts", "clock", "hours"),
    [("23:30", "00:15", 0.75), ("23:30", "22:00", -1.5), ("00:20", "23:50", -0.5), ("00:20", "12:00", 11 + 2 / 3)],
)
def test_a_clock_time_is_the_one_nearest_to_the_start(starts: str, clock: str, hours: float) -> None:
    begin = datetime.fromisoformat(f"2027-04-17T{starts}+02:00")
    at = replace(BY_ID["dawn-mole"], starts_at=begin, zone="Europe/Oslo").at_clock(clock)
    assert (at - begin) / timedelta(hours=1) == pytest.approx(hours)
