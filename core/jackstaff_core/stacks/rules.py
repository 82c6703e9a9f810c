"""What is wrong with a stack before it goes on: findings, each with why and a cure.

Order is from the lens outwards. A finding is silent where a fact is unknown, except where the unknown itself can
spoil the frame. Sources: practice for the order of glass; filters/rims.py, filters/polarisers.py and
camera/diffraction.py for the rest. Limits: the facts the kit knows.
Verdict: each finding carries its own (order: computed; rims and unevenness: estimate).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from ..camera.diffraction import HARD_PIXELS, SOFT_PIXELS, f_number_for, fwhm_pixels
from ..exposure.calculation import STRAY_LIGHT_STOPS
from ..filters.kind import GlassKind
from ..filters.on_lens import MOST_GLASSES as MOST_ON
from ..filters.polarisers import UNEVEN_WARNING_STOPS, Pair, spread, usable_for_spread
from ..filters.rims import Rim, pupil_depth, widest_clear
from ..gear.things import Accessory, Body, Glass, Holder, Lens, usable_at
from ..wire.marks import Between, Named, Size
from ..words.advice import Advice, Severity

WIDE_FOR_RIMS = 0.9
"""Focal lengths below this share of the picture width are wide enough for rims to be asked about."""
FocalLength = Annotated[float, Between(1, 3000, "mm")]
THREADED = {"thread", "magnet"}
"""Mounts that sit on the lens's own thread, or on a ring of its size."""
_SAME_SIZE_MM = 0.5


def is_too_small(size_mm: float, at_mm: float) -> bool:
    """Return whether a filter is narrower than what it goes onto: a ring cuts the corners, a plate falls out [mm]."""
    return size_mm < at_mm - _SAME_SIZE_MM


@dataclass(frozen=True, slots=True)
class On:
    """A glass on the lens: what it is called, its facts, and the stops it is set to."""

    name: Annotated[str, Size(1, 120)]
    glass: Annotated[Glass, Named("facts")]
    stops: Annotated[float, Between(0, 30, "stops")]
    in_reading: bool = False

    @property
    def polarises(self) -> bool:
        """Whether it polarises; two such filters cross."""
        return GlassKind(self.glass.kind).polarises


@dataclass(frozen=True, slots=True)
class Rig:
    """Everything in front of the shutter. What is None is unknown."""

    glass: Annotated[tuple[On, ...], Size(0, MOST_ON)]
    body: Body | None = None
    lens: Lens | None = None
    holder: Holder | None = None
    focal_mm: FocalLength | None = None
    f_number: Annotated[float, Between(0.5, 512)] | None = None
    step_rings: Annotated[tuple[Accessory, ...], Size(0, 24)] = ()
    through_stops: Annotated[float, Between(0, 60, "stops")] | None = None
    """What the reading was taken through, on or off by now; None for what of ``glass`` was on then."""


def stack_findings(rig: Rig) -> tuple[Advice, ...]:
    """Return everything worth saying about the rig, in the order one meets it."""
    return tuple(
        finding
        for rule in (_fits, _order, _polarising, _uneven, _rims, _metering, _light, _aperture, _front)
        for finding in rule(rig)
    )


def _found(code: str, severity: Severity, why: str, cure: str, **values: float | str) -> Advice:
    return Advice(code, severity, f"{why} {cure}", values)


def usable_end(glass: Glass, focal_mm: float, body: Body | None = None) -> float | None:
    """Return the densest clean setting of a variable glass [stops]: the user's own, else an estimate.

    None for other glass.

    Parameters
    ----------
    glass : Glass
        Of the bag.
    focal_mm : float
        Focal length it is used at [mm].
    body : Body | None
        Whose sensor is behind it; None for full frame.
    """
    if glass.kind != "variable" or glass.stops_max is None:
        return None
    known = usable_at(glass, focal_mm)
    end = usable_for_spread(UNEVEN_WARNING_STOPS, focal_mm, _pair(body, glass)) if known is None else known
    return min(max(end, glass.stops), glass.stops_max)


def _fits(rig: Rig) -> Iterator[Advice]:
    lens, holder = rig.lens, rig.holder
    plates = [piece for piece in rig.glass if piece.glass.mount == "plate"]
    if rig.glass and lens and lens.takes == "none":
        yield _found(
            "lens_takes_no_glass",
            Severity.CAUTION,
            "This lens takes no filter.",
            "Change the lens, or wait for the light.",
        )
    if plates and holder is None:
        yield _found(
            "no_holder",
            Severity.NOTE,
            "A plate needs a holder.",
            "Choose one where camera and lens are chosen, or add it to the bag.",
        )
    if holder and len(plates) > holder.slots:
        yield _found(
            "too_many_plates",
            Severity.CAUTION,
            f"{len(plates)} plates are on and the holder has {holder.slots} slots.",
            "Take one off, or use one darker plate instead of two.",
            plates=len(plates),
            slots=holder.slots,
        )
    for plate in plates:
        size = plate.glass.size_mm
        if holder and size is not None and is_too_small(size, holder.size_mm):
            yield _found(
                "plate_too_narrow",
                Severity.CAUTION,
                f"{plate.name} is {size:g} mm wide, the holder takes {holder.size_mm:g}.",
                "It will fall out or leave a gap: use the holder it was made for.",
                size_mm=size,
                holder_mm=holder.size_mm,
            )
    if plates and holder and lens and lens.thread_mm and holder.rings_mm and lens.thread_mm not in holder.rings_mm:
        yield _found(
            "no_adapter_ring",
            Severity.CAUTION,
            f"The holder has no ring for this {lens.thread_mm:g} mm thread.",
            "Bring one, or write it into the holder if you own it.",
            thread_mm=lens.thread_mm,
        )
    yield from _threads(rig)


def _threads(rig: Rig) -> Iterator[Advice]:
    at = rig.lens.thread_mm if rig.lens else None
    for piece in rig.glass:
        size = piece.glass.size_mm
        if piece.glass.mount not in THREADED or size is None or at is None:
            continue
        if is_too_small(size, at):
            yield _found(
                "thread_too_small",
                Severity.CAUTION,
                f"{piece.name} is {size:g} mm, what it screws into is {at:g}: stepping down cuts the corners.",
                "Use a filter as large as the thread or larger.",
                size_mm=size,
                thread_mm=at,
            )
        elif is_too_small(at, size):
            owned = any((ring.from_mm, ring.to_mm) == (at, size) for ring in rig.step_rings)
            yield _found(
                "step_ring",
                Severity.NOTE,
                f"{piece.name} is {size:g} mm, what it screws into is {at:g}.",
                f"Put the {at:g} to {size:g} mm step ring on first."
                + ("" if owned else " There is none in the kit, so bring one."),
                size_mm=size,
                thread_mm=at,
            )
        at = size


def _order(rig: Rig) -> Iterator[Advice]:
    plates = [piece for piece in rig.glass if piece.glass.mount == "plate"]
    gaskets = [place for place, plate in enumerate(plates) if plate.glass.gasket]
    if gaskets and gaskets[0] != 0:
        name = plates[gaskets[0]].name
        yield _found(
            "gasket_first",
            Severity.CAUTION,
            f"{name} has the gasket but is not nearest the lens, so light gets in behind it.",
            f"Put {name} in the slot nearest the lens, gasket to the lens.",
            glass=name,
        )
    for inner, piece in enumerate(rig.glass):
        if piece.glass.kind == "graduated" and any(other.glass.kind != "graduated" for other in rig.glass[inner + 1 :]):
            yield _found(
                "graduated_outermost",
                Severity.CAUTION,
                f"{piece.name} is behind other filters, where its edge cannot be seen or moved.",
                "Put the graduated filter outermost.",
                glass=piece.name,
            )
            break
    dark = sum(piece.stops for piece in rig.glass)
    if len(plates) > 1 and dark > 10:
        yield _found(
            "gaps",
            Severity.CAUTION,
            f"{len(plates)} plates leave gaps that let light in sideways, and {dark:.0f} stops make it show.",
            "Tape or wrap the gaps between the plates.",
            stops=dark,
        )


def _polarising(rig: Rig) -> Iterator[Advice]:
    polarising = [piece for piece in rig.glass if piece.polarises]
    if len(polarising) < 2:
        return
    names = " and ".join(each.name for each in polarising)
    variable = any(each.glass.kind == "variable" for each in polarising)
    yield _found(
        "variable_on_polariser" if variable else "two_polarisers",
        Severity.CAUTION,
        f"{names} are polarisers: one on another is a variable filter of unknown strength.",
        "Take one off, or meter through both and count neither.",
    )


def _uneven(rig: Rig) -> Iterator[Advice]:
    if rig.focal_mm is None:
        return
    for piece in rig.glass:
        glass = piece.glass
        if glass.kind != "variable" or glass.stops_max is None:
            continue
        known = usable_at(glass, rig.focal_mm)
        pair = _pair(rig.body, glass)
        if known is not None:
            if piece.stops > known:
                yield _found(
                    "past_clean_end",
                    Severity.CAUTION,
                    f"{piece.name} is set to {piece.stops:.1f} stops; at {rig.focal_mm:g} mm your frames were clean"
                    f" up to {known:.1f}.",
                    "Turn it back and add solid filters.",
                    stops=piece.stops,
                    usable=known,
                )
            continue
        uneven = spread(piece.stops, rig.focal_mm, pair)
        if uneven >= UNEVEN_WARNING_STOPS:
            end = usable_for_spread(UNEVEN_WARNING_STOPS, rig.focal_mm, pair)
            yield _found(
                "uneven",
                Severity.CAUTION,
                f"At {rig.focal_mm:g} mm and {piece.stops:.1f} stops {piece.name} darkens the picture unevenly by about"
                f" {uneven:.0f} {'stop' if uneven < 1.5 else 'stops'}.",
                f"Stay below about {end:.1f} stops, or tell the kit how far your frames were clean.",
                spread_stops=uneven,
                usable=end,
            )


def _pair(body: Body | None, glass: Glass) -> Pair:
    weak = max(1.0, glass.stops)
    if body is None:
        return Pair(weak)
    return Pair(weak, width_mm=body.sensor_width_mm, height_mm=body.sensor_height_mm)


def _rims(rig: Rig) -> Iterator[Advice]:
    lens, focal = rig.lens, rig.focal_mm
    rims = [
        Rim(piece.glass.rim_depth_mm, piece.glass.clear_mm or 0.0)
        for piece in rig.glass
        if piece.glass.mount in THREADED and piece.glass.rim_depth_mm
    ]
    if lens is None or focal is None or not rims:
        return
    body = rig.body or Body()
    half = (body.sensor_width_mm**2 + body.sensor_height_mm**2) ** 0.5 / 2 + lens.shift_mm
    if lens.shift_mm:
        yield _found(
            "shift",
            Severity.NOTE,
            f"Shifted by up to {lens.shift_mm:g} mm the picture reaches further out, so rims clip sooner.",
            "Check the corner on the shifted side.",
            shift_mm=lens.shift_mm,
        )
    if lens.clear_from_mm and lens.clear_rims_mm and lens.clear_opening_mm:
        clear_rims = [Rim(lens.clear_rims_mm, lens.clear_opening_mm)]
        pupil = pupil_depth(lens.clear_from_mm, clear_rims, half, rig.f_number)
        clear = widest_clear(
            [Rim(rim.depth_mm, rim.clear_mm or lens.clear_opening_mm) for rim in rims], pupil, half, rig.f_number
        )
        if focal < clear:
            yield _found(
                "rims_clip",
                Severity.CAUTION,
                f"{len(rims)} {'rim' if len(rims) == 1 else 'rims'} clear from about {clear:.0f} mm (give or take 1),"
                f" and this is {focal:g} mm.",
                "Zoom in, take a rim off, or crop.",
                clear_mm=clear,
            )
    elif focal < WIDE_FOR_RIMS * body.sensor_width_mm and len(rims) > 1:
        yield _found(
            "rims_unknown",
            Severity.NOTE,
            f"{len(rims)} rims on {focal:g} mm may darken the corners; nothing is known of this lens yet.",
            "Shoot a plain sky through them and tell the lens from which focal length the corners were clear.",
        )


def _metering(rig: Rig) -> Iterator[Advice]:
    through = rig.through_stops
    if through is None:
        through = sum(piece.stops for piece in rig.glass if piece.in_reading)
    limit = rig.body.sees_through_stops if rig.body else Body().sees_through_stops
    if through > limit:
        yield _found(
            "doubtful_reading",
            Severity.CAUTION,
            f"You metered through {through:.1f} stops; this body meters through about {limit:g}.",
            "Take the dark filters off and meter again.",
            stops=through,
            limit=limit,
        )
    for piece in rig.glass:
        # A polariser goes on before metering as often as after it.
        if piece.glass.kind == "variable" or not piece.polarises:
            continue
        counted, wrong = (
            ("counts as on while metering. If it was not", "dark")
            if piece.in_reading
            else ("counts as put on after metering. If it was on", "bright")
        )
        why = f"{piece.name} {counted}, this frame comes out {piece.stops:.1f} stops too {wrong}."
        yield _found("was_it_on", Severity.NOTE, why, "Say so beside the reading.", stops=piece.stops)


def _light(rig: Rig) -> Iterator[Advice]:
    dark = sum(piece.stops for piece in rig.glass)
    if dark <= STRAY_LIGHT_STOPS or rig.body is None:
        return
    if rig.body.eyepiece == "optical":
        cure = "Close the eyepiece shutter." if rig.body.eyepiece_shutter else "Cover the eyepiece."
        yield _found(
            "eyepiece",
            Severity.CAUTION,
            "Past 13 stops the open eyepiece lets in enough light to show.",
            cure,
            stops=dark,
        )


def _aperture(rig: Rig) -> Iterator[Advice]:
    if rig.body is None or rig.f_number is None or rig.body.film:
        return
    wide = fwhm_pixels(rig.f_number, rig.body.pitch_um)
    if wide < SOFT_PIXELS + 0.1:
        return
    soft = f_number_for(SOFT_PIXELS, rig.body.pitch_um)
    hard = wide > HARD_PIXELS
    yield _found(
        "diffraction",
        Severity.CAUTION if hard else Severity.NOTE,
        f"f/{rig.f_number:.2g} {'loses' if hard else 'softens'} the finest detail on {rig.body.pitch_um:g} µm pixels.",
        f"Sharp up to about f/{soft:.2g}: filters instead of a small aperture.",
        spot_pixels=wide,
    )


def _front(rig: Rig) -> Iterator[Advice]:
    lens = rig.lens
    if lens is None or not rig.glass:
        return
    if lens.rotating_front and any(piece.glass.kind in {"graduated", "polariser", "combined"} for piece in rig.glass):
        yield _found(
            "rotating_front",
            Severity.NOTE,
            "The front of this lens turns when it focuses.",
            "Focus first, then set the graduated filter and the polariser again.",
        )
    if any(piece.glass.mount in THREADED or piece.glass.mount == "plate" for piece in rig.glass):
        yield _found(
            "hood", Severity.NOTE, "The hood does not fit over filters.", "Shade the front with a hat or a card."
        )
