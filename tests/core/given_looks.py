"""Looks of a watching phone, for the tests of light that was watched."""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import Any

from jackstaff_core.log.frame import ErrorCause, Frame, FrameReview, FrameRun
from jackstaff_core.moving_light.fusion import Looked
from tests.core.frames import written


def looks_of(
    light: Callable[[float], float],
    start: float,
    end: float,
    every: float = 3,
    part: int = 0,
    zero: float = 0.0,
    seed: int = 1,
    sd: float = 0.02,
) -> tuple[Looked, ...]:
    dice = random.Random(seed)
    count = int((end - start) / every) + 1
    return tuple(
        Looked(start + turn * every, light(start + turn * every) - zero + dice.gauss(0, sd), sd, part)
        for turn in range(count)
    )


def framed(light: Callable[[float], float], seconds: float, came_out: float | None, **run: Any) -> Frame:
    looks = looks_of(light, -30, seconds, 5, sd=0.01)
    return written(
        seconds,
        events=(),
        run=FrameRun(300, delay_seconds=30, looks=looks, **run),
        review=FrameReview(error_stops=came_out, because=ErrorCause.SCENE) if came_out is not None else None,
    )


def jump(second: float) -> float:
    return 0.6 if second > 125 else 0.0
