"""Test core/practice/drills.py."""

from __future__ import annotations

import math
import re
from collections import Counter
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.log.review import FINDINGS
from jackstaff_core.practice.drills import Answered, Drill, DrillKind, DrillQuestion, OwnGlass, drill
from jackstaff_core.practice.grading import GradeQuestion, grade
from jackstaff_core.practice.repetition import NextQuestion, Remembered, next_drill

NOW = datetime(2027, 4, 17, 5, tzinfo=UTC)
SEEDS = st.integers(0, 2**31)
GLASS = st.lists(st.floats(0.5, 15).map(lambda stops: OwnGlass("Slot ND", round(stops, 2))), max_size=6).map(tuple)


def typed(asked: Drill, by_stops: float = 0.0) -> str:
    """The right answer, moved by some stops, as somebody types it."""
    match asked.answered:
        case Answered.TIME:
            return f"{asked.right * 2**by_stops:.6f} s"
        case Answered.STOPS:
            return f"{asked.right + by_stops:.4f} stops"
        case Answered.CHOICE:
            return str(int(asked.right) + 1)


@given(st.sampled_from(DrillKind), SEEDS, GLASS)
def test_every_drill_has_one_right_answer_and_says_how_far_off_others_are(
    kind: DrillKind, seed: int, glass: tuple[OwnGlass, ...]
) -> None:
    asked = drill(DrillQuestion(kind, seed, glass))
    assert asked == drill(DrillQuestion(kind, seed, glass))
    question = GradeQuestion(kind, seed, glass, answer=typed(asked))
    told = grade(question)
    assert told.right is True
    assert told.right_text == asked.right_text
    if asked.answered is Answered.CHOICE:
        assert len(set(asked.choices)) == len(asked.choices)
        places = range(1, len(asked.choices) + 1)
        right = [place for place in places if grade(GradeQuestion(kind, seed, glass, answer=str(place))).right]
        assert right == [int(asked.right) + 1]
        return
    for by, hit in ((0.3, True), (-0.3, True), (0.4, False), (-0.4, False)):
        off = grade(GradeQuestion(kind, seed, glass, answer=typed(asked, by)))
        assert off.right is hit
        assert off.error_stops == pytest.approx(by, abs=0.01)
    if asked.answered is Answered.TIME:
        # The staff's sum ends where the answer stands, by what was asked.
        assert asked.steps[-1].seconds == pytest.approx(asked.right)
        assert kind is not DrillKind.DIAL or asked.steps[1].name in asked.asks


def test_a_fault_that_can_be_drawn_is_drawn_and_not_named() -> None:
    drawn = {}
    for seed in range(200):
        asked = drill(DrillQuestion(DrillKind.DEFECT, seed))
        cause = {finding.cause: finding for finding in FINDINGS.values()}[asked.right_text]
        if asked.picture is None:
            assert cause.label.lower() in asked.asks
            continue
        (fault,) = asked.picture.developed.faults
        assert fault.code.value == cause.code.value
        assert cause.label.lower() not in asked.asks.lower()
        drawn[fault.code.value] = asked.picture.developed
    assert drawn.keys() == {"leak", "shake", "corner", "cross", "cast", "clipped"}
    # What is not a fault's own sign is as it should be.
    assert drawn["clipped"].clipped_share > 0.15 > drawn["shake"].clipped_share
    assert drawn["cast"].cast_mired > 50 > drawn["leak"].cast_mired


@pytest.mark.parametrize(
    ("kind", "said", "error"),
    [
        # 1/30 two stops longer is 1/8 (drill 2): typed in many ways.
        (DrillKind.DIAL, "1/8", 0.0), (DrillKind.DIAL, "0.125 s", 0.0), (DrillKind.DIAL, "1/4", 1.0),
        # 4 min 16 s, fading by a quarter a minute: the integral of 2^(-t/240) over t reaches 256 s at 7 min 46 s.
        (DrillKind.LIGHT, "7m46", 0.0), (DrillKind.LIGHT, "7:46", 0.0), (DrillKind.LIGHT, "4 min 16 s", -0.864),
        (DrillKind.NOTATION, "10", 0.0), (DrillKind.NOTATION, "10 stops", 0.0), (DrillKind.NOTATION, "13 stops", 3.0),
        (DrillKind.NOTATION, "9 2/3", -0.3), (DrillKind.NOTATION, "9 ⅔ stops", -0.3),
        (DrillKind.NOTATION, "9.5", -0.47),
    ],
)  # fmt: skip
def test_answers_are_read_as_people_say_them(kind: DrillKind, said: str, error: float) -> None:
    assert grade(GradeQuestion(kind, 2, answer=said)).error_stops == pytest.approx(error, abs=0.05)


def test_the_moving_light_s_answer_is_the_integral() -> None:
    asked = drill(DrillQuestion(DrillKind.LIGHT, 2))
    rate = -0.25 / 60
    gathered = (2 ** (rate * asked.right) - 1) / (rate * math.log(2))
    assert gathered == pytest.approx(256, rel=1e-3)


@given(SEEDS)
def test_what_a_moving_light_s_drill_asks_in_words_is_what_it_counts(seed: int) -> None:
    asked = drill(DrillQuestion(DrillKind.LIGHT, seed))
    found = re.match(r"(?:(\d+) min ?)?(?:(\d+) s )?by the meter, and the light (\w+) by (.+) a minute", asked.asks)
    assert found is not None
    minutes, seconds = int(found[1] or 0), int(found[2] or 0)
    way = {"brightens": 1, "fades": -1}[found[3]]
    rate = way * {"a stop": 1.0, "half a stop": 0.5, "a quarter of a stop": 0.25}[found[4]] / 60
    gathered = (2 ** (rate * asked.right) - 1) / (rate * math.log(2))
    # What is said is rounded to whole seconds.
    assert gathered == pytest.approx(60 * minutes + seconds, abs=1)


def counted(**more: object) -> Counter[DrillKind]:
    return Counter(next_drill(NextQuestion(NOW, seed, **more)).kind for seed in range(2000))  # type: ignore[arg-type]


def test_what_is_due_comes_and_what_one_s_log_shows_comes_more_often() -> None:
    plain = counted()
    assert set(plain) == set(DrillKind)
    # What is no matter of the sum, nor seen in a picture, moves nothing.
    assert counted(mistakes=("late", "aborted")) == plain
    assert counted(mistakes=("cast", "late"))[DrillKind.DEFECT] > 2 * plain[DrillKind.DEFECT]
    assert counted(mistakes=("too_dark",))[DrillKind.STACK] > 1.5 * plain[DrillKind.STACK]
    assert DrillKind.STACK not in counted(last=DrillKind.STACK)
    later = tuple(Remembered(kind, 2, NOW + timedelta(hours=5 + place)) for place, kind in enumerate(DrillKind))
    waiting = next_drill(NextQuestion(NOW, 1, later))
    assert (waiting.kind, waiting.due, waiting.due_count) == (DrillKind.DIAL, False, 0)
    again = next_drill(NextQuestion(NOW + timedelta(hours=5.5), 1, later))
    assert (again.kind, again.due, again.due_count) == (DrillKind.DIAL, True, 1)


def test_faults_of_one_s_own_frames_are_asked_more_often() -> None:
    own = DrillQuestion(DrillKind.DEFECT, 0, mistakes=("leak", "aborted"))
    asked = [drill(replace(own, seed=seed)) for seed in range(90)]
    assert 45 < sum("eyepiece" in each.right_text for each in asked) < 85
