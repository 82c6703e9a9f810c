"""Where to focus, and what is sharp.

    H = f^2/(N c) + f;  near = s (H - f)/(H + s - 2f);  far = s (H - f)/(H - s), infinite from s = H

Source: thin-lens geometry. ``c`` is the circle of confusion, sensor diagonal / 1442 unless the user says.
Limits: a thin lens, distances from its front well above the focal length. Verdict: computed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

_DIAGONALS_IN_CIRCLE = 1442


@dataclass(frozen=True, slots=True)
class Depth:
    """Sharp from near to far [m]; far is infinite from the hyperfocal distance on."""

    near_m: float
    far_m: float


def circle_mm(width_mm: float, height_mm: float) -> float:
    """Return the usual circle of confusion of a sensor [mm].

    Parameters
    ----------
    width_mm, height_mm : float
        The sensor's sides [mm].
    """
    return math.hypot(width_mm, height_mm) / _DIAGONALS_IN_CIRCLE


def hyperfocal_m(focal_mm: float, f_number: float, circle: float) -> float:
    """Focus here and everything from half of it is sharp [m].

    Parameters
    ----------
    focal_mm : float
        Focal length [mm].
    f_number : float
        Of the aperture.
    circle : float
        Of confusion [mm].
    """
    return (focal_mm**2 / (f_number * circle) + focal_mm) / 1000


def depth(focal_mm: float, f_number: float, circle: float, focus_m: float) -> Depth:
    """Return what is sharp when focused at ``focus_m``.

    Parameters
    ----------
    focal_mm : float
        Focal length [mm].
    f_number : float
        Of the aperture.
    circle : float
        Of confusion [mm].
    focus_m : float
        What is focused on [m], beyond the focal length.
    """
    h, f = hyperfocal_m(focal_mm, f_number, circle), focal_mm / 1000
    near = focus_m * (h - f) / (h + focus_m - 2 * f)
    return Depth(near, math.inf if focus_m >= h else focus_m * (h - f) / (h - focus_m))


def third_in_m(nearest_m: float, farthest_m: float) -> float:
    """Return the distance a third of the way into a scene [m], for those who focus so.

    Parameters
    ----------
    nearest_m, farthest_m : float
        The scene's ends [m].
    """
    return nearest_m + (farthest_m - nearest_m) / 3
