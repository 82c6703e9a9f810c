"""A simulated hand meter that follows a simulated sky, and the protocol that a real one could implement."""

from __future__ import annotations

import math
import random
from datetime import datetime
from typing import Protocol

from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.forecast import LightQuestion, light_at
from jackstaff_core.sky.sun_and_moon import Place

READING_SD = 0.11
"""How far one reading scatters from the light [stop]: framing of the meter."""


class Meter(Protocol):
    """What a meter does."""

    def read(self, at: datetime) -> float:
        """Return the EV at ISO 100."""
        ...


class SimulatedMeter:
    """The stand-in that ships: the clear-sky model under a sky that wanders, seeded, so that it repeats itself."""

    def __init__(self, place: Place, sky: Sky, seed: int = 1) -> None:
        self.place, self.sky, self.seed = place, sky, seed

    def read(self, at: datetime) -> float:
        """Return the EV at ISO 100 to a tenth, as a display shows it."""
        light = light_at(LightQuestion(self.place, at, at, sky=self.sky), at).ev100
        return round(light + self.wander(at) + self._scatter(at), 1)

    def wander(self, at: datetime) -> float:
        """Return the slow part: cloud that comes and goes within half a stop [stops]."""
        dice = random.Random(f"{self.seed} {at:%Y-%m-%d}")  # noqa: S311
        hours = at.hour + at.minute / 60 + at.second / 3600
        level = dice.uniform(-0.5, 0.1)
        return level + 0.2 * math.sin(2 * math.pi * (hours / dice.uniform(0.7, 1.6) + dice.random()))

    def _scatter(self, at: datetime) -> float:
        return random.Random(f"{self.seed} {at:%Y-%m-%dT%H:%M:%S}").gauss(0, READING_SD)  # noqa: S311
