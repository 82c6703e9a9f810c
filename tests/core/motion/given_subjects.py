"""Subjects before a camera, for the tests of motion and looks."""

from __future__ import annotations

from typing import Any

from jackstaff_core.motion.looks import LooksQuestion, looks, looks_at
from jackstaff_core.motion.subjects import Camera, Subject

CAMERA = Camera(24.0, 36.0, 4.35, 20.0, 90.0)


def windows(kind: str, camera: Camera = CAMERA, **given: Any) -> dict[str, list[float | None]]:
    found = looks(LooksQuestion(camera, (Subject(kind, given),)))
    return {window.look: [window.from_seconds, window.to_seconds] for window in found.windows}


def at(kind: str, seconds: float, **given: Any) -> Any:
    return looks_at(LooksQuestion(CAMERA, (Subject(kind, given),)), seconds)[0]


SUBJECTS: dict[str, dict[str, Any]] = {
    "sea": {"height_m": 0.7},
    "river": {"texture_m": 0.3, "flow_m_s": 1.5},
    "cloud": {"class": "low", "wind_m_s": 8, "wind_from_deg": 200},
    "leaves": {"class": "breeze", "distance_m": 4},
    "people": {"standing": 3, "stay_s": 60},
    "vehicles": {"state": "queueing"},
    "still_person": {"pose": "sitting", "distance_m": 6},
    "crowd": {"rate_per_s": 0.4},
    "lamps": {"size_m": 0.2, "speed_m_s": 14},
    "stars": {"declination_deg": 40},
    "tide": {"range_m": 3, "hours_from_low": 2},
    "spin": {"period_s": 12},
}
