"""The kit: facts read or refused, files round and broken, strengths as the sum takes them."""

from __future__ import annotations

import json
import math
import random
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any
from uuid import UUID

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.filters.labels import density
from jackstaff_core.gear.kitfile import Item, as_json, changes, file, item, parse, schema
from jackstaff_core.gear.sorts import SORTS, Body, Film, Glass, isos_of, sharp_to, strength, together, usable_at
from jackstaff_core.gear.starter import STARTER_KIT
from jackstaff_core.practice.dryrun.shipped import SHIPPED
from jackstaff_core.wire.facts import Fact, Shape, all_of, described, read, written
from jackstaff_core.wire.line_numbers import line_of
from jackstaff_core.words.refusal import Refusal, Refusals

KEY = "0f8fad5b-d9cb-469f-a165-70867728950e"


def glass(**facts: object) -> dict[str, object]:
    return {"id": KEY, "sort": "glass", "name": "Slot ND 10", "facts": {"stops": 10, **facts}}


@pytest.mark.parametrize(
    ("facts", "taken"),
    [
        # A label alone, its usual tolerance and a stated one; a measured one at half its give or take.
        ({"stops": 10}, (10, None, 0.17, 10, 10)),
        ({"stops": 10, "tolerance": 0.66}, (10, None, 0.33, 10, 10)),
        ({"stops": 9, "offset": 0.3, "give_or_take": 0.2}, (9, 0.3, 0.1, 9.3, 9.3)),
        # A range at its middle, known to half its spread; graduated glass adds nothing.
        ({"kind": "variable", "stops": 2, "stops_max": 5}, (3.5, 0.0, 1.5, 2, 5)),
        ({"kind": "polariser", "stops": 1.3, "stops_max": 1.7}, (1.5, 0.0, 0.2, 1.3, 1.7)),
        ({"kind": "graduated", "stops": 2}, (0, None, 0, 0, 0)),
    ],
)
def test_how_the_sum_takes_a_glass(facts: dict[str, object], taken: tuple[float | None, ...]) -> None:
    found = strength(read(Glass, facts))
    assert (found.stops, found.offset, found.offset_sd, found.low, found.high) == pytest.approx(taken)


@pytest.mark.parametrize("kit", [STARTER_KIT, *(scenario.kit for scenario in SHIPPED)])
def test_lent_filters_are_as_strong_as_their_labels_say(kit: tuple[Item, ...]) -> None:
    for thing in (each.thing for each in kit):
        if isinstance(thing, Glass) and thing.label:
            # A factor of 1000 is called ten stops.
            said = density(thing.label).readings[0]
            assert said.stops == pytest.approx(thing.stops, abs=0.04)
            assert said.stops_max == thing.stops_max


def test_filters_that_stay_together_are_known_as_well_as_all_of_them() -> None:
    slot = read(Glass, {"stops": 9, "offset": 0.3, "give_or_take": 0.2, "mount": "plate", "clear_mm": 90})
    ring = read(Glass, {"stops": 4, "rim_depth_mm": 4, "clear_mm": 72})
    pair = together((slot, ring))
    # 9.3 known to 0.1, 4 by its label to 0.17: 13.3 known to 0.2, both 95 % and half of it.
    found = strength(pair)
    assert (found.stops, found.offset) == pytest.approx((13, 0.3))
    assert found.offset_sd == pytest.approx(math.hypot(0.1, 0.17))
    assert (pair.mount, pair.clear_mm, pair.rim_depth_mm) == ("plate", 72, None)
    assert strength(together((ring, ring))).offset_sd == pytest.approx(math.hypot(0.17, 0.17))
    assert together((slot, read(Glass, {"kind": "polariser", "stops": 1.5}))).kind == "combined"
    wrong = [(slot,), (slot, replace(pair, members=(KEY, KEY[::-1]))), (slot, read(Glass, {"kind": "graduated"}))]
    for given_ in wrong:
        with pytest.raises(Refusal):
            together(given_)


@pytest.mark.parametrize(
    ("facts", "turned_sd"),
    [
        ({"kind": "variable", "stops": 2, "stops_max": 5}, 0.25),
        ({"kind": "variable", "stops": 2, "stops_max": 5, "tolerance": 1}, 0.5),
        ({"kind": "variable", "stops": 2, "stops_max": 5, "offset": 0.1, "give_or_take": 0.8}, 0.4),
        ({"kind": "solid", "stops": 6}, 0.0),
    ],
)
def test_a_ring_that_is_said_to_be_turned_is_known_better_than_its_range(
    facts: dict[str, object], turned_sd: float
) -> None:
    found = strength(read(Glass, facts))
    assert found.turned_sd == pytest.approx(turned_sd)
    assert found.kind != "variable" or found.offset_sd == pytest.approx(1.5)


def test_what_a_body_offers() -> None:
    assert isos_of(Body(iso_lowest=64, iso_highest=500)) == ("64", "125", "250", "500")
    assert isos_of(Body(iso_lowest=100, iso_highest=100)) == ("100",)
    assert sharp_to(Body(pitch_um=4.35)) == pytest.approx(11.53, abs=0.01)
    variable = Glass(kind="variable", stops=2, stops_max=5, usable_end=((24, 4.0), (50, 4.8)))
    assert [usable_at(variable, focal) for focal in (24, 28, 45, 200)] == [4.0, 4.0, 4.8, None]


@pytest.mark.parametrize(
    ("facts", "where"),
    [
        ({"colour": "grey"}, "colour"),
        ({"stops": "ten"}, "stops"),
        ({"stops": True}, "stops"),
        ({"stops": 31}, "stops"),
        ({"stops": float("nan")}, "stops"),
        ({"stops": 0}, "stops"),
        ({"kind": "dark"}, "kind"),
        ({"kind": "variable"}, "stops_max"),
        ({"kind": "variable", "stops": 5, "stops_max": 2}, "stops_max"),
        ({"stops": 1, "offset": -2}, "offset"),
        ({"stops": 1, "label": "x" * 61}, "label"),
        ({"stops": 1, "label": "a\nb"}, "label"),
        ({"stops": 1, "usable_end": [[24]]}, "usable_end.0"),
        ({"stops": 1, "usable_end": [[24, "x"]]}, "usable_end.0"),
        ({"stops": 1, "gasket": "yes"}, "gasket"),
        ({"stops": 1, "members": ["Slot ND 4", KEY]}, "members.0"),
        ({"stops": 1, "members": [KEY]}, "members"),
        ({"stops": 1, "members": [KEY, KEY]}, "members"),
    ],
)
def test_facts_that_cannot_be(facts: dict[str, object], where: str) -> None:
    with pytest.raises(Refusals) as refused:
        read(Glass, facts)
    assert refused.value.all[0].field == where
    assert all(refusal.problem.endswith(".") and refusal.instead.endswith(".") for refusal in refused.value.all)


def test_a_film_is_entered_as_time_or_as_aperture() -> None:
    rows = [[1, 1 / 3], [10, 1], [100, 2]]
    by_aperture = read(Film, {"law": "table", "given_as": "aperture", "points": rows}).as_law()
    # Data sheet rows as aperture stops: 30 s asks 129.8 s, misread as time it would be 83.5 s.
    assert by_aperture.corrected(30) == pytest.approx(129.802, rel=1e-5)
    with pytest.raises(Refusals) as refused:
        read(Film, {"law": "table", "points": [[1, 1], [1, 2]]})
    assert refused.value.all[0].field == "points.1"


_NAMES = st.text(st.characters(codec="utf-8", categories=["L", "N", "P", "Zs"]), min_size=1, max_size=30).filter(
    lambda name: name.strip() != "" and name.isprintable()
)


def _value(fact: Fact) -> st.SearchStrategy[Any]:
    number = st.floats(max(fact.low, 0.5), fact.high, allow_subnormal=False)
    match fact.shape:
        case Shape.FLAG:
            return st.booleans()
        case Shape.CHOICE:
            return st.sampled_from([code for code, _ in fact.choices])
        case Shape.TEXT:
            return st.text(st.characters(codec="utf-8", categories=["L", "N"]), max_size=min(fact.most, 10))
        case Shape.WHOLE:
            return st.integers(int(fact.low), int(fact.high))
        case Shape.NUMBERS:
            return st.lists(number, max_size=3)
        case Shape.IDS:
            return st.lists(st.uuids().map(str), min_size=2, max_size=fact.most, unique=True).map(tuple) | st.just(())
        case Shape.PAIRS:
            return st.just([])
        case _:
            return number


@st.composite
def _items(draw: st.DrawFn) -> Item:
    sort = draw(st.sampled_from(sorted(SORTS)))
    facts = {each.name: draw(_value(each.fact)) for each in described(SORTS[sort]) if draw(st.booleans())}
    thing: Any
    try:
        thing = read(SORTS[sort], facts)
    except Refusals:
        # Facts in bounds one by one may still contradict each other; any sound thing serves the round trip.
        thing = next(each.thing for each in STARTER_KIT if each.sort == sort)
    return Item(draw(st.uuids()), sort, draw(_NAMES).strip(), thing, retired=draw(st.booleans()))


@settings(max_examples=60, deadline=None)
@given(st.lists(_items(), max_size=6, unique_by=lambda each: each.id))
def test_a_kit_file_comes_back_identical(kit: list[Item]) -> None:
    text = file(kit)
    assert list(parse(text)) == kit
    assert file(parse(text)) == text
    assert {item.change for item in changes(kit, kit)} <= {"same"}
    for held in kit:
        assert read(type(held.thing), all_of(held.thing)) == read(type(held.thing), written(held.thing)) == held.thing


def test_the_published_schema_is_the_one_in_use() -> None:
    published = Path(__file__).parents[2] / "docs" / "formats" / "kit.schema.json"
    assert json.loads(published.read_text(encoding="utf-8")) == schema()
    used = {each.fact.used_by for thing in SORTS.values() for each in described(thing)}
    assert all(used)


def test_what_a_file_would_change_is_told_first() -> None:
    first = STARTER_KIT[0]
    renamed = replace(first, name="Body Q", thing=Body(pitch_um=5.9))
    fresh = replace(first, id=UUID(KEY))
    told = changes(STARTER_KIT, [renamed, fresh, STARTER_KIT[1]])
    assert [each.change.value for each in told] == ["changed", "new", "same"]
    assert {"name", "pitch_um"} <= set(told[0].facts)


def test_the_line_of_a_value() -> None:
    text = '{\n "a": [1,\n  {"b": "}", "c":\n   2}],\n "d": null}'
    places = [((), 1), (("a",), 2), (("a", 1), 3), (("a", 1, "c"), 4), (("d",), 5), (("a", 9), 2), (("a", 1, "no"), 3)]
    assert [line_of(text, path) for path, _ in places] == [line for _, line in places]


SOUND = file(STARTER_KIT)
_FACT_LINES = [each for each in SOUND.splitlines() if '": ' in each and '"facts"' not in each]


def _spoil_structure(rng: random.Random) -> str:
    at = rng.randrange(len(SOUND) - 2)
    return rng.choice([SOUND[:at], SOUND[: at // 2] + "\x00" + SOUND[at // 2 :], "[" + SOUND, SOUND + "x"])


def _spoil_value(rng: random.Random) -> str:
    body = json.loads(SOUND)
    item = rng.choice(body["items"])
    wrong: list[Callable[[], object]] = [
        lambda: item.update(sort="kettle"),
        lambda: item.update(id="not-a-key"),
        lambda: item.update(id=[]),
        lambda: item.update(name=""),
        lambda: item.update(name="n" * 61),
        lambda: item.update(name="two\nlines"),
        lambda: item.update(retired="no"),
        lambda: item.update(weight=3),
        lambda: item.update(facts=[1]),
        lambda: item["facts"].update(colour="grey"),
        lambda: item["facts"].update(stops={"a": 1}, focal_min_mm=None, kind=4),
        lambda: body["items"].append(item),
        lambda: body["items"].append(7),
        lambda: body.update(version=rng.choice([0, 2, "1", True, None])),
        lambda: body.update(format=rng.choice(["kit", None, 3])),
        lambda: body.update(items=rng.choice([None, {}, "x"])),
        lambda: body.update(extra={}),
        lambda: body["items"].extend({**item, "id": str(UUID(int=number))} for number in range(400)),
    ]
    rng.choice(wrong)()
    return json.dumps(body, indent=1)


def _spoil_number(rng: random.Random) -> str:
    numbers = [line for line in _FACT_LINES if line.rstrip(",").rsplit(": ", 1)[1].replace(".", "").isdigit()]
    line = rng.choice([each for each in numbers if '"version"' not in each])
    name = line.split(":")[0]
    wrong = rng.choice(["1e999", "-5", "NaN", '"x"', "{}", "false"])
    return SOUND.replace(line, f"{name}: {wrong},", 1)


@pytest.mark.parametrize("seed", range(200))
def test_broken_kit_files_are_refused_with_line_and_reason(seed: int) -> None:
    rng = random.Random(seed)
    text = rng.choice([_spoil_structure, _spoil_value, _spoil_value, _spoil_number])(rng)
    with pytest.raises(Refusals) as refused:
        parse(text)
    for refusal in refused.value.all:
        assert refusal.problem.startswith("Line ") or refusal.field in {"file", "items"}, refusal
        assert refusal.instead.endswith(".")


def test_one_item_says_all_that_is_wrong_at_once() -> None:
    with pytest.raises(Refusals) as refused:
        item({"id": "x", "sort": "glass", "name": "", "facts": {"stops": "a", "kind": "b"}})
    assert {refusal.field for refusal in refused.value.all} == {"id", "name", "facts.stops", "facts.kind"}
    sound = item(glass(offset=0.2))
    assert as_json(sound)["facts"] == {"stops": 10.0, "offset": 0.2}
    assert isinstance(Refusal("a", "b", "c").under("d"), Refusal)
