"""A place as people write it: degrees, minutes and seconds, decimals, signs or letters, one line.

    degrees = d + m/60 + s/3600, negative for S and W

``58.052 N 6.798 E``, ``58°03'07"N 006°47'53"E``, ``N 58 03.12, E 6 47.88``, ``58,052; 6,798``, ``+58.052+006.798/``,
``geo:58.052,6.798``. Without letters latitude comes first. Source: ISO 6709; RFC 5870. Limits: one place, no grid
references. The letter O is east to some and west to others, and is asked about. Verdict: computed, or ask.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..words.refusal import Refusal

_MOST_LETTERS = 200
_SAME = str.maketrans({**dict.fromkeys("′’´`", "'"), **dict.fromkeys("″”“", '"'), **dict.fromkeys("º˚", "°"), "−": "-"})
_WORDS = {"NORTH": "N", "SOUTH": "S", "EAST": "E", "WEST": "W"} | dict.fromkeys(
    ("LATITUDE", "LONGITUDE", "LAT", "LON", "LNG", "LONG", "GEO"), ""
)
_TOKEN = re.compile(
    r"\s*(?:(?P<number>\d+(?:\.\d+)?)|(?P<sign>[+-])|(?P<letter>[NSEWO])|(?P<mark>[°'\"]+)|(?P<apart>[,;/|:()]))"
)
_INSTEAD = "Write it like 58.052 N 6.798 E or 58°03'07\"N 6°47'53\"E."


@dataclass(frozen=True, slots=True)
class Written:
    """A place in decimal degrees, and how it is written: to five decimals, about a metre."""

    latitude: float
    longitude: float
    text: str


@dataclass(slots=True)
class _Half:
    """One of the two: its numbers, its sign and its letter."""

    numbers: list[float]
    sign: str = ""
    letter: str = ""


def coordinates(text: str) -> Written:
    """Return the place that a text means.

    Raises
    ------
    Refusal
        It is no pair of coordinates, could mean two, or lies off the globe.
    """
    if len(text) > _MOST_LETTERS:
        raise Refusal("text", "That is too long for one place.", _INSTEAD)
    first, second = _halves(_tokens(text))
    if "O" in (first.letter, second.letter):
        raise Refusal("text", "O means east to some and west to others.", "Write E or W.")
    if bool(first.letter) != bool(second.letter):
        raise Refusal("text", "Only one of the two has its letter.", "Give N or S to one and E or W to the other.")
    if first.letter in ("E", "W") and second.letter in ("N", "S"):
        first, second = second, first
    elif first.letter and (first.letter not in ("N", "S") or second.letter not in ("E", "W")):
        raise Refusal("text", "The letters do not make a place.", "Give N or S to one and E or W to the other.")
    latitude, longitude = _degrees(first, 90), _degrees(second, 180)
    return Written(latitude, longitude, written_coordinates(latitude, longitude))


def written_coordinates(latitude: float, longitude: float) -> str:
    """Return a place in decimal degrees with letters, such as ``58.052° N 6.798° E``.

    Parameters
    ----------
    latitude, longitude : float
        Decimal degrees, north and east +.
    """
    north, east = f"{abs(latitude):.5f}".rstrip("0").rstrip("."), f"{abs(longitude):.5f}".rstrip("0").rstrip(".")
    return f"{north}° {'S' if latitude < 0 else 'N'} {east}° {'W' if longitude < 0 else 'E'}"


def _tokens(text: str) -> list[tuple[str, str]]:
    plain = text.translate(_SAME).strip().upper()
    if re.fullmatch(r"[+-]?\d+,\d+", plain):
        raise Refusal("text", "That is one number with a comma, or two.", _INSTEAD)
    # Two decimal commas with something else between them; any other comma parts the two.
    if "." not in plain and re.fullmatch(r"[^,]*\d,\d+[^,\d]+\d+,\d+[^,]*", plain):
        plain = plain.replace(",", ".")
    plain = re.sub(r"[A-Z]{2,}", lambda word: _WORDS.get(word[0], word[0]), plain)
    found, at = [], 0
    while at < len(plain):
        token = _TOKEN.match(plain, at)
        if token is None:
            if not plain[at:].strip():
                break
            raise Refusal("text", f"'{plain[at:].strip()[:20]}' is no part of a place.", _INSTEAD)
        found.append((str(token.lastgroup), token[str(token.lastgroup)]))
        at = token.end()
    return found


def _halves(tokens: list[tuple[str, str]]) -> tuple[_Half, _Half]:
    """Return the two coordinates: parted by their letters, their signs or a comma, else down the middle."""
    letters = [place for place, (kind, _) in enumerate(tokens) if kind == "letter"]
    numbers = [place for place, (kind, _) in enumerate(tokens) if kind == "number"]
    if not numbers:
        raise Refusal("text", "There are no numbers in it.", _INSTEAD)
    halves: list[list[tuple[str, str]]]
    if len(letters) == 2:
        cut = letters[1] if letters[0] < numbers[0] else letters[0] + 1
        halves = [tokens[:cut], tokens[cut:]]
    else:
        halves = _parted(tokens, numbers)
    first, second = (_half(half) for half in halves)
    return first, second


def _parted(tokens: list[tuple[str, str]], numbers: list[int]) -> list[list[tuple[str, str]]]:
    signs = [place for place, (kind, _) in enumerate(tokens) if kind == "sign" and place > numbers[0]]
    marks = [place for place, (kind, text) in enumerate(tokens) if kind == "mark" and text == "°"]
    commas = [
        place
        for place, (kind, text) in enumerate(tokens)
        if kind == "apart" and text in ",;/|" and numbers[0] < place < numbers[-1]
    ]
    if len(signs) == 1:
        return [tokens[: signs[0]], tokens[signs[0] :]]
    if len(commas) == 1:
        return [tokens[: commas[0]], tokens[commas[0] :]]
    if len(marks) == 2:
        return [tokens[: marks[1] - 1], tokens[marks[1] - 1 :]]
    if len(numbers) % 2:
        raise Refusal("text", "It is not clear where the first number ends and the second begins.", _INSTEAD)
    middle = numbers[len(numbers) // 2]
    return [tokens[:middle], tokens[middle:]]


def _half(tokens: list[tuple[str, str]]) -> _Half:
    half = _Half([float(text) for kind, text in tokens if kind == "number"])
    half.letter = "".join(text for kind, text in tokens if kind == "letter")
    half.sign = "".join(text for kind, text in tokens if kind == "sign")
    if not 1 <= len(half.numbers) <= 3 or len(half.letter) > 1 or len(half.sign) > 1:
        raise Refusal("text", "That is not one latitude and one longitude.", _INSTEAD)
    if any(number % 1 for number in half.numbers[:-1]):
        raise Refusal("text", "Only the last of degrees, minutes and seconds has decimals.", _INSTEAD)
    return half


def _degrees(half: _Half, most: float) -> float:
    whole, *parts = half.numbers
    if any(part >= 60 for part in parts):
        raise Refusal("text", "Minutes and seconds end below 60.", _INSTEAD)
    if half.sign == "-" and half.letter:
        raise Refusal("text", "A minus and a letter both say which way.", "Leave one of them out.")
    degrees = whole + sum(part / (60.0, 3600.0)[place] for place, part in enumerate(parts))
    name = "Latitude" if most == 90 else "Longitude"
    if degrees > most:
        raise Refusal("text", f"{name} ends at {most:.0f}°.", "Latitude comes first, or give the letters N, S, E, W.")
    return -degrees if half.sign == "-" or half.letter in ("S", "W") else degrees
