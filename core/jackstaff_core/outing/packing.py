"""The pack list grown from a plan: what this outing needs, why, and whether the bag has it.

Rules of the field as plain conditions on the plan; nothing is computed but the batteries (gear/budget.py). Each line
says why in a few words. Source: practice. Limits: what the plan says.
Verdict: a list to tick, for the person to judge.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated

from ..exposure.calculation import STRAY_LIGHT_STOPS
from ..gear.budget import RESERVE, battery_frames, derate
from ..scales.spoken import time_in_words
from ..wire.marks import Between, Size
from ..words.refusal import Refusal, within
from .hazards import BY_CODE

COLD_CELSIUS = 5.0
COOL, HOT = 15.0, 25.0
"""Below the one a battery is warmed, above the other it is kept out of the sun [deg C]."""
MOST_SPARES = 6
MOST_NAMED = 24
"""Glasses that a list can be made for."""
Called = Annotated[str, Size(1, 60)]


@dataclass(frozen=True, slots=True)
class Plan:
    """What is known of the outing.

    ``glass`` the names the swap plan uses, ``densest_stops`` its darkest stack; ``longest_seconds`` the longest frame
    planned, ``open_minutes`` of all planned frames together, noise reduction counted; ``plates`` the most that stand
    before the lens at once; ``dark`` whether arriving or leaving falls before civil dawn or after civil dusk; ``wet``
    whether spray, falls or rain reach the camera; wind in m/s.
    """

    body: Called | None = None
    lens: Called | None = None
    holder: Called | None = None
    support: Called | None = None
    release: Called | None = None
    film: Called | None = None
    polariser: Called | None = None
    glass: Annotated[tuple[Called, ...], Size(0, MOST_NAMED)] = ()
    densest_stops: float = 0.0
    longest_seconds: float | None = None
    dial_limit: float = 30.0
    frames: Annotated[int, Between(0, 100_000)] | None = None
    battery_wh: float | None = None
    draw_w: float = 3.0
    noise_reduction: bool = False
    celsius: float | None = None
    wind_m_s: float | None = None
    dark: bool = False
    wet: bool = False
    plates: Annotated[int, Between(0, 8)] = 0
    open_minutes: Annotated[float, Between(0, 10_080, "min")] | None = None
    tide: bool = False
    hazards: Annotated[tuple[Annotated[str, Size(0, 20)], ...], Size(0, 30)] = ()


@dataclass(frozen=True, slots=True)
class PackLine:
    """One thing to pack: ``missing`` when the plan needs it and the kit has none."""

    code: str
    what: str
    why: str
    missing: bool = False


def pack(plan: Plan) -> tuple[PackLine, ...]:
    """Return the list in the order of packing, each thing once.

    Raises
    ------
    Refusal
        An unknown hazard, or a number out of bounds.
    """
    for place, hazard in enumerate(plan.hazards):
        if hazard not in BY_CODE:
            raise Refusal(
                f"hazards.{place}", f"{hazard} is no hazard known here.", f"Take one of {', '.join(BY_CODE)}."
            )
    if plan.celsius is not None:
        within("celsius", plan.celsius, -40, 50, "degrees")
    if plan.longest_seconds is not None:
        within("longest_seconds", plan.longest_seconds, 1e-5, 86_400, "s")
    lines: dict[str, PackLine] = {}
    for line in (*_camera(plan), *_glass(plan), *_person(plan), *_for_hazards(plan.hazards)):
        lines.setdefault(line.code, line)
    return tuple(lines.values())


def _camera(plan: Plan) -> Iterator[PackLine]:
    long_ = plan.longest_seconds is not None and plan.longest_seconds > plan.dial_limit
    yield PackLine("body", plan.body or "Camera", "Card empty, clock right.", plan.body is None)
    yield PackLine("lens", plan.lens or "Lens", "Front filters clean.", plan.lens is None)
    yield PackLine("support", plan.support or "Tripod", "Nothing long is sharp without it.", plan.support is None)
    if long_ and plan.longest_seconds is not None:
        why = f"Frames up to {time_in_words(plan.longest_seconds)} run past the {plan.dial_limit:g} s dial."
        yield PackLine("release", plan.release or "Remote that can lock", why, plan.release is None)
    elif plan.release:
        yield PackLine("release", plan.release, "Nobody touches the tripod.")
    if plan.film:
        yield PackLine("film", plan.film, "And one roll more.")
    spares = _spares(plan)
    planned = f"{plan.open_minutes:.0f} minutes open" if plan.open_minutes is not None else f"{plan.frames} frames"
    why = _keeping(plan.celsius) if spares < 1 else f"{planned} want about {spares + 1} batteries."
    yield PackLine("spare_battery", "Spare battery" if spares < 2 else f"{spares} spare batteries", why)


def _keeping(celsius: float | None) -> str:
    """Say how a battery is kept at this temperature."""
    if celsius is None or celsius < COOL:
        return "Charged, and kept warm."
    return "Charged, and kept out of the sun." if celsius >= HOT else "Charged."


def _spares(plan: Plan) -> int:
    """Return batteries beyond the one in the camera that the planned frames want.

    They are counted by their minutes where these are known.
    """
    if plan.battery_wh is None:
        return 0
    share = derate(10.0 if plan.celsius is None else plan.celsius)
    wh = within("battery_wh", plan.battery_wh, 0.1, 500, "Wh")
    watts = within("draw_w", plan.draw_w, 0.1, 50, "W")
    if plan.open_minutes is not None:
        batteries = watts * plan.open_minutes * 60 / (wh * 3600 * share * (1 - RESERVE))
        return min(MOST_SPARES, max(0, math.ceil(batteries) - 1))
    if plan.frames is None or plan.longest_seconds is None:
        return 0
    each = max(1, battery_frames(wh, watts, plan.longest_seconds, plan.noise_reduction, share))
    return min(MOST_SPARES, max(0, math.ceil(plan.frames / each) - 1))


def _glass(plan: Plan) -> Iterator[PackLine]:
    for place, name in enumerate(dict.fromkeys(plan.glass)):
        yield PackLine(f"glass_{place}", name, "In the swap plan.")
    if plan.polariser and plan.polariser not in plan.glass:
        yield PackLine("polariser", plan.polariser, "For glare and depth of water.")
    if plan.holder:
        yield PackLine("holder", plan.holder, "With its ring for this lens.")
    if plan.densest_stops > STRAY_LIGHT_STOPS:
        yield PackLine("tape", "Eyepiece cover and dark cloth", "Past 13 stops a leak nobody sees shows.")
    if plan.glass:
        yield PackLine("hat", "Hat or card", "The hood does not fit over filters: shade the lens by hand.")
        yield PackLine("cap", "Lens cap", "A dense filter goes on capped or away from the sun; and for a dark frame.")
    if plan.plates > 1:
        why = f"{plan.plates} plates at once: light gets in at the gaps between them."
        yield PackLine("gaps", "Light-tight tape, or the holder's cover", why)
    wet = plan.wet or bool(_WET & set(plan.hazards))
    if wet:
        yield PackLine("rain_cover", "Rain cover for camera and bag", "Spray or rain where you stand.")
    why = "A dry one for every few frames: drops on the front filter show." if wet else "Fingers on the front filter."
    yield PackLine("cloths", "Several dry cloths and a blower" if wet else "Cloth and blower", why)


def _person(plan: Plan) -> Iterator[PackLine]:
    if plan.dark:
        yield PackLine("head_torch", "Head torch with red light", "You walk in or out in the dark.")
    if plan.celsius is not None and plan.celsius <= COLD_CELSIUS:
        yield PackLine("gloves", "Gloves that can press buttons", f"About {plan.celsius:.0f} degrees.")
        yield PackLine("warm", "One layer more", "Standing still for minutes cools.")
    if plan.wind_m_s is not None and plan.wind_m_s >= 8:
        yield PackLine(
            "ballast", "Bag or stone to hang on the tripod", f"Wind about {plan.wind_m_s:.0f} m/s; strap off."
        )
    if plan.tide:
        yield PackLine("tide_table", "Tide table and watch", "The plan's water is your own entry or a stand-in.")
    yield PackLine(
        "phone_power", "Phone charged, and a power bank", "It rings the end of the frame and calls for help."
    )


_WET = {"swell", "current", "lightning"}
"""Hazards of places where the camera gets wet."""

_THINGS = {
    "boots": ("Boots that may get wet", "Wet ground."),
    "stick": ("Stick", "To feel the ground before you step."),
    "spikes": ("Spikes for your soles", "Ice."),
    "water": ("Water", "Heat."),
    "reflective": ("Reflective vest", "Traffic."),
    "gloves": ("Gloves that can press buttons", "Cold."),
    "warm": ("One layer more", "Cold."),
    "head_torch": ("Head torch with red light", "An edge in the dark."),
    "tide_table": ("Tide table and watch", "Tide."),
    "cloths": ("Cloths and blower", "Spray."),
    "phone_power": ("Phone charged, and a power bank", "You are alone."),
    "spare_battery": ("Spare battery", "Cold halves a battery."),
}


def _for_hazards(codes: Sequence[str]) -> Iterator[PackLine]:
    for code in codes:
        for thing in BY_CODE[code].pack:
            what, why = _THINGS[thing]
            yield PackLine(thing, what, why)
