"""How long a request may go on: asked where nothing is under way, never thrown into the midst of it.

Whoever is about to begin something that others would wait for asks :func:`in_time` first. A transaction that has begun
is always ended by itself: an exception from outside could leave its lock behind.
"""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_until: ContextVar[float | None] = ContextVar("until", default=None)


class OutOfTime(BaseException):
    """The request has gone on for too long; no ``except Exception`` swallows it."""


@contextmanager
def limited(seconds: float) -> Iterator[None]:
    """Let what is done inside begin new work for so long [s]."""
    before = _until.set(time.monotonic() + seconds)
    try:
        yield
    finally:
        _until.reset(before)


def in_time() -> None:
    """Let the caller go on while there is time; outside a limit always.

    Raises
    ------
    OutOfTime
        There is none left.
    """
    until = _until.get()
    if until is not None and time.monotonic() > until:
        raise OutOfTime
