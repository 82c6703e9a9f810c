"""What is asked of the light of a place."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from ..camera.reading import ReadingGiven, scene_ev
from ..scales.ladders import LONGEST_SECONDS
from ..wire.marks import Inline
from ..wire.question import Question
from ..words.advice import Advice
from ..words.refusal import Refusal
from . import plausibility
from .cover import Sky, SkyChanges
from .forecast import Forecast, LightQuestion, OwnReadings, Scene, forecast, light_at, rate_sd
from .longest_fillable import longest_fillable
from .plausibility import SkyPick
from .ridge import Ridge
from .sun_and_moon import Place
from .waiting import Wait, wait


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
        return wait(question.light, scene_ev(question.wanted)[0])
    raise Refusal("wanted_ev100", "The light to wait for is said once.", "Give wanted_ev100, or wanted.")


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
    own, seconds = scene_ev(question.reading)
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
    advice = plausibility.doubt_about_reading(own, light)
    return PlausibleAnswer(own, light.ev100, light.sd_stops, light.stops_per_minute, sd, *band, advice)


@dataclass(frozen=True, slots=True)
class SkyFitsQuestion:
    """A reading, and the light somebody sees without any plan."""

    sky: SkyPick
    reading: ReadingGiven


@dataclass(frozen=True, slots=True)
class SkyFitsAnswer:
    """A reading against what the picked sky gives [EV at ISO 100], and the times of both [s]."""

    ev100: float
    low_ev100: float
    high_ev100: float
    from_seconds: float
    to_seconds: float
    advice: Advice | None


def _sky_fits(question: SkyFitsQuestion) -> SkyFitsAnswer:
    own, seconds = scene_ev(question.reading)
    low, high = question.sky.band
    return SkyFitsAnswer(
        own, low, high, *_band(seconds, own, low, high), plausibility.doubt_about_sky(own, question.sky)
    )


def _band(seconds: float, own: float, low: float, high: float) -> tuple[float, float]:
    """Return the times [s] the reading's settings would show between two brightnesses."""
    return seconds * 2 ** (own - high), seconds * 2 ** (own - low)


@dataclass(frozen=True, slots=True)
class FillableAnswer:
    """The longest metered time [s] that is still filled before the period ends, at each step; null beyond a day."""

    longest_seconds: tuple[float | None, ...]


def _fillable(question: LightQuestion) -> FillableAnswer:
    found = longest_fillable(forecast(question).points)
    return FillableAnswer(tuple(seconds if seconds <= LONGEST_SECONDS else None for seconds in found))


QUESTIONS: dict[str, Question] = {
    "light": Question(LightQuestion, forecast, Forecast),
    "outing/wait": Question(WaitQuestion, _wait, Wait),
    "outing/plausible": Question(PlausibleQuestion, _plausible, PlausibleAnswer),
    "outing/sky": Question(SkyFitsQuestion, _sky_fits, SkyFitsAnswer),
    "outing/fillable": Question(LightQuestion, _fillable, FillableAnswer),
}
