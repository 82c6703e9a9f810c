"""Pictures: read beside the log, joined to frames, compared, capped frames counted. Only what is asked for is kept."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import AfterValidator, Field

from jackstaff.documents.pictures import PICTURES
from jackstaff_core.log.joining_pictures import MOST_FILES, MOST_FRAMES, Candidate, Joining, join
from jackstaff_core.log.joining_pictures import File as Taken
from jackstaff_core.words.refusal import Refusal
from jackstaff_imaging import answers
from jackstaff_imaging.capped import Leak
from jackstaff_imaging.digest import Digest

from .door import account_of, own_account
from .outings import file_as
from .refusals import Faults
from .schemas import Input, Instant, Number, of_our_times
from .uploads import measured, source
from .wired import as_answer

router = Router(tags=["pictures"])

Line = Annotated[str, Field(max_length=120)]


DigestAnswer: Any = as_answer(Digest)


class TakenInput(Input):
    """A picture file: when its camera says it was taken, and for how long [s]."""

    taken_at: Annotated[datetime, AfterValidator(of_our_times)] | None = None
    seconds: Annotated[Number, Field(gt=0, le=86_400 * 2)] | None = None


class CandidateInput(Input):
    """A frame of the log that a file may belong to."""

    id: UUID
    opened_at: Instant
    seconds: Annotated[Number, Field(gt=0, le=86_400 * 2)]


class JoinInput(Input):
    """Files and frames to bring together; ``ahead_seconds`` how far the camera's clock is ahead, where known."""

    files: Annotated[list[TakenInput], Field(min_length=1, max_length=MOST_FILES)]
    frames: Annotated[list[CandidateInput], Field(max_length=MOST_FRAMES)]
    ahead_seconds: Number | None = None


class CappedSettings(Schema):
    """Time [s] and warmth [degrees Celsius] of a capped frame, and the warmth of the next one."""

    seconds: Annotated[float, Field(gt=0, le=86_400)] | None = None
    celsius: Annotated[float, Field(ge=-40, le=50)] | None = None
    next_celsius: Annotated[float, Field(ge=-40, le=50)] | None = None


class CardWords(Schema):
    """The words on a before and after card."""

    before_title: Line = "Without filters"
    before_text: Line = ""
    after_title: Line = "With filters"
    after_text: Line = ""
    foot: Line = ""


@router.post("/frames/photo", response={200: as_answer(answers.PhotoRead), 413: Faults})
def photo(request: HttpRequest, file: File[UploadedFile]) -> object:
    """Return what a JPEG says of its exposure, how its tones lie, and how far it may go brighter; keeps nothing."""
    return measured(answers.photo, source(request, "file", file))


@router.post("/frames/join", response=as_answer(Joining))
def joined(request: HttpRequest, payload: JoinInput) -> Joining:
    """Return which frame each file belongs to; learns the camera's clock where it is not given. Keeps nothing."""
    zoned = {file.taken_at.tzinfo is not None for file in payload.files if file.taken_at}
    if len(zoned) > 1:
        raise Refusal("files", "Some of these times have a zone and some none.", "Give all of them alike.")
    return join(
        [Taken(file.taken_at and _clock(file.taken_at), file.seconds) for file in payload.files],
        [Candidate(str(frame.id), frame.opened_at, frame.seconds) for frame in payload.frames],
        payload.ahead_seconds,
    )


def _clock(at: datetime) -> datetime:
    """Return what a clock showed: one that says its zone as one that shows UTC."""
    return at.astimezone(UTC).replace(tzinfo=None) if at.tzinfo else at


@router.get("/frames/{uuid:key}/picture", response={200: DigestAnswer, 404: Faults}, auth=own_account)
def kept_picture(request: HttpRequest, key: UUID) -> object:
    """Return the digest kept beside a frame."""
    held = PICTURES.shown(account_of(request), key)
    return Status(200, held) if held else Status(404, _NO_PICTURE)


@router.post("/frames/{uuid:key}/picture", response={200: DigestAnswer, 404: Faults, 413: Faults}, auth=own_account)
def keep(request: HttpRequest, key: UUID, file: File[UploadedFile]) -> object:
    """Keep a small copy of a picture and its tones beside a frame; the file itself is not kept."""
    found = measured(answers.digest, source(request, "file", file))
    return Status(200, found) if PICTURES.keep(account_of(request), key, found) else Status(404, _NO_FRAME)


@router.delete("/frames/{uuid:key}/picture", response={204: None, 404: Faults}, auth=own_account)
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget the picture beside a frame."""
    return Status(204, None) if PICTURES.forget(account_of(request), key) else Status(404, _NO_PICTURE)


@router.post("/frames/specks", response={200: as_answer(answers.SpecksRead), 413: Faults})
def specks(request: HttpRequest, file: File[UploadedFile], settings: Form[CappedSettings]) -> object:
    """Return the hot specks of a capped frame, and from which time this body needs a dark frame; keeps nothing."""
    file_ = source(request, "file", file)
    return measured(answers.specks, file_, settings.seconds, settings.celsius, settings.next_celsius)


@router.post("/frames/leak", response={200: as_answer(Leak), 413: Faults})
def leak(request: HttpRequest, closed: File[UploadedFile], opened: File[UploadedFile]) -> object:
    """Return whether light comes in by the eyepiece: two capped frames, eyepiece closed and open. Keeps nothing."""
    return measured(answers.leak, source(request, "closed", closed), source(request, "opened", opened))


@router.post("/frames/card", response={200: str, 413: Faults}, openapi_extra=file_as("image/png"))
def card(
    request: HttpRequest, before: File[UploadedFile], after: File[UploadedFile], words: Form[CardWords]
) -> HttpResponse:
    """Return the before and after card as PNG; keeps nothing."""
    drawn = measured(
        answers.card,
        answers.Half("before", source(request, "before", before), words.before_title, words.before_text),
        answers.Half("after", source(request, "after", after), words.after_title, words.after_text),
        words.foot,
    )
    answer = HttpResponse(drawn, content_type="image/png")
    answer["Content-Disposition"] = 'attachment; filename="jackstaff-before-after.png"'
    return answer


_NO_PICTURE = {"errors": [{"field": "id", "problem": "No picture is kept here.", "instead": "Add one first."}]}
_NO_FRAME = {"errors": [{"field": "id", "problem": "No such frame.", "instead": "Load the log again."}]}
