"""The filters on the lens at the metering and for the shot, and the stops that lie between the two.

    added = sum of what is on for the shot - sum of what was on at the metering           [stops]

A filter that was on then and is on now at the same strength cancels exactly, and so does its doubt. One that was turned
counts with the difference. A graduated filter adds nothing to the metered part, in either.

Two filters are the same when they have the same id; without ids on both sides, when label and strength are equal.

Source: definition of the stop. Limits: 8 filters each time; 30 stops of what adds. Verdict: computed, with the doubt of
each filter that is not on both times.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from ..scales.uncertainty import UNMEASURED_GLASS_SD
from ..wire.marks import Between, Size
from ..words.refusal import Refusal, within
from .kind import GlassKind
from .labels import MOST_STOPS, certain_strength

MOST_GLASSES = 8
_SAME_STOPS = 1e-9


@dataclass(frozen=True, slots=True)
class GlassGiven:
    """One filter on the lens.

    stops or label : its strength, as a number or as a label that has one meaning.
    stops_max : the dense end of a variable filter that nobody has turned yet [stops]; ``stops`` is its weak end.
    offset : measured minus labelled [stops], None when never measured.
    offset_sd : sd of that measurement [stops].
    in_reading : it was on the lens at metering as well; short for naming it in ``reading.through`` too.
    id : which filter it is, so that it is known again.
    name : what its owner calls it, in the steps of the sum.
    kind : a graduated filter adds nothing to the metered part.
    """

    stops: Annotated[float, Between(0, MOST_STOPS, "stops")] | None = None
    label: Annotated[str, Size(1, 120)] | None = None
    offset: float | None = None
    offset_sd: float | None = None
    in_reading: bool = False
    id: Annotated[str, Size(1, 120)] | None = None
    kind: GlassKind | None = None
    stops_max: Annotated[float, Between(0, MOST_STOPS, "stops")] | None = None
    name: Annotated[str, Size(1, 120)] | None = None


@dataclass(frozen=True, slots=True)
class OnLens:
    """A filter as the sum counts it: its label's stops, what it measures beside them, and how well that is known.

    ``called`` is its label, or its strength in words; ``name`` what its owner calls it.
    """

    name: str
    called: str
    stops: float
    offset: float
    sd: float
    in_reading: bool
    id: str | None = None
    open_stops: float = 0.0
    """How much further it may yet be turned [stops]."""

    @property
    def total(self) -> float:
        """What it takes of the light [stops]."""
        return self.stops + self.offset

    def is_the_same_as(self, other: OnLens) -> bool:
        """Return whether it is one filter seen twice."""
        if self.id is not None and other.id is not None:
            return self.id == other.id
        return self.called == other.called and self.equals(other)

    def equals(self, other: OnLens) -> bool:
        """Return whether it takes as much light."""
        return abs(self.stops - other.stops) < _SAME_STOPS and abs(self.offset - other.offset) < _SAME_STOPS


class ChangeKind(StrEnum):
    """What became of a filter between the metering and the shot."""

    STAYED = "in_reading"
    OFF = "off"
    TURNED = "turned"
    ON = "glass"


@dataclass(frozen=True, slots=True)
class LensChange:
    """One filter between the metering and the shot; ``stops`` and ``offset`` are what it adds to the time [stops].

    ``on`` and ``through`` are its places in the two lists, None where it is not in one.
    """

    kind: ChangeKind
    name: str
    stops: float
    offset: float
    sd: float
    on: int | None
    through: int | None
    open_stops: float = 0.0


def lens_changes(stack: Sequence[OnLens], through: Sequence[OnLens]) -> tuple[LensChange, ...]:
    """Return what became of every filter: what went off, then what is on, in its order.

    Parameters
    ----------
    stack : Sequence[OnLens]
        What is on for the shot, from the lens outwards.
    through : Sequence[OnLens]
        What was on at the metering.

    Raises
    ------
    Refusal
        More than 30 stops are added.
    """
    left = dict(enumerate(through))
    on = []
    for place, glass in enumerate(stack):
        if glass.in_reading:
            on.append(LensChange(ChangeKind.STAYED, glass.name, 0.0, 0.0, 0.0, place, None))
            continue
        then = next((at for at, other in left.items() if glass.is_the_same_as(other)), None)
        if then is None:
            on.append(
                LensChange(
                    ChangeKind.ON, glass.name, glass.stops, glass.offset, glass.sd, place, None, glass.open_stops
                )
            )
            continue
        before = left.pop(then)
        if glass.equals(before) and not glass.open_stops:
            on.append(LensChange(ChangeKind.STAYED, glass.name, 0.0, 0.0, 0.0, place, then))
            continue
        sd = math.hypot(glass.sd, before.sd)
        by = glass.total - before.total
        on.append(LensChange(ChangeKind.TURNED, glass.name, by, 0.0, sd, place, then, glass.open_stops))
    off = [
        LensChange(ChangeKind.OFF, glass.name, -glass.total, 0.0, glass.sd, None, place)
        for place, glass in left.items()
    ]
    found = (*off, *on)
    added = sum(change.stops + change.offset for change in found)
    if added > MOST_STOPS:
        raise Refusal(
            "stack", f"{added:.3g} stops are past {MOST_STOPS:g}.", "Take a filter off until they add 30 or less."
        )
    return found


def filters_of(field: str, given: Sequence[GlassGiven]) -> tuple[OnLens, ...]:
    """Return the filters of a list as the sum counts them.

    Parameters
    ----------
    field : str
        The name the caller knows the list by.
    given : Sequence[GlassGiven]
        From the lens outwards.

    Raises
    ------
    Refusal
        More than 8, one without a strength or with two, or one that would add light.
    """
    if len(given) > MOST_GLASSES:
        raise Refusal(field, f"{len(given)} filters are more than fit.", f"Give at most {MOST_GLASSES}.")
    return tuple(_filter(f"{field}.{place}", glass) for place, glass in enumerate(given))


def _filter(place: str, given: GlassGiven) -> OnLens:
    if given.label is not None and given.stops is not None:
        raise Refusal(f"{place}.label", "A filter has its stops or its label, not both.", "Leave one of them out.")
    if given.label is not None:
        strength = certain_strength(f"{place}.label", given.label)
        called, stops = given.label.strip(), strength.stops
    elif given.stops is not None:
        stops = within(f"{place}.stops", given.stops, 0, MOST_STOPS, "stops")
        called = f"{stops:.3g} stops"
    else:
        raise Refusal(place, "This filter has no strength.", "Give its stops, or its label.")
    name = given.name or called
    if given.kind is GlassKind.GRADUATED:
        return OnLens(name, called, 0.0, 0.0, 0.0, given.in_reading, given.id)
    sd = UNMEASURED_GLASS_SD
    offset = 0.0
    if given.offset is not None:
        offset = within(f"{place}.offset", given.offset, -10, 10, "stops")
        if given.offset_sd is not None:
            sd = within(f"{place}.offset_sd", given.offset_sd, 0, 5, "stops")
    if stops + offset < 0:
        raise Refusal(f"{place}.offset", "This filter would add light.", "Check the sign: + is denser than labelled.")
    open_stops = 0.0
    if given.stops_max is not None:
        dense = within(f"{place}.stops_max", given.stops_max, 0, MOST_STOPS, "stops")
        if dense < stops:
            raise Refusal(f"{place}.stops_max", "This filter ends before it begins.", "Give the weaker end as stops.")
        open_stops = dense - stops
    return OnLens(name, called, stops, offset, sd, given.in_reading, given.id, open_stops)
