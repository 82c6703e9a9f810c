"""Test core/practice/dryrun/world.py."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest

from jackstaff_core.practice.dryrun.world import FilterOn, ReadMeterQuestion, meter, scene_light
from jackstaff_core.questions import ask
from tests.core.practice.dryrun.given_shots import MOLE, on


def test_the_meter_shows_the_light_as_the_dial_has_it_and_goes_blind_behind_dense_filters() -> None:
    def looked(*names: str, aperture: str = "8", iso: str = "64") -> Any:
        through = tuple(FilterOn(each.id, each.stops) for each in on(MOLE, *names))
        return meter(ReadMeterQuestion(MOLE, 0, MOLE.starts_at + timedelta(minutes=20), aperture, iso, through))

    there = scene_light(MOLE, MOLE.framings[0], 1200)
    bare = looked()
    assert bare.ev100 == pytest.approx(there, abs=0.2)
    shown = ask("exposure", {"reading": {"shutter": bare.shutter, "aperture": "8", "iso": "64"}})["scene_ev100"]
    assert shown == pytest.approx(there, abs=1 / 6 + 3 * MOLE.flicker_stops)
    through = looked("Slot ND 3", aperture="4", iso="400")
    assert through.shutter is not None
    assert looked("Slot ND 10").shutter is None
    assert "blinks" in looked("Slot ND 10").text
    # Longer than the dial goes.
    assert looked("Slot ND 3", aperture="22").shutter is None
    # The other picture lies half a stop in the shade.
    shade = meter(ReadMeterQuestion(MOLE, 1, MOLE.starts_at + timedelta(minutes=20), "8", "64"))
    assert shade.ev100 == pytest.approx(there - 0.5, abs=0.2)
