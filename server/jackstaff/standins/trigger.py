"""A simulated trigger on a simulated camera, and the protocol that a real one could implement.

The stand-in holds no state: what opened when is the run's own record, so neither a restart of the server nor a reload
of the page can lose it. It can be told to fail in the ways real ones do; each failure names the line of the arm list
that would have caught it.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from typing import Protocol

from jackstaff_core.run.checklist import LINE_OF
from jackstaff_core.words.refusal import within

BATTERY_LASTS = 0.7
"""The share of the planned time after which a failing battery ends the frame."""


class Trouble(StrEnum):
    """What the simulated device is told to fail at."""

    NONE = "none"
    NO_ANSWER = "no_answer"
    NOT_BULB = "not_bulb"
    DRIVE = "drive"
    ELECTRONIC_SHUTTER = "electronic_shutter"
    BATTERY = "battery"


_SAID = {
    Trouble.NO_ANSWER: "The remote does not answer.",
    Trouble.NOT_BULB: "The camera is not in bulb, so the trigger will not open it.",
    Trouble.DRIVE: "The drive is not on single frame.",
    Trouble.ELECTRONIC_SHUTTER: "The shutter is electronic: it has no bulb.",
}
_CURE = {
    Trouble.NO_ANSWER: "Check that the remote is in and awake, then open again.",
    Trouble.NOT_BULB: "Set bulb, then open again.",
    Trouble.DRIVE: "Set single frame, then open again.",
    Trouble.ELECTRONIC_SHUTTER: "Set the mechanical shutter, then open again.",
}


@dataclass(frozen=True, slots=True)
class Device:
    """What the stand-in is: press to shutter [s], the longest time it holds [s], whether the camera reduces noise."""

    latency_s: float = 0.12
    ceiling_s: float | None = None
    noise_reduction: bool = False
    fault: Trouble = Trouble.NONE

    def __post_init__(self) -> None:
        within("latency_s", self.latency_s, 0, 10, "s")
        if self.ceiling_s is not None:
            within("ceiling_s", self.ceiling_s, 1, 86_400, "s")


@dataclass(frozen=True, slots=True)
class Failure:
    """Why a device did not do it, what to do, and which line of the arm list it belongs to."""

    code: str
    text: str
    line: str


@dataclass(frozen=True, slots=True)
class Opened:
    """When the shutter really opened; ``failure`` and no instant when it did not."""

    at: datetime | None
    failure: Failure | None = None
    simulated: bool = True


@dataclass(frozen=True, slots=True)
class Closed:
    """When it really closed, what ended it (asked, ceiling, battery), and until when the camera is busy."""

    at: datetime
    ended_by: str
    busy_until: datetime
    failure: Failure | None = None
    simulated: bool = True


class Trigger(Protocol):
    """What a device that opens and closes a shutter does."""

    def open(self, pressed_at: datetime) -> Opened:
        """Press at an instant."""
        ...

    def close(self, opened_at: datetime, planned_seconds: float, asked_at: datetime) -> Closed:
        """Let go at an instant, or hear what ended the frame before."""
        ...


class SimulatedTrigger:
    """The stand-in that ships."""

    def __init__(self, device: Device, bulb: bool) -> None:
        self.device, self.bulb = device, bulb

    def open(self, pressed_at: datetime) -> Opened:
        """Open the shutter after the device's delay, unless it was told to fail."""
        fault = self.device.fault
        if fault in _SAID and not (fault is Trouble.NOT_BULB and not self.bulb):
            return Opened(None, Failure(fault, f"{_SAID[fault]} {_CURE[fault]}", LINE_OF[fault]))
        return Opened(pressed_at + timedelta(seconds=self.device.latency_s))

    def close(self, opened_at: datetime, planned_seconds: float, asked_at: datetime) -> Closed:
        """Close the shutter at once when let go: a press takes as long to arrive as it did at the opening."""
        within("planned_seconds", planned_seconds, 1e-5, 86_400, "s")
        ends = [(max(asked_at, opened_at), "asked")]
        if self.device.ceiling_s is not None:
            ends.append((opened_at + timedelta(seconds=self.device.ceiling_s), "ceiling"))
        if self.device.fault is Trouble.BATTERY:
            ends.append((opened_at + timedelta(seconds=planned_seconds * BATTERY_LASTS), "battery"))
        at, ended_by = min(ends)
        open_for = at - opened_at
        busy = at + (open_for if self.device.noise_reduction else timedelta(0))
        return Closed(at, ended_by, busy, _ended(ended_by, open_for))


def _ended(by: str, open_for: timedelta) -> Failure | None:
    elapsed = f"{open_for.total_seconds():.0f} s"
    if by == "battery":
        return Failure("battery", f"The battery gave out after {elapsed}. Put a full one in.", LINE_OF["battery"])
    if by == "ceiling":
        return Failure("ceiling", f"The trigger let go at its longest time, {elapsed}.", "remote")
    return None
