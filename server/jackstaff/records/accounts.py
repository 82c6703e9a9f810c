"""The end of an account: everything kept for it goes with it, all or nothing."""

from __future__ import annotations

from django.contrib.auth.models import User

from .writing import all_or_none


def erase_account(account: User) -> None:
    """Erase an account, its frames with their pictures, kit, outings, looks, what was set aside, and its count."""
    with all_or_none():
        account.delete()
