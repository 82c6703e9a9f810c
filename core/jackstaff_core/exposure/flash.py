"""Flash in sunlight at a wide aperture: the glass that brings the shutter down to the sync time.

    stops = max(0, log2(t_sync / t_wide))

Against the same aperture without glass the flash needs that many stops more; against stopping down by as many, the
same. Source: definition of the stop. Limits: no high-speed synchronisation, whose light falls with the shutter.
Verdict: computed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..camera.reading import Given, ReadingGiven, SettingsGiven, aperture, metered_exposure
from ..words.refusal import within


def stops_to_sync(wide_seconds: float, sync_seconds: float) -> float:
    """Return the stops of glass that make the sync time the right one at this aperture.

    Parameters
    ----------
    wide_seconds : float
        The sum's time at this aperture without the glass [s].
    sync_seconds : float
        Shortest time that the flash goes with [s].
    """
    return max(0.0, math.log2(sync_seconds / wide_seconds))


@dataclass(frozen=True, slots=True)
class FlashQuestion:
    """The reading in daylight, the aperture wanted, the body's sync time [s]."""

    reading: ReadingGiven
    wide: Given
    sync_seconds: float


@dataclass(frozen=True, slots=True)
class FlashAnswer:
    """What flash in daylight needs.

    ``wide_seconds`` is what daylight asks at the wide aperture, ``stops`` the glass needed, ``flash_stops`` what the
    flash must give more than at this aperture without glass.
    """

    wide_seconds: float
    stops: float
    flash_stops: float


def flash(question: FlashQuestion) -> FlashAnswer:
    """Return the glass that lets flash be used wide open.

    Raises
    ------
    Refusal
        A reading, aperture or sync time that cannot be read.
    """
    reading = metered_exposure(question.reading, SettingsGiven())
    wide = aperture("wide", question.wide, question.reading.step).exact
    sync = within("sync_seconds", question.sync_seconds, 1e-4, 1, "s")
    seconds = reading.bare_seconds * (wide / reading.settings.aperture.exact) ** 2
    stops = stops_to_sync(seconds, sync)
    return FlashAnswer(seconds, stops, stops)
