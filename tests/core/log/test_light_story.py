"""Test core/log/light_story.py."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from jackstaff_core.log.finished_frame import finish_frame
from jackstaff_core.log.frame import Reread
from jackstaff_core.log.light_story import story
from tests.core.given_looks import framed, jump

TOLD: list[tuple[Callable[[float], float], float, float | None, str]] = [
    (lambda _: 0.0, 300, 0.0, "The light stayed as it was reckoned with."),
    (
        jump,
        300,
        0.3,
        "0.6 stop brighter than reckoned with from the 3rd minute on."
        " Closed as planned the frame would be ⅓ stop too bright. That is the ⅓ stop.",
    ),
    (
        lambda _: 0.0,
        300,
        1.0,
        "The light stayed as it was reckoned with. That does not explain the 1 stop: look for a filter,"
        " the reading or the aperture.",
    ),
    (
        lambda second: -0.8 if second > 5 else 0.0,
        300,
        None,
        "0.8 stop darker than reckoned with from the opening on. Closed as planned the frame would be ⅔ stop too dark.",
    ),
]


@pytest.mark.parametrize(("light", "seconds", "came_out", "text"), TOLD)
def test_what_the_light_did_explains_the_verdict(
    light: Callable[[float], float], seconds: float, came_out: float | None, text: str
) -> None:
    found = story(framed(light, seconds, came_out))
    assert found is not None
    assert found.text == text
    assert found.planned_stops == pytest.approx(found.came_stops)
    assert found.last_stops == pytest.approx(light(seconds), abs=0.06)
    assert all(-30 <= point.at_seconds <= seconds for point in found.points)


def test_light_that_was_seen_is_not_the_filters_doing() -> None:
    # A dial closed by itself while the light had risen: half a stop bright by the light, not by the filter.
    frame = framed(lambda second: 0.5 if second > -20 else 0.0, 300, 0.5)
    was = finish_frame(frame)
    assert was is not None
    assert was.timing_stops == pytest.approx(0)
    assert was.late_stops == pytest.approx(0.5, abs=0.05)
    assert story(framed(jump, 300, None, purpose="dark")) is None
    # What was said about a reading against the watch is kept with it.
    disputed = framed(lambda _: 0.0, 300, None, rereads=(Reread(100.5, 1.0, True),))
    told = story(disputed)
    assert told is not None
    assert told.came_stops > 0.4
