"""What times a kit can reach from one reading, where the gaps are, what bridges them, what would close most.

Every subset of the glass (up to the slots; graduated glass aside) gives a strength, a variable a stretch of them.
At the metered aperture and ISO that is a ladder of times. A gap is a stretch no rung is within a third of a stop of.
The best purchase leaves the least of what is wanted out of reach: of the strengths somebody has wished for, each by
how far the nearest rung is beyond a third of a stop, a stack counting as one; without any, of every third of a stop up
to thirteen.

Source: elementary enumeration (stacks/finder.py's subsets). Limits: the finder's. Verdict: computed.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated

from ..camera.reading import Given, ReadingGiven, SettingsGiven, aperture, iso, metered_exposure
from ..camera.settings import Isos
from ..filters.kind import GlassKind
from ..scales.ladders import Step
from ..wire.marks import Between, Size
from ..words.refusal import Refusal
from .finder import MOST_GLASSES, KitGlass, OwnGlass, Slots, pieces_of, subsets

CLOSE_STOPS = 1 / 3
"""A rung this near is as good as there."""
TO_BUY = tuple(map(float, range(1, 17)))
"""Strengths one glass is sold in [stops]."""
WANTED_STOPS = 16.0
"""How far up a ladder is worth filling [stops]."""
MOST_WISHES = 500
_ANY = tuple(third / 3 for third in range(3, 40))
"""What anybody may wish for [stops], while nobody has said: beyond thirteen few go."""
_SAME = 1e-9


@dataclass(frozen=True, slots=True)
class ReachQuestion:
    """What a kit is asked to reach.

    ``widest`` to ``sharp_to`` are the apertures one likes, ``isos`` those one allows, ``wished`` the strengths that
    frames wanted [stops].
    """

    reading: ReadingGiven
    glass: OwnGlass
    slots: Slots
    widest: Given = "5.6"
    sharp_to: Given = "11"
    isos: Isos = ("100",)
    wished: Annotated[tuple[Annotated[float, Between(0, 30, "stops")], ...], Size(0, MOST_WISHES)] = ()


@dataclass(frozen=True, slots=True)
class Rung:
    """A strength the kit reaches: from ``stops`` to ``stops_to`` (a variable), by ``glass``."""

    stops: float
    stops_to: float
    seconds: float
    seconds_to: float
    glass: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Gap:
    """A stretch between two rungs; ``bridges`` are the codes of what reaches into it (aperture, iso, polariser)."""

    from_stops: float
    to_stops: float
    from_seconds: float
    to_seconds: float
    bridges: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Purchase:
    """The one solid glass that closes most: its strength, and the stops that are out of reach without it and with it.

    ``wished`` counts the frames it was judged by, ``reached_now`` and ``reached_then`` those whose strength can be had.
    """

    stops: float
    gap_stops_now: float
    gap_stops_then: float
    wished: int = 0
    reached_now: int = 0
    reached_then: int = 0


@dataclass(frozen=True, slots=True)
class Reach:
    """The ladder of a kit: rungs, gaps, the longest time without filters [s], and what to buy."""

    rungs: tuple[Rung, ...]
    gaps: tuple[Gap, ...]
    longest_bare_seconds: float
    purchase: Purchase | None


def reach(question: ReachQuestion) -> Reach:
    """Return the ladder of a kit.

    Raises
    ------
    Refusal
        As the finder's; apertures that run backwards.
    """
    reading = metered_exposure(question.reading, SettingsGiven())
    base = reading.bare_seconds
    wide = aperture("widest", question.widest, Step.THIRD).exact
    small = aperture("sharp_to", question.sharp_to, Step.THIRD).exact
    if small < wide:
        raise Refusal("sharp_to", "The apertures run backwards.", "Give the wider one first.")
    speeds = [iso(f"isos.{place}", given, Step.THIRD).exact for place, given in enumerate(question.isos)]
    from_n, from_s = reading.settings.aperture.exact, reading.settings.iso.exact
    aperture_room = (2 * math.log2(from_n / wide), 2 * math.log2(small / from_n))
    iso_room = (
        max(0.0, math.log2(max(speeds, default=from_s) / from_s)),
        max(0.0, math.log2(from_s / min(speeds, default=from_s))),
    )
    polariser = any(glass.kind is GlassKind.POLARISER for glass in question.glass)
    plain = tuple(glass for glass in question.glass if glass.kind is not GlassKind.GRADUATED)
    rungs = _rungs(plain, question.slots)
    gaps = _gaps(rungs)
    return Reach(
        tuple(Rung(low, high, base * 2**low, base * 2**high, ids) for low, high, ids in rungs),
        tuple(
            Gap(
                low,
                high,
                base * 2.0**low,
                base * 2.0**high,
                tuple(_bridges(low, high, aperture_room, iso_room, polariser)),
            )
            for low, high in gaps
        ),
        base * 2.0 ** (max(0.0, aperture_room[1]) + iso_room[1]),
        _purchase(plain, question.slots, rungs, question.wished),
    )


_Span = tuple[float, float, tuple[str, ...]]


def _rungs(glass: tuple[KitGlass, ...], slots: int) -> list[_Span]:
    """Return the strengths from the weakest, each by the fewest glasses."""
    best: dict[tuple[float, float], tuple[str, ...]] = {}
    for subset in subsets(pieces_of(glass), slots):
        key = (round(subset.fixed, 6), round(subset.fixed + subset.more, 6))
        if key not in best or (len(subset.ids), subset.ids) < (len(best[key]), best[key]):
            best[key] = subset.ids
    return [(low, high, ids) for (low, high), ids in sorted(best.items())]


def _gaps(rungs: Sequence[_Span]) -> list[tuple[float, float]]:
    """Return the stretches between two rungs that neither is close to."""
    found, end = [], 0.0
    for low, high, _ in rungs:
        if low > WANTED_STOPS:
            break
        if low - end > 2 * CLOSE_STOPS + 1e-6:
            found.append((end, low))
        end = max(end, high)
    return found


def _bridges(
    low: float, high: float, aperture_room: tuple[float, float], iso_room: tuple[float, float], polariser: bool
) -> Iterator[str]:
    wide = high - low - 2 * CLOSE_STOPS
    if sum(max(0.0, room) for room in aperture_room) + _SAME >= wide:
        yield "aperture"
    if sum(iso_room) + _SAME >= wide:
        yield "iso"
    if polariser and wide <= 1.5:
        yield "polariser"


def _missing(rungs: Sequence[_Span], wished: Sequence[float]) -> list[float]:
    """Return how far beyond close each wished strength is from the nearest rung, none at all being one [stops]."""
    ends = [(0.0, 0.0)]
    for low, high, _ in rungs:
        if low <= ends[-1][1] + _SAME:
            ends[-1] = (ends[-1][0], max(ends[-1][1], high))
        else:
            ends.append((low, high))
    return [max(0.0, _away(ends, each) - CLOSE_STOPS) for each in wished]


def _away(ends: Sequence[tuple[float, float]], stops: float) -> float:
    """Return how far a strength is from the nearest of stretches that stand apart, in order; 0 within one."""
    at = bisect_right(ends, stops, key=lambda each: each[0])
    below = stops - ends[at - 1][1]
    return max(0.0, below if at == len(ends) else min(below, ends[at][0] - stops))


def _purchase(
    glass: tuple[KitGlass, ...], slots: int, rungs: Sequence[_Span], wished: Sequence[float]
) -> Purchase | None:
    """Return the strength whose purchase leaves the least out of reach, the weaker one of two equals."""
    if len(glass) >= MOST_GLASSES:
        return None

    def left(of: Sequence[_Span]) -> float:
        return math.fsum(_missing(of, wished or _ANY))

    now = left(rungs)
    if now <= _SAME:
        return None
    ladders = {stops: _rungs((*glass, KitGlass("bought", GlassKind.SOLID, stops)), slots) for stops in TO_BUY}
    then = {stops: left(ladder) for stops, ladder in ladders.items()}
    best = min(TO_BUY, key=lambda stops: (round(then[stops], 6), stops))
    if then[best] >= now - _SAME:
        return None
    if not wished:
        left_out = [sum(gap > _SAME for gap in _missing(of, _ANY)) / 3 for of in (rungs, ladders[best])]
        return Purchase(best, left_out[0], left_out[1])
    reached = [sum(gap <= _SAME for gap in _missing(of, wished)) for of in (rungs, ladders[best])]
    return Purchase(best, now, then[best], len(wished), *reached)
