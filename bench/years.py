"""A person's years: what 100,000 frames and 2,000 outings cost against 1,000 and 20. Run by ``make bench-years``.

Both stand on one server, each in an account of its own, and are asked in turn.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from tools.serving import prepare, serving
from tools.visits import SignedIn

ROOT = Path(__file__).parents[1]
PASSWORD = "two-pairs-of-gloves"  # noqa: S105 (of a folder that is thrown away)
ROUNDS = 15
SIZES = ("1000,20,30", "100000,2000,300")
"""Frames, outings and things of the two accounts."""


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        prepare(data, "short", "long", password=PASSWORD)
        environment = {**os.environ, "JACKSTAFF_DATA_DIR": str(data)}
        subprocess.run([sys.executable, "-m", "bench.fill", *SIZES], cwd=ROOT, env=environment, check=True)
        with serving(data) as server:
            _table({name: SignedIn(server.url, name, PASSWORD) for name in ("short", "long")})


def _table(visits: dict[str, SignedIn]) -> None:
    head = {name: visit.ask("GET", "/api/replica?limit=1")[1]["head"] for name, visit in visits.items()}
    rows = {
        "log page, the newest": ("frames?limit=50", ROUNDS),
        "log page, the longest first": ("frames?limit=50&sort=longest", ROUNDS),
        "log page, the worst first": ("frames?limit=50&sort=worst", ROUNDS),
        "log page, far down": ("frames?limit=50&offset={middle}", ROUNDS),
        "search for a word of many": ("frames?limit=50&text=mole", ROUNDS),
        "search for a word of three, any script": ("frames?limit=50&text=%C3%A5sg%C3%A5rd", ROUNDS),
        "search for a word of none": ("frames?limit=50&text=nowhere", ROUNDS),
        "running exposure": ("frames/running", ROUNDS),
        "evidence": ("log/evidence", 3),
        "lessons": ("log/learnt", 3),
        "a new device, one page": ("replica?since={middle}&limit=200", ROUNDS),
        "bag": ("kit", ROUNDS),
        "outings": ("outings", 5),
        "archive, first part": ("account/archive?part=1", 1),
    }
    print("| what | 1,000 frames | 100,000 frames | ratio |")
    print("|---|---|---|---|")
    for what, (path, rounds) in rows.items():
        times: dict[str, list[float]] = {name: [] for name in visits}
        for turn in range(rounds + 1):
            for name, visit in visits.items():
                begun = time.perf_counter()
                visit.fetch("GET", "/api/" + path.format(middle=head[name] // 2))
                if turn or rounds == 1:
                    times[name].append(time.perf_counter() - begun)
        short, long = (statistics.median(times[name]) for name in ("short", "long"))
        print(f"| {what} | {short * 1e3:.0f} ms | {long * 1e3:.0f} ms | {long / short:.1f} |", flush=True)


if __name__ == "__main__":
    main()
