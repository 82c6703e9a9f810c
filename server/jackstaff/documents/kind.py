"""What every kind of document can do: be read from a device, held, written, merged with one that did not know of it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from itertools import islice
from typing import Any, Generic, Protocol, TypeVar
from uuid import UUID

from jackstaff.records.account import Account
from jackstaff.records.kinds import DocKind
from jackstaff_core.wire.reader import read
from jackstaff_core.words.refusal import Refusals

Content = TypeVar("Content")
Kind = TypeVar("Kind")

CHUNK = 100
"""So many documents are written at a time, so that nobody else waits long for their turn."""


class Documents(Protocol[Content]):
    """The documents of one kind. ``write`` and ``remove`` count no change: whoever calls them does (replication.py)."""

    kind: DocKind

    def read(self, key: UUID, raw: Mapping[str, Any]) -> Content:
        """Return a document as a device sent it; raise Refusal or Refusals where it is none."""

    def held(self, account: Account, key: UUID) -> Content | None:
        """Return what is held, or None."""

    def write(self, account: Account, key: UUID, content: Content) -> None:
        """Write it over what is held."""

    def remove(self, account: Account, key: UUID) -> bool:
        """Remove it; return False where there is none."""

    def merged(self, winner: Content, loser: Content) -> Content:
        """Return what is kept of two writings that did not know of each other."""

    def would_lose(self, kept: Content, loser: Content) -> bool:
        """Return whether the loser says something that is not in what is kept."""

    def plain(self, content: Content) -> dict[str, Any]:
        """Return the document as JSON carries it."""

    def copies(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        """Return what a device is sent of each of these, by key."""


class Whole(Generic[Content]):
    """Documents of which the later is kept whole."""

    def merged(self, winner: Content, loser: Content) -> Content:
        """Return the winner."""
        return winner

    def would_lose(self, kept: Content, loser: Content) -> bool:
        """Return whether they differ."""
        return kept != loser


def read_content(kind: type[Kind], raw: Mapping[str, Any]) -> Kind:
    """Read the content of a document; what is refused is named under ``content``.

    Raises
    ------
    Refusals
        It is no document of this kind.
    """
    try:
        return read(kind, dict(raw))
    except Refusals as refusals:
        raise refusals.under("content") from None


def batched(keys: Iterable[UUID], size: int) -> Iterator[list[UUID]]:
    """Yield the keys in lists of at most ``size``."""
    rest = iter(keys)
    while chunk := list(islice(rest, size)):
        yield chunk
