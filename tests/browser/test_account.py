"""One's own account on screen: another password, and an end that takes everything with it."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, expect

from tests.conftest import ENDING, OTHER_PASSWORD

from .conftest import Visit, more, no_countdown


def opened(page: Page) -> None:
    page.get_by_role("button", name=f"Account {ENDING}").click()


def test_a_password_is_changed_and_an_account_ends_with_all_it_kept(guest: Visit) -> None:
    page = guest.page
    guest.sign_in(ENDING)
    opened(page)
    page.get_by_role("button", name="Change password").click()
    page.get_by_label("Password until now").fill("two odd gloves")
    page.get_by_label("New password").fill("three-pairs-of-gloves")
    page.get_by_role("button", name="Change it").click()
    expect(page.get_by_role("dialog")).to_contain_text("not the account's password")
    # What was typed is still there.
    expect(page.get_by_label("New password")).to_have_value("three-pairs-of-gloves")
    page.get_by_label("Password until now").fill(OTHER_PASSWORD)
    page.get_by_role("button", name="Change it").click()
    expect(page.get_by_text("Your password is changed.")).to_be_visible()
    opened(page)
    page.get_by_role("button", name="Delete account").click()
    erase = page.get_by_role("button", name="Erase everything")
    expect(erase).to_be_disabled()
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save everything as a file").click()
    assert saved.value.suggested_filename == "jackstaff-everything.zip"
    # In another tab a password for this account is half typed.
    other = guest.tab()
    opened(other)
    other.get_by_role("button", name="Change password").click()
    other.get_by_label("New password").fill("four-pairs")
    page.get_by_label("I have what I want to keep").check()
    page.get_by_label("Your password").fill("three-pairs-of-gloves")
    erase.click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    expect(other.get_by_role("button", name="Sign in")).to_be_visible()
    expect(other.get_by_role("dialog")).to_be_hidden()
    # Nothing of it is left in this browser either.
    owners = page.evaluate(
        """async () => {
          const [known] = await indexedDB.databases();
          const database = await new Promise((found) => {
            const opening = indexedDB.open(known.name);
            opening.onsuccess = () => found(opening.result);
          });
          return new Promise((found) => {
            const asked = database.transaction("documents").objectStore("documents").getAll();
            asked.onsuccess = () => found([...new Set(asked.result.map((doc) => doc.owner))]);
          });
        }"""
    )
    assert [owner for owner in owners if owner.startswith("account")] == []


def test_signing_out_with_an_open_shutter_asks_first(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    visit.sign_in()
    page = visit.page
    more(page).get_by_role("link", name="Plain timer").click()
    page.get_by_role("button", name="4 min", exact=True).click()
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    page.get_by_role("button", name="Account edda").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Sign out", exact=True).click()
    expect(dialog.get_by_role("alert")).to_contain_text("A shutter is open.")
    dialog.get_by_role("button", name="Done").last.click()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    page.get_by_role("button", name="Account edda").click()
    dialog.get_by_role("button", name="Sign out", exact=True).click()
    dialog.get_by_role("button", name="Sign out all the same").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    # It runs on, and is theirs again.
    expect(page.get_by_test_id("run-left")).to_be_visible()
    visit.sign_in()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    expect(page.get_by_text("has signed out")).to_be_hidden()
