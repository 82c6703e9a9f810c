"""Bench extras: graduated glass, aperture as a trade, flash, video, a trial scaled up, a strength by two readings."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff_core.flash import FlashAnswer, FlashQuestion, flash
from jackstaff_core.graduated import GraduatedQuestion, Graduation, Horizon, Owned, choose
from jackstaff_core.reading import shutter
from jackstaff_core.scales import Step
from jackstaff_core.trade import Trade, TradeQuestion, trade
from jackstaff_core.trial import Trial, measured, trial
from jackstaff_core.video import Held, VideoQuestion, hold

from .asked import Asked, Dial, Number, ReadingAsked, Text

router = Router(tags=["extras"])

Millimetres = Annotated[Number, Field(gt=0, le=3000)]
Metres = Annotated[Number, Field(gt=0, le=100_000)]
FNumber = Annotated[Number, Field(ge=0.5, le=512)]


class OwnedAsked(Asked):
    id: Text
    stops: Annotated[Number, Field(ge=0, le=10)]
    transition: Text


class GraduatedAsked(Asked):
    sky: Dial
    ground: Dial
    sky_share: Number = 0.5
    horizon: Horizon = Horizon.FLAT
    owned: Annotated[list[OwnedAsked], Field(max_length=24)] = []
    step: Step = Step.THIRD


class GraduationAnswer(Schema):
    sky_stops: Number
    wanted_stops: Number
    pick: str | None
    pick_stops: Number
    transition: str
    sky_lead: Number
    average_falls: Number
    foreground_gains: Number


class TradeAsked(Asked):
    seconds: Annotated[Number, Field(gt=0, le=90_000)]
    f_number: FNumber
    focal_mm: Millimetres
    widest: FNumber
    smallest: FNumber
    pitch_um: Number
    sensor_width_mm: Millimetres = 36.0
    sensor_height_mm: Millimetres = 24.0
    focus_m: Metres | None = None
    nearest_m: Metres | None = None
    farthest_m: Metres | None = None


class TradeRowAnswer(Schema):
    aperture: str
    seconds: Number
    hyperfocal_m: Number
    near_m: Number
    far_m: Number | None
    spot_pixels: Number
    sharpness: str


class TradeAnswer(Schema):
    rows: list[TradeRowAnswer]
    third_in_m: Number | None


class FlashAsked(Asked):
    reading: ReadingAsked
    wide: Dial
    sync_seconds: Number


class FlashAnswered(Schema):
    wide_seconds: Number
    stops: Number
    flash_stops: Number


class VideoAsked(Asked):
    setting_stops: Number
    change_stops: Number
    weak_end: Number
    usable_end: Number


class VideoAnswer(Schema):
    held: bool
    turn_to: Number
    short_stops: Number
    side: str | None
    room_brighter: Number
    room_darker: Number


class TrialAsked(Asked):
    trial_seconds: Number
    came_out_stops: Number
    sum_seconds: Number


class TrialAnswer(Schema):
    seconds: Number
    offset: Number
    offset_give_or_take: Number


class MeasuredAsked(Asked):
    without: Dial
    with_it: Dial
    step: Step = Step.THIRD


class MeasuredAnswer(Schema):
    stops: Number


@router.post("/graduated", response=GraduationAnswer)
def graduated(request: HttpRequest, asked: GraduatedAsked) -> Graduation:
    """Which graduated glass, what it does to the average and what remains for the foreground."""
    owned = tuple(Owned(**dict(one)) for one in asked.owned)
    return choose(GraduatedQuestion(asked.sky, asked.ground, asked.sky_share, asked.horizon, owned, asked.step))


@router.post("/trade", response=TradeAnswer)
def trading(request: HttpRequest, asked: TradeAsked) -> Trade:
    """Time, depth of field and diffraction of each aperture side by side, with the focus distances."""
    return trade(TradeQuestion(**dict(asked)))


@router.post("/flash", response=FlashAnswered)
def flashing(request: HttpRequest, asked: FlashAsked) -> FlashAnswer:
    """The glass that lets flash be used wide open within the sync time."""
    return flash(FlashQuestion(asked.reading.given(), asked.wide, asked.sync_seconds))


@router.post("/video", response=VideoAnswer)
def video(request: HttpRequest, asked: VideoAsked) -> Held:
    """Whether a variable glass can hold a shutter while the light changes."""
    return hold(VideoQuestion(**dict(asked)))


@router.post("/trial", response=TrialAnswer)
def trying(request: HttpRequest, asked: TrialAsked) -> Trial:
    """A trial at the dial's limit scaled up to the right time, and what it says about the stack."""
    return trial(asked.trial_seconds, asked.came_out_stops, asked.sum_seconds)


@router.post("/measured", response=MeasuredAnswer)
def measuring(request: HttpRequest, asked: MeasuredAsked) -> dict[str, float]:
    """The strength of a glass from two readings at one aperture and ISO."""
    without = shutter("without", asked.without, asked.step).exact
    return {"stops": measured(without, shutter("with_it", asked.with_it, asked.step).exact)}
