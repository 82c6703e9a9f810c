"""Test core/practice/dryrun/replay.py."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any
from uuid import UUID

import pytest

from jackstaff_core.practice.dryrun.careful import careful_pictures
from jackstaff_core.practice.dryrun.develop import (
    DevelopQuestion,
    ErrorSource,
    FaultCode,
    Shot,
    develop,
)
from jackstaff_core.practice.dryrun.replay import LossCode, LostBy, MeterLook, Replay, ReplayQuestion, replay
from jackstaff_core.practice.dryrun.scenario import Scenario, check_gear_suffices, hidden_stops
from jackstaff_core.practice.dryrun.world import ReadMeterQuestion, light_path_from, meter
from jackstaff_core.questions import ask
from jackstaff_core.wire.reader import plain, read
from jackstaff_core.words.refusal import Refusal, Refusals
from tests.core.practice.dryrun.given_shots import CLEAN, MOLE, TARN, named, on, right, shot, without

DENSE = named(TARN, "Slot ND 10")


def test_a_cast_is_news_once() -> None:
    warm = replace(
        TARN, seed=next(seed for seed in range(99) if hidden_stops(replace(TARN, seed=seed), DENSE).cast_mired > 60)
    )
    dense = right(warm, 3, "Slot ND 10", "Slot ND 6")
    told = replay(ReplayQuestion(warm, (dense, replace(dense, opened_at=dense.opened_at + timedelta(minutes=6)))))
    assert [loss.shot for loss in told.losses if loss.code is FaultCode.CAST] == [0]


LOSSES: list[tuple[str, ReplayQuestion, LostBy]] = [
    ("late", ReplayQuestion(MOLE, (CLEAN,), left_at=MOLE.leave_by() + timedelta(minutes=9)), LossCode.CUT_OFF),
    ("nothing taken", ReplayQuestion(MOLE), LossCode.NEVER_TAKEN),
    ("too short for mist", ReplayQuestion(MOLE, (right(MOLE, 20, "Slot ND 3"),)), LossCode.TOO_SHORT),
    ("too long for a veil", ReplayQuestion(MOLE, (right(MOLE, 1, "Slot ND 6", framing=1),)), LossCode.TOO_LONG),
    ("closed late", ReplayQuestion(MOLE, (replace(CLEAN, seconds=CLEAN.seconds * 1.5),)), ErrorSource.TIMING),
    ("rising light", ReplayQuestion(MOLE, (right(MOLE, 0, "Slot ND 6"),)), LossCode.NEVER_TAKEN),
]  # fmt: skip


@pytest.mark.parametrize(("_name", "asked", "code"), LOSSES, ids=[row[0] for row in LOSSES])
def test_a_loss_is_named(_name: str, asked: ReplayQuestion, code: LostBy) -> None:
    told = replay(asked)
    assert code in {loss.code for loss in told.losses}
    assert told.practise.code is told.losses[0].code


def metered_and_taken(
    scenario: Scenario, minute: float, wait: float, *names: str, looked: str = "", **more: Any
) -> Replay:
    """A frame worked out of one reading, and opened ``wait`` minutes after it."""
    opened = scenario.starts_at + timedelta(minutes=minute)
    metered_at = opened - timedelta(minutes=wait)
    through = on(scenario, looked) if looked else ()
    asked = ReadMeterQuestion(scenario, 0, metered_at, "2.8", "6400", tuple(each.on for each in through))
    shutter = meter(asked).shutter
    seconds = ask(
        "exposure",
        {
            "reading": {"shutter": shutter, "aperture": "2.8", "iso": "6400"},
            "settings": {"aperture": "11", "iso": "64"},
            "stack": [{"stops": each.stops} for each in on(scenario, *names)],
        },
    )["set_seconds"]
    taken = shot(scenario, minute, seconds, *names, aperture="11", metered_at=metered_at, **more)
    seen = (MeterLook(metered_at, 0, tuple(each.id for each in through)),)
    return replay(ReplayQuestion(scenario, (taken,), seen))


def test_light_that_rose_after_the_metering_and_a_filter_left_on_are_told_apart() -> None:
    rose = metered_and_taken(MOLE, 14, 12, "Slot ND 3")
    assert {loss.code for loss in rose.losses if loss.shot == 0} >= {ErrorSource.LIGHT}
    assert next(loss.stops or 0 for loss in rose.losses if loss.code is ErrorSource.LIGHT) > 1
    through = metered_and_taken(MOLE, 4, 0.3, "Slot ND 3", looked="Slot ND 3")
    blamed = next(loss for loss in through.losses if loss.code is LossCode.THROUGH_FILTER)
    assert blamed.stops == pytest.approx(3.37, abs=0.4)
    assert "Slot ND 3" in blamed.text
    clean = metered_and_taken(MOLE, 4, 0.3, "Slot ND 3")
    assert {loss.code for loss in clean.losses if loss.shot == 0} <= {ErrorSource.FILTERS, LossCode.TOO_SHORT}


def codes_of(taken: Shot, *looked: MeterLook, scenario: Scenario = MOLE) -> set[LostBy]:
    return {loss.code for loss in replay(ReplayQuestion(scenario, (taken,), looked)).losses if loss.shot == 0}


def test_what_made_up_for_itself_is_no_loss_and_what_pulled_the_other_way_no_cause() -> None:
    lighter = replace(CLEAN, stack=(replace(CLEAN.stack[0], stops=CLEAN.stack[0].stops + 1),))
    assert codes_of(lighter) == set()
    # A third dark by the filter, a stop bright by the clock: the filter is not to blame.
    late = replace(CLEAN, seconds=CLEAN.seconds * 2)
    assert codes_of(late) >= {ErrorSource.TIMING}
    assert ErrorSource.FILTERS not in codes_of(late)
    through = replace(CLEAN, metered_at=CLEAN.opened_at, metered_seconds=CLEAN.seconds * 8, seconds=CLEAN.seconds * 8)
    through = replace(through, aimed_seconds=through.seconds)
    seen = MeterLook(CLEAN.opened_at, 0, (CLEAN.stack[0].id,))
    assert LossCode.THROUGH_FILTER in codes_of(through, seen)
    told = replace(through, stack=(replace(through.stack[0], in_reading=True),), metered_seconds=CLEAN.seconds * 4)
    assert LossCode.THROUGH_FILTER not in codes_of(told, seen)


def test_harm_comes_first_and_frames_in_their_order() -> None:
    late = replay(ReplayQuestion(MOLE, (without(CLEAN, "focus"),), left_at=MOLE.leave_by() + timedelta(minutes=3)))
    assert [loss.code for loss in late.losses[:2]] == [LossCode.CUT_OFF, FaultCode.FOCUS]
    again = replace(CLEAN, opened_at=CLEAN.opened_at + timedelta(minutes=5))
    with pytest.raises(Refusal, match="order they were taken"):
        replay(ReplayQuestion(MOLE, (again, CLEAN)))
    held = develop(DevelopQuestion(TARN, shot(TARN, 3, 20, "Slot ND 10")))
    assert (held.busy_seconds, develop(DevelopQuestion(MOLE, CLEAN)).busy_seconds) == (20, 0)


def test_nothing_that_can_be_sent_makes_much_work() -> None:
    far = replace(CLEAN, opened_at=CLEAN.opened_at.replace(year=9000), seconds=86_400.0)
    told = replay(ReplayQuestion(MOLE, (far,)))
    assert len(told.light) <= 7200 / 30 + 2
    # A day's frame has no more knots than an hour's.
    assert len(light_path_from(MOLE, MOLE.framings[0], 0, 86_400).seconds) <= 243
    # More slots than any holder's: a deep one with a polariser ring.
    deep = replace(named(MOLE, "100 mm holder"), thing=replace(MOLE.holder, slots=4))  # type: ignore[type-var]
    kit = tuple(deep if item.sort == "holder" else item for item in MOLE.kit)
    assert all(careful_pictures(replace(MOLE, kit=kit)))
    crowded = (*MOLE.kit, *(replace(MOLE.filters[0], id=UUID(int=place)) for place in range(9 - len(MOLE.filters))))
    check_gear_suffices(crowded[:-1])
    with pytest.raises((Refusal, Refusals), match="filters are too many"):
        read(Scenario, {**plain(MOLE), "kit": plain(crowded)})
