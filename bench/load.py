"""A mixed load from outside: one to 32 clients a while each, then eight for ten minutes. Run by ``make bench-load``.

Each client is signed in and works as a person's devices do: questions, frames kept and read, the log searched, a
page of the replica, a picture measured now and then. Errors and memory are what is looked at; rates are those of one
machine that carries the clients too.
"""

from __future__ import annotations

import io
import json
import statistics
import sys
import tempfile
import threading
import time
from collections import Counter
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from http.client import HTTPConnection
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit
from uuid import uuid4

import numpy as np
from PIL import Image
from tools.serving import Server, prepare, serving

NAMES = ("edda", "joar", "runa", "sanna")
PASSWORD = "two-pairs-of-gloves"  # noqa: S105 (of a folder that is thrown away)
EACH_SECONDS, LONG_SECONDS, LONG_CLIENTS = 12.0, 600.0, 8
CLIENTS = (1, 2, 4, 8, 16, 32)
QUESTION = {
    "reading": {"shutter": "1/40", "aperture": "9", "iso": "64"},
    "stack": [{"stops": 9, "offset": 0.2, "offset_sd": 0.1}, {"label": "4 stops"}],
}


@dataclass
class Told:
    """What a client was told, or all of one round."""

    times: list[float] = field(default_factory=list)
    statuses: Counter[int] = field(default_factory=Counter)


class Client(threading.Thread):
    """One device that asks without a pause until it is time to stop."""

    def __init__(self, server: Server, name: str, seconds: float, ready: threading.Barrier) -> None:
        super().__init__()
        self.place = urlsplit(server.url)
        self.url, self.seconds, self.ready = server.url, seconds, ready
        self.told = Told()
        self.who = name
        self.cookies: dict[str, str] = {}
        self.connection = HTTPConnection(self.place.hostname or "", self.place.port, timeout=60)

    def ask(self, method: str, path: str, body: bytes | None = None, kind: str = "application/json") -> Any:
        headers = {
            "Content-Type": kind,
            "Referer": self.url,
            "X-CSRFToken": self.cookies.get("jackstaff_csrf", ""),
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
        }
        begun = time.perf_counter()
        self.connection.request(method, f"/api/{path}", body, headers)
        answer = self.connection.getresponse()
        content = answer.read()
        self.told.times.append(time.perf_counter() - begun)
        self.told.statuses[answer.status] += 1
        for cookie in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = cookie.split(";")[0].partition("=")
            self.cookies[name] = value
        if not content or answer.status >= 300:
            return None
        return json.loads(content) if "json" in answer.headers.get("Content-Type", "") else content

    def run(self) -> None:
        self.ask("GET", "session")
        self.ask("POST", "session", json.dumps({"username": self.who, "password": PASSWORD}).encode())
        question = json.dumps(QUESTION).encode()
        steps = self.ask("POST", "exposure", question)
        turn = 0
        # Signing in is dear on purpose, and is not what is asked about.
        self.ready.wait()
        self.told = Told()
        until = time.monotonic() + self.seconds
        while time.monotonic() < until:
            turn += 1
            for _ in range(6):
                self.ask("POST", "exposure", question)
            self.ask("POST", "readout", b'{"text": "2m08"}')
            key, doc = self._frame(steps)
            self.ask("PUT", f"frames/{key}", doc)
            self.ask("GET", f"frames/{key}")
            self.ask("GET", "frames?limit=50&text=mole")
            self.ask("GET", "replica?limit=100")
            self.ask("GET", "frames/running")
            if turn % 10 == 0:
                self.ask("GET", "log/evidence")
                self.ask("POST", "frames/photo", _FORM, f"multipart/form-data; boundary={_BOUNDARY}")
            if turn % 3 == 0:
                self.ask("DELETE", f"frames/{key}")

    def _frame(self, answer: dict[str, Any]) -> tuple[str, bytes]:
        key, opened = str(uuid4()), datetime.now(UTC)
        kept = ("seconds", "set_seconds", "base_seconds", "sure_within_stops", "dial_mark", "steps")
        doc = {
            "id": key,
            "state": "closed",
            "opened_at": opened.isoformat(),
            "closed_at": (opened + timedelta(seconds=16)).isoformat(),
            "closed_by": "hand",
            "note": "the mole under load",
            "reading": {"shutter": "1/40", "aperture": "9", "iso": "64", "ev100": None, "step": "third"},
            "settings": {"aperture": "9", "iso": "64"},
            "stack": [{"name": "Slot ND 9", "stops": 9, "kind": "solid"}],
            "scale": "exact",
            "dial_limit": 30,
            "answer": {name: answer[name] for name in kept},
            "events": [{"id": str(uuid4()), "at": opened.isoformat(), "kind": "opened", "seconds": None}],
        }
        return key, json.dumps(doc).encode()


_BOUNDARY = "a-boundary-of-our-own"


def _form() -> bytes:
    dice = np.random.default_rng(1)
    out = io.BytesIO()
    Image.fromarray(dice.integers(0, 255, (800, 1200, 3), dtype=np.uint8)).save(out, "JPEG", quality=80)
    head = f'--{_BOUNDARY}\r\nContent-Disposition: form-data; name="file"; filename="a.jpg"\r\n\r\n'
    return head.encode() + out.getvalue() + f"\r\n--{_BOUNDARY}--\r\n".encode()


_FORM = _form()


def _memory(server: Server) -> float:
    """Return what all processes of the server hold together [MB], pages they share counted by their share."""
    leader = server.process.pid if server.process else 0
    total = 0
    for status in Path("/proc").glob("[0-9]*/stat"):
        try:
            fields = status.read_text().rpartition(")")[2].split()
            if int(fields[2]) == leader:
                rolled = (status.parent / "smaps_rollup").read_text()
                total += int(next(line for line in rolled.splitlines() if line.startswith("Pss:")).split()[1])
        except OSError:
            continue
    return total / 1000


def _round(server: Server, clients: int, seconds: float) -> str:
    ready = threading.Barrier(clients + 1)
    threads = [Client(server, NAMES[number % len(NAMES)], seconds, ready) for number in range(clients)]
    for thread in threads:
        thread.start()
    ready.wait()
    begun = time.monotonic()
    for thread in threads:
        thread.join()
    took = time.monotonic() - begun
    times = [each for thread in threads for each in thread.told.times]
    wrong = sum(count for thread in threads for status, count in thread.told.statuses.items() if status >= 400)
    p50, p95 = statistics.median(times) * 1e3, statistics.quantiles(times, n=20)[-1] * 1e3
    return f"{len(times) / took:.0f} | {p50:.0f} ms | {p95:.0f} ms | {wrong}"


def main(long_seconds: float) -> None:
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        prepare(data, *NAMES, password=PASSWORD)
        with serving(data) as server:
            print("| clients | requests a second | p50 | p95 | errors |\n|---|---|---|---|---|")
            for clients in CLIENTS:
                print(f"| {clients} | {_round(server, clients, EACH_SECONDS)} |", flush=True)
            print(f"\n{LONG_CLIENTS} clients for {long_seconds:.0f} s, by parts:\n")
            print("| after | requests a second | p50 | p95 | errors | memory |\n|---|---|---|---|---|---|")
            parts = 10
            for part in range(parts):
                told = _round(server, LONG_CLIENTS, long_seconds / parts)
                after = (part + 1) * long_seconds / parts
                print(f"| {after:.0f} s | {told} | {_memory(server):.0f} MB |", flush=True)


if __name__ == "__main__":
    main(float(sys.argv[1]) if len(sys.argv) > 1 else LONG_SECONDS)
