"""Test core/sky/ridge.py."""

from __future__ import annotations

import pytest

from jackstaff_core.sky.ridge import MOST_STEP, beam_lux, sun_step


@pytest.mark.parametrize(
    ("altitude", "beam", "step"),
    # Kasten & Young: air mass 10.306 at 5 deg, 5.586 at 10 deg, 1.9939 at 30 deg, 1 at the zenith.
    [(5, 1276, 0.482), (10, 6851, 1.40), (30, 41938, 3.0), (90, 103350, 2.4), (0, 0, 0), (-4, 0, 0)],
)
def test_the_beam_of_the_sun(altitude: float, beam: float, step: float) -> None:
    assert beam_lux(altitude) == pytest.approx(beam, rel=0.01)
    assert sun_step(altitude) == pytest.approx(step, abs=0.1)
    assert sun_step(altitude, 0.0) == 0
    assert 0 <= sun_step(altitude, 0.5) <= sun_step(altitude) <= MOST_STEP
