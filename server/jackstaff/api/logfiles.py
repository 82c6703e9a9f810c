"""The log as files, in and out, and everything of an account in one archive."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field

from jackstaff.records import archive, logfile, takeback
from jackstaff.records.frames import CHUNK, batched, changes, frames_of
from jackstaff.records.looks import all_looks
from jackstaff.records.outings import outings_of
from jackstaff.records.writing import KeyTaken, as_of_now
from jackstaff_core.gear import kitfile
from jackstaff_core.log.finished_frame import finished
from jackstaff_core.log.frame import VERSION, Frame
from jackstaff_core.motion.looks import OwnLook
from jackstaff_core.outing.plan import Outing
from jackstaff_core.wire.marks import Named, Size
from jackstaff_core.wire.reader import plain
from jackstaff_core.wire.reader import read as read_as
from jackstaff_core.wire.schema import Schemas
from jackstaff_core.words.refusal import Refusal, Refusals

from .account import account_of, own_account
from .framedoc import taken_and_refused
from .framekeeping import held_frame, save_all
from .mount import body_of, described
from .outings import file_as
from .refusals import Faults
from .uploads import bounded, content

router = Router(tags=["files"])

As = Literal["json", "csv", "xmp"]
_KINDS = {"json": "application/json", "csv": "text/csv", "xmp": "application/rdf+xml"}
MOST_SHOWN, MOST_FAULTS = 100, 20
Plans = tuple[Outing, ...]


@dataclass(frozen=True, slots=True)
class WriteQuestion:
    """Frames to write; ``xmp`` takes exactly one."""

    frames: Annotated[tuple[Frame, ...], Size(1, 2000)]
    as_: Annotated[As, Named("as")]


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


class FrameChange(Schema):
    id: UUID
    opened_at: str
    zone: str | None
    what: str
    change: Literal["new", "changed", "same"]


class ReadAnswer(Schema):
    """What a file would do to the log, or has done; the first hundred one by one."""

    new: int
    changed: int
    same: int
    kept: bool
    frames: list[FrameChange]


class BesideChange(Schema):
    """What an archive does to one thing, plan or look; ``stays``: the plan here was changed later."""

    sort: Literal["thing", "outing", "look"]
    name: str
    change: Literal["new", "changed", "removed", "stays"]


class ArchiveAnswer(Schema):
    """What an archive holds, and what of it is new or changed here; beside the frames one by one, to the hundredth."""

    frames: ReadAnswer
    beside: list[BesideChange]
    things: int
    outings: int
    looks: int
    pictures: int
    aside: int
    kept: bool


@router.get("/log/parts", response=PartsAnswer, auth=own_account)
def parts(request: HttpRequest) -> dict[str, int]:
    """In how many files the account's log goes out."""
    count = account_of(request).frames.count()
    return {"frames": count, "parts": max(1, -(-count // logfile.PART_FRAMES))}


@router.get("/log/file", response={200: dict[str, Any]}, auth=own_account, openapi_extra=file_as("text/csv"))
def own_file(request: HttpRequest, payload: Query[PartInput], as_: Literal["json", "csv"] = "json") -> HttpResponse:
    """The account's log as JSON or CSV: the frames that today's rules take. The archive has the others, too."""
    frames, _ = _part(account_of(request), payload.part)
    return _written(frames, as_)


def _part(account: User, part: int) -> tuple[list[Frame], list[dict[str, Any]]]:
    """The frames of a part, and those of it that today's rules refuse."""
    most = logfile.PART_FRAMES
    with as_of_now():
        return taken_and_refused(frames_of(account).order_by("opened_at", "pk")[(part - 1) * most : part * most])


@router.post("/log/write", openapi_extra=described(WriteQuestion, None) | file_as(*_KINDS.values()))
def write(request: HttpRequest) -> HttpResponse:
    """Frames that are sent along as a file; keeps nothing."""
    payload = read_as(WriteQuestion, body_of(request))
    if payload.as_ == "xmp" and len(payload.frames) != 1:
        raise Refusal("frames", "A sidecar holds one frame.", "Send one frame at a time.")
    return _written(payload.frames, payload.as_)


@router.get("/log/schema", response=dict[str, Any])
def log_schema(request: HttpRequest) -> dict[str, Any]:
    """The JSON Schema of a log file."""
    return schema()


@router.post("/log/read", response={200: ReadAnswer, 409: Faults, 413: Faults}, auth=own_account)
def read(request: HttpRequest, file: File[UploadedFile], payload: Form[ReadInput]) -> object:
    """Read a log file (JSON, CSV or sidecar) into the account, or say what it would do. Refused, none is kept."""
    documents = _checked(_frames_in(file.name or "", _text(content(request, "file", file, "file"))))
    account = account_of(request)
    found = _changes(account, documents, payload.keep)
    if payload.keep:
        try:
            save_all(account, documents)
        except KeyTaken:
            return Status(409, _TAKEN)
    return Status(200, found)


@router.get("/account/archive", response={200: str}, auth=own_account, openapi_extra=file_as("application/zip"))
def everything(request: HttpRequest, payload: Query[PartInput]) -> HttpResponse:
    """Everything of the account in an archive: log, pictures, kit, outings, looks; aside what today's rules refuse.

    A log longer than a file holds goes out in parts, each with the whole kit, every outing and look.
    """
    account = account_of(request)
    frames, refused = _part(account, payload.part)
    plans, aside = [], {"frames": refused, "outings": list[Any]()}
    for plan in outings_of(account):
        try:
            plans.append(plain(read_as(Outing, plan)))
        except Refusals as refusals:
            aside["outings"].append({**plan, "refused": refusals.words})
    looks = [{"id": str(key), **look} for key, look in all_looks(account).items()]
    content = archive.written(account, [plain(frame) for frame in frames], plans, looks, aside)
    answer = HttpResponse(content, content_type="application/zip")
    answer["Content-Disposition"] = 'attachment; filename="jackstaff-everything.zip"'
    return answer


@router.post("/account/archive", response={200: ArchiveAnswer, 409: Faults, 413: Faults}, auth=own_account)
def back(request: HttpRequest, file: File[UploadedFile], payload: Form[ReadInput]) -> object:
    """Take an archive back, or say what it holds. Refused, none of it is kept."""
    bounded("file", file, archive.MOST_BYTES, "Give the archive as Jackstaff wrote it.")
    held = archive.read(file)
    documents = _checked(logfile.from_json(held.log))
    things = kitfile.parse(held.kit)
    plans = _plans(held.outings)
    looks = _looks(held.looks)
    account = account_of(request)
    held, documents = takeback.own_keys(account, held, documents)
    found = _changes(account, documents, payload.keep)
    beside = takeback.changes(account, things, plans, looks)
    takeback.belongs(account, held, {document.id for document in documents})
    if payload.keep:
        try:
            save_all(account, documents)
            takeback.keep(account, held, things, plans, looks)
        except KeyTaken:
            return Status(409, _TAKEN)
    return Status(
        200,
        {
            "frames": found,
            "beside": beside[:MOST_SHOWN],
            "things": len(things),
            "outings": len(plans),
            "looks": len(looks),
            "pictures": len(held.pictures),
            "aside": held.aside,
            "kept": payload.keep,
        },
    )


def _plans(documents: list[Any]) -> Plans:
    try:
        return read_as(Plans, documents)
    except Refusals as refusals:
        raise Refusals(refusals.under("outings").all[:MOST_FAULTS]) from None


def _looks(documents: list[Any]) -> dict[UUID, dict[str, Any]]:
    found = {}
    for place, each in enumerate(documents):
        if not isinstance(each, dict):
            raise Refusal(f"looks.{place}", "This is no look.", "Give it as Jackstaff wrote it.")
        try:
            key = read_as(UUID, each.get("id"))
            found[key] = dict(plain(read_as(OwnLook, {name: value for name, value in each.items() if name != "id"})))
        except Refusals as refusals:
            raise refusals.under(f"looks.{place}") from None
    return found


def schema() -> dict[str, Any]:
    """The JSON Schema of a log file."""
    shapes = Schemas("#/$defs/")
    frame = shapes.input(Frame)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Jackstaff log",
        "type": "object",
        "required": ["format", "version", "frames"],
        "properties": {
            "format": {"const": logfile.FORMAT},
            "version": {"const": VERSION},
            "frames": {"type": "array", "maxItems": logfile.MOST_FRAMES, "items": frame},
        },
        "$defs": shapes.made,
    }


_TAKEN = {
    "errors": [
        {
            "field": "file",
            "problem": "Some of these frames belong to another account here.",
            "instead": "Sign in to that account, or leave them out.",
        }
    ]
}


def _written(frames: Sequence[Frame], as_: str) -> HttpResponse:
    by_key = {str(each.id): each for each in frames}
    documents = [plain(each) for each in frames]

    def derived(frame: dict[str, Any]) -> tuple[object, ...]:
        was = finished(by_key[frame["id"]])
        names = " + ".join(glass["name"] for glass in frame["stack"])
        late = round(was.timing_stops, 3) if was and not was.aborted else None
        return (names, was and round(was.seconds, 3), late)

    match as_:
        case "csv":
            text = logfile.as_csv(documents, derived)
        case "xmp":
            text = logfile.as_xmp(documents[0], derived(documents[0]))
        case _:
            text = logfile.as_json(documents)
    answer = HttpResponse(text, content_type=f"{_KINDS[as_]}; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="jackstaff-log.{as_}"'
    return answer


def _text(raw: bytes) -> str:
    try:
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refusal("file", "This file is no text in UTF-8.", "Save it as UTF-8, or export it again.") from None


def _frames_in(name: str, text: str) -> list[Any]:
    start = text.lstrip()[:1]
    if name.lower().endswith(".xmp") or start == "<":
        return logfile.from_xmp(text)
    if name.lower().endswith(".csv") or start != "{":
        return list(logfile.from_csv(text))
    return logfile.from_json(text)


def _checked(frames: Sequence[Any]) -> list[Frame]:
    """Every frame by the same rules as one that is sent; all that is wrong at once."""
    found: list[Frame] = []
    wrong: list[Refusal] = []
    keys: set[UUID] = set()
    for place, each in enumerate(frames):
        try:
            frame = read_as(Frame, each)
        except Refusals as refusals:
            faults = refusals.under(f"frames.{place}").all
            wrong += [Refusal(fault.field, f"Frame {place + 1}: {fault.problem}", fault.instead) for fault in faults]
            if len(wrong) >= MOST_FAULTS:
                break
            continue
        if frame.id in keys:
            wrong.append(Refusal(f"frames.{place}.id", f"Frame {place + 1} stands in the file twice.", "Take one out."))
        keys.add(frame.id)
        found.append(frame)
    if wrong:
        raise Refusals(wrong[:MOST_FAULTS])
    return found


def _changes(account: User, frames: Sequence[Frame], kept: bool) -> dict[str, object]:
    held = {
        row.pk: held_frame(row)
        for keys in batched((frame.id for frame in frames), CHUNK)
        for row in changes(account, keys)
    }
    counts = {"new": 0, "changed": 0, "same": 0}
    rows: list[dict[str, object]] = []
    for frame in frames:
        change = "new" if frame.id not in held else "same" if held[frame.id] == frame else "changed"
        counts[change] += 1
        if len(rows) < MOST_SHOWN and change != "same":
            what = " + ".join(glass.name for glass in frame.stack) or "bare"
            rows.append(
                {
                    "id": frame.id,
                    "opened_at": frame.opened_at.isoformat(),
                    "zone": frame.conditions.zone if frame.conditions else None,
                    "what": what,
                    "change": change,
                }
            )
    return {**counts, "kept": kept, "frames": rows}
