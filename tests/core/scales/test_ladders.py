"""Test core/scales/ladders.py."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.readout import readout
from jackstaff_core.scales.ladders import (
    SHORTEST_SECONDS,
    Scale,
    Step,
    aperture_marks,
    dial_marks,
    ev100,
    iso_marks,
    shutter_marks,
)
from tests.core.tables import facts, near

LADDERS = {"time": shutter_marks, "fnum": aperture_marks, "iso": iso_marks}
ALL_LADDERS = [pytest.param(build(step), id=f"{name}-{step}") for name, build in LADDERS.items() for step in Step]


@facts("marks")
def test_marks_stand_for_exact_rungs(row: dict[str, str]) -> None:
    mark = LADDERS[row["quantity"]](Step(row["step"])).mark(row["mark"])
    assert mark is not None
    assert mark.exact == near(row["exact"])
    stops = math.log2(mark.printed / mark.exact) * (2 if row["quantity"] == "fnum" else 1)
    assert stops == pytest.approx(float(row["error_stops"]), abs=2e-6)


@pytest.mark.parametrize("scale", ALL_LADDERS)
def test_every_printed_number_is_nearest_to_its_own_rung(scale: Scale) -> None:
    assert [scale.nearest(mark.printed) for mark in scale.marks] == list(scale.marks)
    assert [scale.nearest(mark.exact) for mark in scale.marks] == list(scale.marks)


@pytest.mark.parametrize(
    ("build", "step", "value", "label"),
    [
        (shutter_marks, Step.THIRD, 17.0667, "15"),
        (shutter_marks, Step.THIRD, 7.3, "8"),
        (shutter_marks, Step.HALF, 7.3, "8"),
        (aperture_marks, Step.THIRD, 21.9089, "22"),
        (aperture_marks, Step.HALF, 12.5, "13"),
        (iso_marks, Step.THIRD, 106.667, "100"),
    ],
)
def test_nearest_mark(build: type, step: Step, value: float, label: str) -> None:
    assert build(step).nearest(value).label == label


@given(st.sampled_from(list(Step)), st.floats(SHORTEST_SECONDS, 30))
def test_neighbours_enclose(step: Step, seconds: float) -> None:
    sides = shutter_marks(step).neighbours(seconds)
    assert sides[0].exact <= seconds * 1.000001
    assert sides[-1].exact >= seconds * 0.999999
    assert math.log2(sides[-1].exact / sides[0].exact) == pytest.approx((len(sides) - 1) / step.per_stop)


def test_ev_of_exact_and_of_printed_numbers() -> None:
    assert ev100(2**-6, 2**3.5, 200) == pytest.approx(12)
    assert ev100(1 / 60, 11, 200) == near(11.8258)
    assert ev100(32, 8, 100 * 2 ** (-2 / 3)) == near(1.66667)


def test_dials_past_thirty_seconds_count_literally() -> None:
    assert [mark.label for mark in dial_marks(120, Step.FULL).marks[-3:]] == ["30", "60", "120"]
    sixty = dial_marks(900).mark("60")
    assert sixty is not None
    assert sixty.exact == 60
    assert dial_marks(4).marks[-1].label == "4"
    for step in Step:
        # Each next longer mark is one rung further, across the end of the exact scale too.
        rungs = [mark.rung for mark in dial_marks(900, step).marks]
        assert [rung - rungs[0] for rung in rungs] == [-place for place in range(len(rungs))]


# Text, dial limit, and every meaning as (seconds, mark), the likelier first.
READOUTS: list[tuple[str, Step, float, list[tuple[float, str | None]]]] = [
    ("4", Step.THIRD, 30, [(1 / 4, "1/4"), (4, "4")]),
    ("10", Step.THIRD, 30, [(2 ** (-10 / 3), "1/10"), (2 ** (10 / 3), "10")]),
    ("2.5", Step.THIRD, 30, [(2 ** (-4 / 3), "0.4"), (2 ** (4 / 3), "2.5")]),
    ("30", Step.THIRD, 30, [(1 / 32, "1/30"), (32, "30")]),
    ("30", Step.THIRD, 15, [(1 / 32, "1/30")]),
    ("60", Step.THIRD, 900, [(1 / 64, "1/60"), (60, "60")]),
    ("125", Step.THIRD, 30, [(1 / 128, "1/125")]),
    ("0.6", Step.THIRD, 30, [(2 ** (-2 / 3), "0.6")]),
    ("0,6 s", Step.THIRD, 30, [(2 ** (-2 / 3), "0.6")]),
    ('6"', Step.THIRD, 30, [(2 ** (8 / 3), "6")]),
    ("6″", Step.HALF, 30, [(2**2.5, "6")]),
    ("1/60", Step.THIRD, 30, [(1 / 64, "1/60")]),
    ("1/2.5", Step.THIRD, 30, [(2 ** (-4 / 3), "0.4")]),
    ("1", Step.THIRD, 30, [(1, "1")]),
    ("1/61", Step.THIRD, 30, [(1 / 61, None)]),
    ("7", Step.THIRD, 30, [(1 / 7, None), (7, None)]),
    ("1/45", Step.HALF, 30, [(2**-5.5, "1/45")]),
    ("90 s", Step.THIRD, 30, [(90, None)]),
    ("2 m 30 s", Step.THIRD, 30, [(150, None)]),
    ("2m08", Step.THIRD, 30, [(128, None)]),
    ("8 min", Step.THIRD, 30, [(480, None)]),
    ("1h05", Step.THIRD, 30, [(3900, None)]),
    ("1/250th", Step.THIRD, 30, [(1 / 256, "1/250")]),
    ("1/60th of a second", Step.THIRD, 30, [(1 / 64, "1/60")]),
    ('0"3', Step.THIRD, 30, [(2 ** (-5 / 3), "0.3")]),
    ('1"3', Step.THIRD, 30, [(2 ** (1 / 3), "1.3")]),
    ('2"5', Step.THIRD, 30, [(2 ** (4 / 3), "2.5")]),
    ('15"4', Step.THIRD, 30, [(15.4, None)]),
    ("1:30", Step.THIRD, 30, [(90, None)]),
    ("1 h", Step.THIRD, 30, [(3600, None)]),
]


@pytest.mark.parametrize(("text", "step", "limit", "meanings"), READOUTS)
def test_readouts(text: str, step: Step, limit: float, meanings: list[tuple[float, str | None]]) -> None:
    found = readout(text, step, limit)
    assert found.ambiguous == (len(meanings) > 1)
    assert [reading.mark for reading in found.readings] == [mark for _, mark in meanings]
    assert [reading.seconds for reading in found.readings] == pytest.approx([seconds for seconds, _ in meanings])
