"""Takes a request in whole, within its size and its time, before a thread of ours works on it.

Slow senders then cost a place in the server's loop and nothing else. What is larger than its address takes is refused
by its head, or as soon as it turns out to be; so is a large body of somebody who is signed out, where an account is
needed.
"""

from __future__ import annotations

import asyncio
import re
from collections.abc import Awaitable, Callable
from dataclasses import dataclass
from tempfile import SpooledTemporaryFile
from typing import IO, Any

Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]

_MOST_BODY = (
    (re.compile(r"/api/account/archive$"), 401_000_000),
    (re.compile(r"/api/frames/pair$"), 241_000_000),
    (re.compile(r"/api/(frames/|log/read$)"), 121_000_000),
    (re.compile(""), 8_000_000),
)
"""Bytes a body may have by its address; which file is too large is said further in."""
OF_ACCOUNTS = re.compile(r"/api/(replica$|log/read$|account/archive$|frames/[0-9a-f-]{36}/|kit/|outings/)")
"""Addresses that take a body from accounts alone."""
SMALL = 64_000
"""A body up to this is taken in from anybody."""
IN_MEMORY = 256_000
MOST_HELD = 1_000_000_000
"""Bytes of all bodies that are taken in at once, by each worker."""
BEGINS_SECONDS, LEAST_RATE = 30.0, 20_000
"""A request has this long, and as much longer as its bytes take at so many a second."""


@dataclass(frozen=True, slots=True)
class Refused(Exception):
    """A request that no thread works on."""

    status: int
    field: str
    problem: str
    instead: str
    retry: int | None = None


class Gone(Exception):
    """Whoever sent it has left."""


TOO_LARGE = Refused(413, "body", "This is larger than is taken here.", "Send less at once.")
TOO_SLOW = Refused(408, "request", "This did not arrive in time; nothing was kept.", "Send it again.")
TOO_MUCH = Refused(503, "request", "The server has its hands full; nothing was kept.", "Try again in a few seconds.", 5)
UNCLEAR = Refused(400, "request", "This request cannot be understood.", "Load the page again.")
SIGNED_OUT = Refused(401, "session", "You are not signed in.", "Sign in first.")


def most_body(path: str) -> int:
    """Return the bytes that a body for this address may have."""
    return next(most for address, most in _MOST_BODY if address.match(path))


class Intake:
    """Bodies on their way in, of one worker."""

    def __init__(self) -> None:
        self._held = 0

    async def body(
        self, path: str, length: int | None, receive: Receive, is_known: Callable[[], Awaitable[bool]]
    ) -> Body:
        """Return a whole body, from its beginning.

        Parameters
        ----------
        path : str
            The address, which decides how large it may be.
        length : int | None
            What its head claims [bytes]; None where it claims nothing.
        receive : Receive
            Of the server.
        is_known : Callable[[], Awaitable[bool]]
            Whether its sender is signed in.

        Raises
        ------
        Refused
            It is too large, too slow, or of nobody.
        Gone
            Its sender left.
        """
        most = most_body(path)
        if length is not None and length > most:
            raise TOO_LARGE
        needs_account = OF_ACCOUNTS.match(path) is not None
        if needs_account and (length or 0) > SMALL and not await is_known():
            raise SIGNED_OUT
        body = Body(self)
        try:
            async with asyncio.timeout(BEGINS_SECONDS + (most if length is None else length) / LEAST_RATE):
                while True:
                    message = await receive()
                    if message["type"] == "http.disconnect":
                        raise Gone
                    chunk = message.get("body", b"")
                    if body.length + len(chunk) > most:
                        raise TOO_LARGE
                    grows_large = length is None and body.length <= SMALL < body.length + len(chunk)
                    if grows_large and needs_account and not await is_known():
                        raise SIGNED_OUT
                    body.write(chunk)
                    if not message.get("more_body", False):
                        break
        except TimeoutError:
            body.close()
            raise TOO_SLOW from None
        except BaseException:
            body.close()
            raise
        if length is not None and body.length != length:
            body.close()
            raise UNCLEAR
        body.file.seek(0)
        return body

    def take(self, size: int) -> None:
        """Count bytes in (or out); raises :class:`Refused` where there are too many."""
        if size > 0 and self._held + size > MOST_HELD:
            raise TOO_MUCH
        self._held += size


class Body:
    """A body in memory, or in a file without a name once it is large."""

    def __init__(self, intake: Intake) -> None:
        self._intake = intake
        self.length = 0
        self.file: IO[bytes] = SpooledTemporaryFile(max_size=IN_MEMORY)  # noqa: SIM115 (closed by close)

    def write(self, chunk: bytes) -> None:
        """Take a piece in."""
        self._intake.take(len(chunk))
        self.length += len(chunk)
        self.file.write(chunk)

    def close(self) -> None:
        """Let it go."""
        self._intake.take(-self.length)
        self.length = 0
        self.file.close()
