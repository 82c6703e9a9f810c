"""Test core/log/review.py."""

from __future__ import annotations

from jackstaff_core.log.frame import Defect
from jackstaff_core.log.review import FINDINGS, remarks
from tests.core.log.given_frames import NINE, TURNED, frame


def test_every_finding_has_cause_and_cure_of_its_own_set_up() -> None:
    assert set(FINDINGS) == set(Defect)
    rich = frame(defects=frozenset(Defect), focal_mm=16.0, rims_mm=9.0, glass=(TURNED, NINE), seconds=12.0)
    told = {each.code: each for each in remarks(rich)}
    assert list(told) == list(Defect)
    for code, words in {
        Defect.CROSS: "Turned ND stood at 5.0 stops at 16 mm",
        Defect.CORNER: "9 mm of rims",
        Defect.LEAK: "14 stops of filters",
    }.items():
        assert words in told[code].cause
    assert "No variable filter" in remarks(frame(defects=frozenset({Defect.CROSS})))[0].cause
