"""Test core/log/editing.py."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.filters.white_balance import (
    neutral_kelvin,
)
from jackstaff_core.log.editing import EditQuestion, Tint, editing_notes, keystone_crop
from jackstaff_core.log.frame import Defect
from jackstaff_core.words.refusal import Refusal


@given(st.floats(1, 25), st.floats(14, 100))
def test_a_tilt_that_is_put_right_costs_more_the_more_it_was(pitch: float, focal: float) -> None:
    assert keystone_crop(pitch, focal, 24.0) == pytest.approx(keystone_crop(-pitch, focal, 24.0))
    assert keystone_crop(pitch + 1, focal, 24.0) > keystone_crop(pitch, focal, 24.0) > keystone_crop(0.0, focal, 24.0)


@pytest.mark.parametrize(
    ("pitch", "focal", "height", "share"),
    [(0, 24, 24, 0.0), (10, 24, 24, 0.0881635), (-10, 24, 24, 0.0881635), (10, 16, 24, 0.132245), (45, 1, 24, None)],
)
def test_upright_verticals_cost_a_share(pitch: float, focal: float, height: float, share: float | None) -> None:
    if share is None:
        with pytest.raises(Refusal):
            keystone_crop(pitch, focal, height)
        return
    assert keystone_crop(pitch, focal, height) == pytest.approx(share, rel=1e-5)
    # Against the trapezium itself: a pinhole turned level, its narrow and its wide edge.
    lean, half = math.radians(pitch), height / 2
    edges = [focal * math.cos(lean) + side * half * math.sin(lean) for side in (-1, 1)]
    narrow, wide = sorted(1 / edge for edge in edges)
    assert keystone_crop(pitch, focal, height) == pytest.approx((wide - narrow) / (wide + narrow), abs=1e-9)


def test_the_edit_in_order_with_amounts() -> None:
    defects = frozenset({Defect.SPECKS, Defect.CAST, Defect.CLIPPED, Defect.CORNER})
    notes = editing_notes(
        EditQuestion(
            error_stops=-2.3, defects=defects, glass=(Tint(cast="warm"), Tint()), pitch_deg=8, focal_mm=20, seconds=240
        )
    )
    assert [each.code for each in notes] == ["dark_frame", "white_balance", "lift", "corners", "verticals", "specks"]
    assert notes[2].amount == pytest.approx(2.3)
    assert "noisy" in notes[2].text
    measured = editing_notes(EditQuestion(glass=(Tint(mired=30), Tint(mired=12, corner_stops=0.8, cast="blue"))))
    assert [(each.code, each.amount) for each in measured] == [("white_balance", 42), ("corners", 0.8)]
    assert editing_notes(EditQuestion(error_stops=0.0)) == ()


def test_the_edit_tells_colour_in_kelvin_where_it_is_known_and_none_of_it_in_black_and_white() -> None:
    blue = EditQuestion(glass=(Tint(mired=-21, green=-0.4), Tint(mired=-4)))
    assert [note.code for note in editing_notes(blue)] == ["white_balance", "tint"]
    assert "25 mired warmer, the higher kelvin" in editing_notes(blue)[0].text
    # 1e6/(1e6/5500 - 25) = 6377.
    assert "about 6400 K instead of 5500 K" in editing_notes(replace(blue, kelvin=5500.0))[0].text
    # What no camera can be set to is told without a number for it.
    assert "instead" not in editing_notes(replace(blue, kelvin=24_000.0))[0].text
    codes = [note.code for note in editing_notes(replace(blue, monochrome=True, error_stops=-0.5))]
    assert codes == ["tones", "channels", "grain", "lift"]
    assert neutral_kelvin(24_000.0, -30.0) is None
    with pytest.raises(Refusal, match="K is outside"):
        neutral_kelvin(100.0, 30.0)
