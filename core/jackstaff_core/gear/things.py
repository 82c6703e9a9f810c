"""What a photographer owns, sort by sort, with what each fact is used for.

Facts are generic and few: a fact is here because a computation reads it. Lengths are in the unit of the name,
times in seconds, densities in stops. None means unknown, and what needs it then says so or stays silent.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..camera.diffraction import SOFT_PIXELS, f_number_for
from ..camera.reciprocity import Additive, LawGiven, Power, Table, from_aperture_corrections
from ..filters.kind import GlassKind
from ..scales.ladders import Step, iso_marks
from ..scales.uncertainty import UNMEASURED_GLASS_SD
from ..wire.facts import Called, OnlyFor, choice, flag, ids, number, numbers, pairs, text, whole
from ..words.refusal import Refusal

STRENGTH = "sums and plans"
USUAL_TOLERANCE = 0.33
"""What most glass is sold to [stops]."""
MOST_MEMBERS = 4
"""Of a named stack."""
_RANGED = ("variable", "polariser", "combined")


@dataclass(frozen=True, kw_only=True, slots=True)
class Body:
    """A camera body: its dials, longest time, sensor, ISO and battery."""

    step: str = choice(
        "Dials move in",
        "reading marks, sums",
        {"third": "third stops", "half": "half stops", "full": "full stops"},
        "third",
    )
    dial_limit_s: float = number(
        "Longest time on the dial", "dial or bulb", 0.125, 3600, "s", 30.0, opens=True, usual=(1, 30, 60, 900)
    )
    long_times: str = choice(
        "Beyond the dial",
        "the checklist",
        {"bulb": "bulb", "time": "T, press twice", "both": "bulb and T", "none": "nothing"},
        "bulb",
    )
    sensor_width_mm: float = number(
        "Picture width", "looks, focus, corners", 3, 300, "mm", 36.0, group="Sensor or film"
    )
    sensor_height_mm: float = number(
        "Picture height", "looks, focus, corners", 3, 300, "mm", 24.0, group="Sensor or film"
    )
    pitch_um: float = number("Pixel pitch", "diffraction, blur in pixels", 0.5, 50, "µm", 4.35, group="Sensor or film")
    film: bool = flag("Shoots film", "reciprocity, fixed ISO", group="Sensor or film")
    iso_lowest: float = number(
        "Lowest ISO", "sums and ways to a look", 1, 1_000_000, "", 64.0, opens=True, usual=(64, 100, 200)
    )
    iso_highest: float = number(
        "Highest ISO you use", "ways to a look", 1, 1_000_000, "", 800.0, opens=True, usual=(400, 800, 1600, 3200)
    )
    iso_extended: float | None = number("Extended low ISO", "ways to a look, as a last resort", 1, 1_000_000)
    fixed_aperture: float | None = number("Fixed aperture f/", "sums and ways to a look", 0.5, 512)
    eyepiece: str = choice(
        "Eyepiece",
        "stray light",
        {
            "unknown": "not told",
            "optical": "glass (you look through the lens)",
            "electronic": "a screen",
            "none": "none",
        },
        "unknown",
        group="Light and noise",
    )
    eyepiece_shutter: bool = flag("Eyepiece can be closed", "the checklist", group="Light and noise")
    sees_through_stops: float = number(
        "Meters through up to", "doubtful readings", 0, 20, "stops", 6.0, group="Light and noise"
    )
    noise_reduction: str = choice(
        "Long-exposure noise reduction",
        "time between frames",
        {"off": "off", "on": "on", "fixed": "cannot be switched off"},
        "off",
        group="Light and noise",
    )
    self_timers_s: tuple[float, ...] = numbers("Self-timers", "the countdown", 0.5, 60, "s", 6, group="Release")
    sync_s: float = number("Flash sync time", "flash with filters", 1e-4, 1, "s", 0.005, group="Release")
    clock_ahead_s: float | None = number(
        "Its clock is ahead of true time by",
        "joining pictures to frames",
        -54_000,
        54_000,
        "s",
        group="Light and noise",
    )
    dark_from_s: float | None = number(
        "Dark frame advised from", "the checklist, after long frames", 1, 86_400, "s", group="Light and noise"
    )
    battery_wh: float | None = number("Battery", "frames left", 0.1, 500, "Wh", group="Release")
    draw_w: float = number("Draw while exposing", "frames left", 0.1, 50, "W", 3.0, group="Release")

    def __post_init__(self) -> None:
        if self.iso_highest < self.iso_lowest:
            raise Refusal("iso_highest", "The highest ISO is below the lowest.", "Give them the other way round.")


@dataclass(frozen=True, kw_only=True, slots=True)
class Lens:
    """A lens: its focal lengths, apertures, thread and what it shows of rims."""

    focal_min_mm: float = number("Focal length from", "looks, vignetting, focus", 1, 3000, "mm", 24.0, opens=True)
    focal_max_mm: float = number("Focal length to", "looks, vignetting, focus", 1, 3000, "mm", 24.0, opens=True)
    aperture_widest: float = number("Widest aperture f/", "ways to a look, flash", 0.5, 512, "", 2.8)
    aperture_smallest: float = number("Smallest aperture f/", "ways to a look", 0.5, 512, "", 22.0)
    sharp_to: float | None = number("Sharp to f/ (empty: from the pixels)", "which ways come first", 0.5, 512)
    takes: str = choice(
        "Takes filters",
        "what goes together",
        {"thread": "on its thread", "holder": "in a holder of its own", "none": "not at all"},
        "thread",
        group="Front",
    )
    thread_mm: float | None = number(
        "Filter thread",
        "which filters go on",
        10,
        200,
        "mm",
        group="Front",
        opens=True,
        usual=(49, 58, 67, 72, 77, 82),
    )
    rotating_front: bool = flag("Front turns when focusing", "the checklist", group="Front")
    shift_mm: float = number("Shift", "vignetting", 0, 30, "mm", 0.0, group="Front")
    clear_from_mm: float | None = number(
        "Corners seen clear from", "vignetting", 1, 3000, "mm", group="Corners you have checked"
    )
    clear_rims_mm: float | None = number(
        "with rims this deep in all", "vignetting", 0.5, 100, "mm", group="Corners you have checked"
    )
    clear_opening_mm: float | None = number(
        "and this clear opening", "vignetting", 10, 300, "mm", group="Corners you have checked"
    )
    clear_seen_on: str = text("Seen on", "your memory", 10, group="Corners you have checked")

    def __post_init__(self) -> None:
        if self.focal_max_mm < self.focal_min_mm:
            raise Refusal("focal_max_mm", "The focal lengths run backwards.", "Give the shorter one first.")
        if self.aperture_smallest < self.aperture_widest:
            raise Refusal(
                "aperture_smallest", "The apertures run backwards.", "Give the wider one (smaller number) first."
            )


@dataclass(frozen=True, kw_only=True, slots=True)
class Holder:
    """A holder for plates: its size, slots and rings."""

    size_mm: float = number(
        "Takes plates", "which plates fit", 20, 300, "mm wide", 100.0, opens=True, usual=(75, 85, 100, 150)
    )
    slots: int = whole("Slots", "ways to a look, what goes together", 1, 4, 2, opens=True, usual=(1, 2, 3))
    gasket_slot: bool = flag("Slot nearest the lens takes a gasket", "the checklist", True)
    polariser_ring: bool = flag("Carries a polariser behind the plates", "what goes together", opens=True)
    rings_mm: tuple[float, ...] = numbers("Adapter rings", "which lenses it fits", 10, 200, "mm", opens=True)
    depth_mm: float = number("Depth in front of the thread", "vignetting", 0, 100, "mm", 12.0)
    opening_mm: float = number("Clear opening", "vignetting", 10, 300, "mm", 86.0)


@dataclass(frozen=True, kw_only=True, slots=True)
class Support:
    """What the camera stands on."""

    kind: str = choice(
        "Kind",
        "the checklist",
        {"tripod": "tripod", "table": "low tripod", "clamp": "clamp", "bag": "bean bag"},
        "tripod",
        opens=True,
    )
    hook: bool = flag("Hook for a weight", "the checklist in wind", opens=True)
    spikes: bool = flag("Spikes", "soft ground, wooden piers", opens=True)


@dataclass(frozen=True, kw_only=True, slots=True)
class Release:
    """What opens and closes the shutter."""

    kind: str = choice(
        "Kind",
        "the checklist, the countdown",
        {
            "wired": "wired",
            "radio": "radio",
            "timer": "timer remote",
            "phone": "phone",
            "body": "the body's self-timer",
        },
        "wired",
        opens=True,
    )
    delay_s: float = number("Delay from press to shutter", "the clock", 0, 60, "s", 0.1, opens=True, by=0.1)
    longest_s: float | None = number("Longest time it can hold", "dial or bulb", 1, 86_400, "s")
    own_battery: bool = flag("Has its own battery", "the pack list")


@dataclass(frozen=True, kw_only=True, slots=True)
class Accessory:
    """Whatever else goes along: rings, covers, cloths."""

    kind: str = choice(
        "Kind",
        "what goes together, the pack list",
        {
            "step_ring": "step ring",
            "eyepiece_cover": "eyepiece cover",
            "tape": "tape for gaps",
            "shade": "hat or card",
            "cloth": "cloth",
            "battery": "spare battery",
            "lamp": "lamp",
            "other": "other",
        },
        "other",
        opens=True,
    )
    from_mm: float | None = number(
        "From thread", "step rings", 10, 200, "mm", only_for=OnlyFor("kind", ("step_ring",)), opens=True
    )
    to_mm: float | None = number(
        "To thread", "step rings", 10, 200, "mm", only_for=OnlyFor("kind", ("step_ring",)), opens=True
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class Film:
    """A film's reciprocity law, entered as time or as aperture correction."""

    iso: float = number("Speed", "sums", 1, 10_000, "", 100.0, opens=True, usual=(50, 100, 400))
    law: str = choice(
        "Law",
        "the last step of sums",
        {"power": "power of the time", "additive": "time plus a share", "table": "table"},
        "power",
        opens=True,
    )
    p: float = number("Exponent p", "power law", 1, 3, "", 1.3, only_for=OnlyFor("law", ("power",)), opens=True)
    from_s: float = number(
        "Holds from", "power law", 1e-3, 1000, "s", 1.0, only_for=OnlyFor("law", ("power",)), opens=True
    )
    a: float = number("Factor a", "additive law", 0, 10, "", 0.1, only_for=OnlyFor("law", ("additive",)), opens=True)
    b: float = number("Exponent b", "additive law", 1, 3, "", 1.62, only_for=OnlyFor("law", ("additive",)), opens=True)
    given_as: str = choice(
        "The table gives",
        "how the rows are read",
        {"time": "the corrected time", "aperture": "stops to open up"},
        "time",
        only_for=OnlyFor("law", ("table",)),
        opens=True,
    )
    points: tuple[tuple[float, float], ...] = pairs(
        "Rows",
        "table law",
        "metered seconds",
        "corrected seconds or stops",
        86_400,
        only_for=OnlyFor("law", ("table",)),
        opens=True,
    )

    def __post_init__(self) -> None:
        self.as_law()

    def as_law(self) -> LawGiven:
        """Return the law these facts stand for.

        Raises
        ------
        Refusal
            A table that does not rise, or has fewer than two rows.
        """
        try:
            match self.law:
                case "additive":
                    return Additive(self.a, self.b)
                case "table" if self.given_as == "aperture":
                    return from_aperture_corrections(self.points)
                case "table":
                    return Table(self.points)
                case _:
                    return Power(self.p, self.from_s)
        except Refusal as refusal:
            raise Refusal(refusal.field.removeprefix("film."), refusal.problem, refusal.instead) from None


@dataclass(frozen=True, kw_only=True, slots=True)
class Glass:
    """A filter: its label, sort, size, and what was measured of it."""

    kind: str = choice(
        "Kind",
        "what goes together, ways to a look",
        {
            "solid": "solid",
            "variable": "variable",
            "polariser": "polariser",
            "graduated": "graduated",
            "combined": "polariser and ND in one",
        },
        "solid",
        opens=True,
    )
    label: str = text("What is engraved on it", "reading its strength", 60, opens=True)
    stops: float = number(
        "Strength",
        STRENGTH,
        0,
        30,
        "stops",
        0.0,
        opens=True,
        by=1,
        called=Called("kind", dict.fromkeys(_RANGED, "Weak end")),
    )
    stops_max: float | None = number(
        "Dense end", STRENGTH, 0, 30, "stops", only_for=OnlyFor("kind", _RANGED), opens=True, by=1
    )
    tolerance: float = number("Sold as good to ±", "plus-or-minus", 0, 3, "stops", USUAL_TOLERANCE)
    offset: float | None = number("Measured minus label", STRENGTH, -10, 10, "stops", group="Measured")
    give_or_take: float | None = number("Give or take", "plus-or-minus", 0, 5, "stops", group="Measured")
    reading_without: str = text("Reading without it", "measured strength", 12, group="Measured")
    reading_with: str = text("Reading with it", "measured strength", 12, group="Measured")
    pair_stops: tuple[float, ...] = numbers(
        "Strengths measured by frame pairs", "what the frames say", 0, 40, "stops", 12, group="Measured"
    )
    cast_mired: float | None = number(
        "Shift of the light that gets through (+ warmer)", "white balance", -500, 500, "mired", group="Measured"
    )
    cast_green: float | None = number(
        "Green too much (+) or missing (−)", "white balance", -5, 5, "stops", group="Measured"
    )
    corner_stops: float | None = number(
        "Corners denser than the middle by", "editing notes", -10, 10, "stops", group="Measured"
    )
    measured_on: str = text("Measured on", "your memory", 10, group="Measured")
    evidence: str = choice(
        "Known from",
        "your memory",
        {
            "none": "the label alone",
            "typed": "a number I trust",
            "two_readings": "two readings",
            "trial": "a trial at the dial's limit",
            "frames": "frames",
            "pair": "a pair of frames",
        },
        "none",
        group="Measured",
    )
    mount: str = choice(
        "Goes on by",
        "what goes together, time to change",
        {"thread": "thread", "plate": "slot", "magnet": "magnet", "cover": "front cover", "clip": "clip on the holder"},
        "thread",
        group="Fit",
        opens=True,
    )
    size_mm: float | None = number(
        "Thread or plate width", "what it fits", 10, 300, "mm", group="Fit", opens=True, usual=(67, 72, 77, 82, 100)
    )
    rim_depth_mm: float | None = number("Rim depth", "vignetting", 0, 60, "mm", group="Fit")
    clear_mm: float | None = number("Clear opening", "vignetting", 5, 300, "mm", group="Fit")
    gasket: bool = flag("Has a gasket", "which slot", group="Fit")
    transition: str = choice(
        "Transition",
        "which graduated filter",
        {"soft": "soft", "medium": "medium", "hard": "hard", "reverse": "reverse"},
        "soft",
        only_for=OnlyFor("kind", ("graduated",)),
        group="Graduated",
        opens=True,
    )
    usable_end: tuple[tuple[float, float], ...] = pairs(
        "Clean up to, by focal length",
        "variable unevenness",
        "focal length in mm",
        "stops",
        3000,
        12,
        only_for=OnlyFor("kind", ("variable",)),
        group="Variable",
    )
    cast: str = text("Colour cast", "editing notes", 60, group="Fit")
    members: tuple[str, ...] = ids("A named stack of", "what goes together, ways to a look", MOST_MEMBERS, group="Fit")

    def __post_init__(self) -> None:
        if len(self.members) == 1 or len(set(self.members)) < len(self.members):
            raise Refusal("members", "A named stack has two members at least, each once.", "Name two to four filters.")
        if self.stops_max is not None and self.stops_max < self.stops:
            raise Refusal("stops_max", "The dense end is weaker than the weak end.", "Give the weaker end first.")
        if self.kind == "variable" and self.stops_max is None:
            raise Refusal("stops_max", "A variable filter needs its dense end.", "Give the strongest setting in stops.")
        if self.kind == "solid" and self.stops <= 0:
            raise Refusal("stops", "A solid filter has a strength.", "Give its stops, for example 6.")
        if self.stops + (self.offset or 0.0) < 0:
            raise Refusal("offset", "This filter would add light.", "Check the sign: + is denser than labelled.")


@dataclass(frozen=True, slots=True)
class GlassStrength:
    """How the sum takes a glass: ``stops`` as labelled, ``offset`` and ``offset_sd`` beside it [stops].

    A range is taken at its middle; ``low`` and ``high`` are its measured ends. ``turned_sd`` is the sd once somebody
    says what the ring is turned to: of its scale, or what it is sold or measured to, whichever is worse.
    """

    kind: GlassKind
    stops: float
    offset: float | None
    offset_sd: float
    low: float
    high: float
    turned_sd: float = 0.0


RING_SCALE_SD = 0.25
"""Sd of what a variable filter's ring is read to be turned to [stops]: its marks are a stop apart, and rub. Ours."""


SORTS: Mapping[str, type] = {
    "body": Body,
    "lens": Lens,
    "holder": Holder,
    "glass": Glass,
    "film": Film,
    "release": Release,
    "support": Support,
    "accessory": Accessory,
}
"""Every sort by its name in a file, in the order of the Kit screen."""


def strength(glass: Glass) -> GlassStrength:
    """Return what the sum, the finder and the staff take of a glass.

    A measured glass is known to its ± (95 %), so half of that is its sd; a range is known to half its spread; a label
    alone to half its tolerance.
    """
    kind = GlassKind(glass.kind)
    offset = glass.offset or 0.0
    if kind is GlassKind.GRADUATED:
        return GlassStrength(kind, 0.0, None, 0.0, 0.0, 0.0)
    if glass.stops_max is not None and kind is not GlassKind.SOLID:
        middle = (glass.stops + glass.stops_max) / 2
        spread = (glass.stops_max - glass.stops) / 2
        known = (glass.give_or_take if glass.give_or_take is not None else glass.tolerance) / 2
        ends = (glass.stops + offset, glass.stops_max + offset)
        return GlassStrength(kind, middle, offset, spread, *ends, max(RING_SCALE_SD, known))
    if glass.offset is None:
        sd = glass.tolerance / 2 if glass.tolerance != USUAL_TOLERANCE else UNMEASURED_GLASS_SD
        return GlassStrength(kind, glass.stops, None, sd, glass.stops, glass.stops)
    sd = (glass.give_or_take if glass.give_or_take is not None else glass.tolerance) / 2
    return GlassStrength(kind, glass.stops, offset, sd, glass.stops + offset, glass.stops + offset)


def merge_glasses(glasses: tuple[Glass, ...]) -> Glass:
    """Return two to four filters that stay together, as one.

    Labels and rims add, what each is known to adds in quadrature.

    Raises
    ------
    Refusal
        Fewer or more of them, one inside another named stack, or a graduated or turning one, whose strength is no
        number.
    """
    if not 2 <= len(glasses) <= MOST_MEMBERS:
        raise Refusal("glass", f"{len(glasses)} filters make no named stack.", f"Take 2 to {MOST_MEMBERS}.")
    for place, glass in enumerate(glasses):
        if glass.members:
            raise Refusal(f"glass.{place}", "A named stack is in it already.", "Take its members one by one.")
        if glass.kind in {"graduated", "variable"} or (glass.stops_max is not None and glass.kind != "solid"):
            raise Refusal(f"glass.{place}", f"A {glass.kind} filter has no one strength.", "Leave it out of the stack.")
    measured = [glass.offset for glass in glasses if glass.offset is not None]
    known = 2 * math.hypot(*(strength(glass).offset_sd for glass in glasses))
    rims = [glass.rim_depth_mm for glass in glasses]
    return Glass(
        kind="combined" if any(GlassKind(glass.kind).polarises for glass in glasses) else "solid",
        label=" + ".join(glass.label or f"{glass.stops:g}" for glass in glasses)[:60],
        stops=math.fsum(glass.stops for glass in glasses),
        tolerance=min(3.0, known),
        offset=math.fsum(measured) if measured else None,
        give_or_take=known if measured else None,
        evidence="typed" if measured else "none",
        mount=glasses[0].mount,
        size_mm=glasses[0].size_mm,
        rim_depth_mm=None if None in rims else math.fsum(rim for rim in rims if rim is not None),
        clear_mm=min((glass.clear_mm for glass in glasses if glass.clear_mm is not None), default=None),
        gasket=glasses[0].gasket,
    )


def isos_of(body: Body) -> tuple[str, ...]:
    """Return the ISO marks the finder may use: full stops from the lowest up to the highest one likes."""
    step = Step(body.step)
    marks = iso_marks(step).between(body.iso_lowest * 0.97, body.iso_highest * 1.03)
    return tuple(mark.label for mark in marks[:: step.per_stop]) or (f"{body.iso_lowest:g}",)


def sharp_to(body: Body) -> float:
    """Return the f-number from which diffraction shows on this sensor."""
    return f_number_for(SOFT_PIXELS, body.pitch_um)


def usable_at(glass: Glass, focal_mm: float) -> float | None:
    """Return clean end [stops] this user found at the nearest focal length, None when none was found within a third.

    Parameters
    ----------
    glass : Glass
        A variable one of the bag.
    focal_mm : float
        Focal length [mm].
    """
    near = [(abs(math.log2(focal / focal_mm)), stops) for focal, stops in glass.usable_end if focal > 0]
    found = [stops for distance, stops in sorted(near) if distance <= math.log2(4 / 3)]
    return found[0] if found else None
