"""What the log keeps of a picture: a small copy and how its tones lie, so that two frames can be compared.

The histogram counts pixels by linear light in stops below full, in ``BINS`` bins of ``BIN_STOPS``; the shift between
two frames of one scene is the difference of their median stops, taken over what is not clipped in either. Source: IEC
61966-2-1. Limits: 8 bit JPEG, tone curve undone as sRGB. Verdict: estimate (0.1 stop).
"""

from __future__ import annotations

import base64
import io
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageOps

from .light import Bytes, decoded

BINS, BIN_STOPS = 48, 0.25
SMALL = 480
MOST_SMALL_BYTES = 60_000
_CLIPPED_CODE, _BLACK_CODE = 254, 1
_SAMPLED = 400_000


@dataclass(frozen=True, slots=True)
class Digest:
    """Shares of pixels by bin for red, green, blue; shares clipped and black; the median [stops below full]."""

    red: tuple[float, ...]
    green: tuple[float, ...]
    blue: tuple[float, ...]
    clipped: tuple[float, float, float]
    black: float
    median_stops: float
    small: str
    """A JPEG of at most 480 pixels a side, base64."""
    bin_stops: float = BIN_STOPS


def digest(image: Image.Image, pixels: Bytes) -> Digest:
    """Return the digest of a decoded picture; ``image`` gives the small copy, turned upright."""
    step = max(1, int((pixels.shape[0] * pixels.shape[1] / _SAMPLED) ** 0.5))
    sampled = pixels[::step, ::step].reshape(-1, 3)
    with np.errstate(divide="ignore"):
        stops = -np.log2(np.maximum(decoded(sampled), 1e-6))
    at = np.clip((stops / BIN_STOPS).astype(int), 0, BINS - 1)
    red, green, blue = (
        tuple(round(float(each), 6) for each in np.bincount(at[:, c], minlength=BINS) / len(sampled)) for c in range(3)
    )
    full = (sampled >= _CLIPPED_CODE).mean(axis=0)
    return Digest(
        red,
        green,
        blue,
        (round(float(full[0]), 6), round(float(full[1]), 6), round(float(full[2]), 6)),
        round(float((sampled <= _BLACK_CODE).all(axis=1).mean()), 6),
        round(float(np.median(stops[:, 1])), 3),
        _small(image),
    )


def _small(image: Image.Image) -> str:
    turned = ImageOps.exif_transpose(image)
    turned.thumbnail((SMALL, SMALL))
    for quality in (80, 60, 40):
        out = io.BytesIO()
        turned.convert("RGB").save(out, "JPEG", quality=quality)
        if out.tell() <= MOST_SMALL_BYTES:
            break
    return base64.b64encode(out.getvalue()).decode("ascii")
