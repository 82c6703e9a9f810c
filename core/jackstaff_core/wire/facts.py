"""Facts about a thing, each described once: what it is called, its unit and bounds, what it is used for.

A sort of thing is a frozen dataclass whose fields are made with the functions below. From the descriptions come
the sentences of refusal, the JSON Schema of a file, and the form a person fills in.
"""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Annotated, Any, TypeVar
from uuid import UUID

from ..words.refusal import Refusal, Refusals
from .marks import Inline

Things = TypeVar("Things")


class Shape(StrEnum):
    """What a fact's value looks like in JSON."""

    NUMBER = "number"
    WHOLE = "whole"
    FLAG = "flag"
    TEXT = "text"
    CHOICE = "choice"
    NUMBERS = "numbers"
    PAIRS = "pairs"
    IDS = "ids"


@dataclass(frozen=True, slots=True)
class Choice:
    """One of the values that a fact may have, and the words it is shown by."""

    code: str
    label: str


@dataclass(frozen=True, slots=True)
class OnlyFor:
    """The fact applies only while another has one of these values."""

    fact: str
    values: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Called:
    """What a fact is called while another has one of these values."""

    fact: str
    labels: Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Fact:
    """One describable value. ``used_by`` names what reads it; ``only_for`` when it applies at all.

    ``opens`` marks one of the few that decide something and stand open, the rest is asked for under "more"; ``usual``
    are the values met most often, ``by`` a step worth one press, ``called`` what a fact is called while another
    has a certain value.
    """

    label: str
    used_by: str
    shape: Shape
    unit: str = ""
    low: float = 0.0
    high: float = 0.0
    choices: tuple[Choice, ...] = ()
    most: int = 0
    group: str = ""
    only_for: OnlyFor | None = None
    pair: tuple[str, str] = ("", "")
    opens: bool = False
    usual: tuple[float, ...] = ()
    by: float = 0.0
    called: Called | None = None


@dataclass(frozen=True, slots=True)
class FactForm:
    """A fact with its name in the file and its default, as a form asks for it."""

    name: str
    fact: Annotated[Fact, Inline()]
    default: Any


def number(
    label: str, used_by: str, low: float, high: float, unit: str = "", default: float | None = None, **more: Any
) -> Any:
    """Return a number from ``low`` to ``high`` [``unit``]; None is unknown.

    As with all that make a fact: ``label`` is what a person is asked, ``used_by`` what asks for it, ``more`` the other
    fields of :class:`Fact`.
    """
    return _made(Fact(label, used_by, Shape.NUMBER, unit, low, high, **more), default)


def whole(label: str, used_by: str, low: int, high: int, default: int | None = None, **more: Any) -> Any:
    """Return a count from ``low`` to ``high``; None is unknown."""
    return _made(Fact(label, used_by, Shape.WHOLE, "", low, high, **more), default)


def flag(label: str, used_by: str, default: bool = False, **more: Any) -> Any:
    """Return a yes or no."""
    return _made(Fact(label, used_by, Shape.FLAG, **more), default)


def text(label: str, used_by: str, most: int = 120, **more: Any) -> Any:
    """Return the words of up to ``most`` letters."""
    return _made(Fact(label, used_by, Shape.TEXT, most=most, **more), "")


def choice(label: str, used_by: str, choices: Mapping[str, str], default: str, **more: Any) -> Any:
    """Return one of ``choices``, each with the words it is shown by."""
    return _made(
        Fact(
            label, used_by, Shape.CHOICE, choices=tuple(Choice(code, label) for code, label in choices.items()), **more
        ),
        default,
    )


def numbers(label: str, used_by: str, low: float, high: float, unit: str = "", most: int = 12, **more: Any) -> Any:
    """Up to ``most`` numbers from ``low`` to ``high`` [``unit``]."""
    return _made(Fact(label, used_by, Shape.NUMBERS, unit, low, high, most=most, **more), ())


def pairs(label: str, used_by: str, first: str, second: str, high: float, most: int = 60, **more: Any) -> Any:
    """Up to ``most`` pairs of numbers from 0 to ``high``; ``first`` and ``second`` say what they are."""
    return _made(Fact(label, used_by, Shape.PAIRS, "", 0.0, high, most=most, pair=(first, second), **more), ())


def ids(label: str, used_by: str, most: int = 4, **more: Any) -> Any:
    """Up to ``most`` other things of the same kit, by their ids."""
    return _made(Fact(label, used_by, Shape.IDS, most=most, **more), ())


def _made(fact: Fact, default: Any) -> Any:
    return field(default=default, metadata={"fact": fact})


def facts_of(sort: type) -> tuple[FactForm, ...]:
    """Return the facts of a sort, in the order a person is asked for them."""
    return tuple(FactForm(each.name, each.metadata["fact"], each.default) for each in dataclasses.fields(sort))


def read_thing(sort: type[Things], given: Mapping[str, Any]) -> Things:
    """Build a thing from JSON values.

    Raises
    ------
    Refusals
        Every fact that is unknown, of the wrong shape or out of bounds, each with its cure.
    """
    known = {each.name: each for each in facts_of(sort)}
    wrong: list[Refusal] = []
    values: dict[str, Any] = {}
    for name, value in given.items():
        if name not in known:
            wrong.append(Refusal(name, f"'{name[:40]}' is no fact of this.", f"Use one of: {', '.join(known)}."))
            continue
        try:
            values[name] = _value(known[name], value)
        except Refusal as refusal:
            wrong.append(refusal)
    if not wrong:
        try:
            return sort(**values)
        except Refusal as refusal:
            wrong.append(refusal)
    raise Refusals(wrong)


def write_thing(thing: object) -> dict[str, Any]:
    """Return the facts of a thing as JSON values, those that still have their default left out."""
    return {
        each.name: _plain(getattr(thing, each.name))
        for each in facts_of(type(thing))
        if getattr(thing, each.name) != each.default
    }


def all_facts(thing: object) -> dict[str, Any]:
    """Return every fact of a thing as a JSON value, defaults included."""
    return {each.name: _plain(getattr(thing, each.name)) for each in facts_of(type(thing))}


def _plain(value: Any) -> Any:
    return [_plain(each) for each in value] if isinstance(value, tuple) else value


def _value(described: FactForm, value: Any) -> Any:
    fact, name = described.fact, described.name
    if value is None and described.default is None:
        return None
    match fact.shape:
        case Shape.FLAG:
            if isinstance(value, bool):
                return value
            raise Refusal(name, f"{fact.label} is a yes or a no.", "Give true or false.")
        case Shape.TEXT:
            if isinstance(value, str) and len(value) <= fact.most and value.isprintable():
                return value
            raise Refusal(name, f"{fact.label} is not a line of text.", f"Give up to {fact.most} printable characters.")
        case Shape.CHOICE:
            allowed = [each.code for each in fact.choices]
            if value in allowed:
                return value
            raise Refusal(name, f"{fact.label} has an unknown value.", f"Give one of: {', '.join(allowed)}.")
        case Shape.NUMBERS:
            return tuple(_number(f"{name}.{place}", fact, row) for place, row in enumerate(_rows(described, value)))
        case Shape.PAIRS:
            return tuple(_pair(f"{name}.{place}", fact, row) for place, row in enumerate(_rows(described, value)))
        case Shape.IDS:
            return tuple(_id(f"{name}.{place}", fact, row) for place, row in enumerate(_rows(described, value)))
        case _:
            return _number(name, fact, value)


def _rows(described: FactForm, value: Any) -> Sequence[Any]:
    fact = described.fact
    if isinstance(value, list | tuple) and len(value) <= fact.most:
        return value
    raise Refusal(described.name, f"{fact.label} is not a list of up to {fact.most}.", "Give a list in brackets.")


def _pair(name: str, fact: Fact, value: Any) -> tuple[float, float]:
    if isinstance(value, list | tuple) and len(value) == 2:
        return _number(name, fact, value[0]), _number(name, fact, value[1])
    raise Refusal(name, f"A row of {fact.label.lower()} has two numbers.", f"Give {fact.pair[0]}, then {fact.pair[1]}.")


def _id(name: str, fact: Fact, value: Any) -> str:
    try:
        return str(UUID(value))
    except (ValueError, TypeError, AttributeError):
        raise Refusal(name, f"A row of {fact.label.lower()} is no id.", "Give the id of another item.") from None


def _number(name: str, fact: Fact, value: Any) -> float:
    sound = isinstance(value, int | float) and not isinstance(value, bool)
    # Bounds first: an integer of four hundred digits has no finite float to ask about.
    if sound and fact.low <= value <= fact.high and math.isfinite(value):
        if fact.shape is not Shape.WHOLE:
            return float(value)
        if value == int(value):
            return int(value)
    unit = f" {fact.unit}" if fact.unit else ""
    what = "whole number" if fact.shape is Shape.WHOLE else "number"
    raise Refusal(
        name, f"{fact.label} is not a {what} in bounds.", f"Give a {what} from {fact.low:g} to {fact.high:g}{unit}."
    )


def json_schema(sort: type) -> dict[str, Any]:
    """Return the facts of a sort as a JSON Schema object."""
    return {
        "type": "object",
        "additionalProperties": False,
        "properties": dict(_property(each) for each in facts_of(sort)),
    }


def _property(described_fact: FactForm) -> tuple[str, dict[str, Any]]:
    fact = described_fact.fact
    unit = f" [{fact.unit}]" if fact.unit else ""
    schema: dict[str, Any] = {"title": f"{fact.label}{unit}", "description": f"Used by: {fact.used_by}."}
    schema.update(_shape(fact))
    if described_fact.default is None:
        schema["type"] = [schema["type"], "null"]
    schema["default"] = _plain(described_fact.default)
    return described_fact.name, schema


def _shape(fact: Fact) -> dict[str, Any]:
    bounded = {"type": "number", "minimum": fact.low, "maximum": fact.high}
    match fact.shape:
        case Shape.NUMBER:
            return bounded
        case Shape.WHOLE:
            return {**bounded, "type": "integer"}
        case Shape.FLAG:
            return {"type": "boolean"}
        case Shape.TEXT:
            return {"type": "string", "maxLength": fact.most}
        case Shape.CHOICE:
            return {"type": "string", "enum": [each.code for each in fact.choices]}
        case Shape.NUMBERS:
            return {"type": "array", "maxItems": fact.most, "items": bounded}
        case Shape.IDS:
            return {"type": "array", "maxItems": fact.most, "items": {"type": "string", "format": "uuid"}}
        case _:
            row = {"type": "array", "minItems": 2, "maxItems": 2, "items": bounded}
            return {"type": "array", "maxItems": fact.most, "items": row}
