"""Pictures: read beside the log, joined to frames, compared, capped frames counted. Only what is asked for is kept."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import AfterValidator, Field

from jackstaff.records.pictures import forget_picture, keep_picture, picture_of
from jackstaff_core.log.joining_pictures import MOST_FILES, MOST_FRAMES, Candidate, Joining, join
from jackstaff_core.log.joining_pictures import File as Taken
from jackstaff_core.words.refusal import Refusal
from jackstaff_imaging import answers

from .account import account_of, own_account
from .outings import file_as
from .refusals import Faults
from .schemas import Input, Instant, Number, of_our_times
from .uploads import measured, source

router = Router(tags=["pictures"])

Line = Annotated[str, Field(max_length=120)]


class DigestAnswer(Schema):
    """How tones lie: shares of pixels by bin of ``bin_stops`` below full, clipped by channel, a small JPEG."""

    red: list[Number]
    green: list[Number]
    blue: list[Number]
    bin_stops: Number
    clipped: list[Number]
    black: Number
    median_stops: Number
    small: str


class HeadroomAnswer(Schema):
    """How much brighter [stops, and told in thirds] before ``channel`` burns; shares burnt by red, green, blue."""

    stops: Number
    thirds: int
    channel: str
    burnt: list[Number]
    text: str


class PhotoAnswer(Schema):
    """What EXIF says, None where it does not; ``taken_at`` by the camera's own clock, without a zone.

    ``aperture`` and ``speed`` as its dials show them; ``utc_offset_minutes`` of its clock.
    """

    seconds: Number | None
    f_number: Number | None
    iso: Number | None
    taken_at: datetime | None
    body: str | None
    aperture: str | None
    speed: str | None
    utc_offset_minutes: int | None
    digest: DigestAnswer
    headroom: HeadroomAnswer


class TakenInput(Input):
    taken_at: Annotated[datetime, AfterValidator(of_our_times)] | None = None
    seconds: Annotated[Number, Field(gt=0, le=86_400 * 2)] | None = None


class CandidateInput(Input):
    id: UUID
    opened_at: Instant
    seconds: Annotated[Number, Field(gt=0, le=86_400 * 2)]


class JoinInput(Input):
    files: Annotated[list[TakenInput], Field(min_length=1, max_length=MOST_FILES)]
    frames: Annotated[list[CandidateInput], Field(max_length=MOST_FRAMES)]
    ahead_seconds: Number | None = None


class JoinedAnswer(Schema):
    """The frames a file may belong to: one is certain, several are to be asked about, none is a new frame."""

    frames: list[str]


class JoinAnswer(Schema):
    files: list[JoinedAnswer]
    ahead_seconds: Number | None
    learnt: bool
    others: list[Number]


class CappedSettings(Schema):
    seconds: Annotated[float, Field(gt=0, le=86_400)] | None = None
    celsius: Annotated[float, Field(ge=-40, le=50)] | None = None
    next_celsius: Annotated[float, Field(ge=-40, le=50)] | None = None


class SpecksAnswer(Schema):
    """``advised_from_seconds``: from this time on a dark frame is advised on this body, None where there are none."""

    count: int
    per_megapixel: Number
    brightest: int
    seconds: Number
    advised_from_seconds: Number | None
    refused: str | None


class LeakAnswer(Schema):
    leaks: bool
    below_grey_stops: Number | None
    where: str
    map: list[list[Number]]
    text: str
    refused: str | None


class CardWords(Schema):
    before_title: Line = "Without filters"
    before_text: Line = ""
    after_title: Line = "With filters"
    after_text: Line = ""
    foot: Line = ""


@router.post("/frames/photo", response={200: PhotoAnswer, 413: Faults})
def photo(request: HttpRequest, file: File[UploadedFile]) -> dict[str, object]:
    """What a JPEG says of its exposure, how its tones lie, and how far it may go brighter; keeps nothing."""
    return measured(answers.photo, source(request, "file", file))


@router.post("/frames/join", response=JoinAnswer)
def joined(request: HttpRequest, payload: JoinInput) -> Joining:
    """Which frame each file belongs to; learns the camera's clock where it is not given. Keeps nothing."""
    zoned = {file.taken_at.tzinfo is not None for file in payload.files if file.taken_at}
    if len(zoned) > 1:
        raise Refusal("files", "Some of these times have a zone and some none.", "Give all of them alike.")
    return join(
        [Taken(file.taken_at and _clock(file.taken_at), file.seconds) for file in payload.files],
        [Candidate(str(frame.id), frame.opened_at, frame.seconds) for frame in payload.frames],
        payload.ahead_seconds,
    )


def _clock(at: datetime) -> datetime:
    """What a clock showed: one that says its zone as one that shows UTC."""
    return at.astimezone(UTC).replace(tzinfo=None) if at.tzinfo else at


@router.get("/frames/{uuid:key}/picture", response={200: DigestAnswer, 404: Faults}, auth=own_account)
def kept_picture(request: HttpRequest, key: UUID) -> object:
    """The digest kept beside a frame."""
    held = picture_of(account_of(request), key)
    return Status(200, held) if held else Status(404, _NO_PICTURE)


@router.post("/frames/{uuid:key}/picture", response={200: DigestAnswer, 404: Faults, 413: Faults}, auth=own_account)
def keep(request: HttpRequest, key: UUID, file: File[UploadedFile]) -> object:
    """Keep a small copy of a picture and its tones beside a frame; the file itself is not kept."""
    found = measured(answers.digest, source(request, "file", file))
    return Status(200, found) if keep_picture(account_of(request), key, found) else Status(404, _NO_FRAME)


@router.delete("/frames/{uuid:key}/picture", response={204: None, 404: Faults}, auth=own_account)
def forget(request: HttpRequest, key: UUID) -> object:
    """Forget the picture beside a frame."""
    return Status(204, None) if forget_picture(account_of(request), key) else Status(404, _NO_PICTURE)


@router.post("/frames/specks", response={200: SpecksAnswer, 413: Faults})
def specks(request: HttpRequest, file: File[UploadedFile], settings: Form[CappedSettings]) -> dict[str, object]:
    """Hot specks of a capped frame, and from which time this body needs a dark frame; keeps nothing."""
    file_ = source(request, "file", file)
    return measured(answers.specks, file_, settings.seconds, settings.celsius, settings.next_celsius)


@router.post("/frames/leak", response={200: LeakAnswer, 413: Faults})
def leak(request: HttpRequest, closed: File[UploadedFile], opened: File[UploadedFile]) -> object:
    """Whether light comes in by the eyepiece: two capped frames, eyepiece closed and open. Keeps nothing."""
    return measured(answers.leak, source(request, "closed", closed), source(request, "opened", opened))


@router.post("/frames/card", response={200: str, 413: Faults}, openapi_extra=file_as("image/png"))
def card(
    request: HttpRequest, before: File[UploadedFile], after: File[UploadedFile], words: Form[CardWords]
) -> HttpResponse:
    """The before and after card as PNG; keeps nothing."""
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
