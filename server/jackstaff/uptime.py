"""The machine's own count of seconds: no change of a clock moves it, and a restart of the server does not end it."""

from __future__ import annotations

import hashlib
import time
from functools import cache
from pathlib import Path

_BOOT = Path("/proc/sys/kernel/random/boot_id")


def uptime_seconds() -> float:
    """Return the seconds since the machine started, sleep included where the system counts it."""
    return time.clock_gettime(getattr(time, "CLOCK_BOOTTIME", time.CLOCK_MONOTONIC))


@cache
def uptime_count() -> str:
    """Return which count that is: another start of the machine counts anew. Says nothing else about the machine."""
    boot = _BOOT.read_text() if _BOOT.exists() else str(round(time.time() - uptime_seconds()))
    return hashlib.sha256(boot.encode()).hexdigest()[:16]
