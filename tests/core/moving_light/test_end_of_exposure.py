"""Test core/moving_light/end_of_exposure.py."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.camera.reciprocity import Additive, LawGiven, Power
from jackstaff_core.exposure.calculation import ExposureQuestion, expose
from jackstaff_core.exposure.timing_error import timing_error
from jackstaff_core.moving_light.end_of_exposure import ExposureEndQuestion, exposure_end
from jackstaff_core.moving_light.fusion import Looked
from jackstaff_core.moving_light.integral import (
    Path,
    close_after,
    close_film,
    gathered,
    open_seconds,
)
from jackstaff_core.questions import ask
from jackstaff_core.scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from jackstaff_core.words.refusal import Refusal
from tests.core.given_looks import looks_of
from tests.core.tables import near

TABLE_A = Path.through([(0.0, 0.0), (60.0, -0.3), (180.0, -1.2), (300.0, -1.5)])


def test_more_of_the_table() -> None:
    assert gathered(TABLE_A, 0, 180) == near(126.688)
    # Opened a minute after the metering: the same path seen from the opening.
    later = Path.through([(second - 60, stops) for second, stops in zip(TABLE_A.seconds, TABLE_A.stops, strict=True)])
    assert close_after(later, 120) == near(240.92)
    falling = exposure_end(ExposureEndQuestion(240, 100, readings=((90, -0.5),), stops_per_minute=-0.5 / 1.5))
    assert falling.gathered * 240 == near(82.9967)
    assert falling.close_after_seconds == near(100 + 569.886, 5)
    flat = exposure_end(ExposureEndQuestion(240, 200, readings=((90, -0.5), (200, -0.6)), stops_per_minute=0.0))
    assert flat.gathered * 240 == near(151.207)
    assert flat.close_after_seconds == near(200 + 134.585)
    film = close_film(TABLE_A, 60, Power(1.3))
    assert film == near(581.51)
    at_close = exposure_end(ExposureEndQuestion(240, stops_per_minute=-0.25))
    assert at_close.light_left_at_close == near(0.306853)


def test_what_never_fills_says_how_to_get_out() -> None:
    never = exposure_end(ExposureEndQuestion(480, stops_per_minute=-0.2, delay_seconds=120))
    assert (never.close_after_seconds, never.reaches, never.light_left_at_close) == (None, False, None)
    assert never.largest_reachable_seconds == near(328.008)
    assert never.error_if_closed_as_metered_stops == pytest.approx(-1.12681, abs=1e-5)
    (harm,) = never.advice
    assert (harm.code, harm.severity) == ("never_fills", "harm")
    assert "thirds" in harm.text
    hardly = exposure_end(ExposureEndQuestion(240, stops_per_minute=-0.33))
    assert hardly.reaches
    assert {remark.code for remark in hardly.advice} >= {"hardly_fills", "ends_part"}
    halved = exposure_end(ExposureEndQuestion(240, stops_per_minute=-0.25))
    assert "light_halves" in {remark.code for remark in halved.advice}
    assert exposure_end(ExposureEndQuestion(60)).advice == ()


@pytest.mark.parametrize(("rate", "word"), [(-0.1, "longer"), (0.0, None), (0.1, "shorter")])
def test_a_frame_on_film_is_longer_or_shorter_than_film_takes_in_still_light(rate: float, word: str | None) -> None:
    """Film alone makes 6 min 57 s of 100 s: that is no light that moves."""
    found = exposure_end(ExposureEndQuestion(needed_seconds=100.0, film=Power(1.31), stops_per_minute=rate))
    told = [remark.text for remark in found.advice if remark.code == "ends_part"]
    assert [word is not None and f"{word} than in still light" in text for text in told] == [True] * (word is not None)


def test_readings_and_points_join() -> None:
    # One reading and no rate: its slope since the metering goes on.
    reading = exposure_end(ExposureEndQuestion(100, 60, delay_seconds=60, readings=((60, 0.2),)))
    assert reading.close_after_seconds == pytest.approx(close_after(Path.through([(-60, 0), (60, 0.2)]), 100))
    # Points override the rate; after a reading they go on from where it lifted them.
    points = tuple((60.0 * turn, -0.1 * turn) for turn in range(8))
    assert exposure_end(
        ExposureEndQuestion(100, ev_points=points, stops_per_minute=5.0)
    ).close_after_seconds == pytest.approx(close_after(Path.through(points), 100))
    lifted = exposure_end(ExposureEndQuestion(300, 120, readings=((120, 0.5),), ev_points=points))
    path = Path.through([(0, 0), (120, 0.5), *((at, stops + 0.7) for at, stops in points if at > 120)])
    assert lifted.close_after_seconds == pytest.approx(close_after(path, 300))
    assert exposure_end(ExposureEndQuestion(10, -5)).gathered == 0


@pytest.mark.parametrize(
    ("question", "field"),
    [
        (ExposureEndQuestion(0.0), "needed_seconds"),
        (ExposureEndQuestion(10, delay_seconds=-1), "delay_seconds"),
        (ExposureEndQuestion(10, stops_per_minute=99), "stops_per_minute"),
        (ExposureEndQuestion(10, ev_points=((10, 0), (5, 1))), "ev_points"),
        (ExposureEndQuestion(10, ev_points=((10, 99.0),)), "ev_points.0.stops"),
        (ExposureEndQuestion(10, readings=((math.nan, 1.0),)), "readings.0.at_seconds"),
        (ExposureEndQuestion(10, readings=((10, 0), (5, 1))), "readings"),
        (ExposureEndQuestion(10, readings=((5, 0), (5, 1))), "readings"),
        (ExposureEndQuestion(10, readings=((5, 0), (5, 1)), rate_from_readings=True), "readings"),
        (ExposureEndQuestion(10, ev_points=((5, 0), (5, 1))), "ev_points"),
        (ExposureEndQuestion(10, delay_seconds=3600, stops_per_minute=-1.0), "delay_seconds"),
        (ExposureEndQuestion(3600, film=Power(3.0)), "film"),
    ],
)
def test_what_cannot_be_closed_is_refused(question: ExposureEndQuestion, field: str) -> None:
    with pytest.raises(Refusal) as refused:
        exposure_end(question)
    assert refused.value.field == field


@given(
    st.floats(SHORTEST_SECONDS, LONGEST_SECONDS),
    st.floats(-30, 30),
    st.floats(0, LONGEST_SECONDS),
    st.sampled_from([None, Power(1.3), Additive(1.0)]),
)
def test_however_fast_and_old_the_light_the_answer_is_a_number_or_a_sentence(
    needed: float, rate: float, delay: float, film: LawGiven | None
) -> None:
    question = ExposureEndQuestion(needed, 60.0, delay, rate, film=film, tracked=True)
    asked = film.corrected(needed) if film else needed
    if abs(rate * delay / 60) > 40 or asked > LONGEST_SECONDS:
        with pytest.raises(Refusal):
            exposure_end(question)
        return
    found = exposure_end(question)
    assert math.isfinite(found.gathered)
    assert math.isfinite(found.error_if_closed_as_metered_stops)
    assert all(math.isfinite(point.stops) for point in found.track)


@given(
    needed=st.floats(1, 900),
    rate=st.floats(-0.5, 0.5),
    delay=st.floats(0, 300),
    film=st.sampled_from([None, Power(1.3), Additive(0.1, 1.6)]),
)
def test_the_track_follows_the_gathering_to_the_end(
    needed: float, rate: float, delay: float, film: Power | Additive | None
) -> None:
    found = exposure_end(ExposureEndQuestion(needed, 0, delay, rate, film=film, tracked=True))
    shares = [point.gathered for point in found.track]
    assert shares[0] == 0
    assert shares == sorted(shares)
    if found.close_after_seconds is not None:
        at_end = exposure_end(
            replace(ExposureEndQuestion(needed, 0, delay, rate, film=film), now_seconds=found.close_after_seconds)
        )
        assert at_end.gathered == pytest.approx(1, abs=1e-3)
        assert at_end.error_if_closed_now_stops == pytest.approx(0, abs=2e-3)
        before = max(
            (point for point in found.track if point.seconds <= found.close_after_seconds), key=lambda p: p.seconds
        )
        assert before.gathered <= 1 + 1e-3
        if before.gathered:
            light = exposure_end(ExposureEndQuestion(needed, before.seconds, delay, rate, film=film))
            assert light.error_if_closed_now_stops == pytest.approx(before.stops)
            assert before.stops == pytest.approx(math.log2(before.gathered)) if film is None else True


@pytest.mark.parametrize(
    ("film", "share", "stops"),
    [
        # Half of the time on film of p = 1.31 is 1/1.31 stop of light, not a whole one.
        (Power(1.31), 0.5, -1 / 1.31),
        (Power(1.31), 2.0, 1 / 1.31),
        (None, 0.5, -1.0),
        # A 16 min frame at 4 s.
        (None, 4 / 960, math.log2(4 / 960)),
    ],
)
def test_closing_now_is_told_in_stops_of_light(film: Power | None, share: float, stops: float) -> None:
    needed = 960.0
    whole = film.corrected(needed) if film else needed
    found = exposure_end(ExposureEndQuestion(needed, share * whole, film=film, tracked=True))
    assert found.error_if_closed_now_stops == pytest.approx(stops)
    # The same wherever it is asked: late closing, a chosen time, the track.
    assert timing_error(whole, share * whole, law=film).stops == pytest.approx(stops)
    decided = ExposureQuestion(ReadingGiven(needed, "8", "100"), film=film, chosen_seconds=share * whole)
    assert expose(decided).residue_stops == pytest.approx(stops)
    near = min(found.track[1:], key=lambda point: abs(math.log2(point.seconds / (share * whole))))
    there = exposure_end(ExposureEndQuestion(needed, near.seconds, film=film))
    assert there.error_if_closed_now_stops == pytest.approx(near.stops)
    assert found.track[-1].seconds == pytest.approx(4 * whole)


def test_closing_a_falling_light_early_costs_what_it_still_held() -> None:
    light = {"stops_per_minute": -0.3, "planned_seconds": 600.0, "actual_seconds": 400.0}
    falling = ask("run/lateness", light)
    assert falling["stops"] == pytest.approx(math.log2(0.75 / 0.875), abs=1e-4)
    assert (falling["verdict"], falling["text"]) == ("slight", "Closed 3 min 20 s early: 0.22 stop darker.")
    assert ask("run/lateness", {**light, "stops_per_minute": None})["stops"] == pytest.approx(math.log2(2 / 3))
    read = ask("run/lateness", {**light, "stops_per_minute": None, "readings": [{"at_seconds": 300.0, "stops": -1.5}]})
    assert read["stops"] == pytest.approx(falling["stops"])


@given(needed=st.floats(30, 3600), rate=st.floats(-0.5, -0.01))
def test_each_way_out_really_fills_and_none_is_offered_where_it_fills(needed: float, rate: float) -> None:
    found = exposure_end(ExposureEndQuestion(needed, 60.0, 0, rate, tracked=True))
    left = found.light_left_at_close
    if found.reaches and left is not None and left >= 0.2:
        assert found.ways_out == ()
        return
    ways = {way.code: way for way in found.ways_out}
    assert {"open_up", "raise_iso", "drop_glass", "close_now"} <= set(ways) or "open_up" not in ways
    if "open_up" in ways:
        thirds = ways["open_up"].amount
        saved = exposure_end(ExposureEndQuestion(needed * 2 ** (-thirds / 3), 0, 0, rate))
        assert saved.reaches
        assert saved.light_left_at_close is not None
        assert saved.light_left_at_close >= 0.5 - 1e-9
        less = exposure_end(ExposureEndQuestion(needed * 2 ** (-(thirds - 1) / 3), 0, 0, rate))
        assert not less.reaches or (less.light_left_at_close or 0) < 0.5
        assert ways["drop_glass"].amount == pytest.approx(thirds / 3)
    assert ways["close_now"].amount == pytest.approx(found.error_if_closed_now_stops)


@pytest.mark.parametrize(("wanted", "thirds"), [(2.1, 3), (4.9, 5), (29.9, 30), (30.1, None)])
def test_a_way_out_opens_by_the_fewest_thirds_up_to_ten_stops(wanted: float, thirds: int | None) -> None:
    # Light falling by b stops a second has halved when 0.5 / (b ln 2) s of the first light have been gathered.
    needed = 40_000.0
    rate = -60 * 0.5 * 2 ** (wanted / 3) / (needed * math.log(2))
    found = exposure_end(ExposureEndQuestion(needed, stops_per_minute=rate, tracked=True))
    assert [way.amount for way in found.ways_out if way.code == "open_up"] == ([] if thirds is None else [thirds])


@given(st.floats(-0.4, 0.4), st.floats(0, 120))
def test_the_end_of_a_watched_frame_is_the_closed_form_of_its_light(per_minute: float, delay: float) -> None:
    rate = per_minute / 60
    looks = looks_of(lambda second: rate * (second + delay), -delay, 200, sd=0.001)
    found = exposure_end(ExposureEndQuestion(120, 200, delay, looks=looks))
    right = open_seconds(120 * 2 ** (-rate * delay), rate)
    if right < 195:
        assert found.close_after_seconds is not None
        assert math.log2(found.close_after_seconds / right) == pytest.approx(0, abs=0.03)
    assert found.light is not None
    assert found.light.stops == pytest.approx(rate * (200 + delay), abs=0.08)
    # Past the last look it goes on as it moves by then.
    early = exposure_end(
        ExposureEndQuestion(240, 100, delay, looks=tuple(each for each in looks if each.at_seconds < 100))
    )
    going_on = open_seconds(240 * 2 ** (-rate * delay), rate)
    if going_on < 400:
        assert early.close_after_seconds is not None
        assert math.log2(early.close_after_seconds / going_on) == pytest.approx(0, abs=0.15)


@pytest.mark.parametrize("level", [0.0, 7.0])
def test_a_forecast_goes_on_from_what_was_seen(level: float) -> None:
    looks = looks_of(lambda _: -1.0, 0, 60)
    points = ((0.0, level), (600.0, level))
    ahead = exposure_end(ExposureEndQuestion(120, 60, ev_points=points, looks=(Looked(-1, 0, 0.02), *looks[1:])))
    # A stop darker from the opening on takes twice as long, however bright the forecast is.
    assert ahead.close_after_seconds == pytest.approx(240, rel=0.05)
    with pytest.raises(Refusal, match="do not rise"):
        exposure_end(ExposureEndQuestion(120, 60, looks=(looks[1], looks[0])))


@pytest.mark.parametrize("known_until", [600.0, 90.0])
def test_what_a_forecast_did_not_see_goes_on_beside_its_own_bends(known_until: float) -> None:
    # The forecast is level, and the light is seen to fall by a third of a stop a minute.
    looks = looks_of(lambda second: -second / 180, 0, 60, sd=0.002)
    points = ((0.0, 0.0), (known_until, 0.0))
    found = exposure_end(ExposureEndQuestion(300, 60, ev_points=points, looks=looks))
    light, rate = found.light, (found.light.stops_per_minute if found.light else 0.0) / 60
    assert light is not None
    assert rate < -0.001
    # It goes on falling by what was seen, past the forecast's last point, too.
    missing = 300 - 180 * (1 - 2 ** (-60 / 180)) / math.log(2)
    goes_on = math.log2(1 + missing * rate * math.log(2) / 2**light.stops) / rate
    assert found.close_after_seconds == pytest.approx(60 + goes_on, rel=0.01)


def test_light_known_at_the_opening_stands_there() -> None:
    # The frame before was watched to its end: this one opens a stop brighter than metered, and the light falls by half.
    looks = looks_of(lambda second: -0.5 if second > 0 else 0.0, -30, 90)
    found = exposure_end(ExposureEndQuestion(120, 90, 600, 0.0, looks=looks, moved_stops=1.0, rate_sd=0.02))
    assert found.light is not None
    assert found.light.stops == pytest.approx(0.5, abs=0.08)
    assert found.close_after_seconds == pytest.approx(120 / 2**0.5, rel=0.06)
    # A reading is against the metering, as ever.
    read = ExposureEndQuestion(120, 90, 600, 0.0, looks=looks, moved_stops=1.0, rate_sd=0.02, readings=((60.5, 0.5),))
    light = exposure_end(read).light
    assert light is not None
    assert light.contradicts is None
    # Without a phone as well, and a reading by hand on the way still counts: from then on as light as metered.
    unwatched = ExposureEndQuestion(120, 0, 600, 0.0, moved_stops=1.0)
    assert exposure_end(unwatched).close_after_seconds == pytest.approx(60)
    read = replace(unwatched, readings=((0.5, 1.0), (1.0, 0.0)))
    assert exposure_end(read).close_after_seconds == pytest.approx(119.3, abs=0.2)
    ahead = replace(unwatched, stops_per_minute=None, ev_points=((-600.0, 5.0), (0.0, 4.0), (60.0, 4.0)))
    assert exposure_end(ahead).close_after_seconds == pytest.approx(60)
