"""Test core/motion/subjects.py."""

from __future__ import annotations

import pytest

from jackstaff_core.words.refusal import Refusal
from tests.core.motion.given_subjects import CAMERA, SUBJECTS, windows

ENDS: dict[str, tuple[float, float]] = {
    "sea.height_m": (0.01, 20), "sea.period_s": (0.3, 30),
    "river.texture_m": (0.01, 10), "river.flow_m_s": (0.02, 15),
    "cloud.height_m": (50, 20_000), "cloud.wind_m_s": (0, 100), "cloud.wind_from_deg": (-360, 720),
    "leaves.amplitude_m": (0.0001, 5), "leaves.period_s": (0.05, 30), "leaves.distance_m": (0.1, 10_000),
    "people.width_m": (0.05, 20), "people.speed_m_s": (0.05, 60), "people.across": (0.02, 1),
    "people.standing": (0, 10_000), "people.stay_s": (1, 86_400),
    "vehicles.length_m": (0.5, 100), "vehicles.speed_m_s": (0.05, 100), "vehicles.standing": (0, 10_000),
    "vehicles.stay_s": (1, 86_400),
    "still_person.distance_m": (0.3, 10_000),
    "crowd.rate_per_s": (0.001, 100), "crowd.width_m": (0.05, 20), "crowd.speed_m_s": (0.05, 60),
    "lamps.size_m": (0.001, 10), "lamps.speed_m_s": (0.01, 100),
    "stars.declination_deg": (-90, 90),
    "tide.range_m": (0.01, 20), "tide.hours_from_low": (-14, 14), "tide.hours_low_to_high": (2, 14),
    "spin.period_s": (0.01, 86_400),
}  # fmt: skip
"""How little and how much of each fact is answered."""


@pytest.mark.parametrize("fact", ENDS)
def test_a_fact_is_answered_from_one_end_to_the_other_and_refused_beyond(fact: str) -> None:
    kind, name = fact.split(".")
    low, high = ENDS[fact]
    for end in (low, high):
        found = windows(kind, CAMERA, **{**SUBJECTS[kind], name: end})
        assert [side for sides in found.values() for side in sides if side is not None and side < 0] == []
    for beyond in (low - 0.001 * abs(low) - 1e-6, high * 1.001):
        with pytest.raises(Refusal, match=name) as refused:
            windows(kind, CAMERA, **{**SUBJECTS[kind], name: beyond})
        assert refused.value.field == f"subjects.0.{name}"
        assert f"from {low:g} to {high:g}" in refused.value.instead
