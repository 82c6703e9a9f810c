"""What is asked of filters together."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from ..camera.reading import ReadingGiven, scene_ev
from ..camera.readout import DIAL_LIMIT
from ..gear.things import Body, Glass
from ..scales.ladders import LONGEST_DIAL, SHORTEST_DIAL, Step
from ..wire.marks import Between, Size
from ..wire.question import Question
from ..words.advice import Advice
from .fieldcard import MOST_COLUMNS, CardGlass, CardLine, field_card
from .finder import FinderQuestion, FoundStacks, find
from .forgotten_filter import BagGlass, Matched, compare
from .graduated import GraduatedQuestion, Graduation, choose_graduated
from .reach import Reach, ReachQuestion, reach
from .rules import FocalLength, Rig, stack_findings, usable_end


@dataclass(frozen=True, slots=True)
class RigAnswer:
    """Everything worth saying about a rig."""

    findings: tuple[Advice, ...]


@dataclass(frozen=True, slots=True)
class UsableQuestion:
    """Variable glass by its kit facts, before a lens at ``focal_mm``."""

    glass: Annotated[tuple[Glass, ...], Size(0, 24)]
    focal_mm: FocalLength
    body: Body | None = None


@dataclass(frozen=True, slots=True)
class UsableAnswer:
    """How far each can be turned [stops]; None for other glass."""

    ends: tuple[float | None, ...]


def _usable(question: UsableQuestion) -> UsableAnswer:
    return UsableAnswer(tuple(usable_end(glass, question.focal_mm, question.body) for glass in question.glass))


@dataclass(frozen=True, slots=True)
class PhoneQuestion:
    """A camera's reading, what it was metered through [stops], and a phone's light; ``matched`` once before."""

    reading: ReadingGiven
    phone_stops: float
    through_stops: Annotated[float, Between(0, 60, "stops")] = 0.0
    matched: float | None = None
    glass: Annotated[tuple[BagGlass, ...], Size(0, 60)] = ()


def _phone(question: PhoneQuestion) -> Matched:
    scene = scene_ev(question.reading)[0] + question.through_stops
    return compare(scene, question.phone_stops, question.matched, question.glass)


@dataclass(frozen=True, slots=True)
class FieldCardQuestion:
    """Bare times from ``fastest`` to ``slowest`` [s] down, glasses or stacks across."""

    glass: Annotated[tuple[CardGlass, ...], Size(1, MOST_COLUMNS)]
    fastest: Annotated[float, Between(0, 60, "s", above=True)] = 1 / 1000
    slowest: Annotated[float, Between(0, 60, "s", above=True)] = 1.0
    dial_limit: Annotated[float, Between(SHORTEST_DIAL, LONGEST_DIAL, "s")] = DIAL_LIMIT
    step: Step = Step.THIRD


@dataclass(frozen=True, slots=True)
class FieldCardAnswer:
    """The rows of a field card."""

    lines: tuple[CardLine, ...]


def _field_card(question: FieldCardQuestion) -> FieldCardAnswer:
    return FieldCardAnswer(
        tuple(field_card(question.glass, question.fastest, question.slowest, question.dial_limit, question.step))
    )


QUESTIONS: dict[str, Question] = {
    "stacks": Question(FinderQuestion, find, FoundStacks, drop_none=True),
    "rig": Question(Rig, lambda q: RigAnswer(stack_findings(q)), RigAnswer),
    "usable": Question(UsableQuestion, _usable, UsableAnswer),
    "reach": Question(ReachQuestion, reach, Reach),
    "graduated": Question(GraduatedQuestion, choose_graduated, Graduation),
    "light/phone": Question(PhoneQuestion, _phone, Matched),
    "fieldcard": Question(FieldCardQuestion, _field_card, FieldCardAnswer),
}
