"""The finder against its table, against brute force, and where it has to say no."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.scales.ladders import Step, aperture_marks, iso_marks
from jackstaff_core.stacks.finder import FinderQuestion, KitGlass, Onto, Order, Stack, Target, find, pieces_of, subsets
from jackstaff_core.words.refusal import Refusal
from tests.core.tables import facts

KIT = (
    KitGlass("ND10", GlassKind.SOLID, 10),
    KitGlass("ND6", GlassKind.SOLID, 6),
    KitGlass("ND3a", GlassKind.SOLID, 3),
    KitGlass("ND3b", GlassKind.SOLID, 3),
    KitGlass("ND15", GlassKind.SOLID, 15),
    KitGlass("VND", GlassKind.VARIABLE, min=2, max=5),
    KitGlass("CPL", GlassKind.POLARISER, min=1.5, max=2),
    KitGlass("soft", GlassKind.GRADUATED),
    KitGlass("hard", GlassKind.GRADUATED),
)


SHARP_TO = 2 ** (21 / 6)
"""f/11 exactly, past which diffraction softens."""


ASKED = FinderQuestion(ReadingGiven(1 / 64, 8.0, 100.0), KIT, 3, Target(120.0), ("5.6", "22"), ("100",))


@facts("finder")
def test_cases(row: dict[str, str]) -> None:
    found = find(
        replace(
            ASKED,
            reading=ReadingGiven(float(row["reading"]), float(row["aperture"]), 100.0),
            slots=int(row["slots"]),
            target=Target(float(row["target"])),
            must=() if row["must"] == "-" else (row["must"],),
        )
    )
    assert found.count == int(row["count"])
    if row["best"] == "no solution":
        assert found.stacks == ()
        assert found.none_because
        assert found.nearest is not None
        assert found.nearest.glass == ()
        return
    best = found.stacks[0]
    assert set(best.glass) == set(row["best"].split("+"))
    mark = aperture_marks().mark(best.aperture)
    assert mark is not None
    assert mark.exact == pytest.approx(float(row["f_number"]), rel=1e-5)
    assert best.stops == pytest.approx(float(row["stops"]), abs=1e-4)
    assert best.seconds == pytest.approx(float(row["seconds"]), rel=2e-5)
    assert best.error_stops == pytest.approx(float(row["error"]), abs=1e-5)


def test_a_variable_filter_is_set_to_what_the_others_leave() -> None:
    # A polariser counts by the middle of what it takes.
    counted = {piece.id: ((piece.min or 0) + (piece.max or 0)) / 2 or piece.stops or 0.0 for piece in KIT}
    stacks = find(ASKED).stacks
    assert {stack.turned is None for stack in stacks} == {False, True}
    for stack in stacks:
        others = sum(counted[name] for name in stack.glass if name != "VND")
        assert (stack.turned is not None) == ("VND" in stack.glass)
        assert stack.turned is None or 2 - 1e-9 <= stack.turned <= 5 + 1e-9
        assert (stack.turned or 0.0) + others == pytest.approx(stack.stops)


def test_each_filter_that_comes_off_or_goes_on_is_a_move_by_hand() -> None:
    found = find(replace(ASKED, on=("ND6", "VND")))
    assert {stack.hand_moves for stack in found.stacks} >= {1, 2, 3}
    for stack in found.stacks:
        off = [name for name in ("ND6", "VND") if name not in stack.glass]
        added = [name for name in stack.glass if name not in ("ND6", "VND")]
        assert stack.hand_moves == len(off) + len(added)


def test_by_hands_what_stands_there_comes_first_and_another_depth_or_iso_last() -> None:
    """At 1/64, f/8 and ISO 100, two minutes are 12.9 stops away: 10 and 3 that are on give them."""
    asked = replace(ASKED, order=Order.HANDS, isos=("100", "200", "400"), on=("ND10", "ND3a"))
    first, *rest = find(asked).stacks
    assert (set(first.glass), first.aperture, first.iso, first.changes) == ({"ND10", "ND3a"}, "8", "100", 0)
    assert first.reasons[0].text == "nothing to change"
    assert all(stack.changes > 0 for stack in rest)

    def cost(stack: Stack) -> tuple[bool, bool, bool, int]:
        away = abs(2 * math.log2((aperture_marks().nearest(float(stack.aperture)).exact) / 8))
        off = abs(stack.error_stops) > 1 / 6 + 1e-9
        changes = len({"ND10", "ND3a"} ^ set(stack.glass)) + (stack.aperture != "8") + (stack.iso != "100")
        assert stack.changes == changes
        assert (away > 1.01) == ("other_depth" in {reason.code for reason in stack.reasons})
        return off, stack.iso != "100", away > 1.01, changes

    # Within sharp apertures the rest are in this order.
    costs = [cost(stack) for stack in rest if float(stack.aperture) <= 11]
    assert costs == sorted(costs)
    # With only f/2.8 to f/4 to choose from it is said that the depth is another.
    wide = find(replace(asked, apertures=("2.8", "4"), on=())).stacks[0]
    assert "opened 2 stops: another depth of field" in [reason.text for reason in wide.reasons]
    # A variable that is on is only turned.
    turned = find(replace(asked, on=("VND", "ND10"), target=Target(60.0))).stacks[0]
    assert (set(turned.glass), turned.changes) == ({"VND", "ND10"}, 0)
    assert turned.reasons[0].text == "only turn it to 2.0"


def test_changes_are_counted_from_where_the_camera_is_set() -> None:
    """Metered at f/8 and set to f/11: what stays there is nothing to change, and f/8 is one change."""
    asked = replace(ASKED, order=Order.HANDS, on=("ND10", "ND3a"), set_to=SettingsGiven("11", "100"))
    stacks = find(replace(asked, target=Target(240.0))).stacks
    assert (stacks[0].aperture, stacks[0].changes) == ("11", 0)
    for stack in stacks:
        glass = len({"ND10", "ND3a"} ^ set(stack.glass))
        assert stack.changes == glass + (stack.aperture != "11")


@pytest.mark.parametrize(
    ("mount", "size_mm", "fits"),
    [
        ("thread", 82.0, True),
        ("thread", 77.0, True),
        ("magnet", 72.0, False),
        ("plate", 100.0, True),
        ("plate", 85.0, False),
        ("clip", 40.0, True),
        ("thread", None, True),
    ],
)
def test_only_what_goes_onto_lens_and_holder_is_a_way(mount: str, size_mm: float | None, fits: bool) -> None:
    """On a 77 mm thread and in a 100 mm holder; what is on already fits."""
    six = KitGlass("six", GlassKind.SOLID, 6.0, mount=mount, size_mm=size_mm)
    asked = replace(ASKED, glass=(six,), target=Target(1.0), onto=Onto(77.0, 100.0))
    assert bool(find(asked).stacks) == fits
    assert find(replace(asked, on=("six",))).stacks
    assert find(replace(asked, onto=None)).stacks


def test_those_that_matter_say_why() -> None:
    found = find(replace(ASKED, isos=("50", "100", "200"), iso_base="100"))
    reasons = {stack.glass: [reason.code for reason in stack.reasons] for stack in found.stacks if stack.matters}
    assert 2 <= len(reasons) <= 6
    assert "fewest_glasses" in reasons[found.stacks[0].glass]
    assert any("cleanest" in codes for codes in reasons.values())
    assert any("closest_time" in codes for codes in reasons.values())
    assert len(found.stacks) == 24 < found.count


@pytest.mark.parametrize(
    ("change", "because"),
    [
        ({"target": Target(86_000.0), "slots": 1}, "out of reach"),
        ({"reading": ReadingGiven(16.0, 8.0, 100.0), "target": Target(0.1)}, "too short for this light"),
        ({"must": ("ND10", "ND6", "ND3a"), "slots": 2}, "3 filters are asked for and the holder takes 2."),
        ({"must": ("CPL", "VND")}, "Two polarising filters"),
    ],
)
def test_no_solution_says_why_and_what_is_nearest(change: dict[str, object], because: str) -> None:
    found = find(replace(ASKED, **change))  # type: ignore[arg-type]
    assert (found.count, found.stacks) == (0, ())
    assert because in (found.none_because or "")
    assert (found.nearest is None) == ("must" in change)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"glass": tuple(KitGlass(str(n), GlassKind.SOLID, 1 + n / 10) for n in range(25))}, "glass"),
        ({"slots": 5}, "slots"),
        ({"glass": (KIT[0], KIT[0])}, "glass"),
        ({"must": ("nothing",)}, "must.0"),
        ({"glass": (KitGlass("x", GlassKind.VARIABLE, min=5, max=2),)}, "glass.0.max"),
        ({"glass": (KitGlass("x", GlassKind.SOLID),)}, "glass.0"),
        ({"isos": ()}, "isos"),
        ({"apertures": ("5.7", "5.8")}, "apertures"),
        ({"target": Target(0.0)}, "target.seconds"),
    ],
)
def test_unsound_questions_are_refused(change: dict[str, object], field: str) -> None:
    with pytest.raises(Refusal) as refused:
        find(replace(ASKED, **change))  # type: ignore[arg-type]
    assert refused.value.field == field


GLASS = st.one_of(
    st.builds(lambda stops: (GlassKind.SOLID, stops, None), st.sampled_from([1.0, 2.0, 3.0, 6.0, 9.8, 10.0, 15.0])),
    st.just((GlassKind.VARIABLE, 2.0, 5.0)),
    st.just((GlassKind.POLARISER, 1.5, 2.0)),
)


def _kit_of(drawn: list[tuple[GlassKind, float, float | None]]) -> tuple[KitGlass, ...]:
    return tuple(
        KitGlass(f"g{place}", kind, low if high is None else None, None if high is None else low, high)
        for place, (kind, low, high) in enumerate(drawn)
    )


@given(st.lists(GLASS, max_size=5), st.floats(-3, 10), st.integers(0, 3))
def test_nothing_wrong_and_nothing_cheaper_missed(
    kit: list[tuple[GlassKind, float, float | None]], log_target: float, slots: int
) -> None:
    glass = _kit_of(kit)
    target = 2.0**log_target
    found = find(replace(ASKED, glass=glass, slots=slots, target=Target(target)))
    assert found.count == _by_force(glass, target, slots)
    by_id = {each.id: each for each in glass}
    for stack in found.stacks:
        mark = aperture_marks(Step.THIRD).mark(stack.aperture)
        assert mark is not None
        assert stack.seconds == pytest.approx(2**stack.stops / 64 * (mark.exact / 8) ** 2, rel=1e-9)
        assert abs(math.log2(stack.seconds / target)) <= 1 / 3 + 1e-6
        assert sum(by_id[each].kind.polarises for each in stack.glass) <= 1
        # A polariser that takes 1.5 to 2 stops may be a quarter off either way.
        assert stack.sure_half_range == 0.25 * sum(by_id[each].kind is GlassKind.POLARISER for each in stack.glass)
    if found.stacks:
        within = [stack for stack in found.stacks if abs(stack.error_stops) <= 1 / 6 + 1e-9]
        assert found.stacks[0] in (within or found.stacks)


@given(st.lists(GLASS, min_size=1, max_size=5), st.floats(-3, 10), st.sampled_from(["50", "100", "200"]))
def test_the_order_what_matters_and_why_follow_from_four_figures(
    kit: list[tuple[GlassKind, float, float | None]], log_target: float, base: str
) -> None:
    glass = _kit_of(kit)
    asked = replace(ASKED, glass=glass, target=Target(2.0**log_target), isos=("50", "100", "200"), iso_base=base)
    found = find(asked)
    worth = {}
    for stack in found.stacks:
        mark = aperture_marks(Step.THIRD).mark(stack.aperture)
        assert mark is not None
        softer = round(max(0.0, 2 * math.log2(mark.exact / SHARP_TO)), 9)
        away = abs(math.log2(float(stack.iso) / float(base)))
        worth[stack] = (len(stack.glass), round(abs(stack.error_stops), 9), softer, away)
    turned = {stack: stack.turned is not None for stack in found.stacks}

    def place(stack: Stack) -> tuple[object, ...]:
        glasses, size, softer, away = worth[stack]
        return (size > 1 / 6 + 1e-9, softer > 1 / 3 + 1e-9, glasses, away, softer, turned[stack], size)

    assert [place(stack) for stack in found.stacks] == sorted(map(place, found.stacks))
    for stack, own in worth.items():
        codes = {reason.code for reason in stack.reasons}
        assert ("cleanest" in codes) == (own[2:] == (0, 0))
        assert ("soft" in codes) == (own[2] > 1 / 3 + 1e-9)
        assert ("off_base_iso" in codes) == (own[3] > 0)
        assert ("off_target" in codes) == (own[1] > 1 / 6 + 1e-9)
        if found.count > len(found.stacks):
            continue
        assert ("fewest_glasses" in codes) == (own[0] == min(each[0] for each in worth.values()))
        assert ("closest_time" in codes) == (own[1] <= min(each[1] for each in worth.values()) + 1e-9)
        at_least = [other for other, its in worth.items() if all(a <= b for a, b in zip(its, own, strict=True))]
        assert stack.matters <= all(worth[other] == own for other in at_least)
        assert any(other.matters for other in at_least)


def _by_force(glass: tuple[KitGlass, ...], target: float, slots: int) -> int:
    seen = set()
    for size in range(slots + 1):
        for chosen in combinations(glass, size):
            if sum(each.kind.polarises for each in chosen) > 1:
                continue
            kinds = tuple(sorted((each.kind, each.stops or 0, each.min or 0) for each in chosen))
            for mark in aperture_marks(Step.THIRD).between(5.6, 22.7):
                low = high = 2 * math.log2(mark.exact / 8) - 6
                for each in chosen:
                    if each.kind is GlassKind.VARIABLE:
                        low, high = low + 2, high + 5
                    else:
                        share = each.stops if each.stops is not None else 1.75
                        low, high = low + share, high + share
                wanted = math.log2(target)
                if low - 1 / 3 - 1e-9 <= wanted <= high + 1 / 3 + 1e-9:
                    seen.add((kinds, mark.label))
    return len(seen)


def test_a_question_too_wide_is_refused_before_it_costs_more() -> None:
    glass = tuple(KitGlass(f"g{number}", GlassKind.SOLID, stops=0.3 + 0.041 * number) for number in range(24))
    every = tuple(mark.label for mark in iso_marks(Step.THIRD).between(50, 6500))
    wide = FinderQuestion(ReadingGiven("1/60", "8", "100"), glass, 4, Target(1.0, 5.0), ("1.4", "32"), every)
    with pytest.raises(Refusal, match="1 million ways"):
        find(wide)
    assert find(replace(wide, isos=("100",), target=Target(1.0))).count > 1000


def test_a_named_stack_is_never_beside_its_members_nor_beside_one_that_shares_one() -> None:
    pairs = (
        KitGlass("taped", GlassKind.SOLID, 9.1, members=("ND6", "ND3a")),
        KitGlass("other", GlassKind.SOLID, 13.2, members=("ND10", "ND3a")),
    )
    seen = {frozenset(subset.ids) for subset in subsets(pieces_of((*KIT, *pairs)), 3)}
    plain = {frozenset(subset.ids) for subset in subsets(pieces_of(KIT), 3)}
    made = {"taped": {"ND6", "ND3a", "other"}, "other": {"ND10", "ND3a", "taped"}}
    assert not any(ids & made[pair] for ids in seen for pair in made if pair in ids)
    # Nothing else is lost: the twin of a member goes with the stack, and all that needs no stack is there.
    assert {"taped", "ND3b", "ND10"} in seen
    assert plain <= seen
    found = find(replace(ASKED, glass=(*KIT, *pairs), must=("taped", "ND6")))
    assert found.count == 0
