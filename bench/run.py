"""Speeds as ratios against a reference in the same run. Run by ``make bench``."""

from __future__ import annotations

import http.client
import json
import os
import statistics
import tempfile
import time
from datetime import date
from pathlib import Path
from urllib.parse import urlparse

from playwright.sync_api import Browser, sync_playwright
from tools.serving import CHROMIUM, serving

from bench import drawing, finder, firstload, light, log, offline, table, timing
from bench.table import ratio, row

ROUNDS = 1500
PRESSES = 120
QUESTION = json.dumps(
    {
        "reading": {"shutter": "1/40", "aperture": "9", "iso": "64"},
        "stack": [{"stops": 9, "offset": 0.2, "offset_sd": 0.1}, {"label": "4 stops"}],
        "settings": {"aperture": "11"},
    }
)


def main() -> None:
    finder.main()
    drawing.main()
    light.main()
    log.main()
    with tempfile.TemporaryDirectory() as data, serving(Path(data)) as server:
        _exposure_against_health(server.url)
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(**CHROMIUM)
            _key_to_paint(browser, server.url)
            log.pages(browser)
            firstload.main(browser, server.url)
            timing.main(browser, server.url)
            offline.main(browser, server.url)
            browser.close()
    table.write(date.today(), f"{os.cpu_count()} processors shared with others; quote the ratios")  # noqa: DTZ011


def _percentiles(times: list[float]) -> tuple[float, float]:
    return statistics.median(times), statistics.quantiles(times, n=20)[-1]


def _exposure_against_health(url: str) -> None:
    """Return both asked in turn over one kept connection, so that drift of the machine hits both alike."""
    place = urlparse(url)
    connection = http.client.HTTPConnection(place.hostname or "", place.port)
    times: dict[str, list[float]] = {"health": [], "exposure": []}
    for turn in range(ROUNDS + 100):
        for name, method, body in (("health", "GET", None), ("exposure", "POST", QUESTION)):
            begun = time.perf_counter()
            connection.request(method, f"/api/{name}", body, {"Content-Type": "application/json"})
            connection.getresponse().read()
            if turn >= 100:
                times[name].append(time.perf_counter() - begun)
    (health, health95), (exposure, exposure95) = (_percentiles(times[name]) for name in ("health", "exposure"))
    what = "`POST /api/exposure` to `GET /api/health`, which asks the database once"
    ratio(f"{what}, p50", exposure * 1e3, health * 1e3, "ms", "1.5 or less")
    ratio("the same, p95", exposure95 * 1e3, health95 * 1e3, "ms", "1.5 or less")


def _key_to_paint(browser: Browser, url: str) -> None:
    """From the press of a glass's number to the frame that shows its answer, each answer a new one."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    # A guest's reading has twenty marks to step to either side.
    page.context.add_cookies([{"name": "jackstaff_visited", "value": "1", "url": url}])
    page.goto(url)
    page.wait_for_selector("[data-testid=answer-time]")
    page.keyboard.press("s")
    times: list[float] = page.evaluate(
        """async (presses) => {
            const taken = [];
            const field = document.activeElement;
            const answer = document.querySelector(".bench-answer");
            // A task posted from a frame callback runs once that frame is painted.
            const painted = () => new Promise((done) => requestAnimationFrame(() => {
                const { port1, port2 } = new MessageChannel();
                port1.onmessage = done;
                port2.postMessage(null);
            }));
            for (let turn = 0; turn < presses; turn += 1) {
                await new Promise((done) => setTimeout(done, 20 + Math.random() * 40));
                const changed = new Promise((done) => {
                    const before = answer.querySelector("[data-testid=answer-time]").textContent;
                    const watch = new MutationObserver(() => {
                        if (answer.querySelector("[data-testid=answer-time]").textContent === before) return;
                        watch.disconnect();
                        done();
                    });
                    watch.observe(answer, { subtree: true, childList: true, characterData: true });
                });
                const key = turn % 40 < 20 ? "ArrowUp" : "ArrowDown";
                const begun = performance.now();
                field.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
                await changed;
                await painted();
                taken.push(performance.now() - begun);
            }
            return taken;
        }""",
        PRESSES,
    )
    page.close()
    middle, slow = _percentiles(times)
    what = "key press to painted answer in Chromium, p50 / p95; one frame of the screen is 17 ms"
    row(what, f"{middle:.0f} ms / {slow:.0f} ms", "p95 under 50 ms")


if __name__ == "__main__":
    main()
