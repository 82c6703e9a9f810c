"""Diffraction by aperture and pixel pitch.

    FWHM = 1.029 lambda N          (lambda 0.55 um)

FWHM of 1.5 pixels is where it begins to show, 2 pixels where nothing finer is left. "Airy disc wider than two pixels"
would warn at f/6 already and is far too strict.

Source: Born & Wolf. Limits: a perfect lens in green light; real ones are softer wide open. Verdict: computed.
"""

from __future__ import annotations

import math

WAVELENGTH_UM = 0.55
_FWHM = 1.02899
SOFT_PIXELS, HARD_PIXELS = 1.5, 2.0


def fwhm_pixels(f_number: float, pitch_um: float) -> float:
    """Return the width of the diffraction spot at half height, in pixels.

    Parameters
    ----------
    f_number : float
        Of the aperture.
    pitch_um : float
        From pixel to pixel [um].
    """
    return _FWHM * WAVELENGTH_UM * f_number / pitch_um


def f_number_for(pixels: float, pitch_um: float) -> float:
    """Return the f-number whose spot is ``pixels`` wide at half height.

    Parameters
    ----------
    pixels : float
        Width at half height that is put up with [px].
    pitch_um : float
        From pixel to pixel [um].
    """
    return pixels * pitch_um / (_FWHM * WAVELENGTH_UM)


def stops_past(f_number: float, sharp_to: float) -> float:
    """Return the stops by which an aperture is past the sharpest useful one, never negative.

    Parameters
    ----------
    f_number : float
        Of the aperture.
    sharp_to : float
        F-number up to which diffraction is not seen.
    """
    return max(0.0, 2 * math.log2(f_number / sharp_to))
