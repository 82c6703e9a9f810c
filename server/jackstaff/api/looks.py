"""Looks: from what should blur to a time window, what a time does to each subject, and a drawing of it."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import ConfigDict, Field, ValidationError, model_validator

from jackstaff_core.looks import MOST_SUBJECTS, Looks, LooksQuestion, OwnLook, Seen, Want, looks, looks_at
from jackstaff_core.refusal import Refusal
from jackstaff_core.subjects import Camera, Subject
from jackstaff_imaging.scene import draw, exposed, jpeg

from .asked import Asked, Number, Text
from .bench import AdviceAnswer

router = Router(tags=["looks"])


class CameraAsked(Asked):
    focal_mm: Number
    sensor_width_mm: Number = 36.0
    pitch_um: Number = 4.35
    elevation_deg: Number = 0.0
    bearing_deg: Number = 0.0


class SubjectAsked(Asked):
    """Its kind, and what is known of it; which facts a kind takes is the core's business."""

    model_config = ConfigDict(extra="allow")

    kind: Text
    id: Text | None = None

    def given(self) -> Subject:
        """As the core takes it."""
        return Subject(self.kind, dict(self.model_extra or {}), self.id)


class WantAsked(Asked):
    kind: Text
    look: Text


class OwnLookAsked(Asked):
    """A look of one's own: from where to where in the kind's measure (waves, share of the frame, contrast ...)."""

    kind: Text
    look: Text
    low: Annotated[Number, Field(ge=0)]
    high: Annotated[Number, Field(ge=0)] | None = None

    @model_validator(mode="after")
    def _rises(self) -> OwnLookAsked:
        if self.high is not None and self.high <= self.low:
            raise ValueError("a look ends after it begins")
        return self


class SceneAsked(Asked):
    camera: CameraAsked
    subjects: Annotated[list[SubjectAsked], Field(max_length=MOST_SUBJECTS)]

    def given(self, wants: list[WantAsked], own: list[OwnLookAsked]) -> LooksQuestion:
        """As the core takes it."""
        return LooksQuestion(
            Camera(**dict(self.camera)),
            tuple(subject.given() for subject in self.subjects),
            tuple(Want(**dict(want)) for want in wants),
            tuple(OwnLook(**dict(look)) for look in own),
        )


class LooksAsked(SceneAsked):
    wants: Annotated[list[WantAsked], Field(max_length=MOST_SUBJECTS)] = []
    own: Annotated[list[OwnLookAsked], Field(max_length=24)] = []


class AtAsked(SceneAsked):
    seconds: Number
    wants: Annotated[list[WantAsked], Field(max_length=MOST_SUBJECTS)] = []


class DrawingAsked(Schema):
    question: Annotated[str, Field(max_length=6000)]
    width: Annotated[int, Field(ge=200, le=1600)] = 960
    seed: Annotated[int, Field(ge=0, le=1_000_000)] = 7


class WindowAnswer(Schema):
    kind: str
    look: str
    from_seconds: Number | None
    to_seconds: Number | None
    status: str
    id: str | None


class AimAnswer(Schema):
    from_seconds: Number
    to_seconds: Number | None
    middle_seconds: Number
    half_stops: Number


class BlendFrameAnswer(Schema):
    from_seconds: Number
    to_seconds: Number | None
    kinds: list[str]


class WantAnswer(Schema):
    kind: str
    look: str


class ConflictAnswer(Schema):
    text: str
    wants: list[WantAnswer]
    frames: list[BlendFrameAnswer]


class LooksAnswer(Schema):
    windows: list[WindowAnswer]
    aim: AimAnswer | None
    conflict: ConflictAnswer | None
    advice: list[AdviceAnswer]


class SeenAnswer(Schema):
    kind: str
    look: str
    status: str
    text: str
    id: str | None = None
    streak_share: Number | None = None
    residual_texture: Number | None = None
    body_contrast: Number | None = None
    feet_contrast: Number | None = None
    veil: Number | None = None
    veil_texture: Number | None = None
    standing_ghosts: Number | None = None
    worst_seconds: Number | None = None
    blur_share: Number | None = None
    blur_px: Number | None = None
    trail_px: Number | None = None
    trail_stops: Number | None = None
    rise_m: Number | None = None
    turns: Number | None = None


class AtAnswer(Schema):
    subjects: list[SeenAnswer]


@router.post("/looks", response=LooksAnswer)
def windows(request: HttpRequest, question: LooksAsked) -> Looks:
    """The window of times of each look of each subject, and the aim where the wishes meet, or their conflict."""
    return looks(question.given(question.wants, question.own))


@router.post("/looks/at", response=AtAnswer, exclude_none=True)
def at(request: HttpRequest, question: AtAsked) -> dict[str, tuple[Seen, ...]]:
    """What one time does to each subject, in their order."""
    return {"subjects": looks_at(question.given(question.wants, []), question.seconds)}


@router.get("/looks/drawing", response={200: bytes})
def drawing(request: HttpRequest, asked: Query[DrawingAsked]) -> HttpResponse:
    """The made-up scene as that time would draw it, as a JPEG. ``question`` is the JSON of /looks/at."""
    try:
        question = AtAsked.model_validate_json(asked.question)
    except ValidationError:
        raise Refusal("question", "This is no question of /looks/at.", "Give its JSON as text.") from None
    picture = draw(exposed(question.given([], []), question.seconds), asked.width, asked.width * 2 // 3, asked.seed)
    answer = HttpResponse(jpeg(picture), content_type="image/jpeg")
    # The same question draws the same picture.
    answer["Cache-Control"] = "public, max-age=86400, immutable"
    return answer
