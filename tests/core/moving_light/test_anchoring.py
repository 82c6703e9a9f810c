"""Test core/moving_light/anchoring.py."""

from __future__ import annotations

import math

import pytest

from jackstaff_core.moving_light.anchoring import DRIFT_SD, READING_SD, Status, anchor_readings


@pytest.mark.parametrize(
    ("values", "status", "a", "b", "sd_a", "sd_b", "ahead", "sd_ahead"),
    [
        ([-0.62, -0.55, -0.7, -0.48, -0.66, -0.52], "ok ok ok ok ok ok", -0.560353, 0.00241015, 0.113046, 0.0153002,
         -0.536252, 0.279096),
        ([-0.62, -0.55, -2.3, -0.48, -0.66, -0.52], "ok ok held ok ok ok", -0.551326, 0.00165537, 0.113629, 0.0153304,
         -0.534773, 0.279102),
        ([-0.62, -0.55, -0.6, -2.3, -2.42, -2.35], "ok ok ok held jump ok", -2.36564, -0.00432615, 0.113451, 0.0206686,
         -2.40891, 0.316159),
    ],
)  # fmt: skip
def test_readings_correct_the_forecast(
    values: list[float], status: str, a: float, b: float, sd_a: float, sd_b: float, ahead: float, sd_ahead: float
) -> None:
    found = anchor_readings([(3.0 * turn, value) for turn, value in enumerate(values)])
    last = found.states[-1]
    assert [each.value for each in found.status] == status.split()
    assert [last.a, last.b, last.sd, math.sqrt(last.p11)] == pytest.approx([a, b, sd_a, sd_b], rel=2e-5)
    assert [last.at(25.0).a, last.at(25.0).sd] == pytest.approx([ahead, sd_ahead], rel=2e-5)


@pytest.mark.parametrize("apart", [1.0, 3.0, 20.0])
def test_two_odd_readings_are_a_jump_where_they_agree_within_three_sd_of_each_other(apart: float) -> None:
    # Each is unsure by 0.15 stop, and the level wanders between them.
    most = 3 * math.sqrt(2 * READING_SD**2 + DRIFT_SD**2 * apart)
    steady = [(3.0 * turn, 0.0) for turn in range(4)]
    for share, status in ((0.99, Status.JUMP), (1.01, Status.HELD)):
        for way in (1, -1):
            found = anchor_readings([*steady, (12.0, -6.0), (12.0 + apart, -6.0 + way * share * most)])
            assert found.status == (*[Status.OK] * 4, Status.HELD, status)


def test_the_first_reading_always_anchors() -> None:
    found = anchor_readings([(0.0, -5.0)])
    assert found.status == (Status.OK,)
    assert found.states[0].a == pytest.approx(-5, abs=0.02)
    assert anchor_readings([]).at(10.0).sd == pytest.approx(1.05, abs=0.02)
