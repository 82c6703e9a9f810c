"""What a log teaches, as questions: of one reviewed frame, of the glass, of time, taste and mistakes. Keeps nothing."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Annotated

from ..camera.reading import ReadingGiven, SettingsGiven, metered_exposure
from ..exposure.calculation import Correction
from ..filters.on_lens import MOST_GLASSES
from ..gear.kitfile import MOST_ITEMS, Item
from ..gear.things import Glass
from ..scales.ladders import Step
from ..wire.marks import Between, Size
from ..wire.question import Question
from . import editing, evidence, lessons, light_story, review
from . import statistics as counting
from .calibration import Calibration, CalibrationQuestion, calibrate
from .evidence import Evidence, weigh_log
from .finished_frame import FinishedFrame, finish_frame
from .frame import Defect, Fit, Frame, FrameConditions
from .lessons import AgainQuestion, correction_for_again


@dataclass(frozen=True, slots=True, kw_only=True)
class ReviewedQuestion:
    """``light_stops``: how much brighter (+) it is now than for the frame; a reading of ``now`` says it instead."""

    frame: Frame
    light_stops: float = 0.0
    now: ReadingGiven | None = None
    step: Step = Step.THIRD
    sensor_height_mm: Annotated[float, Between(3, 300, "mm")] = 24.0
    pitch_deg: Annotated[float, Between(-30, 30, "degrees")] | None = None
    glass: Annotated[tuple[editing.Tint, ...], Size(0, MOST_GLASSES)] = ()


@dataclass(frozen=True, slots=True)
class ReviewedAnswer:
    """What a frame teaches: the time for the same picture, what was seen and why, the edit, the light, the filter."""

    next: lessons.NextTime | None
    remarks: tuple[review.Remark, ...]
    editing: tuple[editing.Note, ...]
    light: light_story.LightStory | None = None
    finding: evidence.FilterFinding | None = None


def reviewed(question: ReviewedQuestion) -> ReviewedAnswer:
    """Return what one reviewed frame teaches.

    Raises
    ------
    Refusal
        A reading that cannot be read, or a next time beyond a day.
    """
    frame = finish_frame(question.frame)
    if frame is None:
        return ReviewedAnswer(None, (), ())
    following = None
    if frame.error_stops is not None and not frame.aborted:
        light = question.light_stops if question.now is None else _brighter(question.now, question.frame)
        following = lessons.next_time(
            frame.seconds, frame.error_stops, light, question.frame.dial_limit, question.step, _length(frame)
        )
    about = question.frame.conditions or FrameConditions()
    edit = editing.EditQuestion(
        error_stops=frame.error_stops,
        defects=frame.defects,
        glass=question.glass,
        pitch_deg=question.pitch_deg,
        focal_mm=frame.focal_mm,
        sensor_height_mm=question.sensor_height_mm,
        seconds=frame.seconds,
        kelvin=about.kelvin,
        monochrome=bool(about.monochrome),
    )
    return ReviewedAnswer(
        following,
        review.remarks(frame),
        editing.editing_notes(edit),
        light_story.story(question.frame),
        evidence.single_frame_finding(frame),
    )


def _length(frame: FinishedFrame) -> Fit:
    """Return whether the time suited all that moved.

    What smeared says no to a longer one, whatever else was too short.
    """
    fits = {each.fit for each in frame.tasted}
    if Defect.LEAVES in frame.defects or Fit.LONG in fits:
        return Fit.LONG
    return Fit.SHORT if Fit.SHORT in fits else Fit.RIGHT


def _brighter(now: ReadingGiven, then: Frame) -> float:
    """Return the stops by which a bare reading is brighter than it was for a frame."""
    settings = SettingsGiven(then.settings.aperture, then.settings.iso)
    known = then.conditions.ev100 if then.conditions else None
    if known is None:
        old = then.reading
        reading = ReadingGiven(old.shutter, old.aperture, old.iso, old.ev100, old.step)
        on = sum(glass.stops + (glass.offset or 0.0) for glass in then.stack if glass.in_reading)
        known = metered_exposure(reading, settings).ev100 + on
    return metered_exposure(now, settings).scene_ev100 - known


@dataclass(frozen=True, slots=True)
class LogQuestion:
    """A guest's frames with the kit they were made with."""

    items: Annotated[tuple[Item, ...], Size(0, MOST_ITEMS)]
    frames: Annotated[tuple[Frame, ...], Size(0, 2000)]

    def finished(self) -> list[FinishedFrame]:
        """Return those that have ended and can be reckoned with."""
        return [frame for each in self.frames if (frame := finish_frame(each)) is not None]


@dataclass(frozen=True, slots=True)
class LearntAnswer:
    """Everything a log teaches beside the strength of the glass."""

    clean_ends: tuple[lessons.CleanEnd, ...]
    clear_focals: tuple[lessons.ClearFocal, ...]
    tastes: tuple[lessons.Taste, ...]
    statistics: counting.Statistics
    wished: tuple[float, ...]


def learnt(frames: Sequence[FinishedFrame]) -> LearntAnswer:
    """Return what a log teaches of time, focal length, taste and mistakes."""
    return LearntAnswer(
        lessons.clean_ends(frames),
        lessons.clear_focals(frames),
        lessons.tastes(frames),
        counting.statistics(frames),
        lessons.wished_stops(frames),
    )


def solids(kit: Iterable[Item]) -> list[evidence.GlassKnown]:
    """Return the solid glass of a kit, as the evidence weighs it."""
    return [
        evidence.GlassKnown(str(thing.id), thing.name, thing.thing.stops, thing.thing.offset, thing.thing.pair_stops)
        for thing in kit
        if isinstance(thing.thing, Glass) and thing.thing.kind == "solid"
    ]


QUESTIONS: dict[str, Question] = {
    "calibration": Question(CalibrationQuestion, calibrate, Calibration),
    "log/again": Question(AgainQuestion, correction_for_again, Correction),
    "log/reviewed": Question(ReviewedQuestion, reviewed, ReviewedAnswer),
    "log/evidence": Question(LogQuestion, lambda q: weigh_log(q.finished(), solids(q.items)), Evidence),
    "log/learnt": Question(LogQuestion, lambda q: learnt(q.finished()), LearntAnswer),
}
