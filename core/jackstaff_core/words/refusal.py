"""What the core says when it cannot answer: where, what is wrong, what to give instead."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ..scales.spoken import time_in_words

DIALLED = 0.001
"""Bounds below this [s] are shutter times, and said as a dial says them."""


class Refusal(ValueError):
    """A question that cannot be answered as asked.

    Attributes
    ----------
    field : str
        Dotted path of the offending value in the question, e.g. ``stack.1.label``.
    problem : str
        One sentence naming what is wrong.
    instead : str
        One sentence saying what to give instead.
    """

    def __init__(self, field: str, problem: str, instead: str) -> None:
        super().__init__(f"{field}: {problem} {instead}")
        self.field = field
        self.problem = problem
        self.instead = instead

    def __reduce__(self) -> tuple[type[Refusal], tuple[str, str, str]]:
        """Made anew from its parts where it comes from another process."""
        return type(self), (self.field, self.problem, self.instead)

    @property
    def fault(self) -> dict[str, str]:
        """As JSON has it, wherever it is answered."""
        return {"field": self.field, "problem": self.problem, "instead": self.instead}

    def under(self, parent: str) -> Refusal:
        """Return the same refusal seen from the question that holds ``parent``."""
        return Refusal(f"{parent}.{self.field}" if self.field else parent, self.problem, self.instead)


def within(field: str, value: float, low: float, high: float, unit: str) -> float:
    """Hand back ``value`` when it is finite and between ``low`` and ``high`` inclusive.

    Parameters
    ----------
    value : float
        What was given.
    field : str
        The name the caller knows it by.
    low, high : float
        The bounds, in ``unit`` like the value.
    unit : str
        As a person reads it after a number.

    Raises
    ------
    Refusal
        With both bounds and their unit in the cure.
    """
    if math.isfinite(value) and low <= value <= high:
        return value
    said, bounds = f"{value:g} {unit}", f"{low:g} to {high:g} {unit}"
    if (unit == "s" or unit.startswith("s ")) and 0 < low < DIALLED:
        rest = unit[1:]
        bounds = f"{time_in_words(low)} to {time_in_words(high)}{rest}"
        if low < value < math.inf:
            said = time_in_words(value) + rest
        elif 0 < value < low:
            said = f"Less than {time_in_words(low)}{rest}"
    raise Refusal(
        field,
        f"{said} is outside what can be worked with.".replace("  ", " "),
        f"Give a value from {bounds}.".replace(" .", "."),
    )


class Refusals(ValueError):
    """Several refusals of one question, so that a form can show them all at once."""

    def __init__(self, all_: Sequence[Refusal]) -> None:
        super().__init__("; ".join(str(each) for each in all_))
        self.all = tuple(all_)

    def __reduce__(self) -> tuple[type[Refusals], tuple[tuple[Refusal, ...]]]:
        """Made anew from its parts where it comes from another process."""
        return type(self), (self.all,)

    @property
    def words(self) -> str:
        """The first refusal as a person reads it."""
        return f"{self.all[0].problem} {self.all[0].instead}"

    def under(self, parent: str) -> Refusals:
        """Return the same refusals seen from the question that holds ``parent``."""
        return Refusals([each.under(parent) for each in self.all])
