"""Graduated glass: which one, and what it does to an averaged reading.

With the sky e stops brighter than the ground over a share a of the averaged area, a graduated glass of g stops
on the sky lowers the average by -log2((a 2^(e-g) + 1 - a)/(a 2^e + 1 - a)); re-nulling brightens the ground by exactly
that. A glass of g = e - lead keeps the sky ``lead`` stops brighter: one, unless somebody wants it otherwise. Picked is
the strength nearest to that, no glass at all being one of them; never one that leaves the sky darker than was wanted
and darker than the ground.

Source: elementary averaging. Limits: an even sky over even ground, an average meter, 0 to 15 stops apart. Verdict:
estimate (the line is never where the average's weights are).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from ..camera.reading import Given, shutter
from ..scales.ladders import Step
from ..wire.marks import Between, Size
from ..words.refusal import Refusal, within

SKY_LEAD_STOPS = 1.0
_AS_GOOD = 0.05
"""Two strengths nearer than this are alike [stops]."""


def average_falls(sky_share: float, sky_stops: float, glass_stops: float) -> float:
    """Return the stops by which the averaged reading falls.

    Parameters
    ----------
    sky_share : float
        Of the metered field, 0 to 1.
    sky_stops : float
        How much brighter than the ground [stops].
    glass_stops : float
        Strength over the sky [stops].
    """
    bare = sky_share * 2.0**sky_stops + 1 - sky_share
    held = sky_share * 2.0 ** (sky_stops - glass_stops) + 1 - sky_share
    return -math.log2(held / bare)


def wanted_stops(sky_stops: float, lead_stops: float = SKY_LEAD_STOPS) -> float:
    """Return the strength that leaves the sky ``lead_stops`` brighter than the ground, never negative.

    Parameters
    ----------
    sky_stops : float
        How much brighter than the ground [stops].
    lead_stops : float
        How much of that is to stay [stops].
    """
    return max(0.0, sky_stops - lead_stops)


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
    """Two readings at one aperture and ISO, of the sky and of the ground; ``sky_share`` of the averaged area.

    ``lead_stops`` is how much brighter than the ground the sky is to stay; below 0 a dark sky is wanted.
    """

    sky: Given
    ground: Given
    sky_share: float = 0.5
    horizon: Horizon = Horizon.FLAT
    owned: Annotated[tuple[Owned, ...], Size(0, 24)] = ()
    step: Step = Step.THIRD
    lead_stops: Annotated[float, Between(-3, 4, "stops")] = SKY_LEAD_STOPS


@dataclass(frozen=True, slots=True)
class Graduation:
    """``wanted_stops`` keeps the sky as much brighter as is wanted; ``pick`` the nearest owned that suits the horizon.

    No pick beside ``suits`` true says that none is better than any owned; beside false, that none owned suits the
    horizon. ``average_falls`` is what an averaged reading loses with the pick (or with the wanted strength where none
    suits), ``sky_lead`` what is left between sky and ground, ``foreground_gains`` what re-nulling brightens the ground
    by.
    """

    sky_stops: float
    wanted_stops: float
    pick: str | None
    suits: bool
    pick_stops: float
    transition: str
    sky_lead: float
    average_falls: float
    foreground_gains: float


def choose_graduated(question: GraduatedQuestion) -> Graduation:
    """Return which graduated glass, and what it does to the average.

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
    keep = within("lead_stops", question.lead_stops, -3, 4, "stops")
    wanted = wanted_stops(lead, keep)
    suits = _TRANSITIONS[question.horizon]
    fitting = [each for each in question.owned if each.transition in suits]
    # What is left must not be darker than the ground, nor, where a dark sky is wanted, darker than that.
    least = min(0.0, keep) - _AS_GOOD
    enough = [each for each in fitting if lead - each.stops >= least]
    near = sorted(enough, key=lambda each: (round(abs(each.stops - wanted), 9), suits.index(each.transition), each.id))
    # None at all is as far from the wanted strength as that is strong, and wins where it is no farther.
    pick = near[0] if near and abs(near[0].stops - wanted) < wanted - _AS_GOOD else None
    stops = pick.stops if pick else 0.0 if fitting else wanted
    falls = average_falls(share, lead, stops)
    return Graduation(
        sky_stops=lead,
        wanted_stops=wanted,
        pick=pick.id if pick else None,
        suits=bool(fitting),
        pick_stops=stops,
        transition=pick.transition if pick else suits[0],
        sky_lead=lead - stops,
        average_falls=falls,
        foreground_gains=falls,
    )
