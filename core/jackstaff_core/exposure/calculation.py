"""Base reading, glass, aperture and ISO into one exposure time, every step visible.

    T = t0 * 2^(stops on for the shot - stops on at the metering) * (N/N0)^2 * (S0/S)

A filter that is on both times cancels exactly (filters/on_lens.py). Counted on the exact scale by default; *as
marked* counts with the printed numbers instead (1/60 x 1024 = 17.07 s rather than 16 s). Stops are + when they
lengthen the time.

Where the light moves, T is the time whose integral of light is the same (moving_light/end.py), film last of all.

Source: reciprocity law H = E t with E ~ transmittance / N^2; exposure index after ISO 2721 and
ISO 12232. Limits: 8 glasses each time, 30 stops of what adds, 1/32000 s to 24 h. Verdict: computed, on an estimated
plus-or-minus.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Annotated

from ..camera.reading import (
    Reading,
    ReadingGiven,
    Settings,
    SettingsGiven,
    fill_settings,
    metered_exposure,
    two_meanings,
)
from ..camera.readout import DIAL_LIMIT
from ..camera.reciprocity import LawGiven, Table, slope
from ..filters.on_lens import MOST_GLASSES, ChangeKind, GlassGiven, LensChange, OnLens, filters_of, lens_changes
from ..moving_light.end_of_exposure import (
    MOST_MOVED,
    ExposureEnd,
    ExposureEndQuestion,
    check_reading_still_valid,
    exposure_end,
)
from ..moving_light.integral import Path, filled_metered_seconds
from ..scales.ladders import (
    LONGEST_DIAL,
    LONGEST_SECONDS,
    SHORTEST_DIAL,
    SHORTEST_SECONDS,
    Mark,
    Scale,
    Step,
    aperture_marks,
    dial_marks,
)
from ..scales.spoken import Rounded, rounded, time_in_words
from ..scales.uncertainty import reading_sd, sure_within
from ..wire.marks import Between, Size
from ..words.advice import Advice, Severity
from ..words.refusal import Refusal, within

STRAY_LIGHT_STOPS = 13.0
"""Above this a leak nobody sees without glass shows in the frame."""
SUN_TEMPTS_STOPS = 9.0
"""From here on glass is dark enough that people are tempted to look at the sun through it; its doubt counts with it."""
WORTH_SAYING_STOPS = 0.05
"""Exact and as-marked answers closer than this are not worth a word."""


class Counting(StrEnum):
    """Which numbers the sum is done with."""

    EXACT = "exact"
    AS_MARKED = "as_marked"


METER_AGAIN_STOPS = 1 / 3
"""Light that has moved further than this since the metering wants a new reading."""


@dataclass(frozen=True, slots=True)
class MovingLight:
    """How the light moves [stops/min] and the sd of that, and how long ago it was metered [s].

    ``moved_stops`` is how far it has been seen to move since, with the sd of that; None where nobody watched.
    """

    stops_per_minute: float
    rate_sd: float = 0.0
    delay_seconds: float = 0.0
    moved_stops: float | None = None
    moved_sd: float = 0.0

    @property
    def since(self) -> float:
        """How far it has moved since the metering [stops]."""
        moved = self.moved_stops
        return moved if moved is not None else self.stops_per_minute * self.delay_seconds / 60

    @property
    def path(self) -> Path:
        """The light from the opening on."""
        rate = self.stops_per_minute / 60
        return Path((0.0,), (self.since,), rate, rate)

    def sd(self, seconds: float) -> float:
        """Return what not knowing the light better does to a frame of ``seconds`` [stops]."""
        delay = self.delay_seconds if self.moved_stops is None else 0.0
        return math.hypot(self.rate_sd * (seconds / 2 + delay) / 60, self.moved_sd)

    def closes(self, metered_seconds: float, film: LawGiven | None) -> ExposureEnd:
        """Return when a frame metered as ``metered_seconds`` has gathered enough."""
        return exposure_end(
            ExposureEndQuestion(
                metered_seconds,
                0.0,
                self.delay_seconds,
                self.stops_per_minute,
                film=film,
                moved_stops=self.moved_stops,
            )
        )


@dataclass(frozen=True, slots=True)
class Correction:
    """What the frame before taught: stops longer (+) or shorter, in its own words."""

    stops: Annotated[float, Between(-10, 10, "stops")]
    name: Annotated[str, Size(1, 80)]


@dataclass(frozen=True, slots=True)
class ExposureQuestion:
    """What was metered, what is on the lens and what is set: all that a time is worked out from."""

    reading: ReadingGiven
    stack: Annotated[tuple[GlassGiven, ...], Size(0, MOST_GLASSES)] = ()
    settings: SettingsGiven = field(default_factory=SettingsGiven)
    scale: Counting = Counting.EXACT
    dial_limit: float = DIAL_LIMIT
    film: LawGiven | None = None
    light: MovingLight | None = None
    chosen_seconds: float | None = None
    """A time somebody would rather use than the one that comes out: it is what is set, and what it costs is said."""
    fineness_seconds: float | None = None
    """What a person's timer counts in past the dial; None for what people say."""
    expected_sd: Annotated[float, Between(0, 10, "stops")] | None = None
    """Sd of a reading that nobody has taken yet [stops]: it is a forecast's. None for one that was metered."""
    correction: Correction | None = None
    purpose_stops: Annotated[float, Between(-5, 5, "stops")] = 0.0
    """Brighter (+) or darker than the meter's grey, on purpose [stops]: a wish, never an error."""
    monochrome: bool = False
    """Meant for black and white."""


@dataclass(frozen=True, slots=True)
class SumStep:
    """One line of the sum: what, how many stops it lengthens the time, the time so far.

    ``kind`` is reading, in_reading, off, turned, glass, measured, aperture, iso, correction, purpose, light, film or
    chosen; ``glass`` is the place in the stack that a step belongs to.
    """

    name: str
    stops: float
    seconds: float
    kind: str
    glass: int | None = None


@dataclass(frozen=True, slots=True)
class ApertureFits:
    """The aperture mark at which a chosen time is nearer to right, and what is left over there [stops, + brighter]."""

    aperture: str
    stops: float


@dataclass(frozen=True, slots=True)
class Turning:
    """The times [s] that a variable filter nobody has turned yet can still give; marks None in bulb."""

    from_seconds: float
    to_seconds: float
    from_mark: str | None
    to_mark: str | None


@dataclass(frozen=True, slots=True)
class Exposure:
    """The answer. Times in seconds, stops + = longer, ``sure_within_stops`` a 95 % half-width.

    ``set_seconds`` is what the shutter will do: the dial mark's exact time, or ``seconds`` in bulb; ``metered_seconds``
    what the light at the metering asks for, before it moves and before film. ``scene_ev100`` is the light itself, glass
    that was on when metered taken out.

    Where a variable filter was not turned yet, all of it stands at its weak end, and ``turning`` says how far the time
    reaches.

    With a chosen time ``set_seconds``, ``bulb`` and the dial's mark are its own, the sum ends at it, and
    ``residue_stops`` is how much brighter (+) or darker than right the frame will be: the light it gathers against the
    light that was asked for, film taken out. ``seconds`` stays what would be right, and ``fits_at`` the aperture that
    makes the chosen time right, where another one comes nearer.
    """

    seconds: float
    metered_seconds: float
    stops: float
    as_marked_seconds: float
    exact_seconds: float
    bulb: bool
    dial_mark: str | None
    set_seconds: float
    past_dial_stops: float
    sure_within_stops: float
    from_seconds: float
    to_seconds: float
    base_seconds: float
    scene_ev100: float | None
    glass_stops: float
    residue_stops: float
    steps: tuple[SumStep, ...]
    rounded: tuple[Rounded, ...]
    advice: tuple[Advice, ...]
    fits_at: ApertureFits | None = None
    turning: Turning | None = None


def expose(question: ExposureQuestion) -> Exposure:
    """Work out the exposure time.

    Raises
    ------
    Refusal
        Any part that cannot be read or lies outside the limits, with the place and the cure.

    Examples
    --------
    >>> question = ExposureQuestion(ReadingGiven("1/40", "9", "64"), (GlassGiven(stops=10),))
    >>> answer = expose(question)
    >>> round(answer.seconds, 1), answer.bulb, [step.kind for step in answer.steps]
    (25.4, False, ['reading', 'glass'])
    """
    dial_limit = within("dial_limit", question.dial_limit, SHORTEST_DIAL, LONGEST_DIAL, "s")
    reading = metered_exposure(question.reading, question.settings, in_part=True)
    settings = fill_settings("settings", question.settings, reading.settings, reading.step)
    stack = filters_of("stack", question.stack)
    exchanged = lens_changes(stack, reading.through)
    film, light = question.film, check_light(question.light)
    correction, purpose = question.correction, within("purpose_stops", question.purpose_stops, -5, 5, "stops")
    sums = {
        counting: tuple(_sum(reading, exchanged, settings, counting, film, light, correction, purpose))
        for counting in Counting
    }
    exact, marked = sums[Counting.EXACT][-1].seconds, sums[Counting.AS_MARKED][-1].seconds
    steps = sums[question.scale]
    seconds = steps[-1].seconds
    _bounded(seconds)
    marks = dial_marks(dial_limit, reading.step)
    metered_seconds = _metered(steps)
    chosen = question.chosen_seconds
    if chosen is not None:
        within("chosen_seconds", chosen, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    past = math.log2((chosen or seconds) / marks.marks[-1].exact)
    bulb = past > 0.5 / reading.step.per_stop
    mark = None if bulb else marks.nearest(chosen or seconds)
    will = mark.exact if mark else chosen or seconds
    residue = 0.0
    if chosen is not None:
        residue = _residue(metered_seconds, will, film, light)
        steps = (*steps, SumStep("Chosen time", math.log2(will / seconds), will, "chosen"))
    doubts = [reading_sd(reading.step), *(change.sd for change in exchanged)]
    if question.expected_sd is not None:
        doubts.append(question.expected_sd)
    sure = sure_within([*doubts, light.sd(seconds)] if light else doubts)
    if film:
        # A stop of doubt in the metered time is p stops of doubt in the corrected one.
        sure *= slope(film, metered_seconds)
    on = sum(glass.total for glass in stack)
    turning = None
    if open_stops := sum(change.open_stops for change in exchanged):
        turned = (LensChange(ChangeKind.TURNED, "", open_stops, 0.0, 0.0, None, None),)
        dense = tuple(_sum(reading, (*exchanged, *turned), settings, question.scale, film, light, correction, purpose))[
            -1
        ].seconds
        turning = Turning(seconds, dense, *(_label(each, marks, reading.step) for each in (seconds, dense)))
    return Exposure(
        seconds=seconds,
        metered_seconds=metered_seconds,
        stops=math.log2(seconds / steps[0].seconds),
        as_marked_seconds=marked,
        exact_seconds=exact,
        bulb=bulb,
        dial_mark=mark.label if mark else None,
        set_seconds=will,
        past_dial_stops=max(past, 0.0),
        sure_within_stops=sure,
        from_seconds=seconds * 2**-sure,
        to_seconds=seconds * 2**sure,
        base_seconds=steps[0].seconds,
        scene_ev100=_scene(reading, stack),
        glass_stops=on,
        residue_stops=residue,
        steps=steps,
        rounded=tuple(
            Rounded(each.seconds, _residue(metered_seconds, each.seconds, film, light), each.mark)
            for each in _rounded(seconds, marks, reading.step, question.fineness_seconds)
        ),
        advice=(
            *_advice(question, reading.step, exact, marked, past if bulb else None, stack),
            *(_light_advice(light, light.closes(metered_seconds, film)) if light else ()),
        ),
        fits_at=_fits_at(residue, settings.aperture.exact, reading.step),
        turning=turning,
    )


def _label(seconds: float, marks: Scale, step: Step) -> str | None:
    """Return the dial's mark for a time [s], None in bulb."""
    past = math.log2(seconds / marks.marks[-1].exact)
    return None if past > 0.5 / step.per_stop else marks.nearest(seconds).label


def _scene(reading: Reading, stack: tuple[OnLens, ...]) -> float | None:
    """Return the EV at ISO 100 of the light itself; None for a shutter time alone."""
    if not reading.whole:
        return None
    return reading.scene_ev100 + sum(glass.total for glass in stack if glass.in_reading)


_WORTH_AN_APERTURE = 0.1
"""A chosen time that is off by less [stops] is not worth another aperture."""
_WIDEST, _SMALLEST = 0.7, 64.0
"""Ends of the ladder of marks; whether a lens goes so far is its owner's question."""


def _fits_at(residue: float, f_number: float, step: Step) -> ApertureFits | None:
    """Return the mark that takes most of a chosen time's residue back: light goes by the square of the f-number."""
    if abs(residue) < _WORTH_AN_APERTURE:
        return None
    wanted = f_number * 2 ** (residue / 2)
    if not _WIDEST <= wanted <= _SMALLEST:
        return None
    mark = aperture_marks(step).nearest(wanted)
    left = residue - 2 * math.log2(mark.exact / f_number)
    return ApertureFits(mark.label, left) if abs(left) < abs(residue) - _WORTH_AN_APERTURE / 2 else None


def check_light(light: MovingLight | None) -> MovingLight | None:
    """Return the light as it was given.

    Raises
    ------
    Refusal
        One of its numbers is out of bounds, or it has moved too far since the metering.
    """
    if light:
        within("light.stops_per_minute", light.stops_per_minute, -30, 30, "stops a minute")
        within("light.rate_sd", light.rate_sd, 0, 5, "stops a minute")
        within("light.delay_seconds", light.delay_seconds, 0, LONGEST_SECONDS, "s")
        within("light.moved_sd", light.moved_sd, 0, 20, "stops")
        if light.moved_stops is not None:
            within("light.moved_stops", light.moved_stops, -MOST_MOVED, MOST_MOVED, "stops")
        check_reading_still_valid("light.delay_seconds", light.stops_per_minute, light.delay_seconds)
    return light


_BECAME = {
    ChangeKind.STAYED: ", on when metered",
    ChangeKind.OFF: " off",
    ChangeKind.TURNED: " turned",
    ChangeKind.ON: "",
}


def _metered(steps: tuple[SumStep, ...]) -> float:
    """Return the time the metering's light asks for, before light and film."""
    return next(step.seconds for step in reversed(steps) if step.kind not in ("light", "film"))


def _sum(
    reading: Reading,
    exchanged: tuple[LensChange, ...],
    settings: Settings,
    counting: Counting,
    film: LawGiven | None,
    light: MovingLight | None,
    correction: Correction | None,
    purpose_stops: float,
) -> Iterator[SumStep]:
    """Yield the sum line by line, each carrying the running time; film acts last, on the metered time."""
    exact = counting is Counting.EXACT
    metered_at = reading.settings
    seconds = reading.shutter.exact if exact else reading.shutter.printed
    yield SumStep("Reading", 0.0, seconds, "reading")
    for change in exchanged:
        seconds *= 2**change.stops
        name = change.name + _BECAME[change.kind]
        yield SumStep(name, change.stops, seconds, change.kind.value, change.on)
        if change.offset:
            seconds *= 2**change.offset
            darker = "darker" if change.offset > 0 else "lighter"
            yield SumStep(f"{change.name} measures {darker}", change.offset, seconds, "measured", change.on)
    from_n, to_n = ((value.exact if exact else value.printed) for value in (metered_at.aperture, settings.aperture))
    if move := 2 * math.log2(to_n / from_n):
        seconds *= 2**move
        yield SumStep(
            f"Aperture f/{metered_at.aperture.printed:g} to f/{settings.aperture.printed:g}", move, seconds, "aperture"
        )
    from_s, to_s = ((value.exact if exact else value.printed) for value in (metered_at.iso, settings.iso))
    if move := math.log2(from_s / to_s):
        seconds *= 2**move
        yield SumStep(f"ISO {metered_at.iso.printed:g} to {settings.iso.printed:g}", move, seconds, "iso")
    if correction:
        seconds *= 2**correction.stops
        yield SumStep(correction.name, correction.stops, seconds, "correction")
    if purpose_stops:
        seconds *= 2**purpose_stops
        yield SumStep("On purpose", purpose_stops, seconds, "purpose")
    metered, film_end = seconds, film.corrected(seconds) if film else None
    if light:
        # What no frame can be is told with its cure before the light is asked how it would fill it.
        _bounded(metered)
        # A frame that never fills keeps the time the metering asks for; the advice says so.
        seconds = light.closes(metered, None).close_after_seconds or metered
        film_end = film_end and (light.closes(metered, film).close_after_seconds or film_end)
        if abs(moved := math.log2(seconds / metered)) > 1e-6:
            rising = "rising" if moved < 0 else "falling"
            yield SumStep(f"Light {rising}", moved, seconds, "light")
    if film_end and (longer := math.log2(film_end / seconds)) > 0:
        past = isinstance(film, Table) and film.extrapolates(seconds)
        named = "Film loses speed, past the end of its table" if past else "Film loses speed"
        yield SumStep(named, longer, film_end, "film")


def _bounded(seconds: float) -> None:
    if seconds > LONGEST_SECONDS * (1 + 1e-12):
        over = math.log2(seconds / LONGEST_SECONDS)
        raise Refusal(
            "stack",
            "The sum comes to more than 24 h.",
            f"Take off at least {over:.1f} stops of filters, or open the aperture or raise the ISO by as much.",
        )
    if seconds < SHORTEST_SECONDS * (1 - 1e-12):
        under = math.log2(SHORTEST_SECONDS / seconds)
        raise Refusal(
            "settings",
            "The sum comes to less than 1/32000 s.",
            f"Add at least {under:.1f} stops of filters, or stop down or lower the ISO by as much.",
        )


def needs_sun_caution(stops: float, sds: Iterable[float]) -> bool:
    """Return whether filters may be so dark that people look at the sun through them.

    Parameters
    ----------
    stops : float
        Of all together.
    sds : Iterable[float]
        How well each is known [stops].
    """
    return stops + sure_within(sds) >= SUN_TEMPTS_STOPS


def metered_seconds_for(seconds: float, film: LawGiven | None, light: MovingLight | None) -> float:
    """Return the metered time, at the metering's light, that an exposure of ``seconds`` just fills [s].

    Parameters
    ----------
    seconds : float
        How long the shutter is open [s].
    film : LawGiven | None
        Its law, None for a sensor.
    light : MovingLight | None
        How it moves, None for steady.
    """
    return filled_metered_seconds(light.path if light else _STEADY, film, seconds)


_STEADY = Path.steady(0.0, 0.0)


def _residue(metered: float, will: float, film: LawGiven | None, light: MovingLight | None) -> float:
    """Return how much brighter (+) than asked for a frame of ``will`` seconds comes out [stops at the metering]."""
    return math.log2(metered_seconds_for(will, film, light) / metered)


def _rounded(seconds: float, marks: Scale, step: Step, fineness: float | None) -> tuple[Rounded, ...]:
    """Return the times either side that are easier to set or to count.

    What each costs is a matter of the light it gathers.
    """
    if fineness is not None:
        within("fineness_seconds", fineness, 1, 900, "s")
    last = marks.marks[-1]
    if math.log2(seconds / last.exact) <= 0.5 / step.per_stop:
        return _on_dial(seconds, marks.nearest(seconds), marks)
    # Below the first time a coarse timer counts stands the dial's last mark.
    on_dial = (Rounded(last.exact, math.log2(last.exact / seconds), last.label),)
    beyond = tuple(each for each in rounded(seconds, fineness) if each.seconds > last.exact)
    return beyond if len(beyond) != 1 or beyond[0].seconds < seconds else (*on_dial, *beyond)


def _on_dial(seconds: float, mark: Mark, marks: Scale) -> tuple[Rounded, ...]:
    """Return the dial's marks either side, each with its cost; nothing when the answer sits on one."""
    sides = marks.neighbours(seconds)
    if len(sides) == 1 and abs(math.log2(mark.exact / seconds)) < 1e-6:
        return ()
    return tuple(Rounded(side.exact, math.log2(side.exact / seconds), side.label) for side in sides)


def _light_advice(light: MovingLight, closes: ExposureEnd) -> Iterator[Advice]:
    since = light.since
    # Light that was watched all the while is known: it wants no new reading.
    if light.moved_stops is None and abs(since) > METER_AGAIN_STOPS:
        yield Advice(
            "meter_again",
            Severity.CAUTION,
            f"The light has moved about {abs(since):.1f} stop since the reading: meter again.",
            {"stops": since},
        )
    yield from closes.advice


def _advice(
    question: ExposureQuestion,
    step: Step,
    exact: float,
    marked: float,
    past: float | None,
    stack: tuple[OnLens, ...],
) -> Iterator[Advice]:
    glass_stops = sum(glass.total for glass in stack)
    if meanings := two_meanings(question.reading.shutter, step):
        fraction, seconds = meanings
        yield Advice(
            "shutter_two_meanings",
            Severity.NOTE,
            f"{seconds.label} is taken as {seconds.label} seconds. If the display meant {fraction.label}, say so.",
            {"taken": seconds.label, "other": fraction.label},
        )
    if question.expected_sd is not None:
        yield Advice(
            "not_metered",
            Severity.CAUTION,
            f"The reading is a forecast, give or take {2 * question.expected_sd:.1f} stop: meter before you open.",
            {"stops": 2 * question.expected_sd},
        )
    if question.monochrome:
        yield Advice(
            "monochrome",
            Severity.NOTE,
            "For black and white a cast does not matter. Look at the tones in a black-and-white preview, keep the sky's"
            " brightest part below full, and the ISO low unless you want grain.",
            {},
        )
    apart = math.log2(marked / exact)
    if abs(apart) >= WORTH_SAYING_STOPS:
        yield Advice(
            "marked_differs",
            Severity.NOTE,
            f"Counted with the printed numbers it is {time_in_words(marked)},"
            f" on the exact scale {time_in_words(exact)}:"
            f" {abs(apart):.2f} stop apart.",
            {"as_marked_seconds": marked, "exact_seconds": exact, "stops": apart},
        )
    if past is not None:
        yield Advice(
            "bulb",
            Severity.NOTE,
            f"Past the {question.dial_limit:g} s dial by {past:.1f} stops: set bulb, bring the remote.",
            {"dial_limit": question.dial_limit, "stops": past},
        )
    if glass_stops > STRAY_LIGHT_STOPS:
        yield Advice(
            "stray_light",
            Severity.CAUTION,
            "Cover the eyepiece and close the gaps between filters: past 13 stops a leak nobody sees shows.",
            {"stops": glass_stops},
        )
    if needs_sun_caution(glass_stops, (glass.sd for glass in stack)):
        yield Advice(
            "sun_eyes",
            Severity.HARM,
            "Never look at the sun through this filter. It does not protect eyes.",
            {"stops": glass_stops},
        )
