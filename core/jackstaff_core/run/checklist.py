"""The arm list: what hands do before the shutter opens, grown from this body, lens, stack and place.

At most seven lines in the order of the hands; each says what to do and why in a few words. Lines about harm to people
cannot be folded away. Device failures name the line they belong to (``LINE_OF``). Sources: practice; sun position
from sky/sun_and_moon.py, battery from gear/budget.py. Limits: what the kit says of itself; an unknown fact gives no
line, but an unknown eyepiece, sun or place counts as the careful one. Verdict: a list; the battery's share is an
estimate.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from enum import Enum
from typing import Annotated

from ..camera.reading import Given, iso
from ..exposure.calculation import STRAY_LIGHT_STOPS, needs_sun_caution
from ..filters.kind import GlassKind
from ..filters.on_lens import MOST_GLASSES
from ..gear.budget import derate
from ..gear.things import Body, Glass, Holder, Lens, Release, Support, strength
from ..scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS, Step, iso_marks
from ..scales.spoken import time_in_words
from ..stacks.rules import On
from ..wire.marks import Between, Named, Size
from ..words.advice import Severity
from ..words.refusal import within

WINDY_M_S = 6.0
STRAP_FROM_SECONDS = 60.0
"""From here on a strap has time to swing, whatever the wind."""
COVER_FROM_STOPS = 6.0
REHEARSE_FROM_SECONDS = 240.0
REHEARSE_ISO = 12_800.0
BATTERY_ASK = 0.5
"""A frame that takes more than this share of a full battery is asked about."""
BATTERY_RESERVE = 0.9
"""A battery is not counted on to its last drop."""
SHAKY_BELOW_SECONDS = 1 / 15
FEET_BELOW_MM, FULL_DIAGONAL_MM = 20.0, math.hypot(36, 24)
"""Wider than this, for a picture of 24 x 36 mm, tripod feet come into the picture."""
REHEARSAL_LEAST_STOPS = 2.0
"""A rehearsal that is not this much shorter is the frame itself."""

LINE_OF = {
    "no_answer": "remote",
    "not_bulb": "camera",
    "drive": "camera",
    "electronic_shutter": "camera",
    "battery": "remote",
    "noise_reduction": "camera",
}
"""Which line of the list a failing trigger or camera points at."""


@dataclass(frozen=True, slots=True)
class Armed:
    """What is about to be exposed, by the facts of kit items. What is None is unknown.

    ``noise_reduction`` as decided, ``battery_share`` what was left in the battery (0 to 1) when somebody looked, and
    ``open_since_seconds`` how long the shutter stood open since, noise reduction counted; ``upright`` when the camera
    was turned upright after the polariser was set. ``iso`` is the frame's own; ``releases`` how many there are to
    choose from while none is chosen; ``burst`` how many frames the camera's own bracketing takes at one press.
    """

    seconds: float
    bulb: bool
    stack: Annotated[tuple[On, ...], Named("glass"), Size(0, MOST_GLASSES)] = ()
    body: Body | None = None
    lens: Lens | None = None
    holder: Holder | None = None
    support: Support | None = None
    release: Release | None = None
    noise_reduction: bool | None = None
    wind_m_s: float | None = None
    celsius: float | None = None
    battery_share: float | None = None
    open_since_seconds: float = 0.0
    upright: bool = False
    focal_mm: Annotated[float, Between(1, 3000, "mm")] | None = None
    iso: Given | None = None
    releases: Annotated[int, Between(0, 1000)] = 0
    burst: Annotated[int, Between(0, 60)] = 0


class Sun(Enum):
    """Where the sun is, as far as hands and eyes are concerned."""

    DOWN = "down"
    UNKNOWN = "nobody said where"
    UP = "up, outside the picture"
    IN_PICTURE = "in the picture"


@dataclass(frozen=True, slots=True)
class CheckLine:
    """``habit`` lines may be folded away once they sit; lines of harm never."""

    code: str
    text: str
    why: str
    severity: Severity
    habit: bool


@dataclass(frozen=True, slots=True)
class Rehearsal:
    """The same frame at a high ISO, glass on: its ISO mark and time [s]."""

    iso: str
    seconds: float
    why: str


@dataclass(frozen=True, slots=True)
class Checklist:
    """``battery_takes`` is the share of a full battery the frame takes, ``battery_left`` what is in it before."""

    lines: tuple[CheckLine, ...]
    rehearsal: Rehearsal | None
    battery_takes: float | None
    battery_left: float | None


def arm(question: Armed, sun: Sun = Sun.UNKNOWN) -> Checklist:
    """Return the list for this frame.

    Raises
    ------
    Refusal
        A time, wind, temperature or battery out of bounds.
    """
    within("seconds", question.seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    if question.wind_m_s is not None:
        within("wind_m_s", question.wind_m_s, 0, 60, "m/s")
    if question.battery_share is not None:
        within("battery_share", question.battery_share, 0, 1, "of a full battery")
    within("open_since_seconds", question.open_since_seconds, 0, 7 * LONGEST_SECONDS, "s")
    lines = (*_sun(question, sun), *(line for rule in _RULES for line in rule(question)))
    return Checklist(lines, _rehearsal(question), battery_takes(question), battery_left(question))


def _stops(question: Armed) -> float:
    return sum(glass.stops for glass in question.stack)


def _sd(glass: Glass) -> float:
    """Return how well the stops of a filter are known once it is turned [stops]."""
    known = strength(glass)
    return known.turned_sd or known.offset_sd


def _sun(question: Armed, sun: Sun) -> Iterator[CheckLine]:
    if sun is Sun.IN_PICTURE:
        yield CheckLine(
            "sun_in_picture",
            "The sun is in this frame: do not look through the finder; cap the lens between frames",
            "No photographic filter protects eyes.",
            Severity.HARM,
            False,
        )
    elif sun is not Sun.DOWN and needs_sun_caution(_stops(question), (_sd(on.glass) for on in question.stack)):
        yield CheckLine(
            "sun_dense",
            "Put dense filters on with the lens pointed away from the sun, or capped",
            "No photographic filter protects eyes.",
            Severity.HARM,
            False,
        )


def _tripod(question: Armed) -> Iterator[CheckLine]:
    windy = question.wind_m_s is not None and question.wind_m_s >= WINDY_M_S
    parts = [
        "Tripod feet firm" + (", spikes out on soft ground" if question.support and question.support.spikes else "")
    ]
    if _sees_its_feet(question):
        parts.append("none of them in the picture")
    if windy or question.seconds >= STRAP_FROM_SECONDS:
        parts.append("strap off")
    if windy and question.support and question.support.hook:
        parts.append("weight on the hook")
    why = f"Wind about {question.wind_m_s:.0f} m/s." if windy else "A foot that sinks is a blurred frame."
    yield CheckLine("tripod", ", ".join(parts), why, Severity.CAUTION if windy else Severity.NOTE, not windy)


def _focus(question: Armed) -> Iterator[CheckLine]:
    turns = question.lens is not None and question.lens.rotating_front and bool(question.stack)
    if turns:
        # Through a dense filter nobody focuses again: the scale is what is known of the distance.
        yield CheckLine(
            "focus",
            "Read the distance scale, push the filters in without turning, set the distance back after",
            "The front of this lens turns with the focus.",
            Severity.CAUTION,
            False,
        )
    elif question.stack:
        yield CheckLine("focus", "Focus locked to manual", "It hunts behind a dark filter.", Severity.NOTE, True)


def _glass(question: Armed) -> Iterator[CheckLine]:
    if not question.stack:
        return
    plates = sum(on.glass.mount == "plate" for on in question.stack)
    dense = _stops(question) >= COVER_FROM_STOPS
    turned_back = question.upright and any(on.polarises for on in question.stack)
    named = [_put_on(on, upright=question.upright) for on in nearest_first(question.stack)]
    where = ", nearest the lens first" if len(named) > 1 else ""
    parts = [f"Filters wiped and on{where}: {', then '.join(named)}" if where else f"Filter wiped and on: {named[0]}"]
    if plates > 1 and dense:
        parts.append("gaps between plates covered")
    if plates:
        # A holder sits where the hood would.
        parts.append("hood off, lens shaded by hand or hat")
    why = "Light gets in at gaps and gaskets." if dense and plates else "Dust and drops show at long times."
    if turned_back:
        why = "Its angle is lost when the camera goes upright."
    severity = Severity.CAUTION if dense or turned_back else Severity.NOTE
    yield CheckLine("glass", "; ".join(parts), why, severity, severity is Severity.NOTE)


def nearest_first(stack: tuple[On, ...]) -> list[On]:
    """Return the stack from the lens outwards: a gasket nearest the lens, graduated filters outermost."""
    return sorted(
        stack, key=lambda on: (GlassKind(on.glass.kind) is GlassKind.GRADUATED, not (on.glass.gasket or on.polarises))
    )


def _put_on(on: On, *, upright: bool) -> str:
    """Return one filter with what is done to it, as hands do it."""
    kind = GlassKind(on.glass.kind)
    if on.polarises and upright:
        return f"{on.name} turned back by 90°"
    if kind is GlassKind.VARIABLE:
        # The ring knows nothing of what was measured.
        return f"{on.name} turned to {on.stops - (on.glass.offset or 0.0):.1f}"
    if kind.polarises:
        return f"{on.name} turned for the picture"
    if on.glass.gasket:
        return f"{on.name} in the slot nearest the lens, gasket towards it"
    return on.name


def _camera(question: Armed) -> Iterator[CheckLine]:
    body = question.body
    if question.bulb and body and body.long_times == "none":
        count = math.ceil(question.seconds / body.dial_limit_s)
        yield CheckLine(
            "camera",
            f"Manual, the dial's longest time, and {count} frames of it one after another",
            f"This camera has no bulb: past {body.dial_limit_s:g} s a series gathers the light, added up in the edit.",
            Severity.CAUTION,
            False,
        )
        return
    parts = ["Manual"]
    if question.bulb:
        parts.append("T" if _opens_by_t(question) else "bulb")
    parts.append(f"bracketing of {question.burst} frames at one press" if question.burst > 1 else "single frame")
    parts += ["mechanical shutter", "stabiliser off"]
    noise = question.noise_reduction if question.noise_reduction is not None else _noise(body)
    if noise is not None and question.seconds >= 1:
        parts.append("noise reduction " + ("on" if noise else "off"))
    why = "Anything else ends or spoils a long frame."
    if noise and question.seconds >= 1:
        why = f"The camera stays busy for another {time_in_words(question.seconds)} after closing."
    yield CheckLine(
        "camera", ", ".join(parts), why, Severity.CAUTION if question.bulb else Severity.NOTE, not question.bulb
    )


def _noise(body: Body | None) -> bool | None:
    return None if body is None else body.noise_reduction != "off"


def _eyepiece(question: Armed) -> Iterator[CheckLine]:
    body = question.body
    unknown = body is None or body.eyepiece == "unknown"
    if body is not None and body.eyepiece in {"electronic", "none"} and not body.eyepiece_shutter:
        # Behind a screen there is no way for light to come in.
        return
    stops = _stops(question)
    if stops < COVER_FROM_STOPS and question.seconds < 1:
        return
    verb = "Close" if body and body.eyepiece_shutter else "Cover"
    optical = body is None or body.eyepiece in {"optical", "unknown"}
    why = (
        f"{stops:.0f} stops: a leak nobody sees bare shows."
        if stops > STRAY_LIGHT_STOPS
        else "Light comes in from behind."
    )
    if not optical:
        why = "Its finder is a screen; the shutter is there, so close it against what its seals let in."
    text = f"{verb} the eyepiece" + (" if yours is glass" if unknown and verb == "Cover" else "")
    yield CheckLine("eyepiece", text, why, Severity.CAUTION if optical else Severity.NOTE, not optical)


def _remote(question: Armed) -> Iterator[CheckLine]:
    parts, why, grave = _release(question)
    takes, left = battery_takes(question), battery_left(question)
    if takes is not None and takes > (BATTERY_ASK if left is None else left * BATTERY_RESERVE):
        parts.append("fresh battery" if left is not None else "battery full")
        grave = Severity.CAUTION
        why = f"This frame takes about {100 * takes:.0f} % of a full battery" + (
            "." if left is None else f"; about {100 * max(0.0, left):.0f} % is left."
        )
    if parts:
        text = ", ".join(parts)
        yield CheckLine("remote", text[0].upper() + text[1:], why, grave, grave is Severity.NOTE and not question.bulb)


def _release(question: Armed) -> tuple[list[str], str, Severity]:
    """Return what the hand does with this release in bulb, T or on the dial, why, and how grave it is."""
    release, body = question.release, question.body
    shakes = "A finger shakes the camera."
    timers = [f"{min(body.self_timers_s):g} s self-timer"] if body and body.self_timers_s else []
    if question.bulb and body and body.long_times == "none":
        way = "interval timer for the series" if release else "self-timer, then the next frame"
        return [way], shakes, Severity.NOTE
    if not question.bulb:
        if question.seconds < SHAKY_BELOW_SECONDS:
            return [], "", Severity.NOTE
        by = _BY_RELEASE.get(release.kind) if release else None
        return [by or f"remote, or the {timers[0] if timers else 'self-timer'}"], shakes, Severity.NOTE
    if release is None and question.releases > 1:
        return ["choose which remote"], "How it holds the shutter decides what your hands do.", Severity.CAUTION
    if release and release.longest_s is not None and release.longest_s < question.seconds:
        held = f"this remote holds {time_in_words(release.longest_s)} at most: take another"
        return [held], "It would end the frame early.", Severity.CAUTION
    if release is None:
        return ["remote in, lock tried"], "Bulb wants a remote that locks.", Severity.NOTE
    kind = release.kind
    if kind == "body":
        if not _opens_by_t(question):
            return ["a remote that can lock: the self-timer cannot hold bulb"], shakes, Severity.CAUTION
        opens = f"{timers[0] if timers else 'self-timer'} to open, hat before the lens to close, then press"
        return [opens], "The press that closes T shakes the camera: the hat has ended the light before.", Severity.NOTE
    if kind == "phone":
        return ["app connected and tried, its lock on, phone charged"], "A phone that sleeps lets go.", Severity.NOTE
    if kind == "timer":
        return (
            [f"timer remote set to {time_in_words(question.seconds)}, delay 2 s"],
            "It closes by itself.",
            Severity.NOTE,
        )
    if _opens_by_t(question):
        return ["remote in: one press opens, the next closes"], "T needs no lock.", Severity.NOTE
    return ["remote in, lock tried"], shakes, Severity.NOTE


_BY_RELEASE = {"phone": "app connected and tried", "timer": "timer remote, delay 2 s"}
"""Releases that the dial's times want a word on."""


def _opens_by_t(question: Armed) -> bool:
    """Return whether T, which opens at one press and closes at the next, is what holds the shutter."""
    if question.body is None:
        return False
    by_itself = question.release is not None and question.release.kind == "body"
    return question.body.long_times == "time" or (question.body.long_times == "both" and by_itself)


def _sees_its_feet(question: Armed) -> bool:
    """Return whether a lens is so wide that a tripod stands in its picture."""
    if question.focal_mm is None:
        return False
    diagonal = (
        math.hypot(question.body.sensor_width_mm, question.body.sensor_height_mm) if question.body else FULL_DIAGONAL_MM
    )
    return question.focal_mm * FULL_DIAGONAL_MM / diagonal < FEET_BELOW_MM


_RULES = (_tripod, _focus, _glass, _camera, _eyepiece, _remote)


def battery_takes(question: Armed) -> float | None:
    """Return the share of a full battery this frame takes, noise reduction counted; None without its energy.

    W T (2 with noise reduction) / (3600 Wh derate), the derate by temperature [-40 to 50 degrees] as in gear/budget.py.

    Raises
    ------
    Refusal
        A temperature out of bounds.
    """
    noise = question.noise_reduction if question.noise_reduction is not None else _noise(question.body)
    return _drawn(question, question.seconds * (2 if noise else 1))


def battery_left(question: Armed) -> float | None:
    """Return the share of a full battery that is left now, from what somebody saw and what was open since.

    None unseen.
    """
    since = _drawn(question, question.open_since_seconds)
    return None if question.battery_share is None or since is None else question.battery_share - since


def _drawn(question: Armed, seconds: float) -> float | None:
    """Return the share of a full battery that so many seconds take; None without its energy."""
    body = question.body
    if body is None or body.battery_wh is None:
        return None
    share = derate(10.0 if question.celsius is None else within("celsius", question.celsius, -40, 50, "degrees"))
    return body.draw_w * seconds / (body.battery_wh * 3600 * share)


def _rehearsal(question: Armed) -> Rehearsal | None:
    """Offered before any frame over four minutes: the ISO raised as far as the body's dial says, at most 12800.

    Its time is the frame's, times the frame's ISO over that one: light that moves and film are left to the sum that is
    asked for it. An ISO that is not told is the body's lowest. None where the frame's own is hardly lower.
    """
    body = question.body
    if question.seconds <= REHEARSE_FROM_SECONDS or body is None or body.film:
        return None
    own = iso("iso", body.iso_lowest if question.iso is None else question.iso, Step(body.step))
    highest = min(REHEARSE_ISO, max(body.iso_highest, body.iso_lowest * 64))
    mark = iso_marks(Step(body.step)).nearest(highest)
    if math.log2(mark.exact / own.exact) < REHEARSAL_LEAST_STOPS:
        return None
    seconds = question.seconds * own.exact / mark.exact
    return Rehearsal(mark.label, seconds, "Seconds now prove strength, focus, corners, cast and framing.")


def sun_seen(place_mm: tuple[float, float] | None, altitude_deg: float, half: tuple[float, float]) -> Sun:
    """Return where the sun is.

    It is told by its place on the sensor [mm] (None: behind), its altitude, and half the picture's sides [mm].
    """
    if not altitude_deg > -1:
        return Sun.DOWN
    inside = place_mm is not None and abs(place_mm[0]) <= half[0] and abs(place_mm[1]) <= half[1]
    return Sun.IN_PICTURE if inside else Sun.UP
