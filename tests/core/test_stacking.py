"""Stack rules, the ladder a kit reaches, and the bench's extras."""

from __future__ import annotations

import math
from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.camera.reciprocity import Power
from jackstaff_core.exposure.aperture_trade import TradeQuestion, trade
from jackstaff_core.exposure.calculation import ExposureQuestion, expose
from jackstaff_core.exposure.flash import FlashQuestion, flash
from jackstaff_core.exposure.trial import measured, measured_within, trial
from jackstaff_core.exposure.video import VideoQuestion, hold
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.gear.sorts import Accessory, Body, Glass, Holder, Lens
from jackstaff_core.scales.ladders import Step
from jackstaff_core.stacks.finder import KitGlass
from jackstaff_core.stacks.graduated import GraduatedQuestion, Horizon, Owned, choose
from jackstaff_core.stacks.reach import CLOSE_STOPS, ReachQuestion, reach
from jackstaff_core.stacks.rules import On, Rig, findings, usable_end
from jackstaff_core.words.refusal import Refusal

PLATE_1 = On("Slot ND 1", Glass(stops=1, mount="plate", size_mm=100), 1)
PLATE_4 = On("Slot ND 4", Glass(stops=4, mount="plate", size_mm=100), 4)
PLATE_9 = On("Slot ND 9", Glass(stops=9, mount="plate", size_mm=100, gasket=True), 9)
PLATE_80 = On("Slot ND 3", Glass(stops=3, mount="plate", size_mm=80), 3)
RING = On("Ring ND 6", Glass(stops=6, size_mm=77, rim_depth_mm=5, clear_mm=78), 6)
RING_67 = On("Ring ND 3", Glass(stops=3, size_mm=67), 3)
RING_76 = On("Ring ND 2", Glass(stops=2, size_mm=76), 2)
RING_82 = On("Ring ND 8", Glass(stops=8, size_mm=82), 8)
POL = On("Clip-on pol", Glass(kind="polariser", stops=1.3, stops_max=1.7, mount="clip"), 1.5)
VND = On("Ring VND", Glass(kind="variable", stops=2, stops_max=5), 4.9)
GRAD = On("Soft grad", Glass(kind="graduated", stops=2, mount="plate", size_mm=100), 0)
PRIME = Lens(thread_mm=77)
SEEN = Lens(thread_mm=77, clear_from_mm=16, clear_rims_mm=15, clear_opening_mm=78)
HOLDER = Holder(rings_mm=(77,))


def codes(*glass: On, **rig: object) -> set[str]:
    return {each.code for each in findings(Rig(glass, **rig))}  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("glass", "rig", "there", "not_there"),
    [
        ((PLATE_4, PLATE_9), {"holder": HOLDER}, {"gasket_first", "gaps"}, {"too_many_plates"}),
        ((PLATE_9, PLATE_4), {"holder": HOLDER}, {"gaps"}, {"gasket_first"}),
        ((PLATE_9, PLATE_4, PLATE_4), {"holder": HOLDER}, {"too_many_plates"}, set()),
        ((PLATE_9,), {}, {"no_holder"}, {"gaps"}),
        ((PLATE_9, PLATE_1), {"holder": HOLDER}, set(), {"gaps"}),
        ((PLATE_80,), {"holder": HOLDER}, {"plate_too_narrow"}, set()),
        ((PLATE_9,), {"holder": HOLDER}, set(), {"plate_too_narrow"}),
        ((PLATE_9,), {"holder": HOLDER, "lens": Lens(thread_mm=82)}, {"no_adapter_ring", "hood"}, set()),
        ((RING_67,), {"lens": PRIME}, {"thread_too_small"}, {"step_ring"}),
        ((RING_76,), {"lens": PRIME}, {"thread_too_small"}, {"step_ring"}),
        ((RING_76,), {"lens": Lens(thread_mm=75)}, {"step_ring"}, {"thread_too_small"}),
        ((RING_82,), {"lens": PRIME}, {"step_ring"}, {"thread_too_small"}),
        ((RING,), {"lens": PRIME}, {"hood"}, {"step_ring", "thread_too_small"}),
        ((RING,), {"lens": Lens(takes="none")}, {"lens_takes_no_glass"}, set()),
        ((GRAD, PLATE_9), {"holder": HOLDER}, {"graduated_outermost"}, set()),
        ((PLATE_9, GRAD), {"holder": HOLDER}, set(), {"graduated_outermost"}),
        ((POL, VND), {}, {"variable_on_polariser"}, {"two_polarisers"}),
        ((POL, POL), {}, {"two_polarisers"}, {"variable_on_polariser"}),
        # Metered through nine stops, or a polariser that may have been on already.
        ((On("Slot ND 9", PLATE_9.glass, 9, True),), {"body": Body()}, {"doubtful_reading"}, set()),
        ((On("Clip-on pol", POL.glass, 1.5, True),), {"body": Body()}, {"was_it_on"}, {"doubtful_reading"}),
        ((POL,), {}, {"was_it_on"}, set()),
        ((PLATE_9,), {"holder": HOLDER}, set(), {"was_it_on", "doubtful_reading"}),
        ((PLATE_9,), {"holder": HOLDER, "through_stops": 9.0}, {"doubtful_reading"}, set()),
        # Variable glass: uneven on a wide lens, clean on a long one, and the user's own frames decide before either.
        ((VND,), {"focal_mm": 16.0}, {"uneven"}, set()),
        ((VND,), {"focal_mm": 50.0}, set(), {"uneven"}),
        ((On("V", Glass(kind="variable", stops=2, stops_max=8, usable_end=((16, 6),)), 5),), {"focal_mm": 16.0}, set(),
         {"uneven", "past_clean_end"}),
        ((On("V", Glass(kind="variable", stops=2, stops_max=8, usable_end=((50, 4),)), 5),), {"focal_mm": 50.0},
         {"past_clean_end"}, {"uneven"}),
        # Rims: silent without an observation but for a question on a wide lens; judged with one.
        ((RING, RING), {"lens": PRIME, "focal_mm": 24.0}, {"rims_unknown"}, {"rims_clip"}),
        ((RING, RING), {"lens": PRIME, "focal_mm": 50.0}, set(), {"rims_unknown", "rims_clip"}),
        ((RING,) * 3, {"lens": SEEN, "focal_mm": 16.5, "body": Body()}, set(), {"rims_clip", "rims_unknown"}),
        ((RING,) * 4, {"lens": SEEN, "focal_mm": 17.0, "body": Body()}, {"rims_clip"}, set()),
        ((RING,), {"lens": Lens(thread_mm=77, shift_mm=8), "focal_mm": 24.0}, {"shift"}, set()),
        ((PLATE_9, PLATE_4, RING), {"body": Body(eyepiece="optical")}, {"eyepiece"}, set()),
        ((PLATE_9, PLATE_4, RING), {"body": Body(eyepiece="electronic")}, set(), {"eyepiece"}),
        ((), {"body": Body(), "f_number": 22.6}, {"diffraction"}, set()),
        ((), {"body": Body(), "f_number": 11.3}, set(), {"diffraction"}),
        ((GRAD,), {"holder": HOLDER, "lens": Lens(rotating_front=True)}, {"rotating_front"}, set()),
        ((), {"body": Body(), "lens": PRIME, "holder": HOLDER}, set(), {"hood", "no_holder"}),
    ],
)  # fmt: skip
def test_findings(glass: tuple[On, ...], rig: dict[str, object], there: set[str], not_there: set[str]) -> None:
    found = codes(*glass, **rig)
    assert there <= found
    assert not found & not_there


def test_findings_say_why_and_what_to_do() -> None:
    owned = findings(Rig((RING_82,), lens=PRIME, step_rings=(Accessory(kind="step_ring", from_mm=77, to_mm=82),)))
    lent = findings(Rig((RING_82,), lens=PRIME))
    assert "bring one" not in owned[0].text
    assert "bring one" in lent[0].text
    clip = next(
        finding for finding in findings(Rig((RING,) * 4, lens=SEEN, focal_mm=17.0)) if finding.code == "rims_clip"
    )
    # Four rims after three were clear at 16 mm: 18.8 mm, as the vectors of the rims have it.
    assert clip.values["clear_mm"] == pytest.approx(18.77, abs=0.02)
    assert all(finding.text.count(".") >= 2 for finding in findings(Rig((PLATE_4, PLATE_9), holder=HOLDER)))
    assert usable_end(VND.glass, 16.0) == pytest.approx(3.4, abs=0.4)
    assert usable_end(RING.glass, 16.0) is None


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


@settings(max_examples=40, deadline=None)
@given(st.lists(st.integers(1, 15).map(float), max_size=5, unique=True), st.integers(0, 3))
def test_no_strength_inside_a_gap_is_reachable_and_every_rung_is(stops: list[float], slots: int) -> None:
    found = reach(ReachQuestion(READING, tuple(solid(f"g{each:g}", each) for each in stops), slots))
    sums = {sum(each for place, each in enumerate(stops) if bits >> place & 1)
            for bits in range(2 ** len(stops)) if bits.bit_count() <= slots}  # fmt: skip
    assert {rung.stops for rung in found.rungs} == sums
    for gap in found.gaps:
        assert gap.to_stops - gap.from_stops > 2 * CLOSE_STOPS
        assert not any(gap.from_stops < each < gap.to_stops for each in sums)


def test_film_acts_last_on_the_metered_time() -> None:
    asked = ExposureQuestion(ReadingGiven(1 / 64, 8.0, 100.0), (GlassGiven(stops=10),), film=Power(1.3))
    film, bare = expose(asked), expose(ExposureQuestion(ReadingGiven(1 / 64, 8.0, 100.0), (GlassGiven(stops=10),)))
    assert film.seconds == pytest.approx(16**1.3)
    assert [step.kind for step in film.steps] == ["reading", "glass", "film"]
    assert film.sure_within_stops == pytest.approx(1.3 * bare.sure_within_stops)
    # A stop more of glass asks p stops more of time.
    more = expose(ExposureQuestion(ReadingGiven(1 / 64, 8.0, 100.0), (GlassGiven(stops=11),), film=Power(1.3)))
    assert math.log2(more.seconds / film.seconds) == pytest.approx(1.3)


def test_a_trial_scales_and_says_what_the_stack_measures() -> None:
    # 30 s on the dial is 32 s; it came out a stop dark where the sum had said 32 s: 64 s, one stop denser.
    found = trial(32.0, -1.0, 32.0)
    assert (found.seconds, found.offset) == (64.0, 1.0)
    assert measured(1 / 64, 1 / 4) == pytest.approx(4)
    # Two marks, each anywhere within its step: 1/3 stop gives 2 sqrt(2/108 + 0.0025), a full one 2 sqrt(1/6 + 0.0025).
    assert [measured_within(step) for step in (Step.THIRD, Step.FULL)] == pytest.approx([0.2900, 0.8226], abs=1e-4)
    with pytest.raises(Refusal):
        trial(32.0, 9.0, 32.0)


@pytest.mark.parametrize(
    ("sky", "ground", "horizon", "pick", "lead"),
    [
        ("1/500", "1/60", Horizon.FLAT, "hard2", 1),
        ("1/500", "1/60", Horizon.UNEVEN, "soft2", 1),
        ("1/60", "1/60", Horizon.FLAT, None, None),
        ("1/1000", "1/60", Horizon.SUN_ON_IT, "reverse3", 1),
    ],
)
def test_which_graduated_glass(sky: str, ground: str, horizon: Horizon, pick: str | None, lead: float | None) -> None:
    owned = (Owned("soft2", 2, "soft"), Owned("hard2", 2, "hard"), Owned("reverse3", 3, "reverse"))
    found = choose(GraduatedQuestion(sky, ground, 0.5, horizon, owned))
    assert found.pick == pick
    if lead is not None:
        assert found.sky_lead == pytest.approx(lead)
        assert found.foreground_gains == pytest.approx(found.average_falls)
    with pytest.raises(Refusal):
        choose(GraduatedQuestion("1/30", "1/60"))


def test_flash_wants_the_shutter_down_to_the_sync_time() -> None:
    found = flash(FlashQuestion(ReadingGiven(1 / 256, 8.0, 100.0), 2.0, 1 / 256))
    assert [found.wide_seconds, found.stops] == pytest.approx([1 / 4096, 4])
    assert flash(FlashQuestion(ReadingGiven(1 / 60, 8.0, 100.0), 8.0, 1 / 200)).stops == 0


@pytest.mark.parametrize(
    ("now", "change", "held", "to", "short", "side"),
    [
        (3, 1, True, 4, 0, None),
        (3, 2.5, False, 4.5, 1, "dense"),
        (3, -2, False, 2, 1, "weak"),
        (2, 0, True, 2, 0, None),
    ],
)
def test_holding_a_video_shutter(
    now: float, change: float, held: bool, to: float, short: float, side: str | None
) -> None:
    found = hold(VideoQuestion(now, change, 2, 4.5))
    assert (found.held, found.side) == (held, side)
    assert [found.turn_to, found.short_stops] == pytest.approx([to, short])
    assert hold(VideoQuestion(0.5, 0, 0, 4.5)).room_brighter == 4
    with pytest.raises(Refusal):
        hold(VideoQuestion(6, 0, 2, 4.5))


def test_aperture_as_a_trade() -> None:
    rows = {row.aperture: row for row in trade(TradeQuestion(16.0, 8.0, 24.0, 2.8, 22.0, 4.35)).rows}
    assert rows["16"].seconds == pytest.approx(64)
    assert rows["11"].hyperfocal_m == pytest.approx(1.72106, rel=2e-3)
    assert [rows[each].sharpness for each in ("8", "16", "22")] == ["sharp", "soft", "soft"]
    assert list(rows) == ["2.8", "4", "5.6", "8", "11", "16", "22"]
    assert trade(TradeQuestion(1, 8, 24, 8, 8, 4.35, nearest_m=2, farthest_m=8)).third_in_m == pytest.approx(4)
    with pytest.raises(Refusal):
        trade(TradeQuestion(1, 8, 24, 8, 8, 4.35, nearest_m=8, farthest_m=2))


@pytest.mark.parametrize("pitch", [2.4, 4.35, 6.0, 9.0])
def test_an_aperture_is_called_sharp_by_how_many_pixels_its_spot_spans(pitch: float) -> None:
    # 1.03 wavelengths of 0.55 µm times the f-number, to a pixel and a half and to two.
    rows = trade(TradeQuestion(1.0, 8.0, 24.0, 1.4, 64.0, pitch)).rows
    spots = [1.03 * 0.55 * 2 ** (place / 2) / pitch for place in range(1, 13)]
    assert [row.spot_pixels for row in rows] == pytest.approx(spots, rel=0.01)
    words = ["sharp" if spot <= 1.5 else "softer" if spot <= 2 else "soft" for spot in spots]
    assert [row.sharpness for row in rows] == words
    assert {"sharp", "soft"} <= set(words)


SOLIDS = st.lists(st.sampled_from([1.0, 2.0, 3.0, 6.0, 10.0]), max_size=4)


@settings(max_examples=60, deadline=None)
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
