"""Made-up skies: how the light moves, by kind and seed, for practice, demonstration and trials of what follows light.

Stops relative to the instant 0 as sums of a slope, an Ornstein-Uhlenbeck wander (sd s, time constant tau), two-valued
cloud (exponential sojourns, edges of some seconds) and logistic steps; every kind draws its own figures from its seed.

Source: ours, sized by hand: broken cloud takes 1.5 to 2.2 stops from the sun, civil twilight moves up to 0.35 stop a
minute, a lamp adds a floor. Limits: one brightness for the whole scene, -30 to 60 min, nothing real is forecast.
Verdict: class.
"""

from __future__ import annotations

import math
import random
from bisect import bisect_right
from dataclasses import dataclass
from enum import StrEnum

BEFORE_SECONDS, AFTER_SECONDS, STEP_SECONDS = 1800, 3600, 2
"""How far a made-up sky reaches around its instant 0, and how finely it is drawn [s]."""


class SkyKind(StrEnum):
    """A made-up sky: how its light goes."""

    DAWN = "dawn"
    DUSK = "dusk"
    CLEAR = "clear"
    THIN_CLOUD = "thin_cloud"
    BROKEN_CLOUD = "broken_cloud"
    STORM_EDGE = "storm_edge"
    LAMPS = "lamps"
    SUN_GAP = "sun_gap"
    FOG_LIFTING = "fog_lifting"
    SHOWERS = "showers"


@dataclass(frozen=True, slots=True)
class MadeUpSky:
    """Light [stops relative to instant 0] at every STEP_SECONDS from -BEFORE_SECONDS on."""

    kind: SkyKind
    seed: int
    stops: tuple[float, ...]

    def at(self, seconds: float) -> float:
        """Return the light at an instant [stops]; the ends go on level."""
        place = (seconds + BEFORE_SECONDS) / STEP_SECONDS
        if place <= 0:
            return self.stops[0]
        low = int(place)
        if low >= len(self.stops) - 1:
            return self.stops[-1]
        return self.stops[low] + (place - low) * (self.stops[low + 1] - self.stops[low])


def made_up_sky(kind: SkyKind, seed: int) -> MadeUpSky:
    """Return the sky of a kind and seed: the same everywhere."""
    dice = random.Random(f"{kind.value} {seed}")  # noqa: S311
    times = [float(second) for second in range(-BEFORE_SECONDS, AFTER_SECONDS + 1, STEP_SECONDS)]
    drawn = _DRAWN[kind](dice, times)
    zero = drawn[BEFORE_SECONDS // STEP_SECONDS]
    return MadeUpSky(kind, seed, tuple(stop - zero for stop in drawn))


def _wander(dice: random.Random, times: list[float], sd: float, minutes: float) -> list[float]:
    keep = math.exp(-STEP_SECONDS / 60 / minutes)
    at, found = dice.gauss(0, sd), []
    for _ in times:
        found.append(at)
        at = keep * at + dice.gauss(0, sd * math.sqrt(1 - keep * keep))
    return found


def _clouded(dice: random.Random, times: list[float], stops: float, minutes: tuple[float, float]) -> list[float]:
    """Sun and shade by turns: how long each lasts [min], and what shade takes [stops]; its edges take some seconds."""
    turns: list[tuple[float, float, float]] = []
    at, shade = times[0] - 600, bool(dice.getrandbits(1))
    while at < times[-1]:
        turns.append((at, stops * dice.uniform(0.8, 1.2) if shade else 0.0, dice.uniform(4, 25)))
        at += max(20.0, dice.expovariate(1 / (60 * minutes[shade])))
        shade = not shade
    starts = [start for start, _, _ in turns]
    found = []
    for second in times:
        place = bisect_right(starts, second) - 1
        start, depth, edge = turns[place]
        before = turns[place - 1][1] if place else depth
        share = min(1.0, (second - start) / edge)
        found.append(-(before + (depth - before) * share))
    return found


def _step(times: list[float], at: float, stops: float, seconds: float) -> list[float]:
    """Return a change of ``stops`` around ``at``, most of it within ``seconds``."""
    return [stops / (1 + math.exp(min(60.0, -(second - at) / (seconds / 6)))) for second in times]


def _slope(times: list[float], per_minute: float, bend: float = 0.0) -> list[float]:
    """Return a rate [stop/min] that itself changes by ``bend`` a minute within the hour, and then no more."""
    return [per_minute * second / 60 + bend * (min(max(second / 60, -30.0), 30.0) ** 2) / 2 for second in times]


def _sum(*parts: list[float]) -> list[float]:
    return [math.fsum(each) for each in zip(*parts, strict=True)]


def _dawn(dice: random.Random, times: list[float]) -> list[float]:
    return _sum(_slope(times, dice.uniform(0.15, 0.32), -0.004), _wander(dice, times, 0.08, 6))


def _dusk(dice: random.Random, times: list[float]) -> list[float]:
    return _sum(_slope(times, -dice.uniform(0.08, 0.22), -0.003), _wander(dice, times, 0.08, 6))


def _clear(dice: random.Random, times: list[float]) -> list[float]:
    return _sum(_slope(times, dice.uniform(-0.005, 0.005)), _wander(dice, times, 0.03, 8))


def _thin(dice: random.Random, times: list[float]) -> list[float]:
    return _wander(dice, times, 0.35, 4)


def _broken(dice: random.Random, times: list[float]) -> list[float]:
    return _sum(_clouded(dice, times, dice.uniform(1.5, 2.2), (1.5, 2.5)), _wander(dice, times, 0.08, 3))


def _storm(dice: random.Random, times: list[float]) -> list[float]:
    edge = _step(times, dice.uniform(60, 420), -dice.uniform(1.5, 2.5), dice.uniform(120, 300))
    return _sum(edge, _wander(dice, times, 0.15, 3))


def _lamps(dice: random.Random, times: list[float]) -> list[float]:
    """Dusk over a floor of lamps that come on within seconds."""
    falling = _dusk(dice, times)
    at, floor = dice.uniform(30, 300), dice.uniform(-0.5, 0.3)
    return [
        math.log2(2**stop + (2**floor if second >= at else 0.0)) for second, stop in zip(times, falling, strict=True)
    ]


def _gap(dice: random.Random, times: list[float]) -> list[float]:
    start, lasts, stops = dice.uniform(20, 300), dice.uniform(40, 150), dice.uniform(1.2, 2.2)
    burst = _sum(_step(times, start, stops, 12), _step(times, start + lasts, -stops, 12))
    return _sum(burst, _slope(times, 0.03), _wander(dice, times, 0.1, 4))


def _fog(dice: random.Random, times: list[float]) -> list[float]:
    return _sum(_step(times, dice.uniform(120, 600), dice.uniform(1, 2), 900), _wander(dice, times, 0.2, 5))


def _showers(dice: random.Random, times: list[float]) -> list[float]:
    return _sum(_clouded(dice, times, 1.0, (4, 3)), _wander(dice, times, 0.25, 2.5))


_DRAWN = {
    SkyKind.DAWN: _dawn,
    SkyKind.DUSK: _dusk,
    SkyKind.CLEAR: _clear,
    SkyKind.THIN_CLOUD: _thin,
    SkyKind.BROKEN_CLOUD: _broken,
    SkyKind.STORM_EDGE: _storm,
    SkyKind.LAMPS: _lamps,
    SkyKind.SUN_GAP: _gap,
    SkyKind.FOG_LIFTING: _fog,
    SkyKind.SHOWERS: _showers,
}
