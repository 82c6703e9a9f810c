"""Test core/moving_light/rate.py."""

from __future__ import annotations

import random
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from jackstaff_core.moving_light.anchoring import DRIFT_SD, READING_SD
from jackstaff_core.moving_light.end_of_exposure import ExposureEndQuestion, light_path
from jackstaff_core.moving_light.rate import RATE_SD, WANDER, KnownRate, Rate, light_rate, likely_rate
from jackstaff_core.words.refusal import Refusal


def utc(text: str) -> datetime:
    return datetime.fromisoformat(text).replace(tzinfo=UTC)


def read_again(*readings: tuple[float, float], at: float | None = None, **more: Any) -> Rate:
    """The rate from readings (minute, EV), asked at a minute or at the last."""
    start = utc("2027-04-17T05:00")
    taken = [(start + timedelta(minutes=minute), ev) for minute, ev in readings]
    return light_rate(taken, start + timedelta(minutes=readings[-1][0] if at is None else at), **more)


def test_two_readings_of_a_scene_make_a_rate_that_more_make_sure_and_age_makes_unsure() -> None:
    two = read_again((0, 8.0), (4, 7 + 1 / 3))
    # A third of a stop is nearly the noise of two readings: most of the slope is believed, not all of it.
    assert two.counts
    assert two.used == 2
    assert two.stops_per_minute == pytest.approx(-1 / 6, abs=0.03)
    assert 0.04 < two.rate_sd < 0.09
    four = read_again((0, 8.0), (4, 7 + 1 / 3), (8, 6 + 2 / 3), (12, 6.0))
    assert four.rate_sd < two.rate_sd
    assert four.stops_per_minute == pytest.approx(-1 / 6, abs=0.01)
    later = read_again((0, 8.0), (4, 7 + 1 / 3), at=30)
    assert later.counts
    assert later.rate_sd > two.rate_sd * 1.5
    old = read_again((0, 8.0), (4, 7 + 1 / 3), at=45)
    assert not old.counts
    assert old.advice
    assert old.advice.code == "readings_old"
    # One reading says nothing; the plan's rate stands, and a reading pulls it.
    assert not read_again((0, 8.0)).counts
    known = KnownRate(0.1, 0.03)
    assert read_again((0, 8.0), forecast=known).stops_per_minute == 0.1
    assert 0.1 < read_again((0, 8.0), (10, 10.0), forecast=known).stops_per_minute < 0.2


def test_a_reading_that_cannot_be_the_same_light_is_asked_about_and_a_second_one_believed() -> None:
    off = read_again((0, 8.0), (4, 7.9), (6, 5.0))
    assert off.advice
    assert off.advice.code == "reading_off"
    assert "2.9 stops darker than 2 min" in off.advice.text
    assert off.used == 2
    assert abs(off.stops_per_minute) < 0.08
    assert not read_again((0, 8.0), (2, 4.0)).counts
    again = read_again((0, 8.0), (4, 7.9), (6, 5.0), (8, 5.0))
    assert again.advice is None
    assert abs(again.stops_per_minute) < 0.2
    for wrong in [((0.0, 8.0), (0.0, 8.0)), ((4.0, 8.0), (0.0, 8.0))]:
        with pytest.raises(Refusal):
            read_again(*wrong)
    with pytest.raises(Refusal):
        read_again((0, 8.0), at=-1)


def test_the_rate_lies_within_two_sd_as_often_as_it_says() -> None:
    """Light that wanders as the model says, read with its noise: the sd is neither too proud nor too shy."""
    chance = random.Random(11)
    inside, tries = 0, 1000
    for _ in range(tries):
        level, slope = 0.0, chance.gauss(0, RATE_SD)
        readings = [(0.0, chance.gauss(0, READING_SD))]
        for minute in range(1, 11):
            slope += chance.gauss(0, WANDER)
            level += slope + chance.gauss(0, DRIFT_SD)
            if minute % 5 == 0:
                readings.append((float(minute), level + chance.gauss(0, READING_SD)))
        found = read_again(*readings)
        inside += abs(found.stops_per_minute - slope) < 2 * found.rate_sd
    assert 0.92 < inside / tries < 0.975


@pytest.mark.parametrize(
    ("known", "rate"),
    # Seconds and stops; a third of a stop within seconds says next to nothing, over minutes it is a rate.
    [
        (((0.0, 0.0), (2.0, -1 / 3)), 0.0),
        (((-60.0, 0.0), (240.0, -1.0)), -0.18),
        (((-60.0, 0.0), (0.0, 0.1), (120.0, 0.3), (300.0, 0.6)), 0.096),
    ],
)
def test_the_rate_that_readings_make_likely(known: tuple[tuple[float, float], ...], rate: float) -> None:
    assert likely_rate(known) * 60 == pytest.approx(rate, abs=0.02)
    path = light_path(
        ExposureEndQuestion(200.0, readings=known[1:], delay_seconds=-known[0][0], rate_from_readings=True)
    )
    assert path.slope_after * 60 == pytest.approx(rate, abs=0.02)
