"""Outings over the API: kept and fought over, files in and out, damaged ones refused in words."""

from __future__ import annotations

import json
import random
import re
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from typing import Any
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from django.test import Client
from hypothesis import given
from hypothesis import strategies as st

from jackstaff.demo.load import load
from jackstaff.files import calendar as agenda
from jackstaff.files import gpx
from jackstaff.records.models import Outing
from jackstaff.standins.coast import SimulatedCoast
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.words.refusal import Refusal

pytestmark = pytest.mark.django_db

GPX = """<?xml version="1.0" encoding="UTF-8"?>
<gpx version="1.1" creator="somebody" xmlns="http://www.topografix.com/GPX/1/1">
  <wpt lat="58.052" lon="6.798"><name>Vardsund mole</name></wpt>
  <wpt lat="58.087" lon="6.852"></wpt>
  <rte><name>Way in</name><rtept lat="58.05" lon="6.79"><name>Gate</name></rtept></rte>
  <trk><name>Walk</name><trkseg><trkpt lat="58.05" lon="6.79"/><trkpt lat="58.06" lon="6.80"/></trkseg></trk>
</gpx>"""
ENTRIES = [
    agenda.Entry(
        "Outing: Vardsund mole",
        datetime(2027, 4, 17, 2, 45, tzinfo=UTC),
        datetime(2027, 4, 17, 6, 0, tzinfo=UTC),
        "A reminder; not a guarantee, and commas, too.",
        58.052,
        6.798,
    ),
    agenda.Entry(
        "Leave by now", datetime(2027, 4, 17, 4, 35, tzinfo=UTC), datetime(2027, 4, 17, 4, 35, tzinfo=UTC),
        alarm_minutes=10,
    ),
]  # fmt: skip
ICS = agenda.write("Vardsund", ENTRIES, datetime(2027, 4, 1, tzinfo=UTC)).decode()


def call(client: Client, method: str, path: str, body: object = None) -> tuple[int, Any]:
    response = client.generic(method, f"/api/{path}", json.dumps(body), content_type="application/json")
    is_json = response.content and response.headers.get("Content-Type", "").startswith("application/json")
    return response.status_code, response.json() if is_json else response.content.decode()


def signed(name: str) -> Client:
    client = Client()
    client.force_login(User.objects.get_or_create(username=name)[0])
    return client


def plan(**more: object) -> dict[str, Any]:
    return {
        "id": str(uuid4()), "name": "Grey Tarn", "latitude": 58.1, "longitude": 6.78, "zone": "Europe/Oslo",
        "date": "2027-09-26", "arrive": "06:30", "turn_back": "10:00", "sky": "clear", "scene": "sun_lit",
        "ridge": {"height_m": 180, "distance_m": 1100}, "readings": [{"at": "2027-09-26T05:00:00Z", "ev100": 3.5}],
        "waters": [], "floods_at_m": None, "walk_minutes": 10, "margin_minutes": 15,
        "weather": {"celsius": 3, "source": "simulated"}, "hazards": ["mud"], "packed": ["body"], "archived": False,
        "changed_at": "2026-09-20T10:00:00Z", **more,
    }  # fmt: skip


def test_an_outing_is_kept_once_the_last_change_wins_and_others_do_not_see_it() -> None:
    mine, other = signed("edda"), signed("runa")
    outing = plan()
    address = f"outings/{outing['id']}"
    assert call(mine, "PUT", address, outing)[0] == 200
    assert call(mine, "PUT", address, outing)[0] == 200
    assert Outing.objects.count() == 1
    later = {**outing, "name": "Grey Tarn, later", "changed_at": "2026-09-20T11:00:00Z"}
    assert call(mine, "PUT", address, later)[1]["name"] == "Grey Tarn, later"
    # An older change comes late, from a phone that had no signal.
    assert call(mine, "PUT", address, outing)[1]["name"] == "Grey Tarn, later"
    assert [found["name"] for found in call(mine, "GET", "outings")[1]["outings"]] == ["Grey Tarn, later"]
    assert call(other, "GET", "outings")[1] == {"outings": []}
    assert call(other, "DELETE", address)[0] == 404
    assert call(other, "PUT", address, {**outing, "name": "Theirs"})[0] == 200
    assert [found["name"] for found in call(mine, "GET", "outings")[1]["outings"]] == ["Grey Tarn, later"]
    assert call(Client(), "GET", "outings")[0] == 401
    assert call(mine, "DELETE", address)[0] == 204
    assert [row.account.username for row in Outing.objects.all()] == ["runa"]


def test_a_clock_that_ran_far_ahead_freezes_nothing() -> None:
    mine, ahead = signed("edda"), plan(changed_at="2199-01-01T00:00:00Z")
    assert call(mine, "PUT", f"outings/{ahead['id']}", ahead)[1]["changed_at"] == ahead["changed_at"]
    now = {**ahead, "name": "Grey Tarn, now", "changed_at": datetime.now(UTC).isoformat()}
    assert call(mine, "PUT", f"outings/{ahead['id']}", now)[1]["name"] == "Grey Tarn, now"


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"zone": "Vardsund/Mole"}, "zone"), ({"hazards": ["dragons"]}, "hazards.0"), ({"latitude": 91}, "latitude"),
        ({"arrive": "25:00"}, "arrive"), ({"id": str(uuid4())}, "id"), ({"ridge": {"height_m": 3}}, "distance_m"),
        ({"weather": {"celsius": 99, "source": "own"}}, "celsius"), ({"date": "2027-02-30"}, "date"),
        ({"extra": 1}, "extra"),
    ],
)  # fmt: skip
def test_an_unsound_outing_is_refused_whole(change: dict[str, object], field: str) -> None:
    outing = plan()
    status, answer = call(signed("edda"), "PUT", f"outings/{outing['id']}", {**outing, **change})
    assert status == 422
    assert any(field in fault["field"] for fault in answer["errors"])
    assert Outing.objects.count() == 0


def test_demo_outings_are_sound_and_come_once() -> None:
    account = load()
    load()
    client = Client()
    client.force_login(account)
    outings = call(client, "GET", "outings")[1]["outings"]
    assert len(outings) == 4
    for outing in outings:
        assert call(client, "PUT", f"outings/{outing['id']}", outing) == (200, outing)


def test_places_come_out_of_a_gpx_file_and_go_into_one() -> None:
    places = call(Client(), "POST", "outing/gpx/read", {"text": GPX})[1]["places"]
    assert [(place["name"], place["sort"]) for place in places] == [
        ("Vardsund mole", "waypoint"), ("Waypoint 2", "waypoint"), ("Gate", "route"),
        ("Walk, start", "track"), ("Walk, end", "track"),
    ]  # fmt: skip
    status, text = call(Client(), "POST", "outing/gpx", {"places": places})
    assert status == 200
    again = call(Client(), "POST", "outing/gpx/read", {"text": text})[1]["places"]
    assert again == [{**place, "sort": "waypoint"} for place in places]


def uids(text: str) -> list[str]:
    return [line for line in text.splitlines() if line.startswith("UID:")]


def test_a_plan_goes_into_a_calendar_and_comes_back() -> None:
    body: dict[str, Any] = {
        "name": "Vardsund",
        "entries": [
            {"title": each.title, "start": each.start.isoformat(), "end": each.end.isoformat(), "note": each.note,
             "latitude": each.latitude, "longitude": each.longitude, "alarm_minutes": each.alarm_minutes}
            for each in ENTRIES
        ],
    }  # fmt: skip
    status, text = call(Client(), "POST", "outing/calendar", body)
    assert status == 200
    assert "TRIGGER:-PT10M" in text
    assert text.count("BEGIN:VEVENT") == 2
    entries = call(Client(), "POST", "outing/calendar/read", {"text": text})[1]["entries"]
    assert [(each["title"], each["start"], each["latitude"]) for each in entries] == [
        ("Outing: Vardsund mole", "2027-04-17T02:45:00Z", 58.052),
        ("Leave by now", "2027-04-17T04:35:00Z", None),
    ]
    # The same entry keeps its identity, so that a second import moves it instead of doubling it.
    assert uids(text) == uids(ICS)
    # Two entries of one title are two, at whatever time they stand.
    twice = [replace(ENTRIES[0], start=ENTRIES[1].start), ENTRIES[0]]
    first, second = uids(agenda.write("Vardsund", twice, datetime(2027, 4, 1, tzinfo=UTC)).decode())
    assert first == uids(ICS)[0] != second
    status, answer = call(
        Client(),
        "POST",
        "outing/calendar",
        {"name": "x", "entries": [{**body["entries"][0], "end": "2027-04-16T00:00:00Z"}]},
    )
    assert (status, answer["errors"][0]["field"]) == (422, "entries.0.end")
    # A name is a line in every file it goes into.
    for name, title, field in (("a\nb", "x", "name"), ("x", "a\rb", "entries.0.title"), ("x\x00", "x", "name")):
        asked = {"name": name, "entries": [{**body["entries"][0], "title": title}]}
        status, answer = call(Client(), "POST", "outing/calendar", asked)
        assert (status, answer["errors"][0]["field"]) == (422, field)


ZONE = """BEGIN:VCALENDAR
BEGIN:VTIMEZONE
TZID:Vardsund
BEGIN:STANDARD
DTSTART:19701025T030000
TZOFFSETFROM:+0300
TZOFFSETTO:+0200
RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU
END:STANDARD
BEGIN:DAYLIGHT
DTSTART:19700329T020000
TZOFFSETFROM:+0200
TZOFFSETTO:+0300
RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU
END:DAYLIGHT
END:VTIMEZONE
BEGIN:VEVENT
SUMMARY:Dawn
DTSTART;TZID=Vardsund:20270417T054500
END:VEVENT
END:VCALENDAR
"""
FLOATING = ICS.replace("DTSTART:20270417T024500Z", "DTSTART:20270417T044500")


@pytest.mark.parametrize(
    ("text", "zone", "start"),
    [
        (ICS, "Europe/Oslo", "2027-04-17T02:45:00Z"),
        (FLOATING, "Europe/Oslo", "2027-04-17T02:45:00Z"),
        (FLOATING, "UTC", "2027-04-17T04:45:00Z"),
        (ZONE, "UTC", "2027-04-17T02:45:00Z"),
        (ZONE.replace("DTSTART;TZID=Vardsund:20270417T054500", "DTSTART;VALUE=DATE:20270417"), "Europe/Oslo",
         "2027-04-16T22:00:00Z"),
    ],
)  # fmt: skip
def test_calendar_times_are_by_their_own_clocks_or_the_outing_s(text: str, zone: str, start: str) -> None:
    found = call(Client(), "POST", "outing/calendar/read", {"text": text, "zone": zone})[1]["entries"]
    assert next(entry["start"] for entry in found if entry["title"] in {"Outing: Vardsund mole", "Dawn"}) == start


@pytest.mark.parametrize(
    "rule",
    [
        "FREQ=SECONDLY", "FREQ=YEARLY;BYSECOND=1,2", "FREQ=YEARLY;\n BYHOUR=1,2,3", "BYMONTH=3", "",
        "FREQ=YEARLY;BYMONTH=1,2,3,4,5,6,7,8,9,10,11,12", "FREQ=YEARLY;INTERVAL=0", "freq=daily",
    ],
)  # fmt: skip
def test_clocks_that_change_more_than_once_a_year_are_not_counted_out(rule: str) -> None:
    text = ZONE.replace("FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU", rule)
    status, answer = call(Client(), "POST", "outing/calendar/read", {"text": text})
    assert (status, "clocks" in answer["errors"][0]["problem"]) == (422, True)


BOMB = (
    '<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "{}">]>'
    '<gpx version="1.1"><wpt lat="1" lon="2"><name>&b;</name></wpt></gpx>'
)
GPX_FAULTS = [
    "", " ", "not xml", "<gpx", "<kml></kml>", "<gpx></gpx>", "\x00\x01\x02", '{"type": "FeatureCollection"}', ICS,
    BOMB.format("&a;" * 10),
    '<!DOCTYPE g [<!ENTITY x SYSTEM "file:///etc/hostname">]><gpx><wpt lat="1" lon="2"><name>&x;</name></wpt></gpx>',
    '<!DOCTYPE g SYSTEM "http://example.org/x.dtd"><gpx><wpt lat="1" lon="2"/></gpx>',
    "<gpx>" + '<wpt lat="1" lon="2"/>' * 501 + "</gpx>",
    *(GPX.replace('lat="58.052"', f'lat="{bad}"') for bad in ("91", "-91", "nan", "inf", "", "x", "58,052", "1e9")),
    *(GPX.replace('lon="6.798"', bad) for bad in ('lon="181"', 'lon="-1e3"', 'lon=""', "", 'lon="6.798" lon="7"')),
    *(GPX.replace(old, new, 1) for old, new in (
        ("</gpx>", ""), ("<wpt", "<wp"), ("</name>", ""), ('version="1.1"', "version=1.1"), ("<rte>", "<rte"),
        ("</trkseg>", "</trk>"), ("Vardsund", "Vard&sund"), ("Vardsund", "Vard<sund"), ("<gpx", "<GPX"),
    )),
]  # fmt: skip
ICS_FAULTS = [
    "", " ", "not a calendar", GPX, "BEGIN:VCALENDAR", "BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n", "\x00\x01",
    "BEGIN:VEVENT\r\nEND:VEVENT\r\n",
    *(ICS.replace(old, new, 1) for old, new in (
        ("DTSTART:20270417T024500Z", "DTSTART:tomorrow"), ("DTSTART:20270417T024500Z", "DTSTART:20271317T024500Z"),
        ("DTSTART:20270417T024500Z\r\n", ""), ("DTSTART:20270417T024500Z", "DTSTART:99990417T024500Z"),
        ("DTEND:20270417T060000Z", "DTEND:20270416T060000Z"), ("DTEND:20270417T060000Z", "DTEND:20290416T060000Z"),
        ("DTEND:20270417T060000Z", "DTEND:six"), ("GEO:58.052;6.798", "GEO:91;6.798"),
        ("GEO:58.052;6.798", "GEO:north"),
        ("BEGIN:VEVENT", "BEGIN VEVENT"), ("END:VCALENDAR", ""), ("END:VEVENT", "END:VALARM"),
        ("BEGIN:VCALENDAR", "BEGIN:VCARD"), ("DTSTART:", "DTSTART"),
    )),
    "BEGIN:VCALENDAR\r\n" + "BEGIN:VEVENT\r\nDTSTART:20270417T024500Z\r\nEND:VEVENT\r\n" * 501 + "END:VCALENDAR\r\n",
]  # fmt: skip


def cut(text: str, count: int) -> list[str]:
    """The file broken off at ``count`` places: no whole file is among them."""
    dice = random.Random(count)
    whole = len(text.rstrip())
    return [text[: dice.randrange(1, whole - len("END:VCALENDAR"))] for _ in range(count)]


def test_a_hundred_damaged_files_are_refused_in_words() -> None:
    tried = 0
    for path, faults, sound in (("gpx", GPX_FAULTS, GPX), ("calendar", ICS_FAULTS, ICS)):
        assert call(Client(), "POST", f"outing/{path}/read", {"text": sound})[0] == 200
        for text in [*faults, *cut(sound, 30)]:
            status, answer = call(Client(), "POST", f"outing/{path}/read", {"text": text})
            assert status == 422, text[:200]
            for fault in answer["errors"]:
                assert fault["problem"].endswith(".")
                assert fault["instead"].endswith((".", ")."))
                assert "Traceback" not in fault["problem"]
            tried += 1
    assert tried >= 100
    assert Outing.objects.count() == 0


@given(at=st.integers(0, len(GPX) - 1), byte=st.characters(codec="utf-8"), which=st.sampled_from(["gpx", "ics"]))
def test_any_changed_letter_is_read_or_refused_never_a_crash(at: int, byte: str, which: str) -> None:
    sound = GPX if which == "gpx" else ICS
    text = sound[: at % len(sound)] + byte + sound[at % len(sound) + 1 :]
    try:
        if which == "gpx":
            assert all(-90 <= spot.latitude <= 90 and spot.name for spot in gpx.read(text))
        else:
            assert all(entry.start <= entry.end and entry.title for entry in agenda.read(text))
    except Refusal as refusal:
        said = (refusal.problem, refusal.instead)
        assert all(said)


# Whatever a person may type or a device may send: what is taken and written has to come back.
WORDS = st.text(st.characters(exclude_categories=["Cs"]), min_size=1, max_size=70) | st.sampled_from(
    ["a,b;c", "line\\nbreak", "BEGIN:VEVENT", "]]>", "<&>", "\u2028x", "a\x85b", "\ufffe", '"', " "]
)
DEGREES = st.floats(-90, 90) | st.sampled_from([-0.0, 1e-7, 1e-300, 89.99999999999999])
INSTANTS = st.floats(-80 * 366, 180 * 366).map(lambda days: datetime(1970, 1, 1, tzinfo=UTC) + timedelta(days))
PLACES = st.lists(
    st.fixed_dictionaries({"name": WORDS, "latitude": DEGREES, "longitude": DEGREES}), min_size=1, max_size=4
)
TO_THE_HUNDREDTH_OF_A_MILLIMETRE = 5.1e-11


def to_the_second(written: str) -> datetime:
    return datetime.fromisoformat(written).replace(microsecond=0)


@st.composite
def entries(draw: Any) -> dict[str, Any]:
    start = draw(INSTANTS)
    end = start + draw(st.timedeltas(timedelta(days=-1), timedelta(days=9)))
    place = draw(st.none() | st.tuples(DEGREES, DEGREES))
    return {
        "title": draw(WORDS), "start": start.isoformat(), "end": end.isoformat(), "note": draw(WORDS),
        "latitude": place and place[0], "longitude": place and place[1],
        "alarm_minutes": draw(st.none() | st.integers(0, 1440)),
    }  # fmt: skip


@given(places=PLACES)
def test_places_that_are_written_are_read_back(places: list[dict[str, Any]]) -> None:
    status, text = call(Client(), "POST", "outing/gpx", {"places": places})
    assert status in {200, 422}
    if status == 422:
        return
    status, back = call(Client(), "POST", "outing/gpx/read", {"text": text})
    assert status == 200, back
    for place, (sent, got) in enumerate(zip(places, back["places"], strict=True), 1):
        assert got["name"] == (" ".join(re.split(r"[\s\ufffe\uffff]+", sent["name"])).strip() or f"Waypoint {place}")
        for field in ("latitude", "longitude"):
            assert got[field] == pytest.approx(sent[field], abs=TO_THE_HUNDREDTH_OF_A_MILLIMETRE)


@given(name=WORDS, sent=st.lists(entries(), min_size=1, max_size=3))
def test_entries_that_are_written_are_read_back(name: str, sent: list[dict[str, Any]]) -> None:
    status, text = call(Client(), "POST", "outing/calendar", {"name": name, "entries": sent})
    assert status in {200, 422}
    if status == 422:
        return
    status, back = call(Client(), "POST", "outing/calendar/read", {"text": text})
    assert status == 200, back
    counted = sorted(
        enumerate(sent, 1), key=lambda each: datetime.fromisoformat(each[1]["start"]).replace(microsecond=0)
    )
    for (number, one), got in zip(counted, back["entries"], strict=True):
        assert got["title"] == (" ".join(one["title"].split()) or f"Entry {number}")
        assert got["note"].splitlines() == one["note"].splitlines()
        for field in ("start", "end"):
            assert to_the_second(got[field]) == to_the_second(one[field])
        for field in ("latitude", "longitude"):
            assert got[field] == (one[field] if one[field] is None else pytest.approx(one[field], abs=1e-6))


def test_the_simulated_feed_says_so_repeats_itself_and_makes_a_tide() -> None:
    asked = {"latitude": 58.05, "longitude": 6.8, "from": "2027-04-17T02:45:00Z", "to": "2027-04-17T06:00:00Z"}
    status, answer = call(Client(), "POST", "outing/feed", asked)
    assert status == 200
    assert answer["simulated"] is True
    assert "simulated" in answer["source"].lower()
    assert call(Client(), "POST", "outing/feed", asked)[1] == answer
    assert 3 <= len(answer["waters"]) <= 5
    start = datetime(2027, 4, 1, tzinfo=UTC)
    waters = SimulatedCoast().waters(Place(58.05, 6.8), start, start + timedelta(days=7))
    highs = [each.height_m > other.height_m for each, other in pairwise(waters)]
    assert all(each != other for each, other in pairwise(highs))
    gaps = [(other.at - each.at).total_seconds() / 3600 for each, other in pairwise(waters)]
    assert all(5 < gap < 7.5 for gap in gaps)
    assert call(Client(), "POST", "outing/feed", {**asked, "to": "2027-06-17T06:00:00Z"})[0] == 422
    # What the feed says is a tide that the core takes.
    tide = {"waters": answer["waters"], "at": "2027-04-17T04:00:00Z", "floods_at_m": 1.2}
    assert call(Client(), "POST", "outing/tide", tide)[0] == 200


def test_the_outing_answers_for_the_bench() -> None:
    place = {"latitude": 58.05, "longitude": 6.8}
    reading = {"shutter": "1/4", "aperture": "8", "iso": "100"}
    status, found = call(
        Client(), "POST", "outing/plausible", {**place, "at": "2027-04-17T04:20:00Z", "reading": reading}
    )
    assert status == 200
    assert found["from_seconds"] < found["to_seconds"]
    assert found["stops_per_minute"] > 0
    assert found["rate_sd"] > 0
    inside = found["from_seconds"] < 0.25 < found["to_seconds"]
    assert inside == (abs(found["ev100"] - found["forecast_ev100"]) < 2 * found["sd_stops"])
    status, sky = call(Client(), "POST", "outing/sky", {"sky": "full_sun", "reading": reading})
    assert (status, sky["advice"]["code"]) == (200, "too_dark")
    period = {**place, "from": "2027-04-17T03:00:00Z", "to": "2027-04-17T06:00:00Z"}
    status, fills = call(Client(), "POST", "outing/fillable", period)
    assert (status, len(fills["longest_seconds"])) == (200, 181)
    status, wait = call(Client(), "POST", "outing/wait", {**period, "wanted": reading})
    assert status == 200
    assert wait["at"] is not None
    assert call(Client(), "POST", "outing/wait", {**period, "wanted": reading, "wanted_ev100": 3})[0] == 422
    assert call(Client(), "POST", "outing/wait", period)[0] == 422
    status, lines = call(Client(), "POST", "outing/pack", {"glass": ["Slot ND 10"], "hazards": ["tide"]})
    assert status == 200
    assert {"glass_0", "tide_table", "boots"} <= {line["code"] for line in lines["lines"]}
    assert call(Client(), "POST", "outing/pack", {"hazards": ["dragons"]})[0] == 422
    assert {hazard["code"] for hazard in call(Client(), "GET", "outing/hazards")[1]} >= {"tide", "lightning", "alone"}
