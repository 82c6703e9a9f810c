"""What a form asks of each sort of thing: its facts with their labels, units, bounds, and what they are used for."""

from __future__ import annotations

from dataclasses import dataclass

from ..wire.facts import FactForm, facts_of
from .things import SORTS


@dataclass(frozen=True, slots=True)
class SortForm:
    """A sort of thing with its facts."""

    sort: str
    facts: tuple[FactForm, ...]


def sort_forms() -> tuple[SortForm, ...]:
    """Return every sort of thing with what its form asks."""
    return tuple(SortForm(sort, facts_of(thing)) for sort, thing in SORTS.items())
