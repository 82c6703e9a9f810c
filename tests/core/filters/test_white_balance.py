"""Test core/filters/white_balance.py."""

from __future__ import annotations

import math

import pytest

from jackstaff_core.filters.white_balance import (
    green_said,
    green_stops,
    neutral_kelvin,
    shift_mired,
    white_balance_said,
)


def planck(nanometres: float, kelvin: float) -> float:
    """Spectral radiance of a black body, in any unit."""
    metres = nanometres * 1e-9
    return float(metres**-5 / math.expm1(0.0143877688 / (metres * kelvin)))


def red_against_blue(kelvin: float) -> float:
    return math.log2(planck(600, kelvin) / planck(460, kelvin))


@pytest.mark.parametrize(("rg", "bg"), [(-0.15, 0.15), (0.15, -0.15), (-0.4, 0.1), (0.3, 0.0), (0.02, 0.0)])
@pytest.mark.parametrize("kelvin", [3200.0, 5500.0, 7500.0])
def test_the_white_balance_that_is_told_takes_the_colour_out(rg: float, bg: float, kelvin: float) -> None:
    shift = shift_mired(rg, bg)
    told = white_balance_said(shift, kelvin)
    if abs(rg - bg) < 0.05:
        assert told is None
        return
    new = neutral_kelvin(kelvin, shift)
    assert new
    # Set so, the camera renders light of `new` neutral: the filtered light has its red against blue, by Planck's law,
    # within what 70 mired a stop is good for (59 to 95 by kelvin and by the width of the bands).
    gone = red_against_blue(new) - red_against_blue(kelvin)
    assert gone == pytest.approx(rg - bg, rel=0.45)
    # A blue picture wants a higher kelvin, which renders warmer.
    blue = rg < bg
    assert ("blue" in (told or "")) == blue
    assert ("warmer" in (told or "")) == blue
    assert (new > kelvin) == blue


@pytest.mark.parametrize(
    ("rg", "bg", "said"),
    [
        (0.4, 0.4, "0.4 stop of green missing: magenta"),
        (-0.3, -0.3, "0.3 stop too much green"),
        (0.4, -0.4, None),
        (0.05, 0.05, None),
    ],
)
def test_green_is_told_by_its_amount(rg: float, bg: float, said: str | None) -> None:
    told = green_said(green_stops(rg, bg))
    assert (told is None) == (said is None)
    assert (said or "") in (told or "")
