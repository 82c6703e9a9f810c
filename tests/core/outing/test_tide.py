"""The tide between one's own waters: what is known of it, when the way back floods, when to leave."""

from __future__ import annotations

import cmath
import math
import random
from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.typing import NDArray

from jackstaff_core.outing.days import Matter
from jackstaff_core.outing.tide import Crossing, LeaveBy, Water, WaterKind, WayBack, leave_by, water_height, water_kinds
from jackstaff_core.questions import ask
from jackstaff_core.words.refusal import Refusal, Refusals

BEGIN = datetime(2027, 4, 17, 3, 0, tzinfo=UTC)
LOW, HIGH = Water(BEGIN, 0.4), Water(BEGIN + timedelta(hours=6.5), 3.1)
MINUTE = timedelta(minutes=1)
HAIR = timedelta(milliseconds=1)


def day(*waters: str) -> list[Water]:
    """Waters of one day: "06:00 0.8", or "06:00 0.8 low"; past midnight "24:40 3.9"."""
    found = []
    for each in waters:
        clock, metres, *kind = each.split()
        hours, minutes = (int(part) for part in clock.split(":"))
        at = BEGIN.replace(hour=0) + timedelta(hours=hours, minutes=minutes)
        found.append(Water(at, float(metres), WaterKind(kind[0]) if kind else None))
    return found


def clock(at: datetime | None) -> str | None:
    return f"{at:%H:%M}" if at else None


def asked(waters: list[Water], at: str, level: float) -> LeaveBy:
    hours, minutes = (int(part) for part in at.split(":"))
    return leave_by(waters, level, 0, 0, BEGIN.replace(hour=0) + timedelta(hours=hours, minutes=minutes))


def test_the_height_follows_a_half_cosine_between_two_waters() -> None:
    for hours, metres in ((1, 0.554634), (3.25, 1.75), (5, 2.76049)):
        assert water_height([HIGH, LOW], BEGIN + timedelta(hours=hours)) == pytest.approx(metres, rel=1e-5)
    assert water_height([LOW, HIGH], BEGIN + timedelta(hours=9)) is None
    for bad in ([LOW], [LOW, Water(BEGIN + timedelta(minutes=10), 1)], [LOW, Water(HIGH.at, 99)]):
        with pytest.raises(Refusal):
            leave_by(bad, 1.0, 10, 10, BEGIN)
    with pytest.raises(Refusal, match="not above the low water"):
        water_height(day("06:00 0.8 high", "12:10 3.0 low"), BEGIN)


@pytest.mark.parametrize(
    ("waters", "told"),
    [
        (("06:00 0.8", "12:12 3.9", "18:25 0.9"), "low high low"),
        (("06:00 3.9", "12:12 0.8"), "high low"),
        # Twelve hours apart and as high: two of one kind, and nobody has said which.
        (("06:00 0.8", "18:25 0.9"), "none none"),
        (("06:00 0.8 low", "18:25 0.9"), "low none"),
        (("06:00 0.8", "18:25 0.9", "24:40 3.9"), "none low high"),
        # A day's tide takes twelve hours from low to high.
        (("06:00 0.3", "18:20 1.9", "30:40 0.4"), "low high low"),
        (("00:00 0.5", "06:10 3.0", "18:25 4.5", "24:40 0.5"), "low none high low"),
        # A neighbour whose kind is said tells the other.
        (("06:00 1.0", "12:00 1.1 high"), "low high"),
        (("06:00 1.0", "12:00 1.0"), "none none"),
    ],
)
def test_a_water_is_high_or_low_by_its_neighbours_or_not_told(waters: tuple[str, ...], told: str) -> None:
    assert " ".join(kind.value if kind else "none" for kind in water_kinds(day(*waters))) == told


@pytest.mark.parametrize(
    ("waters", "at", "level", "state", "missing", "known_until"),
    [
        # The high water at about 12:12 was not entered.
        (("06:00 0.8", "18:25 0.9"), "07:00", 3.0, "unknown", "06:00 18:25 high", "06:00"),
        (("06:00 0.8 low", "18:25 0.9 low"), "07:00", 3.0, "unknown", "06:00 18:25 high", "06:00"),
        (("06:00 3.8", "18:25 3.9"), "07:00", 3.0, "unknown", "06:00 18:25 low", "06:00"),
        (("06:00 0.5", "18:25 1.2"), "07:00", 2.0, "unknown", "06:00 18:25 high", "06:00"),
        (("06:00 0.8", "11:00 0.8"), "07:00", 3.0, "unknown", "06:00 11:00 None", "06:00"),
        (("06:00 0.8", "12:12 3.9", "18:25 0.9"), "07:00", 4.5, "dry", None, "18:25"),
        (("06:00 0.8", "12:12 2.9", "18:25 0.9", "30:50 1.0"), "07:00", 3.0, "dry", "18:25 06:50 high", "18:25"),
        (("06:00 0.8", "12:12 3.9"), "13:00", 3.0, "unknown", None, "12:12"),
        (("06:00 0.8", "12:12 3.9"), "12:12", 3.0, "unknown", None, "12:12"),
        (("06:00 0.8", "12:12 3.9", "18:25 0.9"), "12:00", 3.0, "flooded", None, "18:25"),
        (("06:00 0.8", "12:12 3.9"), "07:00", 3.0, "floods", None, "12:12"),
        # Two waters of a day's tide, between which the level lies.
        (("06:00 0.3", "18:20 1.9"), "07:00", 1.0, "floods", None, "18:20"),
        # Two waters as far apart as no tide is.
        (("06:00 0.8 low", "30:00 3.9 high"), "07:00", 3.0, "unknown", "06:00 06:00 None", "06:00"),
    ],
)
def test_what_is_not_known_of_the_water_is_said(
    waters: tuple[str, ...], at: str, level: float, state: str, missing: str | None, known_until: str
) -> None:
    found = asked(day(*waters), at, level)
    gap = found.missing and f"{clock(found.missing.start)} {clock(found.missing.end)} {found.missing.kind}"
    assert (found.state, gap, clock(found.known_until)) == (state, missing, known_until)
    assert (found.at is not None) == (state == "floods")
    # The screen draws no water where none is known.
    if found.missing and found.missing.kind:
        middle = found.missing.start + (found.missing.end - found.missing.start) / 2
        assert water_height(day(*waters), middle, level) is None


def test_before_the_first_water_nothing_is_known_but_no_flood_begins_while_it_falls_to_a_low() -> None:
    tide = day("06:00 0.8", "12:12 3.9", "18:25 0.9")
    flood = asked(tide, "06:00", 3.0)
    for at, there in (("01:00", False), ("01:30", True), ("05:59", True)):
        found = asked(tide, at, 3.0)
        assert (found.state, clock(found.known_from), found.at is not None) == ("unknown", "06:00", there)
        assert found.at in (None, flood.at)
    assert asked(day("06:00 3.9", "12:12 0.8"), "05:00", 3.0).at is None
    # Low, but what follows stays under the way: nothing to leave for is known.
    assert asked(tide, "05:00", 5.0).at is None


def test_how_far_the_high_water_stays_under_the_way_is_said() -> None:
    assert asked(day("06:00 0.8", "12:12 2.9", "18:25 0.9"), "07:00", 3.0).clearance_m == pytest.approx(0.1)


def test_the_margin_grows_with_the_steepness_of_the_rise() -> None:
    # light.md 6: low 12:00 0.8 m, high 18:42 5.0, level 1.85.
    found = asked(day("12:00 0.8", "18:42 5.0"), "12:00", 1.85)
    assert (clock(found.floods_at), clock(found.at)) == ("14:14", "13:34")
    assert found.doubt_minutes == pytest.approx(39.2, abs=0.1)
    walked = leave_by(day("12:00 0.8", "18:42 5.0"), 1.85, 20, 15, BEGIN.replace(hour=12))
    assert clock(walked.at) == "12:59"
    for hours, doubt in ((5.2, 8 + 13), (6.2, 8 + 25), (7.2, 8 + 47)):
        middle = leave_by([Water(BEGIN, 1), Water(BEGIN + timedelta(hours=hours), 3)], 2.0, 0, 0, BEGIN)
        assert middle.doubt_minutes == pytest.approx(doubt)
    assert leave_by([Water(BEGIN, 1), Water(BEGIN + timedelta(hours=3), 3)], 2.0, 0, 0, BEGIN).doubt_minutes == 8


@given(st.floats(0.41, 3.1), st.floats(0, 3600 * 6), st.floats(0, 90))
def test_leave_by_is_safe_whenever_one_asks(level: float, asked_after: float, walk: float) -> None:
    crossing = BEGIN + timedelta(hours=6.5 * math.acos(1 - 2 * (level - 0.4) / 2.7) / math.pi)
    now = BEGIN + timedelta(seconds=asked_after)
    found = leave_by([LOW, HIGH], level, walk, 15, now)
    if found.state is WayBack.FLOODED:
        assert now >= crossing - timedelta(seconds=1)
        return
    assert found.at is not None
    assert found.floods_at is not None
    assert found.doubt_minutes is not None
    assert -HAIR <= crossing - found.floods_at < MINUTE
    early = crossing - timedelta(minutes=found.doubt_minutes + walk + 15)
    assert -HAIR <= early - found.at < MINUTE
    assert found.at.second == found.at.microsecond == 0


@pytest.mark.parametrize(
    ("after_hours", "state", "flood"),
    [(0, "floods", 3.48), (5, "flooded", 5), (8.5, "flooded", 8.5), (9, "floods", 15.88)],
)
def test_the_next_flood_from_now_on_counts(after_hours: float, state: str, flood: float) -> None:
    waters = [Water(BEGIN + timedelta(hours=6.2 * turn), (0.4, 3.1)[turn % 2]) for turn in range(5)]
    found = leave_by(waters, 2.0, 10, 15, BEGIN + timedelta(hours=after_hours))
    assert (found.state, found.at is None) == (state, state == "flooded")
    assert found.floods_at is not None
    assert abs(found.floods_at - BEGIN - timedelta(hours=flood)) < timedelta(minutes=4)
    # A high water that just reaches the height floods.
    assert leave_by(waters, 3.1, 0, 0, BEGIN).floods_at == waters[1].at


def test_water_that_falls_past_the_way_floods_it_until_it_is_below() -> None:
    ebb = day("06:00 3.0", "12:12 0.4")
    for metres, state in ((0.05, "flooded"), (0.01, "flooded"), (-0.01, "dry"), (-0.05, "dry")):
        level = (water_height(ebb, BEGIN.replace(hour=9)) or 0) - metres
        assert asked(ebb, "09:00", level).state == state


def test_the_clocks_may_change_between_two_waters() -> None:
    oslo = ZoneInfo("Europe/Oslo")
    low = datetime(2027, 10, 31, 1, 30, tzinfo=oslo)
    high = datetime(2027, 10, 31, 6, 42, tzinfo=oslo)
    zoned = leave_by([Water(low, 0.8), Water(high, 5.0)], 2.9, 0, 0, low)
    plain = leave_by([Water(low.astimezone(UTC), 0.8), Water(high.astimezone(UTC), 5.0)], 2.9, 0, 0, low)
    assert zoned == plain
    assert zoned.floods_at == low.astimezone(UTC) + timedelta(hours=3, minutes=6)


def test_one_s_own_crossing_of_the_level_is_taken() -> None:
    yesterday = BEGIN - timedelta(days=1)
    watched = Crossing(yesterday + timedelta(hours=2.75), 1.75, yesterday, 0.4, yesterday + timedelta(hours=6.5), 3.1)
    plain, taught = (leave_by([LOW, HIGH], 1.75, 0, 0, BEGIN, crossings) for crossings in ((), (watched,)))
    # Half an hour before the half cosine on a flood just like it.
    assert (plain.floods_at, taught.floods_at) == (
        BEGIN + timedelta(hours=3.25),
        BEGIN + timedelta(hours=2.75),
    )
    assert (plain.doubt_minutes, taught.doubt_minutes) == pytest.approx((8 + 25 + 22 * 0.3, 6 + 4.2 / 0.6525), rel=1e-3)
    # Another level teaches nothing; a small flood is less late than a great one.
    assert leave_by([LOW, HIGH], 2.0, 0, 0, BEGIN, (watched,)) == leave_by([LOW, HIGH], 2.0, 0, 0, BEGIN)
    small = [Water(BEGIN, 0.85), Water(HIGH.at, 2.65)]
    assert leave_by(small, 1.75, 0, 0, BEGIN, (watched,)).floods_at == BEGIN + timedelta(hours=3.25, minutes=-20)
    for wrong in ({"at": yesterday}, {"level_m": 3.2}, {"high_at": yesterday + timedelta(hours=17)}):
        with pytest.raises(Refusal):
            replace(watched, **wrong)


def coast(dice: random.Random, minutes: NDArray[np.float64]) -> NDArray[np.float64]:
    """Heights [m] of a made-up coast: half-day tides, the faster ones that shoals make of them, and a daily one."""
    middle = dice.uniform(0.5, 2)
    second, daily = dice.uniform(0.2, 0.45), dice.uniform(0, 0.1)
    quarter, sixth = dice.uniform(0, 0.15), dice.uniform(0, 0.03)

    def turning(hours: float) -> NDArray[np.complex128]:
        return np.asarray(np.exp(2j * math.pi * (minutes / 60 / hours + dice.random())))

    half = turning(12.4206) + second * turning(12.0)
    shoals = [cmath.exp(2j * math.pi * dice.random()) for _ in range(2)]
    whole = half + quarter * shoals[0] * half**2 + sixth * shoals[1] * half**3 + daily * turning(24.84)
    return np.asarray(middle * whole.real)


def floods_of(heights: NDArray[np.float64]) -> Iterator[tuple[int, int]]:
    """The minutes of low and of high water of each flood."""
    turns = np.flatnonzero(np.diff(np.sign(np.diff(heights)))) + 1
    for low, high in pairwise(turns):
        if heights[low] < heights[high] and 4 * 60 < high - low < 9 * 60:
            yield int(low), int(high)


def test_leave_by_is_seldom_late_on_coasts_with_shoals() -> None:
    dice = random.Random(7)
    late: dict[str, list[bool]] = {"ours": [], "a quarter of an hour": [], "after a crossing": []}
    doubts: dict[str, list[float]] = {"ours": [], "after a crossing": []}
    minutes = np.arange(15 * 24 * 60, dtype=np.float64)

    def at(minute: float) -> datetime:
        return BEGIN + minute * MINUTE

    for _ in range(100):
        heights = coast(dice, minutes)
        watched: dict[float, Crossing] = {}
        for low, high in list(floods_of(heights))[::2]:
            low_m, high_m = round(float(heights[low]), 1), round(float(heights[high]), 1)
            if high_m - low_m < 0.5:
                continue
            share = dice.choice((0.2, 0.35, 0.5, 0.65, 0.8))
            wanted = next(iter(watched), round(low_m + share * (high_m - low_m), 1))
            if not max(low_m, heights[low]) < wanted < min(high_m, heights[high]):
                continue
            true = at(float(np.interp(wanted, heights[low : high + 1], minutes[low : high + 1])))
            waters = [Water(at(low), low_m), Water(at(high), high_m)]
            if wanted in watched:
                taught = leave_by(waters, wanted, 0, 0, at(low), (watched[wanted],))
                late["after a crossing"].append((taught.at or true) > true)
                doubts["after a crossing"].append(taught.doubt_minutes or 0)
            watched.setdefault(wanted, Crossing(true, wanted, at(low), low_m, at(high), high_m))
            found = leave_by(waters, wanted, 0, 0, at(low))
            assert found.at is not None
            assert found.floods_at is not None
            late["ours"].append(found.at > true)
            doubts["ours"].append(found.doubt_minutes or 0)
            late["a quarter of an hour"].append(found.floods_at - 15 * MINUTE > true)
    shares = {name: sum(each) / len(each) for name, each in late.items()}
    assert min(len(each) for each in late.values()) > 500
    assert shares["ours"] < 0.025, shares
    assert shares["a quarter of an hour"] > 0.08, shares
    assert shares["after a crossing"] < 0.04, shares
    means = {name: sum(each) / len(each) for name, each in doubts.items()}
    assert means["after a crossing"] < 0.6 * means["ours"] < 0.6 * 35, means


def test_the_question_tells_each_water_s_kind_and_where_one_is_missing() -> None:
    waters = [
        {"at": "2027-04-17T18:25:00Z", "height_m": 0.9, "kind": None},
        {"at": "2027-04-17T06:00:00Z", "height_m": 0.8, "kind": "low"},
    ]
    found = ask("outing/tide", {"waters": waters, "at": "2027-04-17T07:00:00Z", "floods_at_m": 3.0})
    assert found["kinds"] == [None, "low"]
    assert (found["state"], found["leave_by"], found["height_m"]) == ("unknown", None, None)
    assert found["missing"] == {"from": "2027-04-17T06:00:00Z", "to": "2027-04-17T18:25:00Z", "kind": "high"}
    assert found["known_until"] == "2027-04-17T06:00:00Z"
    high = {"at": "2027-04-17T12:12:00Z", "height_m": 3.9}
    found = ask("outing/tide", {"waters": [*waters, high], "at": "2027-04-17T07:00:00Z", "floods_at_m": 3.0})
    assert (found["kinds"], found["state"], found["missing"]) == (["low", "low", "high"], "floods", None)
    # Which day: the second of two lows is no high.
    place = {"latitude": 58.05, "longitude": 6.8, "zone": "Europe/Oslo", "first": "2027-04-17", "days": 1}
    for given_waters, highs in ((waters, []), ([*waters, high], [True])):
        days = ask("outing/days", {**place, "waters": given_waters, "matter": Matter.DATE})
        assert [turn["high"] for turn in days["days"][0]["waters"] if turn["high"]] == highs


@pytest.mark.parametrize("first", ["0001-01-01", "1899-12-31", "9999-12-31"])
def test_a_day_is_of_our_times(first: str) -> None:
    with pytest.raises(Refusals, match="between the years 1900 and 2200"):
        ask("outing/days", {"latitude": 58, "longitude": 6, "zone": "Europe/Oslo", "first": first})
