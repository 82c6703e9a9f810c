"""Linear light and its 8-bit encoding (sRGB, IEC 61966-2-1). Arrays are float32, height x width x 3, 1 = white."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Picture = NDArray[np.float32]
Bytes = NDArray[np.uint8]


def encoded(linear: Picture) -> Bytes:
    """Return linear light as sRGB codes."""
    clipped = np.clip(linear, 0, 1)
    bent = 1.055 * np.power(clipped, 1 / 2.4, dtype=np.float32) - 0.055
    curved = np.where(clipped <= 0.0031308, clipped * 12.92, bent)
    return np.asarray(curved * 255 + 0.5, dtype=np.uint8)


def decoded(codes: Bytes) -> Picture:
    """Return sRGB codes as linear light."""
    return np.asarray(_TABLE[codes])


def linear(codes: NDArray[np.floating[Any]]) -> Picture:
    """Return the linear light of sRGB codes between whole ones too, 0 to 255: where a code begins and ends."""
    signal = codes / 255
    return np.asarray(np.where(signal <= 0.04045, signal / 12.92, ((signal + 0.055) / 1.055) ** 2.4), dtype=np.float32)


_TABLE: Picture = linear(np.arange(256, dtype=np.float32))
