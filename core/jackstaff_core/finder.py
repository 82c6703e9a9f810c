"""The stacks of a kit that reach a wanted time, by exact enumeration.

Every subset of the glass up to the holder's slots, with every third-stop aperture between two and every
allowed ISO. Solid glass adds, a polariser adds the middle of its range, a variable is solved continuously, a
graduated glass takes a slot, adds nothing and comes only when asked for. At most one polarising glass: two of
them are a variable of unknown strength. Identical glass counts once. err = log2(T / target) is no exposure
error: T is always right.

Order (lexicographic, because a weighted sum hides why a result is first): |err| past a sixth, diffraction past a third,
glasses, distance from base ISO, diffraction, variable in it, |err|, wider aperture last, names.

Source: elementary; order after our own judgement. Limits: 24 glasses, 4 slots. Verdict: computed.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import StrEnum
from itertools import combinations, pairwise

from .diffraction import stops_past
from .reading import Given, ReadingGiven, SettingsGiven, aperture, iso, metered
from .refusal import Refusal, within
from .scales import LONGEST_SECONDS, SHORTEST_SECONDS, Step, apertures
from .spoken import said

MOST_GLASSES = 24
MOST_SLOTS = 4
MOST_STACKS = 24
WINDOW_STOPS = 1 / 3
CLOSE_STOPS = 1 / 6
SOFT_STOPS = 1 / 3
_SAME = 1e-9


class GlassKind(StrEnum):
    SOLID = "solid"
    VARIABLE = "variable"
    POLARISER = "polariser"
    GRADUATED = "graduated"
    COMBINED = "combined"

    @property
    def polarises(self) -> bool:
        return self in {GlassKind.VARIABLE, GlassKind.POLARISER, GlassKind.COMBINED}


@dataclass(frozen=True, slots=True)
class KitGlass:
    """A glass of the kit: ``stops``, or the range ``min`` to ``max`` (a variable's to ``usable_max``)."""

    id: str
    kind: GlassKind
    stops: float | None = None
    min: float | None = None
    max: float | None = None
    usable_max: float | None = None


@dataclass(frozen=True, slots=True)
class Target:
    seconds: float
    within_stops: float = WINDOW_STOPS


@dataclass(frozen=True, slots=True)
class FinderQuestion:
    reading: ReadingGiven
    glass: tuple[KitGlass, ...]
    slots: int
    target: Target
    apertures: tuple[Given, Given]
    isos: tuple[Given, ...]
    must: tuple[str, ...] = ()
    sharp_to: Given = "11"
    iso_base: Given | None = None


@dataclass(frozen=True, slots=True)
class Reason:
    code: str
    text: str


@dataclass(frozen=True, slots=True)
class Stack:
    """One way to the target. ``matters`` marks those no other beats in every respect."""

    glass: tuple[str, ...]
    aperture: str
    iso: str
    stops: float
    seconds: float
    error_stops: float
    sure_half_range: float
    reasons: tuple[Reason, ...]
    matters: bool


@dataclass(frozen=True, slots=True)
class Found:
    count: int
    stacks: tuple[Stack, ...]
    none_because: str | None = None
    nearest: Stack | None = None


@dataclass(frozen=True, slots=True)
class _Piece:
    """One glass as the sum sees it: a fixed share and, for a variable, how much more it can add."""

    id: str
    fixed: float
    more: float
    half_range: float
    kind: GlassKind


@dataclass(frozen=True, slots=True)
class _Move:
    """One aperture and ISO: what they add to the time [stops]."""

    stops: float
    f_number: float
    aperture: str
    iso: str
    iso_distance: float
    diffraction: float


@dataclass(frozen=True, slots=True)
class _Subset:
    pieces: tuple[_Piece, ...]
    fixed: float
    more: float
    ids: tuple[str, ...] = field(default=())


@dataclass(frozen=True, slots=True)
class _Hit:
    subset: _Subset
    move: _Move
    error: float
    stops: float

    @property
    def key(self) -> tuple[object, ...]:
        size = abs(self.error)
        move = self.move
        return (
            size > CLOSE_STOPS + _SAME,
            move.diffraction > SOFT_STOPS + _SAME,
            len(self.subset.pieces),
            round(move.iso_distance, 9),
            round(move.diffraction, 9),
            self.subset.more > 0,
            round(size, 9),
            round(-move.f_number, 9),
            self.subset.ids,
        )


def find(question: FinderQuestion) -> Found:
    """The stacks that reach the target, the best first.

    Raises
    ------
    Refusal
        A part that cannot be read, or more than 24 glasses or 4 slots.
    """
    pieces, must = _pieces(question)
    reading = metered(question.reading, SettingsGiven())
    target = within("target.seconds", question.target.seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    window = within("target.within_stops", question.target.within_stops, 0, 5, "stops")
    moves = sorted(
        _moves(question, reading.settings.aperture.exact, reading.settings.iso.exact), key=lambda move: move.stops
    )
    steps = [move.stops for move in moves]
    base = math.log2(reading.shutter.exact / target)
    hits: list[_Hit] = []
    nearest: _Hit | None = None
    for subset in _subsets(pieces, must, question.slots):
        start = base + subset.fixed
        # Without its variable the error may be anywhere from -window - more to +window.
        first = bisect_left(steps, -window - subset.more - start - _SAME)
        last = bisect_right(steps, window - start + _SAME)
        if first < last:
            hits.extend(_hit(subset, moves[place], start) for place in range(first, last))
        elif not hits:
            for place in {max(first - 1, 0), min(first, len(moves) - 1)}:
                near = _hit(subset, moves[place], start)
                if nearest is None or abs(near.error) < abs(nearest.error) - _SAME:
                    nearest = near
    if not hits:
        because = _none_because(question, must, pieces, nearest)
        return Found(0, (), because, _shown(nearest, target, [nearest]) if nearest else None)
    hits.sort(key=lambda hit: hit.key)
    best = hits[:MOST_STACKS]
    front = _front(hits)
    return Found(len(hits), tuple(_shown(hit, target, front) for hit in best))


def _pieces(question: FinderQuestion) -> tuple[list[_Piece], Counter[str]]:
    if len(question.glass) > MOST_GLASSES:
        raise Refusal("glass", f"{len(question.glass)} glasses are more than can be tried.", "Give at most 24.")
    if not 0 <= question.slots <= MOST_SLOTS:
        raise Refusal("slots", f"{question.slots} slots are not a holder.", "Give 0 to 4.")
    ids = [glass.id for glass in question.glass]
    if doubled := [one for one, count in Counter(ids).items() if count > 1]:
        raise Refusal("glass", f"The id '{doubled[0]}' stands twice.", "Give every glass its own id.")
    for place, wanted in enumerate(question.must):
        if wanted not in ids:
            raise Refusal(f"must.{place}", f"There is no glass '{wanted}'.", "Name a glass of the list.")
    must = Counter(question.must)
    pieces = [
        _piece(f"glass.{place}", glass)
        for place, glass in enumerate(question.glass)
        if glass.kind is not GlassKind.GRADUATED or glass.id in must
    ]
    return pieces, must


def _piece(place: str, glass: KitGlass) -> _Piece:
    if glass.kind is GlassKind.GRADUATED:
        return _Piece(glass.id, 0.0, 0.0, 0.0, glass.kind)
    if glass.stops is not None:
        return _Piece(glass.id, within(f"{place}.stops", glass.stops, 0, 30, "stops"), 0.0, 0.0, glass.kind)
    if glass.min is None or glass.max is None:
        raise Refusal(place, f"'{glass.id}' has no strength.", "Give its stops, or its min and max.")
    low = within(f"{place}.min", glass.min, 0, 30, "stops")
    high = within(f"{place}.max", glass.max, 0, 30, "stops")
    if glass.usable_max is not None:
        high = min(high, within(f"{place}.usable_max", glass.usable_max, 0, 30, "stops"))
    if high < low:
        raise Refusal(f"{place}.max", f"'{glass.id}' ends before it begins.", "Give the weaker end as min.")
    if glass.kind is GlassKind.VARIABLE:
        return _Piece(glass.id, low, high - low, 0.0, glass.kind)
    return _Piece(glass.id, (low + high) / 2, 0.0, (high - low) / 2, glass.kind)


def _subsets(pieces: list[_Piece], must: Counter[str], slots: int) -> Iterator[_Subset]:
    """Every subset that holds all of ``must``; of identical glasses always the first ones."""
    needed = tuple(piece for piece in pieces if piece.id in must)
    free = [piece for piece in pieces if piece.id not in must]
    twins: dict[tuple[float, float, float, GlassKind], list[str]] = {}
    for piece in free:
        twins.setdefault((piece.fixed, piece.more, piece.half_range, piece.kind), []).append(piece.id)
    # A twin may come only with all the twins before it, so each count of them is met once.
    before = {later: earlier for group in twins.values() for earlier, later in pairwise(group)}
    if sum(piece.kind.polarises for piece in needed) > 1:
        return
    for size in range(slots - len(needed) + 1):
        for chosen in combinations(free, size):
            pieces_on = needed + chosen if needed else chosen
            polarising = 0
            fixed = more = 0.0
            for piece in pieces_on:
                polarising += piece.kind.polarises
                fixed += piece.fixed
                more += piece.more
            if polarising > 1:
                continue
            ids = tuple(piece.id for piece in pieces_on)
            if before and any(before[one] not in ids for one in ids if one in before):
                continue
            yield _Subset(pieces_on, fixed, more, ids)


def _moves(question: FinderQuestion, from_n: float, from_s: float) -> Iterator[_Move]:
    ends = sorted(
        aperture(f"apertures.{place}", given, Step.THIRD).exact for place, given in enumerate(question.apertures)
    )
    speeds = [iso(f"isos.{place}", given, Step.THIRD) for place, given in enumerate(question.isos)]
    if not 1 <= len(speeds) <= 60:
        raise Refusal("isos", "No ISO is allowed.", "Give at least one ISO, at most 60.")
    base = (
        iso("iso_base", question.iso_base, Step.THIRD).exact
        if question.iso_base is not None
        else min(speed.exact for speed in speeds)
    )
    sharp = aperture("sharp_to", question.sharp_to, Step.THIRD).exact
    marks = apertures(Step.THIRD).between(ends[0], ends[1])
    if not marks:
        raise Refusal("apertures", "No third-stop aperture lies between these.", "Give two marks such as 5.6 and 22.")
    for mark in marks:
        for speed in speeds:
            yield _Move(
                2 * math.log2(mark.exact / from_n) + math.log2(from_s / speed.exact),
                mark.exact,
                mark.label,
                speed.label or f"{speed.exact:g}",
                abs(math.log2(speed.exact / base)),
                stops_past(mark.exact, sharp),
            )


def _hit(subset: _Subset, move: _Move, start: float) -> _Hit:
    error = start + move.stops
    turned = min(subset.more, max(0.0, -error))
    return _Hit(subset, move, error + turned, subset.fixed + turned)


def _front(hits: list[_Hit]) -> list[_Hit]:
    """The hits no other beats in glasses, closeness, diffraction and ISO together."""

    def worth(hit: _Hit) -> tuple[float, ...]:
        return (
            len(hit.subset.pieces),
            round(abs(hit.error), 9),
            round(hit.move.diffraction, 9),
            round(hit.move.iso_distance, 9),
        )

    front: dict[tuple[float, ...], _Hit] = {}
    for hit in hits:
        own = worth(hit)
        if own in front or any(all(a <= b for a, b in zip(other, own, strict=True)) for other in front):
            continue
        front = {
            other: kept for other, kept in front.items() if not all(a <= b for a, b in zip(own, other, strict=True))
        }
        front[own] = hit
    return list(front.values())


def _shown(hit: _Hit, target: float, front: list[_Hit]) -> Stack:
    return Stack(
        glass=hit.subset.ids,
        aperture=hit.move.aperture,
        iso=hit.move.iso,
        stops=hit.stops,
        seconds=target * 2.0**hit.error,
        error_stops=hit.error,
        sure_half_range=sum(piece.half_range for piece in hit.subset.pieces),
        reasons=tuple(_reasons(hit, front)),
        matters=hit in front,
    )


def _reasons(hit: _Hit, front: list[_Hit]) -> Iterator[Reason]:
    glasses = len(hit.subset.pieces)
    if glasses == min(len(other.subset.pieces) for other in front):
        yield Reason("fewest_glasses", "fewest glasses")
    if abs(hit.error) <= min(abs(other.error) for other in front) + _SAME:
        yield Reason("closest_time", "closest to the time")
    if hit.move.diffraction == 0 and hit.move.iso_distance == 0:
        yield Reason("cleanest", "sharp aperture, base ISO")
    if hit.move.diffraction > SOFT_STOPS:
        yield Reason("soft", f"f/{hit.move.aperture} softens fine detail")
    if hit.move.iso_distance > _SAME:
        yield Reason("off_base_iso", f"ISO {hit.move.iso} is off the base")
    if hit.subset.more > 0:
        yield Reason("turned", "variable to be set by eye or reading")
    if abs(hit.error) > CLOSE_STOPS:
        longer = "longer" if hit.error > 0 else "shorter"
        yield Reason("off_target", f"{abs(hit.error):.1f} stop {longer} than wanted")


def _none_because(question: FinderQuestion, must: Counter[str], pieces: list[_Piece], nearest: _Hit | None) -> str:
    wanted = said(question.target.seconds)
    if nearest is None:
        if len(must) > question.slots:
            return f"{len(must)} glasses are asked for and the holder takes {question.slots}."
        kinds = {piece.id: piece.kind for piece in pieces}
        if sum(kinds[one].polarises for one in must if one in kinds) > 1:
            return "Two polarising glasses are asked for; together their stops mean nothing."
        return "No stack fits this holder."
    short = abs(nearest.error)
    if nearest.error > 0:
        return f"{wanted} is {short:.1f} stops too short for this light: open up, raise the ISO or take glass off."
    return f"{wanted} is {short:.1f} stops out of reach: more glass, a smaller aperture or less light is needed."
