"""What a glass does, measured from a bare and a filtered frame of the same scene.

    h = log2(t S/N^2); y = linear light; per channel s = median over blocks log2(y_bare/y_filtered) + (h_filt - h_bare)

Blocks are means of pixels whose three channels lie within 16 to 245 in both frames; a block counts with half of its
pixels. s.e. = 1.2533 * 1.4826 MAD/sqrt(blocks). Cast in stops: R/G = s_G - s_R, B/G = s_G - s_B; as a shift of the
light by the core's white_balance.py. Corner falloff: corner blocks less centre blocks, green.

Source: IEC 61966-2-1; robust statistics. Limits: frames that match within half a stop, a quarter of the blocks valid,
the same scene and light; a saturation setting makes the cast larger by its own factor. Verdict: green strength
computed (0.1, 0.05 typical), cast and corner estimate, mired a rough estimate.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from jackstaff_core.filters.white_balance import shift_mired

from .light import Bytes, decoded

ROWS, COLUMNS = 16, 24
LOWEST_CODE, HIGHEST_CODE = 16, 245
ENOUGH_PIXELS, ENOUGH_BLOCKS = 0.5, 0.25
MOST_MISMATCH, MOST_BARE_CHANGE = 0.5, 0.2
MODEL_SD = 0.025
"""What the sRGB assumption leaves even in matched frames [stops]; twice it is the typical 0.05."""
_SAMPLED_PIXELS = 1_500_000

Map = NDArray[np.float64]
Valid = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Cast:
    """Stops more of red and of blue against green, and the shift of the light that got through [mired, + warmer]."""

    rg: float
    bg: float
    mired: float


@dataclass(frozen=True, slots=True)
class Pair:
    """Strength by channel [stops]; ``refused`` a sentence with what to reshoot, None when it can be trusted."""

    stops: tuple[float, float, float]
    cast: Cast
    corner_falloff: float | None
    valid_blocks: int
    of_blocks: int
    sure_within: float
    mismatch: float
    green_map: tuple[tuple[float | None, ...], ...]
    refused: str | None


def exposure_value(seconds: float, f_number: float, iso: float) -> float:
    """Return the log2 of the light an exposure lets in."""
    return math.log2(seconds * iso / f_number**2)


def measure(
    bare: Bytes,
    filtered: Bytes,
    more_light: float,
    rows: int = ROWS,
    columns: int = COLUMNS,
    after: Bytes | None = None,
) -> Pair:
    """Compare two frames of one size; ``more_light`` is h_filt - h_bare. ``after`` is a second bare frame.

    With a bare frame before and after, the two are averaged in log2, which takes steady drift out.
    """
    logs, shares = _blocks(bare, filtered, rows, columns)
    changed = 0.0
    if after is not None:
        later, shares_later = _blocks(after, filtered, rows, columns)
        both = (shares >= ENOUGH_PIXELS) & (shares_later >= ENOUGH_PIXELS)
        changed = float(np.median((later - logs)[both][:, 1])) if both.any() else 0.0
        logs, shares = (logs + later) / 2, np.minimum(shares, shares_later)
    return _found(logs, shares >= ENOUGH_PIXELS, more_light, changed)


def _found(logs: Map, valid: Valid, more_light: float, changed: float, mismatch: float | None = None) -> Pair:
    """Return the pair from log2 of bare against filtered by block and channel."""
    count, total = int(valid.sum()), valid.size
    if count == 0:
        nothing = Cast(0.0, 0.0, 0.0)
        return Pair((0.0, 0.0, 0.0), nothing, None, 0, total, 0.0, 0.0, (), _refusal(0, total, 0.0, 0.0))
    medians = np.median(logs[valid], axis=0)
    red, green, blue = (float(median) + more_light for median in medians)
    mad = float(np.median(np.abs(logs[valid][:, 1] - medians[1])))
    error = 1.2533 * 1.4826 * mad / math.sqrt(count)
    mismatch = float(medians[1]) if mismatch is None else mismatch
    cast = Cast(green - red, green - blue, shift_mired(green - red, green - blue))
    strengths = np.where(valid, logs[..., 1] + more_light, np.nan)
    return Pair(
        (red, green, blue),
        cast,
        _corner(strengths),
        count,
        total,
        2 * math.hypot(error, MODEL_SD),
        mismatch,
        tuple(tuple(None if math.isnan(number) else float(number) for number in line) for line in strengths),
        _refusal(count, total, mismatch, changed),
    )


def measure_bracket(
    bares: Iterable[tuple[Bytes, float]],
    filtered: Bytes,
    filtered_value: float,
    rows: int = ROWS,
    columns: int = COLUMNS,
) -> Pair:
    """Return strength without any assumption on the tone curve.

    It takes bare frames of several exposures around the filtered one.

    ``bares`` are frames with their log2 exposures (:func:`exposure_value`). For each block and channel the bare
    exposure h* that would give the filtered frame's code is found between two of them; s = h_filt - h*. A block counts
    where the filtered frame lies between the darkest and the brightest bare one. Bare frames are taken one by one, so
    that a generator holds no more than one of them decoded.
    """
    found = [(value, *_blocks(frame, filtered, rows, columns)) for frame, value in bares]
    exposures, logs, shares = zip(*sorted(found, key=lambda each: each[0]), strict=True)
    values = np.array(exposures)
    # Bare against filtered by exposure: where it crosses zero both would look alike.
    apart = np.where(np.stack(shares)[..., None] >= ENOUGH_PIXELS, np.stack(logs), np.nan)
    crossed = _crossings(values, apart)
    strengths = filtered_value - crossed
    valid = np.asarray(~np.isnan(strengths).any(axis=-1))
    return _found(strengths, valid, 0.0, 0.0, mismatch=0.0)


def _crossings(values: Map, apart: Map) -> Map:
    """Return the exposure at which each block and channel crosses zero, linear between neighbours.

    NaN where none does.
    """
    found = np.full(apart.shape[1:], np.nan)
    for at in range(len(values) - 1):
        low, high = apart[at], apart[at + 1]
        with np.errstate(divide="ignore", invalid="ignore"):
            share = np.clip(-low / (high - low), 0.0, 1.0)
            between = (low <= 0) & (high >= 0) & (high > low)
        here = values[at] + share * (values[at + 1] - values[at])
        found = np.where(between & np.isnan(found), here, found)
    return found


def _blocks(bare: Bytes, filtered: Bytes, rows: int, columns: int) -> tuple[Map, Map]:
    """Return the log2 of bare against filtered by block and channel, and the share of pixels that counted."""
    step = max(1, int(math.sqrt(bare.shape[0] * bare.shape[1] / _SAMPLED_PIXELS)))
    first, other = bare[::step, ::step], filtered[::step, ::step]
    good = ((first >= LOWEST_CODE) & (first <= HIGHEST_CODE) & (other >= LOWEST_CODE) & (other <= HIGHEST_CODE)).all(
        axis=2
    )
    edges = [
        np.linspace(0, size, parts + 1).astype(int) for size, parts in zip(good.shape, (rows, columns), strict=True)
    ]
    counts = _sums(np.asarray(good, dtype=np.float64), edges)
    sizes = _sums(np.ones(good.shape), edges)
    light = [
        _sums(np.asarray(np.where(good, decoded(frame[..., c]), 0.0), dtype=np.float64), edges)
        for frame in (first, other)
        for c in range(3)
    ]
    with np.errstate(divide="ignore", invalid="ignore"):
        logs = np.stack([np.log2(light[c] / light[c + 3]) for c in range(3)], axis=-1)
    return np.nan_to_num(logs), counts / sizes


def _sums(field: Map, edges: list[NDArray[np.int_]]) -> Map:
    down = np.add.reduceat(field, edges[0][:-1], axis=0)
    return np.asarray(np.add.reduceat(down, edges[1][:-1], axis=1))


def _corner(strengths: Map) -> float | None:
    """Return how much denser the corners are than the middle [stops]; None where either cannot be seen."""
    rows, columns = strengths.shape
    high, wide = max(1, rows // 8), max(1, columns // 8)
    corners = np.concatenate(
        [
            strengths[y, x].ravel()
            for y in (slice(0, high), slice(-high, None))
            for x in (slice(0, wide), slice(-wide, None))
        ]
    )
    centre = strengths[rows * 3 // 8 : rows * 5 // 8, columns * 3 // 8 : columns * 5 // 8].ravel()
    if np.isnan(corners).all() or np.isnan(centre).all():
        return None
    return float(np.nanmedian(corners) - np.nanmedian(centre))


def _refusal(count: int, total: int, mismatch: float, changed: float) -> str | None:
    if count < ENOUGH_BLOCKS * total:
        return (
            f"Only {count} of {total} parts of the picture are neither too dark nor too bright in both frames."
            " Shoot a flatter scene, or expose both frames to the middle."
        )
    if abs(mismatch) > MOST_MISMATCH:
        way = "darker" if mismatch > 0 else "brighter"
        return (
            f"The filtered frame is {abs(mismatch):.1f} stops {way} than the bare one."
            " Shoot it again so that both look alike within half a stop."
        )
    if abs(changed) > MOST_BARE_CHANGE:
        return (
            f"The light moved by {abs(changed):.1f} stop between the two bare frames."
            " Shoot bare, filtered, bare again under steadier light."
        )
    return None
