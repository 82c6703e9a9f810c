"""What every test of the API shares."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from pytest_django import Settings

SCHEMA: dict[str, Any] = json.loads((Path(__file__).parents[2] / "web/src/api/openapi.json").read_text("utf-8"))
"""The API as it is published for the interface; that it is the server's own is held by the linters."""


@pytest.fixture(autouse=True)
def _quick_passwords(settings: Settings) -> None:
    """A password is dear to check on purpose; what is tried here is who may try how often."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
