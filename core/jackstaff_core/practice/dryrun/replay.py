"""A dry run on one timeline: what was done against what could have been had, each loss in stops and minutes.

    loss of a frame = its parts beyond a sixth of a stop, its stops outside the wished looks, its faults
    minutes         = how long the frame held the camera, noise reduction counted
    obtained        = of the frames of a picture the one with the least |stops| + |stops outside| + 2 a spoiling fault

What could have been had is worked out by practice/dryrun/careful.py from the same light, glass and gear. The one thing
to practise is the loss that weighs most: harm, a picture never taken, a spoiled frame, then stops.

Source: ours; every figure is asked of practice/dryrun/develop.py and practice/dryrun/careful.py. Limits: 40 frames.
Verdict: computed on made-up light.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum
from typing import Annotated
from uuid import UUID

from ...scales.spoken import time_in_words
from ...wire.marks import Size
from ...words.refusal import Refusal
from ..drills import DrillKind
from .careful import Careful, careful_pictures
from .develop import NEAR_STOPS, Developed, DevelopQuestion, ErrorSource, FaultCode, Purpose, Shot, develop, loss_score
from .scenario import Framing, Scenario, hidden_stops
from .world import scene_light

MOST_SHOTS = 40
MOST_METERED = 200
LIGHT_EVERY_S = 30
LONGEST_SHOWN_S = 7200.0
"""Of the light, whenever a frame is said to have been taken."""
THROUGH_STOPS = 1.0
"""A reading this far off, with a filter on that was reckoned as off, was taken through it."""


@dataclass(frozen=True, slots=True)
class MeterLook:
    """The meter was looked at: when, at which picture, and whether a filter was on."""

    at: datetime
    framing: int
    through: Annotated[tuple[UUID, ...], Size(0, 8)] = ()


@dataclass(frozen=True, slots=True)
class ReplayQuestion:
    """What was done: frames in their order, readings, and when one left; None where one never did."""

    scenario: Scenario
    shots: Annotated[tuple[Shot, ...], Size(0, MOST_SHOTS)] = ()
    looked: Annotated[tuple[MeterLook, ...], Size(0, MOST_METERED)] = ()
    left_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class Done:
    """A frame as it was, on the timeline [s from the start]."""

    shot: int
    framing: int
    from_second: float
    to_second: float
    purpose: Purpose
    developed: Developed


@dataclass(frozen=True, slots=True)
class Had:
    """A picture as it could have been had."""

    from_second: float
    to_second: float
    developed: Developed
    text: str


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture of the list: the best of one's own frames of it, and what was possible; None for none."""

    framing: int
    name: str
    drawn: str
    obtained: int | None
    possible: Had | None
    text: str


class LossCode(StrEnum):
    """What was lost by, beside faults of the picture and causes of its exposure."""

    CUT_OFF = "cut_off"
    NEVER_TAKEN = "never_taken"
    TOO_SHORT = "too_short"
    TOO_LONG = "too_long"
    THROUGH_FILTER = "through_filter"


LostBy = LossCode | FaultCode | ErrorSource


@dataclass(frozen=True, slots=True)
class Loss:
    """``shot`` and ``framing`` say where; ``stops`` how far off it put the frame, ``minutes`` what it took."""

    code: LostBy
    text: str
    cure: str
    shot: int | None = None
    framing: int | None = None
    stops: float | None = None
    minutes: float = 0.0


@dataclass(frozen=True, slots=True)
class Practise:
    """The one thing to practise next: a kind of drill, or this very scenario again."""

    code: LostBy | None
    drill: DrillKind | None
    text: str


@dataclass(frozen=True, slots=True)
class SceneLight:
    """The scene's light [EV at ISO 100] at a second."""

    second: float
    ev100: float


@dataclass(frozen=True, slots=True)
class Revealed:
    """A filter's hidden strength beside its label [stops]."""

    id: UUID
    name: str
    stops: float


@dataclass(frozen=True, slots=True)
class Replay:
    """The whole of it; ``leave_second`` is when one had to turn back."""

    light: tuple[SceneLight, ...]
    leave_second: float
    left_second: float | None
    frames: tuple[Done, ...]
    pictures: tuple[Picture, ...]
    losses: tuple[Loss, ...]
    practise: Practise
    filters: tuple[Revealed, ...]
    text: str


def replay(question: ReplayQuestion) -> Replay:
    """Lay what was done beside what was possible.

    Raises
    ------
    Refusal
        A frame of another dry run, or frames out of order.
    """
    scenario = question.scenario
    _in_order(question)
    frames = tuple(_developed(question))
    pictures = tuple(_pictures(scenario, frames, careful_pictures(scenario)))
    losses = sorted(_losses(question, frames, pictures), key=_weight, reverse=True)
    last = min(max([60 * scenario.minutes, *(each.to_second for each in frames)]), LONGEST_SHOWN_S)
    seconds = range(0, int(last) + LIGHT_EVERY_S, LIGHT_EVERY_S)
    return Replay(
        tuple(SceneLight(float(second), scene_light(scenario, _FLAT, second)) for second in seconds),
        scenario.second(scenario.leave_by()),
        None if question.left_at is None else scenario.second(question.left_at),
        frames,
        pictures,
        tuple(losses),
        _practise(scenario, losses),
        tuple(Revealed(item.id, item.name, hidden_stops(scenario, item).stops) for item in scenario.filters),
        _outcome_in_words(pictures),
    )


_FLAT = Framing("", "mole", (), (), (), 24)
"""A picture that lies in the scene's own light."""


def _in_order(question: ReplayQuestion) -> None:
    opened = [shot.opened_at for shot in question.shots]
    if opened != sorted(opened):
        raise Refusal("shots", "The frames are not in the order they were taken.", "Sort them by their opening.")


def _developed(question: ReplayQuestion) -> Iterator[Done]:
    scenario = question.scenario
    through: set[UUID] = set()
    for place, shot in enumerate(question.shots):
        before = tuple(key for key in through if any(item.id == key for item in scenario.filters))
        developed = develop(DevelopQuestion(scenario, shot, before))
        opened = scenario.second(shot.opened_at)
        ended = opened + shot.seconds + developed.busy_seconds
        yield Done(place, shot.framing, opened, ended, shot.purpose, developed)
        through |= {each.id for each in shot.stack}


def _pictures(scenario: Scenario, frames: Sequence[Done], had: Sequence[Careful | None]) -> Iterator[Picture]:
    for place, (framing, best) in enumerate(zip(scenario.framings, had, strict=True)):
        own = [each for each in frames if each.framing == place and each.purpose is Purpose.FRAME]
        obtained = min(own, key=lambda each: loss_score(each.developed)) if own else None
        yield Picture(
            place,
            framing.name,
            framing.drawn,
            obtained.shot if obtained else None,
            _had(scenario, best) if best else None,
            _picture_in_words(obtained, best),
        )


def _had(scenario: Scenario, best: Careful) -> Had:
    opened = scenario.second(best.shot.opened_at)
    return Had(opened, opened + best.shot.seconds, best.developed, best.text)


_SEEN_AS = {
    FaultCode.LEAK: "stray light",
    FaultCode.SHAKE: "shaken",
    FaultCode.FOCUS: "out of focus",
    FaultCode.CORNER: "dark corners",
    FaultCode.CROSS: "dark bands",
    FaultCode.CAST: "a cast",
    FaultCode.CLIPPED: "burnt out",
}


def _picture_in_words(obtained: Done | None, best: Careful | None) -> str:
    if obtained is None:
        return "Never taken." if best else "Not taken, and not to be had in this light."
    mine = obtained.developed
    words = [mine.text.rstrip(".").lower()]
    if mine.window_stops:
        words.append(
            f"{abs(mine.window_stops):.1f} stops too {'long' if mine.window_stops > 0 else 'short'} for the look"
        )
    words += dict.fromkeys(_SEEN_AS[fault.code] for fault in mine.faults)
    return f"{', '.join(words).capitalize()}."


def _losses(question: ReplayQuestion, frames: Sequence[Done], pictures: Sequence[Picture]) -> Iterator[Loss]:
    scenario = question.scenario
    yield from _cut_off(scenario, question, frames)
    for picture in pictures:
        if picture.obtained is None and picture.possible is not None:
            yield Loss(
                LossCode.NEVER_TAKEN,
                f"{picture.name} was never taken. It could be had: {picture.possible.text}",
                "Plan the order of pictures by the light and the time to leave.",
                framing=picture.framing,
                minutes=(picture.possible.to_second - picture.possible.from_second) / 60,
            )
    for done in frames:
        if done.purpose is Purpose.FRAME:
            yield from _of_frame(question, done, pictures[done.framing])


def _cut_off(scenario: Scenario, question: ReplayQuestion, frames: Sequence[Done]) -> Iterator[Loss]:
    leave = scenario.leave_by()
    ends = [scenario.starts_at + timedelta(seconds=each.to_second) for each in frames]
    away = question.left_at or max([*ends, scenario.starts_at + timedelta(minutes=scenario.minutes)])
    late = (away - leave).total_seconds()
    tide = scenario.floods_at_m is not None
    if late >= 60 and (tide or question.left_at is not None):
        yield Loss(
            LossCode.CUT_OFF,
            f"You left {time_in_words(late)} after the time to leave"
            + (": the way back was flooding." if tide else "."),
            "No frame is worth it: pack up while the last one could still be finished.",
            minutes=late / 60,
        )


def _of_frame(question: ReplayQuestion, done: Done, picture: Picture) -> Iterator[Loss]:
    developed, shot = done.developed, question.shots[done.shot]
    took = (done.to_second - done.from_second) / 60
    here = Loss(ErrorSource.LIGHT, "", "", done.shot, done.framing, None, took)
    for fault in developed.faults:
        yield replace(here, code=fault.code, text=fault.text, cure=fault.cure, stops=fault.stops)
    if abs(developed.window_stops) >= NEAR_STOPS:
        long = developed.window_stops > 0
        possible_off = abs(picture.possible.developed.window_stops) if picture.possible else 0.0
        if abs(developed.window_stops) > possible_off + NEAR_STOPS:
            yield replace(
                here,
                code=LossCode.TOO_LONG if long else LossCode.TOO_SHORT,
                text=f"{abs(developed.window_stops):.1f} stops too {'long' if long else 'short'} for the look wished.",
                cure="Choose filters for the look's own time first; aperture and ISO trim it.",
                stops=developed.window_stops,
            )
    # Parts that make up for one another have cost nothing.
    if abs(developed.error_stops) < NEAR_STOPS:
        return
    for part in developed.parts:
        if abs(part.stops) < NEAR_STOPS or (part.stops > 0) != (developed.error_stops > 0):
            continue
        if part.cause is ErrorSource.READING and (through := _through(question, shot)):
            names = " and ".join(question.scenario.filter(key).name for key in through)
            yield replace(
                here,
                code=LossCode.THROUGH_FILTER,
                text=f"Metered with {names} on and reckoned as bare: {abs(part.stops):.1f} stops too bright.",
                cure="Say what the meter saw through, or take it off to meter.",
                stops=part.stops,
            )
            continue
        yield replace(here, code=part.cause, text=part.text, cure=_CURES[part.cause], stops=part.stops)


def _through(question: ReplayQuestion, shot: Shot) -> tuple[UUID, ...]:
    """Return the filters that were on at the metering of a frame and that its sum took for off."""
    if shot.metered_at is None:
        return ()
    before = [each for each in question.looked if each.framing == shot.framing and each.at <= shot.metered_at]
    if not before:
        return ()
    metered_through = {each.id for each in shot.stack if each.in_reading}
    return tuple(key for key in max(before, key=lambda each: each.at).through if key not in metered_through)


_CURES = {
    ErrorSource.TIMING: "Let the remote or the camera close it, or count down aloud.",
    ErrorSource.FILTERS: "Take a first look at high ISO with the filters on, and correct by its histogram.",
    ErrorSource.READING: "Meter again right before opening, and read the display twice.",
    ErrorSource.DECIDED: "Take the time the sum gives, or move the aperture to fit the time you want.",
    ErrorSource.LIGHT: (
        "Meter twice a few minutes apart, and again while it is open: close by the light, not by the clock."
    ),
}
_DRILLS: Mapping[LostBy, DrillKind] = {
    ErrorSource.TIMING: DrillKind.DIAL,
    ErrorSource.FILTERS: DrillKind.STACK,
    ErrorSource.READING: DrillKind.PLAUSIBLE,
    ErrorSource.DECIDED: DrillKind.TRADE,
    ErrorSource.LIGHT: DrillKind.LIGHT,
    LossCode.THROUGH_FILTER: DrillKind.PLAUSIBLE,
    LossCode.TOO_SHORT: DrillKind.STACK,
    LossCode.TOO_LONG: DrillKind.TRADE,
    **dict.fromkeys(FaultCode, DrillKind.DEFECT),
}


def _weight(loss: Loss) -> tuple[int, float]:
    """Harm, then what was not there at all, then what spoiled a frame, then stops."""
    match loss.code:
        case LossCode.CUT_OFF:
            rank = 4
        case FaultCode() as fault:
            rank = 3 if fault.spoils else 0
        case LossCode.NEVER_TAKEN:
            rank = 2
        case _:
            rank = 1
    return rank, abs(loss.stops or 0.0)


def _practise(scenario: Scenario, losses: Sequence[Loss]) -> Practise:
    if not losses:
        return Practise(None, None, "Nothing was lost. Take another seed, or an expert run: no forecast, no hints.")
    worst = losses[0]
    drill = _DRILLS.get(worst.code)
    again = "A drill of this kind waits for you." if drill else f"Play {scenario.name} again with an eye on the clock."
    return Practise(worst.code, drill, f"{worst.cure} {again}")


def _outcome_in_words(pictures: Sequence[Picture]) -> str:
    to_have = [picture for picture in pictures if picture.possible is not None]
    got = [picture for picture in to_have if picture.obtained is not None]
    return f"{len(got)} of {len(to_have)} pictures that could be had were taken."
