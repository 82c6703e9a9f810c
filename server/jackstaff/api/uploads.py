"""Pictures sent with a question: bounded, measured in a process of its own, never kept."""

from __future__ import annotations

import fcntl
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import ParamSpec, TypeVar

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.http import HttpRequest
from ninja.files import UploadedFile

from jackstaff import children
from jackstaff_imaging.answers import Source

from .refusals import Busy, TooLarge

Given = ParamSpec("Given")
Result = TypeVar("Result")

MOST_BYTES, MOST_BYTES_SIGNED_IN = 25_000_000, 60_000_000
MOST_WAITING, LONGEST_WAIT = 3, 10.0
"""Pictures that wait for their turn in a process, and for how long [s]."""
_waiting = threading.BoundedSemaphore(MOST_WAITING)


@contextmanager
def alone() -> Iterator[None]:
    """Measure pictures alone among all processes, because each may take up to 400 MB.

    Raises
    ------
    Busy
        Too many wait already, or for too long.
    """
    if not _waiting.acquire(blocking=False):
        raise Busy
    try:
        with (settings.DATA_DIR / "pictures.lock").open("w") as door:
            until = time.monotonic() + LONGEST_WAIT
            while True:
                try:
                    # Given back by the system, should the process end.
                    fcntl.flock(door, fcntl.LOCK_EX | fcntl.LOCK_NB)
                except BlockingIOError:
                    if time.monotonic() > until:
                        raise Busy from None
                    time.sleep(0.02)
                    continue
                break
            yield
    finally:
        _waiting.release()


def content(request: HttpRequest, field: str, file: UploadedFile, what: str = "JPEG") -> bytes:
    """Return the bytes of a file.

    Raises
    ------
    TooLarge
        More than 25 MB, 60 MB signed in.
    """
    _no_larger(request, field, file, what)
    return bytes(file.read())


def _no_larger(request: HttpRequest, field: str, file: UploadedFile, what: str) -> None:
    signed_in = request.user.is_authenticated
    bounded(
        field,
        file,
        MOST_BYTES_SIGNED_IN if signed_in else MOST_BYTES,
        f"Give a smaller {what}" + ("." if signed_in else ", or sign in for up to 60 MB."),
    )


def bounded(field: str, file: UploadedFile, most: int, instead: str) -> None:
    """Check that a file is no larger than ``most`` bytes.

    Raises
    ------
    TooLarge
        It is larger.
    """
    if (file.size or 0) > most:
        raise TooLarge(field, f"This file is larger than {most // 1_000_000} MB.", instead)


def source(request: HttpRequest, field: str, file: UploadedFile) -> Source:
    """Return a file for whoever measures it: where it lies, or its bytes where it is small.

    Raises
    ------
    TooLarge
        More than 25 MB, 60 MB signed in.
    """
    _no_larger(request, field, file, "JPEG")
    return file.temporary_file_path() if isinstance(file, TemporaryUploadedFile) else bytes(file.read())


def measured(work: Callable[Given, Result], *given: Given.args, **named: Given.kwargs) -> Result:
    """Return what a child process finds in pictures, one after the other on the whole machine.

    Raises
    ------
    Busy
        Too many wait already, or for too long.
    Ended
        It took too long, or too much memory.
    Refusal
        Of the work itself.
    """
    with alone():
        return children.ask(work, *given, **named)
