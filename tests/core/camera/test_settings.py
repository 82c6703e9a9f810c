"""Test core/camera/settings.py."""

from __future__ import annotations

import pytest

from jackstaff_core.camera.settings import allowed_settings


def test_settings_are_clean_at_base_iso_and_sharp_apertures_alone() -> None:
    every = allowed_settings(("8", "16"), ("64", "100"), "11")
    clean = {(frame.aperture, frame.iso) for frame in every if frame.clean}
    assert clean == {(mark, "64") for mark in ("8", "9", "10", "11", "13")}
    assert len(every) == 7 * 2
    by_mark = {(frame.aperture, frame.iso): frame.stops for frame in every}
    assert by_mark["16", "64"] - by_mark["8", "64"] == pytest.approx(2)
    assert by_mark["8", "64"] - by_mark["8", "100"] == pytest.approx(2 / 3)
    assert {each.iso for each in allowed_settings(("8", "8"), ("64", "100"), "11", "100") if each.clean} == {"100"}
