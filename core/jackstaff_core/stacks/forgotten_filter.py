"""Is the filter really off? A camera's reading against a phone that was matched with it once.

    scene EV by the camera = reading's EV at ISO 100 + stops of what it was metered through
    match = that EV - the phone's light, once, with nothing forgotten; later  off = EV - (phone + match)

Camera and phone frame the scene differently (0.3), the phone's curve is its own (0.2), a reading is read to a third
(0.1): sd 0.4 stop. Off by more than 2 sd is asked about; the filters whose strength is within 2 sd of it are named.

Source: ours. Limits: a phone that tells its exposure; one scene, both pointed at it; filters under a stop do not show.
Verdict: estimate; a question, never a finding.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from ..wire.marks import Size
from ..words.advice import Advice, Severity
from ..words.refusal import within
from .finder import GlassStops

SD = 0.4
MOST_NAMED = 3


@dataclass(frozen=True, slots=True)
class BagGlass:
    """A filter that could be on."""

    name: Annotated[str, Size(1, 60)]
    stops: GlassStops


@dataclass(frozen=True, slots=True)
class Matched:
    """``match`` is what the phone is matched by from now on [stops]; ``off_stops`` against an earlier match."""

    match: float
    off_stops: float | None
    sd: float
    advice: Advice | None


def compare(
    scene_ev: float, phone_stops: float, matched: float | None = None, glass: Sequence[BagGlass] = ()
) -> Matched:
    """Compare a camera's scene EV at ISO 100 with a phone's light [stops, up to its constant].

    Parameters
    ----------
    scene_ev : float
        By the camera, with the stops it was metered through put back [EV at ISO 100].
    phone_stops : float
        By the phone, up to its own constant, -60 to 60 [stops].
    matched : float | None
        What camera minus phone was when both were known to be right, -80 to 80 [stops]; None before.
    glass : Sequence[BagGlass]
        Of the bag, which may have been forgotten on the lens.

    Raises
    ------
    Refusal
        Light or match out of bounds.
    """
    within("phone_stops", phone_stops, -60, 60, "stops")
    match = scene_ev - phone_stops
    if matched is None:
        return Matched(match, None, SD, None)
    off = match - within("matched", matched, -80, 80, "stops")
    return Matched(match, off, SD, _asked(off, glass))


def _asked(off: float, glass: Sequence[BagGlass]) -> Advice | None:
    if abs(off) <= 2 * SD:
        return None
    if off > 0:
        return Advice(
            "phone_sees_less",
            Severity.CAUTION,
            f"Your camera sees {off:.1f} stops more than the phone expects (give or take {2 * SD:.1f}). Is a filter"
            " counted as on while metering that was off, or does something cover the phone?",
            {"stops": off},
        )
    likely = sorted((each for each in glass if abs(each.stops + off) <= 2 * SD), key=lambda each: abs(each.stops + off))
    named = " or ".join(each.name for each in likely[:MOST_NAMED])
    which = f"Is {named} still on" if named else "Is something still on the lens, or was the aperture touched"
    return Advice(
        "filter_still_on",
        Severity.CAUTION,
        f"Your camera sees {-off:.1f} stops less than the phone (give or take {2 * SD:.1f}). {which}?",
        {"stops": off},
    )
