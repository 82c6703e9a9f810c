"""The simulated camera's picture: the drawn scene as bright as the frame really came out, with EXIF.

Its glass has hidden true strengths: each name is a little off its label, the same for the same seed, so that there is
something to find out.
"""

from __future__ import annotations

import random
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from jackstaff_core.motion.looks import LooksQuestion
from jackstaff_core.wire.marks import Size
from jackstaff_core.words.refusal import within
from jackstaff_imaging.frame import Taken, photograph
from jackstaff_imaging.scene import draw, exposed

HIDDEN_SD = 0.3
BODY = "Simulated camera"


@dataclass(frozen=True, slots=True)
class GlassOn:
    """A glass as the plan took it: label plus measured offset [stops]."""

    name: Annotated[str, Size(1, 60)]
    stops: float
    offset: float = 0.0


def hidden_offset(name: str, seed: int) -> float:
    """Return how much denser than its label this glass really is [stops]."""
    return random.Random(f"{seed} {name}").gauss(0, HIDDEN_SD)  # noqa: S311


def brightness(gathered_stops: float, glass: tuple[GlassOn, ...], seed: int) -> float:
    """Return the stops above a correct frame: what time and light did, less what the glass hides."""
    return gathered_stops - sum(hidden_offset(piece.name, seed) - piece.offset for piece in glass)


def picture(
    question: LooksQuestion,
    seconds: float,
    gathered_stops: float,
    glass: tuple[GlassOn, ...],
    taken: tuple[datetime, float, float],
    seed: int,
) -> bytes:
    """Return a JPEG of the frame; ``taken`` is its opening, f-number and ISO."""
    within("gathered_stops", gathered_stops, -20, 20, "stops")
    at, f_number, iso = taken
    drawn = draw(exposed(question, seconds), 960, 640, seed)
    stops = brightness(gathered_stops, glass, seed)
    return photograph(drawn, stops, Taken(at, seconds, f_number, iso, BODY))
