"""Wait instead of glass: when the light will be what is wanted.

The first instant from now on at which the forecast's EV crosses the wanted one, with the minutes either side that its
plus-or-minus (2 sd) spans. Source: sky/forecast.py. Verdict: that of the forecast. Limits: the forecast's; at most a
day ahead.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from ..words.refusal import Refusal, within
from .forecast import Forecast, LightPoint, LightQuestion, forecast

LONGEST_STEP = 120.0
"""Light is looked at no more seldom than this [s]: between longer steps it may come and go unseen."""


@dataclass(frozen=True, slots=True)
class Wait:
    """``stops_to_go`` is + when it must get brighter; ``at`` None when it does not happen before the end."""

    stops_to_go: float
    at: datetime | None
    give_or_take_minutes: float | None


def wait(question: LightQuestion, wanted_ev100: float) -> Wait:
    """Return when the light at the place reaches ``wanted_ev100``, from the question's start on.

    Parameters
    ----------
    question : LightQuestion
        Place, weather and readings.
    wanted_ev100 : float
        Light that is waited for [EV at ISO 100], -20 to 25.

    Raises
    ------
    Refusal
        As the forecast; a period of more than a day; an EV out of bounds.
    """
    within("wanted_ev100", wanted_ev100, -20, 25, "EV")
    if question.end - question.start > timedelta(days=1):
        raise Refusal("to", "Nobody waits longer than a day.", "Give an end within 24 hours.")
    found: Forecast = forecast(replace(question, step_seconds=min(question.step_seconds, LONGEST_STEP)))
    first = found.points[0]
    to_go = wanted_ev100 - first.ev100
    rising = to_go > 0
    for before, after in zip(found.points, found.points[1:], strict=False):
        if (after.ev100 >= wanted_ev100) if rising else (after.ev100 <= wanted_ev100):
            return Wait(to_go, _crossing(before, after, wanted_ev100), _spread(after))
    return Wait(to_go, None, None)


def _crossing(before: LightPoint, after: LightPoint, wanted: float) -> datetime:
    moved = after.ev100 - before.ev100
    share = (wanted - before.ev100) / moved if moved else 1.0
    return before.at + (after.at - before.at) * min(max(share, 0.0), 1.0)


def _spread(point: LightPoint) -> float | None:
    """Return the minutes that two sd of level are worth at this rate; None when the light hardly moves."""
    rate = abs(point.stops_per_minute)
    return 2 * point.sd_stops / rate if rate > 1e-3 else None
