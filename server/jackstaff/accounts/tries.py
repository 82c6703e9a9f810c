"""Wrong passwords, counted for all workers together: by name, so that no number of addresses helps, and by address.

The window is told by the machine's own seconds, which no change of a clock moves; another start of it begins anew.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Mapping

from django.db.models import F, Q

from jackstaff.records.models import SignInTries
from jackstaff.records.transactions import all_or_none

WINDOW_S = 300.0
MOST = {"name": 10, "address": 30}
"""Wrong ones within the window, until the next try has to wait for its end."""


def seconds_to_wait(who: Mapping[str, str], now: float, count: str) -> int:
    """Return how long these have to wait before another try [s]; 0 where they need not."""
    waits = [0]
    tries = {each.key: each for each in SignInTries.objects.filter(key__in=_keys(who).values(), count=count)}
    for kind, key in _keys(who).items():
        known = tries.get(key)
        if known and known.tries >= MOST[kind] and 0 <= now - known.since < WINDOW_S:
            waits.append(math.ceil(known.since + WINDOW_S - now))
    return max(waits)


def count_wrong(who: Mapping[str, str], now: float, count: str) -> None:
    """One more wrong password; what is over is forgotten."""
    with all_or_none():
        SignInTries.objects.filter(~Q(count=count) | Q(since__lte=now - WINDOW_S) | Q(since__gt=now)).delete()
        for key in _keys(who).values():
            made, new = SignInTries.objects.get_or_create(key=key, defaults={"tries": 1, "since": now, "count": count})
            if not new:
                SignInTries.objects.filter(pk=made.pk).update(tries=F("tries") + 1)


def forget_wrong(who: Mapping[str, str]) -> None:
    """Forget the name's own tries; those of the address stay, which may try other names."""
    SignInTries.objects.filter(key=_keys(who)["name"]).delete()


def _keys(who: Mapping[str, str]) -> dict[str, str]:
    return {kind: hashlib.sha256(f"{kind} {who[kind]}".encode()).hexdigest() for kind in MOST}
