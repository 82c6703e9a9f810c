"""What closing late or early does to a frame.

    error = log2(actual / planned) in steady light                                      + = brighter than planned
    error = log2(light filled by actual / light filled by planned) where it moves, and on film: moving_light/integral.py

One second is a third of a stop at 4 s and nothing at 4 min; +-1/3 stop is 0.26 T late but only 0.21 T early. Closing a
falling light early costs less than the clock says: the last third of the time held little.

Source: definition of the stop. Limits: planned times above zero. Verdict: computed, on the light as it is known.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..camera.reciprocity import ReciprocityLaw
from ..moving_light.integral import Path, filled_metered_seconds
from ..scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from ..scales.spoken import tenths_in_words, time_in_words
from ..words.refusal import within

STEADY = Path.steady(0.0, 0.0)
NOTICEABLE_STOPS = 0.05
THIRD = 1 / 3


@dataclass(frozen=True, slots=True)
class TimingError:
    """How an actual time compares with the planned one; ``late_seconds`` is + when late."""

    stops: float
    late_seconds: float
    verdict: str
    text: str


def timing_error(
    planned_seconds: float, actual_seconds: float, path: Path = STEADY, law: ReciprocityLaw | None = None
) -> TimingError:
    """Compare two exposure times [s]; the verdict is ``on_time``, ``slight`` or ``off``.

    Parameters
    ----------
    planned_seconds, actual_seconds : float
        1/32000 s to 24 h [s].
    path : Path
        The light against the metering's, by second from the opening.
    law : ReciprocityLaw | None
        Of the film, None for a sensor.

    Raises
    ------
    Refusal
        Either time outside 1/32000 s to 24 h.
    """
    planned = within("planned_seconds", planned_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    actual = within("actual_seconds", actual_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    stops = math.log2(filled_metered_seconds(path, law, actual) / filled_metered_seconds(path, law, planned))
    late = actual - planned
    if abs(stops) < NOTICEABLE_STOPS:
        return TimingError(stops, late, "on_time", "Closed on time.")
    way, tone = ("late", "brighter") if stops > 0 else ("early", "darker")
    verdict = "slight" if abs(stops) < THIRD else "off"
    return TimingError(stops, late, verdict, f"Closed {time_in_words(abs(late))} {way}: {_said(abs(stops))} {tone}.")


def _said(stops: float) -> str:
    """Hundredths only within a stop: where a press of 0.2 s is the most of it, a second digit means nothing."""
    return f"{stops:.2f} stop" if stops < 1 else tenths_in_words(stops)
