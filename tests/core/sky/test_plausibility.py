"""Test core/sky/plausibility.py."""

from __future__ import annotations

import math
from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.questions import ask
from jackstaff_core.sky.forecast import light_at
from jackstaff_core.sky.plausibility import SkyPick, doubt_about_reading, doubt_about_sky
from tests.core.given_plans import BEGIN, dawn


@pytest.mark.parametrize(
    ("apart", "code"), [(6, "too_bright"), (0.5, None), (-2.5, None), (-5, "too_dark"), (-12, "glass_still_on")]
)
def test_a_reading_is_held_against_the_sky(apart: float, code: str | None) -> None:
    light = light_at(dawn(), BEGIN + timedelta(hours=3))
    word = doubt_about_reading(light.ev100 + apart, light)
    assert (word and word.code) == code


@pytest.mark.parametrize(
    ("ev", "pick", "code"),
    [
        (14.6, SkyPick.FULL_SUN, None), (17.0, SkyPick.FULL_SUN, "too_bright"), (4.6, SkyPick.FULL_SUN, "too_dark"),
        (12, SkyPick.OVERCAST, None), (15, SkyPick.OVERCAST, "too_bright"), (9, SkyPick.SHADE, None),
        (5, SkyPick.LAMPS, None), (12, SkyPick.LAMPS, "too_bright"), (-5, SkyPick.DUSK, "too_dark"),
    ],
)  # fmt: skip
def test_a_reading_against_the_sky_one_sees(ev: float, pick: SkyPick, code: str | None) -> None:
    advice = doubt_about_sky(ev, pick)
    assert (advice.code if advice else None) == code


@given(st.sampled_from(list(SkyPick)), st.floats(-4, 15))
def test_the_times_a_sky_gives_are_at_the_reading_s_own_settings(pick: SkyPick, ev: float) -> None:
    shown = {"aperture": 8, "iso": 200, "shutter": 64 / 2 ** (ev + 1)}
    found = ask("outing/sky", {"sky": pick.value, "reading": shown})
    assert found["ev100"] == pytest.approx(ev)
    # The brighter end of the sky gives the shorter time.
    for name, end in (("from_seconds", "high_ev100"), ("to_seconds", "low_ev100")):
        assert math.log2(64 / found[name]) - 1 == pytest.approx(found[end])
