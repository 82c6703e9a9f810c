"""Test core/sky/waiting.py."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from jackstaff_core.sky.forecast import LightQuestion, OwnReading, forecast
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.sky.waiting import wait
from jackstaff_core.words.refusal import Refusal
from tests.core.given_plans import BEGIN, dawn

DAWN = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)
MOLE = Place(58.052, 6.798)


def test_the_band_of_a_wait_is_two_sd_at_the_light_s_own_rate() -> None:
    question = LightQuestion(MOLE, DAWN, DAWN + timedelta(hours=2), readings=(OwnReading(DAWN, 6.0),))
    points = forecast(question).points
    found = wait(question, points[40].ev100)
    assert found.at is not None
    assert found.give_or_take_minutes == pytest.approx(
        2 * points[40].sd_stops / abs(points[40].stops_per_minute), rel=0.1
    )


def test_waiting_tells_when_and_how_surely() -> None:
    light = forecast(dawn())
    wanted = light.points[25].ev100
    found = wait(dawn(), wanted)
    assert found.at is not None
    assert abs((found.at - light.points[25].at).total_seconds()) < 60
    assert found.stops_to_go == pytest.approx(wanted - light.points[0].ev100)
    # A reading makes it surer; what never comes has no time.
    anchored = wait(dawn(readings=(OwnReading(BEGIN, light.points[0].ev100),)), wanted)
    assert (anchored.give_or_take_minutes or 99) < (found.give_or_take_minutes or 0)
    assert wait(dawn(), 20.0).at is None
    assert wait(dawn(), light.points[0].ev100 - 3).at is None
    # However coarsely one asks: what comes between two steps has come.
    coarse = wait(dawn(24, 86_400.0), wanted)
    assert coarse.at is not None
    assert abs((coarse.at - light.points[25].at).total_seconds()) < 60
    with pytest.raises(Refusal):
        wait(dawn(30), 5.0)
