"""Answers at the edge of a model, where a tool that is wrong once is not taken out again."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.exposure.calculation import Correction, ExposureQuestion, expose
from jackstaff_core.exposure.solving import Floating, SolveQuestion, solve
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.filters.white_balance import (
    green_said,
    green_stops,
    neutral_kelvin,
    shift_mired,
    white_balance_said,
)
from jackstaff_core.log.editing import EditQuestion, Tint, editing_notes
from jackstaff_core.motion.looks import LooksQuestion, Want, looks
from jackstaff_core.motion.subjects import Camera, Subject
from jackstaff_core.outing.packing import Plan, pack
from jackstaff_core.scales.ladders import Step
from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.daylight import ev100
from jackstaff_core.sky.forecast import LightQuestion, OwnReading, forecast
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.stacks.fieldcard import CardGlass, field_card
from jackstaff_core.stacks.finder import FinderQuestion, KitGlass, Target, find
from jackstaff_core.stacks.graduated import GraduatedQuestion, Owned, choose
from jackstaff_core.stacks.reach import CLOSE_STOPS, ReachQuestion, reach
from jackstaff_core.words.refusal import Refusal

DAWN = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)
MOLE = Place(58.052, 6.798)
BARE = ReadingGiven("1/40", "9", "64")


def planck(nanometres: float, kelvin: float) -> float:
    """Spectral radiance of a black body, in any unit."""
    metres = nanometres * 1e-9
    return float(metres**-5 / math.expm1(0.0143877688 / (metres * kelvin)))


def red_against_blue(kelvin: float) -> float:
    return math.log2(planck(600, kelvin) / planck(460, kelvin))


@pytest.mark.parametrize(("rg", "bg"), [(-0.15, 0.15), (0.15, -0.15), (-0.4, 0.1), (0.3, 0.0), (0.02, 0.0)])
@pytest.mark.parametrize("kelvin", [3200.0, 5500.0, 7500.0])
def test_the_white_balance_that_is_told_takes_the_colour_out(rg: float, bg: float, kelvin: float) -> None:
    shift = shift_mired(rg, bg)
    told = white_balance_said(shift, kelvin)
    if abs(rg - bg) < 0.05:
        assert told is None
        return
    new = neutral_kelvin(kelvin, shift)
    assert new
    # Set so, the camera renders light of `new` neutral: the filtered light has its red against blue, by Planck's law,
    # within what 70 mired a stop is good for (59 to 95 by kelvin and by the width of the bands).
    gone = red_against_blue(new) - red_against_blue(kelvin)
    assert gone == pytest.approx(rg - bg, rel=0.45)
    # A blue picture wants a higher kelvin, which renders warmer.
    blue = rg < bg
    assert ("blue" in (told or "")) == blue
    assert ("warmer" in (told or "")) == blue
    assert (new > kelvin) == blue


@pytest.mark.parametrize(
    ("rg", "bg", "said"),
    [
        (0.4, 0.4, "0.4 stop of green missing: magenta"),
        (-0.3, -0.3, "0.3 stop too much green"),
        (0.4, -0.4, None),
        (0.05, 0.05, None),
    ],
)
def test_green_is_told_by_its_amount(rg: float, bg: float, said: str | None) -> None:
    told = green_said(green_stops(rg, bg))
    assert (told is None) == (said is None)
    assert (said or "") in (told or "")


def test_the_edit_tells_colour_in_kelvin_where_it_is_known_and_none_of_it_in_black_and_white() -> None:
    blue = EditQuestion(glass=(Tint(mired=-21, green=-0.4), Tint(mired=-4)))
    assert [note.code for note in editing_notes(blue)] == ["white_balance", "tint"]
    assert "25 mired warmer, the higher kelvin" in editing_notes(blue)[0].text
    # 1e6/(1e6/5500 - 25) = 6377.
    assert "about 6400 K instead of 5500 K" in editing_notes(replace(blue, kelvin=5500.0))[0].text
    # What no camera can be set to is told without a number for it.
    assert "instead" not in editing_notes(replace(blue, kelvin=24_000.0))[0].text
    codes = [note.code for note in editing_notes(replace(blue, monochrome=True, error_stops=-0.5))]
    assert codes == ["tones", "channels", "grain", "lift"]
    assert neutral_kelvin(24_000.0, -30.0) is None
    with pytest.raises(Refusal, match="K is outside"):
        neutral_kelvin(100.0, 30.0)


def test_a_wish_for_brighter_is_a_step_of_its_own_wherever_the_time_goes() -> None:
    question = ExposureQuestion(BARE, (GlassGiven(stops=9),), correction=Correction(-1 / 3, "Last frame bright"))
    plain, wished = expose(question), expose(replace(question, purpose_stops=2 / 3))
    assert wished.seconds == pytest.approx(plain.seconds * 2 ** (2 / 3))
    assert [step.kind for step in wished.steps][-2:] == ["correction", "purpose"]
    assert wished.metered_seconds == pytest.approx(wished.seconds)
    # Whatever is worked out instead of the time gives that very time back.
    held = SolveQuestion(Floating.STACK, BARE, target_seconds=wished.seconds, wished_stops=1 / 3)
    assert solve(held).value == pytest.approx(9)
    for floating in (Floating.APERTURE, Floating.ISO):
        found = solve(replace(held, floating=floating, stops=9.0)).value
        assert found == pytest.approx({Floating.APERTURE: 9.0, Floating.ISO: 64.0}[floating], rel=0.02)
    nine = FinderQuestion(
        BARE, (KitGlass("nine", GlassKind.SOLID, 9.0),), 1, Target(wished.seconds, 0.1), ("9", "9"), ("64",),
        wished_stops=1 / 3,
    )  # fmt: skip
    assert [stack.glass for stack in find(nine).stacks] == [("nine",)]
    assert find(replace(nine, wished_stops=0.0)).count == 0


@pytest.mark.parametrize(("aperture", "iso"), [(None, None), (None, "64"), ("9", None)])
def test_a_shutter_alone_is_a_reading_when_nothing_else_moves(aperture: str | None, iso: str | None) -> None:
    alone = ReadingGiven("1/40", aperture, iso)
    answer = expose(ExposureQuestion(alone, (GlassGiven(stops=9),)))
    assert answer.seconds == pytest.approx(expose(ExposureQuestion(BARE, (GlassGiven(stops=9),))).seconds)
    assert answer.scene_ev100 is None
    moved = ExposureQuestion(alone, settings=SettingsGiven("8", "100"))
    with pytest.raises(Refusal, match="not whole"):
        expose(moved)


def soft(*stops: float) -> tuple[Owned, ...]:
    return tuple(Owned(f"{each:g}", each, "soft") for each in stops)


@pytest.mark.parametrize(
    ("sky", "owned", "lead", "pick"),
    [
        # 1/125 against 1/30 is two stops: one is wanted; two would make both alike, which is no farther than none.
        ("1/125", (2.0,), 1.0, None),
        ("1/125", (1.0, 2.0), 1.0, "1"),
        ("1/125", (3.0,), 1.0, None),
        # Three stops: two wanted.
        ("1/250", (1.0, 3.0), 1.0, "1"),
        ("1/250", (2.0, 3.0), 1.0, "2"),
        ("1/250", (4.0,), 1.0, None),
        # A dark sky that is wanted is given.
        ("1/250", (2.0, 4.0), -1.0, "4"),
        # Less than half of the weakest wanted: none is nearer.
        ("1/80", (2.0,), 1.0, None),
        ("1/250", (), 1.0, None),
    ],
)
def test_a_graduated_filter_never_turns_the_sky_darker_than_is_wanted(
    sky: str, owned: tuple[float, ...], lead: float, pick: str | None
) -> None:
    found = choose(GraduatedQuestion(sky, "1/30", owned=soft(*owned), lead_stops=lead))
    assert found.pick == pick
    assert found.suits == bool(owned)
    assert found.sky_lead >= min(0.0, lead) - 0.05
    assert found.foreground_gains >= 0
    if pick is None and owned:
        assert (found.pick_stops, found.sky_lead) == (0, found.sky_stops)


@given(st.sampled_from(list(Step)), st.floats(0, 16), st.sampled_from([0.5, 1.0, 30.0, 60.0]))
def test_no_two_rows_of_the_card_say_the_same_where_a_timer_can_tell_them_apart(
    step: Step, stops: float, limit: float
) -> None:
    cells = [line.cells[0] for line in field_card([CardGlass("one", stops)], 1 / 250, 1.0, limit, step)]
    for cell, following in pairwise(cells):
        if cell.seconds and following.seconds and (following.bulb or following.seconds <= 30):
            assert cell.text != following.text
            assert cell.seconds < following.seconds


@pytest.mark.parametrize(
    ("owned", "slots", "wished", "buys"),
    [
        # Wishes between six and ten: alone it is the eight, beside the six it is two stops.
        ((6.0, 10.0), 1, (8.0, 8.1, 7.9), 8.0),
        ((6.0, 10.0), 2, (8.0, 8.1, 7.9), 2.0),
        # Sixteen is a stack of both already.
        ((6.0, 10.0), 2, (16.0, 6.2), None),
        ((6.0, 10.0), 1, (16.0, 16.0, 3.0), 16.0),
        # Nothing wished for yet: two stops close what lies between six and ten.
        ((3.0, 6.0, 10.0), 2, (), 2.0),
        ((3.0,), 2, (), 8.0),
    ],
)
def test_what_to_buy_follows_what_was_wished_for(
    owned: tuple[float, ...], slots: int, wished: tuple[float, ...], buys: float | None
) -> None:
    glass = tuple(KitGlass(f"{stops:g}", GlassKind.SOLID, stops) for stops in owned)
    found = reach(ReachQuestion(BARE, glass, slots, wished=wished)).purchase
    assert (found and found.stops) == buys
    if found and wished:
        assert found.reached_then > found.reached_now
        assert found.wished == len(wished)
        more = (*glass, KitGlass("new", GlassKind.SOLID, found.stops))
        rungs = reach(ReachQuestion(BARE, more, slots)).rungs
        near = [min(abs(rung.stops - wish) for rung in rungs) <= CLOSE_STOPS for wish in wished]
        assert sum(near) == found.reached_then


@given(st.floats(-10, 22), st.floats(-2, 2), st.booleans())
@settings(deadline=None, max_examples=60)
def test_no_forecast_climbs_to_a_light_the_sun_cannot_give(first: float, step: float, second: bool) -> None:
    """A reading stops off at dawn is taken for the scene, and does not lift the noon past any sun."""
    readings = [OwnReading(DAWN, first)] + [OwnReading(DAWN + timedelta(minutes=5), first + step)] * second
    question = LightQuestion(
        MOLE, DAWN, DAWN + timedelta(hours=9), step_seconds=600, readings=tuple(readings), sky=Sky.CLEAR
    )
    latest = readings[-1].ev100
    for point in forecast(question).points:
        # The moon's part is below a hundredth of this.
        assert point.ev100 <= max(ev100(max(point.lux, 0.3)) + 2.01, latest, first) + 1e-9
    # What a sound reading says is left alone.
    sound = replace(question, readings=(OwnReading(DAWN, ev100(forecast(question).points[0].lux) + 0.5),))
    assert forecast(sound).points[0].ev100 == pytest.approx(sound.readings[0].ev100, abs=0.1)


def test_two_layers_of_cloud_meet_in_one_aim_or_are_told_apart() -> None:
    camera = Camera(focal_mm=24, elevation_deg=20, bearing_deg=0)
    low = Subject("cloud", {"height_m": 1000, "wind_m_s": 10, "wind_from_deg": 270}, "low")
    high = Subject("cloud", {"height_m": 4000, "wind_m_s": 20, "wind_from_deg": 290}, "high")

    def answer(*wants: Want) -> object:
        return looks(LooksQuestion(camera, (low, high), wants))

    both = looks(LooksQuestion(camera, (low, high), (Want("cloud", "streaks"),)))
    windows = {
        window.id: (window.from_seconds, window.to_seconds) for window in both.windows if window.look == "streaks"
    }
    assert windows["low"] != windows["high"]
    assert both.aim is not None
    # One time for both: it begins with the slower, and ends with the faster.
    assert both.aim.from_seconds == max(start or 0 for start, _ in windows.values())
    assert both.aim.to_seconds == min(end or math.inf for _, end in windows.values())
    alone = looks(LooksQuestion(camera, (low, high), (Want("cloud", "streaks", "low"),))).aim
    assert alone is not None
    assert (alone.from_seconds, alone.to_seconds) == windows["low"]
    with pytest.raises(Refusal, match="Nothing of the kind"):
        answer(Want("cloud", "streaks", "gone"))


@pytest.mark.parametrize(
    ("plan", "what"),
    [
        (Plan(wet=True), {"rain_cover": "Rain cover", "cloths": "Several dry cloths"}),
        (Plan(hazards=("swell",)), {"rain_cover": "Rain cover"}),
        (Plan(), {"cloths": "Cloth and blower"}),
        (Plan(plates=2), {"gaps": "Light-tight tape"}),
        # 3 W for three hours are 9 Wh; of 7 Wh at 10 degrees 4.9 are there to be used: two batteries.
        (Plan(open_minutes=180, battery_wh=7.0, celsius=10), {"spare_battery": "Spare battery"}),
        (Plan(open_minutes=360, battery_wh=7.0, celsius=10), {"spare_battery": "3 spare batteries"}),
        # Ten Wh of twice 4.9: the reserve asks for a third.
        (Plan(open_minutes=200, battery_wh=7.0, celsius=10), {"spare_battery": "2 spare batteries"}),
    ],
)
def test_wet_places_stacked_plates_and_long_plans_have_their_things(plan: Plan, what: dict[str, str]) -> None:
    lines = {line.code: line for line in pack(plan)}
    for code, text in what.items():
        assert lines[code].what.startswith(text)
    assert ("rain_cover" in lines) == (plan.wet or bool(plan.hazards))
    assert ("gaps" in lines) == (plan.plates > 1)
