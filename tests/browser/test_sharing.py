"""A set-up as a link: made on one bench, shown and taken on another, with nothing sent to the server."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import expect

from .conftest import Visit, in_the_picture, more, of_outing


def test_a_set_up_travels_in_the_fragment_and_is_taken_only_when_somebody_says_so(visits: Any) -> None:
    sender: Visit = visits(visited=True)
    page = sender.page
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    page.keyboard.press("2")
    expect(page.get_by_test_id("answer-time")).to_have_text("3min23s")
    more(page).get_by_role("button", name="Share this set-up").click()
    dialog = page.get_by_role("dialog")
    link = dialog.get_by_label("Link to this set-up").input_value()
    assert link.startswith(f"{sender.server.url}/#set-up=1.")
    expect(dialog.get_by_role("img", name="The link as a code to be photographed")).to_be_visible()

    receiver: Visit = visits(visited=True, phone=True)
    asked: list[str] = []
    receiver.page.on("request", lambda request: asked.append(f"{request.url} {request.post_data or ''}"))
    receiver.page.goto(link)
    receiver.page.reload()
    came = receiver.page.get_by_role("dialog", name="A shared set-up")
    expect(came.get_by_text(re.compile("^The meter said 1/40 at f/9, ISO 64"))).to_be_visible()
    expect(came.get_by_text("On the lens: ")).to_be_visible()
    # Whoever cancels keeps the own bench, and the address is clean.
    came.get_by_role("button", name="Cancel").click()
    expect(receiver.page.get_by_test_id("answer-time")).to_have_text("13s")
    assert "#" not in receiver.page.url
    receiver.page.goto(link)
    came.get_by_role("button", name="Set the bench").click()
    expect(receiver.page.get_by_test_id("answer-time")).to_have_text("3min23s")
    receiver.page.get_by_role("button", name="Undo").click()
    expect(receiver.page.get_by_test_id("answer-time")).to_have_text("13s")
    assert not any("set-up" in request for request in asked)
    # What cannot be read is said, and nothing happens.
    receiver.page.goto(f"{sender.server.url}/#set-up=1.AAAA")
    expect(receiver.page.get_by_role("dialog").get_by_text("This link holds no set-up")).to_be_visible()


def test_an_address_of_nothing_says_so_and_leads_to_the_bench(guest: Visit) -> None:
    page = guest.page
    page.goto(guest.server.url + "/no/such/page")
    expect(page.get_by_role("heading", name="There is no such page")).to_be_visible()
    page.get_by_role("button", name="To the bench").click()
    expect(page.get_by_test_id("answer-time")).to_be_visible()


def test_plan_and_card_are_copied_as_text(guest: Visit) -> None:
    page = guest.page
    guest.context.grant_permissions(["clipboard-read", "clipboard-write"])
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    in_the_picture(page, "Sea")
    page.get_by_role("button", name="mirror", exact=True).first.click()
    page.goto(guest.server.url + "/outing")
    table = of_outing(page, "As a table")
    expect(table.locator(".swap-list li").nth(1)).to_be_visible()
    table.get_by_role("button", name="Share as text").click()
    expect(page.get_by_text("It is copied.")).to_be_visible()
    text = page.evaluate("navigator.clipboard.readText()")
    first = table.locator(".swap-list strong").first.inner_text()
    assert text.startswith("Vardsund mole, first light\nSat 17 Apr, thin cloud")
    assert "Leave by 07:03" in text
    assert f"\n{first} " in text
    assert "A reminder, not a guarantee" in text
    page.goto(guest.server.url + "/bag/card")
    page.get_by_role("button", name="Share as text").click()
    expect(page.get_by_text("It is copied.").last).to_be_visible()
    card = page.evaluate("navigator.clipboard.readText()").split("\n")
    assert card[1].split("\t")[0] == "Bare"
    assert all(len(line.split("\t")) == len(card[1].split("\t")) for line in card[2:-1])
