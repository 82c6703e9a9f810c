"""The log as files, in and out, and everything of an account in one archive."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field

from jackstaff.documents.frames import FRAMES
from jackstaff.files import archive, log_exchange, takeback
from jackstaff.records.transactions import KeyTaken
from jackstaff_core.log.frame import Frame
from jackstaff_core.wire.marks import Named, Size
from jackstaff_core.wire.reader import read as read_as
from jackstaff_core.words.refusal import Refusal

from .door import account_of, own_account
from .mount import body_of, described
from .outings import file_as
from .refusals import Faults
from .uploads import bounded, content
from .wired import as_answer

router = Router(tags=["files"])

_KINDS: dict[log_exchange.LogFormat, str] = {
    "json": "application/json",
    "csv": "text/csv",
    "xmp": "application/rdf+xml",
}
LogAnswer: Any = as_answer(log_exchange.LogChanges)
ArchiveAnswer: Any = as_answer(takeback.ArchiveChanges)


@dataclass(frozen=True, slots=True)
class WriteQuestion:
    """Frames to write; ``xmp`` takes exactly one."""

    frames: Annotated[tuple[Frame, ...], Size(1, 2000)]
    as_: Annotated[log_exchange.LogFormat, Named("as")]


class ReadInput(Schema):
    """``keep``: take the file in, checked whole first, then kept by chunks; else only say what it would do."""

    keep: bool = False


class PartInput(Schema):
    """Which part of a log that is longer than goes out at once, the oldest frames first."""

    part: Annotated[int, Field(ge=1, le=1000)] = 1


class PartsAnswer(Schema):
    """How many frames the account has, and in how many files they go out."""

    frames: int
    parts: int


@router.get("/log/parts", response=PartsAnswer, auth=own_account)
def parts(request: HttpRequest) -> dict[str, int]:
    """Return in how many files the account's log goes out."""
    frames, files = log_exchange.parts_of_log(account_of(request))
    return {"frames": frames, "parts": files}


@router.get("/log/file", response={200: dict[str, Any]}, auth=own_account, openapi_extra=file_as("text/csv"))
def own_file(request: HttpRequest, payload: Query[PartInput], as_: Literal["json", "csv"] = "json") -> HttpResponse:
    """Return the account's log as JSON or CSV: the frames that today's rules take. The archive has the others, too."""
    frames, _ = log_exchange.part_of_log(account_of(request), payload.part)
    return _file(log_exchange.written(frames, as_), as_)


@router.post("/log/write", openapi_extra=described(WriteQuestion, None) | file_as(*_KINDS.values()))
def write(request: HttpRequest) -> HttpResponse:
    """Return the frames that are sent along as a file; keeps nothing."""
    payload = read_as(WriteQuestion, body_of(request))
    if payload.as_ == "xmp" and len(payload.frames) != 1:
        raise Refusal("frames", "A sidecar holds one frame.", "Send one frame at a time.")
    return _file(log_exchange.written(payload.frames, payload.as_), payload.as_)


@router.get("/log/schema", response=dict[str, Any])
def log_schema(request: HttpRequest) -> dict[str, Any]:
    """Return the JSON Schema of a log file."""
    return log_exchange.schema()


@router.post("/log/read", response={200: LogAnswer, 409: Faults, 413: Faults}, auth=own_account)
def read(request: HttpRequest, file: File[UploadedFile], payload: Form[ReadInput]) -> object:
    """Read a log file (JSON, CSV or sidecar) into the account, or say what it would do. Refused, none is kept."""
    frames = log_exchange.frames_of_file(file.name or "", content(request, "file", file, "file"))
    account = account_of(request)
    changes = log_exchange.changes_to_log(account, frames, payload.keep)
    if payload.keep:
        try:
            FRAMES.keep_all(account, frames)
        except KeyTaken:
            return Status(409, _TAKEN)
    return Status(200, changes)


@router.get("/account/archive", response={200: str}, auth=own_account, openapi_extra=file_as("application/zip"))
def everything(request: HttpRequest, payload: Query[PartInput]) -> HttpResponse:
    """Return everything of the account in an archive: log, pictures, kit, outings, looks.

    Aside what today's rules refuse.

    A log longer than a file holds goes out in parts, each with the whole kit, every outing and look.
    """
    answer = HttpResponse(takeback.everything(account_of(request), payload.part), content_type="application/zip")
    answer["Content-Disposition"] = 'attachment; filename="jackstaff-everything.zip"'
    return answer


@router.post("/account/archive", response={200: ArchiveAnswer, 409: Faults, 413: Faults}, auth=own_account)
def back(request: HttpRequest, file: File[UploadedFile], payload: Form[ReadInput]) -> object:
    """Take an archive back, or say what it holds. Refused, none of it is kept."""
    bounded("file", file, archive.MOST_BYTES, "Give the archive as Jackstaff wrote it.")
    account = account_of(request)
    coming = takeback.for_account(account, takeback.read_archive(file))
    changes = takeback.changes(account, coming, payload.keep)
    if payload.keep:
        try:
            takeback.keep(account, coming)
        except KeyTaken:
            return Status(409, _TAKEN)
    return Status(200, changes)


def _file(text: str, log_format: log_exchange.LogFormat) -> HttpResponse:
    answer = HttpResponse(text, content_type=f"{_KINDS[log_format]}; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="jackstaff-log.{log_format}"'
    return answer


_TAKEN = {
    "errors": [
        {
            "field": "file",
            "problem": "Some of these frames belong to another account here.",
            "instead": "Sign in to that account, or leave them out.",
        }
    ]
}
