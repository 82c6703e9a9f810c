"""Which database keeps the records: a file in the data folder, or PostgreSQL where DATABASE_URL names one."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import dj_database_url

from jackstaff.backups.copies import DATABASE

IDLE_SECONDS = 60


def database(data: Path, url: str) -> dict[str, Any]:
    """Django's settings for it."""
    if url:
        return dict(dj_database_url.parse(url, conn_max_age=IDLE_SECONDS, conn_health_checks=True))
    return {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": data / DATABASE,
        "CONN_MAX_AGE": IDLE_SECONDS,
        "OPTIONS": {
            # Deferred transactions fail at once on a busy database, whatever the timeout.
            "transaction_mode": "IMMEDIATE",
            "timeout": 10,
            "init_command": "PRAGMA journal_mode=WAL;PRAGMA synchronous=NORMAL;PRAGMA foreign_keys=ON;",
        },
    }
