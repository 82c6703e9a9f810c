"""A phone's camera as a meter of relative light: what one look at the scene says against the looks before it.

A look is a grid of cells, each the mean linear luminance Y of its pixels (sRGB decoded, IEC 61966-2-1), left out where
they clip. With the exposure t and ISO S that the camera tells, or holds still, a cell shows the light

    e_i = log2 Y_i - log2(t S)            [stops, up to a constant]

and under light L every cell keeps its own r_i = e_i - L. A look's light is the mean of e_i - r_i over the cells within
3 s, or 0.15 stop, of the median, s the robust spread (1.4826 MAD); its sd is s / sqrt(n / 6), for neighbours are not
independent, beside what the picture flickers from look to look and 0.01. Passers-by, rain and leaves are cells that
differ: they are left out, and learnt from only where they stay for a minute. A picture whose differences between
neighbouring cells change by more than a third of themselves (means without the largest quarter) has moved: no light is
said until it is the old one again, or until it has stood still for three looks; then a new part begins with a zero of
its own.

Source: ours; median and MAD after Huber (1981), Robust Statistics. Limits: a camera whose exposure neither stands still
nor is told refuses (it would cancel the light it should measure); 3 stops between looks at most, more is a covered
lens; the camera's own tone curve is not known (moving_light/fused.py counts 4 % of the change for it). Verdict:
estimate, with its sd.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from enum import StrEnum
from statistics import median
from typing import Annotated

from ..wire.marks import Between, Size
from ..words.refusal import Refusal

LEAST_CELLS, MOST_CELLS = 16, 400
MOST_PARTS = 10_000
DARKEST = 0.0015
"""Cells below this luminance are a few steps of eight bits [share of white]."""
LEAST_KNOWN, LEAST_SHARE = 8, 0.12
FEW_SHARE, FEW_STEP = 0.3, 1.0
"""So few cells may all belong to whoever walks past: they vouch for no larger change [stops]."""
MOST_SHARE, CHANGED, NEAR_STOPS, FLAT_AGREEING = 0.75, 0.33, 0.5, 0.9
SETTLED_LOOKS = 3
MOST_STEP = 3.0
CUT_SDS, CUT_STOPS = 3.0, 0.15
PATIENT_LOOKS, SLOWLY = 15, 0.05
"""So many looks a cell differs before it is believed, and then for each look so much [stops]."""
REMEMBERED_LOOKS = 60
"""How many looks a cell's own brightness is the mean of: clouds move through the picture within minutes."""
LEAST_SD, UNLOCKED_SD = 0.01, 0.04
FLICKER_KEPT, MOST_FLICKER = 0.9, 0.3
FLAT = 0.02
"""Neighbours that differ by less than this in the mean are a picture without structure [stops]."""

Luminance = Annotated[float, Between(0, 1)]
Stops = Annotated[float, Between(-60, 60, "stops")]


class Sight(StrEnum):
    """What a look was worth."""

    WATCHING = "watching"
    MOVED = "moved"
    LOST = "lost"


@dataclass(frozen=True, slots=True)
class Eye:
    """What is kept between looks: each cell's own brightness, the last look, and the light then.

    ``known`` and ``last`` are stops, None where a cell was clipped or too dark; ``looks`` counts what ``known`` is the
    mean of. ``elsewhere`` is how many looks in a row showed another picture, the same one.
    """

    known: Annotated[tuple[Stops | None, ...], Size(LEAST_CELLS, MOST_CELLS)]
    looks: Annotated[tuple[int, ...], Size(LEAST_CELLS, MOST_CELLS)]
    last: Annotated[tuple[Stops | None, ...], Size(LEAST_CELLS, MOST_CELLS)]
    stops: Stops
    part: Annotated[int, Between(0, MOST_PARTS)]
    flicker: Annotated[float, Between(0, 1, "stops")] = 0.02
    elsewhere: Annotated[int, Between(0, 100)] = 0
    odd: Annotated[tuple[int, ...], Size(0, MOST_CELLS)] = ()
    """How many looks in a row each cell has differed from what it is like; none is never."""


@dataclass(frozen=True, slots=True)
class LookQuestion:
    """One look: ``cells`` row by row, ``columns`` in a row, None where clipped.

    ``held`` is whether exposure and white balance stand still; ``exposure_seconds`` and ``iso`` what the camera tells.
    """

    cells: Annotated[tuple[Luminance | None, ...], Size(LEAST_CELLS, MOST_CELLS)]
    columns: Annotated[int, Between(2, MOST_CELLS)]
    held: bool
    exposure_seconds: Annotated[float, Between(1e-6, 60, "s")] | None = None
    iso: Annotated[float, Between(0.1, 10_000_000)] | None = None
    before: Eye | None = None


@dataclass(frozen=True, slots=True)
class Look:
    """Light [stops] against the start of its ``part`` with its sd; None while the picture has moved or is lost.

    ``phone_stops`` is the light up to a constant of this phone: comparable between days where the exposure is told.
    """

    sight: Sight
    stops: float | None
    sd: float | None
    part: int
    share: float
    """Of the cells that can be reckoned with."""
    phone_stops: float | None
    eye: Eye | None


def look(question: LookQuestion) -> Look:
    """Return what a look at the scene says.

    Raises
    ------
    Refusal
        The camera neither tells nor holds its exposure, or the grids do not fit each other.
    """
    metered = question.exposure_seconds is not None and question.iso is not None
    if not question.held and not metered:
        raise Refusal(
            "held",
            "This camera sets its exposure by itself and does not tell it, which cancels what it should measure.",
            "Meter again by hand on the way, say thirds, or let the outing's forecast count.",
        )
    if len(question.cells) % question.columns:
        raise Refusal("columns", "The cells are no grid of that many columns.", "Send whole rows.")
    gain = 0.0
    if question.exposure_seconds is not None and question.iso is not None:
        gain = math.log2(question.exposure_seconds) + math.log2(question.iso)
    cells = tuple(None if cell is None or cell < DARKEST else math.log2(cell) - gain for cell in question.cells)
    share = sum(cell is not None for cell in cells) / len(cells)
    extra = 0.0 if question.held else UNLOCKED_SD
    before = question.before
    enough = share >= LEAST_SHARE and share * len(cells) >= LEAST_KNOWN
    if before is None:
        return _begun(cells, 0, share, metered, extra) if enough else Look(Sight.LOST, None, None, 0, share, None, None)
    if any(len(each) != len(cells) for each in (before.known, before.looks, before.last, before.odd or cells)):
        raise Refusal("before", "The looks before had another grid.", "Begin anew.")
    if not enough:
        return Look(Sight.LOST, None, None, before.part, share, None, before)
    return _compared(cells, before, question.columns, share, metered, extra)


def _begun(cells: tuple[float | None, ...], part: int, share: float, metered: bool, extra: float) -> Look:
    eye = Eye(cells, tuple(int(cell is not None) for cell in cells), cells, 0.0, min(part, MOST_PARTS))
    sd = math.hypot(eye.flicker, LEAST_SD, extra)
    return Look(Sight.WATCHING, 0.0, sd, eye.part, share, _phone(cells, metered), eye)


def _compared(
    cells: tuple[float | None, ...], before: Eye, columns: int, share: float, metered: bool, extra: float
) -> Look:
    offsets = [
        now - known for now, known in zip(cells, before.known, strict=True) if now is not None and known is not None
    ]
    if len(offsets) < LEAST_KNOWN:
        return _unlike(cells, before, columns, share, metered, extra)
    middle = median(offsets)
    spread = 1.4826 * median(abs(offset - middle) for offset in offsets)
    # What is far from the middle is somebody or something else; the rest is light, as unevenly as it falls.
    far = max(CUT_SDS * spread, CUT_STOPS)
    near = [offset for offset in offsets if abs(offset - middle) <= far]
    light = math.fsum(near) / len(near)
    if abs(light - before.stops) > (MOST_STEP if len(offsets) >= FEW_SHARE * len(cells) else FEW_STEP) or not _alike(
        cells, before.known, light, columns
    ):
        return _unlike(cells, before, columns, share, metered, extra)
    # What jumps is light; what comes and goes between looks is flicker.
    jump = min(abs(light - before.stops), MOST_FLICKER)
    flicker = math.sqrt(FLICKER_KEPT * before.flicker**2 + (1 - FLICKER_KEPT) * jump * jump / 2)
    sd = math.hypot(spread / math.sqrt(max(1.0, len(offsets) / 6)), flicker, LEAST_SD, extra)
    known, looks, odd = _learnt(cells, before, light, far)
    eye = Eye(known, looks, cells, light, before.part, flicker, odd=odd)
    return Look(Sight.WATCHING, light, sd, before.part, share, _phone(cells, metered), eye)


def _unlike(
    cells: tuple[float | None, ...], before: Eye, columns: int, share: float, metered: bool, extra: float
) -> Look:
    """Return the look at another picture: once that stands still, a new part begins."""
    both = [now - last for now, last in zip(cells, before.last, strict=True) if now is not None and last is not None]
    stands = len(both) >= LEAST_KNOWN and _alike(cells, before.last, median(both), columns)
    elsewhere = before.elsewhere + 1 if stands else 1
    if elsewhere >= SETTLED_LOOKS:
        return _begun(cells, before.part + 1, share, metered, extra)
    eye = replace(before, last=cells, elsewhere=elsewhere)
    return Look(Sight.MOVED, None, None, before.part, share, None, eye)


def _alike(cells: tuple[float | None, ...], known: tuple[float | None, ...], light: float, columns: int) -> bool:
    """Return whether two pictures show the same things: whoever walks past is left out, uneven light let pass."""
    off = [None if now is None or then is None else now - then for now, then in zip(cells, known, strict=True)]
    changes: list[float] = []
    edges: list[float] = []
    for here, each in enumerate(off):
        for beside in (here + 1, here + columns):
            if beside >= len(off) or (beside == here + 1 and beside % columns == 0):
                continue
            other, then, next_then = off[beside], known[here], known[beside]
            if each is not None and other is not None and then is not None and next_then is not None:
                changes.append(abs(other - each))
                edges.append(abs(next_then - then))
    if len(edges) < LEAST_KNOWN:
        return False
    structure = _most(edges)
    if structure < FLAT:
        # A picture without structure cannot show that it moved: nearly all of it has to agree.
        both = [each - light for each in off if each is not None]
        return sum(abs(each) < NEAR_STOPS for each in both) >= FLAT_AGREEING * len(both)
    return _most(changes) <= CHANGED * structure


def _most(sizes: list[float]) -> float:
    """Return the mean without the largest quarter."""
    nearest = sorted(sizes)[: max(1, round(len(sizes) * MOST_SHARE))]
    return math.fsum(nearest) / len(nearest)


def _learnt(
    cells: tuple[float | None, ...], before: Eye, light: float, far: float
) -> tuple[tuple[float | None, ...], tuple[int, ...], tuple[int, ...]]:
    """Return what each cell is like by now, of how many looks, and how long it has differed."""
    known: list[float | None] = []
    looks: list[int] = []
    odd: list[int] = []
    were = before.odd or (0,) * len(cells)
    for now, old, count, was in zip(cells, before.known, before.looks, were, strict=True):
        if now is None or old is None:
            known.append(old if now is None else now - light)
            looks.append(count if now is None else 1)
            odd.append(was if now is None else 0)
            continue
        off, more = now - light - old, min(count + 1, REMEMBERED_LOOKS)
        if abs(off) <= far:
            known.append(old + off / more)
            looks.append(more)
            odd.append(0)
        else:
            # Whoever walks past is not what this cell is like; what stays there is, after minutes.
            stays = was >= PATIENT_LOOKS
            known.append(old + math.copysign(SLOWLY, off) if stays else old)
            looks.append(count)
            odd.append(was if stays else was + 1)
    return tuple(known), tuple(looks), tuple(odd)


def _phone(cells: tuple[float | None, ...], metered: bool) -> float | None:
    """Return the light up to this phone's constant [stops]: mean luminance over exposure and ISO."""
    values = [cell for cell in cells if cell is not None]
    if not metered or not values:
        return None
    return math.log2(math.fsum(2**cell for cell in values) / len(values))
