"""Test core/stacks/forgotten_filter.py."""

from __future__ import annotations

import pytest

from jackstaff_core.stacks.forgotten_filter import BagGlass, compare

GLASS = (BagGlass("Slot ND 6", 6.0), BagGlass("Slot ND 10", 10.0))


@pytest.mark.parametrize(
    ("scene_ev", "code", "named"),
    [
        (12.0, None, ""),
        (11.3, None, ""),
        (6.1, "filter_still_on", "Is Slot ND 6 still on?"),
        (2.4, "filter_still_on", "Is Slot ND 10 still on?"),
        (9.0, "filter_still_on", "Is something still on the lens, or was the aperture touched?"),
        (14.0, "phone_sees_less", "counted as on while metering that was off"),
    ],
)
def test_a_forgotten_filter_is_asked_about(scene_ev: float, code: str | None, named: str) -> None:
    match = compare(12.0, 3.0).match
    found = compare(scene_ev, 3.0, match, GLASS)
    assert found.off_stops == pytest.approx(scene_ev - 12)
    assert (found.advice.code if found.advice else None) == code
    assert found.advice is None or named in found.advice.text
