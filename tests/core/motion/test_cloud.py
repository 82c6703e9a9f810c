"""Test core/motion/cloud.py."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.motion import cloud
from tests.core.tables import facts, near


@facts("cloud")
def test_cloud(row: dict[str, str]) -> None:
    sky = cloud.CloudLayer(
        float(row["height"]), float(row["wind"]), float(row["psi"]) + 180, float(row["elevation"]), 0.0,
        float(row["focal"]), 36.0,
    )  # fmt: skip
    assert cloud.streak_share(sky, float(row["seconds"])) == near(row["share"], 5)
    assert cloud.seconds_for(sky, cloud.streak_share(sky, float(row["seconds"]))) == near(row["seconds"], 5)


@given(st.floats(0, 360), st.floats(3, 60))
def test_the_best_bearing_sees_the_cloud_go_furthest_and_is_the_lower_of_two(wind: float, elevation: float) -> None:
    def share(bearing: float) -> float:
        return cloud.streak_share(cloud.CloudLayer(1000, 8, wind, elevation, bearing, 24, 36), 30)

    bearing, best = cloud.best_bearing(cloud.CloudLayer(1000, 8, wind, elevation, 0, 24, 36), 30)
    shares = {turn: share(turn) for turn in range(0, 360, 10)}
    assert best == max(shares.values())
    assert bearing == min(turn for turn, found in shares.items() if found == best)
