"""Test core/sky/made_up.py."""

from __future__ import annotations

import pytest

from jackstaff_core.sky.made_up import SkyKind, made_up_sky


@pytest.mark.parametrize("kind", SkyKind)
def test_a_made_up_sky_is_the_same_everywhere_and_moves_as_its_kind_does(kind: SkyKind) -> None:
    sky = made_up_sky(kind, 3)
    assert made_up_sky(kind, 3) == sky != made_up_sky(kind, 4)
    assert sky.at(0) == 0
    assert all(-12 < stop < 12 for stop in sky.stops)
    moved = max(abs(sky.at(second)) for second in range(0, 600, 10))
    assert moved < 0.3 if kind is SkyKind.CLEAR else moved > 0.2
    assert {SkyKind.DAWN: 1, SkyKind.DUSK: -1}.get(kind, 0) * sky.at(600) >= 0
