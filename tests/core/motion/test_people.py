"""Test core/motion/people.py."""

from __future__ import annotations

import math

import pytest

from jackstaff_core.motion import people
from tests.core.motion.given_subjects import at, windows
from tests.core.tables import facts, near


@facts("standing")
def test_standing_people(row: dict[str, str]) -> None:
    walkers = people.Walkers(standing=float(row["standing"]), stay_s=float(row["stay"]))
    share = float(row["share"])
    assert people.standing_ghosts(walkers, float(row["seconds"]), share) == near(row["ghosts"])
    if share < 1:
        assert people.worst_seconds(walkers, share) == near(row["worst"])


@pytest.mark.parametrize("stay", [10.0, 45.0, 300.0])
def test_frames_for_a_median_are_so_far_apart_that_nobody_stays_for_half_of_them(stay: float) -> None:
    frames = people.median(people.Walkers(standing=3, stay_s=stay))
    half = (frames.frames - 1) * frames.apart_seconds / 2
    assert math.exp(-half / stay) == pytest.approx(people.CERTAIN)


def test_a_place_is_empty_once_those_who_stood_about_have_gone() -> None:
    walking = windows("people")
    standing = windows("people", standing=4, stay_s=45)
    # Four who stay 45 s on average: half a person is left after nineteen minutes, by the queue's own sum.
    gone = standing["gone"][0] or 0
    assert gone == pytest.approx(1155, rel=0.01)
    assert people.standing_ghosts(people.Walkers(standing=4, stay_s=45), gone) == pytest.approx(0.5, abs=1e-6)
    assert standing["blurred"] == walking["blurred"]
    # Those who pass have their own windows, as if nobody stood about.
    assert standing["ghosts"] == walking["ghosts"]
    assert standing["walkers gone"] == [pytest.approx(walking["gone"][0], rel=1e-5), gone]
    assert at("people", 10, standing=4, stay_s=45).look == "ghosts"
    assert at("people", 60, standing=4, stay_s=45).look == "walkers gone"
    assert at("people", gone + 1, standing=4, stay_s=45).look == "gone"
    # So few that nobody is expected to be seen change nothing.
    assert windows("people", standing=0.2, stay_s=45) == walking


@pytest.mark.parametrize(
    ("stay", "words"),
    [
        (0.74, "hardly anybody standing stays"),
        (0.76, "about 1 standing stays"),
        (1.4, "about 1 standing stays"),
        (1.6, "about 2 standing stay"),
    ],
)
def test_how_many_who_stand_about_are_seen_is_said_in_whole_people(stay: float, words: str) -> None:
    of_each = people.standing_ghosts(people.Walkers(standing=1, stay_s=60), 225)
    assert at("people", 225, standing=stay / of_each, stay_s=60).text == f"walkers are gone, {words}"
