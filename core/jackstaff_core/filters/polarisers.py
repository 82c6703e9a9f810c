"""Variable neutral density: two linear polarisers turned against each other.

On axis, with s0 stops at parallel and leak eps:

    s(theta) = s0 - log2(cos^2 theta + eps sin^2 theta)
    ds/dtheta = (pi/180)(2/ln 2) tan theta       stops a degree, no leak

Off axis each film absorbs along the direction its axis has across the ray inside the film
(n about 1.5), e_i = k x a_i / |k x a_i|, and T = (e1.e2)^2 + eps (1 - (e1.e2)^2).

Source: Malus; crossed polarisers at oblique incidence after Yeh & Gu, ch. 8. Limits: no retardance,
no sky polarisation, ideal dichroism. Verdict: computed on axis given s0; unevenness is an estimate.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

PARALLEL_STOPS = 1.5
"""Stops at the weakest setting of most variable glass."""
LEAK = 1e-4
FILM_INDEX = 1.5
UNEVEN_WARNING_STOPS = 1.0
"""5 to 95 % spread from which a frame is worth a word, until the user's own frames say otherwise."""
_EDGE_POINTS = 25
_BISECTORS = tuple(range(0, 180, 5))

Vector = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Pair:
    """A variable glass in front of a sensor: its stops at parallel, the film's index, the frame [mm]."""

    parallel_stops: float = PARALLEL_STOPS
    index: float = FILM_INDEX
    width_mm: float = 36.0
    height_mm: float = 24.0


@dataclass(frozen=True, slots=True)
class Unevenness:
    """Over one frame at one setting, in stops."""

    corner_to_corner: float
    spread_5_95: float
    cross: bool


def angle_for(stops: float, parallel_stops: float = PARALLEL_STOPS, leak: float = 0.0) -> float:
    """Return the degrees between the axes that give ``stops`` on axis.

    Parameters
    ----------
    stops : float
        On axis, from parallel to crossed.
    parallel_stops : float
        What the pair costs when parallel [stops].
    leak : float
        Transmission when crossed, against parallel.
    """
    share = (2.0 ** (parallel_stops - stops) - leak) / (1 - leak)
    return math.degrees(math.acos(math.sqrt(min(1.0, max(0.0, share)))))


def stops_per_degree(stops: float, parallel_stops: float = PARALLEL_STOPS) -> float:
    """Return how much a hair's turn costs at this setting [stop/deg].

    Parameters
    ----------
    stops : float
        On axis.
    parallel_stops : float
        What the pair costs when parallel [stops].
    """
    theta = math.radians(angle_for(stops, parallel_stops))
    return math.radians(1) * 2 / math.log(2) * math.tan(theta)


def transmission(ray: Vector, theta_deg: float, bisector_deg: float, leak: float = LEAK) -> float:
    """Return the transmission relative to parallel along a unit ``ray`` inside the film.

    Parameters
    ----------
    ray : Vector
        Inside the film, of length 1.
    theta_deg : float
        Between the axes [deg], 0 to 90.
    bisector_deg : float
        How the pair is turned in the frame [deg].
    leak : float
        Transmission when crossed, against parallel.
    """
    half = math.radians(theta_deg) / 2
    middle = math.radians(bisector_deg)
    first = (math.cos(middle - half), math.sin(middle - half))
    other = (math.cos(middle + half), math.sin(middle + half))
    on_one = ray[0] * first[0] + ray[1] * first[1]
    on_other = ray[0] * other[0] + ray[1] * other[1]
    dot = first[0] * other[0] + first[1] * other[1]
    cosine = (dot - on_one * on_other) / math.sqrt((1 - on_one**2) * (1 - on_other**2))
    return cosine**2 + leak * (1 - cosine**2)


def ray_to(x_mm: float, y_mm: float, focal_mm: float, index: float = FILM_INDEX) -> Vector:
    """Return the unit direction inside the film of the ray to a point of the sensor.

    Parameters
    ----------
    x_mm, y_mm : float
        On the sensor from its middle [mm].
    focal_mm : float
        Focal length [mm].
    index : float
        Of refraction of the film.
    """
    length = math.sqrt(x_mm**2 + y_mm**2 + focal_mm**2)
    kx, ky = x_mm / length / index, y_mm / length / index
    return kx, ky, math.sqrt(1 - kx * kx - ky * ky)


def unevenness(stops: float, focal_mm: float, pair: Pair | None = None) -> Unevenness:
    """Return how uneven a frame is at a setting, for the worst orientation of the pair.

    Extremes lie on the frame's border (or a black cross runs through it): 100 border points,
    orientations 0 to 175 degrees in steps of 5.

    Parameters
    ----------
    stops : float
        On axis.
    focal_mm : float
        Focal length [mm].
    pair : Pair | None
        Stops at parallel, the film's index, the sensor; None for the usual ones.
    """
    pair = pair or Pair()
    across = _worst(stops, focal_mm, pair)[1]
    return Unevenness(across, spread(stops, focal_mm, pair), stops >= cross_setting(focal_mm, pair))


@lru_cache(maxsize=512)
def spread(stops: float, focal_mm: float, pair: Pair) -> float:
    """Return the 5 to 95 % spread over the frame [stops] for the worst orientation: what one sees.

    Parameters
    ----------
    stops : float
        On axis.
    focal_mm : float
        Focal length [mm].
    pair : Pair
        Stops at parallel, the film's index, the sensor.
    """
    worst, _ = _worst(stops, focal_mm, pair)
    theta = angle_for(stops, pair.parallel_stops, LEAK)
    inside = sorted(math.log2(transmission(ray_to(x, y, focal_mm, pair.index), theta, worst)) for x, y in _grid(pair))
    return inside[round(0.95 * (len(inside) - 1))] - inside[round(0.05 * (len(inside) - 1))]


@lru_cache(maxsize=128)
def usable_for_spread(limit_stops: float, focal_mm: float, pair: Pair) -> float:
    """Return the densest setting [stops] whose 5 to 95 % spread stays within ``limit_stops``, to a tenth.

    Parameters
    ----------
    limit_stops : float
        What is put up with [stops].
    focal_mm : float
        Focal length [mm].
    pair : Pair
        Stops at parallel, the film's index, the sensor.
    """
    low, high = pair.parallel_stops, cross_setting(focal_mm, pair)
    while high - low > 0.05:
        middle = (low + high) / 2
        low, high = (middle, high) if spread(middle, focal_mm, pair) <= limit_stops else (low, middle)
    return low


@lru_cache(maxsize=512)
def _worst(stops: float, focal_mm: float, pair: Pair) -> tuple[int, float]:
    """Return the orientation that is worst, and its corner-to-corner unevenness."""
    theta = angle_for(stops, pair.parallel_stops, LEAK)
    border = [ray_to(x, y, focal_mm, pair.index) for x, y in _border(pair)]
    centre = transmission((0.0, 0.0, 1.0), theta, 0.0)
    return max(((turn, _range(border, theta, turn, centre)) for turn in _BISECTORS), key=lambda found: found[1])


def _range(rays: list[Vector], theta: float, bisector: float, centre: float) -> float:
    values = [transmission(ray, theta, bisector) for ray in rays]
    return math.log2(max(*values, centre) / min(*values, centre))


def cross_setting(focal_mm: float, pair: Pair | None = None) -> float:
    """Return the on-axis stops at which a black cross reaches the corners: cos theta = q/(2-q), q = (sin psi/n)^2.

    Parameters
    ----------
    focal_mm : float
        Focal length [mm].
    pair : Pair | None
        Stops at parallel, the film's index, the sensor; None for the usual ones.
    """
    pair = pair or Pair()
    psi = math.atan(math.hypot(pair.width_mm, pair.height_mm) / 2 / focal_mm)
    q = (math.sin(psi) / pair.index) ** 2
    return pair.parallel_stops - 2 * math.log2(q / (2 - q))


def usable_end(limit_stops: float, focal_mm: float, pair: Pair | None = None) -> float:
    """Return the densest setting whose corner-to-corner unevenness stays within ``limit_stops``.

    Parameters
    ----------
    limit_stops : float
        What is put up with [stops].
    focal_mm : float
        Focal length [mm].
    pair : Pair | None
        Stops at parallel, the film's index, the sensor; None for the usual ones.
    """
    pair = pair or Pair()
    low, high = pair.parallel_stops, cross_setting(focal_mm, pair)
    for _ in range(18):
        middle = (low + high) / 2
        low, high = (middle, high) if _worst(middle, focal_mm, pair)[1] <= limit_stops else (low, middle)
    return low


def _border(pair: Pair) -> Iterator[tuple[float, float]]:
    width, height = pair.width_mm, pair.height_mm
    for place in range(_EDGE_POINTS):
        along = place / (_EDGE_POINTS - 1) - 0.5
        yield from ((along * width, height / 2), (along * width, -height / 2))
        yield from ((width / 2, along * height), (-width / 2, along * height))


def _grid(pair: Pair, across: int = 31, down: int = 21) -> Iterator[tuple[float, float]]:
    for column in range(across):
        for row in range(down):
            yield (column / (across - 1) - 0.5) * pair.width_mm, (row / (down - 1) - 0.5) * pair.height_mm
