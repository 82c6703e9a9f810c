"""What is asked of an outing."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from typing import Annotated

from ..sky.forecast import LightQuestion, forecast
from ..wire.marks import Inline, Size
from ..wire.question import Question, Words
from . import tide
from .coordinates import Written, coordinates
from .days import Days, DaysQuestion, days
from .packing import PackLine, Plan, pack
from .swaps import SwapPlan, SwapWish, plan_swaps
from .tide import MOST_CROSSINGS, Crossing, Missing, Water, WaterKind, WayBack


@dataclass(frozen=True, slots=True)
class CoordinatesQuestion:
    """A place as somebody wrote it."""

    text: Words


@dataclass(frozen=True, slots=True)
class SwapsQuestion:
    """The light to plan over, and what is wished."""

    light: Annotated[LightQuestion, Inline()]
    wish: Annotated[SwapWish, Inline()]


def _swaps(question: SwapsQuestion) -> SwapPlan:
    return plan_swaps(forecast(question.light).points, question.wish)


@dataclass(frozen=True, slots=True)
class TideQuestion:
    """One's own high and low waters; heights are asked at ``at`` and at the ``marks``, leaving from ``at`` on."""

    waters: Annotated[tuple[Water, ...], Size(0, 60)]
    at: datetime
    floods_at_m: float | None = None
    walk_minutes: float = 0.0
    margin_minutes: float = 15.0
    marks: Annotated[tuple[datetime, ...], Size(0, 600)] = ()
    crossings: Annotated[tuple[Crossing, ...], Size(0, MOST_CROSSINGS)] = ()
    """Floods that were watched at this place."""


@dataclass(frozen=True, slots=True)
class TideAnswer:
    """Heights are null where nothing is known; ``kinds`` in the order of the waters asked about, null where not told.

    ``leave_by`` is null where the way is not known to flood; ``state`` says why, and is null where no height was given.
    """

    height_m: float | None
    heights: tuple[float | None, ...]
    kinds: tuple[WaterKind | None, ...]
    leave_by: datetime | None = None
    floods_at: datetime | None = None
    doubt_minutes: float | None = None
    state: WayBack | None = None
    missing: Missing | None = None
    known_from: datetime | None = None
    known_until: datetime | None = None
    clearance_m: float | None = None


def _tide(question: TideQuestion) -> TideAnswer:
    waters, level = question.waters, question.floods_at_m
    heights = tuple(tide.water_height(waters, mark, level) for mark in (question.at, *question.marks))
    order = sorted(range(len(waters)), key=lambda place: waters[place].at)
    told = dict(zip(order, tide.water_kinds([waters[place] for place in order], level), strict=True))
    answer = TideAnswer(heights[0], heights[1:], tuple(told[place] for place in range(len(waters))))
    if level is None:
        return answer
    found = tide.leave_by(
        waters, level, question.walk_minutes, question.margin_minutes, question.at, question.crossings
    )
    return replace(
        answer,
        leave_by=found.at,
        floods_at=found.floods_at,
        doubt_minutes=found.doubt_minutes,
        state=found.state,
        missing=found.missing,
        known_from=found.known_from,
        known_until=found.known_until,
        clearance_m=found.clearance_m,
    )


@dataclass(frozen=True, slots=True)
class PackAnswer:
    """The pack list, in the order of packing."""

    lines: tuple[PackLine, ...]


QUESTIONS: dict[str, Question] = {
    "outing/coordinates": Question(CoordinatesQuestion, lambda q: coordinates(q.text), Written),
    "outing/days": Question(DaysQuestion, days, Days),
    "outing/swaps": Question(SwapsQuestion, _swaps, SwapPlan),
    "outing/tide": Question(TideQuestion, _tide, TideAnswer, documents=True),
    "outing/pack": Question(Plan, lambda q: PackAnswer(pack(q)), PackAnswer),
}
