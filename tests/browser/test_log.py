"""The log as people use it: reviewed in two taps, joined with pictures, learnt from, carried away and back."""

from __future__ import annotations

import json
import re
import zipfile
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Browser, Download, Page, expect
from tools.browserdata import kept
from tools.serving import Server, serving

from jackstaff_imaging.frame import Taken, photograph

from .conftest import Visit, eventually, get_ready, judge, no_countdown, of_outing, working


@pytest.fixture(scope="module")
def own(fresh_data: Callable[[str], Path]) -> Iterator[Server]:
    """A server of one's own: what is learnt and measured here stays here."""
    with serving(fresh_data("log")) as running:
        yield running


@pytest.fixture
def page(browser: Browser, own: Server) -> Iterator[Page]:
    """The demo account, signed in by its first visit; nothing may go wrong in it."""
    visit = Visit(browser, own)
    expect(visit.page.get_by_test_id("answer-time")).to_be_visible()
    visit.page.goto(own.url + "/log")
    expect(visit.page.get_by_test_id("log-count")).to_contain_text("frames")
    yield visit.page
    visit.context.close()
    assert visit.wrong == []


def thing(page: Page, name: str) -> Any:
    """A thing of the account's kit, as the server has it."""
    items = page.request.get("/".join(page.url.split("/")[:3]) + "/api/kit").json()["items"]
    return next(item for item in items if item["name"] == name)


def go(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Log").get_by_role("link", name=name, exact=True).click()


def saved(page: Page, name: str) -> Download:
    with page.expect_download() as download:
        page.get_by_role("button", name=name).click()
    return download.value


def picture(at: datetime, seconds: float, stops: float = 0.0, f_number: float = 9.0) -> bytes:
    level = np.broadcast_to(np.linspace(0.08, 0.35, 480), (320, 480))
    scene = np.repeat(level[..., None], 3, axis=2).astype(np.float32)
    return photograph(scene, stops, Taken(at, seconds, f_number, 64, "Full-frame body A"))


def sent(name: str, content: bytes) -> Any:
    return {"name": name, "mimeType": "image/jpeg", "buffer": content}


def test_review_in_two_taps_teaches_next_time_and_the_glass(page: Page) -> None:
    page.get_by_label("Words in note, place or filters").fill("cold hands")
    expect(page.get_by_test_id("log-count")).to_have_text("1 frame")
    page.get_by_label("Which frames").select_option("verdict:bright")
    expect(page.get_by_role("heading", name="No frame fits this search.")).to_be_visible()
    page.get_by_role("button", name="Show all frames").click()
    page.get_by_label("Which frames").select_option("verdict:none")
    expect(page.get_by_test_id("log-count")).to_have_text("1 frame")
    page.get_by_role("listitem").get_by_role("link").click()
    # Thirds to two stops at first; from an end of it the scale goes on to five.
    scale = page.get_by_role("slider", name="How did it come out?")
    expect(scale).to_have_attribute("max", "6")
    judge(page, -6)
    expect(scale).to_have_attribute("min", "-15")
    page.get_by_role("group", name="How did it come out?").get_by_role("button", name="far too dark").click()
    expect(scale).to_have_attribute("min", "-6")
    # 149 s of 128 s, and a third dark all the same: the nine is denser than its label.
    expect(page.get_by_text("Say how it came out")).to_be_visible()
    judge(page, -1)
    expect(page.get_by_test_id("next-time")).to_have_text("3 min 08 s")
    page.get_by_role("button", name="By the bench's reading").click()
    expect(page.get_by_text("stops from what it was")).to_be_visible()
    page.get_by_role("button", name="Leaves or grass smeared").click()
    expect(page.get_by_text("Wait for a lull")).to_be_visible()
    page.get_by_label("Add a look").select_option(label="Sea: mirror")
    page.get_by_role("group", name="Was the time right for a look?").get_by_role("button", name="right").click()
    expect(page.get_by_text("Sea, mirror: right")).to_be_visible()
    page.reload()
    expect(page.get_by_role("slider", name="How did it come out?")).to_have_value("-1")
    expect(page.get_by_text("Sea, mirror: right")).to_be_visible()

    page.get_by_role("link", name="Bag", exact=True).click()
    page.locator(".filter-tile", has_text="Ring ND 3").click()
    wrong = page.get_by_role("article", name="Ring ND 3")
    expect(wrong).to_contain_text("Is the label wrong, or was something left on?")
    page.locator(".filter-tile", has_text="Slot ND 9").click()
    nine = page.get_by_role("article", name="Slot ND 9")
    expect(nine).to_contain_text("Labelled 9 stops")
    expect(nine.get_by_test_id("glass-mean")).to_have_text(re.compile(r"measures \+0\.[345] ± 0\.2"))
    expect(nine).to_contain_text("8 frames")
    nine.get_by_role("button", name="Use +0.").click()
    expect(page.get_by_text("now measures +0.")).to_be_visible()
    expect(nine).to_contain_text(re.compile(r"Sums use 9\.[345] ± 0\.\d+, from frames on "))
    # What the form saves beside it takes nothing of that back.
    expect(nine.get_by_role("button", name="Save", exact=True)).to_be_disabled()
    nine.get_by_label("Name").fill("Slot ND 9")
    nine.get_by_label("Name").fill("Slot ND 9 b")
    nine.get_by_role("button", name="Save", exact=True).click()
    renamed = page.get_by_role("article", name="Slot ND 9 b")
    expect(renamed).to_contain_text("from frames on ")
    # From now on it counts in every sum; a name taken back from there leaves one there.
    page.get_by_role("link", name="Bench").click()
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.get_by_role("status").filter(has_text="Slot ND 9 b saved").get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=re.compile(r"^Slot ND 9 b"))).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile(r"^Slot ND 9"))).to_be_visible()
    page.keyboard.press("0")
    page.keyboard.press("4")
    working(page)
    expect(page.get_by_role("row", name=re.compile("Slot ND 9, measured correction"))).to_be_visible()

    page.get_by_role("link", name="Log", exact=True).click()
    go(page, "Lessons")
    expect(page.get_by_text("20 of 20 frames reviewed.")).to_be_visible()
    page.get_by_role("link", name="Bag", exact=True).click()
    page.locator(".filter-tile", has_text="Ring VND").click()
    expect(page.get_by_text("Frames show it clean up to 4.7 stops at 16 mm.")).to_be_visible()
    page.get_by_role("button", name="Use it").click()
    expect(page.get_by_text("Written to the bag.")).to_be_visible()
    eventually(page, lambda: thing(page, "Ring VND 2–5")["facts"]["usable_end"] == [[16, 4.67]])


def test_pictures_join_their_frames_and_are_compared(page: Page, own: Server) -> None:
    frames = page.request.get(f"{own.url}/api/frames?limit=50").json()["frames"]
    some = [frame for frame in frames if frame["opened_at"].startswith("2027-04-10")]
    # The camera's clock is on summer time and eleven seconds ahead.
    files = [
        sent(f"{n}.jpg", picture(datetime.fromisoformat(each["opened_at"]) + timedelta(seconds=7211),
                                 each["actual_seconds"], -0.5 * n))
        for n, each in enumerate(some)
    ]  # fmt: skip
    page.get_by_test_id("log-pictures").set_input_files([*files, sent("broken.jpg", files[0]["buffer"][:900])])
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text("The camera's clock is taken to be 2 h ahead of true time.")).to_be_visible()
    expect(dialog.get_by_text("no JPEG picture that can be read").or_(dialog.get_by_text("breaks off"))).to_be_visible()
    dialog.get_by_role("button", name="Keep 2 pictures").click()
    expect(page.get_by_text("2 pictures joined the log.")).to_be_visible()
    eventually(page, lambda: thing(page, "Full-frame body A")["facts"]["clock_ahead_s"] is not None)
    assert thing(page, "Full-frame body A")["facts"]["clock_ahead_s"] == pytest.approx(7211, abs=2)

    page.get_by_label("Words in note, place or filters").fill("vardsund")
    rows = page.get_by_role("listitem").filter(has_text=re.compile("Grey, flat|Fog look"))
    expect(rows).to_have_count(2)
    for n in range(2):
        rows.nth(n).get_by_label("Compare").check()
    page.get_by_role("link", name="Compare the two").click()
    expect(page.get_by_role("img", name="The frame as its JPEG shows it, small")).to_have_count(2)
    expect(page.get_by_test_id("compare-shift")).to_contain_text("0.5 stops")

    # One that no frame is near becomes a frame of its own; then one by hand.
    page.goto(own.url + "/log")
    far = picture(datetime.fromisoformat("2027-05-20T05:00:00+00:00"), 60.0)
    page.get_by_test_id("log-pictures").set_input_files([sent("new.jpg", far)])
    expect(page.get_by_role("dialog").get_by_label("Belongs to: new.jpg")).to_have_value("new")
    keep = page.get_by_role("button", name="Keep one picture")
    # The way breaks between the frame and its picture: tried once more, it is that frame's.
    page.route("**/api/frames/*/picture", lambda route: route.abort("internetdisconnected"), times=1)
    keep.click()
    expect(page.get_by_role("dialog").get_by_role("alert")).to_be_visible()
    keep.click()
    expect(page.get_by_test_id("log-count")).to_have_text("21 frames")
    # Removed by a slip and taken back, it has its picture still.
    page.locator(".log-row").first.get_by_role("link").first.click()
    small = page.get_by_role("img", name="The frame as its JPEG shows it, small")
    expect(small).to_be_visible()
    page.get_by_role("button", name="Remove this frame").click()
    expect(page.get_by_test_id("log-count")).to_have_text("20 frames")
    # What is typed goes out in less than a hand needs to find the way back.
    page.wait_for_timeout(700)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("log-count")).to_have_text("21 frames")
    page.reload()
    page.locator(".log-row").first.get_by_role("link").first.click()
    expect(small).to_be_visible()
    page.go_back()
    page.get_by_role("button", name="Add a frame by hand").click()
    dialog.get_by_label("Open for, as in").fill("0")
    dialog.get_by_role("button", name="Keep it").click()
    expect(dialog.get_by_role("alert")).to_contain_text("for how long")
    dialog.get_by_label("Open for, as in").fill("1:15")
    # At once, and twice: it is read first, and it is one frame.
    dialog.get_by_role("button", name="Keep it").dblclick()
    expect(page.get_by_test_id("log-count")).to_have_text("22 frames")


def test_a_pair_measures_and_becomes_evidence(page: Page) -> None:
    at = datetime.fromisoformat("2027-04-20T10:00:00+00:00")
    page.get_by_role("link", name="Bag", exact=True).click()
    page.locator(".filter-tile", has_text="Ring ND 6").click()
    page.get_by_role("button", name="Measure it").click()
    page.get_by_text("a frame pair").click()
    page.locator("#pair-bare").set_input_files(sent("bare.jpg", picture(at, 1 / 64)))
    page.locator("#pair-filtered").set_input_files(sent("far.jpg", picture(at, 1.0, -1.4)))
    page.get_by_role("button", name="Measure", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("Shoot it again so that both look alike")
    # Six stops and a fifth, shot six stops longer.
    page.locator("#pair-filtered").set_input_files(sent("glass.jpg", picture(at, 1.0, -0.2)))
    page.get_by_role("button", name="Measure", exact=True).click()
    found = page.get_by_test_id("pair-found")
    expect(found).to_contain_text(re.compile(r"6\.(19|20|21) ± 0\.05 stops"))
    found.get_by_role("button", name="Keep as evidence").click()
    expect(page.get_by_text("is kept as evidence")).to_be_visible()
    expect(page.get_by_role("article", name="Ring ND 6")).to_contain_text("1 pair")
    eventually(page, lambda: thing(page, "Ring ND 6")["facts"]["pair_stops"] != [])
    six = thing(page, "Ring ND 6")
    assert six["facts"]["pair_stops"] == [pytest.approx(6.2, abs=0.02)]
    assert abs(six["facts"]["cast_mired"]) <= 2
    assert six["facts"]["corner_stops"] == pytest.approx(0, abs=0.1)


def test_the_card_prints_and_everything_goes_out_and_comes_back(page: Page, tmp_path: Path) -> None:
    page.goto(page.url.split("/log")[0] + "/bag/card")
    table = page.get_by_test_id("field-card")
    expect(table.get_by_role("row", name=re.compile("^1.60 "))).to_contain_text("1 s")
    page.get_by_label("Ring ND 3", exact=True).uncheck()
    expect(table.get_by_role("columnheader", name=re.compile("Ring ND 3"))).to_have_count(0)
    page.emulate_media(media="print")
    expect(page.get_by_role("button", name="Print")).to_be_hidden()
    expect(table).to_be_visible()
    page.emulate_media(media="screen")

    page.get_by_role("link", name="Log", exact=True).click()
    go(page, "Files")
    log = saved(page, "Save as JSON")
    whole = json.loads(Path(log.path()).read_text())
    first = whole["frames"][0] | {"note": "changed outside"}
    changed = tmp_path / "log.json"
    changed.write_text(json.dumps({**whole, "frames": [first, *whole["frames"][1:]]}))
    page.get_by_test_id("files-log").set_input_files(changed)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text(re.compile(r"0 new, 1 changed, \d+ the same\."))).to_be_visible()
    dialog.get_by_role("button", name="Take it in").click()
    expect(page.get_by_text("Taken in.")).to_be_visible()
    sheet = saved(page, "Save as CSV")
    assert "changed outside" in Path(sheet.path()).read_text()
    changed.write_text(json.dumps({**whole, "frames": [{**first, "state": "odd"}]}))
    page.get_by_test_id("files-log").set_input_files(changed)
    expect(dialog.get_by_role("alert")).to_contain_text("Frame 1: 'state' has an unknown value.")
    expect(dialog.get_by_role("button", name="Take it in")).to_be_disabled()
    dialog.get_by_role("button", name="Cancel").last.click()
    archive = saved(page, "Save the archive")
    with zipfile.ZipFile(archive.path()) as members:
        assert {"log.json", "kit.json", "outings.json"} <= set(members.namelist())
    page.get_by_test_id("files-archive").set_input_files(
        {"name": "all.zip", "mimeType": "application/zip", "buffer": Path(archive.path()).read_bytes()}
    )
    expect(dialog.get_by_text(re.compile("^Also 19 things of the bag"))).to_be_visible()
    dialog.get_by_role("button", name="Take it in").click()
    expect(page.get_by_text("Taken in.").last).to_be_visible()
    at = datetime.fromisoformat("2027-04-20T10:00:00+00:00")
    page.get_by_label("Without filters").set_input_files(sent("bare.jpg", picture(at, 1 / 64)))
    page.get_by_label("With filters").set_input_files(sent("glass.jpg", picture(at, 1.0)))
    card = saved(page, "Make the card")
    assert Path(card.path()).read_bytes().startswith(b"\x89PNG")
    page.goto(page.url.replace("/files", ""))
    page.get_by_role("listitem").first.get_by_role("link").click()
    sidecar = Path(saved(page, "Save the sidecar").path()).read_text()
    assert "jackstaff:Record" in sidecar


def test_one_clock_stands_on_every_page_of_the_log(browser: Browser, own: Server) -> None:
    visit = Visit(browser, own, zone="Asia/Tokyo")
    page = visit.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.keyboard.press("?")
    page.get_by_text("5:05 pm", exact=True).click()
    page.keyboard.press("Escape")
    page.goto(own.url + "/log")
    placed = page.get_by_role("region", name="GMT+2")
    row = placed.first.get_by_role("listitem").filter(has=page.get_by_role("link")).first
    clock = row.get_by_role("time").inner_text()
    assert re.fullmatch(r"\d{1,2}:\d\d [ap]m", clock)
    row.get_by_role("link").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text(f"{clock} GMT+2")
    page.go_back()
    row.get_by_label("Compare").check()
    page.get_by_label("Compare").last.check()
    page.get_by_role("link", name="Compare the two").click()
    expect(page.get_by_role("main")).to_contain_text(f"{clock} GMT+2")
    page.goto(own.url + "/outing")
    of_outing(page, "Place, sky, water")
    expect(page.get_by_text(re.compile(r"from \d{1,2}:\d\d am to \d{1,2}:\d\d am GMT\+2")).first).to_be_visible()
    # What is kept and sent is one writing, whatever is shown.
    page.locator("svg[role=slider]").focus()
    page.keyboard.press("ArrowRight")
    page.get_by_role("button", name=re.compile(r"^Set the bench for \d{1,2}:\d\d am")).click()
    expect(page.get_by_role("heading", name=re.compile(r"Forecast for \d{1,2}:\d\d am"))).to_be_visible()
    (bench,) = kept(page, "bench")
    assert re.fullmatch(r"\d\d:\d\d", bench["content"]["lightAt"])
    visit.context.close()
    assert visit.wrong == []


def test_a_test_shot_lends_its_settings_as_the_reading(page: Page, own: Server) -> None:
    page.goto(own.url)
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.keyboard.press("x")
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("tab", name="Test shot").click()
    shot = picture(datetime.fromisoformat("2027-04-20T10:00:00+00:00"), 1 / 160, f_number=5.6)
    dialog.get_by_label("JPEG from the camera").set_input_files(sent("bare.jpg", shot))
    dialog.get_by_role("button", name="Take 1/160, f/5.6, ISO 64 as the reading").click()
    expect(page.get_by_role("button", name=re.compile("^Shutter 1.160"))).to_be_visible()
    expect(page.get_by_text("just now")).to_be_visible()


def test_the_last_frame_s_finding_is_offered_beneath_the_answer(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    page = visit.page
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    page.get_by_role("button", name="New reading").click()
    get_ready(page)
    no_countdown(page)
    page.clock.install()
    page.get_by_role("button", name="Open the shutter").click()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    page.clock.fast_forward(15_000)
    expect(page.get_by_test_id("run-result")).to_be_visible()
    judge(page, -3)
    page.get_by_role("link", name="Bench").filter(visible=True).first.click()
    offer = page.locator(".last-finding")
    expect(offer).to_contain_text(re.compile(r"Last frame: Slot ND 9 \d\.\d denser"))
    offer.get_by_role("button", name="Use it").click()
    expect(page.locator(".answer-correction")).to_contain_text("Slot ND 9")
    expect(page.get_by_test_id("answer-time")).to_have_text(re.compile("^2[5-7]s"))
    # Another filter is another story.
    page.keyboard.press("4")
    expect(page.locator(".answer-correction")).to_be_hidden()
    expect(offer).to_be_hidden()
