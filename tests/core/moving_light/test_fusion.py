"""Test core/moving_light/fusion.py."""

from __future__ import annotations

import math
from datetime import UTC, datetime, timedelta

import pytest

from jackstaff_core.moving_light.anchoring import DRIFT_SD
from jackstaff_core.moving_light.fusion import Looked, Source, fuse_light
from jackstaff_core.questions import ask
from tests.core.given_looks import looks_of


def test_a_steady_rate_is_found_and_the_delay_counts() -> None:
    found = fuse_light(-90, looks_of(lambda second: 0.2 * (second + 90) / 60, -90, 300), now=300)
    assert found.stops == pytest.approx(0.2 * 6.5, abs=0.06)
    assert found.stops_per_minute == pytest.approx(0.2, abs=3 * found.rate_sd)
    assert found.rate_sd < 0.05
    assert not found.steps
    assert found.knots[0].at_seconds == -90
    assert found.knots[0].stops == 0
    # Begun later than metered, the phone does not know what came before it: its light starts where it was thought.
    late = fuse_light(-90, looks_of(lambda second: 0.2 * second / 60, 0, 300, zero=0.0), now=300)
    assert late.sd > found.sd


def test_a_burst_of_light_is_a_step_and_leaves_the_rate_alone() -> None:
    found = fuse_light(0, looks_of(lambda second: 1.5 if second > 120 else 0.0, 0, 240), now=240)
    (step,) = found.steps
    assert step.at_seconds == pytest.approx(123, abs=3)
    assert step.stops == pytest.approx(1.5, abs=0.1)
    assert abs(found.stops_per_minute) < 0.05
    # The light is drawn as it was: up from the first look that saw it, not from the one that was believed.
    seen = {round(knot.at_seconds): knot.stops for knot in found.knots}
    assert [seen[at] for at in (120, 123, 126)] == pytest.approx([0, 1.5, 1.5], abs=0.1)
    # It is there with the second look at it, not after a while.
    soon = fuse_light(0, looks_of(lambda second: 1.5 if second > 120 else 0.0, 0, 126), now=126)
    assert soon.stops == pytest.approx(1.5, abs=0.1)
    # Off to one side and then to the other is no step.
    wild = list(looks_of(lambda _: 0.0, 0, 240))
    wild[40], wild[41] = (Looked(wild[place].at_seconds, off, 0.02) for place, off in ((40, 2.0), (41, -2.0)))
    assert not fuse_light(0, wild, now=240).steps
    # A single look that is off is nobody's light.
    looks = list(looks_of(lambda _: 0.0, 0, 240))
    looks[40] = Looked(looks[40].at_seconds, -2.0, 0.02)
    alone = fuse_light(0, looks, now=240)
    assert not alone.steps
    assert abs(alone.stops) < 0.05
    assert min(knot.stops for knot in alone.knots) > -0.1


def test_light_that_wavers_is_followed_and_far_from_its_start_is_less_sure() -> None:
    wavering = fuse_light(0, looks_of(lambda second: 0.5 * math.sin(second / 20), 0, 600), now=600)
    assert max(abs(knot.stops - 0.5 * math.sin(knot.at_seconds / 20)) for knot in wavering.knots[20:]) < 0.15
    assert not wavering.steps
    # A phone's own curve is not known: four in a hundred of what it has seen change.
    far = fuse_light(0, looks_of(lambda second: 4 * second / 600, 0, 600), now=600)
    assert far.knots[-1].sd >= 0.16


@pytest.mark.parametrize("times", [0.0, 1.0, 2.0, 4.0])
def test_restless_light_is_what_looks_move_beyond_their_own_uncertainty(times: float) -> None:
    # Every second look is off by what two looks of this sd are uncertain by, times so much in the square.
    sd, every = 0.1, 6.0
    off = math.sqrt(times * 2 * sd**2)
    looks = [Looked(every * turn, off * (turn % 2), sd) for turn in range(100)]
    until = looks[-1].at_seconds
    grown = fuse_light(0, looks, now=until + 60).sd ** 2 - fuse_light(0, looks, now=until).sd ** 2
    assert grown == pytest.approx(max(DRIFT_SD**2, (off**2 - 2 * sd**2) / (every / 60)), rel=0.1, abs=0.005)


def test_a_gap_is_less_sure_and_a_new_part_says_only_how_it_moves() -> None:
    before, after = looks_of(lambda _: 0.0, 0, 120), looks_of(lambda second: (second - 180) / 120, 180, 300, part=1)
    gap = fuse_light(0, before, now=180)
    assert gap.sd > fuse_light(0, before, now=120).sd * 1.3
    whole = fuse_light(0, (*before, *after), now=300)
    assert whole.stops == pytest.approx(1.0, abs=0.2)
    assert whole.sd > fuse_light(0, looks_of(lambda second: max(0.0, (second - 180) / 120), 0, 300), now=300).sd
    # A reading tells the new part its zero.
    told = fuse_light(0, (*before, *after), [(240.5, 0.9, None)], now=300)
    assert 1.0 < told.stops < 1.45


@pytest.mark.parametrize(
    ("believed", "stops", "asked"),
    [(None, 0.0, 0), (False, 0.0, None), (True, 1.0, None)],
)
def test_a_reading_against_the_watch_is_asked_about(believed: bool | None, stops: float, asked: int | None) -> None:
    found = fuse_light(0, looks_of(lambda _: 0.0, 0, 240), [(120.5, 1.0, believed)], now=240)
    assert found.contradicts == asked
    assert (found.advice is not None) == (asked is not None)
    assert found.stops == pytest.approx(stops, abs=0.15)
    assert (Source.READINGS in {weight.source for weight in found.weights}) == (believed is not False)
    agreeing = fuse_light(0, looks_of(lambda _: 0.0, 0, 240), [(120.5, 0.2, None)], now=240)
    assert agreeing.contradicts is None
    assert agreeing.advice is None


def test_weights_are_shares_and_the_watch_weighs_most_while_it_watches() -> None:
    looks = looks_of(lambda _: 0.0, 0, 600)
    found = fuse_light(0, looks, [(300.5, 0.1, None)], forecast=lambda second: 0.0001 * second, rate_sd=0.03, now=600)
    shares = {weight.source: weight.share for weight in found.weights}
    assert set(shares) == set(Source)
    assert sum(shares.values()) == pytest.approx(1)
    assert max(shares, key=lambda source: shares[source]) is Source.WATCH
    stale = fuse_light(0, looks[:20], [(300.5, 0.1, None)], now=600)
    assert {weight.source: weight.share for weight in stale.weights}[Source.WATCH] < shares[Source.WATCH]


def test_the_bench_hears_of_the_watch_through_the_rate() -> None:
    at = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)
    looks = [
        {"at_seconds": each.at_seconds, "stops": each.stops, "sd": each.sd, "part": each.part}
        for each in looks_of(lambda second: 0.3 * second / 60, 0, 240)
    ]
    asked = {"readings": [{"reading": {"shutter": "1/2", "aperture": "8", "iso": "100"}, "at": at.isoformat()}],
             "at": (at + timedelta(seconds=240)).isoformat()}  # fmt: skip
    without, watched = ask("light/rate", asked), ask("light/rate", {**asked, "looks": looks})
    assert (without["counts"], without["moved_stops"]) == (False, None)
    assert watched["counts"]
    assert watched["moved_stops"] == pytest.approx(1.2, abs=0.1)
    assert watched["stops_per_minute"] == pytest.approx(0.3, abs=0.06)
    planned = ask("light/rate", {**asked, "looks": looks, "forecast": {"stops_per_minute": 0.3, "rate_sd": 0.03}})
    assert {weight["source"] for weight in planned["weights"]} == {"metering", "forecast", "watch"}
