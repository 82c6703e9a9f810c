"""A database that is damaged, gone, full or held: nothing is acknowledged that is not kept, and the way out is said."""

from __future__ import annotations

import sqlite3
import subprocess
import sys
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import pytest
from tools.serving import ROOT, serving
from tools.visits import SignedIn

from jackstaff.backups.copies import DATABASE
from tests.conftest import OTHER_PASSWORD

from .test_frames import frame

pytestmark = pytest.mark.database_file


def test_what_is_written_to_a_file_that_was_moved_is_refused(fresh_data: Callable[[str], Path]) -> None:
    with serving(fresh_data("moved")) as server:
        edda = SignedIn(server.url, "edda", OTHER_PASSWORD)
        first = frame()
        assert edda.ask("PUT", f"/api/frames/{first['id']}", first)[0] == 200
        for file in server.data.glob(f"{DATABASE}*"):
            file.rename(server.data / f"moved-{file.name}")
        for _ in range(12):
            again = frame()
            status, said = edda.ask("PUT", f"/api/frames/{again['id']}", again)
            assert status in {401, 503}, said
        server.stop()
        with closing(sqlite3.connect(server.data / f"moved-{DATABASE}")) as moved:
            assert moved.execute(
                "SELECT count(*) FROM records_frame WHERE document ->> '$.note' = 'Vardsund mole'"
            ).fetchone() == (1,)


def test_a_full_database_says_so_and_keeps_nothing_by_halves(fresh_data: Callable[[str], Path], tmp_path: Path) -> None:
    data = fresh_data("full")
    # A bound on what this process may write to a file: the disk is full for it, and for nothing else.
    most = (data / DATABASE).stat().st_size // 1024 + 200
    with serving(data, most_kilobytes=most) as server:
        edda = SignedIn(server.url, "edda", OTHER_PASSWORD)
        told: list[int] = []
        sent = []
        for turn in range(60):
            doc = frame(note=f"{turn} " + "x" * 1900)
            status, said = edda.ask("PUT", f"/api/frames/{doc['id']}", doc)
            told.append(status)
            if status == 200:
                sent.append(doc["id"])
            else:
                assert status in {503, 507}, said
                assert "stays on this device" in said["errors"][0]["instead"]
        assert told[0] == 200
        assert told[-1] != 200
        for key in sent:
            assert edda.ask("GET", f"/api/frames/{key}")[0] == 200


START = {"manage": ["server/manage.py", "bring_up"], "serve": ["-m", "gunicorn", "-c", "server/gunicorn.conf.py"]}


@pytest.mark.parametrize("command", START.values(), ids=START)
def test_a_folder_that_takes_nothing_is_said_at_the_start(tmp_path: Path, command: list[str]) -> None:
    (tmp_path / "file").write_text("no folder")
    told = subprocess.run(
        [sys.executable, *command],
        env={"JACKSTAFF_DATA_DIR": str(tmp_path / "file" / "data"), "PATH": "", "PORT": "0"},
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=False,
    )
    assert told.returncode != 0
    assert "JACKSTAFF_DATA_DIR" in told.stderr
    assert "Traceback" not in told.stderr


def test_a_damaged_database_is_found_at_the_start(fresh_data: Callable[[str], Path]) -> None:
    data = fresh_data("damaged")
    whole = bytearray((data / DATABASE).read_bytes())
    whole[4096 * 3 : 4096 * 30] = b"\xff" * (4096 * 27)
    (data / DATABASE).write_bytes(whole)
    command = [sys.executable, str(ROOT / "server/manage.py"), "bring_up"]
    told = subprocess.run(
        command, env={"JACKSTAFF_DATA_DIR": str(data), "PATH": ""}, capture_output=True, text=True, check=False
    )
    assert told.returncode != 0
    assert "make restore" in told.stderr
    assert "Traceback" not in told.stderr


def _made_newer(data: Path) -> None:
    with closing(sqlite3.connect(data / DATABASE)) as database, database:
        database.execute(
            "INSERT INTO django_migrations (app, name, applied) VALUES ('records', '9999_from_tomorrow', '2027-04-17')"
        )


@pytest.mark.parametrize(
    ("spoil", "said"),
    [
        (lambda data: (data / DATABASE).unlink(), ("has been in use", "make restore", "JACKSTAFF_DATA_DIR")),
        (_made_newer, ("newer build", "9999_from_tomorrow", "make restore")),
    ],
    ids=["gone", "newer"],
)
def test_a_start_beside_records_that_are_not_this_build_s_refuses(
    fresh_data: Callable[[str], Path], spoil: Callable[[Path], None], said: tuple[str, ...]
) -> None:
    data = fresh_data("refused")
    command = [sys.executable, str(ROOT / "server/manage.py"), "bring_up"]
    env = {"JACKSTAFF_DATA_DIR": str(data), "PATH": ""}
    assert subprocess.run(command, env=env, check=False).returncode == 0
    spoil(data)
    before = {file.name: file.stat().st_mtime_ns for file in data.glob("*[3y]")}
    told = subprocess.run(command, env=env, capture_output=True, text=True, check=False)
    assert told.returncode != 0
    assert all(words in told.stderr for words in said)
    assert "Traceback" not in told.stderr
    # Nothing was made or changed on the way.
    assert {file.name: file.stat().st_mtime_ns for file in data.glob("*[3y]")} == before
