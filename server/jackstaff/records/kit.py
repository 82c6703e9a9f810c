"""Keeping a kit: items in the order their owner put them, written one at a time or all at once."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from uuid import UUID, uuid5

from django.contrib.auth.models import User
from django.db import transaction

from jackstaff_core.facts import read, written
from jackstaff_core.gear import SORTS
from jackstaff_core.kitfile import Item
from jackstaff_core.starter import STARTER_KIT

from .frames import KeyTaken
from .models import KitItem


def kit_of(account: User) -> list[Item]:
    """The account's kit, in its order, what is retired included."""
    return [_item(row) for row in KitItem.objects.filter(account=account)]


def keep_items(account: User, items: Iterable[Item]) -> None:
    """Create items or bring them up to date, all of them or none; a new one goes to the end.

    Raises
    ------
    KeyTaken
        Another account holds an item with one of these keys.
    """
    coming = list(items)
    with transaction.atomic():
        held = {row.pk: row for row in KitItem.objects.filter(pk__in=[one.id for one in coming])}
        if any(row.account_id != account.pk for row in held.values()):
            raise KeyTaken
        last = KitItem.objects.filter(account=account).order_by("-place").values_list("place", flat=True).first()
        end = 0 if last is None else last + 1
        for place, one in enumerate(coming, end):
            columns = {
                "account": account,
                "sort": one.sort,
                "name": one.name,
                "note": one.note,
                "retired": one.retired,
                "facts": written(one.thing),
                "place": held[one.id].place if one.id in held else place,
            }
            KitItem.objects.update_or_create(pk=one.id, defaults=columns)


def start_kit(account: User) -> None:
    """Give an account its own copy of the starter kit; one that has a kit keeps it as it is."""
    if not KitItem.objects.filter(account=account).exists():
        own = (replace(one, id=uuid5(one.id, f"account:{account.pk}")) for one in STARTER_KIT)
        keep_items(account, own)


def order_items(account: User, keys: Sequence[UUID]) -> None:
    """Put the named items first, in this order; the rest follow as they stood."""
    with transaction.atomic():
        rows = list(KitItem.objects.filter(account=account))
        wanted = {key: place for place, key in enumerate(keys)}
        rows.sort(key=lambda row: wanted.get(row.pk, len(wanted) + row.place))
        for place, row in enumerate(rows):
            row.place = place
        KitItem.objects.bulk_update(rows, ["place"])


def forget_item(account: User, key: UUID) -> bool:
    """Forget an item; False when the account has none with this key."""
    deleted, _ = KitItem.objects.filter(account=account, pk=key).delete()
    return deleted > 0


def _item(row: KitItem) -> Item:
    return Item(row.pk, row.sort, row.name, read(SORTS[row.sort], row.facts), row.note, row.retired)
