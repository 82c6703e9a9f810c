"""An open shutter stays until it is closed, whoever is signed in and on however many devices."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, Route, expect

from .conftest import Visit, eventually, frames, no_countdown, rested, to_page
from .test_path import HOLD_MS

LEFT = "Whoever opened this has signed out."


def time_four_minutes(page: Page) -> None:
    """Open a shutter for four minutes, with a list and a reading of nobody's."""
    to_page(page, "/timer")
    page.get_by_role("button", name="4 min", exact=True).click()
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    expect(page.get_by_test_id("run-left")).to_be_visible()


def close_by_hand(page: Page) -> None:
    rested(page)
    page.keyboard.down("Space")
    page.wait_for_timeout(HOLD_MS)
    page.keyboard.up("Space")


def test_a_shutter_stays_open_when_its_owner_signs_out_and_goes_to_their_log(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    visit.sign_in()
    page = visit.page
    time_four_minutes(page)
    other = visit.tab("/log")
    visit.sign_out()
    for tab in (page, other):
        expect(tab.get_by_role("button", name="Sign in")).to_be_visible()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    expect(page.get_by_text(LEFT)).to_be_visible()
    # The other page says so in its header, and shows nothing else of theirs.
    expect(other.get_by_role("link", name=re.compile("Shutter open"))).to_be_visible()
    expect(other.get_by_role("main")).not_to_contain_text("4 min")
    page.reload()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    close_by_hand(page)
    expect(page.get_by_text("The frame waits for whoever opened it to sign in again.")).to_be_visible()
    expect(page.get_by_test_id("run-left")).to_be_hidden()
    page.get_by_role("button", name="Undo: it is still open").click()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    close_by_hand(page)
    expect(page.get_by_test_id("run-left")).to_be_hidden()
    visit.sign_in()
    page.get_by_role("link", name="Log").filter(visible=True).first.click()
    expect(page.get_by_role("main")).to_contain_text("4 min")
    eventually(page, lambda: frames(page)[0]["state"] == "closed")


def test_a_device_signed_out_from_afar_keeps_its_shutter_open(visits: Any) -> None:
    phone: Visit = visits(visited=True, phone=True)
    laptop: Visit = visits(visited=True)
    for device in (phone, laptop):
        device.sign_in()
    time_four_minutes(phone.page)
    laptop.page.get_by_role("button", name="Account edda").click()
    laptop.page.get_by_role("button", name="Sign out everywhere else").click()
    expect(laptop.page.get_by_text("Every other browser is signed out.")).to_be_visible()
    expect(phone.page.get_by_text(LEFT)).to_be_visible()
    expect(phone.page.get_by_test_id("run-left")).to_be_visible()
    phone.wrong.clear()


def hold_back(page: Page) -> list[Route]:
    """News of the account stays on its way until the test lets it come."""
    waiting: list[Route] = []

    def hold(route: Route) -> None:
        waiting.append(route)

    page.route("**/api/replica?*", hold)
    return waiting


def test_whoever_has_just_signed_in_sees_their_open_shutter_and_opens_no_second(visits: Any) -> None:
    phone: Visit = visits(visited=True)
    laptop: Visit = visits(visited=True)
    phone.sign_in()
    time_four_minutes(phone.page)
    page = laptop.page
    to_page(page, "/timer")
    page.get_by_role("button", name="2 min", exact=True).click()
    no_countdown(page)
    waiting = hold_back(page)
    laptop.sign_in()
    page.get_by_role("button", name="Open the shutter").click()
    eventually(page, lambda: len(waiting) > 0)
    for route in waiting:
        route.continue_()
    page.unroute("**/api/replica?*")
    expect(page.get_by_test_id("run-left")).to_contain_text("3:")
    assert [frame["state"] for frame in frames(page)].count("open") == 1


def test_two_devices_that_both_open_are_told_of_each_other(visits: Any) -> None:
    phone: Visit = visits(visited=True)
    laptop: Visit = visits(visited=True)
    for device in (phone, laptop):
        device.sign_in("joar")
    to_page(laptop.page, "/timer")
    expect(laptop.page.get_by_role("heading", name="Plain timer")).to_be_visible()
    laptop.context.set_offline(True)
    time_four_minutes(phone.page)
    time_four_minutes(laptop.page)
    laptop.context.set_offline(False)
    for device in (phone, laptop):
        told = device.page.get_by_role("status").filter(has_text="Another shutter is open")
        expect(told).to_be_visible()
    # Each goes on with its own: it is closed, and the other is left to its device.
    close_by_hand(phone.page)
    expect(phone.page.get_by_test_id("run-result")).to_be_visible()
    expect(laptop.page.get_by_test_id("run-left")).to_be_visible()
    phone.page.get_by_role("button", name="Show it").click()
    expect(phone.page.get_by_test_id("run-left")).to_be_visible()
    expect(laptop.page.get_by_text("Another shutter is open")).to_be_hidden()
    laptop.wrong.clear()
