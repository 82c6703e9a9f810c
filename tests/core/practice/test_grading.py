"""Test core/practice/grading.py."""

from __future__ import annotations

import pytest

from jackstaff_core.practice.drills import DrillKind
from jackstaff_core.practice.grading import GradeQuestion, grade
from jackstaff_core.words.refusal import Refusal


def test_words_say_what_the_frame_would_have_been() -> None:
    assert (
        "1 stop too long: the frame would be that much too bright"
        in grade(GradeQuestion(DrillKind.DIAL, 2, answer="1/4")).text
    )
    assert "⅔ stop too short" in grade(GradeQuestion(DrillKind.DIAL, 2, answer="1/13")).text
    assert "3 stops too many" in grade(GradeQuestion(DrillKind.NOTATION, 2, answer="13")).text


def test_what_can_mean_two_things_is_asked_and_nothing_moves() -> None:
    told = grade(GradeQuestion(DrillKind.DIAL, 2, answer="4", box=3))
    assert (told.right, told.box, told.again_hours) == (None, 3, 0)
    assert told.meanings == ("1/4 s", "4 s")
    for kind, said in ((DrillKind.DIAL, "soon"), (DrillKind.NOTATION, "many"), (DrillKind.DEFECT, "5")):
        with pytest.raises(Refusal):
            grade(GradeQuestion(kind, 2, answer=said))
