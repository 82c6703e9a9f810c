"""Pictures sent with a question: bounded, opened safely, never kept."""

from __future__ import annotations

from django.http import HttpRequest
from ninja.files import UploadedFile
from PIL import Image

from jackstaff_imaging.light import Bytes
from jackstaff_imaging.photo import Shot, opened, pixels

from .refusals import TooLarge

MOST_BYTES, MOST_BYTES_SIGNED_IN = 25_000_000, 60_000_000


def content(request: HttpRequest, field: str, file: UploadedFile, what: str = "JPEG") -> bytes:
    """The bytes of a file.

    Raises
    ------
    TooLarge
        More than 25 MB, 60 MB signed in.
    """
    signed_in = request.user.is_authenticated
    bounded(
        field,
        file,
        MOST_BYTES_SIGNED_IN if signed_in else MOST_BYTES,
        f"Give a smaller {what}" + ("." if signed_in else ", or sign in for up to 60 MB."),
    )
    return bytes(file.read())


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
    return opened(field, content(request, field, file))


def decoded_picture(request: HttpRequest, field: str, file: UploadedFile) -> tuple[Image.Image, Bytes, Shot]:
    """The same, decoded."""
    image, shot = picture(request, field, file)
    return image, pixels(field, image), shot
