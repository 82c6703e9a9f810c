"""Kit: what an account owns, and the stateless questions a guest's kit is kept with."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from jackstaff.documents.kit import KIT
from jackstaff.documents.replication import forget as forget_document
from jackstaff_core.gear.fact_forms import SortForm, sort_forms
from jackstaff_core.gear.kitfile import (
    MOST_CHARACTERS,
    MOST_ITEMS,
    Item,
    ItemChange,
    KitQuestion,
    kit_answer,
    kit_changes,
    read_item,
    read_kit,
    schema,
    write_kit,
)
from jackstaff_core.gear.starter import DEMO_LIGHT_AT, DEMO_ON, DEMO_READING, STARTER_KIT, STARTER_ON, STARTER_READING
from jackstaff_core.wire.reader import read
from jackstaff_core.words.refusal import Refusal, Refusals

from .door import account_of, own_account
from .gear import KitAnswer
from .mount import body_of, described
from .refusals import Faults
from .schemas import Input
from .wired import as_answer

router = Router(tags=["kit"])


class ItemsInput(Input):
    """Items as a kit file carries them; each is read by the core, which refuses in words."""

    items: Annotated[list[dict[str, Any]], Field(max_length=MOST_ITEMS)]

    def given(self) -> tuple[Item, ...]:
        """Return the items, or every refusal with its place."""
        found: list[Item] = []
        wrong: list[Refusal] = []
        for place, each in enumerate(self.items):
            try:
                found.append(read_item(each))
            except Refusals as refusals:
                wrong.extend(refusals.under(f"items.{place}").all)
        if wrong:
            raise Refusals(wrong)
        return tuple(found)


class FileInput(ItemsInput):
    """The text of a kit file, and what is held already."""

    text: Annotated[str, Field(max_length=MOST_CHARACTERS)]


ItemChanges: Any = as_answer(tuple[ItemChange, ...])


class FileAnswer(Schema):
    """What a kit file would change, and the kit in it."""

    changes: ItemChanges
    kit: KitAnswer


class OrderInput(Input):
    """Items in the order they should stand in."""

    ids: Annotated[list[UUID], Field(max_length=MOST_ITEMS)]


class StarterReading(Schema):
    """A reading as it stands on the dials."""

    shutter: str
    aperture: str
    iso: str


class DemoBench(Schema):
    """What stands on the demo account's bench: a minute of its own outing, and what the meter said then."""

    on: list[str]
    reading: StarterReading
    light_at: str


class StarterAnswer(Schema):
    """What a newcomer starts with."""

    kit: KitAnswer
    on: list[str]
    reading: StarterReading
    demo: DemoBench


@router.get("/starter", response=StarterAnswer)
def starter(request: HttpRequest) -> dict[str, object]:
    """Return the kit, reading and stack a newcomer starts with."""
    return starter_answer()


def starter_answer() -> dict[str, object]:
    """Return the same for whoever else hands it out."""
    return {
        "kit": kit_answer(STARTER_KIT),
        "on": STARTER_ON,
        "reading": _reading(STARTER_READING),
        "demo": {"on": DEMO_ON, "reading": _reading(DEMO_READING), "light_at": DEMO_LIGHT_AT},
    }


def _reading(dialled: tuple[str, str, str]) -> dict[str, str]:
    return dict(zip(("shutter", "aperture", "iso"), dialled, strict=True))


@router.get("/kit/facts", response=as_answer(tuple[SortForm, ...]))
def facts(request: HttpRequest) -> object:
    """Return every sort of thing with its facts: label, unit, bounds, and which computation uses it."""
    return sort_forms()


@router.get("/kit/schema", response=dict[str, Any])
def kit_schema(request: HttpRequest) -> dict[str, Any]:
    """Return the JSON Schema of a kit file."""
    return schema()


@router.post("/kit/check", response=KitAnswer, openapi_extra=described(KitQuestion, None))
def check(request: HttpRequest) -> dict[str, object]:
    """Return items read and handed back whole, or refused; keeps nothing."""
    return kit_answer(read(KitQuestion, body_of(request)).items)


@router.post("/kit/file", response={200: dict[str, Any]})
def write_file(request: HttpRequest, payload: ItemsInput) -> HttpResponse:
    """Return these items as a kit file; keeps nothing."""
    answer = HttpResponse(write_kit(payload.given()), content_type="application/json; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="jackstaff-kit.json"'
    return answer


@router.post("/kit/read", response=FileAnswer)
def read_file(request: HttpRequest, payload: FileInput) -> dict[str, object]:
    """Return what a kit file would change, each refusal with its line; keeps nothing."""
    coming = read_kit(payload.text)
    return {
        "changes": kit_changes(payload.given(), coming),
        "kit": kit_answer(coming),
    }


@router.get("/kit", response=KitAnswer, auth=own_account)
def whole(request: HttpRequest) -> dict[str, object]:
    """Return the account's kit, in its order."""
    return kit_answer(KIT.of(account_of(request)))


@router.put("/kit/items", response=KitAnswer, auth=own_account)
def keep(request: HttpRequest, payload: ItemsInput) -> dict[str, object]:
    """Keep items under the client's own keys, all or none; sending them twice keeps them once."""
    KIT.keep(account_of(request), payload.given())
    return kit_answer(KIT.of(account_of(request)))


@router.put("/kit/order", response=KitAnswer, auth=own_account)
def order(request: HttpRequest, payload: OrderInput) -> dict[str, object]:
    """Put items in this order, the rest after them."""
    KIT.order(account_of(request), payload.ids)
    return kit_answer(KIT.of(account_of(request)))


@router.delete("/kit/items/{uuid:key}", response={204: None, 404: Faults}, auth=own_account)
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget an item. The client may put it back under the same key."""
    if forget_document(account_of(request), KIT, key):
        return Status(204, None)
    fault = {"field": "id", "problem": "No such item.", "instead": "Load the kit again."}
    return Status(404, {"errors": [fault]})
