"""Test core/outing/swaps.py."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import combinations, pairwise
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.camera.reciprocity import Additive, LawGiven, Power
from jackstaff_core.exposure.calculation import ExposureQuestion, MovingLight, expose
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.moving_light.integral import Path, filled_metered_seconds
from jackstaff_core.outing.swaps import Stretch, aim_checker, plan_swaps
from jackstaff_core.scales.ladders import aperture_marks
from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.forecast import LightPoint, LightQuestion, forecast
from jackstaff_core.sky.sun_and_moon import Event, Place
from jackstaff_core.stacks.finder import KitGlass
from jackstaff_core.words.refusal import Refusal
from tests.core.given_plans import BEGIN, KIT, STEP, dawn, path, planned, wished


def test_a_dawn_is_kept_in_the_aim_with_few_changes() -> None:
    found = plan_swaps(forecast(dawn(3)).points, wished())
    shown = [stretch for stretch in found.stretches if stretch.glass is not None]
    assert found.stretches[0].start == BEGIN
    assert 2 <= len(shown) <= 6
    assert all(each.end == two.start for each, two in pairwise(found.stretches))
    assert found.changes == sum(stretch.glass is not None for stretch in found.stretches[1:])
    turns = [turn for stretch in shown for turn in stretch.turns]
    assert sum(turn > 0 for turn in turns) > 10
    assert all(0 <= turn <= 3 for turn in turns)
    assert all(("turn" in (stretch.glass or ())) == (stretch.turns != ()) for stretch in shown)


WEAKEST = {"three": 3.0, "six": 6.0, "ten": 10.0, "turn": 2.0}
FILMS: list[LawGiven | None] = [None, Power(1.3), Power(1.45, 0.5), Additive(0.1, 1.62)]


@settings(max_examples=40)
@given(
    st.floats(-60, 66),
    st.integers(0, 364),
    st.sampled_from(["nautical_dawn", "sunset"]),
    st.sampled_from([(20.0, 60.0), (60.0, 240.0), (4.0, 30.0), (90.0, 480.0)]),
    st.sampled_from(FILMS),
    st.sampled_from(list(Sky)),
)
def test_a_plan_gives_the_times_the_bench_gives_and_no_change_for_less_than_two_frames(
    latitude: float, day: int, event: str, aim: tuple[float, float], film: LawGiven | None, sky: Sky
) -> None:
    midnight = datetime(2027, 1, 1, tzinfo=UTC) + timedelta(days=day)
    place = Place(latitude, 0.0)
    begins = next(each.at for each in events_of(place, midnight) if each.name == event)
    if begins is None:
        return
    points = forecast(LightQuestion(place, begins, begins + timedelta(minutes=84), sky=sky)).points
    try:
        found = plan_swaps(points, wished(from_seconds=aim[0], to_seconds=aim[1], film=film))
    except Refusal:
        return
    for stretch in found.stretches:
        if stretch.glass is None:
            continue
        steps = [point for point in points if stretch.start <= point.at < stretch.end]
        times = [_at_the_bench(stretch, place, point, film) for place, point in enumerate(steps)]
        for point, turn in zip(steps, stretch.turns, strict=False):
            # A ring is turned no further up than a sixth of a stop inside the aim.
            metered = _metered_by(stretch, turn, point)
            least = filled_metered_seconds(Path.steady(point.stops_per_minute / 60, 0.0), film, aim[0])
            assert turn == 0 or math.log2(metered / least) <= 1 / 6 + 0.01
        assert len(stretch.seconds) == len(stretch.metered) == len(times)
        for point, metered, seconds, expected in zip(steps, stretch.metered, stretch.seconds, times, strict=True):
            bare = replace(stretch, glass=())
            assert metered == pytest.approx(_metered_by(bare, 0.0, point), rel=0.002)
            assert math.log2(seconds / expected) == pytest.approx(0, abs=0.02)
        for seconds in times:
            # In the aim at every minute, the light counted on to the end of the frame.
            assert math.log2(aim[0]) - 0.02 <= math.log2(seconds) <= math.log2(aim[1]) + 0.02
        assert math.log2((stretch.first_seconds or 0) / times[0]) == pytest.approx(0, abs=0.02)
        assert math.log2((stretch.last_seconds or 0) / times[-1]) == pytest.approx(0, abs=0.02)
        lasts = (stretch.end - stretch.start).total_seconds()
        assert lasts >= 2 * (max(times[0], times[-1]) * 0.98 + 30)


def events_of(place: Place, midnight: datetime) -> tuple[Event, ...]:
    return forecast(LightQuestion(place, midnight, midnight + timedelta(days=1), 3600.0)).events


def _metered_by(stretch: Stretch, turn: float, point: LightPoint) -> float:
    """The time of a stretch at a minute in still light without film [s]."""
    marks = {mark.label: mark.exact for mark in aperture_marks().between(1, 30)}
    strength = sum(WEAKEST[glass] for glass in stretch.glass or ()) + turn
    # ISO 100 is the only one of the wish.
    return float(marks[stretch.aperture or ""] ** 2 * 2 ** (strength - point.ev100))


def _at_the_bench(stretch: Stretch, step: int, point: LightPoint, film: LawGiven | None) -> float:
    """What the sum gives for a stretch of the plan at one of its minutes [s]."""
    turned = {"turn": stretch.turns[step]} if stretch.turns else {}
    return expose(
        ExposureQuestion(
            ReadingGiven(ev100=point.ev100),
            tuple(GlassGiven(WEAKEST[glass] + turned.get(glass, 0.0)) for glass in stretch.glass or ()),
            SettingsGiven(aperture=stretch.aperture, iso=stretch.iso),
            film=film,
            light=MovingLight(point.stops_per_minute),
        )
    ).seconds


def test_the_light_of_the_whole_frame_counts_in_a_plan() -> None:
    """Bare at f/8 and ISO 100 as dusk falls: 236 s by the light of the first moment, 376 s when it has gathered."""
    begins = datetime(2026, 9, 20, 18, 49, tzinfo=UTC)
    light = forecast(LightQuestion(Place(54.0, 0.0), begins, begins + timedelta(minutes=60))).points
    wish = wished(glass=(), apertures=("8", "8"), from_seconds=30.0, to_seconds=900.0)
    stretch = Stretch(begins, begins, (), "8", "100", None, None, 0, 0.0)
    assert _at_the_bench(stretch, 0, light[0], None) == pytest.approx(376.7, rel=0.002)
    # It grows so fast that no two of them fit before it is too long; opened four stops they do.
    assert (plan_swaps(light, wish).stretches[0].glass, plan_swaps(light, wish).stretches[0].too_fast) == (None, True)
    short = plan_swaps(light, wished(glass=(), apertures=("2", "2"), from_seconds=10.0, to_seconds=900.0)).stretches[0]
    assert short.first_seconds == pytest.approx(15.04, rel=0.002)


def test_what_would_have_to_be_changed_before_two_frames_is_told_as_too_fast() -> None:
    falling = tuple(
        LightPoint(BEGIN + timedelta(minutes=turn), 0, 0, 1, 10 - 0.6 * turn, 0.2, -0.6) for turn in range(31)
    )
    # Two thirds of a stop wide, the look is left after a minute.
    narrow = plan_swaps(falling, wished(glass=KIT[:3], from_seconds=100.0, to_seconds=160.0))
    assert [(stretch.glass, stretch.too_fast) for stretch in narrow.stretches] == [(None, True)]
    assert (narrow.stretches[0].start, narrow.stretches[0].end) == (BEGIN, falling[-1].at)
    wide = plan_swaps(falling, wished(glass=KIT[:3], from_seconds=10.0, to_seconds=160.0))
    assert any(stretch.glass is not None for stretch in wide.stretches)
    # What no way reaches is not too fast.
    assert not any(stretch.too_fast for stretch in planned([30.0] * 5).stretches)


@given(
    st.lists(st.floats(-1.5, 1.5), min_size=3, max_size=30),
    st.floats(-4, 14),
    st.sampled_from([(3.0, 6.0, 10.0), (2.7, 3.0, 3.3, 6.0)]),
)
def test_the_plan_leaves_the_aim_only_where_every_stack_would_and_changes_least(
    moves: list[float], begun: float, strengths: tuple[float, ...]
) -> None:
    levels = [begun + sum(moves[:turn]) for turn in range(len(moves))]
    kit = tuple(KitGlass(f"{stops}", GlassKind.SOLID, stops) for stops in strengths)
    found = planned(levels, apertures=("8", "11"), glass=kit)
    # The last point only ends the last stretch.
    serving = [_serving(level, strengths) for level in levels[:-1]]
    at, on = 0, frozenset[str]()
    for stretch in found.stretches:
        steps = round((stretch.end - stretch.start) / STEP)
        for step in range(at, at + steps):
            assert (stretch.glass is None) == (not serving[step])
            if stretch.glass is not None:
                assert (frozenset(stretch.glass), stretch.aperture) in serving[step]
        if stretch.glass is not None:
            # Of all that serve this stretch, what the hands get on and off soonest.
            throughout = set.intersection(*serving[at : at + steps])
            assert stretch.hand_moves == min(len(glass ^ on) for glass, _ in throughout)
            on = frozenset(stretch.glass)
        at += steps
    # By force: the fewest stretches that stay in the aim wherever that is possible.
    assert len([each for each in found.stretches if each.glass is not None]) == _fewest(serving)


def _serving(level: float, strengths: tuple[float, ...]) -> set[tuple[frozenset[str], str]]:
    found = set()
    for chosen in (each for size in range(3) for each in combinations(strengths, size)):
        for mark in aperture_marks().between(8, 11.4):
            time = 2 * math.log2(mark.exact) - level + sum(chosen)
            if math.log2(20) - 1e-8 <= time <= math.log2(60) + 1e-8:
                found.add((frozenset(map(str, chosen)), mark.label))
    return found


def _fewest(serving: list[set[tuple[frozenset[str], str]]]) -> int:
    count, standing = 0, set[tuple[frozenset[str], str]]()
    for ways in serving:
        if standing & ways:
            standing &= ways
        else:
            standing = set(ways)
            count += bool(ways)
    return count


@settings(max_examples=40)
@given(st.lists(st.floats(-3, 3), min_size=3, max_size=12), st.floats(-4, 14), st.sampled_from([(), ("six", "ten")]))
def test_hands_are_counted_from_stretch_to_stretch(moves: list[float], begun: float, on: tuple[str, ...]) -> None:
    levels = [begun + sum(moves[:turn]) for turn in range(len(moves))]
    dialled: tuple[str | None, str | None] | None = None
    for stretch in planned(levels, isos=("100", "400"), apertures=("8", "16"), glass=KIT[:3], on=on).stretches:
        if stretch.glass is None:
            assert (stretch.hand_moves, stretch.hand_seconds) == (0, 0)
            continue
        glass = len(set(stretch.glass) ^ set(on))
        now = (stretch.aperture, stretch.iso)
        dials = 0 if dialled is None else sum(was != new for was, new in zip(dialled, now, strict=True))
        # Half a minute for a filter, five seconds for a dial.
        assert (stretch.hand_moves, stretch.hand_seconds) == (glass, 30 * glass + 5 * dials)
        on, dialled = stretch.glass, now


@given(
    st.lists(st.sampled_from(KIT), max_size=4, unique=True),
    st.floats(20.5, 200),
    st.floats(-4, 18),
    st.sampled_from([("5.6", "16"), ("8", "8")]),
)
def test_the_light_a_kit_serves_is_the_light_a_plan_can_be_made_for(
    glass: list[KitGlass], to_seconds: float, level: float, ends: tuple[str, str]
) -> None:
    more: dict[str, Any] = {"glass": tuple(glass), "to_seconds": to_seconds, "apertures": ends}
    (only,) = planned([level] * 4, **more).stretches
    assert (only.glass is not None) == aim_checker(wished(**more))(path([level])[0])


def test_a_swap_prefers_what_is_on_and_counts_the_hands() -> None:
    found = planned([6.0] * 5, on=("six",))
    (only,) = found.stretches
    assert (only.glass, only.hand_moves, only.hand_seconds, found.changes) == (("six",), 0, 0.0, 0)
    fallen = planned([10.0] * 5 + [6.0] * 5, glass=KIT[:3], on=("ten",))
    assert next(each.hand_moves for each in fallen.stretches) == 0
    nothing = planned([30.0] * 3)
    assert (nothing.stretches[0].glass, nothing.changes) == (None, 0)
    for levels, bad in (
        ([6.0] * 5, {"from_seconds": 60.0, "to_seconds": 20.0}),
        ([1.0], {}),
        ([6.0] * 5, {"isos": ()}),
    ):
        with pytest.raises(Refusal):
            planned(levels, **bad)
    # A lens of one aperture, off the ladder, shoots as well.
    (fixed,) = planned([6.0] * 5, apertures=("5.1", "5.1")).stretches
    assert fixed.aperture == "5.1"


def test_an_aim_that_would_change_at_every_step_is_refused_before_it_costs_more() -> None:
    flicker = [6.0, 6.5] * 100
    assert planned(flicker).changes == 0
    with pytest.raises(Refusal, match="more than 100 times"):
        planned(flicker, glass=KIT[:3], from_seconds=31.0, to_seconds=33.0)
