"""Whose records they are: the site's user model, under the name it has here."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.contrib.auth import get_user_model

if TYPE_CHECKING:
    # A checker needs a name that it can follow; a program takes whatever the settings say.
    from django.contrib.auth.models import User as Account
else:
    Account = get_user_model()

__all__ = ["Account"]
