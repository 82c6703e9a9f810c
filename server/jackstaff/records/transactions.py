"""How things are written: together or not at all, on the disk at once where it must be; and read as of one moment."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.db import DatabaseError, connection, transaction
from django.db.backends.base.base import BaseDatabaseWrapper

from jackstaff.records.account import Account

from .timelimit import in_time


class KeyTaken(Exception):
    """The key is already used by a record of another account."""


def opened(connection: BaseDatabaseWrapper, **_: object) -> None:
    """Remember which file a new connection has opened."""
    connection.jackstaff_file = _file(connection)  # type: ignore[attr-defined]


def _file(connection: BaseDatabaseWrapper) -> int | None:
    """Return which file a database is; None where it is none, or gone."""
    try:
        return Path(connection.settings_dict["NAME"]).stat().st_ino if connection.vendor == "sqlite" else None
    except OSError:
        return None


def _still_there() -> None:
    """Check that writing reaches the database that is there now.

    An open connection goes on writing into a file that somebody has moved or deleted, and all of it would be lost.
    """
    connection.ensure_connection()
    now, then = _file(connection), connection.jackstaff_file  # type: ignore[attr-defined]
    if then is None:
        # It was made by this connection.
        connection.jackstaff_file = now  # type: ignore[attr-defined]
    elif now != then:
        # The next request opens what is there then.
        connection.close_at = 0
        raise DatabaseError("unable to open the database that was open: it was moved or deleted")


_TURN = 7_466_000
"""Names our turns among a database's own locks."""


@contextmanager
def all_or_none(account: Account | None = None) -> Iterator[None]:
    """Everything kept inside is kept together, or nothing is; what one account writes takes turns.

    What is held is read and written over in one turn, so that nobody's write is lost between the two. SQLite lets one
    write at a time as it is.
    """
    if not connection.in_atomic_block:
        in_time()
        _still_there()
    with transaction.atomic():
        if account is not None and connection.vendor == "postgresql":
            with connection.cursor() as cursor:
                cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [_TURN, account.pk])
        yield


@contextmanager
def durable(account: Account) -> Iterator[None]:
    """Keep everything inside together, and on the disk when it returns: an opening must survive a power cut.

    PostgreSQL always does it so.
    """
    with connection.cursor() as cursor:
        relaxed = connection.vendor == "sqlite" and not connection.in_atomic_block
        if relaxed:
            cursor.execute("PRAGMA synchronous=FULL")
        try:
            with all_or_none(account):
                yield
        finally:
            if relaxed:
                cursor.execute("PRAGMA synchronous=NORMAL")


_OF_ONE_MOMENT = {"sqlite": "BEGIN DEFERRED", "postgresql": "BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY"}


@contextmanager
def as_of_now() -> Iterator[None]:
    """Everything read inside is of one moment, whoever writes meanwhile; it holds nobody up, and nothing is written.

    A frame is read from several tables: without this a page could hear of a third longer without the light for it.
    """
    if connection.in_atomic_block:
        yield
        return
    in_time()
    with connection.cursor() as cursor:
        cursor.execute(_OF_ONE_MOMENT[connection.vendor])
        try:
            yield
        finally:
            cursor.execute("ROLLBACK")
