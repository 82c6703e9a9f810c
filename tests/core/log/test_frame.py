"""Test core/log/frame.py."""

from __future__ import annotations

import pytest

from jackstaff_core.log.frame import Reread, last_aim
from jackstaff_core.log.merge import merge_frames
from tests.core.given_looks import framed


@pytest.mark.parametrize(
    ("events", "seconds"),
    [
        ([], 80.0),
        ([("opened", None), ("shifted", 70.0), ("closed", 60.0)], 80.0),
        ([("opened", None), ("aimed", 70.0), ("closed", 60.0)], 70.0),
        ([("aimed", 70.0), ("reread", 50.0), ("aimed", 90.0), ("extended", 100.0)], 90.0),
        ([("aimed", 70.0), ("aimed", None)], 70.0),
    ],
)
def test_a_frame_aims_at_what_it_was_last_asked_for(events: list[tuple[str, float | None]], seconds: float) -> None:
    assert last_aim(events, 80.0) == seconds


def test_two_writings_of_a_watched_frame_keep_what_was_seen_furthest_and_each_reading_once() -> None:
    phone = framed(lambda _: 0.0, 300, None, rereads=(Reread(100.0, 1.0, True),))
    desk = framed(lambda _: 0.0, 200, 0.3, rereads=(Reread(100.0, 1.0), Reread(150.0, 0.0)))
    for winner, loser in ((phone, desk), (desk, phone)):
        run = merge_frames(winner, loser).run
        assert run is not None
        assert phone.run is not None
        assert run.looks == phone.run.looks
        assert run.rereads == (Reread(100.0, 1.0, True), Reread(150.0, 0.0))
