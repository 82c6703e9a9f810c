"""Shots of the dry runs that ship, taken by hands that forget nothing."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any

from jackstaff_core.practice.dryrun.develop import (
    DevelopQuestion,
    Shot,
    ShotGlass,
    develop,
)
from jackstaff_core.practice.dryrun.scenario import Scenario
from jackstaff_core.practice.dryrun.shipped import BY_ID, SHIPPED

IDS = [scenario.id for scenario in SHIPPED]
MOLE = BY_ID["dawn-mole"]
LIST = ("tripod", "focus", "glass", "camera", "eyepiece", "remote", "sun")


def named(scenario: Scenario, name: str) -> Any:
    return next(item for item in scenario.kit if item.name == name)


def on(scenario: Scenario, *names: str, turned: float | None = None) -> tuple[ShotGlass, ...]:
    items = [named(scenario, name) for name in names]
    return tuple(ShotGlass(item.id, turned if turned is not None else item.thing.stops) for item in items)


def shot(scenario: Scenario, minute: float, seconds: float, *names: str, **more: Any) -> Shot:
    """A frame of which everything was metered right and nothing forgotten."""
    base: dict[str, Any] = {
        "framing": 0,
        "opened_at": scenario.starts_at + timedelta(minutes=minute),
        "seconds": seconds,
        "aimed_seconds": seconds,
        "metered_seconds": seconds,
        "aperture": "8",
        "iso": str(round(scenario.body.iso_lowest)),
        "stack": on(scenario, *names, turned=more.pop("turned", None)),
        "prepared": LIST,
    }
    return Shot(**(base | more))


def right(scenario: Scenario, minute: float, *names: str, **more: Any) -> Shot:
    """The same, open for as long as its own light asks for."""
    tried = shot(scenario, minute, 1.0, *names, **more)
    for _ in range(60):
        off = develop(DevelopQuestion(scenario, tried)).error_stops
        seconds = tried.seconds * 2**-off
        if abs(off) < 1e-12:
            break
        tried = replace(tried, seconds=seconds, aimed_seconds=seconds, metered_seconds=seconds)
    return tried


CLEAN = right(MOLE, 0, "Slot ND 3", aperture="11")
TARN, SQUARE, RING = BY_ID["noon-tarn"], BY_ID["square-passers-by"], BY_ID["variable-only"]


def without(taken: Shot, *steps: str) -> Shot:
    return replace(taken, prepared=tuple(step for step in taken.prepared if step not in steps))
