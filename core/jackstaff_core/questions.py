"""Every question that needs no account, in one table: what is asked, the function that answers, what it answers.

The server mounts the table under /api, a browser's worker can mount the same one, so that neither can drift. Standard
library only. ``ask`` is the whole way from JSON to JSON.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Annotated, Any

from .camera.dials import Scales, ScalesQuestion, scales_of
from .camera.reading import Given, ReadingGiven, SettingsGiven, metered, shutter
from .camera.readout import DIAL_LIMIT, Readout, readout
from .camera.reciprocity import LawGiven
from .exposure.aperture_trade import Trade, TradeQuestion, trade
from .exposure.calculation import Correction, Exposure, ExposureQuestion, expose
from .exposure.flash import FlashAnswer, FlashQuestion, flash
from .exposure.series import Series, SeriesQuestion, series
from .exposure.solving import Solved, SolveQuestion, solve
from .exposure.timing_error import TimingError, timing_error
from .exposure.trial import Trial, measured, measured_within, trial
from .exposure.video import Held, VideoQuestion, hold
from .filters.labels import Label, density
from .gear.budget import Budget, BudgetQuestion, FramesQuestion, PlannedFrames, budget, frames
from .gear.sorts import Body, Glass, together
from .log.calibration import Calibration, CalibrationQuestion, calibrate
from .log.evidence import Evidence, weigh
from .log.lessons import AgainQuestion, again
from .log.questions import LearntAnswer, LogQuestion, ReviewedAnswer, ReviewedQuestion, learnt, reviewed, solids
from .motion.by_eye import DESCRIBED, DescribedKind
from .motion.looks import Looks, LooksQuestion, Rendering, Subjects, Wants, looks, looks_at
from .motion.subjects import Camera
from .moving_light.end import MOST_POINTS, ExposureEnd, ExposureEndQuestion, exposure_end, known_light
from .moving_light.fused import Looks as FrameLooks
from .moving_light.fused import WatchedRate, watched_rate
from .moving_light.rate import MOST_READINGS, KnownRate, rate
from .moving_light.watching import Look, LookQuestion, look
from .outing import tide
from .outing.coordinates import Written, coordinates
from .outing.days import Days, DaysQuestion, days
from .outing.packing import Line as PackLine
from .outing.packing import Plan, pack
from .outing.swaps import SwapPlan, SwapWish, plan
from .outing.tide import MOST_CROSSINGS, Crossing, Missing, Water, WaterKind, Way
from .practice.drills import Drill, DrillQuestion, drill
from .practice.dryrun.beginning import BeginQuestion, Begun, Scenarios, ScenariosQuestion, begin, scenarios
from .practice.dryrun.careful import Hint, HintQuestion, hint
from .practice.dryrun.develop import Developed, DevelopQuestion, develop
from .practice.dryrun.replay import Replay, ReplayQuestion, replay
from .practice.dryrun.world import Metered, ReadMeterQuestion, meter
from .practice.grading import Graded, GradeQuestion, grade
from .practice.spacing import NextDrill, NextQuestion, next_drill
from .run import checklist
from .run.checklist import Armed, Checklist
from .scales.ladders import LONGEST_DIAL, LONGEST_SECONDS, SHORTEST_DIAL, Step
from .sky import plausibility
from .sky.cover import Sky, SkyChanges
from .sky.filling import longest
from .sky.forecast import Forecast, LightQuestion, OwnReadings, Scene, forecast, light_at, rate_sd
from .sky.plausibility import SkyPick
from .sky.ridge import Ridge
from .sky.sun_and_moon import Place, in_frame, sun_at
from .sky.waiting import Wait, wait
from .stacks.fieldcard import MOST_COLUMNS, CardGlass, Line, field_card
from .stacks.finder import FinderQuestion, Found, find
from .stacks.forgotten_filter import BagGlass, Matched, compare
from .stacks.graduated import GraduatedQuestion, Graduation, choose
from .stacks.reach import Reach, ReachQuestion, reach
from .stacks.rules import FocalLength, Rig, findings, usable_end
from .wire.marks import Between, Inline, Size
from .wire.reader import plain, read
from .words.advice import Advice
from .words.refusal import Refusal, within

Words = Annotated[str, Size(1, 120)]


@dataclass(frozen=True, slots=True)
class Question:
    """``question_type`` is read from JSON, ``answer`` works it out, ``answer_type`` is written.

    ``drop_none`` leaves out nulls; ``documents`` where the answer holds what writes itself (``to_json``), or a field
    that JSON calls otherwise.
    """

    question_type: type
    answer: Callable[[Any], Any]
    answer_type: type
    drop_none: bool = False
    documents: bool = False


def ask(name: str, given: Any) -> Any:
    """The JSON answer of a question asked in JSON.

    Raises
    ------
    Refusal, Refusals
        What is asked cannot be read or answered.
    KeyError
        There is no such question.
    """
    question = QUESTIONS[name]
    return plain(question.answer(read(question.question_type, given)), drop_none=question.drop_none)


@dataclass(frozen=True, slots=True)
class ReadoutQuestion:
    """What a shutter display shows."""

    text: Words
    step: Step = Step.THIRD
    dial_limit: float = DIAL_LIMIT


@dataclass(frozen=True, slots=True)
class DensityQuestion:
    """What stands on a filter's rim."""

    text: Words


@dataclass(frozen=True, slots=True)
class RigAnswer:
    findings: tuple[Advice, ...]


@dataclass(frozen=True, slots=True)
class UsableQuestion:
    """Variable glass by its kit facts, before a lens at ``focal_mm``."""

    glass: Annotated[tuple[Glass, ...], Size(0, 24)]
    focal_mm: FocalLength
    body: Body | None = None


@dataclass(frozen=True, slots=True)
class TogetherQuestion:
    """Filters that stay together, by their kit facts, from the lens outwards."""

    glass: Annotated[tuple[Glass, ...], Size(0, 24)]


@dataclass(frozen=True, slots=True)
class TogetherAnswer:
    """What they are as one; its ``members`` are for whoever knows their ids."""

    facts: Glass


@dataclass(frozen=True, slots=True)
class UsableAnswer:
    """How far each can be turned [stops]; None for other glass."""

    ends: tuple[float | None, ...]


def _usable(question: UsableQuestion) -> UsableAnswer:
    return UsableAnswer(tuple(usable_end(glass, question.focal_mm, question.body) for glass in question.glass))


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
    return MeasuredAnswer(measured(without, through), measured_within(question.step))


@dataclass(frozen=True, slots=True)
class AtQuestion:
    """The scene of /looks at one time."""

    camera: Camera
    subjects: Subjects
    seconds: float
    wants: Wants = ()

    def scene(self) -> LooksQuestion:
        """The scene without any time."""
        return LooksQuestion(self.camera, self.subjects)


@dataclass(frozen=True, slots=True)
class AtAnswer:
    subjects: tuple[Rendering, ...]


@dataclass(frozen=True, slots=True)
class DescribedQuestion:
    """One kind of subject, or all of them."""

    kind: Words | None = None


@dataclass(frozen=True, slots=True)
class DescribedAnswer:
    kinds: tuple[DescribedKind, ...]


def _described(question: DescribedQuestion) -> DescribedAnswer:
    return DescribedAnswer(tuple(each for each in DESCRIBED if question.kind in (None, each.kind)))


@dataclass(frozen=True, slots=True)
class CoordinatesQuestion:
    """A place as somebody wrote it."""

    text: Words


@dataclass(frozen=True, slots=True)
class WaitQuestion:
    """The light that is waited for: as an EV at ISO 100, or as what a camera would read."""

    light: Annotated[LightQuestion, Inline()]
    wanted_ev100: float | None = None
    wanted: ReadingGiven | None = None


def _wait(question: WaitQuestion) -> Wait:
    if question.wanted is None and question.wanted_ev100 is not None:
        return wait(question.light, question.wanted_ev100)
    if question.wanted is not None and question.wanted_ev100 is None:
        return wait(question.light, _own_ev(question.wanted)[0])
    raise Refusal("wanted_ev100", "The light to wait for is said once.", "Give wanted_ev100, or wanted.")


@dataclass(frozen=True, slots=True)
class SwapsQuestion:
    """The light to plan over, and what is wished."""

    light: Annotated[LightQuestion, Inline()]
    wish: Annotated[SwapWish, Inline()]


def _swaps(question: SwapsQuestion) -> SwapPlan:
    return plan(forecast(question.light).points, question.wish)


@dataclass(frozen=True, slots=True)
class TideQuestion:
    """One's own high and low waters; heights are asked at ``at`` and at the ``marks``, leaving from ``at`` on."""

    waters: Annotated[tuple[Water, ...], Size(0, 60)]
    at: datetime
    floods_at_m: float | None = None
    walk_minutes: float = 0.0
    margin_minutes: float = 15.0
    marks: Annotated[tuple[datetime, ...], Size(0, 600)] = ()
    crossings: Annotated[tuple[Crossing, ...], Size(0, MOST_CROSSINGS)] = ()
    """Floods that were watched at this place."""


@dataclass(frozen=True, slots=True)
class TideAnswer:
    """Heights are null where nothing is known; ``kinds`` in the order of the waters asked about, null where not told.

    ``leave_by`` is null where the way is not known to flood; ``state`` says why, and is null where no height was given.
    """

    height_m: float | None
    heights: tuple[float | None, ...]
    kinds: tuple[WaterKind | None, ...]
    leave_by: datetime | None = None
    floods_at: datetime | None = None
    doubt_minutes: float | None = None
    state: Way | None = None
    missing: Missing | None = None
    known_from: datetime | None = None
    known_until: datetime | None = None
    clearance_m: float | None = None


def _tide(question: TideQuestion) -> TideAnswer:
    waters, level = question.waters, question.floods_at_m
    heights = tuple(tide.height(waters, mark, level) for mark in (question.at, *question.marks))
    order = sorted(range(len(waters)), key=lambda place: waters[place].at)
    told = dict(zip(order, tide.kinds([waters[place] for place in order], level), strict=True))
    answer = TideAnswer(heights[0], heights[1:], tuple(told[place] for place in range(len(waters))))
    if level is None:
        return answer
    found = tide.leave_by(
        waters, level, question.walk_minutes, question.margin_minutes, question.at, question.crossings
    )
    return replace(
        answer,
        leave_by=found.at,
        floods_at=found.floods_at,
        doubt_minutes=found.doubt_minutes,
        state=found.state,
        missing=found.missing,
        known_from=found.known_from,
        known_until=found.known_until,
        clearance_m=found.clearance_m,
    )


@dataclass(frozen=True, slots=True)
class PlausibleQuestion:
    """A reading at a place and time, with the sky as it is."""

    place: Annotated[Place, Inline()]
    at: datetime
    reading: ReadingGiven
    sky: Sky = Sky.CLEAR
    scene: Scene = Scene.SKY_LIT
    readings: OwnReadings = ()
    ridge: Ridge | None = None
    skies: SkyChanges = ()


@dataclass(frozen=True, slots=True)
class PlausibleAnswer:
    """``rate_sd`` is the sd of ``stops_per_minute``; a reading between the two times fits the sky within two sd."""

    ev100: float
    forecast_ev100: float
    sd_stops: float
    stops_per_minute: float
    rate_sd: float
    from_seconds: float
    to_seconds: float
    advice: Advice | None


def _plausible(question: PlausibleQuestion) -> PlausibleAnswer:
    own, seconds = _own_ev(question.reading)
    lit = LightQuestion(
        question.place,
        question.at,
        question.at,
        60.0,
        question.sky,
        question.scene,
        question.readings,
        question.ridge,
        question.skies,
    )
    light = light_at(lit, question.at)
    band = _band(seconds, own, light.ev100 - 2 * light.sd_stops, light.ev100 + 2 * light.sd_stops)
    sd = rate_sd(lit, question.at)
    advice = plausibility.plausible(own, light)
    return PlausibleAnswer(own, light.ev100, light.sd_stops, light.stops_per_minute, sd, *band, advice)


@dataclass(frozen=True, slots=True)
class SkyFitsQuestion:
    """A reading, and the light somebody sees without any plan."""

    sky: SkyPick
    reading: ReadingGiven


@dataclass(frozen=True, slots=True)
class SkyFitsAnswer:
    ev100: float
    low_ev100: float
    high_ev100: float
    from_seconds: float
    to_seconds: float
    advice: Advice | None


def _sky_fits(question: SkyFitsQuestion) -> SkyFitsAnswer:
    own, seconds = _own_ev(question.reading)
    low, high = question.sky.band
    return SkyFitsAnswer(own, low, high, *_band(seconds, own, low, high), plausibility.fits_sky(own, question.sky))


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
    taken = [(each.at, _own_ev(each.reading)[0]) for each in question.readings]
    since = (question.at - question.readings[-1].at).total_seconds()
    return watched_rate(
        rate(taken, question.at, question.forecast), question.forecast is not None, question.looks, since
    )


@dataclass(frozen=True, slots=True)
class PhoneQuestion:
    """A camera's reading, what it was metered through [stops], and a phone's light; ``matched`` once before."""

    reading: ReadingGiven
    phone_stops: float
    through_stops: Annotated[float, Between(0, 60, "stops")] = 0.0
    matched: float | None = None
    glass: Annotated[tuple[BagGlass, ...], Size(0, 60)] = ()


def _phone(question: PhoneQuestion) -> Matched:
    scene = _own_ev(question.reading)[0] + question.through_stops
    return compare(scene, question.phone_stops, question.matched, question.glass)


def _band(seconds: float, own: float, low: float, high: float) -> tuple[float, float]:
    """The times [s] the reading's settings would show between two brightnesses."""
    return seconds * 2 ** (own - high), seconds * 2 ** (own - low)


def _own_ev(given: ReadingGiven) -> tuple[float, float]:
    """EV at ISO 100 of the light, and the reading's time [s]; an EV alone is counted at f/8 and ISO 100."""
    reading = metered(given, SettingsGiven("8", "100"))
    return reading.scene_ev100, reading.shutter.exact


@dataclass(frozen=True, slots=True)
class FillableAnswer:
    """The longest metered time [s] that is still filled before the period ends, at each step; null beyond a day."""

    longest_seconds: tuple[float | None, ...]


def _fillable(question: LightQuestion) -> FillableAnswer:
    found = longest(forecast(question).points)
    return FillableAnswer(tuple(seconds if seconds <= LONGEST_SECONDS else None for seconds in found))


@dataclass(frozen=True, slots=True)
class PackAnswer:
    lines: tuple[PackLine, ...]


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


@dataclass(frozen=True, slots=True)
class SunQuestion:
    """Where and when, and where the camera looks, so that the sun in the frame is known."""

    place: Annotated[Place, Inline()]
    at: datetime
    focal_mm: FocalLength
    bearing_deg: Annotated[float, Between(-360, 360, "degrees")]
    elevation_deg: Annotated[float, Between(-90, 90, "degrees")] = 0.0


@dataclass(frozen=True, slots=True)
class ArmQuestion:
    """What is about to be exposed, and where the sun is looked for; what is left out is unknown."""

    frame: Annotated[Armed, Inline()]
    sun: SunQuestion | None = None


def _arm(question: ArmQuestion) -> Checklist:
    frame, sun = question.frame, question.sun
    if sun is None:
        return checklist.arm(frame)
    altitude, azimuth = sun_at(sun.place, sun.at)
    where = in_frame(sun.focal_mm, sun.bearing_deg, sun.elevation_deg, azimuth, altitude)
    half = (frame.body.sensor_width_mm / 2, frame.body.sensor_height_mm / 2) if frame.body else (18.0, 12.0)
    return checklist.arm(frame, checklist.sun_seen(where, altitude, half))


@dataclass(frozen=True, slots=True)
class FieldCardQuestion:
    """Bare times from ``fastest`` to ``slowest`` [s] down, glasses or stacks across."""

    glass: Annotated[tuple[CardGlass, ...], Size(1, MOST_COLUMNS)]
    fastest: Annotated[float, Between(0, 60, "s", above=True)] = 1 / 1000
    slowest: Annotated[float, Between(0, 60, "s", above=True)] = 1.0
    dial_limit: Annotated[float, Between(SHORTEST_DIAL, LONGEST_DIAL, "s")] = DIAL_LIMIT
    step: Step = Step.THIRD


@dataclass(frozen=True, slots=True)
class FieldCardAnswer:
    lines: tuple[Line, ...]


def _field_card(question: FieldCardQuestion) -> FieldCardAnswer:
    return FieldCardAnswer(
        tuple(field_card(question.glass, question.fastest, question.slowest, question.dial_limit, question.step))
    )


QUESTIONS: dict[str, Question] = {
    "readout": Question(ReadoutQuestion, lambda q: readout(q.text, q.step, q.dial_limit), Readout),
    "density": Question(DensityQuestion, lambda q: density(q.text), Label, drop_none=True),
    "scales": Question(ScalesQuestion, scales_of, Scales),
    "exposure": Question(ExposureQuestion, expose, Exposure),
    "steer": Question(SolveQuestion, solve, Solved, drop_none=True),
    "stacks": Question(FinderQuestion, find, Found, drop_none=True),
    "rig": Question(Rig, lambda q: RigAnswer(findings(q)), RigAnswer),
    "usable": Question(UsableQuestion, _usable, UsableAnswer),
    "together": Question(TogetherQuestion, lambda q: TogetherAnswer(together(q.glass)), TogetherAnswer),
    "reach": Question(ReachQuestion, reach, Reach),
    "graduated": Question(GraduatedQuestion, choose, Graduation),
    "trade": Question(TradeQuestion, trade, Trade),
    "flash": Question(FlashQuestion, flash, FlashAnswer),
    "video": Question(VideoQuestion, hold, Held),
    "trial": Question(TrialQuestion, lambda q: trial(q.trial_seconds, q.error_stops, q.sum_seconds), Trial),
    "measured": Question(MeasuredQuestion, _measured, MeasuredAnswer),
    "looks": Question(LooksQuestion, looks, Looks),
    "looks/at": Question(AtQuestion, lambda q: AtAnswer(looks_at(q.scene(), q.seconds)), AtAnswer, drop_none=True),
    "looks/described": Question(DescribedQuestion, _described, DescribedAnswer),
    "light": Question(LightQuestion, forecast, Forecast),
    "light/rate": Question(RateQuestion, _rate, WatchedRate),
    "light/look": Question(LookQuestion, look, Look),
    "light/phone": Question(PhoneQuestion, _phone, Matched),
    "outing/coordinates": Question(CoordinatesQuestion, lambda q: coordinates(q.text), Written),
    "outing/days": Question(DaysQuestion, days, Days),
    "outing/wait": Question(WaitQuestion, _wait, Wait),
    "outing/swaps": Question(SwapsQuestion, _swaps, SwapPlan),
    "outing/tide": Question(TideQuestion, _tide, TideAnswer, documents=True),
    "outing/budget": Question(BudgetQuestion, budget, Budget),
    "outing/frames": Question(FramesQuestion, frames, PlannedFrames),
    "outing/plausible": Question(PlausibleQuestion, _plausible, PlausibleAnswer),
    "outing/sky": Question(SkyFitsQuestion, _sky_fits, SkyFitsAnswer),
    "outing/fillable": Question(LightQuestion, _fillable, FillableAnswer),
    "outing/pack": Question(Plan, lambda q: PackAnswer(pack(q)), PackAnswer),
    "run/lateness": Question(TimingErrorQuestion, _timing_error, TimingError),
    "run/close": Question(CloseQuestion, _close, ExposureEnd),
    "run/arm": Question(ArmQuestion, _arm, Checklist),
    "run/series": Question(SeriesQuestion, series, Series),
    "calibration": Question(CalibrationQuestion, calibrate, Calibration),
    "log/again": Question(AgainQuestion, again, Correction),
    "log/reviewed": Question(ReviewedQuestion, reviewed, ReviewedAnswer),
    "log/evidence": Question(LogQuestion, lambda q: weigh(q.finished(), solids(q.items)), Evidence),
    "log/learnt": Question(LogQuestion, lambda q: learnt(q.finished()), LearntAnswer),
    "practice/next": Question(NextQuestion, next_drill, NextDrill),
    "practice/drill": Question(DrillQuestion, drill, Drill),
    "practice/grade": Question(GradeQuestion, grade, Graded),
    "practice/scenarios": Question(ScenariosQuestion, scenarios, Scenarios, documents=True),
    "practice/begin": Question(BeginQuestion, begin, Begun, documents=True),
    "practice/meter": Question(ReadMeterQuestion, meter, Metered),
    "practice/frame": Question(DevelopQuestion, develop, Developed),
    "practice/hint": Question(HintQuestion, hint, Hint),
    "practice/replay": Question(ReplayQuestion, replay, Replay),
    "fieldcard": Question(FieldCardQuestion, _field_card, FieldCardAnswer),
}
"""By the address under /api."""
