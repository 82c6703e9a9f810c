"""Test core/gear/kitfile.py."""

from __future__ import annotations

import json
import random
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from uuid import UUID

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.gear.kitfile import Item, item_document, kit_changes, read_item, read_kit, schema, write_kit
from jackstaff_core.gear.starter import STARTER_KIT
from jackstaff_core.gear.things import SORTS, Body
from jackstaff_core.wire.facts import Fact, Shape, all_facts, facts_of, read_thing, write_thing
from jackstaff_core.words.refusal import Refusal, Refusals
from tests.core.tables import DOCS

KEY = "0f8fad5b-d9cb-469f-a165-70867728950e"


def glass(**facts: object) -> dict[str, object]:
    return {"id": KEY, "sort": "glass", "name": "Slot ND 10", "facts": {"stops": 10, **facts}}


_NAMES = st.text(st.characters(codec="utf-8", categories=["L", "N", "P", "Zs"]), min_size=1, max_size=30).filter(
    lambda name: name.strip() != "" and name.isprintable()
)


def _value(fact: Fact) -> st.SearchStrategy[Any]:
    number = st.floats(max(fact.low, 0.5), fact.high, allow_subnormal=False)
    match fact.shape:
        case Shape.FLAG:
            return st.booleans()
        case Shape.CHOICE:
            return st.sampled_from([each.code for each in fact.choices])
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
    facts = {each.name: draw(_value(each.fact)) for each in facts_of(SORTS[sort]) if draw(st.booleans())}
    thing: Any
    try:
        thing = read_thing(SORTS[sort], facts)
    except Refusals:
        # Facts in bounds one by one may still contradict each other; any sound thing serves the round trip.
        thing = next(each.thing for each in STARTER_KIT if each.sort == sort)
    return Item(draw(st.uuids()), sort, draw(_NAMES).strip(), thing, retired=draw(st.booleans()))


@given(st.lists(_items(), max_size=6, unique_by=lambda each: each.id))
def test_a_kit_file_comes_back_identical(kit: list[Item]) -> None:
    text = write_kit(kit)
    assert list(read_kit(text)) == kit
    assert write_kit(read_kit(text)) == text
    assert {item.change for item in kit_changes(kit, kit)} <= {"same"}
    for held in kit:
        assert (
            read_thing(type(held.thing), all_facts(held.thing))
            == read_thing(type(held.thing), write_thing(held.thing))
            == held.thing
        )


def test_the_published_schema_is_the_one_in_use() -> None:
    published = DOCS / "formats" / "kit.schema.json"
    assert json.loads(published.read_text(encoding="utf-8")) == schema()
    used = {each.fact.used_by for thing in SORTS.values() for each in facts_of(thing)}
    assert all(used)


def test_what_a_file_would_change_is_told_first() -> None:
    first = STARTER_KIT[0]
    renamed = replace(first, name="Body Q", thing=Body(pitch_um=5.9))
    fresh = replace(first, id=UUID(KEY))
    told = kit_changes(STARTER_KIT, [renamed, fresh, STARTER_KIT[1]])
    assert [each.change.value for each in told] == ["changed", "new", "same"]
    assert {"name", "pitch_um"} <= set(told[0].facts)


SOUND = write_kit(STARTER_KIT)
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
        read_kit(text)
    for refusal in refused.value.all:
        assert refusal.problem.startswith("Line ") or refusal.field in {"file", "items"}, refusal
        assert refusal.instead.endswith(".")


def test_one_item_says_all_that_is_wrong_at_once() -> None:
    with pytest.raises(Refusals) as refused:
        read_item({"id": "x", "sort": "glass", "name": "", "facts": {"stops": "a", "kind": "b"}})
    assert {refusal.field for refusal in refused.value.all} == {"id", "name", "facts.stops", "facts.kind"}
    sound = read_item(glass(offset=0.2))
    assert item_document(sound)["facts"] == {"stops": 10.0, "offset": 0.2}
    assert isinstance(Refusal("a", "b", "c").under("d"), Refusal)
