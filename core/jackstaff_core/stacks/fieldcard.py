"""A card to take along: this body's third-stop times down, this person's glasses as measured across.

    T = t0 2^s, set to the dial's mark where it reaches, else spoken in round seconds; the rounding's cost beside it

Two neighbouring rows that would round to one time both stand to the whole second instead, below ten seconds to a
tenth: a timer can tell them apart.

Source: exposure/calculation.py, scales/spoken.py. Limits: third-stop times from 1/8000 s to 30 s. Verdict: computed,
in steady light, as surely as the glass is known.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from ..scales.ladders import LONGEST_SECONDS, Step, on_dial, shutter_marks
from ..scales.spoken import rounded, time_in_words
from ..wire.marks import Size
from ..words.refusal import Refusal, within

MOST_COLUMNS = 8
MOST_ROWS = 60
_WHOLE_FROM = 10.0
"""From here on [s] nobody times tenths."""


@dataclass(frozen=True, slots=True)
class CardGlass:
    """A glass or stack of the card: its measured strength [stops]."""

    name: Annotated[str, Size(1, 60)]
    stops: float


@dataclass(frozen=True, slots=True)
class Cell:
    """What to set, in words; ``cost_stops`` of rounding, + brighter; ``bulb`` beyond the dial. Empty past a day."""

    text: str
    seconds: float | None
    cost_stops: float
    bulb: bool


@dataclass(frozen=True, slots=True)
class CardLine:
    """One row of the field card: the metered mark, and a time for each filter."""

    mark: str
    cells: tuple[Cell, ...]


def field_card(
    glass: Sequence[CardGlass], fastest: float, slowest: float, dial_limit: float = 30.0, step: Step = Step.THIRD
) -> tuple[CardLine, ...]:
    """Return the rows from the fastest to the slowest bare time [s].

    Parameters
    ----------
    glass : Sequence[CardGlass]
        The columns, 1 to 8; each 0 to 30 stops.
    fastest, slowest : float
        Bare times the card goes from and to [s]; every mark between them is a row.
    dial_limit : float
        Longest time of the dial [s]; past it bulb.
    step : Step
        How the dial is divided.

    Raises
    ------
    Refusal
        No glass or too much, times the wrong way round, or more rows than a card holds.
    """
    if not 1 <= len(glass) <= MOST_COLUMNS:
        raise Refusal("glass", f"A card holds 1 to {MOST_COLUMNS} filters.", "Choose the ones you take along.")
    for place, piece in enumerate(glass):
        within(f"glass.{place}.stops", piece.stops, 0, 30, "stops")
    if not 0 < fastest <= slowest:
        raise Refusal("fastest", "The fastest time is not shorter than the slowest.", "Give them the other way round.")
    rows = shutter_marks(step).between(fastest, slowest)
    if not 1 <= len(rows) <= MOST_ROWS:
        raise Refusal("slowest", f"{len(rows)} rows do not make a card.", f"Give a span of 1 to {MOST_ROWS} marks.")
    columns = [_column([row.exact * math.exp2(piece.stops) for row in rows], dial_limit, step) for piece in glass]
    return tuple(CardLine(row.label, tuple(column[place] for column in columns)) for place, row in enumerate(rows))


def _column(times_: Sequence[float], dial_limit: float, step: Step) -> list[Cell]:
    """Return one glass down the card; rows that rounding would make one stand unrounded."""
    cells = [_cell(seconds, dial_limit, step) for seconds in times_]
    texts = [cell.text for cell in cells]
    alike = {
        place
        for upper in range(len(cells) - 1)
        if texts[upper] and texts[upper] == texts[upper + 1]
        for place in (upper, upper + 1)
    }
    return [_to_the_second(times_[at]) if at in alike and cell.bulb else cell for at, cell in enumerate(cells)]


def _to_the_second(seconds: float) -> Cell:
    set_to = round(seconds, 1) if seconds < _WHOLE_FROM else float(round(seconds))
    return Cell(time_in_words(set_to), set_to, math.log2(set_to / seconds), True)


def _cell(seconds: float, dial_limit: float, step: Step) -> Cell:
    if seconds > LONGEST_SECONDS:
        return Cell("", None, 0.0, True)
    # Half-way between two marks every row goes the same way.
    mark = on_dial(seconds * (1 + 1e-9), dial_limit, step)
    if mark:
        text = mark.label if mark.exact < 0.3 else f"{mark.label} s"
        return Cell(text, mark.exact, math.log2(mark.exact / seconds), False)
    near = min(rounded(seconds), key=lambda each: abs(each.stops), default=None)
    set_to = near.seconds if near else seconds
    return Cell(time_in_words(set_to), set_to, near.stops if near else 0.0, True)
