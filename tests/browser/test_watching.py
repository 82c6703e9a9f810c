"""A phone's camera watches the light, from the bench to a closed frame: Chromium's own fake camera plays the sky."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, Playwright, expect
from tools.serving import CHROMIUM, Server

from jackstaff_imaging.watched_scene import Disturbed, WatchedScene, y4m

from .conftest import Visit, also_seen, frames, get_ready, more, no_countdown
from .test_offline import take_along
from .test_path import hold

HELD = """
  const told = MediaStreamTrack.prototype.getSettings;
  MediaStreamTrack.prototype.getSettings = function () {
    return { ...told.call(this), exposureMode: "manual", exposureTime: 100, iso: 100 };
  };
"""
"""What a camera that can hold its exposure tells; the fake one plays a film and tells nothing."""


@pytest.fixture(scope="module")
def sky(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A film of light that jumps up by a stop and down again every eight seconds, for as long as it is played."""
    scene = WatchedScene(lambda second: float(int(second / 8) % 2), 1, Disturbed(0.005, 0, 0, 0, 0), (160, 120))
    film = tmp_path_factory.mktemp("sky") / "sky.y4m"
    with film.open("wb") as file:
        file.writelines(y4m((scene.frame(turn / 2) for turn in range(32)), 2))
    return film


@pytest.fixture(scope="module")
def filmed(playwright: Playwright, sky: Path) -> Iterator[Browser]:
    """A browser whose camera is that film."""
    fake = [
        "--use-fake-device-for-media-stream",
        "--use-fake-ui-for-media-stream",
        f"--use-file-for-fake-video-capture={sky}",
    ]
    browser = playwright.chromium.launch(**{**CHROMIUM, "args": [*CHROMIUM["args"], *fake]})
    yield browser
    browser.close()


@pytest.fixture
def watcher(filmed: Browser, server: Server) -> Iterator[Visit]:
    """Somebody who has been here before and signed out, with a camera."""
    visit = Visit(filmed, server, visited=True)
    expect(visit.page.get_by_test_id("answer-time")).to_be_visible()
    yield visit
    visit.context.close()
    assert visit.wrong == []


def meter_now(page: Page) -> None:
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.get_by_role("button", name="New reading").click()


START_MS = 60_000
"""What measures the light is Python that starts in the page first."""


def test_a_camera_that_tells_nothing_of_its_exposure_is_refused_in_words(watcher: Visit) -> None:
    page = watcher.page
    more(page).get_by_role("button", name="Watch the light").click()
    panel = page.get_by_role("group", name="Watching the light")
    expect(panel).to_contain_text("sets its exposure by itself", timeout=START_MS)
    # And another way is at hand.
    expect(panel.get_by_role("button", name="Watch a simulated sky")).to_be_visible()


def test_from_watching_to_a_closed_frame(watcher: Visit) -> None:
    sent: list[str] = []
    watcher.context.on("request", lambda request: sent.append(request.url))
    watcher.context.add_init_script(HELD)
    page = watcher.tab()
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    take_along(page)
    meter_now(page)
    page.keyboard.press("2")
    expect(page.get_by_test_id("answer-time")).to_contain_text("m")
    more(page).get_by_role("button", name="Watch the light").click()
    now = page.get_by_test_id("light-now")
    expect(now).to_contain_text("metered, ±", timeout=START_MS)
    # On the rock there is no signal, and none is needed.
    watcher.context.set_offline(True)
    get_ready(page)
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    # The light jumps by a stop and back: what is seen reaches the end of the exposure.
    expect(now).to_contain_text(re.compile(r"(0\.[6-9]|1\.\d) stops (brighter|darker)"), timeout=START_MS)
    expect(page.get_by_test_id("run-ends")).to_contain_text("by the light seen it closes at", timeout=START_MS)
    expect(now).to_contain_text(re.compile(r"as metered|0\.[0-3] stops"), timeout=START_MS)
    hold(page, "Close")
    expect(page.get_by_role("heading", name="Closed")).to_be_visible()
    # The path of light stays with the frame, numbers and no pictures; the camera goes out.
    also_seen(page)
    expect(page.get_by_role("img", name=re.compile("Light against the metering"))).to_be_visible()
    seen = frames(page)[0]["run"]["looks"]
    assert set(seen[0]) == {"at_seconds", "stops", "sd", "part"}
    assert seen[0]["at_seconds"] < 0 < seen[-1]["at_seconds"]
    assert max(look["stops"] for look in seen) - min(look["stops"] for look in seen) > 0.7
    page.get_by_role("link", name="Bench", exact=True).first.click()
    expect(more(page).get_by_role("button", name="Watch the light")).to_be_visible()
    # What the camera saw was asked of nobody but the core in the page.
    assert not [url for url in sent if "light/look" in url or "standins" in url]


def test_a_phone_is_tried_before_its_first_long_frame(watcher: Visit) -> None:
    watcher.context.grant_permissions(["notifications"])
    page = watcher.page
    page.keyboard.press("2")
    expect(page.get_by_test_id("answer-time")).to_contain_text("m")
    get_ready(page)
    page.get_by_role("button", name="Check this phone before a long frame").click()
    dialog = page.get_by_role("dialog", name="Check this phone")
    expect(dialog.get_by_test_id("check-bell")).to_contain_text("Not tried.")
    dialog.get_by_role("button", name="Try everything").click()
    dialog.get_by_role("group", name="Did you hear the bell?").get_by_role("button", name="No").click()
    dialog.get_by_role("group", name="Did it shake?").get_by_role("button", name="Yes").click()
    for what, comes in {
        "bell": "fails: You did not hear it.",
        "vibration": "works: You felt it.",
        "along": "fails: It is not taken along yet.",
        "camera": "fails: It neither holds nor tells its exposure.",
        "clock": "works: It agrees with the server's.",
    }.items():
        expect(dialog.get_by_test_id(f"check-{what}")).to_contain_text(comes)
    # Put away: what the system does is played, a page that was loaded anew meanwhile was thrown away.
    dialog.get_by_role("button", name="Put it away now").click()
    expect(dialog).to_contain_text("Come back when it has rung")
    put_away(page, 12)
    expect(dialog).to_contain_text("You came back after 12 s.")
    dialog.get_by_role("button", name="Put it away now").click()
    put_away(page, 61)
    dialog.get_by_role("group", name="Did it ring while it was away?").get_by_role("button", name="Yes").click()
    expect(dialog.get_by_test_id("check-away")).to_contain_text(
        "works: It was put away for a minute, stayed, and rang."
    )
    dialog.get_by_role("button", name="Put it away now").click()
    page.reload()
    told = page.locator(".on-this-phone p")
    expect(told).to_contain_text("end bell")
    page.get_by_role("button", name="What to do").click()
    expect(dialog.get_by_test_id("check-away")).to_contain_text("fails: The browser threw the page away.")
    with page.expect_download() as saved:
        dialog.get_by_role("button", name="Save as text").click()
    text = saved.value.path().read_text()
    assert "End bell: fails. You did not hear it.\n  Turn the volume up" in text
    assert "Vibration: works. You felt it." in text
    # Said before the first long frame, not before every one.
    page.keyboard.press("Escape")
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    hold(page, "Close")
    expect(page.get_by_role("heading", name="Closed")).to_be_visible()
    page.get_by_role("link", name="Bench", exact=True).first.click()
    get_ready(page)
    expect(page.get_by_role("button", name="Open the shutter")).to_be_visible()
    expect(told).to_have_count(0)


def put_away(page: Page, seconds: int) -> None:
    """The page is not looked at for so long, by its own clock."""
    page.evaluate(
        """(seconds) => {
          const [see, now] = [(state) => {
            Object.defineProperty(document, "visibilityState", { value: state, configurable: true });
            document.dispatchEvent(new Event("visibilitychange"));
          }, Date.now];
          see("hidden");
          Date.now = () => now() + seconds * 1000;
          see("visible");
          Date.now = now;
        }""",
        seconds,
    )


def test_a_simulated_sky_is_named_as_one_and_counts_as_a_camera_does(guest: Visit) -> None:
    page = guest.page
    meter_now(page)
    more(page).get_by_role("button", name="Watch a simulated sky").click()
    panel = page.get_by_role("group", name="Watching the light")
    # The core is fetched first, and that is said rather than an opening camera.
    expect(panel).to_contain_text(re.compile("Fetching|Starting what measures the light"))
    expect(panel).to_contain_text("Watching a simulated sky", timeout=START_MS)
    expect(page.get_by_test_id("light-now")).to_contain_text("metered, ±", timeout=START_MS)
    page.get_by_test_id("light-now").click()
    dialog = page.get_by_role("dialog", name="Watching the light")
    expect(dialog).to_contain_text("A simulated sky: no camera is open.")
    expect(dialog).to_contain_text("the watching phone")
    # Matched once with nothing on, a reading six stops darker than the phone sees is asked about.
    dialog.get_by_role("button", name="Match phone and camera").click()
    expect(dialog).to_contain_text("Phone and camera are matched")
    page.keyboard.press("Escape")
    page.keyboard.press("s")
    page.keyboard.press("Enter")
    page.get_by_role("dialog").get_by_role("textbox").fill("2 s")
    page.get_by_role("dialog").get_by_role("button", name="Use", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text(re.compile(r"sees [67]\.\d stops less than the phone"))
    page.get_by_role("button", name="Stop watching").first.click()
    expect(more(page).get_by_role("button", name="Watch the light")).to_be_visible()
