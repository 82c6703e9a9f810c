"""What may be found in a frame, why it is there, and what helps next time.

Causes and cures are practice, each named for what the hand does; numbers come from the models (polarisers, rims,
specks) and are said only where they are known. Source: practice. Limits: what a person sees in one picture. Verdict:
class.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..filters.kind import GlassKind
from .finished_frame import FinishedFrame
from .frame import Defect


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing to look for. ``learns`` says what the log does with it, "" when nothing."""

    code: Defect
    label: str
    cause: str
    cure: str
    learns: str = ""


_FINDINGS = (
    Finding(
        Defect.CORNER,
        "Dark corners",
        "Rims stand in the picture, or a dyed filter is thicker on the slant.",
        "Take a filter off, zoom in a little, or use a holder instead of stacked rings.",
        "the focal length these rims leave clear",
    ),
    Finding(
        Defect.CROSS,
        "Cross or dark middle",
        "A variable filter was turned past its clean end for this focal length.",
        "Turn it back, zoom in, or put a solid filter in its place.",
        "the clean end of this filter at this focal length",
    ),
    Finding(
        Defect.CAST,
        "Colour cast",
        "A dense filter holds one colour back more than another.",
        "Set white balance by a frame of a grey card through the filter, or correct it in the edit.",
        "a frame pair measures it",
    ),
    Finding(
        Defect.LEAK,
        "Stray light",
        "Light came in by the eyepiece, a gap in the holder or between plates.",
        "Cover the eyepiece, put the gasket plate nearest the lens, tape the gaps, shade the holder.",
        "the arm list",
    ),
    Finding(
        Defect.SPECKS,
        "Hot specks",
        "Long times and warmth make single pixels glow.",
        "Take a dark frame: cap on, same length, right after. Let the camera cool between frames.",
        "from which time this body needs a dark frame",
    ),
    Finding(
        Defect.SHAKE,
        "Shaken",
        "Wind, soft ground, a stabiliser left on, or a hand on the camera.",
        "Spread the legs, hang weight low, switch the stabiliser off, use the remote and wait out gusts.",
    ),
    Finding(
        Defect.LEAVES,
        "Leaves or grass smeared",
        "They moved further than the picture forgives in this time.",
        "Wait for a lull, take a short frame of them at higher ISO and blend, or step back.",
    ),
    Finding(
        Defect.GHOSTS,
        "Ghosts",
        "Somebody stood still for a part of the time.",
        "Go much longer, or take several shorter frames and blend their median.",
    ),
    Finding(
        Defect.CLIPPED,
        "Colours clipped",
        "One channel ran full, as red and blue do at sunrise.",
        "Give a third to a full stop less, or hold the sky with a graduated filter.",
    ),
    Finding(
        Defect.WATERLINE,
        "Waterline wandered",
        "The tide or the swash moved the edge during the frame.",
        "Shorten the frame, or shoot near the turn of the tide.",
    ),
)

FINDINGS: Mapping[Defect, Finding] = {each.code: each for each in _FINDINGS}


@dataclass(frozen=True, slots=True)
class Remark:
    """What this frame shows, with cause and cure for its own set-up."""

    code: Defect
    label: str
    cause: str
    cure: str


def remarks(frame: FinishedFrame) -> tuple[Remark, ...]:
    """Return the cause and cure of everything seen in a frame, in a fixed order."""
    return tuple(_remark(FINDINGS[code], frame) for code in Defect if code in frame.defects)


def _remark(finding: Finding, frame: FinishedFrame) -> Remark:
    cause, cure = finding.cause, finding.cure
    dense = sum(piece.used for piece in frame.glass)
    match finding.code:
        case Defect.CROSS:
            turned = next(
                (piece for piece in frame.glass if piece.kind in (GlassKind.VARIABLE, GlassKind.COMBINED)), None
            )
            if turned is None:
                cause = "No variable filter was on: two polarisers, or a dark middle from stray light."
                cure = "Take one polariser off, and cover the eyepiece."
            elif frame.focal_mm:
                cause = (
                    f"{turned.name} stood at {turned.used:.1f} stops at {frame.focal_mm:.0f} mm, past its clean end."
                )
        case Defect.CORNER if frame.rims_mm and frame.focal_mm:
            cause = f"{frame.rims_mm:.0f} mm of rims stand in the picture at {frame.focal_mm:.0f} mm."
        case Defect.LEAK if dense:
            cause = f"Behind {dense:.0f} stops of filters, light that came in another way counts {2**dense:,.0f} times."
        case Defect.GHOSTS if frame.seconds < 30:
            cure = "Go past a minute or two, or take several shorter frames and blend their median."
    return Remark(finding.code, finding.label, cause, cure)
