"""What an answer to a drill is worth: read as people say it, and told in stops.

    error = log2(said / right) for a time, said - right for stops; right within the drill's own tolerance

An answer that can be read in two ways is asked about, never guessed.

Source: the drill (drills.py), readout.py and density.py. Limits: theirs. Verdict: computed, or ask.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from .density import MOST_STOPS, density
from .drills import Answered, Drill, DrillQuestion, drill
from .exposure import SumStep
from .marks import Between, Size
from .readout import readout
from .refusal import Refusal
from .spacing import FIRST_BOX, LAST_BOX, after, hours_of
from .spoken import said, stops_shown


@dataclass(frozen=True, slots=True, kw_only=True)
class GradeQuestion(DrillQuestion):
    """The drill, and its answer as it was typed, or the number of a choice; ``box`` as held."""

    said: Annotated[str, Size(1, 40)]
    box: Annotated[int, Between(FIRST_BOX, LAST_BOX)] = FIRST_BOX


@dataclass(frozen=True, slots=True)
class Graded:
    """``right`` None: it can be read as each of ``meanings``, nothing is decided.

    ``error_stops`` None where there is nothing to measure. ``box`` is where the drill's kind goes, asked again after
    ``again_hours``.
    """

    right: bool | None
    understood: str
    meanings: tuple[str, ...]
    error_stops: float | None
    text: str
    right_said: str
    why: str
    steps: tuple[SumStep, ...]
    box: int
    again_hours: float


def grade(question: GradeQuestion) -> Graded:
    """What the answer is worth.

    Raises
    ------
    Refusal
        It cannot be read as what is asked, with how to write it.
    """
    asked = drill(question)
    match asked.answered:
        case Answered.TIME:
            readings = readout(question.said)
            if readings.ambiguous:
                return _open(question, tuple(said(each.seconds) for each in readings.readings))
            seconds = readings.readings[0].seconds
            return _told(question, asked, said(seconds), math.log2(seconds / asked.right))
        case Answered.STOPS:
            stops = _stops(question.said)
            return _told(question, asked, f"{stops:.1f} stops", stops - asked.right)
        case Answered.CHOICE:
            place = _place(question.said, len(asked.choices))
            return _told(question, asked, asked.choices[place], None, place == asked.right)


def _open(question: GradeQuestion, meanings: tuple[str, ...]) -> Graded:
    text = f"Do you mean {' or '.join(meanings)}? Write it with s or as 1/n."
    return Graded(None, "", meanings, None, text, "", "", (), question.box, 0.0)


def _told(question: GradeQuestion, asked: Drill, understood: str, error: float | None, hit: bool = False) -> Graded:
    right = hit if error is None else abs(error) <= asked.within_stops + 1e-9
    box = after(question.box, right)
    return Graded(
        right,
        understood,
        (),
        error,
        _words(asked, right, error),
        asked.right_said,
        asked.why,
        asked.steps,
        box,
        hours_of(box),
    )


def _words(asked: Drill, right: bool, error: float | None) -> str:
    # To the third that a dial has: a finer figure would say more than anybody can set.
    count = 0 if error is None else round(abs(error) * 3)
    if right:
        return f"Right: {asked.right_said}." if count == 0 else f"Right, to a third: {asked.right_said}."
    if error is None:
        return f"No: {asked.right_said}{'' if asked.right_said.endswith('.') else '.'}"
    off = stops_shown(max(count, 1))
    if asked.answered is Answered.STOPS:
        return f"{off} too {'many' if error > 0 else 'few'}. Right is {asked.right_said}."
    side, frame = ("long", "bright") if error > 0 else ("short", "dark")
    return f"{off} too {side}: the frame would be that much too {frame}. Right is {asked.right_said}."


def _stops(text: str) -> float:
    body = text.strip()
    readings = density(body if any(letter.isalpha() for letter in body) else f"{body} stops")
    stops = readings.readings[0].stops if len(readings.readings) == 1 else math.nan
    if not 0 < stops <= MOST_STOPS:
        raise Refusal("said", f"'{body[:40]}' is no number of stops.", "Write it like 10 or 6 2/3 stops.")
    return stops


def _place(text: str, count: int) -> int:
    if text.strip().isdigit() and 1 <= int(text) <= count:
        return int(text) - 1
    raise Refusal("said", f"'{text[:20]}' is none of the choices.", f"Give a number from 1 to {count}.")
