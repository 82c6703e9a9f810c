"""The ASGI entry point: the server's loop carries every connection, and a few threads work on whole requests.

Django's own ASGI handler hops to another thread for each of its middlewares and opens a database connection for each
request; here a request is one job of one of a few threads that keep theirs (docs/decisions/0045).
"""

from __future__ import annotations

import asyncio
import json
import os
import re
import sys
from collections import Counter
from collections.abc import Awaitable, Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from enum import StrEnum
from functools import partial
from http.cookies import CookieError, SimpleCookie
from importlib import import_module
from typing import Any, TypeVar
from wsgiref.util import FileWrapper

from django.conf import settings
from django.core.management import call_command
from django.db import DatabaseError

from jackstaff import children
from jackstaff_core.answering import LONG

from .intake import TOO_MUCH, Body, Gone, Intake, Message, Receive, Refused
from .wsgi import application as _django


class Queue(StrEnum):
    """Requests wait for their kind alone: a key press for no plan of days, whoever asks how it is for nobody."""

    HEALTH = "health"
    QUICK = "quick"
    LONG = "long"


THREADS = {Queue.HEALTH: 1, Queue.QUICK: 4, Queue.LONG: 2}
MOST_WAITING = {Queue.HEALTH: 100, Queue.QUICK: 200, Queue.LONG: 40}
"""Requests that are worked on or wait for a thread, in each worker."""
_LONG = re.compile(
    rf"/api/({'|'.join(LONG)}|log/(read|file|write|parts)|looks/drawing|account/archive|practice/replay"
    r"|standins/camera/picture|frames/(card|leak|pair|photo|specks|[0-9a-f-]{36}/picture))$"
)
_PIECE = 256_000
_DAY_SECONDS, _STAYS_SECONDS = 86_400, 5
Found = TypeVar("Found")
Send = Callable[[Message], Awaitable[None]]
_Answer = tuple[int, list[tuple[bytes, bytes]], Iterable[bytes]]


class Gateway:
    """Hands requests of the server's loop to Django in threads, and its answers back."""

    def __init__(self) -> None:
        self._intake = Intake()
        self._threads = {queue: ThreadPoolExecutor(count, queue) for queue, count in THREADS.items()}
        self._waiting = Counter[Queue]()

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        """Answer one request."""
        try:
            await self._answer(scope, receive, send)
        except Refused as refused:
            await _refuse(send, refused)
        except Gone:
            return

    async def _answer(self, scope: Message, receive: Receive, send: Send) -> None:
        path: str = scope["path"]
        headers = _headers(scope)
        body = await self._intake.body(path, _length(headers), receive, partial(self._is_known, headers))
        queue = queue_of(path)
        if self._waiting[queue] >= MOST_WAITING[queue]:
            body.close()
            raise TOO_MUCH
        self._waiting[queue] += 1
        try:
            status, said, content = await self._run(queue, _ask, _environ(scope, headers, body))
        finally:
            self._waiting[queue] -= 1
            body.close()
        await self._say(send, status, said, content)

    async def _say(self, send: Send, status: int, said: list[tuple[bytes, bytes]], content: Iterable[bytes]) -> None:
        """Send an answer piece by piece: one who reads slowly holds no thread."""
        try:
            await send({"type": "http.response.start", "status": status, "headers": said})
            if isinstance(content, list):
                await send({"type": "http.response.body", "body": b"".join(content)})
                return
            pieces = iter(content)
            while (piece := await self._run(Queue.QUICK, _next, pieces)) is not None:
                await send({"type": "http.response.body", "body": piece, "more_body": True})
            await send({"type": "http.response.body", "body": b""})
        finally:
            if close := getattr(content, "close", None):
                await self._run(Queue.QUICK, close)

    async def later(self, work: Callable[..., object], *given: object) -> None:
        """Do something that nobody waits for, beside the requests."""
        try:
            await self._run(Queue.LONG, work, *given)
        except (DatabaseError, children.Full, children.Ended):
            # Another time.
            return

    async def _is_known(self, headers: dict[str, str]) -> bool:
        return await self._run(Queue.QUICK, _is_signed_in, headers.get("HTTP_COOKIE", ""))

    async def _run(self, queue: Queue, work: Callable[..., Found], *given: object) -> Found:
        return await asyncio.get_running_loop().run_in_executor(self._threads[queue], work, *given)


def queue_of(path: str) -> Queue:
    """Return where a request for this address waits."""
    if path == "/api/health":
        return Queue.HEALTH
    return Queue.LONG if _LONG.match(path) else Queue.QUICK


def _headers(scope: Message) -> dict[str, str]:
    """Return its head as CGI names it (PEP 3333).

    A name with an underscore would pass for one with a hyphen, and is left out.
    """
    found: dict[str, str] = {}
    for raw, value in scope["headers"]:
        name = raw.decode("latin-1").upper()
        if "_" in name:
            continue
        key = name.replace("-", "_")
        if key not in ("CONTENT_TYPE", "CONTENT_LENGTH"):
            key = f"HTTP_{key}"
        text = value.decode("latin-1")
        glue = "; " if key == "HTTP_COOKIE" else ","
        found[key] = f"{found[key]}{glue}{text}" if key in found else text
    return found


def _length(headers: dict[str, str]) -> int | None:
    given = headers.get("CONTENT_LENGTH", "")
    return int(given) if given.isascii() and given.isdecimal() else None


def _environ(scope: Message, headers: dict[str, str], body: Body) -> dict[str, Any]:
    host, port = scope.get("server") or ("localhost", 0)
    client = scope.get("client") or ("", 0)
    return {
        **headers,
        "REQUEST_METHOD": scope["method"],
        "SCRIPT_NAME": "",
        # PEP 3333: bytes in the clothes of latin-1.
        "PATH_INFO": scope["path"].encode().decode("latin-1"),
        "QUERY_STRING": scope["query_string"].decode("latin-1"),
        "SERVER_NAME": host,
        "SERVER_PORT": str(port),
        "SERVER_PROTOCOL": f"HTTP/{scope['http_version']}",
        "REMOTE_ADDR": client[0],
        "CONTENT_LENGTH": str(body.length),
        "wsgi.version": (1, 0),
        "wsgi.url_scheme": "https" if settings.TLS else "http",
        "wsgi.input": body.file,
        "wsgi.file_wrapper": _in_large_pieces,
        "wsgi.errors": sys.stderr,
        "wsgi.multithread": True,
        "wsgi.multiprocess": True,
        "wsgi.run_once": False,
    }


def _ask(environ: dict[str, Any]) -> _Answer:
    """Django's answer, with a short one as a list of its pieces."""
    begun: list[tuple[int, list[tuple[bytes, bytes]]]] = []

    def start(status: str, headers: list[tuple[str, str]], _: object = None) -> Callable[[bytes], object]:
        said = [(name.lower().encode("latin-1"), value.encode("latin-1")) for name, value in headers]
        begun.append((int(status.split(" ", 1)[0]), said))
        return lambda _: None

    response: Any = _django(environ, start)
    status, said = begun[0]
    if getattr(response, "streaming", True):
        return status, said, response
    try:
        content = b"".join(response)
        # What has no body at all says so by its status.
        if status not in (204, 304) and all(name != b"content-length" for name, _ in said):
            said.append((b"content-length", str(len(content)).encode()))
        return status, said, [content]
    finally:
        response.close()


def _in_large_pieces(file: Any, _: int = 0) -> FileWrapper:
    return FileWrapper(file, _PIECE)


def _next(pieces: Iterator[bytes]) -> bytes | None:
    return next(pieces, None)


def _is_signed_in(cookies: str) -> bool:
    """Return whether a session of an account stands behind these cookies."""
    try:
        held = SimpleCookie(cookies).get(settings.SESSION_COOKIE_NAME)
    except CookieError:
        return False
    if held is None:
        return False
    sessions = import_module(settings.SESSION_ENGINE)
    return "_auth_user_id" in sessions.SessionStore(held.value)


async def _refuse(send: Send, refused: Refused) -> None:
    fault = {"field": refused.field, "problem": refused.problem, "instead": refused.instead}
    content = json.dumps({"errors": [fault]}).encode()
    said = [
        (b"content-type", b"application/json"),
        (b"content-length", str(len(content)).encode()),
        (b"connection", b"close"),
    ]
    if refused.retry is not None:
        said.append((b"retry-after", str(refused.retry).encode()))
    await send({"type": "http.response.start", "status": refused.status, "headers": said})
    await send({"type": "http.response.body", "body": content})


_gateway: Gateway | None = None
_tasks: set[asyncio.Task[None]] = set()


async def _tidy(gateway: Gateway) -> None:
    """Sessions that have ended are forgotten once a day, for a server that is never started anew."""
    while True:
        await asyncio.sleep(_DAY_SECONDS)
        await gateway.later(call_command, "clearsessions")


async def _prepare(gateway: Gateway) -> None:
    """Start the processes for long questions, where somebody stays for longer than a moment."""
    await asyncio.sleep(_STAYS_SECONDS)
    await gateway.later(children.ask, os.getpid)


async def application(scope: Message, receive: Receive, send: Send) -> None:
    """Answer the server. The threads begin in each worker: none of them lives through a fork."""
    global _gateway  # noqa: PLW0603 (one of each process)
    if scope["type"] == "http":
        if _gateway is None:
            _gateway = Gateway()
            for beside in (_tidy, _prepare):
                _tasks.add(asyncio.create_task(beside(_gateway)))
        await _gateway(scope, receive, send)
