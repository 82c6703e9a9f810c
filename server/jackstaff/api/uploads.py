"""Pictures sent with a question: bounded, opened safely, never kept."""

from __future__ import annotations

import fcntl
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

from django.conf import settings
from django.http import HttpRequest
from ninja.files import UploadedFile
from PIL import Image

from jackstaff_imaging.light import Bytes
from jackstaff_imaging.photo import Shot, opened, pixels

from .refusals import Busy, TooLarge

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
    """The bytes of a file.

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
    """Nothing where a file is no larger than ``most`` bytes.

    Raises
    ------
    TooLarge
        It is larger.
    """
    if (file.size or 0) > most:
        raise TooLarge(field, f"This file is larger than {most // 1_000_000} MB.", instead)


def picture(request: HttpRequest, field: str, file: UploadedFile) -> tuple[Image.Image, Shot]:
    """The picture, not decoded yet, and what its EXIF says.

    Raises
    ------
    TooLarge, Refusal
        A file too large, or no sound JPEG.
    """
    _no_larger(request, field, file, "JPEG")
    return opened(field, file)


def decoded_picture(request: HttpRequest, field: str, file: UploadedFile) -> tuple[Image.Image, Bytes, Shot]:
    """The same, decoded."""
    image, shot = picture(request, field, file)
    return image, pixels(field, image), shot
