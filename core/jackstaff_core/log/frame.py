"""A frame as it is kept, sent and written to files: what was metered, set and on, what happened, what was said of it.

One type for the browser, the database and the files, version ``VERSION``. It is validated strictly when it is written;
whoever reads what an earlier day wrote catches the refusal and shows the frame as it stands.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Annotated, Literal
from uuid import UUID

from ..camera.reciprocity import LawGiven
from ..exposure.calculation import Counting, SumStep
from ..exposure.timing_error import TimingError, timing_error
from ..filters.kind import GlassKind
from ..filters.on_lens import MOST_GLASSES
from ..moving_light.fusion import KEPT_LOOKS, Looked
from ..scales.ladders import LONGEST_DIAL, LONGEST_SECONDS, SHORTEST_DIAL, SHORTEST_SECONDS, Step
from ..sky.cover import Sky
from ..stacks.finder import GlassStops
from ..wire.marks import Between, Inline, Size, Was
from ..words.refusal import Refusal

VERSION = 2
"""1, which is read as well, said ``came_out`` and ``seen`` of a review, and ``steady`` of a run's server clock."""

Seconds = Annotated[float, Between(0, LONGEST_SECONDS * 2, "s", above=True)]
Mark = Annotated[str, Size(0, 24)]
Name = Annotated[str, Size(0, 60)]
Ev = Annotated[float, Between(-20, 25, "EV")]


class FrameState(StrEnum):
    """Whether a frame is being exposed, was ended, or was broken off."""

    OPEN = "open"
    CLOSED = "closed"
    ABORTED = "aborted"


class ClosedBy(StrEnum):
    """Whether a hand ended the frame, or the camera did at the mark."""

    HAND = "hand"
    MARK = "mark"


class EventKind(StrEnum):
    """What can happen to a running exposure."""

    OPENED = "opened"
    SHIFTED = "shifted"
    CLOSED = "closed"
    TAKEN_BACK = "taken_back"
    ABORTED = "aborted"
    REREAD = "reread"
    EXTENDED = "extended"
    CUT = "cut"
    AIMED = "aimed"
    CORRECTED = "corrected"


class ErrorCause(StrEnum):
    """Where a person says that an error of exposure belongs."""

    SCENE = "scene"
    FILTER = "filter"
    TASTE = "taste"


class Defect(StrEnum):
    """What one may find in a frame when looking closely."""

    CORNER = "corner"
    CROSS = "cross"
    CAST = "cast"
    LEAK = "leak"
    SPECKS = "specks"
    SHAKE = "shake"
    LEAVES = "leaves"
    GHOSTS = "ghosts"
    CLIPPED = "clipped"
    WATERLINE = "waterline"


class Fit(StrEnum):
    """Whether the time suited a look."""

    RIGHT = "right"
    SHORT = "short"
    LONG = "long"


@dataclass(frozen=True, slots=True)
class FrameReading:
    """What was metered: a camera's settings or a hand meter's EV, when, and through what."""

    shutter: Mark | None = None
    aperture: Mark | None = None
    iso: Mark | None = None
    ev100: Ev | None = None
    step: Step = Step.THIRD
    metered_at: datetime | None = None
    through: Annotated[tuple[FrameGlass, ...], Size(0, MOST_GLASSES)] | None = None
    """What was on the lens then, each with its turn; None in a frame of an earlier day, whose stack says it."""


@dataclass(frozen=True, slots=True)
class FrameSettings:
    """Aperture and ISO that the frame was taken at, as they stand on the dials."""

    aperture: Mark
    iso: Mark


@dataclass(frozen=True, slots=True)
class FrameGlass:
    """A glass that was on; ``id`` and ``kind`` say which of the kit it was, where that is known.

    ``stops`` of a variable is what it was turned to; ``in_reading`` whether it was on at metering, as it was here.
    """

    name: Annotated[str, Size(1, 60)]
    stops: GlassStops
    offset: Annotated[float, Between(-10, 10, "stops")] | None = None
    in_reading: bool = False
    id: UUID | None = None
    kind: GlassKind | None = None


@dataclass(frozen=True, slots=True)
class FrameSum:
    """The answer as it stood when the frame was armed."""

    seconds: Seconds
    set_seconds: Seconds
    base_seconds: Seconds
    sure_within_stops: Annotated[float, Between(0, 60, "stops")]
    steps: Annotated[tuple[SumStep, ...], Size(0, 40)]
    dial_mark: Mark | None = None


MOST_EVENT = 1e12
"""A clock may be out by years and its frame is kept; beyond this no arithmetic holds [s]."""
MOST_COUNT = 1e10
"""No machine counts its seconds for longer [s]."""


@dataclass(frozen=True, slots=True)
class FrameEvent:
    """Something that happened to a running exposure; ``seconds`` is what it changed, in its kind's own unit."""

    id: UUID
    at: datetime
    kind: EventKind
    seconds: Annotated[float, Between(-MOST_EVENT, MOST_EVENT, "s")] | None = None


@dataclass(frozen=True, slots=True)
class Reread:
    """A reading during the run [stops against the metering], seconds from the opening.

    ``believed`` is what was said where it stood against a watching phone; None where nobody was asked, or has said.
    """

    at_seconds: Annotated[float, Between(-MOST_EVENT, MOST_EVENT, "s")]
    stops: Annotated[float, Between(-40, 40, "stops")]
    believed: bool | None = None


@dataclass(frozen=True, slots=True)
class ServerClock:
    """The server's own count at the opening, which lives through reloads and changed clocks."""

    seconds: Annotated[float, Between(-MOST_COUNT, MOST_COUNT, "s")]
    count: Mark


@dataclass(frozen=True, slots=True)
class FrameRun:
    """What the clock of a frame needs beside its plan.

    ``uncertain_seconds`` is how well opening and closing are known: a press by hand is 0.2 s, a device 0.05 s;
    ``watched`` false when nothing lived through it. ``speed`` above 1 is practice on a sped-up clock. ``closes`` is
    who closes it in bulb: a hand, or the camera at the mark.
    """

    metered_seconds: Seconds
    film: LawGiven | None = None
    stops_per_minute: Annotated[float, Between(-30, 30, "stops a minute")] | None = None
    rate_sd: Annotated[float, Between(0, 5, "stops a minute")] | None = None
    delay_seconds: Annotated[float, Between(0, LONGEST_SECONDS, "s")] = 0.0
    moved_stops: Annotated[float, Between(-40, 40, "stops")] | None = None
    """How far the light was known to have moved from the metering to the opening, from the frame before; instead of
    rate and delay.
    """
    looks: Annotated[tuple[Looked, ...], Size(0, KEPT_LOOKS)] = ()
    """What a watching phone saw of the light, from before the opening on; never a picture."""
    rereads: Annotated[tuple[Reread, ...], Size(0, 200)] = ()
    bias_stops: Annotated[float, Between(-10, 10, "stops")] = 0.0
    device: Literal["hand", "simulated"] = "hand"
    speed: Annotated[float, Between(1, 1000)] = 1.0
    purpose: Literal["frame", "rehearsal", "dark", "series", "timer", "stopwatch", "trial"] = "frame"
    """A timer's time was worked out elsewhere; a stopwatch runs until it is closed, and that is its time; a trial is
    shorter than the sum, to see: how it comes out is scaled up.
    """
    server_clock: Annotated[ServerClock | None, Was("steady")] = None
    closes: Literal["hand", "mark"] | None = None
    uncertain_seconds: Annotated[float, Between(0, LONGEST_SECONDS, "s")] = 0.2
    watched: bool = True
    busy_until: datetime | None = None
    expected_sd: Annotated[float, Between(0, 10, "stops")] | None = None
    """Sd of a forecast that stood in for the reading; None where somebody metered."""
    correction_stops: Annotated[float, Between(-10, 10, "stops")] = 0.0
    """How much longer (+) the sum is for how the frame before came out, and why that was."""
    correction_for: ErrorCause | None = None
    purpose_stops: Annotated[float, Between(-5, 5, "stops")] = 0.0
    """How much brighter (+) than the meter's grey it was meant to be; how it came out is said beside that."""


@dataclass(frozen=True, slots=True)
class FrameConditions:
    """What it was like, filled in from bench and outing. Everything may be unknown."""

    place: Name | None = None
    zone: Annotated[str, Size(1, 64)] | None = None
    """Of the place, such as Europe/Oslo: its clock is the one that times are read on."""
    body: Name | None = None
    lens: Name | None = None
    body_id: UUID | None = None
    lens_id: UUID | None = None
    focal_mm: Annotated[float, Between(1, 3000, "mm")] | None = None
    rims_mm: Annotated[float, Between(0, 300, "mm")] | None = None
    opening_mm: Annotated[float, Between(5, 300, "mm")] | None = None
    pitch_deg: Annotated[float, Between(-90, 90, "degrees")] | None = None
    ev100: Ev | None = None
    sky: Sky | None = None
    swell_m: Annotated[float, Between(0, 20, "m")] | None = None
    period_s: Annotated[float, Between(0.3, 30, "s")] | None = None
    wind_m_s: Annotated[float, Between(0, 60, "m/s")] | None = None
    celsius: Annotated[float, Between(-40, 50, "degrees")] | None = None
    kelvin: Annotated[float, Between(1500, 25_000, "K")] | None = None
    """What white balance was set to on the camera."""
    monochrome: bool | None = None
    """Meant for black and white."""
    aim_from_seconds: Seconds | None = None
    aim_to_seconds: Seconds | None = None


@dataclass(frozen=True, slots=True)
class Tasted:
    """What a person said of one look: this time was right, too short or too long for it."""

    kind: Annotated[str, Size(1, 12)]
    look: Annotated[str, Size(1, 40)]
    fit: Fit


@dataclass(frozen=True, slots=True)
class FrameReview:
    """The exposure error somebody saw [stops, + brighter than right], where it belongs, and the defects."""

    error_stops: Annotated[float | None, Between(-5, 5, "stops"), Was("came_out")] = None
    defects: Annotated[tuple[Defect, ...], Size(0, len(Defect)), Was("seen")] = ()
    tasted: Annotated[tuple[Tasted, ...], Size(0, 10)] = ()
    because: ErrorCause | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Frame:
    """A frame as the client keeps it."""

    id: UUID
    state: FrameState
    opened_at: datetime
    closed_at: datetime | None = None
    closed_by: ClosedBy | None = None
    note: Annotated[str, Size(0, 2000)] = ""
    reading: FrameReading
    settings: FrameSettings
    stack: Annotated[tuple[FrameGlass, ...], Size(0, MOST_GLASSES)]
    scale: Counting
    dial_limit: Annotated[float, Between(SHORTEST_DIAL, LONGEST_DIAL, "s")]
    answer: FrameSum
    run: FrameRun | None = None
    events: Annotated[tuple[FrameEvent, ...], Size(0, 500)]
    conditions: FrameConditions | None = None
    review: FrameReview | None = None

    def __post_init__(self) -> None:
        if (self.state is FrameState.OPEN) != (self.closed_at is None):
            raise Refusal("closed_at", "An open frame has no closing time, an ended one has.", "Correct one of them.")
        if self.closed_at and self.closed_at < self.opened_at:
            raise Refusal("closed_at", "A frame cannot close before it opens.", "Give the later time as closed_at.")

    @property
    def open_seconds(self) -> float | None:
        """How long the shutter was open by the run's own clock [s], None while it is."""
        if self.closed_at is None:
            return None
        return (self.closed_at - self.opened_at).total_seconds() * (self.run.speed if self.run else 1.0)

    @property
    def metered_through(self) -> tuple[FrameGlass, ...]:
        """What was on the lens at metering."""
        if self.reading.through is not None:
            return self.reading.through
        return tuple(glass for glass in self.stack if glass.in_reading)

    @property
    def aimed_seconds(self) -> float:
        """The time that was aimed at in the end [s]: the last one that moving light or a wish asked for."""
        return last_aim(((event.kind, event.seconds) for event in self.events), self.answer.seconds)


def last_aim(events: Iterable[tuple[str, float | None]], planned_seconds: float) -> float:
    """Return the time [s] that was aimed at last among what happened; the planned one where nothing moved it."""
    aims = [seconds for kind, seconds in events if kind == EventKind.AIMED and seconds]
    return aims[-1] if aims else planned_seconds


def timing_of(aimed_seconds: float, open_seconds: float | None) -> TimingError | None:
    """Return how a real time compares with the one aimed at; None where either cannot be reckoned with.

    Parameters
    ----------
    aimed_seconds : float
        What the light asked for in the end [s].
    open_seconds : float | None
        How long it really was open [s]; None where nobody knows.
    """
    if open_seconds is None or not is_reckonable(open_seconds, aimed_seconds):
        return None
    return timing_error(aimed_seconds, open_seconds)


def is_reckonable(*seconds: float) -> bool:
    """Return whether these times are ones the core works with."""
    return all(SHORTEST_SECONDS <= second <= LONGEST_SECONDS for second in seconds)


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameKept:
    """A frame as the log shows it, with what the clock says, and whether a picture is kept beside it.

    ``refused`` says why today's rules would not take a frame that was kept by those of another day: it is shown, and
    counts in no lesson.
    """

    frame: Annotated[Frame, Inline()]
    actual_seconds: float | None
    error: TimingError | None
    pictured: bool
    refused: str | None = None
