"""Illuminance under a clear sky from the sun's and the moon's altitude.

    log10 E[lx] = l0 + l1 x + l2 x^2 + l3 x^3,  x = h/90, h the geometric altitude [deg] without refraction

Rows and the constants that make the joints continuous are below; under -18 deg it stays at 6.4e-4 lx. The moon has rows
of its own, minus 8.68e-3 f + 2.2e-9 f^4 with f = 180 deg - elongation. Fluxes add, never EVs. EV at ISO 100 on a flat
receptor is log2(E 100/250).

Source: after Janiczek & DeYoung, USNO Circular 171 (1987). Limits: clear sky, horizontal surface, sea level.
Verdict: estimate (level to 0.3 stop under a clear sky; the rate carries over to sky-lit scenes within a quarter).
"""

from __future__ import annotations

import math
from bisect import bisect_right

NIGHT_LUX = 6.4e-4
RECEPTOR = 250.0
"""Calibration constant of a flat incident receptor."""
_STOPS = math.log2(10)
# From altitude, l0 to l3, constant that closes the joint to the row above.
_SUN = (
    (20.0, 3.74, 3.97, -4.07, 1.47, -0.004662208504800702),
    (5.0, 3.05, 13.28, -45.98, 64.33, -0.003743141289437091),
    (-0.8, 2.88, 22.26, -207.64, 1034.30, 0.0),
    (-5.0, 2.88, 21.81, -258.11, -858.36, -0.001341522524005434),
    (-12.0, 2.70, 12.17, -431.69, -1899.83, 0.0002651304252396791),
    (-18.0, 13.84, 262.72, 1447.42, 2797.93, -0.004037091796981418),
)
_MOON = (
    (20.0, -1.95, 4.06, -4.24, 1.56),
    (5.0, -2.58, 12.58, -42.58, 59.06),
    (-0.8, -2.79, 24.27, -252.95, 1321.29),
)


_NIGHT_BELOW = _SUN[-1][0]
_JOINTS = tuple(row[0] for row in reversed(_SUN[:-1]))
_RISING = tuple(row[1:] for row in reversed(_SUN))


def _row(altitude: float) -> tuple[float, float, float, float, float]:
    """Return the row of the sun's table an altitude falls into; a joint belongs to the row above it."""
    l0, l1, l2, l3, closing = _RISING[bisect_right(_JOINTS, altitude)]
    return l0, l1, l2, l3, closing


def sun_lux(altitude_deg: float) -> float:
    """Return the clear-sky illuminance [lx] with the sun at a geometric altitude.

    Parameters
    ----------
    altitude_deg : float
        Geometric altitude, without refraction [deg], -90 to 90.
    """
    if altitude_deg < _NIGHT_BELOW:
        return NIGHT_LUX
    x = altitude_deg / 90
    l0, l1, l2, l3, closing = _row(altitude_deg)
    return math.pow(10, l0 + x * (l1 + x * (l2 + x * l3)) + closing)


def stops_per_degree(altitude_deg: float) -> float:
    """Return how fast the light changes with the sun's altitude [stop/deg], 0 in the night.

    Parameters
    ----------
    altitude_deg : float
        Geometric altitude, without refraction [deg], -90 to 90.
    """
    if altitude_deg < _NIGHT_BELOW:
        return 0.0
    x = altitude_deg / 90
    _, l1, l2, l3, _ = _row(altitude_deg)
    return (l1 + x * (2 * l2 + x * 3 * l3)) / 90 * _STOPS


def moon_lux(altitude_deg: float, elongation_deg: float) -> float:
    """Return the illuminance [lx] of the moon; 0 once it has set.

    Parameters
    ----------
    altitude_deg : float
        Geometric altitude [deg], -90 to 90.
    elongation_deg : float
        Angle to the sun [deg], 0 new to 180 full.
    """
    if altitude_deg < _MOON[-1][0]:
        return 0.0
    x = altitude_deg / 90
    _, l0, l1, l2, l3 = next(row for row in _MOON if altitude_deg >= row[0])
    away = 180 - elongation_deg
    return math.pow(10, l0 + x * (l1 + x * (l2 + x * l3)) - 8.68e-3 * away - 2.2e-9 * away**4)


def ev100(lux: float) -> float:
    """Return the EV at ISO 100 of an illuminance [lx] on a flat receptor.

    Parameters
    ----------
    lux : float
        Illuminance [lx], above 0.
    """
    return math.log2(lux * 100 / RECEPTOR)


def ev_rate(altitude_deg: float, azimuth_deg: float, latitude_deg: float) -> float:
    """Return how fast clear-sky light changes [stop/min]: the sun climbs by 15 deg cos(latitude) sin(azimuth) an hour.

    Parameters
    ----------
    altitude_deg, azimuth_deg : float
        Of the sun [deg]; azimuth from north through east.
    latitude_deg : float
        Of the place [deg], north +.
    """
    climb = 0.25 * math.cos(math.radians(latitude_deg)) * math.sin(math.radians(azimuth_deg))
    return stops_per_degree(altitude_deg) * climb
