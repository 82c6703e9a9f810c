"""Frames with the cap on: hot specks against time and warmth, and light that leaks in all the same.

Specks: pixels standing above their neighbourhood's median by more than ``SPECK_CODES`` codes and 8 MAD. Dark current
grows with time and doubles about every 7 degrees (after Janesick 2001), so with n specks a megapixel in t seconds

    t for N specks a megapixel = t N/n 2^((T - T_now)/7)         from there on a dark frame is advised

Leak: the same capped frame with the eyepiece closed and open; the difference of block means of linear light, in stops
of a middle grey in the same time. Verdict: count computed, advised time estimate, leak computed above ``LEAK_LINEAR``.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .light import Bytes, decoded

SPECK_CODES = 12
MANY_A_MEGAPIXEL = 30.0
"""Specks a megapixel from which a print shows them."""
DOUBLING_DEGREES = 7.0
LEAK_LINEAR = 0.0004
MIDDLE_GREY = 0.18
NOT_CAPPED_CODE, SCENE_CODE = 40, 110
ROWS, COLUMNS = 8, 12


@dataclass(frozen=True, slots=True)
class Specks:
    """Specks in all and per megapixel, the brightest (0 to 255), and from when a dark frame is advised [s]."""

    count: int
    per_megapixel: float
    brightest: int
    advised_from_seconds: float | None
    refused: str | None


@dataclass(frozen=True, slots=True)
class Leak:
    """``leaks``; how far below middle grey the stray light lies [stops], where it is worst, and the map of blocks."""

    leaks: bool
    below_grey_stops: float | None
    where: str
    map: tuple[tuple[float, ...], ...]
    text: str
    refused: str | None


def specks(frame: Bytes, seconds: float, celsius: float | None = None, next_celsius: float | None = None) -> Specks:
    """Count hot specks of a capped frame of ``seconds``."""
    code = frame.max(axis=2)
    if _not_capped(code):
        return Specks(0, 0.0, 0, None, _NOT_CAPPED)
    middle = _neighbourhood(code)
    above = code.astype(np.int16) - middle
    mad = float(np.median(np.abs(above)))
    hot = above > max(SPECK_CODES, 8 * mad)
    count = int(hot.sum())
    megapixels = code.size / 1e6
    density = count / megapixels
    if count == 0:
        return Specks(0, 0.0, int(code.max()), None, None)
    warmer = 0.0 if celsius is None or next_celsius is None else next_celsius - celsius
    advised = seconds * MANY_A_MEGAPIXEL / density * 2 ** (-warmer / DOUBLING_DEGREES)
    return Specks(count, density, int(code[hot].max()), advised, None)


def leak(closed: Bytes, opened: Bytes) -> Leak:
    """Compare two capped frames of the same settings: eyepiece closed, then open."""
    # A strong leak is bright in places, so the open one is only refused when most of it is as bright as a scene.
    if _not_capped(closed.max(axis=2)) or float(np.median(opened.max(axis=2))) > SCENE_CODE:
        return Leak(False, None, "", (), "", _NOT_CAPPED)
    more = _blocks(opened) - _blocks(closed)
    rows = tuple(tuple(round(float(one), 6) for one in line) for line in more)
    worst = float(more.max())
    if worst < LEAK_LINEAR:
        return Leak(False, None, "", rows, "No light comes in by the eyepiece in this time.", None)
    y, x = np.unravel_index(int(more.argmax()), more.shape)
    where = f"{('top', 'middle', 'bottom')[int(y) * 3 // ROWS]} {('left', 'centre', 'right')[int(x) * 3 // COLUMNS]}"
    below = math.log2(MIDDLE_GREY / worst)
    text = f"Light comes in by the eyepiece, most at the {where}: {below:.1f} stops below middle grey. Cover it."
    return Leak(True, below, where, rows, text, None)


_NOT_CAPPED = "This frame is not dark: put the cap on and shoot it again."


def _not_capped(code: NDArray[np.uint8]) -> bool:
    return float(np.percentile(code, 90)) > NOT_CAPPED_CODE


def _neighbourhood(code: NDArray[np.uint8]) -> NDArray[np.int16]:
    """The median of blocks of 16 x 16, spread over their pixels: glow is smooth, specks are not."""
    side = 16
    high, wide = -(-code.shape[0] // side), -(-code.shape[1] // side)
    padded = np.pad(code, ((0, high * side - code.shape[0]), (0, wide * side - code.shape[1])), mode="edge")
    middles = np.median(padded.reshape(high, side, wide, side), axis=(1, 3)).astype(np.int16)
    return np.repeat(np.repeat(middles, side, axis=0), side, axis=1)[: code.shape[0], : code.shape[1]]


def _blocks(frame: Bytes) -> NDArray[np.float64]:
    # Sub-sampled like a contact print; specks are single pixels and vanish in the mean of thousands.
    linear = decoded(frame).mean(axis=2)
    edges = [
        np.linspace(0, size, parts + 1).astype(int)[:-1]
        for size, parts in zip(linear.shape, (ROWS, COLUMNS), strict=True)
    ]
    sums = np.add.reduceat(np.add.reduceat(linear.astype(np.float64), edges[0], axis=0), edges[1], axis=1)
    counts = np.add.reduceat(np.add.reduceat(np.ones(linear.shape), edges[0], axis=0), edges[1], axis=1)
    return np.asarray(sums / counts)
