"""Test core/exposure/series.py."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.exposure.series import SeriesQuestion, SeriesSort, plan_series
from jackstaff_core.words.refusal import Refusal


def test_brackets_splits_and_repeats_as_a_queue() -> None:
    bracket = plan_series(SeriesQuestion(8.0, SeriesSort.BRACKET, 3))
    assert [(frame.mark, frame.stops) for frame in bracket.frames] == [("8", 0), ("4", -1), ("15", 1)]
    assert bracket.burst
    # Past the dial one bulb frame follows another, and noise reduction keeps the camera as long again.
    bulb = plan_series(SeriesQuestion(60.0, SeriesSort.BRACKET, 3, noise_reduction=True, handling_seconds=10))
    assert not bulb.burst
    first, second, third = bulb.frames
    assert (first.seconds, first.closes_at, first.busy_until) == (60, 60, 120)
    assert (second.opens_at, second.mark, second.seconds) == (130, "30", 32)
    assert third.seconds == 120
    assert bulb.total_seconds == third.busy_until == pytest.approx(130 + 64 + 10 + 240)
    split = plan_series(SeriesQuestion(240.0, SeriesSort.SPLIT, 8))
    assert {frame.seconds for frame in split.frames} == {32}
    assert split.more_light_stops == 3
    assert len(plan_series(SeriesQuestion(10.0, SeriesSort.REPEAT, 5)).frames) == 5
    for bad, field in (
        (SeriesQuestion(10.0, SeriesSort.REPEAT, 1), "count"),
        (SeriesQuestion(40_000.0, SeriesSort.REPEAT, 9), "count"),
        (SeriesQuestion(10.0, SeriesSort.BRACKET, 3, 0.3), "spacing_stops"),
        (SeriesQuestion(10.0, SeriesSort.BRACKET, 3, 4.1), "spacing_stops"),
        (SeriesQuestion(10.0, SeriesSort.BRACKET, 3, handling_seconds=-1.0), "handling_seconds"),
        (SeriesQuestion(10.0, SeriesSort.BRACKET, 3, handling_seconds=3601.0), "handling_seconds"),
        (SeriesQuestion(80_000.0, SeriesSort.BRACKET, 3), "seconds"),
    ):
        with pytest.raises(Refusal) as refusal:
            plan_series(bad)
        assert refusal.value.field == field


@given(seconds=st.floats(0.01, 600), count=st.integers(2, 9), spacing=st.floats(1 / 3, 2), noise=st.booleans())
def test_no_frame_of_a_queue_opens_before_the_camera_is_free(
    seconds: float, count: int, spacing: float, noise: bool
) -> None:
    try:
        found = plan_series(SeriesQuestion(seconds, SeriesSort.BRACKET, count, spacing, noise_reduction=noise))
    except Refusal:
        return
    for before, after in zip(found.frames, found.frames[1:], strict=False):
        assert after.opens_at >= before.busy_until >= before.closes_at > before.opens_at
    assert math.fsum(frame.stops for frame in found.frames) == pytest.approx(0 if count % 2 else -count / 2 * spacing)
