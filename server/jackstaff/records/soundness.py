"""Whether the database is there, is ours and is up to this build."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor

_GONE = "The database file is gone. Stop the server and put a copy back: make restore."
_OLD = "The database is of another build. Stop the server and start it again, which brings it up to date."
_UNREADABLE = "The database cannot be read. Stop the server and put a copy back: make restore."


def trouble() -> str | None:
    """Return what is wrong with the database, with the way out; None where nothing is."""
    name = str(settings.DATABASES["default"]["NAME"])
    # An open connection goes on reading a file that somebody has deleted.
    if connection.vendor == "sqlite" and "memory" not in name and not Path(name).exists():
        return _GONE
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT name FROM django_migrations WHERE app = 'records'")
            applied = {row[0] for row in cursor.fetchall()}
    except DatabaseError:
        return _UNREADABLE
    return None if _needed() <= applied else _OLD


@cache
def _needed() -> frozenset[str]:
    """Return the migrations that this build knows."""
    return frozenset(name for app, name in MigrationExecutor(connection).loader.disk_migrations if app == "records")
