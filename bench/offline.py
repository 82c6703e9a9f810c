"""The core in the browser against the server's, asked the same in turn in the same visit."""

from __future__ import annotations

import json
import statistics
from typing import Any

from playwright.sync_api import Browser, Page
from tests.browser.test_offline import MORE
from tests.core.test_questions import SAMPLES

from bench.table import row

PHONE = 4
"""A phone in the field is so many times as slow; a browser slows no worker down, so it is reckoned."""
BOOTS = 5
ASKED = {"exposure": 60, "steer": 60, "stacks": 8, "outing/days": 4}
_BOOT = """async (times) => {
    const { shell } = await (await fetch("/files.json")).json();
    const address = shell.find((name) => name.includes("/worker-"));
    const taken = [];
    for (let turn = 0; turn < times; turn += 1) {
        const begun = performance.now();
        window.engine?.terminate();
        window.engine = new Worker(address, { type: "module" });
        await new Promise((done, fail) => {
            window.engine.onmessage = ({ data }) => (data.kind === "ready" ? done() : fail(new Error(data.text)));
        });
        taken.push(performance.now() - begun);
    }
    return taken;
}"""
_ASK = """async ([name, bodies]) => {
    const taken = { engine: [], server: [] };
    let id = 0;
    for (const text of bodies) {
        let begun = performance.now();
        await new Promise((done) => {
            window.engine.onmessage = done;
            window.engine.postMessage({ id: (id += 1), name, body: text });
        });
        taken.engine.push(performance.now() - begun);
        begun = performance.now();
        const got = await fetch("/api/" + name, {
            method: "POST", body: text, headers: { "Content-Type": "application/json" },
        });
        await got.text();
        taken.server.push(performance.now() - begun);
    }
    return taken;
}"""


def main(browser: Browser, url: str) -> None:
    """Print boots, and each question's time in the engine beside the server's over the loopback."""
    context = browser.new_context()
    context.add_cookies([{"name": "jackstaff_visited", "value": "1", "url": url}])
    context.set_default_timeout(300_000)
    page = context.new_page()
    page.goto(url)
    page.wait_for_selector("[data-testid=answer-time]")
    _sizes(page)
    first, *again = page.evaluate(_BOOT, BOOTS)
    what = "the core's start in the browser, first / again"
    row(what, f"{first / 1e3:.1f} s / {statistics.median(again) / 1e3:.1f} s")
    for name, times in ASKED.items():
        taken = page.evaluate(_ASK, [name, [json.dumps(body) for body in _different(name, times)]])
        engine, server = (statistics.quantiles(taken[key], n=20)[-1] for key in ("engine", "server"))
        what = f"{name} asked of the browser's core to the same asked of the server over the loopback, p95"
        figure = f"{engine / server:.2f} ({engine:.0f} ms to {server:.0f} ms)"
        row(what, figure, f"on a phone four times as slow {engine * PHONE:.0f} ms")
    context.close()


def _different(name: str, times: int) -> list[dict[str, Any]]:
    """Return the sample, each time with other numbers, so that no answer is remembered."""
    sample: dict[str, Any] = (SAMPLES | MORE)[name]
    if "days" in sample:
        sample = {**sample, "days": 14}
    numbers = {key: value for key, value in sample.items() if isinstance(value, float) and not isinstance(value, bool)}
    return [{**sample, **{key: value * (1 + turn / 1000) for key, value in numbers.items()}} for turn in range(times)]


def _sizes(page: Page) -> None:
    sizes = page.evaluate(
        """async () => {
            const names = ["pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "python_stdlib.zip", "core.zip"];
            const of = async (name) => (await fetch("/py/" + name)).blob();
            const whole = await Promise.all(names.map(of));
            const on = performance.getEntriesByType("resource").filter(({ name }) => name.includes("/py/"));
            const sum = (sizes) => sizes.reduce((all, size) => all + size, 0);
            return [sum(on.map(({ encodedBodySize }) => encodedBodySize)), sum(whole.map(({ size }) => size))];
        }"""
    )
    row("taken along: on the way / kept", f"{sizes[0] / 1e6:.1f} MB / {sizes[1] / 1e6:.1f} MB")
