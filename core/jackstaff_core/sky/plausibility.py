"""Tell whether a reading fits the light there can be.

A reading brighter than the forecast by more than its band and a stop is contradicted. One darker by three stops and
more is asked about: shade, a ravine or an alley is honestly four to six stops down, a polariser or glass may still be
on.

Source: comparison with sky/forecast.py. Limits: the forecast's; reflections and lamps are nobody's forecast. Verdict: a
question, never a correction.
"""

from __future__ import annotations

from enum import StrEnum

from ..words.advice import Advice, Severity
from .forecast import LightPoint

TOO_BRIGHT, ASK_BELOW, RAVINE = 1.0, -3.0, -7.0


def doubt_about_reading(reading_ev100: float, light: LightPoint) -> Advice | None:
    """Return a word about a reading that does not fit, None when it does.

    Parameters
    ----------
    reading_ev100 : float
        What the meter says [EV at ISO 100].
    light : LightPoint
        What the forecast says of the same instant.
    """
    apart = reading_ev100 - light.ev100
    values = {"reading_ev100": reading_ev100, "forecast_ev100": light.ev100, "stops": apart}
    if apart > TOO_BRIGHT + 2 * light.sd_stops:
        return Advice(
            "too_bright",
            Severity.CAUTION,
            f"That is {apart:.0f} stops brighter than this sky can be. Read the display again: is it a fraction, is the"
            " ISO the one you set?",
            values,
        )
    if apart < ASK_BELOW - light.sd_stops:
        deep = apart < RAVINE
        return Advice(
            "glass_still_on" if deep else "too_dark",
            Severity.CAUTION if deep else Severity.NOTE,
            f"That is {-apart:.0f} stops darker than the open sky gives. "
            + (
                "Is a dark filter still on the lens?"
                if deep
                else "Shade, a ravine or an alley can be; or is a polariser or another filter still on?"
            ),
            values,
        )
    return None


class SkyPick(StrEnum):
    """What one sees without any plan; it feeds plausibility and nothing else."""

    FULL_SUN = "full_sun"
    HAZY = "hazy"
    OVERCAST = "overcast"
    SHADE = "shade"
    DUSK = "dusk"
    LAMPS = "lamps"

    @property
    def band(self) -> tuple[float, float]:
        """EV at ISO 100 that such light honestly gives."""
        return _BANDS[self]


# After the sunny-16 rule: full sun is EV 14.6, a stop less for each softer light; dusk and lamps from sky/daylight.py.
_BANDS = {
    SkyPick.FULL_SUN: (13.0, 15.6),
    SkyPick.HAZY: (12.0, 14.6),
    SkyPick.OVERCAST: (10.0, 13.6),
    SkyPick.SHADE: (8.0, 13.0),
    SkyPick.DUSK: (-2.0, 9.0),
    SkyPick.LAMPS: (0.0, 8.0),
}


def doubt_about_sky(reading_ev100: float, pick: SkyPick) -> Advice | None:
    """Return a word about a reading that does not fit the sky somebody sees, None when it does.

    Parameters
    ----------
    reading_ev100 : float
        What the meter says [EV at ISO 100].
    pick : SkyPick
        The sky somebody sees.
    """
    low, high = pick.band
    values = {"reading_ev100": reading_ev100, "low_ev100": low, "high_ev100": high}
    if reading_ev100 > high + TOO_BRIGHT:
        return Advice(
            "too_bright",
            Severity.CAUTION,
            f"That is {reading_ev100 - high:.0f} stops brighter than such light can be. Read the display again: is it"
            " a fraction, is the ISO the one you set?",
            values,
        )
    if reading_ev100 < low + ASK_BELOW / 2:
        return Advice(
            "too_dark",
            Severity.NOTE,
            f"That is {low - reading_ev100:.0f} stops darker than such light gives. Is another filter still on,"
            " or is it a ravine or an alley?",
            values,
        )
    return None
