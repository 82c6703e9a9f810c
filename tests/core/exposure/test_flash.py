"""Test core/exposure/flash.py."""

from __future__ import annotations

import pytest

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.exposure.flash import FlashQuestion, flash, stops_to_sync
from tests.core.tables import near


@pytest.mark.parametrize(
    ("wide", "sync", "stops"),
    [(1 / 4096, 1 / 256, 4), (1 / 16384, 1 / 256, 6), (1 / 512, 1 / 203.187, 1.33334), (1, 1 / 250, 0)],
)
def test_flash_in_the_sun(wide: float, sync: float, stops: float) -> None:
    assert stops_to_sync(wide, sync) == near(stops)


def test_flash_wants_the_shutter_down_to_the_sync_time() -> None:
    found = flash(FlashQuestion(ReadingGiven(1 / 256, 8.0, 100.0), 2.0, 1 / 256))
    assert [found.wide_seconds, found.stops] == pytest.approx([1 / 4096, 4])
    assert flash(FlashQuestion(ReadingGiven(1 / 60, 8.0, 100.0), 8.0, 1 / 200)).stops == 0
