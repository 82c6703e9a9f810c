"""What was just done is said at the edge of the screen: with a way back, as long as a hand is on its way to it."""

from __future__ import annotations

from playwright.sync_api import expect

from .conftest import Visit
from .test_memory import answer


def test_each_step_keeps_its_own_way_back(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_be_visible()
    page.keyboard.press("k")
    for name in ("Slot ND 4", "Ring ND 6"):
        page.locator(".filter-tile", has_text=name).click()
        page.get_by_text("More", exact=True).click()
        page.get_by_role("button", name="Remove", exact=True).click()
        expect(page.locator(".filter-tile", has_text=name)).to_have_count(0)
    page.locator(".toast", has_text="Slot ND 4").get_by_role("button", name="Undo").click()
    expect(page.locator(".filter-tile", has_text="Slot ND 4")).to_have_count(1)
    page.locator(".toast", has_text="Ring ND 6").get_by_role("button", name="Undo").click()
    expect(page.locator(".filter-tile", has_text="Ring ND 6")).to_have_count(1)


def test_a_message_waits_for_the_hand_that_reaches_for_it_and_goes_when_sent_away(guest: Visit) -> None:
    page = guest.page
    expect(answer(page)).to_be_visible()
    page.clock.install(time="2027-04-17T03:20:00Z")
    page.clock.pause_at("2027-04-17T04:00:00Z")
    page.keyboard.press("k")
    for name in ("Slot ND 4", "Ring ND 6"):
        page.locator(".filter-tile", has_text=name).click()
        page.get_by_text("More", exact=True).click()
        page.get_by_role("button", name="Remove", exact=True).click()
        expect(page.locator(".toast", has_text=name)).to_be_visible()
    first, second = page.locator(".toast", has_text="Slot ND 4"), page.locator(".toast", has_text="Ring ND 6")
    first.get_by_role("button", name="Hide this message").click()
    expect(first).to_have_count(0)
    expect(second).to_be_visible()
    second.hover()
    page.clock.fast_forward(60_000)
    expect(second).to_be_visible()
    second.get_by_role("button", name="Undo").focus()
    page.mouse.move(900, 20)
    page.clock.fast_forward(60_000)
    expect(second).to_be_visible()
    second.get_by_role("button", name="Undo").blur()
    page.clock.fast_forward(8_100)
    expect(second).to_have_count(0)
