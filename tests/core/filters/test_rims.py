"""Test core/filters/rims.py."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.filters.rims import Rim, pupil_depth, widest_clear
from tests.core.tables import facts, near


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


RIMS: dict[str, tuple[list[Rim], float, float]] = {
    **{f"n={count} rims 5 mm": ([Rim(5, 78)] * count, 14.2, 21.633) for count in range(5)},
    "step-up": ([Rim(3, 78), *[Rim(5, 90)] * 3], 14.2, 21.633),
    "slim 3 mm x2": ([Rim(3, 78)] * 2, 14.2, 21.633),
    "APS-C": ([Rim(5, 63)] * 2, 25, 14.1),
}


@facts("rims")
def test_rims(row: dict[str, str]) -> None:
    rims, pupil, h = next(known for name, known in RIMS.items() if name in row["case"])
    h = math.hypot(36, 24) / 2 if h > 21 else h
    assert widest_clear(rims, pupil, h, None) == near(row["chief"], 5)
    assert widest_clear(rims, pupil, h, 11) == near(row["at_11"], 4)
    assert widest_clear(rims, pupil, h, 2.8) == near(row["at_28"], 4)


@facts("rims_observed")
def test_rims_after_one_observation(row: dict[str, str]) -> None:
    count, f_number = int(row["rims"]), None if row["f_number"] == "-" else float(row["f_number"])
    h = math.hypot(36, 24) / 2
    rims = [Rim(5, 78)] * count
    pupil = pupil_depth(float(row["observed"]), rims, h, f_number)
    assert pupil == near(row["pupil"], 5)
    assert widest_clear(rims, pupil, h, f_number) == pytest.approx(float(row["observed"]))
    assert widest_clear([*rims, Rim(5, 78)], pupil, h, f_number) == near(row["one_more"], 5)
    assert widest_clear([Rim(3, 78), *[Rim(5, 90)] * count], pupil, h, f_number) == near(row["stepped"], 4)
