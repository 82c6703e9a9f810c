"""Two writings of one frame: the first end stands until it is taken back, and nothing that happened is lost."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from uuid import UUID

import pytest

from jackstaff_core.log.frame import ClosedBy, EventKind, Frame, FrameEvent, FrameReview, FrameRun, FrameState
from jackstaff_core.log.merge import merge_frames, would_lose
from tests.core.frames import OPENED, written

# Number of the event, seconds from the opening, kind, and the seconds it carries.
Happened = tuple[int, float, EventKind, float | None]
ENDS = {EventKind.CLOSED: FrameState.CLOSED, EventKind.ABORTED: FrameState.ABORTED}


def event(number: int, at: float, kind: EventKind, seconds: float | None) -> FrameEvent:
    return FrameEvent(UUID(int=number), OPENED + timedelta(seconds=at), kind, seconds)


def writing(*happened: Happened, watched: bool = True) -> Frame:
    """A frame as a page writes it on which this happened after the opening, in this order."""
    ends = [(at, kind) for _, at, kind, _ in happened if kind in (*ENDS, EventKind.TAKEN_BACK)]
    at, kind = ends[-1] if ends else (0.0, EventKind.TAKEN_BACK)
    ended = kind is not EventKind.TAKEN_BACK
    return written(
        at if ended else None,
        ENDS[kind] if ended else FrameState.OPEN,
        closed_by=ClosedBy.HAND if ended else None,
        events=(event(1, 0, EventKind.OPENED, None), *(event(*each) for each in happened)),
        run=FrameRun(300.0, watched=watched),
    )


CLOSED: Happened = (10, 300, EventKind.CLOSED, None)
LATER: Happened = (11, 310, EventKind.CLOSED, None)
ABORTED: Happened = (12, 200, EventKind.ABORTED, None)
BACK: Happened = (13, 320, EventKind.TAKEN_BACK, None)
AGAIN: Happened = (14, 330, EventKind.CLOSED, None)
LONGER: Happened = (15, 100, EventKind.EXTENDED, 1 / 3)
AIMED: Happened = (16, 310, EventKind.AIMED, 280.0)


@pytest.mark.parametrize(
    ("here", "there", "state", "seconds", "kept"),
    [
        ((), (), FrameState.OPEN, None, []),
        ((CLOSED,), (), FrameState.CLOSED, 300, [10]),
        ((CLOSED,), (LATER,), FrameState.CLOSED, 300, [10]),
        ((CLOSED,), (ABORTED,), FrameState.ABORTED, 200, [12]),
        ((LONGER, CLOSED), (ABORTED,), FrameState.ABORTED, 200, [15, 12]),
        ((CLOSED, BACK), (CLOSED,), FrameState.OPEN, None, [10, 13]),
        ((CLOSED, BACK, AGAIN), (CLOSED,), FrameState.CLOSED, 330, [10, 13, 14]),
        # What the end that never happened had aimed at goes with it; what was aimed at before stays.
        ((CLOSED,), (AIMED, LATER), FrameState.CLOSED, 300, [10]),
        ((CLOSED,), ((17, 50, EventKind.AIMED, 280.0), LATER), FrameState.CLOSED, 300, [17, 10]),
    ],
)
def test_the_first_end_stands_whoever_writes_last(
    here: tuple[Happened, ...], there: tuple[Happened, ...], state: FrameState, seconds: float | None, kept: list[int]
) -> None:
    mine, other = writing(*here), writing(*there)
    for winner, loser in ((mine, other), (other, mine)):
        frame = merge_frames(winner, loser)
        assert frame.state is state
        assert frame.open_seconds == seconds
        assert (frame.closed_by is None) == (seconds is None)
        assert [each.id.int for each in frame.events] == [1, *kept]
        # Joined again, nothing changes.
        assert merge_frames(frame, loser) == frame == merge_frames(frame, winner)


def test_two_ends_of_one_instant_keep_what_was_aimed_at() -> None:
    aimed, plain = writing((16, 300, EventKind.AIMED, 280.0), CLOSED), writing((20, 300, EventKind.CLOSED, None))
    for frame in (merge_frames(aimed, plain), merge_frames(plain, aimed)):
        assert (frame.open_seconds, frame.aimed_seconds, len(frame.events)) == (300, 280, 3)


def test_longer_counts_once_and_a_moved_opening_moves_it() -> None:
    mine, other = writing(LONGER), writing((15, 100, EventKind.EXTENDED, 1 / 3), (18, 150, EventKind.CUT, -1 / 3))
    mine = replace(mine, run=replace(mine.run, bias_stops=1 / 3) if mine.run else None)
    frame = merge_frames(mine, other)
    assert frame.run
    assert frame.run.bias_stops == pytest.approx(0)
    moved = merge_frames(writing(), writing((19, 20, EventKind.SHIFTED, -4.0)))
    assert moved.opened_at == OPENED - timedelta(seconds=4)


def test_how_an_end_was_lived_through_comes_from_whoever_lived_through_it() -> None:
    for winner, loser in ((writing(), writing(CLOSED, watched=False)), (writing(CLOSED, watched=False), writing())):
        frame = merge_frames(winner, loser)
        assert frame.run
        assert frame.run.watched is False


def test_what_is_said_of_a_frame_is_the_later_writer_s_and_is_missed_only_where_it_differs() -> None:
    plain, noted = writing(CLOSED), replace(writing(CLOSED), note="wind", review=FrameReview(error_stops=0.5))
    assert merge_frames(plain, noted).note == ""
    assert would_lose(plain, noted)
    assert not would_lose(noted, plain)
    assert not would_lose(noted, noted)
    assert would_lose(noted, replace(noted, note="fog"))
