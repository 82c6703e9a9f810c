"""The camera settings one allows: every third-stop aperture between two, with every allowed ISO.

    stops = 2 log2(N) - log2(S / 100)    (what they add to the time at EV 0: EV = 2 log2 N - log2 t - log2(S/100))

A fixed aperture off the ladder is taken as it is. Source: APEX arithmetic, ISO 2720. Limits: f/0.7 to f/64. Verdict:
computed.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Annotated, NamedTuple

from ..scales.ladders import Mark, Step, aperture_marks
from ..wire.marks import Size
from ..words.refusal import Refusal
from .diffraction import stops_past
from .reading import Given, aperture, iso

MOST_ISOS = 60
Ends = Annotated[tuple[Given, ...], Size(1, 2)]
"""One aperture, or the two between which a lens is used."""
Isos = Annotated[tuple[Given, ...], Size(1, MOST_ISOS)]
SOFT_STOPS = 1 / 3
"""Stops past the sharpest useful aperture from which one calls it soft."""
_SAME = 1e-9


class Setting(NamedTuple):
    """One aperture and ISO; the two distances are rounded, ready to be ordered by [stops]."""

    stops: float
    f_number: float
    aperture: str
    iso: str
    iso_distance: float
    diffraction: float
    soft: bool

    @property
    def clean(self) -> bool:
        """Whether it is at base ISO and sharp."""
        return not self.soft and self.iso_distance <= _SAME


def allowed_settings(
    ends: Sequence[Given], isos: Sequence[Given], sharp_to: Given, iso_base: Given | None = None
) -> list[Setting]:
    """Return every setting between two apertures at the allowed ISOs; the base ISO is the lowest unless given.

    Parameters
    ----------
    ends : Sequence[Given]
        Two apertures, in either order, as marks or f-numbers.
    isos : Sequence[Given]
        1 to 60 speeds, as marks or numbers.
    sharp_to : Given
        The aperture past which diffraction softens.
    iso_base : Given | None
        The cleanest speed.

    Raises
    ------
    Refusal
        A mark that cannot be read, no ISO or more than 60, or apertures no third-stop mark lies between.
    """
    ends_ = [aperture(f"apertures.{place}", given, Step.THIRD).exact for place, given in enumerate(ends)]
    low, high = min(ends_), max(ends_)
    speeds = [iso(f"isos.{place}", given, Step.THIRD) for place, given in enumerate(isos)]
    if not 1 <= len(speeds) <= MOST_ISOS:
        raise Refusal("isos", "No ISO is allowed.", f"Give at least one ISO, at most {MOST_ISOS}.")
    base = iso("iso_base", iso_base, Step.THIRD).exact if iso_base is not None else min(speed.exact for speed in speeds)
    sharp = aperture("sharp_to", sharp_to, Step.THIRD).exact
    marks = aperture_marks(Step.THIRD).between(low, high)
    if not marks and low == high:
        marks = (Mark(f"{low:g}", low, low, 0),)
    if not marks:
        raise Refusal("apertures", "No third-stop aperture lies between these.", "Give two marks such as 5.6 and 22.")
    return [
        Setting(
            2 * math.log2(mark.exact) - math.log2(speed.exact / 100),
            mark.exact,
            mark.label,
            speed.label or f"{speed.exact:g}",
            round(abs(math.log2(speed.exact / base)), 9),
            round(past := stops_past(mark.exact, sharp), 9),
            past > SOFT_STOPS + _SAME,
        )
        for mark in marks
        for speed in speeds
    ]
