"""Reciprocity failure of film: from metered time Tm to corrected time Tc.

    power      Tc = t1 (Tm/t1)^p for Tm > t1, else Tm                p >= 1
    additive   Tc = Tm + a Tm^b                                      a >= 0, b >= 1
    table      linear in (ln Tm, ln Tc), last slope continued, constant factor below the first knot

Every law is strictly increasing and never shortens. It acts last, on the metered time: an error of
e stops in Tm becomes p e stops of time, and splitting an exposure does not add.

Source: Schwarzschild 1900 (p = 1/q); additive form after Gainer. Limits: 1/32000 s to 24 h; one law for
all colours, whose shift it does not know. Verdict: computed, given the
user's law; its parameters are estimates.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Protocol

from ..wire.marks import Size, Tagged
from ..words.refusal import Refusal, within

GAINER_EXPONENT = 1.62
"""The usual b of the additive law."""


class ReciprocityLaw(Protocol):
    """A correction in both directions, seconds to seconds."""

    def corrected(self, metered: float) -> float:
        """Return the time to hold the shutter open [s] where the meter asks for ``metered`` [s]."""

    def metered(self, corrected: float) -> float:
        """Return time the meter must ask for [s] so that ``corrected`` [s] is right.

        The inverse of :meth:`corrected`.
        """


def slope(law: ReciprocityLaw, metered: float) -> float:
    """Return the stops of corrected time a stop of metered time asks for, at this time (p for the power law).

    Parameters
    ----------
    law : ReciprocityLaw
        Of the film.
    metered : float
        The sum's time before the film's own [s].
    """
    half = math.sqrt(math.sqrt(2))
    return 2 * math.log2(law.corrected(metered * half) / law.corrected(metered / half))


@dataclass(frozen=True, slots=True)
class Power:
    """Tc = from_seconds (Tm/from_seconds)^p past ``from_seconds``."""

    p: float
    from_seconds: float = 1.0

    def __post_init__(self) -> None:
        within("film.p", self.p, 1, 3, "as an exponent")
        within("film.from_seconds", self.from_seconds, 1e-3, 1000, "s")

    def corrected(self, metered: float) -> float:
        """Return metered to corrected time, as :meth:`ReciprocityLaw.corrected` [s]."""
        return _bent(metered, self.from_seconds, self.p)

    def metered(self, corrected: float) -> float:
        """Return the corrected to metered time, as :meth:`ReciprocityLaw.metered` [s]."""
        return _bent(corrected, self.from_seconds, 1 / self.p)


def _bent(seconds: float, start: float, exponent: float) -> float:
    return seconds if seconds <= start else start * math.pow(seconds / start, exponent)


@dataclass(frozen=True, slots=True)
class Additive:
    """Tc = Tm + a Tm^b, a in s^(1-b)."""

    a: float
    b: float = GAINER_EXPONENT

    def __post_init__(self) -> None:
        within("film.a", self.a, 0, 10, "s^(1-b)")
        within("film.b", self.b, 1, 3, "as an exponent")

    def corrected(self, metered: float) -> float:
        """Return metered to corrected time, as :meth:`ReciprocityLaw.corrected` [s]."""
        return metered + self.a * math.pow(metered, self.b)

    def metered(self, corrected: float) -> float:
        """Return the corrected to metered time, as :meth:`ReciprocityLaw.metered` [s]."""
        # Newton in u = ln Tm on ln f: the slope lies between 1 and b, so it always converges.
        goal = math.log(corrected)
        u = goal
        for _ in range(60):
            tm = math.exp(u)
            extra = self.a * math.pow(tm, self.b)
            slope = (tm + self.b * extra) / (tm + extra)
            step = (math.log(tm + extra) - goal) / slope
            u -= step
            if abs(step) < 1e-15:
                break
        return math.exp(u)


@dataclass(frozen=True, slots=True)
class Table:
    """Knots (metered, corrected) [s], both strictly increasing, corrected never the shorter."""

    points: Annotated[tuple[tuple[float, float], ...], Size(0, 60)]

    def __post_init__(self) -> None:
        if not 2 <= len(self.points) <= 60:
            raise Refusal("film.points", f"{len(self.points)} rows make no table.", "Give 2 to 60 rows.")
        for place, (metered, corrected) in enumerate(self.points):
            if not (math.isfinite(metered) and math.isfinite(corrected) and 0 < metered <= corrected):
                raise Refusal(
                    f"film.points.{place}",
                    "A corrected time is never shorter than the metered one.",
                    "Give metered seconds first, then corrected seconds.",
                )
            if place and not (metered > self.points[place - 1][0] and corrected > self.points[place - 1][1]):
                raise Refusal(f"film.points.{place}", "Both columns must rise.", "Put the rows in rising order.")

    def corrected(self, metered: float) -> float:
        """Return metered to corrected time, as :meth:`ReciprocityLaw.corrected` [s]."""
        return _between(self.points, metered)

    def metered(self, corrected: float) -> float:
        """Return the corrected to metered time, as :meth:`ReciprocityLaw.metered` [s]."""
        return _between([(y, x) for x, y in self.points], corrected)

    def extrapolates(self, metered: float) -> bool:
        """Return whether ``metered`` [s] lies past the last row: the last slope goes on, which deserves a word."""
        return metered > self.points[-1][0]


LawGiven = Annotated[
    Power | Additive | Table, Tagged("law", (("power", Power), ("additive", Additive), ("table", Table)))
]
"""A law as a question carries it: told apart by ``law``."""


def _between(points: Sequence[tuple[float, float]], x: float) -> float:
    if x <= points[0][0]:
        return x * points[0][1] / points[0][0]
    upper = next((place for place, point in enumerate(points) if point[0] >= x), len(points) - 1)
    (x0, y0), (x1, y1) = points[upper - 1], points[upper]
    slope = math.log(y1 / y0) / math.log(x1 / x0)
    return y0 * math.pow(x / x0, slope)


def from_aperture_corrections(rows: Sequence[tuple[float, float]]) -> Table:
    """Return a table from a data sheet that says "at Tm seconds open up k stops".

    Opening up by k at Tm means the film needs Tm seconds for light metered at Tm/2^k: the knot is
    (Tm/2^k, Tm), not (Tm, Tm 2^k). Rows are (Tm [s], k [stops]).
    """
    return Table(tuple((seconds / 2.0**stops, seconds) for seconds, stops in rows))
