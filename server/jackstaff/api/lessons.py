"""Lessons of the account's own log. The same of a log that is sent along is asked by the core's table (mount.py)."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from jackstaff.documents.frames import FRAMES
from jackstaff.documents.kit import KIT
from jackstaff.records.account import Account
from jackstaff.records.transactions import as_of_now
from jackstaff_core.log import evidence, review
from jackstaff_core.log import questions as logquestions
from jackstaff_core.log.finished_frame import FinishedFrame

from .door import account_of, own_account
from .mount import BESIDE, add, as_json
from .wired import as_answer

router = Router(tags=["lessons"])

MOST_LESSONS = 1_500
"""Of a longer log the newest frames speak."""
EvidenceAnswer: Any = as_answer(evidence.Evidence)
LearntAnswer: Any = as_answer(logquestions.LearntAnswer)
Findings: Any = as_answer(tuple[review.Finding, ...])


@router.get("/log/defects", response=Findings)
def defects(request: HttpRequest) -> object:
    """Return what one may find in a frame, each with cause and cure."""
    return tuple(review.FINDINGS.values())


@router.get("/log/evidence", response=EvidenceAnswer, auth=own_account)
def own_evidence(request: HttpRequest) -> HttpResponse:
    """Return what the account's frames and pairs say of its glass."""
    account = account_of(request)
    return as_json(evidence.weigh_log(_frames(account), logquestions.solids(KIT.of(account))))


@router.get("/log/learnt", response=LearntAnswer, auth=own_account)
def own_lessons(request: HttpRequest) -> HttpResponse:
    """Return what the account's log teaches of time, focal length, taste and mistakes."""
    return as_json(logquestions.learnt(_frames(account_of(request))))


def _frames(account: Account) -> list[FinishedFrame]:
    with as_of_now():
        return FRAMES.finished(account, MOST_LESSONS)


for _name in BESIDE:
    add(router, _name)
