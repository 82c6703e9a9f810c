"""Bench: the dials to choose from, and how finely people count past them.

What is worked out there is asked by the core's table of questions (mount.py).
"""

from __future__ import annotations

import math

from django.http import HttpRequest
from ninja import Router, Schema

from jackstaff_core.scales import Scale, Step, apertures, dial, isos
from jackstaff_core.spoken import GRAINS

from .schemas import DialLimit

router = Router(tags=["bench"])


class MarkAnswer(Schema):
    label: str
    exact: float


class GrainAnswer(Schema):
    """Up to ``below_seconds`` (null: on), people count in multiples of ``grain_seconds``."""

    below_seconds: float | None
    grain_seconds: float


class ScalesAnswer(Schema):
    shutter: list[MarkAnswer]
    aperture: list[MarkAnswer]
    iso: list[MarkAnswer]
    counted: list[GrainAnswer]


@router.get("/scales", response=ScalesAnswer)
def scales(
    request: HttpRequest,
    step: Step = Step.THIRD,
    dial_limit: DialLimit = 30.0,
) -> object:
    """The marks a body's dials offer, in rising order."""
    return scales_of(step, dial_limit)


def scales_of(step: Step, dial_limit: float) -> dict[str, object]:
    """The same for whoever else hands them out."""
    return {
        "shutter": _marks(dial(dial_limit, step)),
        "aperture": _marks(apertures(step)),
        "iso": _marks(isos(step)),
        "counted": [
            {"below_seconds": limit if math.isfinite(limit) else None, "grain_seconds": grain}
            for limit, grain in GRAINS
        ],
    }


def _finite(limit: float) -> float | None:
    return limit if math.isfinite(limit) else None


def _marks(scale: Scale) -> list[dict[str, object]]:
    return [{"label": mark.label, "exact": mark.exact} for mark in scale.marks]
