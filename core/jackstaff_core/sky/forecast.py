"""The light over the clock at a place: clear-sky model, sky, scene, moon, and the photographer's own readings.

EV at ISO 100 = model + sky (sky/cover.py) + scene, corrected by the readings (moving_light/anchoring.py), with its sd.
Under lamps the light does not follow the sun, and what readings add to it elsewhere never climbs above what the clear
sun gives a bright ground, EV of its illuminance + 2: brighter readings are lamps or mistakes and stay where they were
read.

Sources and verdicts are those of daylight, sky, heavens and anchoring; the two stops are a sunlit cloud's or snow's
against a mid-tone. Limits: 3000 points, 7 days. Verdict: estimate, with its sd.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from operator import itemgetter
from typing import Annotated

from ..moving_light.anchoring import LEVEL_SD, Anchored, Status, anchor_readings
from ..wire.marks import Inline, Named, Size
from ..words.refusal import Refusal, within
from .cover import Course, Sky, SkyChanges
from .daylight import NIGHT_LUX, ev100, ev_rate, moon_lux, sun_lux
from .ridge import Ridge, sun_step
from .sun_and_moon import Event, Place, Track, crossings, events, moon_at, sun_at

MOST_POINTS = 3000
LONGEST = timedelta(days=7)
MOST_READINGS = 200
MOST_ABOVE_SUN = 2.0
"""Sunlit snow or cloud meters so much above a mid-tone in the same light [stops], and nothing under the sun more."""
LAMPS_EV = 3.0
"""A square under lamps, before anybody has metered it."""
_MOON_COUNTS_BELOW = -5.0
_MOON_STEP_MINUTES = 60


class Scene(StrEnum):
    """What lights the part of the scene that is metered."""

    SKY_LIT = "sky_lit"
    SUN_LIT = "sun_lit"
    SHADE = "shade"
    LAMP_LIT = "lamp_lit"

    @property
    def stops(self) -> float:
        """How much less light than the open horizontal."""
        return {"sky_lit": 0.0, "sun_lit": 0.0, "shade": -2.5, "lamp_lit": 0.0}[self.value]


@dataclass(frozen=True, slots=True)
class OwnReading:
    """A reading somebody took: when, and what it said [EV at ISO 100]."""

    at: datetime
    ev100: float


OwnReadings = Annotated[tuple[OwnReading, ...], Size(0, MOST_READINGS)]


@dataclass(frozen=True, slots=True)
class LightQuestion:
    """A place, a period and what is known of its sky; ``readings`` hold the forecast to what was metered."""

    place: Annotated[Place, Inline()]
    start: Annotated[datetime, Named("from")]
    end: Annotated[datetime, Named("to")]
    step_seconds: float = 60.0
    sky: Sky = Sky.CLEAR
    scene: Scene = Scene.SKY_LIT
    readings: OwnReadings = ()
    ridge: Ridge | None = None
    skies: SkyChanges = ()


@dataclass(frozen=True, slots=True)
class LightPoint:
    """Light at an instant; ``lux`` is the clear-sky model alone, ``ev100`` anchored, ``stops_per_minute`` its rate."""

    at: datetime
    altitude_deg: float
    azimuth_deg: float
    lux: float
    ev100: float
    sd_stops: float
    stops_per_minute: float


@dataclass(frozen=True, slots=True)
class ReadingStatus:
    """What became of a reading in a forecast."""

    at: datetime
    status: Status


@dataclass(frozen=True, slots=True)
class Forecast:
    """The light at every step, the named moments of the period, and what became of each reading."""

    points: tuple[LightPoint, ...]
    events: tuple[Event, ...]
    readings: tuple[ReadingStatus, ...]


def forecast(question: LightQuestion) -> Forecast:
    """Return the light at every step, the named moments, and what became of the readings.

    Raises
    ------
    Refusal
        A period that runs backwards or is too long, too many points, or a reading out of bounds.
    """
    instants = _instants(question)
    model = _Model(question)
    readings = sorted(question.readings, key=lambda reading: reading.at)
    anchored = model.anchored(readings)
    track = Track(question.place, question.start, question.end)
    return Forecast(
        tuple(model.point(at, minute, track.at(minute), anchored) for minute, at in instants),
        (*events(track, question.end), *_over_ridge(question, track)),
        tuple(ReadingStatus(reading.at, status) for reading, status in zip(readings, anchored.status, strict=True)),
    )


def light_at(question: LightQuestion, at: datetime) -> LightPoint:
    """Return the light at one instant.

    Parameters
    ----------
    question : LightQuestion
        Place, weather and readings.
    at : datetime
        With its zone, within the day's period.
    """
    model = _Model(question)
    anchored = model.anchored(sorted(question.readings, key=lambda reading: reading.at))
    return model.point(at, model.minute(at), sun_at(question.place, at), anchored)


RATE_SHARE = 0.2
"""How far the clear-sky rate carries over to a scene: within a fifth of itself."""


def rate_sd(question: LightQuestion, at: datetime) -> float:
    """Return the sd of the light's rate at an instant [stop/min]: of the readings' own drift, and of the model's rate.

    Parameters
    ----------
    question : LightQuestion
        Place, weather and readings.
    at : datetime
        With its zone.
    """
    if question.scene is Scene.LAMP_LIT:
        return 0.0
    model = _Model(question)
    state = model.anchored(sorted(question.readings, key=lambda reading: reading.at)).at(model.minute(at))
    altitude, azimuth = sun_at(question.place, at)
    return math.hypot(math.sqrt(state.p11), RATE_SHARE * ev_rate(altitude, azimuth, question.place.latitude))


def _instants(question: LightQuestion) -> list[tuple[float, datetime]]:
    span = question.end - question.start
    if span <= timedelta(0):
        raise Refusal("to", "The period ends before it begins.", "Give a later end.")
    if span > LONGEST:
        raise Refusal("to", "The period is longer than 7 days.", "Give at most 7 days.")
    step = within("step_seconds", question.step_seconds, 1, 86_400, "s")
    count = int(span.total_seconds() / step + 1e-9) + 1
    if count > MOST_POINTS:
        raise Refusal(
            "step_seconds", f"That makes {count} points.", f"Take longer steps: at most {MOST_POINTS} points."
        )
    return [(step * turn / 60, question.start + timedelta(seconds=step * turn)) for turn in range(count)]


def _over_ridge(question: LightQuestion, track: Track) -> Sequence[Event]:
    """Return when the sun comes over the ridge and goes behind it; nothing without one."""
    if question.ridge is None:
        return ()
    return crossings(track, question.end, question.ridge.deg, ("sun_over_ridge", "sun_behind_ridge"))


class _Model:
    """The forecast without the readings, and with them."""

    def __init__(self, question: LightQuestion) -> None:
        if len(question.readings) > MOST_READINGS:
            raise Refusal(
                "readings", f"{len(question.readings)} readings are too many.", f"Give {MOST_READINGS} at most."
            )
        for place, reading in enumerate(question.readings):
            within(f"readings.{place}.ev100", reading.ev100, -20, 25, "EV")
        self.question = question
        self.lamps = question.scene is Scene.LAMP_LIT
        self.scene_stops = question.scene.stops
        self.course = Course(question.sky, question.skies, question.start)
        self.shaded_below = question.ridge.deg if question.ridge and question.scene is Scene.SUN_LIT else -90.0
        self.read = sorted((self.minute(reading.at), reading.ev100) for reading in question.readings)
        self._moon: dict[int, float] = {}
        # A minute's moonlight is asked for three times over.
        self._moon_minute, self._moon_now = math.nan, 0.0

    def minute(self, at: datetime) -> float:
        return (at - self.question.start).total_seconds() / 60

    def anchored(self, readings: Sequence[OwnReading]) -> Anchored:
        """Return the readings as stops above the plain forecast, through the filter."""
        offsets = []
        for reading in readings:
            altitude, _ = sun_at(self.question.place, reading.at)
            minute = self.minute(reading.at)
            offsets.append((minute, reading.ev100 - self.plain(sun_lux(altitude), altitude, minute)))
        return anchor_readings(offsets)

    def plain(self, sun: float, altitude: float, minute: float) -> float:
        """Return the EV at ISO 100 before any reading, from the sun's clear-sky light [lx]."""
        if self.lamps:
            return LAMPS_EV
        if altitude < _MOON_COUNTS_BELOW:
            sun += self._moonlight(minute)
        ev = ev100(sun) + self.course.stops(minute) + self.scene_stops
        if 0 < altitude < self.shaded_below:
            return ev - sun_step(altitude, self.course.beam(minute))
        return ev

    def _moonlight(self, minute: float) -> float:
        """Return the moon's light: it moves slowly, so it is worked out every hour and joined by straight lines."""
        if minute == self._moon_minute:
            return self._moon_now
        place = minute / _MOON_STEP_MINUTES
        low = int(place // 1)
        share = place - low
        self._moon_minute = minute
        self._moon_now = self._moon_at(low) * (1 - share) + self._moon_at(low + 1) * share
        return self._moon_now

    def _moon_at(self, step: int) -> float:
        found = self._moon.get(step)
        if found is None:
            at = self.question.start + timedelta(minutes=step * _MOON_STEP_MINUTES)
            found = self._moon[step] = moon_lux(*moon_at(self.question.place, at))
        return found

    def point(self, at: datetime, minute: float, sun: tuple[float, float], anchored: Anchored) -> LightPoint:
        altitude, azimuth = sun
        lux = sun_lux(altitude)
        rate = 0.0
        if not self.lamps:
            rate = ev_rate(altitude, azimuth, self.question.place.latitude)
            if altitude < _MOON_COUNTS_BELOW:
                # A floor of moonlight or night does not fall with the sun.
                floor = NIGHT_LUX + self._moonlight(minute)
                rate *= lux / (lux + floor)
        under_the_sky = rate + (0.0 if self.lamps else self.course.rate(minute))
        ev = self.plain(lux, altitude, minute)
        unsure = 0.0 if self.lamps else self.course.sd(minute)
        if not self.question.readings:
            return LightPoint(at, altitude, azimuth, lux, ev, math.hypot(LEVEL_SD, unsure), under_the_sky)
        level, sd, drift = anchored.level(minute)
        moving = under_the_sky + drift
        sunny, read = self._brightest(lux, minute)
        if (most := max(sunny, read)) < ev + level:
            # At the sun's own limit it moves as the sun does; what was read stands still.
            level, moving = most - ev, rate if sunny > read else 0.0
        # However old the reading, the anchored light is known no worse than without it.
        return LightPoint(at, altitude, azimuth, lux, ev + level, math.hypot(min(sd, LEVEL_SD), unsure), moving)

    def _brightest(self, sun: float, minute: float) -> tuple[float, float]:
        """Return the brightest a scene can be [EV]: what the sun gives; what was read last, which may be more."""
        if self.lamps:
            return math.inf, math.inf
        last = max(0, bisect_right(self.read, minute + 1e-9, key=itemgetter(0)) - 1)
        return ev100(sun + self._moonlight(minute)) + MOST_ABOVE_SUN, self.read[last][1]
