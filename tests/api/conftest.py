"""What every test of the API shares."""

from __future__ import annotations

import pytest
from pytest_django import Settings


@pytest.fixture(autouse=True)
def _quick_passwords(settings: Settings) -> None:
    """A password is dear to check on purpose; what is tried here is who may try how often."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
