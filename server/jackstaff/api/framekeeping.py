"""Keeping frames, those that were held already joined with them."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import User

from jackstaff.records.framerows import frame_of
from jackstaff.records.frames import frames_of, save_frame, save_frames
from jackstaff.records.models import Frame as Row
from jackstaff.records.writing import all_or_none, durable
from jackstaff_core.log.frame import Frame, State
from jackstaff_core.log.merge import joined
from jackstaff_core.words.refusal import Refusals


def held_frame(row: Row | None) -> Frame | None:
    """A frame that is held; None for one that today's rules would refuse, which is written over."""
    try:
        return frame_of(row) if row else None
    except Refusals:
        return None


def save(account: User, frame: Frame) -> Row:
    """Keep a frame of the account; what happened to the one held already stays.

    Raises
    ------
    KeyTaken
        Another account holds a frame with this key.
    """
    # What is held is read and written over in one turn, so that nobody's write is lost between the two.
    with durable(account) if frame.state is State.OPEN else all_or_none(account):
        row = frames_of(account).filter(pk=frame.id).first()
        save_frame(account, _brought(row, frame) if row else frame)
        return frames_of(account).get(pk=frame.id)


def save_all(account: User, frames: Sequence[Frame]) -> None:
    """Keep many frames, some hundred at a time.

    Raises
    ------
    KeyTaken
        Another account holds a frame with one of these keys.
    """
    save_frames(account, {frame.id: frame for frame in frames}, _brought)


def _brought(row: Row, frame: Frame) -> Frame:
    held = held_frame(row)
    return joined(frame, held) if held else frame
