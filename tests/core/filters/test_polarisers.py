"""Test core/filters/polarisers.py."""

from __future__ import annotations

import pytest

from jackstaff_core.filters.polarisers import (
    Pair,
    angle_for,
    cross_setting,
    ray_to,
    spread,
    stops_per_degree,
    transmission,
    unevenness,
    usable_end,
    usable_for_spread,
)
from tests.core.tables import facts, near


@facts("variable_axis")
def test_variable_on_axis(row: dict[str, str]) -> None:
    stops = float(row["stops"])
    theta = angle_for(stops)
    assert theta == near(row["theta"])
    assert 90 - theta == near(row["from_crossed"], 5)
    assert stops_per_degree(stops) == near(row["per_degree"])
    # Light that leaks through crossed films makes a setting weaker: the same angle gives the fewer stops of the table.
    for leak, weaker in ((1e-4, row["leak_1e4"]), (1e-3, row["leak_1e3"])):
        assert angle_for(float(weaker), leak=leak) == pytest.approx(theta, abs=0.05)


@facts("variable_rays")
def test_variable_off_axis(row: dict[str, str]) -> None:
    focal, x, y, theta, bisector = (float(row[name]) for name in ("focal", "x", "y", "theta", "bisector"))
    outside = transmission(ray_to(x, y, focal, 1.0), theta, bisector, 0.0)
    inside = transmission(ray_to(x, y, focal), theta, bisector, 1e-4)
    assert outside == near(row["external"], 5)
    assert inside == near(row["film"], 5)


@facts("variable_usable")
def test_where_a_variable_becomes_uneven(row: dict[str, str]) -> None:
    pair = Pair(index=float(row["index"]))
    focal = float(row["focal"])
    found = cross_setting(focal, pair) if row["limit"] == "cross" else usable_end(float(row["limit"]), focal, pair)
    assert found == pytest.approx(float(row["stops"]), abs=0.01)


@pytest.mark.parametrize(
    ("stops", "focal", "spread"),
    [(6, 16, 3.8), (6, 24, 2.0), (6, 35, 1.06), (6, 50, 0.56), (4, 24, 0.83), (4, 85, 0.09)],
)
def test_what_one_sees_of_it(stops: float, focal: float, spread: float) -> None:
    found = unevenness(stops, focal)
    assert found.spread_5_95 == pytest.approx(spread, rel=0.12, abs=0.02)
    assert found.corner_to_corner > found.spread_5_95
    # The cross has come in at its own setting and stays in beyond it.
    cross = cross_setting(focal)
    assert [unevenness(cross + beside, focal).cross for beside in (-0.01, 0.0, 0.01)] == [False, True, True]


@pytest.mark.parametrize("focal", [16, 24, 50, 200])
@pytest.mark.parametrize("limit", [0.3, 1.0])
def test_how_far_one_turns_for_what_one_puts_up_with(limit: float, focal: float) -> None:
    end = usable_for_spread(limit, focal, Pair())
    assert spread(end, focal, Pair()) <= limit
    assert end <= cross_setting(focal)
    # To a twentieth of a stop: a little further and it shows, or the cross is there.
    assert end + 0.05 > cross_setting(focal) or spread(end + 0.05, focal, Pair()) > limit
