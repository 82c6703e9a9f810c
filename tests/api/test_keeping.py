"""Copies of everything that is kept: taken while people write, checked, put back into empty and used folders."""

from __future__ import annotations

import json
import shutil
import sqlite3
import subprocess
import sys
import threading
from collections.abc import Callable, Iterator
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from urllib.error import HTTPError
from urllib.request import urlopen

import pytest
from django.db import connection
from django.test import Client
from tools.serving import ROOT, Server, serving

from jackstaff.backups.copies import (
    DATABASE,
    LIST,
    LOCK,
    CannotKeep,
    alone,
    back_up,
    checked,
    copies,
    give_back_space,
    restore,
)

pytestmark = pytest.mark.database_file
AT = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)


def data(folder: Path, frames: int = 3) -> Path:
    """A data folder with a database like ours in small, written ahead as ours is, and a key beside it."""
    folder.mkdir(parents=True, exist_ok=True)
    with closing(sqlite3.connect(folder / DATABASE)) as database:
        database.execute("PRAGMA journal_mode=WAL")
        database.execute("CREATE TABLE IF NOT EXISTS records_frame (id INTEGER PRIMARY KEY, note TEXT)")
        database.execute("CREATE TABLE IF NOT EXISTS auth_user (id INTEGER PRIMARY KEY)")
        database.executemany("INSERT INTO records_frame (note) VALUES (?)", [("x" * 2000,)] * frames)
        database.commit()
    (folder / "secret_key").write_text("s3cret")
    return folder


def test_a_database_that_is_mostly_empty_is_rewritten_and_loses_nothing(tmp_path: Path) -> None:
    folder = data(tmp_path / "data", frames=500)
    for kept, smaller in ((400, False), (20, True)):
        with closing(sqlite3.connect(folder / DATABASE)) as database:
            database.execute("DELETE FROM records_frame WHERE id > ?", (kept,))
            database.commit()
            database.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        before = (folder / DATABASE).stat().st_size
        give_back_space(folder)
        assert ((folder / DATABASE).stat().st_size < before / 2) == smaller
        with closing(sqlite3.connect(folder / DATABASE)) as database:
            assert database.execute("SELECT count(*), max(length(note)) FROM records_frame").fetchone() == (kept, 2000)


def test_a_copy_is_of_one_moment_while_others_write(tmp_path: Path) -> None:
    kept = data(tmp_path / "data", 200)
    done = threading.Event()

    def write() -> None:
        with closing(sqlite3.connect(kept / DATABASE, timeout=15)) as database:
            while not done.is_set():
                # Two at once or none: an odd count would be half of a writing.
                database.executemany("INSERT INTO records_frame (note) VALUES (?)", [("y" * 3000,)] * 2)
                database.commit()

    writer = threading.Thread(target=write)
    writer.start()
    try:
        counts = [
            back_up(kept, tmp_path / "copies", AT + timedelta(seconds=turn), 14).rows["records_frame"]
            for turn in range(5)
        ]
    finally:
        done.set()
        writer.join()
    assert counts == sorted(counts)
    assert all(count % 2 == 0 for count in counts)
    assert counts[-1] > counts[0] >= 200
    newest = copies(tmp_path / "copies")[0]
    assert checked(newest / DATABASE)["records_frame"] == counts[-1]
    assert {file.stat().st_mode & 0o777 for file in newest.iterdir()} == {0o600}
    assert (newest / "secret_key").read_text() == "s3cret"


def test_only_the_newest_copies_stay(tmp_path: Path) -> None:
    kept = data(tmp_path / "data")
    for turn in range(4):
        back_up(kept, tmp_path / "copies", AT + timedelta(hours=turn), 2)
    assert [each.name for each in copies(tmp_path / "copies")] == [
        "jackstaff-2027-04-17T070000Z",
        "jackstaff-2027-04-17T060000Z",
    ]


def test_a_copy_comes_back_into_an_empty_and_into_a_used_folder(tmp_path: Path) -> None:
    kept = data(tmp_path / "data")
    copy = back_up(kept, tmp_path / "copies", AT, 14).folder
    assert restore(copy, tmp_path / "empty", AT).rows["records_frame"] == 3
    assert checked(tmp_path / "empty" / DATABASE)["records_frame"] == 3
    assert (tmp_path / "empty" / "secret_key").read_text() == "s3cret"
    data(kept, 4)
    (kept / "secret_key").write_text("newer")
    restore(copy, kept, AT)
    assert checked(kept / DATABASE)["records_frame"] == 3
    # What was there is set aside, and a key that is in use stays.
    assert checked(kept / "before-2027-04-17T040000Z" / DATABASE)["records_frame"] == 7
    assert (kept / "secret_key").read_text() == "newer"


def test_a_restore_that_is_cut_off_leaves_a_whole_database(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    # As a killed server leaves it: what was written last stands in the journal alone.
    live = data(tmp_path / "live", 50)
    with closing(sqlite3.connect(live / DATABASE)) as database:
        database.executemany("INSERT INTO records_frame (note) VALUES (?)", [("y",)] * 5)
        database.commit()
        kept = shutil.copytree(live, tmp_path / "data")
    copy = back_up(live, tmp_path / "copies", AT, 14).folder

    def cut_off(*_: object) -> None:
        raise OSError("no power")

    monkeypatch.setattr(Path, "replace", cut_off)
    with pytest.raises(OSError, match="no power"):
        restore(copy, kept, AT)
    assert checked(kept / DATABASE)["records_frame"] == 55
    assert checked(kept / "before-2027-04-17T040000Z" / DATABASE)["records_frame"] == 55


def _cut(copy: Path) -> None:
    whole = (copy / DATABASE).read_bytes()
    (copy / DATABASE).write_bytes(whole[: len(whole) // 2])


def _listed(copy: Path) -> None:
    (copy / LIST).write_text(json.dumps({"rows": {"records_frame": 99}}))


BROKEN: list[tuple[str, Callable[[Path], object], str]] = [
    ("cut short", _cut, "damaged"),
    ("another one's list", _listed, "does not hold"),
    ("no list", lambda copy: (copy / LIST).unlink(), "no copy"),
    ("not a database", lambda copy: (copy / DATABASE).write_text("hello" * 500), "damaged"),
]


@pytest.mark.parametrize(("what", "spoil", "said"), BROKEN, ids=[row[0] for row in BROKEN])
def test_a_copy_that_is_not_whole_changes_nothing(
    tmp_path: Path, what: str, spoil: Callable[[Path], object], said: str
) -> None:
    kept = data(tmp_path / "data", 50)
    copy = back_up(kept, tmp_path / "copies", AT, 14).folder
    spoil(copy)
    with pytest.raises(CannotKeep, match=said):
        restore(copy, kept, AT)
    assert checked(kept / DATABASE)["records_frame"] == 50
    assert not list(kept.glob("before-*"))


def test_what_cannot_be_copied_says_so_and_leaves_nothing(tmp_path: Path) -> None:
    with pytest.raises(CannotKeep, match="no database"):
        back_up(tmp_path, tmp_path / "copies", AT, 14)
    kept = data(tmp_path / "data", 50)
    _cut(kept)
    with pytest.raises(CannotKeep, match=r"could not be made|damaged"):
        back_up(kept, tmp_path / "copies", AT, 14)
    assert list((tmp_path / "copies").iterdir()) == []


@pytest.fixture
def running(fresh_data: Callable[[str], Path]) -> Iterator[Server]:
    with serving(fresh_data("kept")) as server:
        yield server


def command(server: Server, *words: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, ROOT / "server/manage.py", *words],
        env=server.environment,
        capture_output=True,
        text=True,
        check=False,
    )


def test_the_commands_on_a_server_that_runs_and_on_one_that_has_stopped(running: Server, tmp_path: Path) -> None:
    made = command(running, "backup")
    assert made.returncode == 0, made.stderr
    assert "frames of" in made.stdout
    refused = command(running, "restore")
    assert refused.returncode != 0
    assert "A server runs on this data" in refused.stderr
    running.stop()
    back = command(running, "restore")
    assert back.returncode == 0, back.stderr
    assert "is back" in back.stdout
    running.start()
    assert (running.data / LOCK).exists()
    # Somebody deletes the file under a running server: it says so, and the way out.
    for file in running.data.glob(f"{DATABASE}*"):
        file.rename(running.data / f"moved-{file.name}")
    with pytest.raises(HTTPError) as told:
        urlopen(f"{running.url}/api/health")  # noqa: S310
    assert told.value.code == 503
    assert "make restore" in json.loads(told.value.read())["errors"][0]["instead"]
    running.stop()
    with alone(running.data):
        pass


@pytest.mark.django_db
def test_health_tells_of_a_database_of_another_build() -> None:
    assert Client().get("/api/health").json()["status"] == "ok"
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM django_migrations WHERE app = 'records' AND name LIKE '0008%'")
    response = Client().get("/api/health")
    assert (response.status_code, response.json()["errors"][0]["problem"]) == (503, "The database is of another build.")
    with connection.cursor() as cursor:
        cursor.execute("DROP TABLE django_migrations")
    assert "cannot be read" in Client().get("/api/health").json()["errors"][0]["problem"]
