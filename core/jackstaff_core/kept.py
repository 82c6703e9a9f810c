"""A finished frame as its lessons read it: what was on, what was set, what the light asked for, how it came out."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from .film import FilmLaw
from .finder import GlassKind


class Seen(StrEnum):
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
class GlassWas:
    """A glass of the frame; ``id`` is the kit's key, ``offset`` what it measured above its label then [stops]."""

    id: str | None
    name: str
    kind: GlassKind | None
    stops: float
    offset: float | None = None
    in_reading: bool = False

    @property
    def used(self) -> float:
        return self.stops + (self.offset or 0.0)


@dataclass(frozen=True, slots=True)
class Tasted:
    """What a person said of one look: this time was right, too short or too long for it."""

    kind: str
    look: str
    fit: Fit


@dataclass(frozen=True, kw_only=True, slots=True)
class FrameWas:
    """A finished frame. Seconds real and aimed at; ``came_out`` [stops], + brighter than right, None not reviewed.

    ``aimed_seconds`` is the time that light and wish asked for in the end, drift, film and bias included;
    ``bias_stops`` the part of it that was wished for. What is None is unknown.
    """

    id: str
    opened_at: datetime
    seconds: float
    aimed_seconds: float
    planned_seconds: float
    glass: tuple[GlassWas, ...]
    came_out: float | None = None
    seen: frozenset[Seen] = frozenset()
    tasted: tuple[Tasted, ...] = ()
    aborted: bool = False
    watched: bool = True
    dark: bool = False
    practice: bool = False
    bias_stops: float = 0.0
    film: FilmLaw | None = None
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
    def late_stops(self) -> float:
        """How much more light the shutter let in than was aimed at; film's own failure taken out."""
        metered: tuple[float, float] = (self.seconds, self.aimed_seconds)
        if self.film:
            metered = (self.film.metered(self.seconds), self.film.metered(self.aimed_seconds))
        return math.log2(metered[0] / metered[1])
