"""How things are written: together or not at all, on the disk at once where it must be; and read as of one moment."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection, transaction


class KeyTaken(Exception):
    """The key is already used by a record of another account."""


@contextmanager
def all_or_none() -> Iterator[None]:
    """Everything kept inside is kept together, or nothing is."""
    with transaction.atomic():
        yield


@contextmanager
def durable() -> Iterator[None]:
    """The same, and on the disk when it returns: an opening must survive a power cut."""
    with connection.cursor() as cursor:
        nested = connection.in_atomic_block
        if not nested:
            cursor.execute("PRAGMA synchronous=FULL")
        try:
            with transaction.atomic():
                yield
        finally:
            if not nested:
                cursor.execute("PRAGMA synchronous=NORMAL")


@contextmanager
def as_of_now() -> Iterator[None]:
    """Everything read inside is of one moment, whoever writes meanwhile; it holds nobody up, and nothing is written.

    A frame is read from several tables: without this a page could hear of a third longer without the light for it.
    """
    if connection.in_atomic_block:
        yield
        return
    with connection.cursor() as cursor:
        cursor.execute("BEGIN DEFERRED")
        try:
            yield
        finally:
            cursor.execute("ROLLBACK")
