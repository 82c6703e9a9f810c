"""Test core/exposure/video.py."""

from __future__ import annotations

import pytest

from jackstaff_core.exposure.video import VideoQuestion, follow_with_ring
from jackstaff_core.words.refusal import Refusal


@pytest.mark.parametrize(
    ("now", "change", "held", "to", "short", "side"),
    [
        (3, 1, True, 4, 0, None),
        (3, 2.5, False, 4.5, 1, "dense"),
        (3, -2, False, 2, 1, "weak"),
        (2, 0, True, 2, 0, None),
    ],
)
def test_holding_a_video_shutter(
    now: float, change: float, held: bool, to: float, short: float, side: str | None
) -> None:
    found = follow_with_ring(VideoQuestion(now, change, 2, 4.5))
    assert (found.held, found.side) == (held, side)
    assert [found.turn_to, found.short_stops] == pytest.approx([to, short])
    assert follow_with_ring(VideoQuestion(0.5, 0, 0, 4.5)).room_brighter == 4
    with pytest.raises(Refusal):
        follow_with_ring(VideoQuestion(6, 0, 2, 4.5))
