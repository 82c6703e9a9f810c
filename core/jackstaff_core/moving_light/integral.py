"""Exposure under light that moves: close when enough has gathered.

With EV e(t) relative to the metering, piecewise linear in EV, the light gathered over a segment is
dt 2^e0 expm1(y)/y, y = (e1 - e0) ln 2 (the log-mean). A constant rate r [stop/s] closes in closed form:

    T = T0 log1p(x)/x,  x = r ln2 T0             reached only if x > -1

With reciprocity failure the exposure progresses at rate 1/f(Tm(t)), Tm(t) = Tm 2^(-e(t)) the metered time the light of
this instant would ask for; close when its integral reaches 1. For a power law that is the same formula with p r and
f(Tm); other laws are integrated by 8-point Gauss-Legendre.

Source: elementary; log-mean; latent-image physics (James, ed.). Limits: past its last point a path goes on with its
last slope, rising to 60 stops above the metering at most; 24 h. Verdict: computed on an estimated path; with film an
estimate.
"""

from __future__ import annotations

import itertools
import math
from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

from ..camera.reciprocity import Power, ReciprocityLaw
from ..words.refusal import Refusal

_LN2 = math.log(2)
_DAY = 86_400.0
_FLAT = 1e-12
_DARK_STOPS = 120.0
"""Light that has fallen further than this adds nothing, and its times would not fit a number."""
_MOST_LOST = 24.0
"""Film loses no more than this to reciprocity failure within a day [stops]."""
_BRIGHT_STOPS = 60.0
"""Light rises no further than this: from starlight to the sun's disc, and past it no time fits a number."""


@dataclass(frozen=True, slots=True)
class Path:
    """EV relative to the metering [stops] over seconds from the opening: knots, and slopes before and after them.

    Rising on past the last knot ends in level light 60 stops up, so that no rate makes numbers that nothing can hold.
    """

    seconds: tuple[float, ...]
    stops: tuple[float, ...]
    slope_after: float
    slope_before: float = 0.0

    def __post_init__(self) -> None:
        if any(later <= earlier for earlier, later in zip(self.seconds, self.seconds[1:], strict=False)):
            raise Refusal("ev_points", "The instants do not rise.", "Put the points in order of time, each once.")

    @classmethod
    def steady(cls, rate: float, delay: float) -> Path:
        """Return light that moves by ``rate`` stops a second since the metering.

        The metering was ``delay`` seconds before the opening.
        """
        return cls((0.0,), (rate * delay,), rate, rate)

    @classmethod
    def through(cls, points: Sequence[tuple[float, float]], slope_after: float | None = None) -> Path:
        """Return the straight between points (s, stops), rising in time.

        After them ``slope_after`` [stops/s] or the last one.
        """
        seconds, stops = tuple(point[0] for point in points), tuple(point[1] for point in points)
        last = (stops[-1] - stops[-2]) / (seconds[-1] - seconds[-2]) if len(points) > 1 else 0.0
        return cls(seconds, stops, last if slope_after is None else slope_after)

    def at(self, second: float) -> float:
        """Return the light against the metering [stops] at ``second`` after the opening [s]."""
        place = bisect_right(self.seconds, second)
        if place == 0:
            return self.stops[0] + (second - self.seconds[0]) * self.slope_before
        if place == len(self.seconds):
            if second >= self._level_at:
                return max(self.stops[-1], _BRIGHT_STOPS)
            return self.stops[-1] + (second - self.seconds[-1]) * self.slope_after
        share = (second - self.seconds[place - 1]) / (self.seconds[place] - self.seconds[place - 1])
        return self.stops[place - 1] + share * (self.stops[place] - self.stops[place - 1])

    def scaled(self, p: float) -> Path:
        """Return every move ``p`` times as large: what a power-law film makes of it."""
        return Path(self.seconds, tuple(p * stop for stop in self.stops), p * self.slope_after, p * self.slope_before)

    def pieces(self, start: float, end: float) -> list[tuple[float, float]]:
        """Return the straight stretches between ``start`` and ``end``."""
        inside = self.seconds[bisect_right(self.seconds, start) : bisect_left(self.seconds, end)]
        levels = [self._level_at] if start < self._level_at < end and self._level_at > self.seconds[-1] else []
        return list(itertools.pairwise([start, *inside, *levels, end]))

    @property
    def is_level(self) -> bool:
        """Whether the light does not move at all from the opening on."""
        return (
            self.slope_after == 0
            and all(
                stops == self.stops[-1] for second, stops in zip(self.seconds, self.stops, strict=True) if second >= 0
            )
            and self.at(0.0) == self.stops[-1]
        )

    @property
    def _level_at(self) -> float:
        """The second from which rising light rises no more."""
        if self.slope_after <= 0:
            return math.inf
        return self.seconds[-1] + max(0.0, _BRIGHT_STOPS - self.stops[-1]) / self.slope_after


def open_seconds(needed: float, rate: float) -> float:
    """Return the time [s] that gathers ``needed`` seconds of light changing by ``rate`` stops a second.

    Infinite when never.

    Parameters
    ----------
    needed : float
        Light wanted, in seconds of the metering's [s].
    rate : float
        Of the light [stop/s].
    """
    x = rate * _LN2 * needed
    if abs(x) < _FLAT:
        return needed
    return needed * math.log1p(x) / x if x > -1 else math.inf


def gathered(path: Path, start: float, end: float) -> float:
    """Return the light from ``start`` to ``end`` in seconds of the metering's light.

    Parameters
    ----------
    path : Path
        The light against the metering's, by second from the opening.
    start, end : float
        From the opening [s].
    """
    return math.fsum(segment(path.at(low), path.at(high), high - low) for low, high in path.pieces(start, end))


def segment(e0: float, e1: float, seconds: float) -> float:
    """Return the light of one straight stretch of EV, from ``e0`` to ``e1`` stops, in seconds of light at 0 stops.

    Parameters
    ----------
    e0, e1 : float
        The light at the ends against the metering's [stops].
    seconds : float
        How long it takes [s].
    """
    y = (e1 - e0) * _LN2
    mean = math.expm1(y) / y if abs(y) > _FLAT else 1 + y / 2
    return seconds * math.exp2(e0) * mean


def close_after(path: Path, needed: float, start: float = 0.0, held: float = 0.0) -> float:
    """Return the seconds after the opening at which ``needed`` seconds of the metering's light are gathered.

    Infinite if never.

    ``held`` was gathered by ``start`` already.

    Parameters
    ----------
    path : Path
        The light against the metering's, by second from the opening.
    needed : float
        Light wanted, in seconds of the metering's [s].
    start : float
        From the opening [s].
    held : float
        Gathered by then [s].
    """
    left = needed - held
    at = start
    for second in (knot for knot in path.seconds if knot > start):
        here, there = path.at(at), path.at(second)
        piece = segment(here, there, second - at)
        if piece >= left:
            return at + open_seconds(left * math.exp2(-here), (there - here) / (second - at))
        left, at = left - piece, second
    return at + open_seconds(left * math.exp2(-path.at(at)), path.slope_after)


def close_film(path: Path, metered: float, law: ReciprocityLaw, start: float = 0.0) -> float:
    """Return the same for film: seconds after ``start`` at which the integral of 1/f reaches 1.

    Infinite if not in a day.

    Parameters
    ----------
    path : Path
        The light against the metering's, by second from the opening.
    metered : float
        The sum's time before the film's own [s].
    law : ReciprocityLaw
        Of the film.
    start : float
        From the opening [s].
    """
    if isinstance(law, Power) and _always_bent(path, metered, law):
        return close_after(path.scaled(law.p), law.corrected(metered), start)
    done, at = 0.0, start
    while at < _DAY:
        # Short steps early, longer ones later: light and film both change slowly against this.
        step = min(max((at - start) / 16, metered / 64, 0.05), 60.0)
        more = _progress(path, metered, law, at, at + step)
        if done + more >= 1:
            return _within(path, metered, law, at, step, 1 - done)
        done, at = done + more, at + step
    return math.inf


def _always_bent(path: Path, metered: float, law: Power) -> bool:
    """Return whether the film stays in its failing part however bright the light gets along the knots."""
    brightest = max(*path.stops, path.at(0.0))
    return metered * 2.0**-brightest > law.from_seconds and path.slope_after <= 0


_NODES = (
    (0.1834346424956498, 0.3626837833783620),
    (0.5255324099163290, 0.3137066458778873),
    (0.7966664774136267, 0.2223810344533745),
    (0.9602898564975363, 0.1012285362903763),
)


def _progress(path: Path, metered: float, law: ReciprocityLaw, low: float, high: float) -> float:
    total = 0.0
    for begin, end in path.pieces(low, high):
        middle, half = (begin + end) / 2, (end - begin) / 2
        for node, weight in _NODES:
            for side in (-node, node):
                fallen = min(-path.at(middle + side * half), _DARK_STOPS)
                total += weight * half / law.corrected(metered * 2.0**fallen)
    return total


def _within(path: Path, metered: float, law: ReciprocityLaw, at: float, step: float, needed: float) -> float:
    low, high = 0.0, step
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (middle, high) if _progress(path, metered, law, at, at + middle) < needed else (low, middle)
    return at + high


def film_gathered(path: Path, metered: float, law: ReciprocityLaw, end: float, start: float = 0.0) -> float:
    """Return the share of a film's exposure done from ``start`` to ``end``, 1 when complete.

    Parameters
    ----------
    path : Path
        The light against the metering's, by second from the opening.
    metered : float
        The sum's time before the film's own [s].
    law : ReciprocityLaw
        Of the film.
    end, start : float
        From the opening [s].
    """
    total, at = 0.0, start
    while at < end:
        step = min(max(at / 16, metered / 64, 0.05), 60.0, end - at)
        total, at = total + _progress(path, metered, law, at, at + step), at + step
    return total


def filled_metered_seconds(path: Path, law: ReciprocityLaw | None, seconds: float) -> float:
    """Return the metered time that an exposure just fills, in seconds of the metering's light [s].

    What an exposure is short of or over in stops is the binary logarithm of this against the time that was needed: for
    film the share of its exposure that is done says nothing in stops.

    Parameters
    ----------
    path : Path
        The light against the metering's, by second from the opening.
    law : ReciprocityLaw | None
        Of the film, None for a sensor.
    seconds : float
        How long the shutter is open [s].
    """
    most = gathered(path, 0.0, seconds)
    if law is None:
        return most
    if path.is_level:
        return law.metered(seconds) * math.exp2(path.at(0.0))
    if isinstance(law, Power):
        bent = law.metered(gathered(path.scaled(law.p), 0.0, seconds))
        if _always_bent(path, bent, law):
            return bent
    # Film is never faster than a sensor; whoever wants more is always less complete. The share that is done goes about
    # as a power of what is wanted, so a straight line in logarithms finds it in a few steps.
    low, high = -_MOST_LOST, 0.0
    at, before = high, None
    for _ in range(_TRIES):
        done = math.log2(_in_quarters(path, most * math.exp2(at), law, seconds))
        if abs(done) < _CLOSE:
            break
        low, high = (at, high) if done > 0 else (low, at)
        bent = (done - before[1]) / (at - before[0]) if before else -1.0
        before = (at, done)
        at = at - done / bent if bent < 0 else (low + high) / 2
        if not low < at < high:
            at = (low + high) / 2
    return most * math.exp2(at)


_TRIES, _CLOSE = 60, 1e-7
_QUARTERS = 4


def _in_quarters(path: Path, metered: float, law: ReciprocityLaw, seconds: float) -> float:
    """Return share of a film's exposure that is done after ``seconds``, in so few pieces as light and film allow."""
    edges = [seconds * turn / _QUARTERS for turn in range(_QUARTERS + 1)]
    return math.fsum(_progress(path, metered, law, low, high) for low, high in itertools.pairwise(edges))


def largest_reachable(path: Path) -> float:
    """Return the longest metered time [s] that could ever be filled from the opening on.

    Infinite when the light lasts.
    """
    if path.slope_after >= 0:
        return math.inf
    last = max(path.seconds[-1], 0.0)
    tail = math.exp2(path.at(last)) / (-path.slope_after * _LN2)
    return (gathered(path, 0.0, last) if last > 0 else 0.0) + tail
