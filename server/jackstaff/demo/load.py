"""Demo data: a made-up spring morning at Vardsund, worked out by the core like any other frame."""

from __future__ import annotations

from jackstaff.documents.kit import KIT
from jackstaff.records.account import Account

from .frames import keep_demo_frames
from .outings import keep_demo_outings

ACCOUNT = "demo"
PASSWORD = "lantern-square"  # noqa: S105 (printed on start: demo data only, nothing to protect)


def load() -> Account:
    """Make the demo account and its frames; running it again changes nothing a person did."""
    account, made = Account.objects.get_or_create(username=ACCOUNT)
    if made:
        account.set_password(PASSWORD)
        account.save()
        KIT.start(account)
        keep_demo_frames(account)
        keep_demo_outings(account)
    KIT.start(account)
    return account
