"""Replication: the documents of an account, alike in the end on any number of devices.

Every change takes the next number of the account's own count. A device sends what was written there with the
number it had seen of that document, and asks for what has changed since a number. docs/replication.md is the
contract: what wins when, what a tombstone is, what a device may forget.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, Generic, TypeVar
from uuid import UUID, uuid4, uuid5

from django.db.models import F, QuerySet

from jackstaff.records.account import Account
from jackstaff.records.epochs import next_epochs
from jackstaff.records.kinds import DocKind
from jackstaff.records.models import Ledger, Revision
from jackstaff.records.transactions import all_or_none

from .asides import ASIDES
from .kind import Documents

UNTOUCHED = datetime(2000, 1, 1, tzinfo=UTC)
"""When something was written that nobody typed: it may be displaced without a word."""
MOST_REMEMBERED = 16
"""Writes of one document that are remembered, so that one which is sent again changes nothing."""


Content = TypeVar("Content")


@dataclass(frozen=True, slots=True)
class Write(Generic[Content]):
    """One document as a device wrote it; ``content`` None removes it.

    ``base`` is the number that the device had seen (0: none), ``follows`` are its own writes before this one whose
    answers it has not heard.
    """

    kind: DocKind
    key: UUID
    write: UUID
    base: int
    changed_at: datetime
    content: Content | None
    follows: frozenset[UUID] = frozenset()


def stamp(
    account: Account, kind: DocKind, keys: Iterable[UUID], *, removed: bool = False, at: datetime | None = None
) -> None:
    """Count a change of each of these documents, written on the server itself. Call it inside their transaction."""
    wanted = list(dict.fromkeys(keys))
    held = {row.key: row for row in Revision.objects.filter(account=account, kind=kind, key__in=wanted)}
    first = _next(account, len(wanted))
    fresh: list[Revision] = []
    again: list[Revision] = []
    for number, key in enumerate(wanted, first):
        row = held.get(key) or Revision(account=account, kind=kind, key=key)
        row.number, row.removed, row.write, row.changed_at = number, removed, uuid4(), at or datetime.now(UTC)
        (again if key in held else fresh).append(row)
    Revision.objects.bulk_create(fresh, batch_size=500)
    Revision.objects.bulk_update(again, ["number", "removed", "write", "changed_at"], batch_size=500)


def forget(account: Account, documents: Documents[Any], key: UUID) -> bool:
    """Forget a document and count the change; return False where the account has none with this key."""
    with all_or_none(account):
        forgotten = documents.remove(account, key)
        if forgotten:
            stamp(account, documents.kind, [key], removed=True)
    return forgotten


def take(account: Account, documents: Documents[Content], write: Write[Content], now: datetime) -> None:
    """Take one write. Sending it again changes nothing; what it displaces, or is displaced by, is set aside.

    A write that knew the latest number is simply kept. Of two that did not know of each other the later one by its
    own clock is kept (no clock runs ahead of the server's), the other is set aside where something would be lost.

    Raises
    ------
    KeyTaken
        Another account holds this key, where keys are everybody's.
    """
    with all_or_none(account):
        row = Revision.objects.select_for_update().filter(account=account, kind=write.kind, key=write.key).first()
        if row is not None and str(write.write) in row.writes:
            return
        at = min(write.changed_at, now)
        if row is None or write.base >= row.number or row.write in write.follows:
            _store(account, documents, write.key, write.content)
            _count(account, row, write, at, removed=write.content is None)
            return
        held: Content | None = None if row.removed else documents.held(account, write.key)
        wins = (at, write.write.bytes) > (row.changed_at, row.write.bytes)
        winner, loser = (write.content, held) if wins else (held, write.content)
        content, lost = _decided(documents, winner, loser)
        if lost is not None and not (wins and row.changed_at <= UNTOUCHED):
            source = row.write if wins else write.write
            _set_aside(account, write, source, row.changed_at if wins else at, documents.plain(lost))
        if wins or content != held:
            _store(account, documents, write.key, content)
            # What was joined is nobody's writing alone: whoever goes on from their own has not seen it.
            made_by = write.write if content == write.content else uuid4()
            _count(account, row, write, max(at, row.changed_at), removed=content is None, made_by=made_by)
        else:
            _remember(row, write)
            row.save(update_fields=["writes"])


def _decided(
    documents: Documents[Any], winner: Content | None, loser: Content | None
) -> tuple[Content | None, Content | None]:
    """Return what is kept, and what of the loser has to be set aside."""
    if loser is None:
        return winner, None
    if winner is None:
        return None, loser
    content = documents.merged(winner, loser)
    return content, loser if documents.would_lose(content, loser) else None


def _store(account: Account, documents: Documents[Content], key: UUID, content: Content | None) -> None:
    if content is None:
        documents.remove(account, key)
    else:
        documents.write(account, key, content)


def _count(
    account: Account,
    row: Revision | None,
    write: Write[Any],
    at: datetime,
    *,
    removed: bool,
    made_by: UUID | None = None,
) -> None:
    row = row or Revision(account=account, kind=write.kind, key=write.key)
    row.number, row.removed, row.changed_at = _next(account, 1), removed, at
    row.write = made_by or write.write
    _remember(row, write)
    row.save()


def _remember(row: Revision, write: Write[Any]) -> None:
    row.writes = [*row.writes, str(write.write)][-MOST_REMEMBERED:]


def _set_aside(account: Account, write: Write[Any], source: UUID, at: datetime, plain: dict[str, Any]) -> None:
    # Named after the write itself: told again, it is the same, and once somebody has seen it, it stays away.
    key = uuid5(source, "set aside")
    if Revision.objects.filter(account=account, kind=DocKind.ASIDE, key=key).exists():
        return
    content = {"kind": write.kind, "key": str(write.key), "changed_at": at.isoformat(), "content": plain}
    ASIDES.add(account, key, content)
    stamp(account, DocKind.ASIDE, [key])


def _next(account: Account, count: int) -> int:
    """Return the first of the account's next ``count`` numbers."""
    Ledger.objects.get_or_create(account=account)
    Ledger.objects.filter(account=account).update(head=F("head") + count)
    return Ledger.objects.get(account=account).head - count + 1


def head_of(account: Account) -> int:
    """Return the account's latest number."""
    return Ledger.objects.filter(account=account).values_list("head", flat=True).first() or 0


def epoch_of(account: Account) -> UUID:
    """Return which epoch of its count the account is in."""
    return UUID(_ledger(account).epochs[-1]["id"])


def shared_with(account: Account, known: UUID) -> int | None:
    """Up to which number a device of another epoch counts as the account does; None where it is of this one."""
    epochs = _ledger(account).epochs
    ids = [each["id"] for each in epochs]
    if ids[-1] == str(known):
        return None
    since = epochs[ids.index(str(known)) + 1 :] if str(known) in ids else []
    return min((int(each["began"]) for each in since), default=0)


def begin_epoch(account: Account) -> None:
    """Begin another epoch: what was put back or taken in may not be what devices know by these numbers.

    Call it inside a transaction.
    """
    ledger = _ledger(account)
    ledger.epochs = next_epochs(ledger.epochs, ledger.head)
    ledger.save(update_fields=["epochs"])


def _ledger(account: Account) -> Ledger:
    ledger, _ = Ledger.objects.get_or_create(account=account)
    return ledger


def changes_since(account: Account, number: int, limit: int) -> QuerySet[Revision]:
    """Return what has changed since a number, in order, removals included."""
    return Revision.objects.filter(account=account, number__gt=number).order_by("number")[:limit]


def revision_of(account: Account, kind: DocKind, key: UUID) -> Revision | None:
    """Return where a document stands in the count; None for one that never was."""
    return Revision.objects.filter(account=account, kind=kind, key=key).first()
