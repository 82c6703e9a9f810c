"""Test core/sky/longest_fillable.py."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from jackstaff_core.moving_light.integral import Path, gathered
from jackstaff_core.questions import ask
from jackstaff_core.sky.forecast import LightQuestion, forecast
from jackstaff_core.sky.longest_fillable import longest_fillable
from jackstaff_core.sky.sun_and_moon import Place

TARN = Place(58.113, 6.781)
MORNING = datetime(2027, 9, 26, 4, 30, tzinfo=UTC)


def morning(**more: object) -> LightQuestion:
    return LightQuestion(TARN, MORNING, MORNING + timedelta(hours=4), 60.0, **more)  # type: ignore[arg-type]


def test_what_fills_is_asked_for_each_step_and_open_beyond_a_day() -> None:
    whole = longest_fillable(forecast(morning()).points)
    begin, end = MORNING.isoformat(), (MORNING + timedelta(hours=4)).isoformat()
    found = ask("outing/fillable", {"latitude": TARN.latitude, "longitude": TARN.longitude, "from": begin, "to": end})
    assert found["longest_seconds"] == [seconds if seconds <= 86_400 else None for seconds in whole]
    assert {seconds is None for seconds in found["longest_seconds"]} == {True, False}


def test_the_longest_frame_that_fills_is_what_the_light_gathers() -> None:
    light = forecast(LightQuestion(TARN, MORNING + timedelta(hours=11), MORNING + timedelta(hours=14), 60.0))
    found = longest_fillable(light.points)
    assert found[-1] == 0
    start = light.points[0]
    for place in (0, 60, 120):
        here = light.points[place]
        path = Path.through(
            [((point.at - start.at).total_seconds(), point.ev100 - here.ev100) for point in light.points]
        )
        begin, end = (here.at - start.at).total_seconds(), (light.points[-1].at - start.at).total_seconds()
        assert found[place] == pytest.approx(gathered(path, begin, end), rel=1e-9)
    # After sunset an eight-minute reading is never filled: models.md 6.
    dusk = next(place for place, point in enumerate(light.points) if point.altitude_deg < -6)
    assert found[dusk] < 480
