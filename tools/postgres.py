"""Run a command on a PostgreSQL of its own, started for it and thrown away after it (Debian's package ``postgresql``).

    python -m tools.postgres pytest tests/api ...

The command finds the database in ``DATABASE_URL``. It listens on a socket in a folder of its own, never on a port.
"""

from __future__ import annotations

import hashlib
import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from urllib.parse import quote


@contextmanager
def cluster() -> Iterator[str]:
    """Yield an empty database's address.

    Raises
    ------
    SystemExit
        PostgreSQL is not installed, in words.
    """
    folder = Path(tempfile.mkdtemp(prefix="pg-"))
    # It refuses to run as root, so that there it is another user's.
    as_other = ["setpriv", "--reuid=postgres", "--regid=postgres", "--clear-groups"] if os.geteuid() == 0 else []
    if as_other:
        shutil.chown(folder, "postgres", "postgres")
    data = folder / "data"

    def tool(name: str, *words: str) -> None:
        subprocess.run([*as_other, _found(name), *words], check=True, cwd=folder, stdout=subprocess.DEVNULL)

    try:
        tool("initdb", "-D", str(data), "-U", "jackstaff", "--auth=trust", "--encoding=UTF8", "--no-sync")
        settings = f"-k {folder} -c listen_addresses= -c fsync=off -c max_connections=60"
        tool("pg_ctl", "-D", str(data), "-w", "-l", str(folder / "log"), "-o", settings, "start")
        try:
            yield f"postgresql://jackstaff@{quote(str(folder), safe='')}/postgres"
        finally:
            tool("pg_ctl", "-D", str(data), "-m", "fast", "stop")
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def database_of(data: Path, url: str) -> str:
    """Return the address of the database that belongs to a data folder.

    Where there is none, one is made as a copy of that of the folder which this one is a copy of.
    """
    name = f"of_{hashlib.sha256(str(data.resolve()).encode()).hexdigest()[:20]}"
    own, made = f"{url.rpartition('/')[0]}/{name}", data / "postgres"
    if not made.exists() or made.read_text() != name:
        like = f" TEMPLATE {made.read_text()}" if made.exists() else ""
        command = [_found("psql"), "-q", "-d", url, "-c", f"CREATE DATABASE {name}{like}"]
        subprocess.run(command, check=True)
        made.write_text(name)
    return own


class _Connection:
    """Takes the other database's marks for values."""

    def __init__(self, connection: Any) -> None:
        self._connection = connection

    def execute(self, sql: str, values: Sequence[object] = ()) -> Any:
        return self._connection.execute(sql.replace("?", "%s"), [_value(each) for each in values])


def _value(each: object) -> object:
    from psycopg.types.json import Jsonb  # noqa: PLC0415

    return Jsonb(each) if isinstance(each, dict | list) else each


@contextmanager
def connected(url: str) -> Iterator[_Connection]:
    """Into a database by its address."""
    import psycopg  # noqa: PLC0415 (installed only where it is used)

    with psycopg.connect(url) as connection:
        yield _Connection(connection)


def _found(name: str) -> str:
    places = sorted(Path("/usr/lib/postgresql").glob(f"*/bin/{name}"))
    if place := shutil.which(name) or (places[-1] if places else None):
        return str(place)
    raise SystemExit("jackstaff: PostgreSQL is missing: run 'apt-get install postgresql' as root, then try again.")


def main(command: Sequence[str]) -> int:
    """Run it, and hand its verdict back."""
    with cluster() as url:
        return subprocess.run(command, env={**os.environ, "DATABASE_URL": url}, check=False).returncode


if __name__ == "__main__":
    sys.exit(main([sys.executable, "-m", *sys.argv[1:]]))
