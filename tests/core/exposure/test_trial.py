"""Test core/exposure/trial.py."""

from __future__ import annotations

import pytest

from jackstaff_core.exposure.trial import strength_doubt, strength_from_readings, trial
from jackstaff_core.scales.ladders import Step
from jackstaff_core.words.refusal import Refusal


def test_a_trial_scales_and_says_what_the_stack_measures() -> None:
    # 30 s on the dial is 32 s; it came out a stop dark where the sum had said 32 s: 64 s, one stop denser.
    found = trial(32.0, -1.0, 32.0)
    assert (found.seconds, found.offset) == (64.0, 1.0)
    assert strength_from_readings(1 / 64, 1 / 4) == pytest.approx(4)
    # Two marks, each anywhere within its step: 1/3 stop gives 2 sqrt(2/108 + 0.0025), a full one 2 sqrt(1/6 + 0.0025).
    assert [strength_doubt(step) for step in (Step.THIRD, Step.FULL)] == pytest.approx([0.2900, 0.8226], abs=1e-4)
    with pytest.raises(Refusal):
        trial(32.0, 9.0, 32.0)
