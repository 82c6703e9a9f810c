"""Test that each number a question takes is taken at its bounds and refused beyond, in its own name."""

from __future__ import annotations

import copy
from typing import Any

import pytest

from jackstaff_core.questions import ask
from jackstaff_core.words.refusal import Refusal, Refusals
from tests.core.test_questions import READING, SAMPLES

DAY = 86_400.0
PLACE = {"latitude": 58.0, "longitude": 6.8}
LIT = {**PLACE, "from": "2027-04-17T03:00:00Z", "to": "2027-04-17T04:00:00Z", "step_seconds": 600}
RATED = {
    "at": "2027-04-17T04:10:00Z",
    "readings": [{"reading": READING, "at": "2027-04-17T04:00:00Z"}],
    "forecast": {"stops_per_minute": 0.1, "rate_sd": 0.02},
}
BUDGET = {"seconds": 120, "available_seconds": 3600, "battery_wh": 14, "celsius": 4}
TRADE = {"seconds": 30, "f_number": 8, "focal_mm": 24, "widest": 2.8, "smallest": 22, "pitch_um": 4.35}
MOVING = {**SAMPLES["exposure"], "film": None, "light": {"stops_per_minute": 0.0, "rate_sd": 0.1, "delay_seconds": 1.0}}
GRADUATED = {"sky": "1/250", "ground": "1/30", "owned": [{"id": "two", "stops": 2, "transition": "soft"}]}
BOUNDS: list[tuple[str, dict[str, Any], str, float, float]] = [
    ("exposure", SAMPLES["exposure"], "purpose_stops", -5, 5),
    ("exposure", MOVING, "light.rate_sd", 0, 5),
    ("exposure", MOVING, "light.stops_per_minute", -30, 30),
    ("exposure", MOVING, "light.delay_seconds", 0, DAY),
    ("run/close", SAMPLES["run/close"], "delay_seconds", 0, DAY),
    ("run/close", SAMPLES["run/close"], "stops_per_minute", -30, 30),
    ("run/close", SAMPLES["run/close"], "needed_seconds", 1 / 32_000, DAY),
    ("light/rate", RATED, "forecast.stops_per_minute", -10, 10),
    ("light/rate", RATED, "forecast.rate_sd", 0, 5),
    ("light", LIT, "latitude", -90, 90),
    ("light", LIT, "longitude", -180, 180),
    ("light", {**LIT, "ridge": {"height_m": 100.0, "distance_m": 900.0}}, "ridge.height_m", 0, 9000),
    ("light", {**LIT, "ridge": {"height_m": 100.0, "distance_m": 900.0}}, "ridge.distance_m", 1, 200_000),
    ("outing/budget", BUDGET, "battery_wh", 0.1, 500),
    ("outing/budget", BUDGET, "celsius", -40, 50),
    ("outing/budget", BUDGET, "draw_w", 0.1, 50),
    ("outing/budget", BUDGET, "handling_seconds", 0, 3600),
    ("trade", TRADE, "pitch_um", 0.5, 50),
    ("trade", TRADE, "focal_mm", 1, 3000),
    ("graduated", GRADUATED, "sky_share", 0.01, 0.99),
    ("graduated", GRADUATED, "lead_stops", -3, 4),
    ("flash", {"reading": READING, "wide": "2.8", "sync_seconds": 0.005}, "sync_seconds", 1e-4, 1),
    ("stacks", SAMPLES["stacks"], "target.within_stops", 0, 5),
    ("run/series", {"seconds": 61, "way": "bracket", "count": 3}, "spacing_stops", 1 / 3, 4),
]


def refused(name: str, body: dict[str, Any], path: str, value: float) -> set[str]:
    """Which fields are refused with this value there."""
    asked = copy.deepcopy(body)
    *parents, last = path.split(".")
    part = asked
    for parent in parents:
        part = part[parent]
    part[last] = value
    try:
        ask(name, asked)
    except Refusal as refusal:
        return {refusal.field}
    except Refusals as refusals:
        return {each.field for each in refusals.all}
    return set()


@pytest.mark.parametrize(("name", "body", "path", "low", "high"), BOUNDS, ids=[f"{row[0]} {row[2]}" for row in BOUNDS])
def test_a_number_is_taken_at_its_bounds_and_refused_beyond(
    name: str, body: dict[str, Any], path: str, low: float, high: float
) -> None:
    beyond = (high - low) * 1e-3
    for at_bound, outside in ((low, low - beyond), (high, high + beyond)):
        assert path not in refused(name, body, path, at_bound), at_bound
        assert path in refused(name, body, path, outside), outside
