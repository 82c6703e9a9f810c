"""The light of a day against the library's bare positions, and how long a swap plan takes."""

from __future__ import annotations

import statistics
import time
from datetime import UTC, datetime, timedelta

from astral.sun import zenith_and_azimuth

from bench.table import ratio, row
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.outing.days import DaysQuestion, days
from jackstaff_core.outing.swaps import SwapWish, plan_swaps
from jackstaff_core.sky.forecast import LightQuestion, OwnReading, forecast
from jackstaff_core.sky.sun_and_moon import Place, observer
from jackstaff_core.stacks.finder import KitGlass

PLACE = Place(58.05, 6.80)
BEGIN = datetime(2027, 4, 17, tzinfo=UTC)
DAY = LightQuestion(
    PLACE, BEGIN, BEGIN + timedelta(days=1), 60.0, readings=(OwnReading(BEGIN + timedelta(hours=4), 4.0),)
)
ROUNDS = 7
KIT = tuple(KitGlass(f"g{place}", GlassKind.SOLID, 1.5 + 1.4 * place) for place in range(10))


def timed(work: object) -> float:
    begun = time.perf_counter()
    work()  # type: ignore[operator]
    return time.perf_counter() - begun


def positions() -> None:
    watcher = observer(PLACE)
    for minute in range(1441):
        zenith_and_azimuth(watcher, BEGIN + timedelta(minutes=minute), with_refraction=False)


def main() -> None:
    pairs = [(timed(lambda: forecast(DAY)), timed(positions)) for _ in range(ROUNDS)]
    own, bare = (statistics.median(times) for times in zip(*pairs, strict=True))
    bare_positions = "the library's bare positions"
    what = f"a day of light at one-minute steps to {bare_positions}"
    ratio(what, own * 1e3, bare * 1e3, "ms", "1.3 or less")
    wish = SwapWish(20.0, 110.0, KIT, 3, ("2.8", "16"), ("64", "125"))
    asked = [
        DaysQuestion(PLACE, "Europe/Oslo", BEGIN.date() + timedelta(days=40 * turn), wish=wish)
        for turn in range(min(5, ROUNDS))
    ]
    fortnight = statistics.median(timed(lambda each=each: days(each)) for each in asked)
    what = f"fourteen days with moon and a bag's reach to fourteen days of {bare_positions}"
    ratio(what, fortnight * 1e3, 14 * bare * 1e3, "ms", "1.5 or less")
    light = forecast(LightQuestion(PLACE, BEGIN + timedelta(hours=3), BEGIN + timedelta(hours=6))).points
    wish = SwapWish(20.0, 60.0, KIT, 3, ("5.6", "16"), ("64", "125"))
    seconds = statistics.median(timed(lambda: plan_swaps(light, wish)) for _ in range(3))
    row("swap plan for 3 hours, 10 glasses", f"{seconds:.2f} s", "under 1 s")
