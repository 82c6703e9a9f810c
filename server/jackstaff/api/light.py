"""Light: the forecast over the clock, waiting for it, and whether a reading is plausible. Keeps nothing."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff_core.anchoring import Status
from jackstaff_core.forecast import MOST_READINGS, Forecast, LightQuestion, OwnReading, Scene, Sky, forecast
from jackstaff_core.heavens import Place
from jackstaff_core.ridge import Ridge

from .asked import Asked, Instant, Number

router = Router(tags=["light"])


class OwnReadingAsked(Asked):
    at: Instant
    ev100: Number


class RidgeAsked(Asked):
    """A ridge between the place and the sun: its height above the camera and how far away it is."""

    height_m: Annotated[Number, Field(ge=0, le=9000)]
    distance_m: Annotated[Number, Field(ge=1, le=200_000)]


class PlaceAsked(Asked):
    latitude: Number
    longitude: Number
    sky: Sky = Sky.CLEAR
    scene: Scene = Scene.SKY_LIT
    readings: Annotated[list[OwnReadingAsked], Field(max_length=MOST_READINGS)] = []
    ridge: RidgeAsked | None = None

    def given(self, start: datetime, end: datetime, step_seconds: float) -> LightQuestion:
        """As the core takes it."""
        return LightQuestion(
            Place(self.latitude, self.longitude),
            start.astimezone(UTC),
            end.astimezone(UTC),
            step_seconds,
            self.sky,
            self.scene,
            tuple(OwnReading(reading.at.astimezone(UTC), reading.ev100) for reading in self.readings),
            Ridge(self.ridge.height_m, self.ridge.distance_m) if self.ridge else None,
        )


class LightAsked(PlaceAsked):
    from_: Annotated[Instant, Field(alias="from")]
    to: Instant
    step_seconds: Number = 60.0


class LightPointAnswer(Schema):
    at: datetime
    altitude_deg: Number
    azimuth_deg: Number
    lux: Number
    ev100: Number
    sd_stops: Number
    stops_per_minute: Number


class EventAnswer(Schema):
    name: str
    at: datetime | None


class ReadingStatusAnswer(Schema):
    at: datetime
    status: Status


class LightAnswer(Schema):
    points: list[LightPointAnswer]
    events: list[EventAnswer]
    readings: list[ReadingStatusAnswer]


@router.post("/light", response=LightAnswer)
def light(request: HttpRequest, question: LightAsked) -> Forecast:
    """The light at every step of a period, its named moments, and what became of the readings."""
    return forecast(question.given(question.from_, question.to, question.step_seconds))
