"""What the light did while a frame was exposed, as a watching phone saw it, and what that made of the frame.

The looks and readings of the frame give its path of light (fused_light.py); what it let in is the integral of that path
(light_integral.py) against the light it was metered for. Closed as planned it would have been the same integral to the
planned end.

Source: fused_light.py, light_integral.py. Limits: frames that were watched; what came out is explained by the light
where the two are within a quarter stop. Verdict: estimate, with its sd.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from .exposure_end import ExposureEnd, ExposureEndQuestion, exposure_end, seen_knots
from .frame import Frame, reckonable
from .fused_light import LightStep, Weight
from .refusal import Refusal
from .spoken import stops_said

TOLD_STOPS, EXPLAINED_STOPS = 0.25, 0.25
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
    """``came_stops`` is how much more (+) light came in than was wanted, ``came_sd`` how well that is known.

    ``planned_stops`` is what closing as planned would have made, ``differs_from_seconds`` where light and plan part;
    ``last_*`` is the light at the closing, for the frame after.
    """

    text: str
    came_stops: float
    came_sd: float
    planned_stops: float
    differs_from_seconds: float | None
    differs_stops: float
    points: tuple[StoryPoint, ...]
    steps: tuple[LightStep, ...]
    weights: tuple[Weight, ...]
    last_stops: float
    last_sd: float
    stops_per_minute: float
    rate_sd: float


def story(frame: Frame) -> LightStory | None:
    """The light of a frame that has ended; None where nobody watched, or where no light was wanted."""
    end = seen_end(frame)
    seconds, run = frame.open_seconds, frame.run
    if end is None or end.light is None or end.error_if_closed_now_stops is None or run is None or seconds is None:
        return None
    question = _question(frame, seconds)
    planned = exposure_end(_question(frame, frame.answer.set_seconds)).error_if_closed_now_stops or 0.0
    rate = (run.stops_per_minute or 0.0) / 60
    opened = run.moved_stops if run.moved_stops is not None else rate * run.delay_seconds
    points = [
        StoryPoint(knot.at_seconds, knot.stops, knot.sd, opened + rate * knot.at_seconds)
        for knot in seen_knots(question)
        if -run.delay_seconds <= knot.at_seconds <= seconds
    ]
    differs = _differs(points)
    mean = _mean_off(points)
    came = frame.review.came_out if frame.review else None
    return LightStory(
        _text(differs, mean, end.error_if_closed_now_stops, planned, came),
        end.error_if_closed_now_stops,
        end.light.error_sd,
        planned,
        differs,
        mean,
        tuple(points[:: max(1, math.ceil(len(points) / MOST_DRAWN))]),
        end.light.steps,
        end.light.weights,
        end.light.stops,
        end.light.sd,
        end.light.stops_per_minute,
        end.light.rate_sd,
    )


def seen_end(frame: Frame) -> ExposureEnd | None:
    """What the light that was seen made of an ended frame; None where none was seen."""
    seconds, run = frame.open_seconds, frame.run
    if run is None or not run.looks or run.purpose in _UNTOLD or seconds is None:
        return None
    if not reckonable(seconds, run.metered_seconds, frame.answer.set_seconds):
        return None
    try:
        return exposure_end(_question(frame, seconds))
    except Refusal:
        # Looks that cannot be put in order, or a film's day: the frame is told without its light.
        return None


def _question(frame: Frame, closed: float) -> ExposureEndQuestion:
    run = frame.run
    if run is None:
        raise Refusal("run", "This frame was not run.", "Ask about one that was.")
    return ExposureEndQuestion(
        needed_seconds=run.metered_seconds * 2**run.bias_stops,
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


def _differs(points: list[StoryPoint]) -> float | None:
    """The second from which the light was off the plan to the end, or for most of what was left."""
    during = [point for point in points if point.at_seconds >= 0]
    for place, point in enumerate(during):
        rest = during[place:]
        off = point.stops - point.planned
        if abs(off) < TOLD_STOPS:
            continue
        if sum(
            (each.stops - each.planned) * off > 0 and abs(each.stops - each.planned) >= TOLD_STOPS / 2 for each in rest
        ) >= 0.7 * len(rest):
            return point.at_seconds
    return None


def _mean_off(points: list[StoryPoint]) -> float:
    """How far the light was off the plan from there on, in the mean [stops]."""
    start = _differs(points)
    off = [point.stops - point.planned for point in points if start is not None and point.at_seconds >= start]
    return math.fsum(off) / len(off) if off else 0.0


def _text(differs: float | None, mean: float, came: float, planned: float, came_out: float | None) -> str:
    if differs is None or abs(mean) < TOLD_STOPS / 2:
        said = "The light stayed as it was reckoned with."
    else:
        minute = int(differs // 60) + 1
        since = "from the opening on" if differs < 20 else f"from the {_ordinal(minute)} minute on"
        said = f"{abs(mean):.1f} stop {'brighter' if mean > 0 else 'darker'} than reckoned with {since}."
    if abs(planned) >= TOLD_STOPS:
        size = _size(planned)
        how = "bright" if planned > 0 else "dark"
        said += f" Closed as planned the frame would be {size} too {how}."
    if came_out is None or abs(came_out) < 1 / 6:
        return said
    size = _size(came_out)
    if abs(came_out - came) <= EXPLAINED_STOPS:
        return f"{said} That is the {size}."
    return f"{said} That does not explain the {size}: look for a filter, the reading or the aperture."


def _size(stops: float) -> str:
    return stops_said(max(1, round(abs(stops) * 3))).replace("1/3", "⅓").replace("2/3", "⅔")


def _ordinal(number: int) -> str:
    ends = {1: "st", 2: "nd", 3: "rd"}
    return f"{number}{'th' if number % 100 in (11, 12, 13) else ends.get(number % 10, 'th')}"
