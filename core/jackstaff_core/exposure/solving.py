"""The fifth quantity from the other four: hold all but one of reading, stack, aperture, ISO and time.

    T = t0 2^s (N/N0)^2 (S0/S)            N = N0 sqrt(T S / (t0 2^s S0))
    S = S0 t0 2^s (N/N0)^2 / T            s = log2(T/t0) - 2 log2(N/N0) - log2(S0/S)
    t0 = T 2^-s (N0/N)^2 (S/S0)           "come back when the meter says"

Source: reciprocity law. Limits: 1/32000 s to 24 h, f/0.7 to f/64, ISO 6 to 409600, 30 stops; steady light. Verdict:
computed.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Annotated

from ..camera.reading import ReadingGiven, SettingsGiven, fill_settings, metered_exposure
from ..camera.readout import DIAL_LIMIT
from ..camera.reciprocity import LawGiven
from ..filters.labels import MOST_STOPS
from ..filters.on_lens import MOST_GLASSES, GlassGiven, filters_of, lens_changes
from ..scales.ladders import (
    LONGEST_DIAL,
    LONGEST_SECONDS,
    SHORTEST_DIAL,
    SHORTEST_SECONDS,
    Scale,
    Step,
    aperture_marks,
    dial_marks,
    iso_marks,
)
from ..scales.spoken import thirds
from ..wire.marks import Between, Named, Size
from ..words.refusal import Refusal, within
from .calculation import MovingLight, check_light, metered_seconds_for


class Floating(StrEnum):
    """What is let go while the rest is held."""

    TIME = "time"
    APERTURE = "aperture"
    ISO = "iso"
    STACK = "stack"
    READING = "reading"


@dataclass(frozen=True, slots=True)
class SolveQuestion:
    """``stops`` or ``stack`` is the glass that is on; ``target_seconds`` the time held (not for floating time).

    With ``light`` the held time is counted by the light it gathers.
    """

    floating: Annotated[Floating, Named("float")]
    reading: ReadingGiven
    stops: float = 0.0
    stack: Annotated[tuple[GlassGiven, ...], Size(0, MOST_GLASSES)] = ()
    settings: SettingsGiven = field(default_factory=SettingsGiven)
    target_seconds: float | None = None
    dial_limit: float = DIAL_LIMIT
    film: LawGiven | None = None
    wished_stops: Annotated[float, Between(-15, 15, "stops")] = 0.0
    """Longer (+) than the meter asks, by correction and on purpose [stops]."""
    light: MovingLight | None = None


@dataclass(frozen=True, slots=True)
class Nearest:
    """A setting that can be dialled and what it costs: + is brighter than correct."""

    mark: str
    exact: float
    cost_stops: float


@dataclass(frozen=True, slots=True)
class Solved:
    """Seconds, f-number, ISO, stops of glass on the lens, or base reading in seconds, with the marks either side."""

    value: float
    nearest: tuple[Nearest, ...]
    missing_stops: float | None = None


def solve(question: SolveQuestion) -> Solved:
    """Work out the floating quantity.

    Raises
    ------
    Refusal
        The reading or settings cannot be read, no target is given, or the answer lies past all bounds.
    """
    step = question.reading.step
    base = metered_exposure(question.reading, question.settings)
    on = lens_changes(filters_of("stack", question.stack), base.through)
    stops = within("stops", question.stops, 0, MOST_STOPS, "stops") + sum(each.stops + each.offset for each in on)
    # The light that is waited for moves in its own way.
    light = None if question.floating is Floating.READING else check_light(question.light)
    shot = fill_settings("settings", question.settings, base.settings, step)
    t0, n0, s0 = base.shutter.exact, base.settings.aperture.exact, base.settings.iso.exact
    n, s = shot.aperture.exact, shot.iso.exact
    moves = 2 * math.log2(n / n0) + math.log2(s0 / s)
    wished = within("wished_stops", question.wished_stops, -15, 15, "stops")
    marks = dial_marks(within("dial_limit", question.dial_limit, SHORTEST_DIAL, LONGEST_DIAL, "s"), step)
    if question.floating is Floating.TIME:
        seconds = t0 * 2.0 ** (stops + moves + wished)
        ends = light.closes(seconds, question.film).close_after_seconds if light else None
        return _time(ends or (question.film.corrected(seconds) if question.film else seconds), marks, step)
    # The held time is the shutter's; the light must be right for the metered time behind it.
    target = metered_seconds_for(_target(question.target_seconds), question.film, light)
    # What was wished for beside the meter is in the held time already.
    target *= 2.0**-wished
    match question.floating:
        case Floating.APERTURE:
            value = n0 * math.sqrt(target * s / (t0 * 2.0**stops * s0))
            return _on(value, aperture_marks(step), lambda exact: 2 * math.log2(value / exact))
        case Floating.ISO:
            value = s0 * t0 * 2.0**stops * (n / n0) ** 2 / target
            return _on(value, iso_marks(step), lambda exact: math.log2(exact / value))
        case Floating.STACK:
            return _glass(math.log2(target / base.bare_seconds) - moves)
        case _:
            value = target * 2.0 ** -(stops + moves)
            # A darker scene than this reads longer, and the frame comes out darker.
            return _on(value, marks, lambda exact: math.log2(value / exact))


def _target(seconds: float | None) -> float:
    if seconds is None:
        raise Refusal("target_seconds", "No time is held.", "Give the time the frame should have, in seconds.")
    return within("target_seconds", seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")


def _time(value: float, marks: Scale, step: Step) -> Solved:
    within("target_seconds", value, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    past = math.log2(value / marks.marks[-1].exact)
    if past > 0.5 / step.per_stop:
        # Bulb takes any time; nothing is missing and nothing need be rounded.
        return Solved(value, ())
    return _on(value, marks, lambda exact: math.log2(exact / value))


def _on(value: float, scale: Scale, cost: Callable[[float], float]) -> Solved:
    low, high = scale.marks[0].exact, scale.marks[-1].exact
    nearest = tuple(Nearest(mark.label, mark.exact, cost(mark.exact)) for mark in scale.neighbours(value))
    reachable = low * (1 - 1e-9) <= value <= high * (1 + 1e-9)
    return Solved(value, nearest, None if reachable else abs(nearest[0].cost_stops))


def _glass(stops: float) -> Solved:
    if stops < 0:
        return Solved(stops, (Nearest("0", 0.0, stops),), -stops)
    if stops > MOST_STOPS:
        return Solved(stops, (Nearest("30", MOST_STOPS, stops - MOST_STOPS),), stops - MOST_STOPS)
    below = math.floor(stops * 3 + 1e-9)
    steps = [below] if abs(stops * 3 - below) < 1e-9 else [below, below + 1]
    return Solved(stops, tuple(Nearest(thirds(third), third / 3, stops - third / 3) for third in steps))
