"""Does a reading fit the light there can be?

A reading brighter than the forecast by more than its band and a stop is contradicted. One darker by three stops and
more is asked about: shade, a ravine or an alley is honestly four to six stops down, a polariser or glass may still be
on.

Source: comparison with forecast.py. Verdict: a question, never a correction.
"""

from __future__ import annotations

from .advice import Advice, Severity
from .forecast import LightPoint

TOO_BRIGHT, ASK_BELOW, RAVINE = 1.0, -3.0, -7.0


def plausible(reading_ev100: float, light: LightPoint) -> Advice | None:
    """A word about a reading that does not fit, None when it does."""
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
                "Is dark glass still on the lens?"
                if deep
                else "Shade, a ravine or an alley can be; or is a polariser or glass still on?"
            ),
            values,
        )
    return None
