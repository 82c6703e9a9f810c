"""Looks over the API: the fixed fields, the drawing, and refusals in words."""

from __future__ import annotations

import io
import json
from typing import Any

import pytest
from django.test import Client
from PIL import Image

pytestmark = pytest.mark.django_db

SCENE: dict[str, Any] = {
    "camera": {"focal_mm": 24, "sensor_width_mm": 36, "pitch_um": 4.35, "elevation_deg": 20, "bearing_deg": 90},
    "subjects": [
        {"kind": "sea", "id": "water", "height_m": 0.64},
        {"kind": "cloud", "height_m": 1000, "wind_m_s": 8, "wind_from_deg": 0},
        {"kind": "people", "standing": 5, "stay_s": 60},
        {"kind": "leaves", "class": "fresh", "distance_m": 3},
    ],
}


def post(path: str, body: object) -> tuple[int, Any]:
    response = Client().post(f"/api/{path}", json.dumps(body), content_type="application/json")
    return response.status_code, response.json()


def test_windows_aim_and_conflict_have_their_fixed_fields(django_assert_num_queries: Any) -> None:
    wants = [{"kind": "sea", "look": "mirror"}, {"kind": "people", "look": "gone"}]
    # Nobody stands about: those would have to go first.
    passing = [{**each, "standing": 0} if each["kind"] == "people" else each for each in SCENE["subjects"]]
    scene = {**SCENE, "subjects": passing}
    with django_assert_num_queries(0):
        status, answer = post("looks", {**scene, "wants": wants})
    assert status == 200
    veil = next(window for window in answer["windows"] if (window["kind"], window["look"]) == ("sea", "veil"))
    assert (veil["id"], veil["status"]) == ("water", "class")
    assert [veil["from_seconds"], veil["to_seconds"]] == pytest.approx([2.0, 20.0])
    assert [answer["aim"]["from_seconds"], answer["aim"]["to_seconds"]] == pytest.approx([20.0, 120.0])
    assert answer["conflict"] is None
    assert all(remark["text"] and remark["severity"] for remark in answer["advice"])
    apart = post("looks", {**scene, "wants": [*wants, {"kind": "leaves", "look": "sharp"}]})[1]
    assert apart["aim"] is None
    assert [frame["kinds"] for frame in apart["conflict"]["frames"]] == [["leaves"], ["people", "sea"]]


def test_what_a_time_does_has_its_fixed_fields() -> None:
    status, answer = post("looks/at", {**SCENE, "seconds": 120})
    assert status == 200
    sea, cloud, people, leaves = answer["subjects"]
    assert (sea["id"], sea["look"]) == ("water", "mirror")
    assert sea["residual_texture"] == pytest.approx((1 + 120 / 4) ** -0.5)
    assert cloud["streak_share"] == pytest.approx(0.218893, rel=1e-5)
    assert people["worst_seconds"] == pytest.approx(225)
    assert people["body_contrast"] == pytest.approx(-0.0024107, rel=1e-4)
    assert {"feet_contrast", "standing_ghosts"} <= people.keys()
    assert {"blur_share", "blur_px"} <= leaves.keys()
    assert "streak_share" not in sea


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"camera": {"focal_mm": 0}}, "camera.focal_mm"),
        ({"subjects": [{"kind": "cloud", "wind_m_s": -1}]}, "subjects.0.wind_m_s"),
        ({"subjects": [{"kind": "sea", "height_m": 400}]}, "subjects.0.height_m"),
        ({"subjects": [{"kind": "sea", "height_m": "tall"}]}, "subjects.0.height_m"),
        ({"subjects": [{"kind": "sea", "height_m": 1}] * 13}, "subjects"),
        ({"wants": [{"kind": "sea", "look": "glass"}]}, "wants.0.look"),
        ({"own": [{"kind": "sea", "look": "mine", "low": 5, "high": 2}]}, "own.0"),
    ],
)
def test_bad_scenes_are_refused_in_words(change: dict[str, Any], field: str) -> None:
    status, answer = post("looks", {**SCENE, **change})
    assert status == 422
    assert field in answer["errors"][0]["field"]
    assert answer["errors"][0]["instead"].endswith(".")


def test_the_drawing_is_a_picture_that_may_be_kept() -> None:
    question: dict[str, str | int] = {"question": json.dumps({**SCENE, "seconds": 30}), "width": 300}
    response = Client().get("/api/looks/drawing", question)
    assert (response.status_code, response["Content-Type"]) == (200, "image/jpeg")
    assert "immutable" in response["Cache-Control"]
    picture = Image.open(io.BytesIO(response.content))
    assert picture.size == (300, 200)
    # What is longer than an address goes by POST, and is the same picture.
    long = Client().post("/api/looks/drawing?width=300", question["question"], content_type="application/json")
    assert long.content == response.content
    wrong_ones: list[dict[str, str | int]] = [
        {"question": "{"},
        {**question, "width": 90_000},
        {"question": json.dumps({**SCENE, "seconds": -1})},
    ]
    for wrong in wrong_ones:
        assert Client().get("/api/looks/drawing", wrong).status_code == 422
