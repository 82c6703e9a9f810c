"""Demo data: a made-up spring morning at Vardsund, worked out by the core like any other frame."""

from __future__ import annotations

from django.contrib.auth.models import User

from .demo_frames import keep_demo_frames
from .demo_outings import keep_demo_outings
from .kit import start_kit

ACCOUNT = "demo"
PASSWORD = "lantern-square"  # noqa: S105 (printed on start: demo data only, nothing to protect)


def load() -> User:
    """Make the demo account and its frames; running it again changes nothing a person did."""
    account, made = User.objects.get_or_create(username=ACCOUNT)
    if made:
        account.set_password(PASSWORD)
        account.save()
        start_kit(account)
        keep_demo_frames(account)
        keep_demo_outings(account)
    start_kit(account)
    return account
