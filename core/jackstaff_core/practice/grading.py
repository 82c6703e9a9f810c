"""What an answer to a drill is worth: read as people say it, and told in stops.

    error = log2(answer / right) for a time, answer - right for stops; right within the drill's own tolerance

An answer that can be read in two ways is asked about, never guessed.

Source: the drill (practice/drills.py), camera/readout.py and filters/labels.py. Limits: theirs. Verdict: computed, or
ask.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from ..camera.readout import readout
from ..exposure.calculation import SumStep
from ..filters.labels import MOST_STOPS, density
from ..scales.spoken import stops_shown, time_in_words
from ..wire.marks import Between, Size
from ..words.refusal import Refusal
from .drills import Answered, Drill, DrillQuestion, drill
from .repetition import FIRST_BOX, LAST_BOX, hours_of, next_box


@dataclass(frozen=True, slots=True, kw_only=True)
class GradeQuestion(DrillQuestion):
    """The drill, and its answer as it was typed, or the number of a choice; ``box`` as held."""

    answer: Annotated[str, Size(1, 40)]
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
    right_text: str
    why: str
    steps: tuple[SumStep, ...]
    box: int
    again_hours: float


def grade(question: GradeQuestion) -> Graded:
    """Return what the answer is worth.

    Raises
    ------
    Refusal
        It cannot be read as what is asked, with how to write it.
    """
    drilled = drill(question)
    match drilled.answered:
        case Answered.TIME:
            readings = readout(question.answer)
            if readings.ambiguous:
                return _open(question, tuple(time_in_words(each.seconds) for each in readings.readings))
            seconds = readings.readings[0].seconds
            return _told(question, drilled, time_in_words(seconds), math.log2(seconds / drilled.right))
        case Answered.STOPS:
            stops = _stops(question.answer)
            return _told(question, drilled, f"{stops:.1f} stops", stops - drilled.right)
        case Answered.CHOICE:
            place = _place(question.answer, len(drilled.choices))
            return _told(question, drilled, drilled.choices[place], None, place == drilled.right)


def _open(question: GradeQuestion, meanings: tuple[str, ...]) -> Graded:
    text = f"Do you mean {' or '.join(meanings)}? Write it with s or as 1/n."
    return Graded(None, "", meanings, None, text, "", "", (), question.box, 0.0)


def _told(question: GradeQuestion, drilled: Drill, understood: str, error: float | None, hit: bool = False) -> Graded:
    right = hit if error is None else abs(error) <= drilled.within_stops + 1e-9
    box = next_box(question.box, right)
    return Graded(
        right,
        understood,
        (),
        error,
        _words(drilled, right, error),
        drilled.right_text,
        drilled.why,
        drilled.steps,
        box,
        hours_of(box),
    )


def _words(drilled: Drill, right: bool, error: float | None) -> str:
    # To the third that a dial has: a finer figure would say more than anybody can set.
    count = 0 if error is None else round(abs(error) * 3)
    if right:
        return f"Right: {drilled.right_text}." if count == 0 else f"Right, to a third: {drilled.right_text}."
    if error is None:
        return f"No: {drilled.right_text}{'' if drilled.right_text.endswith('.') else '.'}"
    off = stops_shown(max(count, 1))
    if drilled.answered is Answered.STOPS:
        return f"{off} too {'many' if error > 0 else 'few'}. Right is {drilled.right_text}."
    side, frame = ("long", "bright") if error > 0 else ("short", "dark")
    return f"{off} too {side}: the frame would be that much too {frame}. Right is {drilled.right_text}."


def _stops(text: str) -> float:
    body = text.strip()
    readings = density(body if any(letter.isalpha() for letter in body) else f"{body} stops")
    stops = readings.readings[0].stops if len(readings.readings) == 1 else math.nan
    if not 0 < stops <= MOST_STOPS:
        raise Refusal("answer", f"'{body[:40]}' is no number of stops.", "Write it like 10 or 6 2/3 stops.")
    return stops


def _place(text: str, count: int) -> int:
    if text.strip().isdigit() and 1 <= int(text) <= count:
        return int(text) - 1
    raise Refusal("answer", f"'{text[:20]}' is none of the choices.", f"Give a number from 1 to {count}.")
