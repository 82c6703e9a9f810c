"""Retake docs/screenshots from demo data: ``make shots``."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from jackstaff_core.motion.looks import LooksQuestion
from jackstaff_core.motion.subjects import Camera, Subject
from tools.serving import CHROMIUM, ROOT, Server, serving

SCENE = LooksQuestion(Camera(24.0, elevation_deg=8.0, bearing_deg=300.0), (Subject("sea", {"height_m": 0.6}),))
FOLDER = ROOT / "docs" / "screenshots"
DESK, PHONE = (1280, 800), (390, 844)


def bench(page: Page) -> None:
    """As the demo opens it: its own dawn, a look chosen, the light on the move."""
    page.wait_for_timeout(2500)


def armed(page: Page) -> None:
    bench(page)
    page.wait_for_timeout(300)
    page.get_by_role("button", name="Get ready").click()
    page.get_by_role("heading", name="Ready to open").wait_for()
    page.wait_for_timeout(2500)


def running(page: Page) -> None:
    armed(page)
    page.get_by_label("Countdown").select_option("0")
    page.get_by_role("button", name="Open the shutter").click()
    page.get_by_role("button", name="It opened before I pressed").click()
    page.get_by_label("Opened this many seconds ago").fill("20")
    page.get_by_label("Opened this many seconds ago").press("Enter")
    page.get_by_role("button", name="Done").click()


def closed(page: Page) -> None:
    """Return a frame that the hand has closed, judged a third too dark."""
    running(page)
    page.wait_for_timeout(900)
    page.get_by_role("button", name="Close").hover()
    page.mouse.down()
    page.wait_for_timeout(900)
    page.mouse.up()
    page.get_by_role("slider", name="How did it come out?").fill("-1")
    page.get_by_text("Again, corrected").wait_for()
    page.wait_for_timeout(2500)


def watching(page: Page) -> None:
    """Return a made-up sky whose clouds come and go, watched since the metering, until the light has left the plan."""
    bench(page)
    page.get_by_role("button", name="New reading").click()
    page.get_by_role("button", name="More", exact=True).click()
    page.get_by_role("button", name="Watch a simulated sky").click()
    page.get_by_text("metered, ±").wait_for(timeout=60_000)
    page.get_by_role("button", name="Get ready").click()
    page.get_by_label("Countdown").select_option("0")
    page.get_by_role("button", name="Open the shutter").click()
    page.get_by_text("by the light seen it closes at").wait_for(timeout=120_000)
    page.wait_for_timeout(6000)


def alternatives(page: Page) -> None:
    for key in ("t", *["ArrowUp"] * 8):
        page.keyboard.press(key)
    page.get_by_role("complementary").get_by_role("button", name="Done").click()
    page.get_by_label("Work out").select_option(label="filters")
    page.wait_for_timeout(900)


def looks(page: Page) -> None:
    # The demo aims for a mirror already.
    page.keyboard.press("w")
    page.get_by_role("dialog").get_by_role("button", name="gone").click()
    page.wait_for_timeout(600)


def drawing(page: Page) -> None:
    looks(page)
    page.keyboard.press("Escape")
    page.wait_for_timeout(400)
    page.keyboard.press("p")
    page.wait_for_selector("figure [data-state=there]")
    page.wait_for_timeout(2500)


def outing(page: Page) -> None:
    page.get_by_role("link", name="Outing").filter(visible=True).click()
    page.wait_for_timeout(1500)
    page.get_by_label("The light over the clock").focus()
    for _ in range(5):
        page.keyboard.press("PageUp")


def days(page: Page) -> None:
    page.get_by_role("link", name="Outing").filter(visible=True).click()
    page.get_by_role("button", name="Which day?").click()
    page.wait_for_selector(".days-list li")
    page.get_by_role("button", name="Simulated waters").click()
    page.get_by_label("What matters").select_option("low water near sunrise")
    page.wait_for_timeout(1500)


def bag(page: Page) -> None:
    page.get_by_role("link", name="Bag").filter(visible=True).click()
    page.wait_for_selector(".filter-tile")
    page.wait_for_timeout(1200)


def filter_open(page: Page) -> None:
    bag(page)
    page.locator(".filter-tile", has_text="Slot ND 9").click()


def log(page: Page) -> None:
    page.keyboard.press("l")
    page.wait_for_selector(".log-row")


def practice(page: Page) -> None:
    log(page)
    # The same question each time it is taken.
    page.evaluate("Math.random = () => 0.1")
    page.get_by_role("link", name="Practice").click()
    page.get_by_label("Your answer").fill("30 s")
    page.keyboard.press("Enter")
    page.wait_for_selector(".drill-staff svg")


def dry_run(page: Page) -> None:
    """Falls under beech: a frame with everything on the list forgotten, then one with all of it done."""
    log(page)
    page.get_by_role("link", name="Practice").click()
    page.get_by_role("link", name="Dry runs").click()
    page.get_by_role("button", name="Begin: Falls under beech").click()
    for done in (False, True):
        page.get_by_role("button", name="Meter bare").click()
        page.get_by_text("just now").wait_for()
        if not done:
            page.get_by_role("button", name="More", exact=True).click()
            page.get_by_role("button", name="Slot ND 6, f").first.click()
        page.get_by_role("button", name="Get ready").click()
        page.wait_for_selector(".arm-list input")
        for _ in range(page.locator(".arm-list input").count() if done else 0):
            page.locator(".arm-list input").first.check()
        page.get_by_label("Countdown").select_option("0")
        page.get_by_role("button", name="Open the shutter").click()
        page.wait_for_selector(".dry-frame .dry-histogram")
        if not done:
            page.get_by_role("link", name="Bench", exact=True).filter(visible=True).click()


def replay(page: Page) -> None:
    dry_run(page)
    page.get_by_role("button", name="Pack up").click()
    page.get_by_role("dialog").get_by_role("button", name="Pack up").click()
    page.wait_for_selector(".replay-losses")
    page.set_viewport_size({"width": DESK[0], "height": 1500})


def frame(page: Page) -> None:
    log(page)
    page.get_by_role("listitem").filter(has_text="Cloud drawn out").get_by_role("link").click()
    page.wait_for_timeout(1000)


SHOTS: tuple[tuple[str, Callable[[Page], None], tuple[int, int], str], ...] = (
    ("bench", bench, DESK, "noon"),
    ("bench-drawing", drawing, DESK, "noon"),
    ("bench-alternatives", alternatives, DESK, "dusk"),
    ("looks", looks, DESK, "noon"),
    ("outing", outing, DESK, "noon"),
    ("outing-days", days, DESK, "noon"),
    ("bag", bag, DESK, "noon"),
    ("bag-filter", filter_open, DESK, "noon"),
    ("bench-phone", bench, PHONE, "noon"),
    ("run-watching", watching, DESK, "noon"),
    ("run-ready", armed, DESK, "noon"),
    ("run-open-red", running, DESK, "red"),
    ("run-closed", closed, DESK, "noon"),
    ("run-open-phone", running, PHONE, "red"),
    ("log", log, DESK, "noon"),
    ("log-frame", frame, DESK, "noon"),
    ("practice", practice, DESK, "noon"),
    ("dry-run", dry_run, DESK, "noon"),
    ("dry-run-replay", replay, DESK, "noon"),
)


ALONE = {"bench-phone", "run-open-phone"}
"""Taken along, and the server gone."""


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(**CHROMIUM)
        for name, bring_up, size, light in [shot for shot in SHOTS if not sys.argv[1:] or shot[0] in sys.argv[1:]]:
            # Each picture starts from fresh demo data, so that one's frames are not in another.
            with tempfile.TemporaryDirectory() as data, serving(Path(data)) as server:
                _take(browser, server, name, bring_up, size, light)
            print(f"docs/screenshots/{name}.png")
        browser.close()


def _take(
    browser: Browser, server: Server, name: str, bring_up: Callable[[Page], None], size: tuple[int, int], light: str
) -> None:
    phone = size == PHONE
    url = server.url
    context = browser.new_context(
        viewport={"width": size[0], "height": size[1]},
        has_touch=phone,
        is_mobile=phone,
        timezone_id="Europe/Oslo",
        locale="en-GB",
    )
    context.add_cookies([{"name": "jackstaff_light", "value": light, "url": url}])
    page = context.new_page()
    # Half past five on the demo's own morning: a dawn in progress.
    page.clock.install(time="2027-04-17T03:52:00Z")
    page.goto(url)
    page.wait_for_selector("[data-testid=answer-time]")
    if name in ALONE:
        _alone(page, server)
    bring_up(page)
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / f"{name}.png")
    context.close()


def _alone(page: Page, server: Server) -> None:
    page.get_by_role("link", name="Bag").filter(visible=True).click()
    page.get_by_role("button", name="Account demo").filter(visible=True).click()
    page.get_by_role("button", name="Take it with me").click()
    page.get_by_text("With you.").wait_for(timeout=90_000)
    page.keyboard.press("Escape")
    page.get_by_role("dialog").wait_for(state="hidden")
    page.get_by_role("link", name="Bench", exact=True).filter(visible=True).click()
    page.wait_for_selector("[data-testid=answer-time]")
    server.kill()
    # Whoever asks next finds nobody.
    page.keyboard.press("1")
    page.get_by_text("No signal: all of this works here.").wait_for()
    page.keyboard.press("1")


if __name__ == "__main__":
    main()
