"""Test core/moving_light/integral.py."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reciprocity import Additive, Power, Table
from jackstaff_core.moving_light.integral import (
    Path,
    close_after,
    close_film,
    film_gathered,
    gathered,
    largest_reachable,
    open_seconds,
)
from tests.core.tables import facts, near

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


def test_light_that_rises_fast_levels_out_exactly() -> None:
    path = Path.steady(0.5, 0.0)
    # Sixty stops after 120 s, level from there: 2^60 a second, after the closed form up to it.
    ramp = (2**60 - 1) / (0.5 * math.log(2))
    assert gathered(path, 0.0, 200.0) == pytest.approx(ramp + 80 * 2.0**60, rel=1e-12)
    assert (path.at(60.0), path.at(120.0), path.at(1e6)) == (30.0, 60.0, 60.0)
