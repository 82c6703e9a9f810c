"""How true a run's clock is over ten real minutes, with its page in front and with its page put away.

Two visitors open the simulated shutter at the same time; one page stays in front, the other is hidden behind another
tab, where the browser holds its timers back. The reference is this process's own monotonic clock.
"""

from __future__ import annotations

import os
import time
from typing import Any

from playwright.sync_api import Browser, Page, expect
from tests.browser.conftest import get_ready
from tools.browserdata import kept, noted

from bench.table import row

MINUTES = float(os.environ.get("JACKSTAFF_BENCH_MINUTES", "10"))


def main(browser: Browser, url: str) -> None:
    """Print the error of the count, and how late each page notices its end."""
    pages = {"in front": _opened(browser, url), "put away": _opened(browser, url)}
    hidden = pages["put away"][0].context.new_page()
    hidden.goto(url + "/log")
    hidden.bring_to_front()
    begun = time.monotonic()
    while time.monotonic() - begun < MINUTES * 60:
        pages["in front"][0].wait_for_timeout(1000)
    for name, (page, opened, opened_at) in pages.items():
        # What the page counts and what this clock says, read as close together as can be.
        before = time.monotonic()
        counted, age = _counted(page, opened_at)
        after = time.monotonic()
        error = counted + age - ((before + after) / 2 - opened)
        what = f"ending a run of {MINUTES:g} minutes to this process's own clock, page {name}"
        row(what, f"{abs(error) * 1e3:.0f} ms off", "50 ms or less")
        page.context.close()


def _opened(browser: Browser, url: str) -> tuple[Page, float, float]:
    """Return a page with its shutter open, when that was on this process's clock, and on the wall [s]."""
    context = browser.new_context()
    context.add_cookies([{"name": "jackstaff_visited", "value": "1", "url": url}])
    context.set_default_timeout(300_000)
    page = context.new_page()
    page.goto(url)
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    for key in ("2", "1"):
        page.keyboard.press(key)
    expect(page.get_by_test_id("answer-time")).to_contain_text("27m")
    get_ready(page)
    page.get_by_role("button", name="Several frames, watch light").click()
    page.get_by_text("simulated trigger").click()
    page.get_by_role("complementary").get_by_role("button", name="Done").click()
    page.get_by_label("Countdown").select_option("0")
    page.get_by_role("button", name="Open the shutter").click()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    frame: dict[str, Any] = kept(page, "frame")[0]["content"]
    # The opening on this process's clock: the same wall shows both.
    opened_at = float(page.evaluate("at => Date.parse(at) / 1000", frame["opened_at"]))
    return page, time.monotonic() - (time.time() - opened_at), opened_at


def _counted(page: Page, opened_at: float) -> tuple[float, float]:
    """Return the page's last sign of life: how long it counted the shutter open, and how old that is [s]."""
    alive = noted(page, "alive")
    return float(alive["at"]) / 1000 - opened_at, float(page.evaluate("Date.now()") - alive["wall"]) / 1000
