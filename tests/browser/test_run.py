"""Run: armed, closed when the light has gathered, and true to time whatever happens to pages, servers and clocks."""

from __future__ import annotations

import json
import re
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from tools.browserdata import kept, note, write_document
from tools.serving import Server, serving

from .conftest import (
    Visit,
    also_seen,
    done,
    eventually,
    expect_planned,
    frames,
    get_ready,
    judge,
    no_countdown,
    rested,
    several,
)
from .test_path import HOLD_MS, hold, short_bulb

EVENING = {
    "id": "9d0b1de6-7a1c-4a34-8c58-2f1d2b7f0a02", "name": "Vardsund mole, last light", "latitude": 58.05,
    "longitude": 6.8, "zone": "Europe/Oslo", "date": "2027-04-17", "arrive": "19:30", "turn_back": "22:00",
    "sky": "clear", "scene": "sky_lit", "ridge": None, "readings": [], "waters": [], "floods_at_m": None,
    "walk_minutes": 0, "margin_minutes": 0, "weather": {"source": "own"}, "hazards": [], "packed": [],
    "archived": False, "changed_at": "2027-04-10T10:00:00Z",
}  # fmt: skip


def left(page: Page) -> Any:
    return page.get_by_test_id("run-left")


def newest(page: Page) -> dict[str, Any]:
    """The newest frame that this browser holds."""
    return frames(page)[0]


def arm(page: Page) -> None:
    """Nine and four stops on 1/40: 3 min 23 s in bulb."""
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.keyboard.press("2")
    expect(page.get_by_test_id("answer-time")).to_contain_text("m")
    get_ready(page)
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    no_countdown(page)


def simulate(page: Page, speed: str, fault: str = "none") -> None:
    several(page).get_by_text("simulated trigger").click()
    page.get_by_label("Practice speed").select_option(speed)
    page.get_by_label("Let it fail").select_option(fault)
    done(page)


def open_it(page: Page) -> None:
    page.get_by_role("button", name="Open the shutter").click()
    # Sixty times as fast it may be over before anybody looks.
    expect(left(page).or_(page.get_by_test_id("run-result"))).to_be_visible()


SHOWN = """() => {
    window.shown = [];
    new MutationObserver(() => window.shown.push(document.querySelector("main").innerText))
        .observe(document.body, {childList: true, characterData: true, subtree: true});
}"""


def expect_shown(page: Page, *patterns: str) -> None:
    """Each stood on the page at some time since what it shows is kept, however short."""
    for pattern in patterns:
        eventually(page, lambda: any(re.search(pattern, text) for text in page.evaluate("window.shown")), pattern)  # noqa: B023


def plan_the_evening(page: Page) -> None:
    """Light that falls, from an outing at half past eight, which goes on."""
    page.clock.install(time="2027-04-17T18:45:00Z")
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    document = {"owner": "guest", "version": 1, "stamp": "2027-04-10T10:00:00.000Z#0000", "number": 0, "waiting": None}
    write_document(page, {**document, "kind": "outing", "id": EVENING["id"], "content": EVENING, "sort": "2027-04-17"})
    write_document(
        page, {**document, "kind": "habits", "id": "habits", "content": {"outing": EVENING["id"]}, "sort": "a"}
    )
    page.reload()
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.keyboard.press("v")
    page.get_by_label("At this time of the outing").fill("20:50")
    expect(page.get_by_role("dialog").get_by_text("falling 1 stop")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()


def test_from_a_trial_over_two_corrected_frames_to_what_the_filter_measures(guest: Visit) -> None:
    """Three frames in a row: a trial, too bright, right; each is armed at the time that was offered."""
    page = guest.page
    page.clock.install(time="2027-03-02T12:00:00Z")
    page.reload()
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    page.wait_for_load_state("networkidle")
    page.keyboard.press("s")
    page.keyboard.press("Enter")
    page.get_by_role("dialog").get_by_role("textbox").fill("1/8")
    page.get_by_role("dialog").get_by_role("button", name="Use", exact=True).click()
    expect(page.get_by_test_id("answer-time")).to_have_text("1min04s")
    get_ready(page)
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    no_countdown(page)

    def shoot(seconds: int, verdict: int) -> dict[str, Any]:
        # Open for so long and no longer, however long it takes to press.
        page.clock.pause_at(page.evaluate("Date.now()") / 1000 + 1)
        open_it(page)
        page.clock.fast_forward(1000 * seconds)
        if page.get_by_test_id("run-result").count() == 0 and seconds > 40:
            page.get_by_role("button", name=re.compile("^Close")).first.hover()
            page.mouse.down()
            page.clock.fast_forward(700)
            page.mouse.up()
        page.clock.resume()
        expect(page.get_by_test_id("run-result")).to_be_visible()
        judge(page, verdict)
        eventually(
            page, lambda: (newest(page)["review"] or {}).get("error_stops") == pytest.approx(verdict / 3), "the verdict"
        )
        return newest(page)

    def ready() -> dict[str, Any]:
        expect(page.get_by_role("heading", name="Ready")).to_be_visible()
        (armed,) = kept(page, "armed")
        plan: dict[str, Any] = armed["content"]["plan"]
        return plan

    several(page).get_by_role("button", name="30 s first, to see").click()
    expect(page.get_by_text("A trial of 1 min 04 s")).to_be_visible()
    trial = shoot(33, -6)
    assert trial["run"]["purpose"] == "trial"
    page.get_by_text("the filter", exact=True).click()
    eventually(page, lambda: newest(page)["review"]["because"] == "filter", "where the error belongs")
    # A trial comes out dark, as it was meant to; scaled up, the filter turns out a stop denser than its label.
    again = page.get_by_role("button", name=re.compile("^Again, corrected ?2 min 08 s"))
    again.click()
    plan = ready()
    assert plan["run"]["purpose"] == "frame"
    assert plan["answer"]["set_seconds"] == pytest.approx(128, abs=0.5)
    assert plan["run"]["correction_stops"] == pytest.approx(1, abs=0.02)
    assert plan["run"]["correction_for"] == "filter"
    assert [step["kind"] for step in plan["answer"]["steps"]][-1] == "correction"
    expect(page.get_by_text("1 stop longer: the last frame was dark").first).to_be_visible()
    # A third too bright now: the correction is corrected, not begun anew.
    second = shoot(128, 1)
    page.get_by_text("the filter", exact=True).click()
    again = page.get_by_role("button", name=re.compile("^Again, corrected ?1 min 4"))
    expect(again).to_be_visible()
    offered = again.inner_text().removeprefix("Again, corrected").strip()
    again.click()
    assert ready()["answer"]["set_seconds"] == pytest.approx(102, abs=1.5)
    assert page.locator(".run-clock").inner_text().replace("\n", " ").startswith(offered.split()[0])
    third = shoot(102, 0)
    assert second["run"]["correction_stops"] - third["run"]["correction_stops"] == pytest.approx(1 / 3, abs=0.05)
    expect(page.get_by_role("button", name="Again, same")).to_be_visible()
    # All three agree on the filter; used once, it is in every sum.
    page.get_by_role("link", name="Done").click()
    page.get_by_role("link", name="Bag").first.click()
    page.locator(".filter-tile", has_text="Slot ND 9").click()
    nine = page.get_by_role("article", name="Slot ND 9")
    expect(nine.get_by_test_id("glass-mean")).to_have_text(re.compile(r"measures \+0\.[4-7]"))
    nine.get_by_role("button", name="Use +0.").click()
    expect(nine).to_contain_text(re.compile(r"Sums use 9\.[4-7] "))
    page.get_by_role("link", name="Bench", exact=True).click()
    expect(page.get_by_test_id("answer-time")).to_have_text(re.compile(r"1min(2|3|4)\ds"))
    # A trial is nobody's mistake: the lessons count none.
    page.get_by_role("link", name="Log").click()
    page.get_by_role("link", name="Lessons").click()
    expect(page.get_by_text("Too dark")).to_have_count(0)


def test_under_falling_light_the_frame_ends_when_the_light_has_gathered(guest: Visit) -> None:
    page = guest.page
    plan_the_evening(page)
    arm(page)
    simulate(page, "60")
    page.evaluate(SHOWN)
    open_it(page)
    expect_shown(
        page,
        r"Simulated camera, 60 times as fast\.",
        r"enough: 3 min 23 s in steady light",
        r"light \d+ %",
        r"Close now: \d\.\d stops too dark",
    )
    expect(page.get_by_test_id("run-result")).to_have_text("Closed on time.")
    frame = newest(page)
    asked = {
        "needed_seconds": frame["run"]["metered_seconds"], "opened_at": frame["opened_at"], "now": frame["opened_at"],
        "stops_per_minute": frame["run"]["stops_per_minute"],
    }  # fmt: skip
    end = page.request.post(f"{guest.server.url}/api/run/close", data=asked).json()["close_after_seconds"]
    assert end > 203.2 * 1.05
    # 50 ms on the wall are 3 s of a camera that runs sixty times as fast.
    assert frame["actual_seconds"] == pytest.approx(end, abs=0.05 * 60)
    assert {event["kind"] for event in frame["events"]} == {"opened", "aimed", "closed"}
    # The camera hands over its drawing, marked as what it is.
    expect(also_seen(page).get_by_alt_text("The drawn scene as bright as this frame came out")).to_be_visible()
    expect(page.get_by_text("Simulated camera: a drawing, not a photograph.")).to_be_visible()


def test_readings_on_the_way_and_longer_and_shorter_move_the_end(guest: Visit) -> None:
    page = guest.page
    arm(page)
    open_it(page)
    expect_planned(page, 203)
    page.get_by_role("button", name="⅓ longer").click()
    expect_planned(page, 256)
    page.keyboard.press("c")
    page.keyboard.press("c")
    expect_planned(page, 161)
    expect(page.get_by_role("group", name="Longer or shorter")).to_contain_text("−0.3")
    page.get_by_role("button", name="Light now").click()
    page.get_by_role("button", name="−⅔", exact=True).click()
    expect(page.get_by_test_id("run-ends")).to_contain_text("because you read −0.7 stops.")
    page.get_by_role("button", name="0", exact=True).click()
    assert [event["kind"] for event in newest(page)["events"]] == [
        "opened",
        "extended",
        "cut",
        "cut",
        "reread",
        "reread",
    ]


def test_a_frame_that_never_fills_is_said_before_and_during_with_ways_out(guest: Visit) -> None:
    page = guest.page
    plan_the_evening(page)
    for key in ("2", "1"):
        page.keyboard.press(key)
    # Half an hour of metered time while the light falls by a stop in seven minutes.
    expect(page.get_by_text("In this light the frame never fills")).to_be_visible()
    get_ready(page)
    no_countdown(page)
    open_it(page)
    ways = page.get_by_role("alert").filter(has_text="Not enough light left for this frame.")
    expect(ways).to_contain_text("Open the aperture by")
    expect(ways).to_contain_text("Raise the ISO by")
    expect(page.locator(".run-gone")).to_contain_text("open")


@pytest.mark.parametrize(
    ("fault", "said", "line"),
    [
        ("no_answer", "The remote does not answer.", "Remote in, lock tried"),
        ("not_bulb", "The camera is not in bulb", "Manual, bulb, single frame"),
        ("drive", "The drive is not on single frame.", "Manual, bulb, single frame"),
        ("electronic_shutter", "The shutter is electronic", "Manual, bulb, single frame"),
    ],
)
def test_a_trigger_that_will_not_open_names_the_line(guest: Visit, fault: str, said: str, line: str) -> None:
    page = guest.page
    arm(page)
    simulate(page, "60", fault)
    page.get_by_role("button", name="Open the shutter").click()
    expect(page.get_by_role("alert")).to_contain_text(said)
    expect(page.locator("[data-pointed]")).to_contain_text(line)
    assert frames(page) == []
    # The five-second test would have told beforehand.
    several(page).get_by_role("button", name="Five-second test").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Start").click()
    expect(dialog.get_by_role("alert")).to_contain_text(said)
    page.keyboard.press("Escape")
    expect(dialog).to_be_hidden()
    several(page).get_by_label("Let it fail").select_option("none")
    page.get_by_role("button", name="Five-second test").click()
    dialog.get_by_role("button", name="Start").click()
    expect(dialog.get_by_role("status")).to_contain_text("It answers and holds: 5.0 s open")
    page.keyboard.press("Escape")
    open_it(page)


def test_a_battery_that_gives_out_ends_the_frame_there_and_then(guest: Visit) -> None:
    page = guest.page
    arm(page)
    simulate(page, "60", "battery")
    open_it(page)
    expect(page.get_by_test_id("run-result")).to_contain_text("early")
    expect(page.get_by_text("The battery gave out after")).to_be_visible()
    assert newest(page)["actual_seconds"] == pytest.approx(0.7 * 203.19, abs=3)


def test_the_arm_list_is_ticked_folded_and_never_in_the_way(guest: Visit) -> None:
    page = guest.page
    arm(page)
    expect(page.get_by_role("list", name="Before you open").get_by_role("listitem")).to_have_count(7)
    rested(page)
    page.keyboard.press("2")
    expect(page.get_by_role("checkbox", name=re.compile("Tripod feet firm"))).to_be_hidden()
    page.get_by_role("button", name="1 done").click()
    expect(page.get_by_role("checkbox", name=re.compile("Tripod feet firm"))).to_be_checked()
    page.get_by_role("button", name=re.compile("^why: Focus locked")).click()
    page.get_by_role("button", name=re.compile("^I do this: Focus locked")).click()
    expect(page.get_by_text("Focus locked to manual")).to_be_hidden()
    page.get_by_role("button", name="1 more you know by heart").click()
    expect(page.get_by_text("Focus locked to manual")).to_be_visible()
    # A rehearsal of a longer frame, and back; then a dark frame after a long one.
    page.get_by_role("link", name="Back to the bench").click()
    expect(page.get_by_test_id("answer-time")).to_have_text("3min23s")
    page.keyboard.press("1")
    expect(page.get_by_test_id("answer-time")).to_contain_text("27m")
    get_ready(page)
    several(page).get_by_role("button", name="Get the rehearsal ready").click()
    expect(page.get_by_text("Rehearsal at high ISO, filters on.")).to_be_visible()
    expect(page.get_by_text(re.compile(r"ISO 4000, Slot ND 9 \+ Slot ND 4"))).to_be_visible()
    simulate(page, "60")
    open_it(page)
    page.get_by_role("button", name="Back to the frame itself").click()
    expect(page.get_by_text(re.compile(r"ISO 64, Slot ND 9"))).to_be_visible()
    several(page).get_by_role("button", name="Recompose").click()
    expect(page.get_by_text("Take the dark filters off; frame, focus and meter again.")).to_be_visible()
    expect(page.get_by_role("button", name="New reading")).to_be_visible()
    expect(page.get_by_text(re.compile("just now"))).to_be_hidden()


def test_a_queue_of_frames_goes_on_by_itself_and_a_lucky_series_keeps_its_tally(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    get_ready(page)
    no_countdown(page)
    simulate(page, "60")
    several(page).get_by_role("button", name="More than one frame").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Show the times").click()
    expect(dialog.get_by_text("The camera's own bracketing reaches them all.")).to_be_visible()
    # Nor do three frames' times stand under another number.
    dialog.get_by_label("Frames", exact=True).fill("5")
    expect(dialog.get_by_text("The camera's own bracketing reaches them all.")).to_be_hidden()
    dialog.get_by_label("Frames", exact=True).fill("3")
    dialog.get_by_role("button", name="Take", exact=True).click()
    # What the camera's own bracketing reaches is one opening.
    expect(page.get_by_text("One press takes all 3: ")).to_be_visible()
    expect(page.get_by_text("bracketing of 3 frames at one press")).to_be_visible()
    several(page).get_by_role("button", name="More than one frame").click()
    dialog.get_by_label("Stops between them").fill("1.5")
    dialog.get_by_role("button", name="Take", exact=True).click()
    expect(page.get_by_text("Frame 1 of 3")).to_be_visible()
    # At this speed it is over before anybody could look.
    page.get_by_role("button", name="Open the shutter").click()
    page.get_by_role("button", name="Next: frame 2 of 3").click()
    expect(page.get_by_text("Frame 2 of 3, −1.5 stops")).to_be_visible()
    rested(page)
    several(page).get_by_role("button", name="More than one frame").click()
    dialog.get_by_label("Lucky series").check()
    dialog.get_by_role("button", name="Take", exact=True).click()
    page.get_by_role("button", name="Open the shutter").click()
    page.get_by_role("button", name="Keep, next").click()
    expect(page.get_by_text("Lucky series: 1 kept, 0 dropped")).to_be_visible()


def test_what_is_set_up_and_how_it_ended_stand_there_after_a_reload(guest: Visit) -> None:
    page = guest.page
    arm(page)
    page.reload()
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    open_it(page)
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    said = page.get_by_test_id("run-result").inner_text()
    page.reload()
    expect(page.get_by_test_id("run-result")).to_have_text(said)
    # Nor does it matter on which screen, or on which page, one comes back.
    other = guest.tab("/")
    other.get_by_role("link", name="Back to the frame").click()
    expect(other.get_by_test_id("run-result")).to_have_text(said)


@pytest.mark.parametrize("phone", [False, True], ids=["desk", "phone"])
def test_a_double_tap_on_open_opens_and_does_nothing_more(visits: Any, phone: bool) -> None:
    page = visits(visited=True, phone=phone).page
    arm(page)
    rested(page)
    button = page.get_by_role("button", name="Open the shutter")
    # At the foot, where it stands unless somebody has gone on to read what lies below it.
    page.evaluate("document.querySelector('main').scrollTop = 0")
    box = button.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    for _ in range(2):
        page.mouse.click(x, y)
        page.wait_for_timeout(120)
    expect(left(page)).to_be_visible()
    expect(page.get_by_test_id("run-closes")).to_have_text(re.compile(r"closes at \d\d:\d\d:\d\d"))
    expect(page).to_have_title(re.compile(r"^3:\d\d to go$"))
    # What stands there now must be held, and nothing has been made longer or given up.
    under = "([x, y]) => document.elementFromPoint(x, y).closest('button').className"
    rested(page)
    assert "hold-close" in page.evaluate(under, [x, y])
    assert [event["kind"] for event in newest(page)["events"]] == ["opened"]
    expect_planned(page, 203)
    # Said as a person says it: until four minutes.
    page.get_by_role("button", name="Light now").click()
    page.get_by_label("Open until, in minutes and seconds").fill("4:00")
    page.get_by_label("Open until, in minutes and seconds").press("Enter")
    expect_planned(page, 240)


def test_two_pages_show_one_run_and_a_changed_clock_moves_nothing(guest: Visit) -> None:
    page = guest.page
    arm(page)
    before = page.evaluate("Date.now()") / 1000
    open_it(page)
    page.wait_for_timeout(600)
    # Somebody sets the clock of the device an hour ahead.
    page.evaluate("const real = Date.now.bind(Date); Date.now = () => real() + 3600e3")
    expect(page.get_by_text("The clock of this device was changed; the run kept its own count.")).to_be_visible()
    expect_planned(page, 203)
    # A second page asks the first how long it has been open, not the wall.
    second = guest.tab("/run")
    expect_planned(second, 203)
    rested(second)
    second.keyboard.down("Space")
    second.wait_for_timeout(HOLD_MS)
    second.keyboard.up("Space")
    expect(second.get_by_test_id("run-result")).to_contain_text("early")
    expect(page.get_by_test_id("run-result")).to_contain_text("early")
    frame = newest(second)
    shut = second.evaluate("Date.now()") / 1000
    assert frame["actual_seconds"] < shut - before + 0.5
    assert frame["run"]["watched"] is True


def test_when_nothing_lived_through_it_the_person_is_asked(guest: Visit) -> None:
    page = guest.page
    arm(page)
    open_it(page)
    for _ in range(300):
        if newest(page)["run"].get("server_clock"):
            break
        page.wait_for_timeout(50)
    # What this browser holds is changed from a page that runs nothing: a living one gives its signs of life meanwhile.
    page.goto(guest.server.url + "/api/health")
    # The machine was started anew, and the last sign of life is long ago.
    doc = kept(page, "frame")[0]
    frame = doc["content"]
    frame["run"]["server_clock"]["count"] = "another start"
    now = page.evaluate("Date.now()")
    frame["opened_at"] = opened = page.evaluate("now => new Date(now - 150_000).toISOString()", now)
    write_document(page, {**doc, "content": frame, "sort": "1" + opened})
    note(page, "alive", {"id": frame["id"], "wall": now - 140_000, "at": now - 140_000})
    page.goto(guest.server.url + "/run")
    ask = page.get_by_role("alert").filter(has_text="Nothing ran")
    expect(ask).to_contain_text("Nothing ran while this page was away. By the clock the shutter has been open for")
    expect(ask).to_contain_text(re.compile("open for [23]:[0-5][0-9]"))
    ask.get_by_label("Opened this many seconds ago").fill("120")
    before = page.evaluate("Date.now()") / 1000
    ask.get_by_role("button", name="Set").click()
    expect(ask).to_be_hidden()
    expect_planned(page, 203)
    expect(page.get_by_text("Timed to 5 s.")).to_be_visible()
    page.keyboard.down("Space")
    page.wait_for_timeout(HOLD_MS)
    page.keyboard.up("Space")
    expect(page.get_by_text("Nobody watched this frame's clock")).to_be_visible()
    frame = newest(page)
    open_at_most = 120 + page.evaluate("Date.now()") / 1000 - before
    assert 120 <= frame["actual_seconds"] <= open_at_most + 0.5
    assert frame["run"]["watched"] is False


def test_a_sleeping_page_closes_on_time(guest: Visit) -> None:
    page = guest.page
    arm(page)
    simulate(page, "60")
    open_it(page)
    # The page is put away and its timers are held back: the camera was told its time when it opened.
    other = guest.tab("/log")
    other.bring_to_front()
    other.wait_for_timeout(4500)
    page.bring_to_front()
    expect(page.get_by_test_id("run-result")).to_have_text("Closed on time.")
    assert newest(page)["actual_seconds"] == pytest.approx(203.19, abs=3)


def test_phone_and_laptop_show_the_same_run(visits: Any) -> None:
    phone: Visit = visits(visited=True, phone=True)
    phone.sign_in()
    arm(phone.page)
    open_it(phone.page)
    laptop: Visit = visits(visited=True)
    laptop.sign_in()
    laptop.page.goto(laptop.server.url + "/run")
    expect_planned(laptop.page, 203)
    laptop.page.get_by_role("button", name="⅓ longer").click()
    hold(laptop.page, "Close")
    expect(laptop.page.get_by_test_id("run-result")).to_contain_text("early")
    expect(phone.page.get_by_test_id("run-result")).to_contain_text("early", timeout=20_000)


@pytest.fixture
def mortal(fresh_data: Callable[[str], Path]) -> Iterator[Server]:
    """A server of one's own to kill."""
    with serving(fresh_data("mortal")) as running:
        yield running


def expect_running(page: Page, server: Server, opened: str) -> None:
    """The account has the frame, open since then."""
    for _ in range(60):
        running = page.request.get(f"{server.url}/api/frames/running").json()
        if running is not None:
            break
        page.wait_for_timeout(250)
    assert running is not None
    assert (running["opened_at"], running["state"]) == (opened, "open")


def test_a_server_killed_again_and_again_in_mid_run_loses_nothing(browser: Browser, mortal: Server) -> None:
    visit = Visit(browser, mortal, visited=True)
    page = visit.page
    visit.sign_in()
    arm(page)
    before = time.monotonic()
    open_it(page)
    begun = time.monotonic()
    opened = newest(page)["opened_at"]
    expect_running(page, mortal, opened)
    for turn in range(4):
        mortal.kill()
        if turn % 2:
            # Something happens while nobody answers.
            page.get_by_role("button", name="⅓ longer").click()
        mortal.start()
        expect_running(page, mortal, opened)
    page.reload()
    # Two thirds longer: 203 s become 322 s; the count went on through it all.
    expect_planned(page, 322)
    rested(page)
    pressed = time.monotonic()
    page.keyboard.down("Space")
    page.wait_for_timeout(HOLD_MS)
    page.keyboard.up("Space")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    shut = time.monotonic()
    expect(also_seen(page).get_by_text("Kept in the log.")).to_be_visible()
    for _ in range(600):
        if all(doc["waiting"] is None for doc in kept(page, "frame")):
            break
        page.wait_for_timeout(50)
    frame = page.request.get(f"{mortal.url}/api/frames?limit=1").json()["frames"][0]
    assert frame["opened_at"] == opened
    assert [event["kind"] for event in frame["events"]].count("extended") == 2
    assert pressed - begun - 0.5 < frame["actual_seconds"] < shut - before + 0.5
    assert json.dumps(frame["run"]["watched"]) == "true"
    visit.context.close()


def test_a_remote_that_only_presses_opens_with_one_and_closes_with_two(guest: Visit) -> None:
    page = guest.page
    short_bulb(page)
    get_ready(page)
    no_countdown(page)
    page.get_by_label("At the end").select_option(label="I close it")
    page.get_by_role("heading", name="Ready").click()
    page.keyboard.press("Enter")
    closing = page.get_by_role("button", name=re.compile("^Close"))
    expect(closing).to_contain_text("hold")
    page.wait_for_timeout(900)
    # A sleeve presses once.
    page.keyboard.press("Enter")
    expect(closing).to_contain_text("hold")
    # Meant only where two follow each other closely: a slow machine may have let the first one pass.
    page.keyboard.press("Enter")
    page.keyboard.press("Space")
    expect(page.get_by_test_id("run-result")).to_be_visible()


def test_whoever_cannot_hold_aborts_with_two_presses(guest: Visit) -> None:
    page = guest.page
    short_bulb(page)
    get_ready(page)
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    aborting = page.get_by_role("button", name="Abandon")
    page.wait_for_timeout(900)
    aborting.evaluate("(button) => button.click()")
    expect(aborting).to_be_visible()
    aborting.evaluate("(button) => { button.click(); button.click(); }")
    expect(page.get_by_role("heading", name="Abandoned")).to_be_visible()
