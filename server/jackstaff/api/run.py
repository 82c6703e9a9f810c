"""Run: the server's own count of seconds. When to close is asked by the core's table of questions (mount.py)."""

from __future__ import annotations

from datetime import UTC, datetime

from django.http import HttpRequest
from ninja import Router, Schema

from jackstaff.uptime import uptime_count, uptime_seconds

router = Router(tags=["run"])


class TimeAnswer(Schema):
    """The server's own count of seconds, which no change of a clock moves, and which count that is."""

    seconds: float
    count: str
    at: datetime


@router.get("/time", response=TimeAnswer)
def time_of_server(request: HttpRequest) -> dict[str, object]:
    """Return a clock that lives through reloads and restarts.

    It counts seconds since the machine started, under the machine's count.
    """
    return {"seconds": uptime_seconds(), "count": uptime_count(), "at": datetime.now(UTC)}
