"""What is asked of one filter."""

from __future__ import annotations

from dataclasses import dataclass

from ..wire.question import Question, Words
from .labels import Label, density


@dataclass(frozen=True, slots=True)
class DensityQuestion:
    """What stands on a filter's rim."""

    text: Words


QUESTIONS: dict[str, Question] = {
    "density": Question(DensityQuestion, lambda q: density(q.text), Label, drop_none=True),
}
