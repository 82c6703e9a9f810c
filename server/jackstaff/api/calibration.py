"""Calibration: what the glass really measures, from judged frames. Keeps nothing."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from jackstaff_core.calibration import MOST_FRAMES, Calibration, CalibrationQuestion, Judged, calibrate

from .asked import Asked, Flag, Number

router = Router(tags=["calibration"])

Key = Annotated[str, Field(min_length=1, max_length=60)]


class JudgedAsked(Asked):
    """A frame's stack by ids (none: bare); ``error_stops`` + = stack denser than labelled."""

    glass: Annotated[list[Key], Field(max_length=8)]
    error_stops: Number
    session: Key | None = None


class CalibrationAsked(Asked):
    frames: Annotated[list[JudgedAsked], Field(min_length=1, max_length=MOST_FRAMES)]
    prior_sd: Number | dict[Key, Number] = 0.2
    noise_sd: Number = 0.2
    session_sd: Number | None = 0.15
    robust: Flag = False


class FoundAnswer(Schema):
    id: str
    mean: Number
    sd: Number
    frames: int


class CalibrationAnswer(Schema):
    glass: list[FoundAnswer]
    sessions: list[FoundAnswer]
    covariance: list[list[Number]]


@router.post("/calibration", response=CalibrationAnswer)
def learn(request: HttpRequest, question: CalibrationAsked) -> Calibration:
    """How far each glass is off its label, with the whole covariance; a session's habit is kept apart."""
    return calibrate(
        CalibrationQuestion(
            tuple(Judged(tuple(frame.glass), frame.error_stops, frame.session) for frame in question.frames),
            question.prior_sd,
            question.noise_sd,
            question.session_sd,
            question.robust,
        )
    )
