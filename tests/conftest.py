"""A real server on its own data, for whatever asks over HTTP."""

from __future__ import annotations

import fcntl
import os
import shutil
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from hypothesis import settings
from tools.serving import FILLED, Server, prepare, serving

# No test judges how fast the machine is. By day a property is tried with fewer examples than before anything lands.
settings.register_profile("day", deadline=None, max_examples=25)
settings.register_profile("landing", deadline=None, max_examples=100)
# Every line is traced then.
settings.register_profile("coverage", deadline=None, max_examples=4)
settings.load_profile(os.environ.get("JACKSTAFF_EXAMPLES", "day"))

FOLDERS = ("browser", "api", "imaging", "core")
"""The longest tests first, so that nobody waits at the end for one that came late."""


def _folder(item: pytest.Item) -> str:
    return item.nodeid.split("/")[1]


@pytest.hookimpl(trylast=True)
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Give each worker, who begins with its share of the list in order, as much of every folder as the others."""
    workers = int(os.environ.get("PYTEST_XDIST_WORKER_COUNT", "1"))
    of = {folder: [item for item in items if _folder(item) == folder] for folder in FOLDERS}
    # Tests in a browser share a server by worker and stay as they are written; all others come in any order.
    of["browser"].sort(key=lambda item: (item.location[0], item.location[1] or 0))
    rest = [item for item in items if _folder(item) not in FOLDERS]
    shares = [
        part[len(part) * nth // workers : len(part) * (nth + 1) // workers]
        for nth in range(workers)
        for part in of.values()
    ]
    items[:] = [item for share in [*shares, rest] for item in share]


OTHER_PASSWORD = "two-pairs-of-gloves"
ENDING, GUESSED = "ylva", "tove"
"""Accounts that no other test may count on: one is ended, the other's password is guessed at until it has to wait."""


@pytest.fixture(scope="session")
def fresh_data(tmp_path_factory: pytest.TempPathFactory, testrun_uid: str) -> Callable[[str], Path]:
    """Make a data folder with the demo account and six others; it is filled once for all workers of a run."""
    shared = tmp_path_factory.getbasetemp().parent / f"filled-{testrun_uid}"
    with open(shared.with_suffix(".lock"), "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (shared / FILLED).exists():
            prepare(shared, "edda", "joar", "runa", "sanna", ENDING, GUESSED, password=OTHER_PASSWORD)

    def fresh(name: str) -> Path:
        return Path(shutil.copytree(shared, tmp_path_factory.mktemp(name) / "data"))

    return fresh


@pytest.fixture(scope="session")
def server(fresh_data: Callable[[str], Path]) -> Iterator[Server]:
    """The application with the demo account and six others."""
    with serving(fresh_data("data")) as running:
        yield running
