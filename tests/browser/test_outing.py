"""An outing: the light ahead, readings that anchor it, glass against the clock, and when to leave."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import expect
from tools.browserdata import kept

from tests.api.test_outings import GPX

from .conftest import (
    Visit,
    done,
    eventually,
    get_ready,
    hold_back,
    in_the_picture,
    let_go,
    may_be_held_back,
    more,
    of_outing,
    to_page,
    work_out,
    working,
)


def test_a_dawn_is_planned_read_and_left_in_time(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    in_the_picture(page, "Sea")
    page.keyboard.press("w")
    page.get_by_role("dialog").get_by_role("button", name=re.compile("^mirror")).click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()
    may_be_held_back(page)
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    swaps = hold_back(page, "/api/outing/swaps")
    page.keyboard.press("g")
    chart = page.get_by_label("The light over the clock")
    expect(chart.get_by_text("sunrise 06:17")).to_be_visible()
    expect(page.get_by_role("main").get_by_text("First frame")).to_be_visible()
    # Read by keyboard as by pointing.
    chart.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text(re.compile(r"^04:46: about EV −?-?\d"))).to_be_visible()
    # Before it is known what the plan puts on, the bench is not set without it.
    eventually(page, lambda: bool(swaps))
    expect(page.get_by_text("The meter would say")).to_be_visible()
    ready = page.get_by_role("button", name="Set the bench for 04:46")
    expect(ready).to_be_disabled()
    expect(page.get_by_text("Choose a look on the bench")).to_be_hidden()
    let_go(page, "/api/outing/swaps", swaps)
    expect(ready).to_be_enabled()
    # Glass against the clock, each with its time inside the aim.
    plan = of_outing(page, "As a table").locator(".swap-list li")
    expect(plan.first).to_be_visible()
    assert plan.count() >= 3
    # A reading no sky can give is asked about; it anchors the curve all the same, for it is the photographer's.
    expect(page.locator(".standing")).to_have_count(plan.count() - 1)
    expect(of_outing(page, "As a table").get_by_text("No sunset during this outing.")).to_be_visible()
    of_outing(page, "Readings")
    expect(page.get_by_text(re.compile("stops brighter than this sky can be"))).to_be_visible()
    page.get_by_role("button", name="Take the bench's reading, EV 12.3").click()
    expect(page.locator(".light-reading")).to_have_count(0)
    page.get_by_role("button", name="Take it all the same").click()
    expect(page.locator(".light-reading")).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Remove: 05:")).click()
    expect(page.locator(".light-reading")).to_have_count(0)
    # Leaving follows the entered waters; what cannot be known says so.
    leaving = page.get_by_role("region", name="Leaving")
    expect(leaving.get_by_text("07:03")).to_be_visible()
    expect(leaving.get_by_text("It floods about 07:58, or up to 26 min earlier.")).to_be_visible()
    leaving.get_by_text("What this rests on").click()
    rests = page.get_by_role("complementary", name="Leaving")
    expect(rests.get_by_text("A reminder, not a guarantee")).to_be_visible()
    origin = "From your waters 03:10 0.3 m, 09:25 1.9 m; the way back floods at 1.7 m; 15 min walk and 15 min margin."
    expect(rests.get_by_text(origin)).to_be_visible()
    of_outing(page, "Place, sky, water")
    # Nothing is planned for when one has left.
    expect(page.get_by_role("button", name="Sat 17 Apr, from 04:45 to 07:03")).to_be_visible()
    expect(page.get_by_role("slider", name="Turn back")).to_have_attribute("aria-valuetext", "Leave by 07:03")
    page.get_by_role("button", name=re.compile("^Water 03:10")).click()
    page.get_by_label("Floods at, m").fill("2")
    expect(leaving.get_by_text("The way back does not flood before 09:25.")).to_be_visible()
    expect(leaving.get_by_text("High water stays 0.1 m under the way")).to_be_visible()
    page.get_by_label("Floods at, m").fill("1.7")
    page.get_by_label("Water 2, time").fill("03:30")
    expect(page.get_by_text("High and low water are hours apart.")).to_be_visible()
    page.get_by_role("button", name="58.050 N 6.800 E").click()
    page.get_by_label("Latitude, north +").fill("")
    page.get_by_label("Latitude, north +").press_sequentially("95")
    expect(page.get_by_role("alert").filter(has_text="95 degrees is outside").first).to_be_visible()
    page.get_by_label("Latitude, north +").fill("58.05")
    page.get_by_label("Time zone").fill("Vardsund/Mole")
    expect(page.get_by_text("No such zone. Write it like Europe/Oslo.")).to_be_visible()


def test_several_outings_are_copied_and_the_polar_night_has_no_sunrise(guest: Visit) -> None:
    page = guest.page
    page.goto(guest.server.url + "/outing")
    of_outing(page, "Other outings").get_by_role("button", name="Copy").click()
    of_outing(page, "Place, sky, water")
    page.get_by_label("Place, in your words").fill("Grey Tarn, winter")
    page.get_by_role("button", name="58.050 N 6.800 E").click()
    page.get_by_label("Latitude, north +").fill("75")
    page.get_by_role("button", name="Sat 17 Apr").click()
    page.get_by_role("textbox", name="Day").fill("2027-12-21")
    expect(of_outing(page, "As a table").get_by_text("No sunrise or sunset during this outing.")).to_be_visible()
    may_be_held_back(page)
    expect(page.get_by_role("heading", name="Grey Tarn, winter")).to_be_visible()
    of_outing(page, "Place, sky, water")
    expect(page.get_by_label("Place, in your words")).to_have_value("Grey Tarn, winter")
    chart = page.get_by_label("The light over the clock")
    expect(chart).to_be_visible()
    # Until this outing's own light is there, the other's is not taken for it.
    light = hold_back(page, "/api/light")
    of_outing(page, "Other outings").get_by_label("Outing").select_option(label="Vardsund mole, first light")
    eventually(page, lambda: bool(light))
    expect(chart).to_be_hidden()
    let_go(page, "/api/light", light)
    expect(chart.get_by_text("sunrise 06:17")).to_be_visible()
    # Nor is a minute of the hours that stood here taken for the nearest of those that come.
    box = chart.bounding_box()
    assert box
    # Of 195 minutes to 08:00 the 175th, between the pole and the edge.
    chart.click(position={"x": 72 + (box["width"] - 88) * 175 / 195, "y": 200})
    expect(page.locator(".light-said")).to_contain_text("07:40: about EV")
    light = hold_back(page, "/api/light")
    page.get_by_role("slider", name="Turn back").press("PageDown")
    eventually(page, lambda: bool(light))
    expect(page.locator(".light-said")).to_contain_text("Tap a minute to read it.")
    # And nothing of them leaves the screen as this plan.
    calendar = of_outing(page, "Other outings").get_by_role("button", name="Plan as calendar")
    expect(calendar).to_be_disabled()
    page.emulate_media(media="print")
    expect(page.get_by_text("This plan was not worked out yet")).to_be_visible()
    page.emulate_media(media="screen")
    let_go(page, "/api/light", light)
    expect(page.locator(".outing-light")).not_to_have_attribute("data-stale", "true")
    expect(calendar).to_be_enabled()


def test_a_missing_high_water_is_said_everywhere_and_a_flood_that_was_seen_counts(guest: Visit) -> None:
    page = guest.page
    page.clock.install(time="2027-04-17T03:20:00Z")
    page.goto(guest.server.url + "/outing")
    leaving = page.get_by_role("region", name="Leaving")
    of_outing(page, "Place, sky, water")
    page.get_by_role("button", name=re.compile("^Water 03:10")).click()
    page.get_by_label("Water 2, time").fill("15:35")
    page.get_by_label("Water 2, metres").fill("0.4")
    unknown = "When to leave is unknown. A high water is missing between 03:10 and 15:35."
    expect(leaving.get_by_text(unknown)).to_be_visible()
    expect(page.get_by_role("banner").get_by_text(unknown)).to_be_visible()
    expect(page.get_by_label("The light over the clock").get_by_text(unknown)).to_be_visible()
    expect(page.get_by_label("Water 1, high or low")).to_have_value("")
    # The cure is the next step.
    done(page)
    page.get_by_role("button", name="Add a high or low water").click()
    page.get_by_role("button", name=re.compile("^Water 03:10")).click()
    page.emulate_media(media="print")
    expect(page.get_by_role("article").get_by_text(unknown)).to_be_visible()
    page.emulate_media(media="screen")
    adding = page.get_by_role("complementary").get_by_role("button", name="Add a high or low water")
    adding.click()
    page.get_by_label("Water 3, time").fill("09:25")
    page.get_by_label("Water 3, metres").fill("1.9")
    expect(leaving.get_by_text("07:03")).to_be_visible()
    expect(page.get_by_label("Water 3, high or low").locator("option").first).to_have_text("high, by the others")
    # A flood of this level that was seen makes the next one surer, at this place on any day.
    leaving.get_by_text("What this rests on").click()
    rests = page.get_by_role("complementary", name="Leaving")
    rests.get_by_role("button", name="I saw it flood").click()
    seen = rests.get_by_label("The water covered the way at")
    seen.fill("16:00")
    expect(rests.get_by_role("button", name="Keep")).to_be_disabled()
    seen.fill("07:40")
    rests.get_by_role("button", name="Keep").click()
    expect(leaving.get_by_text("It floods about 07:40, or up to 22 min earlier.")).to_be_visible()
    of_outing(page, "Other outings").get_by_role("button", name="New outing").click()
    page.get_by_role("dialog").get_by_label("Any other day").fill("2027-04-18")
    page.get_by_role("dialog").get_by_role("button", name="Plan it").click()
    of_outing(page, "Place, sky, water")
    page.get_by_role("button", name=re.compile("no leave-by time")).click()
    for n, (time, metres) in enumerate((("04:10", "0.3"), ("10:25", "1.9")), 1):
        adding.click()
        page.get_by_label(f"Water {n}, time").fill(time)
        page.get_by_label(f"Water {n}, metres").fill(metres)
    expect(leaving.get_by_text("It floods about 08:40, or up to 22 min earlier.")).to_be_visible()


def test_a_live_outing_counts_down_lends_its_light_to_the_bench_and_rings_on_every_screen(guest: Visit) -> None:
    page = guest.page
    page.clock.install(time="2027-04-17T03:20:00Z")
    page.reload()
    header = page.get_by_role("banner")
    expect(header.get_by_text("14 min to civil dawn")).to_be_visible()
    expect(header.get_by_text("Leave in 1 h 43 min")).to_be_visible()
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    # Over two stops more than this dawn gives: its rate counts once somebody says so.
    page.keyboard.press("s")
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("textbox").fill("4 s")
    take = dialog.get_by_role("button", name="Use", exact=True)
    expect(take).to_be_enabled()
    take.click()
    expect(dialog).to_be_hidden()
    working(page)
    expect(page.get_by_text(re.compile("^This is not the light of "))).to_be_visible()
    expect(page.get_by_text("Light rises since the reading")).to_have_count(0)
    page.get_by_role("button", name="Count it all the same").click()
    expect(page.get_by_text("Light rises since the reading")).to_be_visible()
    more(page).get_by_role("button", name=re.compile("Light ?rising 1 stop in")).click()
    expect(dialog.get_by_text("stop a minute")).to_be_visible()
    page.keyboard.press("Escape")
    # Ten minutes on, the reading is worth little.
    page.clock.fast_forward("10:00")
    expect(
        more(page).get_by_text(re.compile(r"The light has moved about \d\.\d stop since the reading"))
    ).to_be_visible()
    # Wait instead of glass: hold the time, float the reading.
    work_out(page, "when")
    expect(page.get_by_test_id("wait")).to_be_visible()
    # The time to leave is told on every screen, ten minutes ahead and when it has come, whatever is planned meanwhile.
    page.goto(guest.server.url + "/outing")
    of_outing(page, "Other outings").get_by_role("button", name="Copy").click()
    of_outing(page, "Place, sky, water")
    page.get_by_role("button", name="Sat 17 Apr").click()
    page.get_by_role("textbox", name="Day").fill("2027-04-20")
    expect(page.get_by_role("button", name="Tue 20 Apr")).to_be_visible()
    expect(header.get_by_text("Leave in 1 h 33 min")).to_be_visible()
    to_page(page, "/run")
    page.clock.fast_forward("01:25:00")
    alert = page.get_by_role("alert")
    expect(alert.get_by_text(re.compile("Leave in [89] minutes"))).to_be_visible()
    page.clock.fast_forward("10:00")
    expect(alert.get_by_text("Leave now.")).to_be_visible()
    alert.get_by_role("button", name="I am leaving").click()
    expect(alert).to_be_hidden()
    page.reload()
    expect(header.get_by_text("Leave now", exact=True)).to_be_visible()
    expect(page.get_by_role("alert")).to_be_hidden()


def test_the_sky_one_sees_checks_a_reading_without_an_outing(guest: Visit) -> None:
    page = guest.page
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    page.keyboard.press("v")
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Or what you see").select_option(label="dusk")
    expect(dialog.get_by_text("stops brighter than such light can be")).to_be_visible()
    dialog.get_by_label("Or what you see").select_option(label="overcast")
    expect(dialog.get_by_text("The reading fits.")).to_be_visible()
    # A time of the outing makes its light count, long before the day.
    dialog.get_by_label("At this time of the outing").fill("06:30")
    expect(dialog.get_by_text("stop a minute")).to_be_visible()


def test_the_bag_is_packed_from_plan_and_hazards_and_the_feed_is_marked(guest: Visit) -> None:
    page = guest.page
    page.goto(guest.server.url + "/outing")
    of_outing(page, "Hazards")
    page.get_by_label("Traffic, working low").check()
    expect(page.get_by_text("Drivers do not expect a tripod.")).to_be_visible()
    of_outing(page, "Pack")
    expect(page.get_by_label("Reflective vest")).to_be_visible()
    before = page.locator(".pack-left").inner_text()
    page.get_by_label("Reflective vest").check()
    page.get_by_label("Slot ND 9").check()
    expect(page.locator(".pack-left")).not_to_have_text(before)
    may_be_held_back(page)
    of_outing(page, "Pack")
    expect(page.get_by_label("Reflective vest")).to_be_checked()
    # On paper stand the list and the cautions, nothing else.
    page.emulate_media(media="print")
    expect(page.get_by_text("Drivers do not expect a tripod.")).to_be_visible()
    expect(page.get_by_role("article").get_by_text("Reflective vest")).to_be_visible()
    expect(page.get_by_role("article").get_by_text("Leave by 07:03")).to_be_visible()
    expect(page.get_by_role("button")).to_have_count(0)
    # All of it is one page.
    assert len(re.findall(rb"/Type\s*/Page[^s]", page.pdf(format="A4"))) == 1
    page.emulate_media(media="screen")
    feed = hold_back(page, "/api/outing/feed")
    of_outing(page, "Place, sky, water").get_by_role("button", name="Fill from the simulated feed").click()
    of_outing(page, "Pack")
    # What is ticked off while the feed is on its way is neither lost to it nor to taking it back.
    eventually(page, lambda: bool(feed))
    page.get_by_label("Reflective vest").uncheck()
    let_go(page, "/api/outing/feed", feed)
    of_outing(page, "Place, sky, water")
    expect(page.get_by_text("Simulated: a stand-in that ships with Jackstaff.")).to_be_visible()
    of_outing(page, "Pack")
    expect(page.get_by_label("The light over the clock").get_by_text("tide, simulated")).to_be_visible()
    expect(page.get_by_label("Reflective vest")).not_to_be_checked()
    page.get_by_label("Slot ND 9").uncheck()
    page.get_by_role("button", name="Undo").last.click()
    expect(page.get_by_label("The light over the clock").get_by_text("tide, your own entries")).to_be_visible()
    expect(page.get_by_label("Reflective vest")).not_to_be_checked()
    expect(page.get_by_label("Slot ND 9")).not_to_be_checked()


def test_places_and_plans_travel_as_files(guest: Visit, tmp_path: Any) -> None:
    page = guest.page
    page.goto(guest.server.url + "/outing")
    of_outing(page, "Other outings")
    chosen = page.get_by_test_id("outing-file")
    dialog = page.get_by_role("dialog")
    broken = tmp_path / "broken.gpx"
    broken.write_text(GPX[:200])
    chosen.set_input_files(broken)
    expect(dialog.get_by_role("alert")).to_contain_text("The file is not sound XML")
    page.keyboard.press("Escape")
    places = tmp_path / "places.gpx"
    places.write_text(GPX)
    chosen.set_input_files(places)
    dialog.get_by_role("button", name="Take: Waypoint 2").click()
    expect(of_outing(page, "Place, sky, water").get_by_role("button", name="58.087 N")).to_be_visible()
    with page.expect_download() as download:
        of_outing(page, "Other outings").get_by_role("button", name="Plan as calendar").click()
    calendar = tmp_path / "plan.ics"
    download.value.save_as(calendar)
    text = calendar.read_text()
    assert "SUMMARY:sunrise" in text
    assert "Leave by now" in text
    assert "TRIGGER:-PT10M" in text
    chosen.set_input_files(calendar)
    dialog.get_by_role("button", name="Take: Outing: Waypoint 2").click()
    named = page.get_by_role("heading", name="Outing: Waypoint 2")
    expect(named).to_be_visible()
    expect(of_outing(page, "Place, sky, water").get_by_role("button", name="from 04:45 to 07:03")).to_be_visible()
    of_outing(page, "Other outings").get_by_role("button", name="Remove", exact=True).click()
    expect(named).to_be_hidden()


def test_outings_follow_the_account(visits: Any) -> None:
    phone: Visit = visits(visited=True)
    page = phone.page
    page.goto(phone.server.url + "/outing")
    of_outing(page, "Place, sky, water")
    page.get_by_label("Place, in your words").fill("Grey Tarn, planned at home")
    phone.sign_in()
    planned = re.compile("Grey Tarn, planned at home")
    expect(page.get_by_role("heading", name=planned)).to_be_visible()
    eventually(page, lambda: [doc["waiting"] for doc in kept(page, "outing") if doc["owner"] != "guest"] == [None])
    laptop: Visit = visits(visited=True)
    laptop.page.goto(laptop.server.url + "/outing")
    laptop.sign_in()
    expect(laptop.page.get_by_role("heading", name=planned)).to_be_visible()


def test_the_chart_is_looked_at_closer(guest: Visit) -> None:
    page = guest.page
    page.goto(guest.server.url + "/outing")
    chart = page.get_by_label("The light over the clock")
    expect(chart.get_by_text("05:00", exact=True)).to_be_visible()
    chart.focus()
    for _ in range(6):
        page.keyboard.press("PageUp")
    # Only a frame that does not fill is worth words.
    expect(page.get_by_text("that fills before turning back")).to_be_hidden()
    page.keyboard.press("+")
    page.keyboard.press("+")
    expect(chart.get_by_text("05:00", exact=True)).to_be_hidden()
    expect(chart.get_by_text("sunrise 06:17")).to_be_visible()
    page.get_by_role("button", name="All", exact=True).click()
    expect(chart.get_by_text("05:00", exact=True)).to_be_visible()


def test_an_outing_from_nothing_to_a_set_bench_takes_six_taps(visits: Any) -> None:
    visit: Visit = visits(visited=True)
    page = visit.page
    page.clock.install(time="2027-04-10T09:00:00Z")
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    in_the_picture(page, "Sea")
    page.goto(visit.server.url + "/outing")
    of_outing(page, "Other outings").get_by_role("button", name="New outing").click()
    dialog = page.get_by_role("dialog")
    # Anywhere in the world by what is pasted, its clock known from where it is.
    place = dialog.get_by_label("Or a place in any writing")
    place.fill("58.052 N 6.798")
    expect(dialog.get_by_text("Only one of the two has its letter.")).to_be_visible()
    place.fill("43.8 N 87.6 E")
    dialog.get_by_role("button", name="Asia/Urumqi").click()
    expect(dialog.get_by_text("43.8° N 87.6° E")).to_be_visible()
    # The place used before is one tap, the next dawn is chosen already; a look is the third.
    dialog.get_by_role("button", name="Vardsund mole, first light").click()
    expect(dialog.get_by_role("button", name="Next dawn Sun 11 Apr, 04:5")).to_be_visible()
    dialog.get_by_role("button", name="mirror").click()
    dialog.get_by_role("button", name="Plan it").click()
    expect(dialog).to_be_hidden()
    chart = page.get_by_label("The light over the clock")
    expect(chart.get_by_text(re.compile("^sunrise 06:"))).to_be_visible()
    chart.click(position={"x": 800, "y": 200})
    ready = page.get_by_role("button", name=re.compile("^Set the bench for 06:"))
    expect(ready).to_be_enabled()
    clock = str(ready.text_content())[-len("06:00") :]
    ready.click()
    # The bench stands in that minute with a forecast, and says so until somebody meters.
    expect(page.get_by_role("heading", name=f"Forecast for {clock}: meter to replace it")).to_be_visible()
    expect(more(page).get_by_text(re.compile("^The reading is a forecast, give or take"))).to_be_visible()
    # The look is given by what the plan turned and put on.
    expect(page.locator(".band-wanted")).to_have_text("mirror")
    expect(page.get_by_role("definition").filter(has_text="smooth as a mirror")).to_be_visible()
    # It is tomorrow's: what was planned for it lends its light to no frame of now, and this is said.
    get_ready(page)
    expect(page.get_by_text("is on another day: its light, place and weather are left out.")).to_be_visible()
    get_ready(page)
    expect(page.get_by_role("heading", name="Ready")).to_be_visible()
    (armed,) = kept(page, "armed")
    assert armed["content"]["plan"]["run"]["expected_sd"] > 0.3
    assert armed["content"]["plan"]["reading"]["metered_at"] is None
    assert armed["content"]["plan"]["run"]["stops_per_minute"] is None
    assert armed["content"]["plan"]["conditions"]["place"] is None
    page.get_by_role("link", name="Bench", exact=True).filter(visible=True).click()
    page.get_by_role("button", name="New reading").click()
    expect(page.get_by_role("heading", name="The meter says")).to_be_visible()
    expect(page.get_by_text("The reading is a forecast")).to_be_hidden()


def test_fourteen_days_stand_side_by_side_and_the_best_is_one_tap(guest: Visit) -> None:
    page = guest.page
    page.goto(guest.server.url + "/outing")
    page.get_by_role("button", name="Which day?").click()
    days = page.locator(".days-list li")
    expect(days).to_have_count(14)
    page.get_by_label("What matters").select_option("low water near sunset")
    expect(page.get_by_role("button", name=re.compile("low water 03:10"))).to_have_count(1)
    page.get_by_role("button", name="Simulated waters").click()
    expect(page.get_by_text("Simulated: a stand-in that ships with Jackstaff")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("low water .* sunset"))).to_have_count(14)
    best = days.first.get_by_role("button")
    expect(best).to_have_attribute("aria-pressed", "true")
    expect(best).to_have_accessible_name(re.compile(r"low water .* (before|after) sunset; sunrise .*; moon \d+ % lit"))
    # Another may be looked at; the best is one tap.
    days.nth(1).get_by_role("button").click()
    expect(best).to_have_attribute("aria-pressed", "false")
    best.click()
    page.get_by_role("button", name=re.compile("^Plan ")).click()
    toast = page.get_by_text(re.compile("^The outing is on "))
    expect(toast).to_be_visible()
    head = page.get_by_text(re.compile("^Sat 17 Apr, thin cloud"))
    expect(head).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(head).to_be_visible()
    # Both ends of the outing by keyboard, and taken back.
    arrive = page.get_by_role("slider", name="Arrive")
    arrive.focus()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("slider", name="Arrive")).to_have_attribute("aria-valuetext", "arrive 04:40")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("slider", name="Arrive")).to_have_attribute("aria-valuetext", "arrive 04:45")


def test_the_outing_is_worked_on_in_its_picture_and_everything_can_be_taken_back(guest: Visit, tmp_path: Any) -> None:
    page = guest.page
    page.goto(guest.server.url + "/outing")
    lane = page.get_by_role("group", name="Cloud along the outing")
    chart = page.get_by_label("The light over the clock")
    expect(chart.get_by_text("sunrise 06:17")).to_be_visible()

    def last_ev() -> float:
        table = of_outing(page, "As a table").locator(".light-table")
        return float(table.locator("tr").last.locator("td").first.inner_text().replace("−", "-"))

    before = last_ev()
    # From half way on it is overcast: by the end there are 1.3 stops less than under thin cloud.
    of_outing(page, "Place, sky, water")
    lane.get_by_role("button", name="04:45 to 08:00: thin cloud").click()
    lane.get_by_role("button", name="Changes at 06:25").click()
    late = lane.get_by_role("button", name="06:25 to 08:00: overcast")
    expect(late).to_be_visible()
    expect(page.get_by_role("button", name="thin cloud, then overcast")).to_be_visible()
    expect(page.locator(".outing-light")).not_to_have_attribute("data-stale", "true")
    assert last_ev() == pytest.approx(before - 1.3, abs=0.11)
    of_outing(page, "Place, sky, water")
    begins = lane.get_by_role("slider", name="When overcast begins")
    begins.press("ArrowRight")
    expect(lane.get_by_role("slider")).to_have_attribute("aria-valuetext", "06:30")
    # The keys stay with it while it moves.
    expect(begins).to_be_focused()
    page.keyboard.press("ArrowRight")
    expect(lane.get_by_role("slider")).to_have_attribute("aria-valuetext", "06:35")
    page.keyboard.press("ArrowLeft")
    expect(lane.get_by_role("slider")).to_have_attribute("aria-valuetext", "06:30")
    lane.get_by_role("button", name="06:30 to 08:00: overcast").click()
    lane.get_by_text("heavy cloud", exact=True).click()
    expect(lane.get_by_role("button", name="06:30 to 08:00: heavy cloud")).to_be_visible()
    lane.get_by_role("button", name="No change here").click()
    expect(lane.get_by_role("slider")).to_have_count(0)
    page.get_by_role("button", name="Undo").last.click()
    expect(lane.get_by_role("slider", name="When heavy cloud begins")).to_be_visible()
    page.reload()
    of_outing(page, "Place, sky, water")
    expect(lane.get_by_role("slider", name="When heavy cloud begins")).to_be_visible()
    # A ridge before the sun, pulled up where the sun's own path is.
    page.get_by_role("button", name="thin cloud, then heavy cloud").click()
    page.get_by_label("The subject is in").select_option(label="the sun")
    ridge = page.get_by_role("slider", name="How high the ridge stands before the sun")
    for _ in range(3):
        ridge.press("PageUp")
    expect(ridge).to_have_attribute("aria-valuetext", "ridge 6.0° high, 1000 m away")
    expect(chart.get_by_text("sun over the ridge").first).to_be_visible()
    page.get_by_role("button", name="Undo").last.click()
    expect(ridge).to_have_attribute("aria-valuetext", "ridge 4.0° high, 1000 m away")
    # Another outing's light behind it.
    of_outing(page, "Other outings").get_by_role("button", name="Copy").click()
    page.get_by_label("Compare with").select_option(label="Vardsund mole, first light")
    expect(chart.locator(".light-behind")).to_have_attribute("d", re.compile("^M"))
    # A waypoint makes an outing, by its own name.
    places = tmp_path / "places.gpx"
    places.write_text(GPX)
    of_outing(page, "Other outings").get_by_role("button", name="New outing").click()
    dialog = page.get_by_role("dialog")
    dialog.locator("input[type=file]").set_input_files(places)
    dialog.get_by_role("button", name="Waypoint 2").click()
    expect(dialog.get_by_text("58.087° N")).to_be_visible()
    dialog.get_by_role("button", name="Plan it").click()
    expect(page.get_by_role("heading", name="Waypoint 2")).to_be_visible()
