"""How much brighter a test shot may become before its highlights burn.

    level     linear light that all but ``BURNT_SHARE`` of the pixels stay below, in the channel where that is highest
    headroom  log2(full/level), ``full`` where the first burnt code begins, ``level`` where its own code ends  [stops]
    told      headroom rounded down to thirds of a stop

A channel more of which than ``BURNT_SHARE`` is full already has no headroom, and by how much it is over nobody can see.

Source: IEC 61966-2-1; the share is ours: a thousandth of a picture is the sun's disc and glints on water.
Limits: an 8 bit JPEG, tone curve undone as sRGB; a camera's own curve holds highlights back, so the raw file has at
least this much. A sky that brightens until the frame is not in it. Verdict: estimate, on the safe side.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from .light import Bytes, linear

BURNT_SHARE = 0.001
_FULL_CODE = 254
_CHANNELS = ("red", "green", "blue")
MOST_THIRDS = 12
"""A frame darker than four stops below full is no test shot to go by."""


@dataclass(frozen=True, slots=True)
class Headroom:
    """``thirds`` of a stop it may go brighter, 0 where something is burnt; ``channel`` is the one that ends it."""

    stops: float
    thirds: int
    channel: str
    burnt: tuple[float, float, float]
    text: str


def headroom(pixels: Bytes) -> Headroom:
    """Return the headroom of a decoded picture: rows by columns by red, green, blue, 0 to 255."""
    tables = [np.bincount(pixels[..., channel].ravel(), minlength=256) for channel in range(3)]
    total = pixels.shape[0] * pixels.shape[1]
    burnt = tuple(float(table[_FULL_CODE:].sum() / total) for table in tables)
    # The code that all but a thousandth of the pixels stay at or below.
    codes = [int(np.searchsorted(np.cumsum(table), total * (1 - BURNT_SHARE))) for table in tables]
    ends = max(range(3), key=lambda channel: (burnt[channel], codes[channel]))
    name = _CHANNELS[ends]
    if burnt[ends] > BURNT_SHARE:
        text = f"{_percent(burnt[ends])} of {name} is burnt already: go darker by a third or more, and shoot again."
        return Headroom(0.0, 0, name, (burnt[0], burnt[1], burnt[2]), text)
    # A code holds all that rounds to it: the brightest of it burns where the first full code begins.
    level, full = linear(np.array([codes[ends] + 0.5, _FULL_CODE - 0.5]))
    stops = max(0.0, math.log2(full / level))
    count = min(MOST_THIRDS, math.floor(stops * 3 + 1e-6))
    text = (
        f"+{count / 3:.1f} {'stop' if count <= 3 else 'stops'} to the right, no further: {name} ends it."
        if count
        else f"No further to the right: {name} is nearly full."
    )
    return Headroom(stops, count, name, (burnt[0], burnt[1], burnt[2]), text)


def _percent(share: float) -> str:
    return f"{100 * share:.1f} %" if share < 0.1 else f"{100 * share:.0f} %"
