"""Keeping looks of one's own."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User

from .models import Look


def all_looks(account: User) -> dict[UUID, dict[str, Any]]:
    """The account's own looks by key, in the order of their keys."""
    return {row.key: row.content for row in Look.objects.filter(account=account).order_by("key")}


def looks_of(account: User, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
    """The account's own looks among these, by key."""
    return {row.key: row.content for row in Look.objects.filter(account=account, key__in=keys)}


def write_look(account: User, key: UUID, content: dict[str, Any]) -> None:
    """Write a look, without counting the change."""
    Look.objects.update_or_create(account=account, key=key, defaults={"content": content})


def erase_look(account: User, key: UUID) -> None:
    """Erase a look, without counting the change."""
    Look.objects.filter(account=account, key=key).delete()
