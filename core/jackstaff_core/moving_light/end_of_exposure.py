"""When to close a running exposure, what it has gathered, and whether it can ever fill.

Puts the light of a run together: readings (before and during) over forecast points over a steady rate, film last.
Models: moving_light/integral.py, camera/reciprocity.py. Source: moving_light/integral.py, camera/reciprocity.py.
Limits: 24 h open. Verdict: computed on the path of light given. Below a fifth of the opening's light no time is
promised: ways out are.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, fields, replace

from ..camera.reciprocity import LawGiven, Power, ReciprocityLaw
from ..scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from ..scales.spoken import stops_in_words, time_in_words
from ..words.advice import Advice, Severity
from ..words.refusal import Refusal, within
from .fusion import Fused, LightStep, Looked, Weight, fuse_light
from .integral import Path, close_after, close_film, filled_metered_seconds, film_gathered, gathered, largest_reachable
from .rate import likely_rate

LIGHT_LEFT_WARNING, LIGHT_LEFT_LEAST = 0.5, 0.2
MOST_POINTS = 2000
MOST_MOVED = 40.0
"""Stops between the metering and any light reckoned with."""
_TRACK_POINTS = 60
_NOTHING_YET = -40.0
PLANNED_RATE_SD = 0.05
"""How well a rate is known that came without its doubt [stop/min]."""
_MOST_THIRDS = 30


@dataclass(frozen=True, slots=True)
class ExposureEndQuestion:
    """``needed_seconds`` is the metered time at the metering's light, before film; ``now_seconds`` since the opening.

    ``ev_points`` and ``readings`` are (seconds from opening, stops relative to the metering). Without a rate the last
    slope goes on, unless ``rate_from_readings``: then the likeliest one, for two readings a minute apart make no slope.
    ``looks`` are what a watching phone saw; ``believed`` says of each reading whether it counts against them.
    ``moved_stops`` is what the light has been seen to move from the metering to the opening, instead of rate and delay.
    """

    needed_seconds: float
    now_seconds: float = 0.0
    delay_seconds: float = 0.0
    stops_per_minute: float | None = None
    ev_points: tuple[tuple[float, float], ...] = ()
    readings: tuple[tuple[float, float], ...] = ()
    film: LawGiven | None = None
    tracked: bool = False
    rate_from_readings: bool = False
    rate_sd: float | None = None
    looks: tuple[Looked, ...] = ()
    believed: tuple[bool | None, ...] = ()
    moved_stops: float | None = None


@dataclass(frozen=True, slots=True)
class WatchedLight:
    """What the light is now against the metering [stops], how it moves, and what says so.

    ``contradicts`` is the place of the reading asked about.
    """

    stops: float
    sd: float
    stops_per_minute: float
    rate_sd: float
    weights: tuple[Weight, ...]
    steps: tuple[LightStep, ...]
    contradicts: int | None
    advice: Advice | None


@dataclass(frozen=True, slots=True)
class Progress:
    """Share gathered at ``seconds`` from the opening, and what closing then would be [stops, + brighter]."""

    seconds: float
    gathered: float
    stops: float


@dataclass(frozen=True, slots=True)
class WayOut:
    """What saves a frame that will not fill.

    ``thirds`` of a stop to open up or raise the ISO, ``stops`` to take off, or what closing at once costs.
    """

    code: str
    amount: float
    text: str


@dataclass(frozen=True, slots=True)
class ExposureEnd:
    """Times [s] from opening, None for never; ``light_left_at_close`` relative to the opening.

    ``track`` follows the gathering from the first second to four times the end, as many points to each doubling, so
    that a screen can hoist it without asking again: straight lines over the logarithm of the time join them.
    """

    close_after_seconds: float | None
    gathered: float
    reaches: bool
    largest_reachable_seconds: float | None
    light_left_at_close: float | None
    error_if_closed_as_metered_stops: float
    advice: tuple[Advice, ...]
    as_metered_seconds: float
    error_if_closed_now_stops: float | None
    ways_out: tuple[WayOut, ...]
    track: tuple[Progress, ...]
    light: WatchedLight | None = None


def exposure_end(question: ExposureEndQuestion) -> ExposureEnd:
    """Work out the end of a running exposure.

    Raises
    ------
    Refusal
        A time, rate or point out of bounds, or points out of order.
    """
    needed = within("needed_seconds", question.needed_seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    now = within("now", question.now_seconds, -LONGEST_SECONDS, 2 * LONGEST_SECONDS, "s after opening")
    watched, path = seen_light(question) if question.looks else (None, light_path(question))
    question = replace(question, needed_seconds=needed)
    film = question.film
    as_metered = film.corrected(needed) if film else needed
    if as_metered > LONGEST_SECONDS:
        # Asked before the film is followed: its time grows without bound, and the work with it.
        raise Refusal("film", "By this law the film asks for more than 24 h.", "Take filters off, or open up.")
    end = close_film(path, needed, film) if film else close_after(path, needed)
    reaches = end <= LONGEST_SECONDS
    largest = largest_reachable(path)
    left = 2.0 ** (path.at(end) - path.at(0.0)) if reaches else None
    done = _done(path, needed, film, max(0.0, now))
    now_stops = error_if_closed(path, question, now)
    return ExposureEnd(
        close_after_seconds=end if reaches else None,
        gathered=min(1.0, done),
        reaches=reaches,
        largest_reachable_seconds=None if math.isinf(largest) else largest,
        light_left_at_close=left,
        error_if_closed_as_metered_stops=error_if_closed(path, question, as_metered) or 0.0,
        advice=tuple(_advice(needed, as_metered, end, left, largest, reaches)),
        as_metered_seconds=as_metered,
        error_if_closed_now_stops=now_stops,
        ways_out=tuple(_ways_out(path, needed, now_stops, left, reaches)) if question.tracked else (),
        track=tuple(_track(path, question, end if reaches else as_metered)) if question.tracked else (),
        light=WatchedLight(*(getattr(watched, each.name) for each in fields(WatchedLight))) if watched else None,
    )


def known_light(question: ExposureEndQuestion) -> Path:
    """Return the light of a run by all that is known of it: what a phone saw, else readings, forecast or rate."""
    return seen_light(question)[1] if question.looks else light_path(question)


def seen_light(question: ExposureEndQuestion) -> tuple[Fused, Path]:
    """Return what a watching phone saw together with all else that is known of the light, and the path it makes."""
    watched = _watched(question)
    return watched, _seen_path(watched, question)


def error_if_closed(path: Path, question: ExposureEndQuestion, seconds: float) -> float | None:
    """Return how much more (+) than was wanted the light of a path lets in until ``seconds`` [stops].

    None before any has.

    Parameters
    ----------
    path : Path
        The light against the metering's.
    question : ExposureEndQuestion
        What is wanted.
    seconds : float
        From the opening [s].
    """
    if seconds <= 0:
        return None
    return math.log2(filled_metered_seconds(path, question.film, seconds) / question.needed_seconds)


def _watched(question: ExposureEndQuestion) -> Fused:
    """Return the light as readings, forecast and phone say it together."""
    readings, believed = _sound("readings", question.readings), question.believed
    points = _sound("ev_points", question.ev_points)
    ahead, rate = Path.through(points).at if points else None, question.stops_per_minute
    if ahead is None and rate is not None:
        slope = within("stops_per_minute", rate, -30, 30, "stops a minute") / 60
        ahead = lambda second: slope * second  # noqa: E731
    # Light that was known at the opening stands there instead of at the metering.
    moved = within("moved_stops", question.moved_stops or 0.0, -MOST_MOVED, MOST_MOVED, "stops")
    delay = within("delay_seconds", question.delay_seconds, 0, LONGEST_SECONDS, "s")
    watched = fuse_light(
        -delay if question.moved_stops is None else 0.0,
        question.looks,
        [
            (at, stops - moved, believed[place] if place < len(believed) else None)
            for place, (at, stops) in enumerate(readings)
        ],
        ahead,
        question.rate_sd if question.rate_sd is not None or ahead is None else PLANNED_RATE_SD,
        question.now_seconds,
    )
    if not moved:
        return watched
    knots = tuple(replace(knot, stops=knot.stops + moved) for knot in watched.knots)
    return replace(watched, knots=knots, stops=watched.stops + moved)


def _seen_path(watched: Fused, question: ExposureEndQuestion) -> Path:
    """Return the straight through what was known at each look, then on as it moves now.

    A forecast's own bends are kept.
    """
    known = [(knot.at_seconds, knot.stops) for knot in watched.knots]
    last_at, last_stops = known[-1]
    points = question.ev_points
    if not points:
        return Path.through(known, watched.stops_per_minute / 60)
    ahead = Path.through(points)
    lean = watched.stops_per_minute / 60 - (ahead.at(last_at + 30) - ahead.at(last_at - 30)) / 60
    lifted = [(at, ahead.at(at) - ahead.at(last_at) + last_stops + lean * (at - last_at)) for at, _ in points]
    return Path.through([*known, *(each for each in lifted if each[0] > last_at)], ahead.slope_after + lean)


def _track(path: Path, question: ExposureEndQuestion, end: float) -> Iterator[Progress]:
    """From a twentieth of a second or a thousandth of the end to four times the end, evenly in doublings."""
    first, last = max(0.05, end / 1024), min(end * 4, 2 * LONGEST_SECONDS)
    if last <= first:
        first = last / 1024
    closed_form = question.film is None or isinstance(question.film, Power) or path.is_level
    points = _TRACK_POINTS if closed_form else _TRACK_POINTS // 3
    done, before = 0.0, 0.0
    yield Progress(0.0, 0.0, _NOTHING_YET)
    for turn in range(points):
        seconds = first * (last / first) ** (turn / (points - 1))
        if question.film:
            done += film_gathered(path, question.needed_seconds, question.film, seconds, before)
        else:
            done += gathered(path, before, seconds) / question.needed_seconds
        before = seconds
        yield Progress(seconds, done, error_if_closed(path, question, seconds) or 0.0)


def _ways_out(
    path: Path, needed: float, now_stops: float | None, left: float | None, reaches: bool
) -> Iterator[WayOut]:
    """Least that leaves half of the light at the close, in thirds; glass and ISO do the same as the aperture."""
    if reaches and left is not None and left >= LIGHT_LEFT_LEAST:
        return
    for thirds in range(1, _MOST_THIRDS + 1):
        less = needed * math.exp2(-thirds / 3)
        end = close_after(path, less)
        if end <= LONGEST_SECONDS and math.exp2(path.at(end) - path.at(0.0)) >= LIGHT_LEFT_WARNING:
            stops = thirds / 3
            yield WayOut("open_up", thirds, f"Open the aperture by {stops_in_words(thirds)}.")
            yield WayOut("raise_iso", thirds, f"Raise the ISO by {stops_in_words(thirds)}.")
            yield WayOut("drop_glass", stops, f"Take off {stops:.1f} stops of filters or more.")
            break
    if now_stops is not None:
        accept = f"Close now and accept {abs(now_stops):.1f} stops darker." if now_stops < 0 else "Close now."
        yield WayOut("close_now", now_stops, accept)


def light_path(question: ExposureEndQuestion) -> Path:
    """Return the light of a run.

    Readings win for the past; then points go on, else the rate given, else the last slope.

    Raises
    ------
    Refusal
        Points or readings that do not rise in time, or a rate, delay or stop out of bounds.
    """
    rate = None
    if question.stops_per_minute is not None:
        rate = within("stops_per_minute", question.stops_per_minute, -30, 30, "stops a minute") / 60
    delay = within("delay_seconds", question.delay_seconds, 0, LONGEST_SECONDS, "s")
    points, readings = _sound("ev_points", question.ev_points), _sound("readings", question.readings)
    start = (-delay, 0.0)
    if question.moved_stops is not None:
        start = (0.0, within("moved_stops", question.moved_stops, -MOST_MOVED, MOST_MOVED, "stops"))
    if readings or question.moved_stops is not None:
        return _with_readings(readings, points, rate, start, question.rate_from_readings)
    if points:
        return Path.through(points)
    check_reading_still_valid("delay_seconds", (rate or 0.0) * 60, delay)
    return Path.steady(rate or 0.0, delay)


def _sound(name: str, points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
    if len(points) > MOST_POINTS:
        raise Refusal(name, f"{len(points)} points are too many.", f"Give at most {MOST_POINTS}.")
    for place, (seconds, stops) in enumerate(points):
        within(f"{name}.{place}.at_seconds", seconds, -2 * LONGEST_SECONDS, 2 * LONGEST_SECONDS, "s")
        within(f"{name}.{place}.stops", stops, -MOST_MOVED, MOST_MOVED, "stops")
        if place and seconds <= points[place - 1][0]:
            raise Refusal(name, "The instants do not rise.", "Put the points in order of time, each once.")
    return points


def check_reading_still_valid(field: str, stops_per_minute: float, delay_seconds: float) -> None:
    """Let a rate [stop/min] and a delay [s] pass that leave the reading's light within reach.

    Parameters
    ----------
    field : str
        The name the caller knows the rate by.
    stops_per_minute : float
        + growing brighter [stop/min].
    delay_seconds : float
        From the reading to the opening [s].

    Raises
    ------
    Refusal
        The light has moved by more than lies between a night and the sun: the reading is of other light.
    """
    stops = abs(stops_per_minute * delay_seconds / 60)
    if stops > MOST_MOVED:
        raise Refusal(
            field, f"At this rate the light has moved by {stops:.0f} stops since the reading.", "Meter again."
        )


def _with_readings(
    readings: tuple[tuple[float, float], ...],
    points: tuple[tuple[float, float], ...],
    rate: float | None,
    start: tuple[float, float],
    likely: bool,
) -> Path:
    """Return the straight from where the light was known through the readings, and on from the last."""
    known = [start, *readings] if not readings or readings[0][0] > start[0] else list(readings)
    last_at, last_stops = known[-1]
    if not points:
        return Path.through(known, likely_rate(known) if rate is None and likely else rate)
    ahead = Path.through(points)
    lifted = [(at, stops + last_stops - ahead.at(last_at)) for at, stops in points if at > last_at]
    return Path.through([*known, *lifted], ahead.slope_after)


def _done(path: Path, needed: float, film: ReciprocityLaw | None, seconds: float) -> float:
    """Return the share of the exposure gathered by then."""
    if seconds <= 0:
        return 0.0
    return film_gathered(path, needed, film, seconds) if film else gathered(path, 0.0, seconds) / needed


def _advice(
    needed: float, still: float, end: float, left: float | None, largest: float, reaches: bool
) -> Iterator[Advice]:
    """Yield what is worth knowing of a frame that needs so long as metered.

    That long is ``still`` in still light and ``end`` in this light.
    """
    if not reaches:
        short = math.log2(needed / largest) if math.isfinite(largest) else 1.0
        thirds = max(1, math.ceil((short + 0.5) * 3))
        yield Advice(
            "never_fills",
            Severity.HARM,
            f"In this light the frame never fills: it stays at least {max(short, 0.1):.1f} stops short. Open up or"
            f" raise the ISO by {thirds} thirds, drop a filter, or close early and accept a darker frame.",
            {"short_stops": short},
        )
        return
    if left is not None and left < LIGHT_LEFT_LEAST:
        yield Advice(
            "hardly_fills",
            Severity.HARM,
            "It will not fill in time: by then a fifth of the light or less is left, and no time can be trusted."
            " Open up a stop, raise the ISO or drop a filter.",
            {"light_left": left},
        )
    elif left is not None and left < LIGHT_LEFT_WARNING:
        yield Advice(
            "light_halves",
            Severity.CAUTION,
            "The light halves while the shutter is open: meter again on the way, or open up and keep it shorter.",
            {"light_left": left},
        )
    if abs(math.log2(end / still)) > 1 / 3:
        longer = "longer" if end > still else "shorter"
        yield Advice(
            "ends_part",
            Severity.NOTE,
            f"The light moves: the frame takes {time_in_words(end)}, {longer} than in still light.",
            {"seconds": end, "metered_seconds": needed},
        )
