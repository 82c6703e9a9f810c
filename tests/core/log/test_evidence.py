"""Test core/log/evidence.py."""

from __future__ import annotations

import random
import statistics
from datetime import timedelta
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reciprocity import Power
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.log.evidence import GlassKnown, against_label, single_frame_finding, weigh_log
from jackstaff_core.log.finished_frame import FinishedFrame, UsedGlass
from jackstaff_core.log.frame import ErrorCause
from tests.core.log.given_frames import DAWN, NINE, TURNED, frame


def seen(minute: float, error_stops: float) -> FinishedFrame:
    nine = UsedGlass("nine", "Slot ND 9", GlassKind.SOLID, 9.0)
    return FinishedFrame(
        id=f"{minute}", opened_at=DAWN + timedelta(minutes=minute), seconds=120.0, aimed_seconds=120.0,
        planned_seconds=120.0, glass=(nine,), error_stops=error_stops,
    )  # fmt: skip


def test_a_pair_weighs_as_much_as_four_glances() -> None:
    # Frames a day apart, so that each stands for itself; they say 0.0, the pair says 0.6.
    def mean(frames: int, *pairs: float) -> float:
        shots = [seen(1440.0 * day, 0.0) for day in range(frames)]
        pairs_ = tuple(9.0 + pair for pair in pairs)
        (known,) = weigh_log(shots, [GlassKnown("nine", "Slot ND 9", 9.0, None, pairs_)]).glass
        return known.mean

    assert mean(2) == pytest.approx(0, abs=1e-9)
    four, lone = mean(4, 0.6), mean(1, 0.6)
    assert 0 < four < lone < 0.6
    # More frames that disagree pull it back, another pair pulls it on.
    assert mean(12, 0.6) < four < mean(4, 0.6, 0.6)
    # One pair against one glance: four to one at least, whatever the prior and the day take.
    assert lone > 0.6 / 2


FOUR = UsedGlass("four", "Slot ND 4", GlassKind.SOLID, 4.0, 0.2)
KIT = [GlassKnown("nine", "Slot ND 9", 9.0), GlassKnown("four", "Slot ND 4", 4.0, 0.2)]


@pytest.mark.parametrize(
    ("facts", "error"),
    [
        # Came out a stop dark: the stack is a stop denser than its label.
        ({"error_stops": -1.0}, 1.0),
        # Twice as long and right: the same.
        ({"seconds": 240.0, "error_stops": 0.0}, 1.0),
        # An offset in use that made it right is the whole answer.
        ({"glass": (FOUR,), "error_stops": 0.0}, 0.2),
        # A third more was wished for and a third too bright it came: nothing to learn.
        ({"bias_stops": 1 / 3, "error_stops": 1 / 3}, 0.0),
        # Corrected by half a stop and right then: the filter is denser, unless the metering or the taste was it.
        ({"correction_stops": 0.5, "error_stops": 0.0}, 0.5),
        ({"correction_stops": 0.5, "correction_for": ErrorCause.FILTER, "error_stops": 0.0}, 0.5),
        ({"correction_stops": 0.5, "correction_for": ErrorCause.SCENE, "error_stops": 0.0}, 0.0),
        ({"correction_stops": 0.5, "correction_for": ErrorCause.TASTE, "error_stops": 0.0}, 0.0),
        # On when metered: it says nothing of itself.
        ({"glass": (UsedGlass("four", "Slot ND 4", GlassKind.SOLID, 4.0, 0.2, True),), "error_stops": 0.0}, 0.0),
        # Film: a stop of time is 1/1.3 stop of light.
        ({"film": Power(1.3, 1.0), "seconds": 240.0, "error_stops": 0.0}, 1 / 1.3),
    ],
)
def test_the_error_against_the_label(facts: dict[str, Any], error: float) -> None:
    assert against_label(frame(**facts)) == pytest.approx(error, abs=1e-9)


@pytest.mark.parametrize(
    ("facts", "why"),
    [
        ({"glass": (TURNED,)}, "a variable filter or a polariser was on"),
        ({"glass": (UsedGlass("pol", "Pol", GlassKind.POLARISER, 1.5),)}, "a variable filter or a polariser was on"),
        ({"glass": (UsedGlass(None, "Lost", GlassKind.SOLID, 3.0),)}, "a filter is not in the kit"),
        ({"aborted": True}, "given up"),
        ({"watched": False}, "the time is not known well"),
        ({"practice": True}, "made with the simulated camera"),
        ({"expected": True}, "nobody metered: the reading was a forecast"),
        ({"because": ErrorCause.SCENE}, "its metering or your taste was the reason"),
        ({"because": ErrorCause.TASTE}, "its metering or your taste was the reason"),
        # The shutter stayed open over lunch: that is no property of glass.
        ({"seconds": 60_000.0}, "further off than a filter can be"),
    ],
)
def test_frames_that_say_nothing_certain_are_left_aside_and_counted(facts: dict[str, Any], why: str) -> None:
    assert weigh_log([frame(error_stops=0.0, **facts)], KIT).asides == {why: 1}


def test_evidence_per_glass() -> None:
    frames = [frame(minute, error_stops=-1.8) for minute in range(0, 60, 10)]
    found = weigh_log([*frames, frame(70, glass=(), error_stops=0.0), frame(80, error_stops=-1.8, dark=True)], KIT)
    nine = found.glass[0]
    assert (nine.id, nine.frames, nine.doubted, found.used) == ("nine", 6, True, 7)
    assert nine.mean == pytest.approx(1.75, abs=0.1)
    assert "label wrong" in nine.advice
    assert len(found.habits) == 1
    # Always together: known together, apart by one frame alone.
    both = weigh_log([frame(minute, glass=(NINE, FOUR), error_stops=-0.4) for minute in range(0, 80, 10)], KIT)
    assert all("alone would tell" in glass.advice for glass in both.glass)
    # A pair of frames alone settles it nearly: four frames' worth.
    paired = weigh_log([], [GlassKnown("nine", "Slot ND 9", 9.0, None, (9.4, 9.42))]).glass[0]
    assert (paired.frames, paired.pairs) == (0, 2)
    assert paired.mean == pytest.approx(0.39, abs=0.03)
    assert weigh_log([frame()], KIT).glass == ()


@pytest.mark.parametrize(
    ("facts", "stops"),
    [
        ({"error_stops": -1.0}, 1.0),
        ({"error_stops": 2 / 3}, -2 / 3),
        # Half a stop was taught already, and it came out right with it.
        ({"error_stops": 0.0, "correction_stops": 0.5}, 0.5),
        # Closed half a stop early and half a stop dark: the clock was it.
        ({"error_stops": -0.5, "seconds": 120 * 2**-0.5}, None),
        # Beside the offset in use, not beside the label.
        ({"glass": (FOUR,), "error_stops": -0.5}, 0.5),
        ({"error_stops": -1.0, "because": ErrorCause.FILTER}, 1.0),
        ({"error_stops": -0.2}, None),
        ({"error_stops": None}, None),
        ({"error_stops": -1.0, "because": ErrorCause.SCENE}, None),
        ({"error_stops": -1.0, "because": ErrorCause.TASTE}, None),
        ({"error_stops": -1.0, "glass": (NINE, FOUR)}, None),
        ({"error_stops": -1.0, "through": (FOUR,)}, None),
        ({"error_stops": -1.0, "through": (NINE,)}, None),
        ({"error_stops": -1.0, "glass": (NINE, FOUR), "through": (FOUR,)}, 1.0),
        ({"error_stops": -1.0, "glass": (TURNED,)}, None),
        ({"error_stops": -1.0, "glass": (UsedGlass(None, "Lost", GlassKind.SOLID, 3.0),)}, None),
        ({"error_stops": -1.0, "aborted": True}, None),
        ({"error_stops": -1.0, "practice": True}, None),
        ({"error_stops": -1.0, "expected": True}, None),
        ({"error_stops": -1.0, "watched": False}, None),
        ({"error_stops": -1.0, "dark": True}, None),
        ({"error_stops": -1.0, "film": Power(1.3)}, None),
    ],
)
def test_what_one_frame_alone_says_of_a_filter(facts: dict[str, Any], stops: float | None) -> None:
    found = single_frame_finding(frame(**facts))
    assert (found and found.stops) == (None if stops is None else pytest.approx(stops))


def test_a_filter_that_was_exchanged_counts_against_the_one_it_gave_way_to() -> None:
    """Six stops measure 0.6 more than their label, nine as they say: apart only where one was metered through."""
    six = UsedGlass("six", "Ring ND 6", GlassKind.SOLID, 6.0)
    nine = UsedGlass("nine", "Slot ND 9", GlassKind.SOLID, 9.0)
    kit = [GlassKnown("six", "Ring ND 6", 6.0), GlassKnown("nine", "Slot ND 9", 9.0)]
    bare = [frame(minute, glass=(six,), error_stops=-0.6) for minute in range(0, 80, 10)]
    # Metered through the six, shot through the nine: what was subtracted was too little, and it came out bright.
    exchanged = [frame(minute, glass=(nine,), through=(six,), error_stops=0.6) for minute in range(200, 280, 10)]
    found = {glass.id: glass.mean for glass in weigh_log([*bare, *exchanged], kit).glass}
    assert found["six"] == pytest.approx(0.6, abs=0.15)
    assert found["nine"] == pytest.approx(0.0, abs=0.15)
    # What stayed on says nothing of itself.
    stayed = frame(glass=(six, nine), through=(six,), error_stops=-0.6)
    assert against_label(stayed) == pytest.approx(0.6)
    assert [each.id for each in (*stayed.put_on, *stayed.taken_off)] == ["nine"]


@pytest.mark.parametrize(
    ("measured", "offset", "says"),
    [
        (9.4, 0.4, "In use already"),
        (9.4, 0.1, "Known well enough"),
        (9.4, None, "Known well enough"),
        (9.02, None, "As good as its label"),
    ],
)
def test_what_to_do_with_what_is_known_of_a_filter(measured: float, offset: float | None, says: str) -> None:
    (nine,) = weigh_log([], [GlassKnown("nine", "Slot ND 9", 9.0, offset, (measured,) * 9)]).glass
    assert says in nine.advice


def test_a_graduated_glass_is_no_part_of_the_sum() -> None:
    soft = UsedGlass("grad", "Soft grad 2", GlassKind.GRADUATED, 2.0, 0.3)
    with_it = weigh_log([frame(minute, glass=(NINE, soft), error_stops=-0.3) for minute in range(0, 50, 10)], KIT)
    without = weigh_log([frame(minute, error_stops=-0.3) for minute in range(0, 50, 10)], KIT)
    assert [(glass.id, glass.mean) for glass in with_it.glass] == [(glass.id, glass.mean) for glass in without.glass]


def test_a_log_of_years_and_a_cupboard_of_glass_are_learnt_from() -> None:
    cupboard = [GlassKnown(f"g{n}", f"Ring {n}", 3.0) for n in range(80)]
    # Five hundred mornings, each with the nine; and every ring of the cupboard once.
    years = [frame(day * 1440.0, error_stops=-0.4) for day in range(500)]
    rings = [
        frame(-1440.0 * n - 1, glass=(UsedGlass(f"g{n}", f"Ring {n}", GlassKind.SOLID, 3.0),), error_stops=0.0)
        for n in range(80)
    ]
    found = weigh_log([*rings, *years], [*cupboard, *KIT])
    nine = next(glass for glass in found.glass if glass.id == "nine")
    assert nine.frames == 500
    assert nine.mean == pytest.approx(0.4, abs=0.05)
    assert len(found.glass) <= 60
    assert found.used + sum(found.asides.values()) == 580


def test_glass_that_changes_over_the_years_shows_a_trend() -> None:
    dice = random.Random(3)
    drifting = [
        frame(day * 1440.0, error_stops=round(-0.001 * day + dice.gauss(0, 0.05), 2)) for day in range(0, 720, 60)
    ]
    trend = weigh_log(drifting, KIT).glass[0].trend_a_year
    assert trend == pytest.approx(0.365, abs=0.12)
    steady = [frame(day * 1440.0, error_stops=dice.choice([-0.1, 0.0, 0.1])) for day in range(0, 720, 60)]
    assert weigh_log(steady, KIT).glass[0].trend_a_year is None


@pytest.mark.parametrize("hidden", [0.3, 1.8])
def test_hidden_glass_errors_are_found_from_reviews_in_thirds(hidden: float) -> None:
    inside, errors = 0, []
    for seed in range(200):
        dice = random.Random(f"{hidden} {seed}")
        habit = dice.gauss(0, 0.1)
        frames = []
        for number, stack in enumerate([(NINE,), (NINE,), (NINE, FOUR), (NINE,), (FOUR,), ()]):
            # The four is as dense as it is known to be; the nine hides something, and the session leans.
            dark = (hidden if NINE in stack else 0.0) + habit
            error_stops = round((-dark + dice.gauss(0, 0.15)) * 3) / 3
            frames.append(frame(number * 9.0, glass=stack, error_stops=error_stops))
        nine = next(each for each in weigh_log(frames, KIT).glass if each.id == "nine")
        inside += abs(nine.mean - hidden) <= 2 * nine.sd
        errors.append(abs(nine.mean - hidden))
    assert 0.90 <= inside / 200 <= 1.0
    assert statistics.median(errors) < 0.1


@given(
    st.lists(
        st.tuples(st.sampled_from([(NINE,), (FOUR,), (NINE, FOUR), ()]), st.floats(-2, 2), st.integers(0, 5)),
        min_size=1,
        max_size=12,
    )
)
def test_evidence_never_depends_on_the_order_and_counts_every_frame(
    shots: list[tuple[tuple[UsedGlass, ...], float, int]],
) -> None:
    frames = [
        frame(number * 7.0 + day * 1440, glass=glass, error_stops=error_stops)
        for number, (glass, error_stops, day) in enumerate(shots)
    ]
    forwards, backwards = weigh_log(frames, KIT), weigh_log(list(reversed(frames)), KIT)
    assert [(each.id, each.frames) for each in forwards.glass] == [(each.id, each.frames) for each in backwards.glass]
    for each, same in zip(forwards.glass, backwards.glass, strict=True):
        assert [same.mean, same.sd] == pytest.approx([each.mean, each.sd], abs=1e-6)
        assert each.frames == sum(any(on.id == each.id for on in glass) for glass, _, _ in shots)
        assert 0.05 <= each.sd <= 1.5
    assert forwards.used + sum(forwards.asides.values()) == (len(frames) if forwards.glass or forwards.used else 0)
    assert sum(habit.frames for habit in forwards.habits) in (0, len(frames))
