"""Frames with the cap on: hot specks against time and warmth, and light that leaks in all the same.

Specks: what stands above its neighbourhood's median by more than ``SPECK_CODES`` codes and 8 MAD. One hot photosite is
spread over its neighbours by demosaicing and by the halved resolution of colour in a JPEG, so it is the peaks that are
counted: pixels that no other within ``REACH`` stands above, and none within ``RIPPLE`` four times as high, for that is
what a JPEG's blocks ring with. Dark current
grows with time and doubles about every 7 degrees (after Janesick 2001), so with n specks a megapixel in t seconds

    t for N specks a megapixel = t N/n 2^((T - T_now)/7)         from there on a dark frame is advised

Leak: the same capped frame with the eyepiece closed and open; the difference of block means of linear light, in stops
of a middle grey in the same time. Limits: photosites nearer than three pixels to each other count as one. Verdict:
count computed, advised time estimate, leak computed above ``LEAK_LINEAR``.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .light import Bytes, decoded

SPECK_CODES = 12
REACH = 2
"""How far a hot photosite is spread in the picture [pixels]."""
RIPPLE, RIPPLE_SHARE = 7, 4
"""How far a JPEG's block of eight rings around it [pixels], and the most that is of its height: a quarter."""
MANY_A_MEGAPIXEL = 30.0
"""Specks a megapixel from which a print shows them."""
DOUBLING_DEGREES = 7.0
LEAK_LINEAR = 0.0004
MIDDLE_GREY = 0.18
NOT_CAPPED_CODE, SCENE_CODE = 40, 110
CAPPED_SHARE = 0.9
"""A frame is dark when this share of it is no brighter than ``NOT_CAPPED_CODE``."""
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


def specks(
    strips: Iterable[Bytes], seconds: float, celsius: float | None = None, next_celsius: float | None = None
) -> Specks:
    """Count hot specks of a capped frame of ``seconds``, given in strips of rows (whole blocks of 16 but the last)."""
    # How often a pixel of this code stands this far above its neighbourhood, and how often a peak does.
    met = np.zeros((511, 256), dtype=np.int64)
    peaks = np.zeros_like(met)
    over: _Strip | None = None
    for strip in strips:
        code = strip.max(axis=2)
        above = code.astype(np.int16) - _neighbourhood(code)
        met += _table(above, code)
        # What lies at the lower edge waits for the rows below it.
        over = _Strip(above, code) if over is None else over.joined(above, code)
        peaks += over.peaks(last=False)
    if over is not None:
        peaks += over.peaks(last=True)
    total = int(met.sum())
    if _bright_share(met.sum(axis=0)) > 1 - CAPPED_SHARE:
        return Specks(0, 0.0, 0, None, _NOT_CAPPED)
    by_height = met.sum(axis=1)
    away = by_height[255:].copy()
    away[1:] += by_height[254::-1]
    mad = int(np.searchsorted(np.cumsum(away), total / 2))
    hot = peaks[255 + max(SPECK_CODES, 8 * mad) + 1 :].sum(axis=0)
    count = int(hot.sum())
    if count == 0:
        return Specks(0, 0.0, int(met.sum(axis=0).nonzero()[0].max()), None, None)
    density = count / (total / 1e6)
    warmer = 0.0 if celsius is None or next_celsius is None else next_celsius - celsius
    advised = seconds * MANY_A_MEGAPIXEL / density * 2 ** (-warmer / DOUBLING_DEGREES)
    return Specks(count, density, int(hot.nonzero()[0].max()), advised, None)


def leak(closed: Bytes, opened: Bytes) -> Leak:
    """Compare two capped frames of the same settings: eyepiece closed, then open."""
    # A strong leak is bright in places, so the open one is only refused when most of it is as bright as a scene.
    if _not_capped(closed.max(axis=2)) or float(np.median(opened.max(axis=2))) > SCENE_CODE:
        return Leak(False, None, "", (), "", _NOT_CAPPED)
    more = _blocks(opened) - _blocks(closed)
    rows = tuple(tuple(round(float(number), 6) for number in line) for line in more)
    worst = float(more.max())
    if worst < LEAK_LINEAR:
        return Leak(False, None, "", rows, "No light comes in by the eyepiece in this time.", None)
    y, x = np.unravel_index(int(more.argmax()), more.shape)
    where = f"{('top', 'middle', 'bottom')[int(y) * 3 // ROWS]} {('left', 'centre', 'right')[int(x) * 3 // COLUMNS]}"
    below = math.log2(MIDDLE_GREY / worst)
    text = f"Light comes in by the eyepiece, most at the {where}: {below:.1f} stops below middle grey. Cover it."
    return Leak(True, below, where, rows, text, None)


_NOT_CAPPED = "This frame is not dark: put the cap on and shoot it again."


def _bright_share(by_code: NDArray[np.int64]) -> float:
    """Return the share of pixels brighter than a capped frame's are."""
    return float(by_code[NOT_CAPPED_CODE + 1 :].sum() / by_code.sum())


def _not_capped(code: NDArray[np.uint8]) -> bool:
    return _bright_share(np.bincount(code.ravel(), minlength=256)) > 1 - CAPPED_SHARE


def _neighbourhood(code: NDArray[np.uint8]) -> NDArray[np.int16]:
    """Return the median of blocks of 16 x 16, spread over their pixels: glow is smooth, specks are not."""
    side = 16
    high, wide = -(-code.shape[0] // side), -(-code.shape[1] // side)
    padded = np.pad(code, ((0, high * side - code.shape[0]), (0, wide * side - code.shape[1])), mode="edge")
    middles = np.median(padded.reshape(high, side, wide, side), axis=(1, 3)).astype(np.int16)
    return np.repeat(np.repeat(middles, side, axis=0), side, axis=1)[: code.shape[0], : code.shape[1]]


def _table(above: NDArray[np.int16], code: NDArray[np.uint8]) -> NDArray[np.int64]:
    """Return how often each pair of height and code is met, heights from -255 to 255."""
    places = (above.astype(np.int32) + 255) * 256 + code
    return np.bincount(places.ravel(), minlength=511 * 256).reshape(511, 256)


@dataclass(frozen=True, slots=True)
class _Strip:
    """Rows whose peaks are looked for, the first ``done`` of them for the sake of those below only."""

    above: NDArray[np.int16]
    code: NDArray[np.uint8]
    done: int = 0

    def joined(self, above: NDArray[np.int16], code: NDArray[np.uint8]) -> _Strip:
        """Return the rows below, with as many of these as their peaks and the ones that wait want to see."""
        count = min(len(self.above), 2 * RIPPLE)
        waits = min(count, RIPPLE)
        return _Strip(
            np.vstack((self.above[len(self.above) - count :], above)),
            np.vstack((self.code[len(self.code) - count :], code)),
            count - waits,
        )

    def peaks(self, *, last: bool) -> NDArray[np.int64]:
        """Return the peaks by height and code: of all rows but those that wait, or of those alone when none follow."""
        rows = len(self.above)
        wait = max(self.done, rows - RIPPLE)
        from_, to = (wait, rows) if last else (self.done, wait)
        held = np.where(_highest(self.above) & ~_ringing(self.above), self.above, np.int16(-255))[from_:to]
        return _table(held, self.code[from_:to])


def _highest(above: NDArray[np.int16]) -> NDArray[np.bool_]:
    """Return where nothing within ``REACH`` stands higher; of equals the first from the top and the left."""
    side = 2 * REACH + 1
    padded = np.pad(above, REACH, constant_values=-256)
    rows, columns = above.shape

    def shifted(down: int, right: int) -> NDArray[np.int16]:
        return padded[REACH + down : REACH + down + rows, REACH + right : REACH + right + columns]

    found = np.ones(above.shape, dtype=bool)
    for place in range(side * side):
        down, right = divmod(place, side)
        down, right = down - REACH, right - REACH
        if (down, right) < (0, 0):
            found &= above > shifted(down, right)
        elif (down, right) > (0, 0):
            found &= above >= shifted(down, right)
    return found


def _ringing(above: NDArray[np.int16]) -> NDArray[np.bool_]:
    """Return where something within ``RIPPLE`` stands so much higher that this is what its block rings with."""
    wide = np.pad(above, RIPPLE, constant_values=-256)
    # The highest of fifteen is that of two eights, of eight that of two fours, and so on: rows, then columns.
    for _ in range(2):
        for step in (1, 2, 4, RIPPLE):
            wide = np.maximum(wide[:-step], wide[step:])
        wide = wide.T
    return np.asarray(wide > above * np.int16(RIPPLE_SHARE))


def _blocks(frame: Bytes) -> NDArray[np.float64]:
    # Specks are single pixels and vanish in the mean of thousands.
    edges = [
        np.linspace(0, size, parts + 1).astype(int)
        for size, parts in zip(frame.shape[:2], (ROWS, COLUMNS), strict=True)
    ]
    linear = sum(decoded(frame[..., channel]) for channel in range(3)) / np.float32(3)
    down = np.add.reduceat(linear, edges[0][:-1], axis=0, dtype=np.float64)
    sums = np.add.reduceat(down, edges[1][:-1], axis=1)
    return np.asarray(sums / np.outer(np.diff(edges[0]), np.diff(edges[1])))
