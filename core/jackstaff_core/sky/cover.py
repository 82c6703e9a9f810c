"""The sky between the sun and the scene: how much light a class of cloud takes, and a sky that changes.

    p(t)   = (t - T)/60 min + 1/2, held within 0 and 1       T when the sky is expected to change
    stops  = first sky + sum of (next - one before) p(t)
    sd^2   = sum of (next - one before)^2 p (1 - p)

A change is expected at a time, and comes with equal chance at any minute of half an hour either side of it: p is the
chance that it has come, so the light is its mean over both skies and is known the worse the further they differ.

Source: classes after the usual steps from sun to heavy overcast; the half hour is ours. Limits: 12 changes, cloud alike
over all of the sky. Verdict: estimate.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Annotated

from ..wire.marks import Size

UNSURE_MINUTES = 30.0
MOST_CHANGES = 12


class Sky(StrEnum):
    """What covers the sky."""

    CLEAR = "clear"
    THIN = "thin"
    OVERCAST = "overcast"
    HEAVY = "heavy"

    @property
    def stops(self) -> float:
        """Light against a clear sky [stops], 0 or negative."""
        return {"clear": 0.0, "thin": -1.0, "overcast": -2.3, "heavy": -3.3}[self.value]

    @property
    def beam(self) -> float:
        """The share of direct sun it lets through, 0 to 1."""
        return {"clear": 1.0, "thin": 0.5, "overcast": 0.0, "heavy": 0.0}[self.value]


@dataclass(frozen=True, slots=True)
class SkyChange:
    """From an instant on the sky is expected to be another one."""

    at: datetime
    sky: Sky


SkyChanges = Annotated[tuple[SkyChange, ...], Size(0, MOST_CHANGES)]


class Course:
    """A sky and what becomes of it; minutes count from ``start``."""

    def __init__(self, first: Sky, changes: Sequence[SkyChange], start: datetime) -> None:
        ordered = sorted(changes, key=lambda change: change.at)
        skies = [first, *(change.sky for change in ordered)]
        self._stops, self._beam = first.stops, first.beam
        # When, and by how much light and beam change: read off the skies once, asked at each minute.
        self._steps = [
            (
                (change.at - start).total_seconds() / 60,
                change.sky.stops - before.stops,
                change.sky.beam - before.beam,
            )
            for before, change in zip(skies, ordered, strict=False)
        ]

    def stops(self, minute: float) -> float:
        """Return the light against a clear sky at a minute [stops], 0 or negative."""
        if not self._steps:
            return self._stops
        return self._stops + math.fsum(_come(minute, at) * by for at, by, _ in self._steps)

    def beam(self, minute: float) -> float:
        """Return the share of direct sun that gets through at a minute, 0 to 1."""
        if not self._steps:
            return self._beam
        return self._beam + math.fsum(_come(minute, at) * by for at, _, by in self._steps)

    def sd(self, minute: float) -> float:
        """Return what not knowing when it changes is worth [stops]."""
        if not self._steps:
            return 0.0
        come = [(_come(minute, at), by) for at, by, _ in self._steps]
        return math.sqrt(math.fsum(by * by * p * (1 - p) for p, by in come))

    def rate(self, minute: float) -> float:
        """Return how fast the expected light changes with the sky [stop/min]."""
        if not self._steps:
            return 0.0
        return math.fsum(by / (2 * UNSURE_MINUTES) for at, by, _ in self._steps if 0 < _come(minute, at) < 1)


def _come(minute: float, at: float) -> float:
    """Return the chance that a change expected at a minute has come."""
    return min(1.0, max(0.0, (minute - at) / (2 * UNSURE_MINUTES) + 0.5))
