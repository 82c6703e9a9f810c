"""Light, outing and closing over the API: fixed fields, time zones, refusals, nothing kept."""

from __future__ import annotations

import json
from datetime import date, datetime, time
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from django.test import Client

from jackstaff.demo.outings import mole
from jackstaff_core.gear.starter import DEMO_LIGHT_AT, DEMO_READING
from jackstaff_core.questions import ask

pytestmark = pytest.mark.django_db
PLACE = {"latitude": 58.05, "longitude": 6.8}
DAWN: dict[str, Any] = {**PLACE, "from": "2027-04-17T03:00:00Z", "to": "2027-04-17T06:00:00Z", "step_seconds": 600}


def post(path: str, body: object) -> tuple[int, Any]:
    response = Client().post(f"/api/{path}", json.dumps(body), content_type="application/json")
    return response.status_code, response.json()


def test_light_has_its_fixed_fields(django_assert_num_queries: Any) -> None:
    with django_assert_num_queries(0):
        status, answer = post("light", {**DAWN, "readings": [{"at": "2027-04-17T04:10:00Z", "ev100": 6.0}]})
    assert status == 200
    assert len(answer["points"]) == 19
    point = answer["points"][7]
    assert point.keys() == {"at", "altitude_deg", "azimuth_deg", "lux", "ev100", "sd_stops", "stops_per_minute"}
    assert point["at"] == "2027-04-17T04:10:00Z"
    assert point["ev100"] == pytest.approx(6.0, abs=0.2)
    assert answer["readings"] == [{"at": "2027-04-17T04:10:00Z", "status": "ok"}]
    at = {event["name"]: event["at"] for event in answer["events"]}
    assert at["sunset"] is None
    assert at["sunrise"].startswith("2027-04-17T04:")
    # The same instants with an offset are the same instants.
    local = {**DAWN, "from": "2027-04-17T05:00:00+02:00", "to": "2027-04-17T08:00:00+02:00"}
    assert post("light", local)[1]["events"] == answer["events"]


def test_waiting_and_swapping() -> None:
    wanted = post("light", DAWN)[1]["points"][9]["ev100"]
    found = post("outing/wait", {**DAWN, "step_seconds": 60, "wanted_ev100": wanted})[1]
    assert found["at"].startswith("2027-04-17T04:3") or found["at"].startswith("2027-04-17T04:29")
    assert found["stops_to_go"] > 3
    question = {
        **DAWN, "step_seconds": 120, "from_seconds": 20.0, "to_seconds": 60.0, "slots": 2,
        "glass": [{"id": "six", "kind": "solid", "stops": 6.0}, {"id": "three", "kind": "solid", "stops": 3.0}],
        "apertures": ["5.6", "16"], "isos": ["100"],
    }  # fmt: skip
    status, plan = post("outing/swaps", question)
    assert status == 200
    assert plan["changes"] >= 1
    assert {each["aperture"] for each in plan["stretches"] if each["glass"]} <= {
        "5.6", "6.3", "7.1", "8", "9", "10", "11", "13", "14", "16",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("latitude", "longitude", "zones"),
    [
        (58.052, 6.798, ["Europe/Oslo"]),
        (43.8, 87.6, ["Asia/Shanghai", "Asia/Urumqi"]),
        (0.0, -170.0, ["Etc/GMT+11"]),
    ],
)
def test_a_place_has_its_zone_and_two_where_only_a_person_knows(
    latitude: float, longitude: float, zones: list[str]
) -> None:
    assert post("outing/zone", {"latitude": latitude, "longitude": longitude}) == (200, {"zones": zones})
    assert post("outing/zone", {"latitude": 91, "longitude": 0})[1]["errors"][0]["field"] == "latitude"


def test_tide_budget_and_plausibility() -> None:
    waters = [{"at": "2027-04-17T03:00:00Z", "height_m": 0.4}, {"at": "2027-04-17T09:30:00Z", "height_m": 3.1}]
    tide = {"waters": waters, "at": "2027-04-17T04:00:00Z", "floods_at_m": 1.75, "walk_minutes": 20.0}
    status, answer = post("outing/tide", {**tide, "marks": ["2027-04-17T06:15:00Z", "2027-04-18T06:15:00Z"]})
    assert status == 200
    assert answer["height_m"] == pytest.approx(0.554634, rel=1e-5)
    assert answer["heights"] == [pytest.approx(1.75), None]
    assert answer["leave_by"] < answer["floods_at"] < answer["known_until"]
    frames = post("outing/budget", {"seconds": 240, "available_seconds": 3600, "noise_reduction": True})[1]
    assert (frames["frames"], frames["ends_by"]) == (7, "time")
    bright = {**PLACE, "at": "2027-04-17T02:30:00Z", "reading": {"shutter": "1/500", "aperture": "8", "iso": "100"}}
    assert post("outing/plausible", bright)[1]["advice"]["code"] == "too_bright"
    noon = {**bright, "at": "2027-04-17T11:30:00Z"}
    assert post("outing/plausible", noon)[1]["advice"] is None


def test_close_has_its_fixed_fields() -> None:
    question = {
        "needed_seconds": 240, "opened_at": "2027-04-17T04:00:00Z", "now": "2027-04-17T04:02:00+00:00",
        "stops_per_minute": -0.1,
    }  # fmt: skip
    status, answer = post("run/close", question)
    assert status == 200
    assert answer["close_after_seconds"] == pytest.approx(281.069, rel=1e-5)
    assert answer["gathered"] == pytest.approx(0.4666, abs=1e-3)
    assert answer["largest_reachable_seconds"] == pytest.approx(865.617, rel=1e-5)
    assert answer["error_if_closed_as_metered_stops"] == pytest.approx(-0.195382, rel=1e-4)
    never = post("run/close", {**question, "needed_seconds": 480, "stops_per_minute": -0.2, "delay_seconds": 120})[1]
    assert (never["close_after_seconds"], never["reaches"]) == (None, False)
    assert never["advice"][0]["severity"] == "harm"
    film = post("run/close", {**question, "needed_seconds": 60, "film": {"law": "power", "p": 1.3}})[1]
    assert film["close_after_seconds"] == pytest.approx(244.919, rel=1e-4)
    steady = post("run/close", {**question, "stops_per_minute": 0})[1]
    assert (steady["largest_reachable_seconds"], steady["close_after_seconds"]) == (None, 240)


@pytest.mark.parametrize(
    ("path", "body", "field"),
    [
        ("light", {**DAWN, "latitude": 99}, "latitude"),
        ("light", {**DAWN, "to": "2027-04-16T06:00:00Z"}, "to"),
        ("light", {**DAWN, "to": "2027-04-30T06:00:00Z"}, "to"),
        ("light", {**DAWN, "step_seconds": 1}, "step_seconds"),
        ("light", {**DAWN, "from": "2027-04-17T03:00:00"}, "from"),
        ("light", {**DAWN, "sky": "pink"}, "sky"),
        ("outing/wait", {**DAWN, "wanted_ev100": 99}, "wanted_ev100"),
        ("outing/tide", {"waters": [], "at": "2027-04-17T03:00:00Z"}, "waters"),
        ("run/close", {"needed_seconds": 10, "opened_at": "yesterday", "now": "2027-04-17T03:00:00Z"}, "opened_at"),
    ],
)
def test_bad_light_is_refused_in_words(path: str, body: dict[str, Any], field: str) -> None:
    status, answer = post(path, body)
    assert status == 422
    assert field in answer["errors"][0]["field"]
    assert answer["errors"][0]["instead"].endswith(".")


def test_the_demo_s_bench_is_what_its_own_outing_gives_at_its_minute() -> None:
    """No demo opens with a caution about its own reading, and its filter gives the look it is aimed for."""
    outing = mole()
    at = datetime.combine(
        date.fromisoformat(outing["date"]), time.fromisoformat(DEMO_LIGHT_AT), ZoneInfo("Europe/Oslo")
    )
    shutter, aperture, iso = DEMO_READING
    asked = {
        **{name: outing[name] for name in ("latitude", "longitude", "sky", "readings")},
        "at": at.isoformat(),
        "reading": {"shutter": shutter, "aperture": aperture, "iso": iso},
    }
    found = ask("outing/plausible", asked)
    assert found["advice"] is None
    assert abs(found["ev100"] - found["forecast_ev100"]) < 0.2
    assert found["stops_per_minute"] > 0.05
