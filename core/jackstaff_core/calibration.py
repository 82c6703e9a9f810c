"""What the glass really measures, learnt from frames: Bayesian linear regression with habits of a session kept apart.

    e_j = beta_session + sum over the stack of delta_i + noise         + = stack denser than labelled
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
from dataclasses import dataclass

from .refusal import Refusal, within

MOST_FRAMES, MOST_GLASSES, MOST_SESSIONS = 5000, 60, 400
NU = 4.0
_ROUNDS = 20
OWN_PRIOR_SD, WIDE_PRIOR_SD = 0.33, 1.5
LEAST_SHOWN_SD = 0.05
"""However many frames say so, no glass is known better than this [stops]: the model itself is not."""
CONTRADICTS_SDS = 3.0
TANGLED = -0.85
"""Two glasses whose errors correlate below this cannot be told apart."""


@dataclass(frozen=True, slots=True)
class Judged:
    """A frame's stack by ids (none: bare), its error [stops], and the session it was made in."""

    glass: tuple[str, ...]
    error_stops: float
    session: str | None = None


@dataclass(frozen=True, slots=True)
class CalibrationQuestion:
    """``prior_sd`` a number or one for each glass; ``session_sd`` None for no habits."""

    frames: tuple[Judged, ...]
    prior_sd: float | Mapping[str, float] = 0.2
    noise_sd: float = 0.2
    session_sd: float | None = 0.15
    robust: bool = False


@dataclass(frozen=True, slots=True)
class Found:
    """What a glass or a session measures against its label [stops], its sd, and the frames behind it."""

    id: str
    mean: float
    sd: float
    frames: int


@dataclass(frozen=True, slots=True)
class Calibration:
    """``covariance`` in the order of ``glass``, then ``sessions``."""

    glass: tuple[Found, ...]
    sessions: tuple[Found, ...]
    covariance: tuple[tuple[float, ...], ...]


def calibrate(question: CalibrationQuestion) -> Calibration:
    """Learn from frames.

    Raises
    ------
    Refusal
        No frames, too many of anything, or a number out of bounds.
    """
    names, sessions = _unknowns(question)
    rows = [_row(frame, names, sessions) for frame in question.frames]
    errors = [frame.error_stops for frame in question.frames]
    precision = [1 / _prior(question, name) ** 2 for name in names]
    if question.session_sd is not None:
        precision += [1 / question.session_sd**2] * len(sessions)
    weights = [1.0] * len(rows)
    mean, covariance = _solve(rows, errors, weights, precision, question.noise_sd)
    if question.robust:
        for _ in range(_ROUNDS):
            weights = [
                _weight(row, error, mean, covariance, question.noise_sd)
                for row, error in zip(rows, errors, strict=True)
            ]
            mean, covariance = _solve(rows, errors, weights, precision, question.noise_sd)
    counts = Counter(at for row in rows for at, _ in row)
    found = [
        Found(name, mean[at], math.sqrt(covariance[at][at]), counts[at]) for at, name in enumerate((*names, *sessions))
    ]
    return Calibration(
        tuple(found[: len(names)]), tuple(found[len(names) :]), tuple(tuple(line) for line in covariance)
    )


Row = list[tuple[int, float]]
"""Which unknowns a frame holds, and how often."""


def _unknowns(question: CalibrationQuestion) -> tuple[list[str], list[str]]:
    if not 1 <= len(question.frames) <= MOST_FRAMES:
        raise Refusal("frames", f"{len(question.frames)} frames cannot be learnt from.", f"Give 1 to {MOST_FRAMES}.")
    within("noise_sd", question.noise_sd, 0.01, 3, "stops")
    if question.session_sd is not None:
        within("session_sd", question.session_sd, 0.001, 3, "stops")
    for place, frame in enumerate(question.frames):
        within(f"frames.{place}.error_stops", frame.error_stops, -20, 20, "stops")
    names = list(dict.fromkeys(name for frame in question.frames for name in frame.glass))
    kept = question.session_sd is not None
    sessions = list(dict.fromkeys(frame.session for frame in question.frames if kept and frame.session is not None))
    if len(names) > MOST_GLASSES:
        raise Refusal("frames", f"{len(names)} glasses are too many.", f"Give frames of at most {MOST_GLASSES}.")
    if len(sessions) > MOST_SESSIONS:
        raise Refusal("frames", f"{len(sessions)} sessions are too many.", f"Give at most {MOST_SESSIONS}.")
    for name in names:
        _prior(question, name)
    return names, sessions


def _prior(question: CalibrationQuestion, name: str) -> float:
    given = question.prior_sd
    sd = given.get(name, 0.2) if isinstance(given, Mapping) else given
    return within("prior_sd", sd, 0.001, 10, "stops")


def _row(frame: Judged, names: Sequence[str], sessions: Sequence[str]) -> Row:
    row = [(names.index(name), float(count)) for name, count in Counter(frame.glass).items()]
    if frame.session in sessions:
        row.append((len(names) + sessions.index(frame.session), 1.0))
    return row


def _solve(
    rows: Sequence[Row], errors: Sequence[float], weights: Sequence[float], precision: Sequence[float], noise: float
) -> tuple[list[float], list[list[float]]]:
    size = len(precision)
    matrix = [[precision[at] if at == other else 0.0 for other in range(size)] for at in range(size)]
    right = [0.0] * size
    for row, error, weight in zip(rows, errors, weights, strict=True):
        share = weight / noise**2
        for at, times in row:
            right[at] += share * times * error
            for other, others in row:
                matrix[at][other] += share * times * others
    covariance = _inverse(matrix)
    return [math.fsum(a * b for a, b in zip(line, right, strict=True)) for line in covariance], covariance


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


def _weight(
    row: Row, error: float, mean: Sequence[float], covariance: Sequence[Sequence[float]], noise: float
) -> float:
    apart = error - sum(times * mean[at] for at, times in row)
    spread = sum(times * others * covariance[at][other] for at, times in row for other, others in row)
    return (NU + 1) / (NU + (apart**2 + spread) / noise**2)


@dataclass(frozen=True, slots=True)
class Tangled:
    """Two glasses that these frames cannot tell apart, and the one frame that would."""

    one: str
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

    Raises
    ------
    Refusal
        As :func:`calibrate`.
    """
    priors: dict[str, float] = {name: OWN_PRIOR_SD for frame in frames for name in frame.glass}
    asked = CalibrationQuestion(tuple(frames), priors, noise_sd, 0.15, robust=True)
    doubted = [name for name in priors if _contradicts(asked, priors, name)]
    found = calibrate(
        CalibrationQuestion(
            asked.frames, {**priors, **dict.fromkeys(doubted, WIDE_PRIOR_SD)}, noise_sd, asked.session_sd, robust=True
        )
    )
    return Learnt(found, tuple(doubted), tuple(_tangled(found)))


def _contradicts(asked: CalibrationQuestion, priors: Mapping[str, float], name: str) -> bool:
    """Whether, given the freedom, this glass's frames put it over three prior sd off and agree with each other."""
    own = [frame for frame in asked.frames if name in frame.glass]
    if len(own) < 2:
        return False
    free = calibrate(
        CalibrationQuestion(
            asked.frames, {**priors, name: WIDE_PRIOR_SD}, asked.noise_sd, asked.session_sd, robust=True
        )
    )
    delta = {one.id: one.mean for one in free.glass}
    if abs(delta[name]) <= CONTRADICTS_SDS * OWN_PRIOR_SD:
        return False
    rest = [frame.error_stops - sum(delta[each] for each in frame.glass) for frame in own]
    middle = sorted(rest)[len(rest) // 2]
    near = sum(abs(one - middle) <= 2 * asked.noise_sd for one in rest)
    return near > len(rest) / 2


def _tangled(found: Calibration) -> list[Tangled]:
    pairs = []
    for at, one in enumerate(found.glass):
        for other_at in range(at + 1, len(found.glass)):
            other = found.glass[other_at]
            correlation = found.covariance[at][other_at] / (one.sd * other.sd)
            if correlation < TANGLED:
                pairs.append(Tangled(one.id, other.id, correlation))
    return pairs


def shown_sd(sd: float) -> float:
    """The sd a screen may show [stops]."""
    return max(sd, LEAST_SHOWN_SD)
