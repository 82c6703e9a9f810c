"""A person's years: what 100,000 frames and 2,000 outings cost against 1,000 and 20. Run by ``make bench-years``.

Both stand on one server, each in an account of its own, and are asked in turn.
"""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from http.cookiejar import CookieJar
from pathlib import Path
from urllib.request import HTTPCookieProcessor, Request, build_opener

from tools.serving import prepare, serving

ROOT = Path(__file__).parents[1]
PASSWORD = "two-pairs-of-gloves"  # noqa: S105 (of a folder that is thrown away)
ROUNDS = 15


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        prepare(data, "short", "long", password=PASSWORD)
        environment = {**os.environ, "JACKSTAFF_DATA_DIR": str(data)}
        subprocess.run([sys.executable, "-m", "bench.fill", "--years"], cwd=ROOT, env=environment, check=True)
        with serving(data) as server:
            asks = {name: _signed_in(server.url, name) for name in ("short", "long")}
            _table(asks)


def _signed_in(url: str, name: str) -> Callable[[str], bytes]:
    jar = CookieJar()
    opener = build_opener(HTTPCookieProcessor(jar))

    def ask(path: str, body: object = None) -> bytes:
        token = next((cookie.value or "" for cookie in jar if cookie.name == "jackstaff_csrf"), "")
        headers = {"X-CSRFToken": token, "Referer": url, "Content-Type": "application/json"}
        content = None if body is None else json.dumps(body).encode()
        with opener.open(Request(f"{url}/api/{path}", content, headers), timeout=200) as answer:  # noqa: S310
            return bytes(answer.read())

    ask("session")
    ask("session", {"username": name, "password": PASSWORD})
    return ask


def _table(asks: dict[str, Callable[[str], bytes]]) -> None:
    head = {name: json.loads(ask("replica?limit=1"))["head"] for name, ask in asks.items()}
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
        times: dict[str, list[float]] = {name: [] for name in asks}
        for turn in range(rounds + 1):
            for name, ask in asks.items():
                begun = time.perf_counter()
                ask(path.format(middle=head[name] // 2))
                if turn or rounds == 1:
                    times[name].append(time.perf_counter() - begun)
        short, long = (statistics.median(times[name]) for name in ("short", "long"))
        print(f"| {what} | {short * 1e3:.0f} ms | {long * 1e3:.0f} ms | {long / short:.1f} |", flush=True)


if __name__ == "__main__":
    main()
