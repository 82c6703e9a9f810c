"""The bag and what the bench does with it: pins, alternatives, files, dragging, the extras."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Locator, Page, expect

from .conftest import Visit, more, work_out, working


def answer(page: Page) -> Any:
    return page.get_by_test_id("answer-time")


def tile(page: Page, name: str) -> Locator:
    """A filter's block in the bag."""
    return page.locator(".filter-tile", has_text=name)


def test_a_filter_is_measured_by_two_readings_and_counts_everywhere(guest: Visit) -> None:
    page = guest.page
    taps = 0

    def tap(button: Locator) -> None:
        nonlocal taps
        taps += 1
        button.click()

    expect(answer(page)).to_have_text("13s")
    tap(page.get_by_role("link", name="Bag").filter(visible=True))
    tap(tile(page, "Slot ND 4"))
    opened = page.get_by_role("article", name="Slot ND 4")
    expect(opened).to_contain_text("Nobody has measured it: sums use the label.")
    tap(opened.get_by_role("button", name="Measure it"))
    tap(opened.get_by_role("button", name="1/40, as on the bench"))
    tap(opened.get_by_role("button", name="0.5 s", exact=True))
    # 1/40 is 2^-16/3 and 0.5 s is 2^-1: four stops and a third, known to a third-stop dial's give or take.
    expect(opened.get_by_role("status")).to_contain_text("4.3 ± 0.3 stops")
    expect(opened.get_by_role("status")).to_contain_text("0.3 denser than its label.")
    tap(opened.get_by_role("button", name="Use it"))
    assert taps <= 8
    expect(tile(page, "Slot ND 4")).to_contain_text("4.3")
    expect(opened).to_contain_text(re.compile("Sums use 4.3 ± 0.29, from two readings on "))
    page.get_by_role("button", name="Undo").last.click()
    expect(opened).to_contain_text("Nobody has measured it: sums use the label.")


def test_what_a_filter_measures_can_be_typed_undone_copied_and_put_away(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("k")
    tile(page, "Slot ND 9").click()
    page.get_by_text("More", exact=True).click()
    page.get_by_label("Measured minus label, stops").fill("0,3")
    page.get_by_label("Give or take, stops").fill("0.2")
    page.get_by_label("Strength, stops").fill("99")
    page.get_by_role("button", name="Save", exact=True).click()
    fault = page.get_by_text("Give a number from 0 to 30 stops.")
    expect(fault.first).to_be_visible()
    page.get_by_label("Strength, stops").fill("9")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Slot ND 9 saved.")).to_be_visible()
    expect(page.get_by_role("button", name="Slot ND 9, 9.3 stops; label 9")).to_be_visible()
    page.keyboard.press("b")
    expect(answer(page)).to_have_text("15s")
    working(page)
    expect(page.get_by_role("row", name=re.compile(r"Slot ND 9, measured correction \+0.3"))).to_be_visible()
    # The toast has gone with the screen's own; the bag keeps the change over a reload, and a copy is another filter.
    page.reload()
    expect(answer(page)).to_have_text("15s")
    page.keyboard.press("k")
    tile(page, "Slot ND 9").click()
    page.get_by_text("More", exact=True).click()
    page.get_by_role("button", name="Copy").click()
    page.get_by_role("button", name="Save", exact=True).click()
    expect(tile(page, "Slot ND 9, copy")).to_be_visible()
    copy = page.get_by_role("article", name="Slot ND 9, copy")
    copy.get_by_text("More", exact=True).click()
    copy.get_by_role("button", name="Remove", exact=True).click()
    expect(tile(page, "Slot ND 9, copy")).to_have_count(0)
    page.get_by_role("status").filter(has_text="Slot ND 9, copy removed").get_by_role("button", name="Undo").click()
    expect(tile(page, "Slot ND 9, copy")).to_be_visible()
    # Lent, it leaves the sums at once and lies apart, with its history.
    page.get_by_role("button", name="Lost, lent or broken").click()
    expect(tile(page, "Slot ND 9, copy")).to_have_count(0)
    expect(page.get_by_role("region", name="Not in the bag now")).to_contain_text("Slot ND 9, copy")
    # Signing in takes what the guest made along.
    guest.sign_in()
    expect(page.get_by_text(re.compile("things? joined your bag"))).to_be_visible()
    expect(page.get_by_role("button", name="Slot ND 9, 9.3 stops; label 9")).to_be_visible()


def test_filters_are_put_in_order_by_pulling_and_by_keys(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("k")
    slots = page.get_by_role("region", name="In the slots").locator(".tile-name")
    expect(slots).to_have_text(["Slot ND 4", "Slot ND 9", "Slot ND 10", "Soft grad 2", "Hard grad 3"])
    tile(page, "Slot ND 10").drag_to(tile(page, "Slot ND 4"))
    expect(slots).to_have_text(["Slot ND 10", "Slot ND 4", "Slot ND 9", "Soft grad 2", "Hard grad 3"])
    tile(page, "Slot ND 4").press("Alt+ArrowRight")
    expect(slots).to_have_text(["Slot ND 10", "Slot ND 9", "Slot ND 4", "Soft grad 2", "Hard grad 3"])
    # Each step has a way back of its own.
    expect(page.get_by_role("button", name="Undo")).to_have_count(2)
    page.get_by_role("button", name="Undo").last.click()
    expect(slots).to_have_text(["Slot ND 10", "Slot ND 4", "Slot ND 9", "Soft grad 2", "Hard grad 3"])
    page.keyboard.press("b")
    expect(page.locator(".block-tile").nth(1)).to_have_accessible_name(re.compile("Slot ND 10"))


def test_a_kit_file_is_told_first_and_taken_whole_or_not_at_all(guest: Visit, tmp_path: Path) -> None:
    page = guest.page
    expect(answer(page)).to_be_visible()
    page.keyboard.press("k")
    with page.expect_download() as download:
        page.get_by_role("button", name="Save a kit file").click()
    path = tmp_path / "kit.json"
    download.value.save_as(path)
    body = json.loads(path.read_text())
    body["items"][0]["name"] = "Body from the file"
    body["items"].append(
        {**body["items"][6], "id": "0f8fad5b-d9cb-469f-a165-70867728950e", "name": "Glass from the file"}
    )
    path.write_text(json.dumps(body, indent=1))
    page.get_by_label("Read a kit file").set_input_files(path)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text("1 new, 1 changed, 18 the same.")).to_be_visible()
    dialog.get_by_role("button", name="Take it in").click()
    expect(tile(page, "Glass from the file")).to_be_visible()
    page.get_by_role("button", name="Undo").last.click()
    expect(tile(page, "Glass from the file")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("^Full-frame body A"))).to_be_visible()
    body["items"][3]["facts"]["thread_mm"] = "wide"
    path.write_text(json.dumps(body, indent=1))
    page.get_by_label("Read a kit file").set_input_files(path)
    expect(dialog.get_by_text("This file was not taken in; nothing has changed.")).to_be_visible()
    expect(dialog.get_by_text(re.compile(r"^Line \d+: Filter thread is not a number"))).to_be_visible()
    expect(dialog.get_by_role("button", name="Take it in")).to_be_disabled()
    dialog.get_by_role("button", name="Cancel").last.click()
    page.get_by_role("link", name="Times these make").click()
    expect(page.get_by_text("Gap from 1/40 to 1/15 (1.5 stops)")).to_be_visible()
    times = page.get_by_role("slider", name="Times this bag makes")
    times.press("Home")
    times.press("End")
    expect(page.get_by_role("status").filter(has_text="stops)")).to_contain_text("Slot ND 10")


def test_one_thing_floats_and_the_rest_is_held(guest: Visit) -> None:
    page = guest.page
    floating = page.get_by_test_id("answer-floating")
    expect(answer(page)).to_have_text("13s")
    page.wait_for_load_state("networkidle")
    # Decide on a time, then work out the aperture for it; the marks either side say what each costs.
    for key in ("t", "ArrowUp", "ArrowUp", "ArrowUp"):
        page.keyboard.press(key)
    expect(answer(page)).to_have_text("25s")
    expect(page.get_by_test_id("answer-cost")).to_have_text("1.0 stop bright, exact 13 s")
    work_out(page, "f-stop")
    expect(floating).to_have_text("f/13")
    work_out(page, "ISO")
    # One stop less than this body's lowest is not to be had: its lowest, and what that leaves is said.
    expect(floating).to_have_text("ISO 64")
    work_out(page, "when")
    expect(floating).to_have_text("1/20")
    work_out(page, "filters")
    expect(floating).to_have_text("10.0stops")
    expect(page.get_by_text("10 stops needed")).to_be_visible()
    # An alternative goes on with one press, and the time floats again.
    way = page.get_by_role("region", name="Other ways to 25 s")
    # Base ISO, within a stop of the metered f/9, and one thing to change.
    first = way.get_by_role("button").first
    expect(first).to_contain_text("Slot ND 9, f/13, ISO 64")
    expect(first).to_contain_text("1 change")
    first.click()
    expect(answer(page)).to_have_text("25s")
    expect(page.get_by_role("button", name="Slot ND 9, 9 stops")).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_label("Work out")).to_have_value("time")


def test_glass_is_dragged_onto_the_staff_and_off_it(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.get_by_role("button", name="Slot ND 4, 4 stops").drag_to(page.locator(".staff-stage"))
    expect(answer(page)).to_have_text("3min23s")
    expect(more(page).get_by_text("2 plates leave gaps")).to_be_visible()
    block = page.locator(".block", has_text="Slot ND 4").bounding_box()
    assert block
    # By its foot: its top is under the answer's pennant.
    foot = block["y"] + block["height"] - 10
    page.mouse.move(block["x"] + 40, foot)
    page.mouse.down()
    page.mouse.move(block["x"] + 160, foot, steps=4)
    page.mouse.up()
    expect(answer(page)).to_have_text("13s")


def test_film_and_fixed_things_take_choices_away(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    more(page).get_by_role("button", name=re.compile("^Camera, lens")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Body").select_option(label="Film body C")
    expect(dialog.get_by_label("Film")).to_be_visible()
    dialog.get_by_role("button", name="Done").last.click()
    expect(page.get_by_text("fixed by Grey film 100")).to_be_visible()
    # ISO 64 to 100 is two thirds of a stop down, then the film's own law: 8 s^1.3.
    working(page)
    expect(page.get_by_role("row", name=re.compile("Grey film 100 loses speed"))).to_be_visible()
    expect(answer(page)).to_have_text("15s")


def test_the_extras_answer_beside_the_bench(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_have_text("13s")
    page.keyboard.press("x")
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Sky reads").fill("1/500")
    expect(dialog.get_by_text(re.compile("^Take Hard grad 3"))).to_be_visible()
    dialog.get_by_label("The line between them").select_option("uneven")
    expect(dialog.get_by_text("Take Soft grad 2 (2 stops).")).to_be_visible()
    dialog.get_by_role("tab", name="Aperture").click()
    expect(dialog.get_by_role("row", name=re.compile("^f.22 .* soft$"))).to_be_visible()
    dialog.get_by_role("tab", name="Trial").click()
    dialog.get_by_label("Test shot's time").fill("12.7")
    dialog.get_by_label("It came out").fill("−1")
    expect(dialog.get_by_text("The right time is 25 s.")).to_be_visible()
    dialog.get_by_role("button", name="Keep that as what Slot ND 9 measures").click()
    expect(page.get_by_text("Slot ND 9 now measures what the test shot said.")).to_be_visible()
    dialog.get_by_role("button", name="Done").click()
    expect(answer(page)).to_have_text("25s")
