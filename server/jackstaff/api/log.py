"""Log: the account's frames, running and finished."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router, Schema, Status
from pydantic import Field

from jackstaff.documents.frames import FRAMES
from jackstaff.documents.replication import forget as forget_document
from jackstaff.documents.search import Search, Sort, Verdict, search
from jackstaff.documents.search import page as page_of
from jackstaff.records.transactions import KeyTaken, as_of_now
from jackstaff_core.log.frame import Defect, Frame, FrameKept
from jackstaff_core.wire.reader import read
from jackstaff_core.words.refusal import Refusal

from .door import account_of, own_account
from .mount import as_json, body_of, document
from .refusals import Faults
from .schemas import Instant
from .wired import as_document

router = Router(tags=["log"], auth=own_account)

Kept: Any = as_document(FrameKept)


class PageInput(Schema):
    """Which frames, in which order, and which page of them."""

    limit: Annotated[int, Field(ge=1, le=200)] = 50
    offset: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    text: Annotated[str, Field(max_length=120, pattern=r"^[^\x00-\x1f]*$")] = ""
    verdict: Verdict | None = None
    defect: Defect | None = None
    glass: UUID | None = None
    since: Instant | None = None
    until: Instant | None = None
    sort: Sort = Sort.NEWEST

    def search(self) -> Search:
        """As the records take it."""
        return Search(self.text, self.verdict, self.defect, self.glass, self.since, self.until, self.sort)


class FramePage(Schema):
    """A page of frames, and how many fit in all."""

    count: int
    frames: list[Kept]


@router.get("", response=FramePage)
def page(request: HttpRequest, payload: Query[PageInput]) -> dict[str, object]:
    """Return the account's frames that fit the search, the newest first unless asked otherwise."""
    account = account_of(request)
    with as_of_now():
        count, found = page_of(account, search(account, payload.search()), payload.offset, payload.limit)
        return {"count": count, "frames": [FRAMES.shown(frame) for frame in found]}


@router.get("/running", response=Kept | None)
def running(request: HttpRequest) -> object:
    """Return the exposure that is running now, or null."""
    account = account_of(request)
    with as_of_now():
        frame = FRAMES.running(account)
        return FRAMES.shown(frame) if frame else None


@router.get("/{uuid:key}", response={200: Kept, 404: Faults})
def show(request: HttpRequest, key: UUID) -> object:
    """Return one frame of the account."""
    frames = FRAMES.of(account_of(request)).filter(pk=key)
    with as_of_now():
        frame = frames.first()
        return Status(200, FRAMES.shown(frame)) if frame else Status(404, _NO_SUCH_FRAME)


@router.put("/{uuid:key}", response={409: Faults}, openapi_extra=document(Frame, FrameKept))
def keep(request: HttpRequest, key: UUID) -> object:
    """Keep a frame under the client's own key; sending it twice keeps it once."""
    frame = read(Frame, body_of(request))
    if frame.id != key:
        raise Refusal("id", "The frame's id differs from its address.", "Send the frame to its own address.")
    try:
        return as_json(FRAMES.shown(FRAMES.keep(account_of(request), frame)))
    except KeyTaken:
        return Status(
            409,
            {"errors": [{"field": "id", "problem": "This key is taken.", "instead": "Make a new one and send again."}]},
        )


@router.delete("/{uuid:key}", response={204: None, 404: Faults})
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget a frame. The client may put it back under the same key."""
    if forget_document(account_of(request), FRAMES, key):
        return Status(204, None)
    return Status(404, _NO_SUCH_FRAME)


_NO_SUCH_FRAME = {"errors": [{"field": "id", "problem": "No such frame.", "instead": "Load the log again."}]}
