"""A finished frame as its lessons read it: what was on, what was set, what the light asked for, how it came out."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from ..camera.reciprocity import ReciprocityLaw
from ..filters.kind import GlassKind
from .frame import (
    Defect,
    ErrorCause,
    Frame,
    FrameConditions,
    FrameGlass,
    FrameReview,
    FrameState,
    Tasted,
    is_reckonable,
)
from .light_story import closing_error, seen_light_stops


@dataclass(frozen=True, slots=True)
class UsedGlass:
    """A glass of the frame; ``id`` is the kit's key, ``offset`` what it measured above its label then [stops]."""

    id: str | None
    name: str
    kind: GlassKind | None
    stops: float
    offset: float | None = None
    in_reading: bool = False

    @property
    def used(self) -> float:
        """What it took of the light [stops]: its label and what it measured above it."""
        return self.stops + (self.offset or 0.0)


@dataclass(frozen=True, kw_only=True, slots=True)
class FinishedFrame:
    """A finished frame. Seconds real and aimed at; ``error_stops`` [stops], + brighter than right, None not reviewed.

    ``glass`` was on for the shot, ``through`` at its metering. ``aimed_seconds`` is the time that light and wish asked
    for in the end, drift, film and bias included; ``bias_stops`` the part of it that was wished for,
    ``correction_stops`` what the frame before taught and ``correction_for`` why; ``because`` is where this one's own
    error belongs. What is None is unknown.
    """

    id: str
    opened_at: datetime
    seconds: float
    aimed_seconds: float
    planned_seconds: float
    glass: tuple[UsedGlass, ...]
    through: tuple[UsedGlass, ...] = ()
    error_stops: float | None = None
    defects: frozenset[Defect] = frozenset()
    tasted: tuple[Tasted, ...] = ()
    aborted: bool = False
    watched: bool = True
    dark: bool = False
    practice: bool = False
    trial: bool = False
    """Deliberately short, to see: neither its length nor how it came out is a mistake."""
    expected: bool = False
    """The reading was a forecast's: how the frame came out says nothing of the filter."""
    bias_stops: float = 0.0
    correction_stops: float = 0.0
    correction_for: ErrorCause | None = None
    because: ErrorCause | None = None
    seen_light_stops: float | None = None
    """What the light that a phone watched made of it [stops, + brighter]; None where none watched, or on film."""
    closing_stops: float | None = None
    """How much more (+) light the shutter let in than was aimed at; None where only the clock says it."""
    film: ReciprocityLaw | None = None
    zone: str | None = None
    """Whose clock its place has."""
    aperture: str = ""
    iso: str = ""
    base_seconds: float | None = None
    body: str | None = None
    lens: str | None = None
    focal_mm: float | None = None
    rims_mm: float | None = None
    opening_mm: float | None = None
    swell_m: float | None = None
    period_s: float | None = None
    celsius: float | None = None
    aim: tuple[float, float] | None = None

    @property
    def put_on(self) -> list[UsedGlass]:
        """What darkened the metered part after the metering: neither what stayed on nor a graduated filter."""
        return [piece for piece in self._exchanged(self.glass, self.through) if not piece.in_reading]

    @property
    def taken_off(self) -> list[UsedGlass]:
        """What was metered through and was off, or turned elsewhere, for the shot; no graduated filter."""
        return self._exchanged(self.through, self.glass)

    @staticmethod
    def _exchanged(of: Iterable[UsedGlass], others: Iterable[UsedGlass]) -> list[UsedGlass]:
        there = [(piece.id, piece.name, piece.stops) for piece in others]
        return [
            piece
            for piece in of
            if piece.kind is not GlassKind.GRADUATED and (piece.id, piece.name, piece.stops) not in there
        ]

    @property
    def timing_stops(self) -> float:
        """How much more light the shutter let in than was aimed at; film's own failure taken out."""
        if self.closing_stops is not None:
            return self.closing_stops
        metered: tuple[float, float] = (self.seconds, self.aimed_seconds)
        if self.film:
            metered = (self.film.metered(self.seconds), self.film.metered(self.aimed_seconds))
        return math.log2(metered[0] / metered[1])

    @property
    def late_stops(self) -> float:
        """The same with the sky's part in it, where a phone watched the light."""
        return self.timing_stops if self.seen_light_stops is None else self.seen_light_stops


def _seen_light(frame: Frame) -> float | None:
    # Nobody reads it of a frame that nobody has judged.
    if frame.run is None or frame.run.film is not None or frame.review is None or frame.review.error_stops is None:
        return None
    return seen_light_stops(frame)


def _used(glass: FrameGlass) -> UsedGlass:
    key = str(glass.id) if glass.id else None
    return UsedGlass(key, glass.name, glass.kind, glass.stops, glass.offset, glass.in_reading)


def finish_frame(frame: Frame) -> FinishedFrame | None:
    """Return a frame as its lessons read it; None while it runs, or where its time cannot be reckoned with."""
    seconds, aimed = frame.open_seconds, frame.aimed_seconds
    if seconds is None or not is_reckonable(seconds, aimed, frame.answer.seconds):
        return None
    run, about = frame.run, frame.conditions or FrameConditions()
    review = frame.review or FrameReview()
    start, end = about.aim_from_seconds, about.aim_to_seconds
    return FinishedFrame(
        id=str(frame.id),
        opened_at=frame.opened_at,
        seconds=seconds,
        aimed_seconds=aimed,
        planned_seconds=frame.answer.seconds,
        glass=tuple(map(_used, frame.stack)),
        through=tuple(map(_used, frame.metered_through)),
        error_stops=review.error_stops,
        defects=frozenset(review.defects),
        tasted=review.tasted,
        aborted=frame.state is FrameState.ABORTED,
        watched=run.watched if run else True,
        dark=run is not None and run.purpose == "dark",
        trial=run is not None and run.purpose == "trial",
        practice=run is not None and run.device == "simulated",
        expected=run is not None and run.expected_sd is not None,
        bias_stops=run.bias_stops if run else 0.0,
        correction_stops=run.correction_stops if run else 0.0,
        correction_for=run.correction_for if run else None,
        because=review.because,
        seen_light_stops=_seen_light(frame),
        closing_stops=error.stops if (error := closing_error(frame)) else None,
        film=run.film if run else None,
        zone=about.zone,
        aperture=frame.settings.aperture,
        iso=frame.settings.iso,
        # A frame that was only timed had no reading.
        base_seconds=None if run and run.purpose in {"timer", "stopwatch"} else frame.answer.base_seconds,
        body=str(about.body_id) if about.body_id else None,
        lens=str(about.lens_id) if about.lens_id else None,
        focal_mm=about.focal_mm,
        rims_mm=about.rims_mm,
        opening_mm=about.opening_mm,
        swell_m=about.swell_m,
        period_s=about.period_s,
        celsius=about.celsius,
        aim=None if start is None else (start, math.inf if end is None else end),
    )
