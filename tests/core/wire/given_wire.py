"""Records with every mark there is, for the tests of reader and schema."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum
from typing import Annotated, Literal
from uuid import UUID

from jackstaff_core.camera.reading import Given
from jackstaff_core.camera.reciprocity import LawGiven
from jackstaff_core.gear.things import Glass
from jackstaff_core.wire.marks import Between, Checked, Inline, Matches, Named, Size, Was
from jackstaff_core.words.refusal import Refusal


class Tone(StrEnum):
    LOW = "low"
    HIGH = "high"


def _even(count: int) -> None:
    if count % 2:
        raise Refusal("", "It is odd.", "Give an even one.")


@dataclass(frozen=True, slots=True)
class Spot:
    north: Annotated[float, Between(-90, 90, "degrees")]

    def __post_init__(self) -> None:
        if self.north == 13:
            raise Refusal("north", "Nobody goes there.", "Go elsewhere.")


@dataclass(frozen=True, slots=True)
class Asked:
    spot: Annotated[Spot, Inline()]
    count: Annotated[int, Between(0, 8), Checked(_even)]
    at: datetime
    kind: Annotated[Tone, Named("float")] = Tone.LOW
    dial: Given | None = None
    above: Annotated[float, Between(0, 5, "s", above=True)] | None = None
    words: Annotated[tuple[Annotated[str, Size(1, 3)], ...], Size(0, 2)] = ()
    pair: tuple[float, float] | None = None
    day: date | None = None
    key: UUID | None = None
    side: Literal["left", "right"] | None = None
    clock: Annotated[str, Matches(r"\d\d:\d\d", "Give hours and minutes.")] | None = None
    film: LawGiven | None = None
    glass: Glass | None = None
    codes: frozenset[Tone] = frozenset()
    by_name: float | dict[str, float] | None = None
    flag: bool = False
    colour: Annotated[str | None, Size(1, 5), Was("hue")] = None
