"""Graduated glass: which one, and what it does to an averaged reading.

With the sky e stops brighter than the ground over a share a of the averaged area, a graduated glass of g stops
on the sky lowers the average by -log2((a 2^(e-g) + 1 - a)/(a 2^e + 1 - a)); re-nulling brightens the ground by exactly
that. A glass of g = e - 1 keeps the sky one stop brighter.

Source: elementary averaging. Verdict: estimate (the line is never where the average's weights are).
"""

from __future__ import annotations

import math

SKY_LEAD_STOPS = 1.0


def average_falls(sky_share: float, sky_stops: float, glass_stops: float) -> float:
    """Stops by which the averaged reading falls."""
    bare = sky_share * 2.0**sky_stops + 1 - sky_share
    held = sky_share * 2.0 ** (sky_stops - glass_stops) + 1 - sky_share
    return -math.log2(held / bare)


def wanted_stops(sky_stops: float) -> float:
    """Strength that leaves the sky one stop brighter than the ground, never negative."""
    return max(0.0, sky_stops - SKY_LEAD_STOPS)
