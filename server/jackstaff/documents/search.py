"""Searching the log: what fits, in which order, and one page of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from uuid import UUID

from django.db.models import Exists, OuterRef, QuerySet
from django.db.models.functions import Abs
from django.utils import timezone

from jackstaff.records.account import Account
from jackstaff.records.frame_rows import folded
from jackstaff.records.models import Frame, FrameDefect, FrameGlass

from .frames import FRAMES


class Sort(StrEnum):
    """In which order a search lists its frames."""

    NEWEST = "newest"
    OLDEST = "oldest"
    LONGEST = "longest"
    WORST = "worst"


class Verdict(StrEnum):
    """How a frame was reviewed."""

    RIGHT = "right"
    DARK = "dark"
    BRIGHT = "bright"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Search:
    """What a search asks for; None for anything."""

    text: str = ""
    verdict: Verdict | None = None
    defect: str | None = None
    glass: UUID | None = None
    since: datetime | None = None
    until: datetime | None = None
    sort: Sort = Sort.NEWEST


RIGHT_STOPS = 0.17
"""Within a sixth of a stop a frame is called right."""


def _fitting(account: Account, wanted: Search) -> QuerySet[Frame]:
    found = Frame.objects.filter(account=account)
    for word in wanted.text.split()[:8]:
        found = found.filter(words__contains=folded(word))
    match wanted.verdict:
        case Verdict.RIGHT:
            found = found.filter(exposure_error__range=(-RIGHT_STOPS, RIGHT_STOPS))
        case Verdict.DARK:
            found = found.filter(exposure_error__lt=-RIGHT_STOPS)
        case Verdict.BRIGHT:
            found = found.filter(exposure_error__gt=RIGHT_STOPS)
        case Verdict.NONE:
            found = found.filter(exposure_error__isnull=True)
    if wanted.defect:
        found = found.filter(Exists(FrameDefect.objects.filter(frame=OuterRef("pk"), code=wanted.defect)))
    if wanted.glass:
        found = found.filter(Exists(FrameGlass.objects.filter(frame=OuterRef("pk"), kit_id=wanted.glass)))
    if wanted.since:
        found = found.filter(opened_at__gte=wanted.since)
    if wanted.until:
        found = found.filter(opened_at__lt=wanted.until)
    return found


def search(account: Account, wanted: Search) -> list[QuerySet[Frame]]:
    """Return the account's frames that fit, in stretches one after the other, each in an order that an index holds."""
    found = _fitting(account, wanted)
    newest = found.order_by("-opened_at", "pk")
    match wanted.sort:
        case Sort.NEWEST:
            # Frames of a day to come, as a scenario's may be, stand after those that somebody has made.
            to_come = timezone.now() + timedelta(days=1)
            return [newest.filter(opened_at__lte=to_come), newest.filter(opened_at__gt=to_come)]
        case Sort.OLDEST:
            return [found.order_by("opened_at", "-pk")]
        case Sort.LONGEST:
            return [found.order_by("-set_seconds", "pk")]
        case Sort.WORST:
            judged = found.filter(exposure_error__isnull=False)
            return [
                judged.order_by(Abs("exposure_error").desc(), "pk"),
                newest.filter(exposure_error__isnull=True),
            ]


def page(account: Account, stretches: Sequence[QuerySet[Frame]], offset: int, limit: int) -> tuple[int, list[Frame]]:
    """Return how many frames there are in all the stretches, and those of a page. Only those of the page are read."""
    count = 0
    keys: list[UUID] = []
    for stretch in stretches:
        start, wanted = max(0, offset - count), limit - len(keys)
        found = list(stretch.values_list("pk", flat=True)[start : start + wanted])
        keys += found
        # A stretch that ends within the page is counted by that; counting would look at every frame once more.
        ended = len(found) < wanted and (found or start == 0)
        count += start + len(found) if ended else stretch.count()
    rows = {row.pk: row for row in FRAMES.among(account, keys)}
    return count, [rows[key] for key in keys]
