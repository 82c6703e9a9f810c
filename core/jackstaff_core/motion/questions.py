"""What is asked of what moves."""

from __future__ import annotations

from dataclasses import dataclass

from ..wire.question import Question, Words
from .by_eye import DESCRIBED, DescribedKind
from .looks import Looks, LooksQuestion, Rendering, Subjects, Wants, looks, looks_at
from .subjects import Camera


@dataclass(frozen=True, slots=True)
class AtQuestion:
    """The scene of /looks at one time."""

    camera: Camera
    subjects: Subjects
    seconds: float
    wants: Wants = ()

    def scene(self) -> LooksQuestion:
        """Return the scene without any time."""
        return LooksQuestion(self.camera, self.subjects)


@dataclass(frozen=True, slots=True)
class AtAnswer:
    """What a time does to each subject, in their order."""

    subjects: tuple[Rendering, ...]


@dataclass(frozen=True, slots=True)
class DescribedQuestion:
    """One kind of subject, or all of them."""

    kind: Words | None = None


@dataclass(frozen=True, slots=True)
class DescribedAnswer:
    """The kinds of subject that can be described in words."""

    kinds: tuple[DescribedKind, ...]


def _described(question: DescribedQuestion) -> DescribedAnswer:
    return DescribedAnswer(tuple(each for each in DESCRIBED if question.kind in (None, each.kind)))


QUESTIONS: dict[str, Question] = {
    "looks": Question(LooksQuestion, looks, Looks),
    "looks/at": Question(AtQuestion, lambda q: AtAnswer(looks_at(q.scene(), q.seconds)), AtAnswer, drop_none=True),
    "looks/described": Question(DescribedQuestion, _described, DescribedAnswer),
}
