"""Kit: what an account owns, and the stateless questions a guest's kit is kept with."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from jackstaff.records.kit import forget_item, keep_items, kit_of, order_items
from jackstaff_core.gear.kitfile import (
    MOST_CHARACTERS,
    MOST_ITEMS,
    Item,
    KitQuestion,
    all_carried,
    changes,
    file,
    item,
    parse,
    schema,
)
from jackstaff_core.gear.starter import DEMO_LIGHT_AT, DEMO_ON, DEMO_READING, STARTER_KIT, STARTER_ON, STARTER_READING
from jackstaff_core.wire.reader import read
from jackstaff_core.words.refusal import Refusal, Refusals

from .account import account_of, own_account
from .gear import ChangeAnswer, KitAnswer, SortAnswer, sorts_answer
from .mount import body_of, described
from .refusals import Faults
from .schemas import Input

router = Router(tags=["kit"])


class ItemsInput(Input):
    """Items as a kit file carries them; each is read by the core, which refuses in words."""

    items: Annotated[list[dict[str, Any]], Field(max_length=MOST_ITEMS)]

    def given(self) -> tuple[Item, ...]:
        """The items, or every refusal with its place."""
        found: list[Item] = []
        wrong: list[Refusal] = []
        for place, each in enumerate(self.items):
            try:
                found.append(item(each))
            except Refusals as refusals:
                wrong.extend(refusals.under(f"items.{place}").all)
        if wrong:
            raise Refusals(wrong)
        return tuple(found)


class FileInput(ItemsInput):
    """The text of a kit file, and what is held already."""

    text: Annotated[str, Field(max_length=MOST_CHARACTERS)]


class FileAnswer(Schema):
    changes: list[ChangeAnswer]
    kit: KitAnswer


class OrderInput(Input):
    ids: Annotated[list[UUID], Field(max_length=MOST_ITEMS)]


class StarterReading(Schema):
    shutter: str
    aperture: str
    iso: str


class DemoBench(Schema):
    """What stands on the demo account's bench: a minute of its own outing, and what the meter said then."""

    on: list[str]
    reading: StarterReading
    light_at: str


class StarterAnswer(Schema):
    kit: KitAnswer
    on: list[str]
    reading: StarterReading
    demo: DemoBench


@router.get("/starter", response=StarterAnswer)
def starter(request: HttpRequest) -> dict[str, object]:
    """The kit, reading and stack a newcomer starts with."""
    return starter_answer()


def starter_answer() -> dict[str, object]:
    """The same for whoever else hands it out."""
    return {
        "kit": all_carried(STARTER_KIT),
        "on": STARTER_ON,
        "reading": _reading(STARTER_READING),
        "demo": {"on": DEMO_ON, "reading": _reading(DEMO_READING), "light_at": DEMO_LIGHT_AT},
    }


def _reading(dialled: tuple[str, str, str]) -> dict[str, str]:
    return dict(zip(("shutter", "aperture", "iso"), dialled, strict=True))


@router.get("/kit/facts", response=list[SortAnswer])
def facts(request: HttpRequest) -> list[dict[str, object]]:
    """Every sort of thing with its facts: label, unit, bounds, and which computation uses it."""
    return sorts_answer()


@router.get("/kit/schema", response=dict[str, Any])
def kit_schema(request: HttpRequest) -> dict[str, Any]:
    """The JSON Schema of a kit file."""
    return schema()


@router.post("/kit/check", response=KitAnswer, openapi_extra=described(KitQuestion, None))
def check(request: HttpRequest) -> dict[str, object]:
    """Items read and handed back whole, or refused; keeps nothing."""
    return all_carried(read(KitQuestion, body_of(request)).items)


@router.post("/kit/file", response={200: dict[str, Any]})
def write_file(request: HttpRequest, payload: ItemsInput) -> HttpResponse:
    """These items as a kit file; keeps nothing."""
    answer = HttpResponse(file(payload.given()), content_type="application/json; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="jackstaff-kit.json"'
    return answer


@router.post("/kit/read", response=FileAnswer)
def read_file(request: HttpRequest, payload: FileInput) -> dict[str, object]:
    """What a kit file would change, each refusal with its line; keeps nothing."""
    coming = parse(payload.text)
    return {
        "changes": [
            {
                "id": change.item.id,
                "sort": change.item.sort,
                "name": change.item.name,
                "change": change.change,
                "facts": change.facts,
            }
            for change in changes(payload.given(), coming)
        ],
        "kit": all_carried(coming),
    }


@router.get("/kit", response=KitAnswer, auth=own_account)
def whole(request: HttpRequest) -> dict[str, object]:
    """The account's kit, in its order."""
    return all_carried(kit_of(account_of(request)))


@router.put("/kit/items", response=KitAnswer, auth=own_account)
def keep(request: HttpRequest, payload: ItemsInput) -> dict[str, object]:
    """Keep items under the client's own keys, all or none; sending them twice keeps them once."""
    keep_items(account_of(request), payload.given())
    return all_carried(kit_of(account_of(request)))


@router.put("/kit/order", response=KitAnswer, auth=own_account)
def order(request: HttpRequest, payload: OrderInput) -> dict[str, object]:
    """Put items in this order, the rest after them."""
    order_items(account_of(request), payload.ids)
    return all_carried(kit_of(account_of(request)))


@router.delete("/kit/items/{uuid:key}", response={204: None, 404: Faults}, auth=own_account)
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget an item. The client may put it back under the same key."""
    if forget_item(account_of(request), key):
        return Status(204, None)
    fault = {"field": "id", "problem": "No such item.", "instead": "Load the kit again."}
    return Status(404, {"errors": [fault]})
