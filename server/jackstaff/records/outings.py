"""Keeping outings: whole plans under the client's own keys, the last change wins."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.utils import timezone

from .models import Outing
from .replication import DocKind, stamp
from .writing import all_or_none


def outings_of(account: User) -> list[dict[str, Any]]:
    """The account's plans, the earliest day first, archived ones included."""
    return [row.plan for row in Outing.objects.filter(account=account)]


def plans_of(account: User, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
    """The account's plans among these, by key."""
    return {key: row.plan for key, row in rows_of(account, keys).items()}


def rows_of(account: User, keys: Iterable[UUID]) -> dict[UUID, Outing]:
    """The account's rows among these, by key."""
    return {row.key: row for row in Outing.objects.filter(account=account, key__in=keys)}


def write_outing(account: User, key: UUID, plan: dict[str, Any]) -> None:
    """Write a plan, without counting the change."""
    columns = {"date": date.fromisoformat(plan["date"]), "changed_at": _changed(plan), "plan": plan}
    Outing.objects.update_or_create(account=account, key=key, defaults=columns)


def _changed(plan: dict[str, Any]) -> datetime:
    """When a plan was changed. No clock runs ahead of the server's, or what it wrote could never be changed again."""
    return min(datetime.fromisoformat(plan["changed_at"]), timezone.now())


def erase_outing(account: User, key: UUID) -> bool:
    """Erase a plan, without counting the change; False when there is none."""
    deleted, _ = Outing.objects.filter(account=account, key=key).delete()
    return deleted > 0


def stays(held: Outing, plan: dict[str, Any]) -> bool:
    """Whether a plan that is held was changed later than one that comes."""
    return held.changed_at > _changed(plan)


def keep_outing(account: User, key: UUID, plan: dict[str, Any]) -> dict[str, Any]:
    """Keep a plan, unless a later one is held already; hands back what is held then."""
    with all_or_none(account):
        held = Outing.objects.filter(account=account, key=key).first()
        if held and stays(held, plan):
            return dict(held.plan)
        write_outing(account, key, plan)
        stamp(account, DocKind.OUTING, [key], at=_changed(plan))
    return plan


def forget_outing(account: User, key: UUID) -> bool:
    """Forget an outing; False when the account has none with this key."""
    with all_or_none(account):
        forgotten = erase_outing(account, key)
        if forgotten:
            stamp(account, DocKind.OUTING, [key], removed=True)
    return forgotten
