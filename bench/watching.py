"""How well a frame comes out under moving light, by what is known of it: watched, metered twice, forecast, nothing.

Ten kinds of made-up sky, several seeds each, seen through a drawn scene with flicker, passers-by, jolts, knocks and
drops; a frame of four minutes, opened a minute after metering. The error is the light it really gathered against the
light it was metered for.
"""

from __future__ import annotations

import math
import random
import statistics
from collections.abc import Callable
from dataclasses import dataclass

from jackstaff_core.exposure_end import ExposureEndQuestion, exposure_end
from jackstaff_core.fused_light import MOST_LOOKS, Looked, thinned
from jackstaff_core.light_integral import Path, gathered
from jackstaff_core.made_up_sky import MadeUpSky, SkyKind, made_up_sky
from jackstaff_core.watching import Eye, LookQuestion, look
from jackstaff_imaging.watched_scene import COLUMNS, Disturbed, WatchedScene, cells

NEEDED, DELAY, EVERY = 240.0, 60.0, 3.0
LATEST = 1500.0
SEEDS = 5
READING_SD, FORECAST_RATE_SD = 0.11, 0.03


@dataclass
class Watched:
    """Looks so far, as a page would keep them."""

    scene: WatchedScene
    looks: tuple[Looked, ...] = ()
    eye: Eye | None = None

    def look_at(self, second: float) -> None:
        """One more look."""
        seen = look(LookQuestion(tuple(cells(self.scene.frame(second))), COLUMNS, True, before=self.eye))
        self.eye = seen.eye
        if seen.stops is not None and seen.sd is not None:
            self.looks = thinned((*self.looks, Looked(second, seen.stops, seen.sd, seen.part)), MOST_LOOKS)


def true_error(sky: MadeUpSky, closed: float) -> float:
    """How the frame really came out [stops, + brighter]."""
    base = sky.at(-DELAY)
    path = Path.through([(float(second), sky.at(second) - base) for second in range(0, round(LATEST) + 2, 2)])
    return math.log2(gathered(path, 0, closed) / NEEDED)


def with_watching(sky: MadeUpSky, seed: int, disturbed: Disturbed) -> float:
    """Close when what was seen says so; None of the truth is looked at."""
    watched = Watched(WatchedScene(sky.at, seed, disturbed, (160, 120)))
    second = -DELAY
    while second < LATEST:
        watched.look_at(second)
        if second >= 0:
            question = ExposureEndQuestion(NEEDED, second, DELAY, looks=watched.looks)
            end = exposure_end(question).close_after_seconds
            if end is not None and end <= second + EVERY:
                return max(end, second)
        second += EVERY
    return LATEST


def with_two_readings(sky: MadeUpSky, seed: int) -> float:
    """Metered five minutes before, and again at the metering; the likeliest rate goes on."""
    dice = random.Random(f"two {seed}")
    first = sky.at(-DELAY - 300) + dice.gauss(0, READING_SD)
    last = sky.at(-DELAY) + dice.gauss(0, READING_SD)
    points = ((-DELAY - 300, first - last), (-DELAY, 0.0))
    return _end(ExposureEndQuestion(NEEDED, 0.0, DELAY, readings=points, rate_from_readings=True))


def with_forecast(sky: MadeUpSky, seed: int) -> float:
    """The trend of a quarter of an hour, its rate known to 0.03 stop/min."""
    wrong = random.Random(f"forecast {seed}").gauss(0, FORECAST_RATE_SD) / 60
    base = sky.trend(-DELAY)
    points = tuple(
        (float(second), sky.trend(second) - base + wrong * (second + DELAY))
        for second in range(round(-DELAY), round(LATEST), 30)
    )
    return _end(ExposureEndQuestion(NEEDED, 0.0, DELAY, ev_points=points))


def _end(question: ExposureEndQuestion) -> float:
    return exposure_end(question).close_after_seconds or LATEST


def errors() -> dict[str, dict[SkyKind, list[float]]]:
    """Errors [stops] by what is known and kind of sky."""
    found: dict[str, dict[SkyKind, list[float]]] = {}
    ways: dict[str, Callable[[MadeUpSky, int], float]] = {
        "watching": lambda sky, seed: with_watching(sky, seed, Disturbed()),
        "two readings": with_two_readings,
        "forecast": with_forecast,
        "nothing": lambda _sky, _seed: NEEDED,
    }
    for name, close in ways.items():
        found[name] = {
            kind: [true_error(sky, close(sky, seed)) for seed in range(SEEDS) for sky in [made_up_sky(kind, seed)]]
            for kind in SkyKind
        }
    return found


def main() -> None:
    """Print the table."""
    found = errors()
    print(f"| sky | {' | '.join(f'{name}: median, worst' for name in found)} |")
    print(f"|---{'|---' * len(found)}|")
    for kind in SkyKind:
        cells_ = [_said(found[name][kind]) for name in found]
        print(f"| {kind.value.replace('_', ' ')} | {' | '.join(cells_)} |")
    whole = [_said([error for kind in SkyKind for error in found[name][kind]]) for name in found]
    print(f"| **all** | {' | '.join(whole)} |")


def _said(stops: list[float]) -> str:
    sizes = sorted(abs(stop) for stop in stops)
    return f"{statistics.median(sizes):.2f}, {sizes[-1]:.2f}"


if __name__ == "__main__":
    main()
