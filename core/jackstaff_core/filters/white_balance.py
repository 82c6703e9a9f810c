"""The colour a glass leaves in a picture, and the setting on the camera that makes it neutral.

    R/G, B/G          stops more of red and of blue than of green that came through
    shift = 70 (R/G - B/G)                    mired, + where the light that got through is warmer
    K = 1e6 / (1e6/K0 + shift)                K0: what the camera was set to [kelvin]
    green = -(R/G + B/G)/2                    stops, + too green, - green is missing: magenta

A camera set to K renders light of K as neutral. Light that a glass made bluer has fewer mired, so it wants a *higher*
kelvin than before, which renders the picture warmer: the cure has the opposite sense of the shift. 70 mired a stop is
the slope of red against blue in linear sRGB along the Planckian locus at 5500 K.

Source: Planck's law through the CIE colour matching functions (fits after Wyman, Sloan & Shirley 2013), derived.
Limits: 59 mired a stop at 2856 K, 75 at 8000 K; a picture style with more saturation shows more than there is.
Verdict: shift and kelvin a rough estimate, green an estimate.
"""

from __future__ import annotations

from ..words.refusal import within

MIRED_A_STOP = 70.0
LEAST_MIRED, LEAST_GREEN_STOPS = 5.0, 0.1
"""Less than this nobody sees."""
COLDEST_KELVIN, WARMEST_KELVIN = 25_000.0, 1500.0
_GRAIN_KELVIN = 50.0
"""Cameras set kelvin no finer, and nothing here is surer."""


def shift_mired(rg: float, bg: float) -> float:
    """Return shift of the light that got through [mired, + warmer], from stops more of red and of blue than of green.

    Parameters
    ----------
    rg, bg : float
        Red and blue against green [stops].
    """
    return MIRED_A_STOP * (rg - bg)


def green_stops(rg: float, bg: float) -> float:
    """Return the stops of green too much (+) or missing (-) against the mean of red and blue.

    Parameters
    ----------
    rg, bg : float
        Red and blue against green [stops].
    """
    return -(rg + bg) / 2


def neutral_kelvin(set_kelvin: float, shift: float) -> float | None:
    """Return what to set instead of ``set_kelvin``, so that a ``shift`` [mired] is gone.

    None where no camera can be set so.

    Parameters
    ----------
    set_kelvin : float
        White balance of the frame [K], 1500 to 25,000.
    shift : float
        Of the light that got through [mired], + warmer.

    Raises
    ------
    Refusal
        A setting outside 1500 to 25,000 K.
    """
    was = within("kelvin", set_kelvin, WARMEST_KELVIN, COLDEST_KELVIN, "K")
    mired = 1e6 / was + shift
    return 1e6 / mired if 1e6 / COLDEST_KELVIN <= mired <= 1e6 / WARMEST_KELVIN else None


def white_balance_said(shift: float, kelvin: float | None = None) -> str | None:
    """Return how to set the camera so that a shift [mired] is gone; None where nobody would see it.

    Parameters
    ----------
    shift : float
        Of the light that got through [mired], + warmer.
    kelvin : float | None
        White balance in use [K]; None where it is not known.

    Raises
    ------
    Refusal
        As :func:`neutral_kelvin`.
    """
    if abs(shift) < LEAST_MIRED:
        return None
    tint, way = ("blue", "warmer") if shift < 0 else ("warm", "cooler")
    words = f"It comes out {tint}: set the camera's white balance about {abs(shift):.0f} mired {way}"
    neutral = None if kelvin is None else neutral_kelvin(kelvin, shift)
    if neutral is None:
        return f"{words}, the {'higher' if shift < 0 else 'lower'} kelvin."
    return f"{words}: about {round(neutral / _GRAIN_KELVIN) * _GRAIN_KELVIN:.0f} K instead of {kelvin:.0f} K."


def green_said(green: float) -> str | None:
    """Green too much or missing, in words with its amount; None where nobody would see it.

    Parameters
    ----------
    green : float
        Too much (+) or missing (-) [stops].
    """
    if abs(green) < LEAST_GREEN_STOPS:
        return None
    size = f"{abs(green):.1f} stop"
    return f"{size} too much green: tint towards magenta." if green > 0 else f"{size} of green missing: magenta."
