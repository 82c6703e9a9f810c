"""Epochs of an account's count: numbers past the point a copy had are given again once it is put back."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from contextlib import closing
from pathlib import Path
from typing import Any
from uuid import uuid4

MOST = 50
"""Epochs that are remembered. A device of an earlier one starts from the beginning."""


def next_epochs(epochs: Sequence[dict[str, Any]], head: int) -> list[dict[str, Any]]:
    """Return the epochs with another one, which begins where the count stands."""
    return [*epochs, {"id": str(uuid4()), "began": head}][-MOST:]


def begin_all(database: Path) -> None:
    """Begin another epoch of every account in a database file that is about to be put back.

    A copy of a build that knew none gets its first when its tables are brought up.
    """
    with closing(sqlite3.connect(database)) as opened, opened:
        columns = {row[1] for row in opened.execute("PRAGMA table_info(records_ledger)")}
        if "epochs" not in columns:
            return
        for account, head, epochs in opened.execute("SELECT account_id, head, epochs FROM records_ledger").fetchall():
            begun = json.dumps(next_epochs(json.loads(epochs), head))
            opened.execute("UPDATE records_ledger SET epochs = ? WHERE account_id = ?", (begun, account))
