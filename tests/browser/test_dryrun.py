"""A dry run from its start to its replay on the same screens; nothing of it reaches one's own log, bag or server."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, expect
from tools.browserdata import kept
from tools.serving import Server, records, serving

from jackstaff_core.practice.dryrun.replay import Replay, ReplayQuestion, replay
from jackstaff_core.practice.dryrun.shipped import BY_ID
from jackstaff_core.wire.reader import plain, read

from .conftest import (
    Visit,
    begin_to_type,
    eventually,
    get_ready,
    hold_back,
    let_go,
    may_be_held_back,
    more,
    no_countdown,
    rested,
)
from .test_offline import take_along
from .test_path import hold

FALLS = BY_ID["falls-beech"]
MARK = "Practice: Falls under beech"


def begin(page: Page, name: str = FALLS.name) -> None:
    page.get_by_role("button", name=f"Begin: {name}").click()
    expect(page.get_by_role("region", name=f"Practice: {name}")).to_be_visible()
    expect(page.get_by_test_id("answer-time")).to_be_visible()


def take(page: Page, *, ready: bool, again: bool = False) -> None:
    """Meter bare, put six stops on at f/5.6, tick the list or not, and open: a few seconds on the dial."""
    expect(page.get_by_role("button", name="Meter bare")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_text(re.compile("just now"))).to_be_visible()
    if not again:
        more(page).get_by_role("button", name=re.compile("Slot ND 6, f")).first.click()
    get_ready(page)
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    if ready:
        tick_all(page)
        expect(page.locator(".arm-list input:not(:checked)")).to_have_count(0)
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    # The dial's time closes itself on the dry run's own clock.
    expect(page.get_by_role("heading", name="Closed")).to_be_visible()
    expect(page.locator(".dry-frame .dry-histogram")).to_be_visible()


def tick_all(page: Page) -> None:
    """Every line of the list, by its number, once the list is there."""
    lines = page.locator(".arm-list input")
    expect(lines.first).to_be_visible()
    rested(page)
    count = lines.count()
    for place in range(count):
        # What is done goes beneath the rest: the next one is the first again.
        page.keyboard.press("1")
        expect(page.get_by_role("button", name=f"{place + 1} done")).to_be_visible()


def pack_up(page: Page) -> Replay:
    """Leave; what the core says of what this browser has kept of it."""
    page.get_by_role("button", name="Pack up").click()
    page.get_by_role("dialog").get_by_role("button", name="Pack up").click()
    expect(page.get_by_role("heading", name=re.compile("^Replay: "))).to_be_visible()
    expect(page.get_by_role("region", name="One timeline")).to_be_visible()
    (document,) = [doc for doc in kept(page, "dry_run_played") if page.url.endswith(str(doc["id"]))]
    return replay(read(ReplayQuestion, document["content"]["question"]))


def of_edda(server: Server, table: str) -> int:
    """How many rows of a table the server holds for her."""
    counted = f"SELECT count(*) FROM records_{table} t JOIN auth_user u ON u.id = t.account_id WHERE u.username = ?"  # noqa: S608
    with records(server) as database:
        (row,) = database.execute(counted, ("edda",)).fetchall()
    return int(row[0])


def losses(page: Page) -> list[str]:
    return [str(row.get_attribute("data-code")) for row in page.locator(".replay-losses tbody tr").all()]


def test_a_dry_run_from_start_to_replay_leaves_everything_of_one_s_own_alone(guest: Visit) -> None:
    page, server = guest.page, guest.server
    guest.sign_in()
    # What the account has is here first.
    eventually(page, lambda: len(kept(page, "kit")) == of_edda(server, "kititem"), "the bag")
    bag = kept(page, "kit")
    page.goto(f"{server.url}/log/practice/runs")
    begin(page)
    for screen in ("Outing", "Log", "Bag", "Bench"):
        page.get_by_role("link", name=screen, exact=True).first.click()
        expect(page.get_by_role("region", name=MARK)).to_be_visible()
    # Nothing forgotten but everything; then everything done.
    take(page, ready=False)
    expect(page.get_by_role("img", name=re.compile("Out of focus"))).to_be_visible()
    page.get_by_role("link", name="Bench", exact=True).first.click()
    take(page, ready=True, again=True)
    expect(page.get_by_role("img", name=re.compile("The long drop"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("focus|Shaken|Smeared"))).to_have_count(0)
    # Another tab stands in the same dry run, and a reload comes back to it with its clock going on.
    other = guest.tab("/log")
    expect(other.get_by_role("region", name=MARK)).to_be_visible()
    expect(other.get_by_text("2 frames")).to_be_visible()
    begin_to_type(other)
    clock = page.get_by_test_id("dry-run-clock").inner_text()
    page.reload()
    expect(page.get_by_role("region", name=MARK)).to_be_visible()
    assert page.get_by_test_id("dry-run-clock").inner_text() >= clock
    assert Axe().run(page).response["violations"] == []
    told = pack_up(page)
    expect(other.get_by_role("region", name=MARK)).to_have_count(0)
    # What was being typed in the dry run is not left to be kept among one's own.
    expect(other.get_by_label("Open for")).to_have_count(0)
    # The replay on screen is the core's: two frames, the first lost by what was forgotten, the second kept.
    assert len(told.frames) == 2
    assert losses(page) == [loss.code.value for loss in told.losses]
    assert {loss.code.value for loss in told.losses if loss.shot == 0} >= {"focus", "shake"}
    assert not {loss.code.value for loss in told.losses if loss.shot == 1} & {"focus", "shake", "leak"}
    assert told.pictures[0].obtained == 1
    expect(page.get_by_text(told.practise.text)).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("^The frame as it came out"))).to_have_count(3)
    assert Axe().run(page).response["violations"] == []
    # The drill it sends one to is the one that comes.
    page.get_by_role("link", name="To the drills").click()
    expect(page.locator(".drill-kind")).to_have_text("What went wrong")
    # One's own log, bag and server know nothing of it.
    page.get_by_role("link", name="Log", exact=True).filter(visible=True).first.click()
    expect(page.get_by_text("No frames yet.")).to_be_visible()
    assert of_edda(server, "frame") == 0
    mine = [doc for doc in kept(page, "kit") if not str(doc["owner"]).startswith("practice of")]
    assert mine == bag


@pytest.mark.database_file
def test_a_dry_run_with_no_server_at_all(browser: Browser, fresh_data: Callable[[str], Path]) -> None:
    more = {"JACKSTAFF_DEMO": "", "JACKSTAFF_SERVED_AT": "https://rocks.test:8443"}
    with serving(fresh_data("dry-alone"), more=more) as server:
        visit = Visit(browser, server, visited=True)
        page = visit.page
        expect(page.get_by_test_id("answer-time")).to_be_visible()
        take_along(page)
        server.kill()
        page.get_by_role("link", name="Log", exact=True).first.click()
        page.get_by_role("link", name="Practice", exact=True).click()
        page.get_by_role("link", name="Dry runs").click()
        begin(page)
        take(page, ready=True)
        told = pack_up(page)
        assert len(told.frames) == 1
        assert losses(page) == [loss.code.value for loss in told.losses]


def test_a_clock_that_goes_sixty_times_as_fast_stands_and_eases_before_the_end(guest: Visit) -> None:
    page = guest.page
    page.goto(f"{guest.server.url}/log/practice/runs")
    other = guest.tab("/log")
    begin_to_type(other)
    begin(page, "Dawn at the mole")
    # Nor is one's own left to be kept among the dry run's.
    expect(other.get_by_label("Open for")).to_have_count(0)
    other.close()
    may_be_held_back(page)
    aperture = page.locator(".meter-values").get_by_role("button", name="Aperture").locator(".value-number")
    metered = hold_back(page, "/api/practice/meter")
    expect(page.get_by_role("button", name="Meter bare")).to_be_visible()
    page.keyboard.press("u")
    eventually(page, lambda: bool(metered))
    # What is turned while one waits for the meter is not what it metered at.
    asked = aperture.inner_text()
    page.keyboard.press("a")

    def turned() -> bool:
        # Just loaded, the page does not know its ladders yet.
        page.keyboard.press("ArrowUp")
        return aperture.inner_text() != asked

    eventually(page, turned, "another aperture")
    let_go(page, "/api/practice/meter", metered)
    expect(aperture).to_have_text(asked)
    more(page).get_by_role("button", name=re.compile("Slot ND 3, f")).first.click()
    get_ready(page)
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    page.get_by_text("×60", exact=True).click()
    # A frame of over a minute has come to its last half minute, and waits for a hand in real time.
    expect(page.get_by_role("radio", name="real time")).to_be_checked()
    expect(page.get_by_test_id("run-left")).to_contain_text(re.compile(r"^0:[0-3]\d"))
    # The light has been asked about: nothing but the clock moves what is to go from here on.
    expect(page.get_by_test_id("run-gathered")).to_be_visible()
    page.keyboard.press("h")
    expect(page.get_by_role("radio", name="Clock stands")).to_be_checked()
    stood = page.get_by_test_id("run-left").inner_text()
    page.wait_for_timeout(1500)
    assert page.get_by_test_id("run-left").inner_text() == stood
    page.keyboard.press("h")
    hold(page, "Close")
    expect(page.get_by_role("heading", name="Closed")).to_be_visible()


FILES: dict[str, tuple[Any, str]] = {
    "not json": ("{", "The file is no JSON"),
    "another file": ({**plain(FALLS), "format": "some-kit"}, "This is no dry run"),
    "no lens": ({**plain(FALLS), "kit": [i for i in plain(FALLS)["kit"] if i["sort"] != "lens"]}, "There is no lens"),
    "unknown look": (
        {**plain(FALLS), "framings": [{**plain(FALLS)["framings"][0], "wants": [{"kind": "river", "look": "pink"}]}]},
        "pink",
    ),
}


def test_a_scenario_of_one_s_own_is_read_with_care_and_played(guest: Visit, tmp_path: Path) -> None:
    page = guest.page
    page.goto(f"{guest.server.url}/log/practice/runs")
    chooser = page.get_by_label("Play a scenario from a file").last
    for name, (content, said) in FILES.items():
        path = tmp_path / "own.json"
        path.write_text(content if isinstance(content, str) else json.dumps(content))
        chooser.set_input_files(path)
        expect(page.locator(".fault"), name).to_contain_text(said)
        assert kept(page, "dry_run") == []
    path.write_text(json.dumps({**plain(FALLS), "name": "Club evening", "minutes": 20}))
    chooser.set_input_files(path)
    expect(page.get_by_role("region", name="Practice: Club evening")).to_be_visible()
