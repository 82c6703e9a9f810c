"""Test core/run/checklist.py."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from jackstaff_core.gear.things import Body, Glass, Holder, Lens, Release, Support
from jackstaff_core.run.checklist import LINE_OF, Armed, Sun, arm, sun_seen
from jackstaff_core.scales.ladders import Step, iso_marks
from jackstaff_core.stacks.rules import On
from jackstaff_core.words.advice import Severity
from jackstaff_core.words.refusal import Refusal

BODY = Body(battery_wh=14.0, eyepiece="electronic")
PLATE = On("Slot ND 10", Glass(stops=10.0, mount="plate", gasket=True), 10.0)
FOUR = On("Slot ND 4", Glass(stops=4.0, mount="plate"), 4.0)
POLARISER = On("Clip-on pol", Glass(kind="polariser", stops=1.5), 1.5)
VARIABLE = On("Ring VND", Glass(kind="variable", stops=2.0, stops_max=8.0, offset=0.3), 4.3)
GRADUATED = On("Slot grad 3", Glass(kind="graduated", stops=3.0, mount="plate"), 0.0)
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
    frame, quick = iso_marks(Step.THIRD).mark(own), iso_marks(Step.THIRD).mark(found.iso)
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
