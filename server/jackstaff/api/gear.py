"""The shapes of kit items on the wire, made from the core's own descriptions so that nothing is said twice."""

from __future__ import annotations

from functools import reduce
from operator import or_
from typing import Annotated, Any, Literal, cast, get_type_hints
from uuid import UUID

from ninja import Schema
from pydantic import BaseModel, Field, create_model

from jackstaff_core.camera.reciprocity import LawGiven
from jackstaff_core.gear.things import SORTS, Body, Film, Glass, GlassStrength

from .wired import as_answer

StrengthAnswer: Any = as_answer(GlassStrength)


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
