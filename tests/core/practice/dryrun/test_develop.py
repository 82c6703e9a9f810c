"""Test core/practice/dryrun/develop.py."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.practice.dryrun.develop import (
    BINS,
    DevelopQuestion,
    Fault,
    FaultCode,
    Shot,
    ShotGlass,
    develop,
    histogram_of,
    loss_score,
)
from jackstaff_core.practice.dryrun.replay import ReplayQuestion, replay
from jackstaff_core.practice.dryrun.scenario import Scenario, hidden_stops
from jackstaff_core.practice.dryrun.shipped import SHIPPED
from jackstaff_core.practice.dryrun.world import scene_light
from tests.core.practice.dryrun.given_shots import CLEAN, MOLE, RING, SQUARE, TARN, named, right, shot, without


@given(
    st.sampled_from(SHIPPED), st.floats(0, 30), st.floats(0.01, 600), st.floats(0.01, 600), st.floats(0.01, 600),
    st.floats(-2, 2), st.floats(-1, 1), st.floats(-1, 1), st.booleans(), st.integers(0, 3),
)  # fmt: skip
def test_the_parts_of_an_error_add_up_to_it(
    scenario: Scenario, minute: float, seconds: float, aimed: float, metered: float,
    correction: float, purpose: float, decided: float, in_reading: bool, filters: int,
) -> None:  # fmt: skip
    stack = tuple(ShotGlass(item.id, item.thing.stops, in_reading) for item in scenario.filters[:filters])
    taken = shot(scenario, minute, seconds, aimed_seconds=aimed, metered_seconds=metered, stack=stack,
                 correction_stops=correction, purpose_stops=purpose, decided_stops=decided,
                 metered_at=scenario.starts_at + timedelta(minutes=minute - 1))  # fmt: skip
    made = develop(DevelopQuestion(scenario, taken))
    assert math.fsum(part.stops for part in made.parts) == pytest.approx(made.error_stops, abs=1e-9)
    assert made.error_stops < develop(DevelopQuestion(scenario, replace(taken, seconds=seconds * 2))).error_stops


@given(st.sampled_from([each for each in SHIPPED if not each.body.film]), st.floats(0, 30), st.floats(1, 900))
@settings(max_examples=30)
def test_a_frame_is_the_sum_of_its_light(scenario: Scenario, minute: float, seconds: float) -> None:
    """Against the plain sum over a fine grid: log2(sum 2^EV dt (S/100)/N^2) - D."""
    dense = scenario.filters[0]
    taken = shot(scenario, minute, seconds, stack=(ShotGlass(dense.id, dense.thing.stops),))
    real = (
        (dense.thing.stops + (dense.thing.stops_max or dense.thing.stops)) / 2
        if dense.thing.kind == "polariser"
        else dense.thing.stops
    )
    steps = 4000
    lit = sum(
        2 ** scene_light(scenario, scenario.framings[0], 60 * minute + seconds * (step + 0.5) / steps)
        for step in range(steps)
    )
    expected = math.log2(lit * seconds / steps * 2 ** (-2 / 3) / 64) - real - hidden_stops(scenario, dense).stops
    # f/8 and ISO 64 as the dial means them: 64 is two thirds of a stop below 100.
    made = develop(DevelopQuestion(scenario, taken)).error_stops
    assert made == pytest.approx(expected, abs=0.01)


def test_each_cause_takes_the_blame_for_its_own_part() -> None:
    def parts(taken: Shot) -> dict[str, float]:
        made = develop(DevelopQuestion(MOLE, taken))
        return {part.cause.value: part.stops for part in made.parts if abs(part.stops) > 0.02}

    taken = right(MOLE, 10, "Slot ND 6")
    off = hidden_stops(MOLE, named(MOLE, "Slot ND 6")).stops
    assert parts(replace(taken, seconds=taken.seconds * 2)) == {"timing": pytest.approx(1.1, abs=0.2), **parts(taken)}
    lighter = replace(taken, stack=(replace(taken.stack[0], stops=taken.stack[0].stops + 1),))
    assert parts(lighter)["filters"] == pytest.approx(1 - off, abs=0.01)
    # Seen through, a filter's own strength is no matter.
    assert "filters" not in parts(replace(lighter, stack=(replace(lighter.stack[0], in_reading=True),)))
    assert parts(replace(taken, correction_stops=off, purpose_stops=0.0)).get("filters", 0.0) == pytest.approx(
        0, abs=0.02
    )
    metered = replace(taken, metered_at=taken.opened_at)
    assert parts(replace(metered, metered_seconds=metered.metered_seconds / 4))["reading"] < -1.5
    assert parts(replace(taken, decided_stops=0.7))["decided"] == pytest.approx(0.7)


FAULTS: list[tuple[str, Scenario, Shot, list[str]]] = [
    ("clean", MOLE, CLEAN, []),
    ("light through the eyepiece", TARN, without(right(TARN, 3, "Slot ND 10", "Slot ND 6"), "eyepiece"), ["leak"]),
    ("light through the plates", TARN, without(right(TARN, 3, "Slot ND 10", "Slot ND 6"), "glass"), ["leak"]),
    ("no leak that shows", TARN, without(right(TARN, 3, "Slot ND 6", aperture="16"), "eyepiece", "glass"), []),
    ("strap in the wind", SQUARE, without(right(SQUARE, 3, "Slot ND 10"), "tripod"), ["shake"]),
    ("no wind, no shake", MOLE, without(CLEAN, "tripod"), []),
    ("finger holds bulb", MOLE, without(CLEAN, "remote"), ["shake"]),
    ("finger, ten seconds on the dial", MOLE, without(shot(MOLE, 3, 10, aperture="13"), "remote"), []),
    ("finger, two seconds", MOLE, without(shot(MOLE, 3, 2, aperture="5.6"), "remote"), ["shake"]),
    ("stabiliser", MOLE, without(CLEAN, "camera"), ["shake"]),
    ("not focused", MOLE, without(CLEAN, "focus"), ["focus"]),
    ("two rims on a wide lens", SQUARE, right(SQUARE, 3, "Ring ND 3", "Ring ND 6", aperture="16"), ["corner"]),
    ("ring turned too far", RING, right(RING, 3, "Ring VND 2–8", turned=7.5), ["cross"]),
    ("same ring, long lens", RING, right(RING, 3, "Ring VND 2–8", turned=4.0, framing=1), []),
    ("white without detail", MOLE, shot(MOLE, 3, 30), ["clipped"]),
]


@pytest.mark.parametrize(("_name", "scenario", "taken", "codes"), FAULTS, ids=[row[0] for row in FAULTS])
def test_what_was_forgotten_shows_where_it_would(_name: str, scenario: Scenario, taken: Shot, codes: list[str]) -> None:
    through = tuple(each.id for each in taken.stack)
    made = develop(DevelopQuestion(scenario, taken, through))
    assert [fault.code.value for fault in made.faults] == codes
    found = [loss for loss in replay(ReplayQuestion(scenario, (taken,))).losses if loss.shot == 0]
    assert [code for code in codes if code not in {loss.code.value for loss in found}] == []


def test_a_picture_s_loss_is_stops_off_and_two_for_each_fault_that_spoils_it() -> None:
    sound = develop(DevelopQuestion(MOLE, CLEAN))
    assert loss_score(sound) == pytest.approx(abs(sound.error_stops) + abs(sound.window_stops))
    for code in FaultCode:
        faulty = replace(sound, faults=(Fault(code, "It is there.", "Look for it."),))
        assert loss_score(faulty) - loss_score(sound) == pytest.approx(2 if code.spoils else 0), code


def test_the_histogram_is_the_whole_picture_and_moves_with_the_light() -> None:
    framing = MOLE.framings[0]
    means = []
    for stops in (-4.0, -1.0, 0.0, 1.0, 4.0):
        shares, clipped = histogram_of(framing, stops)
        assert len(shares) == BINS
        assert math.fsum(shares) == pytest.approx(math.fsum(tone.share for tone in framing.tones))
        means.append((math.fsum(place * share for place, share in enumerate(shares)), clipped))
    assert means == sorted(means)
    # Middle grey is sRGB 118 of 255.
    grey, _ = histogram_of(replace(framing, tones=(replace(framing.tones[0], share=1.0, stops=0.0),)), 0.0)
    assert max(range(BINS), key=grey.__getitem__) in (13, 14, 15)
