"""Test core/camera/reading.py."""

from __future__ import annotations

import pytest

from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.exposure.calculation import ExposureQuestion, expose
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.scales.ladders import ev100
from tests.core.given_sums import ask


@pytest.mark.parametrize(
    ("on", "brighter"),
    [
        ((), 0.0),
        # What was on when metered hid that much of the scene's light; what goes on later hid nothing.
        ((GlassGiven(stops=3, in_reading=True),), 3.0),
        ((GlassGiven(stops=3, offset=0.25, offset_sd=0.1, in_reading=True),), 3.25),
        ((GlassGiven(stops=9),), 0.0),
        ((GlassGiven(stops=3, in_reading=True), GlassGiven(stops=9)), 3.0),
    ],
)
def test_the_light_of_the_scene_is_what_the_meter_would_say_bare(on: tuple[GlassGiven, ...], brighter: float) -> None:
    answer = expose(ExposureQuestion(ReadingGiven(0.25, 8.0, 100.0), on))
    assert answer.scene_ev100 == pytest.approx(ev100(0.25, 8.0, 100.0) + brighter)


@pytest.mark.parametrize("reading", [ReadingGiven(ev100=12.0), ReadingGiven(1 / 64, 8.0, 100.0)])
def test_a_hand_meter_s_light_is_a_camera_s(reading: ReadingGiven) -> None:
    answer = ask(6, reading=reading, settings=SettingsGiven("8", "100"))
    assert answer.scene_ev100 == pytest.approx(12)
    assert answer.seconds == pytest.approx(1)
