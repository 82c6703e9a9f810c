"""What the glass really measures, learnt from frames: Bayesian linear regression with habits of a session kept apart.

    e_j = beta_session + sum over the stack of delta_i - sum over what was taken off + noise    + = denser than labelled
    Lambda = diag(1/prior^2) + A^T W A / sigma^2, mean = Lambda^-1 A^T W e / sigma^2, covariance = Lambda^-1
    robust: Student-t noise, nu = 4, by EM: w_j = 5/(4 + (r_j^2 + v_j)/sigma^2), v_j the fit's variance of that frame

Drift and film are taken out of e before. Settings of a variable or a polariser are no constant: leave them out.

Source: Lindley & Smith 1972; Lange, Little & Taylor 1989. Limits: 5000 frames, 60 glasses; constant habits and glass
cannot be told apart without bare frames or several stacks. Verdict: computed, with its sd.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Annotated

from ..wire.marks import Size
from ..words.refusal import Refusal, within

MOST_FRAMES, MOST_GLASSES, MOST_SESSIONS = 5000, 60, 400
NU = 4.0
_ROUNDS, _SETTLED = 20, 1e-7
OWN_PRIOR_SD, WIDE_PRIOR_SD = 0.33, 1.5
LEAST_SHOWN_SD = 0.05
"""However many frames say so, no glass is known better than this [stops]: the model itself is not."""
CONTRADICTS_SDS = 3.0
_SUSPECT_STOPS = 0.5
TANGLED = -0.85
"""Two glasses whose errors correlate below this cannot be told apart; nor can two of which none was ever used alone."""


Key = Annotated[str, Size(1, 60)]


@dataclass(frozen=True, slots=True)
class Judged:
    """A frame's stack by ids (none: bare), its error [stops], and the session it was made in."""

    glass: Annotated[tuple[Key, ...], Size(0, 8)]
    error_stops: float
    session: Key | None = None
    weight: float = 1.0
    """How many usual frames it is worth: a frame pair is surer than a glance at a histogram."""
    off: Annotated[tuple[Key, ...], Size(0, 8)] = ()
    """What it was metered through and was off for the shot."""

    @property
    def counts(self) -> dict[str, int]:
        """How often each glass is in its error, negative where it was taken off."""
        counted = Counter(self.glass)
        counted.subtract(self.off)
        return {name: times for name, times in counted.items() if times}


@dataclass(frozen=True, slots=True)
class CalibrationQuestion:
    """``prior_sd`` a number or one for each glass; ``session_sd`` None for no habits."""

    frames: Annotated[tuple[Judged, ...], Size(1, MOST_FRAMES)]
    prior_sd: float | Mapping[Key, float] = 0.2
    noise_sd: float = 0.2
    session_sd: float | None = 0.15
    robust: bool = False


@dataclass(frozen=True, slots=True)
class Calibrated:
    """What a glass or a session measures against its label [stops], its sd, and the frames behind it."""

    id: str
    mean: float
    sd: float
    frames: int


@dataclass(frozen=True, slots=True)
class Calibration:
    """``covariance`` in the order of ``glass``, then ``sessions``."""

    glass: tuple[Calibrated, ...]
    sessions: tuple[Calibrated, ...]
    covariance: tuple[tuple[float, ...], ...]


def calibrate(question: CalibrationQuestion) -> Calibration:
    """Learn from frames.

    Raises
    ------
    Refusal
        No frames, too many of anything, or a number out of bounds.
    """
    fit = _fitted(question)
    return Calibration(_found(fit), _habits(fit), fit.covariance())


@dataclass(frozen=True, slots=True)
class _Row:
    """Which glass a frame holds and how often, the habit it shares (None: none), its error and how much it counts."""

    glass: tuple[tuple[int, float], ...]
    session: int | None
    error: float
    weight: float


class _Fit:
    """Glass and habits solved together.

    A frame has one habit at most, so the habits' block of Lambda is diagonal and is eliminated first (Schur
    complement): what must be inverted is as large as the number of glasses, whatever the number of sessions.
    """

    def __init__(self, rows: Sequence[_Row], weights: Sequence[float], glass: Sequence[float], habits: Sequence[float]):
        size = len(glass)
        whole = [[glass[at] if at == other else 0.0 for other in range(size)] for at in range(size)]
        right = [0.0] * size
        own, weighted_errors = list(habits), [0.0] * len(habits)
        cross: list[dict[int, float]] = [{} for _ in habits]
        for row, share in zip(rows, weights, strict=True):
            for at, times in row.glass:
                right[at] += share * times * row.error
                for other, others in row.glass:
                    whole[at][other] += share * times * others
            if row.session is not None:
                own[row.session] += share
                weighted_errors[row.session] += share * row.error
                shared = cross[row.session]
                for at, times in row.glass:
                    shared[at] = shared.get(at, 0.0) + share * times
        for shared, precision, sum_ in zip(cross, own, weighted_errors, strict=True):
            for at, each in shared.items():
                right[at] -= each * sum_ / precision
                for other, another in shared.items():
                    whole[at][other] -= each * another / precision
        self.own = own
        self.cross = cross
        self.between = _inverse(whole)
        self.glass = [math.fsum(a * b for a, b in zip(line, right, strict=True)) for line in self.between]
        self.habits = [
            (sum_ - sum(each * self.glass[at] for at, each in shared.items())) / precision
            for shared, precision, sum_ in zip(cross, own, weighted_errors, strict=True)
        ]

        # Covariance of glass and habit, by habit.
        self.crossed = [
            [-sum(line[other] * each for other, each in shared.items()) / precision for line in self.between]
            for shared, precision in zip(cross, own, strict=True)
        ]

    def of_habits(self, first: int, other: int) -> float:
        """Return the covariance of two habits."""
        line = self.crossed[first]
        through = -sum(line[at] * share for at, share in self.cross[other].items()) / self.own[other]
        return through + (1 / self.own[first] if first == other else 0.0)

    def apart(self, row: _Row) -> float:
        """Return what a frame says beyond the fit [stops]."""
        habit = 0.0 if row.session is None else self.habits[row.session]
        return row.error - habit - sum(times * self.glass[at] for at, times in row.glass)

    def spread(self, row: _Row) -> float:
        """Return the variance of the fit at a frame [stops^2]."""
        spread = sum(times * others * self.between[at][other] for at, times in row.glass for other, others in row.glass)
        if row.session is not None:
            spread += self.of_habits(row.session, row.session)
            spread += 2 * sum(times * self.crossed[row.session][at] for at, times in row.glass)
        return spread


@dataclass(frozen=True, slots=True)
class _Fitted:
    """The last fit, with what its unknowns are called."""

    fit: _Fit
    rows: tuple[_Row, ...]
    names: tuple[str, ...]
    sessions: tuple[str, ...]

    def covariance(self) -> tuple[tuple[float, ...], ...]:
        fit, glass, habits = self.fit, range(len(self.names)), range(len(self.sessions))
        upper = [(*fit.between[at], *(line[at] for line in fit.crossed)) for at in glass]
        lower = [(*fit.crossed[habit], *(fit.of_habits(habit, other) for other in habits)) for habit in habits]
        return (*upper, *lower)


def _fitted(question: CalibrationQuestion) -> _Fitted:
    names, sessions = _unknowns(question)
    glass_at = {name: at for at, name in enumerate(names)}
    session_at = {name: at for at, name in enumerate(sessions)}
    rows = tuple(_row(frame, glass_at, session_at) for frame in question.frames)
    glass = [1 / _prior(question, name) ** 2 for name in names]
    habits = [1 / question.session_sd**2] * len(sessions) if question.session_sd is not None else []
    precision = question.noise_sd**-2
    fit = _Fit(rows, [row.weight * precision for row in rows], glass, habits)
    for _ in range(_ROUNDS if question.robust else 0):
        weights = [
            row.weight * precision * (NU + 1) / (NU + (fit.apart(row) ** 2 + fit.spread(row)) * row.weight * precision)
            for row in rows
        ]
        before, fit = fit, _Fit(rows, weights, glass, habits)
        if max((abs(a - b) for a, b in zip(before.glass, fit.glass, strict=True)), default=0.0) < _SETTLED:
            break
    return _Fitted(fit, rows, tuple(names), tuple(sessions))


def _found(fitted: _Fitted) -> tuple[Calibrated, ...]:
    counts = Counter(at for row in fitted.rows for at, _ in row.glass)
    fit = fitted.fit
    return tuple(
        Calibrated(name, fit.glass[at], math.sqrt(fit.between[at][at]), counts[at])
        for at, name in enumerate(fitted.names)
    )


def _habits(fitted: _Fitted) -> tuple[Calibrated, ...]:
    counts = Counter(row.session for row in fitted.rows)
    fit = fitted.fit
    return tuple(
        Calibrated(name, fit.habits[at], math.sqrt(fit.of_habits(at, at)), counts[at])
        for at, name in enumerate(fitted.sessions)
    )


def _unknowns(question: CalibrationQuestion) -> tuple[list[str], list[str]]:
    if not 1 <= len(question.frames) <= MOST_FRAMES:
        raise Refusal("frames", f"{len(question.frames)} frames cannot be learnt from.", f"Give 1 to {MOST_FRAMES}.")
    within("noise_sd", question.noise_sd, 0.01, 3, "stops")
    if question.session_sd is not None:
        within("session_sd", question.session_sd, 0.001, 3, "stops")
    for place, frame in enumerate(question.frames):
        within(f"frames.{place}.error_stops", frame.error_stops, -20, 20, "stops")
    names = list(dict.fromkeys(name for frame in question.frames for name in frame.counts))
    by_session = question.session_sd is not None
    sessions = list(
        dict.fromkeys(frame.session for frame in question.frames if by_session and frame.session is not None)
    )
    if len(names) > MOST_GLASSES:
        raise Refusal("frames", f"{len(names)} filters are too many.", f"Give frames of at most {MOST_GLASSES}.")
    if len(sessions) > MOST_SESSIONS:
        raise Refusal("frames", f"{len(sessions)} sessions are too many.", f"Give at most {MOST_SESSIONS}.")
    for name in names:
        _prior(question, name)
    return names, sessions


def _prior(question: CalibrationQuestion, name: str) -> float:
    given = question.prior_sd
    sd = given.get(name, 0.2) if isinstance(given, Mapping) else given
    return within("prior_sd", sd, 0.001, 10, "stops")


def _row(frame: Judged, names: Mapping[str, int], sessions: Mapping[str, int]) -> _Row:
    glass = tuple((names[name], float(times)) for name, times in frame.counts.items())
    session = None if frame.session is None else sessions.get(frame.session)
    return _Row(glass, session, frame.error_stops, frame.weight)


def _inverse(matrix: list[list[float]]) -> list[list[float]]:
    """By Cholesky: the matrix is positive definite, its priors see to that."""
    size = len(matrix)
    lower = [[0.0] * size for _ in range(size)]
    for at in range(size):
        line = lower[at]
        for other in range(at + 1):
            rest = matrix[at][other] - sum(a * b for a, b in zip(line[:other], lower[other][:other], strict=True))
            line[other] = math.sqrt(rest) if at == other else rest / lower[other][other]
    # The inverse of the factor, column by column; the inverse is its square.
    unit = [[0.0] * size for _ in range(size)]
    for column in range(size):
        unit[column][column] = 1 / lower[column][column]
        for at in range(column + 1, size):
            rest = sum(lower[at][k] * unit[k][column] for k in range(column, at))
            unit[at][column] = -rest / lower[at][at]
    inverse = [[0.0] * size for _ in range(size)]
    for at in range(size):
        for other in range(at + 1):
            value = sum(unit[k][at] * unit[k][other] for k in range(at, size))
            inverse[at][other] = inverse[other][at] = value
    return inverse


@dataclass(frozen=True, slots=True)
class Tangled:
    """Two glasses that these frames cannot tell apart, and the one frame that would."""

    first: str
    other: str
    correlation: float


@dataclass(frozen=True, slots=True)
class Learnt:
    """The application's own answer: ``doubted`` glasses contradict their label so plainly that it is asked about."""

    calibration: Calibration
    doubted: tuple[str, ...]
    tangled: tuple[Tangled, ...]


def learn(frames: Sequence[Judged], noise_sd: float = 0.2) -> Learnt:
    """Robust, with habits, prior 0.33; wide where frames agree among themselves against the label.

    ``covariance`` is that of the glass alone.

    Raises
    ------
    Refusal
        As :func:`calibrate`.
    """
    priors: dict[str, float] = {name: OWN_PRIOR_SD for frame in frames for name in frame.counts}
    question = CalibrationQuestion(tuple(frames), priors, noise_sd, 0.15, robust=True)
    first = _fitted(question)
    doubted = [name for name in priors if _suspect(first, name) and _contradicts(question, priors, name)]
    wide = {**priors, **dict.fromkeys(doubted, WIDE_PRIOR_SD)}
    fitted = _fitted(replace(question, prior_sd=wide)) if doubted else first
    found = Calibration(_found(fitted), _habits(fitted), tuple(tuple(line) for line in fitted.fit.between))
    return Learnt(found, tuple(doubted), tuple(_tangled(found, frames)))


def _suspect(fitted: _Fitted, name: str) -> bool:
    """Return whether the middle of a glass's frames lies far enough from its label to be worth the full check."""
    at = fitted.names.index(name)
    rest = sorted(
        fitted.fit.apart(row) / times + fitted.fit.glass[at]
        for row in fitted.rows
        for piece, times in row.glass
        if piece == at
    )
    return len(rest) > 1 and max(abs(rest[len(rest) // 2]), abs(rest[(len(rest) - 1) // 2])) > _SUSPECT_STOPS


def _contradicts(question: CalibrationQuestion, priors: Mapping[str, float], name: str) -> bool:
    """Whether, given the freedom, this glass's frames put it over three prior sd off and agree with each other."""
    own = [frame for frame in question.frames if name in frame.counts]
    free = _found(_fitted(replace(question, prior_sd={**priors, name: WIDE_PRIOR_SD})))
    delta = {entry.id: entry.mean for entry in free}
    if abs(delta[name]) <= CONTRADICTS_SDS * OWN_PRIOR_SD:
        return False
    rest = [frame.error_stops - sum(times * delta[each] for each, times in frame.counts.items()) for frame in own]
    middle = sorted(rest)[len(rest) // 2]
    near = sum(abs(entry - middle) <= 2 * question.noise_sd for entry in rest)
    return near > len(rest) / 2


def _tangled(found: Calibration, frames: Sequence[Judged]) -> list[Tangled]:
    pairs = []
    for at, piece in enumerate(found.glass):
        for other_at in range(at + 1, len(found.glass)):
            other = found.glass[other_at]
            correlation = found.covariance[at][other_at] / (piece.sd * other.sd)
            apart = any(frame.counts.get(piece.id) != frame.counts.get(other.id) for frame in frames)
            if correlation < TANGLED or not apart:
                pairs.append(Tangled(piece.id, other.id, correlation))
    return pairs


def shown_sd(sd: float) -> float:
    """Return the sd a screen may show [stops]: never below what the method can tell."""
    return max(sd, LEAST_SHOWN_SD)
