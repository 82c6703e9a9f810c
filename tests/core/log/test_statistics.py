"""Test core/log/statistics.py."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.log.evidence import against_label
from jackstaff_core.log.frame import Defect
from jackstaff_core.log.lessons import (
    wished_stops,
)
from jackstaff_core.log.statistics import statistics as statistics_of
from tests.core.log.given_frames import frame


def test_time_lost_and_mistakes() -> None:
    frames = [
        frame(0, error_stops=-0.7, defects=frozenset({Defect.SHAKE})),
        frame(5, error_stops=0.0, defects=frozenset({Defect.SHAKE})),
        frame(200, aborted=True, seconds=30.0),
        frame(202, aim=(240.0, math.inf)),
        frame(400, seconds=160.0, aim=(10.0, 30.0)),
    ]
    found = statistics_of(frames)
    assert (found.frames, found.reviewed, found.repeats, found.aborted) == (5, 2, 2, 1)
    assert (found.open_seconds, found.lost_seconds) == (550, 150)
    assert {each.code: each.frames for each in found.mistakes} == {"shake": 2, "too_dark": 1, "aborted": 1, "late": 1}
    assert [round(each.stops, 2) for each in found.missed] == [1.0, 2.0]
    assert statistics_of([]).lost_seconds == 0


@given(st.lists(st.tuples(st.sampled_from(["ok", "dark", "aborted"]), st.integers(0, 60)), max_size=14))
def test_time_lost_is_never_more_than_the_time_open(shots: list[tuple[str, int]]) -> None:
    came = {"ok": 0.0, "dark": -1.0, "aborted": None}
    frames, minute = [], 0.0
    for what, gap in shots:
        minute += gap + 3
        frames.append(frame(minute, error_stops=came[what], aborted=what == "aborted"))
    found = statistics_of(frames)
    assert 0 <= found.lost_seconds <= found.open_seconds == pytest.approx(120 * len(frames))
    spoilt = sum(what != "ok" for what, _ in shots)
    assert found.repeats <= spoilt
    followed = [what != "ok" and gap + 3 <= 22 for (what, _), (_, gap) in pairwise(shots)]
    assert found.repeats == sum(followed)
    assert sum(each.frames for each in found.mistakes) == spoilt


def test_a_trial_is_no_mistake_and_no_wish_and_still_says_what_the_filter_is() -> None:
    short: dict[str, Any] = {
        "seconds": 30.0,
        "aimed_seconds": 60.0,
        "planned_seconds": 60.0,
        "aim": (240.0, 480.0),
        "base_seconds": 0.25,
    }
    missed = frame(**short, error_stops=-2.0, bias_stops=-1.0)
    trial = frame(**short, error_stops=-2.0, bias_stops=-1.0, trial=True)
    again = frame(3.0, seconds=240.0, aimed_seconds=240.0, planned_seconds=240.0)
    told = statistics_of([missed, again])
    assert {mistake.code for mistake in told.mistakes} == {"too_dark", "late"}
    assert (told.repeats, len(told.missed)) == (1, 1)
    told = statistics_of([trial, again])
    assert (told.mistakes, told.repeats, told.missed) == ((), 0, ())
    assert wished_stops([trial]) == ()
    # A stop short and two stops dark: the stack is a stop denser, late or not.
    assert against_label(replace(trial, aimed_seconds=30.0)) == pytest.approx(1.0)
