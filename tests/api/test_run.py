"""Run over the API: arming, queues, the server's count, stand-ins, and frames that two devices write."""

from __future__ import annotations

import io
import json
import time
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

import numpy as np
import pytest
from django.contrib.auth.models import User
from django.test import Client
from PIL import Image

from jackstaff.standins.camera import GlassOn, brightness, hidden_offset
from jackstaff.standins.meter import SimulatedMeter
from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.forecast import LightQuestion, light_at
from jackstaff_core.sky.made_up import SkyKind, made_up_sky
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_imaging.watched_scene import cells

pytestmark = pytest.mark.django_db
AT = datetime(2027, 4, 17, 4, 30, tzinfo=UTC)
PLATE = {"name": "Slot ND 10", "facts": {"stops": 10.0, "mount": "plate", "gasket": True}, "stops": 10.0}


def call(client: Client, method: str, path: str, body: object = None) -> tuple[int, Any]:
    response = client.generic(method, f"/api/{path}", json.dumps(body), content_type="application/json")
    return response.status_code, response.json() if response.content else None


def test_arming_over_the_api_knows_the_sun() -> None:
    sun = {"latitude": 58.05, "longitude": 6.8, "at": "2027-04-17T05:00:00Z", "focal_mm": 24, "bearing_deg": 85}
    asked = {"seconds": 300, "bulb": True, "glass": [PLATE], "body": {"eyepiece": "optical"}, "sun": sun}
    status, answer = call(Client(), "POST", "run/arm", asked)
    assert status == 200
    assert answer["lines"][0]["code"] == "sun_in_picture"
    assert answer["lines"][0]["severity"] == "harm"
    assert answer["rehearsal"]["iso"] == "4000"
    away = {**asked, "sun": {**sun, "bearing_deg": 265}}
    assert "finder" not in call(Client(), "POST", "run/arm", away)[1]["lines"][0]["text"]
    status, refused = call(Client(), "POST", "run/arm", {**asked, "body": {"eyepiece": "third"}})
    assert (status, refused["errors"][0]["field"]) == (422, "body.eyepiece")


def test_close_tells_both_ends_and_the_track() -> None:
    asked = {
        "needed_seconds": 240, "opened_at": "2027-04-17T19:30:00Z", "now": "2027-04-17T19:32:00Z",
        "stops_per_minute": -0.25, "tracked": True,
    }  # fmt: skip
    status, answer = call(Client(), "POST", "run/close", asked)
    assert status == 200
    assert answer["as_metered_seconds"] == 240
    assert answer["close_after_seconds"] == pytest.approx(409.05, abs=0.01)
    assert len(answer["track"]) == 61
    longer = call(Client(), "POST", "run/close", {**asked, "bias_stops": -1 / 3})[1]
    assert longer["close_after_seconds"] < answer["close_after_seconds"]
    never = call(Client(), "POST", "run/close", {**asked, "stops_per_minute": -0.5})[1]
    assert never["close_after_seconds"] is None
    assert {way["code"] for way in never["ways_out"]} == {"open_up", "raise_iso", "drop_glass", "close_now"}


def test_the_servers_own_count_goes_on_and_says_nothing_of_the_machine() -> None:
    before = call(Client(), "GET", "run/time")[1]
    time.sleep(0.05)
    after = call(Client(), "GET", "run/time")[1]
    assert 0.04 < after["seconds"] - before["seconds"] < 2
    assert after["count"] == before["count"]
    assert len(after["count"]) == 16


@pytest.mark.parametrize(
    ("fault", "bulb", "line"),
    [
        ("none", True, None), ("no_answer", True, "remote"), ("not_bulb", True, "camera"), ("not_bulb", False, None),
        ("drive", True, "camera"), ("electronic_shutter", True, "camera"), ("battery", True, None),
    ],
)  # fmt: skip
def test_the_simulated_trigger_opens_late_or_says_which_line_was_missed(
    fault: str, bulb: bool, line: str | None
) -> None:
    asked = {"device": {"latency_s": 0.3, "fault": fault}, "bulb": bulb, "pressed_at": AT.isoformat()}
    status, answer = call(Client(), "POST", "standins/trigger/open", asked)
    assert status == 200
    assert answer["simulated"] is True
    if line:
        assert answer["at"] is None
        assert answer["failure"]["line"] == line
        assert answer["failure"]["text"].count(".") == 2
    else:
        assert datetime.fromisoformat(answer["at"]) == AT + timedelta(seconds=0.3)


@pytest.mark.parametrize(
    ("device", "asked_after", "closes_after", "by"),
    [
        ({}, 100, 100, "asked"), ({"fault": "battery"}, 100, 70, "battery"), ({"fault": "battery"}, 50, 50, "asked"),
        ({"ceiling_s": 60}, 100, 60, "ceiling"), ({"noise_reduction": True}, 100, 100, "asked"),
    ],
)  # fmt: skip
def test_what_ends_a_simulated_frame(device: dict[str, object], asked_after: int, closes_after: int, by: str) -> None:
    body = {
        "device": device, "opened_at": AT.isoformat(), "planned_seconds": 100,
        "asked_at": (AT + timedelta(seconds=asked_after)).isoformat(),
    }  # fmt: skip
    answer = call(Client(), "POST", "standins/trigger/close", body)[1]
    closed = datetime.fromisoformat(answer["at"])
    assert closed - AT == timedelta(seconds=closes_after)
    assert answer["ended_by"] == by
    busy = datetime.fromisoformat(answer["busy_until"]) - closed
    assert busy == (timedelta(seconds=closes_after) if device.get("noise_reduction") else timedelta(0))
    assert (answer["failure"] is not None) == (by != "asked")


def test_the_simulated_meter_follows_its_sky() -> None:
    place = Place(58.05, 6.8)
    meter = SimulatedMeter(place, Sky.THIN, 3)
    apart = []
    for minutes in range(0, 180, 3):
        at = AT + timedelta(minutes=minutes)
        apart.append(meter.read(at) - light_at(LightQuestion(place, at, at, sky=Sky.THIN), at).ev100)
        assert meter.read(at) == meter.read(at)
    assert max(map(abs, apart)) < 1.2
    assert np.std(apart) > 0.05
    asked = {"latitude": 58.05, "longitude": 6.8, "at": AT.isoformat(), "sky": "thin", "seed": 3}
    assert call(Client(), "POST", "standins/meter", asked)[1] == {"simulated": True, "ev100": meter.read(AT)}


@pytest.mark.parametrize("kind", ["broken_cloud", "dawn"])
def test_the_simulated_phone_sees_the_made_up_sky_as_a_camera_would(kind: str) -> None:
    seen = []
    for second in (0, 200, 200):
        body = {"kind": kind, "second": second, "seed": 3}
        response = Client().post("/api/standins/phone", json.dumps(body), content_type="application/json")
        assert (response.status_code, response["Content-Type"]) == (200, "image/png")
        assert (response["X-Exposure-Seconds"], response["X-Iso"]) == ("0.01", "100.0")
        seen.append(cells(np.asarray(Image.open(io.BytesIO(response.content)))))
    first, second_look, again = seen
    assert second_look == again
    apart = [np.log2(now / then) for then, now in zip(first, second_look, strict=True) if then and now]
    assert np.median(apart) == pytest.approx(made_up_sky(SkyKind(kind), 3).at(200), abs=0.15)
    status, refused = call(Client(), "POST", "standins/phone", {"kind": kind, "second": 99_999})
    assert (status, refused["errors"][0]["field"]) == (422, "second")


def picture(**more: object) -> Image.Image:
    camera = {"focal_mm": 24, "sensor_width_mm": 36, "pitch_um": 4.35, "elevation_deg": 0, "bearing_deg": 270}
    body = {
        "scene": {"camera": camera, "subjects": [{"kind": "sea", "height_m": 0.6}], "wants": [], "seconds": 30},
        "gathered_stops": 0.0, "aperture": "9", "iso": "64", "taken_at": "2027-04-17T04:30:05Z", **more,
    }  # fmt: skip
    response = Client().post("/api/standins/camera/picture", json.dumps(body), content_type="application/json")
    assert response.status_code == 200
    assert response["Content-Type"] == "image/jpeg"
    return Image.open(io.BytesIO(response.content))


def test_the_simulated_camera_hands_over_a_jpeg_as_bright_as_it_came_out() -> None:
    right, bright = picture(), picture(gathered_stops=1.0)
    inner = right.getexif().get_ifd(0x8769)
    assert float(inner[0x829A]) == pytest.approx(30)
    assert float(inner[0x829D]) == pytest.approx(8.98, abs=0.01)
    assert inner[0x9003] == "2027:04:17 04:30:05"

    def level(image: Image.Image) -> float:
        codes = np.asarray(image.convert("RGB"), dtype=np.float64)[-200:, 300:700] / 255
        return float(np.where(codes <= 0.04045, codes / 12.92, ((codes + 0.055) / 1.055) ** 2.4).mean())

    assert np.log2(level(bright) / level(right)) == pytest.approx(1.0, abs=0.08)


def test_its_glass_hides_what_it_really_measures() -> None:
    glass = GlassOn("Slot ND 10", 10.0)
    hidden = hidden_offset("Slot ND 10", 7)
    assert hidden == hidden_offset("Slot ND 10", 7) != hidden_offset("Slot ND 4", 7)
    assert brightness(0.2, (glass,), 7) == pytest.approx(0.2 - hidden)
    # Once measured it hides nothing more.
    assert brightness(0.0, (GlassOn("Slot ND 10", 10.0, hidden),), 7) == pytest.approx(0)
    drawn = np.std([hidden_offset(f"filters {each}", 1) for each in range(400)])
    assert drawn == pytest.approx(0.3, abs=0.04)


def frame(**more: object) -> dict[str, Any]:
    return {
        "id": str(uuid4()), "state": "open", "opened_at": "2027-04-17T04:30:00Z", "closed_at": None,
        "closed_by": None, "note": "", "reading": {"shutter": "1/40", "aperture": "9", "iso": "64", "step": "third"},
        "settings": {"aperture": "9", "iso": "64"}, "stack": [], "scale": "exact", "dial_limit": 30,
        "answer": {"seconds": 200, "set_seconds": 200, "base_seconds": 0.025, "sure_within_stops": 0.4, "steps": []},
        "run": {
            "metered_seconds": 210, "stops_per_minute": 0.05, "speed": 2, "rereads": [{"at_seconds": 9, "stops": 0}],
        },
        "events": [event("opened", 0)], **more,
    }  # fmt: skip


def event(kind: str, after: int, seconds: float | None = None) -> dict[str, Any]:
    at = datetime(2027, 4, 17, 4, 30, tzinfo=UTC) + timedelta(seconds=after)
    return {"id": str(uuid4()), "at": at.isoformat().replace("+00:00", "Z"), "kind": kind, "seconds": seconds}


def test_a_device_that_has_not_heard_of_the_end_does_not_open_a_frame_again() -> None:
    client = Client()
    client.force_login(User.objects.create(username="edda"))
    running = frame()
    address = f"frames/{running['id']}"
    status, kept = call(client, "PUT", address, running)
    assert status == 200
    assert kept["run"]["rereads"] == [{"at_seconds": 9.0, "stops": 0.0, "believed": None}]
    closed = {
        **running, "state": "closed", "closed_at": "2027-04-17T04:31:35Z", "closed_by": "hand",
        "events": [*running["events"], event("aimed", 95, 180.0), event("closed", 95)],
    }  # fmt: skip
    kept = call(client, "PUT", address, closed)[1]
    # Practice at twice the speed: 95 s on the wall are 190 s of exposure, against the 180 s the light asked for.
    assert kept["actual_seconds"] == pytest.approx(190)
    assert kept["error"]["late_seconds"] == pytest.approx(10)
    # The phone, out of signal since, writes its open copy with a reading of its own.
    late = {**running, "events": [*running["events"], event("reread", 40, -0.3)]}
    kept = call(client, "PUT", address, late)[1]
    assert kept["state"] == "closed"
    assert {each["kind"] for each in kept["events"]} == {"opened", "aimed", "closed", "reread"}
    # Who knows of the end may take it back.
    back = {**running, "events": [*closed["events"], event("taken_back", 97)]}
    assert call(client, "PUT", address, back)[1]["state"] == "open"
    # A frame of the time before runs were kept has none.
    old = frame(run=None)
    assert call(client, "PUT", f"frames/{old['id']}", old)[1]["run"] is None
