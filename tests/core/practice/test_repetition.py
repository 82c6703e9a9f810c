"""Test core/practice/repetition.py."""

from __future__ import annotations

from jackstaff_core.practice.drills import DrillKind
from jackstaff_core.practice.grading import GradeQuestion, grade
from jackstaff_core.practice.repetition import hours_of, next_box


def test_boxes_go_on_by_one_and_back_to_the_first() -> None:
    assert [next_box(box, True) for box in (1, 2, 3, 4, 5)] == [2, 3, 4, 5, 5]
    assert [next_box(box, False) for box in (1, 3, 5)] == [1, 1, 1]
    # At once, then after one day, three, ten and thirty.
    assert [hours_of(box) / 24 for box in (1, 2, 3, 4, 5)] == [0, 1, 3, 10, 30]
    assert grade(GradeQuestion(DrillKind.DIAL, 2, answer="1/8", box=2)).again_hours == hours_of(3)
    assert grade(GradeQuestion(DrillKind.DIAL, 2, answer="1 s", box=4)).again_hours == 0
