"""A ridge that keeps the direct sun away, and the step when it arrives.

    ridge [deg] = atan(height / distance)
    air mass    = 1/(sin h + 0.50572 (h + 6.07995)^-1.6364)              h altitude of the sun [deg]
    beam [lx]   = 127500 exp(-0.21 air mass) sin h                       on a horizontal surface, clear sky
    step        = log2(1 - beam/total), total the clear-sky model        at most 3 stops

While the sun stands below the ridge a sun-lit scene has the sky's light alone; the moment it clears it, the beam comes
as a step. Thin cloud passes half of the beam, anything thicker none.

Source: Kasten & Young 1989 (air mass); extinction 0.21 after IES RP-21 1984. Limits: a straight ridge, horizontal
surface; a subject that faces the sun gains more. Verdict: estimate.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from ..wire.marks import Between
from ..words.refusal import within
from .daylight import sun_lux

_OUTSIDE_LUX, _EXTINCTION = 127_500.0, 0.21
MOST_STEP = 3.0


@dataclass(frozen=True, slots=True)
class Ridge:
    """Height of the ridge above the camera and its distance in the sun's direction [m]."""

    height_m: Annotated[float, Between(0, 9000, "m")]
    distance_m: Annotated[float, Between(1, 200_000, "m")]

    def __post_init__(self) -> None:
        within("ridge.height_m", self.height_m, 0, 9000, "m")
        within("ridge.distance_m", self.distance_m, 1, 200_000, "m")

    @property
    def deg(self) -> float:
        """How high it stands over the level horizon [deg]."""
        return math.degrees(math.atan2(self.height_m, self.distance_m))


def beam_lux(altitude_deg: float) -> float:
    """Return the direct sun on a horizontal surface under a clear sky [lx]; 0 below the horizon.

    Parameters
    ----------
    altitude_deg : float
        Geometric altitude [deg].
    """
    if altitude_deg <= 0:
        return 0.0
    up = math.sin(math.radians(altitude_deg))
    mass = 1 / (up + 0.50572 * (altitude_deg + 6.07995) ** -1.6364)
    return _OUTSIDE_LUX * math.exp(-_EXTINCTION * mass) * up


def sun_step(altitude_deg: float, passes: float = 1.0) -> float:
    """Return the stops (>= 0) that the direct sun adds to the sky's own light.

    ``passes`` is the share cloud lets through.

    Parameters
    ----------
    altitude_deg : float
        Geometric altitude [deg].
    passes : float
        0 to 1.
    """
    if passes <= 0:
        return 0.0
    share = min(beam_lux(altitude_deg) * passes / sun_lux(altitude_deg), 1 - 2**-MOST_STEP)
    return -math.log2(1 - share)
