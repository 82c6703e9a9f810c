"""A copy is put back beneath two devices that had gone on: both end alike, with what was written last."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from tools.serving import ROOT, Server, records, serving

from .conftest import Visit, copied_outing, eventually, outing_named, outings_offered

pytestmark = pytest.mark.database_file


@pytest.fixture
def restorable(fresh_data: Callable[[str], Path]) -> Iterator[Server]:
    with serving(fresh_data("restored")) as server:
        yield server


def manage(server: Server, *command: str) -> None:
    how = [sys.executable, str(ROOT / "server/manage.py"), *command]
    subprocess.run(how, env={**os.environ, **server.environment}, cwd=ROOT, check=True, capture_output=True)


def name_it(page: Page, server: Server, name: str) -> None:
    """Give the outing a name, and wait until the server has it."""
    outing_named(page).fill(name)

    def is_kept() -> bool:
        with records(server) as database:
            return any(name in plan for (plan,) in database.execute("SELECT plan FROM records_outing").fetchall())

    eventually(page, is_kept)


def test_two_devices_and_a_copy_that_is_put_back(browser: Browser, restorable: Server) -> None:
    phone, laptop = (Visit(browser, restorable, visited=True) for _ in range(2))
    for device in (phone, laptop):
        device.sign_in("edda")
    page = phone.page
    page.goto(restorable.url + "/outing")
    copied_outing(page)
    name_it(page, restorable, "Before the copy")
    manage(restorable, "backup")
    for count in range(4):
        name_it(page, restorable, f"After the copy {count}")
    restorable.stop()
    manage(restorable, "restore")
    restorable.start()
    # The laptop had seen none of it; what it hears first is the copy.
    laptop.page.goto(restorable.url + "/outing")
    expect(outings_offered(laptop.page)).to_contain_text("Before the copy")
    page.reload()
    name_it(page, restorable, "After the restore")
    laptop.page.reload()
    expect(outings_offered(laptop.page)).to_contain_text("After the restore")
    for device in (phone, laptop):
        expect(device.page.get_by_role("button", name="Use this one")).to_have_count(0)
        device.context.close()
