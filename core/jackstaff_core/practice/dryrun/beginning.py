"""What a dry run begins with: the scenarios that ship, and one of them opened, with its outing and its pictures.

Source: practice/dryrun/scenario.py. Limits: as there. Verdict: class.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Annotated
from uuid import NAMESPACE_URL, UUID, uuid5

from ...outing.plan import Outing
from ...wire.marks import Size
from .scenario import Scenario, Seed, aim_of
from .shipped import SHIPPED


@dataclass(frozen=True, slots=True)
class ScenariosQuestion:
    """Which dry runs there are: the one of this id, or all."""

    id: Annotated[str, Size(1, 40)] | None = None


@dataclass(frozen=True, slots=True)
class Scenarios:
    """The dry runs that can be begun."""

    scenarios: tuple[Scenario, ...]


def scenarios(question: ScenariosQuestion) -> Scenarios:
    """Return the dry runs that ship."""
    return Scenarios(tuple(each for each in SHIPPED if question.id in (None, each.id)))


@dataclass(frozen=True, slots=True)
class BeginQuestion:
    """A scenario, and another seed where the same outing is to go another way."""

    scenario: Scenario
    seed: Seed | None = None


@dataclass(frozen=True, slots=True)
class ToTake:
    """A picture of the list, and the times [s] that give its looks; None is open."""

    name: str
    wants: str
    from_seconds: float
    to_seconds: float | None


@dataclass(frozen=True, slots=True)
class Begun:
    """The scenario as it will be played, the outing as the screens keep it, and when it ends."""

    scenario: Scenario
    outing: Outing
    pictures: tuple[ToTake, ...]
    leave_at: datetime
    ends_at: datetime


def begin(question: BeginQuestion) -> Begun:
    """Open a dry run.

    Raises
    ------
    Refusal
        A scenario that cannot be played, with its place.
    """
    scenario = question.scenario
    if question.seed is not None:
        scenario = replace(scenario, seed=question.seed)
    return Begun(
        scenario,
        scenario.outing(_outing_key(scenario)),
        tuple(_to_take(scenario)),
        scenario.leave_by(),
        scenario.starts_at + timedelta(minutes=scenario.minutes),
    )


def _outing_key(scenario: Scenario) -> UUID:
    return uuid5(NAMESPACE_URL, f"jackstaff:dry-run:outing:{scenario.id}")


def _to_take(scenario: Scenario) -> list[ToTake]:
    found = []
    for framing in scenario.framings:
        aim = aim_of(scenario, framing)
        wants = " and ".join(f"{want.kind}: {want.look}" for want in framing.wants)
        if aim is not None:
            found.append(ToTake(framing.name, wants, aim.from_seconds, aim.to_seconds))
    return found
