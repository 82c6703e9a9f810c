"""Keeping a kit: items in the order their owner put them, written one at a time or all at once."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from uuid import UUID

from django.contrib.auth.models import User

from jackstaff_core.gear.kitfile import Item
from jackstaff_core.gear.sorts import SORTS
from jackstaff_core.gear.starter import STARTER_KIT
from jackstaff_core.wire.facts import read, written

from .models import KitItem, Revision
from .replication import UNTOUCHED, DocKind, stamp
from .writing import all_or_none


@dataclass(frozen=True, slots=True)
class Placed:
    """An item and its place in the order."""

    item: Item
    place: int


def kit_of(account: User) -> list[Item]:
    """The account's kit, in its order, what is retired included."""
    return [_item(row) for row in KitItem.objects.filter(account=account)]


def placed_of(account: User, keys: Iterable[UUID]) -> dict[UUID, Placed]:
    """The account's items among these with their places, by key."""
    return {row.key: Placed(_item(row), row.place) for row in KitItem.objects.filter(account=account, key__in=keys)}


def write_item(account: User, item: Item, place: int) -> None:
    """Write an item, without counting the change."""
    columns = {
        "sort": item.sort,
        "name": item.name,
        "note": item.note,
        "retired": item.retired,
        "facts": written(item.thing),
        "place": place,
    }
    KitItem.objects.update_or_create(account=account, key=item.id, defaults=columns)


def erase_item(account: User, key: UUID) -> bool:
    """Erase an item, without counting the change; False when there is none."""
    deleted, _ = KitItem.objects.filter(account=account, key=key).delete()
    return deleted > 0


def keep_items(account: User, items: Iterable[Item]) -> None:
    """Create items or bring them up to date, all of them or none; a new one goes to the end."""
    coming = list(items)
    with all_or_none(account):
        _write_all(account, coming)
        stamp(account, DocKind.KIT, [arriving.id for arriving in coming])


def start_kit(account: User) -> None:
    """Give an account the starter kit; one that has a kit keeps it as it is."""
    with all_or_none(account):
        if not KitItem.objects.filter(account=account).exists():
            _write_all(account, STARTER_KIT)
            stamp(account, DocKind.KIT, [each.id for each in STARTER_KIT], at=UNTOUCHED)


def untouched(account: User) -> set[UUID]:
    """What everybody starts with and the account's owner has never touched."""
    held = Revision.objects.filter(account=account, kind=DocKind.KIT, removed=False, changed_at__lte=UNTOUCHED)
    return set(held.values_list("key", flat=True))


def _write_all(account: User, items: Sequence[Item]) -> None:
    places = dict(KitItem.objects.filter(account=account).values_list("key", "place"))
    end = max(places.values(), default=-1) + 1
    for place, item in enumerate(items, end):
        write_item(account, item, places.get(item.id, place))


def order_items(account: User, keys: Sequence[UUID]) -> None:
    """Put the named items first, in this order; the rest follow as they stood."""
    with all_or_none(account):
        rows = list(KitItem.objects.filter(account=account))
        wanted = {key: place for place, key in enumerate(keys)}
        rows.sort(key=lambda row: wanted.get(row.key, len(wanted) + row.place))
        moved = [row for place, row in enumerate(rows) if row.place != place]
        for place, row in enumerate(rows):
            row.place = place
        KitItem.objects.bulk_update(moved, ["place"])
        stamp(account, DocKind.KIT, [row.key for row in moved])


def forget_item(account: User, key: UUID) -> bool:
    """Forget an item; False when the account has none with this key."""
    with all_or_none(account):
        forgotten = erase_item(account, key)
        if forgotten:
            stamp(account, DocKind.KIT, [key], removed=True)
    return forgotten


def _item(row: KitItem) -> Item:
    return Item(row.key, row.sort, row.name, read(SORTS[row.sort], row.facts), row.note, row.retired)
