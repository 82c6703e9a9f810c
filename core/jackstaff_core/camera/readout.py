"""Reading what a camera's display shows: ``1/60``, ``6"``, ``0.6``, and the bare ``4``.

Displays and people write ``1/250th``, ``0"3``, ``2m08``, ``2:08``, ``8 min``, with comma or point. They drop the
"1/", so a bare number n means 1/n when that is a mark, and n seconds when n is a mark the dial reaches. When both
hold, or neither, the reading is ambiguous and both meanings are handed back, the likelier first. Text with a unit or
a fraction means one thing.

Source: marking practice after ISO 516. Limits: 1/32000 s to 24 h. Verdict: computed, or ask.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..scales.ladders import (
    LONGEST_DIAL,
    LONGEST_SECONDS,
    SHORTEST_DIAL,
    SHORTEST_SECONDS,
    Mark,
    Step,
    dial_marks,
    mark_value,
    shutter_marks,
)
from ..words.refusal import Refusal, within

DIAL_LIMIT = 30.0
"""The longest mark most bodies offer before bulb, seconds."""


@dataclass(frozen=True, slots=True)
class ShutterReading:
    """One meaning of a shutter text: exact seconds, and the mark printed for it (None = literal)."""

    seconds: float
    mark: str | None


@dataclass(frozen=True, slots=True)
class Readout:
    """All meanings of a shutter text, the likeliest first."""

    ambiguous: bool
    readings: tuple[ShutterReading, ...]


_NUMBER = r"\d+(?:[.,]\d+)?|[.,]\d+"
_FRACTION = re.compile(rf"1\s*[/⁄]\s*({_NUMBER})\s*(?:th|nd|rd)?\s*(?:of\s+a\s+)?(?:s|sec|seconds?)?", re.IGNORECASE)
# Some displays set the second sign where the point goes: 0"3, 1"3, 2"5.
_SIGN_INSIDE = re.compile(r"(\d{1,2})\s*(?:\"|″|”|'')\s*(\d)")
_HOURS_BARE = re.compile(r"(\d+)\s*(?:h|hours?)\s*(\d{1,2})", re.IGNORECASE)
_BARE = re.compile(rf"({_NUMBER})")
_SECONDS = re.compile(rf"({_NUMBER})\s*(?:\"|″|”|''|s|sec|secs|seconds?)", re.IGNORECASE)
_LONG = re.compile(
    rf"(?:(\d+)\s*(?:h|hours?)\s*)?(?:({_NUMBER})\s*(?:m|min|mins|minutes?|'|′|’)\s*)?"
    rf"(?:({_NUMBER})\s*(?:s|sec|secs|seconds?|\"|″|”)?)?",
    re.IGNORECASE,
)
_CLOCK = re.compile(r"(?:(\d+):)?(\d{1,2}):(\d{2}(?:\.\d+)?)")

_INSTEAD = 'Write it like 1/60, 0.6 s, 6" or 2 min 30 s.'


def readout(text: str, step: Step = Step.THIRD, dial_limit: float = DIAL_LIMIT) -> Readout:
    """Return every meaning ``text`` has on a shutter ladder.

    Parameters
    ----------
    text : str
        What the display or the person says.
    step : Step
        Division of the body's dial.
    dial_limit : float
        Last shutter mark before bulb [s].

    Raises
    ------
    Refusal
        Nothing readable, zero, negative, or outside 1/32000 s to 24 h.
    """
    within("dial_limit", dial_limit, SHORTEST_DIAL, LONGEST_DIAL, "s")
    body = " ".join(text.split())
    if found := _FRACTION.fullmatch(body):
        return _one(_on_ladder(f"1/{_tidy(found[1])}", step))
    if found := _SIGN_INSIDE.fullmatch(body):
        return _one(_on_dial(f"{found[1]}.{found[2]}", step, dial_limit))
    if found := _HOURS_BARE.fullmatch(body):
        return _one(_literal(float(found[1]) * 3600 + float(found[2]) * 60))
    if found := _SECONDS.fullmatch(body):
        return _one(_on_dial(_tidy(found[1]), step, dial_limit))
    if found := _BARE.fullmatch(body):
        return _bare(_tidy(found[1]), step, dial_limit)
    if found := _CLOCK.fullmatch(body):
        hours, minutes, seconds = (float(part or 0) for part in found.groups())
        return _one(_literal(hours * 3600 + minutes * 60 + seconds))
    if body and (found := _LONG.fullmatch(body)):
        hours, minutes, seconds = (float((part or "0").replace(",", ".")) for part in found.groups())
        return _one(_literal(hours * 3600 + minutes * 60 + seconds))
    raise Refusal("text", f"'{body[:40]}' is not a shutter time.", _INSTEAD)


def certain_shutter(field: str, text: str, step: Step) -> ShutterReading:
    """Return the one meaning of a shutter given as a dial mark.

    A label printed on the ladder is that mark, so "30" is the 32 s mark; other text goes through
    :func:`readout` and must have a single meaning.

    Raises
    ------
    Refusal
        Unreadable text, or an ambiguous one with its readings listed.
    """
    body = text.strip()
    if mark := shutter_marks(step).mark(body):
        return ShutterReading(mark.exact, mark.label)
    try:
        found = readout(body, step)
    except Refusal as refusal:
        raise Refusal(field, refusal.problem, refusal.instead) from refusal
    if found.ambiguous:
        meanings = " or ".join(_meaning(reading) for reading in found.readings)
        raise Refusal(field, f"'{body}' can be read as {meanings}.", "Write 1/n for a fraction or n s for seconds.")
    return found.readings[0]


def _bare(number: str, step: Step, dial_limit: float) -> Readout:
    fraction = shutter_marks(step).mark(f"1/{number}")
    seconds = dial_marks(dial_limit, step).mark(number)
    marks = list(dict.fromkeys(mark for mark in (fraction, seconds) if mark))
    if marks:
        return Readout(len(marks) > 1, tuple(_from(mark) for mark in marks))
    if float(number) < 1:
        return _one(_literal(float(number)))
    # Neither a mark as 1/n nor as n seconds: both stay possible, nothing is assumed.
    readings = [reading for value in (1 / float(number), float(number)) if (reading := _possible(value))]
    if not readings:
        _literal(float(number))
    return Readout(len(readings) > 1, tuple(readings))


def _on_ladder(label: str, step: Step) -> ShutterReading:
    mark = shutter_marks(step).mark(label)
    if mark:
        return _from(mark)
    if mark_value(label.replace("1/", "", 1)) == 0:
        raise Refusal("text", "A time of 1/0 s does not exist.", _INSTEAD)
    return _literal(mark_value(label))


def _on_dial(number: str, step: Step, dial_limit: float) -> ShutterReading:
    mark = dial_marks(dial_limit, step).mark(number)
    return _from(mark) if mark else _literal(float(number))


def _from(mark: Mark) -> ShutterReading:
    return ShutterReading(mark.exact, mark.label)


def _possible(seconds: float) -> ShutterReading | None:
    return ShutterReading(seconds, None) if SHORTEST_SECONDS <= seconds <= LONGEST_SECONDS else None


def _literal(seconds: float) -> ShutterReading:
    if reading := _possible(seconds):
        return reading
    raise Refusal("text", f"{seconds:g} s is outside 1/32000 s to 24 h.", _INSTEAD)


def _one(reading: ShutterReading) -> Readout:
    return Readout(False, (reading,))


def _meaning(reading: ShutterReading) -> str:
    if reading.mark:
        return reading.mark if "/" in reading.mark else f"{reading.mark} s"
    return f"{reading.seconds:g} s" if reading.seconds >= 1 else f"1/{1 / reading.seconds:g} s"


def _tidy(number: str) -> str:
    value = number.replace(",", ".")
    value = f"0{value}" if value.startswith(".") else value
    return value.rstrip("0").rstrip(".") if "." in value else value.lstrip("0") or "0"
