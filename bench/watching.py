"""How well a frame comes out under moving light, by what is known of it: watched, metered twice, forecast, nothing.

Ten kinds of made-up sky, several seeds each, seen through a drawn scene with flicker, passers-by, jolts, knocks and
drops; a frame of four minutes, opened a minute after metering. The error is the light it really gathered against the
light it was metered for.
"""

from __future__ import annotations

import math
import pathlib
import random
import statistics
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass

from playwright.sync_api import Browser, Page, Playwright, sync_playwright
from tests.browser.test_watching import HELD
from tools.serving import CHROMIUM, serving

from jackstaff_core.moving_light.end_of_exposure import ExposureEndQuestion, exposure_end
from jackstaff_core.moving_light.fusion import Looked
from jackstaff_core.moving_light.integral import Path, gathered
from jackstaff_core.moving_light.watching import Eye, LookQuestion, look
from jackstaff_core.sky.made_up import MadeUpSky, SkyKind, made_up_sky
from jackstaff_imaging.watched_scene import COLUMNS, Disturbed, WatchedScene, cells, y4m

NEEDED, DELAY, EVERY = 240.0, 60.0, 4.0
LATEST = 1500.0
SEEDS = 5
PHONE, WHILE_MS = 4, 30_000
"""A phone in the field is so many times as slow."""
READING_SD, FORECAST_RATE_SD = 0.11, 0.03


@dataclass
class Watched:
    """Looks so far, as a page would keep them."""

    scene: WatchedScene
    looks: tuple[Looked, ...] = ()
    eye: Eye | None = None

    def look_at(self, second: float) -> None:
        """Return one more look."""
        seen = look(LookQuestion(tuple(cells(self.scene.frame(second))), COLUMNS, True, before=self.eye))
        self.eye = seen.eye
        if seen.stops is not None and seen.sd is not None:
            self.looks = (*self.looks, Looked(second, seen.stops, seen.sd, seen.part))


def true_error(sky: MadeUpSky, closed: float) -> float:
    """Return how the frame really came out [stops, + brighter]."""
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
    """Return metered five minutes before, and again at the metering; the likeliest rate goes on."""
    dice = random.Random(f"two {seed}")
    first = sky.at(-DELAY - 300) + dice.gauss(0, READING_SD)
    last = sky.at(-DELAY) + dice.gauss(0, READING_SD)
    points = ((-DELAY - 300, first - last), (-DELAY, 0.0))
    return _end(ExposureEndQuestion(NEEDED, 0.0, DELAY, readings=points, rate_from_readings=True))


def trend(sky: MadeUpSky, second: float) -> float:
    """Return what a forecast without the cloud's detail says [stops]: the mean of a quarter of an hour."""
    return statistics.fmean(sky.at(second + turn * 30) for turn in range(-15, 16))


def with_forecast(sky: MadeUpSky, seed: int) -> float:
    """Return the trend of a quarter of an hour, its rate known to 0.03 stop/min."""
    wrong = random.Random(f"forecast {seed}").gauss(0, FORECAST_RATE_SD) / 60
    base = trend(sky, -DELAY)
    points = tuple(
        (float(second), trend(sky, second) - base + wrong * (second + DELAY))
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


def table() -> None:
    """Print how well frames come out, by what is known of the light."""
    found = errors()
    print(f"| sky | {' | '.join(f'{name}: median, worst' for name in found)} |")
    print(f"|---{'|---' * len(found)}|")
    for kind in SkyKind:
        said = [_said(found[name][kind]) for name in found]
        print(f"| {kind.value.replace('_', ' ')} | {' | '.join(said)} |")
    whole = [_said([error for kind in SkyKind for error in found[name][kind]]) for name in found]
    print(f"| **all** | {' | '.join(whole)} |")


def _said(stops: list[float]) -> str:
    sizes = sorted(abs(stop) for stop in stops)
    return f"{statistics.median(sizes):.2f}, {sizes[-1]:.2f}"


def cost(playwright: Playwright, url: str) -> None:
    """Print what watching costs: processor time of the whole browser, beside the same page that does not watch."""
    with tempfile.TemporaryDirectory() as folder:
        film = pathlib.Path(folder) / "sky.y4m"
        scene = WatchedScene(made_up_sky(SkyKind.BROKEN_CLOUD, 1).at, 1, Disturbed(), (320, 240))
        with film.open("wb") as file:
            file.writelines(y4m((scene.frame(turn / 2) for turn in range(120)), 2))
        fake = ["device-for-media-stream", "ui-for-media-stream"]
        flags = [*(f"--use-fake-{flag}" for flag in fake), f"--use-file-for-fake-video-capture={film}"]
        browser = playwright.chromium.launch(**{**CHROMIUM, "args": [*CHROMIUM["args"], *flags]})
        page = browser.new_page()
        page.context.add_cookies([{"name": "jackstaff_visited", "value": "1", "url": url}])
        page.add_init_script(HELD)
        page.goto(url)
        page.get_by_test_id("answer-time").wait_for()
        page.get_by_role("button", name="New reading").click()
        page.wait_for_timeout(3000)
        idle = _share(browser, page)
        page.get_by_role("button", name="More", exact=True).click()
        page.get_by_role("button", name="Watch the light").click()
        page.get_by_text("metered, ±").wait_for(timeout=60_000)
        page.wait_for_timeout(5000)
        watching = _share(browser, page)
        browser.close()
    own, busy = (watching[place] - idle[place] for place in (0, 1))
    print("Watching the light with the camera's film, beside the same page that does not watch:")
    print(f"  the whole browser: {watching[0]:.1%} : {idle[0]:.1%} of one processor = {own:.1%} for it")
    print(f"  the page, {PHONE} times as slow: {watching[1]:.1%} : {idle[1]:.1%} = {busy:.1%} (aim under 10 %)")


def _share(browser: Browser, page: Page) -> tuple[float, float]:
    """Processor time of all the browser's processes as a share of a while; the page's own, slowed, of another."""
    whole, own = browser.new_browser_cdp_session(), page.context.new_cdp_session(page)
    own.send("Performance.enable")

    def spent() -> float:
        return math.fsum(each["cpuTime"] for each in whole.send("SystemInfo.getProcessInfo")["processInfo"])

    def busy() -> float:
        told = {each["name"]: each["value"] for each in own.send("Performance.getMetrics")["metrics"]}
        return float(told["TaskDuration"])

    free = _in_a_while(page, spent)
    own.send("Emulation.setCPUThrottlingRate", {"rate": PHONE})
    slowed = _in_a_while(page, busy)
    own.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    return free, slowed


def _in_a_while(page: Page, count: Callable[[], float]) -> float:
    begun, before = time.perf_counter(), count()
    page.wait_for_timeout(WHILE_MS)
    return (count() - before) / (time.perf_counter() - begun)


if __name__ == "__main__":
    table()
    with tempfile.TemporaryDirectory() as data, serving(pathlib.Path(data)) as server, sync_playwright() as playwright:
        cost(playwright, server.url)
