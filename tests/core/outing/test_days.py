"""Test core/outing/days.py."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from itertools import pairwise
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jackstaff_core.outing.days import Day, DaysQuestion, Matter, Span, days
from jackstaff_core.outing.swaps import SwapWish, plan_swaps
from jackstaff_core.outing.tide import Water
from jackstaff_core.questions import ask
from jackstaff_core.sky.forecast import LightQuestion, forecast
from jackstaff_core.sky.sun_and_moon import Place, moon_at
from jackstaff_core.wire.reader import read

VARDSUND = Place(58.052, 6.798)
ZONE = "Europe/Oslo"
BAG = read(
    SwapWish,
    {
        "from_seconds": 20,
        "to_seconds": 110,
        "glass": [
            {"id": "six", "kind": "solid", "stops": 6},
            {"id": "three", "kind": "solid", "stops": 3},
            {"id": "turn", "kind": "variable", "min": 2, "max": 5},
        ],
        "slots": 2,
        "apertures": ["2.8", "16"],
        "isos": ["64", "100"],
    },
)


def asked(**more: Any) -> DaysQuestion:
    return DaysQuestion(VARDSUND, ZONE, date(2027, 4, 12), **more)


def test_days_follow_each_other_from_midnight_to_midnight_also_where_the_clock_is_changed() -> None:
    found = days(DaysQuestion(VARDSUND, ZONE, date(2027, 3, 26), days=4)).days
    assert [day.date.day for day in found] == [26, 27, 28, 29]
    assert all(each.ends == other.begins for each, other in pairwise(found))
    assert [(day.ends - day.begins) / timedelta(hours=1) for day in found] == [24, 24, 23, 24]
    for day in found:
        assert all(day.begins <= event.at <= day.ends for event in day.events if event.at)
        assert [event.name for event in day.events if event.name in ("sunrise", "sunset")] == ["sunrise", "sunset"]


def test_a_look_is_in_reach_exactly_where_the_plan_of_changes_finds_a_way() -> None:
    for day in days(asked(days=3, wish=BAG)).days:
        light = forecast(LightQuestion(VARDSUND, day.begins, day.ends, 600.0)).points
        stretches = plan_swaps(light, BAG).stretches
        for point in light[:-1]:
            stretch = next(each for each in stretches if each.start <= point.at < each.end)
            assert (stretch.glass is not None) == _inside(day.look, point.at), point.at


def _inside(spans: tuple[Span, ...], at: datetime) -> bool:
    return any(span.start <= at < span.end for span in spans)


def test_the_moon_is_up_where_the_library_has_it() -> None:
    for day in days(asked(days=14)).days:
        edges = [edge for span in day.moon_up for edge in (span.start, span.end)]
        for edge in edges:
            if edge not in (day.begins, day.ends):
                before, after = (moon_at(VARDSUND, edge + timedelta(minutes=m))[0] for m in (-5, 5))
                assert before * after < 0
        noon = day.begins + (day.ends - day.begins) / 2
        assert _inside(day.moon_up, noon) == (moon_at(VARDSUND, noon)[0] > 0)
    # Full on 20 April 2027 at 22:27 UTC, which is the 21st there.
    assert max(days(asked(days=14)).days, key=lambda day: day.lit).date == date(2027, 4, 21)


WATERS = tuple(
    Water(datetime(2027, 4, 12, 1, 30, tzinfo=UTC) + timedelta(hours=6.21 * n), 1.9 if n % 2 else 0.3)
    for n in range(50)
)


def _sun(day: Day, event: str) -> datetime:
    return next(each.at for each in day.events if each.name == event and each.at)


def _apart(day: Day, event: str) -> timedelta:
    return min(abs(turn.at - _sun(day, event)) for turn in day.waters if not turn.high)


@pytest.mark.parametrize(("matter", "event"), [("low_at_sunrise", "sunrise"), ("low_at_sunset", "sunset")])
def test_the_day_whose_low_water_is_nearest_comes_first(matter: str, event: str) -> None:
    found = days(asked(waters=WATERS, matter=Matter(matter))).days
    known = [day for day in found if any(not turn.high for turn in day.waters)]
    assert list(found[: len(known)]) == known
    assert [_apart(day, event) for day in known] == sorted(_apart(day, event) for day in known)
    for day in known:
        low = min((turn.at for turn in day.waters if not turn.high), key=lambda at: abs(at - _sun(day, event)))
        apart = (low - _sun(day, event)) / timedelta(minutes=1)
        hours, minutes = divmod(round(abs(apart)), 60)
        length = f"{minutes} min" if not hours else f"{hours} h {minutes:02} min" if minutes else f"{hours} h"
        when = "at" if abs(apart) < 1 else f"{length} {'after' if apart > 0 else 'before'}"
        assert day.why == f"low water {low.astimezone(ZoneInfo(ZONE)):%H:%M}, {when} {event}"
    assert any(" h " in (day.why or "") for day in known)
    assert all(turn.height_m == (1.9 if turn.high else 0.3) for day in found for turn in day.waters)


def _water(day: int, hour: float, height_m: float) -> Water:
    return Water(datetime(2027, 4, day, tzinfo=UTC) + timedelta(hours=hour), height_m)


@pytest.mark.parametrize(
    ("waters", "highs"),
    [
        # Entered twice, as a copied outing has it, a high water stays one high water.
        ([_water(12, 3, 0.3), _water(12, 9, 1.9), _water(12, 9, 1.9), _water(12, 3, 0.3)], [False, True]),
        # What was entered for a day long before says nothing of a low water that is a little higher.
        ([_water(12, 3, 0.3), _water(12, 9, 1.9), _water(15, 5, 0.5), _water(15, 11, 1.8)], [False, True, False, True]),
        ([_water(12, 3, 0.3)], []),
        ([_water(12, 3, 0.3), _water(13, 4, 1.9)], []),
        ([_water(12, 3, 0.3), _water(12, 9, 0.3)], []),
    ],
)
def test_a_water_is_high_or_low_by_the_one_beside_it(waters: list[Water], highs: list[bool]) -> None:
    found = days(asked(days=5, waters=tuple(waters))).days
    assert [turn.high for day in found for turn in day.waters] == highs


def test_where_nothing_is_known_of_what_matters_it_is_said() -> None:
    unknown = days(asked(matter=Matter.LOW_AT_SUNRISE)).none_because
    assert unknown == "No low water is entered for a day with a sunrise."
    north = DaysQuestion(
        Place(70.0, 20.0), ZONE, date(2027, 12, 20), days=3, waters=WATERS, matter=Matter.LOW_AT_SUNSET
    )
    assert days(north).none_because is not None
    summer = DaysQuestion(Place(70.0, 20.0), ZONE, date(2027, 6, 20), days=3, matter=Matter.DARK)
    assert days(summer).none_because is not None
    assert [day.dark for day in days(summer).days] == [(), (), ()]


@pytest.mark.parametrize("matter", [matter for matter in Matter if matter is not Matter.DATE])
@settings(max_examples=4)
@given(st.integers(0, 300))
def test_every_order_keeps_every_day_and_names_its_reason_first(matter: Matter, later: int) -> None:
    first = date(2027, 1, 1) + timedelta(days=later)
    found = days(DaysQuestion(VARDSUND, ZONE, first, 7, wish=BAG, waters=WATERS, matter=matter)).days
    assert sorted(day.date for day in found) == [first + timedelta(days=n) for n in range(7)]
    said = [day.why is not None for day in found]
    assert said == sorted(said, reverse=True)


def test_more_moonlight_and_more_dark_come_first() -> None:
    def minutes(day: Day) -> float:
        return sum(
            max(timedelta(), min(up.end, dark.end) - max(up.start, dark.start)) / timedelta(minutes=1)
            for up in day.moon_up
            for dark in day.dark
        )

    moonlit = days(asked(matter=Matter.MOONLIGHT)).days
    lights = [minutes(day) * day.lit for day in moonlit]
    assert lights == sorted(lights, reverse=True)
    night = days(asked(matter=Matter.DARK)).days
    left = [sum((dark.end - dark.start) / timedelta(minutes=1) for dark in day.dark) - minutes(day) for day in night]
    assert left == sorted(left, reverse=True)


def test_the_question_is_bounded_before_any_work() -> None:
    for wrong in ({"days": 32}, {"days": 0}, {"first": "9999-12-01"}, {"zone": "No/Where"}):
        with pytest.raises(Exception, match=r"days|years|zone"):
            ask("outing/days", {"latitude": 58, "longitude": 6, "zone": ZONE, "first": "2027-04-12", **wrong})
