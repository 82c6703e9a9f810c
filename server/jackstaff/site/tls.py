"""TLS in the worker's own loop: handshakes and records wait for their bytes as everything else does."""

from __future__ import annotations

import socket
import ssl
import threading
from errno import EWOULDBLOCK
from pathlib import Path


def speaking(certificate: Path, key: Path) -> ssl.SSLContext:
    """What a server of this certificate (PEM, its chain after it) and key speaks: TLS 1.2 and later.

    Raises :class:`OSError` (:class:`ssl.SSLError` among them) for files that are missing or do not belong together.
    """
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(certificate, key)
    return context


class TlsSocket:
    """An accepted connection that never blocks: it reads and writes plain bytes, and says *would block* as a plain one.

    One lock keeps the loop, which reads, and the threads, which write, out of the library's one state.
    """

    def __init__(self, accepted: socket.socket, context: ssl.SSLContext) -> None:
        accepted.setblocking(False)
        self._tls = context.wrap_socket(accepted, server_side=True, do_handshake_on_connect=False)
        self._lock = threading.Lock()

    def recv(self, size: int) -> bytes:
        """Up to ``size`` bytes; empty at the end, or where the other side does not speak TLS."""
        with self._lock:
            try:
                return self._tls.recv(size)
            except (ssl.SSLWantReadError, ssl.SSLWantWriteError):
                raise BlockingIOError(EWOULDBLOCK, "nothing whole has come yet") from None
            except ssl.SSLError:
                return b""

    def send(self, data: bytes) -> int:
        """How many bytes went."""
        with self._lock:
            try:
                return self._tls.send(data)
            except (ssl.SSLWantReadError, ssl.SSLWantWriteError):
                return 0

    def pending(self) -> int:
        """Bytes that are read and unlocked already, of which no poll will tell."""
        with self._lock:
            return self._tls.pending()

    def fileno(self) -> int:
        return self._tls.fileno()

    def setblocking(self, blocking: bool) -> None:
        self._tls.setblocking(blocking)

    def getpeername(self) -> object:
        return self._tls.getpeername()

    def getsockopt(self, level: int, option: int) -> int:
        return self._tls.getsockopt(level, option)

    def close(self) -> None:
        self._tls.close()
