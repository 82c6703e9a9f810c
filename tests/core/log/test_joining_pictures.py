"""Test core/log/joining_pictures.py."""

from __future__ import annotations

from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.log.joining_pictures import ALIKE_STOPS, NEAR_SECONDS, Candidate, File, join
from jackstaff_core.words.refusal import Refusal
from tests.core.log.given_frames import DAWN


@pytest.mark.parametrize(
    ("late", "seconds", "joins"),
    [
        (0.0, 60.0, True),
        (NEAR_SECONDS, 60.0, True),
        (-NEAR_SECONDS, 60.0, True),
        (NEAR_SECONDS + 0.5, 60.0, False),
        # A camera may stamp the end: a minute later is near, half of it is not.
        (60.0, 60.0, True),
        (30.0, 60.0, False),
        (0.0, 60.0 * 2**ALIKE_STOPS * 0.999, True),
        (0.0, 60.0 * 2**ALIKE_STOPS * 1.001, False),
        (0.0, 60.0 / 2**ALIKE_STOPS * 1.001, True),
        (0.0, 60.0 / 2**ALIKE_STOPS * 0.999, False),
    ],
)
def test_a_picture_joins_within_its_window_alone(late: float, seconds: float, joins: bool) -> None:
    frame = Candidate("a", DAWN, 60.0)
    # The camera's clock is two hours and three seconds ahead, and that is known.
    taken = File((DAWN + timedelta(seconds=7203 + late)).replace(tzinfo=None), seconds)
    assert join([taken], [frame], 7203.0).files[0].frames == (("a",) if joins else ())


# A camera two hours ahead (its zone) and eleven seconds off.
AHEAD = 7211.0


def taken(minutes: float, seconds: float | None, ahead: float = AHEAD) -> File:
    return File((DAWN + timedelta(minutes=minutes, seconds=ahead)).replace(tzinfo=None), seconds)


LOG = [Candidate("a", DAWN, 20.0), Candidate("b", DAWN + timedelta(minutes=4), 240.0),
       Candidate("c", DAWN + timedelta(minutes=30), 25.0)]  # fmt: skip


@pytest.mark.parametrize(
    ("files", "ahead", "frames"),
    [
        ([taken(0, 20), taken(4, 250), taken(30, 25)], None, [("a",), ("b",), ("c",)]),
        ([taken(0, 20)], AHEAD, [("a",)]),
        # By its closing, as some cameras write it; without a length, by the clock alone.
        ([taken(8, 240), taken(30, None)], AHEAD, [("b",), ("c",)]),
        ([taken(4, 30), File(None, 20.0), taken(300, 20)], AHEAD, [(), (), ()]),
        ([], None, []),
    ],
)
def test_files_find_their_frames(files: list[File], ahead: float | None, frames: list[tuple[str, ...]]) -> None:
    found = join(files, LOG, ahead)
    assert [each.frames for each in found.files] == frames
    if ahead is None and files:
        assert (found.learnt, found.others) == (True, ())
        assert found.ahead_seconds == pytest.approx(AHEAD, abs=1)


def test_a_file_that_may_belong_to_several_is_asked_about() -> None:
    twins = [Candidate("a", DAWN, 2.0), Candidate("b", DAWN + timedelta(seconds=3), 2.0)]
    assert join([taken(0, 2.0)], twins, AHEAD).files[0].frames == ("a", "b")
    # One file and three frames of its length: any of three clocks would do.
    many = [Candidate(str(n), DAWN + timedelta(hours=n), 20.0) for n in range(3)]
    found = join([taken(0, 20.0)], many)
    assert (found.learnt, len(found.others)) == (True, 2)
    with pytest.raises(Refusal):
        join([taken(0, 20.0)], LOG, 1e6)


@given(
    st.lists(st.tuples(st.floats(1, 900), st.floats(2, 600)), min_size=1, max_size=8),
    st.floats(-50_000, 50_000),
    st.booleans(),
)
def test_any_clock_is_learnt_from_frames_of_unlike_length(
    shots: list[tuple[float, float]], ahead: float, by_closing: bool
) -> None:
    log, files, at = [], [], DAWN
    for number, (pause, seconds) in enumerate(shots):
        at += timedelta(seconds=pause + 20)
        # Each a stop longer than the one before, so that no length is taken for another's.
        length = 2.0 ** (number - 3) * (1 + seconds / 6000)
        log.append(Candidate(str(number), at, length))
        closing = timedelta(seconds=length if by_closing else 0)
        files.append(File((at + closing + timedelta(seconds=ahead)).replace(tzinfo=None), length))
        at += timedelta(seconds=length)
    known = join(files, log, ahead)
    assert [each.frames for each in known.files] == [(each.id,) for each in log]
    # Learnt from openings it is found to a second; nothing that fits as well is kept silent.
    learnt = join(files, log)
    assert learnt.learnt
    if not by_closing:
        assert min(abs(each - ahead) for each in (learnt.ahead_seconds or 0.0, *learnt.others)) < 3.1
