"""Reviewed frames and their glass, for the tests of what a log teaches."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.log.finished_frame import FinishedFrame, UsedGlass

DAWN = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)
NINE = UsedGlass("nine", "Slot ND 9", GlassKind.SOLID, 9.0)
TURNED = UsedGlass("var", "Turned ND", GlassKind.VARIABLE, 5.0)


def frame(minutes: float = 0.0, **facts: Any) -> FinishedFrame:
    base: dict[str, Any] = {
        "id": f"{minutes}",
        "opened_at": DAWN + timedelta(minutes=minutes),
        "seconds": 120.0,
        "aimed_seconds": 120.0,
        "planned_seconds": 120.0,
        "glass": (NINE,),
    }
    return FinishedFrame(**{**base, **facts})
