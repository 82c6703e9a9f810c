"""What a visit costs: until the answer is painted, in bytes, and while nothing happens."""

from __future__ import annotations

import statistics

from playwright.sync_api import Browser, BrowserContext, Page, Request

from bench.table import row

VISITS = 9
IDLE_SECONDS = 60
SETTLED_MS = 6000
FIRST_VISIT_AIM = 150_000
_PAINTED = """() => new Promise((done) => {
    const look = () => {
        const answer = performance.getEntriesByName("jackstaff-answer-painted")[0];
        const shell = performance.getEntriesByName("first-contentful-paint")[0];
        if (answer && shell) done([answer.startTime, shell.startTime]);
        else setTimeout(look, 20);
    };
    look();
})"""


def main(browser: Browser, url: str) -> None:
    """Print each figure beside what it is held against."""
    _painted(browser, url)
    _slowly(browser, url)
    _bytes(browser, url)
    _idle(browser, url)


def _guest(browser: Browser, url: str) -> BrowserContext:
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.add_cookies([{"name": "jackstaff_visited", "value": "1", "url": url}])
    # A busy machine is slow, not wrong.
    context.set_default_timeout(300_000)
    return context


def _painted(browser: Browser, url: str) -> None:
    """Navigation to the painted answer, against the first paint of anything in the same visit."""
    rows: dict[str, list[tuple[float, float]]] = {"a first visit": [], "a returning visit": []}
    for _ in range(VISITS):
        context = _guest(browser, url)
        page = context.new_page()
        page.goto(url)
        rows["a first visit"].append(tuple(page.evaluate(_PAINTED)))
        # The last answers are kept a moment after the hands rest.
        page.wait_for_timeout(2500)
        page.goto("about:blank")
        page.goto(url)
        rows["a returning visit"].append(tuple(page.evaluate(_PAINTED)))
        context.close()
    for name, times in rows.items():
        answer, shell = (statistics.median(each) for each in zip(*times, strict=True))
        ratio = statistics.median(painted / first for painted, first in times)
        aim = "1.3 or less" if name == "a returning visit" else ""
        what = f"navigation to painted answer to the page's first paint, {name}"
        row(what, f"{ratio:.2f} ({answer:.0f} ms to {shell:.0f} ms)", aim)


def _slowly(browser: Browser, url: str) -> None:
    """Return the same with the page's processor slowed down to a phone's."""
    taken: dict[str, list[float]] = {"first": [], "returning": []}
    for _ in range(5):
        context = _guest(browser, url)
        page = context.new_page()
        context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": 4})
        for times in taken.values():
            page.goto("about:blank")
            page.goto(url)
            times.append(page.evaluate(_PAINTED)[0])
            page.wait_for_timeout(2500)
        context.close()
    first, returning = (statistics.median(times) / 1000 for times in taken.values())
    what = "the same visits with the page's processor four times as slow, first / returning"
    row(what, f"{first:.2f} s / {returning:.2f} s", "2 s / 1 s")


def _bytes(browser: Browser, url: str) -> None:
    """Return what comes over the wire until the answer of a first visit stands there, compressed as it comes."""
    context = _guest(browser, url)
    page = context.new_page()
    finished: list[Request] = []
    page.on("requestfinished", lambda request: finished.append(request))  # noqa: PLW0108 (Playwright inspects it)
    page.goto(url)
    page.evaluate(_PAINTED)
    page.wait_for_timeout(300)
    sizes: dict[str, int] = {}
    for request in finished:
        kind = _kind(request.url)
        sizes[kind] = sizes.get(kind, 0) + request.sizes()["responseBodySize"]
    whole = sum(size for kind, size in sizes.items() if kind != "typeface")
    parts = " + ".join(f"{sizes.get(name, 0) / 1e3:.1f}" for name in ("script", "style", "page", "answer"))
    what = "a first visit over the wire: script + style + page + answers; typefaces beside it"
    said = f"{parts} = {whole / 1e3:.1f} kB; {sizes.get('typeface', 0) / 1e3:.0f} kB"
    row(what, said, f"{FIRST_VISIT_AIM / 1e3:.0f} kB")
    context.close()


def _kind(address: str) -> str:
    if "/api/" in address:
        return "answer"
    ends = {".js": "script", ".css": "style", ".woff2": "typeface"}
    return next((kind for end, kind in ends.items() if address.endswith(end)), "page")


def _idle(browser: Browser, url: str) -> None:
    """Count the requests of a page that nobody touches, each screen for its share of a minute."""
    context = _guest(browser, url)
    page = context.new_page()
    idle: list[str] = []
    for path in ("/", "/outing", "/log", "/kit"):
        page.goto(url + path)
        page.wait_for_timeout(SETTLED_MS)
        idle.append(str(_asked(page)))
    what = f"requests of bench, outing, log, bag in {IDLE_SECONDS} s while nobody touches them"
    row(what, ", ".join(idle), "0")
    context.close()


def _asked(page: Page) -> int:
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url))
    page.wait_for_timeout(IDLE_SECONDS * 1000)
    return len(asked)
