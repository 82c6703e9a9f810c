"""What is asked of pictures, from the files to the answer: each in one call, so that a process of its own can do it.

Files are given as their bytes or by their path; what they are called in the question is the field of a refusal.
Nothing is kept.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from io import BytesIO
from typing import Annotated

from PIL import Image

from jackstaff_core.camera.reading import aperture, iso
from jackstaff_core.camera.readout import readout
from jackstaff_core.filters.white_balance import green_said, green_stops, white_balance_said
from jackstaff_core.motion.looks import LooksQuestion
from jackstaff_core.scales.ladders import Step
from jackstaff_core.scales.spoken import time_in_words
from jackstaff_core.wire.marks import Inline
from jackstaff_core.words.refusal import Refusal, within

from . import beforeafter, capped
from .capped import Leak, Specks
from .digest import Digest
from .digest import digest as digest_of
from .headroom import Headroom, headroom
from .light import Bytes
from .pair import Cast, Pair, exposure_value, measure, measure_bracket
from .photo import Shot, opened, pixels, reduced, strips
from .scene import draw, exposed, jpeg

Source = bytes | str
"""A file: its bytes, or where it lies."""

MOST_BRACKET = 6
SAME_EXPOSURE_STOPS = 0.05
_SAME_TIME = 0.1


def photo(file: Source) -> PhotoRead:
    """Return what a JPEG says of its exposure, how its tones lie, and how far it may go brighter."""
    image, found, shot = _decoded("file", file)
    return PhotoRead(shot, digest_of(image, found), headroom(found))


def digest(file: Source) -> Digest:
    """Return the digest of a JPEG, as it is kept beside a frame."""
    image, found, _ = _decoded("file", file)
    return digest_of(image, found)


def specks(file: Source, seconds: float | None, celsius: float | None, next_celsius: float | None) -> SpecksRead:
    """Return the hot specks of a capped frame; ``seconds`` None is as its EXIF says, warmth in degrees Celsius.

    Raises
    ------
    Refusal
        No sound JPEG, or one that does not say how long it was.
    """
    image, shot = _opened("file", file)
    found = seconds or shot.seconds
    if found is None:
        raise Refusal("seconds", "The frame does not say how long it was.", "Type its time in seconds.")
    within("seconds", found, 1e-5, 86_400, "s")
    return SpecksRead(capped.specks(strips("file", image), found, celsius, next_celsius), found)


def leak(closed: Source, opened_: Source) -> Leak:
    """Return whether light comes in by the eyepiece: two capped frames, eyepiece closed and open.

    Raises
    ------
    Refusal
        No sound JPEGs, or not two of one camera and one time.
    """
    _, first, shot = _decoded("closed", closed)
    _, other, other_shot = _decoded("opened", opened_)
    if first.shape != other.shape:
        raise Refusal("opened", "The two frames differ in size.", "Give two frames of one camera, uncropped.")
    if shot.seconds and other_shot.seconds and abs(shot.seconds / other_shot.seconds - 1) > _SAME_TIME:
        raise Refusal("opened", "The two frames differ in time.", "Shoot both for the same time at the same ISO.")
    return capped.leak(first, other)


@dataclass(frozen=True, slots=True)
class Half:
    """One side of a before and after card; without a text its exposure stands there."""

    field: str
    file: Source
    title: str
    text: str


def card(before: Half, after: Half, foot: str) -> bytes:
    """Return the before and after card as PNG."""
    sides = []
    for half in (before, after):
        image, shot = _opened(half.field, half.file)
        small = reduced(half.field, image, beforeafter.WIDE, beforeafter.WIDE)
        sides.append(beforeafter.Side(small, half.title, half.text or _settings(shot)))
    return beforeafter.card(sides[0], sides[1], foot)


def drawing(scene: LooksQuestion, seconds: float, width: int, seed: int) -> bytes:
    """Return the made-up scene as that time [s] would draw it, as a JPEG ``width`` pixels wide."""
    return jpeg(draw(exposed(scene, seconds), width, width * 2 // 3, seed))


@dataclass(frozen=True, slots=True)
class Exposed:
    """How a frame was exposed [s, f-number, ISO]."""

    seconds: float
    f_number: float
    iso: float

    @property
    def value(self) -> float:
        """Its exposure value at the ISO it was taken at."""
        return exposure_value(self.seconds, self.f_number, self.iso)


@dataclass(frozen=True, slots=True)
class Channels:
    """A number for red, green and blue."""

    r: float
    g: float
    b: float


@dataclass(frozen=True, slots=True)
class PairMeasured:
    """Strengths relative to the exposures, and how the camera is set so that the colour is gone.

    ``refused`` says what to reshoot, and then nothing else can be trusted.
    """

    stops: Channels
    cast: Cast
    green: float
    advice: tuple[str, ...]
    corner_falloff: float | None
    valid_blocks: int
    of_blocks: int
    sure_within: float
    mismatch: float
    map: tuple[tuple[float | None, ...], ...]
    bare: Exposed
    filtered: Exposed
    refused: str | None


@dataclass(frozen=True, slots=True)
class PhotoRead:
    """What a JPEG says of its exposure, how its tones lie, and how far it may go brighter."""

    shot: Annotated[Shot, Inline()]
    digest: Digest
    headroom: Headroom


@dataclass(frozen=True, slots=True)
class SpecksRead:
    """Hot specks of a capped frame, and the time that was reckoned with [s]."""

    specks: Annotated[Specks, Inline()]
    seconds: float


def pair(
    bare: Source, filtered: Source, typed: Mapping[str, str], after: Source | None, bracket: list[Source] | None
) -> PairMeasured:
    """Return the strength, cast and corner falloff of a glass from a bare and a filtered frame.

    Parameters
    ----------
    bare, filtered : Source
        The two frames.
    typed : Mapping[str, str]
        Settings as a person writes them, e.g. ``bare_shutter``; what is typed wins over EXIF.
    after : Source | None
        A second bare frame, against drift of the light.
    bracket : list[Source] | None
        More bare frames of other exposures, with which the camera's tone curve does not matter.

    Raises
    ------
    Refusal
        No sound JPEGs of one camera, or settings that nobody says.
    """
    first, first_shot = _opened("bare", bare)
    second, second_shot = _opened("filtered", filtered)
    if first.size != second.size:
        raise Refusal(
            "filtered",
            f"The frames differ in size: {first.size[0]} x {first.size[1]} and {second.size[0]} x {second.size[1]}.",
            "Give two frames of one camera, uncropped and the same way up.",
        )
    each, other = _exposed("bare", first_shot, typed), _exposed("filtered", second_shot, typed)
    glassed = pixels("filtered", second)
    if bracket:
        if after is not None:
            raise Refusal("after", "A bracket and a frame against drift do not go together.", "Give one or the other.")
        return _said(measure_bracket(_bracket(bracket, first, each), glassed, other.value), each, other)
    third = None
    if after is not None:
        image, shot = _alike("after", after, first)
        before, again = _by_file(first_shot), _by_file(shot)
        if before and again and abs(again.value - before.value) > SAME_EXPOSURE_STOPS:
            raise Refusal("after", "The two bare frames were not exposed alike.", "Shoot both with the same settings.")
        third = pixels("after", image)
    found = measure(pixels("bare", first), glassed, other.value - each.value, after=third)
    return _said(found, each, other)


def _opened(field: str, file: Source) -> tuple[Image.Image, Shot]:
    """Return the picture, not decoded yet; it reads on from its file."""
    return opened(field, BytesIO(file) if isinstance(file, bytes) else open(file, "rb"))


def _decoded(field: str, file: Source) -> tuple[Image.Image, Bytes, Shot]:
    image, shot = _opened(field, file)
    return image, pixels(field, image), shot


def _settings(shot: Shot) -> str:
    """Return the exposure a file gives, in words; empty parts where it does not."""
    parts = [
        time_in_words(shot.seconds) if shot.seconds else "",
        f"f/{shot.aperture}" if shot.aperture else "",
        f"ISO {shot.speed}" if shot.speed else "",
    ]
    return "  ".join(part for part in parts if part)


def _alike(field: str, file: Source, first: Image.Image) -> tuple[Image.Image, Shot]:
    image, shot = _opened(field, file)
    if image.size != first.size:
        raise Refusal(field, "This bare frame has another size.", "Give one of the same camera, uncropped.")
    return image, shot


def _bracket(files: list[Source], first: Image.Image, each: Exposed) -> Iterator[tuple[Bytes, float]]:
    """Yield the bare frames, decoded as they are asked for.

    What can be refused before any is decoded is refused at once.
    """
    if len(files) > MOST_BRACKET:
        raise Refusal(
            "bracket", f"{len(files)} frames are too many.", f"Give up to {MOST_BRACKET} beside the bare one."
        )
    alike = [_alike(f"bracket.{place}", file, first) for place, file in enumerate(files)]
    exposures = [_told(f"bracket.{place}", shot) for place, (_, shot) in enumerate(alike)]

    def decoded() -> Iterator[tuple[Bytes, float]]:
        yield pixels("bare", first), each.value
        for place, ((image, _), by) in enumerate(zip(alike, exposures, strict=True)):
            yield pixels(f"bracket.{place}", image), by.value

    return decoded()


def _by_file(shot: Shot) -> Exposed | None:
    """Return what a file says of its exposure."""
    if shot.seconds is None or shot.f_number is None or shot.iso is None:
        return None
    return Exposed(shot.seconds, shot.f_number, shot.iso)


def _told(field: str, shot: Shot) -> Exposed:
    if (found := _by_file(shot)) is None:
        raise Refusal(field, "This frame does not say how it was exposed.", "Give a JPEG as the camera wrote it.")
    return found


def _exposed(which: str, shot: Shot, typed: Mapping[str, str]) -> Exposed:
    shutter, stop, speed = (typed[f"{which}_{name}"].strip() for name in ("shutter", "aperture", "iso"))
    seconds = _typed_seconds(f"{which}_shutter", shutter) if shutter else shot.seconds
    f_number = aperture(f"{which}_aperture", stop, Step.THIRD).exact if stop else shot.f_number
    iso_ = iso(f"{which}_iso", speed, Step.THIRD).exact if speed else shot.iso
    return Exposed(_given(which, "shutter", seconds), _given(which, "aperture", f_number), _given(which, "iso", iso_))


def _given(which: str, name: str, value: float | None) -> float:
    if value is None:
        raise Refusal(
            f"{which}_{name}", f"The {which} frame does not say its {name}.", f"Type it in as {which}_{name}."
        )
    return value


def _typed_seconds(field: str, text: str) -> float:
    found = readout(text, Step.THIRD, 30.0)
    if found.ambiguous:
        both = " or ".join(f"{reading.seconds:g} s" for reading in found.readings)
        raise Refusal(field, f"'{text}' can be {both}.", "Write 1/… for a fraction, or add s.")
    return found.readings[0].seconds


def _said(found: Pair, first: Exposed, other: Exposed) -> PairMeasured:
    against = green_stops(found.cast.rg, found.cast.bg)
    return PairMeasured(
        stops=Channels(*found.stops),
        cast=found.cast,
        green=against,
        advice=tuple(words for words in (white_balance_said(found.cast.mired), green_said(against)) if words),
        corner_falloff=found.corner_falloff,
        valid_blocks=found.valid_blocks,
        of_blocks=found.of_blocks,
        sure_within=found.sure_within,
        mismatch=found.mismatch,
        map=found.green_map,
        bare=first,
        filtered=other,
        refused=found.refused,
    )
