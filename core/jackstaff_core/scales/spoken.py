"""Times as people say them, and what saying them costs.

Nobody counts 2 m 08 s aloud: it becomes "two minutes", and that is a choice of -0.09 stop,
log2(spoken / exact). Source: definition of the stop. Limits: 1 s to 24 h.
Verdict: computed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from .ladders import Step, shutter_marks

GRAINS = ((20.0, 1.0), (60.0, 5.0), (300.0, 10.0), (1200.0, 30.0), (3600.0, 60.0), (math.inf, 300.0))
"""Up to each limit [s], people count times in multiples of the grain [s]."""


@dataclass(frozen=True, slots=True)
class Rounded:
    """A rounder time and its cost: + is brighter than correct."""

    seconds: float
    stops: float
    mark: str | None = None


def rounded(seconds: float, fineness: float | None = None) -> tuple[Rounded, ...]:
    """Return the times just below and above ``seconds`` that are counted easily; empty when it is one already.

    ``fineness`` [s] is what a timer counts in; None counts as people do, the longer the coarser.
    """
    grain = fineness or next(grain for limit, grain in GRAINS if seconds < limit)
    below = math.floor(seconds / grain) * grain
    above = below + grain
    if min(seconds - below, above - seconds) < 1e-9 * seconds:
        return ()
    return tuple(Rounded(time, math.log2(time / seconds)) for time in (below, above) if time > 0)


def time_in_words(seconds: float) -> str:
    """Return ``seconds`` [s] for a sentence.

    A fraction is the nearest a dial shows: nobody can set another.

    Examples
    --------
    >>> [time_in_words(seconds) for seconds in (0.0165, 0.6, 128, 3900)]
    ['1/60 s', '0.6 s', '2 min 08 s', '1 h 05 min']
    """
    if seconds < 0.29:
        return f"{shutter_marks(Step.THIRD).nearest(seconds).label} s"
    if seconds < 9.95:
        return f"{seconds:.1f} s".replace(".0 s", " s")
    whole = round(seconds)
    if whole < 60:
        return f"{whole} s"
    if whole < 3600:
        minutes, rest = divmod(whole, 60)
        return f"{minutes} min {rest:02d} s" if rest else f"{minutes} min"
    hours, minutes = divmod(round(seconds / 60), 60)
    return f"{hours} h {minutes:02d} min" if minutes else f"{hours} h"


def longer_in_words(stops: float) -> str:
    """Return a correction as it is said everywhere: ``⅔ stop longer``, ``0.2 stop shorter``, ``as long``.

    Parameters
    ----------
    stops : float
        + when longer [stops]; thirds where it is one within a twentieth, else tenths.

    Examples
    --------
    >>> longer_in_words(2 / 3), longer_in_words(-0.2), longer_in_words(0.01)
    ('⅔ stop longer', '0.2 stop shorter', 'as long')
    """
    size = abs(stops)
    count = round(size * 3)
    if size < 0.05:
        return "as long"
    said = stops_shown(count) if count and abs(size - count / 3) < 0.05 else tenths_in_words(size)
    return f"{said} {'longer' if stops > 0 else 'shorter'}"


def thirds(count: int) -> str:
    """Return ``count`` thirds of a stop, 0 or more, as displays and people write it: ``2/3``, ``1``, ``1 1/3``."""
    whole, rest = divmod(count, 3)
    return " ".join(part for part in (str(whole) if whole or not rest else "", ("", "1/3", "2/3")[rest]) if part)


def tenths_in_words(stops: float) -> str:
    """Return the stops to a tenth, without their sign: 0.3 stop, 1.4 stops."""
    return f"{abs(stops):.1f} {'stop' if abs(stops) < 1.05 else 'stops'}"


def stops_in_words(count: int) -> str:
    """Return ``count`` thirds with their unit: ``2/3 stop``, ``1 1/3 stops``."""
    return f"{thirds(count)} {'stop' if count <= 3 else 'stops'}"


def stops_shown(count: int) -> str:
    """Return ``count`` thirds with their unit and the signs for thirds: ``⅔ stop``, ``1 ⅓ stops``."""
    return stops_in_words(count).replace("1/3", "⅓").replace("2/3", "⅔")
