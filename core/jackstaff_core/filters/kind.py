"""What sort of filter a label names, by the trade's words: which kind, how its edge runs, how it goes on.

Only words say it; what no word says is left open (None): a bare strength is solid, a range variable.
Source: trade usage. Limits: words in English and what is engraved. Verdict: a class.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

_VARIABLE = re.compile(r"\b(?:vnd|variable|vari|fader)", re.IGNORECASE)
_POLARISER = re.compile(
    r"\b(?:c-?pl|pl-?c|pola|pol|polari[sz](?:er|ing|ator)s?|circ(?:ular)?\s+pol\w*)\b", re.IGNORECASE
)
_GRADUATED = re.compile(r"\b(?:grad(?:uated)?s?|gnd|(?:soft|medium|hard|reverse)(?:[\s-]+edge)?)", re.IGNORECASE)
_TRANSITION = re.compile(r"\b(soft|medium|hard|reverse)", re.IGNORECASE)
_PLATE = re.compile(r"\b\d{2,3}\s*[x×]\s*\d{2,3}\s*(?:mm)?\b|\b(?:plate|slot|square|rectangular)\b", re.IGNORECASE)
_MAGNET = re.compile(r"\bmagnet(?:ic)?\b", re.IGNORECASE)
_THREAD = re.compile(
    r"[øØ]\s*\d|\bscrew(?:-?in|ed)?\b|\bthread(?:ed)?\b|\bring\b|\b\d{2}(?:[.,]\d)?\s*mm\b", re.IGNORECASE
)


class GlassKind(StrEnum):
    """What sort of filter it is, by what it does to the light."""

    SOLID = "solid"
    VARIABLE = "variable"
    POLARISER = "polariser"
    GRADUATED = "graduated"
    COMBINED = "combined"

    @property
    def polarises(self) -> bool:
        """Whether it polarises, so that no other such glass goes with it."""
        return self in {GlassKind.VARIABLE, GlassKind.POLARISER, GlassKind.COMBINED}


@dataclass(frozen=True, slots=True)
class FilterKind:
    """``kind`` variable, polariser, graduated or combined; ``transition`` and ``mount`` as a kit names them."""

    kind: str | None = None
    transition: str | None = None
    mount: str | None = None


def kind_of(text: str, strong: bool = False) -> FilterKind:
    """Return the sort of filter ``text`` names; ``strong`` when it spells a strength beside its words."""
    polariser, variable = _POLARISER.search(text), _VARIABLE.search(text)
    kind = None
    if _GRADUATED.search(text):
        kind = "graduated"
    elif variable:
        # Two polarisers make a variable: its label may name them.
        kind = "variable"
    elif polariser:
        kind = "combined" if strong else "polariser"
    transition = _TRANSITION.search(text) if kind == "graduated" else None
    mounts = (("plate", _PLATE), ("magnet", _MAGNET), ("thread", _THREAD))
    mount = next((name for name, pattern in mounts if pattern.search(text)), None)
    return FilterKind(kind, transition[1].lower() if transition else None, mount)


def without_sizes(text: str) -> str:
    """Return the text without the sizes of plates, which would be read as strengths."""
    return _PLATE.sub(" ", text)
