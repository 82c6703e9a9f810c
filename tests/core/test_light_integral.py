"""Moving light: closed forms, tables, film, and quadrature; what never fills."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.camera.reciprocity import Additive, LawGiven, Power, Table
from jackstaff_core.moving_light.end import ExposureEndQuestion, exposure_end
from jackstaff_core.moving_light.integral import (
    Path,
    close_after,
    close_film,
    film_gathered,
    gathered,
    largest_reachable,
    open_seconds,
)
from jackstaff_core.scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from jackstaff_core.words.refusal import Refusal

from .tables import facts, near

TABLE_A = Path.through([(0.0, 0.0), (60.0, -0.3), (180.0, -1.2), (300.0, -1.5)])


@facts("drift")
def test_steady_drift(row: dict[str, str]) -> None:
    needed, rate, delay = float(row["needed"]), float(row["rate"]) / 60, float(row["delay"])
    path = Path.steady(rate, delay)
    assert close_after(path, needed) == near(row["open"])
    assert math.log2(gathered(path, 0, needed) / needed) == pytest.approx(float(row["error"]), abs=6e-6)
    assert largest_reachable(path) == near(row["largest"])


@pytest.mark.parametrize(("needed", "seconds"), [(30, 31.6769), (120, 165.219), (180, 317.67), (240, 526.161)])
def test_a_table_of_light(needed: float, seconds: float) -> None:
    assert close_after(TABLE_A, needed) == near(seconds)


def test_more_of_the_table() -> None:
    assert gathered(TABLE_A, 0, 180) == near(126.688)
    # Opened a minute after the metering: the same path seen from the opening.
    later = Path.through([(second - 60, stops) for second, stops in zip(TABLE_A.seconds, TABLE_A.stops, strict=True)])
    assert close_after(later, 120) == near(240.92)
    falling = exposure_end(ExposureEndQuestion(240, 100, readings=((90, -0.5),), stops_per_minute=-0.5 / 1.5))
    assert falling.gathered * 240 == near(82.9967)
    assert falling.close_after_seconds == near(100 + 569.886, 5)
    flat = exposure_end(ExposureEndQuestion(240, 200, readings=((90, -0.5), (200, -0.6)), stops_per_minute=0.0))
    assert flat.gathered * 240 == near(151.207)
    assert flat.close_after_seconds == near(200 + 134.585)
    film = close_film(TABLE_A, 60, Power(1.3))
    assert film == near(581.51)
    at_close = exposure_end(ExposureEndQuestion(240, stops_per_minute=-0.25))
    assert at_close.light_left_at_close == near(0.306853)


@facts("drift_film")
def test_drift_with_film(row: dict[str, str]) -> None:
    metered, rate, delay = float(row["metered"]), float(row["rate"]) / 60, float(row["delay"])
    path = Path.steady(rate, delay)
    assert close_film(path, metered, Power(1.3)) == near(row["power"], 5)
    assert close_film(path, metered, Additive(0.1, 1.6)) == near(row["additive"], 5)


PATHS = st.lists(st.tuples(st.floats(30, 200), st.floats(-2, 2)), min_size=1, max_size=6).map(
    lambda steps: Path.through([(0.0, 0.0), *_risen(steps)])
)


def _risen(steps: list[tuple[float, float]]) -> list[tuple[float, float]]:
    at, out = 0.0, []
    for length, stops in steps:
        at += length
        out.append((at, stops))
    return out


@settings(max_examples=60, deadline=None)
@given(PATHS, st.floats(1, 400))
def test_the_integral_agrees_with_quadrature(path: Path, end: float) -> None:
    count = 4000
    mean = math.fsum(2.0 ** path.at(end * (place + 0.5) / count) for place in range(count)) / count
    assert gathered(path, 0, end) == pytest.approx(mean * end, rel=2e-4)
    needed = gathered(path, 0, end)
    # Where the light is nearly gone many ends gather nearly the same, so the light is what is compared.
    assert gathered(path, 0, close_after(path, needed)) == pytest.approx(needed, rel=1e-9)
    # In two sittings it is the same, and film that never fails is no film at all.
    half = gathered(path, 0, end / 2)
    again = close_after(path, needed, start=end / 2, held=half)
    assert gathered(path, 0, again) == pytest.approx(needed, rel=1e-9)
    assert film_gathered(path, needed, Power(1.0), end) == pytest.approx(1, rel=1e-4)


@given(st.floats(-0.9, 3), st.floats(0.01, 3000))
def test_small_rates_lose_no_digits(x: float, needed: float) -> None:
    rate = x / (math.log(2) * needed)
    assert open_seconds(needed, rate * 1e-14) == pytest.approx(needed, rel=1e-12)
    taken = open_seconds(needed, rate)
    assert (taken < needed) == (x > 0) or abs(x) < 1e-9


def test_constant_light_on_film_is_the_film_s_own_time() -> None:
    still = Path.steady(0.0, 0.0)
    for law in (Power(1.3), Additive(0.1), Table(((1, 1), (10, 18), (100, 320)))):
        assert close_film(still, 60, law) == pytest.approx(law.corrected(60), rel=1e-6)


@pytest.mark.parametrize("brighter", [0.5, 1.5, 4.0])
def test_light_that_brightens_out_of_the_film_s_failing_part_still_fills_it(brighter: float) -> None:
    # A power law bends only times past a second; three metered seconds are less than one once the light has risen.
    path = Path.through([(0.0, 0.0), (2.0, brighter), (60.0, brighter)])
    end = close_film(path, 3.0, Power(1.3))
    steps = [end * turn / 4000 for turn in range(4001)]
    done = 0.0
    for before, after in pairwise(steps):
        left = 3.0 * 2.0 ** -path.at((before + after) / 2)
        done += (after - before) / Power(1.3).corrected(left)
    assert done == pytest.approx(1, abs=5e-3)


@pytest.mark.parametrize("points", [((-60.0, 0.0), (-30.0, -0.1)), ((-60.0, 0.0), (90.0, -0.5))])
def test_the_most_that_falling_light_fills_is_what_it_gathers_for_ever(points: tuple[tuple[float, float], ...]) -> None:
    path = Path.through(points, -0.01)
    assert largest_reachable(path) == pytest.approx(gathered(path, 0, 20_000))
    assert largest_reachable(path) > gathered(path, 0, 600)


def test_what_never_fills_says_how_to_get_out() -> None:
    never = exposure_end(ExposureEndQuestion(480, stops_per_minute=-0.2, delay_seconds=120))
    assert (never.close_after_seconds, never.reaches, never.light_left_at_close) == (None, False, None)
    assert never.largest_reachable_seconds == near(328.008)
    assert never.error_if_closed_as_metered_stops == pytest.approx(-1.12681, abs=1e-5)
    (harm,) = never.advice
    assert (harm.code, harm.severity) == ("never_fills", "harm")
    assert "thirds" in harm.text
    hardly = exposure_end(ExposureEndQuestion(240, stops_per_minute=-0.33))
    assert hardly.reaches
    assert {remark.code for remark in hardly.advice} >= {"hardly_fills", "ends_part"}
    halved = exposure_end(ExposureEndQuestion(240, stops_per_minute=-0.25))
    assert "light_halves" in {remark.code for remark in halved.advice}
    assert exposure_end(ExposureEndQuestion(60)).advice == ()


@pytest.mark.parametrize(("rate", "word"), [(-0.1, "longer"), (0.0, None), (0.1, "shorter")])
def test_a_frame_on_film_is_longer_or_shorter_than_film_takes_in_still_light(rate: float, word: str | None) -> None:
    """Film alone makes 6 min 57 s of 100 s: that is no light that moves."""
    found = exposure_end(ExposureEndQuestion(needed_seconds=100.0, film=Power(1.31), stops_per_minute=rate))
    told = [remark.text for remark in found.advice if remark.code == "ends_part"]
    assert [word is not None and f"{word} than in still light" in text for text in told] == [True] * (word is not None)


def test_readings_and_points_join() -> None:
    # One reading and no rate: its slope since the metering goes on.
    reading = exposure_end(ExposureEndQuestion(100, 60, delay_seconds=60, readings=((60, 0.2),)))
    assert reading.close_after_seconds == pytest.approx(close_after(Path.through([(-60, 0), (60, 0.2)]), 100))
    # Points override the rate; after a reading they go on from where it lifted them.
    points = tuple((60.0 * turn, -0.1 * turn) for turn in range(8))
    assert exposure_end(
        ExposureEndQuestion(100, ev_points=points, stops_per_minute=5.0)
    ).close_after_seconds == pytest.approx(close_after(Path.through(points), 100))
    lifted = exposure_end(ExposureEndQuestion(300, 120, readings=((120, 0.5),), ev_points=points))
    path = Path.through([(0, 0), (120, 0.5), *((at, stops + 0.7) for at, stops in points if at > 120)])
    assert lifted.close_after_seconds == pytest.approx(close_after(path, 300))
    assert exposure_end(ExposureEndQuestion(10, -5)).gathered == 0


@pytest.mark.parametrize(
    ("question", "field"),
    [
        (ExposureEndQuestion(0.0), "needed_seconds"),
        (ExposureEndQuestion(10, delay_seconds=-1), "delay_seconds"),
        (ExposureEndQuestion(10, stops_per_minute=99), "stops_per_minute"),
        (ExposureEndQuestion(10, ev_points=((10, 0), (5, 1))), "ev_points"),
        (ExposureEndQuestion(10, ev_points=((10, 99.0),)), "ev_points.0.stops"),
        (ExposureEndQuestion(10, readings=((math.nan, 1.0),)), "readings.0.at_seconds"),
        (ExposureEndQuestion(10, readings=((10, 0), (5, 1))), "readings"),
        (ExposureEndQuestion(10, readings=((5, 0), (5, 1))), "readings"),
        (ExposureEndQuestion(10, readings=((5, 0), (5, 1)), rate_from_readings=True), "readings"),
        (ExposureEndQuestion(10, ev_points=((5, 0), (5, 1))), "ev_points"),
        (ExposureEndQuestion(10, delay_seconds=3600, stops_per_minute=-1.0), "delay_seconds"),
        (ExposureEndQuestion(3600, film=Power(3.0)), "film"),
    ],
)
def test_what_cannot_be_closed_is_refused(question: ExposureEndQuestion, field: str) -> None:
    with pytest.raises(Refusal) as refused:
        exposure_end(question)
    assert refused.value.field == field


@settings(max_examples=60, deadline=None)
@given(
    st.floats(SHORTEST_SECONDS, LONGEST_SECONDS),
    st.floats(-30, 30),
    st.floats(0, LONGEST_SECONDS),
    st.sampled_from([None, Power(1.3), Additive(1.0)]),
)
def test_however_fast_and_old_the_light_the_answer_is_a_number_or_a_sentence(
    needed: float, rate: float, delay: float, film: LawGiven | None
) -> None:
    question = ExposureEndQuestion(needed, 60.0, delay, rate, film=film, tracked=True)
    asked = film.corrected(needed) if film else needed
    if abs(rate * delay / 60) > 40 or asked > LONGEST_SECONDS:
        with pytest.raises(Refusal):
            exposure_end(question)
        return
    found = exposure_end(question)
    assert math.isfinite(found.gathered)
    assert math.isfinite(found.error_if_closed_as_metered_stops)
    assert all(math.isfinite(point.stops) for point in found.track)


def test_light_that_rises_fast_levels_out_exactly() -> None:
    path = Path.steady(0.5, 0.0)
    # Sixty stops after 120 s, level from there: 2^60 a second, after the closed form up to it.
    ramp = (2**60 - 1) / (0.5 * math.log(2))
    assert gathered(path, 0.0, 200.0) == pytest.approx(ramp + 80 * 2.0**60, rel=1e-12)
    assert (path.at(60.0), path.at(120.0), path.at(1e6)) == (30.0, 60.0, 60.0)
