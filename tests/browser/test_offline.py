"""On the rock: taken along once, with the server's process ended for good."""

from __future__ import annotations

import json
import math
import os
import random
import re
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Route, expect
from tools.serving import Server, records, serving

from jackstaff_core.answering import names
from jackstaff_core.practice.dryrun.shipped import BY_ID
from jackstaff_core.wire.reader import plain
from tests.core.test_questions import READING, SAMPLES

from .conftest import Visit, eventually, frames, get_ready, judge, no_countdown, several, until
from .test_lights import brightest_other_than_red
from .test_path import answer, arm_and_open, hold, short_bulb

BOOT_S = 90
"""A Python that boots on a machine that does everything else as well."""


@pytest.fixture
def own_server(fresh_data: Callable[[str], Path]) -> Iterator[Server]:
    """One that may be ended; no demo, whose day is made up."""
    more = {"JACKSTAFF_DEMO": "", "JACKSTAFF_SERVED_AT": "https://rocks.test:8443"}
    with serving(fresh_data("offline"), more=more) as running:
        yield running


@pytest.fixture
def walker(browser: Browser, own_server: Server) -> Iterator[Visit]:
    visit = Visit(browser, own_server, visited=True)
    yield visit
    visit.context.close()


def take_along(page: Page) -> None:
    page.keyboard.press("?")
    page.get_by_role("button", name="Use offline").click()
    expect(page.get_by_text("With you. No signal: all of this works here")).to_be_visible(timeout=BOOT_S * 1000)
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()


def test_from_the_reading_to_again_with_no_server_at_all(walker: Visit, own_server: Server) -> None:
    page = walker.page
    expect(answer(page)).to_have_text("13s")
    take_along(page)
    own_server.kill()
    # The whole day without it: sum, checklist, exposure, verdict, the corrected frame.
    short_bulb(page)
    expect(page.get_by_text("No signal: all of this works here.")).to_be_visible()
    arm_and_open(page, "I close it")
    expect(page.get_by_test_id("run-gathered")).to_be_visible()
    # Closed too late, however slow the machine is: that alone would never leave a frame dark.
    expect(page.get_by_test_id("run-left")).to_contain_text(re.compile(r"^\+"))
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_have_text(re.compile(r"^Closed .* late"))
    judge(page, -2)
    again = page.get_by_role("button", name="Again, corrected")
    expect(again).to_be_visible()
    again.click()
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    # A reload comes out of what was taken along, and so does the frame it finds running.
    page.get_by_role("button", name="Open the shutter").click()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    page.reload()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible(timeout=BOOT_S * 1000)
    assert len(frames(page)) == 2
    page.get_by_role("link", name="Log", exact=True).click()
    expect(page.locator(".log-row")).to_have_count(2)
    # When somebody answers again, nothing has to be done.
    own_server.start()
    back_online(page)
    expect(page.get_by_text("No signal: all of this works here.")).to_have_count(0)


def back_online(*pages: Page) -> None:
    for page in pages:
        page.evaluate("dispatchEvent(new Event('online'))")


BAD_GATEWAY: dict[str, Any] = {"status": 502, "content_type": "text/html", "body": "<h1>Bad gateway</h1>"}
PORTAL: dict[str, Any] = {"status": 200, "content_type": "text/html", "body": "<h1>Welcome to the ferry's network</h1>"}


def test_a_gateway_a_portal_and_silence_are_no_server_and_a_core_that_ends_is_started_again(walker: Visit) -> None:
    page = walker.page
    expect(answer(page)).to_have_text("13s")
    take_along(page)
    before = answer(page).text_content()
    for said in (BAD_GATEWAY, PORTAL, None):
        page.route("**/api/**", saying(said))
        page.keyboard.press("2")
        expect(answer(page)).not_to_have_text(str(before))
        expect(page.get_by_text("Nobody answers")).to_have_count(0)
        before = answer(page).text_content()
        page.unroute_all()
    # Its worker ends, as it does where memory is short, while nobody else answers.
    page.route("**/api/**", lambda route: route.fulfill(**BAD_GATEWAY))
    end_workers(page)
    page.keyboard.press("2")
    expect(answer(page)).not_to_have_text(str(before), timeout=BOOT_S * 1000)


def saying(said: dict[str, Any] | None) -> Callable[[Route], None]:
    """Whoever answers instead of the server; None says nothing at all."""

    def hear(route: Route) -> None:
        if said is not None:
            route.fulfill(**said)

    return hear


def end_workers(page: Page) -> None:
    """End every worker of a page, as its browser does where memory is short."""
    debugger = page.context.new_cdp_session(page)
    debugger.send("Target.setAutoAttach", {"autoAttach": True, "waitForDebuggerOnStart": False, "flatten": True})
    for worker in page.workers:
        worker.evaluate("self.close()")


def test_a_newer_build_taken_in_one_tab_reaches_the_others(walker: Visit) -> None:
    page = walker.page
    expect(answer(page)).to_have_text("13s")
    take_along(page)
    page.reload()
    until(page, "navigator.serviceWorker.controller !== null")
    expect(answer(page)).to_have_text("13s")
    taken = "navigator.serviceWorker.dispatchEvent(new Event('controllerchange'))"
    page.evaluate(taken)
    notice = page.get_by_text("Another tab took a newer version")
    expect(notice).to_be_visible()
    # Never under an open shutter.
    short_bulb(page)
    arm_and_open(page, "I close it")
    expect(notice).to_be_hidden()
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    page.evaluate("window.older = true")
    page.get_by_role("button", name="Load it here").click()
    until(page, "window.older === undefined")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    expect(notice).to_have_count(0)


def test_two_devices_bring_home_what_they_did_alone(browser: Browser, own_server: Server) -> None:
    rock, car = (Visit(browser, own_server, visited=True) for _ in range(2))
    for visit in (rock, car):
        visit.sign_in()
        take_along(visit.page)
    own_server.kill()
    # One measures a filter and writes it down; the core reads the gear where no server does.
    page = car.page
    page.keyboard.press("k")
    page.locator(".filter-tile").filter(has_text="Slot ND 9").first.click()
    page.get_by_text("More", exact=True).click()
    page.get_by_label("Strength, stops").fill("99")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Give a number from 0 to 30 stops.").first).to_be_visible()
    page.get_by_label("Strength, stops").fill("9")
    page.get_by_label("Measured minus label, stops").fill("0.4")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Slot ND 9 saved.")).to_be_visible()
    # The other opens the shutter; the page is closed meanwhile, and another one finds it running.
    short_bulb(rock.page)
    arm_and_open(rock.page, "I close it")
    rock.page.close()
    rock.page = rock.tab("/run")
    expect(rock.page.get_by_test_id("run-left")).to_be_visible(timeout=BOOT_S * 1000)
    hold(rock.page, "Close")
    expect(rock.page.get_by_test_id("run-result")).to_be_visible()
    judge(rock.page, -2)
    # What the log teaches is worked out of the frames that are here, by a second core that starts for it.
    rock.page.get_by_role("link", name="Log", exact=True).click()
    expect(rock.page.locator(".log-row")).to_have_count(1)
    rock.page.get_by_role("link", name="Lessons").click()
    expect(rock.page.get_by_text("Nobody answers")).to_have_count(0)
    expect(rock.page.locator(".waiting")).to_have_count(0, timeout=BOOT_S * 1000)
    own_server.start()
    back_online(rock.page, car.page)

    def come() -> bool:
        # It asks when it is looked at, or when a network comes back; the other may still have been sending.
        back_online(car.page)
        return len(frames(car.page)) == 1

    eventually(car.page, come, "the frame on the other device")
    assert frames(car.page) == frames(rock.page)
    back_online(rock.page)
    rock.page.keyboard.press("k")
    expect(rock.page.get_by_role("button", name="Slot ND 9, 9.4 stops; label 9")).to_be_visible()
    # Once each, and as they were made: nothing is set aside.
    with records(own_server) as database:
        kept = database.execute(
            "SELECT count(*) FROM records_frame JOIN auth_user u ON u.id = account_id WHERE username = 'edda'"
        )
        assert kept.fetchone() == (1,)
        assert database.execute("SELECT count(*) FROM records_setaside").fetchone() == (0,)
    for visit in (rock, car):
        visit.context.close()


def test_the_bell_is_tried_the_lock_screen_shows_the_run_and_a_wrong_clock_is_said(walker: Visit) -> None:
    page = walker.page
    expect(answer(page)).to_have_text("13s")
    expect(page.get_by_text("This device's clock")).to_have_count(0)
    short_bulb(page)
    get_ready(page)
    ring = several(page).get_by_role("button", name="Ring the bell")
    ring.click()
    page.get_by_role("button", name="No", exact=True).click()
    expect(page.get_by_text("Turn the volume up")).to_be_visible()
    ring.click()
    page.get_by_role("button", name="Yes", exact=True).click()
    expect(page.get_by_text(re.compile("^Heard at "))).to_be_visible()
    # A browser without a window has nowhere to put a notice, and it is said.
    expect(page.get_by_text("It gives no notices.")).to_be_visible()
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    until(page, "navigator.mediaSession.metadata?.title.startsWith('Shutter open until ')")
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    assert page.evaluate("navigator.mediaSession.metadata") is None
    # The way onto a phone, red in Red.
    page.keyboard.press("n")
    page.keyboard.press("n")
    walker.sign_in()
    page.get_by_role("button", name="Account edda").click()
    expect(page.get_by_role("img", name="A code for a phone's camera: https://rocks.test:8443")).to_be_visible()
    assert brightest_other_than_red(page) <= 12
    late = walker.context.new_page()
    late.clock.install(time=datetime.now(UTC) + timedelta(minutes=12))
    late.goto(walker.server.url)
    expect(answer(late)).to_be_visible()
    late.keyboard.press("1")
    expect(late.get_by_text("This device's clock is 12 min ahead of the server's.")).to_be_visible()


def alike(ours: Any, theirs: Any) -> bool:
    """Equal, numbers to 1e-12: the browser's libm is another one."""
    if isinstance(ours, float | int) and isinstance(theirs, float | int) and not isinstance(ours, bool):
        return math.isclose(ours, theirs, rel_tol=1e-12, abs_tol=1e-12)
    if isinstance(ours, dict) and isinstance(theirs, dict):
        return ours.keys() == theirs.keys() and all(alike(ours[key], theirs[key]) for key in ours)
    if isinstance(ours, list) and isinstance(theirs, list):
        return len(ours) == len(theirs) and all(map(alike, ours, theirs))
    return bool(ours == theirs)


PLACE = {"latitude": 58.052, "longitude": 6.798}
HOURS = {"from": "2027-04-17T03:00:00Z", "to": "2027-04-17T09:00:00Z", "step_seconds": 600}
LIT = {**PLACE, **HOURS, "sky": "thin", "readings": [{"at": "2027-04-17T04:00:00Z", "ev100": 4.2}]}
OWN = [{"id": "nine", "kind": "solid", "stops": 9}, {"id": "turn", "kind": "variable", "min": 2, "max": 5}]
CAMERA = {"focal_mm": 24, "sensor_width_mm": 36, "pitch_um": 4.35, "elevation_deg": 8, "bearing_deg": 300}
SUBJECTS = [
    {"id": "sea", "kind": "sea", "height_m": 0.6},
    {"id": "low", "kind": "cloud", "class": "low", "wind_m_s": 6, "wind_from_deg": 240},
    {"id": "walk", "kind": "people", "standing": 2},
]
TURNED = {"kind": "variable", "stops": 2, "stops_max": 8}
FRAME = {
    "id": "0b0e4f4e-6a50-4c25-9a43-0c7f1f6d2a11", "state": "closed", "opened_at": "2027-04-17T04:30:00Z",
    "closed_at": "2027-04-17T04:30:16Z", "closed_by": "hand", "note": "", "reading": READING,
    "settings": {"aperture": "9", "iso": "64"}, "scale": "exact", "dial_limit": 30,
    "stack": [{"name": "Slot ND 9", "stops": 9, "in_reading": False, "kind": "solid"}],
    "answer": {"seconds": 12.7, "set_seconds": 12.7, "base_seconds": 0.0248, "sure_within_stops": 0.4, "steps": []},
    "events": [], "review": {"error_stops": -0.333, "defects": ["cast"]},
}  # fmt: skip
RUN = plain(BY_ID["dawn-mole"])
SLOT = {"id": RUN["kit"][3]["id"], "stops": 3.0}
SHOT = {
    "framing": 0, "opened_at": "2027-04-17T06:05:00+02:00", "seconds": 75.0, "aimed_seconds": 70.0,
    "metered_seconds": 72.0, "metered_at": "2027-04-17T06:04:00+02:00", "aperture": "11", "iso": "64",
    "stack": [SLOT], "prepared": ["tripod", "remote"],
}  # fmt: skip

MORE: dict[str, dict[str, Any]] = {
    "practice/scenarios": {"id": "dawn-mole"},
    "practice/begin": {"scenario": RUN, "seed": 12},
    "practice/meter": {
        "scenario": RUN, "framing": 1, "at": "2027-04-17T06:05:00+02:00", "aperture": "4", "iso": "64",
        "through": [SLOT],
    },
    "practice/frame": {"scenario": RUN, "shot": SHOT},
    "practice/hint": {"scenario": RUN, "framing": 0, "at": "2027-04-17T06:05:00+02:00", "metered": True},
    "practice/replay": {
        "scenario": RUN, "shots": [SHOT], "left_at": "2027-04-17T06:50:00+02:00",
        "looked": [{"at": "2027-04-17T06:04:00+02:00", "framing": 0, "through": [SLOT["id"]]}],
    },
    "practice/next": {
        "now": "2027-04-17T05:00:00Z", "seed": 7, "mistakes": ["cast", "too_dark"], "last": "dial",
        "remembered": [{"kind": "stack", "box": 3, "due": "2027-04-16T05:00:00Z"}],
    },
    "practice/drill": {"kind": "light", "seed": 7, "glass": [{"name": "Slot ND 9", "stops": 9.3}]},
    "practice/grade": {"kind": "stack", "seed": 7, "answer": "2m08", "glass": [{"name": "Slot ND 9", "stops": 9.3}]},
    "readout": {"text": "4", "step": "third", "dial_limit": 30},
    "density": {"text": "ND 1.8"},
    "reach": {"reading": READING, "glass": OWN, "slots": 2, "wished": [7.5, 9.0]},
    "graduated": {"sky": "1/250", "ground": "1/30", "owned": [{"id": "two", "stops": 2, "transition": "soft"}]},
    "trial": {"trial_seconds": 30, "error_stops": -1, "sum_seconds": 64},
    "measured": {"without": "1/40", "with_it": "10 s", "step": "third"},
    "looks": {"camera": CAMERA, "subjects": SUBJECTS, "wants": [{"kind": "sea", "look": "veil"}]},
    "looks/at": {"camera": CAMERA, "subjects": SUBJECTS, "seconds": 42.0},
    "light": LIT,
    "light/look": {
        "cells": [0.05 + (place * 37 % 101) / 150 for place in range(48)], "columns": 8, "held": True,
        "exposure_seconds": 0.01, "iso": 100, "before": {
            "known": [(place * 37 % 101) / 40 - 4 for place in range(48)], "looks": [5] * 48,
            "last": [(place * 37 % 101) / 40 - 4 for place in range(48)], "stops": 0.2, "part": 1,
        },
    },
    "light/phone": {
        "reading": READING, "phone_stops": 3.2, "through_stops": 0, "matched": 9.0,
        "glass": [{"name": "Six", "stops": 6}],
    },
    "outing/wait": {**LIT, "wanted": {**READING}},
    "outing/fillable": LIT,
    "outing/swaps": {
        **LIT, "from_seconds": 20, "to_seconds": 90, "glass": OWN, "slots": 2, "apertures": ["4", "11"], "isos": ["64"],
    },
    "outing/budget": {"seconds": 120, "available_seconds": 3600, "battery_wh": 14, "celsius": 4},
    "outing/pack": {"longest_seconds": 240, "densest_stops": 14, "battery_wh": 14, "open_minutes": 200, "celsius": 2},
    "outing/coordinates": {"text": "58°03′07″N 6°47′53″E"},
    "run/lateness": {"planned_seconds": 120, "actual_seconds": 124.5},
    "run/arm": {"seconds": 480, "bulb": True, "body": {"battery_wh": 14}, "iso": "64", "focal_mm": 16, "glass": []},
    "run/series": {"seconds": 61, "way": "bracket", "count": 3},
    "rig": {"glass": [{"name": "turn", "facts": TURNED, "stops": 5}], "focal_mm": 16, "f_number": 8},
    "usable": {"glass": [TURNED, {"stops": 3}], "focal_mm": 24},
    "together": {"glass": [{"stops": 4}, {"stops": 9}]},
    "trade": {"seconds": 30, "f_number": 8, "focal_mm": 24, "widest": 2.8, "smallest": 22, "pitch_um": 4.35},
    "flash": {"reading": READING, "wide": "2.8", "sync_seconds": 0.005},
    "video": {"setting_stops": 4, "change_stops": 1.5, "weak_end": 2, "usable_end": 6},
    "looks/described": {"kind": "sea"},
    "outing/days": {**PLACE, "zone": "Europe/Oslo", "first": "2027-04-16", "days": 3, "matter": "low_near_sunrise"},
    "outing/frames": {
        "stretches": [{
            "start": "2027-04-17T04:00:00Z", "end": "2027-04-17T04:40:00Z", "first_seconds": 120, "last_seconds": 20,
        }],
        "until": "2027-04-17T04:30:00Z",
    },
    "outing/plausible": {**PLACE, "at": "2027-04-17T05:00:00Z", "reading": READING},
    "outing/sky": {"sky": "full_sun", "reading": READING},
    "calibration": {"frames": [{"session": "one", "glass": ["nine"], "error_stops": 0.3}]},
    "kit/check": {
        "items": [
            {"id": "0b0e4f4e-6a50-4c25-9a43-0c7f1f6d2a12", "sort": "glass", "name": "nine",
             "facts": {"kind": "solid", "stops": 9}},
            {"id": "0b0e4f4e-6a50-4c25-9a43-0c7f1f6d2a13", "sort": "body", "name": "box", "facts": {}},
            {"id": "0b0e4f4e-6a50-4c25-9a43-0c7f1f6d2a14", "sort": "film", "name": "roll", "facts": {"iso": 100}},
        ],
    },
    "log/reviewed": {"frame": FRAME, "light_stops": 0.5, "glass": [{"mired": -21, "green": 0.2}]},
    "log/evidence": {"items": [], "frames": [FRAME]},
    "log/learnt": {"items": [], "frames": [FRAME]},
    "log/again": {"error_stops": -0.667, "late_stops": 0.05},
    "fieldcard": {"glass": [{"name": "nine", "stops": 9.1}], "fastest": 0.004, "slowest": 1},
    "light/rate": {
        "readings": [
            {"reading": READING, "at": "2027-04-17T04:00:00Z"},
            {"reading": {**READING, "shutter": "1/60"}, "at": "2027-04-17T04:08:00Z"},
        ],
        "at": "2027-04-17T04:09:00Z",
    },
}  # fmt: skip


ASK_BOTH = """async (asked) => {
    const { shell } = await (await fetch("/files.json")).json();
    const worker = new Worker(shell.find((name) => name.includes("/worker-")), { type: "module" });
    const heard = new Map();
    await new Promise((resolve, reject) => {
        worker.onmessage = ({ data }) => {
            if (data.kind === "ready") resolve();
            else if (data.kind === "failed") reject(new Error(data.text));
            else heard.get(data.id)([data.status, data.text]);
        };
    });
    const both = [];
    for (const [id, [name, body]] of asked.entries()) {
        const ours = await new Promise((resolve) => {
            heard.set(id, resolve);
            worker.postMessage({ id, name, body });
        });
        const got = await fetch("/api/" + name, {
            method: "POST", body, headers: { "Content-Type": "application/json" },
        });
        both.push([ours, [got.status, await got.text()]]);
    }
    worker.terminate();
    return both;
}"""


def test_the_browser_s_core_answers_as_the_server_s(guest: Visit) -> None:
    """Every question there is, as it is, with numbers moved, a word too many, cut short, and parts left out."""
    # What is asked by a GET has no body to compare.
    assert (SAMPLES | MORE).keys() == set(names()) - {"scales"}
    page = guest.page
    expect(answer(page)).to_be_visible()
    asked = [(name, body) for name, sample in (SAMPLES | MORE).items() for body in variations(sample)]
    assert len(asked) > 500
    both = page.evaluate(ASK_BOTH, asked)
    for (name, body), (ours, theirs) in zip(asked, both, strict=True):
        assert ours[0] == theirs[0], (name, body, ours, theirs)
        assert alike(json.loads(ours[1]), json.loads(theirs[1])), (name, body, ours, theirs)
    # As they are all of them are answered: the refusals are the variations'.
    assert {name for (name, _), (ours, _) in zip(asked, both, strict=True) if ours[0] == 200} == (SAMPLES | MORE).keys()
    assert {ours[0] for ours, _ in both} == {200, 422}
    # Half a question is refused in words by both, so the browser says so in its console.
    guest.wrong.clear()


RANDOM = int(os.environ.get("JACKSTAFF_PARITY", "8"))
"""How many times each question is asked with every number in it moved at random; ``make bench-long`` asks more."""


def moved(value: Any, chance: random.Random) -> Any:
    """The same with other numbers, now and then one far off."""
    if isinstance(value, dict):
        return {key: moved(held, chance) for key, held in value.items()}
    if isinstance(value, list):
        return [moved(held, chance) for held in value]
    if isinstance(value, bool) or not isinstance(value, int | float):
        return value
    if isinstance(value, int):
        return max(0, value + chance.choice((-1, 0, 0, 0, 1)))
    return value * chance.choice((0.9, 0.97, 1, 1.04, 1.2, -1)) if chance.random() < 0.5 else value


def variations(sample: dict[str, Any]) -> Iterator[str]:
    chance = random.Random(json.dumps(sample))
    yield json.dumps(sample)
    yield from (json.dumps(moved(sample, chance)) for _ in range(RANDOM))
    yield json.dumps({**sample, "surprise": 1})
    yield json.dumps(sample)[:-1]
    for key, value in sample.items():
        yield json.dumps({other: held for other, held in sample.items() if other != key})
        if isinstance(value, float | int) and not isinstance(value, bool):
            yield from (json.dumps({**sample, key: far}) for far in (value * 1.37, -value - 1, 1e9))
        else:
            yield json.dumps({**sample, key: None})
