"""Test core/camera/focus.py."""

from __future__ import annotations

import math

import pytest

from jackstaff_core.camera.focus import circle_mm, depth, hyperfocal_m
from tests.core.tables import facts, near


@facts("hyperfocal")
def test_hyperfocal(row: dict[str, str]) -> None:
    focal, f_number, circle = (float(row[name]) for name in ("focal", "f_number", "circle"))
    assert hyperfocal_m(focal, f_number, circle) == near(row["metres"], 5)
    assert depth(focal, f_number, circle, hyperfocal_m(focal, f_number, circle) * 1.001).far_m == math.inf


@facts("depth")
def test_depth(row: dict[str, str]) -> None:
    found = depth(*(float(row[name]) for name in ("focal", "f_number", "circle", "focus")))
    assert found.near_m == near(row["near"], 5)
    assert found.far_m == near(row["far"], 4)
    assert circle_mm(36, 24) == pytest.approx(0.03, abs=1e-5)
