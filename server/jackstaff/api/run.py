"""Run: when to close, and what closing late or early does. Keeps nothing."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff_core.advice import Severity
from jackstaff_core.arming import Armed, ArmList, arm, with_sun
from jackstaff_core.closing import MOST_POINTS, Closing, ClosingQuestion, closing
from jackstaff_core.exposure import MOST_GLASSES
from jackstaff_core.gear import Body, Glass, Holder, Lens, Release, Support
from jackstaff_core.heavens import Place, in_frame, sun_at
from jackstaff_core.lateness import Lateness, lateness
from jackstaff_core.scales import Step
from jackstaff_core.series import HANDLING_SECONDS, Series, SeriesQuestion, Way, series
from jackstaff_core.stacking import On

from .asked import Asked, FilmAsked, Flag, Instant, Number
from .bench import AdviceAnswer
from .stacks import OnAsked, perhaps, thing
from .steady import steady_count, steady_seconds

router = Router(tags=["run"])


class LatenessAsked(Asked):
    planned_seconds: Number
    actual_seconds: Number


class LatenessAnswer(Schema):
    stops: float
    late_seconds: float
    verdict: str
    text: str


@router.post("/lateness", response=LatenessAnswer)
def compare(request: HttpRequest, question: LatenessAsked) -> Lateness:
    """How many stops brighter or darker than planned a frame came out."""
    return lateness(question.planned_seconds, question.actual_seconds)


class PointAsked(Asked):
    at_seconds: Number
    stops: Number

    def pair(self) -> tuple[float, float]:
        """As the core takes it."""
        return self.at_seconds, self.stops


class CloseAsked(Asked):
    """``at_seconds`` from the opening, negative before it; stops relative to the metering."""

    needed_seconds: Number
    opened_at: Instant
    now: Instant
    delay_seconds: Number = 0.0
    stops_per_minute: Number | None = None
    ev_points: Annotated[list[PointAsked], Field(max_length=MOST_POINTS)] = []
    readings: Annotated[list[PointAsked], Field(max_length=MOST_POINTS)] = []
    film: FilmAsked | None = None
    tracked: Flag = False
    bias_stops: Annotated[Number, Field(ge=-10, le=10)] = 0.0
    rate_from_readings: Flag = False


class ProgressAnswer(Schema):
    seconds: Number
    gathered: Number
    stops: Number


class WayOutAnswer(Schema):
    code: str
    amount: Number
    text: str


class CloseAnswer(Schema):
    close_after_seconds: Number | None
    gathered: Number
    reaches: bool
    largest_reachable_seconds: Number | None
    light_left_at_close: Number | None
    error_if_closed_as_metered_stops: Number
    advice: list[AdviceAnswer]
    as_metered_seconds: Number
    error_if_closed_now_stops: Number | None
    ways_out: list[WayOutAnswer]
    track: list[ProgressAnswer]


@router.post("/close", response=CloseAnswer)
def close(request: HttpRequest, question: CloseAsked) -> Closing:
    """When to close: what has gathered by now, when it is enough, and whether it ever will be."""
    return closing(
        ClosingQuestion(
            needed_seconds=question.needed_seconds * 2**question.bias_stops,
            now_seconds=(question.now - question.opened_at).total_seconds(),
            delay_seconds=question.delay_seconds,
            stops_per_minute=question.stops_per_minute,
            ev_points=tuple(point.pair() for point in question.ev_points),
            readings=tuple(point.pair() for point in question.readings),
            film=question.film.given() if question.film else None,
            tracked=question.tracked,
            rate_from_readings=question.rate_from_readings,
        )
    )


class SunAsked(Asked):
    """Where and when, and where the camera looks, so that the sun in the frame is known."""

    latitude: Annotated[Number, Field(ge=-90, le=90)]
    longitude: Annotated[Number, Field(ge=-180, le=180)]
    at: Instant
    focal_mm: Annotated[Number, Field(ge=1, le=3000)]
    bearing_deg: Annotated[Number, Field(ge=-360, le=360)]
    elevation_deg: Annotated[Number, Field(ge=-90, le=90)] = 0.0


class ArmAsked(Asked):
    """Facts are those of kit items; what is left out is unknown."""

    seconds: Number
    bulb: Flag
    glass: Annotated[list[OnAsked], Field(max_length=MOST_GLASSES)] = []
    body: dict[str, Any] | None = None
    lens: dict[str, Any] | None = None
    holder: dict[str, Any] | None = None
    support: dict[str, Any] | None = None
    release: dict[str, Any] | None = None
    noise_reduction: Flag | None = None
    wind_m_s: Number | None = None
    celsius: Number | None = None
    battery_share: Number | None = None
    upright: Flag = False
    sun: SunAsked | None = None


class LineAnswer(Schema):
    code: str
    text: str
    why: str
    severity: Severity
    habit: bool


class RehearsalAnswer(Schema):
    iso: str
    seconds: Number
    why: str


class ArmAnswer(Schema):
    lines: list[LineAnswer]
    rehearsal: RehearsalAnswer | None
    battery_takes: Number | None


@router.post("/arm", response=ArmAnswer)
def arming(request: HttpRequest, question: ArmAsked) -> ArmList:
    """What hands do before this frame opens, at most seven lines in their order, and the rehearsal of a long one."""
    asked = Armed(
        seconds=question.seconds,
        bulb=question.bulb,
        stack=tuple(
            On(one.name, thing(Glass, f"glass.{place}.facts", one.facts), one.stops, one.in_reading)
            for place, one in enumerate(question.glass)
        ),
        body=perhaps(Body, "body", question.body),
        lens=perhaps(Lens, "lens", question.lens),
        holder=perhaps(Holder, "holder", question.holder),
        support=perhaps(Support, "support", question.support),
        release=perhaps(Release, "release", question.release),
        noise_reduction=question.noise_reduction,
        wind_m_s=question.wind_m_s,
        celsius=question.celsius,
        battery_share=question.battery_share,
        upright=question.upright,
    )
    if sun := question.sun:
        altitude, azimuth = sun_at(Place(sun.latitude, sun.longitude), sun.at)
        place = in_frame(sun.focal_mm, sun.bearing_deg, sun.elevation_deg, azimuth, altitude)
        half = (asked.body.sensor_width_mm / 2, asked.body.sensor_height_mm / 2) if asked.body else (18.0, 12.0)
        asked = with_sun(asked, place, altitude, half)
    return arm(asked)


class SeriesAsked(Asked):
    seconds: Number
    way: Way
    count: Annotated[int, Field(strict=True)] = 3
    spacing_stops: Number = 1.0
    dial_limit: Number = 30.0
    step: Step = Step.THIRD
    noise_reduction: Flag = False
    handling_seconds: Number = HANDLING_SECONDS


class SeriesFrameAnswer(Schema):
    seconds: Number
    mark: str | None
    stops: Number
    opens_at: Number
    closes_at: Number
    busy_until: Number


class SeriesAnswer(Schema):
    frames: list[SeriesFrameAnswer]
    burst: bool
    total_seconds: Number
    more_light_stops: Number


@router.post("/series", response=SeriesAnswer)
def queue(request: HttpRequest, question: SeriesAsked) -> Series:
    """A bracket, a split or a repeat as a queue of frames, noise reduction counted."""
    return series(SeriesQuestion(**dict(question)))


class TimeAnswer(Schema):
    """The server's own count of seconds, which no change of a clock moves, and which count that is."""

    seconds: Number
    count: str
    at: datetime


@router.get("/time", response=TimeAnswer)
def time_of_server(request: HttpRequest) -> dict[str, object]:
    """A clock that lives through reloads and restarts: seconds since the machine started, under the machine's count."""
    return {"seconds": steady_seconds(), "count": steady_count(), "at": datetime.now(UTC)}
