"""Seeded noise that repeats at its edges, and blur along a straight way, for cloud and water."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

Field = NDArray[np.float32]


def rough(seed: int, height: int, width: int, slope: float, stretch: float = 1.0) -> Field:
    """Return noise with power falling as 1/f^slope, 0 mean and unit sd, ``stretch`` times longer across than down."""
    rng = np.random.default_rng(seed)
    down = np.fft.fftfreq(height)[:, None] * height
    across = np.fft.rfftfreq(width)[None, :] * width * stretch
    size = np.hypot(down, across)
    size[0, 0] = 1.0
    spectrum = size ** (-slope / 2) * np.exp(2j * np.pi * rng.random(size.shape))
    spectrum[0, 0] = 0
    field = np.fft.irfft2(spectrum, s=(height, width))
    return np.asarray(field / field.std(), dtype=np.float32)


def drawn_out(field: Field, across_px: float, down_px: float) -> Field:
    """Return the mean of ``field`` along a straight way: what a steady movement leaves. The mean level stays.

    Averaging with a copy half the way on, then a quarter, and so on, is a box of as many samples as pixels.
    """
    length = math.hypot(across_px, down_px)
    if length < 0.75:
        return field
    out = field
    for turn in range(1, max(1, math.ceil(math.log2(length))) + 1):
        out = np.asarray((out + _moved(out, across_px / 2**turn, down_px / 2**turn)) / 2, dtype=np.float32)
    return out


def _moved(field: Field, across: float, down: float) -> Field:
    rows = np.clip(np.arange(field.shape[0]) + round(down), 0, field.shape[0] - 1)
    return np.roll(field[rows], -round(across), axis=1)
