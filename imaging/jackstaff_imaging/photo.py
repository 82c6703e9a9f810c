"""Opening a person's JPEG safely, and what its EXIF says about the exposure.

Nothing but a sound JPEG within limits is opened. Exposure times of up to 30 s that lie within a tenth of a stop of a
dial mark are that mark's exact time; ShutterSpeedValue and ApertureValue are exact already (APEX) and win where they
agree. Source: CIPA DC-008.

Memory follows from the size a file names, before anything is decoded: what is measured over blocks is decoded at half,
quarter or eighth scale above 12 megapixels (JPEG's own scaled transform), what is counted pixel by pixel by strips.
"""

from __future__ import annotations

import math
import re
import warnings
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import IO

import numpy as np
from PIL import Image, UnidentifiedImageError
from PIL.ExifTags import IFD, Base

from jackstaff_core.scales.ladders import Scale, Step, aperture_marks, dial_marks, iso_marks
from jackstaff_core.words.refusal import Refusal

from .light import Bytes

MOST_PIXELS = 120_000_000
MOST_MEASURED, MOST_COUNTED, MOST_PROGRESSIVE = 12_000_000, 64_000_000, 40_000_000
"""Pixels decoded to be measured; that can be counted one by one; of a file that has to be held whole to be decoded."""
LEAST_SIDE = 64
STRIP = 128
_NEAR_STOPS = 0.1
_APEX_AGREES = 0.2
_LONGEST_MARK = 32.0


@dataclass(frozen=True, slots=True)
class Shot:
    """What EXIF says; None where it does not. ``taken_at`` is the camera's own clock, without a zone.

    ``aperture`` and ``speed`` are what its dials show; ``utc_offset_minutes`` is how far ahead of UTC that clock says
    it is.
    """

    seconds: float | None
    f_number: float | None
    iso: float | None
    taken_at: datetime | None
    body: str | None
    aperture: str | None = None
    speed: str | None = None
    utc_offset_minutes: int | None = None


def opened(field: str, content: IO[bytes]) -> tuple[Image.Image, Shot]:
    """Return the image, not decoded yet, and its exposure.

    Raises
    ------
    Refusal
        Not a sound JPEG, or too small or large a picture.
    """
    _bounded(field, content)
    try:
        # A size is refused below in words, not by the library's own alarm.
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image = Image.open(content, formats=["JPEG"])
    except Image.DecompressionBombError:
        raise Refusal(field, f"This picture has more than {_millions(MOST_PIXELS)}.", _SMALLER) from None
    except (UnidentifiedImageError, OSError, SyntaxError):
        raise Refusal(
            field, "This file is no JPEG picture that can be read.", "Give a JPEG as the camera wrote it."
        ) from None
    wide, high = image.size
    if wide * high > MOST_PIXELS or min(wide, high) < LEAST_SIDE:
        raise Refusal(
            field,
            f"A picture of {wide} x {high} cannot be worked with.",
            f"Give one of at least {LEAST_SIDE} pixels a side and at most {_millions(MOST_PIXELS)}.",
        )
    if image.info.get("progressive") and wide * high > MOST_PROGRESSIVE:
        raise Refusal(field, f"A progressive JPEG of {wide} x {high} is too large.", "Save it as a baseline JPEG.")
    return image, _shot(image)


def _bounded(field: str, content: IO[bytes]) -> None:
    """Let a file pass that decodes in one go: a scan goes over the whole picture, and filler is skipped byte by byte.

    In a picture's own data a marker's first byte is never followed by its second, so scans can be counted unread.
    """
    begun = content.tell()
    scans, filler = 0, b""
    while block := content.read(_BLOCK):
        seen = filler + block
        scans += seen.count(_SCAN)
        filler = seen[len(seen.rstrip(_FILL)) :][-_MOST_FILLER:]
        if scans > MOST_SCANS or _FILL * _MOST_FILLER in seen:
            raise Refusal(field, "This picture is built in a way no camera does.", "Save it anew as a baseline JPEG.")
    content.seek(begun)


MOST_SCANS = 100
"""A progressive picture has about ten, its preview a few."""
_BLOCK = 1 << 20
_SCAN, _FILL, _MOST_FILLER = b"\xff\xda", b"\xff", 4096
"""Markers, and the longest run of filler that an honest file may have [bytes]."""


def pixels(field: str, image: Image.Image) -> Bytes:
    """Return the decoded picture, height x width x 3, at most 12 megapixels.

    Larger pictures come at half, quarter or eighth scale.

    Raises
    ------
    Refusal
        The file breaks off or is damaged.
    """
    wide, high = image.size
    scale = next((scale for scale in (1, 2, 4) if wide * high <= MOST_MEASURED * scale**2), 8)
    return np.asarray(reduced(field, image, wide // scale, high // scale).convert("RGB"))


def reduced(field: str, image: Image.Image, wide: int, high: int) -> Image.Image:
    """Return the image decoded at the smallest of its own scales that is at least ``wide`` x ``high``.

    Raises
    ------
    Refusal
        The file breaks off or is damaged.
    """
    image.draft(None, (wide, high))
    return _decoded(field, image)


def strips(field: str, image: Image.Image) -> Iterator[Bytes]:
    """Yield every pixel, in strips of ``STRIP`` rows from the top.

    Raises
    ------
    Refusal
        More than 64 megapixels, or the file breaks off or is damaged.
    """
    wide, high = image.size
    if wide * high > MOST_COUNTED:
        problem = f"Pixels are counted one by one in pictures of at most {_millions(MOST_COUNTED)}."
        raise Refusal(field, problem, _SMALLER)
    whole = _decoded(field, image)
    return (
        np.asarray(whole.crop((0, top, wide, min(top + STRIP, high))).convert("RGB")) for top in range(0, high, STRIP)
    )


_SMALLER = "Set the camera to a smaller picture, or cut out a part."


def _millions(count: int) -> str:
    return f"{count // 1_000_000} megapixels"


def _decoded(field: str, image: Image.Image) -> Image.Image:
    try:
        image.load()
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise Refusal(field, "The picture is damaged or breaks off.", "Copy it from the card again.") from None
    return image


def _shot(image: Image.Image) -> Shot:
    try:
        exif = image.getexif()
        inner = exif.get_ifd(IFD.Exif)
        body = exif.get(Base.Model)
        taken = inner.get(Base.DateTimeOriginal)
        f_number = _marked(_number(inner.get(Base.FNumber)), _number(inner.get(Base.ApertureValue)))
        iso = _speed(inner.get(Base.ISOSpeedRatings))
        return Shot(
            _seconds(_number(inner.get(Base.ExposureTime)), _number(inner.get(Base.ShutterSpeedValue))),
            f_number,
            iso,
            _instant(taken),
            " ".join(str(body).split())[:60] if body else None,
            _label(aperture_marks(Step.THIRD), f_number),
            _label(iso_marks(Step.THIRD), iso),
            _offset(inner.get(Base.OffsetTimeOriginal)),
        )
    except (OSError, ValueError, TypeError, ZeroDivisionError, SyntaxError, KeyError, AttributeError, OverflowError):
        # Broken EXIF is no EXIF: the settings are asked for instead.
        return Shot(None, None, None, None, None)


def _number(value: object) -> float | None:
    try:
        number = float(value)  # type: ignore[arg-type]
    except (TypeError, ValueError, ZeroDivisionError):
        return None
    return number if math.isfinite(number) else None


def _seconds(nominal: float | None, tv: float | None) -> float | None:
    apex: float | None = 2.0**-tv if tv is not None and -20 < tv < 20 else None
    if nominal is None or not 1e-6 < nominal < 86_400:
        return apex
    if apex is not None and abs(math.log2(apex / nominal)) < _APEX_AGREES:
        return apex
    if nominal > _LONGEST_MARK:
        return nominal
    mark = dial_marks(30.0, Step.THIRD).nearest(nominal).exact
    return mark if abs(math.log2(mark / nominal)) <= _NEAR_STOPS else nominal


def _marked(nominal: float | None, av: float | None) -> float | None:
    apex: float | None = 2.0 ** (av / 2) if av is not None and -2 < av < 20 else None
    if nominal is None or not 0.3 < nominal < 600:
        return apex
    if apex is not None and abs(2 * math.log2(apex / nominal)) < _APEX_AGREES:
        return apex
    mark = aperture_marks(Step.THIRD).nearest(nominal).exact
    return mark if abs(2 * math.log2(mark / nominal)) <= _NEAR_STOPS else nominal


def _speed(given: object) -> float | None:
    first = given[0] if isinstance(given, (tuple, list)) and given else given
    number = _number(first)
    if number is None or not 1 <= number <= 10_000_000:
        return None
    mark = iso_marks(Step.THIRD).nearest(number).exact
    return mark if abs(math.log2(mark / number)) <= _NEAR_STOPS else number


def _label(marks: Scale, value: float | None) -> str | None:
    """Return what a dial writes for an exact value; off its marks the value itself, to a tenth."""
    if value is None:
        return None
    mark = marks.nearest(value)
    return mark.label if abs(math.log2(mark.exact / value)) < _NEAR_STOPS / 2 else f"{round(value, 1):g}"


def _offset(text: object) -> int | None:
    """Return how far ahead of UTC "+02:00" is [min]."""
    found = re.fullmatch(r"([+-])(\d\d):(\d\d)", str(text).strip())
    if found is None or int(found[2]) > _MOST_HOURS_AHEAD or int(found[3]) > _LAST_MINUTE:
        return None
    minutes = int(found[2]) * 60 + int(found[3])
    return -minutes if found[1] == "-" else minutes


_MOST_HOURS_AHEAD, _LAST_MINUTE = 14, 59


def _instant(text: object) -> datetime | None:
    try:
        return datetime.strptime(str(text)[:19], "%Y:%m:%d %H:%M:%S")  # noqa: DTZ007 (a camera's clock has no zone)
    except ValueError:
        return None
