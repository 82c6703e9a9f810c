"""What a careful photographer gets out of a dry run with what can be known in it: nothing hidden is looked up.

Picture by picture: meter bare, meter again half the handling later, so the light's rate is known; choose filters,
aperture and ISO by the finder for the middle of the wished looks; work the time out with the light on the move; where a
digital body shows it, a first look at high ISO tells how far the filters are off, read to a third from its histogram;
then the frame. Nothing is forgotten on the list, and the camera goes home by the time to leave.

    start = the first of every three minutes at which a frame can lie in its window and end in time

Source: the order of work itself; every sum is asked of the finder, the exposure and the development. Limits: pictures
are taken in their given order, one good frame each. Verdict: computed on made-up light.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from uuid import UUID

from ...camera.reading import ReadingGiven, SettingsGiven, shutter
from ...exposure.calculation import Exposure, ExposureQuestion, MovingLight, expose
from ...exposure.trial import strength_from_readings
from ...filters.kind import GlassKind
from ...filters.on_lens import GlassGiven
from ...gear.things import Glass, isos_of, sharp_to, strength
from ...motion.looks import Aim
from ...moving_light.rate import KnownRate, light_rate
from ...scales.ladders import Step, aperture_marks
from ...scales.spoken import time_in_words
from ...sky.forecast import LightQuestion, light_at, rate_sd
from ...sky.sun_and_moon import Place
from ...stacks.finder import MOST_SLOTS, FinderQuestion, KitGlass, Stack, Target, find
from ...stacks.rules import On, Rig, stack_findings, usable_end
from ...words.advice import Severity
from ...words.refusal import Refusal
from .develop import (
    UNEVEN,
    Developed,
    DevelopQuestion,
    Purpose,
    Shot,
    ShotGlass,
    develop,
    hands_checklist,
    loss_score,
    window_stops,
)
from .scenario import Framing, Scenario, aim_of
from .world import ReadMeterQuestion, meter

EVERY_SECONDS = 180.0
MOST_STARTS = 20
SMALLEST = "16"
"""No careful photographer goes past it for slowness alone."""
LAST_READING_S = 20.0
"""From the last reading to the opening."""
LOOK_LONGEST_S = 8.0
"""A first look at high ISO is worth it where it takes no longer than this."""


HANDS_SEE_TO = ("eyepiece", "doubtful_reading", "diffraction", "rotating_front", "gaps", "gasket_first")
"""Findings that careful hands answer; any other caution rules the stack out."""


@dataclass(frozen=True, slots=True)
class Careful:
    """A picture as it could have been had: when, how, and what it came out as."""

    framing: int
    at: datetime
    shot: Shot
    developed: Developed
    text: str

    @property
    def ends_at(self) -> datetime:
        """When the camera is free again: the exposure and what it is busy with after it."""
        return self.shot.opened_at + timedelta(seconds=self.shot.seconds + self.developed.busy_seconds)


@dataclass(frozen=True, slots=True)
class ShotPlan:
    """Filters, settings and the answer of the sum."""

    stack: tuple[ShotGlass, ...]
    names: tuple[str, ...]
    aperture: str
    iso: str
    answer: Exposure
    metered_at: datetime


def careful_pictures(scenario: Scenario) -> tuple[Careful | None, ...]:
    """Return each picture as a careful photographer gets it, one after another.

    None for what there is no time left for.
    """
    leave, at = scenario.leave_by(), scenario.starts_at
    known: dict[UUID, float] = {}
    found: list[Careful | None] = []
    for place in range(len(scenario.framings)):
        best = _best(scenario, place, at, leave, known)
        found.append(best)
        if best is not None:
            at = best.ends_at
    return tuple(found)


def _best(
    scenario: Scenario, place: int, earliest: datetime, leave: datetime, known: dict[UUID, float]
) -> Careful | None:
    best: Careful | None = None
    learnt: dict[UUID, float] = {}
    for turn in range(MOST_STARTS):
        at = earliest + timedelta(seconds=turn * EVERY_SECONDS)
        if at + timedelta(minutes=scenario.handling_minutes) >= leave:
            break
        own = dict(known)
        tried = _taken(scenario, place, at, own)
        if tried is None or tried.shot.opened_at + timedelta(seconds=tried.shot.seconds) > leave:
            continue
        if best is None or loss_score(tried.developed) < loss_score(best.developed) - 0.05:
            best, learnt = tried, own
        if loss_score(best.developed) < 1 / 3:
            break
    known.update(learnt)
    return best


def _taken(scenario: Scenario, place: int, at: datetime, known: dict[UUID, float]) -> Careful | None:
    """Return the frame begun at an instant, and what was learnt of the filters on the way."""
    opens = at + timedelta(minutes=scenario.handling_minutes)
    way = plan_at(scenario, place, opens, known)
    if way is None:
        return None
    if off := _first_look(scenario, place, way, opens, known):
        # All of it is taken to be the densest's.
        densest = max(way.stack, key=lambda each: each.stops)
        known[densest.id] = known.get(densest.id, 0.0) + off
        again = plan_at(scenario, place, opens, known)
        way = again or way
    shot = frame_of(scenario, place, way, opens)
    on = tuple(each.id for each in way.stack)
    developed = develop(DevelopQuestion(scenario, shot, on))
    return Careful(place, at, shot, developed, _way_in_words(way, shot))


def plan_at(scenario: Scenario, place: int, opens: datetime, known: dict[UUID, float]) -> ShotPlan | None:
    """Return the filters, settings and time for a picture opened at an instant, by two readings before it.

    None for no way.

    Parameters
    ----------
    scenario : Scenario
        The dry run.
    place : int
        Of the picture among the scenario's.
    opens : datetime
        With its zone.
    known : dict[UUID, float]
        How much denser than said each filter was found, by its key [stops].
    """
    framing = scenario.framing(place)
    aim = aim_of(scenario, framing)
    if aim is None:
        return None
    late = opens - timedelta(seconds=LAST_READING_S)
    since = timedelta(minutes=scenario.handling_minutes, seconds=-LAST_READING_S)
    instants = [late - since, late - since / 2, late]
    read = [(at, found) for at in instants if (found := reading_at(scenario, place, at)) is not None]
    if not read or read[-1][0] != late:
        return None
    reading, _ = read[-1][1]
    known_rate = light_rate([(at, ev) for at, (_, ev) in read], opens, _forecast(scenario, opens))
    moving = MovingLight(known_rate.stops_per_minute, known_rate.rate_sd, LAST_READING_S)
    best: tuple[float, ShotPlan] | None = None
    for chosen in _stacks(scenario, framing, reading, aim, known):
        way = _worked_out(scenario, chosen, reading, moving, known, late)
        if way is None:
            continue
        off = abs(window_stops(scenario, framing, way.answer.set_seconds)) + abs(way.answer.residue_stops)
        if best is None or off < best[0] - 0.05:
            best = (off, way)
        if best[0] < 0.05:
            break
    return best[1] if best else None


def reading_at(scenario: Scenario, place: int, at: datetime) -> tuple[ReadingGiven, float] | None:
    """Return a bare reading of a picture at whatever aperture and ISO the meter can read at.

    Its light [EV at ISO 100] comes with it;
    None in the dark.

    Parameters
    ----------
    scenario : Scenario
        The dry run.
    place : int
        Of the picture among the scenario's.
    at : datetime
        With its zone.
    """
    lens, body = scenario.lens, scenario.body
    isos = list(isos_of(body))
    widest = aperture_marks(Step.THIRD).nearest(lens.aperture_widest).label if body.fixed_aperture is None else None
    for f_stop, speed in (("8", isos[0]), (widest or "8", isos[0]), (widest or "8", isos[-1])):
        f_label = f"{body.fixed_aperture:g}" if body.fixed_aperture is not None else f_stop
        shown = meter(ReadMeterQuestion(scenario, place, at, f_label, speed))
        if shown.shutter is not None:
            given = ReadingGiven(shown.shutter, f_label, speed)
            ev = expose(ExposureQuestion(given)).scene_ev100
            return (given, ev) if ev is not None else None
    return None


def _forecast(scenario: Scenario, at: datetime) -> KnownRate:
    """Return what the plan says of how the light moves."""
    question = LightQuestion(
        Place(scenario.latitude, scenario.longitude), at, at, sky=scenario.outlook, scene=scenario.scene
    )
    return KnownRate(light_at(question, at).stops_per_minute, rate_sd(question, at))


def _stacks(
    scenario: Scenario, framing: Framing, reading: ReadingGiven, aim: Aim, known: dict[UUID, float]
) -> Sequence[Stack]:
    """Return the ways to the middle of the looks at the lowest ISO, then at any, then the nearest there is."""
    body, lens = scenario.body, scenario.lens
    ends: tuple[str, ...] = (
        aperture_marks(Step.THIRD).nearest(lens.aperture_widest).label,
        min(SMALLEST, aperture_marks(Step.THIRD).nearest(lens.aperture_smallest).label, key=float),
    )
    if body.fixed_aperture is not None:
        ends = (f"{body.fixed_aperture:g}",)
    marks = [f"{scenario.film.iso:g}"] if scenario.film else list(isos_of(body))
    within = min(aim.half_stops, 2.0)
    nearest: list[Stack] = []
    for isos in (marks[:1], marks[:40]):
        found = find(
            FinderQuestion(
                reading,
                _glass(scenario, framing, known),
                min(MOST_SLOTS, (scenario.holder.slots if scenario.holder else 2) + 1),
                Target(aim.middle_seconds, within),
                ends,
                tuple(isos),
                sharp_to=sharp_to(body),
                iso_base=marks[0],
                film=scenario.law,
            )
        )
        clean = [stack for stack in found.stacks if _goes_together(scenario, framing, stack)]
        if clean:
            return clean
        nearest += [found.nearest] if found.nearest else []
    return nearest


def _glass(scenario: Scenario, framing: Framing, known: dict[UUID, float]) -> tuple[KitGlass, ...]:
    found = []
    for item in scenario.filters:
        is_ = strength(item.thing)
        off = known.get(item.id, is_.offset or 0.0)
        if is_.kind is GlassKind.GRADUATED:
            continue
        if is_.kind is GlassKind.VARIABLE:
            end = usable_end(item.thing, framing.focal_mm, scenario.body)
            found.append(
                KitGlass(str(item.id), is_.kind, min=is_.low, max=is_.high, usable_max=min(end or is_.high, is_.high))
            )
        else:
            found.append(KitGlass(str(item.id), is_.kind, stops=is_.stops + off))
    return tuple(found)


def _goes_together(scenario: Scenario, framing: Framing, stack: Stack) -> bool:
    on = []
    for key in stack.glass:
        item = scenario.filter(UUID(key))
        on.append(On(item.name, item.thing, _turned(item.thing, stack, 0.0)))
    rig = Rig(tuple(on), scenario.body, scenario.lens, scenario.holder, framing.focal_mm)
    return not any(
        finding.code in UNEVEN or (finding.severity is not Severity.NOTE and finding.code not in HANDS_SEE_TO)
        for finding in stack_findings(rig)
    )


def _turned(glass: Glass, stack: Stack, off: float) -> float:
    if glass.kind == "variable":
        return stack.turned if stack.turned is not None else glass.stops
    return strength(glass).stops + off


def _worked_out(
    scenario: Scenario,
    chosen: Stack,
    reading: ReadingGiven,
    moving: MovingLight,
    known: dict[UUID, float],
    metered_at: datetime,
) -> ShotPlan | None:
    items = [scenario.filter(UUID(key)) for key in chosen.glass]
    stack = tuple(
        ShotGlass(item.id, _turned(item.thing, chosen, known.get(item.id, item.thing.offset or 0.0))) for item in items
    )
    try:
        answer = expose(
            ExposureQuestion(
                reading,
                tuple(GlassGiven(stops=each.stops) for each in stack),
                SettingsGiven(chosen.aperture, chosen.iso),
                dial_limit=scenario.body.dial_limit_s,
                film=scenario.law,
                light=moving,
            )
        )
    except Refusal:
        return None
    names = tuple(item.name for item in items)
    return ShotPlan(stack, names, chosen.aperture, chosen.iso, answer, metered_at)


def _first_look(scenario: Scenario, place: int, way: ShotPlan, opens: datetime, known: dict[UUID, float]) -> float:
    """Return how much denser (+) the filters are than reckoned, to a third.

    It is found by a short frame at high ISO, on film by metering
    through them; 0 where neither can be done.
    """
    body = scenario.body
    if not way.stack:
        return 0.0
    if body.film:
        return _metered_off(scenario, place, way)
    marks = isos_of(body)
    high = next((mark for mark in reversed(marks) if float(mark) <= 6400), marks[0])
    gain = math.log2(float(high) / float(way.iso))
    seconds = way.answer.metered_seconds * math.exp2(-gain)
    if not 1 / 8000 <= seconds <= LOOK_LONGEST_S:
        return 0.0
    first = replace(
        frame_of(scenario, place, way, opens),
        opened_at=way.metered_at,
        seconds=seconds,
        aimed_seconds=seconds,
        metered_seconds=seconds,
        iso=high,
        purpose=Purpose.FIRST_LOOK,
    )
    return -round(develop(DevelopQuestion(scenario, first)).error_stops * 3) / 3


def _metered_off(scenario: Scenario, place: int, way: ShotPlan) -> float:
    """Return the same by two readings, bare and through the filters, where the meter sees through them."""
    widest = aperture_marks(Step.THIRD).nearest(scenario.lens.aperture_widest).label
    question = ReadMeterQuestion(scenario, place, way.metered_at, widest, way.iso)
    bare = meter(question).shutter
    through = meter(replace(question, through=tuple(each.on for each in way.stack))).shutter
    if bare is None or through is None:
        return 0.0
    without, with_it = (shutter("shutter", mark, scenario.step).exact for mark in (bare, through))
    return strength_from_readings(without, with_it) - sum(each.stops for each in way.stack)


def frame_of(scenario: Scenario, place: int, way: ShotPlan, opens: datetime) -> Shot:
    """Return the frame of a way, closed when it was to be, with nothing forgotten.

    Parameters
    ----------
    scenario : Scenario
        The dry run.
    place : int
        Of the picture among the scenario's.
    way : ShotPlan
        Filters, settings and time.
    opens : datetime
        With its zone.
    """
    shot = Shot(
        framing=place,
        opened_at=opens,
        seconds=way.answer.set_seconds,
        aimed_seconds=way.answer.set_seconds,
        metered_seconds=way.answer.metered_seconds,
        metered_at=way.metered_at,
        aperture=way.aperture,
        iso=way.iso,
        stack=way.stack,
    )
    lines = hands_checklist(scenario, scenario.framing(place), shot)
    return replace(shot, prepared=tuple(line.code for line in lines))


def _way_in_words(way: ShotPlan, shot: Shot) -> str:
    return f"{_through(way.names)}, f/{way.aperture}, ISO {way.iso}, {time_in_words(shot.seconds)}."


def _through(names: tuple[str, ...]) -> str:
    return " and ".join(names) if names else "No filter"


@dataclass(frozen=True, slots=True)
class HintQuestion:
    """Where somebody stands in a dry run: at which picture, when, whether it is metered, what is on."""

    scenario: Scenario
    framing: int
    at: datetime
    metered: bool = False
    taken: bool = False
    """A frame of this picture is there already."""


@dataclass(frozen=True, slots=True)
class Hint:
    """The next thing a careful photographer would do."""

    code: str
    text: str


def hint(question: HintQuestion) -> Hint:
    """Return the next step, by the same sums; the light itself is not told.

    Raises
    ------
    Refusal
        There is no such picture.
    """
    scenario, at = question.scenario, question.at
    framing = scenario.framing(question.framing)
    left = (scenario.leave_by() - at).total_seconds()
    if left <= 0:
        return Hint("leave", "It is past the time to leave: pack up now.")
    if left <= 60 * scenario.handling_minutes:
        return Hint("leave", f"Leave in {time_in_words(left)}: there is no time for another frame.")
    aim = aim_of(scenario, framing)
    wants = " and ".join(f"{want.kind} as {want.look}" for want in framing.wants)
    if not question.metered:
        span = _span(aim)
        return Hint("meter", f"{framing.name}: {wants} wants {span}. Meter with nothing on the lens.")
    way = plan_at(scenario, question.framing, at + timedelta(seconds=20), {})
    if way is None:
        return Hint("wait", "No filters of this bag reach that look in this light: wait, or take another picture.")
    seconds = way.answer.set_seconds
    if seconds > left:
        return Hint(
            "late", f"{time_in_words(seconds)} would not end before you must leave: open up or take a filter off."
        )
    if window_stops(scenario, framing, seconds):
        return Hint(
            "near", f"{framing.name}, the nearest: {_way_in_words(way, frame_of(scenario, question.framing, way, at))}"
        )
    if question.taken:
        return Hint("next", "Look at its histogram; correct it, or go on to the next picture.")
    return Hint("stack", f"{framing.name}: {_way_in_words(way, frame_of(scenario, question.framing, way, at))}")


def _span(aim: Aim | None) -> str:
    if aim is None:
        return "no one time"
    if aim.to_seconds is None:
        return f"{time_in_words(aim.from_seconds)} or more"
    if aim.from_seconds <= 0:
        return f"{time_in_words(aim.to_seconds)} or less"
    return f"{time_in_words(aim.from_seconds)} to {time_in_words(aim.to_seconds)}"
