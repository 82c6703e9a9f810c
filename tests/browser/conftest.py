"""Debian's Chromium against the running server: as the demo account, as another one, signed out."""

from __future__ import annotations

import os
import re
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Error, Locator, Page, Response, Route, expect
from tools.browserdata import kept
from tools.serving import CHROMIUM, Server, records

from tests.conftest import OTHER_PASSWORD

# Playwright's loop runs in this thread, and pytest-django's teardown would refuse to touch the ORM in it.
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

SLOWER = float(os.environ.get("JACKSTAFF_SLOWER", "1"))
"""How many times slower every page works than this machine could: ``make test-slow`` finds what needs a quick one."""

# A busy machine is slow, not wrong: whatever must come is waited for this long, everywhere.
PATIENCE_S = int(15 * SLOWER)
expect.set_options(timeout=PATIENCE_S * 1000)

DESK = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return CHROMIUM


def until(page: Page, expression: str, seconds: float = PATIENCE_S) -> None:
    """Wait for something in the page; asked from outside, because the page's policy forbids it to evaluate text."""
    for _ in range(int(seconds * 20)):
        if page.evaluate(expression):
            return
        page.wait_for_timeout(50)
    raise AssertionError(f"not within {seconds} s: {expression}")


def in_its_own_letters(page: Page) -> None:
    """Before anything is measured: until a page's letters have come, others stand there that are wider."""
    page.evaluate("document.fonts.ready.then(() => null)")


def frames(page: Page) -> list[dict[str, Any]]:
    """The frames in this browser, the newest first."""
    docs = sorted(kept(page, "frame"), key=lambda doc: str(doc["sort"]), reverse=True)
    return [doc["content"] for doc in docs if doc["content"]]


def eventually(page: Page, holds: Callable[[], bool], what: str = "it") -> None:
    """Wait for something outside the page: what is written here goes to the account a moment later."""
    for _ in range(PATIENCE_S * 20):
        if holds():
            return
        page.wait_for_timeout(50)
    raise AssertionError(f"{what} did not come about")


def _in_seconds(clock: str) -> int:
    hours, minutes, seconds = [0, *map(int, clock.split(":"))][-3:]
    return hours * 3600 + minutes * 60 + seconds


def expect_planned(page: Page, seconds: int) -> None:
    """What is to go and what has been open are so long together, whenever one comes to look."""

    def holds() -> bool:
        to_go, gone = page.evaluate(
            "['.run-left', '.flag-clock text'].map((part) => document.querySelector(part).firstChild.data)"
        )
        return abs(_in_seconds(to_go) + _in_seconds(gone.removesuffix(" open")) - seconds) <= 1

    expect(page.get_by_test_id("run-left")).to_be_visible()
    eventually(page, holds, f"a plan of {seconds} s")


def rested(page: Page) -> None:
    """Nothing acts for a moment after Run has changed: wait for it to be over."""
    expect(page.locator(".moment")).not_to_have_count(0)
    expect(page.locator(".moment[data-resting]")).to_have_count(0)


def at_rest(page: Page) -> None:
    """Wait until the page has changed nothing for a tenth of a second."""
    page.evaluate("""() => new Promise((done) => {
      let quiet = setTimeout(finish, 100);
      const seen = new MutationObserver(() => { clearTimeout(quiet); quiet = setTimeout(finish, 100); });
      function finish() { seen.disconnect(); done(null); }
      seen.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
      setTimeout(finish, 5000);
    })""")


def hold_back(page: Page, path: str) -> list[Route]:
    """Keep answers of a path until they are let go."""
    waiting: list[Route] = []
    page.route(f"**{path}", lambda route: waiting.append(route))  # noqa: PLW0108 (Playwright inspects it)
    return waiting


def may_be_held_back(page: Page) -> None:
    """A page loaded before the first thing is put in its way may let its next request pass by it."""
    page.route("**/api/health", lambda route: route.continue_())
    page.reload()


def let_go(page: Page, path: str, waiting: list[Route]) -> None:
    """Let them through, those that nobody waits for any more included."""
    for route in waiting:
        with suppress(Error):
            route.continue_()
    page.unroute(f"**{path}")


def work_out(page: Page, what: str) -> None:
    """Choose what is worked out: time, filters, f-stop, ISO or when."""
    page.get_by_label("Work out").select_option(label=what)


def more(page: Page) -> Locator:
    """Open what the bench's first view leaves out, where it is not open."""
    opener = page.get_by_role("button", name="More", exact=True)
    if opener.get_attribute("aria-expanded") == "false":
        opener.click()
    panel = page.get_by_role("complementary", name="More")
    expect(panel).to_be_visible()
    return panel


def working(page: Page) -> None:
    """Show the working, line by line."""
    panel = more(page)
    if not panel.get_by_role("table").is_visible():
        panel.get_by_text("Working", exact=True).click()


def several(page: Page) -> Locator:
    """Open what a single frame does not need, where it is not open."""
    opener = page.get_by_role("button", name="Several frames, watch light")
    if opener.get_attribute("aria-expanded") == "false":
        opener.click()
    panel = page.get_by_role("complementary", name="Several frames")
    expect(panel).to_be_visible()
    return panel


def of_outing(page: Page, name: str) -> Locator:
    """Open a part of the outing that its first view leaves out, where it is not open."""
    opener = page.get_by_role("button", name=re.compile(f"^{name}(,|$)"))
    expect(opener.or_(page.get_by_role("complementary")).first).to_be_visible()
    if not opener.is_visible():
        # On a phone one panel stands in the place of everything else.
        done(page)
    if opener.get_attribute("aria-expanded") == "false":
        opener.click()
    panel = page.get_by_role("complementary", name=name)
    expect(panel).to_be_visible()
    return panel


def outing_named(page: Page) -> Locator:
    """The name of the outing, to be read or typed."""
    return of_outing(page, "Place, sky, water").get_by_label("Place, in your words")


def outings_offered(page: Page) -> Locator:
    """The choice among the outings."""
    return of_outing(page, "Other outings").get_by_label("Outing", exact=True)


def copied_outing(page: Page) -> None:
    of_outing(page, "Other outings").get_by_role("button", name="Copy").click()


def done(page: Page) -> None:
    """Put away the panel that is open."""
    page.get_by_role("complementary").get_by_role("button", name="Done").click()


def no_countdown(page: Page) -> None:
    """Open at once; whatever panel is open is put away first."""
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    if page.get_by_role("complementary").is_visible():
        done(page)
    page.get_by_label("Countdown").select_option("0")


def judge(page: Page, thirds: int) -> None:
    """Say how bright a frame came out [thirds of a stop]."""
    if thirds == 0:
        page.get_by_role("group", name="How did it come out?").get_by_role("button", name="good").click()
    else:
        page.get_by_role("slider", name="How did it come out?").fill(str(thirds))


def also_seen(page: Page) -> Locator:
    """Open what else is to be said of a closed frame."""
    opener = page.get_by_role("button", name="What else do you see?")
    if opener.is_visible():
        opener.click()
    return page.get_by_role("complementary", name="What else do you see?")


def see_the_log(page: Page) -> None:
    """From a closed frame to the log."""
    also_seen(page).get_by_role("link", name="See the log").click()


def in_the_picture(page: Page, *kinds: str) -> None:
    """Say what moves in the picture: Sea, Cloud, People and their like."""
    row = more(page).get_by_role("region", name="What moves in your picture?")
    for kind in kinds:
        row.get_by_role("button", name=kind, exact=True).click()
        row.get_by_role("button", name="can't say").click()


def begin_to_type(page: Page) -> None:
    """On the log's page: a frame by hand, half typed."""
    page.get_by_role("button", name="Add a frame by hand").click()
    page.get_by_label("Open for").fill("7 min")


def to_page(page: Page, path: str) -> None:
    """Go to a page as a link does, without loading anew."""
    page.evaluate("(path) => history.pushState({}, '', path)", path)


class Visit:
    """One visitor's own browser profile, with everything that went wrong in it."""

    def __init__(
        self, browser: Browser, server: Server, *, phone: bool = False, visited: bool = False, zone: str | None = None
    ) -> None:
        self.server = server
        self.wrong: list[str] = []
        self.context: BrowserContext = browser.new_context(
            viewport=PHONE if phone else DESK,  # type: ignore[arg-type]
            has_touch=phone,
            is_mobile=phone,
            reduced_motion="reduce",
            color_scheme="light",
            locale="en-GB",
            timezone_id=zone,
        )
        if visited:
            self.context.add_cookies([{"name": "jackstaff_visited", "value": "1", "url": server.url}])
        self.context.set_default_timeout(PATIENCE_S * 1000)
        self.page = self.tab()

    def tab(self, path: str = "/") -> Page:
        """Another tab of the same visitor."""
        page = self.context.new_page()
        page.on("console", self._hear)
        page.on("pageerror", lambda error: self.wrong.append(str(error)))
        page.on("response", self._see)
        if SLOWER > 1:
            self.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
        page.goto(self.server.url + path)
        return page

    def _hear(self, message: ConsoleMessage) -> None:
        # What a test's own taking away of the network makes the browser say is no fault of the page.
        refusal = "status of 4" in message.text or "ERR_INTERNET_DISCONNECTED" in message.text
        if message.type in {"error", "warning"} and not refusal:
            self.wrong.append(message.text)

    def _see(self, response: Response) -> None:
        if response.status >= 500:
            self.wrong.append(f"{response.status} {response.url}")

    def sign_in(self, name: str = "edda", password: str = OTHER_PASSWORD) -> None:
        """Sign in on the bag's page, and go back to where one was."""
        with self._at_the_bag():
            self.page.get_by_role("button", name="Sign in").click()
            dialog = self.page.get_by_role("dialog")
            dialog.get_by_label("Name").fill(name)
            dialog.get_by_label("Password").fill(password)
            dialog.get_by_role("button", name="Sign in").click()
            expect(dialog).to_be_hidden()

    def sign_out(self, name: str = "edda") -> None:
        with self._at_the_bag():
            self.page.get_by_role("button", name=f"Account {name}").click()
            dialog = self.page.get_by_role("dialog")
            dialog.get_by_role("button", name="Sign out", exact=True).click()
            meant, left = (
                dialog.get_by_role("button", name="Sign out all the same"),
                self.page.get_by_role("button", name="Sign in"),
            )
            expect(meant.or_(left)).to_be_visible()
            if meant.is_visible():
                meant.click()
            expect(left).to_be_visible()

    @contextmanager
    def _at_the_bag(self) -> Iterator[None]:
        """Go to the bag within the page, as a link does, and back."""
        was = self.page.evaluate("location.pathname + location.search")
        to_page(self.page, "/bag")
        yield
        to_page(self.page, was)


SHARED = ("edda", "joar")
"""Accounts that many tests sign in to; none is to meet what another left there."""
_OF_A_FRAME = ("frameevent", "frameglass", "framedefect", "framepicture")


_KITS: dict[Path, dict[str, list[tuple[Any, ...]]]] = {}
"""What the shared accounts owned at first, by the server's folder."""


def _rows(database: Any, table: str, own: str) -> list[tuple[Any, ...]]:
    of_kit = " AND kind = 'kit'" if table == "revision" else ""
    return list(database.execute(f"SELECT * FROM records_{table} WHERE {own}{of_kit}", SHARED).fetchall())  # noqa: S608


@pytest.fixture(autouse=True)
def _nothing_left_behind(server: Server) -> None:
    """Empty the shared accounts' log, outings and looks, straight in the database of this worker's own server; their
    kit is again what it was when the server started."""
    marks = ", ".join("?" * len(SHARED))
    own = f"account_id IN (SELECT id FROM auth_user WHERE username IN ({marks}))"  # noqa: S608
    with records(server) as database:
        for table in _OF_A_FRAME:
            frames = f"SELECT id FROM records_frame WHERE {own}"  # noqa: S608
            database.execute(f"DELETE FROM records_{table} WHERE frame_id IN ({frames})", SHARED)  # noqa: S608
        if server.data not in _KITS:
            _KITS[server.data] = {table: _rows(database, table, own) for table in ("kititem", "revision")}
        for table in ("frame", "outing", "look", "setaside", "kititem", "revision"):
            database.execute(f"DELETE FROM records_{table} WHERE {own}", SHARED)  # noqa: S608
        for table, rows in _KITS[server.data].items():
            for row in rows:
                places = ", ".join("?" * len(row))
                database.execute(f"INSERT INTO records_{table} VALUES ({places})", row)  # noqa: S608


@pytest.fixture
def visits(browser: Browser, server: Server) -> Iterator[Any]:
    """Make visits; each must end without an error in its console."""
    made: list[Visit] = []

    def visit(**how: Any) -> Visit:
        made.append(Visit(browser, server, **how))
        return made[-1]

    yield visit
    wrong = [fault for each in made for fault in each.wrong]
    for each in made:
        each.context.close()
    assert wrong == []


@pytest.fixture
def guest(visits: Any) -> Visit:
    """Somebody who has signed out before: no demo sign-in."""
    visitor: Visit = visits(visited=True)
    return visitor


def get_ready(page: Page) -> None:
    """Take what stands on the bench to Run; a newcomer's example reading is meant."""
    page.get_by_role("button", name="Get ready").click()
    meant = page.get_by_role("button", name="Try it with the example")
    there = page.get_by_role("heading", name="Ready").or_(meant).or_(page.get_by_text("is on another day"))
    expect(there.first).to_be_visible()
    if meant.is_visible():
        # A second tap that follows at once belongs to the first.
        page.wait_for_timeout(750)
        meant.click()
