"""Graduated glass: which one, and what it does to an averaged reading.

With the sky e stops brighter than the ground over a share a of the averaged area, a graduated glass of g stops
on the sky lowers the average by -log2((a 2^(e-g) + 1 - a)/(a 2^e + 1 - a)); re-nulling brightens the ground by exactly
that. A glass of g = e - 1 keeps the sky one stop brighter.

Source: elementary averaging. Limits: an even sky over even ground, an average meter, 0 to 15 stops apart. Verdict:
estimate (the line is never where the average's weights are).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from .marks import Between, Size
from .reading import Given, shutter
from .refusal import Refusal, within
from .scales import Step

SKY_LEAD_STOPS = 1.0


def average_falls(sky_share: float, sky_stops: float, glass_stops: float) -> float:
    """Stops by which the averaged reading falls."""
    bare = sky_share * 2.0**sky_stops + 1 - sky_share
    held = sky_share * 2.0 ** (sky_stops - glass_stops) + 1 - sky_share
    return -math.log2(held / bare)


def wanted_stops(sky_stops: float) -> float:
    """Strength that leaves the sky one stop brighter than the ground, never negative."""
    return max(0.0, sky_stops - SKY_LEAD_STOPS)


class Horizon(StrEnum):
    """What the line between sky and ground looks like."""

    FLAT = "flat"
    UNEVEN = "uneven"
    SUN_ON_IT = "sun_on_it"


_TRANSITIONS = {
    Horizon.FLAT: ("hard", "medium", "soft"),
    Horizon.UNEVEN: ("soft", "medium"),
    Horizon.SUN_ON_IT: ("reverse", "hard", "medium", "soft"),
}
"""Transitions that suit a horizon, the best first."""


@dataclass(frozen=True, slots=True)
class Owned:
    """A graduated glass of the kit: its strength on the sky [stops] and its transition."""

    id: Annotated[str, Size(1, 120)]
    stops: Annotated[float, Between(0, 10, "stops")]
    transition: Annotated[str, Size(1, 120)]


@dataclass(frozen=True, slots=True)
class GraduatedQuestion:
    """Two readings at one aperture and ISO, of the sky and of the ground; ``sky_share`` of the averaged area."""

    sky: Given
    ground: Given
    sky_share: float = 0.5
    horizon: Horizon = Horizon.FLAT
    owned: Annotated[tuple[Owned, ...], Size(0, 24)] = ()
    step: Step = Step.THIRD


@dataclass(frozen=True, slots=True)
class Graduation:
    """``wanted_stops`` keeps the sky a stop brighter; ``pick`` the nearest owned that suits the horizon.

    ``average_falls`` is what an averaged reading loses with the pick (or with the wanted strength), ``sky_lead`` what
    is left between sky and ground, ``foreground_gains`` what re-nulling would brighten the ground by.
    """

    sky_stops: float
    wanted_stops: float
    pick: str | None
    pick_stops: float
    transition: str
    sky_lead: float
    average_falls: float
    foreground_gains: float


def choose(question: GraduatedQuestion) -> Graduation:
    """Which graduated glass, and what it does to the average.

    Raises
    ------
    Refusal
        Readings that cannot be read, or a share that is none.
    """
    sky = shutter("sky", question.sky, question.step).exact
    ground = shutter("ground", question.ground, question.step).exact
    share = within("sky_share", question.sky_share, 0.01, 0.99, "of the area")
    lead = math.log2(ground / sky)
    if lead < 0:
        raise Refusal(
            "sky", "The sky reads darker than the ground.", "No graduated filter is needed; check both readings."
        )
    wanted = wanted_stops(lead)
    suits = _TRANSITIONS[question.horizon]
    fitting = [each for each in question.owned if each.transition in suits]
    near = sorted(fitting, key=lambda each: (round(abs(each.stops - wanted), 9), suits.index(each.transition), each.id))
    pick = near[0] if near and wanted > 0.5 else None
    stops = pick.stops if pick else wanted
    falls = average_falls(share, lead, stops)
    return Graduation(
        sky_stops=lead,
        wanted_stops=wanted,
        pick=pick.id if pick else None,
        pick_stops=stops,
        transition=pick.transition if pick else suits[0],
        sky_lead=lead - stops,
        average_falls=falls,
        foreground_gains=falls,
    )
