"""A drawn scene as a camera would hand it over: brighter or darker by stops, clipped, with EXIF.

Stops act in linear light; what passes 1 is clipped. EXIF carries the instant (UTC), exposure time, f-number and ISO as
the standard's tags (CIPA DC-008).
"""

from __future__ import annotations

import io
from dataclasses import dataclass
from datetime import UTC, datetime
from fractions import Fraction

import numpy as np
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from .light import Picture, encoded

_MODEL, _DESCRIPTION, _SOFTWARE = 0x0110, 0x010E, 0x0131
_EXIF, _TIME, _F_NUMBER, _ISO, _TAKEN, _OFFSET = 0x8769, 0x829A, 0x829D, 0x8827, 0x9003, 0x9011
_SHORTEST_AS_FRACTION = 0.3


@dataclass(frozen=True, slots=True)
class Taken:
    """When the shutter opened, for how long [s], f-number, ISO, and what the camera calls itself."""

    at: datetime
    seconds: float
    f_number: float
    iso: float
    body: str


def photograph(picture: Picture, stops: float, taken: Taken, quality: int = 88) -> bytes:
    """The picture ``stops`` brighter than correct, as a JPEG with EXIF."""
    bright = np.clip(picture * np.float32(2.0**stops), 0.0, 1.0).astype(np.float32)
    out = io.BytesIO()
    Image.fromarray(encoded(bright)).save(out, "JPEG", quality=quality, exif=_exif(taken))
    return out.getvalue()


def _exif(taken: Taken) -> Image.Exif:
    exif = Image.Exif()
    exif[_MODEL] = taken.body
    exif[_DESCRIPTION] = "A drawing by a simulated camera"
    exif[_SOFTWARE] = "Jackstaff"
    inner = exif.get_ifd(_EXIF)
    inner[_TIME] = _rational(taken.seconds)
    inner[_F_NUMBER] = _rational(taken.f_number)
    inner[_ISO] = round(taken.iso)
    inner[_TAKEN] = taken.at.astimezone(UTC).strftime("%Y:%m:%d %H:%M:%S")
    inner[_OFFSET] = "+00:00"
    return exif


def _rational(value: float) -> IFDRational:
    fraction = Fraction(value).limit_denominator(10_000)
    return IFDRational(fraction.numerator, fraction.denominator)
