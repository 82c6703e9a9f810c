"""Outings: whole plans under the client's own keys; the last change wins."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import datetime
from typing import Any
from uuid import UUID

from django.utils import timezone

from jackstaff.records import models
from jackstaff.records.account import Account
from jackstaff.records.kinds import DocKind
from jackstaff.records.transactions import all_or_none
from jackstaff_core.outing.plan import Outing
from jackstaff_core.wire.reader import plain, read

from .kind import Whole, read_content
from .replication import stamp


class Outings(Whole[Outing]):
    """The outings of an account, each under a key of its own."""

    kind = DocKind.OUTING

    def of(self, account: Account) -> list[dict[str, Any]]:
        """Return all plans as they are kept, the earliest day first, archived ones included."""
        return [row.plan for row in models.Outing.objects.filter(account=account)]

    def plans(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        """Return those among these keys as they are kept."""
        return {row.key: row.plan for row in models.Outing.objects.filter(account=account, key__in=keys)}

    def read(self, key: UUID, raw: Mapping[str, Any]) -> Outing:
        """Return a plan as a device sent it."""
        return read_content(Outing, {**raw, "id": str(key)})

    def held(self, account: Account, key: UUID) -> Outing | None:
        """Return what is held."""
        plan = self.plans(account, [key]).get(key)
        return None if plan is None else read(Outing, plan)

    def write(self, account: Account, key: UUID, content: Outing) -> None:
        """Write it over what is held."""
        columns = {"date": content.date, "changed_at": _not_ahead(content.changed_at), "plan": plain(content)}
        models.Outing.objects.update_or_create(account=account, key=key, defaults=columns)

    def remove(self, account: Account, key: UUID) -> bool:
        """Remove it."""
        return models.Outing.objects.filter(account=account, key=key).delete()[0] > 0

    def would_lose(self, kept: Outing, loser: Outing) -> bool:
        """Return whether they differ in more than when they were written."""
        return kept != replace(loser, changed_at=kept.changed_at)

    def plain(self, content: Outing) -> dict[str, Any]:
        """Return it as the client wrote it."""
        return dict(plain(content))

    def copies(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        """Return what a device is sent of each."""
        return {key: {"content": plan} for key, plan in self.plans(account, keys).items()}

    def later_here(self, account: Account, outings: Iterable[Outing]) -> set[UUID]:
        """Return the keys of those that were changed later here than where these come from."""
        coming = {outing.id: _not_ahead(outing.changed_at) for outing in outings}
        rows = models.Outing.objects.filter(account=account, key__in=coming)
        return {row.key for row in rows if row.changed_at > coming[row.key]}

    def keep(self, account: Account, outing: Outing) -> dict[str, Any]:
        """Keep an outing and count the change, unless a later one is held; return what is held then."""
        with all_or_none(account):
            if self.later_here(account, [outing]):
                return dict(self.plans(account, [outing.id])[outing.id])
            self.write(account, outing.id, outing)
            stamp(account, self.kind, [outing.id], at=_not_ahead(outing.changed_at))
        return self.plain(outing)


OUTINGS = Outings()


def _not_ahead(changed_at: datetime) -> datetime:
    """Hold a clock that runs ahead to the server's: what it wrote could never be changed again."""
    return min(changed_at, timezone.now())
