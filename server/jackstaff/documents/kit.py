"""The kit: things in the order their owner put them, written one at a time or all at once."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from jackstaff.records.account import Account
from jackstaff.records.kinds import DocKind
from jackstaff.records.models import KitItem, Revision
from jackstaff.records.transactions import all_or_none
from jackstaff_core.gear.kitfile import Item, item_answer, read_item
from jackstaff_core.gear.starter import STARTER_KIT
from jackstaff_core.gear.things import SORTS
from jackstaff_core.wire.facts import read_thing, write_thing
from jackstaff_core.words.refusal import Refusal

from .kind import Whole
from .replication import UNTOUCHED, stamp

MOST_PLACE = 1_000_000


@dataclass(frozen=True, slots=True)
class Placed:
    """An item and its place in the order."""

    item: Item
    place: int


class Kit(Whole[Placed]):
    """The things of an account, each with its place in the order."""

    kind = DocKind.KIT

    def of(self, account: Account) -> list[Item]:
        """Return the kit in its order, what is retired included."""
        return [_item(row) for row in KitItem.objects.filter(account=account)]

    def placed(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, Placed]:
        """Return the items among these keys with their places."""
        return {row.key: Placed(_item(row), row.place) for row in KitItem.objects.filter(account=account, key__in=keys)}

    def read(self, key: UUID, raw: Mapping[str, Any]) -> Placed:
        """Return a thing as a device sent it."""
        facts = {name: value for name, value in raw.items() if name != "place"}
        place = raw.get("place", 0)
        if not isinstance(place, int) or isinstance(place, bool) or not 0 <= place <= MOST_PLACE:
            raise Refusal("place", "'place' is no place in an order.", f"Give a whole number up to {MOST_PLACE}.")
        return Placed(read_item({**facts, "id": str(key)}), place)

    def held(self, account: Account, key: UUID) -> Placed | None:
        """Return what is held."""
        return self.placed(account, [key]).get(key)

    def write(self, account: Account, key: UUID, content: Placed) -> None:
        """Write it over what is held."""
        thing = content.item
        columns = {
            "sort": thing.sort,
            "name": thing.name,
            "note": thing.note,
            "retired": thing.retired,
            "facts": write_thing(thing.thing),
            "place": content.place,
        }
        KitItem.objects.update_or_create(account=account, key=key, defaults=columns)

    def remove(self, account: Account, key: UUID) -> bool:
        """Remove it."""
        return KitItem.objects.filter(account=account, key=key).delete()[0] > 0

    def would_lose(self, kept: Placed, loser: Placed) -> bool:
        """Return whether they differ in more than their place."""
        return kept.item != loser.item

    def plain(self, content: Placed) -> dict[str, Any]:
        """Return it as a kit file carries it."""
        thing = content.item
        return {
            "sort": thing.sort,
            "name": thing.name,
            "note": thing.note,
            "retired": thing.retired,
            "facts": write_thing(thing.thing),
            "place": content.place,
        }

    def copies(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        """Return what a device is sent of each."""
        placed = self.placed(account, keys)
        return {key: {"place": each.place, "content": item_answer(each.item)} for key, each in placed.items()}

    def keep(self, account: Account, items: Iterable[Item]) -> None:
        """Keep items and count the changes, all of them or none; a new one goes to the end."""
        coming = list(items)
        with all_or_none(account):
            self._write_all(account, coming)
            stamp(account, self.kind, [arriving.id for arriving in coming])

    def start(self, account: Account) -> None:
        """Give an account the starter kit; one that has a kit keeps it as it is."""
        with all_or_none(account):
            if not KitItem.objects.filter(account=account).exists():
                self._write_all(account, STARTER_KIT)
                stamp(account, self.kind, [each.id for each in STARTER_KIT], at=UNTOUCHED)

    def untouched(self, account: Account) -> set[UUID]:
        """Return what everybody starts with and the account's owner has never touched."""
        rows = Revision.objects.filter(account=account, kind=self.kind, removed=False, changed_at__lte=UNTOUCHED)
        return set(rows.values_list("key", flat=True))

    def order(self, account: Account, keys: Sequence[UUID]) -> None:
        """Put the named items first, in this order; the rest follow as they stood."""
        with all_or_none(account):
            rows = list(KitItem.objects.filter(account=account))
            wanted = {key: place for place, key in enumerate(keys)}
            rows.sort(key=lambda row: wanted.get(row.key, len(wanted) + row.place))
            moved = [row for place, row in enumerate(rows) if row.place != place]
            for place, row in enumerate(rows):
                row.place = place
            KitItem.objects.bulk_update(moved, ["place"])
            stamp(account, self.kind, [row.key for row in moved])

    def _write_all(self, account: Account, items: Sequence[Item]) -> None:
        places = dict(KitItem.objects.filter(account=account).values_list("key", "place"))
        end = max(places.values(), default=-1) + 1
        for place, arriving in enumerate(items, end):
            self.write(account, arriving.id, Placed(arriving, places.get(arriving.id, place)))


KIT = Kit()


def _item(row: KitItem) -> Item:
    return Item(row.key, row.sort, row.name, read_thing(SORTS[row.sort], row.facts), row.note, row.retired)
