"""Measuring over the API: calibration, frame pairs, capped frames, and the card to share."""

from __future__ import annotations

import io
import json
from typing import Any

import numpy as np
import pytest
from django.test import Client
from PIL import Image

from jackstaff_imaging.light import encoded

from .shots import file, jpeg

pytestmark = pytest.mark.django_db


def test_calibration_has_its_fixed_fields() -> None:
    def asked(question: object) -> tuple[int, Any]:
        response = Client().post("/api/calibration", json.dumps(question), content_type="application/json")
        return response.status_code, response.json()

    frames = [{"glass": ["A"], "error_stops": 0.3, "session": "s1"} for _ in range(3)]
    status, answer = asked({"frames": frames, "prior_sd": {"A": 0.2}, "noise_sd": 0.2})
    assert status == 200
    (glass,) = answer["glass"]
    assert (glass["id"], glass["frames"], glass.keys()) == ("A", 3, {"id", "mean", "sd", "frames"})
    assert glass["sd"] == pytest.approx(0.137481, abs=1e-6)
    assert 0.15 < glass["mean"] < 0.2
    assert [each["id"] for each in answer["sessions"]] == ["s1"]
    assert len(answer["covariance"]) == len(answer["covariance"][0]) == 2
    bare = asked({"frames": frames, "session_sd": None, "robust": True})[1]
    assert bare["sessions"] == []
    assert asked({"frames": []})[0] == 422


def measured(status: int = 200, **parts: Any) -> Any:
    """The answer to a pair; the bare frame is 1/64 s, the filtered one 16 s and three tenths dark, unless given."""
    sent = {"bare": file(jpeg(0.0, 1 / 64)), "filtered": file(jpeg(-0.3, 16.0)), **parts}
    answer = Client().post("/api/frames/pair", {name: value for name, value in sent.items() if value is not None})
    assert answer.status_code == status, answer.content
    return answer.json()


def test_a_frame_pair_is_measured_and_nothing_is_kept() -> None:
    found = measured()
    assert found["stops"] == {channel: pytest.approx(10.3, abs=0.03) for channel in "rgb"}
    assert found["cast"] == {key: pytest.approx(0, abs=1.5) for key in ("rg", "bg", "mired")}
    assert (found["valid_blocks"], found["of_blocks"], found["refused"]) == (384, 384, None)
    assert found["corner_falloff"] == pytest.approx(0, abs=0.05)
    assert measured(bare_shutter="1/32", filtered_shutter="32 s")["stops"]["g"] == pytest.approx(10.3, abs=0.03)
    assert "Shoot it again" in measured(filtered=file(jpeg(-1.3, 16.0)))["refused"]


def test_more_bare_frames_help() -> None:
    # The light fell by a tenth of a stop meanwhile: between two bare frames it is a twentieth at the filtered one.
    drifted = measured(filtered=file(jpeg(-0.35, 16.0)), after=file(jpeg(-0.1, 1 / 64)))
    assert drifted["stops"]["g"] == pytest.approx(10.3, abs=0.03)
    # A bracket around it: the same strength, whatever each frame's own brightness.
    bracket = [file(jpeg(stops, 2.0**stops / 64)) for stops in (-2 / 3, -1 / 3, 1 / 3)]
    found = measured(bracket=bracket)
    assert found["stops"]["g"] == pytest.approx(10.3, abs=0.03)
    assert found["refused"] is None


@pytest.mark.parametrize(
    ("parts", "field"),
    [
        ({"filtered": file(b"no picture")}, "filtered"),
        ({"filtered": file(jpeg(0, 16, (120, 80)))}, "filtered"),
        ({"bare_shutter": "4"}, "bare_shutter"),
        ({"filtered": None}, "filtered"),
        ({"after": file(jpeg(0, 1 / 64, (120, 80)))}, "after"),
        ({"after": file(jpeg(-1, 1 / 125))}, "after"),
        ({"bracket": [file(jpeg(0, 1 / 64, (120, 80)))]}, "bracket.0"),
        ({"bracket": [file(jpeg(0, 1 / 64)), file(jpeg(0, 1 / 64)[:1500])]}, "bracket.1"),
        ({"bracket": [file(jpeg(0, 1 / 64)) for _ in range(7)]}, "bracket"),
        ({"bracket": [file(jpeg(0, 1 / 64))], "after": file(jpeg(0, 1 / 64))}, "after"),
    ],
    ids=range(10),
)
def test_a_pair_that_is_none_is_refused(parts: dict[str, Any], field: str) -> None:
    fault = measured(422, **parts)["errors"][0]
    assert fault["field"] == field
    assert fault["instead"]


def capped(hot: int, glow: float = 0.0, seconds: float = 240.0) -> bytes:
    dice = np.random.default_rng(hot)
    linear = np.full((300, 400, 3), 0.0008 + glow, dtype=np.float32)
    for y, x in zip(dice.integers(0, 300, hot), dice.integers(0, 400, hot), strict=True):
        linear[y, x] = 0.4
    out = io.BytesIO()
    exif = Image.Exif()
    exif.get_ifd(0x8769)[0x829A] = seconds
    Image.fromarray(encoded(linear)).save(out, "JPEG", quality=98, subsampling=0, exif=exif)
    return out.getvalue()


def test_capped_frames_count_specks_and_find_leaks() -> None:
    def ask(**files: bytes) -> Any:
        return {name: file(item) for name, item in files.items()}

    guest = Client()
    found = guest.post("/api/frames/specks", {**ask(file=capped(24)), "celsius": 10, "next_celsius": 17}).json()
    assert found["count"] == pytest.approx(24, abs=4)
    # 24 on 0.12 megapixels is 200 a megapixel in 240 s; 30 a megapixel in 36 s, and half of that seven degrees warmer.
    assert found["advised_from_seconds"] == pytest.approx(240 * 30 / found["per_megapixel"] / 2, rel=1e-6)
    assert guest.post("/api/frames/specks", ask(file=capped(0))).json()["advised_from_seconds"] is None
    assert "put the cap on" in guest.post("/api/frames/specks", ask(file=jpeg())).json()["refused"]
    leaks = guest.post("/api/frames/leak", ask(closed=capped(3), opened=capped(3, 0.01))).json()
    assert (leaks["leaks"], leaks["below_grey_stops"]) == (True, pytest.approx(4.2, abs=0.2))
    assert not guest.post("/api/frames/leak", ask(closed=capped(3), opened=capped(9))).json()["leaks"]
    unequal = guest.post("/api/frames/leak", ask(closed=capped(3), opened=capped(3, seconds=20.0)))
    assert unequal.status_code == 422


def test_the_before_and_after_card_is_a_picture() -> None:
    sent = {"before": file(jpeg()), "after": file(jpeg(0.5)),
            "before_text": "1/40 f/9 ISO 64", "after_text": "3 m 23 s " * 8, "foot": "Vardsund mole"}  # fmt: skip
    response = Client().post("/api/frames/card", sent)
    assert response.headers["Content-Type"] == "image/png"
    with Image.open(io.BytesIO(response.content)) as card:
        assert card.size[0] == 1600
        assert len(card.getcolors(10_000_000) or []) > 100
    sent = {
        "before": file(jpeg()[: len(jpeg()) // 2]),
        "after": file(jpeg()),
    }
    assert Client().post("/api/frames/card", sent).status_code == 422
