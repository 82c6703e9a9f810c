"""Replica: what an account's devices tell each other. docs/replication.md is the contract."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router, Schema, Status
from pydantic import Field

from jackstaff.documents.registry import DOCUMENTS, copies
from jackstaff.documents.replication import (
    Write,
    changes_since,
    epoch_of,
    head_of,
    revision_of,
    shared_with,
    take,
)
from jackstaff.records.account import Account
from jackstaff.records.kinds import DocKind
from jackstaff.records.transactions import KeyTaken, all_or_none, as_of_now, durable
from jackstaff_core.log.frame import Frame, FrameKept, FrameState
from jackstaff_core.motion.looks import OwnLook
from jackstaff_core.outing.plan import Outing
from jackstaff_core.words.refusal import Refusal, Refusals

from .door import AnotherAccount, account_of, own_account
from .gear import ItemAnswer
from .refusals import Fault, Faults
from .schemas import Input, Instant
from .wired import as_document

router = Router(tags=["replica"], auth=own_account)

MOST_DOCUMENTS = 100
OutingContent: Any = as_document(Outing)
OwnLookContent: Any = as_document(OwnLook)
FrameKeptContent: Any = as_document(FrameKept)
Number = Annotated[int, Field(strict=True, ge=0)]


class Copy(Schema):
    """A document with its number in the account's count; without content it was removed."""

    id: UUID
    number: int
    changed_at: datetime


class KitCopy(Copy):
    """A thing of the kit, as a device is sent it."""

    kind: Literal["kit"] = "kit"
    place: int = 0
    content: ItemAnswer | None = None


class OutingCopy(Copy):
    """An outing, as a device is sent it."""

    kind: Literal["outing"] = "outing"
    content: OutingContent | None = None


class LookCopy(Copy):
    """A look of one's own, as a device is sent it."""

    kind: Literal["look"] = "look"
    content: OwnLookContent | None = None


class FrameCopy(Copy):
    """A frame, as a device is sent it."""

    kind: Literal["frame"] = "frame"
    content: FrameKeptContent | None = None


class AsideContent(Schema):
    """A writing that did not know of another one, which was kept instead."""

    kind: DocKind
    key: UUID
    changed_at: datetime
    content: dict[str, Any]


class AsideCopy(Copy):
    """What was set aside, as a device is sent it."""

    kind: Literal["aside"] = "aside"
    content: AsideContent | None = None


AnyCopy = Annotated[KitCopy | OutingCopy | LookCopy | FrameCopy | AsideCopy, Field(discriminator="kind")]


class SinceInput(Schema):
    """From which number on, how many at most, and the epoch that the device counts by."""

    since: Annotated[int, Field(ge=0)] = 0
    limit: Annotated[int, Field(ge=1, le=200)] = 100
    epoch: UUID | None = None


class ChangesAnswer(Schema):
    """What has changed, in order; ``until`` is the number to ask from next, ``head`` the latest there is.

    ``epoch`` is that of the account's count. To whoever knows another one ``shared`` is the number up to which the two
    count alike: nothing is sent then but this.
    """

    account: int
    epoch: UUID
    shared: int | None = None
    head: int
    until: int
    documents: list[AnyCopy]


class ChangeInput(Input):
    """One document as a device wrote it; ``base`` is the number that it had seen, content null removes it.

    ``follows`` are the device's own writes of it before this one that were never answered.
    """

    kind: DocKind
    id: UUID
    write: UUID
    base: Number
    changed_at: Instant
    content: dict[str, Any] | None
    follows: Annotated[list[UUID], Field(max_length=16)] = []


class ChangesInput(Input):
    """What a device wrote, for which account."""

    account: Annotated[int, Field(strict=True)]
    epoch: UUID | None = None
    documents: Annotated[list[ChangeInput], Field(min_length=1, max_length=MOST_DOCUMENTS)]


class ChangeResult(Schema):
    """What is held now, or why the write was refused."""

    write: UUID
    held: AnyCopy | None = None
    refused: list[Fault] = []


class ChangesResult(Schema):
    """What became of each write."""

    account: int
    epoch: UUID
    head: int
    results: list[ChangeResult]


@router.get("", response=ChangesAnswer)
def since(request: HttpRequest, payload: Query[SinceInput]) -> dict[str, object]:
    """Return the account's documents that have changed since a number, page by page."""
    account = account_of(request)
    with as_of_now():
        head, epoch = head_of(account), epoch_of(account)
        shared = None if payload.epoch is None else shared_with(account, payload.epoch)
        if shared is not None:
            return {
                "account": account.pk, "epoch": epoch, "shared": shared, "head": head, "until": shared, "documents": [],
            }  # fmt: skip
        rows = list(changes_since(account, payload.since, payload.limit))
        until = rows[-1].number if len(rows) == payload.limit else head
        documents = copies(account, rows)
        return {"account": account.pk, "epoch": epoch, "head": head, "until": until, "documents": documents}


@router.post("", response={200: ChangesResult, 412: Faults})
def write(request: HttpRequest, payload: ChangesInput) -> object:
    """Take writes one by one in their order; one that is refused does not hold up the rest.

    Whoever counts by another epoch is told so (412), and asks for what has changed before they send.
    """
    account = account_of(request)
    if payload.account != account.pk:
        raise AnotherAccount
    epoch, head = epoch_of(account), head_of(account)
    if payload.epoch not in (None, epoch):
        fault = Refusal(
            "epoch", "A copy was put back here; numbers count anew.", "Ask for what has changed first."
        ).fault
        return Status(412, {"errors": [fault]})
    results = [_taken(account, document, head) for document in payload.documents]
    return {"account": account.pk, "epoch": epoch, "head": head_of(account), "results": results}


def _taken(account: Account, change: ChangeInput, head: int) -> dict[str, object]:
    try:
        if change.base > head:
            raise Refusal("base", f"The account counts to {head} only.", "Ask for what has changed first.")
        documents = DOCUMENTS[change.kind]
        content = None if change.content is None else documents.read(change.id, change.content)
        opening = isinstance(content, Frame) and content.state is FrameState.OPEN
        with durable(account) if opening else all_or_none(account):
            coming = Write(
                change.kind, change.id, change.write, change.base, change.changed_at, content, frozenset(change.follows)
            )
            take(account, documents, coming, datetime.now(UTC))
            row = revision_of(account, change.kind, change.id)
            held = copies(account, [row] if row else [])
        return {"write": change.write, "held": held[0] if held else None}
    except Refusal as refusal:
        return {"write": change.write, "refused": [refusal.fault]}
    except Refusals as refusals:
        return {"write": change.write, "refused": [each.fault for each in refusals.all]}
    except KeyTaken:
        taken = Refusal("id", "This key is taken by somebody else.", "Save it as a file, or make it anew.")
        return {"write": change.write, "refused": [taken.fault]}
