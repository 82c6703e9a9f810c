"""An outing: the light ahead, readings that anchor it, glass against the clock, and when to leave."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from .conftest import Visit


def test_a_dawn_is_planned_read_and_left_in_time(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.keyboard.press("w")
    page.get_by_role("button", name=re.compile("^mirror")).click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()
    page.keyboard.press("g")
    chart = page.get_by_label("The light over the clock")
    expect(chart.get_by_text("sunrise 06:17")).to_be_visible()
    expect(page.get_by_text("Not between arriving and turning back: sunset.")).to_be_visible()
    # Read by keyboard as by pointing.
    chart.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text(re.compile(r"^04:46: about EV −?-?\d"))).to_be_visible()
    # Glass against the clock, each with its time inside the aim.
    plan = page.locator(".swap-list li")
    expect(plan.first).to_be_visible()
    assert plan.count() >= 3
    # A reading no sky can give is asked about; it anchors the curve all the same, for it is the photographer's.
    expect(page.get_by_text(re.compile("stops brighter than this sky can be"))).to_be_visible()
    page.get_by_role("button", name="Take the bench's reading, EV 12.3").click()
    expect(page.locator(".light-reading")).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Remove: 05:")).click()
    expect(page.locator(".light-reading")).to_have_count(0)
    # Leaving follows the entered waters; what cannot be known says so.
    expect(page.get_by_text("Leave by 06:03").first).to_be_visible()
    page.get_by_label("Floods at, m").fill("5")
    expect(page.get_by_text("The way back does not flood between the entered waters.")).to_be_visible()
    page.get_by_label("Floods at, m").fill("1.2")
    page.get_by_label("Water 2, time").fill("03:30")
    expect(page.get_by_text("High and low water are hours apart.")).to_be_visible()
    page.get_by_label("Latitude, north +").fill("95")
    expect(page.get_by_role("alert")).to_contain_text("95 degrees is outside")
    page.get_by_label("Latitude, north +").fill("58.05")
    page.get_by_label("Time zone").fill("Vardsund/Mole")
    expect(page.get_by_text("No such zone. Write it like Europe/Oslo.")).to_be_visible()


def test_several_outings_are_copied_and_the_polar_night_has_no_sunrise(guest: Visit) -> None:
    page = guest.page
    page.goto(guest.server.url + "/outing")
    page.get_by_role("button", name="Copy").click()
    page.get_by_label("Place, in your words").fill("Grey Tarn, winter")
    page.get_by_label("Latitude, north +").fill("75")
    page.get_by_role("textbox", name="Day").fill("2027-12-21")
    expect(page.get_by_text("Not between arriving and turning back: sunrise, sunset.")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Outing", exact=True)).to_have_value(re.compile(".+"))
    expect(page.get_by_label("Place, in your words")).to_have_value("Grey Tarn, winter")
    page.get_by_label("Outing", exact=True).select_option(label="Vardsund mole, first light")
    expect(page.get_by_label("The light over the clock").get_by_text("sunrise 06:17")).to_be_visible()
