"""Keeping outings: whole plans under the client's own keys, the last change wins."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from .frames import KeyTaken
from .models import Outing


def outings_of(account: User) -> list[dict[str, Any]]:
    """The account's plans, the earliest day first, archived ones included."""
    return [row.plan for row in Outing.objects.filter(account=account)]


def keep_outing(account: User, key: UUID, day: date, changed_at: datetime, plan: dict[str, Any]) -> dict[str, Any]:
    """Keep a plan, unless a later one is held already; hands back what is held then.

    Raises
    ------
    KeyTaken
        Another account holds an outing with this key.
    """
    with transaction.atomic():
        held = Outing.objects.filter(pk=key).first()
        if held and held.account_id != account.pk:
            raise KeyTaken
        if held and held.changed_at > changed_at:
            return dict(held.plan)
        columns = {"account": account, "date": day, "changed_at": changed_at, "plan": plan}
        Outing.objects.update_or_create(pk=key, defaults=columns)
    return plan


def forget_outing(account: User, key: UUID) -> bool:
    """Forget an outing; False when the account has none with this key."""
    deleted, _ = Outing.objects.filter(account=account, pk=key).delete()
    return deleted > 0
