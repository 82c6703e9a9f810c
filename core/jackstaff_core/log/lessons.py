"""What reviewed frames teach about time, focal length and taste, beside the strength of the glass.

    again: correction = the one before + lateness + what was decided on the way - came out         [stops]
    next time: T = used * 2^-(came out) * 2^-(light now - light then)
               too short for the look: at least twice as long, the light held back; leaves smeared or too long: half as
               long or less, the light made up
    clean end of a variable: a third of a stop below the least setting at which a cross was seen, by focal length
    clear focal length: the shortest seen clear with that much rim, above all seen clipped
    taste: for a look, the middle of the times said to be right; for the sea also in wave periods

Source: definition of the stop; medians. Limits: a few frames, of one person's eye.
Verdict: next time computed in light as known; the others estimates from this person's own frames.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Annotated

from ..exposure.calculation import Correction
from ..filters.kind import GlassKind
from ..motion.water import sea_period
from ..scales.ladders import LONGEST_DIAL, LONGEST_SECONDS, SHORTEST_DIAL, SHORTEST_SECONDS, Step, on_dial
from ..scales.spoken import longer_in_words, tenths_in_words, time_in_words
from ..wire.marks import Between
from ..words.refusal import Refusal, within
from .finished_frame import FinishedFrame, UsedGlass
from .frame import Defect, Fit

_BELOW_CROSS = 1 / 3
MOST_STRENGTH = 30.0


@dataclass(frozen=True, slots=True)
class NextTime:
    """The time for the same picture, the light now ``light_stops`` brighter (+); the dial's mark, None in bulb.

    ``hold_back_stops`` is what aperture, filters or waiting must take from the light (+) or give it (-) for that time,
    and ``ways`` how.
    """

    seconds: float
    mark: str | None
    light_stops: float
    text: str
    hold_back_stops: float = 0.0
    ways: tuple[str, ...] = ()


def next_time(
    used_seconds: float,
    error_stops: float,
    light_stops: float = 0.0,
    dial_limit: float = 30.0,
    step: Step = Step.THIRD,
    length: Fit = Fit.RIGHT,
) -> NextTime:
    """Return what to set for the same picture [s].

    Parameters
    ----------
    used_seconds : float
        The time of the frame [s].
    error_stops : float
        + when brighter than wanted [stops].
    light_stops : float
        How the light has moved since [stops].
    dial_limit : float
        Last shutter mark before bulb [s].
    step : Step
        Division of the body's dial.
    length : Fit
        Whether the time was long enough for what moved, or too long.

    Raises
    ------
    Refusal
        Times or the dial's end out of bounds, or a time that no camera sets.
    """
    used = within("seconds", used_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    wrong = within("error_stops", error_stops, -10, 10, "stops")
    light = within("light_stops", light_stops, -30, 30, "stops")
    within("dial_limit", dial_limit, SHORTEST_DIAL, LONGEST_DIAL, "s")
    filled = used * math.exp2(-wrong - light)
    seconds = {
        Fit.RIGHT: filled,
        Fit.SHORT: max(filled, used) * math.exp2(_LOOK_STOPS),
        # However dark it came out: what smeared smears more in a longer frame.
        Fit.LONG: min(filled, used) * math.exp2(-_LOOK_STOPS),
    }[length]
    held = 0.0 if length is Fit.RIGHT else math.log2(seconds / filled)
    if not SHORTEST_SECONDS <= seconds <= LONGEST_SECONDS:
        raise Refusal("light_stops", "The time for that light cannot be set.", "Change filters, aperture or ISO first.")
    mark = on_dial(seconds, dial_limit, step)
    why = [
        f"{abs(wrong):.1f} stop {'less' if wrong > 0 else 'more'} for how it came out" if wrong else "",
        f"{abs(light):.1f} stop {'less' if light > 0 else 'more'} for the light" if abs(light) >= 0.05 else "",
    ]
    shown = mark.label if mark else time_in_words(seconds)
    label = mark.label if mark else None
    if length is Fit.RIGHT:
        because = " and ".join(each for each in why if each) or "the same time was right"
        return NextTime(seconds, label, light, f"Set {shown}: {because}.")
    look = "longer, for the look" if length is Fit.SHORT else "shorter, for what moved"
    ways = _holding_back(held) if held > 0 else _making_up(-held)
    said = f"{', '.join(ways[:-1])} or {ways[-1]}"
    return NextTime(seconds, label, light, f"Set {shown}: {look}. {said[0].upper()}{said[1:]}.", held, ways)


_LOOK_STOPS = 1.0
"""A time that did not suit the look is changed by so much: less is hard to see [stops]."""


def _holding_back(stops: float) -> tuple[str, ...]:
    """Return the ways of a longer frame of the same brightness."""
    said = tenths_in_words(stops)
    return f"close the aperture by {said}", f"add filters of {said}", f"wait until the light is {said} weaker"


def _making_up(stops: float) -> tuple[str, ...]:
    """Return the ways of a shorter frame of the same brightness."""
    said = tenths_in_words(stops)
    return f"open the aperture by {said}", f"raise the ISO by {said}", f"take filters of {said} off"


@dataclass(frozen=True, slots=True)
class AgainQuestion:
    """A frame that came out so, closed so late against its aim, and what its own sum had been corrected by [stops].

    ``longer_stops`` is what was decided on the way, beside the plan.
    """

    error_stops: Annotated[float, Between(-5, 5, "stops")]
    late_stops: Annotated[float, Between(-10, 10, "stops")] = 0.0
    longer_stops: Annotated[float, Between(-10, 10, "stops")] = 0.0
    earlier_stops: Annotated[float, Between(-10, 10, "stops")] = 0.0


def correction_for_again(question: AgainQuestion) -> Correction:
    """Return what the sum of the same frame is corrected by, so that the time is the used one less how it came out.

    Raises
    ------
    Refusal
        All of it together is more than ten stops.
    """
    stops = question.earlier_stops + question.late_stops + question.longer_stops - question.error_stops
    within("error_stops", stops, -10, 10, "stops")
    wrong = question.error_stops
    came_out = "right" if abs(wrong) < 1 / 6 else "bright" if wrong > 0 else "dark"
    said = longer_in_words(stops)
    return Correction(stops, f"{said[0].upper()}{said[1:]}: the last frame was {came_out}")


@dataclass(frozen=True, slots=True)
class CleanEnd:
    """Where a variable glass stays clean at a focal length, by this person's frames [stops]."""

    glass: str
    name: str
    focal_mm: float
    stops: float
    frames: int


@dataclass(frozen=True, slots=True)
class ClearFocal:
    """The shortest focal length a lens was seen clear at with these rims."""

    lens: str
    focal_mm: float
    rims_mm: float
    opening_mm: float | None
    frames: int


@dataclass(frozen=True, slots=True)
class Taste:
    """The time that was right for a look; for the sea at which swell, and in wave periods."""

    kind: str
    look: str
    seconds: float
    swell_m: float | None
    periods: float | None
    frames: int
    text: str


def clean_ends(frames: Iterable[FinishedFrame]) -> tuple[CleanEnd, ...]:
    """Return one row for each variable glass and focal length at which a cross was seen."""
    crossed: dict[tuple[str, float], list[UsedGlass]] = {}
    for frame in frames:
        for piece in frame.glass:
            if piece.kind is GlassKind.VARIABLE and piece.id and frame.focal_mm and Defect.CROSS in frame.defects:
                crossed.setdefault((piece.id, round(frame.focal_mm)), []).append(piece)
    return tuple(
        CleanEnd(key, crosses[0].name, focal, max(0.0, min(each.used for each in crosses) - _BELOW_CROSS), len(crosses))
        for (key, focal), crosses in sorted(crossed.items())
    )


def clear_focals(frames: Iterable[FinishedFrame]) -> tuple[ClearFocal, ...]:
    """For each lens the shortest focal length reviewed clear, if none longer was clipped with as much rim."""
    by_lens: dict[str, list[FinishedFrame]] = {}
    for frame in frames:
        if frame.lens and frame.focal_mm and frame.rims_mm and frame.error_stops is not None:
            by_lens.setdefault(frame.lens, []).append(frame)
    found = []
    for lens, own in sorted(by_lens.items()):
        clipped = [held for held in own if Defect.CORNER in held.defects]
        if not clipped:
            # Nothing was ever cut off: that it is clear says little about where it ends.
            continue
        rims = min(each.rims_mm or 0.0 for each in clipped)
        worst = max(each.focal_mm or 0.0 for each in clipped)
        clear = [
            held for held in own if held not in clipped and (held.rims_mm or 0) >= rims and (held.focal_mm or 0) > worst
        ]
        if clear:
            best = min(clear, key=lambda each: (each.focal_mm or 0.0, -(each.rims_mm or 0.0)))
            found.append(
                ClearFocal(lens, best.focal_mm or 0.0, best.rims_mm or 0.0, best.opening_mm, len(clear) + len(clipped))
            )
    return tuple(found)


def tastes(frames: Iterable[FinishedFrame]) -> tuple[Taste, ...]:
    """Return what was right for each look, nearest swells together."""
    liked: dict[tuple[str, str], list[FinishedFrame]] = {}
    for frame in frames:
        for each in frame.tasted:
            if each.fit is Fit.RIGHT:
                liked.setdefault((each.kind, each.look), []).append(frame)
    return tuple(_taste(kind, look, own) for (kind, look), own in sorted(liked.items()))


def _taste(kind: str, look: str, own: Sequence[FinishedFrame]) -> Taste:
    seconds = math.exp2(statistics.median(math.log2(held.seconds) for held in own))
    waves = [(held, _period(held)) for held in own if kind == "sea"]
    periods = [wave.seconds / period for wave, period in waves if period]
    swells = [held.swell_m for held in own if held.swell_m is not None]
    swell = statistics.median(swells) if swells and kind == "sea" else None
    where = f" at {swell:.1f} m swell" if swell is not None else ""
    in_waves = statistics.median(periods) if periods else None
    length = f", {in_waves:.{0 if in_waves >= 10 else 1}f} waves long" if in_waves is not None else ""
    return Taste(
        kind,
        look,
        seconds,
        swell,
        in_waves,
        len(own),
        f"{look.capitalize()}{where}: {time_in_words(seconds)} was right{length}.",
    )


def wished_stops(frames: Iterable[FinishedFrame], most: int = 500) -> tuple[float, ...]:
    """Return the strength each frame wanted, the latest last [stops]: the time wished for against the bare one.

    Wished for is the middle of its look's window, else the time it was planned with; a whole stack counts as one.
    """
    strengths = []
    for frame in sorted(frames, key=lambda each: each.opened_at):
        if frame.base_seconds is None or frame.dark or frame.trial or not frame.glass:
            continue
        low, high = frame.aim or (frame.planned_seconds, frame.planned_seconds)
        middle = math.sqrt(low * high) if math.isfinite(high) else max(low, frame.planned_seconds)
        stops = math.log2(middle / frame.base_seconds) + sum(piece.used for piece in frame.through)
        if 0 < stops <= MOST_STRENGTH:
            strengths.append(round(stops, 1))
    return tuple(strengths[-most:])


def _period(frame: FinishedFrame) -> float | None:
    return sea_period(frame.swell_m, frame.period_s) if frame.swell_m else frame.period_s
