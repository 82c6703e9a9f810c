"""A trial at the dial's limit, scaled up to the right time, and what it says about the glass.

    right time = trial time * 2^dark            dark: stops the trial came out too dark (- too bright)
    measured minus label of the stack = log2(right time / time by the sum)

    two readings: log2(with / without) ± 2 √(2 w²/12 + 0.05²)          w: the dial's step [stops]

Source: definition of the stop; rounding to a step of width w has the variance w²/12.
Limits: steady light; judged to a third of a stop, so sd 0.2.
Verdict: the time is computed from an estimate by eye.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS, Step
from ..words.refusal import within

JUDGED_SD = 0.2
"""How well an eye judges a frame against its base [stops]."""


@dataclass(frozen=True, slots=True)
class Trial:
    """``seconds`` is the right time; ``offset`` what the whole stack measures beside its label [stops]."""

    seconds: float
    offset: float
    offset_give_or_take: float


def trial(trial_seconds: float, error_stops: float, sum_seconds: float) -> Trial:
    """Scale a trial to the right time.

    Parameters
    ----------
    trial_seconds : float
        How long the trial was open, 1/32000 s to 24 h [s].
    error_stops : float
        How it came out, + brighter than correct, -8 to 8 [stops].
    sum_seconds : float
        The time the sum asked for, 1/32000 s to 24 h [s].

    Raises
    ------
    Refusal
        A time outside 1/32000 s to 24 h, or more than 8 stops of error.
    """
    taken = within("trial_seconds", trial_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    wanted = within("sum_seconds", sum_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    stops = within("error_stops", error_stops, -8, 8, "stops")
    right = within("error_stops", taken * 2.0**-stops, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    return Trial(right, math.log2(right / wanted), 2 * JUDGED_SD)


STEADY_SD = 0.05
"""How far the light of an even wall in shade moves between two readings a minute apart [stops]. Ours."""


def strength_from_readings(without_seconds: float, with_seconds: float) -> float:
    """Return the strength [stops] from two readings at the same aperture and ISO, without and with the glass [s].

    Parameters
    ----------
    without_seconds, with_seconds : float
        Readings of the same light, 1/32000 s to 24 h [s].
    """
    return math.log2(with_seconds / without_seconds)


def strength_doubt(step: Step) -> float:
    """Return how well two readings on a dial of this step know a strength: give or take [stops], 95 %.

    2 √(2 w²/12 + sd²) with w the step's width: each reading is rounded to a mark, evenly anywhere within its step.
    """
    width = 1 / step.per_stop
    return 2 * math.sqrt(2 * width**2 / 12 + STEADY_SD**2)
