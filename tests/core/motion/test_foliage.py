"""Test core/motion/foliage.py."""

from __future__ import annotations

import math

import pytest

from jackstaff_core.motion import foliage
from tests.core.motion.given_subjects import windows
from tests.core.tables import facts, near


@facts("leaves")
def test_leaves(row: dict[str, str]) -> None:
    sway = float(row["amplitude"]), float(row["period"]), float(row["distance"]), float(row["focal"])
    pitch = float(row["pitch"]) / 1000
    assert foliage.blur_mm(float(row["seconds"]), *sway) / pitch == near(row["blur"])
    assert foliage.seconds_for(pitch, *sway) == near(row["one_px"])
    assert foliage.seconds_for(3 * pitch, *sway) == near(row["three_px"])


def test_leaves_are_sharp_and_soft_up_to_their_share_of_the_width() -> None:
    # 36 mm / 1500 and / 300 on the sensor, of 2 A f / d = 0.6 mm of sway.
    found = windows("leaves", amplitude_m=0.05, period_s=1.5, distance_m=4)
    assert found["sharp"] == pytest.approx([0, 1.5 / math.pi * math.asin(0.024 / 0.6)])
    assert found["soft"] == pytest.approx([found["sharp"][1], 1.5 / math.pi * math.asin(0.12 / 0.6)])
