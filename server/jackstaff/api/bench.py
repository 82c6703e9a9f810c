"""Bench: the dials to choose from, and how finely people count past them.

What is worked out there is asked by the core's table of questions (mount.py).
"""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jackstaff_core.camera.dials import Scales, ScalesQuestion, scales_of
from jackstaff_core.scales.ladders import Step
from jackstaff_core.wire.reader import plain

from .schemas import DialLimit
from .wired import as_answer

router = Router(tags=["bench"])

ScalesAnswer: Any = as_answer(Scales)


@router.get("/scales", response=ScalesAnswer)
def scales(
    request: HttpRequest,
    step: Step = Step.THIRD,
    dial_limit: DialLimit = 30.0,
) -> object:
    """Return the marks a body's dials offer, in rising order."""
    return plain(scales_of(ScalesQuestion(step, dial_limit)))
