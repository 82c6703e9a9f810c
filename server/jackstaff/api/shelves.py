"""How each kind of document is read from a device, stored, and joined with one that did not know of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any, Generic, TypeVar
from uuid import UUID

from django.contrib.auth.models import User

from jackstaff.records.frames import erase_frame, frames_of, write_frames
from jackstaff.records.kit import Placed, erase_item, placed_of, write_item
from jackstaff.records.looks import erase_look, looks_of, write_look
from jackstaff.records.outings import erase_outing, plans_of, write_outing
from jackstaff.records.replication import DocKind, asides_of, forget_aside
from jackstaff_core.gear.kitfile import item
from jackstaff_core.log import merge as framejoin
from jackstaff_core.log.frame import Frame
from jackstaff_core.motion.looks import OwnLook
from jackstaff_core.outing.plan import Outing
from jackstaff_core.wire.facts import written
from jackstaff_core.wire.reader import plain, read
from jackstaff_core.words.refusal import Refusal, Refusals

from .framekeeping import held_frame

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
        first = content.item
        facts = written(first.thing)
        return {
            "sort": first.sort,
            "name": first.name,
            "note": first.note,
            "retired": first.retired,
            "facts": facts,
            "place": content.place,
        }


class Outings(Whole[Outing]):
    """Plans."""

    def read(self, key: UUID, raw: Mapping[str, Any]) -> Outing:
        """A plan by the rules of one that is sent alone."""
        return _content(Outing, {**raw, "id": str(key)})

    def held(self, account: User, key: UUID) -> Outing | None:
        """What is held."""
        held = plans_of(account, [key]).get(key)
        return None if held is None else read(Outing, held)

    def keep(self, account: User, key: UUID, content: Outing) -> None:
        """Store it."""
        write_outing(account, key, plain(content))

    def remove(self, account: User, key: UUID) -> None:
        """Remove it."""
        erase_outing(account, key)

    def would_lose(self, kept: Outing, loser: Outing) -> bool:
        """Whether they differ in more than when they were written."""
        return kept != replace(loser, changed_at=kept.changed_at)

    def plain(self, content: Outing) -> dict[str, Any]:
        """As the client wrote it."""
        return dict(plain(content))


class Looks(Whole[OwnLook]):
    """Looks of one's own."""

    def read(self, key: UUID, raw: Mapping[str, Any]) -> OwnLook:
        """A look."""
        return _content(OwnLook, raw)

    def held(self, account: User, key: UUID) -> OwnLook | None:
        """What is held."""
        look = looks_of(account, [key]).get(key)
        return None if look is None else read(OwnLook, look)

    def keep(self, account: User, key: UUID, content: OwnLook) -> None:
        """Store it."""
        write_look(account, key, plain(content))

    def remove(self, account: User, key: UUID) -> None:
        """Remove it."""
        erase_look(account, key)

    def plain(self, content: OwnLook) -> dict[str, Any]:
        """As the client wrote it."""
        return dict(plain(content))


class Frames:
    """Frames: what happened is kept from both sides, what is said about them is the later writer's."""

    def read(self, key: UUID, raw: Mapping[str, Any]) -> Frame:
        """A frame by the rules of one that is sent alone."""
        return _content(Frame, {**raw, "id": str(key)})

    def held(self, account: User, key: UUID) -> Frame | None:
        """What is held."""
        return held_frame(frames_of(account).filter(pk=key).first())

    def keep(self, account: User, key: UUID, content: Frame) -> None:
        """Store it."""
        write_frames(account, [content])

    def remove(self, account: User, key: UUID) -> None:
        """Remove it."""
        erase_frame(account, key)

    def joined(self, winner: Frame, loser: Frame) -> Frame:
        """Both."""
        return framejoin.joined(winner, loser)

    def would_lose(self, kept: Frame, loser: Frame) -> bool:
        """Whether something said would be gone."""
        return framejoin.would_lose(kept, loser)

    def plain(self, content: Frame) -> dict[str, Any]:
        """As the client wrote it."""
        return dict(plain(content))


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

Kind = TypeVar("Kind")


def _content(kind: type[Kind], raw: Mapping[str, Any]) -> Kind:
    try:
        return read(kind, dict(raw))
    except Refusals as refusals:
        raise refusals.under("content") from None
