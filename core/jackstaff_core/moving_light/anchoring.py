"""A forecast corrected by the photographer's own readings: a small Kalman filter with a doubt about outliers.

    state [a, b]: EV(t) = F(t) + a + b (t - t_last), t in minutes        prior a ~ N(0, 1), b ~ N(0, 0.03^2)
    predict dt: a += b dt; P00 += 2 dt P01 + dt^2 P11 + q dt; P01 += dt P11
    a rate that wanders by w sqrt(dt), where one is given: P00 += w^2 dt^3/3; P01 += w^2 dt^2/2; P11 += w^2 dt
    update:     S = P00 + sigma^2; K = (P00, P01)/S; v = y - a; a += K0 v; b += K1 v; P -= K (P00, P01)

A reading more than 3 sqrt(S) off is held, not used. If the next one is back inside, the held one is forgotten (a cloud
over the sun); if it agrees with the held one, the level has changed and both are used. The first always anchors.

Source: Kalman; numbers by Monte-Carlo (95 % inside 2 sd). Limits: one light, sigma 0.15 stop a reading.
Verdict: computed, with its sd.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

LEVEL_SD, RATE_SD, READING_SD = 1.0, 0.03, 0.15
DRIFT_SD = 0.05
"""Random walk of the level [stop/sqrt(min)]; twice that under broken cloud."""
GATE = 3.0
JUMP_SD = 1.5


class Status(StrEnum):
    """What became of a reading: taken, held back as odd, or taken as a jump of the light with the odd one before."""

    OK = "ok"
    HELD = "held"
    JUMP = "jump"


@dataclass(frozen=True, slots=True)
class LightState:
    """Level a [stop] and rate b [stop/min] at ``minute``, with their covariance."""

    minute: float
    a: float
    b: float
    p00: float
    p01: float
    p11: float

    def at(self, minute: float, drift: float = DRIFT_SD, wander: float = 0.0) -> LightState:
        """Carried to another minute; backwards doubt grows as forwards.

        ``drift`` is the random walk of the level [stop/sqrt(min)], ``wander`` that of the rate [stop/min/sqrt(min)].
        """
        dt = minute - self.minute
        w = wander * wander * abs(dt)
        p00 = self.p00 + 2 * dt * self.p01 + dt * dt * self.p11 + drift * drift * abs(dt) + w * dt * dt / 3
        return LightState(
            minute, self.a + self.b * dt, self.b, p00, self.p01 + dt * self.p11 + w * dt / 2, self.p11 + w
        )

    @property
    def sd(self) -> float:
        """Sd of the level [stop]."""
        return math.sqrt(max(self.p00, 0.0))

    def updated(self, y: float) -> LightState:
        """After a reading ``y`` stops above the forecast."""
        s = self.p00 + READING_SD**2
        k0, k1 = self.p00 / s, self.p01 / s
        v = y - self.a
        return LightState(
            self.minute,
            self.a + k0 * v,
            self.b + k1 * v,
            self.p00 - k0 * self.p00,
            self.p01 - k0 * self.p01,
            self.p11 - k1 * self.p01,
        )

    def widened(self, sd: float) -> LightState:
        """Return the same with a level whose variance is ``sd`` squared [stop²] more."""
        return LightState(self.minute, self.a, self.b, self.p00 + sd * sd, self.p01, self.p11)

    def surprising(self, y: float) -> bool:
        """Return whether a reading ``y`` [stop above the forecast] is more than three sd off."""
        return abs(y - self.a) > GATE * math.sqrt(self.p00 + READING_SD**2)


@dataclass(frozen=True, slots=True)
class Anchored:
    """The filter after each reading, and what became of the readings."""

    states: tuple[LightState, ...]
    status: tuple[Status, ...]

    def at(self, minute: float) -> LightState:
        """Return the state from what was known by ``minute``; before the first reading that one serves backwards."""
        return self._known(minute).at(minute)

    def level(self, minute: float) -> tuple[float, float, float]:
        """Return level [stop], its sd and the rate [stop/min] at a minute.

        The same as :meth:`at` says, without building a state.
        """
        state = self._known(minute)
        dt = minute - state.minute
        variance = state.p00 + 2 * dt * state.p01 + dt * dt * state.p11 + DRIFT_SD * DRIFT_SD * abs(dt)
        return state.a + state.b * dt, math.sqrt(max(variance, 0.0)), state.b

    def _known(self, minute: float) -> LightState:
        if len(self.states) == 1:
            return self.states[0]
        place = bisect_right(self.states, minute + 1e-9, key=lambda state: state.minute)
        return self.states[max(0, place - 1)]


def prior(minute: float, rate_sd: float = RATE_SD) -> LightState:
    """Nothing read yet.

    Parameters
    ----------
    minute : float
        When the state holds [min].
    rate_sd : float
        Sd of the forecast's rate, known before anything was read [stop/min], above 0.
    """
    return LightState(minute, 0.0, 0.0, LEVEL_SD**2, 0.0, rate_sd**2)


def anchor_readings(
    readings: Sequence[tuple[float, float]], start: float = 0.0, rate_sd: float = RATE_SD, wander: float = 0.0
) -> Anchored:
    """Run the filter over readings (minute, stops above the forecast), in order of time; ``start`` dates the prior.

    ``rate_sd`` [stop/min] is how well the forecast's rate is known before, ``wander`` how it walks afterwards.

    Parameters
    ----------
    readings : Sequence[tuple[float, float]]
        (minute, stops above the forecast), in order of time.
    start : float
        Minute that the prior holds for.
    rate_sd : float
        How well the forecast's rate is known before [stop/min].
    wander : float
        How that rate walks afterwards [stop/min/sqrt(min)].
    """
    state = prior(readings[0][0] if readings else start, rate_sd)
    states: list[LightState] = []
    status: list[Status] = []
    held: tuple[float, float, int] | None = None
    for minute, y in readings:
        state = state.at(minute, wander=wander)
        if not states:
            # The first anchors however far off it is: the prior's level is then only as sure as that.
            state = state.widened(abs(y) if state.surprising(y) else 0.0).updated(y)
            status.append(Status.OK)
        elif not state.surprising(y):
            state, held = state.updated(y), None
            status.append(Status.OK)
        elif held and abs(y - held[1]) <= GATE * math.sqrt(2 * READING_SD**2 + DRIFT_SD**2 * (minute - held[0])):
            # Two that agree with each other and not with the rest: the level itself has changed.
            jumped = states[-1].at(held[0], wander=wander).widened(JUMP_SD).updated(held[1])
            state, held = jumped.at(minute, wander=wander).updated(y), None
            status.append(Status.JUMP)
        else:
            held = (minute, y, len(status))
            status.append(Status.HELD)
            continue
        states.append(state)
    return Anchored(tuple(states) or (state,), tuple(status))
