"""What a filter's label says: stops, optical density or filter factor.

    F = 2^s = 10^D;  D = s log10 2;  s = log2 F

The same glass is sold in three notations, and some labels can be read in more than one. A label
is split into its marks, each mark lists the meanings it can have, and only meanings that every
mark supports within 0.1 stop survive. More than one survivor is handed back for the person to
choose, never guessed.

A K behind a factor is a thousand. A welder's shade S has the optical density 3 (S - 1) / 7.

Source: D = -log10(transmittance), ISO 5 series; factor and stop by definition; shade number: EN 169.
Limits: up to 30 stops, 120 characters. Verdict: computed, or ask.
"""

from __future__ import annotations

import math
import re
from dataclasses import asdict, dataclass, replace
from enum import StrEnum
from functools import lru_cache

from ..words.refusal import Refusal
from .kind import kind_of, without_sizes

MOST_STOPS = 30.0
AGREEMENT_STOPS = 0.1
"""Notations on one ring that lie closer than this name the same glass."""
LONGEST_LABEL = 120
LOG10_2 = math.log10(2)


class Notation(StrEnum):
    """How a strength is written on a filter: in stops, as optical density, or as a factor."""

    STOPS = "stops"
    DENSITY = "density"
    FACTOR = "factor"


@dataclass(frozen=True, slots=True)
class LabelStrength:
    """One meaning of a label. The ``_max`` fields are the dense end of a variable glass."""

    notation: Notation
    stops: float
    density: float
    factor: float
    stops_max: float | None = None
    density_max: float | None = None
    factor_max: float | None = None

    @classmethod
    def of(cls, notation: Notation, value: float, value_max: float | None = None) -> LabelStrength:
        """Build all three notations from the one that was given, keeping that one exact.

        Parameters
        ----------
        notation : Notation
            How the value is written.
        value : float
            In ``notation``: stops, density, or factor.
        value_max : float | None
            The same of the dense end of a variable glass, None for a solid one.
        """
        weak = _triple(notation, value)
        if value_max is None:
            return cls(notation, *weak)
        return cls(notation, *weak, *_triple(notation, value_max))

    def agrees(self, other: LabelStrength) -> bool:
        """Return whether both name the same glass within :data:`AGREEMENT_STOPS`."""
        return self.apart(other) <= AGREEMENT_STOPS

    def apart(self, other: LabelStrength) -> float:
        """Return the difference in stops, at the end where it is larger."""
        if (self.stops_max is None) != (other.stops_max is None):
            return math.inf
        return max(abs(self.stops - other.stops), abs((self.stops_max or 0) - (other.stops_max or 0)))


@dataclass(frozen=True, slots=True)
class Label:
    """All meanings of a label, the likeliest first.

    ``conflict_stops`` is the largest difference when explicit notations disagree. ``kind``, ``transition``,
    ``mount`` are what its words say beside the strength; a polariser that names none has no readings.
    """

    ambiguous: bool
    readings: tuple[LabelStrength, ...]
    conflict_stops: float | None = None
    kind: str | None = None
    transition: str | None = None
    mount: str | None = None


def _triple(notation: Notation, value: float) -> tuple[float, float, float]:
    if notation is Notation.STOPS:
        return value, value * LOG10_2, 2.0**value
    if notation is Notation.DENSITY:
        return value / LOG10_2, value, 10.0**value
    return math.log2(value), math.log10(value), value


_GLYPHS = {"½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅛": "1/8"}
# Plain digits may be followed by a fraction; 1,000 is a thousands mark; one point or comma is decimal.
_NUM = r"(?:\d{1,3}(?:,\d{3})+|\d+\s+\d+\s*/\s*\d+|\d+\s*/\s*\d+|\d+[.,]\d+|\d+)"
_STOP_WORD = r"(?:f-?\s?stops?|stops?|ev)"
_DENSITY_WORD = r"(?:optical\s+density|density|od|d)"
_TO = r"\s*(?:-|–|—|\bto\b)\s*"
_MARK = re.compile(
    rf"(?<![^\W_])(?P<nd>[vg]?nd\s*-?\s*)?"
    rf"(?P<before>\b(?:{_DENSITY_WORD}|factor)\s*|[x×]\s*)?"
    rf"(?P<low>{_NUM})(?:\s*[x×](?=\s*(?:-|–|to)\s*\d))?(?:{_TO}(?:nd\s*-?\s*)?(?P<high>{_NUM}))?"
    rf"(?P<kilo>\s?k(?![a-z]))?(?:\s*-?\s*(?P<after>{_STOP_WORD}|{_DENSITY_WORD}|[x×]|factor)(?![a-z0-9]))?",
    re.IGNORECASE,
)
_SHADE = re.compile(
    r"\b(?:welder'?s?\s+|welding\s+)?(?:glass\s+)?shade\s*(?:no\.?\s*|#\s*)?(\d+(?:[.,]\d+)?)", re.IGNORECASE
)
_THREAD = re.compile(r"(?:[øØ]\s*\d+(?:[.,]\d+)?)|(?:\b\d+(?:[.,]\d+)?\s*mm\b)", re.IGNORECASE)
_WORDS = re.compile(r"[^\W\d_]+\.?|[\s()/,;:+|#'\"_-]+")
_INSTEAD = "Write '3 stops', 'x8' or '0.9 OD'."


@lru_cache(maxsize=256)
def density(text: str) -> Label:
    """Return every meaning a filter label can have.

    Parameters
    ----------
    text : str
        The label as engraved or typed, e.g. ``ND1.8 64x 6 stops``.

    Raises
    ------
    Refusal
        Nothing readable, zero, negative, more than 30 stops, or ``1.000`` (thousand or one?).

    Examples
    --------
    >>> [round(meaning.stops, 2) for meaning in density("ND1.8 64x 6 stops").readings]
    [6.0]
    >>> [(meaning.notation.value, round(meaning.stops, 2)) for meaning in density("ND8").readings]
    [('factor', 3.0)]
    """
    if len(text) > LONGEST_LABEL:
        raise Refusal("text", f"A label of {len(text)} characters is too long.", _INSTEAD)
    body = " ".join(text.split())
    for glyph, spelled in _GLYPHS.items():
        body = body.replace(glyph, f" {spelled}")
    named = body
    body = _THREAD.sub(" ", without_sizes(_SHADE.sub(_density_of_shade, body)))
    marks: list[tuple[LabelStrength, ...]] = []
    rest = []
    at = 0
    for found in _MARK.finditer(body):
        rest.append(body[at : found.start()])
        at = found.end()
        marks.append(_meanings(found, text.strip()))
    rest.append(body[at:])
    if not marks and kind_of(named).kind == "polariser" and not _WORDS.sub("", body):
        return replace(Label(False, ()), **asdict(kind_of(named)))
    if not marks or any(re.search(r"(?:^|\s)[-−]$", part) for part in rest[:-1]):
        raise _unreadable(text)
    if any(_WORDS.sub("", part) for part in rest):
        raise _unreadable(text)
    return replace(_agreed(marks), **asdict(kind_of(named, strong=True)))


def certain_strength(field: str, text: str) -> LabelStrength:
    """Return the one meaning of a label, a single strength rather than a range.

    Raises
    ------
    Refusal
        Unreadable, ambiguous (its readings listed), or a variable range.
    """
    try:
        label = density(text)
    except Refusal as refusal:
        raise Refusal(field, refusal.problem, refusal.instead) from refusal
    if not label.readings:
        raise Refusal(field, f"'{text.strip()}' names no strength.", _INSTEAD)
    if label.ambiguous:
        listed = ", ".join(strength_in_words(reading) for reading in label.readings)
        raise Refusal(field, f"'{text.strip()}' can be read as {listed}.", _INSTEAD)
    if label.readings[0].stops_max is not None:
        raise Refusal(field, f"'{text.strip()}' is a range.", "Give the stops the ring is set to.")
    return label.readings[0]


def strength_in_words(strength: LabelStrength) -> str:
    """Return a strength in its own notation: ``3 stops``, ``density 3.0``, ``factor 1000``."""
    if strength.notation is Notation.DENSITY:
        return f"density {strength.density:.3g} ({strength.stops:.3g} stops)"
    if strength.notation is Notation.FACTOR:
        return f"factor {strength.factor:.6g} ({strength.stops:.3g} stops)"
    return f"{strength.stops:.3g} stops"


def _agreed(marks: list[tuple[LabelStrength, ...]]) -> Label:
    supported = [
        strength
        for mark in marks
        for strength in mark
        if all(any(strength.agrees(other) for other in others) for others in marks)
    ]
    if supported:
        readings = _distinct(sorted(supported, key=_by_plainness) if len(marks) > 1 else supported)
        return Label(len(readings) > 1, readings)
    readings = _distinct(sorted((strength for mark in marks for strength in mark), key=_by_plainness))
    gaps = [reading.apart(other) for reading in readings for other in readings]
    finite = [gap for gap in gaps if math.isfinite(gap)]
    return Label(True, readings, max(finite, default=0.0))


def _by_plainness(strength: LabelStrength) -> int:
    return list(Notation).index(strength.notation)


def _distinct(strengths: list[LabelStrength]) -> tuple[LabelStrength, ...]:
    distinct: list[LabelStrength] = []
    for strength in strengths:
        if not any(strength.agrees(other) for other in distinct):
            distinct.append(strength)
    return tuple(distinct)


def _meanings(found: re.Match[str], text: str) -> tuple[LabelStrength, ...]:
    """Return every strength one mark of a label can mean."""
    low = _value(found["low"], text)
    high = _value(found["high"], text) if found["high"] else None
    explicit = _explicit(found["after"] or found["before"])
    if found["kilo"]:
        # Thousands are a factor's alone.
        low, high = (low * 1000, None) if high is None else (low, high * 1000)
        explicit = explicit or Notation.FACTOR
    if high is not None and high < low:
        low, high = high, low
    strengths = [
        LabelStrength.of(notation, low, high)
        for notation in _notations(found, explicit, low, high)
        if _is_glass(notation, low, high)
    ]
    if found["nd"] and explicit is None and high is None and low in range(101, 121):
        # A catalogue code: 1 and the stops.
        strengths.insert(0, LabelStrength.of(Notation.STOPS, low - 100))
    if not strengths:
        raise Refusal("text", f"'{text}' is not a filter strength between 0 and 30 stops.", _INSTEAD)
    return tuple(strengths)


def _density_of_shade(found: re.Match[str]) -> str:
    shade = float(found[1].replace(",", "."))
    return f" {max(0.0, 3 * (shade - 1) / 7):.6f} OD "


def _notations(found: re.Match[str], explicit: Notation | None, low: float, high: float | None) -> tuple[Notation, ...]:
    if explicit:
        return (explicit,)
    if high is not None:
        return _range_notations(found, high)
    return _engraved(found["low"], low) if found["nd"] else _bare(found["low"], low)


def _is_glass(notation: Notation, low: float, high: float | None) -> bool:
    """Factor 1 and density 0 pass all light: no filter. A range may start there."""
    no_filter = 1 if notation is Notation.FACTOR else 0
    starts = low >= no_filter if high is not None and notation is Notation.FACTOR else low > no_filter
    return starts and _in_range(notation, high if high is not None else low)


def _in_range(notation: Notation, value: float) -> bool:
    highest = {
        Notation.STOPS: MOST_STOPS,
        Notation.DENSITY: MOST_STOPS * LOG10_2,
        Notation.FACTOR: 2.0**MOST_STOPS,
    }[notation]
    return bool(value <= highest * (1 + 1e-12))


def _explicit(unit: str | None) -> Notation | None:
    if not unit:
        return None
    word = unit.strip().lower()
    if word in {"x", "×", "factor"}:
        return Notation.FACTOR
    return Notation.STOPS if re.fullmatch(_STOP_WORD, word) else Notation.DENSITY


def _range_notations(found: re.Match[str], high: float) -> tuple[Notation, ...]:
    decimals = _decimal(found["low"]) or _decimal(found["high"])
    if found["nd"]:
        if decimals:
            return (Notation.DENSITY,)
        return (Notation.FACTOR,) if high > 10 else (Notation.FACTOR, Notation.STOPS)
    if decimals:
        return (Notation.STOPS, Notation.DENSITY)
    return (Notation.STOPS,) if high <= 12 else (Notation.FACTOR,)


def _engraved(text: str, value: float) -> tuple[Notation, ...]:
    """Return the meanings of ``ND`` and a number without a unit."""
    if _decimal(text):
        return (Notation.DENSITY,)
    if "/" in text:
        return (Notation.STOPS,)
    if value in {2, 4, 8} or value >= 16:
        return (Notation.FACTOR,)
    if value <= 3:
        return (Notation.DENSITY, Notation.STOPS, Notation.FACTOR)
    return (Notation.STOPS, Notation.DENSITY, Notation.FACTOR)


def _bare(text: str, value: float) -> tuple[Notation, ...]:
    """Return the meanings of a number alone."""
    if "/" in text:
        return (Notation.STOPS,)
    if _decimal(text):
        if value > 6:
            return (Notation.STOPS,)
        tenths = value * 10
        sold = abs(tenths - round(tenths)) < 1e-9 and round(tenths) % 3 == 0
        return (Notation.DENSITY, Notation.STOPS) if sold else (Notation.STOPS, Notation.DENSITY)
    if value in {2, 4, 8, 10, 16} or 20 < value <= MOST_STOPS:
        return (Notation.STOPS, Notation.FACTOR)
    return (Notation.STOPS,) if value <= 20 else (Notation.FACTOR,)


def _decimal(text: str) -> bool:
    return bool(re.search(r"[.,]", text)) and not _thousands(text)


def _thousands(text: str) -> bool:
    return bool(re.fullmatch(r"\d{1,3}(?:,\d{3})+", text))


def _value(number: str, text: str) -> float:
    if re.fullmatch(r"\d+\.\d{3}", number):
        raise Refusal(
            "text",
            f"'{text}' can mean a thousand or a decimal.",
            "Write 1000 or 1,000 for the factor, 1.0 for the density.",
        )
    if _thousands(number):
        return float(number.replace(",", ""))
    try:
        whole, *fraction = re.split(r"\s+(?=\d)", number.strip(), maxsplit=1)
        if fraction:
            return float(whole) + _quotient(fraction[0])
        return _quotient(whole)
    except ZeroDivisionError:
        raise _unreadable(text) from None


def _quotient(number: str) -> float:
    top, slash, bottom = number.replace(",", ".").partition("/")
    return float(top) / float(bottom) if slash else float(top)


def _unreadable(text: str) -> Refusal:
    return Refusal("text", f"'{text.strip()[:60]}' is not a filter label.", _INSTEAD)
