"""Opening a person's JPEG safely, and what its EXIF says about the exposure.

Nothing but a sound JPEG within limits is opened. Exposure times of up to 30 s that lie within a tenth of a stop of a
dial mark are that mark's exact time; ShutterSpeedValue and ApertureValue are exact already (APEX) and win where they
agree. Source: CIPA DC-008.
"""

from __future__ import annotations

import io
import math
import warnings
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from PIL import Image, UnidentifiedImageError

from jackstaff_core.refusal import Refusal
from jackstaff_core.scales import Step, apertures, dial, isos

from .light import Bytes

MOST_PIXELS = 120_000_000
LEAST_SIDE = 64
_EXIF, _TIME, _F_NUMBER, _ISO, _TV, _AV, _TAKEN, _MODEL = 0x8769, 0x829A, 0x829D, 0x8827, 0x9201, 0x9202, 0x9003, 0x0110
_UNSOUND = (
    UnidentifiedImageError,
    Image.DecompressionBombError,
    Image.DecompressionBombWarning,
    OSError,
    SyntaxError,
    ValueError,
)
_NEAR_STOPS = 0.1
_APEX_AGREES = 0.2
_LONGEST_MARK = 32.0


@dataclass(frozen=True, slots=True)
class Shot:
    """What EXIF says; None where it does not. ``taken_at`` is the camera's own clock, without a zone."""

    seconds: float | None
    f_number: float | None
    iso: float | None
    taken_at: datetime | None
    body: str | None


def opened(field: str, content: bytes) -> tuple[Image.Image, Shot]:
    """The image, not decoded yet, and its exposure.

    Raises
    ------
    Refusal
        Not a sound JPEG, or too small or large a picture.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(content), formats=["JPEG"])
    except (UnidentifiedImageError, Image.DecompressionBombError, Image.DecompressionBombWarning, OSError, SyntaxError):
        raise Refusal(
            field, "This file is no JPEG picture that can be read.", "Give a JPEG as the camera wrote it."
        ) from None
    wide, high = image.size
    if wide * high > MOST_PIXELS or min(wide, high) < LEAST_SIDE:
        raise Refusal(
            field,
            f"A picture of {wide} x {high} cannot be worked with.",
            f"Give one of at least {LEAST_SIDE} pixels a side and at most {MOST_PIXELS // 1_000_000} megapixels.",
        )
    return image, _shot(image)


def pixels(field: str, image: Image.Image) -> Bytes:
    """Decoded, height x width x 3.

    Raises
    ------
    Refusal
        The file breaks off or is damaged.
    """
    try:
        return np.asarray(image.convert("RGB"))
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise Refusal(field, "The picture is damaged or breaks off.", "Copy it from the card again.") from None


def _shot(image: Image.Image) -> Shot:
    try:
        exif = image.getexif()
        inner = exif.get_ifd(_EXIF)
        body = exif.get(_MODEL)
        taken = inner.get(_TAKEN)
        return Shot(
            _seconds(_number(inner.get(_TIME)), _number(inner.get(_TV))),
            _marked(_number(inner.get(_F_NUMBER)), _number(inner.get(_AV))),
            _speed(inner.get(_ISO)),
            _instant(taken),
            " ".join(str(body).split())[:60] if body else None,
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
    mark = dial(30.0, Step.THIRD).nearest(nominal).exact
    return mark if abs(math.log2(mark / nominal)) <= _NEAR_STOPS else nominal


def _marked(nominal: float | None, av: float | None) -> float | None:
    apex: float | None = 2.0 ** (av / 2) if av is not None and -2 < av < 20 else None
    if nominal is None or not 0.3 < nominal < 600:
        return apex
    if apex is not None and abs(2 * math.log2(apex / nominal)) < _APEX_AGREES:
        return apex
    mark = apertures(Step.THIRD).nearest(nominal).exact
    return mark if abs(2 * math.log2(mark / nominal)) <= _NEAR_STOPS else nominal


def _speed(given: object) -> float | None:
    first = given[0] if isinstance(given, (tuple, list)) and given else given
    number = _number(first)
    if number is None or not 1 <= number <= 10_000_000:
        return None
    mark = isos(Step.THIRD).nearest(number).exact
    return mark if abs(math.log2(mark / number)) <= _NEAR_STOPS else number


def _instant(text: object) -> datetime | None:
    try:
        return datetime.strptime(str(text)[:19], "%Y:%m:%d %H:%M:%S")  # noqa: DTZ007 (a camera's clock has no zone)
    except ValueError:
        return None
