"""The end of an account, and of its visits in other browsers."""

from __future__ import annotations

from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.models import Session

from jackstaff.records.account import Account
from jackstaff.records.transactions import all_or_none


def erase_account(account: Account) -> None:
    """Erase an account, its frames with their pictures, kit, outings, looks, what was set aside, and its count."""
    with all_or_none(account):
        account.delete()


def end_sessions(account: Account, but: str | None) -> int:
    """End an account's visits, ``but`` the one of this key; how many there were."""
    theirs = [
        visit.session_key
        for visit in Session.objects.exclude(session_key=but).iterator()
        if visit.get_decoded().get(SESSION_KEY) == str(account.pk)
    ]
    # By hundreds: a statement holds only so many names.
    for start in range(0, len(theirs), 500):
        Session.objects.filter(session_key__in=theirs[start : start + 500]).delete()
    return len(theirs)
