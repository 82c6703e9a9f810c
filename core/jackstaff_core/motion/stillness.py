"""How long one person holds still among those who walk.

    way(T) = A (1 - exp(-T/1 s)) + D T [mm at the person]      blur on the sensor = f way / distance

with A the rms sway and D the slow shifting of the stance: standing free 6 mm and 0.3 mm/s, leaning 3 and 0.1, sitting
1.5 and 0.05. Classes are those of leaves, as shares of the frame's width.

Source: size of quiet sway after Prieto et al. 1996 (a few mm), shifts of stance after Duarte & Zatsiorsky 1999; leaning
and sitting are ours. Limits: nobody who is cold, laughs or talks. Verdict: class.
"""

from __future__ import annotations

import math

from ..words.refusal import Refusal

POSES = {"standing": (6.0, 0.3), "leaning": (3.0, 0.1), "sitting": (1.5, 0.05)}
"""Sway [mm] and shifting [mm/s] by pose."""
SETTLES_SECONDS = 1.0
_LONGEST = 86_400.0


def moves(pose: str | None) -> tuple[float, float]:
    """Return the sway [mm] and shifting [mm/s] of a pose: standing (when nothing is said), leaning or sitting.

    Raises
    ------
    Refusal
        Another pose.
    """
    if pose is not None and pose not in POSES:
        raise Refusal("pose", f"'{pose}' is no pose.", f"Give one of: {', '.join(POSES)}.")
    return POSES[pose or "standing"]


def blur_mm(seconds: float, sway: float, shift: float, distance_m: float, focal_mm: float) -> float:
    """Return the blur on the sensor [mm] after ``seconds``.

    Parameters
    ----------
    seconds : float
        How long the shutter is open [s].
    sway, shift : float
        Of the pose [mm, mm/s].
    distance_m : float
        To the person [m].
    focal_mm : float
        Focal length [mm].
    """
    way = sway * -math.expm1(-seconds / SETTLES_SECONDS) + shift * seconds
    return focal_mm * way / (1000 * distance_m)


def seconds_for(blur: float, sway: float, shift: float, distance_m: float, focal_mm: float) -> float:
    """Return the time [s] at which the blur reaches ``blur`` mm; infinite when not within a day.

    Parameters
    ----------
    blur : float
        What is put up with on the sensor [mm].
    sway, shift : float
        Of the pose [mm, mm/s].
    distance_m : float
        To the person [m].
    focal_mm : float
        Focal length [mm].
    """
    low, high = 0.0, _LONGEST
    if blur_mm(high, sway, shift, distance_m, focal_mm) < blur:
        return math.inf
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if blur_mm(middle, sway, shift, distance_m, focal_mm) < blur else (low, middle)
    return high
