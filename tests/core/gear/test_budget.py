"""Test core/gear/budget.py."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from itertools import pairwise
from typing import Any

import pytest

from jackstaff_core.gear.budget import (
    MOST_PLANNED,
    BudgetQuestion,
    FramesQuestion,
    PlannedStretch,
    battery_frames,
    budget,
    derate,
    frames,
)
from jackstaff_core.words.refusal import Refusal


def test_how_many_frames_fit() -> None:
    # Published: 14 Wh, 240 s, 3 W: 26 frames with noise reduction, 37 in the cold without.
    assert battery_frames(14, 3, 240, True, 0.85) == 26
    assert battery_frames(14, 3, 240, False, 0.6) == 37
    assert [derate(celsius) for celsius in (-30, -10, 0, 10, 20, 40)] == pytest.approx(
        [0.55, 0.55, 0.7, 0.775, 0.85, 0.85]
    )
    found = budget(BudgetQuestion(240, 3600))
    assert (found.frames, found.ends_by, found.by_battery) == (1 + (3600 - 240) // 270, "time", None)
    slow = budget(BudgetQuestion(240, 3600, noise_reduction=True))
    assert (slow.frames, slow.camera_busy_seconds) == (1 + (3600 - 240) // 510, 480)
    flat = budget(BudgetQuestion(240, 36_000, battery_wh=2.0, celsius=-10))
    assert (flat.ends_by, flat.frames) == ("battery", flat.by_battery)
    assert budget(BudgetQuestion(240, 100)).frames == 0
    with pytest.raises(Refusal):
        budget(BudgetQuestion(0, 100))


def test_planned_frames_follow_each_other_and_all_close_in_time() -> None:
    start = datetime(2027, 4, 17, 4, tzinfo=UTC)

    def at(minutes: float) -> datetime:
        return start + timedelta(minutes=minutes)

    def planned(until: float, **more: Any) -> list[tuple[float, float, float]]:
        stretches = (PlannedStretch(at(20), at(40), 60, 60), PlannedStretch(at(0), at(20), 240, 60, hand_seconds=30))
        found = frames(FramesQuestion(stretches, at(until), handling_seconds=60, **more))
        return [
            (
                (frame.opens - start).total_seconds(),
                (frame.closes - start).total_seconds(),
                (frame.ready - start).total_seconds(),
            )
            for frame in found.frames
        ]

    found = planned(40)
    # Half a minute to change; four minutes at the start, a quarter of that twenty minutes on: 240 / 4^(t / 20 min).
    assert found[0] == pytest.approx((30, 30 + 240 / 4 ** (0.5 / 20), 30 + 240 / 4 ** (0.5 / 20)))
    for (opens, closes, ready), (following, *_) in pairwise(found):
        wanted = 240 / 4 ** (opens / 1200) if opens < 1200 else 60
        assert (closes - opens, following - ready) == pytest.approx((wanted, 60))
    assert found[-1][1] <= 2400 < found[-1][1] + 120
    # What would not close in time is not planned; a dark frame takes as long again.
    assert [frame for frame in found if frame[1] <= 600] == planned(10)
    for opens, closes, ready in planned(40, noise_reduction=True):
        assert ready - closes == pytest.approx(closes - opens)
    quick = frames(FramesQuestion((PlannedStretch(at(0), at(1000), 1, 1),), at(1000), handling_seconds=1))
    assert (len(quick.frames), quick.more) == (MOST_PLANNED, True)
