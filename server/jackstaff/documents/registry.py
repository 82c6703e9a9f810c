"""Every kind of document, by its name."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from typing import Any
from uuid import UUID

from jackstaff.records.account import Account
from jackstaff.records.kinds import DocKind
from jackstaff.records.models import Revision

from .asides import ASIDES
from .frames import FRAMES
from .kind import Documents
from .kit import KIT
from .looks import LOOKS
from .outings import OUTINGS

_KINDS: tuple[Documents[Any], ...] = (KIT, OUTINGS, LOOKS, FRAMES, ASIDES)
DOCUMENTS = {documents.kind: documents for documents in _KINDS}


def copies(account: Account, rows: Sequence[Revision]) -> list[dict[str, Any]]:
    """Return documents as they stand, with their numbers in the account's count."""
    keys: dict[str, list[UUID]] = defaultdict(list)
    for row in rows:
        if not row.removed:
            keys[row.kind].append(row.key)
    held = {kind: DOCUMENTS[DocKind(kind)].copies(account, wanted) for kind, wanted in keys.items()}
    return [
        {
            "kind": row.kind,
            "id": row.key,
            "number": row.number,
            "changed_at": row.changed_at,
            **held.get(row.kind, {}).get(row.key, {}),
        }
        for row in rows
    ]


def kit_copies(account: Account) -> list[dict[str, Any]]:
    """Return the account's kit as a device is sent it, for a page that has nothing yet."""
    return copies(account, list(Revision.objects.filter(account=account, kind=DocKind.KIT, removed=False)))
