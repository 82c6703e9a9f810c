"""What is asked of light that changes: its rate, a look at it, when a frame has gathered enough."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from ..camera.reading import ReadingGiven, scene_ev
from ..camera.reciprocity import LawGiven
from ..wire.marks import Between, Size
from ..wire.question import Question
from ..words.refusal import within
from .end_of_exposure import MOST_POINTS, ExposureEnd, ExposureEndQuestion, exposure_end
from .fusion import Looks as FrameLooks
from .fusion import WatchedRate, watched_rate
from .rate import MOST_READINGS, KnownRate, light_rate
from .watching import Look, LookQuestion, look


@dataclass(frozen=True, slots=True)
class TakenReading:
    """What the meter said, and when."""

    reading: ReadingGiven
    at: datetime


@dataclass(frozen=True, slots=True)
class RateQuestion:
    """Readings of one scene, the same filters on, in order of time; ``forecast`` is what a plan says of the rate."""

    readings: Annotated[tuple[TakenReading, ...], Size(1, MOST_READINGS)]
    at: datetime
    forecast: KnownRate | None = None
    looks: FrameLooks = ()
    """What a watching phone saw, seconds from the last reading."""


def _rate(question: RateQuestion) -> WatchedRate:
    if question.forecast is not None:
        within("forecast.stops_per_minute", question.forecast.stops_per_minute, -10, 10, "stops a minute")
        within("forecast.rate_sd", question.forecast.rate_sd, 0, 5, "stops a minute")
    taken = [(each.at, scene_ev(each.reading)[0]) for each in question.readings]
    since = (question.at - question.readings[-1].at).total_seconds()
    return watched_rate(
        light_rate(taken, question.at, question.forecast), question.forecast is not None, question.looks, since
    )


@dataclass(frozen=True, slots=True)
class Point:
    """Light relative to the metering [stops], ``at_seconds`` from the opening."""

    at_seconds: float
    stops: float


Points = Annotated[tuple[Point, ...], Size(0, MOST_POINTS)]


@dataclass(frozen=True, slots=True)
class ReadingPoint:
    """A reading on the way; ``believed`` is what was said where it stood against a watching phone."""

    at_seconds: float
    stops: float
    believed: bool | None = None


@dataclass(frozen=True, slots=True)
class CloseQuestion:
    """``at_seconds`` from the opening, negative before it; stops relative to the metering."""

    needed_seconds: float
    opened_at: datetime
    now: datetime
    delay_seconds: float = 0.0
    stops_per_minute: float | None = None
    ev_points: Points = ()
    readings: Annotated[tuple[ReadingPoint, ...], Size(0, MOST_POINTS)] = ()
    film: LawGiven | None = None
    tracked: bool = False
    bias_stops: Annotated[float, Between(-10, 10, "stops")] = 0.0
    rate_from_readings: bool = False
    rate_sd: Annotated[float, Between(0, 5, "stops a minute")] | None = None
    moved_stops: Annotated[float, Between(-40, 40, "stops")] | None = None
    looks: FrameLooks = ()
    """What a watching phone saw from the metering on."""


def _close(question: CloseQuestion) -> ExposureEnd:
    return exposure_end(
        ExposureEndQuestion(
            needed_seconds=question.needed_seconds * 2**question.bias_stops,
            now_seconds=(question.now - question.opened_at).total_seconds(),
            delay_seconds=question.delay_seconds,
            stops_per_minute=question.stops_per_minute,
            ev_points=tuple((point.at_seconds, point.stops) for point in question.ev_points),
            readings=tuple((point.at_seconds, point.stops) for point in question.readings),
            film=question.film,
            tracked=question.tracked,
            rate_from_readings=question.rate_from_readings,
            rate_sd=question.rate_sd,
            moved_stops=question.moved_stops,
            looks=question.looks,
            believed=tuple(point.believed for point in question.readings),
        )
    )


QUESTIONS: dict[str, Question] = {
    "light/rate": Question(RateQuestion, _rate, WatchedRate),
    "light/look": Question(LookQuestion, look, Look),
    "run/close": Question(CloseQuestion, _close, ExposureEnd),
}
