"""The kit as an open file: JSON with a published schema, read whole or not at all.

    {"format": "jackstaff-kit", "version": 1,
     "items": [{"id": "...", "sort": "glass", "name": "Slot ND 10", "facts": {"kind": "solid", "stops": 10}}]}

Every refusal names the line the value stands on. Limits: 400 items, 400 kB.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any
from uuid import UUID

from ..camera.reciprocity import LawGiven
from ..wire.facts import all_facts, json_schema, read_thing, write_thing
from ..wire.line_numbers import line_of
from ..wire.marks import Size
from ..wire.reader import plain, plain_as
from ..words.refusal import Refusal, Refusals
from .things import SORTS, Body, Film, Glass, isos_of, sharp_to, strength

FORMAT, VERSION = "jackstaff-kit", 1
MOST_ITEMS = 400
MOST_CHARACTERS = 400_000
MOST_REFUSALS = 40
_ITEM_KEYS = {"id", "sort", "name", "note", "retired", "facts"}


@dataclass(frozen=True, slots=True)
class Item:
    """One thing of the kit; ``thing`` is an instance of its sort's dataclass."""

    id: UUID
    sort: str
    name: str
    thing: Any
    note: str = ""
    retired: bool = False

    @classmethod
    def from_json(cls, given: dict[str, Any]) -> Item:
        """As :func:`read_item` reads it."""
        return read_item(given)

    def to_json(self) -> dict[str, Any]:
        """As a kit file carries it, with what was said of it."""
        entry = {"id": self.id, "sort": self.sort, "name": self.name, "facts": write_thing(self.thing)}
        return entry | ({"note": self.note} if self.note else {}) | ({"retired": True} if self.retired else {})

    @staticmethod
    def json_schema() -> dict[str, Any]:
        """Return its shape on the wire; what facts a sort takes stands in the file's own schema."""
        return {"type": "object", "additionalProperties": True}


@dataclass(frozen=True, slots=True)
class KitQuestion:
    """Items as a kit file carries them."""

    items: Annotated[tuple[Item, ...], Size(0, MOST_ITEMS)]


def item_answer(owned: Item) -> dict[str, Any]:
    """Return an item as JSON, with what is worked out beside it.

    That is a body's ISO marks and sharpness, a filter's strength, a
    film's law.
    """
    thing = owned.thing
    answer: dict[str, Any] = {
        "id": str(owned.id),
        "sort": owned.sort,
        "name": owned.name,
        "note": owned.note,
        "retired": owned.retired,
        "facts": plain(all_facts(thing)),
    }
    if isinstance(thing, Body):
        answer["offers"] = {"isos": list(isos_of(thing)), "sharp_to": sharp_to(thing)}
    if isinstance(thing, Glass):
        answer["strength"] = plain(strength(thing))
    if isinstance(thing, Film):
        answer["law"] = plain_as(LawGiven, thing.as_law())
    return answer


def kit_answer(items: Iterable[Item]) -> dict[str, Any]:
    """Return a kit as JSON."""
    return {"items": [item_answer(each) for each in items]}


class Difference(StrEnum):
    """Whether an item of a file is new, changed or the same."""

    NEW = "new"
    CHANGED = "changed"
    SAME = "same"


@dataclass(frozen=True, slots=True)
class ItemChange:
    """What taking an item in would do; ``facts`` are the names that differ."""

    id: UUID
    sort: str
    name: str
    change: Difference
    facts: tuple[str, ...]


def read_item(given: object) -> Item:
    """Return one item from JSON values.

    Raises
    ------
    Refusals
        Everything that is wrong with it.
    """
    if not isinstance(given, Mapping):
        raise Refusals([Refusal("", "An item is an object.", 'Give {"id", "sort", "name", "facts"}.')])
    wrong = [
        Refusal(str(key), f"'{str(key)[:40]}' is no part of an item.", "Leave it out.")
        for key in given.keys() - _ITEM_KEYS
    ]
    sort = given.get("sort")
    if not isinstance(sort, str) or sort not in SORTS:
        wrong.append(Refusal("sort", "This sort of thing is unknown.", f"Give one of: {', '.join(SORTS)}."))
    name = _line(given, "name", 1, 60, wrong)
    note = _line(given, "note", 0, 500, wrong)
    key = _key(given.get("id"), wrong)
    retired = given.get("retired", False)
    if not isinstance(retired, bool):
        wrong.append(Refusal("retired", "Retired is a yes or a no.", "Give true or false."))
    facts = given.get("facts", {})
    thing: Any = None
    if not isinstance(facts, Mapping):
        wrong.append(Refusal("facts", "The facts are an object.", "Give them in braces."))
    elif isinstance(sort, str) and sort in SORTS:
        try:
            thing = read_thing(SORTS[str(sort)], facts)
        except Refusals as refusals:
            wrong.extend(refusals.under("facts").all)
    if wrong or key is None:
        raise Refusals(wrong)
    return Item(key, str(sort), name, thing, note, retired is True)


def _line(given: Mapping[str, Any], field: str, least: int, most: int, wrong: list[Refusal]) -> str:
    value = given.get(field, "")
    if isinstance(value, str) and value.isprintable() and least <= len(value.strip()) <= most:
        return value.strip()
    wrong.append(Refusal(field, f"The {field} is no line of {least} to {most} characters.", "Give a short plain text."))
    return ""


def _key(given: object, wrong: list[Refusal]) -> UUID | None:
    try:
        return UUID(str(given))
    except ValueError:
        wrong.append(Refusal("id", "The id is no UUID.", "Give one like 0f8fad5b-d9cb-469f-a165-70867728950e."))
        return None


def item_document(owned: Item) -> dict[str, Any]:
    """Return an item as it stands in a file."""
    return {
        "id": str(owned.id),
        "sort": owned.sort,
        "name": owned.name,
        **({"note": owned.note} if owned.note else {}),
        **({"retired": True} if owned.retired else {}),
        "facts": write_thing(owned.thing),
    }


def write_kit(items: Iterable[Item]) -> str:
    """Return a kit file, the items in the order given."""
    body = {"format": FORMAT, "version": VERSION, "items": [item_document(each) for each in items]}
    return json.dumps(body, indent=1, ensure_ascii=False) + "\n"


def read_kit(text: str) -> tuple[Item, ...]:
    """Return the items of a kit file.

    Raises
    ------
    Refusals
        Whatever is wrong, each with its line; nothing of the file is taken then.
    """
    body = _body(text)
    given = body.get("items")
    if not isinstance(given, list) or len(given) > MOST_ITEMS:
        raise _at(text, ["items"], Refusal("items", f"A kit file lists up to {MOST_ITEMS} items.", "Give a list."))
    items: list[Item] = []
    wrong: list[Refusal] = []
    seen: set[UUID] = set()
    for place, entry in enumerate(given):
        try:
            found = read_item(entry)
        except Refusals as refusals:
            wrong.extend(_on_line(text, ["items", place, *_path(each.field)], each) for each in refusals.all)
            continue
        if found.id in seen:
            twice = Refusal("id", "This id stands twice in the file.", "Give every item its own id.")
            wrong.append(_on_line(text, ["items", place, "id"], twice))
        seen.add(found.id)
        items.append(found)
        if len(wrong) >= MOST_REFUSALS:
            break
    if wrong:
        raise Refusals(wrong[:MOST_REFUSALS])
    return tuple(items)


def _body(text: str) -> dict[str, Any]:
    if len(text) > MOST_CHARACTERS:
        raise Refusals([Refusal("file", "The file is larger than 400 kB.", "A kit file is far smaller: is it one?")])
    try:
        body = json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as error:
        problem = f"Line {error.lineno}: this is no JSON ({error.msg.lower()})."
        raise Refusals([Refusal(f"line {error.lineno}", problem, "Mend it there, or export the kit again.")]) from None
    except (RecursionError, ValueError):
        raise Refusals([Refusal("file", "This is no JSON a kit is written in.", "Export the kit again.")]) from None
    if not isinstance(body, dict) or body.get("format") != FORMAT:
        raise Refusals([Refusal("format", "Line 1: this is no kit file.", f'It starts with {{"format": "{FORMAT}"}}.')])
    if body.get("version") != VERSION or isinstance(body.get("version"), bool):
        wrong = Refusal("version", "This version of the kit file is unknown.", f"This program reads version {VERSION}.")
        raise _at(text, ["version"], wrong)
    if strange := body.keys() - {"format", "version", "items"}:
        name = min(strange)
        raise _at(text, [name], Refusal(name, f"'{name[:40]}' is no part of a kit file.", "Leave it out."))
    return body


def _no_constant(name: str) -> None:
    raise ValueError(name)


def _at(text: str, path: Sequence[str | int], refusal: Refusal) -> Refusals:
    return Refusals([_on_line(text, path, refusal)])


def _on_line(text: str, path: Sequence[str | int], refusal: Refusal) -> Refusal:
    where = ".".join(str(step) for step in path)
    return Refusal(where, f"Line {line_of(text, path)}: {refusal.problem}", refusal.instead)


def _path(field: str) -> list[str | int]:
    return [int(step) if step.isdigit() else step for step in field.split(".") if step]


def kit_changes(held: Iterable[Item], coming: Iterable[Item]) -> tuple[ItemChange, ...]:
    """Return what taking ``coming`` into ``held`` would change, item by item in the order of the file."""
    by_id = {each.id: each for each in held}
    return tuple(_change(by_id.get(arriving.id), arriving) for arriving in coming)


def _change(held: Item | None, coming: Item) -> ItemChange:
    if held is None:
        return _changed(coming, Difference.NEW, ())
    if held.sort != coming.sort:
        return _changed(coming, Difference.CHANGED, ("sort",))
    old, new = item_document(held), item_document(coming)
    parts = [part for part in ("name", "note", "retired") if old.get(part) != new.get(part)]
    names = sorted(old["facts"].keys() | new["facts"].keys())
    parts += [name for name in names if old["facts"].get(name) != new["facts"].get(name)]
    return _changed(coming, Difference.CHANGED if parts else Difference.SAME, tuple(parts))


def _changed(item: Item, change: Difference, facts: tuple[str, ...]) -> ItemChange:
    return ItemChange(item.id, item.sort, item.name, change, facts)


def schema() -> dict[str, Any]:
    """Return the JSON Schema of a kit file."""
    one_of = [
        {
            "type": "object",
            "title": sort,
            "required": ["id", "sort", "name"],
            "additionalProperties": False,
            "properties": {
                "id": {"type": "string", "format": "uuid"},
                "sort": {"const": sort},
                "name": {"type": "string", "minLength": 1, "maxLength": 60},
                "note": {"type": "string", "maxLength": 500},
                "retired": {"type": "boolean", "default": False},
                "facts": json_schema(facts),
            },
        }
        for sort, facts in SORTS.items()
    ]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Jackstaff kit",
        "type": "object",
        "required": ["format", "version", "items"],
        "additionalProperties": False,
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "items": {"type": "array", "maxItems": MOST_ITEMS, "items": {"oneOf": one_of}},
        },
    }
