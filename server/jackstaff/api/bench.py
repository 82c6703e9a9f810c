"""Bench: readouts, densities, exposure sums and the dials to choose from. Keeps nothing."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import ConfigDict, Field
from pydantic_core import to_json

from jackstaff_core.advice import Severity
from jackstaff_core.density import Notation
from jackstaff_core.density import density as read_density
from jackstaff_core.exposure import MOST_GLASSES, Counting, Exposure, ExposureQuestion, MovingLight, expose
from jackstaff_core.readout import readout as read_readout
from jackstaff_core.scales import Scale, Step, apertures, dial, isos

from .asked import Asked, DialLimit, FilmAsked, GlassAsked, Number, ReadingAsked, SettingsAsked, Text

router = Router(tags=["bench"])


class ReadoutAsked(Asked):
    text: Text
    step: Step = Step.THIRD
    dial_limit: Number = 30.0


class ShutterRead(Schema):
    seconds: float
    mark: str | None


class ReadoutAnswer(Schema):
    ambiguous: bool
    readings: list[ShutterRead]


class DensityAsked(Asked):
    text: Text


class StrengthRead(Schema):
    notation: Notation
    stops: float
    density: float
    factor: float
    stops_max: float | None = None
    density_max: float | None = None
    factor_max: float | None = None


class DensityAnswer(Schema):
    ambiguous: bool
    readings: list[StrengthRead]
    conflict_stops: float | None = None


class MovingAsked(Asked):
    """How the light moves since the metering, with the sd of that."""

    stops_per_minute: Number
    rate_sd: Number = 0.0
    delay_seconds: Number = 0.0


class ExposureAsked(Asked):
    reading: ReadingAsked
    stack: Annotated[list[GlassAsked], Field(max_length=MOST_GLASSES)] = []
    settings: SettingsAsked = SettingsAsked()
    scale: Counting = Counting.EXACT
    dial_limit: Number = 30.0
    film: FilmAsked | None = None
    light: MovingAsked | None = None


class StepAnswer(Schema):
    # A kept frame carries these back in.
    model_config = ConfigDict(allow_inf_nan=False)

    name: str
    stops: float
    seconds: float
    kind: str
    glass: int | None


class RoundedAnswer(Schema):
    seconds: float
    stops: float
    mark: str | None


class AdviceAnswer(Schema):
    code: str
    severity: Severity
    text: str
    values: dict[str, float | str]


class ExposureAnswer(Schema):
    seconds: float
    metered_seconds: float
    stops: float
    as_marked_seconds: float
    exact_seconds: float
    bulb: bool
    dial_mark: str | None
    set_seconds: float
    past_dial_stops: float
    sure_within_stops: float
    from_seconds: float
    to_seconds: float
    base_seconds: float
    scene_ev100: float
    glass_stops: float
    steps: list[StepAnswer]
    rounded: list[RoundedAnswer]
    advice: list[AdviceAnswer]


class MarkAnswer(Schema):
    label: str
    exact: float


class ScalesAnswer(Schema):
    shutter: list[MarkAnswer]
    aperture: list[MarkAnswer]
    iso: list[MarkAnswer]


@router.post("/readout", response=ReadoutAnswer)
def readout(request: HttpRequest, question: ReadoutAsked) -> object:
    """Every meaning of what a shutter display shows."""
    return read_readout(question.text, question.step, question.dial_limit)


@router.post("/density", response=DensityAnswer, exclude_none=True)
def density(request: HttpRequest, question: DensityAsked) -> object:
    """Every meaning of a filter label, in stops, density and factor."""
    return read_density(question.text)


@router.post("/exposure", response=ExposureAnswer)
def exposure(request: HttpRequest, question: ExposureAsked) -> HttpResponse:
    """Base reading, stack and settings into one exposure time, step by step."""
    return _plain(answered(question))


def answered(question: ExposureAsked) -> Exposure:
    """The core's answer."""
    return expose(
        ExposureQuestion(
            reading=question.reading.given(),
            stack=tuple(glass.given() for glass in question.stack),
            settings=question.settings.given(),
            scale=question.scale,
            dial_limit=question.dial_limit,
            film=question.film.given() if question.film else None,
            light=MovingLight(**dict(question.light)) if question.light else None,
        )
    )


def _plain(answer: Exposure) -> HttpResponse:
    """The core's answer as it stands: asked at every key press, it is not checked again on the way out."""
    return HttpResponse(to_json(answer), content_type="application/json; charset=utf-8")


@router.get("/scales", response=ScalesAnswer)
def scales(
    request: HttpRequest,
    step: Step = Step.THIRD,
    dial_limit: DialLimit = 30.0,
) -> object:
    """The marks a body's dials offer, in rising order."""
    return scales_of(step, dial_limit)


def scales_of(step: Step, dial_limit: float) -> dict[str, object]:
    """The same for whoever else hands them out."""
    return {
        "shutter": _marks(dial(dial_limit, step)),
        "aperture": _marks(apertures(step)),
        "iso": _marks(isos(step)),
    }


def _marks(scale: Scale) -> list[dict[str, object]]:
    return [{"label": mark.label, "exact": mark.exact} for mark in scale.marks]
