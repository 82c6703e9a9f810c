"""What is asked of gear: filters that stay together, batteries and cards."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from ..wire.marks import Size
from ..wire.question import Question
from .budget import Budget, BudgetQuestion, FramesQuestion, PlannedFrames, budget, frames
from .things import Glass, merge_glasses


@dataclass(frozen=True, slots=True)
class TogetherQuestion:
    """Filters that stay together, by their kit facts, from the lens outwards."""

    glass: Annotated[tuple[Glass, ...], Size(0, 24)]


@dataclass(frozen=True, slots=True)
class TogetherAnswer:
    """What they are as one; its ``members`` are for whoever knows their ids."""

    facts: Glass


QUESTIONS: dict[str, Question] = {
    "together": Question(TogetherQuestion, lambda q: TogetherAnswer(merge_glasses(q.glass)), TogetherAnswer),
    "outing/budget": Question(BudgetQuestion, budget, Budget),
    "outing/frames": Question(FramesQuestion, frames, PlannedFrames),
}
