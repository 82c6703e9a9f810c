"""What was metered and what will be set: dial marks or literal numbers, made exact.

A string is a dial mark ("1/60" is 1/64 s, "11" is f/11.314); a number, or a string that is no
mark ("1.7"), is literal. Both the exact and the printed number are kept, because some people
count with the one and some with the other.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Annotated

from ..filters.on_lens import MOST_GLASSES, GlassGiven, OnLens, filters_of
from ..scales.ladders import (
    LONGEST_SECONDS,
    SHORTEST_SECONDS,
    Mark,
    Step,
    aperture_marks,
    ev100,
    iso_marks,
    mark_value,
    shutter_marks,
)
from ..wire.marks import Size
from ..words.refusal import Refusal, within
from .readout import certain_shutter

Given = Annotated[str, Size(1, 24)] | float
"""A dial mark (string) or a literal number."""


@dataclass(frozen=True, slots=True)
class Dialled:
    """One dial value: exact, as printed, and the printed label (None = literal)."""

    exact: float
    printed: float
    label: str | None

    @classmethod
    def on(cls, mark: Mark) -> Dialled:
        """Return a value that is on a dial."""
        return cls(mark.exact, mark.printed, mark.label)

    @classmethod
    def literally(cls, number: float) -> Dialled:
        """Return a value as it was typed, exact and printed the same; no dial shows it."""
        return cls(number, number, None)


@dataclass(frozen=True, slots=True)
class Settings:
    """The aperture (f-number) and ISO a frame is shot at."""

    aperture: Dialled
    iso: Dialled


@dataclass(frozen=True, slots=True)
class Reading:
    """A base exposure: the time that is right at these settings with what was on the lens.

    ``whole`` is false where aperture or ISO were not said: times can be worked out from it, the light cannot.
    ``through`` is what was on the lens.
    """

    shutter: Dialled
    settings: Settings
    step: Step
    whole: bool = True
    through: tuple[OnLens, ...] = ()

    @property
    def through_stops(self) -> float:
        """What the filters of the reading take of the light [stops]."""
        return sum(glass.total for glass in self.through)

    @property
    def bare_seconds(self) -> float:
        """The time that would be right without them [s]."""
        return self.shutter.exact * math.exp2(-self.through_stops)

    @property
    def ev100(self) -> float:
        """What the reading says of the light, through whatever was on the lens."""
        return ev100(self.shutter.exact, self.settings.aperture.exact, self.settings.iso.exact)

    @property
    def scene_ev100(self) -> float:
        """The light itself, what was on the lens taken out."""
        return self.ev100 + self.through_stops


@dataclass(frozen=True, slots=True)
class SettingsGiven:
    """Aperture and ISO as they were dialled; None where the reading's are kept."""

    aperture: Given | None = None
    iso: Given | None = None


@dataclass(frozen=True, slots=True)
class ReadingGiven:
    """A camera's reading (shutter, aperture, iso), or a hand meter's (ev100), and the filters it was taken through."""

    shutter: Given | None = None
    aperture: Given | None = None
    iso: Given | None = None
    ev100: float | None = None
    step: Step = Step.THIRD
    through: Annotated[tuple[GlassGiven, ...], Size(0, MOST_GLASSES)] = ()


def shutter(field: str, given: Given, step: Step) -> Dialled:
    """Return a shutter time [s], 1/32000 s to 24 h.

    Parameters
    ----------
    field : str
        The name the caller knows it by.
    given : Given
        A dial mark as text, or seconds [s].
    step : Step
        Of the dial the mark is read on.

    Raises
    ------
    Refusal
        Unreadable, ambiguous or out of bounds.
    """
    if isinstance(given, str):
        found = certain_shutter(field, given, step)
        if found.mark:
            return Dialled(found.seconds, mark_value(found.mark), found.mark)
        return Dialled.literally(found.seconds)
    return Dialled.literally(within(field, given, SHORTEST_SECONDS, LONGEST_SECONDS, "s"))


def aperture(field: str, given: Given, step: Step) -> Dialled:
    """Return an f-number, f/0.5 to f/512 (pinholes included).

    Parameters
    ----------
    field : str
        The name the caller knows it by.
    given : Given
        A dial mark as text (``f/11``, ``11``), or the f-number.
    step : Step
        Of the dial the mark is read on.

    Raises
    ------
    Refusal
        No number, or one out of bounds.
    """
    if isinstance(given, str):
        label = given.strip().lower().removeprefix("f").lstrip("/ ").replace(",", ".")
        if mark := aperture_marks(step).mark(label):
            return Dialled.on(mark)
        given = _number(field, label, "an aperture", "Write it like f/11 or 11.")
    return Dialled.literally(within(field, given, 0.5, 512, "as an f-number"))


def iso(field: str, given: Given, step: Step) -> Dialled:
    """Return an ISO speed, 1 to 1,000,000.

    Parameters
    ----------
    field : str
        The name the caller knows it by.
    given : Given
        A dial mark as text (``ISO 100``, ``100``), or the speed.
    step : Step
        Of the dial the mark is read on.

    Raises
    ------
    Refusal
        No number, or one out of bounds.
    """
    if isinstance(given, str):
        label = given.strip().lower().removeprefix("iso").strip()
        if mark := iso_marks(step).mark(label):
            return Dialled.on(mark)
        given = _number(field, label, "an ISO speed", "Write it like 100.")
    return Dialled.literally(within(field, given, 1, 1_000_000, "as an ISO speed"))


def fill_settings(field: str, given: SettingsGiven, fallback: Settings | None, step: Step) -> Settings:
    """Return the settings given, each missing one taken from ``fallback``.

    Parameters
    ----------
    field : str
        The name the caller knows them by.
    given : SettingsGiven
        Aperture, ISO, or one of them.
    fallback : Settings | None
        Those of the reading; None where the meter has none of its own.
    step : Step
        Of the dial a mark is read on.

    Raises
    ------
    Refusal
        A setting is missing and there is nothing to fall back on.
    """
    if fallback is None:
        for name in ("aperture", "iso"):
            if getattr(given, name) is None:
                raise Refusal(
                    f"{field}.{name}",
                    "A hand-meter reading has no aperture or ISO of its own.",
                    "Give the aperture and ISO you will shoot at.",
                )
    shot_at = fallback.aperture if fallback and given.aperture is None else None
    speed = fallback.iso if fallback and given.iso is None else None
    return Settings(
        shot_at or aperture(f"{field}.aperture", given.aperture or 0.0, step),
        speed or iso(f"{field}.iso", given.iso or 0.0, step),
    )


_UNSAID = ReadingGiven(aperture=8.0, iso=100.0)
"""What stands for an aperture and an ISO that nobody moves: they cancel."""


def metered_exposure(given: ReadingGiven, settings: SettingsGiven, in_part: bool = False) -> Reading:
    """Return the base exposure, from a camera's reading or a hand meter's EV at the shot's settings.

    A hand meter's time is t = N^2 * 100 / (S * 2^EV) (APEX). Computed. ``in_part``: a shutter time alone will do where
    neither aperture nor ISO moves.

    Raises
    ------
    Refusal
        An EV [-20 to 25] beside a shutter time, a reading that is not whole, or a time outside 1/32000 s to 24 h.
    """
    through = filters_of("reading.through", given.through)
    if given.ev100 is not None:
        if given.shutter is not None:
            raise Refusal("reading.ev100", "A reading is either an EV or a shutter time.", "Leave one of them out.")
        ev = within("reading.ev100", given.ev100, -20, 25, "EV")
        shot = fill_settings("settings", settings, None, given.step)
        exact, printed = (
            aperture_number**2 * 100 / speed / 2.0**ev
            for aperture_number, speed in (
                (shot.aperture.exact, shot.iso.exact),
                (shot.aperture.printed, shot.iso.printed),
            )
        )
        within("reading.ev100", exact, SHORTEST_SECONDS, LONGEST_SECONDS, "s at these settings")
        return Reading(Dialled(exact, printed, None), shot, given.step, through=through)
    whole = given.aperture is not None and given.iso is not None
    if in_part and given.shutter is not None:
        unmoved = {
            name: getattr(_UNSAID, name)
            for name in ("aperture", "iso")
            if getattr(given, name) is None and getattr(settings, name) is None
        }
        given = replace(given, **unmoved)
    if given.shutter is None or given.aperture is None or given.iso is None:
        missing = next(name for name in ("shutter", "aperture", "iso") if getattr(given, name) is None)
        raise Refusal(f"reading.{missing}", "The reading is not whole.", "Give shutter, aperture and ISO, or an EV.")
    return Reading(
        shutter("reading.shutter", given.shutter, given.step),
        Settings(aperture("reading.aperture", given.aperture, given.step), iso("reading.iso", given.iso, given.step)),
        given.step,
        whole,
        through,
    )


def two_meanings(given: Given | None, step: Step) -> tuple[Mark, Mark] | None:
    """Return the fraction and the seconds a bare mark such as "4" could both mean, else None."""
    if not isinstance(given, str):
        return None
    seconds, fraction = shutter_marks(step).mark(given.strip()), shutter_marks(step).mark(f"1/{given.strip()}")
    return (fraction, seconds) if seconds and fraction and seconds is not fraction else None


def _number(field: str, text: str, what: str, instead: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise Refusal(field, f"'{text[:20]}' is not {what}.", instead) from None


def scene_ev(given: ReadingGiven) -> tuple[float, float]:
    """Return the EV at ISO 100 of the light, and the reading's time [s]; an EV alone is counted at f/8 and ISO 100."""
    reading = metered_exposure(given, SettingsGiven("8", "100"))
    return reading.scene_ev100, reading.shutter.exact
