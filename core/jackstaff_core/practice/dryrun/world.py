"""What is there while a dry run goes on: the light at each second, what the camera's meter makes of it, real strengths.

    EV(t) = EV at the start + sky(t) + the framing's offset          [stops at ISO 100]
    t_meter = N^2 / (S/100) 2^(D - EV + flicker)                     shown as the dial's nearest mark

D is what is really on the lens. A meter that sees through fewer stops than are on stays dark.

Source: definition of EV; flicker is ours. Limits: as the made-up sky; one average over the picture. Verdict: computed
on made-up light.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import Annotated
from uuid import UUID

from ...camera.reading import Given, aperture, iso
from ...gear.kitfile import Item
from ...gear.things import Glass, strength
from ...moving_light.integral import Path
from ...scales.ladders import on_dial
from ...sky.made_up import STEP_SECONDS, MadeUpSky, SkyKind, made_up_sky
from ...wire.marks import Between, Size
from .scenario import MOST_FILTERS, Framing, Scenario, hidden_stops

SHORTEST_SHOWN_S = 1 / 8000
MOST_KNOTS = 240
"""Of the light along one frame."""


@dataclass(frozen=True, slots=True)
class FilterOn:
    """A filter that is on, and what it is reckoned as [stops].

    That is its label with what was measured, or what its ring is turned to.
    """

    id: UUID
    stops: Annotated[float, Between(0, 30, "stops")]


Stack = Annotated[tuple[FilterOn, ...], Size(0, MOST_FILTERS)]


@lru_cache(maxsize=8)
def _sky(kind: SkyKind, seed: int) -> MadeUpSky:
    return made_up_sky(kind, seed)


def scene_light(scenario: Scenario, framing: Framing, second: float) -> float:
    """Return the light on a picture at a second of the outing [EV at ISO 100].

    Parameters
    ----------
    scenario : Scenario
        The dry run.
    framing : Framing
        The picture that is framed.
    second : float
        From the outing's beginning [s].
    """
    return scenario.ev100 + framing.offset_stops + _sky(scenario.sky, scenario.seed).at(second)


def light_path_from(scenario: Scenario, framing: Framing, second: float, seconds: float) -> Path:
    """Return the light from an opening on, against that of the opening.

    Parameters
    ----------
    scenario : Scenario
        The dry run.
    framing : Framing
        The picture that is framed.
    second : float
        Of the opening, from the outing's beginning [s].
    seconds : float
        How far it is followed [s].
    """
    start = scene_light(scenario, framing, second)
    # A long frame averages what a short one would see, and the work stays the same.
    every = max(float(STEP_SECONDS), seconds / MOST_KNOTS)
    # The sky bends at its own steps: from the first of them on.
    first = STEP_SECONDS - second % STEP_SECONDS
    after = [first + every * step for step in range(math.ceil(seconds / every) + 2)]
    points = [(at, scene_light(scenario, framing, second + at) - start) for at in (0.0, *after)]
    return Path.through(points, 0.0)


def true_stops(scenario: Scenario, on: FilterOn) -> float:
    """Return what a filter really takes [stops]: what it says of itself and what nobody knows of it."""
    item = scenario.filter(on.id)
    return labelled_stops(item, on) + hidden_stops(scenario, item).stops


def labelled_stops(item: Item, on: FilterOn) -> float:
    """Return what it says of itself [stops]: its label, or what its ring is turned to."""
    glass: Glass = item.thing
    return on.stops if glass.kind == "variable" else strength(glass).stops


@dataclass(frozen=True, slots=True)
class ReadMeterQuestion:
    """The simulated camera's meter is looked at: at which picture, when, at which settings and through what."""

    scenario: Scenario
    framing: Annotated[int, Between(0, 3)]
    at: datetime
    aperture: Given
    iso: Given
    through: Stack = ()


@dataclass(frozen=True, slots=True)
class Metered:
    """``shutter`` is the mark that shows, None where the meter cannot say; ``ev100`` what a hand meter shows."""

    shutter: str | None
    ev100: float
    text: str
    simulated: bool = True


def meter(question: ReadMeterQuestion) -> Metered:
    """Read the meter.

    Raises
    ------
    Refusal
        A filter or picture that is not there, or marks that are none.
    """
    scenario = question.scenario
    framing, second = scenario.framing(question.framing), scenario.second(question.at)
    f_number = aperture("aperture", question.aperture, scenario.step).exact
    speed = iso("iso", question.iso, scenario.step).exact
    dice = random.Random(f"{scenario.seed} {question.framing} {round(second)}")  # noqa: S311
    shown = scene_light(scenario, framing, second) + dice.gauss(0, scenario.flicker_stops)
    on = sum(true_stops(scenario, each) for each in question.through)
    hand = round(shown, 1)
    if on > scenario.body.sees_through_stops:
        return Metered(None, hand, "The finder stays dark and the meter blinks: take the dense filter off to meter.")
    seconds = f_number**2 / (speed / 100) * math.exp2(min(on - shown, 60))
    mark = on_dial(max(seconds, SHORTEST_SHOWN_S), scenario.body.dial_limit_s, scenario.step)
    if mark is None:
        return Metered(
            None, hand, "The meter blinks: longer than the dial goes. Open up or raise the ISO to meter, then go back."
        )
    return Metered(mark.label, hand, "By the simulated camera's meter.")
