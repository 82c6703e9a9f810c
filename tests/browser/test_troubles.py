"""What a photographer reads while the server's records are held, full or gone; all of it arrives afterwards."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, expect
from tools.browserdata import kept
from tools.serving import Server, serving

from jackstaff.backups.copies import DATABASE

from .conftest import Visit, eventually, in_its_own_letters, until
from .test_run import arm, expect_running, newest, open_it

pytestmark = pytest.mark.database_file


@contextmanager
def locked(server: Server) -> Iterator[None]:
    with sqlite3.connect(server.data / DATABASE, timeout=15) as database:
        database.execute("BEGIN IMMEDIATE")
        yield
        database.rollback()


@contextmanager
def full(server: Server) -> Iterator[None]:
    server.stop()
    server.most_kilobytes = 40
    server.start()
    yield
    server.stop()
    server.most_kilobytes = None
    server.start()


@contextmanager
def gone(server: Server) -> Iterator[None]:
    """The whole folder at once, as a disk goes: a request between two renames would lose what only one file has."""
    away = server.data.with_name(f"{server.data.name}-away")
    server.data.rename(away)
    yield
    server.stop()
    assert not server.data.exists()
    away.rename(server.data)
    server.start()


@pytest.mark.parametrize(
    ("trouble", "said"),
    [
        (locked, "Somebody else is writing"),
        (full, "disk failed or is full"),
        (gone, "records cannot be read"),
    ],
)
def test_a_frame_opened_while_the_server_can_keep_nothing_says_so_and_arrives_later(
    browser: Browser,
    fresh_data: Callable[[str], Path],
    trouble: Callable[[Server], object],
    said: str,
) -> None:
    with serving(fresh_data("troubled")) as server:
        visit = Visit(browser, server, visited=True)
        page = visit.page
        visit.sign_in()
        arm(page)
        with trouble(server):  # type: ignore[attr-defined]
            open_it(page)
            close = page.get_by_role("button", name="Close", exact=False).first
            in_its_own_letters(page)
            stood = close.bounding_box()
            told = page.locator(".notice").filter(has_text=said)
            # A busy database is waited for, ten seconds long.
            expect(told).to_be_visible(timeout=40_000)
            expect(told).to_contain_text("waits here")
            # A finger may be on its way.
            assert close.bounding_box() == stood
            opened = newest(page)["opened_at"]
        page.evaluate("dispatchEvent(new Event('online'))")
        expect_running(page, server, opened)
        expect(told).to_have_count(0)
        visit.context.close()


def test_a_database_taken_away_beneath_the_page_is_made_again_with_what_the_page_has(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.keyboard.press("2")
    eventually(page, lambda: bool(kept(page, "bench")), "the bench as it stands")
    on = kept(page, "bench")[0]["content"]["on"]
    page.evaluate(
        """async () => {
          for (const { name } of await indexedDB.databases())
            await new Promise((done, fail) =>
              Object.assign(indexedDB.deleteDatabase(name), { onsuccess: done, onerror: fail }));
        }"""
    )
    page.keyboard.press("3")
    until(page, "indexedDB.databases().then((all) => all.length > 0)")
    eventually(page, lambda: any(each["content"]["on"] != on for each in kept(page, "bench")), "the new database")
    on = kept(page, "bench")[0]["content"]["on"]
    page.reload()
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    assert kept(page, "bench")[0]["content"]["on"] == on


def test_a_piece_that_cannot_be_fetched_is_told_and_comes_with_the_signal(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    page = visit.page
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    visit.context.route(re.compile(r"/assets/(run|dialogs)-[^/]*\.js"), lambda way: way.abort())
    page.reload()
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    page.get_by_role("button", name="New reading").click()
    missing = page.get_by_role("alert").filter(has_text="A part of the program could not be fetched")
    page.keyboard.press("w")
    expect(missing).to_be_visible()
    # The bench stands and answers all the same.
    page.keyboard.press("2")
    expect(page.get_by_test_id("answer-time")).to_have_text("3min23s")
    page.get_by_role("button", name="Get ready").click()
    expect(page.get_by_role("status").filter(has_text="could not be fetched").first).to_be_visible()
    visit.context.unroute_all()
    missing.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    page.keyboard.press("Escape")
    # The same press works now.
    page.get_by_role("button", name="Get ready").click()
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    visit.wrong[:] = [line for line in visit.wrong if "ERR_FAILED" not in line and "Failed to fetch" not in line]
