"""From what should blur to a time: picks, aim, conflict, bands, and the drawing tied to the pennant."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from .conftest import Visit, eventually, hold_back, in_the_picture, let_go, more


def test_picked_looks_make_the_aim_and_the_staff_shows_it(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    in_the_picture(page, "Sea", "Cloud", "People")
    panel = more(page)
    expect(panel.get_by_text("soft edges, about 0.6 % of the frame")).to_be_visible()
    expect(panel.get_by_text("walkers are ghosts")).to_be_visible()
    page.keyboard.press("w")
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name=re.compile("^mirror")).click()
    expect(dialog.get_by_text("Your look: 19 s to 2 min")).to_be_visible()
    dialog.get_by_role("button", name=re.compile("^gone")).click()
    expect(dialog.get_by_text("Your look: 19 s to 2 min")).to_be_visible()
    # A field that cannot be is said where it stands, and nothing typed is lost.
    dialog.get_by_text("In numbers, if you have them").first.click()
    dialog.get_by_label("Height, m").first.fill("400")
    expect(dialog.get_by_role("alert")).to_contain_text("400 m is outside")
    dialog.get_by_label("Height, m").first.fill("0.6")
    expect(dialog.get_by_role("alert")).to_be_hidden()
    # Leaves in wind do not go with that: two frames to blend.
    dialog.get_by_role("button", name="Add a subject").click()
    dialog.get_by_role("button", name="Leaves", exact=True).click()
    leaves = dialog.get_by_role("region", name="Leaves")
    leaves.get_by_text("fresh", exact=True).click()
    leaves.get_by_role("button", name=re.compile("^sharp")).click()
    expect(dialog.get_by_text("do not fit into one frame: shoot two and blend them.")).to_be_visible()
    expect(dialog.get_by_text("One frame for leaves: up to")).to_be_visible()
    dialog.get_by_role("button", name="Remove: Leaves").click()
    expect(dialog.get_by_text("Your look: 19 s to 2 min")).to_be_visible()
    dialog.get_by_role("button", name="Done").last.click()
    expect(page.get_by_text("Too short for your look.")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("What should blur ?mirror sea, gone people"))).to_be_visible()
    # The finder steers for the aim; one press takes a way into it.
    ways = page.get_by_role("region", name="Ways to get this look")
    ways.get_by_role("button").first.click()
    expect(page.get_by_text("Gives your look.")).to_be_visible()
    page.reload()
    expect(more(page).get_by_text("Gives your look.")).to_be_visible()


def test_words_come_before_numbers_and_those_who_stand_about_have_to_go(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    row = more(page).get_by_role("region", name="What moves in your picture?")
    row.get_by_role("button", name="People", exact=True).click()
    row.get_by_text("some stand about").click()
    expect(more(page).get_by_text("walkers are ghosts, about 5 standing stay")).to_be_visible()
    row.get_by_role("button", name="Cloud", exact=True).click()
    row.get_by_text("hurries").click()
    expect(page.get_by_text(re.compile("This cloud visibly moves from about"))).to_be_visible()
    page.keyboard.press("w")
    dialog = page.get_by_role("dialog")
    people = dialog.get_by_role("region", name="People")
    expect(people.get_by_role("button", name="gone over 19 min")).to_be_visible()
    # A word sets the numbers behind it, and a number of one's own is no word any more.
    people.get_by_text("only passing").click()
    expect(people.get_by_role("button", name="gone over 14 s")).to_be_visible()
    people.get_by_text("In numbers, if you have them").click()
    expect(people.get_by_label("Standing, on average")).to_have_value("0")
    people.get_by_label("Standing, on average").fill("2")
    expect(people.get_by_role("radio", checked=True)).to_have_count(0)
    cloud = dialog.get_by_role("region", name="Cloud")
    cloud.get_by_text("all of it").click()
    # A height that was measured unsays the word for it, and another word unsays the height.
    cloud.get_by_text("In numbers, if you have them").click()
    cloud.get_by_label("Height, m").fill("800")
    expect(cloud.get_by_role("radio", name="low", exact=True)).not_to_be_checked()
    cloud.get_by_text("high", exact=True).click()
    expect(cloud.get_by_role("radio", name="high", exact=True)).to_be_checked()
    expect(cloud.get_by_label("Height, m")).to_have_value("")
    expect(dialog.get_by_text("it becomes one even tone")).to_be_visible()
    # One who sits still is sharp while the walkers go.
    people.get_by_text("only passing").click()
    people.get_by_role("button", name=re.compile("^gone")).click()
    dialog.get_by_role("button", name="Add a subject").click()
    dialog.get_by_role("button", name="One who holds still").click()
    still = dialog.get_by_role("region", name="One who holds still")
    still.get_by_role("button", name=re.compile("^sharp")).click()
    expect(dialog.get_by_text(re.compile("Your look: 14 s to 1 min"))).to_be_visible()


def test_a_look_of_one_s_own_is_a_look_like_the_others(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    in_the_picture(page, "Sea")
    page.keyboard.press("w")
    sea = page.get_by_role("region", name="Sea")
    sea.get_by_role("button", name="A look of my own").click()
    sea.get_by_label("Call it").fill("soft folds")
    sea.get_by_label("From, waves averaged").fill("4")
    sea.get_by_label("To (empty: open)").fill("5")
    sea.get_by_role("button", name="Keep this look").click()
    sea.get_by_role("button", name=re.compile("^soft folds")).click()
    expect(page.get_by_text("Your look: 15 s to 19 s")).to_be_visible()
    # Forgotten, its wish has nothing to stand for and is let go with it.
    sea.get_by_role("button", name="Forget my soft folds").click()
    expect(sea.get_by_role("button", name=re.compile("^soft folds"))).to_have_count(0)
    expect(page.get_by_text("Pick the looks you want")).to_be_visible()


def test_the_drawing_follows_the_pennant(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    in_the_picture(page, "Sea", "Cloud")
    page.keyboard.press("p")
    drawing = page.get_by_role("complementary", name="The scene, drawn")
    expect(drawing.get_by_text("13 s A drawing from these numbers, not a promise.")).to_be_visible()
    big = drawing.get_by_role("figure").locator("[data-state=there] img")
    expect(big).to_be_visible()
    assert big.evaluate("image => image.naturalWidth") == 720
    first = big.get_attribute("src")
    page.keyboard.press("2")
    expect(drawing.get_by_role("figure").get_by_role("img", name=re.compile("as 3 min 23 s would"))).to_be_visible()
    assert drawing.get_by_role("figure").get_by_role("img").get_attribute("src") != first
    drawing.get_by_role("button", name="1/250").last.click()
    expect(drawing.get_by_role("figure").get_by_role("img", name=re.compile("as 1.250 would"))).to_be_visible()
    drawing.get_by_role("button", name="Put the drawing away").click()
    expect(drawing).to_be_hidden()


def test_a_long_question_is_drawn_too(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    in_the_picture(page, "Sea")
    page.keyboard.press("w")
    dialog = page.get_by_role("dialog")
    for kind in ("River", "Cloud", "Leaves", "People", "Crowd", "Vehicles", "Stars", "Tide", "Wheel"):
        dialog.get_by_role("button", name="Add a subject").click()
        dialog.get_by_role("button", name=kind, exact=True).click()
    dialog.locator(".btn-close").click()
    expect(dialog).to_be_hidden()
    sent: list[str] = []
    page.on("request", lambda asked: sent.append(asked.url[-3:]) if "/looks/drawing?width=" in asked.url else None)
    large = hold_back(page, "/api/looks/drawing?width=720")
    page.keyboard.press("p")
    drawing = page.get_by_role("complementary", name="The scene, drawn")
    eventually(page, lambda: len(large) == 1, "the large drawing's question")
    page.wait_for_timeout(300)
    # The small ones do not stand in its way.
    assert sent == ["720"]
    assert large[0].request.method == "POST"
    expect(drawing.get_by_text("Being drawn …")).to_be_visible()
    waiting = drawing.bounding_box()
    let_go(page, "/api/looks/drawing?width=720", large)
    expect(drawing.get_by_role("figure").locator("[data-state=there] img")).to_be_visible()
    expect(drawing.get_by_role("group", name="Other times").locator("[data-state=there]")).to_have_count(6)
    assert drawing.bounding_box() == waiting, "it moved under the finger"
