"""What is asked of a camera: what its display shows, the marks of its dials."""

from __future__ import annotations

from dataclasses import dataclass

from ..scales.ladders import Step
from ..wire.question import Question, Words
from .dials import Scales, ScalesQuestion, scales_of
from .readout import DIAL_LIMIT, Readout, readout


@dataclass(frozen=True, slots=True)
class ReadoutQuestion:
    """What a shutter display shows."""

    text: Words
    step: Step = Step.THIRD
    dial_limit: float = DIAL_LIMIT


QUESTIONS: dict[str, Question] = {
    "readout": Question(ReadoutQuestion, lambda q: readout(q.text, q.step, q.dial_limit), Readout),
    "scales": Question(ScalesQuestion, scales_of, Scales),
}
