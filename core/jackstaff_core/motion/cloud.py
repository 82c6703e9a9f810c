"""How far cloud travels over the frame while the shutter is open.

A patch at elevation e straight ahead, base height H, moves by wind u for T; both ends are projected through the lens
(flat base, rectilinear), and the streak is their distance as a share of the frame's width:

    end = (u T sin psi, H/tan e + u T cos psi, H);  x = f end_x/end_z', y = f end_y'/end_z'  along the tilted axis

with psi the direction the wind blows to minus the bearing. Source: geometry. Limits: wind at that height is known to a
factor of about two. Verdict: estimate.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..words.refusal import within

HEIGHTS = {"low": 1000.0, "middle": 3500.0, "high": 9000.0}
"""Height classes [m]."""
CLASSES = (("still", 0.005), ("soft edges", 0.05), ("streaks", 0.4), ("one tone", math.inf))
"""Looks with the share of the frame's width that each goes up to."""
COVERS = {
    "few": "With little cloud there is hardly anything to draw out: wait for more of it, or leave the sky out.",
    "half": "Cloud over about half of the sky draws the clearest streaks: gaps between it show how it moved.",
    "gaps": "Cloud with a few gaps still draws streaks where it is broken.",
    "all": "Cloud without a gap has nothing to show its way by: it becomes one even tone, whatever the time.",
}
"""What share of the sky with cloud is worth, by our own practice: two eighths at most, to five, to seven, all of it."""
LONG_SECONDS = 240.0
"""People wait this long for cloud to move."""
_LEAST_ELEVATION = 2.0
_LONGEST = 86_400.0


@dataclass(frozen=True, slots=True)
class CloudLayer:
    """Cloud base [m], wind there [m/s] and where it comes from [deg], before a lens."""

    height_m: float
    wind_m_s: float
    wind_from_deg: float
    elevation_deg: float
    bearing_deg: float
    focal_mm: float
    sensor_width_mm: float

    def __post_init__(self) -> None:
        within("height_m", self.height_m, 50, 20_000, "m")
        within("wind_m_s", self.wind_m_s, 0, 100, "m/s")
        within("wind_from_deg", self.wind_from_deg, -360, 720, "degrees")

    @property
    def psi(self) -> float:
        """Angle between the wind's way and the view [rad]."""
        return math.radians(self.wind_from_deg + 180 - self.bearing_deg)


def cloud_elevation(elevation_deg: float, focal_mm: float, sensor_width_mm: float) -> float:
    """Return elevation of the cloud judged [deg]: the camera's, or half-way up the sky of a level camera (2:3 frame).

    Parameters
    ----------
    elevation_deg : float
        The camera's elevation [deg].
    focal_mm, sensor_width_mm : float
        Focal length and sensor [mm].
    """
    if elevation_deg >= _LEAST_ELEVATION:
        return elevation_deg
    return max(_LEAST_ELEVATION, math.degrees(math.atan(sensor_width_mm / 3 / 2 / focal_mm)))


def travel(sky: CloudLayer, seconds: float) -> tuple[float, float]:
    """Return how far the patch moves over the frame in ``seconds``: right and up, as shares of the frame's width.

    Infinite once it has passed overhead.

    Parameters
    ----------
    sky : CloudLayer
        Cloud base, drift and where the camera looks.
    seconds : float
        Exposure [s].
    """
    elevation = math.radians(sky.elevation_deg)
    way = sky.wind_m_s * seconds
    x, y = way * math.sin(sky.psi), sky.height_m / math.tan(elevation) + way * math.cos(sky.psi)
    ahead = y * math.cos(elevation) + sky.height_m * math.sin(elevation)
    if ahead <= 0:
        return math.inf, math.inf
    up = sky.height_m * math.cos(elevation) - y * math.sin(elevation)
    scale = sky.focal_mm / sky.sensor_width_mm / ahead
    return x * scale, up * scale


def streak_share(sky: CloudLayer, seconds: float) -> float:
    """Return the streak length as a share of the frame's width.

    Parameters
    ----------
    sky : CloudLayer
        Cloud base, drift and where the camera looks.
    seconds : float
        Exposure [s].
    """
    return math.hypot(*travel(sky, seconds))


def seconds_for(sky: CloudLayer, share: float) -> float:
    """Return the time [s] at which the streak reaches ``share``; infinite when it never does within a day.

    Parameters
    ----------
    sky : CloudLayer
        Cloud base, drift and where the camera looks.
    share : float
        Of the frame's width, above 0.
    """
    if streak_share(sky, _LONGEST) < share:
        return math.inf
    low, high = 0.0, _LONGEST
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if streak_share(sky, middle) < share else (low, middle)
    return high


def best_bearing(sky: CloudLayer, seconds: float) -> tuple[float, float]:
    """Return the bearing [deg, of 10-degree steps] that shows most motion, and the streak share there.

    Parameters
    ----------
    sky : CloudLayer
        Cloud base and drift; its own bearing is left aside.
    seconds : float
        Exposure [s].
    """
    shares = {
        float(bearing): streak_share(
            CloudLayer(sky.height_m, sky.wind_m_s, sky.wind_from_deg, sky.elevation_deg, bearing, sky.focal_mm,
                sky.sensor_width_mm), seconds
        )
        for bearing in range(0, 360, 10)
    }  # fmt: skip
    return max(shares.items(), key=lambda share: (share[1], -share[0]))
