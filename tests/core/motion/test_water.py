"""Test core/motion/water.py."""

from __future__ import annotations

from jackstaff_core.motion import water
from tests.core.tables import facts, near


@facts("water")
def test_water(row: dict[str, str]) -> None:
    assert water.residual_texture(float(row["seconds"]), float(row["tau"])) == near(row["residual"])
