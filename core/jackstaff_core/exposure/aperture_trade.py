"""Depth, diffraction and time as one trade: what each aperture would give at this focal length and focus.

Sources: camera/focus.py, camera/diffraction.py, exposure/calculation.py. Limits: theirs. Verdict: computed.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from ..camera.diffraction import HARD_PIXELS, SOFT_PIXELS, fwhm_pixels
from ..camera.focus import circle_mm, depth, hyperfocal_m, third_in_m
from ..scales.ladders import Step, aperture_marks
from ..wire.marks import Between
from ..words.refusal import Refusal, within

Millimetres = Annotated[float, Between(0, 3000, "mm", above=True)]
Metres = Annotated[float, Between(0, 100_000, "m", above=True)]
FNumber = Annotated[float, Between(0.5, 512)]


@dataclass(frozen=True, slots=True)
class TradeQuestion:
    """``seconds`` at ``f_number`` now; focus at the hyperfocal distance unless ``focus_m`` is given."""

    seconds: Annotated[float, Between(0, 90_000, "s", above=True)]
    f_number: FNumber
    focal_mm: Millimetres
    widest: FNumber
    smallest: FNumber
    pitch_um: float
    sensor_width_mm: Millimetres = 36.0
    sensor_height_mm: Millimetres = 24.0
    focus_m: Metres | None = None
    nearest_m: Metres | None = None
    farthest_m: Metres | None = None


@dataclass(frozen=True, slots=True)
class TradeRow:
    """One aperture: its time, what is sharp (``far_m`` None is infinity), how wide its diffraction spot is."""

    aperture: str
    seconds: float
    hyperfocal_m: float
    near_m: float
    far_m: float | None
    spot_pixels: float
    sharpness: str


@dataclass(frozen=True, slots=True)
class Trade:
    """Every full-stop aperture with its time and sharpness; ``third_in_m`` a third of the way into the scene [m]."""

    rows: tuple[TradeRow, ...]
    third_in_m: float | None


def compare_apertures(question: TradeQuestion) -> Trade:
    """Return every full-stop aperture of the lens, and the one now set.

    Raises
    ------
    Refusal
        A length or aperture out of bounds.
    """
    focal = within("focal_mm", question.focal_mm, 1, 3000, "mm")
    pitch = within("pitch_um", question.pitch_um, 0.5, 50, "µm")
    circle = circle_mm(question.sensor_width_mm, question.sensor_height_mm)
    if question.focus_m is not None:
        within("focus_m", question.focus_m, focal / 500, 1e5, "m")
    # A lens says "22" and means the mark, f/22.63.
    thirds = aperture_marks(Step.THIRD)
    wide, small = (thirds.nearest(end).exact for end in (question.widest, question.smallest))
    marks = {mark.label: mark for mark in aperture_marks(Step.FULL).between(wide, small)}
    now = thirds.nearest(question.f_number)
    marks[now.label] = now
    rows = []
    for mark in sorted(marks.values(), key=lambda each: each.exact):
        hyperfocal = hyperfocal_m(focal, mark.exact, circle)
        sharp = depth(focal, mark.exact, circle, question.focus_m or hyperfocal)
        spot = fwhm_pixels(mark.exact, pitch)
        rows.append(
            TradeRow(
                mark.label,
                question.seconds * (mark.exact / question.f_number) ** 2,
                hyperfocal,
                sharp.near_m,
                sharp.far_m if sharp.far_m < 1e6 else None,
                spot,
                "sharp" if spot <= SOFT_PIXELS else "softer" if spot <= HARD_PIXELS else "soft",
            )
        )
    return Trade(tuple(rows), _third(question))


def _third(question: TradeQuestion) -> float | None:
    if question.nearest_m is None or question.farthest_m is None:
        return None
    if not 0 < question.nearest_m < question.farthest_m:
        raise Refusal("farthest_m", "The far end is not beyond the near one.", "Give the nearer distance first.")
    return third_in_m(question.nearest_m, question.farthest_m)
