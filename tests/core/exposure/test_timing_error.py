"""Test core/exposure/timing_error.py."""

from __future__ import annotations

import pytest

from jackstaff_core.exposure.timing_error import timing_error
from tests.core.tables import facts, near


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
