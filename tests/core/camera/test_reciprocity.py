"""Test core/camera/reciprocity.py."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reciprocity import Additive, Power, ReciprocityLaw, Table, from_aperture_corrections
from jackstaff_core.words.refusal import Refusal
from tests.core.tables import facts, near

LAWS: dict[str, ReciprocityLaw] = {
    "power p=1.3, t1=1 s": Power(1.3),
    "power p=1.3, t1=0.1 s": Power(1.3, 0.1),
    "additive a=0.1 b=1.6": Additive(0.1, 1.6),
    "table": Table(((1, 1), (2, 2.5), (4, 6), (10, 18), (30, 70), (100, 320))),
}


@facts("film")
def test_reciprocity_laws(row: dict[str, str]) -> None:
    law, metered = LAWS[row["law"]], float(row["metered"])
    assert law.corrected(metered) == near(row["corrected"])
    assert math.log2(law.corrected(metered) / metered) == near(row["stops"])
    assert law.metered(metered) == near(row["inverse"])


@given(st.sampled_from(list(LAWS.values())), st.floats(0.01, 5000), st.floats(1.0001, 3))
def test_laws_rise_never_shorten_and_invert(law: ReciprocityLaw, metered: float, more: float) -> None:
    assert law.corrected(metered) >= metered * (1 - 1e-12)
    assert law.corrected(metered * more) > law.corrected(metered)
    assert law.metered(law.corrected(metered)) == pytest.approx(metered, rel=1e-9)


def test_data_sheets_that_say_open_up_are_no_time_tables() -> None:
    sheet = from_aperture_corrections([(1, 1 / 3), (10, 1), (100, 2)])
    assert [value for point in sheet.points for value in point] == pytest.approx(
        [0.793701, 1, 5, 10, 25, 100], rel=1e-6
    )
    assert [sheet.corrected(t) for t in (5, 10, 30, 60)] == [near(v) for v in ("10", "26.9573", "129.802", "349.912")]
    misread = Table(((1, 2 ** (1 / 3)), (10, 20), (100, 400)))
    assert [misread.corrected(t) for t in (5, 60)] == [near("8.70136"), near("205.792")]


@pytest.mark.parametrize(
    "law",
    [
        lambda: Power(0.9),
        lambda: Power(1.3, 0),
        lambda: Additive(-1),
        lambda: Additive(0.1, 0.5),
        lambda: Table(((1, 1),)),
        lambda: Table(((1, 0.5), (2, 3))),
        lambda: Table(((2, 3), (1, 4))),
        lambda: Table(((0, 1), (2, 3))),
        lambda: Table(((-1, 1), (2, 3))),
        lambda: Table(((1, math.inf), (2, math.inf))),
    ],
)
def test_unsound_laws_are_refused(law: type) -> None:
    with pytest.raises(Refusal):
        law()
