"""The arm list: what hands do before the shutter opens, grown from this body, lens, stack and place.

At most seven lines in the order of the hands; each says what to do and why in a few words. Lines about harm to people
cannot be folded away. Device failures name the line they belong to (``LINE_OF``). Sources: practice; sun position
from heavens.py, battery from budget.py. Limits: what the kit says of itself; an unknown fact gives no line. Verdict:
a list; the battery's share is an estimate.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import Enum
from typing import Annotated

from .advice import Severity
from .budget import derate
from .exposure import MOST_GLASSES, STRAY_LIGHT_STOPS, SUN_TEMPTS_STOPS
from .finder import GlassKind
from .gear import Body, Holder, Lens, Release, Support
from .marks import Named, Size
from .refusal import within
from .scales import LONGEST_SECONDS, SHORTEST_SECONDS, Step, isos
from .spoken import said
from .stacking import On

WINDY_M_S = 6.0
COVER_FROM_STOPS = 6.0
REHEARSE_FROM_SECONDS = 240.0
REHEARSE_ISO = 12_800.0
BATTERY_ASK = 0.5
"""A frame that takes more than this share of a full battery is asked about."""
SHAKY_BELOW_SECONDS = 1 / 15

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

    ``noise_reduction`` as decided, ``battery_share`` what is left in the battery (0 to 1), ``upright`` when the camera
    was turned upright after the polariser was set.
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
    upright: bool = False


class Sun(Enum):
    """Where the sun is, as far as hands and eyes are concerned."""

    DOWN = "down, or nobody said where"
    UP = "up, outside the picture"
    IN_PICTURE = "in the picture"


@dataclass(frozen=True, slots=True)
class Line:
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
    lines: tuple[Line, ...]
    rehearsal: Rehearsal | None
    battery_takes: float | None


def arm(asked: Armed, sun: Sun = Sun.DOWN) -> Checklist:
    """The list for this frame.

    Raises
    ------
    Refusal
        A time, wind, temperature or battery out of bounds.
    """
    within("seconds", asked.seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    if asked.wind_m_s is not None:
        within("wind_m_s", asked.wind_m_s, 0, 60, "m/s")
    if asked.battery_share is not None:
        within("battery_share", asked.battery_share, 0, 1, "of a full battery")
    lines = (*_sun(asked, sun), *(line for rule in _RULES for line in rule(asked)))
    return Checklist(lines, _rehearsal(asked), battery_takes(asked))


def _stops(asked: Armed) -> float:
    return sum(glass.stops for glass in asked.stack)


def _sun(asked: Armed, sun: Sun) -> Iterator[Line]:
    if sun is Sun.IN_PICTURE:
        yield Line(
            "sun",
            "The sun is in this frame: do not look through the finder; cap the lens between frames",
            "No photographic filter protects eyes.",
            Severity.HARM,
            False,
        )
    elif sun is Sun.UP and _stops(asked) >= SUN_TEMPTS_STOPS:
        yield Line(
            "sun",
            "Put dense filters on with the lens pointed away from the sun, or capped",
            "No photographic filter protects eyes.",
            Severity.HARM,
            False,
        )


def _tripod(asked: Armed) -> Iterator[Line]:
    windy = asked.wind_m_s is not None and asked.wind_m_s >= WINDY_M_S
    parts = ["Tripod feet firm" + (", spikes out on soft ground" if asked.support and asked.support.spikes else "")]
    if windy:
        parts.append("strap off")
        if asked.support and asked.support.hook:
            parts.append("weight on the hook")
    why = f"Wind about {asked.wind_m_s:.0f} m/s." if windy else "A foot that sinks is a blurred frame."
    yield Line("tripod", ", ".join(parts), why, Severity.CAUTION if windy else Severity.NOTE, not windy)


def _focus(asked: Armed) -> Iterator[Line]:
    turns = asked.lens is not None and asked.lens.rotating_front and bool(asked.stack)
    if turns:
        yield Line(
            "focus",
            "Set focus again after the filter is on, then lock it",
            "The front of this lens turns with the focus.",
            Severity.CAUTION,
            False,
        )
    elif asked.stack:
        yield Line("focus", "Focus locked to manual", "It hunts behind a dark filter.", Severity.NOTE, True)


def _glass(asked: Armed) -> Iterator[Line]:
    if not asked.stack:
        return
    plates = [glass for glass in asked.stack if glass.glass.mount == "plate"]
    gasket = [glass for glass in asked.stack if glass.glass.gasket]
    graduated = [glass for glass in asked.stack if GlassKind(glass.glass.kind) is GlassKind.GRADUATED]
    polariser = any(GlassKind(glass.glass.kind).polarises for glass in asked.stack)
    dense = _stops(asked) >= COVER_FROM_STOPS
    parts = []
    if gasket:
        parts.append(f"{gasket[0].name} in the slot nearest the lens, gasket towards it")
    if graduated:
        parts.append("graduated filter outermost")
    if len(plates) > 1 and dense:
        parts.append("gaps between plates covered")
    if polariser and asked.upright:
        parts.append("polariser turned back by a quarter")
    parts.append("hood off, lens shaded by hand or hat")
    why = "Light gets in at gaps and gaskets." if dense else "Stray light takes contrast."
    if polariser and asked.upright:
        why = "Its angle is lost when the camera goes upright."
    text = ", ".join(parts)
    yield Line("glass", text[0].upper() + text[1:], why, Severity.CAUTION if dense else Severity.NOTE, not dense)


def _camera(asked: Armed) -> Iterator[Line]:
    body = asked.body
    parts = ["Manual"]
    if asked.bulb:
        parts.append("T" if body and body.long_times == "time" else "bulb")
    parts += ["single frame", "mechanical shutter", "stabiliser off"]
    noise = asked.noise_reduction if asked.noise_reduction is not None else _noise(body)
    if noise is not None and asked.seconds >= 1:
        parts.append("noise reduction " + ("on" if noise else "off"))
    why = "Anything else ends or spoils a long frame."
    if noise and asked.seconds >= 1:
        why = f"The camera stays busy for another {said(asked.seconds)} after closing."
    yield Line("camera", ", ".join(parts), why, Severity.CAUTION if asked.bulb else Severity.NOTE, not asked.bulb)


def _noise(body: Body | None) -> bool | None:
    return None if body is None else body.noise_reduction != "off"


def _eyepiece(asked: Armed) -> Iterator[Line]:
    body = asked.body
    if body is not None and body.eyepiece == "none":
        return
    stops = _stops(asked)
    if stops < COVER_FROM_STOPS and asked.seconds < 1:
        return
    verb = "Close" if body and body.eyepiece_shutter else "Cover"
    optical = body is None or body.eyepiece == "optical"
    why = (
        f"{stops:.0f} stops: a leak nobody sees bare shows."
        if stops > STRAY_LIGHT_STOPS
        else "Light comes in from behind."
    )
    yield Line("eyepiece", f"{verb} the eyepiece", why, Severity.CAUTION if optical else Severity.NOTE, not optical)


def _remote(asked: Armed) -> Iterator[Line]:
    takes = battery_takes(asked)
    short = takes is not None and takes > (BATTERY_ASK if asked.battery_share is None else asked.battery_share * 0.9)
    parts, why, grave = [], "", Severity.NOTE
    if asked.bulb:
        longest = asked.release.longest_s if asked.release else None
        if longest is not None and longest < asked.seconds:
            parts.append(f"this remote holds {said(longest)} at most: take another")
            why, grave = "It would end the frame early.", Severity.CAUTION
        elif asked.release is not None and asked.release.kind == "body":
            parts.append("a remote that can lock: the self-timer cannot hold bulb")
            why, grave = "A finger shakes the camera.", Severity.CAUTION
        else:
            parts.append("remote in, lock tried")
            why = "A finger shakes the camera." if asked.release else "Bulb wants a remote that locks."
    elif asked.seconds >= SHAKY_BELOW_SECONDS:
        timers = asked.body.self_timers_s if asked.body else ()
        parts.append(f"remote, or the {min(timers):g} s self-timer" if timers else "remote, or the self-timer")
        why = "A finger shakes the camera."
    if takes is not None and short:
        parts.append("fresh battery" if asked.battery_share is not None else "battery full")
        why, grave = f"This frame takes about {100 * takes:.0f} % of a full battery.", Severity.CAUTION
    if parts:
        text = ", ".join(parts)
        yield Line("remote", text[0].upper() + text[1:], why, grave, grave is Severity.NOTE and not asked.bulb)


_RULES = (_tripod, _focus, _glass, _camera, _eyepiece, _remote)


def battery_takes(asked: Armed) -> float | None:
    """Share of a full battery this frame takes, noise reduction counted; None without its energy.

    W T (2 with noise reduction) / (3600 Wh derate), the derate by temperature [-40 to 50 degrees] as in budget.py.

    Raises
    ------
    Refusal
        A temperature out of bounds.
    """
    body = asked.body
    if body is None or body.battery_wh is None:
        return None
    noise = asked.noise_reduction if asked.noise_reduction is not None else _noise(body)
    share = derate(10.0 if asked.celsius is None else within("celsius", asked.celsius, -40, 50, "degrees"))
    return body.draw_w * asked.seconds * (2 if noise else 1) / (body.battery_wh * 3600 * share)


def _rehearsal(asked: Armed) -> Rehearsal | None:
    """Offered before any frame over four minutes: the ISO raised as far as the body's dial says, at most 12800."""
    body = asked.body
    if asked.seconds <= REHEARSE_FROM_SECONDS or body is None or body.film:
        return None
    highest = min(REHEARSE_ISO, max(body.iso_highest, body.iso_lowest * 64))
    mark = isos(Step(body.step)).nearest(highest)
    seconds = asked.seconds * body.iso_lowest / mark.exact
    return Rehearsal(mark.label, seconds, "Seconds now prove strength, focus, corners, cast and framing.")


def sun_seen(place_mm: tuple[float, float] | None, altitude_deg: float, half: tuple[float, float]) -> Sun:
    """Where the sun is, by its place on the sensor [mm] (None: behind), altitude, and half the picture's sides [mm]."""
    if not altitude_deg > -1:
        return Sun.DOWN
    inside = place_mm is not None and abs(place_mm[0]) <= half[0] and abs(place_mm[1]) <= half[1]
    return Sun.IN_PICTURE if inside else Sun.UP
