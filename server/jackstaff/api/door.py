"""Whose request it is: the account signed in, which must be the one that the page believes to be in."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja.security import SessionAuth

from jackstaff.records.account import Account

HEADER = "X-Jackstaff-Account"
"""A page names the account it shows; a write meant for one never lands in another."""


class AnotherAccount(Exception):
    """The page is for another account than the one signed in: nothing was read or written."""


class OwnAccount(SessionAuth):
    """Signed in, as the account that the request names, where it names one."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        """Return the account, or None when nobody is signed in."""
        if not request.user.is_authenticated:
            return None
        named = request.headers.get(HEADER)
        if named is not None and named != str(request.user.pk):
            raise AnotherAccount
        return request.user


own_account = OwnAccount()


def account_of(request: HttpRequest) -> Account:
    """Return the account of a request that has passed the door."""
    assert isinstance(request.user, Account)
    return request.user
