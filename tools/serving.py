"""Start the application as ``make demo`` does, on its own data, for tests, benchmarks and pictures."""

from __future__ import annotations

import os
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from jackstaff.backups.copies import DATABASE
from tools import postgres

ROOT = Path(__file__).parents[1]
_QUIET = "disable-gpu disable-quic no-first-run disable-background-networking disable-component-update disable-sync"
CHROMIUM: dict[str, Any] = {
    "executable_path": shutil.which("chromium-headless-shell") or "/usr/bin/chromium-headless-shell",
    "args": ["--no-sandbox", *(f"--{flag}" for flag in _QUIET.split())],
}
"""How to launch Debian's Chromium, the build without a window, through Playwright; nothing is ever downloaded."""


_PATIENCE_S = 60
"""A cold machine compiles everything first: it is slow, not wrong."""


@dataclass
class Server:
    """A running application; ``kill`` and ``start`` are for trying what a crash does."""

    url: str
    data: Path
    environment: dict[str, str]
    process: subprocess.Popen[bytes] | None = None
    most_kilobytes: int | None = None
    """As large as any of its files may become, where the disk is to be full."""

    def start(self) -> None:
        """Start it, and wait until it answers."""
        gunicorn = [sys.executable, "-m", "gunicorn", "-c", str(ROOT / "server/gunicorn.conf.py")]
        if self.most_kilobytes is not None:
            gunicorn = ["prlimit", f"--fsize={self.most_kilobytes * 1024}", *gunicorn]
        self.process = subprocess.Popen(
            gunicorn,
            env=self.environment,
            cwd=ROOT,
            stdout=subprocess.DEVNULL,
            start_new_session=True,
        )
        _wait_for(f"{self.url}/api/health", self.process)

    def kill(self) -> None:
        """End every process of it at once, as a power cut would."""
        if self.process is not None:
            os.killpg(self.process.pid, signal.SIGKILL)
            self.process.wait(timeout=_PATIENCE_S)

    def stop(self) -> None:
        """End it in good order."""
        if self.process is not None and self.process.poll() is None:
            self.process.terminate()
            self.process.wait(timeout=_PATIENCE_S)


@contextmanager
def records(server: Server) -> Iterator[Any]:
    """Yield the server's own database, to look into and to write, with ``?`` in place of values.

    What was written is kept when the block ends well.
    """
    if url := server.environment.get("DATABASE_URL"):
        with postgres.connected(url) as connection:
            yield connection
    else:
        with sqlite3.connect(server.data / DATABASE, timeout=15) as connection:
            yield connection


FILLED = "filled"
"""The mark of a folder that :func:`prepare` has filled."""


def prepare(data: Path, *names: str, password: str = "") -> None:
    """Fill an empty folder: the demo account, and accounts of these names with this password."""
    data.mkdir(exist_ok=True)
    (data / "password").write_text(password)
    command = [sys.executable, "-m", "tools.prepared", *names]
    subprocess.run(command, env=_environment(data), cwd=ROOT, check=True, capture_output=True)
    (data / FILLED).touch()


def _environment(data: Path) -> dict[str, str]:
    url = os.environ.get("DATABASE_URL")
    return {
        **os.environ,
        **({"DATABASE_URL": postgres.database_of(data, url)} if url else {}),
        "JACKSTAFF_DATA_DIR": str(data),
        "JACKSTAFF_DEMO": "1",
        "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'imaging'}:{ROOT / 'server'}",
    }


@contextmanager
def serving(data: Path, more: dict[str, str] | None = None, most_kilobytes: int | None = None) -> Iterator[Server]:
    """Yield a server on a free port, on what :func:`prepare` put into ``data`` or on demo data alone.

    ``more`` are settings of its environment.
    """
    if not (data / FILLED).exists():
        prepare(data)
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    environment = {**_environment(data), "PORT": str(port), **(more or {})}
    server = Server(f"http://127.0.0.1:{port}", data, environment, most_kilobytes=most_kilobytes)
    try:
        server.start()
        yield server
    finally:
        server.stop()


def _wait_for(url: str, process: subprocess.Popen[bytes]) -> None:
    for _ in range(_PATIENCE_S * 20):
        if process.poll() is not None:
            raise RuntimeError("the server ended before it answered")
        try:
            urllib.request.urlopen(url, timeout=1).close()  # noqa: S310 (our own server)
        except OSError:
            time.sleep(0.05)
        else:
            return
    raise RuntimeError("the server does not answer")
