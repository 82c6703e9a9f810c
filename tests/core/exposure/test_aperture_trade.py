"""Test core/exposure/aperture_trade.py."""

from __future__ import annotations

import pytest

from jackstaff_core.exposure.aperture_trade import TradeQuestion, compare_apertures
from jackstaff_core.words.refusal import Refusal


def test_aperture_as_a_trade() -> None:
    rows = {row.aperture: row for row in compare_apertures(TradeQuestion(16.0, 8.0, 24.0, 2.8, 22.0, 4.35)).rows}
    assert rows["16"].seconds == pytest.approx(64)
    assert rows["11"].hyperfocal_m == pytest.approx(1.72106, rel=2e-3)
    assert [rows[each].sharpness for each in ("8", "16", "22")] == ["sharp", "soft", "soft"]
    assert list(rows) == ["2.8", "4", "5.6", "8", "11", "16", "22"]
    assert compare_apertures(
        TradeQuestion(1, 8, 24, 8, 8, 4.35, nearest_m=2, farthest_m=8)
    ).third_in_m == pytest.approx(4)
    with pytest.raises(Refusal):
        compare_apertures(TradeQuestion(1, 8, 24, 8, 8, 4.35, nearest_m=8, farthest_m=2))


@pytest.mark.parametrize("pitch", [2.4, 4.35, 6.0, 9.0])
def test_an_aperture_is_called_sharp_by_how_many_pixels_its_spot_spans(pitch: float) -> None:
    # 1.03 wavelengths of 0.55 µm times the f-number, to a pixel and a half and to two.
    rows = compare_apertures(TradeQuestion(1.0, 8.0, 24.0, 1.4, 64.0, pitch)).rows
    spots = [1.03 * 0.55 * 2 ** (place / 2) / pitch for place in range(1, 13)]
    assert [row.spot_pixels for row in rows] == pytest.approx(spots, rel=0.01)
    words = ["sharp" if spot <= 1.5 else "softer" if spot <= 2 else "soft" for spot in spots]
    assert [row.sharpness for row in rows] == words
    assert {"sharp", "soft"} <= set(words)
