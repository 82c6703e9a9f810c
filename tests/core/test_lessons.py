"""What reviewed frames teach: glass, next time, focal lengths, taste, mistakes, the edit; joined files, the card."""

from __future__ import annotations

import math
import random
import statistics
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.camera.reciprocity import Power
from jackstaff_core.exposure.calculation import ExposureQuestion, expose
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.log.editing import EditQuestion, Tint, editing_notes, keystone_crop
from jackstaff_core.log.evidence import GlassKnown, against_label, finding, weigh
from jackstaff_core.log.finished_frame import FinishedFrame, UsedGlass
from jackstaff_core.log.frame import Cause, Defect, Fit, FrameReview, Tasted, last_aim
from jackstaff_core.log.joining_pictures import Candidate, File, join
from jackstaff_core.log.lessons import AgainQuestion, again, clean_ends, clear_focals, next_time, tastes, wished
from jackstaff_core.log.questions import ReviewedQuestion, reviewed
from jackstaff_core.log.review import FINDINGS, remarks
from jackstaff_core.log.statistics import statistics as statistics_of
from jackstaff_core.scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS, Step, times
from jackstaff_core.stacks.fieldcard import CardGlass, field_card
from jackstaff_core.words.refusal import Refusal

from .frames import written

DAWN = datetime(2027, 4, 17, 4, 0, tzinfo=UTC)
NINE = UsedGlass("nine", "Slot ND 9", GlassKind.SOLID, 9.0)
FOUR = UsedGlass("four", "Slot ND 4", GlassKind.SOLID, 4.0, 0.2)
TURNED = UsedGlass("var", "Turned ND", GlassKind.VARIABLE, 5.0)
KIT = [GlassKnown("nine", "Slot ND 9", 9.0), GlassKnown("four", "Slot ND 4", 4.0, 0.2)]


def frame(minutes: float = 0.0, **facts: Any) -> FinishedFrame:
    base: dict[str, Any] = {
        "id": f"{minutes}",
        "opened_at": DAWN + timedelta(minutes=minutes),
        "seconds": 120.0,
        "aimed_seconds": 120.0,
        "planned_seconds": 120.0,
        "glass": (NINE,),
    }
    return FinishedFrame(**{**base, **facts})


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
        ({"correction_stops": 0.5, "correction_for": Cause.FILTER, "error_stops": 0.0}, 0.5),
        ({"correction_stops": 0.5, "correction_for": Cause.SCENE, "error_stops": 0.0}, 0.0),
        ({"correction_stops": 0.5, "correction_for": Cause.TASTE, "error_stops": 0.0}, 0.0),
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
        ({"glass": (UsedGlass(None, "Lost", GlassKind.SOLID, 3.0),)}, "a filter is not in the kit"),
        ({"aborted": True}, "given up"),
        ({"watched": False}, "the time is not known well"),
        ({"practice": True}, "made with the simulated camera"),
        ({"expected": True}, "nobody metered: the reading was a forecast"),
        ({"because": Cause.SCENE}, "its metering or your taste was the reason"),
        ({"because": Cause.TASTE}, "its metering or your taste was the reason"),
        # The shutter stayed open over lunch: that is no property of glass.
        ({"seconds": 60_000.0}, "further off than a filter can be"),
    ],
)
def test_frames_that_say_nothing_certain_are_left_aside_and_counted(facts: dict[str, Any], why: str) -> None:
    assert weigh([frame(error_stops=0.0, **facts)], KIT).asides == {why: 1}


@pytest.mark.parametrize(
    ("events", "seconds"),
    [
        ([], 80.0),
        ([("opened", None), ("shifted", 70.0), ("closed", 60.0)], 80.0),
        ([("opened", None), ("aimed", 70.0), ("closed", 60.0)], 70.0),
        ([("aimed", 70.0), ("reread", 50.0), ("aimed", 90.0), ("extended", 100.0)], 90.0),
        ([("aimed", 70.0), ("aimed", None)], 70.0),
    ],
)
def test_a_frame_aims_at_what_it_was_last_asked_for(events: list[tuple[str, float | None]], seconds: float) -> None:
    assert last_aim(events, 80.0) == seconds


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
    found = again(AgainQuestion(**asked))
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
        again(AgainQuestion(-5, late_stops=5.5))


def test_evidence_per_glass() -> None:
    frames = [frame(minute, error_stops=-1.8) for minute in range(0, 60, 10)]
    found = weigh([*frames, frame(70, glass=(), error_stops=0.0), frame(80, error_stops=-1.8, dark=True)], KIT)
    nine = found.glass[0]
    assert (nine.id, nine.frames, nine.doubted, found.used) == ("nine", 6, True, 7)
    assert nine.mean == pytest.approx(1.75, abs=0.1)
    assert "label wrong" in nine.advice
    assert len(found.habits) == 1
    # Always together: known together, apart by one frame alone.
    both = weigh([frame(minute, glass=(NINE, FOUR), error_stops=-0.4) for minute in range(0, 80, 10)], KIT)
    assert all("alone would tell" in glass.advice for glass in both.glass)
    # A pair of frames alone settles it nearly: four frames' worth.
    paired = weigh([], [GlassKnown("nine", "Slot ND 9", 9.0, None, (9.4, 9.42))]).glass[0]
    assert (paired.frames, paired.pairs) == (0, 2)
    assert paired.mean == pytest.approx(0.39, abs=0.03)
    assert weigh([frame()], KIT).glass == ()


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
        ({"error_stops": -1.0, "because": Cause.FILTER}, 1.0),
        ({"error_stops": -0.2}, None),
        ({"error_stops": None}, None),
        ({"error_stops": -1.0, "because": Cause.SCENE}, None),
        ({"error_stops": -1.0, "because": Cause.TASTE}, None),
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
    found = finding(frame(**facts))
    assert (found and found.stops) == (None if stops is None else pytest.approx(stops))


def test_a_filter_that_was_exchanged_counts_against_the_one_it_gave_way_to() -> None:
    """Six stops measure 0.6 more than their label, nine as they say: apart only where one was metered through."""
    six = UsedGlass("six", "Ring ND 6", GlassKind.SOLID, 6.0)
    nine = UsedGlass("nine", "Slot ND 9", GlassKind.SOLID, 9.0)
    kit = [GlassKnown("six", "Ring ND 6", 6.0), GlassKnown("nine", "Slot ND 9", 9.0)]
    bare = [frame(minute, glass=(six,), error_stops=-0.6) for minute in range(0, 80, 10)]
    # Metered through the six, shot through the nine: what was subtracted was too little, and it came out bright.
    exchanged = [frame(minute, glass=(nine,), through=(six,), error_stops=0.6) for minute in range(200, 280, 10)]
    found = {glass.id: glass.mean for glass in weigh([*bare, *exchanged], kit).glass}
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
    (nine,) = weigh([], [GlassKnown("nine", "Slot ND 9", 9.0, offset, (measured,) * 9)]).glass
    assert says in nine.advice


def test_a_graduated_glass_is_no_part_of_the_sum() -> None:
    soft = UsedGlass("grad", "Soft grad 2", GlassKind.GRADUATED, 2.0, 0.3)
    with_it = weigh([frame(minute, glass=(NINE, soft), error_stops=-0.3) for minute in range(0, 50, 10)], KIT)
    without = weigh([frame(minute, error_stops=-0.3) for minute in range(0, 50, 10)], KIT)
    assert [(glass.id, glass.mean) for glass in with_it.glass] == [(glass.id, glass.mean) for glass in without.glass]


def test_a_log_of_years_and_a_cupboard_of_glass_are_learnt_from() -> None:
    cupboard = [GlassKnown(f"g{n}", f"Ring {n}", 3.0) for n in range(80)]
    # Five hundred mornings, each with the nine; and every ring of the cupboard once.
    years = [frame(day * 1440.0, error_stops=-0.4) for day in range(500)]
    rings = [
        frame(-1440.0 * n - 1, glass=(UsedGlass(f"g{n}", f"Ring {n}", GlassKind.SOLID, 3.0),), error_stops=0.0)
        for n in range(80)
    ]
    found = weigh([*rings, *years], [*cupboard, *KIT])
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
    trend = weigh(drifting, KIT).glass[0].trend_a_year
    assert trend == pytest.approx(0.365, abs=0.12)
    steady = [frame(day * 1440.0, error_stops=dice.choice([-0.1, 0.0, 0.1])) for day in range(0, 720, 60)]
    assert weigh(steady, KIT).glass[0].trend_a_year is None


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
        nine = next(each for each in weigh(frames, KIT).glass if each.id == "nine")
        inside += abs(nine.mean - hidden) <= 2 * nine.sd
        errors.append(abs(nine.mean - hidden))
    assert 0.90 <= inside / 200 <= 1.0
    assert statistics.median(errors) < 0.1


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


def test_every_finding_has_cause_and_cure_of_its_own_set_up() -> None:
    assert set(FINDINGS) == set(Defect)
    rich = frame(defects=frozenset(Defect), focal_mm=16.0, rims_mm=9.0, glass=(TURNED, NINE), seconds=12.0)
    told = {each.code: each for each in remarks(rich)}
    assert list(told) == list(Defect)
    for code, words in {
        Defect.CROSS: "Turned ND stood at 5.0 stops at 16 mm",
        Defect.CORNER: "9 mm of rims",
        Defect.LEAK: "14 stops of filters",
    }.items():
        assert words in told[code].cause
    assert "No variable filter" in remarks(frame(defects=frozenset({Defect.CROSS})))[0].cause


def test_time_lost_and_mistakes() -> None:
    frames = [
        frame(0, error_stops=-0.7, defects=frozenset({Defect.SHAKE})),
        frame(5, error_stops=0.0, defects=frozenset({Defect.SHAKE})),
        frame(200, aborted=True, seconds=30.0),
        frame(202, aim=(240.0, math.inf)),
        frame(400, seconds=160.0, aim=(10.0, 30.0)),
    ]
    found = statistics_of(frames)
    assert (found.frames, found.reviewed, found.repeats, found.aborted) == (5, 2, 2, 1)
    assert (found.open_seconds, found.lost_seconds) == (550, 150)
    assert {each.code: each.frames for each in found.mistakes} == {"shake": 2, "too_dark": 1, "aborted": 1, "late": 1}
    assert [round(each.stops, 2) for each in found.missed] == [1.0, 2.0]
    assert statistics_of([]).lost_seconds == 0


# A camera two hours ahead (its zone) and eleven seconds off.
AHEAD = 7211.0


def taken(minutes: float, seconds: float | None, ahead: float = AHEAD) -> File:
    return File((DAWN + timedelta(minutes=minutes, seconds=ahead)).replace(tzinfo=None), seconds)


LOG = [Candidate("a", DAWN, 20.0), Candidate("b", DAWN + timedelta(minutes=4), 240.0),
       Candidate("c", DAWN + timedelta(minutes=30), 25.0)]  # fmt: skip


@pytest.mark.parametrize(
    ("files", "ahead", "frames"),
    [
        ([taken(0, 20), taken(4, 250), taken(30, 25)], None, [("a",), ("b",), ("c",)]),
        ([taken(0, 20)], AHEAD, [("a",)]),
        # By its closing, as some cameras write it; without a length, by the clock alone.
        ([taken(8, 240), taken(30, None)], AHEAD, [("b",), ("c",)]),
        ([taken(4, 30), File(None, 20.0), taken(300, 20)], AHEAD, [(), (), ()]),
        ([], None, []),
    ],
)
def test_files_find_their_frames(files: list[File], ahead: float | None, frames: list[tuple[str, ...]]) -> None:
    found = join(files, LOG, ahead)
    assert [each.frames for each in found.files] == frames
    if ahead is None and files:
        assert (found.learnt, found.others) == (True, ())
        assert found.ahead_seconds == pytest.approx(AHEAD, abs=1)


def test_a_file_that_may_belong_to_several_is_asked_about() -> None:
    twins = [Candidate("a", DAWN, 2.0), Candidate("b", DAWN + timedelta(seconds=3), 2.0)]
    assert join([taken(0, 2.0)], twins, AHEAD).files[0].frames == ("a", "b")
    # One file and three frames of its length: any of three clocks would do.
    many = [Candidate(str(n), DAWN + timedelta(hours=n), 20.0) for n in range(3)]
    found = join([taken(0, 20.0)], many)
    assert (found.learnt, len(found.others)) == (True, 2)
    with pytest.raises(Refusal):
        join([taken(0, 20.0)], LOG, 1e6)


@given(
    st.lists(st.tuples(st.floats(1, 900), st.floats(2, 600)), min_size=1, max_size=8),
    st.floats(-50_000, 50_000),
    st.booleans(),
)
def test_any_clock_is_learnt_from_frames_of_unlike_length(
    shots: list[tuple[float, float]], ahead: float, by_closing: bool
) -> None:
    log, files, at = [], [], DAWN
    for number, (pause, seconds) in enumerate(shots):
        at += timedelta(seconds=pause + 20)
        # Each a stop longer than the one before, so that no length is taken for another's.
        length = 2.0 ** (number - 3) * (1 + seconds / 6000)
        log.append(Candidate(str(number), at, length))
        closing = timedelta(seconds=length if by_closing else 0)
        files.append(File((at + closing + timedelta(seconds=ahead)).replace(tzinfo=None), length))
        at += timedelta(seconds=length)
    known = join(files, log, ahead)
    assert [each.frames for each in known.files] == [(each.id,) for each in log]
    # Learnt from openings it is found to a second; nothing that fits as well is kept silent.
    learnt = join(files, log)
    assert learnt.learnt
    if not by_closing:
        assert min(abs(each - ahead) for each in (learnt.ahead_seconds or 0.0, *learnt.others)) < 3.1


@given(
    st.lists(
        st.tuples(st.sampled_from([(NINE,), (FOUR,), (NINE, FOUR), ()]), st.floats(-2, 2), st.integers(0, 5)),
        min_size=1,
        max_size=12,
    )
)
@settings(deadline=None, max_examples=60)
def test_evidence_never_depends_on_the_order_and_counts_every_frame(
    shots: list[tuple[tuple[UsedGlass, ...], float, int]],
) -> None:
    frames = [
        frame(number * 7.0 + day * 1440, glass=glass, error_stops=error_stops)
        for number, (glass, error_stops, day) in enumerate(shots)
    ]
    forwards, backwards = weigh(frames, KIT), weigh(list(reversed(frames)), KIT)
    assert [(each.id, each.frames) for each in forwards.glass] == [(each.id, each.frames) for each in backwards.glass]
    for each, same in zip(forwards.glass, backwards.glass, strict=True):
        assert [same.mean, same.sd] == pytest.approx([each.mean, each.sd], abs=1e-6)
        assert each.frames == sum(any(on.id == each.id for on in glass) for glass, _, _ in shots)
        assert 0.05 <= each.sd <= 1.5
    assert forwards.used + sum(forwards.asides.values()) == (len(frames) if forwards.glass or forwards.used else 0)
    assert sum(habit.frames for habit in forwards.habits) in (0, len(frames))


@given(st.lists(st.tuples(st.sampled_from(["ok", "dark", "aborted"]), st.integers(0, 60)), max_size=14))
def test_time_lost_is_never_more_than_the_time_open(shots: list[tuple[str, int]]) -> None:
    came = {"ok": 0.0, "dark": -1.0, "aborted": None}
    frames, minute = [], 0.0
    for what, gap in shots:
        minute += gap + 3
        frames.append(frame(minute, error_stops=came[what], aborted=what == "aborted"))
    found = statistics_of(frames)
    assert 0 <= found.lost_seconds <= found.open_seconds == pytest.approx(120 * len(frames))
    spoilt = sum(what != "ok" for what, _ in shots)
    assert found.repeats <= spoilt
    followed = [what != "ok" and gap + 3 <= 22 for (what, _), (_, gap) in pairwise(shots)]
    assert found.repeats == sum(followed)
    assert sum(each.frames for each in found.mistakes) == spoilt


@pytest.mark.parametrize(
    ("pitch", "focal", "height", "share"),
    [(0, 24, 24, 0.0), (10, 24, 24, 0.0881635), (-10, 24, 24, 0.0881635), (10, 16, 24, 0.132245), (45, 1, 24, None)],
)
def test_upright_verticals_cost_a_share(pitch: float, focal: float, height: float, share: float | None) -> None:
    if share is None:
        with pytest.raises(Refusal):
            keystone_crop(pitch, focal, height)
        return
    assert keystone_crop(pitch, focal, height) == pytest.approx(share, rel=1e-5)
    # Against the trapezium itself: a pinhole turned level, its narrow and its wide edge.
    lean, half = math.radians(pitch), height / 2
    edges = [focal * math.cos(lean) + side * half * math.sin(lean) for side in (-1, 1)]
    narrow, wide = sorted(1 / edge for edge in edges)
    assert keystone_crop(pitch, focal, height) == pytest.approx((wide - narrow) / (wide + narrow), abs=1e-9)


def test_the_edit_in_order_with_amounts() -> None:
    defects = frozenset({Defect.SPECKS, Defect.CAST, Defect.CLIPPED, Defect.CORNER})
    notes = editing_notes(
        EditQuestion(
            error_stops=-2.3, defects=defects, glass=(Tint(cast="warm"), Tint()), pitch_deg=8, focal_mm=20, seconds=240
        )
    )
    assert [each.code for each in notes] == ["dark_frame", "white_balance", "lift", "corners", "verticals", "specks"]
    assert notes[2].amount == pytest.approx(2.3)
    assert "noisy" in notes[2].text
    measured = editing_notes(EditQuestion(glass=(Tint(mired=30), Tint(mired=12, corner_stops=0.8, cast="blue"))))
    assert [(each.code, each.amount) for each in measured] == [("white_balance", 42), ("corners", 0.8)]
    assert editing_notes(EditQuestion(error_stops=0.0)) == ()


@given(st.sampled_from(list(Step)), st.floats(0, 16), st.sampled_from([30.0, 60.0, 900.0]))
def test_the_card_says_what_to_set_and_what_rounding_costs(step: Step, stops: float, limit: float) -> None:
    lines = field_card([CardGlass("one", stops)], 1 / 1000, 1.0, limit, step)
    assert [line.mark for line in lines] == [mark.label for mark in times(step).between(1 / 1000, 1.0)]
    for line in lines:
        mark, cell = times(step).mark(line.mark), line.cells[0]
        assert mark
        assert cell.seconds
        assert cell.cost_stops == pytest.approx(math.log2(cell.seconds / mark.exact) - stops, abs=1e-9)
        # Beyond 30 s the printed marks (60, 80 s) stand up to 0.42 stop apart.
        bound = 0.35 if cell.bulb else 0.5 / step.per_stop + (0.05 if cell.seconds > 32 else 0.0)
        assert abs(cell.cost_stops) <= bound + 1e-9


def test_a_card_has_bounds() -> None:
    assert field_card([CardGlass("deep", 24.0)], 1 / 2, 1.0)[-1].cells[0].seconds is None
    for glass, fastest, slowest in (
        ([], 1 / 60, 1.0),
        ([CardGlass("x", 3.0)] * 9, 1 / 60, 1.0),
        ([CardGlass("x", 3.0)], 1.0, 1 / 60),
        ([CardGlass("x", 31.0)], 1 / 60, 1.0),
    ):
        with pytest.raises(Refusal):
            field_card(glass, fastest, slowest)


def test_a_trial_is_no_mistake_and_no_wish_and_still_says_what_the_filter_is() -> None:
    short: dict[str, Any] = {
        "seconds": 30.0,
        "aimed_seconds": 60.0,
        "planned_seconds": 60.0,
        "aim": (240.0, 480.0),
        "base_seconds": 0.25,
    }
    missed = frame(**short, error_stops=-2.0, bias_stops=-1.0)
    trial = frame(**short, error_stops=-2.0, bias_stops=-1.0, trial=True)
    again = frame(3.0, seconds=240.0, aimed_seconds=240.0, planned_seconds=240.0)
    told = statistics_of([missed, again])
    assert {mistake.code for mistake in told.mistakes} == {"too_dark", "late"}
    assert (told.repeats, len(told.missed)) == (1, 1)
    told = statistics_of([trial, again])
    assert (told.mistakes, told.repeats, told.missed) == ((), 0, ())
    assert wished([trial]) == ()
    # A stop short and two stops dark: the stack is a stop denser, late or not.
    assert against_label(replace(trial, aimed_seconds=30.0)) == pytest.approx(1.0)


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
    assert wished([frame(**facts)]) == stops


def test_the_latest_wishes_count_and_no_more_than_a_reach_can_take() -> None:
    many = [frame(minute, base_seconds=0.25, planned_seconds=60.0 + minute) for minute in range(600)]
    strengths = wished(many[::-1])
    assert len(strengths) == 500
    assert strengths == tuple(sorted(strengths))
