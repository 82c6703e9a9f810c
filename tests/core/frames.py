"""A frame as a page writes it, for whatever is asked of frames."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from jackstaff_core.exposure.calculation import Counting
from jackstaff_core.log.frame import Frame, FrameGlass, FrameReading, FrameSettings, FrameState, FrameSum

OPENED = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)


def written(seconds: float | None, state: FrameState = FrameState.CLOSED, **more: Any) -> Frame:
    """A frame of five minutes through ten stops, ended after so many seconds; None while it is open."""
    return Frame(
        id=UUID(int=1),
        state=FrameState.OPEN if seconds is None else state,
        opened_at=OPENED,
        closed_at=None if seconds is None else OPENED + timedelta(seconds=seconds),
        reading=FrameReading("1/2", "8", "100"),
        settings=FrameSettings("8", "100"),
        stack=(FrameGlass("Slot ND 10", 10.0),),
        scale=Counting.EXACT,
        dial_limit=30.0,
        answer=FrameSum(300, 300, 0.3, 0.3, ()),
        **more,
    )
