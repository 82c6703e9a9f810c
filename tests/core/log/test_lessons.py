"""Test core/log/lessons.py."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.exposure.calculation import ExposureQuestion, expose
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.log.finished_frame import UsedGlass
from jackstaff_core.log.frame import Defect, Fit, FrameReview, Tasted
from jackstaff_core.log.lessons import (
    AgainQuestion,
    clean_ends,
    clear_focals,
    correction_for_again,
    next_time,
    tastes,
    wished_stops,
)
from jackstaff_core.log.questions import ReviewedQuestion, reviewed
from jackstaff_core.scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from jackstaff_core.words.refusal import Refusal
from tests.core.frames import written
from tests.core.log.given_frames import TURNED, frame


@pytest.mark.parametrize(
    ("error_stops", "light", "factor"),
    [(0.0, 0.0, 1.0), (-1.0, 0.0, 2.0), (1.0, 0.0, 0.5), (0.0, 1.0, 0.5), (0.0, -1.0, 2.0), (-1.0, 1.0, 1.0)],
)
def test_next_time_is_longer_after_dark_frames_and_shorter_in_more_light(
    error_stops: float, light: float, factor: float
) -> None:
    assert next_time(120.0, error_stops, light).seconds == pytest.approx(120.0 * factor)


@pytest.mark.parametrize(
    ("asked", "stops", "name"),
    [
        # Two thirds too bright: two thirds less time, in the words of the sum.
        ({"error_stops": 2 / 3}, -2 / 3, "⅔ stop shorter: the last frame was bright"),
        ({"error_stops": -4 / 3}, 4 / 3, "1 ⅓ stops longer: the last frame was dark"),
        ({"error_stops": -1.0}, 1.0, "1 stop longer: the last frame was dark"),
        # Closed half a stop late and half a stop bright: the sum was right.
        ({"error_stops": 0.5, "late_stops": 0.5}, 0.0, "As long: the last frame was bright"),
        # A third was added on the way and it came out right: the third stays, as does what was corrected before.
        (
            {"error_stops": 0.0, "longer_stops": 1 / 3, "earlier_stops": -0.25},
            1 / 12,
            "0.1 stop longer: the last frame was right",
        ),
    ],
)
def test_the_same_frame_again_is_what_was_used_less_how_it_came_out(
    asked: dict[str, float], stops: float, name: str
) -> None:
    found = correction_for_again(AgainQuestion(**asked))
    assert found.stops == pytest.approx(stops)
    assert found.name == name
    # In the sum it is a step of its own after the filters, and what the light asks for counts with it.
    reading = ReadingGiven("1/40", "9", "64")
    plain = expose(ExposureQuestion(reading, (GlassGiven(stops=9),)))
    corrected = expose(ExposureQuestion(reading, (GlassGiven(stops=9),), correction=found))
    assert corrected.metered_seconds == pytest.approx(plain.metered_seconds * 2**stops)
    step = corrected.steps[-1]
    assert (step.kind, step.name, step.stops) == ("correction", name, found.stops)
    assert corrected.residue_stops == 0


def test_a_correction_of_more_than_ten_stops_is_refused() -> None:
    with pytest.raises(Refusal):
        correction_for_again(AgainQuestion(-5, late_stops=5.5))


@given(st.floats(0.0001, 86_000), st.floats(-5, 5), st.floats(-12, 12))
def test_next_time_undoes_what_went_wrong(used: float, error_stops: float, light: float) -> None:
    right = used * 2 ** (-error_stops - light)
    if not SHORTEST_SECONDS <= right <= LONGEST_SECONDS:
        with pytest.raises(Refusal, match="cannot be set"):
            next_time(used, error_stops, light)
        return
    found = next_time(used, error_stops, light, dial_limit=30.0)
    assert found.seconds == pytest.approx(right)
    assert (found.mark is None) == (found.seconds > 32 * 2 ** (1 / 6))


@given(st.floats(1, 4000), st.floats(-3, 3), st.sampled_from([Fit.SHORT, Fit.LONG]))
def test_next_time_heeds_the_look_and_says_what_holds_the_light_back_or_makes_it_up(
    used: float, error_stops: float, length: Fit
) -> None:
    found = next_time(used, error_stops, length=length)
    filled = used * 2**-error_stops
    # Too short is longer and what smeared shorter, however it came out.
    assert found.seconds >= 2 * used * 0.999 if length is Fit.SHORT else found.seconds <= used / 2 * 1.001
    assert found.seconds * 2**-found.hold_back_stops == pytest.approx(filled)
    # A way that takes light where the frame is longer, one that gives it where it is shorter.
    assert len(found.ways) == 3
    assert found.ways[0].startswith("close" if found.hold_back_stops > 0 else "open")
    assert all(way in found.text for way in found.ways[1:])


def test_what_smeared_is_never_taken_longer() -> None:
    review = FrameReview(-1.0, (Defect.LEAVES,), (Tasted("sea", "mirror", Fit.SHORT),))
    found = reviewed(ReviewedQuestion(frame=written(8.0, review=review, events=()))).next
    assert found is not None
    assert found.seconds == pytest.approx(4.0)
    assert found.hold_back_stops == pytest.approx(-2.0)
    assert "Open the aperture by 2.0 stops, raise the ISO by 2.0 stops or take filters of 2.0 stops off." in found.text


@pytest.mark.parametrize("dial_limit", [0.0, -30.0, math.inf, math.nan])
def test_next_time_needs_a_dial(dial_limit: float) -> None:
    with pytest.raises(Refusal, match="dial_limit"):
        next_time(4.0, 0.3, dial_limit=dial_limit)


def test_what_was_seen_becomes_limits() -> None:
    turned = [
        frame(0, glass=(TURNED,), focal_mm=16.2, defects=frozenset({Defect.CROSS}), error_stops=0.0),
        frame(9, glass=(UsedGlass("var", "Turned ND", GlassKind.VARIABLE, 4.5),), focal_mm=16.0, error_stops=0.0,
              defects=frozenset({Defect.CROSS})),
        frame(18, glass=(TURNED,), focal_mm=50.0, error_stops=0.0),
    ]  # fmt: skip
    end = clean_ends(turned)
    assert [(each.focal_mm, each.frames) for each in end] == [(16, 2)]
    assert end[0].stops == pytest.approx(4.5 - 1 / 3)
    rims = {"lens": "zoom", "rims_mm": 9.0, "opening_mm": 78.0, "error_stops": 0.0}
    shots = [
        frame(0, focal_mm=16.0, defects=frozenset({Defect.CORNER}), **rims),
        frame(5, focal_mm=24.0, **rims),
        frame(9, focal_mm=20.0, **rims),
        frame(12, focal_mm=18.0, **{**rims, "rims_mm": 3.0}),
    ]
    assert [(shot.lens, shot.focal_mm, shot.rims_mm, shot.frames) for shot in clear_focals(shots)] == [
        ("zoom", 20, 9, 3)
    ]
    assert clear_focals(shots[1:]) == ()


def test_taste_is_told_in_waves() -> None:
    liked = [
        frame(n, seconds=seconds, swell_m=0.7, tasted=(Tasted("sea", "veil", fit),))
        for n, (seconds, fit) in enumerate([(16, Fit.RIGHT), (20.25, Fit.RIGHT), (60, Fit.LONG)])
    ]
    (taste,) = tastes(liked)
    assert taste.seconds == pytest.approx(18)
    assert (taste.swell_m, taste.frames) == (0.7, 2)
    # Wind sea of 0.7 m: 5 sqrt(0.7) = 4.18 s a wave.
    assert taste.periods == pytest.approx(18 / 4.183, abs=0.05)
    assert taste.text.startswith("Veil at 0.7 m swell: 18 s was right")


@pytest.mark.parametrize(
    ("facts", "stops"),
    [
        # A quarter of a second bare, a minute planned: 7.9 stops, by whatever stack.
        ({"planned_seconds": 60.0, "base_seconds": 0.25}, (7.9,)),
        # The middle of the window that was wished for counts, not what the bag made of it.
        ({"planned_seconds": 60.0, "base_seconds": 0.25, "aim": (120.0, 480.0)}, (9.9,)),
        ({"planned_seconds": 60.0, "base_seconds": 0.25, "aim": (120.0, math.inf)}, (8.9,)),
        ({"planned_seconds": 60.0, "base_seconds": None}, ()),
        ({"planned_seconds": 60.0, "base_seconds": 0.25, "glass": ()}, ()),
        ({"planned_seconds": 60.0, "base_seconds": 0.25, "dark": True}, ()),
        ({"planned_seconds": 0.1, "base_seconds": 0.25}, ()),
    ],
)
def test_the_strength_a_frame_wanted(facts: dict[str, Any], stops: tuple[float, ...]) -> None:
    assert wished_stops([frame(**facts)]) == stops


def test_the_latest_wishes_count_and_no_more_than_a_reach_can_take() -> None:
    many = [frame(minute, base_seconds=0.25, planned_seconds=60.0 + minute) for minute in range(600)]
    strengths = wished_stops(many[::-1])
    assert len(strengths) == 500
    assert strengths == tuple(sorted(strengths))
