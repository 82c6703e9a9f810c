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
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Annotated

from .marks import Size

UNSURE_MINUTES = 30.0
MOST_CHANGES = 12


class Sky(StrEnum):
    CLEAR = "clear"
    THIN = "thin"
    OVERCAST = "overcast"
    HEAVY = "heavy"

    @property
    def stops(self) -> float:
        """How much less light than a clear sky."""
        return {"clear": 0.0, "thin": -1.0, "overcast": -2.3, "heavy": -3.3}[self.value]

    @property
    def beam(self) -> float:
        """The share of direct sun it lets through."""
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
        self._first = first
        self._steps = [
            ((change.at - start).total_seconds() / 60, before, change.sky)
            for before, change in zip(skies, ordered, strict=False)
        ]

    def stops(self, minute: float) -> float:
        """Stops below a clear sky, as a negative number."""
        return self._first.stops + math.fsum(p * by for p, by in self._come(minute, lambda sky: sky.stops))

    def beam(self, minute: float) -> float:
        """The share of direct sun that gets through."""
        return self._first.beam + math.fsum(p * by for p, by in self._come(minute, lambda sky: sky.beam))

    def sd(self, minute: float) -> float:
        """What not knowing when it changes is worth [stops]."""
        return math.sqrt(math.fsum(by * by * p * (1 - p) for p, by in self._come(minute, lambda sky: sky.stops)))

    def rate(self, minute: float) -> float:
        """How fast the expected light changes with the sky [stop/min]."""
        return math.fsum(by / (2 * UNSURE_MINUTES) for p, by in self._come(minute, lambda sky: sky.stops) if 0 < p < 1)

    def _come(self, minute: float, of: Callable[[Sky], float]) -> Iterator[tuple[float, float]]:
        """The chance that each change has come, and how much it is."""
        for at, before, sky in self._steps:
            yield min(1.0, max(0.0, (minute - at) / (2 * UNSURE_MINUTES) + 0.5)), of(sky) - of(before)
