"""What to do in the edit, in order, with amounts: from what the log knows of a frame.

    lift = - came out                                               [stops]
    verticals: pitch theta, picture height h, focal length f: crop = tan(theta) h / (2 f)     share of the picture

Levelling the camera in the edit turns the picture into a trapezium; the largest upright rectangle in it loses
(wide - narrow)/(wide + narrow) = tan(theta) h/(2 f) of its area. Source: rotation of a pinhole camera, derived;
a multiplication by 2^s before the tone curve is s stops. Limits: pitch to 30 degrees; whole verticals corrected.
Verdict: lift computed from a person's thirds, crop computed, cast estimate.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Annotated

from ..filters.white_balance import LEAST_MIRED, green_said, white_balance_said
from ..scales.spoken import time_in_words
from ..wire.marks import Between, Size
from ..words.refusal import within
from .frame import Defect

LEVEL_DEG = 0.5
MOST_PITCH_DEG = 30.0
CRUSHED_STOPS = 2.0
LEAST_CORNER_STOPS = 0.1
"""Less than this is not worth a step of the edit."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Tint:
    """What a glass does to the picture.

    Its cast in words, the shift of its light [mired, + warmer], green too much or missing, its denser corners.
    """

    cast: Annotated[str, Size(0, 60)] = ""
    mired: Annotated[float, Between(-500, 500, "mired")] | None = None
    green: Annotated[float, Between(-5, 5, "stops")] | None = None
    corner_stops: Annotated[float, Between(-10, 10, "stops")] | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class EditQuestion:
    """What is known of the frame; None where nothing is.

    ``pitch_deg`` + is camera tilted up, ``kelvin`` what the camera was set to, ``monochrome`` a frame meant for black
    and white, whose colours nobody will see.
    """

    error_stops: float | None = None
    defects: frozenset[Defect] = frozenset()
    glass: tuple[Tint, ...] = ()
    pitch_deg: float | None = None
    focal_mm: float | None = None
    sensor_height_mm: float = 24.0
    seconds: float = 1.0
    kelvin: float | None = None
    monochrome: bool = False


@dataclass(frozen=True, slots=True)
class Note:
    """One step of the edit: a code, the sentence, the amount and its unit."""

    code: str
    text: str
    amount: float | None = None
    unit: str = ""


def keystone_crop(pitch_deg: float, focal_mm: float, height_mm: float) -> float:
    """Return the share of the picture's height that upright verticals cost.

    Parameters
    ----------
    pitch_deg : float
        How far the camera was tilted up (+) or down [degrees].
    focal_mm : float
        Focal length, 1 to 3000 mm.
    height_mm : float
        The sensor's height, 3 to 300 mm.

    Raises
    ------
    Refusal
        One of them out of bounds.
    """
    pitch = within("pitch_deg", pitch_deg, -MOST_PITCH_DEG, MOST_PITCH_DEG, "degrees")
    focal = within("focal_mm", focal_mm, 1, 3000, "mm")
    height = within("sensor_height_mm", height_mm, 3, 300, "mm")
    return min(1.0, abs(math.tan(math.radians(pitch))) * height / (2 * focal))


def editing_notes(question: EditQuestion) -> tuple[Note, ...]:
    """Return the steps in the order of the edit.

    Raises
    ------
    Refusal
        An angle, focal length or height out of bounds.
    """
    return tuple(_notes(question))


def _notes(q: EditQuestion) -> Iterator[Note]:
    if Defect.SPECKS in q.defects:
        yield Note(
            "dark_frame", f"Subtract the dark frame of the same length ({time_in_words(q.seconds)}) first, on the raw."
        )
    # Of a stack, casts and corners add up.
    corner = _total(piece.corner_stops for piece in q.glass)
    yield from _monochrome(q) if q.monochrome else _colour(q)
    if q.error_stops is not None and abs(q.error_stops) > 0.05:
        lift = -q.error_stops
        noisy = " Shadows will be noisy." if lift >= CRUSHED_STOPS else ""
        clipped = " Nothing brings back what ran full." if Defect.CLIPPED in q.defects else ""
        way = "Lift" if lift > 0 else "Lower"
        yield Note("lift", f"{way} exposure by {abs(lift):.1f} stops.{noisy}{clipped}", lift, "stops")
    elif Defect.CLIPPED in q.defects:
        yield Note("highlights", "Pull the highlights down; a channel that ran full stays flat.")
    if corner is not None and abs(corner) >= LEAST_CORNER_STOPS:
        way = "Lift" if corner > 0 else "Lower"
        yield Note("corners", f"{way} the corners by {abs(corner):.1f} stops.", corner, "stops")
    elif Defect.CORNER in q.defects:
        yield Note("corners", "Crop the dark corners away: rims leave nothing to lift.")
    if q.pitch_deg is not None and q.focal_mm is not None and abs(q.pitch_deg) >= LEVEL_DEG:
        crop = keystone_crop(q.pitch_deg, q.focal_mm, q.sensor_height_mm)
        way = "up" if q.pitch_deg > 0 else "down"
        yield Note(
            "verticals",
            f"Upright verticals ({abs(q.pitch_deg):.0f}° {way}) cost {crop:.0%} of the picture at {q.focal_mm:.0f} mm.",
            crop,
            "share",
        )
    if Defect.SPECKS in q.defects:
        yield Note("specks", "Heal the hot specks that the dark frame left.")


def _colour(q: EditQuestion) -> Iterator[Note]:
    shift, green = (_total(getattr(piece, name) for piece in q.glass) for name in ("mired", "green"))
    cast = "; ".join(piece.cast for piece in q.glass if piece.cast)
    if shift is not None and (correction := white_balance_said(shift, q.kelvin)):
        yield Note("white_balance", correction, shift, "mired")
    elif (cast or Defect.CAST in q.defects) and shift is None:
        named = f" ({cast})" if cast else ""
        yield Note(
            "white_balance", f"Take the cast{named} out by white balance on something grey. Measure it with a pair."
        )
    if green is not None and (said_so := green_said(green)):
        yield Note("tint", said_so[0].upper() + said_so[1:], green, "stops")


def _monochrome(q: EditQuestion) -> Iterator[Note]:
    """Yield in black and white a cast is a choice of tones, and only the mix of the channels shows it."""
    yield Note("tones", "Mix the channels for the tones: more red darkens a blue sky, more blue opens haze and shadow.")
    if any(piece.mired is not None and abs(piece.mired) >= LEAST_MIRED for piece in q.glass):
        yield Note("channels", "The filter's cast weights the channels: set them against each other by eye, not grey.")
    yield Note("grain", "Lifted shadows read as grain: even the noise out first, add grain last if you want it.")


def _total(measured: Iterable[float | None]) -> float | None:
    """Return the sum of what was measured; None where nothing was."""
    known = [each for each in measured if each is not None]
    return math.fsum(known) if known else None
