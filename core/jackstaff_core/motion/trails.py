"""Things that draw lines or turn: lamps, stars, wheels, and the waterline.

    lamp   stops against a lamp that stands = log2(size / (v T))
    star   pixels = f (2 pi / 86164.09) cos(declination) T / pitch in the middle; in a corner those of the star there,
           s = axis cos(theta) + across sin(theta), on a flat sensor: f d(s_xy / s_z)/dt, longest over all corners
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
    """Return the exposure of a moving lamp's trail against the same lamp standing still [stops].

    Parameters
    ----------
    size_m : float
        Of the lamp along its way [m].
    speed_m_s : float
        Of the lamp across the view [m/s].
    seconds : float
        Exposure [s].
    """
    return math.log2(min(1.0, size_m / (speed_m_s * seconds)))


def star_pixels(declination_deg: float, seconds: float, focal_mm: float, pitch_um: float) -> float:
    """Return the length of a star's trail [px].

    Parameters
    ----------
    declination_deg : float
        Of the star [deg], -90 to 90.
    seconds : float
        Exposure [s].
    focal_mm : float
        Focal length [mm].
    pitch_um : float
        From pixel to pixel [um].
    """
    return focal_mm * 1000 * 2 * math.pi / SIDEREAL_DAY * math.cos(math.radians(declination_deg)) * seconds / pitch_um


FRAME_SHAPE = 1.5
"""Width of a frame to its height."""
_WAYS_ROUND = 72


def longest_star_pixels(
    declination_deg: float, seconds: float, focal_mm: float, pitch_um: float, corner_mm: float
) -> float:
    """Return length of the longest trail in the frame [px]: in the middle, or in a corner however the camera is turned.

    On a flat sensor a corner at theta from the axis is drawn out by up to 1 / cos^2 theta: 3.4 times for 14 mm.

    Parameters
    ----------
    declination_deg : float
        The camera points at [deg], -90 to 90.
    seconds : float
        Exposure [s], short enough for a straight trail.
    focal_mm : float
        Focal length [mm].
    pitch_um : float
        From pixel to pixel [um].
    corner_mm : float
        From the middle of the frame to its corner [mm].
    """
    declination, theta = math.radians(declination_deg), math.atan(corner_mm / focal_mm)
    longest = math.cos(declination)
    for turn in range(_WAYS_ROUND):
        # East, north and along the axis; the sky turns about the pole, which stands at (0, cos d, sin d).
        round_ = 2 * math.pi * turn / _WAYS_ROUND
        x, y, z = math.sin(theta) * math.cos(round_), math.sin(theta) * math.sin(round_), math.cos(theta)
        up, along = math.cos(declination), math.sin(declination)
        dx, dy, dz = up * z - along * y, along * x, -up * x
        longest = max(longest, math.hypot(dx * z - x * dz, dy * z - y * dz) / (z * z))
    return longest * focal_mm * 1000 * 2 * math.pi / SIDEREAL_DAY * seconds / pitch_um


def height_above_low(hours: float, range_m: float, low_to_high_hours: float = HALF_TIDE_HOURS) -> float:
    """Return the height above low water [m], ``hours`` after it.

    Parameters
    ----------
    hours : float
        Since low water [h].
    range_m : float
        From low to high water [m].
    low_to_high_hours : float
        How long it rises [h].
    """
    return range_m / 2 * (1 - math.cos(math.pi * hours / low_to_high_hours))


def rise(hours: float, seconds: float, range_m: float, low_to_high_hours: float = HALF_TIDE_HOURS) -> float:
    """Return how far the water rises (+) or falls (-) during ``seconds`` [m].

    Parameters
    ----------
    hours : float
        Since low water at the opening [h].
    seconds : float
        Exposure [s].
    range_m : float
        From low to high water [m].
    low_to_high_hours : float
        How long it rises [h].
    """
    later = height_above_low(hours + seconds / 3600, range_m, low_to_high_hours)
    return later - height_above_low(hours, range_m, low_to_high_hours)
