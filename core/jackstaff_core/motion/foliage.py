"""How long leaves and grass stay sharp in wind.

    excursion = 2A sin(pi T/P) for T < P/2, else 2A      blur on the sensor = f excursion / distance
    longest T for a blur b on the sensor = (P/pi) asin(b distance / (2 A f))

Source: harmonic sway. Limits: amplitude and period are guesses by wind class. Verdict: estimate.
"""

from __future__ import annotations

import math

from ..words.refusal import Refusal, within

WINDS = {"calm": (0.002, 0.5), "light": (0.01, 1.0), "breeze": (0.05, 1.5), "fresh": (0.15, 2.0)}
"""Amplitude [m] and period [s] by wind class."""
CLASSES = (("sharp", 1 / 1500), ("soft", 1 / 300), ("smeared", math.inf))
"""Looks with the blur, as a share of the frame's width, that each goes up to."""


def sway(wind: str | None, amplitude_m: float | None, period_s: float | None) -> tuple[float, float]:
    """Return the amplitude [m] to each side and period [s].

    Parameters
    ----------
    wind : str | None
        Calm, light, breeze or fresh; light when nothing is said.
    amplitude_m, period_s : float | None
        What somebody measured instead, 0.0001 to 5 m and 0.05 to 30 s.

    Raises
    ------
    Refusal
        An unknown wind, or a number out of bounds.
    """
    if wind is not None and wind not in WINDS:
        raise Refusal("class", f"'{wind}' is no wind class.", f"Give one of: {', '.join(WINDS)}.")
    amplitude, period = WINDS[wind or "light"]
    return (
        within("amplitude_m", amplitude if amplitude_m is None else amplitude_m, 0.0001, 5, "m"),
        within("period_s", period if period_s is None else period_s, 0.05, 30, "s"),
    )


def blur_mm(seconds: float, amplitude: float, period: float, distance: float, focal_mm: float) -> float:
    """Return the blur on the sensor [mm] after ``seconds``.

    Parameters
    ----------
    seconds : float
        How long the shutter is open [s].
    amplitude, period : float
        Of the sway [m to each side, s].
    distance : float
        To the leaf [m].
    focal_mm : float
        Focal length [mm].
    """
    excursion = 2 * amplitude * (1.0 if seconds >= period / 2 else math.sin(math.pi * seconds / period))
    return focal_mm * excursion / distance


def seconds_for(blur: float, amplitude: float, period: float, distance: float, focal_mm: float) -> float:
    """Return the longest time [s] whose blur on the sensor stays within ``blur`` mm; infinite when none exceeds it.

    Parameters
    ----------
    blur : float
        What is put up with on the sensor [mm].
    amplitude, period : float
        Of the sway [m to each side, s].
    distance : float
        To the leaf [m].
    focal_mm : float
        Focal length [mm].
    """
    share = blur * distance / (2 * amplitude * focal_mm)
    return math.inf if share >= 1 else period / math.pi * math.asin(share)
