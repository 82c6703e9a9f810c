"""One memory: what was decided stays decided, between screens, tabs, people, devices, and whatever the server does."""

from __future__ import annotations

import json
import re
from typing import Any
from uuid import uuid4

import pytest
from playwright.sync_api import BrowserContext, Page, Route, expect
from tools.browserdata import kept, note, noted, write_document, write_documents
from tools.serving import Server

from tests.conftest import OTHER_PASSWORD

from .conftest import (
    Visit,
    also_seen,
    begin_to_type,
    copied_outing,
    eventually,
    expect_planned,
    frames,
    hold_back,
    judge,
    let_go,
    may_be_held_back,
    more,
    of_outing,
    outing_named,
    outings_offered,
    rested,
    see_the_log,
    several,
    work_out,
)
from .test_path import HOLD_MS, arm_and_open, hold, short_bulb
from .test_run import arm, open_it

BASE = {"owner": "guest", "version": 1, "number": 0, "waiting": None, "stamp": "2027-04-10T10:00:00.000Z#0000"}


def answer(page: Page) -> Any:
    return page.get_by_test_id("answer-time")


_signed: dict[tuple[str, str], Any] = {}
"""Browsers that are signed in already: asked again and again, they would be throttled."""


def of_account(context: BrowserContext, server: Server, name: str) -> dict[str, Any]:
    """What the server holds of an account, asked by a browser of its own."""
    other = context.browser
    assert other is not None
    with other.new_context(storage_state=_signed.get((server.url, name))) as asking:
        if (server.url, name) not in _signed:
            asking.request.get(f"{server.url}/api/session")
            token = next(each["value"] for each in asking.cookies() if each["name"] == "jackstaff_csrf")
            signed = asking.request.post(
                f"{server.url}/api/session",
                data={"username": name, "password": OTHER_PASSWORD},
                headers={"X-CSRFToken": token, "Referer": server.url},
            )
            assert signed.ok
            _signed[server.url, name] = asking.storage_state()
        got = asking.request.get(f"{server.url}/api/replica?limit=200").json()
        documents = [each for each in got["documents"] if each["content"]]
        return {
            kind: [each["content"] for each in documents if each["kind"] == kind] for kind in ("outing", "frame", "kit")
        }


def test_a_tab_follows_who_is_signed_in_and_nothing_lands_in_another_account(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    a = visit.page
    visit.sign_in("edda")
    a.goto(visit.server.url + "/outing")
    outing_named(a).fill("Edda's plan")
    expect(outings_offered(a)).to_contain_text("Edda's plan")
    begun = visit.tab("/log")
    begin_to_type(begun)
    b = visit.tab("/")
    visit.page = b
    visit.sign_out("edda")
    # Nobody is signed in on any tab any more, and what the last one had is not shown, nor what she was typing.
    expect(a.get_by_role("button", name="Sign in")).to_be_visible()
    expect(begun.get_by_text("No frames yet.")).to_be_visible()
    expect(begun.get_by_label("Open for")).to_have_count(0)
    expect(outing_named(a)).to_have_value("Vardsund mole, first light")
    visit.sign_in("joar")
    expect(a.get_by_role("button", name="Account joar")).to_be_visible()
    outing_named(a).fill("Joar's plan")
    a.get_by_role("link", name="Bench", exact=True).click()
    arm(a)
    open_it(a)
    hold(a, "Abandon")
    expect(a.get_by_role("heading", name="Abandoned")).to_be_visible()
    server = visit.server
    eventually(a, lambda: len(of_account(visit.context, server, "joar")["frame"]) == 1)
    both = {name: of_account(visit.context, server, name) for name in ("edda", "joar")}
    named = {name: [each["name"] for each in found["outing"]] for name, found in both.items()}
    assert "Edda's plan" in named["edda"]
    assert "Joar's plan" in named["joar"]
    assert "Joar's plan" not in named["edda"]
    assert "Edda's plan" not in named["joar"]
    opened = both["joar"]["frame"][0]["id"]
    assert opened not in [each["id"] for each in both["edda"]["frame"]]


def test_the_next_person_sees_nothing_of_the_one_before_and_works_on(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    page = visit.page
    visit.sign_in("edda")
    page.goto(visit.server.url + "/outing")
    copied_outing(page)
    outing_named(page).fill("Only Edda's")
    page.get_by_role("link", name="Bench", exact=True).click()
    arm(page)
    open_it(page)
    visit.sign_out("edda")
    # Neither what she had set up, nor her bench, nor her plans; her shutter alone is open until it is closed.
    page.get_by_role("button", name="Leave it to them").click()
    expect(page.get_by_text("Nothing is set up yet.")).to_be_visible()
    page.get_by_role("link", name="Bench", exact=True).click()
    expect(answer(page)).to_have_text("13s")
    page.get_by_role("link", name="Outing").click()
    expect(outings_offered(page)).not_to_contain_text("Only Edda's")
    # A frame of one's own opens while hers is still open.
    page.get_by_role("link", name="Bench", exact=True).click()
    short_bulb(page)
    arm_and_open(page, "I close it")
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    # Back again, hers is still running.
    visit.sign_in("edda")
    page.goto(visit.server.url + "/run")
    expect_planned(page, 203)
    hold(page, "Abandon")


FILL = """(sizes) => new Promise((done) => {
    const opening = indexedDB.open("filler", 1);
    opening.onupgradeneeded = () => opening.result.createObjectStore("x", {autoIncrement: true});
    opening.onerror = () => done();
    opening.onsuccess = () => {
        const left = [...sizes];
        const more = () => {
            const writing = opening.result.transaction("x", "readwrite");
            writing.objectStore("x").put("x".repeat(left[0]));
            writing.oncomplete = more;
            writing.onabort = () => { left.shift(); left.length ? more() : (opening.result.close(), done()); };
        };
        more();
    };
})"""
QUOTA = 400_000


def small_browser(visit: Visit) -> Any:
    """A browser with little room; hands back how to fill what is left of it, and how to make room again."""
    visit.page.goto(visit.server.url + "/api/health")
    session = visit.context.new_cdp_session(visit.page)
    session.send("Storage.overrideQuotaForOrigin", {"origin": visit.server.url, "quotaSize": QUOTA})
    visit.page.goto(visit.server.url)

    def fill() -> None:
        visit.page.evaluate(FILL, [100_000, 10_000, 1000, 100, 1])

    def room() -> None:
        session.send("Storage.overrideQuotaForOrigin", {"origin": visit.server.url})

    return fill, room


def test_a_full_browser_is_said_and_work_goes_on_in_the_page(guest: Visit) -> None:
    page = guest.page
    fill, room = small_browser(guest)
    short_bulb(page)
    fill()
    arm_and_open(page, "I close it")
    expect(page.get_by_text("This browser's storage is full")).to_be_visible()
    page.keyboard.press("e")
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    page.get_by_role("link", name="Bench", exact=True).click()
    expect(answer(page)).to_be_visible()
    page.keyboard.press("3")
    expect(page.get_by_role("button", name="Ring ND 6, 6 stops")).to_have_attribute("aria-pressed", "true")
    with page.expect_download() as download:
        page.get_by_role("button", name="Save everything as a file").click()
    saved = download.value.path().read_text()
    assert '"kind": "frame"' in saved
    room()
    page.keyboard.press("3")
    expect(page.get_by_text("This browser's storage is full")).to_be_hidden()
    page.reload()
    page.get_by_role("link", name="Log").click()
    expect(page.get_by_role("listitem").filter(has_text="Ring ND 3 + Slot ND 4")).to_have_count(1)


BLOCKED = """
for (const name of ["indexedDB", "localStorage", "sessionStorage"])
    Object.defineProperty(window, name, { get() { throw new DOMException("denied", "SecurityError"); } });
"""


def test_a_browser_that_keeps_nothing_still_works(guest: Visit) -> None:
    guest.page.close()
    guest.context.add_init_script(BLOCKED)
    page = guest.tab("/")
    expect(page.get_by_text("This browser keeps nothing for this page")).to_be_visible()
    short_bulb(page)
    arm_and_open(page, "I close it")
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    page.get_by_role("link", name="Log", exact=True).click()
    expect(page.get_by_role("listitem").filter(has_text="Ring ND 3")).to_have_count(1)


def test_what_cannot_be_read_is_set_aside_and_named(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_be_visible()
    page.keyboard.press("2")
    expect(answer(page)).to_have_text("3min23s")
    eventually(page, lambda: len(kept(page, "bench")[0]["content"]["on"]) == 2, "what is on")
    # What this browser holds is changed from a page that runs nothing.
    page.goto(guest.server.url + "/api/health")
    bench = kept(page, "bench")[0]
    subjects = [{"id": "x", "kind": "dragon", "facts": {}}]
    content = {**bench["content"], "scene": {**bench["content"]["scene"], "subjects": subjects}}
    write_document(page, {**bench, "content": content})
    page.goto(guest.server.url + "/")
    expect(page.get_by_text("Something kept here could not be read and was set aside: the bench.")).to_be_visible()
    expect(answer(page)).to_have_text("13s")
    with page.expect_download() as download:
        page.get_by_role("button", name="Save as a file").click()
    assert "dragon" in download.value.path().read_text()
    page.get_by_role("button", name="Let it go").click()
    expect(page.get_by_text("set aside")).to_be_hidden()
    eventually(page, lambda: all(doc["content"] is None for doc in kept(page, "broken")), "forgetting it")
    page.reload()
    expect(answer(page)).to_have_text("13s")
    expect(page.get_by_text("set aside")).to_be_hidden()


def test_a_screen_that_breaks_is_one_screen_and_nothing_is_lost(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_be_visible()
    # A screen of a build that cannot be drawn.
    page.route("**/assets/bag-*.js", breaking)
    page.reload()
    page.get_by_role("link", name="Bag").click()
    expect(page.get_by_role("heading", name="This screen broke.")).to_be_visible()
    with page.expect_download():
        page.get_by_role("button", name="Save everything as a file").click()
    page.get_by_role("button", name="To the bench").click()
    expect(answer(page)).to_have_text("13s")
    guest.wrong.clear()


def breaking(route: Route) -> None:
    """The same module, of which every function that it gives away throws."""
    body = route.fetch().text()
    given = re.search(r"export\{([^}]*)\}", body)
    names = [each.split(" as ")[-1] for each in given[1].split(",")] if given else []
    # A name may stand for the screen, or for a module that holds it.
    parts = "{get: (fails, name) => (name === 'then' ? undefined : fails)}"
    throws = f"new Proxy(() => {{ throw new Error('broken') }}, {parts})"
    route.fulfill(
        content_type="text/javascript",
        body=";".join(f"const b{n} = {throws}; export {{ b{n} as {name} }}" for n, name in enumerate(names)),
    )


def test_an_answer_to_another_question_is_neither_shown_as_one_nor_acted_on(guest: Visit) -> None:
    page = guest.page
    may_be_held_back(page)
    expect(answer(page)).to_have_text("13s")
    page.wait_for_load_state("networkidle")
    for key in ("t", "ArrowUp", "ArrowUp", "ArrowUp"):
        page.keyboard.press(key)
    work_out(page, "f-stop")
    floating = page.get_by_test_id("answer-floating")
    expect(floating).to_have_text("f/13")
    steering = hold_back(page, "/api/steer")
    work_out(page, "ISO")
    # What the aperture came to says nothing about the ISO.
    expect(page.get_by_role("heading", name="Set the ISO to")).to_be_visible()
    expect(floating).to_have_count(0)
    expect(page.get_by_text("ISO 11")).to_have_count(0)
    expect(page.get_by_role("button", name="Get ready")).to_be_disabled()
    eventually(page, lambda: bool(steering))
    let_go(page, "/api/steer", steering)
    expect(floating).to_have_text("ISO 64")
    # Ways to a time are ways to that time: until there are some, the old ones cannot be taken.
    stacks = hold_back(page, "/api/stacks")
    work_out(page, "time")
    for key in ("t", "ArrowUp", "ArrowUp", "ArrowUp", "ArrowUp"):
        page.keyboard.press(key)
    ways = page.locator(".alternatives")
    expect(ways).to_have_attribute("data-stale", "true")
    expect(ways.get_by_role("button").first).to_be_disabled()
    eventually(page, lambda: bool(stacks))
    let_go(page, "/api/stacks", stacks)
    expect(ways.get_by_role("button").first).to_be_enabled()


def test_enter_before_the_answer_counts_once_it_has_come(guest: Visit) -> None:
    page = guest.page
    may_be_held_back(page)
    expect(answer(page)).to_have_text("13s")
    page.wait_for_load_state("networkidle")
    read = hold_back(page, "/api/readout")
    page.keyboard.press("s")
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("textbox").fill("1/125")
    page.keyboard.press("Enter")
    eventually(page, lambda: bool(read))
    expect(dialog).to_be_visible()
    let_go(page, "/api/readout", read)
    expect(dialog).to_be_hidden()
    expect(page.get_by_role("button", name="Shutter 1/125, type another")).to_be_visible()
    read = hold_back(page, "/api/density")
    page.get_by_role("button", name="Add").click()
    label = dialog.get_by_label("What is engraved on it")
    label.fill("ND8")
    label.press("Enter")
    eventually(page, lambda: bool(read))
    let_go(page, "/api/density", read)
    expect(dialog).to_be_hidden()
    expect(page.get_by_role("button", name=re.compile("^ND8, 3 stops"))).to_have_attribute("aria-pressed", "false")


def test_reframing_forgets_the_metering_and_nothing_else(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_be_visible()
    page.keyboard.press("m")
    expect(page.get_by_text(re.compile("just now"))).to_be_visible()
    arm(page)
    several(page).get_by_role("button", name="Recompose").click()
    expect(page.get_by_text(re.compile("just now"))).to_be_hidden()
    expect(answer(page)).to_have_text("3min23s")
    page.reload()
    expect(answer(page)).to_have_text("3min23s")
    expect(page.get_by_text(re.compile("just now"))).to_be_hidden()


def test_a_removed_outing_stays_removed_on_every_device(visits: Any) -> None:
    phone: Visit = visits(visited=True)
    laptop: Visit = visits(visited=True)
    for device in (phone, laptop):
        device.page.goto(device.server.url + "/outing")
        device.sign_in("edda")
    name = f"To be removed {uuid4().hex[:6]}"
    copied_outing(phone.page)
    outing_named(phone.page).fill(name)
    eventually(phone.page, lambda: name in str(of_account(phone.context, phone.server, "edda")["outing"]))
    laptop.page.reload()
    expect(outings_offered(laptop.page)).to_contain_text(name)
    # The phone removes it without a network, while the laptop still shows it.
    phone.context.set_offline(True)
    of_outing(phone.page, "Other outings").get_by_role("button", name="Remove", exact=True).click()
    expect(outings_offered(phone.page)).not_to_contain_text(name)
    laptop.page.bring_to_front()
    phone.context.set_offline(False)
    eventually(phone.page, lambda: name not in str(of_account(phone.context, phone.server, "edda")["outing"]))
    laptop.page.reload()
    expect(outings_offered(laptop.page)).not_to_contain_text(name)
    phone.page.reload()
    expect(outings_offered(phone.page)).not_to_contain_text(name)


def test_signing_in_keeps_every_thing_the_same_thing(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    page = visit.page
    short_bulb(page)
    arm_and_open(page, "I close it")
    hold(page, "Close")
    judge(page, -1)
    used = [glass["id"] for glass in frames(page)[0]["stack"]]
    visit.sign_in("joar")
    page.get_by_role("link", name="Bag").click()
    expect(page.locator(".filter-tile", has_text="Slot ND 4")).to_have_count(1)
    expect(page.locator(".filter-tile, .sentence-button")).to_have_count(19)
    eventually(page, lambda: len(of_account(visit.context, visit.server, "joar")["frame"]) >= 1)
    found = of_account(visit.context, visit.server, "joar")
    ids = {item["id"] for item in found["kit"]}
    assert all(each in ids for each in used)
    assert len([item for item in found["kit"] if item["name"] == "Slot ND 4"]) == 1
    # A retried write is the same write.
    assert len([each for each in found["frame"] if used == [glass["id"] for glass in each["stack"]]]) == 1


def test_two_bench_tabs_are_one_bench(guest: Visit) -> None:
    a = guest.page
    expect(answer(a)).to_have_text("13s")
    b = guest.tab("/")
    expect(answer(b)).to_have_text("13s")
    a.keyboard.press("2")
    expect(answer(b)).to_have_text("3min23s")
    b.keyboard.press("1")
    expect(answer(a)).to_have_text("27min05s")
    a.keyboard.press("2")
    expect(answer(b)).to_have_text("1min42s")
    for page in (a, b):
        page.reload()
        expect(answer(page)).to_have_text("1min42s")


def test_two_pages_of_one_run_close_it_once(guest: Visit) -> None:
    a = guest.page
    short_bulb(a)
    arm_and_open(a, "the camera does")
    b = guest.tab("/run")
    for page in (a, b):
        expect(page.get_by_test_id("run-result")).to_be_visible()
    a.wait_for_timeout(500)
    assert [event["kind"] for event in frames(a)[0]["events"]] == ["opened", "aimed", "closed"]


def test_a_server_that_fails_says_so_and_is_asked_again(guest: Visit) -> None:
    page = guest.page
    broken = False
    bad = {"status": 502, "body": "<h1>Bad gateway</h1>"}
    page.route("**/api/exposure", lambda route: route.fulfill(**bad) if broken else route.continue_())
    # A browser that is busy lets the next request pass by what is put in its way; a page loaded after it does not.
    page.reload()
    expect(answer(page)).to_have_text("13s")
    alert = page.get_by_role("alert")
    broken = True
    page.keyboard.press("1")
    expect(alert).to_contain_text("The server could not answer (502).")
    broken = False
    alert.get_by_role("button", name="Try again").click()
    expect(alert).to_be_hidden()
    # The number entry says it, too.
    page.route("**/api/readout", lambda route: route.abort())
    page.keyboard.press("s")
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("textbox").fill("1/60")
    expect(dialog.get_by_role("alert")).to_contain_text("The server does not answer.")
    page.unroute("**/api/readout")
    dialog.get_by_role("button", name="Try again").click()
    expect(dialog.get_by_role("button", name="Use", exact=True)).to_be_enabled()
    guest.wrong.clear()


@pytest.mark.parametrize("path", ["session", "start"])
def test_without_a_word_from_the_session_a_guest_works_on(guest: Visit, path: str) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.wait_for_timeout(300)
    page.route(f"**/api/{path}", lambda route: None)
    page.reload()
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("2")
    expect(answer(page)).to_have_text("3min23s")
    guest.wrong.clear()


def test_space_ticks_a_focused_line_and_opens_nothing(guest: Visit) -> None:
    page = guest.page
    arm(page)
    line = page.get_by_role("checkbox", name=re.compile("Tripod feet firm"))
    line.focus()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="1 done")).to_be_visible()
    page.wait_for_timeout(400)
    expect(page.get_by_role("button", name="Open the shutter")).to_be_visible()
    assert frames(page) == []


def test_the_log_goes_on_past_two_hundred_frames(guest: Visit) -> None:
    page = guest.page
    short_bulb(page)
    arm_and_open(page, "I close it")
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    eventually(page, lambda: frames(page)[0]["error"] is not None, "the error in timing")
    doc = kept(page, "frame")[0]
    many = []
    for number in range(229):
        opened = f"2026-0{1 + number // 28 % 9}-{1 + number % 28:02}T05:00:00.000Z"
        content = {**doc["content"], "id": str(uuid4()), "opened_at": opened, "note": f"frame {number}"}
        many.append({**BASE, "kind": "frame", "id": content["id"], "content": content, "sort": "0" + opened})
    write_documents(page, many)
    page.goto(guest.server.url + "/log")
    expect(page.get_by_test_id("log-count")).to_have_text("230 frames")
    for shown in (50, 100, 150, 200):
        expect(page.locator(".log-row")).to_have_count(shown)
        page.get_by_role("button", name="Show more frames").click()
    expect(page.locator(".log-row")).to_have_count(230)
    expect(page.get_by_role("button", name="Show more frames")).to_have_count(0)


def test_a_note_is_kept_while_it_is_typed(guest: Visit) -> None:
    page = guest.page
    short_bulb(page)
    arm_and_open(page, "I close it")
    hold(page, "Close")
    also_seen(page).get_by_label("Note").press_sequentially("cold hands")
    # Nobody leaves the field: the page is just gone.
    eventually(page, lambda: frames(page)[0]["note"] == "cold hands")
    page.get_by_label("Note").press_sequentially(", and wind")
    see_the_log(page)
    expect(page.get_by_text("cold hands, and wind")).to_be_visible()


# What a browser does that lets no page sound before somebody has pressed something in it.
SILENT = """
let pressed = false;
addEventListener("pointerdown", () => { pressed = true; }, true);
Object.defineProperty(AudioContext.prototype, "state", { get: () => (pressed ? "running" : "suspended") });
// A start that is not allowed is not refused, it waits for ever.
AudioContext.prototype.resume = () => (pressed ? Promise.resolve() : new Promise(() => {}));
"""


def test_stacks_wait_until_it_is_known_how_far_a_variable_glass_turns(guest: Visit) -> None:
    guest.page.close()
    page = guest.tab("/log")
    # What another page was told just now would not be asked again.
    note(page, "answers guest", {})
    may_be_held_back(page)
    asked: list[Any] = []
    page.on("request", lambda request: asked.append(request) if request.url.endswith("/stacks") else None)
    turning = hold_back(page, "/api/usable")
    page.get_by_role("link", name="Bench", exact=True).click()
    expect(answer(page)).to_have_text("13s")
    more(page)
    eventually(page, lambda: bool(turning), "the question how far it turns")
    # Long past the rest of the hands: stacks of an unknown glass are not asked for, nor offered to be taken.
    page.wait_for_timeout(600)
    ways = page.get_by_role("region", name="Other ways to").get_by_role("button")
    expect(ways.and_(page.locator(":enabled"))).to_have_count(0)
    let_go(page, "/api/usable", turning)
    expect(ways.first).to_be_enabled()
    variable = [glass for each in asked for glass in each.post_data_json["glass"] if glass["kind"] == "variable"]
    assert variable
    assert all("usable_max" in glass for glass in variable)


def test_a_reload_in_mid_run_warns_that_the_bell_may_not_sound(guest: Visit) -> None:
    page = guest.page
    arm(page)
    open_it(page)
    expect(page.get_by_text("will not let the end bell sound")).to_be_hidden()
    page.close()
    guest.context.add_init_script(SILENT)
    page = guest.tab("/run")
    warning = page.get_by_role("alert").filter(has_text="will not let the end bell sound")
    expect(warning).to_be_visible()
    warning.get_by_role("button", name="Let it sound").click()
    expect(warning).to_be_hidden()


def test_one_can_sign_in_before_the_first_answer_has_brought_the_token(guest: Visit) -> None:
    expect(answer(guest.page)).to_have_text("13s")
    guest.context.clear_cookies()
    guest.sign_in()
    expect(guest.page.get_by_role("button", name="edda")).to_be_visible()


def test_the_page_never_scrolls_into_emptiness(visits: Any) -> None:
    visit: Visit = visits(visited=True, phone=True)
    page = visit.page
    for path in ("/", "/outing", "/run", "/log", "/bag"):
        page.goto(visit.server.url + path)
        expect(page.locator("main h1, main h2, main .waiting").first).to_be_attached()
        expect(page.locator(".waiting")).to_have_count(0)
        size = page.evaluate("[document.documentElement.scrollHeight, innerHeight]")
        assert size[0] <= size[1], path


def test_a_returning_visitor_needs_nobody_and_an_idle_page_asks_nothing(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("2")
    expect(answer(page)).to_have_text("3min23s")
    # The last answers are kept a moment after the hands rest.
    eventually(page, lambda: "203." in json.dumps(noted(page, "answers guest")), "keeping the answers")
    guest.context.route("**/api/**", lambda route: route.abort())
    page.reload()
    expect(answer(page)).to_have_text("3min23s")
    expect(page.locator(".answer")).not_to_have_attribute("data-stale", "true")
    guest.context.unroute("**/api/**")
    # Who is here is asked once, as soon as the program stands.
    page.clock.install()
    with page.expect_response("**/api/session"):
        page.reload()
    page.wait_for_load_state("networkidle")
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url))
    page.clock.run_for(60_000)
    page.wait_for_load_state("networkidle")
    assert [url for url in asked if "/api/" in url] == []
    guest.wrong.clear()


def test_another_device_s_run_is_picked_up_while_run_waits(visits: Any) -> None:
    phone: Visit = visits(visited=True)
    laptop: Visit = visits(visited=True)
    for device in (phone, laptop):
        device.sign_in("joar")
    laptop.page.goto(laptop.server.url + "/run")
    arm(phone.page)
    open_it(phone.page)
    expect_planned(laptop.page, 203)
    rested(laptop.page)
    laptop.page.keyboard.down("Space")
    laptop.page.wait_for_timeout(HOLD_MS)
    laptop.page.keyboard.up("Space")
    expect(laptop.page.get_by_test_id("run-result")).to_contain_text("early")
    expect(phone.page.get_by_test_id("run-result")).to_contain_text("early")
