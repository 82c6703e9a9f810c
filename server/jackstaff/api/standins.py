"""Stand-ins: a simulated trigger, camera and meter. Every answer says that it is simulated. Keeps nothing."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from jackstaff import children
from jackstaff.standins.camera import GlassOn, picture
from jackstaff.standins.meter import Meter, SimulatedMeter
from jackstaff.standins.phone import EXPOSURE_SECONDS, ISO, Phone, SimulatedPhone
from jackstaff.standins.trigger import Closed, Device, Opened, SimulatedTrigger, Trigger
from jackstaff_core.camera.reading import aperture, iso
from jackstaff_core.motion.questions import AtQuestion
from jackstaff_core.scales.ladders import Step
from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.made_up import AFTER_SECONDS, BEFORE_SECONDS, SkyKind
from jackstaff_core.sky.sun_and_moon import Place

from .outings import Latitude, Longitude, file_as
from .schemas import Dial, Flag, Input, Instant, Number
from .wired import as_answer, as_input

router = Router(tags=["standins"])


DeviceInput: Any = as_input(Device)
GlassOnInput: Any = as_input(GlassOn)


class OpenInput(Input):
    """A press on the simulated trigger."""

    device: DeviceInput
    bulb: Flag
    pressed_at: Instant


class LetGoInput(Input):
    """Letting go of the simulated trigger."""

    device: DeviceInput
    opened_at: Instant
    planned_seconds: Number
    asked_at: Instant


class MeterInput(Input):
    """Where, when and under which sky the simulated meter is read."""

    latitude: Latitude
    longitude: Longitude
    at: Instant
    sky: Sky = Sky.CLEAR
    seed: Annotated[int, Field(strict=True, ge=0, le=2**31)] = 1


class MeterAnswer(Schema):
    """What the simulated meter shows [EV at ISO 100]."""

    simulated: bool
    ev100: Number


Scene: Any = as_input(AtQuestion)


class PictureInput(Input):
    """The scene as for /looks/at, and how the frame really came out against the plan."""

    scene: Scene
    gathered_stops: Annotated[Number, Field(ge=-20, le=20)]
    glass: Annotated[list[GlassOnInput], Field(max_length=8)] = []
    aperture: Dial
    iso: Dial
    taken_at: Instant
    seed: Annotated[int, Field(strict=True, ge=0, le=2**31)] = 7


class SkySeenInput(Input):
    """A second of a made-up sky."""

    kind: SkyKind
    second: Annotated[Number, Field(ge=-BEFORE_SECONDS, le=AFTER_SECONDS)]
    seed: Annotated[int, Field(strict=True, ge=0, le=2**31)] = 1


@router.post("/trigger/open", response=as_answer(Opened))
def press(request: HttpRequest, payload: OpenInput) -> Opened:
    """Press the simulated trigger: when the shutter really opened, or why it did not."""
    trigger: Trigger = SimulatedTrigger(payload.device, payload.bulb)
    return trigger.open(payload.pressed_at)


@router.post("/trigger/close", response=as_answer(Closed))
def let_go(request: HttpRequest, payload: LetGoInput) -> Closed:
    """Let go: when the shutter really closed, what ended it, and until when the camera is busy."""
    trigger: Trigger = SimulatedTrigger(payload.device, True)
    return trigger.close(payload.opened_at, payload.planned_seconds, payload.asked_at)


@router.post("/meter", response=MeterAnswer)
def read_meter(request: HttpRequest, payload: MeterInput) -> dict[str, object]:
    """Return what the simulated meter shows there and then."""
    meter: Meter = SimulatedMeter(Place(payload.latitude, payload.longitude), payload.sky, payload.seed)
    return {"simulated": True, "ev100": meter.read(payload.at)}


@router.post("/camera/picture", response={200: bytes}, openapi_extra=file_as("image/jpeg"))
def take(request: HttpRequest, question: PictureInput) -> HttpResponse:
    """Return the simulated camera's frame, a drawing as bright as it really came out, as a JPEG with EXIF."""
    f_number = aperture("aperture", question.aperture, Step.THIRD).exact
    speed = iso("iso", question.iso, Step.THIRD).exact
    jpeg = children.ask(
        picture,
        question.scene.scene(),
        question.scene.seconds,
        question.gathered_stops,
        tuple(question.glass),
        (question.taken_at, f_number, speed),
        question.seed,
    )
    return HttpResponse(jpeg, content_type="image/jpeg")


@router.post("/phone", response={200: bytes}, openapi_extra=file_as("image/png"))
def see(request: HttpRequest, payload: SkySeenInput) -> HttpResponse:
    """Return what the simulated phone sees of a made-up sky, as a PNG.

    Its exposure is held, and told in the headers.
    """
    phone: Phone = SimulatedPhone(payload.kind, payload.seed)
    headers = {"X-Exposure-Seconds": str(EXPOSURE_SECONDS), "X-Iso": str(ISO)}
    return HttpResponse(phone.see(payload.second), content_type="image/png", headers=headers)
