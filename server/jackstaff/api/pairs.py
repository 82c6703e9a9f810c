"""Frame pairs: what a glass does, measured from a bare and a filtered JPEG. Works signed out and keeps nothing."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from PIL import Image
from pydantic import Field

from jackstaff_core.reading import aperture, iso
from jackstaff_core.readout import readout
from jackstaff_core.refusal import Refusal
from jackstaff_core.scales import Step
from jackstaff_core.white_balance import green_said, green_stops, white_balance_said
from jackstaff_imaging.light import Bytes
from jackstaff_imaging.pair import Pair, exposure_value, measure, measure_bracket
from jackstaff_imaging.photo import Shot, pixels

from .refusals import Faults
from .schemas import Number
from .uploads import alone, picture

router = Router(tags=["pairs"])

MOST_BRACKET = 6
SAME_EXPOSURE_STOPS = 0.05
Written = Annotated[str, Field(max_length=24)]


class PairSettings(Schema):
    """Settings typed where EXIF has none; what is typed wins."""

    bare_shutter: Written = ""
    bare_aperture: Written = ""
    bare_iso: Written = ""
    filtered_shutter: Written = ""
    filtered_aperture: Written = ""
    filtered_iso: Written = ""


class Channels(Schema):
    r: Number
    g: Number
    b: Number


class CastAnswer(Schema):
    rg: Number
    bg: Number
    mired: Number


class ExposureRead(Schema):
    seconds: Number
    f_number: Number
    iso: Number


class PairAnswer(Schema):
    """Strengths relative to the exposures, and how the camera is set so that the colour is gone.

    ``refused`` says what to reshoot, and then nothing else can be trusted.
    """

    stops: Channels
    cast: CastAnswer
    green: Number
    advice: list[str]
    corner_falloff: Number | None
    valid_blocks: int
    of_blocks: int
    sure_within: Number
    mismatch: Number
    map: list[list[Number | None]]
    bare: ExposureRead
    filtered: ExposureRead
    refused: str | None = None


@dataclass(frozen=True, slots=True)
class _Exposed:
    seconds: float
    f_number: float
    iso: float

    @property
    def value(self) -> float:
        return exposure_value(self.seconds, self.f_number, self.iso)


@router.post("/frames/pair", response={200: PairAnswer, 413: Faults})
def pair(
    request: HttpRequest,
    bare: File[UploadedFile],
    filtered: File[UploadedFile],
    settings: Form[PairSettings],
    after: File[UploadedFile | None] = None,
    bracket: File[list[UploadedFile] | None] = None,
) -> object:
    """Strength, cast and corner falloff of a glass from two frames; ``after`` is a second bare one against drift.

    ``bracket``: more bare frames of other exposures, with which the camera's tone curve does not matter.
    """
    first, first_shot = picture(request, "bare", bare)
    second, second_shot = picture(request, "filtered", filtered)
    if first.size != second.size:
        raise Refusal(
            "filtered",
            f"The frames differ in size: {first.size[0]} x {first.size[1]} and {second.size[0]} x {second.size[1]}.",
            "Give two frames of one camera, uncropped and the same way up.",
        )
    each = _exposed("bare", first_shot, (settings.bare_shutter, settings.bare_aperture, settings.bare_iso))
    other = _exposed(
        "filtered", second_shot, (settings.filtered_shutter, settings.filtered_aperture, settings.filtered_iso)
    )
    with alone():
        glassed = pixels("filtered", second)
        if bracket:
            if after is not None:
                raise Refusal(
                    "after", "A bracket and a frame against drift do not go together.", "Give one or the other."
                )
            bares = _bracket(request, bracket, first, each)
            return Status(200, _said(measure_bracket(bares, glassed, other.value), each, other))
        third = None
        if after is not None:
            image, shot = _alike(request, "after", after, first)
            before, again = _by_file(first_shot), _by_file(shot)
            if before and again and abs(again.value - before.value) > SAME_EXPOSURE_STOPS:
                raise Refusal(
                    "after", "The two bare frames were not exposed alike.", "Shoot both with the same settings."
                )
            third = pixels("after", image)
        found = measure(pixels("bare", first), glassed, other.value - each.value, after=third)
        return Status(200, _said(found, each, other))


def _alike(request: HttpRequest, field: str, file: UploadedFile, first: Image.Image) -> tuple[Image.Image, Shot]:
    image, shot = picture(request, field, file)
    if image.size != first.size:
        raise Refusal(field, "This bare frame has another size.", "Give one of the same camera, uncropped.")
    return image, shot


def _bracket(
    request: HttpRequest, files: list[UploadedFile], first: Image.Image, each: _Exposed
) -> Iterator[tuple[Bytes, float]]:
    """The bare frames, decoded as they are asked for; what can be refused before any is decoded is refused at once."""
    if len(files) > MOST_BRACKET:
        raise Refusal(
            "bracket", f"{len(files)} frames are too many.", f"Give up to {MOST_BRACKET} beside the bare one."
        )
    opened = [_alike(request, f"bracket.{place}", file, first) for place, file in enumerate(files)]
    exposed = [_told(f"bracket.{place}", shot) for place, (_, shot) in enumerate(opened)]

    def decoded() -> Iterator[tuple[Bytes, float]]:
        yield pixels("bare", first), each.value
        for place, ((image, _), by) in enumerate(zip(opened, exposed, strict=True)):
            yield pixels(f"bracket.{place}", image), by.value

    return decoded()


def _by_file(shot: Shot) -> _Exposed | None:
    """What a file says of its exposure."""
    if shot.seconds is None or shot.f_number is None or shot.iso is None:
        return None
    return _Exposed(shot.seconds, shot.f_number, shot.iso)


def _told(field: str, shot: Shot) -> _Exposed:
    if (found := _by_file(shot)) is None:
        raise Refusal(field, "This frame does not say how it was exposed.", "Give a JPEG as the camera wrote it.")
    return found


def _exposed(which: str, shot: Shot, typed: tuple[str, str, str]) -> _Exposed:
    shutter, stop, speed = typed
    seconds = _typed_seconds(f"{which}_shutter", shutter) if shutter.strip() else shot.seconds
    f_number = aperture(f"{which}_aperture", stop.strip(), Step.THIRD).exact if stop.strip() else shot.f_number
    iso_ = iso(f"{which}_iso", speed.strip(), Step.THIRD).exact if speed.strip() else shot.iso
    for name, value in (("shutter", seconds), ("aperture", f_number), ("iso", iso_)):
        if value is None:
            raise Refusal(
                f"{which}_{name}", f"The {which} frame does not say its {name}.", f"Type it in as {which}_{name}."
            )
    assert seconds is not None
    assert f_number is not None
    assert iso_ is not None
    return _Exposed(seconds, f_number, iso_)


def _typed_seconds(field: str, text: str) -> float:
    found = readout(text.strip(), Step.THIRD, 30.0)
    if found.ambiguous:
        both = " or ".join(f"{reading.seconds:g} s" for reading in found.readings)
        raise Refusal(field, f"'{text}' can be {both}.", "Write 1/… for a fraction, or add s.")
    return found.readings[0].seconds


def _said(found: Pair, first: _Exposed, other: _Exposed) -> dict[str, object]:
    red, green, blue = found.stops
    against = green_stops(found.cast.rg, found.cast.bg)
    return {
        "stops": {"r": red, "g": green, "b": blue},
        "cast": found.cast,
        "green": against,
        "advice": [words for words in (white_balance_said(found.cast.mired), green_said(against)) if words],
        "corner_falloff": found.corner_falloff,
        "valid_blocks": found.valid_blocks,
        "of_blocks": found.of_blocks,
        "sure_within": found.sure_within,
        "mismatch": found.mismatch,
        "map": [list(line) for line in found.green_map],
        "bare": first,
        "filtered": other,
        "refused": found.refused,
    }
