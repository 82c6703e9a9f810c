"""Corners clipped by stacked rims, once one clear focal length has been observed.

With h the half diagonal, L the distance from the entrance pupil to the front edge of a rim and D its
clear diameter (all mm), no shading at all needs

    f = N (D/2 - sqrt(D^2/4 - 2 h L / N))        root of h L = f (D/2 - f/2N)

and the corner is half clipped at f = 2 h L / D. The distance z from pupil to filter thread is unknown, so it is
calibrated from the widest focal length the user saw clear.

Source: first-order optics (entrance pupil, chief ray), after Kingslake. Limits: rectilinear, infinity,
within about 3 mm of the observation. Verdict: estimate (+-1 mm) after an observation; without one, none.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Rim:
    """One rim: its depth and clear diameter [mm]."""

    depth_mm: float
    clear_mm: float


def pupil_depth(clear_focal_mm: float, rims: Sequence[Rim], half_diagonal_mm: float, f_number: float | None) -> float:
    """Return z [mm] from "clear from this focal length with these rims"; ``f_number`` None takes the chief ray.

    Parameters
    ----------
    clear_focal_mm : float
        Shortest focal length that was seen clear [mm].
    rims : Sequence[Rim]
        In front of the lens, from the thread on.
    half_diagonal_mm : float
        Of the sensor [mm].
    f_number : float | None
        At which it was seen; None takes the chief ray.
    """
    half = rims[-1].clear_mm / 2
    reach = half - (clear_focal_mm / (2 * f_number) if f_number else 0.0)
    return clear_focal_mm * reach / half_diagonal_mm - sum(rim.depth_mm for rim in rims)


def widest_clear(rims: Sequence[Rim], pupil_mm: float, half_diagonal_mm: float, f_number: float | None) -> float:
    """Return the shortest focal length [mm] that these rims leave clear; 0 for none on the lens.

    Parameters
    ----------
    rims : Sequence[Rim]
        In front of the lens, from the thread on.
    pupil_mm : float
        Depth of the pupil behind the thread [mm].
    half_diagonal_mm : float
        Of the sensor [mm].
    f_number : float | None
        At which it is to be clear; None takes the chief ray.
    """
    length, widest = pupil_mm, 0.0
    for rim in rims:
        length += rim.depth_mm
        widest = max(widest, _clear(length, rim.clear_mm / 2, half_diagonal_mm, f_number))
    return widest


def _clear(length: float, half: float, h: float, f_number: float | None) -> float:
    if f_number is None:
        return h * length / half
    inside = half * half - 2 * h * length / f_number
    return math.inf if inside < 0 else f_number * (half - math.sqrt(inside))
