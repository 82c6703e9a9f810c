"""The line a value stands on in a JSON text, so that a refusal can point at it."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence

_SPACE = re.compile(r"[ \t\r\n]*")
_DECODER = json.JSONDecoder()


def line_of(text: str, path: Sequence[str | int]) -> int:
    """Return the line (from 1) of the value at ``path``, or of the deepest part of the path that is there.

    ``text`` must be sound JSON.
    """
    at = _after_space(text, 0)
    for step in path:
        inside = _member(text, at, step) if isinstance(step, str) else _element(text, at, step)
        if inside is None:
            break
        at = inside
    return text.count("\n", 0, at) + 1


def _after_space(text: str, at: int) -> int:
    found = _SPACE.match(text, at)
    return found.end() if found else at


def _member(text: str, at: int, name: str) -> int | None:
    if text[at] != "{":
        return None
    at = _after_space(text, at + 1)
    while text[at] != "}":
        key, at = _DECODER.raw_decode(text, at)
        at = _after_space(text, _after_space(text, at) + 1)
        if key == name:
            return at
        at = _past_value(text, at)
    return None


def _element(text: str, at: int, place: int) -> int | None:
    if text[at] != "[":
        return None
    at = _after_space(text, at + 1)
    while text[at] != "]":
        if place == 0:
            return at
        place -= 1
        at = _past_value(text, at)
    return None


def _past_value(text: str, at: int) -> int:
    _, at = _DECODER.raw_decode(text, at)
    at = _after_space(text, at)
    return _after_space(text, at + 1) if text[at] == "," else at
