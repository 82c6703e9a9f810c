"""Words of caution: a code, how grave it is, the sentence and the numbers in it.

The sentence is English; other languages translate by code and values.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum


class Severity(StrEnum):
    """``note`` informs, ``caution`` may spoil the frame, ``harm`` may hurt a person."""

    NOTE = "note"
    CAUTION = "caution"
    HARM = "harm"


@dataclass(frozen=True, slots=True)
class Advice:
    """A sentence of the core: its code, how much it matters, its words, and the numbers in it."""

    code: str
    severity: Severity
    text: str
    values: Mapping[str, float | str] = field(default_factory=dict)
