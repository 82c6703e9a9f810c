"""Databases of earlier days open with today's code, nothing lost."""

from __future__ import annotations

import os
import sqlite3
import subprocess
import sys
from pathlib import Path

from tools.serving import ROOT

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
            "SELECT note, planned_seconds, set_seconds FROM records_frame ORDER BY opened_at"
        ).fetchall()
        glasses = new.execute("SELECT count(*) FROM records_frameglass").fetchone()
    assert len(frames) == 6
    assert frames[2][0] == "Vardsund mole. Cloud drawn out."
    assert 233 < frames[2][1] < 234
    assert glasses == (8,)
