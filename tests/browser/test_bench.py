"""The bench in the hand: how many taps it takes, what is decided is what is run, nothing lies on anything."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect
from tools.browserdata import kept

from .conftest import (
    Visit,
    done,
    eventually,
    frames,
    get_ready,
    in_its_own_letters,
    in_the_picture,
    judge,
    more,
    no_countdown,
    rested,
    see_the_log,
    work_out,
    working,
)
from .test_path import hold
from .test_run import open_it, simulate


def answer(page: Page) -> Any:
    return page.get_by_test_id("answer-time")


FAULTS_IN_BOXES = """() => {
    const box = (name) => document.querySelector(name).getBoundingClientRect();
    const inView = [".answer-part", ".main-action"].filter((name) => {
        const { top, bottom, left, right } = box(name);
        const under = document.elementFromPoint((left + right) / 2, (top + bottom) / 2);
        return !under?.closest(name + ", .answer-time");
    });
    const names = [".bench-meter", ".bench-shelf", ".light-row", ".staff-stage", ".answer", ".glance", ".main-action"];
    const over = [];
    for (const [at, name] of names.entries())
        for (const other of names.slice(at + 1)) {
            const [a, b] = [box(name), box(other)];
            const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
            const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
            // With large letters what does not fit slides beneath the action.
            const slides = (innerHeight < 560 || innerWidth < 340) && other === ".main-action";
            if (wide > 1 && high > 1 && !slides) over.push(name + " on " + other);
        }
    const cut = [...document.querySelectorAll(".bench button, .answer p")]
        .filter((part) => part.checkVisibility() && part.scrollWidth > part.clientWidth + 1)
        .map((part) => part.textContent);
    const aside = document.documentElement.scrollWidth > innerWidth ? ["scrolls sideways"] : [];
    return [...inView, ...over, ...cut, ...aside];
}"""
"""What is out of view, lies on something else, is cut off or scrolls sideways."""


class Taps:
    """Counts what a finger does."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def on(self, name: str | re.Pattern[str], exact: bool = False) -> None:
        self.page.get_by_role("button", name=name, exact=exact).first.tap()
        self.count += 1


def test_a_reading_and_two_filters_are_ready_in_six_taps(visits: Any) -> None:
    page = visits(visited=True, phone=True).page
    expect(answer(page)).to_have_text("13s")
    taps = Taps(page)
    taps.on(re.compile("^Shutter 1.40"))
    taps.on("1/60", exact=True)
    taps.on("Slot ND 4, 4 stops")
    # Nine stops are on already; a newcomer would tap them, too.
    expect(answer(page)).to_have_text("2min08s")
    taps.on("Get ready")
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    assert taps.count + 1 <= 6
    assert frames(page) == []


def test_at_the_desk_it_takes_eight_keys(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.wait_for_load_state("networkidle")
    keys = ["0", "s", "ArrowDown", "4", "2", "r"]
    for key in keys[:-1]:
        page.keyboard.press(key)
    expect(answer(page)).to_have_text("2min41s")
    page.keyboard.press("r")
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    assert len(keys) <= 8


def test_meter_ten_stops_smooth_sea_falling_light_run_dark_again_in_twelve_taps(visits: Any) -> None:
    """The whole of a frame on a phone, from the meter to the next frame, and no dialog but the one that types."""
    visit: Visit = visits(visited=True, phone=True)
    page = visit.page
    expect(answer(page)).to_have_text("13s")
    # One meters with a bare lens; the dial is pulled two thirds on.
    page.keyboard.press("0")
    shutter = page.get_by_role("button", name=re.compile("^Shutter 1.40")).first
    box = shutter.bounding_box()
    assert box
    page.mouse.move(box["x"] + 20, box["y"] + 24)
    page.mouse.down()
    page.mouse.move(box["x"] + 20, box["y"] + 24 - 2 * 14, steps=4)
    page.mouse.up()
    expect(page.get_by_role("button", name=re.compile("^Shutter 1.(60|25)")).first).to_be_visible()
    taps = Taps(page)
    taps.on("Slot ND 10, 10 stops")
    page.locator(".light-row").get_by_text("falling").tap()
    taps.on("What moves in your picture?")
    taps.on("Sea", exact=True)
    taps.on("Done")
    taps.on("mirror", exact=True)
    taps.on("Get ready")
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    rested(page)
    taps.on("Open the shutter")
    expect(page.get_by_test_id("run-left")).to_be_visible()
    rested(page)
    hold(page, "Close")
    judge(page, -2)
    rested(page)
    taps.on(re.compile("^Again, corrected"))
    # And one each for the meter, the light, the shutter held closed and the verdict.
    assert taps.count + 4 <= 12
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("Open the shutter|Get ready"))).to_be_visible()


def test_a_first_visit_comes_to_an_honest_time_in_ten_taps_and_two_dialogs(visits: Any) -> None:
    """One's own filters, one's own reading, nothing lent or made up, ready to open."""
    page = visits(visited=True, phone=True).page
    expect(answer(page)).to_have_text("13s")
    taps = Taps(page)
    taps.on("Use mine")
    for stops in ("3", "6", "10"):
        taps.on(stops, exact=True)
    taps.on("These 3 are my bag")
    expect(page.get_by_text("Example filters.")).to_be_hidden()
    taps.on(re.compile("^Shutter 1.40"))
    taps.on("1/60", exact=True)
    expect(page.get_by_role("dialog")).to_be_hidden()
    on = page.get_by_role("button", name="ND 10, 10 stops")
    if on.get_attribute("aria-pressed") == "false":
        taps.on("ND 10, 10 stops")
    taps.on("Get ready")
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    assert taps.count <= 10
    expect(page.get_by_text("example")).to_have_count(0)


def test_one_s_own_bag_of_four_stands_in_eight_taps_and_the_lent_one_goes(visits: Any) -> None:
    visit: Visit = visits(visited=True, phone=True)
    page = visit.page
    expect(answer(page)).to_have_text("13s")
    taps = Taps(page)
    taps.on("Use mine")
    for stops in ("3", "6", "10", "15"):
        taps.on(stops, exact=True)
    taps.on("These 4 are my bag")
    expect(page.get_by_role("button", name="ND 15, 15 stops")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Slot ND"))).to_have_count(0)
    assert taps.count <= 8
    # It stays so, and nobody is asked again.
    page.reload()
    expect(page.get_by_role("button", name="ND 10, 10 stops")).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_text("Example filters.")).to_be_hidden()
    # The bag goes along into an account.
    visit.sign_in()
    expect(page.get_by_text(re.compile("things? joined your bag"))).to_be_visible()


def test_a_time_that_was_decided_is_the_one_that_is_run_and_logged(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("2")
    expect(answer(page)).to_have_text("3min23s")
    # A round time beside it, each with its cost; another one typed.
    expect(more(page).get_by_role("button", name="3 min 20 s −0.02 stop")).to_be_visible()
    page.get_by_role("button", name="Another", exact=True).click()
    page.get_by_role("dialog").get_by_role("textbox").fill("5 min")
    page.get_by_role("dialog").get_by_role("button", name="Use", exact=True).click()
    expect(answer(page)).to_have_text("5min")
    expect(page.get_by_test_id("answer-cost")).to_have_text("0.6 stop bright, exact 3 min 23 s")
    # The pennant, the sum and what is said of the subjects stand at it, too.
    expect(page.get_by_role("img", name=re.compile("Set 5 min"))).to_be_visible()
    working(page)
    expect(page.get_by_role("row", name=re.compile(r"5 min chosen \+0\.6"))).to_be_visible()
    page.reload()
    expect(answer(page)).to_have_text("5min")
    get_ready(page)
    expect(page.get_by_text("Open for 5 min")).to_be_attached()
    no_countdown(page)
    simulate(page, "60")
    open_it(page)
    expect(page.get_by_test_id("run-result")).to_have_text("Closed on time.")
    (frame,) = frames(page)
    assert frame["answer"]["seconds"] == frame["answer"]["set_seconds"] == 300
    assert frame["run"]["bias_stops"] == pytest.approx(0.5621, abs=1e-3)
    assert frame["actual_seconds"] == pytest.approx(300, abs=4)
    see_the_log(page)
    expect(page.get_by_text("Planned 5 min")).to_be_visible()
    # Another filter is another sum: what was decided for the old one does not stand.
    page.get_by_role("link", name="Bench", exact=True).filter(visible=True).click()
    expect(answer(page)).to_have_text("5min")
    page.keyboard.press("1")
    expect(answer(page)).to_have_text("27min05s")


def test_the_exact_aperture_for_a_decided_time_is_one_choice_away(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("2")
    more(page).get_by_role("button", name=re.compile("^3 min 30 s")).click()
    expect(answer(page)).to_have_text("3min30s")
    work_out(page, "f-stop")
    expect(page.get_by_test_id("answer-floating")).to_have_text("f/9")
    expect(page.get_by_text("For 3 min 30 s.")).to_be_visible()
    work_out(page, "time")
    expect(answer(page)).to_have_text("3min23s")


def test_a_window_is_tapped_to_aim_for_and_tapped_again_to_let_go(visits: Any) -> None:
    for phone in (False, True):
        page = visits(visited=True, phone=phone).page
        expect(answer(page)).to_have_text("13s")
        # Nothing is judged before somebody said what is there.
        expect(page.get_by_role("group", name=re.compile("^Look of"))).to_have_count(0)
        in_the_picture(page, "Sea", "Cloud")
        done(page)
        sea = page.get_by_role("group", name="Look of Sea")
        # Too low for a finger a window is no button: it is picked in the list instead.
        window = sea.get_by_role("button").first
        window.click()
        expect(window).to_have_attribute("aria-pressed", "true")
        panel = more(page)
        judged = re.compile("(Too short for|Too long for|Gives) your look")
        expect(panel.get_by_text(judged)).to_be_visible()
        expect(panel.get_by_role("region", name="Ways to get this look")).to_be_visible()
        done(page)
        window.press("Enter")
        expect(more(page).get_by_text(judged)).to_be_hidden()


@pytest.mark.parametrize(
    ("width", "height"), [(320, 844), (390, 844), (844, 390), (640, 400), (1280, 800), (1920, 1080)]
)
def test_answer_and_action_are_in_view_and_nothing_lies_on_anything(guest: Visit, width: int, height: int) -> None:
    page = guest.page
    page.set_viewport_size({"width": width, "height": height})
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("2")
    expect(answer(page)).to_have_text("3min23s")
    in_its_own_letters(page)
    for light in ("Noon", "Dusk", "Red"):
        expect(page.get_by_role("button", name=f"Screen: {light}")).to_be_visible()
        assert page.evaluate(FAULTS_IN_BOXES) == [], light
        page.get_by_role("button", name="Screen: ").click()


def test_a_frame_nobody_worked_out_is_just_timed(guest: Visit) -> None:
    page = guest.page
    page.goto(guest.server.url + "/run")
    # On a watch a bare number is seconds: 45 is no 1/45.
    page.get_by_label("Another time").fill("45")
    expect(page.get_by_role("button", name="Time 45 s")).to_be_visible()
    page.get_by_label("Another time").fill("2:30")
    page.get_by_role("button", name="Time 2 min 30 s").click()
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    no_countdown(page)
    simulate(page, "60")
    open_it(page)
    expect(page.get_by_test_id("run-result")).to_have_text("Closed on time.")
    (frame,) = frames(page)
    assert frame["answer"]["seconds"] == 150
    see_the_log(page)
    expect(page.get_by_text("Planned 2 min 30 s")).to_be_visible()


def test_letters_are_keys_only_while_one_wants_them_and_screens_say_their_names(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    expect(page).to_have_title("Bench · Jackstaff")
    page.keyboard.press("?")
    page.get_by_label("Single letters, digits and signs act as keys").uncheck()
    page.get_by_role("dialog").get_by_role("button", name="Done").click()
    for key in ("2", "l"):
        page.keyboard.press(key)
    page.get_by_role("link", name="Bag").filter(visible=True).click()
    expect(page).to_have_title("Bag · Jackstaff")
    expect(page.get_by_role("heading", level=1)).to_be_focused()
    page.get_by_role("link", name="Bench").filter(visible=True).click()
    expect(answer(page)).to_have_text("13s")
    expect(page.get_by_role("heading", level=1)).to_be_focused()


def test_a_decided_time_runs_longer_by_what_one_says_and_is_picked_up_whole_elsewhere(visits: Any) -> None:
    here: Visit = visits(visited=True)
    there: Visit = visits(visited=True)
    for visit in (here, there):
        visit.sign_in()
        expect(answer(visit.page)).to_have_text("13s")
    page, other = here.page, there.page
    page.keyboard.press("2")
    more(page).get_by_role("button", name=re.compile("^3 min 30 s")).click()
    expect(answer(page)).to_have_text("3min30s")
    get_ready(page)
    no_countdown(page)
    open_it(page)
    # What was decided is the plan; only what is said now is longer or shorter.
    expect(page.get_by_role("group", name="Longer or shorter").locator("span")).to_have_count(0)
    page.get_by_role("button", name="⅓ longer").click()
    expect(page.get_by_role("group", name="Longer or shorter")).to_contain_text("+0.3 stops")
    decided = frames(page)[0]["run"]["bias_stops"] - 1 / 3
    assert decided == pytest.approx(0.0475, abs=1e-3)
    # Another device ends it and stands ready with the same plan, the decided part of it included.
    other.goto(there.server.url + "/run")
    expect(other.get_by_test_id("run-left")).to_be_visible()
    hold(other, "Close")
    expect(other.get_by_test_id("run-result")).to_be_visible()
    other.get_by_role("button", name="Again, same").click()
    expect(other.get_by_text("Open for 3 min 30 s")).to_be_attached()
    (armed,) = kept(other, "armed")
    assert armed["content"]["plan"]["run"]["bias_stops"] == pytest.approx(decided, abs=1e-5)


def test_two_readings_of_a_scene_tell_how_the_light_moves_and_the_frame_is_run_by_it(guest: Visit) -> None:
    page = guest.page
    # No outing goes on then: nothing but the readings says anything about the light.
    page.clock.install(time="2027-03-02T12:00:00Z")
    page.reload()
    expect(page.get_by_role("radio", name="steady")).to_be_checked()
    # A dial can be turned once its marks have come.
    page.wait_for_load_state("networkidle")
    page.keyboard.press("s")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("2")
    expect(answer(page)).to_have_text("4min16s")
    page.clock.fast_forward("05:00")
    page.get_by_role("button", name="New reading").click()
    # The three values are at hand to type; the arrows do as well.
    expect(page.get_by_role("dialog").get_by_role("group", name="The reading")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()
    for _ in range(2):
        page.keyboard.press("s")
        page.keyboard.press("ArrowUp")
    expect(page.get_by_role("radio", name="falling")).to_be_checked()
    expect(more(page).get_by_role("button", name=re.compile("Light ?falling 1 stop in .* 2 readings"))).to_be_visible()
    expect(page.get_by_text("Light falls since the reading")).to_be_attached()
    # Another value without a word is another scene until somebody says it is not.
    page.clock.fast_forward("04:00")
    page.keyboard.press("s")
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("radio", name="steady")).to_be_checked()
    page.get_by_role("button", name="Same scene, 4 min on?").click()
    more(page).get_by_role("button", name=re.compile("Light ?falling 1 stop in .* 3 readings")).click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text(re.compile(r"From 3 readings in \d+ min: falling 1 stop in"))).to_be_visible()
    dialog.get_by_role("button", name="Done").last.click()
    get_ready(page)
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    (armed,) = kept(page, "armed")
    plan = armed["content"]["plan"]
    assert plan["run"]["stops_per_minute"] == pytest.approx(-0.12, abs=0.04)
    # What falls while it is open makes it longer than the reading alone would.
    assert plan["answer"]["seconds"] > 1.15 * plan["run"]["metered_seconds"]


def test_a_stack_is_named_once_and_goes_on_with_one_tap(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("2")
    expect(answer(page)).to_have_text("3min23s")
    more(page).get_by_role("button", name="Name this stack").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Call it").fill("the taped pair")
    dialog.get_by_label("Strength together").fill("12,5")
    dialog.get_by_role("button", name="Keep them as one").click()
    # Thirteen by their labels, twelve and a half as they were measured together.
    expect(answer(page)).to_have_text("2min24s")
    tiles = page.get_by_role("toolbar", name="On the lens")
    expect(tiles.get_by_role("button", pressed=True)).to_have_count(1)
    # A member takes the stack's place, and the stack that of its members.
    page.keyboard.press("2")
    expect(tiles.get_by_role("button", name="Slot ND 4, 4 stops", pressed=True)).to_be_visible()
    expect(tiles.get_by_role("button", pressed=True)).to_have_count(1)
    tiles.get_by_role("button", name="the taped pair").click()
    expect(answer(page)).to_have_text("2min24s")
    get_ready(page)
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    (armed,) = kept(page, "armed")
    assert [glass["name"] for glass in armed["content"]["plan"]["stack"]] == ["the taped pair"]
    page.go_back()
    page.get_by_role("button", name="Undo").click()
    expect(answer(page)).to_have_text("3min23s")


def test_a_plain_timer_counts_up_and_what_it_counted_is_the_frame(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    more(page).get_by_role("link", name="Plain timer").click()
    page.get_by_role("button", name="Count up until I close").click()
    expect(page.get_by_text("Counts up until you close it").first).to_be_visible()
    no_countdown(page)
    open_it(page)
    expect(page.get_by_text("Counting up until you close it.")).to_be_visible()
    expect(page.get_by_test_id("run-left")).to_contain_text(re.compile("0:(0[2-9]|[1-5])"))
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    (frame,) = frames(page)
    assert frame["run"]["purpose"] == "stopwatch"
    assert frame["answer"]["seconds"] == frame["actual_seconds"] >= 2
    assert frame["error"] is None
    assert frame["settings"] == {"aperture": "", "iso": ""}
    assert frame["reading"].keys() <= {"step"}
    # How it came out is worth the next time, all the same.
    judge(page, -3)
    again = page.get_by_role("button", name="Again, corrected")
    expect(again).to_be_visible()
    again.click()
    (armed,) = kept(page, "armed")
    assert armed["content"]["plan"]["answer"]["set_seconds"] == pytest.approx(2 * frame["actual_seconds"], abs=0.051)
    page.get_by_role("button", name="Show the list by hand").click()
    expect(page.get_by_role("list", name="Before you open")).to_contain_text("bulb")
    page.get_by_role("link", name="Back to the bench").click()
    page.get_by_role("link", name="Log").filter(visible=True).first.click()
    row = page.get_by_role("listitem").filter(has_text="Only timed")
    expect(row).to_be_visible()
    for said in ("f/", "ISO", "no filters", "metered"):
        expect(row).not_to_contain_text(said)


def test_a_typed_reading_that_means_two_things_is_asked_about_wherever_it_is_typed(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("x")
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("sky", exact=False).first.fill("4")
    expect(dialog.get_by_text("Which one is it?")).to_be_visible()
    expect(dialog.get_by_text("The sky is")).to_be_hidden()
    dialog.get_by_role("button", name="1/4", exact=True).click()
    dialog.get_by_label("Ground reads").fill("2 s")
    expect(dialog.get_by_text("The sky is 3.0 stops brighter.")).to_be_visible()
    # A time to remember a reading for is by the watch: any of them, as people write them.
    page.get_by_role("tab", name="One reading").click()
    dialog.get_by_label("Time wanted").fill("3:20")
    remembered = re.compile(r"a bare reading of [\d/.]+ s at f/9, ISO 64 gives 3 min 20 s")
    expect(dialog.get_by_text(remembered).first).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Bag").filter(visible=True).click()
    expect(page.get_by_role("link", name="Times these make")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Slot ND 4")).click()
    page.get_by_role("button", name="Measure it").click()
    page.get_by_label("Without it the meter says").fill("1/60")
    page.get_by_role("button", name="Another time").click()
    page.get_by_label("Another time").fill("4")
    expect(page.get_by_text("Which one is it?")).to_be_visible()
    expect(page.get_by_text("stops of")).to_be_hidden()
    page.get_by_role("button", name="1/4", exact=True).last.click()
    expect(page.get_by_label("Another time")).to_have_value("1/4")
    expect(page.get_by_text("4.0 ± 0.3 stops")).to_be_visible()


def test_a_newcomer_s_example_is_marked_and_get_ready_asks_for_one_s_own(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    expect(page.get_by_role("button", name=re.compile("^example"))).to_be_visible()
    page.get_by_role("button", name="Get ready").dblclick()
    ask = page.get_by_role("alert").filter(has_text="That reading is an example.")
    expect(ask).to_be_visible()
    assert kept(page, "armed") == []
    ask.get_by_role("button", name="Enter mine").click()
    page.get_by_role("dialog").get_by_role("textbox").fill("1/60")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^example"))).to_be_hidden()
    page.get_by_role("button", name="Get ready").click()
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()


def test_a_picker_of_one_s_own_bag_knows_twins_and_the_camera_and_can_be_left(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.get_by_role("button", name="Use mine").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="3", exact=True).click()
    dialog.get_by_role("button", name="Cancel").last.click()
    # Left, it has taken nothing and answered nothing.
    expect(page.get_by_role("button", name="Slot ND 9, 9 stops")).to_be_visible()
    page.get_by_role("button", name="Use mine").click()
    dialog.get_by_role("button", name="6", exact=True).click()
    dialog.get_by_role("button", name="6", exact=True).click()
    dialog.get_by_role("button", name="Soft grad 3").click()
    dialog.get_by_text("And your camera, if you like").click()
    dialog.get_by_text("15 min", exact=True).click()
    dialog.get_by_text("glass", exact=True).click()
    dialog.get_by_role("button", name="These 3 are my bag").click()
    expect(page.get_by_role("button", name="ND 6, second, 6 stops")).to_be_visible()

    def bodies() -> list[tuple[str, float]]:
        things = [each["content"]["item"] for each in kept(page, "kit") if each["content"]]
        facts = [each["facts"] for each in things if each["sort"] == "body"]
        return [(each["eyepiece"], each["dial_limit_s"]) for each in facts]

    eventually(page, lambda: ("optical", 900) in bodies(), "the camera is kept")
