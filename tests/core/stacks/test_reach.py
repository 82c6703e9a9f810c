"""Test core/stacks/reach.py."""

from __future__ import annotations

from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.stacks.finder import KitGlass
from jackstaff_core.stacks.reach import CLOSE_STOPS, ReachQuestion, reach
from jackstaff_core.words.refusal import Refusal

BARE = ReadingGiven("1/40", "9", "64")


@pytest.mark.parametrize(
    ("owned", "slots", "wished", "buys"),
    [
        # Wishes between six and ten: alone it is the eight, beside the six it is two stops.
        ((6.0, 10.0), 1, (8.0, 8.1, 7.9), 8.0),
        ((6.0, 10.0), 2, (8.0, 8.1, 7.9), 2.0),
        # Sixteen is a stack of both already.
        ((6.0, 10.0), 2, (16.0, 6.2), None),
        ((6.0, 10.0), 1, (16.0, 16.0, 3.0), 16.0),
        # Nothing wished for yet: two stops close what lies between six and ten.
        ((3.0, 6.0, 10.0), 2, (), 2.0),
        ((3.0,), 2, (), 8.0),
    ],
)
def test_what_to_buy_follows_what_was_wished_for(
    owned: tuple[float, ...], slots: int, wished: tuple[float, ...], buys: float | None
) -> None:
    glass = tuple(KitGlass(f"{stops:g}", GlassKind.SOLID, stops) for stops in owned)
    found = reach(ReachQuestion(BARE, glass, slots, wished=wished)).purchase
    assert (found and found.stops) == buys
    if found and wished:
        assert found.reached_then > found.reached_now
        assert found.wished == len(wished)
        more = (*glass, KitGlass("new", GlassKind.SOLID, found.stops))
        rungs = reach(ReachQuestion(BARE, more, slots)).rungs
        near = [min(abs(rung.stops - wish) for rung in rungs) <= CLOSE_STOPS for wish in wished]
        assert sum(near) == found.reached_then


READING = ReadingGiven("1/60", "8", "100")


def solid(name: str, stops: float) -> KitGlass:
    return KitGlass(name, GlassKind.SOLID, stops)


def test_reach_shows_gaps_bridges_and_the_best_purchase() -> None:
    found = reach(ReachQuestion(READING, (solid("six", 6.0), solid("ten", 10.0)), 1))
    assert [rung.stops for rung in found.rungs] == [0, 6, 10]
    assert found.rungs[1].seconds == pytest.approx(1.0)
    assert [(gap.from_stops, gap.to_stops, gap.bridges) for gap in found.gaps] == [(0, 6, ()), (6, 10, ())]
    assert found.longest_bare_seconds == pytest.approx(1 / 32)
    assert found.purchase is not None
    assert found.purchase.gap_stops_then < found.purchase.gap_stops_now
    near = reach(ReachQuestion(READING, (solid("two", 2.0),), 2, "5.6", "11", ("100", "200")))
    assert near.gaps[0].bridges == ("aperture",)
    variable = reach(ReachQuestion(READING, (KitGlass("turn", GlassKind.VARIABLE, min=0.5, max=16),), 1))
    assert (variable.gaps, variable.purchase) == ((), None)


@settings(max_examples=40)
@given(st.lists(st.integers(1, 15).map(float), max_size=5, unique=True), st.integers(0, 3))
def test_no_strength_inside_a_gap_is_reachable_and_every_rung_is(stops: list[float], slots: int) -> None:
    found = reach(ReachQuestion(READING, tuple(solid(f"g{each:g}", each) for each in stops), slots))
    sums = {sum(each for place, each in enumerate(stops) if bits >> place & 1)
            for bits in range(2 ** len(stops)) if bits.bit_count() <= slots}  # fmt: skip
    assert {rung.stops for rung in found.rungs} == sums
    for gap in found.gaps:
        assert gap.to_stops - gap.from_stops > 2 * CLOSE_STOPS
        assert not any(gap.from_stops < each < gap.to_stops for each in sums)


SOLIDS = st.lists(st.sampled_from([1.0, 2.0, 3.0, 6.0, 10.0]), max_size=4)


@given(SOLIDS, st.booleans(), st.integers(0, 2))
def test_the_ladder_is_every_sum_of_the_kit_with_its_times(solids: list[float], turning: bool, slots: int) -> None:
    glass = [KitGlass(f"g{number}", GlassKind.SOLID, stops) for number, stops in enumerate(solids)]
    glass += [KitGlass("turn", GlassKind.VARIABLE, min=2.0, max=5.0)] * turning
    found = reach(ReachQuestion(ReadingGiven(0.25, 8.0, 100.0), tuple(glass), slots))
    ends = {each.id: (each.stops or each.min or 0.0, each.stops or each.max or 0.0) for each in glass}
    sums = {
        tuple(round(sum(ends[each][side] for each in chosen), 6) for side in (0, 1))
        for size in range(slots + 1)
        for chosen in combinations(ends, size)
    }
    assert {(round(rung.stops, 6), round(rung.stops_to, 6)) for rung in found.rungs} == sums
    for rung in found.rungs:
        assert [rung.seconds, rung.seconds_to] == pytest.approx([0.25 * 2**rung.stops, 0.25 * 2**rung.stops_to])
        assert sum(ends[each][0] for each in rung.glass) == pytest.approx(rung.stops)
    # A gap lies between two rungs, wider than both are near; nothing of the kit reaches into it.
    for gap in found.gaps:
        assert gap.to_stops - gap.from_stops > 2 / 3
        assert [gap.from_seconds, gap.to_seconds] == pytest.approx([0.25 * 2**gap.from_stops, 0.25 * 2**gap.to_stops])
        assert not any(low < gap.to_stops - 1e-6 and high > gap.from_stops + 1e-6 for low, high in sums)
    if found.purchase and slots:
        more = (*glass, KitGlass("a new one", GlassKind.SOLID, found.purchase.stops))
        then = reach(ReachQuestion(ReadingGiven(0.25, 8.0, 100.0), more, slots))
        left = then.purchase.gap_stops_now if then.purchase else 0.0
        assert found.purchase.gap_stops_then <= found.purchase.gap_stops_now
        assert left in (0.0, pytest.approx(found.purchase.gap_stops_then))


@pytest.mark.parametrize(
    ("widest", "sharp_to", "isos", "bridges", "longest"),
    [
        # From f/8 and ISO 100: a stop each way by the aperture is two, by the ISO none.
        ("5.6", "11", ("100",), {"aperture"}, 0.5),
        ("8", "8", ("100",), set(), 0.25),
        ("8", "8", ("50", "800"), {"iso"}, 0.5),
        ("8", "11", ("50", "200"), {"aperture", "iso"}, 1.0),
    ],
)
def test_what_bridges_a_gap(
    widest: str, sharp_to: str, isos: tuple[str, ...], bridges: set[str], longest: float
) -> None:
    kit = (KitGlass("two", GlassKind.SOLID, 1.6),)
    found = reach(ReachQuestion(ReadingGiven(0.25, 8.0, 100.0), kit, 1, widest, sharp_to, isos))
    assert [set(gap.bridges) for gap in found.gaps] == [bridges]
    assert found.longest_bare_seconds == pytest.approx(longest)
    with pytest.raises(Refusal, match="backwards"):
        reach(ReachQuestion(ReadingGiven(0.25, 8.0, 100.0), kit, 1, "11", "5.6"))
