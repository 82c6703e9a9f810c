"""When to close a running exposure, what it has gathered, and whether it can ever fill.

Puts the light of a run together: readings (before and during) over forecast points over a steady rate, film last.
Models: drift.py, film.py. Below a fifth of the opening's light no time is promised: ways out are.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from .advice import Advice, Severity
from .drift import Path, close_after, close_film, film_gathered, gathered, largest_reachable
from .film import FilmLaw
from .refusal import Refusal, within
from .scales import LONGEST_SECONDS, SHORTEST_SECONDS
from .spoken import said

LIGHT_LEFT_WARNING, LIGHT_LEFT_LEAST = 0.5, 0.2
MOST_POINTS = 2000


@dataclass(frozen=True, slots=True)
class ClosingQuestion:
    """``needed_seconds`` is the metered time at the metering's light, before film; ``now_seconds`` since the opening.

    ``ev_points`` and ``readings`` are (seconds from opening, stops relative to the metering).
    """

    needed_seconds: float
    now_seconds: float = 0.0
    delay_seconds: float = 0.0
    stops_per_minute: float | None = None
    ev_points: tuple[tuple[float, float], ...] = ()
    readings: tuple[tuple[float, float], ...] = ()
    film: FilmLaw | None = None


@dataclass(frozen=True, slots=True)
class Closing:
    """Times [s] from opening, None for never; ``light_left_at_close`` relative to the opening."""

    close_after_seconds: float | None
    gathered: float
    reaches: bool
    largest_reachable_seconds: float | None
    light_left_at_close: float | None
    error_if_closed_as_metered_stops: float
    advice: tuple[Advice, ...]


def closing(question: ClosingQuestion) -> Closing:
    """Work out the end of a running exposure.

    Raises
    ------
    Refusal
        A time, rate or point out of bounds, or points out of order.
    """
    needed = within("needed_seconds", question.needed_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    now = within("now", question.now_seconds, -LONGEST_SECONDS, 2 * LONGEST_SECONDS, "s after opening")
    path = light_path(question)
    film = question.film
    end = close_film(path, needed, film) if film else close_after(path, needed)
    as_metered = film.corrected(needed) if film else needed
    reaches = end <= LONGEST_SECONDS
    largest = largest_reachable(path)
    left = 2.0 ** (path.at(end) - path.at(0.0)) if reaches else None
    done = _done(path, needed, film, max(0.0, now))
    at_metered = _done(path, needed, film, as_metered)
    return Closing(
        close_after_seconds=end if reaches else None,
        gathered=min(1.0, done),
        reaches=reaches,
        largest_reachable_seconds=None if math.isinf(largest) else largest,
        light_left_at_close=left,
        error_if_closed_as_metered_stops=math.log2(at_metered),
        advice=tuple(_advice(needed, end, left, largest, reaches)),
    )


def light_path(question: ClosingQuestion) -> Path:
    """The light of a run. Readings win for the past; then points go on, else the rate given, else the last slope."""
    rate = None
    if question.stops_per_minute is not None:
        rate = within("stops_per_minute", question.stops_per_minute, -30, 30, "stops a minute") / 60
    delay = within("delay_seconds", question.delay_seconds, 0, LONGEST_SECONDS, "s")
    points, readings = _sound("ev_points", question.ev_points), _sound("readings", question.readings)
    if readings:
        return _with_readings(readings, points, rate, delay)
    if points:
        return Path.through(points)
    return Path.steady(rate or 0.0, delay)


def _sound(name: str, points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
    if len(points) > MOST_POINTS:
        raise Refusal(name, f"{len(points)} points are too many.", f"Give at most {MOST_POINTS}.")
    for place, (seconds, stops) in enumerate(points):
        within(f"{name}.{place}.at_seconds", seconds, -2 * LONGEST_SECONDS, 2 * LONGEST_SECONDS, "s")
        within(f"{name}.{place}.stops", stops, -40, 40, "stops")
    return points


def _with_readings(
    readings: tuple[tuple[float, float], ...], points: tuple[tuple[float, float], ...], rate: float | None, delay: float
) -> Path:
    """Straight from the metering through the readings, and on from the last."""
    known = list(readings)
    if known[0][0] > -delay:
        known.insert(0, (-delay, 0.0))
    last_at, last_stops = known[-1]
    if not points:
        return Path.through(known, rate)
    ahead = Path.through(points)
    lifted = [(at, stops + last_stops - ahead.at(last_at)) for at, stops in points if at > last_at]
    return Path.through([*known, *lifted], ahead.slope_after)


def _done(path: Path, needed: float, film: FilmLaw | None, seconds: float) -> float:
    """Share of the exposure gathered by then."""
    if seconds <= 0:
        return 0.0
    return film_gathered(path, needed, film, seconds) if film else gathered(path, 0.0, seconds) / needed


def _advice(needed: float, end: float, left: float | None, largest: float, reaches: bool) -> Iterator[Advice]:
    if not reaches:
        short = math.log2(needed / largest) if math.isfinite(largest) else 1.0
        thirds = max(1, math.ceil((short + 0.5) * 3))
        yield Advice(
            "never_fills",
            Severity.HARM,
            f"In this light the frame never fills: it stays at least {max(short, 0.1):.1f} stops short. Open up or"
            f" raise the ISO by {thirds} thirds, drop a glass, or close early and accept a darker frame.",
            {"short_stops": short},
        )
        return
    if left is not None and left < LIGHT_LEFT_LEAST:
        yield Advice(
            "hardly_fills",
            Severity.HARM,
            "It will not fill in time: by then a fifth of the light or less is left, and no time can be trusted."
            " Open up a stop, raise the ISO or drop a glass.",
            {"light_left": left},
        )
    elif left is not None and left < LIGHT_LEFT_WARNING:
        yield Advice(
            "light_halves",
            Severity.CAUTION,
            "The light halves while the shutter is open: meter again on the way, or open up and keep it shorter.",
            {"light_left": left},
        )
    if abs(math.log2(end / needed)) > 1 / 3:
        longer = "longer" if end > needed else "shorter"
        yield Advice(
            "ends_part",
            Severity.NOTE,
            f"The light moves: the frame takes {said(end)}, {longer} than metered.",
            {"seconds": end, "metered_seconds": needed},
        )
