"""Test core/log/finished_frame.py."""

from __future__ import annotations

import pytest

from jackstaff_core.log.finished_frame import finish_frame
from tests.core.given_looks import framed, jump


@pytest.mark.parametrize("sd", [None, 0.0, 0.4])
def test_a_frame_by_forecast_is_known_as_one(sd: float | None) -> None:
    done = finish_frame(framed(jump, 300, None, expected_sd=sd))
    assert done is not None
    assert done.expected == (sd is not None)


@pytest.mark.parametrize("purpose", ["frame", "rehearsal", "dark", "series", "timer", "stopwatch", "trial"])
def test_a_dark_frame_and_a_trial_are_known_as_what_they_are(purpose: str) -> None:
    done = finish_frame(framed(jump, 300, None, purpose=purpose))
    assert done is not None
    assert (done.dark, done.trial) == (purpose == "dark", purpose == "trial")
