"""The longest exposure that still fills, minute by minute.

For each point of a forecast the light from there to the end of the period, in seconds of that minute's own light:

    longest(i) = sum over later segments of dt 2^(EV - EV_i), log-mean within a segment (moving_light/integral.py)

A metered time longer than that is never filled before the period ends. Source: moving_light/integral.py.
Limits: the forecast's; film is not in it. Verdict: computed on the forecast.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from ..moving_light.integral import segment
from .forecast import LightPoint


def longest_fillable(points: Sequence[LightPoint]) -> list[float]:
    """Return the longest fillable metered time [s] at each point; 0 at the last."""
    found = [0.0] * len(points)
    for place in range(len(points) - 2, -1, -1):
        here, after = points[place], points[place + 1]
        seconds = (after.at - here.at).total_seconds()
        moved = after.ev100 - here.ev100
        found[place] = segment(0.0, moved, seconds) + found[place + 1] * math.exp2(moved)
    return found
