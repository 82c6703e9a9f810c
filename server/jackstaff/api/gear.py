"""The shapes of kit items on the wire, made from the core's own descriptions so that nothing is said twice."""

from __future__ import annotations

from functools import reduce
from operator import or_
from typing import Annotated, Any, Literal, cast, get_type_hints
from uuid import UUID

from ninja import Schema
from pydantic import BaseModel, Field, create_model

from jackstaff_core.camera.reciprocity import LawGiven
from jackstaff_core.gear.kitfile import Change
from jackstaff_core.gear.sorts import SORTS, Body, Film, Glass, Strength
from jackstaff_core.wire.facts import Described, Shape, described

from .wired import as_answer

StrengthAnswer: Any = as_answer(Strength)


FILM_LAW: Any = as_answer(LawGiven)


class BodyOffers(Schema):
    """ISO marks the finder may use, and the f-number from which diffraction shows."""

    isos: list[str]
    sharp_to: float


class _ItemAnswer(Schema):
    id: UUID
    name: str
    note: str
    retired: bool


_WIRE: dict[Any, Any] = {
    # Tuples as the lists that JSON has.
    tuple[float, ...]: list[float],
    tuple[str, ...]: list[str],
    tuple[tuple[float, float], ...]: list[list[float]],
}


def _item_model(sort: str, thing: type) -> type[BaseModel]:
    title = sort.title()
    facts = {name: (_WIRE.get(hint, hint), ...) for name, hint in get_type_hints(thing).items()}
    fields: dict[str, Any] = {
        "sort": (Literal[sort], ...),
        "facts": (create_model(f"{title}Facts", __base__=Schema, **cast(dict[str, Any], facts)), ...),
    }
    if thing is Body:
        fields["offers"] = (BodyOffers, ...)
    if thing is Glass:
        fields["strength"] = (StrengthAnswer, ...)
    if thing is Film:
        fields["law"] = (FILM_LAW, ...)
    return create_model(f"{title}Item", __base__=_ItemAnswer, **fields)


_ONE_OF: Any = reduce(or_, (_item_model(sort, thing) for sort, thing in SORTS.items()))
ItemAnswer: Any = Annotated[_ONE_OF, Field(discriminator="sort")]
_ITEMS: Any = list[ItemAnswer]
KitAnswer: Any = create_model("KitAnswer", __base__=Schema, items=(_ITEMS, ...))
"""Items of every sort, told apart by ``sort``."""


class ChoiceAnswer(Schema):
    code: str
    label: str


class OnlyForAnswer(Schema):
    """The fact applies only while another has one of these values."""

    fact: str
    values: list[str]


class CalledAnswer(Schema):
    """What a fact is called while another has one of these values."""

    fact: str
    labels: dict[str, str]


class FactAnswer(Schema):
    """One fact of a sort, as a form asks for it."""

    name: str
    label: str
    used_by: str
    shape: Shape
    unit: str
    low: float
    high: float
    choices: list[ChoiceAnswer]
    most: int
    group: str
    only_for: OnlyForAnswer | None
    pair: list[str]
    opens: bool
    usual: list[float]
    by: float
    called: CalledAnswer | None
    default: float | bool | str | list[float] | None


class SortAnswer(Schema):
    sort: str
    facts: list[FactAnswer]


class ChangeAnswer(Schema):
    id: UUID
    sort: str
    name: str
    change: Change
    facts: list[str]


def sorts_answer() -> list[dict[str, object]]:
    """Every sort with its facts."""
    return [
        {
            "sort": sort,
            "facts": [_fact(each) for each in described(thing)],
        }
        for sort, thing in SORTS.items()
    ]


_PLAIN = ("label", "used_by", "shape", "unit", "low", "high", "most", "group", "pair", "opens", "usual", "by")


def _fact(described_fact: Described) -> dict[str, object]:
    fact = described_fact.fact
    plain = {name: getattr(fact, name) for name in _PLAIN}
    return plain | {
        "name": described_fact.name,
        "default": described_fact.default,
        "choices": [{"code": code, "label": label} for code, label in fact.choices],
        "called": fact.called and {"fact": fact.called[0], "labels": dict(fact.called[1])},
        "only_for": fact.only_for and {"fact": fact.only_for[0], "values": fact.only_for[1]},
    }
