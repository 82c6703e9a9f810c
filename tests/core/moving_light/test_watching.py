"""Test core/moving_light/watching.py."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.moving_light.watching import PATIENT_LOOKS, Eye, Look, LookQuestion, Sight, look
from jackstaff_core.words.refusal import Refusal

COLUMNS = 16


def scene(seed: int = 1) -> list[float]:
    """Luminances of 192 cells with structure, around a tenth of white."""
    dice = random.Random(seed)
    return [0.1 * 2 ** dice.gauss(0, 0.8) for _ in range(192)]


def looked(cells: list[float], before: Eye | None = None, **more: Any) -> Look:
    seen = tuple(None if cell > 0.95 else cell for cell in cells)
    return look(LookQuestion(seen, COLUMNS, more.pop("held", True), before=before, **more))


@given(st.floats(-4, 2.5), st.integers(1, 20))
def test_a_scene_that_is_brighter_by_so_much_says_so_much(stops: float, seed: int) -> None:
    first = looked(scene(seed))
    second = looked([cell * 2 ** (stops / 2) for cell in scene(seed)], first.eye)
    third = looked([cell * 2**stops for cell in scene(seed)], second.eye)
    assert (first.stops, first.part, third.sight) == (0, 0, Sight.WATCHING)
    assert third.stops == pytest.approx(stops, abs=1e-6)
    assert third.sd is not None
    assert 0.01 <= third.sd < 0.4


def passer(cells: list[float]) -> list[float]:
    return [cell * 0.1 if 4 <= place % COLUMNS < 7 else cell for place, cell in enumerate(cells)]


def three_apart(cells: list[float]) -> list[float]:
    return [cell * 0.1 if place % COLUMNS in (2, 7, 12) else cell for place, cell in enumerate(cells)]


def swung(cells: list[float]) -> list[float]:
    return [*cells[35:], *cells[:35]]


DISTURBED: list[tuple[str, Callable[[list[float]], list[float]], Sight]] = [
    ("nothing", lambda cells: cells, Sight.WATCHING),
    ("somebody walks past", passer, Sight.WATCHING),
    ("three walk past, apart", three_apart, Sight.WATCHING),
    (
        "uneven light",
        lambda cells: [c * 2 ** (0.5 * (p // COLUMNS - 5.5) / 6) for p, c in enumerate(cells)],
        Sight.WATCHING,
    ),
    ("the phone swings", swung, Sight.MOVED),
    ("a hand before the lens", lambda cells: [0.012 for _ in cells], Sight.MOVED),
    ("a pocket", lambda cells: [0.0001 for _ in cells], Sight.LOST),
    ("the sun into the lens", lambda cells: [1.0 for _ in cells], Sight.LOST),
    ("brighter by more than light can be", lambda cells: [c * 2**-3.5 for c in cells], Sight.MOVED),
]


def test_few_cells_are_believed_a_stop_and_many_more() -> None:
    eye = looked(scene()).eye
    for _ in range(5):
        eye = looked(scene(), eye).eye
    few = [cell if place < 3 * COLUMNS else 1.0 for place, cell in enumerate(scene())]
    for stops, all_see, few_see in ((0.8, Sight.WATCHING, Sight.WATCHING), (1.6, Sight.WATCHING, Sight.MOVED)):
        darker = [cell * 2**-stops for cell in scene()]
        some = [cell if cell >= 1 else cell * 2**-stops for cell in few]
        assert (looked(darker, eye).sight, looked(some, eye).sight) == (all_see, few_see), stops


def test_what_stays_in_the_picture_is_learnt_from_the_sixteenth_look_on() -> None:
    eye = looked(scene()).eye
    for _ in range(5):
        eye = looked(scene(), eye).eye
    assert eye is not None
    known = eye.known
    moved_from = []
    for count in range(1, 25):
        eye = looked(passer(scene()), eye).eye
        assert eye is not None
        if eye.known[5] != known[5]:
            moved_from.append(count)
    assert moved_from[0] == PATIENT_LOOKS + 1


@pytest.mark.parametrize(("what", "done", "sight"), DISTURBED, ids=[row[0] for row in DISTURBED])
def test_what_disturbs_a_look(what: str, done: Callable[[list[float]], list[float]], sight: Sight) -> None:
    eye = looked(scene()).eye
    for _ in range(5):
        eye = looked(scene(), eye).eye
    found = looked(done(scene()), eye)
    assert found.sight is sight
    assert (found.stops is None) == (sight is not Sight.WATCHING)
    assert found.stops is None or abs(found.stops) < 0.05
    # And the look after it is as if nothing had been.
    after = looked(scene(), found.eye)
    assert (after.sight, after.part) == (Sight.WATCHING, 0)
    assert after.stops == pytest.approx(0, abs=0.02)


def test_a_phone_that_looks_elsewhere_for_good_begins_a_part_of_its_own() -> None:
    eye = looked(scene()).eye
    sights = []
    for _ in range(4):
        found = looked(swung(scene()), eye)
        eye = found.eye
        sights.append((found.sight, found.part, found.stops))
    assert sights == [
        (Sight.MOVED, 0, None),
        (Sight.MOVED, 0, None),
        (Sight.WATCHING, 1, 0.0),
        (Sight.WATCHING, 1, 0.0),
    ]


def test_a_part_of_the_picture_is_known_as_the_mean_of_its_looks() -> None:
    before = eye = looked(scene()).eye
    changed = [cell * 2 ** (0.05 if place == 7 else 0.0) for place, cell in enumerate(scene())]
    for count in range(2, 40):
        eye = looked(changed, eye).eye
        assert eye is not None
        assert before is not None
        assert eye.looks[7] == count
        known, was = eye.known[7], before.known[7]
        assert known is not None
        assert was is not None
        assert known - was == pytest.approx(0.05 * (count - 1) / count, abs=1e-3)


def test_somebody_who_stays_is_learnt_in_minutes_and_shifts_nothing() -> None:
    eye = looked(scene()).eye
    for _ in range(200):
        found = looked(passer(scene()), eye)
        eye = found.eye
        assert found.stops == pytest.approx(0, abs=0.06)


def test_people_who_walk_through_the_picture_leave_nothing_behind() -> None:
    eye = looked(scene()).eye
    for turn in range(48):
        shade = {turn % COLUMNS: 0.1, (turn + 1) % COLUMNS: 0.1, (turn + 2) % COLUMNS: 0.5}
        found = looked([cell * shade.get(place % COLUMNS, 1.0) for place, cell in enumerate(scene())], eye)
        eye = found.eye
        assert found.stops == pytest.approx(0, abs=0.02)


def test_exposure_that_is_told_is_taken_out_and_one_that_is_not_is_refused() -> None:
    first = looked(scene(), held=False, exposure_seconds=0.01, iso=100)
    # The camera let in twice as much and the picture is the same: the light has halved.
    second = looked(scene(), first.eye, held=False, exposure_seconds=0.01, iso=200)
    assert second.stops == pytest.approx(-1)
    assert first.phone_stops is not None
    assert second.phone_stops == pytest.approx(first.phone_stops - 1)
    assert looked(scene()).phone_stops is None
    for half in ({}, {"iso": 100}, {"exposure_seconds": 0.01}):
        with pytest.raises(Refusal, match="does not tell it"):
            looked(scene(), held=False, **half)


def test_grids_that_do_not_fit_are_refused() -> None:
    eye = looked(scene()).eye
    with pytest.raises(Refusal, match="another grid"):
        look(LookQuestion(tuple(scene()[:160]), COLUMNS, True, before=eye))
    assert eye is not None
    for part in ("known", "looks", "last"):
        with pytest.raises(Refusal, match="another grid"):
            looked(scene(), replace(eye, **{part: getattr(eye, part)[:160]}))
    with pytest.raises(Refusal, match="another grid"):
        looked(scene(), replace(eye, odd=(1, 2, 3)))
    with pytest.raises(Refusal, match="no grid"):
        look(LookQuestion(tuple(scene()[:100]), COLUMNS, True))
