"""A worker that takes a request in whole before any of its threads works on it, so that slow senders cost none.

gunicorn watches over the processes; within each, waitress reads and writes every connection in one loop and hands only
complete requests to the threads. A body larger than its address takes is refused by what its head says of it.
"""

from __future__ import annotations

import copy
import json
import os
import re
import socket
import ssl
import time
from typing import Any

from django.conf import settings
from gunicorn.workers.base import Worker
from waitress import wasyncore
from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer
from waitress.utilities import BadRequest

from .tls import TlsSocket, speaking

MOST_CONNECTIONS = 200
IDLE_SECONDS = 60
_MOST_BODY = (
    (re.compile(r"/api/account/archive$"), 401_000_000),
    (re.compile(r"/api/frames/pair$"), 241_000_000),
    (re.compile(r"/api/(frames/|log/read$)"), 121_000_000),
    (re.compile(""), 8_000_000),
)
"""Bytes a body may have by its address; which file is too large is said further in."""


_SAID = {
    413: ("body", "This is larger than is taken here.", "Send less at once."),
    431: ("address", "This address, or what stands beside it, is longer than is taken here.", "Ask by POST."),
}
_UNCLEAR = ("request", "This request cannot be understood.", "Load the page again.")


class _Refused(BadRequest):
    """A request that no thread works on, said as the API says every refusal."""

    def __init__(self, error: BadRequest) -> None:
        super().__init__("")
        self.code, self.reason = error.code, error.reason

    # The stubs take the body for text.
    def to_response(self, ident: str | None = None) -> tuple[str, list[tuple[str, str]], bytes]:  # type: ignore[override]
        names = ("field", "problem", "instead")
        fault = dict(zip(names, _SAID.get(self.code, _UNCLEAR), strict=True))
        headers = [("Content-Type", "application/json"), ("Connection", "close")]
        return f"{self.code} {self.reason}", headers, json.dumps({"errors": [fault]}).encode()


class _Parser(HTTPRequestParser):
    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        self.adj = copy.copy(self.adj)
        self.adj.max_request_body_size = next(most for path, most in _MOST_BODY if path.match(self.path))  # type: ignore[attr-defined]

    def received(self, data: bytes) -> int:
        taken: int = super().received(data)
        if isinstance(self.error, BadRequest) and not isinstance(self.error, _Refused):
            self.error = _Refused(self.error)
        return taken


class _Channel(HTTPChannel):
    parser_class = _Parser


class _TlsChannel(_Channel):
    """The same over TLS; a handshake that never ends holds nobody up and is closed as an idle connection is."""

    def __init__(self, server: Any, sock: socket.socket, addr: Any, adj: Adjustments, map: Any = None) -> None:
        super().__init__(server, TlsSocket(sock, server.tls), addr, adj, map=map)  # type: ignore[arg-type]

    def recv(self, buffer_size: int) -> bytes:
        try:
            return super().recv(buffer_size)
        except BlockingIOError:
            self._nothing_yet = True
            return b""

    def handle_read(self) -> None:
        while True:
            self._nothing_yet = False
            super().handle_read()
            if self._nothing_yet:
                # It is taken for the end of the connection; it is not.
                self.connected = True
                return
            # What is unlocked already shows in no poll.
            if not self.connected or not self.socket.pending():  # type: ignore[union-attr]
                return


class _Server(TcpWSGIServer):
    tls: ssl.SSLContext | None = None

    @property
    def channel_class(self) -> type[_Channel]:  # type: ignore[override]
        return _TlsChannel if self.tls else _Channel

    def busy(self) -> bool:
        """Whether an answer is being made or sent."""
        open_: dict[int, Any] = self.active_channels  # type: ignore[assignment]
        return any(channel.requests or channel.total_outbufs_len for channel in open_.values())


class BufferingWorker(Worker):
    """waitress under gunicorn's eye."""

    def run(self) -> None:
        (listening,) = self.sockets
        connections: dict[int, Any] = {}
        adjustments = Adjustments(
            threads=self.cfg.threads,
            ident=None,
            connection_limit=MOST_CONNECTIONS,
            channel_timeout=IDLE_SECONDS,
            # What a sender claims of addresses is believed nowhere but from a proxy of one's own (settings); that
            # somebody has handed it on is worth knowing.
            clear_untrusted_proxy_headers=False,
            url_scheme="https" if settings.TLS else "http",
        )
        sock: socket.socket = listening.sock  # type: ignore[attr-defined]
        server = _Server(
            self.wsgi,  # type: ignore[arg-type]
            connections,
            True,
            sock,
            adj=adjustments,
            bind_socket=False,
            sockinfo=(sock.family, sock.type, sock.proto, sock.getsockname()),
        )
        if settings.TLS:
            server.tls = speaking(*settings.TLS)
        while self.alive and self.ppid == os.getppid():
            self._turn(connections)
        server.accepting = False
        until = time.monotonic() + self.cfg.graceful_timeout
        while server.busy() and time.monotonic() < until:
            self._turn(connections)
        server.close()

    _told = 0.0

    def _turn(self, connections: dict[int, Any]) -> None:
        """Read and write what can be, and let the master know once a second."""
        wasyncore.loop(timeout=1.0, use_poll=True, map=connections, count=1)
        if time.monotonic() - self._told > 1:
            self._told = time.monotonic()
            self.notify()
