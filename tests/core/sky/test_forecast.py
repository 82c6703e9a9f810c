"""Test core/sky/forecast.py."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.moving_light.anchoring import LEVEL_SD, Status
from jackstaff_core.sky.cover import Sky, SkyChange
from jackstaff_core.sky.daylight import ev100, moon_lux, sun_lux
from jackstaff_core.sky.forecast import LightQuestion, OwnReading, Scene, forecast, light_at, rate_sd
from jackstaff_core.sky.ridge import Ridge, sun_step
from jackstaff_core.sky.sun_and_moon import Place, moon_at, sun_at
from jackstaff_core.words.refusal import Refusal

DAWN = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)
MOLE = Place(58.052, 6.798)


def test_an_old_reading_never_makes_the_light_less_known() -> None:
    def sds(*readings: OwnReading) -> list[float]:
        question = LightQuestion(MOLE, DAWN, DAWN + timedelta(days=1), 600.0, readings=readings)
        return [point.sd_stops for point in forecast(question).points]

    bare, read = sds(), sds(OwnReading(DAWN, 6.0))
    assert all(each <= other for each, other in zip(read, bare, strict=True))
    assert read[1] < bare[1]
    assert read[-1] == bare[-1]


VARDSUND = Place(58.05, 6.80)


def utc(text: str) -> datetime:
    return datetime.fromisoformat(text).replace(tzinfo=UTC)


def test_a_moonlit_night_goes_as_the_moon_goes() -> None:
    found = forecast(LightQuestion(VARDSUND, utc("2027-04-20T21:30"), utc("2027-04-21T00:30"))).points
    lux = [sun_lux(sun_at(VARDSUND, each.at)[0]) + moon_lux(*moon_at(VARDSUND, each.at)) for each in found]
    above = [each.ev100 - ev100(light) for each, light in zip(found, lux, strict=True)]
    # Straight lines from hour to hour are off by less than anybody sees.
    assert max(above) - min(above) < 0.05
    # Half of this light is the moon's, at least.
    assert min(moon_lux(*moon_at(VARDSUND, each.at)) / light for each, light in zip(found, lux, strict=True)) > 0.5


@pytest.mark.parametrize("read", [10.0, 8.0, 7.0, None])
def test_the_rate_is_how_the_light_of_the_forecast_moves_capped_or_not(read: float | None) -> None:
    """A reading far above the sky at dawn is held at the sun's own limit: from there on it moves with the sun."""
    begins = datetime(2027, 4, 17, 3, 40, tzinfo=UTC)
    readings = () if read is None else (OwnReading(begins, read),)
    place = Place(58.05, 6.80)
    found = forecast(LightQuestion(place, begins, begins + timedelta(minutes=90), 30.0, readings=readings)).points
    moved = [(after.ev100 - before.ev100) for before, after in zip(found, found[2:], strict=False)]
    told = [point.stops_per_minute for point in found[1:-1]]
    # Where it begins and ends to be held the curve has a corner.
    apart = [abs(told - moved) for told, moved in zip(told, moved, strict=True)]
    assert sorted(apart)[-3] < 0.01
    assert max(told) > 0.05


def dawn(**more: object) -> LightQuestion:
    return LightQuestion(VARDSUND, utc("2027-04-17T03:00"), utc("2027-04-17T06:00"), **more)  # type: ignore[arg-type]


def test_a_sky_that_is_to_change_is_both_skies_in_turn_and_least_known_in_between() -> None:
    change = utc("2027-04-17T04:30")
    found = forecast(dawn(sky=Sky.CLEAR, skies=(SkyChange(change, Sky.OVERCAST),))).points
    skies = {sky: forecast(dawn(sky=sky)).points for sky in (Sky.CLEAR, Sky.OVERCAST)}
    apart = 2.3
    for clear, mixed, grey in zip(skies[Sky.CLEAR], found, skies[Sky.OVERCAST], strict=True):
        # The chance that it has come rises evenly from half an hour before to half an hour after.
        chance = min(1.0, max(0.0, (mixed.at - change).total_seconds() / 3600 + 0.5))
        assert mixed.ev100 == pytest.approx((1 - chance) * clear.ev100 + chance * grey.ev100)
        assert mixed.sd_stops == pytest.approx(math.hypot(1.0, apart * math.sqrt(chance * (1 - chance))))
        falls = apart / 60 if 0 < chance < 1 else 0.0
        assert mixed.stops_per_minute == pytest.approx(clear.stops_per_minute - falls)
    # In whichever order they are said, and by lamps it is all one.
    two = (SkyChange(change, Sky.HEAVY), SkyChange(utc("2027-04-17T03:40"), Sky.THIN))
    assert forecast(dawn(skies=two)) == forecast(dawn(skies=two[::-1]))
    assert forecast(dawn(skies=two, scene=Scene.LAMP_LIT)).points == forecast(dawn(scene=Scene.LAMP_LIT)).points


def test_a_dawn_is_anchored_and_its_band_grows_with_the_reading_s_age() -> None:
    plain = forecast(dawn())
    assert len(plain.points) == 181
    assert plain.points[0].sd_stops == 1.0
    assert all(each.ev100 < two.ev100 for each, two in zip(plain.points, plain.points[1:], strict=False))
    at = utc("2027-04-17T04:10")
    metered = light_at(dawn(), at).ev100 - 4.2
    read = forecast(dawn(readings=(OwnReading(at, metered),)))
    point = next(each for each in read.points if each.at == at)
    assert point.ev100 == pytest.approx(metered, abs=0.1)
    assert point.sd_stops < 0.2 < read.points[-1].sd_stops
    assert read.points[0].sd_stops > point.sd_stops
    assert read.readings[0].status is Status.OK
    # The rate is that of the light itself.
    later = next(each for each in plain.points if each.at == at + timedelta(minutes=1))
    here = next(each for each in plain.points if each.at == at)
    assert later.ev100 - here.ev100 == pytest.approx(here.stops_per_minute, abs=0.01)
    # The clear-sky model itself is not touched by readings or sky.
    assert [each.lux for each in read.points] == [each.lux for each in plain.points]
    heavy = forecast(dawn(sky=Sky.HEAVY)).points[90]
    assert heavy.ev100 == pytest.approx(plain.points[90].ev100 - 3.3)
    assert heavy.lux == plain.points[90].lux
    lamps = forecast(dawn(scene=Scene.LAMP_LIT)).points
    assert {point.stops_per_minute for point in lamps} == {0.0}
    assert lamps[0].ev100 == lamps[-1].ev100
    # Clouds that may come an hour early or late are nothing to a lamp: its light is no less sure.
    skies = (SkyChange(at, Sky.OVERCAST),)
    assert max(point.sd_stops for point in forecast(dawn(skies=skies)).points) > LEVEL_SD + 0.1
    assert {point.sd_stops for point in forecast(dawn(scene=Scene.LAMP_LIT, skies=skies)).points} == {LEVEL_SD}


@settings(max_examples=30)
@given(st.floats(-89, 89), st.floats(-180, 180), st.integers(0, 364))
def test_no_place_or_day_breaks_the_forecast(latitude: float, longitude: float, day: int) -> None:
    start = utc("2027-01-01T00:00") + timedelta(days=day)
    found = forecast(LightQuestion(Place(latitude, longitude), start, start + timedelta(days=1), 3600.0))
    assert len(found.points) == 25
    assert all(-15 < point.ev100 < 17 and abs(point.stops_per_minute) < 0.5 for point in found.points)


@pytest.mark.parametrize(
    "bad",
    [
        lambda: Place(91.0, 0.0),
        lambda: Place(0.0, 200.0),
        lambda: forecast(LightQuestion(VARDSUND, utc("2027-04-17T06:00"), utc("2027-04-17T03:00"))),
        lambda: forecast(LightQuestion(VARDSUND, utc("2027-04-01T00:00"), utc("2027-04-09T00:00"), 3600.0)),
        lambda: forecast(LightQuestion(VARDSUND, utc("2027-04-01T00:00"), utc("2027-04-07T00:00"), 1.0)),
        lambda: forecast(dawn(readings=(OwnReading(utc("2027-04-17T03:00"), 99.0),))),
    ],
)
def test_what_cannot_be_forecast_is_refused(bad: object) -> None:
    with pytest.raises(Refusal):
        bad()  # type: ignore[operator]


TARN = Place(58.113, 6.781)
MORNING = datetime(2027, 9, 26, 4, 30, tzinfo=UTC)


def morning(**more: object) -> LightQuestion:
    return LightQuestion(TARN, MORNING, MORNING + timedelta(hours=4), 60.0, **more)  # type: ignore[arg-type]


def test_a_ridge_delays_the_sun_and_its_arrival_is_a_step() -> None:
    ridge = Ridge(180, 1100)
    assert ridge.deg == pytest.approx(9.293, abs=1e-3)
    light = forecast(morning(scene=Scene.SUN_LIT, ridge=ridge))
    free = forecast(morning(scene=Scene.SUN_LIT))
    over = next(event.at for event in light.events if event.name == "sun_over_ridge")
    assert over is not None
    before = max(point.at for point in light.points if point.altitude_deg < ridge.deg)
    assert 0 <= (over - before).total_seconds() <= 60
    apart = {here.at: there.ev100 - here.ev100 for here, there in zip(light.points, free.points, strict=True)}
    assert apart[before] == pytest.approx(sun_step(ridge.deg), abs=0.02)
    assert all(
        apart[point.at] == 0 for point in light.points if point.altitude_deg > ridge.deg or point.altitude_deg < 0
    )
    # The sky's own light is not kept away, nor what clouds have scattered already.
    for other in (morning(ridge=ridge), morning(ridge=ridge, scene=Scene.SUN_LIT, sky=Sky.OVERCAST)):
        plain = LightQuestion(other.place, other.start, other.end, other.step_seconds, other.sky, other.scene)
        assert [point.ev100 for point in forecast(other).points] == [point.ev100 for point in forecast(plain).points]
    night = forecast(LightQuestion(TARN, MORNING - timedelta(hours=6), MORNING - timedelta(hours=4), ridge=ridge))
    assert [event.at for event in night.events if event.name == "sun_over_ridge"] == [None]


def test_the_rate_is_better_known_the_more_is_read() -> None:
    at = MORNING + timedelta(minutes=40)
    light = {point.at: point.ev100 for point in forecast(morning()).points}
    readings = tuple(
        OwnReading(MORNING + timedelta(minutes=turn), light[MORNING + timedelta(minutes=turn)])
        for turn in (0, 13, 26, 39)
    )
    sds = [rate_sd(morning(readings=readings[:count]), at) for count in range(5)]
    assert sds == sorted(sds, reverse=True)
    assert rate_sd(morning(scene=Scene.LAMP_LIT), at) == 0


@given(st.floats(-10, 22), st.floats(-2, 2), st.booleans())
def test_no_forecast_climbs_to_a_light_the_sun_cannot_give(first: float, step: float, second: bool) -> None:
    """A reading stops off at dawn is taken for the scene, and does not lift the noon past any sun."""
    readings = [OwnReading(DAWN, first)] + [OwnReading(DAWN + timedelta(minutes=5), first + step)] * second
    question = LightQuestion(
        MOLE, DAWN, DAWN + timedelta(hours=9), step_seconds=600, readings=tuple(readings), sky=Sky.CLEAR
    )
    latest = readings[-1].ev100
    for point in forecast(question).points:
        # The moon's part is below a hundredth of this.
        assert point.ev100 <= max(ev100(max(point.lux, 0.3)) + 2.01, latest, first) + 1e-9
    # What a sound reading says is left alone.
    sound = replace(question, readings=(OwnReading(DAWN, ev100(forecast(question).points[0].lux) + 0.5),))
    assert forecast(sound).points[0].ev100 == pytest.approx(sound.readings[0].ev100, abs=0.1)
