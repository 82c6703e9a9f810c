"""Calibration against the reference vectors, laws of the model, and truth hidden in simulated frames."""

from __future__ import annotations

import math
import random
import statistics

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.log.calibration import CalibrationQuestion, Judged, _fitted, calibrate, learn, shown_sd
from jackstaff_core.words.refusal import Refusal

A, B, C = ("A",), ("B",), ("C",)
AB = ("A", "B")


def judged(*stacks: tuple[tuple[str, ...], float], session: str | None = None) -> tuple[Judged, ...]:
    return tuple(Judged(glass, error, session) for glass, error in stacks)


@pytest.mark.parametrize(
    ("frames", "prior", "noise", "means", "sds", "correlation"),
    [
        (judged((A, 0.3)), 0.2, 0.2, [0.15], [0.141421], None),
        (judged(*[(A, 0.3)] * 4), 0.2, 0.2, [0.24], [0.0894427], None),
        (judged(*[(AB, 0.5)] * 4), 0.2, 0.2, [0.222222] * 2, [0.149071] * 2, -0.8),
        (judged(*[(AB, 0.4)] * 3, *[(A, 0.2)] * 3), 0.2, 0.2, None, [0.0917663, 0.121395], -0.566947),
        (judged((AB, 0.3), (("A", "C"), 0.2), (("B", "C"), 0.0)), 0.2, 0.2, None, [0.126491] * 3, -0.25),
        (judged(*[(A, error) for error in (0.3, 0.2, 0.4, 0.3, -1.8)]), 0.2, 0.2, [-0.1], [0.0816497], None),
        (judged(*[(A, 0.1)]), 0.2, 0.1, None, [0.0894427], None),
        (judged(*[(A, 0.1)] * 7), 0.2, 0.3, None, [0.0986394], None),
        (judged(*[(A, 0.1)] * 13), 0.2, 0.4, None, [0.0970143], None),
        (judged(*[(AB, 0.1)] * 10), 0.2, 0.2, None, [0.144749] * 2, None),
    ],
)
def test_the_reference_vectors(
    frames: tuple[Judged, ...],
    prior: float,
    noise: float,
    means: list[float] | None,
    sds: list[float],
    correlation: float | None,
) -> None:
    found = calibrate(CalibrationQuestion(frames, prior, noise, None))
    assert [glass.sd for glass in found.glass] == pytest.approx(sds, rel=1e-5)
    if means:
        assert [glass.mean for glass in found.glass] == pytest.approx(means, abs=1e-6)
    if correlation:
        glass, other = found.glass[:2]
        assert found.covariance[0][1] / (glass.sd * other.sd) == pytest.approx(correlation, abs=1e-6)


def test_students_noise_lets_a_wild_frame_go() -> None:
    frames = judged(*[(A, error) for error in (0.3, 0.2, 0.4, 0.3, -1.8)])
    found = calibrate(CalibrationQuestion(frames, session_sd=None, robust=True)).glass[0]
    assert [found.mean, found.sd] == pytest.approx([0.225168, 0.0847813], abs=1e-5)


@pytest.mark.parametrize(
    ("frames", "sds", "correlation"),
    [
        (judged(*[(A, 0.3)] * 3, session="s1"), [0.137481, 0.125794], -0.686244),
        (judged(*[(A, 0.3)] * 3, *[((), 0.1)] * 2, session="s1"), [0.122349, 0.0939913], -0.576166),
        (tuple(Judged(A, 0.3, session) for session in ("s1", "s2", "s3")), [0.117041] + [0.127182] * 3, -0.331295),
    ],
)
def test_a_sessions_habit_is_kept_apart(frames: tuple[Judged, ...], sds: list[float], correlation: float) -> None:
    found = calibrate(CalibrationQuestion(frames))
    everything = (*found.glass, *found.sessions)
    assert [each.sd for each in everything] == pytest.approx(sds, rel=1e-5)
    assert found.covariance[0][1] / (sds[0] * sds[1]) == pytest.approx(correlation, abs=1e-4)


def test_a_frame_s_own_doubt_is_that_of_its_filters_and_its_session_together() -> None:
    frames = tuple(Judged(glass, error, session) for glass, error, session in (
        (A, 0.3, "s1"), (AB, 0.4, "s1"), (B, 0.1, "s2"), (AB, 0.5, None), ((), 0.1, "s2")
    ))  # fmt: skip
    fitted = _fitted(CalibrationQuestion(frames))
    covariance = fitted.covariance()
    for row in fitted.rows:
        times = dict(row.glass)
        if row.session is not None:
            times[len(fitted.names) + row.session] = 1.0
        whole = sum(
            one * other * covariance[at][beside] for at, one in times.items() for beside, other in times.items()
        )
        assert fitted.fit.spread(row) == pytest.approx(whole, abs=1e-12)


def test_priors_by_glass() -> None:
    frames = judged((AB, 0.6))
    found = calibrate(CalibrationQuestion(frames, {"A": 0.33, "B": 0.1}, 0.3, None))
    means = {glass.id: glass.mean for glass in found.glass}
    # The glass one trusts less takes more of the error, as the squares of the priors.
    assert means["A"] / means["B"] == pytest.approx((0.33 / 0.1) ** 2)


@given(st.lists(st.tuples(st.sampled_from([A, B, AB, ()]), st.floats(-2, 2)), min_size=1, max_size=12))
def test_more_frames_make_surer_and_order_does_not_matter(
    stacks: list[tuple[tuple[str, ...], float]],
) -> None:
    whole = {glass.id: glass for glass in calibrate(CalibrationQuestion(judged(*stacks))).glass}
    part = {glass.id: glass for glass in calibrate(CalibrationQuestion(judged(*stacks[:1]))).glass}
    turned = {glass.id: glass for glass in calibrate(CalibrationQuestion(judged(*reversed(stacks)))).glass}
    for name, glass in part.items():
        assert whole[name].sd <= glass.sd + 1e-12
    for name, glass in whole.items():
        assert [turned[name].mean, turned[name].sd] == pytest.approx([glass.mean, glass.sd], abs=1e-9)


def test_a_mislabelled_glass_is_found_and_asked_about() -> None:
    frames = judged((A, 1.75), (A, 1.85), (("A", "B"), 1.8), (B, 0.0), ((), 0.05))
    found = learn(frames)
    assert found.doubted == ("A",)
    assert {glass.id: glass.mean for glass in found.calibration.glass}["A"] == pytest.approx(1.75, abs=0.12)
    # Frames that disagree among themselves are no case against the label.
    for errors in ((1.8, -0.3, 0.1, 0.0), (0.6, 1.2, 1.8, 2.4, 3.0), (0.6, 1.8, 1.85, 3.0)):
        assert learn(judged(*((A, error) for error in errors))).doubted == ()
    assert learn(judged(*((A, error) for error in (0.6, 1.8, 1.85, 1.9, 3.0)))).doubted == ("A",)
    # Glass that was only ever used together cannot be told apart; two frames alone tell.
    tangled = learn(judged(*[(AB, 0.4)] * 6)).tangled
    assert [(pair.first, pair.other) for pair in tangled] == [("A", "B")]
    assert learn(judged(*[(AB, 0.4)] * 6, *[(A, 0.2)] * 2)).tangled == ()
    # Against more together they do not tell yet.
    (still,) = learn(judged(*[(AB, 0.4)] * 12, *[(A, 0.2)] * 2)).tangled
    assert still.correlation == pytest.approx(-0.91, abs=0.01)
    assert shown_sd(0.001) == 0.05


@pytest.mark.parametrize("true", [0.3, 1.8])
def test_the_truth_lies_in_the_stated_band(true: float) -> None:
    inside, errors = 0, []
    for seed in range(200):
        dice = random.Random(f"{seed} {true}")
        hidden = {"A": true, "B": dice.gauss(0, 0.2)}
        habit = dice.gauss(0, 0.1)
        stacks = [A, AB, A, B, A, ()]
        frames = [Judged(s, sum(hidden[g] for g in s) + habit + dice.gauss(0, 0.15), "dawn") for s in stacks]
        known = next(found for found in learn(frames, 0.15).calibration.glass if found.id == "A")
        inside += abs(known.mean - true) <= 2 * known.sd
        errors.append(abs(known.mean - true))
    assert 0.90 <= inside / 200 <= 0.995
    assert statistics.median(errors) < 0.1


@pytest.mark.parametrize(
    ("question", "field"),
    [
        (CalibrationQuestion(()), "frames"),
        (CalibrationQuestion(judged((A, math.nan))), "frames.0.error_stops"),
        (CalibrationQuestion(judged((A, 0.1)), noise_sd=0.0), "noise_sd"),
        (CalibrationQuestion(judged((A, 0.1)), prior_sd={"A": 0.0}), "prior_sd"),
        (CalibrationQuestion(tuple(Judged((f"g{n}",), 0.1) for n in range(61))), "frames"),
    ],
)
def test_what_cannot_be_learnt_from_is_refused(question: CalibrationQuestion, field: str) -> None:
    with pytest.raises(Refusal) as refusal:
        calibrate(question)
    assert refusal.value.field == field
