"""Test core/practice/dryrun/shipped.py."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import datetime, timedelta

import pytest

from jackstaff_core.practice.dryrun.scenario import Scenario
from jackstaff_core.practice.dryrun.shipped import BY_ID, SHIPPED
from jackstaff_core.practice.dryrun.world import scene_light
from jackstaff_core.sky.forecast import LightQuestion, light_at
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.wire.reader import plain, read
from tests.core.practice.dryrun.given_shots import IDS


@pytest.mark.parametrize("scenario", SHIPPED, ids=IDS)
def test_what_ships_is_its_own_file_and_lies_in_the_light_it_says(scenario: Scenario) -> None:
    assert read(Scenario, json.loads(json.dumps(plain(scenario)))) == scenario
    at, first = scenario.starts_at, replace(scenario.framings[0], offset_stops=0)
    asked = LightQuestion(
        Place(scenario.latitude, scenario.longitude), at, at, sky=scenario.outlook, scene=scenario.scene
    )
    # What the plan's forecast says and what is there are one morning.
    assert scene_light(scenario, first, 0) == pytest.approx(light_at(asked, at).ev100, abs=0.8)
    assert scenario.starts_at < scenario.leave_by() <= scenario.starts_at + timedelta(minutes=scenario.minutes)


@pytest.mark.parametrize(
    ("starts", "clock", "hours"),
    [("23:30", "00:15", 0.75), ("23:30", "22:00", -1.5), ("00:20", "23:50", -0.5), ("00:20", "12:00", 11 + 2 / 3)],
)
def test_a_clock_time_is_the_one_nearest_to_the_start(starts: str, clock: str, hours: float) -> None:
    begin = datetime.fromisoformat(f"2027-04-17T{starts}+02:00")
    at = replace(BY_ID["dawn-mole"], starts_at=begin, zone="Europe/Oslo").at_clock(clock)
    assert (at - begin) / timedelta(hours=1) == pytest.approx(hours)
