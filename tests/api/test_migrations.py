"""Databases of earlier days open with today's code, nothing lost."""

from __future__ import annotations

import json
import os
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest
from tools.serving import ROOT

pytestmark = pytest.mark.database_file
DUMP = Path(__file__).parent / "fixtures" / "first_slice.sql"


def test_a_database_of_the_first_slice_is_brought_up_to_date(tmp_path: Path) -> None:
    with sqlite3.connect(tmp_path / "jackstaff.sqlite3") as old:
        old.executescript(DUMP.read_text(encoding="utf-8"))
    environment = {
        **os.environ,
        "JACKSTAFF_DATA_DIR": str(tmp_path),
        "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}",
    }
    for command in (["migrate", "-v0"], ["makemigrations", "--check", "--dry-run"], ["load_demo"]):
        subprocess.run([sys.executable, ROOT / "server/manage.py", *command], env=environment, check=True)
    with sqlite3.connect(tmp_path / "jackstaff.sqlite3") as new:
        frames = new.execute(
            "SELECT document ->> '$.note', document ->> '$.answer.seconds', set_seconds, document -> '$.stack'"
            " FROM records_frame ORDER BY opened_at"
        ).fetchall()
    assert len(frames) == 6
    assert frames[2][0] == "Vardsund mole. Cloud drawn out."
    assert 233 < frames[2][1] < 234
    assert sum(len(json.loads(frame[3])) for frame in frames) == 8


def test_frames_that_said_what_was_seen_between_spaces_say_it_in_rows(tmp_path: Path) -> None:
    environment = {
        **os.environ,
        "JACKSTAFF_DATA_DIR": str(tmp_path),
        "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'imaging'}:{ROOT / 'server'}",
    }

    def manage(*command: str) -> None:
        subprocess.run([sys.executable, ROOT / "server/manage.py", *command], env=environment, check=True)

    with sqlite3.connect(tmp_path / "jackstaff.sqlite3") as old:
        old.executescript(DUMP.read_text(encoding="utf-8"))
    manage("migrate", "-v0", "records", "0006")
    with sqlite3.connect(tmp_path / "jackstaff.sqlite3") as old:
        first, second = (row[0] for row in old.execute("SELECT id FROM records_frame ORDER BY opened_at LIMIT 2"))
        review = '{"came_out": -1.0, "seen": ["cast", "leak", "cast"], "tasted": []}'
        run = '{"metered_seconds": 4.0, "steady": {"seconds": 970.0, "count": "a"}}'
        old.execute(
            "UPDATE records_frame SET review=?, run=?, came_out=-1, seen=' cast  leak ', conditions=? WHERE id=?",
            (review, run, '{"place": "Vardsund Mole"}', first),
        )
        # An end that today's constraint would refuse.
        old.execute("UPDATE records_frame SET closed_at='2001-01-01 00:00:00' WHERE id=?", (second,))
        events = old.execute("SELECT count(*) FROM records_frameevent").fetchone()
        account = old.execute("SELECT id FROM auth_user").fetchone()
        aside = '{"kind": "frame", "key": "f", "changed_at": "", "content": {"review": {"came_out": 0.5, "seen": []}}}'
        old.execute("INSERT INTO records_setaside VALUES (1, ?, ?, ?)", ("0" * 32, aside, *account))
    manage("migrate", "-v0")
    with sqlite3.connect(tmp_path / "jackstaff.sqlite3") as new:
        codes = new.execute("SELECT code FROM records_framedefect WHERE frame_id=? ORDER BY 1", (first,)).fetchall()
        error, words = new.execute("SELECT exposure_error, words FROM records_frame WHERE id=?", (first,)).fetchone()
        review, run = new.execute(
            "SELECT document -> '$.review', document -> '$.run' FROM records_frame WHERE id=?", (first,)
        ).fetchone()
        neither = new.execute(
            "SELECT count(*) FROM records_frame WHERE document -> '$.review' = 'null' AND document -> '$.run' = 'null'"
        ).fetchone()
        frames = new.execute("SELECT count(*) FROM records_frame").fetchone()
        (aside,) = new.execute("SELECT content FROM records_setaside").fetchone()
        ends = new.execute("SELECT opened_at = closed_at FROM records_frame WHERE id=?", (second,)).fetchone()
        assert new.execute("SELECT count(*) FROM records_frameevent").fetchone() == events
    assert codes == [("cast",), ("leak",)]
    assert json.loads(review) == {"error_stops": -1.0, "defects": ["cast", "leak", "cast"], "tasted": []}
    assert json.loads(run) == {"metered_seconds": 4.0, "server_clock": {"seconds": 970.0, "count": "a"}}
    assert json.loads(aside)["content"] == {"review": {"error_stops": 0.5, "defects": []}}
    assert (error, "vardsund mole" in words, ends) == (-1.0, True, (1,))
    assert neither == (frames[0] - 1,)
