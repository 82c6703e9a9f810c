"""Quick drills: a small question of the trade, made from a seed and one's own filters, answered by the core itself.

    dial       a time some stops further along the dial
    notation   what a rim says, in stops
    stack      filters on a base time, two or three where the bag has them
    trade      the same light at another f-stop and ISO
    one_reading  one pair remembered, another base asked
    light      a long time while the light moves
    plausible  can this reading be true under that sky?
    defect     what a fault in a picture comes from

A time is worked out by expose(), a rim by density(), a sky by fits_sky(), a fault by FINDINGS: a drill holds no
arithmetic of its own, and what it calls right is what the bench would say. The same seed makes the same drill.

Source: the models it asks. Limits: up to an hour; light that moves at most a stop a minute. Verdict: computed; defects
are class.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated

from ..camera.reading import ReadingGiven, SettingsGiven, metered_exposure
from ..exposure.calculation import ExposureQuestion, MovingLight, SumStep, expose
from ..filters.labels import density
from ..filters.on_lens import GlassGiven
from ..log.frame import Defect
from ..log.review import FINDINGS, Finding
from ..scales.ladders import Step, shutter_marks
from ..scales.spoken import stops_shown, time_in_words
from ..sky.plausibility import SkyPick, doubt_about_sky
from ..wire.marks import Between, Size
from ..words.refusal import Refusal
from .dryrun.develop import Developed, Fault, FaultCode, drawn_frame
from .dryrun.scenario import Framing
from .dryrun.shipped import SHIPPED

TOLERANCE_STOPS = 1 / 3
"""A time this near is right in the field: the dial has no finer mark."""
LONGEST_S = 3600.0
_MOST_TRIES = 200


class DrillKind(StrEnum):
    """What a drill asks about."""

    DIAL = "dial"
    NOTATION = "notation"
    STACK = "stack"
    TRADE = "trade"
    ONE_READING = "one_reading"
    LIGHT = "light"
    PLAUSIBLE = "plausible"
    DEFECT = "defect"


class Answered(StrEnum):
    """What is answered: a time as people say it, a number of stops, or one of the choices."""

    TIME = "time"
    STOPS = "stops"
    CHOICE = "choice"


@dataclass(frozen=True, slots=True)
class OwnGlass:
    """A solid filter of one's own bag, as it measures."""

    name: Annotated[str, Size(1, 60)]
    stops: Annotated[float, Between(0.5, 15, "stops")]


Seed = Annotated[int, Between(0, 2**31)]
OwnGlasses = Annotated[tuple[OwnGlass, ...], Size(0, 24)]
Mistakes = Annotated[tuple[Annotated[str, Size(1, 24)], ...], Size(0, 40)]
"""What one's own log shows, by the codes of its statistics; those that are no defect ask for nothing here."""


@dataclass(frozen=True, slots=True)
class DrillQuestion:
    """Which drill: its kind and its seed, the solid filters of the bag it draws on, and what one's own log shows."""

    kind: DrillKind
    seed: Seed
    glass: OwnGlasses = ()
    mistakes: Mistakes = ()


@dataclass(frozen=True, slots=True)
class Pictured:
    """A frame with one fault to draw, of one of the places that are drawn."""

    drawn: str
    developed: Developed


@dataclass(frozen=True, slots=True)
class Drill:
    """One drill with what is right: seconds, stops, or the place of a choice. ``steps`` is the sum on the staff.

    An answer within ``within_stops`` is right; a choice is right or wrong. The sum ends at the aperture and ISO set.
    """

    kind: DrillKind
    asks: str
    answered: Answered
    choices: tuple[str, ...]
    right: float
    right_text: str
    within_stops: float
    why: str
    steps: tuple[SumStep, ...] = ()
    set_aperture: str = "8"
    set_iso: str = "100"
    picture: Pictured | None = None
    """What is seen, where it can be drawn: the question then names no fault."""


STARTER = (OwnGlass("Slot ND 3", 3.0), OwnGlass("Ring ND 6", 6.0), OwnGlass("Slot ND 10", 10.0))
"""What is drawn on where the bag holds nothing solid."""
_APERTURES = ("2.8", "4", "5.6", "8", "11", "16")
_ISOS = ("64", "100", "200", "400", "800")


def drill(question: DrillQuestion) -> Drill:
    """Return the drill of this kind and seed: the same seed asks the same.

    Where the bag holds nothing that such a question can be asked of, :data:`STARTER` is drawn on.
    """
    dice = random.Random(f"{question.kind} {question.seed}")  # noqa: S311 (a lesson, no secret)
    # Filters that no such question can be asked of give way to everybody's.
    for glass in (question.glass, STARTER):
        for _ in range(_MOST_TRIES if glass else 0):
            if (made := _MAKERS[question.kind](dice, replace(question, glass=glass))) is not None:
                return made
    raise RuntimeError(f"no {question.kind} of seed {question.seed}")


def _base(dice: random.Random, low: float, high: float) -> str:
    """Return a full stop of the dial between two times [s]."""
    return dice.choice(shutter_marks(Step.FULL).between(low, high)).label


def _timed(
    kind: DrillKind,
    asks: str,
    base: str,
    stack: Sequence[OwnGlass],
    why: str,
    *,
    read_at: tuple[str, str] = ("8", "100"),
    at: tuple[str, str] = ("8", "100"),
    light: MovingLight | None = None,
) -> Drill | None:
    """Return a drill whose answer is a time that the bench works out; None where it is out of bounds.

    ``read_at`` and ``at`` are f-stop and ISO, as metered and as set.
    """
    question = ExposureQuestion(
        ReadingGiven(base, *read_at),
        tuple(GlassGiven(stops=each.stops) for each in stack),
        SettingsGiven(*at),
        light=light,
    )
    try:
        found = expose(question)
    except Refusal:
        return None
    if not 1 / 8000 <= found.seconds <= LONGEST_S:
        return None
    steps = tuple(
        replace(step, name=stack[step.glass].name) if step.glass is not None else step for step in found.steps
    )
    right = found.seconds
    return Drill(kind, asks, Answered.TIME, (), right, time_in_words(right), TOLERANCE_STOPS, why, steps, *at)


def _dial(dice: random.Random, _: DrillQuestion) -> Drill | None:
    stops = dice.randint(2, 10)
    base = _base(dice, 1 / 1000, 4)
    why = f"Each stop doubles. {stops} stops are {2**stops} times; three stops are 8, ten are 1000 (1024)."
    return _timed(
        DrillKind.DIAL,
        f"{_time(base)}, {stops_shown(3 * stops)} longer. Which time?",
        base,
        (OwnGlass(stops_shown(3 * stops), float(stops)),),
        why,
    )


def _notation(dice: random.Random, question: DrillQuestion) -> Drill | None:
    stops = dice.choice([*range(1, 11), *(max(1, round(each.stops)) for each in question.glass)])
    label = dice.choice([f"density {stops * 0.3:.1f}", f"factor {2**stops}"])
    read = density(label)
    if read.ambiguous or not read.readings:
        return None
    right = read.readings[0].stops
    why = "0.3 of density is a stop, and each stop doubles the factor: ND 0.9 is x8 is 3 stops, ND 3.0 is x1000 is 10."
    return Drill(
        DrillKind.NOTATION,
        f"A rim says: {label}. How many stops?",
        Answered.STOPS,
        (),
        right,
        f"{right:.1f} stops",
        TOLERANCE_STOPS,
        why,
    )


def _stack(dice: random.Random, question: DrillQuestion) -> Drill | None:
    on = dice.sample(question.glass, min(len(question.glass), dice.choice((2, 2, 3))))
    base = _base(dice, 1 / 500, 2)
    names = " and ".join(each.name for each in on)
    total = sum(each.stops for each in on)
    why = f"Stops add: together {total:.1f}. Factors would multiply."
    return _timed(DrillKind.STACK, f"The meter says {_time(base)}. {names} on the lens. Which time?", base, on, why)


def _trade(dice: random.Random, _: DrillQuestion) -> Drill | None:
    aperture, to = dice.sample(_APERTURES, 2)
    iso, iso_to = dice.choice(_ISOS), dice.choice(_ISOS)
    base = _base(dice, 1 / 250, 8)
    why = "Two steps of the f-number double make two stops; half the ISO takes twice the time."
    return _timed(
        DrillKind.TRADE,
        f"{_time(base)} at f/{aperture}, ISO {iso}. At f/{to}, ISO {iso_to}?",
        base,
        (),
        why,
        read_at=(aperture, iso),
        at=(to, iso_to),
    )


def _one_reading(dice: random.Random, question: DrillQuestion) -> Drill | None:
    piece = dice.choice(question.glass)
    known, base = _base(dice, 1 / 500, 1 / 8), _base(dice, 1 / 500, 4)
    if known == base:
        return None
    pair = _timed(DrillKind.ONE_READING, "", known, (piece,), "")
    if pair is None:
        return None
    why = "Count the stops from the reading you remember to the one you have, and go as far from the time you remember."
    asks = f"Remember one: with {piece.name}, {_time(known)} becomes {pair.right_text}. What does {_time(base)} become?"
    return _timed(DrillKind.ONE_READING, asks, base, (piece,), why)


def _light(dice: random.Random, question: DrillQuestion) -> Drill | None:
    piece = dice.choice(question.glass)
    base = _base(dice, 1 / 250, 4)
    rate = dice.choice((-0.5, -0.25, 0.25, 0.5, 1.0))
    still = _timed(DrillKind.LIGHT, "", base, (piece,), "")
    if still is None or not 60 <= still.right <= 600:
        return None
    moves = "brightens" if rate > 0 else "fades"
    how = "half a stop" if abs(rate) == 0.5 else "a quarter of a stop" if abs(rate) == 0.25 else "a stop"
    why = "While it is open the light goes on moving: fading light asks for more than its own time, rising for less."
    asks = f"{still.right_text} by the meter, and the light {moves} by {how} a minute. When is it gathered?"
    made = _timed(DrillKind.LIGHT, asks, base, (piece,), why, light=MovingLight(rate))
    # Where it hardly matters there is nothing to learn.
    return made if made and abs(math.log2(made.right / still.right)) > TOLERANCE_STOPS else None


_SKIES = {
    SkyPick.FULL_SUN: "Full sun",
    SkyPick.OVERCAST: "Overcast",
    SkyPick.SHADE: "Open shade",
    SkyPick.DUSK: "Dusk",
}
_FITS = ("It fits", "Brighter than that light can be", "Darker than that light gives")
_CODES = {"too_bright": 1, "too_dark": 2}
_CLEAR_OF_STOPS = 0.7
"""A reading this near to where the verdict turns is no fair question."""


def _plausible(dice: random.Random, _: DrillQuestion) -> Drill | None:
    sky = dice.choice(tuple(_SKIES))
    shutter, aperture, iso = _base(dice, 1 / 4000, 8), dice.choice(_APERTURES), dice.choice(_ISOS)
    light = metered_exposure(ReadingGiven(shutter, aperture, iso), SettingsGiven()).ev100
    verdicts = {_verdict(light + by, sky) for by in (-_CLEAR_OF_STOPS, 0.0, _CLEAR_OF_STOPS)}
    if len(verdicts) != 1 or not -6 < light < 20:
        return None
    (right,) = verdicts
    advice = doubt_about_sky(light, sky)
    low, high = sky.band
    why = advice.text if advice else f"Such light gives EV {low:.0f} to {high:.0f} at ISO 100; this is {light:.0f}."
    return Drill(
        DrillKind.PLAUSIBLE,
        f"{_SKIES[sky]}. The meter says {_time(shutter)} at f/{aperture}, ISO {iso}, nothing on the lens. Can that be?",
        Answered.CHOICE,
        _FITS,
        float(right),
        _FITS[right],
        0.0,
        why,
    )


def _verdict(light: float, sky: SkyPick) -> int:
    advice = doubt_about_sky(light, sky)
    return _CODES[advice.code] if advice else 0


def visible_defects(mistakes: Mistakes) -> tuple[Defect, ...]:
    """Return those of a log's mistakes that one sees in a picture."""
    return tuple(code for code in Defect if code in mistakes)


def _defect(dice: random.Random, question: DrillQuestion) -> Drill:
    findings = tuple(FINDINGS.values())
    own = visible_defects(question.mistakes)
    # What one's own frames show comes up twice in three times.
    found = FINDINGS[dice.choice(own)] if own and dice.random() < 2 / 3 else dice.choice(findings)
    choices = [found, *dice.sample([each for each in findings if each is not found], 3)]
    dice.shuffle(choices)
    right = choices.index(found)
    drawn = found.code.value in _DRAWN
    # Nobody sees in a drawing what a word would have to say.
    asks = "What went wrong in this picture?" if drawn else f"You see in the frame: {found.label.lower()}."
    return Drill(
        DrillKind.DEFECT,
        f"{asks} Where does it come from?",
        Answered.CHOICE,
        tuple(each.cause for each in choices),
        float(right),
        found.cause,
        0.0,
        found.cure,
        picture=_pictured(found, dice.choice(SHIPPED).framings[0]) if drawn else None,
    )


_DRAWN = {code.value: code for code in FaultCode if code is not FaultCode.FOCUS}
_WARM_MIRED, _BURNT_STOPS = 90.0, 2.5


def _pictured(found: Finding, framing: Framing) -> Pictured:
    """Return a picture with one fault, and else as right as it can be."""
    code = _DRAWN[found.code.value]
    stops = _BURNT_STOPS if code is FaultCode.CLIPPED else 0.0
    cast = _WARM_MIRED if code is FaultCode.CAST else 0.0
    fault = Fault(code, found.label, found.cure)
    return Pictured(framing.drawn, drawn_frame(framing, stops, (fault,), cast))


def _time(label: str) -> str:
    return label if "/" in label else f"{label} s"


_MAKERS: dict[DrillKind, Callable[[random.Random, DrillQuestion], Drill | None]] = {
    DrillKind.DIAL: _dial,
    DrillKind.NOTATION: _notation,
    DrillKind.STACK: _stack,
    DrillKind.TRADE: _trade,
    DrillKind.ONE_READING: _one_reading,
    DrillKind.LIGHT: _light,
    DrillKind.PLAUSIBLE: _plausible,
    DrillKind.DEFECT: _defect,
}
