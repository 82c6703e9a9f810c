"""The bag a newcomer finds on the bench: generic glass, enough to try every kind of answer."""

from __future__ import annotations

from dataclasses import dataclass

from .finder import GlassKind


@dataclass(frozen=True, slots=True)
class StarterGlass:
    """A glass of the starter bag; ``stops`` as labelled, ``offset`` measured minus labelled."""

    id: str
    name: str
    label: str
    stops: float
    kind: GlassKind = GlassKind.SOLID
    offset: float | None = None
    offset_sd: float | None = None


STARTER_BAG: tuple[StarterGlass, ...] = (
    StarterGlass("starter-3", "Ring ND 3", "3 stops", 3.0),
    StarterGlass("starter-4", "Slot ND 4", "4 stops", 4.0),
    StarterGlass("starter-6", "Ring ND 6", "6 stops", 6.0),
    StarterGlass("starter-9", "Slot ND 9", "9 stops", 9.0),
    StarterGlass("starter-14", "Slot ND 14", "14 stops", 14.0),
    StarterGlass("starter-pol", "Clip-on pol", "1.5 stops", 1.5, GlassKind.POLARISER),
)
STARTER_ON = ("starter-9",)
"""What is on the lens at the first visit: one strong solid glass."""
STARTER_READING = ("1/40", "9", "64")
"""Shutter, aperture and ISO of the first visit."""
