"""What strangers and bad luck do to a server, and whether others are still served. Run by ``make hostile``.

Each case runs against a server and data of its own. Meanwhile a probe asks for health and for an exposure four times a
second on fresh connections; what it had to wait is told as its 95th percentile and its worst.
"""

from __future__ import annotations

import json
import os
import socket
import sqlite3
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterable
from contextlib import closing, contextmanager
from http.client import HTTPConnection, HTTPException
from io import BytesIO
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from PIL import Image
from tools.serving import ROOT, Server, prepare, serving

from bench.load import NAMES, PASSWORD, QUESTION, Client
from jackstaff.backups.copies import DATABASE
from jackstaff_imaging.photo import MOST_SCANS

SECONDS = 15
_HEAD = b"POST /api/exposure HTTP/1.1\r\nHost: 127.0.0.1\r\n"
_DEAR = {
    "reading": {"shutter": "1/60", "aperture": "8", "iso": "100"},
    "glass": [{"id": f"g{each}", "kind": "solid", "stops": 0.3 + 0.041 * each} for each in range(24)],
    "slots": 4,
    "target": {"seconds": 1.0, "within_stops": 1.0},
    "apertures": ["1.4", "32"],
    "isos": ["100", "125", "160", "200"],
}


class Probe(threading.Thread):
    """Somebody else, who only wants an answer."""

    def __init__(self, server: Server) -> None:
        super().__init__(daemon=True)
        place = urlsplit(server.url)
        self.place = (place.hostname or "", place.port)
        self.times: list[float] = []
        self.failed: Counter[str] = Counter()
        self.over = threading.Event()

    def run(self) -> None:
        while not self.over.wait(0.25):
            for method, path, body in (("GET", "health", None), ("POST", "exposure", json.dumps(QUESTION))):
                begun = time.perf_counter()
                try:
                    with closing(HTTPConnection(*self.place, timeout=20)) as asked:
                        asked.request(method, f"/api/{path}", body, {"Content-Type": "application/json"})
                        answer = asked.getresponse()
                        answer.read()
                        if answer.status != 200:
                            self.failed[str(answer.status)] += 1
                except (OSError, HTTPException) as error:
                    self.failed[type(error).__name__] += 1
                self.times.append(time.perf_counter() - begun)


@contextmanager
def _held(server: Server, count: int, first: bytes) -> Any:
    """Hold connections that are opened, given a beginning, and kept."""
    place = urlsplit(server.url)
    made = []
    for _ in range(count):
        made.append(socket.create_connection((place.hostname or "", place.port or 0), timeout=10))
        made[-1].setblocking(False)
        _send(made[-1], first)
    try:
        yield made
    finally:
        for each in made:
            each.close()


def _send(connection: socket.socket, what: bytes) -> None:
    try:
        connection.send(what)
    except OSError:
        return


def _drip(server: Server, count: int, first: bytes, byte: bytes) -> str:
    with _held(server, count, first) as made:
        until = time.monotonic() + SECONDS
        while time.monotonic() < until:
            for each in made if byte else ():
                _send(each, byte)
            time.sleep(1)
    return f"{count} held for {SECONDS} s"


def slow_bodies(server: Server) -> str:
    """Send a byte a second of a body."""
    return _drip(server, 440, _HEAD + b"Content-Length: 1000\r\n\r\n", b"x")


def slow_heads(server: Server) -> str:
    """Send a byte a second of a head."""
    return _drip(server, 440, _HEAD + b"X-Slow: ", b"x")


def idle(server: Server) -> str:
    """Hold connections that say nothing."""
    return _drip(server, 1000, b"", b"")


def chunk_sizes(server: Server) -> str:
    """Chunks that claim to be larger than any disk."""
    return _drip(server, 100, _HEAD + b"Transfer-Encoding: chunked\r\n\r\nFFFFFFFFFFFF\r\n", b"x")


def slow_readers(server: Server) -> str:
    """Ask for the largest file, and read nothing of it."""
    largest = max((ROOT / "web/dist").rglob("*"), key=lambda path: path.stat().st_size)
    path = largest.relative_to(ROOT / "web/dist").as_posix()
    return _drip(server, 200, f"GET /{path} HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n".encode(), b"")


def dear_questions(server: Server) -> str:
    """As many as they like of the dearest questions there are."""
    heard = _at_once(server, 8, "stacks", json.dumps(_DEAR).encode())
    return ", ".join(f"{count} x {status}" for status, count in sorted(heard.items()))


def large_bodies(server: Server) -> str:
    """Eight megabytes of nonsense, again and again, of nobody."""
    heard = _at_once(server, 8, "replica", b"[" * 7_900_000)
    return ", ".join(f"{count} x {status}" for status, count in sorted(heard.items()))


def scan_bombs(server: Server) -> str:
    """Pictures of many scans, as many as pass for one of a camera and as many as do not."""
    bombs = [_scans(count) for count in (MOST_SCANS - 2, 400)]
    heard = Counter[str]()
    for place, bomb in enumerate(bombs):
        form = _form("f.jpg", bomb)
        for status, count in _at_once(server, 4, "frames/photo", form, _FORM, SECONDS / 2).items():
            heard[f"{status} of {('98', '400')[place]} scans"] += count
    return ", ".join(f"{count} x {status}" for status, count in sorted(heard.items()))


def _scans(count: int) -> bytes:
    """Return a progressive JPEG of 40 megapixels whose last scan comes again and again."""
    file = BytesIO()
    Image.new("RGB", (7700, 5100), (90, 120, 150)).save(file, "JPEG", progressive=True)
    whole = file.getvalue()
    last = whole[whole.rindex(b"\xff\xda") : -2]
    return whole[:-2] + last * (count - whole.count(b"\xff\xda")) + whole[-2:]


def copies(server: Server) -> str:
    """Make a copy, put it back beneath a running server, and again once it stands still."""
    client = _signed_in(server)
    key, frame = client._frame(client.ask("POST", "exposure", json.dumps(QUESTION).encode()))
    client.ask("PUT", f"frames/{key}", frame)
    told = [_manage(server, "backup"), _manage(server, "restore")]
    later, frame = client._frame(client.ask("POST", "exposure", json.dumps(QUESTION).encode()))
    client.ask("PUT", f"frames/{later}", frame)
    server.kill()
    told.append(_manage(server, "restore"))
    server.start()
    client = _signed_in(server)
    there = ["there" if client.ask("GET", f"frames/{each}") is not None else "not there" for each in (key, later)]
    said = ", ".join("done" if code == 0 else "refused" for code in told)
    return f"{said}; the frame before the copy is {there[0]}, the one after it is {there[1]}"


def _manage(server: Server, what: str) -> int:
    environment = {**os.environ, "JACKSTAFF_DATA_DIR": str(server.data)}
    asked = [sys.executable, "server/manage.py", what]
    return subprocess.run(asked, cwd=ROOT, env=environment, capture_output=True, check=False).returncode


def imports(server: Server) -> str:
    """Take an archive of 2,000 frames in again and again."""
    client = _signed_in(server)
    answer = client.ask("POST", "exposure", json.dumps(QUESTION).encode())
    for _ in range(ARCHIVED):
        key, frame = client._frame(answer)
        client.ask("PUT", f"frames/{key}", frame)
    archive = client.ask("GET", "account/archive")
    heard, until = Counter[int](), time.monotonic() + SECONDS
    form = _form("a.zip", archive)
    while time.monotonic() < until:
        before = Counter(client.told.statuses)
        client.ask("POST", "account/archive", form, _FORM)
        heard += client.told.statuses - before
    return ", ".join(f"{count} x {status}" for status, count in heard.items())


ARCHIVED = 2_000
_FORM = "multipart/form-data; boundary=b"


def _form(name: str, content: bytes) -> bytes:
    head = f'--b\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'
    return head.encode() + content + b"\r\n--b--\r\n"


def _at_once(
    server: Server, clients: int, path: str, body: bytes, kind: str = "application/json", seconds: float = SECONDS
) -> Counter[str]:
    place, heard = urlsplit(server.url), Counter[str]()
    until = time.monotonic() + seconds

    def ask() -> None:
        while time.monotonic() < until:
            try:
                with closing(HTTPConnection(place.hostname or "", place.port, timeout=60)) as asked:
                    asked.request("POST", f"/api/{path}", body, {"Content-Type": kind})
                    heard[str(asked.getresponse().status)] += 1
            except (OSError, HTTPException) as error:
                heard[type(error).__name__] += 1

    threads = [threading.Thread(target=ask) for _ in range(clients)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return heard


def held_lock(server: Server) -> str:
    """Hold the write lock from another program for thirteen seconds while somebody writes."""
    client = _signed_in(server)
    key, frame = client._frame(client.ask("POST", "exposure", json.dumps(QUESTION).encode()))
    with closing(sqlite3.connect(server.data / DATABASE, isolation_level=None)) as other:
        other.execute("BEGIN IMMEDIATE")
        late = threading.Timer(13, other.interrupt)
        late.start()
        first = _status(client, key, frame)
        late.cancel()
        other.execute("ROLLBACK")
    begun = time.perf_counter()
    second = _status(client, key, frame)
    return f"{first} while it is held; {second} after {time.perf_counter() - begun:.2f} s once it is let go"


def _status(client: Client, key: str, frame: bytes) -> int:
    """Return what a write of this frame is answered with."""
    before = Counter(client.told.statuses)
    client.ask("PUT", f"frames/{key}", frame)
    (status,) = client.told.statuses - before
    return status


def kills(server: Server) -> str:
    """SIGKILL of every process five times in the midst of writes."""
    kept, lost = [], 0
    for _ in range(5):
        client = _signed_in(server)
        answer = client.ask("POST", "exposure", json.dumps(QUESTION).encode())
        killing = threading.Timer(0.7, server.kill)
        killing.start()
        try:
            while killing.is_alive():
                key, frame = client._frame(answer)
                if client.ask("PUT", f"frames/{key}", frame) is not None:
                    kept.append(key)
        except (OSError, HTTPException):
            pass
        killing.join()
        server.start()
    client = _signed_in(server)
    for key in kept:
        lost += client.ask("GET", f"frames/{key}") is None
    return f"{len(kept)} frames acknowledged, {lost} lost"


def _signed_in(server: Server) -> Client:
    client = Client(server, NAMES[0], 0, threading.Barrier(1))
    client.ask("GET", "session")
    client.ask("POST", "session", json.dumps({"username": NAMES[0], "password": PASSWORD}).encode())
    return client


CASES: Iterable[Callable[[Server], str]] = (
    slow_bodies,
    slow_heads,
    idle,
    chunk_sizes,
    slow_readers,
    large_bodies,
    dear_questions,
    scan_bombs,
    imports,
    copies,
    held_lock,
    kills,
)


def main() -> int:
    """Print one line for each case; other than 0 where somebody else was not served within a second."""
    hurt = 0
    print("| tried | what happened | others waited, 95 % / worst | others failed |\n|---|---|---|---|")
    for case in CASES:
        with tempfile.TemporaryDirectory() as folder:
            prepare(Path(folder) / "data", *NAMES, password=PASSWORD)
            with serving(Path(folder) / "data") as server:
                probe = Probe(server)
                probe.start()
                result = case(server)
                probe.over.set()
                probe.join()
        p95 = statistics.quantiles(probe.times, n=20)[-1]
        # Who is killed serves nobody for that while.
        hurt += case not in (kills, copies) and (p95 > 1 or bool(probe.failed))
        said = (case.__doc__ or "").strip().rstrip(".")
        failed = ", ".join(f"{count} x {what}" for what, count in probe.failed.items()) or "none"
        print(f"| {said} | {result} | {p95 * 1000:.0f} ms / {max(probe.times) * 1000:.0f} ms | {failed} |", flush=True)
    return 1 if hurt else 0


if __name__ == "__main__":
    sys.exit(main())
