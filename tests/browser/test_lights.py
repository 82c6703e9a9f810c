"""What every screen owes everybody: contrast, names, targets, no overflow, a dark that stays dark."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import axe_playwright_python
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from .conftest import (
    Visit,
    at_rest,
    done,
    get_ready,
    in_its_own_letters,
    in_the_picture,
    more,
    no_countdown,
    of_outing,
    rested,
    see_the_log,
    several,
    until,
    work_out,
)

LIGHTS = ("noon", "dusk", "red")
AXE = Path(axe_playwright_python.__file__).with_name("axe.min.js").read_text(encoding="utf-8")
RULES = {
    "runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
    # Held to by ``unreadable``, in every light.
    "rules": {"color-contrast": {"enabled": False}},
}
PAIRINGS = """
    async ([rules, held]) => {
        const known = new Set(held), fresh = new Map();
        const grounds = (element) => {
            const found = [];
            for (let at = element; at; at = at.parentElement) {
                const { backgroundColor, backgroundImage, opacity } = getComputedStyle(at);
                if (backgroundColor !== "rgba(0, 0, 0, 0)" || backgroundImage !== "none" || opacity !== "1")
                    found.push(backgroundColor, backgroundImage, opacity);
            }
            return found;
        };
        for (const element of document.querySelectorAll("body *")) {
            const says = [...element.childNodes].some((node) => node.nodeType === 3 && node.data.trim());
            if (!(says || element.matches("input, textarea, select")) || !element.checkVisibility()) continue;
            const { color, fontSize, fontWeight } = getComputedStyle(element);
            const pairing = JSON.stringify([color, fontSize, fontWeight, ...grounds(element)]);
            if (!known.has(pairing)) fresh.set(element, pairing);
        }
        if (fresh.size === 0) return [[], held];
        const found = await axe.run(
            { include: [...fresh.keys()] },
            { ...rules, resultTypes: ["violations", "passes"], preload: false, elementRef: true });
        const readable = found.passes.flatMap(({ nodes }) => nodes.map(({ element }) => fresh.get(element)));
        return [
            found.violations.map(({ id, nodes }) => ({ id, nodes: nodes.map(({ element, ...node }) => node) })),
            [...new Set([...held, ...readable.filter(Boolean)])],
        ];
    }"""
"""Letters on grounds that have not been found readable yet, held to the rules; what nobody can tell stays unheld."""
PLAIN = "color-contrast"
# For full sun: 7:1, and 4.5:1 for large letters; what is less than plainly readable this rule leaves to the other.
CONTRAST = {"noon": [PLAIN, f"{PLAIN}-enhanced"], "dusk": [PLAIN], "red": [PLAIN]}
_held: dict[str, list[str]] = {light: [] for light in LIGHTS}
"""The pairings of letters and grounds that were found readable, by light."""


def screens(page: Page, way: str) -> dict[str, Any]:
    """How to bring up, one after the other, the views on a way through the application."""

    def bench() -> None:
        page.goto(page.url.split("/", 3)[0] + "//" + page.url.split("/")[2])
        expect(page.get_by_test_id("answer-time")).to_be_visible()

    def moved() -> None:
        page.keyboard.press("Shift+Digit6")
        for key in ("f", "ArrowDown", "ArrowDown", "o", "ArrowUp", "ArrowUp"):
            page.keyboard.press(key)
        at_rest(page)

    def said() -> None:
        in_the_picture(page, "Sea", "Cloud", "People")
        expect(more(page).get_by_text("walkers are ghosts")).to_be_visible()

    def held() -> None:
        for key in ("t", "ArrowUp", "ArrowUp"):
            page.keyboard.press(key)
        expect(page.get_by_test_id("answer-cost")).to_be_visible()
        work_out(page, "f-stop")
        expect(page.get_by_test_id("answer-floating")).to_be_visible()

    def extras() -> None:
        page.keyboard.press("x")
        page.get_by_role("tab", name="Aperture").click()
        expect(page.get_by_role("row").nth(3)).to_be_visible()

    def no_extras() -> None:
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_be_hidden()

    def looks() -> None:
        page.keyboard.press("w")
        page.get_by_role("dialog").get_by_role("button", name="mirror").click()
        expect(page.get_by_text("Your look: ")).to_be_visible()

    def drawn() -> None:
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_be_hidden()
        page.keyboard.press("p")
        expect(page.locator("figure:not(.glance) [data-state=there]")).to_be_visible()
        at_rest(page)

    def undrawn() -> None:
        page.get_by_role("button", name="Put the drawing away").click()

    def outing() -> None:
        page.get_by_role("link", name="Outing").filter(visible=True).click()
        expect(page.get_by_text("Leave by").first).to_be_visible()

    def fresh() -> None:
        of_outing(page, "Other outings").get_by_role("button", name="New outing").click()
        expect(page.get_by_role("dialog").get_by_role("button", name="Next dawn")).to_be_visible()

    def days() -> None:
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_be_hidden()
        page.get_by_role("button", name="Which day?").click()
        expect(page.locator(".days-list li")).to_have_count(14)

    def pointed() -> None:
        page.get_by_role("button", name="Back to the plan").click()
        page.get_by_label("The light over the clock").focus()
        page.keyboard.press("PageDown")
        expect(page.get_by_role("button", name="Set the bench for")).to_be_visible()

    def tabled() -> None:
        of_outing(page, "As a table")
        expect(page.get_by_role("heading", name="Filter plan").filter(visible=True)).to_be_visible()
        done(page)

    def rests() -> None:
        page.get_by_text("What this rests on").click()
        expect(page.get_by_text("A reminder, not a guarantee").filter(visible=True)).to_be_visible()
        done(page)

    def skied() -> None:
        of_outing(page, "Place, sky, water")
        page.get_by_role("button", name="to 08:00: thin cloud").click()
        page.get_by_role("button", name="Changes at").click()
        expect(page.get_by_role("slider", name="When overcast begins")).to_be_visible()
        page.get_by_role("button", name="thin cloud, then overcast").click()
        page.get_by_label("The subject is in").select_option(label="the sun")
        expect(page.get_by_role("slider", name="How high the ridge stands")).to_be_visible()

    def pack() -> None:
        of_outing(page, "Pack")
        expect(page.get_by_label("Tripod")).to_be_visible()

    def hazards() -> None:
        done(page)
        of_outing(page, "Hazards")
        expect(page.get_by_label("Thunderstorm")).to_be_visible()

    def bag() -> None:
        page.get_by_role("link", name="Bag").filter(visible=True).click()
        expect(page.get_by_role("button", name="Slot ND 9").first).to_be_visible()

    def item() -> None:
        page.get_by_role("button", name="Ring VND").first.click()
        page.get_by_text("More", exact=True).click()
        expect(page.get_by_label("Dense end, stops")).to_be_visible()

    def lens() -> None:
        page.get_by_role("button", name="24 mm prime").click()
        page.get_by_role("article", name="24 mm prime").get_by_role("button", name="Measure it").click()
        expect(page.get_by_label("Clear from, mm", exact=True)).to_be_visible()

    def measured() -> None:
        page.get_by_role("button", name="Slot ND 4").first.click()
        page.get_by_role("article", name="Slot ND 4").get_by_role("button", name="Measure it").click()
        page.get_by_role("button", name="as on the bench").click()
        expect(page.get_by_role("button", name="Another time")).to_be_visible()

    def reach() -> None:
        page.get_by_role("link", name="Times these make").click()
        expect(page.get_by_text("Without filters the longest")).to_be_visible()

    def card() -> None:
        page.locator(".page-back").click()
        page.get_by_role("link", name="Field card").click()
        expect(page.get_by_test_id("field-card")).to_be_visible()

    def back() -> None:
        page.keyboard.press("Escape")
        page.get_by_role("link", name="Bench", exact=True).filter(visible=True).click()
        expect(page.get_by_test_id("answer-time")).to_be_visible()

    def entry() -> None:
        page.keyboard.press("s")
        page.keyboard.press("Enter")
        page.get_by_role("dialog").get_by_role("textbox").fill("4")
        expect(page.get_by_text("Which one is it?")).to_be_visible()

    def armed() -> None:
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_be_hidden()
        # Long enough to be looked at from every side before it ends by itself.
        page.keyboard.press("1")
        page.keyboard.press("2")
        expect(page.get_by_test_id("answer-time")).to_contain_text("m")
        get_ready(page)
        expect(page.get_by_role("heading", name="Ready")).to_be_visible()

    def simulated() -> None:
        several(page).get_by_text("simulated trigger").click()
        expect(page.get_by_label("Practice speed")).to_be_visible()

    def remote_test() -> None:
        page.get_by_role("button", name="Five-second test").click()
        at_rest(page)

    def queue() -> None:
        page.keyboard.press("Escape")
        at_rest(page)
        several(page).get_by_role("button", name="More than one frame").click()
        page.get_by_role("button", name="Show the times").click()
        at_rest(page)

    def queued() -> None:
        page.get_by_role("dialog").get_by_role("button", name="Take", exact=True).click()
        at_rest(page)
        rested(page)
        several(page).get_by_text("my remote").click()
        done(page)
        at_rest(page)

    def running() -> None:
        no_countdown(page)
        page.get_by_role("button", name="Open the shutter").click()
        at_rest(page)

    def ended() -> None:
        rested(page)
        page.get_by_role("button", name="Abandon").hover()
        page.mouse.down()
        page.wait_for_timeout(750)
        page.mouse.up()
        expect(page.get_by_role("heading", name="Abandoned")).to_be_visible()

    def log() -> None:
        see_the_log(page)
        expect(page.get_by_role("listitem").first).to_be_visible()

    def sign_in() -> None:
        page.get_by_role("link", name="Bag").filter(visible=True).first.click()
        page.get_by_role("button", name="Sign in").click()
        at_rest(page)

    ways = {
        "planning": (
            bench, said, held, extras, no_extras, looks, drawn, undrawn, outing, fresh, days, pointed, skied, tabled,
            rests, pack, hazards, bag, item, lens, measured, reach, card,
        ),
        "exposing": (
            bench, moved, entry, armed, simulated, remote_test, queue, queued, running, ended, log, back, sign_in,
        ),
    }  # fmt: skip
    return {view.__name__: view for view in ways[way]}


def in_every_light(page: Page, name: str, targets: bool) -> None:
    """All rules, and in each light, which changes colours and nothing else, the contrast of each pairing of letters and
    ground (in the dark ones on the desk alone, which has all of them) and Red's own promise."""
    # What is still an answer to the question before stands greyed.
    expect(page.locator("[data-stale]")).to_have_count(0)
    in_its_own_letters(page)
    for light in LIGHTS:
        page.evaluate(
            """(light) => {
                document.documentElement.dataset.light = light;
                document.documentElement.dataset.bsTheme = light === "noon" ? "light" : "dark";
            }""",
            light,
        )
        if light == "noon":
            assert violations(page, RULES) == [], name
        if light == "noon" or not targets:
            assert unreadable(page, light) == [], f"{name} in {light}"
        if light == "red":
            assert brightest_other_than_red(page) <= 12, name
    page.evaluate("document.documentElement.dataset.light = 'noon', document.documentElement.dataset.bsTheme = 'light'")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), f"{name} scrolls sideways"
    if targets:
        assert small_targets(page) == [], name


def violations(page: Page, rules: dict[str, Any]) -> list[str]:
    """What the rules find, as their name, the elements and why; the checker is brought to a page once."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    found = page.evaluate(
        """async (rules) =>
            (await axe.run(document, { ...rules, resultTypes: ["violations"], preload: false })).violations""",
        rules,
    )
    return _named(found)


def unreadable(page: Page, light: str) -> list[str]:
    """Letters that do not stand out from the ground they are on; what was found readable is not asked again."""
    rules = {"runOnly": {"type": "rule", "values": CONTRAST[light]}}
    found, known = page.evaluate(PAIRINGS, [rules, _held[light]])
    if not found:
        _held[light] = known
    return _named(found)


def _named(found: list[dict[str, Any]]) -> list[str]:
    return [
        f"{broken['id']}: "
        + "  ".join(
            f"{node['html']} ({', '.join(check['message'] for check in [*node['any'], *node['all']])})"
            for node in broken["nodes"]
        )
        for broken in found
    ]


@pytest.mark.parametrize("way", ["planning", "exposing"])
@pytest.mark.parametrize("phone", [False, True], ids=["desk", "phone"])
def test_every_view_in_every_light(visits: Any, phone: bool, way: str) -> None:
    visit: Visit = visits(visited=True, phone=phone)
    page = visit.page
    for name, bring_up in screens(page, way).items():
        bring_up()
        in_every_light(page, name, targets=phone)
        if not phone and name in {"bench", "moved", "armed", "running"}:
            assert page.evaluate("document.documentElement.scrollHeight <= innerHeight"), f"{name} scrolls"
        if phone and name in {"bench", "moved"}:
            assert overlapping_parts(page) == []


def test_red_stays_red_while_an_outing_goes_on(visits: Any) -> None:
    """Each screen brings its own styles; what stands in the header needs none of them."""
    visit: Visit = visits(visited=True)
    page = visit.page
    visit.context.add_cookies([{"name": "jackstaff_light", "value": "red", "url": visit.server.url}])
    page.clock.install(time="2027-04-17T03:20:00Z")
    for path in ("/", "/run", "/bag", "/log"):
        page.goto(visit.server.url + path)
        expect(page.get_by_role("banner").get_by_text("min to civil dawn")).to_be_visible()
        expect(page.locator(".waiting")).to_have_count(0)
        assert brightest_other_than_red(page) <= 12, path


LOG_PAGES = ("", "/lessons", "/files")


@pytest.mark.parametrize("phone", [False, True], ids=["desk", "phone"])
def test_every_page_of_the_log(visits: Any, phone: bool) -> None:
    visit: Visit = visits(phone=phone)
    page = visit.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    frames = page.request.get(f"{visit.server.url}/api/frames?limit=20").json()["frames"]
    first, second, *_ = [frame["id"] for frame in frames if frame["pictured"]]
    for path in (*LOG_PAGES, f"/frame/{first}", f"/compare/{first}/{second}"):
        page.goto(f"{visit.server.url}/log{path}")
        expect(page.locator(".waiting")).to_have_count(0)
        at_rest(page)
        in_every_light(page, path, targets=phone)


def small_targets(page: Page) -> list[str]:
    """Buttons, links and fields less than 48 px high that a finger has to hit."""
    found: list[str] = page.evaluate(
        """() => [...document.querySelectorAll("button, a, select, input:not([type=radio]):not([type=checkbox])")]
            .filter((element) => element.checkVisibility() && !element.matches(".skip, .brand, .visually-hidden"))
            .filter((element) => element.getBoundingClientRect().height < 47.5)
            .map((element) => element.className + " " + element.textContent)"""
    )
    return found


def overlapping_parts(page: Page) -> list[str]:
    """Parts of the one-column bench that lie on each other."""
    found: list[str] = page.evaluate(
        """() => {
            const parts = [".bench-answer", ".bench-staff", ".bench-meter", ".bench-shelf", ".bench-action"];
            const boxes = parts.map((part) => document.querySelector(part).getBoundingClientRect());
            return parts.slice(1).filter((_, at) => boxes[at + 1].top < boxes[at].bottom - 1);
        }"""
    )
    return found


def brightest_other_than_red(page: Page) -> int:
    """The largest green or blue value of any pixel on the screen."""
    picture = Image.open(io.BytesIO(page.screenshot())).convert("RGB")
    _, green, blue = (channel.getextrema() for channel in picture.split())
    return int(max(green[1], blue[1]))  # type: ignore[arg-type]


def test_the_light_is_known_before_anything_is_painted(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    page = visit.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    assert page.evaluate("document.documentElement.dataset.light") == "noon"
    page.keyboard.press("n")
    page.keyboard.press("n")
    page.context.set_offline(False)
    # Hold the program back: the ground must be dark without it.
    page.route("**/assets/*.js", lambda route: None)
    page.goto(visit.server.url, wait_until="commit")
    until(page, "document.body && getComputedStyle(document.body).backgroundColor === 'rgb(0, 0, 0)'")


def test_nothing_comes_from_elsewhere_and_the_policy_holds(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    seen: list[str] = []
    visit.page.on("request", lambda request: seen.append(request.url))
    response = visit.page.goto(visit.server.url + "/log")
    assert response is not None
    policy = response.headers["content-security-policy"]
    assert "unsafe-inline" not in policy
    assert "'unsafe-eval'" not in policy
    expect(visit.page.get_by_text("No frames yet.")).to_be_visible()
    assert all(url.startswith((visit.server.url, "data:")) for url in seen)


def test_every_key_of_the_list_is_there(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    page = visit.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("Put that filter on")
    page.keyboard.press("2")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    page.keyboard.press("r")
    expect(page.get_by_text("That reading is an example.")).to_be_visible()
    page.wait_for_timeout(750)
    page.keyboard.press("r")
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    rested(page)
    page.keyboard.press("l")
    expect(page.get_by_text("No frames yet.")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_test_id("answer-time")).to_be_visible()


@pytest.mark.parametrize(
    ("width", "height", "text"), [(320, 640, "100%"), (844, 390, "100%"), (390, 844, "200%")], ids=str
)
def test_narrow_pages_sideways_phones_and_large_text_fit(visits: Any, width: int, height: int, text: str) -> None:
    visit: Visit = visits(visited=True, phone=True)
    page = visit.page
    page.set_viewport_size({"width": width, "height": height})
    # The demo's own morning, with the alarm to leave on every screen.
    page.clock.install(time="2027-04-17T03:52:00Z")
    for path in ("/", "/run", "/outing", "/log", "/bag"):
        page.goto(visit.server.url + path)
        expect(page.locator(".waiting")).to_have_count(0)
        page.evaluate("(text) => { document.documentElement.style.fontSize = text; }", text)
        if path == "/":
            expect(page.get_by_test_id("answer-time")).to_be_visible()
        # A phone's browser widens its own view for what is too wide; the width asked for is what counts.
        until(page, f"document.documentElement.scrollWidth <= {width}")
