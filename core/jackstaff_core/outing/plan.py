"""An outing as it is kept: a place, a day, and what is known of its light, water and weather."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Literal
from unicodedata import category
from uuid import UUID
from zoneinfo import available_timezones

from ..sky.cover import MOST_CHANGES, Sky
from ..sky.forecast import OwnReadings, Scene
from ..sky.ridge import Ridge
from ..wire.marks import Between, Checked, Matches, Size
from ..words.refusal import Refusal
from .hazards import BY_CODE
from .tide import MOST_CROSSINGS, Crossing, WaterKind

Clock = Annotated[str, Matches(r"([01]\d|2[0-3]):[0-5]\d", "Give hours and minutes, like 05:40.")]
Latitude = Annotated[float, Between(-90, 90, "degrees")]
Longitude = Annotated[float, Between(-180, 180, "degrees")]
Height = Annotated[float, Between(-5, 25, "m")]
Minutes = Annotated[float, Between(0, 600, "minutes")]
Source = Literal["own", "simulated"]
NO_PLACE_S_ZONE = {"localtime", "posixrules", "Factory"}
"""Files beside the zones that no browser knows as one."""
ZONES = frozenset(available_timezones() - NO_PLACE_S_ZONE)
"""Every IANA zone by name."""


def check_one_line(name: str) -> None:
    """Nothing for a line without control characters.

    Raises
    ------
    Refusal
        It has some.
    """
    if any(category(letter) == "Cc" for letter in name):
        raise Refusal("", "A name is one line without control characters.", "Leave line ends and tabs out.")


def check_zone(name: str) -> None:
    """Nothing for an IANA zone.

    Raises
    ------
    Refusal
        It is none.
    """
    if name not in ZONES:
        raise Refusal("", f"{name} is no time zone.", "Give an IANA zone such as Europe/Oslo.")


def check_hazards(codes: tuple[str, ...]) -> None:
    """Check that every hazard is known.

    Raises
    ------
    Refusal
        One is not.
    """
    for place, code in enumerate(codes):
        if code not in BY_CODE:
            raise Refusal(f"{place}", "No such hazard is known.", f"Take one of {', '.join(BY_CODE)}.")


Zone = Annotated[str, Size(1, 60), Checked(check_zone)]


@dataclass(frozen=True, slots=True)
class OwnWater:
    """A high or low water by the place's clock, within half a day of the outing.

    ``kind`` is None where its neighbours tell it.
    """

    time: Clock
    height_m: Height
    source: Source = "own"
    kind: WaterKind | None = None


@dataclass(frozen=True, slots=True)
class OwnSky:
    """From a clock time of the place on the sky is expected to be another one."""

    time: Clock
    sky: Sky


@dataclass(frozen=True, slots=True)
class OwnWeather:
    """The weather somebody expects; None where they said nothing."""

    celsius: Annotated[float, Between(-40, 50, "degrees")] | None = None
    wind_m_s: Annotated[float, Between(0, 60, "m/s")] | None = None
    wind_from_deg: Annotated[float, Between(0, 360, "degrees")] | None = None
    cloud_m: Annotated[float, Between(0, 20_000, "m")] | None = None
    swell_m: Annotated[float, Between(0, 20, "m")] | None = None
    source: Source = "own"


@dataclass(frozen=True, slots=True)
class Outing:
    """An outing as the client keeps it; clock times are the place's own."""

    id: UUID
    name: Annotated[str, Size(0, 60), Checked(check_one_line)]
    latitude: Latitude
    longitude: Longitude
    zone: Zone
    date: date
    arrive: Clock
    turn_back: Clock
    sky: Sky
    scene: Scene
    ridge: Ridge | None
    readings: OwnReadings
    waters: Annotated[tuple[OwnWater, ...], Size(0, 8)]
    floods_at_m: Height | None
    walk_minutes: Minutes
    margin_minutes: Minutes
    weather: OwnWeather
    hazards: Annotated[tuple[str, ...], Size(0, 30), Checked(check_hazards)]
    packed: Annotated[tuple[str, ...], Size(0, 100)]
    archived: bool
    changed_at: datetime
    skies: Annotated[tuple[OwnSky, ...], Size(0, MOST_CHANGES)] = ()
    crossings: Annotated[tuple[Crossing, ...], Size(0, MOST_CROSSINGS)] = ()
    """Floods of the way back that were watched here; they belong to the place and go along to its next outing."""
