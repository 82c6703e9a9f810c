"""The exposure sum: facts, laws, and what is refused."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.camera.reciprocity import Additive, LawGiven, Power, Table
from jackstaff_core.exposure.calculation import Counting, Exposure, ExposureQuestion, MovingLight, expose
from jackstaff_core.exposure.timing_error import timing_error
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.moving_light.end import ExposureEndQuestion, exposure_end
from jackstaff_core.scales.ladders import Step, times
from jackstaff_core.scales.spoken import rounded, time_in_words
from jackstaff_core.words.refusal import Refusal

from .tables import facts, near

READING = ReadingGiven("1/40", "9", "64")


def ask(*stops: float, reading: ReadingGiven = READING, **more: object) -> Exposure:
    """The exposure through solid glass of these labelled stops."""
    glass = tuple(GlassGiven(stops=each) for each in stops)
    return expose(replace(ExposureQuestion(reading, glass), **more))  # type: ignore[arg-type]


@facts("times")
def test_base_and_stack_give_the_time(row: dict[str, str]) -> None:
    number = {name: float(value) for name, value in row.items()}
    reading = ReadingGiven(number["reading_seconds"], number["reading_aperture"], number["reading_iso"])
    settings = SettingsGiven(number["aperture"], number["iso"])
    answer = ask(number["stops"], reading=reading, settings=settings)
    # The tables print exact powers of two to six digits, so the settings carry that error.
    assert answer.seconds == near(number["seconds"], 5)
    assert answer.stops == pytest.approx(math.log2(number["seconds"] / number["reading_seconds"]), abs=1e-4)


@pytest.mark.parametrize(("metered", "past"), [("8", False), ("15", False), ("25", True)])
def test_a_table_of_a_film_says_where_it_ends(metered: str, past: bool) -> None:
    table = Table(((1, 1.5), (5, 10), (20, 60)))
    *_, step = ask(reading=ReadingGiven(metered, "8", "100"), film=table).steps
    assert (step.kind, "past the end of its table" in step.name) == ("film", past)


@pytest.mark.parametrize(("offset", "answered"), [(-0.5, True), (0.0, True), (0.4, False)])
def test_a_stack_has_thirty_stops_at_most_by_what_is_measured(offset: float, answered: bool) -> None:
    # So short a reading that the day is not what ends it.
    question = ExposureQuestion(
        ReadingGiven("1/32000", "8", "100"), (GlassGiven(stops=15, offset=offset), GlassGiven(stops=15))
    )
    if answered:
        assert expose(question).stops == 30 + offset
        return
    with pytest.raises(Refusal, match=r"30\.4 stops are past 30") as refused:
        expose(question)
    assert refused.value.field == "stack"


@pytest.mark.parametrize("reading", [ReadingGiven(ev100=12.0), ReadingGiven(1 / 64, 8.0, 100.0)])
def test_a_hand_meter_s_light_is_a_camera_s(reading: ReadingGiven) -> None:
    answer = ask(6, reading=reading, settings=SettingsGiven("8", "100"))
    assert answer.scene_ev100 == pytest.approx(12)
    assert answer.seconds == pytest.approx(1)


def test_the_sum_shows_every_step() -> None:
    answer = expose(
        ExposureQuestion(
            READING,
            (
                GlassGiven(label="9 stops", offset=0.2, offset_sd=0.1),
                GlassGiven(stops=4),
                GlassGiven(stops=1.5, in_reading=True),
            ),
            SettingsGiven("11", "100"),
        )
    )
    assert [step.kind for step in answer.steps] == [
        "reading", "glass", "measured", "glass", "in_reading", "aperture", "iso",
    ]  # fmt: skip
    assert [step.stops for step in answer.steps] == pytest.approx([0, 9, 0.2, 4, 0, 2 / 3, -2 / 3])
    assert [step.glass for step in answer.steps] == [None, 0, 0, 1, 2, None, None]
    assert answer.steps[0].seconds == near(0.0248031)
    assert answer.steps[-1].seconds == answer.seconds == near(233.401)
    assert answer.stops == pytest.approx(sum(step.stops for step in answer.steps))
    assert answer.glass_stops == pytest.approx(14.7)


@pytest.mark.parametrize(
    ("stops", "reading", "settings", "marked"),
    [
        # 1/60 x 1024 on the printed number; worst case of three moves together.
        (10, ReadingGiven("1/60", "8", "100"), SettingsGiven(), 17.0667),
        (10, ReadingGiven("1/15", "11", "2500"), SettingsGiven("13", "32"), 1024 / 15 * (13 / 11) ** 2 * 2500 / 32),
    ],
)
def test_counting_with_printed_numbers(
    stops: float, reading: ReadingGiven, settings: SettingsGiven, marked: float
) -> None:
    exact = ask(stops, reading=reading, settings=settings)
    printed = ask(stops, reading=reading, settings=settings, scale=Counting.AS_MARKED)
    assert printed.seconds == exact.as_marked_seconds == near(marked)
    assert printed.exact_seconds == exact.seconds
    assert abs(math.log2(printed.seconds / exact.seconds)) <= 0.288
    assert "marked_differs" in [advice.code for advice in exact.advice]


@pytest.mark.parametrize(
    ("stops", "limit", "bulb", "mark", "past"),
    [
        (9, 30, False, "13", 0),
        (10, 30, False, "25", 0),
        (10 + 1 / 3, 30, False, "30", 0),
        (10.49, 30, False, "30", 0.157),
        (10.51, 30, True, None, 0.177),
        (10, 15, True, None, 2 / 3),
        (12, 120, False, "100", 0),
        (13, 30, True, None, 8 / 3),
    ],
)
def test_dial_or_bulb(stops: float, limit: float, bulb: bool, mark: str | None, past: float) -> None:
    answer = ask(stops, dial_limit=limit)
    assert (answer.bulb, answer.dial_mark) == (bulb, mark)
    assert answer.past_dial_stops == pytest.approx(past, abs=1e-3)
    assert ("bulb" in [advice.code for advice in answer.advice]) == bulb
    wanted = answer.seconds if bulb else times().nearest(answer.seconds).exact if limit == 30 else answer.set_seconds
    assert answer.set_seconds == wanted


@pytest.mark.parametrize(
    ("glass", "step", "sure"),
    [
        ((), Step.THIRD, 2 * 0.096225),
        ((), Step.HALF, 2 * 0.144338),
        ((), Step.FULL, 2 * 0.288675),
        ((GlassGiven(stops=9), GlassGiven(stops=4)), Step.THIRD, 2 * math.sqrt(0.096225**2 + 2 * 0.17**2)),
        ((GlassGiven(stops=9, offset=0.2, offset_sd=0.05),), Step.THIRD, 2 * math.hypot(0.096225, 0.05)),
        ((GlassGiven(stops=9, in_reading=True),), Step.THIRD, 2 * 0.096225),
    ],
)
def test_one_honest_plus_or_minus(glass: tuple[GlassGiven, ...], step: Step, sure: float) -> None:
    answer = expose(ExposureQuestion(replace(READING, shutter="1/30", aperture="8", iso="100", step=step), glass))
    assert answer.sure_within_stops == pytest.approx(sure, abs=1e-5)
    assert math.log2(answer.to_seconds / answer.seconds) == pytest.approx(sure, abs=1e-5)
    assert math.log2(answer.seconds / answer.from_seconds) == pytest.approx(sure, abs=1e-5)


def test_a_hand_meter_gives_the_base_reading() -> None:
    answer = ask(10, reading=ReadingGiven(ev100=12.0), settings=SettingsGiven("11", "200"))
    assert answer.base_seconds == pytest.approx(1 / 64)
    assert answer.seconds == pytest.approx(16)


@pytest.mark.parametrize(
    ("question", "field"),
    [
        (ExposureQuestion(ReadingGiven("1/40", "9", None), settings=SettingsGiven("9", "64")), "reading.iso"),
        (ExposureQuestion(ReadingGiven("1/40", None, "64"), settings=SettingsGiven(aperture="8")), "reading.aperture"),
        (ExposureQuestion(ReadingGiven("240", "9", "64")), "reading.shutter"),
        (ExposureQuestion(ReadingGiven("1/40", "nine", "64")), "reading.aperture"),
        (ExposureQuestion(ReadingGiven("1/40", "9", 0.0)), "reading.iso"),
        (ExposureQuestion(ReadingGiven(float("nan"), "9", "64")), "reading.shutter"),
        (ExposureQuestion(ReadingGiven(ev100=12.0)), "settings.aperture"),
        (ExposureQuestion(ReadingGiven("1/40", "9", "64", ev100=12.0)), "reading.ev100"),
        (ExposureQuestion(READING, (GlassGiven(),)), "stack.0"),
        (ExposureQuestion(READING, (GlassGiven(stops=3), GlassGiven(label="ND10"))), "stack.1.label"),
        (ExposureQuestion(READING, (GlassGiven(stops=3, label="ND8"),)), "stack.0.label"),
        (ExposureQuestion(READING, (GlassGiven(stops=0.3, offset=-1.0),)), "stack.0.offset"),
        (ExposureQuestion(READING, (GlassGiven(stops=1),) * 9), "stack"),
        (ExposureQuestion(READING, (GlassGiven(stops=16), GlassGiven(stops=15))), "stack"),
        (ExposureQuestion(ReadingGiven("30", "9", "64"), (GlassGiven(stops=20),)), "stack"),
        (ExposureQuestion(ReadingGiven("1/32000", "9", "64"), (), SettingsGiven("1", "64")), "settings"),
        (ExposureQuestion(READING, dial_limit=0.0), "dial_limit"),
    ],
)
def test_bad_questions_are_refused_where_they_are_wrong(question: ExposureQuestion, field: str) -> None:
    with pytest.raises(Refusal) as refused:
        expose(question)
    assert refused.value.field == field
    assert refused.value.problem.endswith(".")
    assert refused.value.instead.endswith(".")


def test_advice_speaks_when_it_matters() -> None:
    def codes(answer: Exposure) -> list[str]:
        return [advice.code for advice in answer.advice]

    assert codes(ask(8)) == []
    assert codes(ask(14)) == ["bulb", "stray_light", "sun_eyes"]
    assert "shutter_two_meanings" in codes(ask(3, reading=ReadingGiven("4", "8", "100")))
    assert "shutter_two_meanings" not in codes(ask(3, reading=ReadingGiven("4 s", "8", "100")))


@pytest.mark.parametrize(
    ("filters", "warned"),
    [
        # Its doubt counts with the strength: 95 % of a label alone is a third of a stop.
        ((GlassGiven(stops=8.65),), False),
        ((GlassGiven(stops=8.67),), True),
        ((GlassGiven(stops=8.89, offset=0, offset_sd=0.05),), False),
        ((GlassGiven(stops=8.91, offset=0, offset_sd=0.05),), True),
        ((GlassGiven(label="ND1000"),), True),
        ((GlassGiven(stops=4), GlassGiven(stops=4.6)), True),
        # What was metered through is as dark to an eye.
        ((GlassGiven(stops=9, in_reading=True),), True),
    ],
)
def test_nobody_is_left_to_look_at_the_sun_through_a_dark_filter(filters: tuple[GlassGiven, ...], warned: bool) -> None:
    advice = {each.code: each for each in expose(ExposureQuestion(READING, filters)).advice}
    assert ("sun_eyes" in advice) == warned
    assert not warned or advice["sun_eyes"].severity == "harm"


STOPS = st.floats(0, 8)


@given(STOPS, STOPS)
def test_glass_adds(stops: float, more: float) -> None:
    apart, together = ask(stops, more), ask(stops + more)
    assert apart.seconds == pytest.approx(together.seconds, rel=1e-9)
    assert apart.seconds >= ask(stops).seconds


@given(STOPS, st.sampled_from(["4", "5.6", "13", "22"]), st.sampled_from(["32", "100", "1600"]))
def test_a_move_and_its_reverse_cancel(stops: float, aperture: str, iso: str) -> None:
    there = ask(stops, settings=SettingsGiven(aperture, iso))
    back = ask(0, reading=ReadingGiven(there.seconds, aperture, iso), settings=SettingsGiven("9", "64"))
    assert back.seconds == pytest.approx(ask(stops).seconds, rel=1e-9)


@given(st.floats(0, 18))
def test_rounder_times_enclose_and_tell_their_cost(stops: float) -> None:
    answer = ask(stops)
    for rounder in answer.rounded:
        assert rounder.stops == pytest.approx(math.log2(rounder.seconds / answer.seconds))
    # Just past the dial stands its last mark alone.
    assert [rounder.seconds < answer.seconds for rounder in answer.rounded] == [True, False][: len(answer.rounded)]


@pytest.mark.parametrize(
    ("more", "stops"),
    [
        ({}, math.log2(260 / 256)),
        # A stop of time on film is 1/p of a stop of light; falling light gives less for each second, rising light more.
        ({"film": Power(1.31)}, None),
        ({"light": MovingLight(-0.3, 0.02)}, None),
        ({"light": MovingLight(0.2, 0.02), "film": Power(1.2)}, None),
    ],
)
def test_a_rounder_time_costs_what_the_light_it_gathers_says(more: dict[str, Any], stops: float | None) -> None:
    question = ExposureQuestion(ReadingGiven("1/8", "9", "64"), (GlassGiven(stops=11),), **more)
    answer = expose(question)
    for rounder in answer.rounded:
        decided = expose(replace(question, chosen_seconds=rounder.seconds))
        assert rounder.stops == pytest.approx(decided.residue_stops, abs=1e-6)
    if stops is None:
        farthest = max(answer.rounded, key=lambda each: abs(each.stops))
        assert abs(farthest.stops - math.log2(farthest.seconds / answer.seconds)) > 1e-3
    else:
        assert [each.stops for each in answer.rounded][1] == pytest.approx(stops)


@pytest.mark.parametrize(
    ("field", "said"),
    [
        (lambda: ReadingGiven(1e-9, "9", "64"), "from 1/32000 s to 24 h"),
        (lambda: ReadingGiven(1e6, "9", "64"), "277 h 47 min is outside"),
    ],
)
def test_refusals_speak_in_times(field: Callable[[], ReadingGiven], said: str) -> None:
    with pytest.raises(Refusal, match=said):
        expose(ExposureQuestion(field()))


def test_two_minutes_eight_is_called_two_minutes() -> None:
    assert [time.seconds for time in rounded(128)] == [120, 130]
    assert [time.stops for time in rounded(128)] == pytest.approx([-0.0931094, 0.0223678])
    assert rounded(120) == ()
    wanted = {
        1 / 64: "1/60 s",
        0.63: "0.6 s",
        4: "4 s",
        59.4: "59 s",
        128: "2 min 08 s",
        180: "3 min",
        3900: "1 h 05 min",
    }
    assert {time: time_in_words(time) for time in wanted} == wanted


@pytest.mark.parametrize(
    ("seconds", "fineness", "offered"),
    [
        (102, None, [100, 110]),
        (102, 5, [100, 105]),
        (102, 60, [60, 120]),
        (203.2, None, [200, 210]),
        (203.2, 30, [180, 210]),
        (323, 60, [300, 360]),
        (700, None, [690, 720]),
        (1427, None, [1380, 1440]),
        (120, None, []),
    ],
)
def test_times_are_rounded_as_finely_as_one_counts(seconds: float, fineness: float | None, offered: list[int]) -> None:
    assert [time.seconds for time in rounded(seconds, fineness)] == offered


def test_below_the_first_time_a_coarse_timer_counts_stands_the_dial_s_last_mark() -> None:
    # 1/40 and 10.8 stops: 44.6 s, past the dial; a timer that counts minutes has nothing below a minute.
    offered = ask(10.8, fineness_seconds=60.0).rounded
    assert [(time.mark, time.seconds) for time in offered] == [("30", 32.0), (None, 60.0)]
    assert offered[0].stops == pytest.approx(math.log2(32 / ask(10.8).seconds))


def test_a_chosen_time_is_what_is_set_and_ends_the_sum() -> None:
    right = ask(9, 4)
    chosen = ask(9, 4, chosen_seconds=180.0)
    assert (chosen.set_seconds, chosen.seconds) == (180.0, right.seconds)
    assert (chosen.steps[-1].kind, chosen.steps[-1].seconds) == ("chosen", 180.0)
    assert chosen.steps[-1].stops == chosen.residue_stops == pytest.approx(math.log2(180 / right.seconds))
    assert (right.residue_stops, right.steps[-1].kind) == (0.0, "glass")
    # Where the dial reaches, its mark is set and its mark's cost is said; 30 is really 32 s.
    trial = ask(9, 4, chosen_seconds=30.0)
    assert (trial.bulb, trial.dial_mark, trial.set_seconds) == (False, "30", 32.0)
    assert trial.residue_stops == pytest.approx(math.log2(32 / right.seconds))
    for bad in (0.0, -5.0, 1e6, math.nan):
        with pytest.raises(Refusal, match="chosen_seconds"):
            ask(9, 4, chosen_seconds=bad)


@pytest.mark.parametrize(
    ("off", "aperture"),
    # In whole stops from f/8: nothing for less than a tenth, nor where the next mark saves less than a twentieth.
    [(0.09, None), (0.51, None), (0.54, "11"), (-0.54, "5.6"), (1.3, "11"), (-2.2, "4"), (5.9, "64"), (6.1, None)],
)
def test_an_aperture_is_offered_where_it_takes_a_chosen_time_back(off: float, aperture: str | None) -> None:
    reading = ReadingGiven("1/30", "8", "100", step=Step.FULL)
    found = ask(14, reading=reading, chosen_seconds=512.0 * 2**off).fits_at
    assert (found.aperture if found else None) == aperture
    if found:
        assert found.stops == pytest.approx(off - round(off), abs=1e-6)


@settings(deadline=None)
@given(
    stops=st.floats(9, 13),
    chosen=st.floats(60, 900),
    rate=st.one_of(st.none(), st.floats(-0.05, 0.1)),
    film=st.sampled_from([None, Power(1.3), Additive(0.1, 1.6)]),
)
def test_what_a_chosen_time_costs_closes_the_frame_at_it(
    stops: float, chosen: float, rate: float | None, film: LawGiven | None
) -> None:
    light = None if rate is None else MovingLight(rate, 0.0, 60.0)
    answer = ask(stops, chosen_seconds=chosen, light=light, film=film)
    # Run keeps the metered time and what was wished beside it, and asks when that has been gathered.
    needed = answer.metered_seconds * 2**answer.residue_stops
    end = exposure_end(
        ExposureEndQuestion(needed, delay_seconds=60.0 if light else 0.0, stops_per_minute=rate, film=film)
    )
    assert end.close_after_seconds == pytest.approx(chosen, rel=1e-6)
    # The aperture that is offered beside it leaves what it says it leaves, and less than before.
    if answer.fits_at:
        there = ask(
            stops, chosen_seconds=chosen, light=light, film=film, settings=SettingsGiven(answer.fits_at.aperture)
        )
        assert there.residue_stops == pytest.approx(answer.fits_at.stops, abs=1e-5)
        assert abs(there.residue_stops) < abs(answer.residue_stops)
        assert abs(there.residue_stops) < 1 / 6 + 1e-6 or answer.fits_at.aperture in ("0.7", "64")
    else:
        assert abs(answer.residue_stops) < 1 / 6 + 0.05 + 1e-6 or abs(answer.residue_stops) > 5


@facts("lateness")
def test_lateness_in_stops(row: dict[str, str]) -> None:
    planned, late, stops = (float(row[name]) for name in ("planned", "late", "stops"))
    found = timing_error(planned, planned + late)
    assert found.stops == near(stops)
    assert found.verdict == ("on_time" if abs(stops) < 0.05 else "slight" if abs(stops) < 1 / 3 else "off")


@pytest.mark.parametrize(
    ("planned", "actual", "text"),
    [
        (120, 121, "Closed on time."),
        (3.2, 2.0, "Closed 1.2 s early: 0.68 stop darker."),
        (10, 20, "Closed 10 s late: 1.0 stop brighter."),
        (203.2, 0.85, "Closed 3 min 22 s early: 7.9 stops darker."),
    ],
)
def test_how_far_off_a_frame_was_closed_is_said_in_digits_that_mean_something(
    planned: float, actual: float, text: str
) -> None:
    assert timing_error(planned, actual).text == text


def test_a_forecast_in_place_of_a_reading_is_as_sure_as_the_forecast_and_says_so() -> None:
    metered, expected = ask(6.0), ask(6.0, expected_sd=0.6)
    assert expected.seconds == metered.seconds
    assert expected.sure_within_stops == pytest.approx(math.hypot(metered.sure_within_stops, 1.2))
    said_ = {advice.code: advice.text for advice in expected.advice}
    assert "give or take 1.2 stop: meter before you open" in said_["not_metered"]
    assert "not_metered" not in {advice.code for advice in metered.advice}
