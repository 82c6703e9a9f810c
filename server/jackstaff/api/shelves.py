"""How each kind of document is read from a device, stored, and joined with one that did not know of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Generic, TypeVar
from uuid import UUID

from django.contrib.auth.models import User
from pydantic import BaseModel, TypeAdapter, ValidationError

from jackstaff.records.frames import erase_frame, frames_of, write_frames
from jackstaff.records.kit import Placed, erase_item, placed_of, write_item
from jackstaff.records.looks import erase_look, looks_of, write_look
from jackstaff.records.outings import erase_outing, plans_of, write_outing
from jackstaff.records.replication import DocKind, asides_of, forget_aside
from jackstaff_core.facts import written
from jackstaff_core.kitfile import item
from jackstaff_core.refusal import Refusal, Refusals

from . import framedoc, framejoin
from .framedoc import FrameDoc, document, row_of
from .looks import OwnLookAsked
from .outings import OutingDoc, checked
from .refusals import fault_of

Content = TypeVar("Content")
MOST_PLACE = 1_000_000


class Whole(Generic[Content]):
    """Documents of which the later is kept whole."""

    def joined(self, winner: Content, loser: Content) -> Content:
        """The winner."""
        return winner

    def would_lose(self, kept: Content, loser: Content) -> bool:
        """Whether they differ."""
        return kept != loser


class Kit(Whole[Placed]):
    """Things of the kit, each with its place in the order."""

    def read(self, key: UUID, raw: Mapping[str, Any]) -> Placed:
        """A thing as the core reads it."""
        facts = {name: value for name, value in raw.items() if name != "place"}
        place = raw.get("place", 0)
        if not isinstance(place, int) or isinstance(place, bool) or not 0 <= place <= MOST_PLACE:
            raise Refusal("place", "'place' is no place in an order.", f"Give a whole number up to {MOST_PLACE}.")
        return Placed(item({**facts, "id": str(key)}), place)

    def held(self, account: User, key: UUID) -> Placed | None:
        """What is held."""
        return placed_of(account, [key]).get(key)

    def keep(self, account: User, key: UUID, content: Placed) -> None:
        """Store it."""
        write_item(account, content.item, content.place)

    def remove(self, account: User, key: UUID) -> None:
        """Remove it."""
        erase_item(account, key)

    def would_lose(self, kept: Placed, loser: Placed) -> bool:
        """Whether they differ in more than their place."""
        return kept.item != loser.item

    def plain(self, content: Placed) -> dict[str, Any]:
        """As a kit file carries it."""
        one = content.item
        facts = written(one.thing)
        return {
            "sort": one.sort,
            "name": one.name,
            "note": one.note,
            "retired": one.retired,
            "facts": facts,
            "place": content.place,
        }


class Outings(Whole[OutingDoc]):
    """Plans."""

    def read(self, key: UUID, raw: Mapping[str, Any]) -> OutingDoc:
        """A plan by the rules of one that is sent alone."""
        return checked(_document(OutingDoc, {**raw, "id": str(key)}))

    def held(self, account: User, key: UUID) -> OutingDoc | None:
        """What is held."""
        plan = plans_of(account, [key]).get(key)
        return None if plan is None else OutingDoc.model_validate(plan)

    def keep(self, account: User, key: UUID, content: OutingDoc) -> None:
        """Store it."""
        write_outing(account, key, self.plain(content))

    def remove(self, account: User, key: UUID) -> None:
        """Remove it."""
        erase_outing(account, key)

    def would_lose(self, kept: OutingDoc, loser: OutingDoc) -> bool:
        """Whether they differ in more than when they were written."""
        return kept != loser.model_copy(update={"changed_at": kept.changed_at})

    def plain(self, content: OutingDoc) -> dict[str, Any]:
        """As the client wrote it."""
        return content.model_dump(mode="json")


class Looks(Whole[OwnLookAsked]):
    """Looks of one's own."""

    def read(self, key: UUID, raw: Mapping[str, Any]) -> OwnLookAsked:
        """A look."""
        return _document(OwnLookAsked, raw)

    def held(self, account: User, key: UUID) -> OwnLookAsked | None:
        """What is held."""
        look = looks_of(account, [key]).get(key)
        return None if look is None else OwnLookAsked.model_validate(look)

    def keep(self, account: User, key: UUID, content: OwnLookAsked) -> None:
        """Store it."""
        write_look(account, key, self.plain(content))

    def remove(self, account: User, key: UUID) -> None:
        """Remove it."""
        erase_look(account, key)

    def plain(self, content: OwnLookAsked) -> dict[str, Any]:
        """As the client wrote it."""
        return content.model_dump(mode="json")


class Frames:
    """Frames: what happened is kept from both sides, what is said about them is the later writer's."""

    def read(self, key: UUID, raw: Mapping[str, Any]) -> FrameDoc:
        """A frame by the rules of one that is sent alone."""
        return framedoc.checked(_document(FrameDoc, {**raw, "id": str(key)}))

    def held(self, account: User, key: UUID) -> FrameDoc | None:
        """What is held."""
        row = frames_of(account).filter(pk=key).first()
        return None if row is None else document(row)

    def keep(self, account: User, key: UUID, content: FrameDoc) -> None:
        """Store it."""
        write_frames(account, {key: row_of(content)})

    def remove(self, account: User, key: UUID) -> None:
        """Remove it."""
        erase_frame(account, key)

    def joined(self, winner: FrameDoc, loser: FrameDoc) -> FrameDoc:
        """Both."""
        return framejoin.joined(winner, loser)

    def would_lose(self, kept: FrameDoc, loser: FrameDoc) -> bool:
        """Whether something said would be gone."""
        return framejoin.would_lose(kept, loser)

    def plain(self, content: FrameDoc) -> dict[str, Any]:
        """As the client wrote it."""
        return content.model_dump(mode="json")


class Asides(Whole[dict[str, Any]]):
    """What was set aside: seen and forgotten, never written by a device."""

    def read(self, key: UUID, raw: Mapping[str, Any]) -> dict[str, Any]:
        """Refused."""
        raise Refusal("kind", "What is set aside is not written by a device.", "Remove it once it has been seen.")

    def held(self, account: User, key: UUID) -> dict[str, Any] | None:
        """What is held."""
        return asides_of(account, [key]).get(key)

    def keep(self, account: User, key: UUID, content: dict[str, Any]) -> None:
        """Stays as it is: somebody else has seen it meanwhile."""

    def remove(self, account: User, key: UUID) -> None:
        """Somebody has seen it."""
        forget_aside(account, key)

    def plain(self, content: dict[str, Any]) -> dict[str, Any]:
        """As it is."""
        return content

    def would_lose(self, kept: dict[str, Any], loser: dict[str, Any]) -> bool:
        """Nothing is lost twice."""
        return False


SHELVES: dict[DocKind, Any] = {
    DocKind.KIT: Kit(),
    DocKind.OUTING: Outings(),
    DocKind.LOOK: Looks(),
    DocKind.FRAME: Frames(),
    DocKind.ASIDE: Asides(),
}

Model = TypeVar("Model", bound=BaseModel)


def _document(model: type[Model], raw: Mapping[str, Any]) -> Model:
    try:
        return TypeAdapter(model).validate_json(TypeAdapter(dict[str, Any]).dump_json(dict(raw)))
    except ValidationError as error:
        raise Refusals([fault_of(one, "content") for one in error.errors()[:20]]) from None
