"""Filter labels in three notations, with what cannot be told apart asked about."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.filters.labels import LabelStrength, Notation, certain_strength, density
from jackstaff_core.words.refusal import Refusal
from tests.core.tables import facts, near


def _range(text: str) -> list[float]:
    return [float(part) for part in text.split("..")]


@facts("labels")
def test_labels(row: dict[str, str]) -> None:
    if row["notation"] == "refused":
        with pytest.raises(Refusal):
            density(row["text"])
        return
    label = density(row["text"])
    first, *others = label.readings
    assert first.notation == row["notation"]
    ends = [(first.stops, first.density), (first.stops_max, first.density_max)]
    for (stops, dense), wanted_stops, wanted_density in zip(
        ends, _range(row["stops"]), _range(row["density"]), strict=False
    ):
        assert stops == near(wanted_stops)
        assert dense == near(wanted_density)
    assert (first.stops_max is None) == (".." not in row["stops"])
    wanted = [part.split() for part in row["others"].split(";") if part]
    said = [(other.notation, getattr(other, other.notation.value)) for other in others]
    assert [notation for notation, _ in said] == [notation for notation, _ in wanted]
    for other, (notation, value) in zip(others, wanted, strict=True):
        assert (other.density if notation == "density" and row["text"] == "ND 3" else other.stops) == near(value)
    assert label.ambiguous == bool(wanted)


@facts("filters")
def test_one_glass_in_all_notations(row: dict[str, str]) -> None:
    name = row["filter"]
    glass = density(name).readings[0]
    assert glass.stops == near(row["stops"])
    assert glass.density == near(row["density"])
    assert glass.factor == near(row["factor"])
    assert 2**glass.stops / 128 == near(row["seconds_from_1_128"])


@pytest.mark.parametrize(
    ("text", "readings", "conflict"),
    [
        ("14 stops, factor 50,000", [("stops", 14), ("factor", 15.6096)], 1.60964),
        ("ND1000 14 stops", [("stops", 14), ("factor", 9.96578)], 4.03422),
        ("ND 3 10 stops", [("stops", 10)], None),
        ("77 mm ND8", [("factor", 3)], None),
        ("Ring VND 2–5", [("factor", 1), ("stops", 2)], None),
        ("5-2 stops", [("stops", 2)], None),
        ("8x-400x", [("factor", 3)], None),
        ("ND1", [("density", 3.32193), ("stops", 1)], None),
        ("9", [("stops", 9)], None),
        ("2", [("stops", 2), ("factor", 1)], None),
        ("1000", [("factor", 9.96578)], None),
        ("ND-1000", [("factor", 9.96578)], None),
        ("2-5", [("stops", 2)], None),
        ("2-12", [("stops", 2)], None),
        ("2-400", [("factor", 1)], None),
        ("ND2-8", [("factor", 1), ("stops", 2)], None),
        ("ND2-400", [("factor", 1)], None),
        ("ND 16", [("factor", 4)], None),
        ("ND 24", [("factor", 4.58496)], None),
        ("ND 15", [("stops", 15), ("factor", 3.90689)], None),
    ],
)
def test_more_labels(text: str, readings: list[tuple[str, float]], conflict: float | None) -> None:
    label = density(text)
    assert [(reading.notation.value, reading.stops) for reading in label.readings] == [
        (notation, near(stops)) for notation, stops in readings
    ]
    assert label.conflict_stops == (None if conflict is None else near(conflict))


@pytest.mark.parametrize(
    ("text", "kind", "transition", "mount", "stops"),
    [
        ("ND8", None, None, None, [3]),
        ("ND8 grad", "graduated", None, None, [3]),
        ("0.9 soft", "graduated", "soft", None, [2.98974, 0.9]),
        ("GND 0.9 hard edge 100x150 mm", "graduated", "hard", "plate", [2.98974]),
        ("reverse ND8", "graduated", "reverse", None, [3]),
        ("CPL", "polariser", None, None, []),
        ("77 mm circular polarizer", "polariser", None, "thread", []),
        ("ND8 CPL", "combined", None, None, [3]),
        ("variable ND2-ND32", "variable", None, None, [1]),
        ("VND 2-5 stops", "variable", None, None, [2]),
        ("100x100 ND1000", None, None, "plate", [9.96578]),
        ("magnetic ND64", None, None, "magnet", [6]),
        ("ND100K", None, None, None, [16.6096]),
        ("VND8-1K", "variable", None, None, [3]),
        ("100K", None, None, None, [16.6096]),
        ("ND32K", None, None, None, [14.9658]),
        ("shade 10", None, None, None, [12.8131]),
        ("Welder's filters shade 5", None, None, None, [5.69472]),
    ],
)
def test_words_of_a_label_say_what_sort_of_filter_it_is(
    text: str, kind: str | None, transition: str | None, mount: str | None, stops: list[float]
) -> None:
    label = density(text)
    assert (label.kind, label.transition, label.mount) == (kind, transition, mount)
    assert [reading.stops for reading in label.readings] == [near(value) for value in stops]


def test_a_shade_is_an_optical_density_and_names_no_light_in_itself() -> None:
    # 3 (S - 1) / 7: shade 8 passes a thousandth.
    assert density("shade 8").readings[0].density == pytest.approx(3.0)
    for text in ("shade 1", "shade 0", "2000000K"):
        with pytest.raises(Refusal):
            density(text)
    with pytest.raises(Refusal, match="names no strength"):
        certain_strength("stack.0.label", "CPL")


UNREADABLE = ["", "stops", "-3 stops", "6 stops -64x", "ND0", "31 stops", "x0", "A7", "ND8 and ?", "9" * 130, "∞"]


@pytest.mark.parametrize("text", UNREADABLE)
def test_unreadable_labels_are_refused_with_a_cure(text: str) -> None:
    with pytest.raises(Refusal, match="OD"):
        density(text)


def test_a_point_before_three_digits_is_asked_about() -> None:
    with pytest.raises(Refusal, match="thousand or a decimal"):
        density("ND 32.000")


@pytest.mark.parametrize(("text", "why"), [("ND10", "factor 10"), ("2-5 stops", "range")])
def test_only_certain_labels_enter_a_sum(text: str, why: str) -> None:
    with pytest.raises(Refusal, match=why):
        certain_strength("stack.0.label", text)


@given(st.sampled_from(list(Notation)), st.floats(0.05, 29))
def test_notations_are_inverse(notation: Notation, stops: float) -> None:
    strength = LabelStrength.of(Notation.STOPS, stops)
    again = LabelStrength.of(notation, getattr(strength, notation.value))
    assert again.stops == pytest.approx(stops, rel=1e-9)
    assert again.factor == pytest.approx(2**stops, rel=1e-9)


@given(st.text(max_size=60))
def test_no_text_does_worse_than_a_refusal(text: str) -> None:
    try:
        label = density(text)
    except Refusal:
        return
    assert label.readings or label.kind == "polariser"
    assert all(0 <= reading.stops <= (reading.stops_max or 30) <= 30.001 for reading in label.readings)
