"""Lessons of the account's own log. The same of a log that is sent along is asked by the core's table (mount.py)."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema

from jackstaff.records.frames import finished_frames
from jackstaff.records.kit import kit_of
from jackstaff.records.writing import as_of_now
from jackstaff_core.log import evidence, review
from jackstaff_core.log import questions as logquestions
from jackstaff_core.log.finished_frame import FinishedFrame
from jackstaff_core.log.frame import Defect

from .account import account_of, own_account
from .framedoc import finished_of
from .mount import BESIDE, add, as_json
from .wired import as_answer

router = Router(tags=["lessons"])

MOST_LESSONS = 1_500
"""Of a longer log the newest frames speak."""
EvidenceAnswer: Any = as_answer(evidence.Evidence)
LearntAnswer: Any = as_answer(logquestions.LearntAnswer)


class FindingAnswer(Schema):
    code: Defect
    label: str
    cause: str
    cure: str
    learns: str


@router.get("/log/defects", response=list[FindingAnswer])
def defects(request: HttpRequest) -> list[dict[str, object]]:
    """What one may find in a frame, each with cause and cure."""
    return [asdict(each) for each in review.FINDINGS.values()]


@router.get("/log/evidence", response=EvidenceAnswer, auth=own_account)
def own_evidence(request: HttpRequest) -> HttpResponse:
    """What the account's frames and pairs say of its glass."""
    account = account_of(request)
    return as_json(evidence.weigh(_frames(account), logquestions.solids(kit_of(account))))


@router.get("/log/learnt", response=LearntAnswer, auth=own_account)
def own_lessons(request: HttpRequest) -> HttpResponse:
    """What the account's log teaches of time, focal length, taste and mistakes."""
    return as_json(logquestions.learnt(_frames(account_of(request))))


def _frames(account: User) -> list[FinishedFrame]:
    with as_of_now():
        return finished_of(finished_frames(account)[:MOST_LESSONS])


for _name in BESIDE:
    add(router, _name)
