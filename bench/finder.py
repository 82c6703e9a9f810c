"""The finder against the plain loop it cannot do less than, and how it grows with the kit."""

from __future__ import annotations

import math
import statistics
import time
from collections.abc import Callable
from functools import partial
from itertools import combinations

from bench.table import ratio, row
from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.scales.ladders import aperture_marks, iso_marks
from jackstaff_core.stacks.finder import FinderQuestion, KitGlass, Target, find

ROUNDS = 15
SIZES = (6, 10, 14, 20, 24)


def kit(size: int) -> tuple[KitGlass, ...]:
    """Glass of ``size`` different strengths, a variable and a polariser among them."""
    solid = [KitGlass(f"g{place}", GlassKind.SOLID, 1 + place * 0.61) for place in range(size - 2)]
    turning = KitGlass("turn", GlassKind.VARIABLE, min=2, max=5)
    return (*solid, turning, KitGlass("pol", GlassKind.POLARISER, min=1.3, max=1.7))


def asked(size: int) -> FinderQuestion:
    return FinderQuestion(
        ReadingGiven("1/60", "8", "100"), kit(size), 3, Target(120.0), ("5.6", "22"), ("100", "200", "400")
    )


def plain(question: FinderQuestion) -> int:
    """Return every combination, aperture and ISO with its own product: no rule, no order."""
    strengths = [2.0 ** (glass.stops if glass.stops is not None else ((glass.min or 0) + (glass.max or 0)) / 2)
                 for glass in question.glass]  # fmt: skip
    marks = [(mark.exact / 8) ** 2 for mark in aperture_marks().between(5.6, 22.7)]
    speeds = [100 / mark.exact for mark in iso_marks().marks if mark.label in question.isos]
    reached = 0
    low, high = 120 * 2 ** (-1 / 3), 120 * 2 ** (1 / 3)
    for size in range(question.slots + 1):
        for chosen in combinations(strengths, size):
            for opened in marks:
                for speed in speeds:
                    if low <= math.prod(chosen) * opened * speed / 64 <= high:
                        reached += 1
    return reached


def timed(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def main() -> None:
    question = asked(14)
    pairs = [(timed(lambda: find(question)), timed(lambda: plain(question))) for _ in range(ROUNDS)]
    finder, loop = (statistics.median(times) for times in zip(*pairs, strict=True))
    reference = "the plain loop over combinations, apertures and ISOs with a product each"
    ratio(f"finder, 14 glasses and 3 slots, to {reference}", finder * 1e3, loop * 1e3, "ms", "1.5 or less")
    grown = [statistics.median(timed(partial(find, asked(size))) for _ in range(5)) for size in SIZES]
    said = ", ".join(f"{taken / grown[2]:.2f}" for taken in grown)
    row(f"finder with {', '.join(map(str, SIZES))} glasses (14 = 1)", said)
