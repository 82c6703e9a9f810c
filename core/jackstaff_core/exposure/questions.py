"""What is asked of an exposure."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from ..camera.reading import Given, shutter
from ..camera.reciprocity import LawGiven
from ..moving_light.end_of_exposure import MOST_POINTS, ExposureEndQuestion, known_light
from ..moving_light.fusion import Looks as FrameLooks
from ..moving_light.questions import ReadingPoint
from ..scales.ladders import Step
from ..wire.marks import Between, Size
from ..wire.question import Question
from .aperture_trade import Trade, TradeQuestion, compare_apertures
from .calculation import Exposure, ExposureQuestion, expose
from .flash import FlashAnswer, FlashQuestion, flash
from .series import Series, SeriesQuestion, plan_series
from .solving import Solved, SolveQuestion, solve
from .timing_error import TimingError, timing_error
from .trial import Trial, strength_doubt, strength_from_readings, trial
from .video import Held, VideoQuestion, follow_with_ring


@dataclass(frozen=True, slots=True)
class TrialQuestion:
    """A trial's time [s], how it came out [stops, + brighter], and what the sum asked for [s]."""

    trial_seconds: float
    error_stops: float
    sum_seconds: float


@dataclass(frozen=True, slots=True)
class MeasuredQuestion:
    """Two readings at one aperture and ISO, without a glass and with it."""

    without: Given
    with_it: Given
    step: Step = Step.THIRD


@dataclass(frozen=True, slots=True)
class MeasuredAnswer:
    """A strength and its give or take [stops]."""

    stops: float
    give_or_take: float


def _measured(question: MeasuredQuestion) -> MeasuredAnswer:
    without = shutter("without", question.without, question.step).exact
    through = shutter("with_it", question.with_it, question.step).exact
    return MeasuredAnswer(strength_from_readings(without, through), strength_doubt(question.step))


@dataclass(frozen=True, slots=True)
class TimingErrorQuestion:
    """Two times of a frame, and what is known of its light as :class:`CloseQuestion` has it; steady without any."""

    planned_seconds: float
    actual_seconds: float
    delay_seconds: float = 0.0
    stops_per_minute: float | None = None
    readings: Annotated[tuple[ReadingPoint, ...], Size(0, MOST_POINTS)] = ()
    film: LawGiven | None = None
    moved_stops: Annotated[float, Between(-40, 40, "stops")] | None = None
    rate_sd: Annotated[float, Between(0, 5, "stops a minute")] | None = None
    looks: FrameLooks = ()


def _timing_error(question: TimingErrorQuestion) -> TimingError:
    light = ExposureEndQuestion(
        needed_seconds=question.planned_seconds,
        now_seconds=question.actual_seconds,
        delay_seconds=question.delay_seconds,
        stops_per_minute=question.stops_per_minute,
        readings=tuple((point.at_seconds, point.stops) for point in question.readings),
        film=question.film,
        rate_sd=question.rate_sd,
        moved_stops=question.moved_stops,
        looks=question.looks,
        believed=tuple(point.believed for point in question.readings),
    )
    return timing_error(question.planned_seconds, question.actual_seconds, known_light(light), question.film)


QUESTIONS: dict[str, Question] = {
    "exposure": Question(ExposureQuestion, expose, Exposure),
    "steer": Question(SolveQuestion, solve, Solved, drop_none=True),
    "trade": Question(TradeQuestion, compare_apertures, Trade),
    "flash": Question(FlashQuestion, flash, FlashAnswer),
    "video": Question(VideoQuestion, follow_with_ring, Held),
    "trial": Question(TrialQuestion, lambda q: trial(q.trial_seconds, q.error_stops, q.sum_seconds), Trial),
    "measured": Question(MeasuredQuestion, _measured, MeasuredAnswer),
    "run/lateness": Question(TimingErrorQuestion, _timing_error, TimingError),
    "run/series": Question(SeriesQuestion, plan_series, Series),
}
