"""What the light did while a frame was exposed, as a watching phone saw it, and what that made of the frame.

The looks and readings of the frame give its path of light (moving_light/fusion.py); what it let in is the integral of
that path (moving_light/integral.py) against the light it was metered for. Closed as planned it would have been the
same integral to the planned end.

Source: moving_light/fusion.py, moving_light/integral.py. Limits: frames that were watched; what came out is explained
by the light where the two are within a quarter stop. Verdict: estimate, with its sd.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..exposure.timing_error import TimingError, timing_error
from ..moving_light.end_of_exposure import ExposureEndQuestion, error_if_closed, known_light, seen_light
from ..scales.spoken import stops_shown
from ..words.refusal import Refusal
from .frame import Frame, is_reckonable

TOLD_STOPS, EXPLAINED_STOPS, MOST_OF_IT = 0.25, 0.25, 0.7
MOST_DRAWN = 120
_UNTOLD = ("dark", "stopwatch", "timer")


@dataclass(frozen=True, slots=True)
class StoryPoint:
    """Light against the metering [stops] with its sd, seconds from the opening; ``planned`` is what was counted on."""

    at_seconds: float
    stops: float
    sd: float
    planned: float


@dataclass(frozen=True, slots=True)
class LightStory:
    """``came_stops`` is how much more (+) light came in than was wanted, ``planned_stops`` what closing as planned had.

    ``last_*`` is the light at the closing, for the frame after.
    """

    text: str
    came_stops: float
    planned_stops: float
    points: tuple[StoryPoint, ...]
    last_stops: float
    last_sd: float
    stops_per_minute: float
    rate_sd: float


def story(frame: Frame) -> LightStory | None:
    """Return the light of a frame that has ended; None where nobody watched, or where no light was wanted."""
    question = _question(frame)
    if question is None or frame.run is None:
        return None
    run, closed = frame.run, question.now_seconds
    try:
        watched, path = seen_light(question)
    except Refusal:
        # Looks that cannot be put in order: the frame is told without its light.
        return None
    came, planned = (error_if_closed(path, question, at) or 0.0 for at in (closed, frame.answer.set_seconds))
    rate = (run.stops_per_minute or 0.0) / 60
    opened = run.moved_stops if run.moved_stops is not None else rate * run.delay_seconds
    points = [
        StoryPoint(knot.at_seconds, knot.stops, knot.sd, opened + rate * knot.at_seconds)
        for knot in watched.knots
        if -run.delay_seconds <= knot.at_seconds <= closed
    ]
    during = [point for point in points if point.at_seconds >= 0]
    differs = _differs(during)
    mean = _mean_off([point for point in during if differs is not None and point.at_seconds >= differs])
    return LightStory(
        _text(differs, mean, came, planned, frame.review.error_stops if frame.review else None),
        came,
        planned,
        tuple(points[:: max(1, math.ceil(len(points) / MOST_DRAWN))]),
        watched.stops,
        watched.sd,
        watched.stops_per_minute,
        watched.rate_sd,
    )


def seen_light_stops(frame: Frame) -> float | None:
    """Return how much more (+) than was wanted the light that was seen let in [stops]; None where none was seen."""
    question = _question(frame)
    if question is None:
        return None
    try:
        return error_if_closed(seen_light(question)[1], question, question.now_seconds)
    except Refusal:
        return None


def closing_error(frame: Frame) -> TimingError | None:
    """Return how a frame was closed against its aim, by the light it let in; None where it cannot be reckoned with."""
    closed, aimed = frame.open_seconds, frame.aimed_seconds
    if closed is None or not is_reckonable(closed, aimed):
        return None
    question = _asked(frame)
    if question is None:
        return timing_error(aimed, closed)
    try:
        return timing_error(aimed, closed, known_light(question), question.film)
    except Refusal:
        # A run of another day whose readings cannot be put in order: the clock alone speaks.
        return timing_error(aimed, closed)


def _question(frame: Frame) -> ExposureEndQuestion | None:
    """Return what was wanted of a frame's light, and what is known of it; None where nobody watched, or wanted any."""
    return _asked(frame) if frame.run and frame.run.looks else None


def _asked(frame: Frame) -> ExposureEndQuestion | None:
    """Return the same whether somebody watched or not; None where no light was wanted."""
    run, closed = frame.run, frame.open_seconds
    if run is None or run.purpose in _UNTOLD or closed is None:
        return None
    needed = run.metered_seconds * 2**run.bias_stops
    if not is_reckonable(closed, needed, frame.answer.set_seconds):
        return None
    return ExposureEndQuestion(
        needed_seconds=needed,
        now_seconds=closed,
        delay_seconds=run.delay_seconds,
        stops_per_minute=run.stops_per_minute,
        readings=tuple((each.at_seconds, each.stops) for each in run.rereads),
        film=run.film,
        rate_sd=run.rate_sd,
        moved_stops=run.moved_stops,
        looks=run.looks,
        believed=tuple(each.believed for each in run.rereads),
    )


def _differs(during: list[StoryPoint]) -> float | None:
    """Return the second from which the light was off the plan to the end, or for most of what was left."""
    off = [point.stops - point.planned for point in during]
    for place, first in enumerate(off):
        if abs(first) < TOLD_STOPS:
            continue
        rest = off[place:]
        along = sum(each * first > 0 and abs(each) >= TOLD_STOPS / 2 for each in rest)
        if along >= MOST_OF_IT * len(rest):
            return during[place].at_seconds
    return None


def _mean_off(points: list[StoryPoint]) -> float:
    """Return how far the light was off the plan, in the mean [stops]."""
    return math.fsum(point.stops - point.planned for point in points) / len(points) if points else 0.0


def _text(differs: float | None, mean: float, came: float, planned: float, error_stops: float | None) -> str:
    if differs is None or abs(mean) < TOLD_STOPS / 2:
        text = "The light stayed as it was reckoned with."
    else:
        minute = int(differs // 60) + 1
        since = "from the opening on" if differs < 20 else f"from the {_ordinal(minute)} minute on"
        text = f"{abs(mean):.1f} stop {'brighter' if mean > 0 else 'darker'} than reckoned with {since}."
    if abs(planned) >= TOLD_STOPS:
        size = _size(planned)
        how = "bright" if planned > 0 else "dark"
        text += f" Closed as planned the frame would be {size} too {how}."
    if error_stops is None or abs(error_stops) < 1 / 6:
        return text
    size = _size(error_stops)
    if abs(error_stops - came) <= EXPLAINED_STOPS:
        return f"{text} That is the {size}."
    return f"{text} That does not explain the {size}: look for a filter, the reading or the aperture."


def _size(stops: float) -> str:
    return stops_shown(max(1, round(abs(stops) * 3)))


def _ordinal(number: int) -> str:
    ends = {1: "st", 2: "nd", 3: "rd"}
    return f"{number}{'th' if number % 100 in (11, 12, 13) else ends.get(number % 10, 'th')}"
