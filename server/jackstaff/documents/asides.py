"""What was set aside: written on one device while another wrote the same thing and won. Kept until somebody saw it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any
from uuid import UUID

from jackstaff.records.account import Account
from jackstaff.records.kinds import DocKind
from jackstaff.records.models import SetAside
from jackstaff_core.words.refusal import Refusal

from .kind import Whole


class Asides(Whole[dict[str, Any]]):
    """Seen and forgotten, never written by a device."""

    kind = DocKind.ASIDE

    def read(self, key: UUID, raw: Mapping[str, Any]) -> dict[str, Any]:
        """Refuse it."""
        raise Refusal("kind", "What is set aside is not written by a device.", "Remove it once it has been seen.")

    def held(self, account: Account, key: UUID) -> dict[str, Any] | None:
        """Return what is held."""
        return self._contents(account, [key]).get(key)

    def write(self, account: Account, key: UUID, content: dict[str, Any]) -> None:
        """Leave it as it is: somebody else has seen it meanwhile."""

    def add(self, account: Account, key: UUID, content: dict[str, Any]) -> None:
        """Set a writing aside."""
        SetAside.objects.create(account=account, key=key, content=content)

    def remove(self, account: Account, key: UUID) -> bool:
        """Remove it: somebody has seen it."""
        return SetAside.objects.filter(account=account, key=key).delete()[0] > 0

    def would_lose(self, kept: dict[str, Any], loser: dict[str, Any]) -> bool:
        """Return False: nothing is lost twice."""
        return False

    def plain(self, content: dict[str, Any]) -> dict[str, Any]:
        """Return it as it is."""
        return content

    def copies(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        """Return what a device is sent of each."""
        return {key: {"content": content} for key, content in self._contents(account, keys).items()}

    def _contents(self, account: Account, keys: Iterable[UUID]) -> dict[UUID, dict[str, Any]]:
        return {row.key: row.content for row in SetAside.objects.filter(account=account, key__in=keys)}


ASIDES = Asides()
