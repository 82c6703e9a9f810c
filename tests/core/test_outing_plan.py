"""What an outing's plan adds: a ridge, moving light in the sum, frames that fill, pack list and hazards."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.camera.reciprocity import Power
from jackstaff_core.exposure.calculation import ExposureQuestion, MovingLight, expose
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.moving_light.end import ExposureEndQuestion, exposure_end
from jackstaff_core.moving_light.integral import Path, gathered
from jackstaff_core.outing.hazards import HAZARDS
from jackstaff_core.outing.packing import Plan, pack
from jackstaff_core.questions import ask
from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.filling import longest
from jackstaff_core.sky.forecast import LightQuestion, OwnReading, Scene, forecast, rate_sd
from jackstaff_core.sky.plausibility import SkyPick, fits_sky
from jackstaff_core.sky.ridge import MOST_STEP, Ridge, beam_lux, sun_step
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.words.refusal import Refusal

TARN = Place(58.113, 6.781)
MORNING = datetime(2027, 9, 26, 4, 30, tzinfo=UTC)


def morning(**more: object) -> LightQuestion:
    return LightQuestion(TARN, MORNING, MORNING + timedelta(hours=4), 60.0, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("altitude", "beam", "step"),
    # Kasten & Young: air mass 10.306 at 5 deg, 5.586 at 10 deg, 1.9939 at 30 deg, 1 at the zenith.
    [(5, 1276, 0.482), (10, 6851, 1.40), (30, 41938, 3.0), (90, 103350, 2.4), (0, 0, 0), (-4, 0, 0)],
)
def test_the_beam_of_the_sun(altitude: float, beam: float, step: float) -> None:
    assert beam_lux(altitude) == pytest.approx(beam, rel=0.01)
    assert sun_step(altitude) == pytest.approx(step, abs=0.1)
    assert sun_step(altitude, 0.0) == 0
    assert 0 <= sun_step(altitude, 0.5) <= sun_step(altitude) <= MOST_STEP


def test_a_ridge_delays_the_sun_and_its_arrival_is_a_step() -> None:
    ridge = Ridge(180, 1100)
    assert ridge.deg == pytest.approx(9.293, abs=1e-3)
    light = forecast(morning(scene=Scene.SUN_LIT, ridge=ridge))
    free = forecast(morning(scene=Scene.SUN_LIT))
    over = next(event.at for event in light.events if event.name == "sun_over_ridge")
    assert over is not None
    before = max(point.at for point in light.points if point.altitude_deg < ridge.deg)
    assert 0 <= (over - before).total_seconds() <= 60
    apart = {here.at: there.ev100 - here.ev100 for here, there in zip(light.points, free.points, strict=True)}
    assert apart[before] == pytest.approx(sun_step(ridge.deg), abs=0.02)
    assert all(
        apart[point.at] == 0 for point in light.points if point.altitude_deg > ridge.deg or point.altitude_deg < 0
    )
    # The sky's own light is not kept away, nor what clouds have scattered already.
    for other in (morning(ridge=ridge), morning(ridge=ridge, scene=Scene.SUN_LIT, sky=Sky.OVERCAST)):
        plain = LightQuestion(other.place, other.start, other.end, other.step_seconds, other.sky, other.scene)
        assert [point.ev100 for point in forecast(other).points] == [point.ev100 for point in forecast(plain).points]
    night = forecast(LightQuestion(TARN, MORNING - timedelta(hours=6), MORNING - timedelta(hours=4), ridge=ridge))
    assert [event.at for event in night.events if event.name == "sun_over_ridge"] == [None]


def test_the_rate_is_better_known_the_more_is_read() -> None:
    at = MORNING + timedelta(minutes=40)
    light = {point.at: point.ev100 for point in forecast(morning()).points}
    readings = tuple(
        OwnReading(MORNING + timedelta(minutes=turn), light[MORNING + timedelta(minutes=turn)])
        for turn in (0, 13, 26, 39)
    )
    sds = [rate_sd(morning(readings=readings[:count]), at) for count in range(5)]
    assert sds == sorted(sds, reverse=True)
    assert rate_sd(morning(scene=Scene.LAMP_LIT), at) == 0


@given(
    rate=st.floats(-0.3, 0.6),
    delay=st.floats(0, 600),
    glass=st.floats(0, 12),
    p=st.none() | st.floats(1.01, 1.5),
)
def test_moving_light_in_the_sum_is_what_closing_says(rate: float, delay: float, glass: float, p: float | None) -> None:
    film = Power(p) if p else None
    reading = ReadingGiven("1/15", "8", "100")
    still = expose(ExposureQuestion(reading, (GlassGiven(stops=glass),), film=film))
    moved = expose(
        ExposureQuestion(reading, (GlassGiven(stops=glass),), film=film, light=MovingLight(rate, 0.02, delay))
    )
    assert moved.metered_seconds == still.metered_seconds
    end = exposure_end(ExposureEndQuestion(still.metered_seconds, 0, delay, rate, film=film))
    if end.close_after_seconds is None:
        assert any(remark.code == "never_fills" for remark in moved.advice)
    else:
        assert moved.seconds == pytest.approx(end.close_after_seconds)
    # The steps add up to the answer whatever they are.
    total = moved.steps[0].seconds * 2 ** math.fsum(step.stops for step in moved.steps)
    # Less than a millionth of a stop is no step.
    assert total == pytest.approx(moved.seconds, rel=1e-6)
    assert ("meter_again" in {remark.code for remark in moved.advice}) == (abs(rate * delay / 60) > 1 / 3)
    assert moved.sure_within_stops >= still.sure_within_stops - (0.3 if film else 1e-12)


def test_the_sum_names_the_light_and_doubts_its_rate() -> None:
    answer = expose(
        ExposureQuestion(ReadingGiven("1/15", "8", "100"), (GlassGiven(stops=12),), light=MovingLight(-0.1, 0.03, 60))
    )
    step = answer.steps[-1]
    assert (step.kind, step.name) == ("light", "Light falling")
    # 240 s at -0.1 stop/min would be 281 s; 256 s metered a minute ago asks 274 s of light at the opening.
    assert answer.metered_seconds == pytest.approx(256)
    assert answer.seconds == pytest.approx(329.99, abs=0.01)
    # 95 %: reading 0.096, glass 0.17, rate 0.03 x (2.7 + 1) min.
    minutes = answer.seconds / 120 + 1
    assert answer.sure_within_stops == pytest.approx(2 * math.hypot(1 / 3 / math.sqrt(12), 0.17, 0.03 * minutes))
    with pytest.raises(Refusal, match="stops a minute"):
        expose(ExposureQuestion(ReadingGiven("1/15", "8", "100"), light=MovingLight(31)))


def test_what_fills_is_asked_for_each_step_and_open_beyond_a_day() -> None:
    whole = longest(forecast(morning()).points)
    begin, end = MORNING.isoformat(), (MORNING + timedelta(hours=4)).isoformat()
    found = ask("outing/fillable", {"latitude": TARN.latitude, "longitude": TARN.longitude, "from": begin, "to": end})
    assert found["longest_seconds"] == [seconds if seconds <= 86_400 else None for seconds in whole]
    assert {seconds is None for seconds in found["longest_seconds"]} == {True, False}


def test_the_longest_frame_that_fills_is_what_the_light_gathers() -> None:
    light = forecast(LightQuestion(TARN, MORNING + timedelta(hours=11), MORNING + timedelta(hours=14), 60.0))
    found = longest(light.points)
    assert found[-1] == 0
    start = light.points[0]
    for place in (0, 60, 120):
        here = light.points[place]
        path = Path.through(
            [((point.at - start.at).total_seconds(), point.ev100 - here.ev100) for point in light.points]
        )
        begin, end = (here.at - start.at).total_seconds(), (light.points[-1].at - start.at).total_seconds()
        assert found[place] == pytest.approx(gathered(path, begin, end), rel=1e-9)
    # After sunset an eight-minute reading is never filled: models.md 6.
    dusk = next(place for place, point in enumerate(light.points) if point.altitude_deg < -6)
    assert found[dusk] < 480


FULL = Plan(
    body="Full-frame body A", lens="24 mm prime", support="Tripod", release="Wired remote", holder="Slot holder",
    glass=("Slot ND 10", "Slot ND 4"), densest_stops=14, longest_seconds=240, frames=41, battery_wh=14, celsius=-4,
    wind_m_s=9, dark=True, tide=True, noise_reduction=True, polariser="Clip-on pol", film="Fine-grain film",
    hazards=("tide", "alone", "ice", "edge"),
)  # fmt: skip


@pytest.mark.parametrize(
    ("plan", "there", "absent"),
    [
        (Plan(), {"body", "lens", "support"}, {"release", "tape", "cap", "head_torch", "gloves"}),
        (Plan(longest_seconds=31), {"release"}, {"tape"}),
        (Plan(longest_seconds=31, dial_limit=60.0), set(), {"release"}),
        (Plan(glass=("Slot ND 14",), densest_stops=14), {"glass_0", "tape", "cap", "hat"}, {"release"}),
        (Plan(celsius=5), {"gloves", "warm"}, {"ballast"}),
        (Plan(celsius=6), set(), {"gloves"}),
        (Plan(hazards=("traffic",)), {"reflective"}, {"stick"}),
        (FULL, {"film", "polariser", "holder", "ballast", "tide_table", "spikes", "boots", "head_torch"}, set()),
    ],
)
def test_the_pack_list_grows_from_the_plan(plan: Plan, there: set[str], absent: set[str]) -> None:
    lines = pack(plan)
    codes = [line.code for line in lines]
    assert len(set(codes)) == len(codes)
    assert there <= set(codes)
    assert not absent & set(codes)
    assert all(line.what and line.why.endswith(".") for line in lines)


def test_what_the_plan_needs_and_the_kit_lacks_is_missing_and_batteries_are_counted() -> None:
    lines = {line.code: line for line in pack(Plan(longest_seconds=60, body="Full-frame body A"))}
    assert {code for code, line in lines.items() if line.missing} == {"lens", "support", "release"}
    # 14 Wh at -4 degrees, 240 s with noise reduction at 3 W: 20 frames a battery, so 41 want three.
    batteries = next(line for line in pack(FULL) if line.code == "spare_battery")
    assert (batteries.what, batteries.why) == ("2 spare batteries", "41 frames want about 3 batteries.")
    for frames, what, why in (
        (20, "Spare battery", "Charged, and kept warm."),
        (21, "Spare battery", "21 frames want about 2 batteries."),
    ):
        batteries = next(line for line in pack(replace(FULL, frames=frames)) if line.code == "spare_battery")
        assert (batteries.what, batteries.why) == (what, why)
    with pytest.raises(Refusal, match="no hazard known"):
        pack(Plan(hazards=("dragons",)))
    codes = [hazard.code for hazard in HAZARDS]
    assert len(set(codes)) == len(codes)
    # Every hazard's things are in the list's own vocabulary.
    assert pack(Plan(hazards=tuple(codes)))


@pytest.mark.parametrize(
    ("ev", "pick", "code"),
    [
        (14.6, SkyPick.FULL_SUN, None), (17.0, SkyPick.FULL_SUN, "too_bright"), (4.6, SkyPick.FULL_SUN, "too_dark"),
        (12, SkyPick.OVERCAST, None), (15, SkyPick.OVERCAST, "too_bright"), (9, SkyPick.SHADE, None),
        (5, SkyPick.LAMPS, None), (12, SkyPick.LAMPS, "too_bright"), (-5, SkyPick.DUSK, "too_dark"),
    ],
)  # fmt: skip
def test_a_reading_against_the_sky_one_sees(ev: float, pick: SkyPick, code: str | None) -> None:
    advice = fits_sky(ev, pick)
    assert (advice.code if advice else None) == code


@given(st.sampled_from(list(SkyPick)), st.floats(-4, 15))
def test_the_times_a_sky_gives_are_at_the_reading_s_own_settings(pick: SkyPick, ev: float) -> None:
    shown = {"aperture": 8, "iso": 200, "shutter": 64 / 2 ** (ev + 1)}
    found = ask("outing/sky", {"sky": pick.value, "reading": shown})
    assert found["ev100"] == pytest.approx(ev)
    # The brighter end of the sky gives the shorter time.
    for name, end in (("from_seconds", "high_ev100"), ("to_seconds", "low_ev100")):
        assert math.log2(64 / found[name]) - 1 == pytest.approx(found[end])
