"""Test core/motion/by_eye.py."""

from __future__ import annotations

from jackstaff_core.motion.by_eye import DESCRIBED
from jackstaff_core.motion.subjects import KINDS
from tests.core.motion.given_subjects import CAMERA, SUBJECTS, windows


def test_every_word_that_describes_a_subject_is_one_the_models_take() -> None:
    assert {each.kind for each in DESCRIBED} == set(KINDS)
    for each in DESCRIBED:
        for aspect in each.aspects:
            looked = [windows(each.kind, CAMERA, **{**SUBJECTS[each.kind], **way.facts}) for way in aspect.ways]
            assert len(looked) >= 3
            # Each number that a word replaces would have had the last word itself: with it, all ways look alike.
            for name in aspect.instead:
                stood = {name: 800.0 if name == "height_m" else 2.0}
                alike = [
                    windows(each.kind, CAMERA, **{**SUBJECTS[each.kind], **way.facts, **stood}) for way in aspect.ways
                ]
                assert any(entry != other for entry, other in zip(alike, looked, strict=True)), name
    # Deeper water, more wind and nearer leaves: each word moves the windows its own way.
    (waves,) = next(each.aspects for each in DESCRIBED if each.kind == "sea")
    periods = [windows("sea", CAMERA, **way.facts)["fog"][0] or 0 for way in waves.ways]
    assert periods == sorted(periods)
