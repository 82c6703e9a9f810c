"""Test core/exposure/calculation.py."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.camera.reciprocity import Additive, LawGiven, Power, Table
from jackstaff_core.exposure.calculation import (
    Counting,
    Exposure,
    ExposureQuestion,
    MovingLight,
    expose,
    needs_sun_caution,
)
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.moving_light.end_of_exposure import ExposureEndQuestion, exposure_end
from jackstaff_core.scales.ladders import SHORTEST_SECONDS, Step, shutter_marks
from jackstaff_core.words.refusal import Refusal
from tests.core.given_sums import READING, ask
from tests.core.tables import facts, near


def test_a_time_no_shutter_has_is_refused_and_the_shortest_is_not() -> None:
    shortest = ReadingGiven(SHORTEST_SECONDS, 8.0, 100.0)
    assert expose(ExposureQuestion(shortest)).seconds == SHORTEST_SECONDS
    with pytest.raises(Refusal):
        expose(ExposureQuestion(shortest, settings=SettingsGiven(7.9, 100.0)))


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
    wanted = (
        answer.seconds if bulb else shutter_marks().nearest(answer.seconds).exact if limit == 30 else answer.set_seconds
    )
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


def test_caution_begins_at_nine_stops_with_the_doubt_of_each_filter() -> None:
    assert needs_sun_caution(9.0, [])
    assert not needs_sun_caution(8.99, [])
    assert needs_sun_caution(8.5, [0.3, 0.0])
    assert not needs_sun_caution(8.5, [0.2])


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


def test_a_forecast_in_place_of_a_reading_is_as_sure_as_the_forecast_and_says_so() -> None:
    metered, expected = ask(6.0), ask(6.0, expected_sd=0.6)
    assert expected.seconds == metered.seconds
    assert expected.sure_within_stops == pytest.approx(math.hypot(metered.sure_within_stops, 1.2))
    said_ = {advice.code: advice.text for advice in expected.advice}
    assert "give or take 1.2 stop: meter before you open" in said_["not_metered"]
    assert "not_metered" not in {advice.code for advice in metered.advice}


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


BARE = ReadingGiven("1/40", "9", "64")


@pytest.mark.parametrize(("aperture", "iso"), [(None, None), (None, "64"), ("9", None)])
def test_a_shutter_alone_is_a_reading_when_nothing_else_moves(aperture: str | None, iso: str | None) -> None:
    alone = ReadingGiven("1/40", aperture, iso)
    answer = expose(ExposureQuestion(alone, (GlassGiven(stops=9),)))
    assert answer.seconds == pytest.approx(expose(ExposureQuestion(BARE, (GlassGiven(stops=9),))).seconds)
    assert answer.scene_ev100 is None
    moved = ExposureQuestion(alone, settings=SettingsGiven("8", "100"))
    with pytest.raises(Refusal, match="not whole"):
        expose(moved)


def test_film_acts_last_on_the_metered_time() -> None:
    asked = ExposureQuestion(ReadingGiven(1 / 64, 8.0, 100.0), (GlassGiven(stops=10),), film=Power(1.3))
    film, bare = expose(asked), expose(ExposureQuestion(ReadingGiven(1 / 64, 8.0, 100.0), (GlassGiven(stops=10),)))
    assert film.seconds == pytest.approx(16**1.3)
    assert [step.kind for step in film.steps] == ["reading", "glass", "film"]
    assert film.sure_within_stops == pytest.approx(1.3 * bare.sure_within_stops)
    # A stop more of glass asks p stops more of time.
    more = expose(ExposureQuestion(ReadingGiven(1 / 64, 8.0, 100.0), (GlassGiven(stops=11),), film=Power(1.3)))
    assert math.log2(more.seconds / film.seconds) == pytest.approx(1.3)


def test_light_that_was_seen_to_move_counts_instead_of_rate_and_delay() -> None:
    reading = ReadingGiven("1/2", "8", "100")
    still = expose(ExposureQuestion(reading))
    seen = expose(ExposureQuestion(reading, light=MovingLight(0.0, 0.0, 300, moved_stops=1.0, moved_sd=0.1)))
    assert math.log2(still.seconds / seen.seconds) == pytest.approx(1)
    assert seen.sure_within_stops > still.sure_within_stops
    # It was watched all the while: nobody needs to meter again.
    assert "meter_again" not in {remark.code for remark in seen.advice}
    told = expose(ExposureQuestion(reading, light=MovingLight(0.2, 0.0, 300)))
    assert "meter_again" in {remark.code for remark in told.advice}
    with pytest.raises(Refusal, match="moved_stops"):
        expose(ExposureQuestion(reading, light=MovingLight(0.0, moved_stops=99.0)))
