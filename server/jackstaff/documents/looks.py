"""Looks of one's own."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any
from uuid import UUID

from jackstaff.records.account import Account
from jackstaff.records.kinds import DocKind
from jackstaff.records.models import Look
from jackstaff.records.transactions import all_or_none
from jackstaff_core.motion.looks import OwnLook
from jackstaff_core.wire.reader import plain, read

from .kind import Whole, read_content
from .replication import stamp


class Looks(Whole[OwnLook]):
    """The looks of an account, each under a key of its own."""

    kind = DocKind.LOOK

    def of(self, account: Account) -> dict[UUID, dict[str, Any]]:
        """Return all of them as they are kept, in the order of their keys."""
        return {row.key: row.content for row in Look.objects.filter(account=account).order_by("key")}

    def contents(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        """Return those among these keys as they are kept."""
        return {row.key: row.content for row in Look.objects.filter(account=account, key__in=keys)}

    def read(self, key: UUID, raw: Mapping[str, Any]) -> OwnLook:
        """Return a look as a device sent it."""
        return read_content(OwnLook, raw)

    def held(self, account: Account, key: UUID) -> OwnLook | None:
        """Return what is held."""
        content = self.contents(account, [key]).get(key)
        return None if content is None else read(OwnLook, content)

    def write(self, account: Account, key: UUID, content: OwnLook) -> None:
        """Write it over what is held."""
        Look.objects.update_or_create(account=account, key=key, defaults={"content": plain(content)})

    def keep(self, account: Account, looks: Mapping[UUID, OwnLook]) -> None:
        """Write looks and count the change of each."""
        with all_or_none(account):
            for key, look in looks.items():
                self.write(account, key, look)
            stamp(account, self.kind, looks)

    def remove(self, account: Account, key: UUID) -> bool:
        """Remove it."""
        return Look.objects.filter(account=account, key=key).delete()[0] > 0

    def plain(self, content: OwnLook) -> dict[str, Any]:
        """Return it as the client wrote it."""
        return dict(plain(content))

    def copies(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        """Return what a device is sent of each."""
        return {key: {"content": content} for key, content in self.contents(account, keys).items()}


LOOKS = Looks()
