"""Run: what closing late or early does. Keeps nothing."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from jackstaff_core.lateness import Lateness, lateness

from .asked import Asked, Number

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
