"""A dawn, a kit and a wish, for the tests of plans and of waiting."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.outing.swaps import SwapPlan, SwapWish, plan_swaps
from jackstaff_core.sky.forecast import LightPoint, LightQuestion
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.stacks.finder import KitGlass

PLACE = Place(58.05, 6.80)
BEGIN = datetime(2027, 4, 17, 3, 0, tzinfo=UTC)
KIT = (
    KitGlass("three", GlassKind.SOLID, 3.0),
    KitGlass("six", GlassKind.SOLID, 6.0),
    KitGlass("ten", GlassKind.SOLID, 10.0),
    KitGlass("turn", GlassKind.VARIABLE, min=2.0, max=5.0),
)


def dawn(hours: float = 3, step: float = 60.0, **more: object) -> LightQuestion:
    return LightQuestion(PLACE, BEGIN, BEGIN + timedelta(hours=hours), step, **more)  # type: ignore[arg-type]


STEP = timedelta(minutes=5)
"""Long enough for two frames of the longest look below, so that every step may be a stretch."""


def path(levels: list[float]) -> tuple[LightPoint, ...]:
    return tuple(LightPoint(BEGIN + STEP * turn, 0, 0, 1, level, 0.2, 0) for turn, level in enumerate(levels))


def wished(**more: object) -> SwapWish:
    wish: dict[str, object] = {
        "from_seconds": 20.0, "to_seconds": 60.0, "glass": KIT, "slots": 2,
        "apertures": ("5.6", "16"), "isos": ("100",),
    }  # fmt: skip
    return SwapWish(**{**wish, **more})  # type: ignore[arg-type]


def planned(levels: list[float], **more: object) -> SwapPlan:
    return plan_swaps(path(levels), wished(**more))
