"""What a body's dials offer, and how finely people count past them: the marks as one answer.

Source: the ladders of scales/ladders.py, the grains of scales/spoken.py. Limits: theirs. Verdict: computed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from ..scales.ladders import LONGEST_DIAL, SHORTEST_DIAL, Scale, Step, aperture_marks, dial_marks, iso_marks
from ..scales.spoken import GRAINS
from ..wire.marks import Between
from .readout import DIAL_LIMIT


@dataclass(frozen=True, slots=True)
class DialMark:
    """A mark and its exact value [s, f-number or ISO]."""

    label: str
    exact: float


@dataclass(frozen=True, slots=True)
class Grain:
    """Up to ``below_seconds`` (None: on), people count in multiples of ``grain_seconds``."""

    below_seconds: float | None
    grain_seconds: float


@dataclass(frozen=True, slots=True)
class ScalesQuestion:
    """Which dials: the step they move in, and the longest time on the shutter dial [s]."""

    step: Step = Step.THIRD
    dial_limit: Annotated[float, Between(SHORTEST_DIAL, LONGEST_DIAL, "s")] = DIAL_LIMIT


@dataclass(frozen=True, slots=True)
class Scales:
    """The marks in rising order, and the grains people count in past the dial."""

    shutter: tuple[DialMark, ...]
    aperture: tuple[DialMark, ...]
    iso: tuple[DialMark, ...]
    counted: tuple[Grain, ...]


def scales_of(question: ScalesQuestion) -> Scales:
    """Return the marks of a body whose dials move in ``step`` and whose longest time is ``dial_limit`` [s]."""
    return Scales(
        _marks(dial_marks(question.dial_limit, question.step)),
        _marks(aperture_marks(question.step)),
        _marks(iso_marks(question.step)),
        tuple(Grain(limit if math.isfinite(limit) else None, grain) for limit, grain in GRAINS),
    )


def _marks(scale: Scale) -> tuple[DialMark, ...]:
    return tuple(DialMark(mark.label, mark.exact) for mark in scale.marks)
