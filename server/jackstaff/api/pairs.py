"""Frame pairs: what a glass does, measured from a bare and a filtered JPEG. Works signed out and keeps nothing."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import File, Form, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from jackstaff_imaging import answers

from .refusals import Faults
from .uploads import measured, source
from .wired import as_answer

router = Router(tags=["pairs"])

Written = Annotated[str, Field(max_length=24)]


class PairSettings(Schema):
    """Settings typed where EXIF has none; what is typed wins."""

    bare_shutter: Written = ""
    bare_aperture: Written = ""
    bare_iso: Written = ""
    filtered_shutter: Written = ""
    filtered_aperture: Written = ""
    filtered_iso: Written = ""


@router.post("/frames/pair", response={200: as_answer(answers.PairMeasured), 413: Faults})
def pair(
    request: HttpRequest,
    bare: File[UploadedFile],
    filtered: File[UploadedFile],
    settings: Form[PairSettings],
    after: File[UploadedFile | None] = None,
    bracket: File[list[UploadedFile] | None] = None,
) -> object:
    """Return the strength, cast and corner falloff of a glass from two frames.

    ``after`` is a second bare one against drift.

    ``bracket``: more bare frames of other exposures, with which the camera's tone curve does not matter.
    """
    return measured(
        answers.pair,
        source(request, "bare", bare),
        source(request, "filtered", filtered),
        settings.dict(),
        source(request, "after", after) if after is not None else None,
        [source(request, f"bracket.{place}", file) for place, file in enumerate(bracket or [])],
    )
