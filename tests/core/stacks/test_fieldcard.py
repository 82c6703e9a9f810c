"""Test core/stacks/fieldcard.py."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.scales.ladders import Step, shutter_marks
from jackstaff_core.stacks.fieldcard import CardGlass, field_card
from jackstaff_core.words.refusal import Refusal


@given(st.sampled_from(list(Step)), st.floats(0, 16), st.sampled_from([30.0, 60.0, 900.0]))
def test_the_card_says_what_to_set_and_what_rounding_costs(step: Step, stops: float, limit: float) -> None:
    lines = field_card([CardGlass("one", stops)], 1 / 1000, 1.0, limit, step)
    assert [line.mark for line in lines] == [mark.label for mark in shutter_marks(step).between(1 / 1000, 1.0)]
    for line in lines:
        mark, cell = shutter_marks(step).mark(line.mark), line.cells[0]
        assert mark
        assert cell.seconds
        assert cell.cost_stops == pytest.approx(math.log2(cell.seconds / mark.exact) - stops, abs=1e-9)
        # Beyond 30 s the printed marks (60, 80 s) stand up to 0.42 stop apart.
        bound = 0.35 if cell.bulb else 0.5 / step.per_stop + (0.05 if cell.seconds > 32 else 0.0)
        assert abs(cell.cost_stops) <= bound + 1e-9


def test_a_card_has_bounds() -> None:
    assert field_card([CardGlass("deep", 24.0)], 1 / 2, 1.0)[-1].cells[0].seconds is None
    for glass, fastest, slowest in (
        ([], 1 / 60, 1.0),
        ([CardGlass("x", 3.0)] * 9, 1 / 60, 1.0),
        ([CardGlass("x", 3.0)], 1.0, 1 / 60),
        ([CardGlass("x", 31.0)], 1 / 60, 1.0),
    ):
        with pytest.raises(Refusal):
            field_card(glass, fastest, slowest)


@given(st.sampled_from(list(Step)), st.floats(0, 16), st.sampled_from([0.5, 1.0, 30.0, 60.0]))
def test_no_two_rows_of_the_card_say_the_same_where_a_timer_can_tell_them_apart(
    step: Step, stops: float, limit: float
) -> None:
    cells = [line.cells[0] for line in field_card([CardGlass("one", stops)], 1 / 250, 1.0, limit, step)]
    told_apart = [
        (cell, following)
        for cell, following in pairwise(cells)
        if cell.seconds and following.seconds and (following.bulb or following.seconds <= 30)
    ]
    assert told_apart
    for cell, following in told_apart:
        assert cell.text != following.text
        assert (cell.seconds or 0) < (following.seconds or 0)
