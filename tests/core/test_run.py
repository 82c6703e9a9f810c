"""What Run asks the core: the arm list, ways out, the track of the light, and queues of frames."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.camera.reciprocity import Additive, Power
from jackstaff_core.exposure.calculation import ExposureQuestion, expose
from jackstaff_core.exposure.series import SeriesQuestion, Way, series
from jackstaff_core.exposure.timing_error import timing_error
from jackstaff_core.gear.sorts import Body, Glass, Holder, Lens, Release, Support
from jackstaff_core.moving_light.end import ExposureEndQuestion, exposure_end, light_path
from jackstaff_core.moving_light.rate import likely_rate
from jackstaff_core.questions import ask
from jackstaff_core.run.checklist import LINE_OF, Armed, Sun, arm, sun_seen
from jackstaff_core.scales.ladders import Step, isos
from jackstaff_core.stacks.rules import On
from jackstaff_core.words.advice import Severity
from jackstaff_core.words.refusal import Refusal

BODY = Body(battery_wh=14.0, eyepiece="electronic")
PLATE = On("Slot ND 10", Glass(stops=10.0, mount="plate", gasket=True), 10.0)
FOUR = On("Slot ND 4", Glass(stops=4.0, mount="plate"), 4.0)
POLARISER = On("Clip-on pol", Glass(kind="polariser", stops=1.5), 1.5)
VARIABLE = On("Ring VND", Glass(kind="variable", stops=2.0, stops_max=8.0, offset=0.3), 4.3)
GRADUATED = On("Slot grad 3", Glass(kind="graduated", stops=3.0, mount="plate"), 0.0)
IN_ORDER = ["tripod", "focus", "glass", "camera", "eyepiece", "remote"]
LONG = Armed(240.0, True, (PLATE, FOUR), BODY, Lens(), Holder(), Support(hook=True, spikes=True), Release())


@pytest.mark.parametrize(
    ("armed", "line", "said"),
    [
        (
            replace(LONG, stack=(FOUR, PLATE)),
            "glass",
            "Filters wiped and on, nearest the lens first: Slot ND 10 in the slot nearest the lens, gasket towards it, "
            "then Slot ND 4; gaps between plates covered; hood off",
        ),
        (replace(LONG, stack=(VARIABLE,)), "glass", "Filter wiped and on: Ring VND turned to 4.0"),
        (replace(LONG, stack=(POLARISER,)), "glass", "Filter wiped and on: Clip-on pol turned for the picture"),
        (LONG, "camera", "Manual, bulb, single frame, mechanical shutter, stabiliser off, noise reduction off"),
        (LONG, "remote", "Remote in, lock tried"),
        (LONG, "tripod", "Tripod feet firm, spikes out on soft ground"),
        (replace(LONG, wind_m_s=9.0), "tripod", "strap off, weight on the hook"),
        (replace(LONG, lens=Lens(rotating_front=True)), "focus", "push the filters in without turning"),
        (replace(LONG, stack=(GRADUATED, FOUR)), "glass", "Slot ND 4, then Slot grad 3"),
        (replace(LONG, stack=(POLARISER,), upright=True), "glass", "Clip-on pol turned back by 90°"),
        (LONG, "tripod", "strap off"),
        (replace(LONG, body=None), "eyepiece", "Cover the eyepiece if yours is glass"),
        (replace(LONG, body=Body()), "eyepiece", "Cover the eyepiece if yours is glass"),
        (replace(LONG, seconds=1.0, bulb=False, burst=3), "camera", "Manual, bracketing of 3 frames at one press"),
        (replace(LONG, body=Body(eyepiece="optical", eyepiece_shutter=True)), "eyepiece", "Close the eyepiece"),
        (replace(LONG, body=Body(long_times="time")), "camera", "Manual, T, single frame"),
        (replace(LONG, noise_reduction=True), "camera", "noise reduction on"),
        (replace(LONG, release=Release(longest_s=60.0)), "remote", "This remote holds 1 min at most"),
        (replace(LONG, release=Release(kind="body")), "remote", "the self-timer cannot hold bulb"),
        (replace(LONG, battery_share=0.01), "remote", "fresh battery"),
        # Half full, and eight hours open since: there is not enough left for this one.
        (replace(LONG, battery_share=0.5, open_since_seconds=6300.0), "remote", "fresh battery"),
        (replace(LONG, battery_share=0.5), "remote", "Remote in, lock tried"),
        (Armed(1.0, False, (), Body(self_timers_s=(2.0, 10.0))), "remote", "Remote, or the 2 s self-timer"),
        (replace(LONG, body=Body(long_times="time")), "remote", "one press opens, the next closes"),
        (replace(LONG, body=Body(long_times="both")), "remote", "Remote in, lock tried"),
        (
            replace(LONG, body=Body(long_times="both", self_timers_s=(10.0, 2.0)), release=Release(kind="body")),
            "remote",
            "2 s self-timer to open, hat before the lens to close",
        ),
        (replace(LONG, body=Body(long_times="both"), release=Release(kind="body")), "camera", "Manual, T, single"),
        (replace(LONG, release=Release(kind="phone")), "remote", "App connected and tried"),
        (replace(LONG, release=Release(kind="timer")), "remote", "Timer remote set to 4 min"),
        (replace(LONG, release=None, releases=2), "remote", "Choose which remote"),
        (replace(LONG, release=None, releases=1), "remote", "Remote in, lock tried"),
        (replace(LONG, body=Body(long_times="none")), "camera", "the dial's longest time, and 8 frames of it"),
        (replace(LONG, body=Body(long_times="none")), "remote", "Interval timer for the series"),
        (replace(LONG, focal_mm=19.0), "tripod", "Tripod feet firm, spikes out on soft ground, none of them in the"),
        # The same angle on a smaller sensor.
        (
            replace(LONG, focal_mm=13.0, body=Body(sensor_width_mm=23.5, sensor_height_mm=15.6)),
            "tripod",
            "none of them",
        ),
        (replace(LONG, body=Body(eyepiece="electronic", eyepiece_shutter=True)), "eyepiece", "Close the eyepiece"),
    ],
)
def test_the_arm_list_grows_from_the_gear(armed: Armed, line: str, said: str) -> None:
    lines = {each.code: each for each in arm(armed).lines}
    assert said in lines[line].text


@pytest.mark.parametrize(
    ("armed", "careful", "habits"),
    [
        (LONG, {"glass", "camera"}, {"tripod", "focus"}),
        (replace(LONG, seconds=8.0, bulb=False), {"glass"}, {"tripod", "focus", "camera", "remote"}),
        (replace(LONG, seconds=1 / 60, bulb=False, stack=()), set(), {"tripod", "camera"}),
        (
            replace(
                LONG,
                body=Body(eyepiece="optical", battery_wh=14),
                lens=Lens(rotating_front=True),
                wind_m_s=12.0,
                battery_share=0.01,
            ),
            {"tripod", "focus", "glass", "camera", "eyepiece", "remote"},
            set(),
        ),
    ],
)
def test_what_can_spoil_this_frame_is_no_habit(armed: Armed, careful: set[str], habits: set[str]) -> None:
    lines = arm(armed, Sun.DOWN).lines
    assert {line.code for line in lines if line.severity is not Severity.NOTE} == careful
    assert {line.code for line in lines if line.habit} == habits


def test_nobody_is_told_what_the_gear_makes_impossible() -> None:
    """Through dense filters nobody focuses again, behind a screen nothing leaks, a normal lens sees no feet."""
    turning = {line.code: line.text for line in arm(replace(LONG, lens=Lens(rotating_front=True))).lines}
    assert "again" not in turning["focus"]
    for eyepiece in ("electronic", "none"):
        assert "eyepiece" not in {line.code for line in arm(replace(LONG, body=Body(eyepiece=eyepiece))).lines}
    assert "picture" not in arm(replace(LONG, focal_mm=20.0)).lines[0].text
    assert "choose" not in str([line.text for line in arm(replace(LONG, releases=3)).lines])
    # No hood where no holder stands, no strap to swing in a second.
    assert "hood" not in {line.code: line.text for line in arm(replace(LONG, stack=(POLARISER,))).lines}["glass"]
    assert "strap" not in arm(replace(LONG, seconds=59.0)).lines[1].text


@pytest.mark.parametrize("own", ["50", "64", "100", "200", "800"])
@pytest.mark.parametrize("lowest", [50.0, 64.0, 100.0, 200.0])
def test_a_rehearsal_is_the_frame_s_own_light_at_every_base_iso(own: str, lowest: float) -> None:
    body = Body(iso_lowest=lowest, iso_highest=3200.0)
    found = arm(replace(LONG, seconds=480.0, body=body, iso=own)).rehearsal
    assert found is not None
    frame, quick = isos(Step.THIRD).mark(own), isos(Step.THIRD).mark(found.iso)
    assert frame
    assert quick
    assert found.seconds * quick.exact == pytest.approx(480.0 * frame.exact)
    assert arm(replace(LONG, seconds=480.0, body=body, iso="6400")).rehearsal is None


def test_at_most_seven_lines_in_the_order_of_the_hands_and_harm_cannot_be_folded() -> None:
    everything = replace(
        LONG, stack=(PLATE, FOUR, GRADUATED, POLARISER), wind_m_s=12.0, upright=True,
        body=Body(eyepiece="optical", battery_wh=14.0), lens=Lens(rotating_front=True), battery_share=0.1,
    )  # fmt: skip
    lines = arm(everything, Sun.IN_PICTURE).lines
    assert [line.code for line in lines] == [
        "sun_in_picture",
        "tripod",
        "focus",
        "glass",
        "camera",
        "eyepiece",
        "remote",
    ]
    assert [line.code for line in lines if line.severity == "harm"] == ["sun_in_picture"]
    assert not any(line.habit for line in lines if line.severity == "harm")
    # A short frame in hand-held light wants little.
    assert [each.code for each in arm(Armed(1 / 250, False, (), BODY)).lines] == ["tripod", "camera"]
    assert set(LINE_OF.values()) <= {line.code for line in lines}
    with pytest.raises(Refusal, match="m/s"):
        arm(replace(LONG, wind_m_s=100.0))


def test_a_rehearsal_is_offered_past_four_minutes_and_a_battery_is_weighed() -> None:
    assert arm(LONG).rehearsal is None
    found = arm(replace(LONG, seconds=480.0)).rehearsal
    assert found is not None
    # ISO 64 to 4000 is six stops: 480 s becomes 7.5 s.
    assert found.iso == "4000"
    assert found.seconds == pytest.approx(7.56, abs=0.1)
    assert arm(replace(LONG, seconds=480.0, body=Body(film=True))).rehearsal is None
    # 3 W for 240 s out of 14 Wh at 10 degrees: 1.8 %; doubled by noise reduction.
    takes = arm(LONG).battery_takes
    assert takes == pytest.approx(3 * 240 / (14 * 3600 * 0.775))
    assert arm(replace(LONG, noise_reduction=True)).battery_takes == pytest.approx(2 * (takes or 0))


@pytest.mark.parametrize(
    ("place", "altitude", "seen", "said"),
    [
        ((10.0, 5.0), 8.0, Sun.IN_PICTURE, "do not look through the finder"),
        ((-17.9, -11.9), -0.5, Sun.IN_PICTURE, "do not look through the finder"),
        ((30.0, 5.0), 8.0, Sun.UP, "Put dense filters on with the lens pointed away from the sun"),
        ((10.0, 12.1), 8.0, Sun.UP, "Put dense filters on with the lens pointed away from the sun"),
        (None, 8.0, Sun.UP, "Put dense filters on with the lens pointed away from the sun"),
        ((10.0, 5.0), -3.0, Sun.DOWN, None),
        ((10.0, 5.0), math.nan, Sun.DOWN, None),
    ],
)
def test_a_sun_that_can_be_looked_at_is_warned_of(
    place: tuple[float, float] | None, altitude: float, seen: Sun, said: str | None
) -> None:
    assert sun_seen(place, altitude, (18.0, 12.0)) is seen
    warned = [line.text for line in arm(LONG, seen).lines if line.severity is Severity.HARM]
    assert len(warned) == (said is not None)
    assert said is None or said in warned[0]
    # Bare or behind weak glass nobody is tempted to look, unless the sun is in the picture.
    weak = arm(replace(LONG, stack=(POLARISER,)), seen).lines
    assert ("sun_in_picture" in [line.code for line in weak]) == (seen is Sun.IN_PICTURE)


@pytest.mark.parametrize(
    ("glass", "sun", "warned"),
    [
        (Glass(stops=9.966), Sun.UP, True),
        (Glass(stops=9.0), Sun.UP, True),
        (Glass(stops=9.0), Sun.UNKNOWN, True),
        (Glass(stops=9.0), Sun.DOWN, False),
        (Glass(stops=8.9), Sun.UP, True),
        (Glass(stops=8.5, offset=0.0, give_or_take=0.1), Sun.UP, False),
        (Glass(stops=8.95, offset=0.0, give_or_take=0.1), Sun.UP, True),
        (Glass(kind="variable", stops=2.0, stops_max=9.0), Sun.UP, False),
    ],
)
def test_filters_that_may_be_dark_enough_to_look_through_are_warned_of(glass: Glass, sun: Sun, warned: bool) -> None:
    stops = 5.0 if glass.kind == "variable" else glass.stops
    lines = arm(replace(LONG, stack=(On("It", glass, stops),)), sun).lines
    assert ("sun_dense" in {line.code for line in lines}) is warned


@given(
    needed=st.floats(1, 900),
    rate=st.floats(-0.5, 0.5),
    delay=st.floats(0, 300),
    film=st.sampled_from([None, Power(1.3), Additive(0.1, 1.6)]),
)
def test_the_track_follows_the_gathering_to_the_end(
    needed: float, rate: float, delay: float, film: Power | Additive | None
) -> None:
    found = exposure_end(ExposureEndQuestion(needed, 0, delay, rate, film=film, tracked=True))
    shares = [point.gathered for point in found.track]
    assert shares[0] == 0
    assert shares == sorted(shares)
    if found.close_after_seconds is not None:
        at_end = exposure_end(
            replace(ExposureEndQuestion(needed, 0, delay, rate, film=film), now_seconds=found.close_after_seconds)
        )
        assert at_end.gathered == pytest.approx(1, abs=1e-3)
        assert at_end.error_if_closed_now_stops == pytest.approx(0, abs=2e-3)
        before = max(
            (point for point in found.track if point.seconds <= found.close_after_seconds), key=lambda p: p.seconds
        )
        assert before.gathered <= 1 + 1e-3
        if before.gathered:
            light = exposure_end(ExposureEndQuestion(needed, before.seconds, delay, rate, film=film))
            assert light.error_if_closed_now_stops == pytest.approx(before.stops)
            assert before.stops == pytest.approx(math.log2(before.gathered)) if film is None else True


@pytest.mark.parametrize(
    ("film", "share", "stops"),
    [
        # Half of the time on film of p = 1.31 is 1/1.31 stop of light, not a whole one.
        (Power(1.31), 0.5, -1 / 1.31),
        (Power(1.31), 2.0, 1 / 1.31),
        (None, 0.5, -1.0),
        # A 16 min frame at 4 s.
        (None, 4 / 960, math.log2(4 / 960)),
    ],
)
def test_closing_now_is_told_in_stops_of_light(film: Power | None, share: float, stops: float) -> None:
    needed = 960.0
    whole = film.corrected(needed) if film else needed
    found = exposure_end(ExposureEndQuestion(needed, share * whole, film=film, tracked=True))
    assert found.error_if_closed_now_stops == pytest.approx(stops)
    # The same wherever it is asked: late closing, a chosen time, the track.
    assert timing_error(whole, share * whole, law=film).stops == pytest.approx(stops)
    decided = ExposureQuestion(ReadingGiven(needed, "8", "100"), film=film, chosen_seconds=share * whole)
    assert expose(decided).residue_stops == pytest.approx(stops)
    near = min(found.track[1:], key=lambda point: abs(math.log2(point.seconds / (share * whole))))
    there = exposure_end(ExposureEndQuestion(needed, near.seconds, film=film))
    assert there.error_if_closed_now_stops == pytest.approx(near.stops)
    assert found.track[-1].seconds == pytest.approx(4 * whole)


def test_closing_a_falling_light_early_costs_what_it_still_held() -> None:
    light = {"stops_per_minute": -0.3, "planned_seconds": 600.0, "actual_seconds": 400.0}
    falling = ask("run/lateness", light)
    assert falling["stops"] == pytest.approx(math.log2(0.75 / 0.875), abs=1e-4)
    assert (falling["verdict"], falling["text"]) == ("slight", "Closed 3 min 20 s early: 0.22 stop darker.")
    assert ask("run/lateness", {**light, "stops_per_minute": None})["stops"] == pytest.approx(math.log2(2 / 3))
    read = ask("run/lateness", {**light, "stops_per_minute": None, "readings": [{"at_seconds": 300.0, "stops": -1.5}]})
    assert read["stops"] == pytest.approx(falling["stops"])


@given(needed=st.floats(30, 3600), rate=st.floats(-0.5, -0.01))
def test_each_way_out_really_fills_and_none_is_offered_where_it_fills(needed: float, rate: float) -> None:
    found = exposure_end(ExposureEndQuestion(needed, 60.0, 0, rate, tracked=True))
    left = found.light_left_at_close
    if found.reaches and left is not None and left >= 0.2:
        assert found.ways_out == ()
        return
    ways = {way.code: way for way in found.ways_out}
    assert {"open_up", "raise_iso", "drop_glass", "close_now"} <= set(ways) or "open_up" not in ways
    if "open_up" in ways:
        thirds = ways["open_up"].amount
        saved = exposure_end(ExposureEndQuestion(needed * 2 ** (-thirds / 3), 0, 0, rate))
        assert saved.reaches
        assert saved.light_left_at_close is not None
        assert saved.light_left_at_close >= 0.5 - 1e-9
        less = exposure_end(ExposureEndQuestion(needed * 2 ** (-(thirds - 1) / 3), 0, 0, rate))
        assert not less.reaches or (less.light_left_at_close or 0) < 0.5
        assert ways["drop_glass"].amount == pytest.approx(thirds / 3)
    assert ways["close_now"].amount == pytest.approx(found.error_if_closed_now_stops)


@pytest.mark.parametrize(("wanted", "thirds"), [(2.1, 3), (4.9, 5), (29.9, 30), (30.1, None)])
def test_a_way_out_opens_by_the_fewest_thirds_up_to_ten_stops(wanted: float, thirds: int | None) -> None:
    # Light falling by b stops a second has halved when 0.5 / (b ln 2) s of the first light have been gathered.
    needed = 40_000.0
    rate = -60 * 0.5 * 2 ** (wanted / 3) / (needed * math.log(2))
    found = exposure_end(ExposureEndQuestion(needed, stops_per_minute=rate, tracked=True))
    assert [way.amount for way in found.ways_out if way.code == "open_up"] == ([] if thirds is None else [thirds])


@pytest.mark.parametrize(
    ("known", "rate"),
    # Seconds and stops; a third of a stop within seconds says next to nothing, over minutes it is a rate.
    [
        (((0.0, 0.0), (2.0, -1 / 3)), 0.0),
        (((-60.0, 0.0), (240.0, -1.0)), -0.18),
        (((-60.0, 0.0), (0.0, 0.1), (120.0, 0.3), (300.0, 0.6)), 0.096),
    ],
)
def test_the_rate_that_readings_make_likely(known: tuple[tuple[float, float], ...], rate: float) -> None:
    assert likely_rate(known) * 60 == pytest.approx(rate, abs=0.02)
    path = light_path(
        ExposureEndQuestion(200.0, readings=known[1:], delay_seconds=-known[0][0], rate_from_readings=True)
    )
    assert path.slope_after * 60 == pytest.approx(rate, abs=0.02)


def test_brackets_splits_and_repeats_as_a_queue() -> None:
    bracket = series(SeriesQuestion(8.0, Way.BRACKET, 3))
    assert [(frame.mark, frame.stops) for frame in bracket.frames] == [("8", 0), ("4", -1), ("15", 1)]
    assert bracket.burst
    # Past the dial one bulb frame follows another, and noise reduction keeps the camera as long again.
    bulb = series(SeriesQuestion(60.0, Way.BRACKET, 3, noise_reduction=True, handling_seconds=10))
    assert not bulb.burst
    first, second, third = bulb.frames
    assert (first.seconds, first.closes_at, first.busy_until) == (60, 60, 120)
    assert (second.opens_at, second.mark, second.seconds) == (130, "30", 32)
    assert third.seconds == 120
    assert bulb.total_seconds == third.busy_until == pytest.approx(130 + 64 + 10 + 240)
    split = series(SeriesQuestion(240.0, Way.SPLIT, 8))
    assert {frame.seconds for frame in split.frames} == {32}
    assert split.more_light_stops == 3
    assert len(series(SeriesQuestion(10.0, Way.REPEAT, 5)).frames) == 5
    for bad, field in (
        (SeriesQuestion(10.0, Way.REPEAT, 1), "count"),
        (SeriesQuestion(40_000.0, Way.REPEAT, 9), "count"),
        (SeriesQuestion(10.0, Way.BRACKET, 3, 0.3), "spacing_stops"),
        (SeriesQuestion(10.0, Way.BRACKET, 3, 4.1), "spacing_stops"),
        (SeriesQuestion(10.0, Way.BRACKET, 3, handling_seconds=-1.0), "handling_seconds"),
        (SeriesQuestion(10.0, Way.BRACKET, 3, handling_seconds=3601.0), "handling_seconds"),
        (SeriesQuestion(80_000.0, Way.BRACKET, 3), "seconds"),
    ):
        with pytest.raises(Refusal) as refusal:
            series(bad)
        assert refusal.value.field == field


@given(seconds=st.floats(0.01, 600), count=st.integers(2, 9), spacing=st.floats(1 / 3, 2), noise=st.booleans())
def test_no_frame_of_a_queue_opens_before_the_camera_is_free(
    seconds: float, count: int, spacing: float, noise: bool
) -> None:
    try:
        found = series(SeriesQuestion(seconds, Way.BRACKET, count, spacing, noise_reduction=noise))
    except Refusal:
        return
    for before, after in zip(found.frames, found.frames[1:], strict=False):
        assert after.opens_at >= before.busy_until >= before.closes_at > before.opens_at
    assert math.fsum(frame.stops for frame in found.frames) == pytest.approx(0 if count % 2 else -count / 2 * spacing)
