"""How fast the light moves, from readings of one scene metered again: no place and no plan.

With EV(t) = a + (r + b) t, r a forecast's rate or 0, the filter of moving_light/anchoring.py follows [a, b] from a ~
N(0, 1) and b ~ N(0, s^2), s the forecast's sd or 0.15 stop/min. The rate wanders by 0.02 stop/min a root minute
(twilight goes from level to 0.2 stop/min in an hour), so that an old rate is known worse, and after 40 min it is not
counted.

Source: Kalman; the wandering from the sun's own curve in sky/daylight.py. Limits: one scene, one set of filters, 24
readings, 0.15 stop a reading. A reading further than 3 sd from the others is asked about before it is used.
Verdict: estimate, with its sd (95 % inside 2 sd, by Monte-Carlo).
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from ..words.advice import Advice, Severity
from ..words.refusal import Refusal
from .anchoring import LEVEL_SD, READING_SD, Status, anchor_readings

RATE_SD = 0.15
"""How fast light may be expected to move before anything is known [stop/min]: twilight's steepest is 0.4."""
WANDER = 0.02
"""How the rate itself walks [stop/min/sqrt(min)]."""
TOO_OLD_MINUTES = 40.0
MOST_READINGS = 24


@dataclass(frozen=True, slots=True)
class KnownRate:
    """A rate that a forecast says [stops/min], with its sd."""

    stops_per_minute: float
    rate_sd: float


@dataclass(frozen=True, slots=True)
class Rate:
    """How the light moves [stops/min] with the sd of that, from ``used`` of the readings.

    ``counts`` is whether it may go into a sum: two readings that agree, or a forecast, and none of them too old.
    """

    stops_per_minute: float
    rate_sd: float
    used: int
    minutes: float
    """From the first reading to the last."""
    counts: bool
    advice: Advice | None


def light_rate(readings: Sequence[tuple[datetime, float]], at: datetime, forecast: KnownRate | None = None) -> Rate:
    """Return the rate at an instant from readings (instant, EV at ISO 100) of one scene, in order of time.

    Parameters
    ----------
    readings : Sequence[tuple[datetime, float]]
        (instant, EV at ISO 100), each later than the one before.
    at : datetime
        The instant asked about, not before the last reading.
    forecast : KnownRate | None
        The rate that is expected, and how well that is known; None for light nobody foretells.

    Raises
    ------
    Refusal
        The readings do not follow each other, or lie after ``at``.
    """
    instants = [instant for instant, _ in readings]
    if any(later <= earlier for earlier, later in itertools.pairwise(instants)):
        raise Refusal("readings", "The readings do not follow each other.", "Give them in order of time, each once.")
    if instants[-1] > at:
        raise Refusal("at", "A reading lies after the time that is asked about.", "Give a time after the last reading.")
    start, first = readings[0]
    known = forecast or KnownRate(0.0, RATE_SD)
    minutes = [(instant - start).total_seconds() / 60 for instant in instants]
    offsets = [
        (minute, ev - first - known.stops_per_minute * minute)
        for minute, (_, ev) in zip(minutes, readings, strict=True)
    ]
    found = anchor_readings(offsets, rate_sd=known.rate_sd, wander=WANDER)
    age = (at - instants[-1]).total_seconds() / 60
    # A jump brings in the one that was held before it.
    used = sum({Status.OK: 1, Status.JUMP: 2, Status.HELD: 0}[status] for status in found.status)
    state = found.states[-1].at((at - start).total_seconds() / 60, wander=WANDER)
    counts = age <= TOO_OLD_MINUTES and (used > 1 or forecast is not None)
    last_off = readings[-1][1] - readings[-2][1] if len(readings) > 1 else 0.0
    return Rate(
        known.stops_per_minute + state.b,
        math.sqrt(state.p11),
        used,
        minutes[-1],
        counts,
        _advice(found.status[-1], last_off, minutes[-1] - minutes[-2] if len(minutes) > 1 else 0.0, age),
    )


def _advice(last: Status, stops: float, minutes: float, age: float) -> Advice | None:
    if age > TOO_OLD_MINUTES:
        return Advice(
            "readings_old",
            Severity.NOTE,
            f"The last reading is {age:.0f} min old: how the light moves now is not known from it. Meter again.",
            {"minutes": age},
        )
    if last is Status.HELD:
        return Advice(
            "reading_off",
            Severity.CAUTION,
            f"That is {abs(stops):.1f} stops {'brighter' if stops > 0 else 'darker'} than {max(1.0, minutes):.0f} min"
            " before. Is it the same scene with the same filters on? Meter once more; until then this reading does not"
            " count for how the light moves.",
            {"stops": stops, "minutes": minutes},
        )
    return None


def likely_rate(known: Sequence[tuple[float, float]]) -> float:
    """Return rate [stop/s] that points (seconds, stops) make likely: ridge regression, a reading known to 0.15 stop.

    Source: the batch estimator that moving_light/anchoring.py's filter equals. Verdict: estimate.
    """
    last, weight = known[-1][0], 1 / READING_SD**2
    minutes = [(second - last) / 60 for second, _ in known]
    a = 1 / LEVEL_SD**2 + weight * len(known)
    b = weight * math.fsum(minutes)
    d = 1 / RATE_SD**2 + weight * math.fsum(minute * minute for minute in minutes)
    u = weight * math.fsum(stops for _, stops in known)
    v = weight * math.fsum(minute * stops for minute, (_, stops) in zip(minutes, known, strict=True))
    return (a * v - b * u) / (a * d - b * b) / 60
