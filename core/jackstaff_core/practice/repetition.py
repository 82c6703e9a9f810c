"""When a kind of drill comes up again: Leitner's boxes.

What was right moves one box on, what was wrong goes back to the first; each box waits longer than the one before. The
lengths are ours, chosen so that a kind that is known is asked some four times in two months.

    box 1  at once    2  a day    3  three days    4  ten days    5  a month

Source: S. Leitner, 1972, So lernt man lernen (the boxes); lengths: practice, ours. Limits: remembers kinds, not single
questions, which are made up anew each time. Verdict: class.
"""

from __future__ import annotations

import random
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from ..log.statistics import MISSES
from ..wire.marks import Between, Size
from .drills import DrillKind, Mistakes, Seed, visible_defects

FIRST_BOX, LAST_BOX = 1, 5
_HOURS = (0.0, 24.0, 72.0, 240.0, 720.0)
_OFTEN = 3.0
"""How much more often what one's own log shows comes up, against what it does not."""


def hours_of(box: int) -> float:
    """Return how long ``box``, 1 to 5, waits before it is asked again [h]."""
    return _HOURS[box - FIRST_BOX]


def next_box(box: int, right: bool) -> int:
    """Return the box after an answer in ``box``: the next one up to the fifth where it was right, else the first."""
    return min(box + 1, LAST_BOX) if right else FIRST_BOX


@dataclass(frozen=True, slots=True)
class Remembered:
    """In which box a kind lies, and from when on it is asked again."""

    kind: DrillKind
    box: Annotated[int, Between(FIRST_BOX, LAST_BOX)]
    due: datetime


@dataclass(frozen=True, slots=True)
class NextQuestion:
    """What is remembered, what the log shows, and which kind was asked last, so that it is not asked twice running."""

    now: datetime
    seed: Seed
    remembered: Annotated[tuple[Remembered, ...], Size(0, 16)] = ()
    mistakes: Mistakes = ()
    last: DrillKind | None = None


@dataclass(frozen=True, slots=True)
class NextDrill:
    """The kind to ask, its box, and how many kinds are due; ``due`` False: none is, this one is the nearest."""

    kind: DrillKind
    box: int
    due: bool
    due_count: int


def next_drill(question: NextQuestion) -> NextDrill:
    """Return the kind that is to be asked now: of those due the lower boxes and the log's own mistakes more often."""
    held = {each.kind: each for each in question.remembered}
    due = [kind for kind in DrillKind if kind not in held or held[kind].due <= question.now]
    count = len(due)
    if not due:
        kind = min(held.values(), key=lambda each: (each.due, each.kind)).kind
        return NextDrill(kind, held[kind].box, due=False, due_count=0)
    if len(due) > 1:
        due = [kind for kind in due if kind is not question.last]
    weights = [_weight(kind, held.get(kind), question.mistakes) for kind in due]
    # A lesson, no secret; the same seed asks the same everywhere.
    (kind,) = random.Random(question.seed).choices(due, weights)  # noqa: S311
    return NextDrill(kind, held[kind].box if kind in held else FIRST_BOX, due=True, due_count=count)


def _weight(kind: DrillKind, held: Remembered | None, mistakes: Mistakes) -> float:
    weight = float(LAST_BOX + 1 - (held.box if held else FIRST_BOX))
    if kind is DrillKind.DEFECT:
        own = bool(visible_defects(mistakes))
    else:
        own = kind in _OF_A_MISS and any(code in mistakes for code in MISSES)
    return weight * _OFTEN if own else weight


_OF_A_MISS = frozenset({DrillKind.STACK, DrillKind.NOTATION, DrillKind.LIGHT, DrillKind.PLAUSIBLE})
"""What a frame that came out wrong is most often owed to: the sum, the rim, the light, the reading."""
