"""Things that draw lines or turn: lamps, stars, wheels, and the waterline.

    lamp   stops against a lamp that stands = log2(size / (v T))
    star   pixels = f (2 pi / 86164.09) cos(declination) T / pitch
    tide   h = R/2 (1 - cos(pi t / hours from low to high))
    spin   turns = T / period

Source: geometry; sidereal day; semidiurnal tide, M2 12.4206 h. Limits: trails do not brighten with T but lose every
stop of glass; the tide needs the user's own table. Verdict: estimate (spin: computed).
"""

from __future__ import annotations

import math

SIDEREAL_DAY = 86_164.09
HALF_TIDE_HOURS = 6.2103
LAMPS = (("dots", 1.0), ("lines", math.inf))
"""Up to a lamp's own length of travel it is still a dot."""
STARS = (("points", 2.0), ("trails", math.inf))
"""Pixels."""
TIDE = (("still", 0.03), ("creeping", 0.15), ("moved", math.inf))
"""Metres of rise or fall."""
SPIN = (("frozen", 1 / 60), ("blurred", 1.0), ("disc", math.inf))
"""Turns."""


def trail_stops(size_m: float, speed_m_s: float, seconds: float) -> float:
    """Exposure of a moving lamp's trail against the same lamp standing still [stops].

    Parameters
    ----------
    size_m : of the lamp along its way [m].
    speed_m_s : of the lamp across the view [m/s].
    seconds : exposure [s].
    """
    return math.log2(min(1.0, size_m / (speed_m_s * seconds)))


def star_pixels(declination_deg: float, seconds: float, focal_mm: float, pitch_um: float) -> float:
    """Length of a star's trail [px].

    Parameters
    ----------
    declination_deg : of the star [deg], -90 to 90.
    seconds : exposure [s].
    focal_mm : focal length [mm].
    pitch_um : from pixel to pixel [um].
    """
    return focal_mm * 1000 * 2 * math.pi / SIDEREAL_DAY * math.cos(math.radians(declination_deg)) * seconds / pitch_um


def height_above_low(hours: float, range_m: float, low_to_high_hours: float = HALF_TIDE_HOURS) -> float:
    """Height above low water [m], ``hours`` after it.

    Parameters
    ----------
    hours : since low water [h].
    range_m : from low to high water [m].
    low_to_high_hours : how long it rises [h].
    """
    return range_m / 2 * (1 - math.cos(math.pi * hours / low_to_high_hours))


def rise(hours: float, seconds: float, range_m: float, low_to_high_hours: float = HALF_TIDE_HOURS) -> float:
    """How far the water rises (+) or falls (-) during ``seconds`` [m].

    Parameters
    ----------
    hours : since low water at the opening [h].
    seconds : exposure [s].
    range_m : from low to high water [m].
    low_to_high_hours : how long it rises [h].
    """
    later = height_above_low(hours + seconds / 3600, range_m, low_to_high_hours)
    return later - height_above_low(hours, range_m, low_to_high_hours)
