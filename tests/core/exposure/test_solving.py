"""The fifth quantity from the other four, and the laws that tie them."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.exposure.calculation import Correction, ExposureQuestion, expose
from jackstaff_core.exposure.solving import Floating, Solved, SolveQuestion, solve
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.stacks.finder import FinderQuestion, KitGlass, Target, find
from jackstaff_core.words.refusal import Refusal
from tests.core.tables import facts, near

BARE = ReadingGiven("1/40", "9", "64")


def test_a_wish_for_brighter_is_a_step_of_its_own_wherever_the_time_goes() -> None:
    question = ExposureQuestion(BARE, (GlassGiven(stops=9),), correction=Correction(-1 / 3, "Last frame bright"))
    plain, wished = expose(question), expose(replace(question, purpose_stops=2 / 3))
    assert wished.seconds == pytest.approx(plain.seconds * 2 ** (2 / 3))
    assert [step.kind for step in wished.steps][-2:] == ["correction", "purpose"]
    assert wished.metered_seconds == pytest.approx(wished.seconds)
    # Whatever is worked out instead of the time gives that very time back.
    held = SolveQuestion(Floating.STACK, BARE, target_seconds=wished.seconds, wished_stops=1 / 3)
    assert solve(held).value == pytest.approx(9)
    for floating in (Floating.APERTURE, Floating.ISO):
        found = solve(replace(held, floating=floating, stops=9.0)).value
        assert found == pytest.approx({Floating.APERTURE: 9.0, Floating.ISO: 64.0}[floating], rel=0.02)
    nine = FinderQuestion(
        BARE, (KitGlass("nine", GlassKind.SOLID, 9.0),), 1, Target(wished.seconds, 0.1), ("9", "9"), ("64",),
        wished_stops=1 / 3,
    )  # fmt: skip
    assert [stack.glass for stack in find(nine).stacks] == [("nine",)]
    assert find(replace(nine, wished_stops=0.0)).count == 0


WHICH: list[tuple[str, Floating]] = [
    ("needed stops", Floating.STACK),
    ("needed f-number", Floating.APERTURE),
    ("needed ISO", Floating.ISO),
    ("bare reading", Floating.READING),
]


def _number(text: str) -> float | None:
    return None if text == "-" else float(text)


@facts("inverse")
def test_inverse_problems(row: dict[str, str]) -> None:
    floating = next(which for start, which in WHICH if row["problem"].startswith(start))
    stops = _number(row["stops"]) or 0.0
    target = stops if floating is Floating.STACK else float(row["problem"].partition("T = ")[2].split(" ")[0])
    found = solve(
        SolveQuestion(
            floating,
            ReadingGiven(_number(row["reading"]) or 1.0, _number(row["from_aperture"]), _number(row["from_iso"])),
            0.0 if floating is Floating.STACK else stops,
            settings=SettingsGiven(_number(row["aperture"]), _number(row["iso"])),
            target_seconds=target,
        )
    )
    assert found.value == near(row["result"], 5)
    assert found.missing_stops is None


@pytest.mark.parametrize(
    ("floating", "stops", "target", "nearest", "missing"),
    [
        (Floating.TIME, 9, None, [("13", 0.0)], None),
        (Floating.TIME, 9.1, None, [("13", -0.1), ("15", 0.2333)], None),
        (Floating.TIME, 13, None, [], None),
        (Floating.APERTURE, 9, 30, [("13", 0.2402), ("14", -0.0931)], None),
        (Floating.APERTURE, 9, 6000, [("64", 3.2174)], 3.2174),
        (Floating.APERTURE, 9, 0.05, [("0.7", -0.6552)], 0.6552),
        (Floating.ISO, 13, 30, [("400", -0.0931), ("500", 0.2402)], None),
        (Floating.STACK, 0, 240, [("13", 0.2402), ("13 1/3", -0.0931)], None),
        (Floating.STACK, 0, 1 / 320, [("0", -2.9886)], 2.9886),
        (Floating.READING, 10, 240, [("1/5", 0.2402), ("1/4", -0.0931)], None),
    ],
)
def test_marks_either_side_and_what_they_cost(
    floating: Floating, stops: float, target: float | None, nearest: list[tuple[str, float]], missing: float | None
) -> None:
    found = solve(SolveQuestion(floating, ReadingGiven("1/40", "9", "64"), stops, target_seconds=target))
    assert [each.mark for each in found.nearest] == [mark for mark, _ in nearest]
    assert [each.cost_stops for each in found.nearest] == pytest.approx([cost for _, cost in nearest], abs=1e-4)
    assert found.missing_stops == (None if missing is None else pytest.approx(missing, abs=1e-4))


@pytest.mark.parametrize(
    ("target", "marks"), [(128.0, ["13"]), (128.0 * 2 ** (1 / 3), ["13 1/3"]), (130.0, ["13", "13 1/3"])]
)
def test_filters_that_are_whole_thirds_have_no_second_way(target: float, marks: list[str]) -> None:
    found = solve(SolveQuestion(Floating.STACK, ReadingGiven(1 / 64, 8.0, 100.0), target_seconds=target))
    assert [each.mark for each in found.nearest] == marks


@given(st.floats(0, 12), st.floats(-4, 6), st.sampled_from([Floating.APERTURE, Floating.ISO, Floating.READING]))
def test_what_floats_gives_the_time_that_was_held(stops: float, log_target: float, floating: Floating) -> None:
    target = 2.0**log_target
    reading = ReadingGiven(1 / 64, 8.0, 100.0)
    value = solve(
        SolveQuestion(floating, reading, stops, settings=SettingsGiven(11.0, 200.0), target_seconds=target)
    ).value
    again: dict[Floating, Callable[[], Solved]] = {
        Floating.APERTURE: lambda: _time(reading, stops, SettingsGiven(value, 200.0)),
        Floating.ISO: lambda: _time(reading, stops, SettingsGiven(11.0, value)),
        Floating.READING: lambda: _time(ReadingGiven(value, 8.0, 100.0), stops, SettingsGiven(11.0, 200.0)),
    }
    if floating is Floating.APERTURE and not 0.5 <= value <= 512:
        return
    if floating is Floating.ISO and not 1 <= value <= 1e6:
        return
    if floating is Floating.READING and value < 2**-15:
        return
    assert math.log2(again[floating]().value / target) == pytest.approx(0, abs=1e-9)


@pytest.mark.parametrize("floating", [Floating.TIME, Floating.APERTURE, Floating.ISO, Floating.READING])
def test_a_stack_counts_by_what_it_measures_and_not_where_the_meter_saw_it(floating: Floating) -> None:
    reading = ReadingGiven("1/60", "8", "100")
    stack = (
        GlassGiven(label="6 stops", offset=0.3),
        GlassGiven(stops=3, offset=-0.1),
        GlassGiven(stops=1.5, in_reading=True),
    )
    target = None if floating is Floating.TIME else 8.0
    of_stack = solve(SolveQuestion(floating, reading, stack=stack, target_seconds=target))
    assert of_stack == solve(SolveQuestion(floating, reading, 9.2, target_seconds=target))
    if floating is Floating.TIME:
        assert of_stack.value == pytest.approx(expose(ExposureQuestion(reading, stack)).seconds)


def _time(reading: ReadingGiven, stops: float, settings: SettingsGiven) -> Solved:
    return solve(SolveQuestion(Floating.TIME, reading, stops, settings=settings))


@pytest.mark.parametrize(
    ("question", "field"),
    [
        (SolveQuestion(Floating.ISO, ReadingGiven("1/40", "9", "64")), "target_seconds"),
        (SolveQuestion(Floating.ISO, ReadingGiven("1/40", "9", "64"), 31, target_seconds=1.0), "stops"),
        (SolveQuestion(Floating.TIME, ReadingGiven("30", "9", "64"), 20), "target_seconds"),
        (SolveQuestion(Floating.STACK, ReadingGiven("1/40", "9", "64"), target_seconds=-1.0), "target_seconds"),
    ],
)
def test_unsound_questions_are_refused(question: SolveQuestion, field: str) -> None:
    with pytest.raises(Refusal) as refused:
        solve(question)
    assert refused.value.field == field
