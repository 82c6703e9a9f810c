"""One estimate of moving light from a forecast, readings by hand and a watching phone, each with its weight.

    state [a, b, c]: EV(t) = F(t) + a + b t, t in minutes; the phone shows EV(t) + c, c its own zero
    at the metering a = 0 (what the reading itself is unsure of is counted elsewhere), b ~ N(0, s^2), s the forecast's
    sd of the rate or 0.15 stop/min; a part of the watch begins with c ~ N(-a, 3^2)
    predict dt: a += b dt; Q = diag(q, 0.02^2, 0.02^2) dt, the rate's walk as in moving_light/anchoring.py; q is how
    restless the looks show the light to be: the running mean of (dy^2 - sd1^2 - sd2^2)/dt, within 0.05^2 and 1
    reading y = a + N(0, 0.15^2); look y = a + c + N(0, sd^2)

Looks off by more than 3 sd to the same side twice are a step: the level is free by 1.5 stops again, from the first of
them on, and the rate is left alone. A single one is left out. A reading off by more than 3 sd while the phone watches
contradicts it: it is asked which of them counts; believed, it moves the phone's zero too.

Source: Kalman (1960), A new approach to linear filtering and prediction problems. Limits: the past stays as it was
known then, it is not smoothed; 400 looks; the phone's tone curve is unknown, 4 % of the light's change since its part
began is added to the sd. Verdict: estimate, with its sd (95 % inside 2 sd over simulated skies, docs/benchmarks.md).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, fields, replace
from enum import StrEnum
from typing import Annotated, Any

from ..scales.spoken import tenths_in_words
from ..wire.marks import Between, Size
from ..words.advice import Advice, Severity
from ..words.refusal import Refusal
from .anchoring import DRIFT_SD, GATE, JUMP_SD, READING_SD
from .rate import RATE_SD, WANDER, Rate

MOST_LOOKS = 400
KEPT_LOOKS = 240
"""What a frame keeps of a watch."""
ZERO_SD, ZERO_DRIFT = 3.0, 0.02
TONE_SHARE = 0.04
FIRST_DRIFT, MOST_DRIFT, RESTLESS_KEPT = 0.1, 1.0, 0.85
STEP_LEAST = 0.3
"""A change this large at once is told as a step [stops]."""
SAME_STEP_SECONDS = 15.0
WATCHING_SECONDS = 30.0
"""The phone is taken to watch still so long after its last look [s]."""
METERING_SD = 0.02


@dataclass(frozen=True, slots=True)
class Looked:
    """A look [stops against its part's zero, with its sd], seconds from the opening."""

    at_seconds: Annotated[float, Between(-200_000, 200_000, "s")]
    stops: Annotated[float, Between(-60, 60, "stops")]
    sd: Annotated[float, Between(0.001, 10, "stops")]
    part: Annotated[int, Between(0, 10_000)] = 0


Looks = Annotated[tuple[Looked, ...], Size(0, MOST_LOOKS)]


class Source(StrEnum):
    """What a light is known by."""

    METERING = "metering"
    FORECAST = "forecast"
    READINGS = "readings"
    WATCH = "watch"


@dataclass(frozen=True, slots=True)
class Weight:
    """What a source by itself would know of the light now: its sd [stops], and its share in the whole."""

    source: Source
    sd: float
    share: float


@dataclass(frozen=True, slots=True)
class LightStep:
    """A change at once."""

    at_seconds: float
    stops: float


@dataclass(frozen=True, slots=True)
class Knot:
    """Light against the metering [stops] with its sd, ``at_seconds`` from the opening."""

    at_seconds: float
    stops: float
    sd: float


@dataclass(frozen=True, slots=True)
class Fused:
    """The light so far and how it moves; ``contradicts`` is the place of the reading that is asked about."""

    knots: tuple[Knot, ...]
    stops: float
    sd: float
    stops_per_minute: float
    rate_sd: float
    weights: tuple[Weight, ...]
    steps: tuple[LightStep, ...]
    contradicts: int | None
    advice: Advice | None


@dataclass(slots=True)
class _Belief:
    """[a, b, c] and its covariance at a minute."""

    minute: float
    a: float
    b: float
    c: float
    p: list[list[float]]
    restless: float = FIRST_DRIFT

    def carry(self, minute: float) -> None:
        dt = minute - self.minute
        if dt <= 0:
            return
        self.minute, self.a, p = minute, self.a + self.b * dt, self.p
        walk = WANDER * WANDER * dt
        aa = p[0][0] + 2 * dt * p[0][1] + dt * dt * p[1][1] + self.restless * self.restless * dt + walk * dt * dt / 3
        ab = p[0][1] + dt * p[1][1] + walk * dt / 2
        ac = p[0][2] + dt * p[1][2]
        self.p = [
            [aa, ab, ac],
            [ab, p[1][1] + walk, p[1][2]],
            [ac, p[1][2], p[2][2] + ZERO_DRIFT * ZERO_DRIFT * dt],
        ]

    def notice(self, moved: float, sds: float, minutes: float) -> None:
        """How restless the light is [stop/sqrt(min)], from two looks that follow each other."""
        observed = max(0.0, moved * moved - sds) / max(minutes, 0.01)
        variance = RESTLESS_KEPT * self.restless**2 + (1 - RESTLESS_KEPT) * min(observed, MOST_DRIFT**2 * 4)
        self.restless = min(MOST_DRIFT, max(DRIFT_SD, math.sqrt(variance)))

    def off(self, y: float, sd: float, phone: bool) -> tuple[float, float]:
        """Return the innovation, and its variance."""
        h = 1.0 if phone else 0.0
        p = self.p
        return y - self.a - h * self.c, p[0][0] + 2 * h * p[0][2] + h * p[2][2] + sd * sd

    def hear(self, y: float, sd: float, phone: bool) -> None:
        v, s = self.off(y, sd, phone)
        h = 1.0 if phone else 0.0
        column = [row[0] + h * row[2] for row in self.p]
        k = [each / s for each in column]
        self.a, self.b, self.c = self.a + k[0] * v, self.b + k[1] * v, self.c + k[2] * v
        self.p = [[self.p[i][j] - k[i] * column[j] for j in range(3)] for i in range(3)]

    def begin_part(self, y: float) -> None:
        """Begin with a new zero of the phone: nothing is known of it."""
        p = self.p
        self.c = y - self.a
        self.p = [[p[0][0], p[0][1], 0.0], [p[1][0], p[1][1], 0.0], [0.0, 0.0, ZERO_SD * ZERO_SD]]

    def loosen(self, sd: float, zero: bool = False) -> None:
        self.p[0][0] += sd * sd
        if zero:
            self.p[2][2] += sd * sd


@dataclass(slots=True)
class _Told:
    """What is handed out, as it grows."""

    knots: list[Knot] = field(default_factory=list)
    steps: list[LightStep] = field(default_factory=list)
    contradicts: int | None = None
    by: float = 0.0

    def knot(self, seconds: float, stops: float, sd: float) -> None:
        if self.knots and seconds <= self.knots[-1].at_seconds:
            self.knots.pop()
        self.knots.append(Knot(seconds, stops, sd))

    def step(self, seconds: float, stops: float) -> None:
        last = self.steps[-1] if self.steps else None
        if last and seconds - last.at_seconds <= SAME_STEP_SECONDS and last.stops * stops > 0:
            self.steps[-1] = LightStep(last.at_seconds, last.stops + stops)
        else:
            self.steps.append(LightStep(seconds, stops))


def fuse_light(
    metered_at: float,
    looks: Sequence[Looked],
    readings: Sequence[tuple[float, float, bool | None]] = (),
    forecast: Callable[[float], float] | None = None,
    rate_sd: float | None = None,
    now: float | None = None,
) -> Fused:
    """Follow the light from the metering on; all instants are seconds from the opening, in order of time.

    ``readings`` are (second, stops against the metering, whether it was said to be believed); ``forecast`` says stops
    by second, ``rate_sd`` [stop/min] how well its rate is known. What happens before the metering only teaches zeros.

    Raises
    ------
    Refusal
        Looks or readings that do not rise in time.
    """
    _rising("looks", [each.at_seconds for each in looks])
    _rising("readings", [each[0] for each in readings])
    start = forecast(metered_at) if forecast else 0.0

    def known(second: float) -> float:
        return forecast(second) - start if forecast else 0.0

    s = (rate_sd if rate_sd is not None else RATE_SD) or 1e-4
    belief = _Belief(metered_at / 60, 0.0, 0.0, 0.0, [[1e-6, 0.0, 0.0], [0.0, s * s, 0.0], [0.0, 0.0, 9.0]])
    steps = _Told()
    steps.knot(metered_at, 0.0, 0.0)
    part, part_zero, held, last_look, last_stops = -1, 0.0, None, -math.inf, (0.0, 0.0)
    tone = 0.0
    before = [each for each in looks if each.at_seconds <= metered_at]
    if before:
        # The last look before the metering is what the phone showed at it: its zero is known from there.
        last = before[-1]
        age = (metered_at - last.at_seconds) / 60
        belief.c, part, part_zero, last_look = last.stops, last.part, last.stops, last.at_seconds
        last_stops = (last.stops, last.sd**2)
        belief.p[2][2] = last.sd**2 + (DRIFT_SD**2 + ZERO_DRIFT**2) * age + (s * age) ** 2
    merged: list[tuple[float, Looked | int]] = [(each.at_seconds, each) for each in looks[len(before) :]]
    merged += [(each[0], place) for place, each in enumerate(readings) if each[0] > metered_at]
    merged.sort(key=lambda each: each[0])
    for second, what in merged:
        belief.carry(second / 60)
        if isinstance(what, int):
            _hear_reading(belief, steps, what, readings[what], known(second), last_look)
        else:
            if what.part != part:
                belief.begin_part(what.stops - known(second))
                part, part_zero, held = what.part, what.stops, None
                last_look = -math.inf
            held = _hear_look(belief, steps, what, known(second), held)
            if second - last_look <= WATCHING_SECONDS:
                moved = what.stops - last_stops[0] - known(second) + known(last_look)
                belief.notice(moved, what.sd**2 + last_stops[1], (second - last_look) / 60)
            last_look, last_stops = second, (what.stops, what.sd**2)
            tone = TONE_SHARE * (what.stops - part_zero)
            steps.knot(second, belief.a + known(second), math.hypot(math.sqrt(max(0.0, belief.p[0][0])), tone))
    end = max(now if now is not None else -math.inf, belief.minute * 60)
    belief.carry(end / 60)
    slope = (known(end + 30) - known(end - 30)) if forecast else 0.0
    sd = math.hypot(math.sqrt(max(0.0, belief.p[0][0])), tone)
    weights = _weights(metered_at, end, belief, steps.steps, looks, readings, forecast is not None, s)
    advice = _contradiction(steps)
    return Fused(
        tuple(steps.knots),
        belief.a + known(end),
        sd,
        belief.b + slope,
        math.sqrt(max(0.0, belief.p[1][1])),
        weights,
        tuple(step for step in steps.steps if abs(step.stops) >= STEP_LEAST),
        steps.contradicts,
        advice,
    )


@dataclass(frozen=True, slots=True)
class WatchedRate(Rate):
    """How the light moves, and how far a phone saw it move since the last reading [stops]; None where none watched."""

    moved_stops: float | None = None
    moved_sd: float = 0.0
    weights: tuple[Weight, ...] = ()
    steps: tuple[LightStep, ...] = ()


def watched_rate(known: Rate, planned: bool, looks: Sequence[Looked], now: float) -> WatchedRate:
    """Return a rate from readings or a plan together with looks, their seconds counted from the last reading.

    Parameters
    ----------
    known : Rate
        From readings or a plan.
    planned : bool
        Whether it is a plan's.
    looks : Sequence[Looked]
        In order of time, seconds counted from the last reading [s].
    now : float
        The instant asked for, counted alike [s].
    """
    if not looks:
        return _with_watch(known)
    rate, counts = known.stops_per_minute / 60, known.counts
    found = fuse_light(
        0.0,
        looks,
        forecast=(lambda second: rate * second) if counts else None,
        rate_sd=known.rate_sd if counts else None,
        now=now,
    )
    # What readings say is no forecast, and is named for what it is.
    names = {Source.FORECAST: Source.FORECAST if planned else Source.READINGS}
    weights = tuple(replace(each, source=names.get(each.source, each.source)) for each in found.weights)
    moving = replace(known, stops_per_minute=found.stops_per_minute, rate_sd=found.rate_sd, counts=True)
    return _with_watch(moving, moved_stops=found.stops, moved_sd=found.sd, weights=weights, steps=found.steps)


def _with_watch(rate: Rate, **watch: Any) -> WatchedRate:
    return WatchedRate(**{each.name: getattr(rate, each.name) for each in fields(rate)}, **watch)


def _rising(name: str, seconds: Sequence[float]) -> None:
    for place in range(1, len(seconds)):
        if seconds[place] <= seconds[place - 1]:
            raise Refusal(name, "The instants do not rise.", "Put them in order of time, each once.")


def _hear_look(
    belief: _Belief, steps: _Told, what: Looked, known: float, held: tuple[float, float, float] | None
) -> tuple[float, float, float] | None:
    """Take a look in; what is off is held until the next one is off to the same side."""
    y = what.stops - known
    v, variance = belief.off(y, what.sd, True)
    if abs(v) <= GATE * math.sqrt(variance):
        belief.hear(y, what.sd, True)
        return None
    if held is None or held[1] * v <= 0:
        return what.at_seconds, v, belief.a + v
    # Twice to the same side: the light itself has stepped, from the first of the two on.
    level = belief.a
    belief.loosen(max(JUMP_SD, abs(v)))
    belief.hear(y, what.sd, True)
    steps.knot(held[0], held[2] + known, math.sqrt(belief.p[0][0]))
    steps.step(held[0], belief.a - level)
    return None


def _hear_reading(
    belief: _Belief, steps: _Told, place: int, reading: tuple[float, float, bool | None], known: float, last_look: float
) -> None:
    second, stops, believed = reading
    if believed is False:
        return
    y = stops - known
    v, variance = belief.off(y, READING_SD, False)
    watching = second - last_look <= WATCHING_SECONDS
    off = abs(v) > GATE * math.sqrt(variance)
    if off and watching and believed is None:
        steps.contradicts, steps.by = place, v
        return
    if off:
        belief.loosen(max(JUMP_SD, abs(v)), zero=True)
    belief.hear(y, READING_SD, False)
    steps.knot(second, belief.a + known, math.sqrt(max(0.0, belief.p[0][0])))


def _weights(
    metered_at: float,
    end: float,
    belief: _Belief,
    steps: Sequence[LightStep],
    looks: Sequence[Looked],
    readings: Sequence[tuple[float, float, bool | None]],
    forecast: bool,
    rate_sd: float,
) -> tuple[Weight, ...]:
    def aged(sd: float, second: float, rate: float) -> float:
        minutes = (end - second) / 60
        # What was known before a step knows nothing of it.
        since = math.fsum(step.stops**2 for step in steps if step.at_seconds > second)
        return math.sqrt(sd * sd + since + belief.restless**2 * minutes + (rate * minutes) ** 2)

    alone = [Weight(Source.METERING, aged(METERING_SD, metered_at, RATE_SD), 0.0)]
    if forecast:
        alone.append(Weight(Source.FORECAST, aged(METERING_SD, metered_at, rate_sd), 0.0))
    counted = [each for each in readings if each[2] is not False and each[0] > metered_at]
    if counted:
        alone.append(Weight(Source.READINGS, aged(READING_SD, counted[-1][0], RATE_SD), 0.0))
    if looks:
        zero = min(math.sqrt(max(0.0, belief.p[2][2])), ZERO_SD)
        alone.append(Weight(Source.WATCH, aged(math.hypot(looks[-1].sd, zero), looks[-1].at_seconds, RATE_SD), 0.0))
    whole = math.fsum(1 / each.sd**2 for each in alone)
    return tuple(replace(each, share=1 / each.sd**2 / whole) for each in alone)


def _contradiction(steps: _Told) -> Advice | None:
    if steps.contradicts is None:
        return None
    return Advice(
        "reading_against_watch",
        Severity.CAUTION,
        f"Your reading is {tenths_in_words(steps.by)}"
        f" {'brighter' if steps.by > 0 else 'darker'} than the watching phone says. Which of them saw the"
        " scene? Until you say, the phone counts.",
        {"stops": steps.by},
    )
