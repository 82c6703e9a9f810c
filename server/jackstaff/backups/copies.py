"""Copies of everything that is kept, taken while people write, and put back.

A copy is a folder of its own: the database by SQLite's own backup, so that it is of one moment whatever is written
meanwhile; the small files beside it; and a list of what was in it. Nothing counts as a copy before it was checked.
"""

from __future__ import annotations

import fcntl
import json
import os
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from jackstaff.records.epochs import begin_all

DATABASE, LIST, LOCK, BEGUN = "jackstaff.sqlite3", "list.json", "serving.lock", "begun"
NAME = "jackstaff-"
_PAGES = 500
"""Copied at a time, so that whoever writes gets in between."""
_MOST_BESIDE = 1_000_000
_WITH_IT = (DATABASE, f"{DATABASE}-wal", f"{DATABASE}-shm")


class CannotKeep(Exception):
    """What is wrong with a copy, or with taking or putting one back, in words."""


@dataclass(frozen=True)
class Copy:
    """A checked copy: where it is, and how many rows of each table are in it."""

    folder: Path
    rows: dict[str, int]


def in_a_file(engine: str) -> bool:
    """Return whether a database file keeps the records."""
    return engine.endswith("sqlite3")


def must_be_in_a_file(engine: str) -> None:
    """Check that a database file keeps the records.

    Raises
    ------
    CannotKeep
        Another database does.
    """
    if not in_a_file(engine):
        raise CannotKeep("PostgreSQL keeps the records here: take copies with pg_dump, put them back with pg_restore.")


def back_up(data: Path, into: Path, at: datetime, keep: int) -> Copy:
    """Copy a data folder into a new folder of ``into``, check it, and let go of all but the newest ``keep``.

    Raises
    ------
    CannotKeep
        There is no database, the disk is full, or what was copied is damaged.
    """
    if not (data / DATABASE).exists():
        raise CannotKeep(f"There is no database in {data}. Start Jackstaff once, or set JACKSTAFF_DATA_DIR.")
    into.mkdir(mode=0o700, parents=True, exist_ok=True)
    folder = into / f"{NAME}{at:%Y-%m-%dT%H%M%SZ}"
    part = into / f".{folder.name}.part"
    if folder.exists():
        raise CannotKeep(f"{folder} is there already. Try again in a second.")
    shutil.rmtree(part, ignore_errors=True)
    try:
        part.mkdir(mode=0o700)
        with (
            closing(sqlite3.connect(f"file:{data / DATABASE}?mode=ro", uri=True, timeout=15)) as source,
            closing(sqlite3.connect(part / DATABASE)) as target,
        ):
            source.backup(target, pages=_PAGES, sleep=0.01)
        for beside in _beside(data):
            shutil.copy2(beside, part / beside.name)
        rows = checked(part / DATABASE)
        (part / LIST).write_text(json.dumps({"made_at": at.isoformat(), "rows": rows}, indent=1))
        for file in part.iterdir():
            file.chmod(0o600)
        part.rename(folder)
    except (OSError, sqlite3.Error) as error:
        raise CannotKeep(f"The copy could not be made: {error}. Nothing was kept, nothing else was touched.") from error
    finally:
        shutil.rmtree(part, ignore_errors=True)
    for old in copies(into)[keep:]:
        shutil.rmtree(old)
    return Copy(folder, rows)


def copies(of: Path) -> list[Path]:
    """Return the copies in a folder, the newest first."""
    return sorted((each for each in of.glob(f"{NAME}*") if (each / LIST).exists()), reverse=True)


def checked(database: Path) -> dict[str, int]:
    """Return how many rows each table has, once the database is known to be whole.

    Raises
    ------
    CannotKeep
        The database is damaged.
    """
    try:
        with closing(sqlite3.connect(f"file:{database}?mode=ro", uri=True)) as opened:
            findings = [row[0] for row in opened.execute("PRAGMA integrity_check(5)")]
            if findings != ["ok"]:
                raise CannotKeep(f"{database} is damaged: {'; '.join(findings)}. Take another copy.")
            tables = [row[0] for row in opened.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
            own_tables = sorted(name for name in tables if name.startswith(("records_", "auth_user")))
            return {name: opened.execute(f'SELECT COUNT(*) FROM "{name}"').fetchone()[0] for name in own_tables}  # noqa: S608
    except sqlite3.DatabaseError as error:
        raise CannotKeep(f"{database} is damaged: {error}. Take another copy.") from error


def sound(data: Path) -> None:
    """Check that the database of a data folder is whole, or there never was one.

    Raises
    ------
    CannotKeep
        It is damaged or has gone, with the way out. Quicker than a copy's check: rows of indexes are not counted.
    """
    database = data / DATABASE
    if not database.exists():
        if (data / BEGUN).exists():
            raise CannotKeep(
                f"{data} has been in use, but {DATABASE} is not there: it was moved or lost. Put a copy back (make"
                f" restore), or name another folder: JACKSTAFF_DATA_DIR. To begin anew, remove {data / BEGUN}."
            )
        return
    try:
        with closing(sqlite3.connect(f"file:{database}?mode=ro", uri=True, timeout=15)) as opened:
            findings = [row[0] for row in opened.execute("PRAGMA quick_check(3)")]
    except sqlite3.DatabaseError as error:
        findings = [str(error)]
    if findings != ["ok"]:
        raise CannotKeep(
            f"{database} is damaged: {'; '.join(findings)}."
            " Put a copy back (make restore); what is there is set aside, "
            "not thrown away."
        )


def give_back_space(data: Path) -> None:
    """Rewrite a database of which more than half is empty, as after its tables were rebuilt.

    Call it while nobody else has the database open.
    """
    with closing(sqlite3.connect(data / DATABASE, timeout=15)) as opened:
        (pages,), (empty,) = (opened.execute(f"PRAGMA {name}").fetchone() for name in ("page_count", "freelist_count"))
        if empty > pages / 2:
            opened.execute("VACUUM")
            opened.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def writable(data: Path) -> None:
    """Check that the data folder can be written to, or made.

    Raises
    ------
    CannotKeep
        Its disk takes nothing, or it is somebody else's.
    """
    try:
        data.mkdir(mode=0o700, parents=True, exist_ok=True)
    except OSError as error:
        raise CannotKeep(
            f"{data} cannot be made: {error.strerror}. Name another folder: JACKSTAFF_DATA_DIR."
        ) from error
    if not os.access(data, os.W_OK):
        raise CannotKeep(
            f"{data} takes nothing: its disk is read-only, or it belongs to somebody else. Nothing was changed. Make "
            "it writable, or name another folder: JACKSTAFF_DATA_DIR."
        )


def restore(copy: Path, data: Path, at: datetime) -> Copy:
    """Put a copy back. What was there before is set aside in a folder beside it, never thrown away.

    Raises
    ------
    CannotKeep
        The copy is not whole, a server runs on the data folder, or the disk is full: nothing has changed then.
    """
    try:
        counts = json.loads((copy / LIST).read_text())["rows"]
    except (OSError, ValueError, KeyError, TypeError) as error:
        raise CannotKeep(f"{copy} is no copy of Jackstaff's: its {LIST} is missing or cannot be read.") from error
    if checked(copy / DATABASE) != counts:
        raise CannotKeep(f"{copy} does not hold what its {LIST} says. Take another copy.")
    data.mkdir(mode=0o700, parents=True, exist_ok=True)
    with alone(data):
        part = data / f".{DATABASE}.part"
        try:
            shutil.copyfile(copy / DATABASE, part)
            part.chmod(0o600)
            begin_all(part)
            with part.open("rb") as file:
                os.fsync(file.fileno())
        except (OSError, sqlite3.Error) as error:
            part.unlink(missing_ok=True)
            raise CannotKeep(f"The copy could not be put back: {error}. Nothing has changed.") from error
        _set_aside(data, data / f"before-{at:%Y-%m-%dT%H%M%SZ}")
        part.replace(data / DATABASE)
        for beside in _beside(copy):
            if beside.name != LIST and not (data / beside.name).exists():
                shutil.copy2(beside, data / beside.name)
    return Copy(copy, counts)


def _set_aside(data: Path, aside: Path) -> None:
    """Everything of the database stands in ``aside`` as well; the database itself stays until another takes its place.

    What is still in its journal goes into it first, for the journal has to go: it would be read into the next one.
    """
    there = f"file:{data / DATABASE}?mode=rw"
    with suppress(sqlite3.DatabaseError), closing(sqlite3.connect(there, uri=True)) as opened:
        opened.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    files = [data / name for name in _WITH_IT if (data / name).exists()]
    for file in files:
        aside.mkdir(mode=0o700, exist_ok=True)
        try:
            (aside / file.name).hardlink_to(file)
        except OSError:
            # A disk without second names.
            shutil.copy2(file, aside / file.name)
    for file in files:
        if file.name != DATABASE:
            file.unlink()


def _beside(data: Path) -> Iterator[Path]:
    """Yield the small files that belong to the database: key and certificates."""
    for file in sorted(data.iterdir()):
        ours = file.is_file() and not file.name.startswith((".", DATABASE)) and file.name != LOCK
        if ours and file.stat().st_size <= _MOST_BESIDE:
            yield file


@contextmanager
def alone(data: Path) -> Iterator[None]:
    """Be the only one on a data folder; a server holds its lock as long as it runs."""
    with (data / LOCK).open("a") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise CannotKeep("A server runs on this data. Stop it, then put the copy back.") from error
        yield
