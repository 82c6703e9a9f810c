"""What was on the lens at the metering, what is on for the shot, and what that makes of the time."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.camera.reciprocity import Power
from jackstaff_core.exposure.calculation import ExposureQuestion, MovingLight, expose
from jackstaff_core.exposure.solving import Floating, SolveQuestion, solve
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.questions import ask
from jackstaff_core.words.refusal import Refusal

EIGHT, EASED, TWENTY_FIVE = ("8 s", "9", "64"), ("0.8", "9", "64"), ("25", "9", "64")
VARIABLE = "ring"


def glass(*stops: float | str) -> tuple[GlassGiven, ...]:
    return tuple(GlassGiven(label=each) if isinstance(each, str) else GlassGiven(stops=each) for each in stops)


def turned(stops: float) -> tuple[GlassGiven, ...]:
    return (GlassGiven(stops=stops, id=VARIABLE),)


@pytest.mark.parametrize(
    ("shown", "through", "on", "seconds", "mark"),
    [
        (EIGHT, glass(3, 6), glass(3, "ND1000"), 125.0, None),
        (EASED, turned(2), turned(4), 3.1748, "3.2"),
        (TWENTY_FIVE, glass(9), (), 25.398 / 512, "1/20"),
        (EIGHT, glass(3, 6), glass(6, 3), 8.0, "8"),
        # Two alike are two: one off leaves the other on.
        (EIGHT, glass(3, 3), glass(3), 1.0, "1"),
        (EIGHT, glass(), glass(3), 64.0, None),
        # A filter known again by its id may have been measured since: the difference counts.
        (EIGHT, (GlassGiven(stops=6, id="a"),), (GlassGiven(stops=6, offset=0.5, id="a"),), 8 * 2**0.5, None),
        # Another filter of the same label is another filter, but takes as much.
        (EIGHT, (GlassGiven(stops=6, id="a"),), (GlassGiven(stops=6, id="b"),), 8.0, "8"),
        # A graduated filter adds nothing in either.
        (EIGHT, (GlassGiven(stops=3, kind=GlassKind.GRADUATED),), (), 8.0, "8"),
        (EIGHT, (), (GlassGiven(stops=3, kind=GlassKind.GRADUATED),), 8.0, "8"),
    ],
)
def test_what_was_on_is_taken_out_and_what_is_on_is_added(
    shown: tuple[str, str, str],
    through: tuple[GlassGiven, ...],
    on: tuple[GlassGiven, ...],
    seconds: float,
    mark: str | None,
) -> None:
    answer = expose(ExposureQuestion(ReadingGiven(*shown, through=through), on))
    assert answer.seconds == pytest.approx(seconds, rel=1e-3)
    if mark:
        assert answer.dial_mark == mark


def test_every_exchange_is_a_step_and_brings_its_own_doubt() -> None:
    through = (
        GlassGiven(label="6 stops", id="six", name="Ring ND 6"),
        GlassGiven(stops=2, id=VARIABLE),
        GlassGiven(stops=1.5, id="pol"),
    )
    on = (GlassGiven(stops=1.5, id="pol"), GlassGiven(stops=4, id=VARIABLE), GlassGiven(label="ND8", id="three"))
    answer = expose(ExposureQuestion(ReadingGiven(*EIGHT, through=through), on))
    steps = [(step.name, step.kind, round(step.stops, 6), step.glass) for step in answer.steps[1:]]
    assert steps == [
        ("Ring ND 6 off", "off", -6.0, None),
        ("1.5 stops, on when metered", "in_reading", 0.0, 0),
        ("4 stops turned", "turned", 2.0, 1),
        ("ND8", "glass", 3.0, 2),
    ]
    reading = 1 / 3 / math.sqrt(12)
    # Off, on, and a ring read twice; what stayed brings none.
    assert answer.sure_within_stops == pytest.approx(2 * math.hypot(reading, 0.17, 0.17, 0.17, 0.17))
    plain = expose(ExposureQuestion(ReadingGiven(*EIGHT))).scene_ev100
    assert plain is not None
    assert answer.scene_ev100 == pytest.approx(plain + 9.5)
    same = expose(ExposureQuestion(ReadingGiven(*EIGHT, through=on), on))
    assert same.sure_within_stops == pytest.approx(2 * reading)


def test_a_variable_filter_that_was_not_turned_gives_a_range() -> None:
    open_ring = GlassGiven(stops=2, stops_max=8, id=VARIABLE)
    answer = expose(ExposureQuestion(ReadingGiven("1/8", "9", "64"), (open_ring,)))
    assert answer.turning is not None
    assert (answer.turning.from_seconds, answer.turning.to_seconds) == pytest.approx((0.5, 32.0))
    assert (answer.turning.from_mark, answer.turning.to_mark) == ("0.5", "30")
    assert answer.sure_within_stops < 0.5
    longest = expose(ExposureQuestion(ReadingGiven("1/8", "9", "64"), (GlassGiven(stops=8),), film=Power(1.3)))
    film = expose(ExposureQuestion(ReadingGiven("1/8", "9", "64"), (open_ring,), film=Power(1.3)))
    assert film.turning is not None
    assert film.turning.to_seconds == pytest.approx(longest.seconds)
    assert film.turning.to_mark is None
    assert expose(ExposureQuestion(ReadingGiven("1/8", "9", "64"), glass(2))).turning is None
    with pytest.raises(Refusal, match="ends before it begins"):
        expose(ExposureQuestion(ReadingGiven("1/8", "9", "64"), (replace(open_ring, stops_max=1.0),)))


def test_thirty_stops_count_what_adds() -> None:
    dark = glass(16, 15)

    def through(metered: tuple[GlassGiven, ...]) -> ExposureQuestion:
        return ExposureQuestion(ReadingGiven("1/32000", "9", "64", through=metered), dark)

    base = expose(through(dark)).seconds
    assert expose(through(glass(2))).seconds == pytest.approx(base * 2**29)
    with pytest.raises(Refusal, match="31 stops are past 30"):
        expose(through(()))


FILTERS = st.lists(st.floats(0, 4), max_size=3).map(lambda stops: glass(*stops))


@given(FILTERS, FILTERS, st.sampled_from(["1/8", "1 s", "8 s"]))
def test_an_exchange_is_the_sum_of_what_goes_on_less_the_sum_of_what_comes_off(
    through: tuple[GlassGiven, ...], on: tuple[GlassGiven, ...], shutter: str
) -> None:
    answer = expose(ExposureQuestion(ReadingGiven(shutter, "9", "64", through=through), on))
    added = sum(each.stops or 0 for each in on) - sum(each.stops or 0 for each in through)
    assert answer.stops == pytest.approx(added, abs=1e-9)
    # And back again.
    back = expose(ExposureQuestion(ReadingGiven(answer.seconds, "9", "64", through=on), through))
    assert back.seconds == pytest.approx(answer.base_seconds)
    # "In both" may be said in either way.
    short = expose(
        ExposureQuestion(ReadingGiven(shutter, "9", "64"), tuple(replace(each, in_reading=True) for each in on))
    )
    long = expose(ExposureQuestion(ReadingGiven(shutter, "9", "64", through=on), on))
    assert (short.seconds, short.sure_within_stops) == pytest.approx((long.seconds, long.sure_within_stops))
    assert short.scene_ev100 == pytest.approx(long.scene_ev100)


def test_every_question_that_takes_a_reading_takes_out_what_it_was_taken_through() -> None:
    bare = {"shutter": "1/15", "aperture": "8", "iso": "100"}
    seen = {"shutter": "8 s", "aperture": "8", "iso": "100", "through": [{"stops": 7.0}]}
    lit = {"latitude": 58.05, "longitude": 6.8, "from": "2027-04-17T04:00:00Z", "to": "2027-04-17T06:00:00Z"}
    kit = {"glass": [{"id": "six", "kind": "solid", "stops": 6}], "slots": 2, "isos": ["100"]}
    asked: dict[str, dict[str, Any]] = {
        "outing/sky": {"sky": "overcast"},
        "outing/plausible": {"latitude": 58.05, "longitude": 6.8, "at": lit["from"]},
        "light/phone": {"phone_stops": 0.0},
        "reach": kit,
        "stacks": {**kit, "target": {"seconds": 4.0}, "apertures": ["8", "11"]},
        "flash": {"wide": "2.8", "sync_seconds": 0.005},
    }
    for name, more in asked.items():
        one, other = (ask(name, {**more, "reading": reading}) for reading in (bare, seen))
        for part in ("from_seconds", "to_seconds"):
            # A band is told in the times of its own reading.
            if part in one:
                assert other.pop(part) == pytest.approx(128 * one.pop(part))
        assert other == _close_to(one), name
    waits = [ask("outing/wait", {**lit, "wanted": reading}) for reading in (bare, seen)]
    assert waits[0] == _close_to(waits[1])


def _close_to(answer: Any) -> Any:
    if isinstance(answer, dict):
        return {name: _close_to(each) for name, each in answer.items()}
    if isinstance(answer, list):
        return [_close_to(each) for each in answer]
    return pytest.approx(answer) if isinstance(answer, float) else answer


@pytest.mark.parametrize("film", [None, Power(1.3)])
@pytest.mark.parametrize("rate", [None, -0.1, 0.15])
@pytest.mark.parametrize("through", [(), glass(3)])
def test_what_is_worked_out_gives_the_held_time_in_light_that_moves(
    film: Power | None, rate: float | None, through: tuple[GlassGiven, ...]
) -> None:
    light = None if rate is None else MovingLight(rate, 0.02, 60)
    reading, on, held = ReadingGiven("1/15", "8", "100", through=through), glass(10), 300.0
    more: dict[str, Any] = {"film": film, "light": light}

    def solved(floating: Floating) -> float:
        return solve(SolveQuestion(floating, reading, stack=on, target_seconds=held, **more)).value

    for settings in (
        SettingsGiven(aperture=solved(Floating.APERTURE), iso="100"),
        SettingsGiven(aperture="8", iso=solved(Floating.ISO)),
    ):
        assert expose(ExposureQuestion(reading, on, settings, **more)).seconds == pytest.approx(held, rel=1e-4)
    needed = solved(Floating.STACK)
    assert expose(ExposureQuestion(reading, glass(needed), **more)).seconds == pytest.approx(held, rel=1e-4)
    assert solve(SolveQuestion(Floating.TIME, reading, stack=on, **more)).value == pytest.approx(
        expose(ExposureQuestion(reading, on, **more)).seconds
    )


def test_the_filters_needed_are_all_that_is_to_be_on() -> None:
    question = SolveQuestion(Floating.STACK, ReadingGiven(*EASED, through=turned(2)), target_seconds=3.1748)
    assert solve(question).value == pytest.approx(4.0, abs=1e-4)
