"""What is asked before the shutter opens."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from ..sky.sun_and_moon import Place, in_frame, sun_at
from ..stacks.rules import FocalLength
from ..wire.marks import Between, Inline
from ..wire.question import Question
from . import checklist
from .checklist import Armed, Checklist


@dataclass(frozen=True, slots=True)
class SunQuestion:
    """Where and when, and where the camera looks, so that the sun in the frame is known."""

    place: Annotated[Place, Inline()]
    at: datetime
    focal_mm: FocalLength
    bearing_deg: Annotated[float, Between(-360, 360, "degrees")]
    elevation_deg: Annotated[float, Between(-90, 90, "degrees")] = 0.0


@dataclass(frozen=True, slots=True)
class ArmQuestion:
    """What is about to be exposed, and where the sun is looked for; what is left out is unknown."""

    frame: Annotated[Armed, Inline()]
    sun: SunQuestion | None = None


def _arm(question: ArmQuestion) -> Checklist:
    frame, sun = question.frame, question.sun
    if sun is None:
        return checklist.arm(frame)
    altitude, azimuth = sun_at(sun.place, sun.at)
    where = in_frame(sun.focal_mm, sun.bearing_deg, sun.elevation_deg, azimuth, altitude)
    half = (frame.body.sensor_width_mm / 2, frame.body.sensor_height_mm / 2) if frame.body else (18.0, 12.0)
    return checklist.arm(frame, checklist.sun_seen(where, altitude, half))


QUESTIONS: dict[str, Question] = {
    "run/arm": Question(ArmQuestion, _arm, Checklist),
}
