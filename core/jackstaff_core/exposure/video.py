"""Holding a video shutter through a variable glass while the light changes.

The ring must cover the change: reachable if weak end <= setting now + change <= usable end.
Limits: the ring's even scale.
Source: definition of the stop; the usable end after filters/polarisers.py. Verdict: computed on the user's range.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..words.refusal import Refusal, within


@dataclass(frozen=True, slots=True)
class VideoQuestion:
    """All in stops; ``change_stops`` is + when the light rises."""

    setting_stops: float
    change_stops: float
    weak_end: float
    usable_end: float


@dataclass(frozen=True, slots=True)
class Held:
    """``turn_to`` is the setting needed; ``short_stops`` what the ring lacks, and on which side it stops."""

    held: bool
    turn_to: float
    short_stops: float
    side: str | None
    room_brighter: float
    room_darker: float


def follow_with_ring(question: VideoQuestion) -> Held:
    """Return whether the ring can follow the light.

    Raises
    ------
    Refusal
        A setting that is not on the ring.
    """
    low = within("weak_end", question.weak_end, 0, 30, "stops")
    high = within("usable_end", question.usable_end, 0, 30, "stops")
    if not low <= question.setting_stops <= high:
        raise Refusal(
            "setting_stops", "The ring is not set within its usable range.", f"Give {low:g} to {high:g} stops."
        )
    wanted = question.setting_stops + within("change_stops", question.change_stops, -20, 20, "stops")
    turned = min(max(wanted, low), high)
    side = None if wanted == turned else "dense" if wanted > high else "weak"
    return Held(
        side is None, turned, abs(wanted - turned), side, high - question.setting_stops, question.setting_stops - low
    )
