"""Test core/camera/readout.py."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.readout import certain_shutter, readout
from jackstaff_core.scales.ladders import (
    LONGEST_SECONDS,
    SHORTEST_SECONDS,
    Step,
)
from jackstaff_core.words.refusal import Refusal


@pytest.mark.parametrize("text", ["", "0", "-4", "abc", "1/0", "1/", "1/50000", "25 h", "4 4", "1/60/2", "∞", "nan"])
def test_unreadable_readouts_are_refused_with_a_cure(text: str) -> None:
    with pytest.raises(Refusal) as refused:
        readout(text)
    assert refused.value.problem.endswith(".")
    assert "1/60" in refused.value.instead


def test_a_certain_shutter_asks_which_of_two_is_meant() -> None:
    assert certain_shutter("shutter", " 30 ", Step.THIRD).seconds == 32
    assert certain_shutter("shutter", "2m08", Step.THIRD).seconds == 128
    with pytest.raises(Refusal) as refused:
        certain_shutter("reading.shutter", "7", Step.THIRD)
    assert refused.value.field == "reading.shutter"
    assert "as 1/7 s or 7 s." in refused.value.problem
    with pytest.raises(Refusal) as refused:
        certain_shutter("reading.shutter", "soon", Step.THIRD)
    assert refused.value.field == "reading.shutter"


@given(st.text(max_size=40))
def test_no_text_does_worse_than_a_refusal(text: str) -> None:
    try:
        found = readout(text)
    except Refusal:
        return
    assert all(SHORTEST_SECONDS <= reading.seconds <= LONGEST_SECONDS for reading in found.readings)
