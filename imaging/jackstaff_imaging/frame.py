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
from PIL.ExifTags import IFD, Base
from PIL.TiffImagePlugin import IFDRational

from .light import Picture, encoded


@dataclass(frozen=True, slots=True)
class Taken:
    """When the shutter opened, for how long [s], f-number, ISO, and what the camera calls itself."""

    at: datetime
    seconds: float
    f_number: float
    iso: float
    body: str


def photograph(picture: Picture, stops: float, taken: Taken, quality: int = 88) -> bytes:
    """Return the picture ``stops`` brighter than correct, as a JPEG with EXIF."""
    bright = np.clip(picture * np.float32(2.0**stops), 0.0, 1.0).astype(np.float32)
    out = io.BytesIO()
    Image.fromarray(encoded(bright)).save(out, "JPEG", quality=quality, exif=_exif(taken))
    return out.getvalue()


def _exif(taken: Taken) -> Image.Exif:
    exif = Image.Exif()
    exif[Base.Model] = taken.body
    exif[Base.ImageDescription] = "A drawing by a simulated camera"
    exif[Base.Software] = "Jackstaff"
    inner = exif.get_ifd(IFD.Exif)
    inner[Base.ExposureTime] = _rational(taken.seconds)
    inner[Base.FNumber] = _rational(taken.f_number)
    inner[Base.ISOSpeedRatings] = round(taken.iso)
    inner[Base.DateTimeOriginal] = taken.at.astimezone(UTC).strftime("%Y:%m:%d %H:%M:%S")
    inner[Base.OffsetTimeOriginal] = "+00:00"
    return exif


def _rational(value: float) -> IFDRational:
    fraction = Fraction(value).limit_denominator(10_000)
    return IFDRational(fraction.numerator, fraction.denominator)
