"""The stacks of a kit that reach a wanted time, by exact enumeration.

Every subset of the glass up to the holder's slots, with every third-stop aperture between two and every
allowed ISO. Solid glass adds, a polariser adds the middle of its range, a variable is solved continuously, a
graduated glass takes a slot, adds nothing and comes only when asked for. At most one polarising glass: two of
them are a variable of unknown strength. Identical glass counts once. err = log2(T / target) is no exposure
error: T is always right.

Order (lexicographic, because a weighted sum hides why a result is first)
    glass : |err| past a sixth, diffraction past a third, glasses, distance from base ISO, diffraction, variable in it,
            |err|, wider aperture last, names.
    hands : nothing to change, |err| past a sixth, away from base ISO, over a stop from the metered aperture,
            diffraction past a third, changes (filters, aperture and ISO), then as above. Whoever metered at f/9 chose
            its depth.

Source: elementary; order after our own judgement. Limits: 24 glasses, 4 slots. Verdict: computed.
"""

from __future__ import annotations

import heapq
import math
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from itertools import chain
from typing import Annotated, NamedTuple

from ..camera.reading import Given, ReadingGiven, SettingsGiven, fill_settings, metered_exposure
from ..camera.reciprocity import LawGiven
from ..camera.settings import SOFT_STOPS, Ends, Isos, Setting, allowed_settings
from ..filters.kind import GlassKind
from ..scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from ..scales.spoken import time_in_words
from ..wire.marks import Between, Size
from ..words.refusal import Refusal, within
from .rules import THREADED, is_too_small

MOST_GLASSES = 24
MOST_SLOTS = 4
MOST_STACKS = 24
MOST_FITTING = 1_000_000
"""Ways to a target that are looked at; more of them is a question too wide to be worth an answer."""
WINDOW_STOPS = 1 / 3
CLOSE_STOPS = 1 / 6
_SAME = 1e-9
_CLOSE = CLOSE_STOPS + _SAME


GlassStops = Annotated[float, Between(0, 30, "stops")]
Ids = Annotated[tuple[Annotated[str, Size(1, 120)], ...], Size(0, MOST_GLASSES)]


@dataclass(frozen=True, slots=True)
class Onto:
    """What filters go onto: the lens's thread and the plates that the holder takes [mm]."""

    thread_mm: Annotated[float, Between(10, 300, "mm")] | None = None
    holder_mm: Annotated[float, Between(10, 300, "mm")] | None = None


@dataclass(frozen=True, slots=True)
class KitGlass:
    """A glass of the kit: ``stops``, or the range ``min`` to ``max`` (a variable's to ``usable_max``)."""

    id: Annotated[str, Size(1, 120)]
    kind: GlassKind
    stops: GlassStops | None = None
    min: GlassStops | None = None
    max: GlassStops | None = None
    usable_max: GlassStops | None = None
    members: Ids = ()
    """What a named stack is made of: those are never beside it."""
    mount: Annotated[str, Size(0, 20)] | None = None
    size_mm: Annotated[float, Between(10, 300, "mm")] | None = None

    def goes_onto(self, onto: Onto | None) -> bool:
        """Return whether it goes onto lens and holder, as far as their measures are known."""
        if onto is None or self.size_mm is None:
            return True
        at = onto.thread_mm if self.mount in THREADED else onto.holder_mm if self.mount == "plate" else None
        return at is None or not is_too_small(self.size_mm, at)


OwnGlass = Annotated[tuple[KitGlass, ...], Size(0, MOST_GLASSES)]
Slots = Annotated[int, Between(0, MOST_SLOTS)]


class Order(StrEnum):
    """What makes a way the better one: the fewest filters, or the fewest changes to what stands there."""

    GLASS = "glass"
    HANDS = "hands"


@dataclass(frozen=True, slots=True)
class Target:
    """The time that is wished for [s], and how near it counts as reached [stops]."""

    seconds: float
    within_stops: Annotated[float, Between(0, 5, "stops")] = WINDOW_STOPS


@dataclass(frozen=True, slots=True)
class FinderQuestion:
    """A reading, the glass one has, and the time it should reach."""

    reading: ReadingGiven
    glass: OwnGlass
    slots: Slots
    target: Target
    apertures: Ends
    isos: Isos
    must: Ids = ()
    sharp_to: Given = "11"
    iso_base: Given | None = None
    on: Ids = ()
    film: LawGiven | None = None
    wished_stops: Annotated[float, Between(-15, 15, "stops")] = 0.0
    """Longer (+) than the meter asks, by correction and on purpose [stops]."""
    order: Order = Order.GLASS
    onto: Onto | None = None
    set_to: SettingsGiven | None = None
    """Where aperture and ISO stand on the camera, where that is not as metered: changes are counted from there."""


@dataclass(frozen=True, slots=True)
class Reason:
    """Why a stack is offered."""

    code: str
    text: str


@dataclass(frozen=True, slots=True)
class Stack:
    """One way to the target. ``matters`` marks those no other beats in every respect.

    ``hand_moves`` counts glasses to take off and put on, from what is on the lens now, ``changes`` the aperture and
    the ISO with them, from where they stand; ``turned`` is what the variable in it is set to [stops].
    """

    glass: tuple[str, ...]
    aperture: str
    iso: str
    stops: float
    seconds: float
    error_stops: float
    sure_half_range: float
    reasons: tuple[Reason, ...]
    matters: bool
    hand_moves: int
    turned: float | None = None
    changes: int = 0


@dataclass(frozen=True, slots=True)
class FoundStacks:
    """The stacks that reach a time, the best first; where none does, why, and the nearest."""

    count: int
    stacks: tuple[Stack, ...]
    none_because: str | None = None
    nearest: Stack | None = None


class Piece(NamedTuple):
    """One glass as the sum sees it: a fixed share and, for a variable, how much more it can add."""

    id: str
    fixed: float
    more: float
    half_range: float
    kind: GlassKind
    polarises: bool
    members: tuple[str, ...] = ()


class Subset(NamedTuple):
    """Some of the glass: its fixed stops, how much more a variable adds, and its ids."""

    pieces: tuple[Piece, ...]
    fixed: float
    more: float
    ids: tuple[str, ...]


class _Hit(NamedTuple):
    """A stack that fits; ``size`` is the error's rounded size, ``turned`` what a variable adds to its weak end."""

    subset: Subset
    setting: Setting
    turned: float
    error: float
    size: float

    @property
    def key(self) -> tuple[object, ...]:
        """The order within hits of the same closeness, softness and number of glasses."""
        setting, subset = self.setting, self.subset
        return (
            setting.iso_distance,
            setting.diffraction,
            subset.more > 0,
            self.size,
            -round(setting.f_number, 9),
            subset.ids,
        )


DEPTH_STOPS = 1.0
"""So far from the metered aperture the picture has another depth than was chosen [stops]."""


class _Now(NamedTuple):
    """What stands there: the filters on, the aperture metered at, and where aperture and ISO are set (exact)."""

    on: frozenset[str]
    metered_f: float
    f_number: float
    speed: float

    def moves(self, ids: tuple[str, ...]) -> int:
        """Return the glasses to take off and put on."""
        return len(self.on.symmetric_difference(ids))

    def of_setting(self, setting: Setting) -> tuple[bool, bool, bool, int]:
        """Return whether a setting is off the base ISO, of another depth, soft.

        And how many dials are turned for it.
        """
        speed = 2 * math.log2(setting.f_number) - setting.stops
        turned = math.log2(setting.f_number / self.f_number), speed - math.log2(self.speed / 100)
        away = abs(2 * math.log2(setting.f_number / self.metered_f))
        dials = sum(abs(each) > _SAME for each in turned)
        return setting.iso_distance > _SAME, away > DEPTH_STOPS + _SAME, setting.soft, dials

    def changes(self, hit: _Hit) -> int:
        """Return what the hands would change: glasses, the aperture, the ISO."""
        return self.moves(hit.subset.ids) + self.of_setting(hit.setting)[3]


def find(question: FinderQuestion) -> FoundStacks:
    """Return the stacks that reach the target, the best first.

    Raises
    ------
    Refusal
        A part that cannot be read, more than 24 glasses or 4 slots, or a window so wide that over a million ways fit.
    """
    pieces, must = _pieces(question)
    reading = metered_exposure(question.reading, SettingsGiven())
    target = within("target.seconds", question.target.seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    window = within("target.within_stops", question.target.within_stops, 0, 5, "stops")
    settings = sorted(
        allowed_settings(question.apertures, question.isos, question.sharp_to, question.iso_base),
        key=lambda each: each.stops,
    )
    film = question.film
    # All is worked out in metered time; the film's own law comes last.
    metered_target = film.metered(target) if film else target
    now = reading.settings
    # The light's own EV is what the reading's settings leave of its time.
    base = math.log2(reading.bare_seconds / metered_target * now.iso.exact / 100 / now.aperture.exact**2)
    base += within("wished_stops", question.wished_stops, -15, 15, "stops")
    fitting = _Fitting(settings)
    made = list(subsets(pieces, question.slots, must))
    # Counted before they are made: a question too wide costs next to nothing.
    if sum(fitting.fits(subset, base + subset.fixed, window) for subset in made) > MOST_FITTING:
        raise Refusal(
            "target.within_stops",
            f"More than {MOST_FITTING // 1_000_000} million ways fit.",
            "Narrow the window, or allow fewer ISOs.",
        )
    for subset in made:
        fitting.add(subset, base + subset.fixed, window)
    stands = fill_settings("set_to", question.set_to or SettingsGiven(), now, reading.step)
    standing = _Now(frozenset(question.on), now.aperture.exact, stands.aperture.exact, stands.iso.exact)
    if fitting.count == 0:
        nearest = fitting.nearest
        because = _none_because(question, must, pieces, nearest)
        return FoundStacks(
            0, (), because, _shown(nearest, metered_target, [nearest], question, standing) if nearest else None
        )
    undominated = fitting.undominated()
    hands = question.order is Order.HANDS
    best = fitting.handiest(MOST_STACKS, standing) if hands else fitting.best(MOST_STACKS)
    return FoundStacks(
        fitting.count, tuple(_shown(hit, metered_target, undominated, question, standing) for hit in best)
    )


class _Closest:
    """The closest hit at each place: the hit, its size, and what decides between equals."""

    def __init__(self, places: int) -> None:
        hits: list[_Bare | None] = [None] * places
        ties: list[tuple[bool, tuple[str, ...]]] = [(True, ())] * places
        self.parts = hits, [math.inf] * places, ties


class _Fitting:
    """Collects what fits.

    The loop in :meth:`add` is the whole cost of the finder, so it only files bare hits under the first parts of the
    order; the rest of the order is worked out for the few that will be shown.
    """

    def __init__(self, settings: list[Setting]) -> None:
        self.settings = settings
        self.steps = [setting.stops for setting in settings]
        self.soft = [setting.soft for setting in settings]
        self.count = 0
        self.nearest: _Hit | None = None
        # By far from the target, past sharp, and number of glasses: (subset, place, turned, error).
        self._filed: list[list[_Bare]] = [[] for _ in range(4 * (MOST_SLOTS + 1))]
        # By number of glasses and place: the closest hit there.
        self._closest = [_Closest(len(settings)) for _ in range(MOST_SLOTS + 1)]

    def fits(self, subset: Subset, start: float, window: float) -> int:
        """Return how many apertures and ISOs land within ``window`` of the target."""
        first, last = self._span(subset.more, start, window)
        return max(0, last - first)

    def _span(self, more: float, start: float, window: float) -> tuple[int, int]:
        # Without its variable the error may be anywhere from -window - more to +window.
        first = bisect_left(self.steps, -window - more - start - _SAME)
        return first, bisect_right(self.steps, window - start + _SAME)

    def add(self, subset: Subset, start: float, window: float) -> None:
        """File every aperture and ISO at which ``subset`` lands within ``window`` of the target."""
        more, glasses = subset.more, len(subset.pieces)
        steps, soft = self.steps, self.soft
        closest, sizes, ties = self._closest[glasses].parts
        tie = (more > 0, subset.ids)
        near_sharp, near_soft, far_sharp, far_soft = self._filed[glasses :: MOST_SLOTS + 1]
        first, last = self._span(more, start, window)
        for place in range(first, last):
            error = start + steps[place]
            turned = 0.0
            if more and error < 0:
                turned = more if error + more < 0 else -error
                error += turned
            hit = (subset, place, turned, error)
            if -_CLOSE < error < _CLOSE:
                (near_soft if soft[place] else near_sharp).append(hit)
            else:
                (far_soft if soft[place] else far_sharp).append(hit)
            size = error if error > 0 else -error
            behind = size - sizes[place]
            if behind < -_SAME or (behind <= _SAME and tie < ties[place]):
                closest[place], sizes[place], ties[place] = hit, size, tie
        self.count += max(0, last - first)
        if self.count == 0:
            self._nearly(subset, start, {max(first - 1, 0), min(first, len(steps) - 1)})

    def _hit(self, bare: _Bare) -> _Hit:
        subset, place, turned, error = bare
        return _Hit(subset, self.settings[place], turned, error, round(abs(error), 9))

    def _nearly(self, subset: Subset, start: float, places: set[int]) -> None:
        for place in places:
            bare = start + self.steps[place]
            turned = min(subset.more, max(0.0, -bare))
            hit = _Hit(subset, self.settings[place], turned, bare + turned, abs(bare + turned))
            if self.nearest is None or hit.size < self.nearest.size - _SAME:
                self.nearest = hit

    def best(self, most: int) -> list[_Hit]:
        """Return the first ``most`` in the full order."""
        found: list[_Hit] = []
        for bucket in self._filed:
            if len(found) == most:
                break
            found += heapq.nsmallest(most - len(found), map(self._hit, bucket), key=lambda hit: hit.key)
        return found

    def handiest(self, most: int, now: _Now) -> list[_Hit]:
        """Return the first ``most`` in the order by hands."""
        cheap = [now.of_setting(setting) for setting in self.settings]
        moves: dict[tuple[str, ...], int] = {}
        filed: dict[tuple[bool, bool, bool, bool, bool, int, int], list[_Bare]] = {}
        for bare in chain.from_iterable(self._filed):
            (pieces, _, _, ids), place, _, error = bare
            touched = moves.get(ids)
            if touched is None:
                touched = moves[ids] = now.moves(ids)
            away, deep, soft, dials = cheap[place]
            changes = touched + dials
            key = (changes > 0, not -_CLOSE < error < _CLOSE, away, deep, soft, changes, len(pieces))
            filed.setdefault(key, []).append(bare)
        found: list[_Hit] = []
        for key in sorted(filed):
            if len(found) == most:
                break
            found += heapq.nsmallest(most - len(found), map(self._hit, filed[key]), key=lambda hit: hit.key)
        return found

    def undominated(self) -> list[_Hit]:
        """Return the hits no other beats in glasses, closeness, diffraction and ISO together."""
        met = [self._hit(bare) for places in self._closest for bare in places.parts[0] if bare is not None]
        undominated: list[tuple[_Worth, _Hit]] = []
        for own, hit in sorted(((_worth(hit), hit) for hit in met), key=lambda each: (each[0], each[1].key)):
            # In this order a later one never beats an earlier one, so one look back is enough.
            if not any(
                glasses <= own[0] and size <= own[1] and soft <= own[2] and away <= own[3]
                for (glasses, size, soft, away), _ in undominated
            ):
                undominated.append((own, hit))
        return [hit for _, hit in undominated]


_Bare = tuple[Subset, int, float, float]
_Worth = tuple[int, float, float, float]


def _worth(hit: _Hit) -> _Worth:
    return (len(hit.subset.pieces), hit.size, hit.setting.diffraction, hit.setting.iso_distance)


def _pieces(question: FinderQuestion) -> tuple[list[Piece], Counter[str]]:
    ids = {glass.id for glass in question.glass}
    for place, wanted in enumerate(question.must):
        if wanted not in ids:
            raise Refusal(f"must.{place}", f"There is no filter '{wanted}'.", "Name a filter of the list.")
    must = Counter(question.must)
    return pieces_of(question.glass, question.must, question.onto, question.on), must


def pieces_of(
    glass: tuple[KitGlass, ...], must: tuple[str, ...] = (), onto: Onto | None = None, on: tuple[str, ...] = ()
) -> list[Piece]:
    """Return the glass as the sums see it: what is on already or goes on; graduated glass only where asked for.

    Raises
    ------
    Refusal
        More than 24 glasses, an id that stands twice, or a glass without a strength.
    """
    if len(glass) > MOST_GLASSES:
        raise Refusal("glass", f"{len(glass)} filters are more than can be tried.", "Give at most 24.")
    if doubled := [entry for entry, count in Counter(each.id for each in glass).items() if count > 1]:
        raise Refusal("glass", f"The id '{doubled[0]}' stands twice.", "Give every filter its own id.")
    return [
        _piece(f"glass.{place}", piece)
        for place, piece in enumerate(glass)
        if (piece.kind is not GlassKind.GRADUATED or piece.id in must)
        and (piece.id in must or piece.id in on or piece.goes_onto(onto))
    ]


def _piece(place: str, glass: KitGlass) -> Piece:
    if glass.kind is GlassKind.GRADUATED:
        return Piece(glass.id, 0.0, 0.0, 0.0, glass.kind, False)
    if glass.stops is not None:
        stops = within(f"{place}.stops", glass.stops, 0, 30, "stops")
        return Piece(glass.id, stops, 0.0, 0.0, glass.kind, glass.kind.polarises, glass.members)
    if glass.min is None or glass.max is None:
        raise Refusal(place, f"'{glass.id}' has no strength.", "Give its stops, or its min and max.")
    low = within(f"{place}.min", glass.min, 0, 30, "stops")
    high = within(f"{place}.max", glass.max, 0, 30, "stops")
    if glass.usable_max is not None:
        high = min(high, within(f"{place}.usable_max", glass.usable_max, 0, 30, "stops"))
    if high < low:
        raise Refusal(f"{place}.max", f"'{glass.id}' ends before it begins.", "Give the weaker end as min.")
    if glass.kind is GlassKind.VARIABLE:
        return Piece(glass.id, low, high - low, 0.0, glass.kind, True)
    return Piece(glass.id, (low + high) / 2, 0.0, (high - low) / 2, glass.kind, glass.kind.polarises)


def subsets(pieces: list[Piece], slots: int, must: Counter[str] | None = None) -> Iterator[Subset]:
    """Yield every subset that holds all of ``must``; of identical glasses always the first ones.

    Parameters
    ----------
    pieces : list[Piece]
        What may go on, with its strength.
    slots : int
        Most that go on at once, 0 to 4.
    must : Counter[str] | None
        Ids that must be among them.

    Raises
    ------
    Refusal
        Fewer than 0 or more than 4 slots.
    """
    if not 0 <= slots <= MOST_SLOTS:
        raise Refusal("slots", f"{slots} slots are not a holder.", "Give 0 to 4.")
    must = must or Counter()
    needed = tuple(piece for piece in pieces if piece.id in must)
    free = [piece for piece in pieces if piece.id not in must]
    clashes = _clashes(pieces)
    if sum(piece.polarises for piece in needed) > 1 or len(needed) > slots:
        return
    if any(clashes.get(piece.id, _NONE) & must.keys() for piece in needed):
        return
    # A twin may come only right after the twin before it, so each count of them is met once.
    last: dict[tuple[float, float, float, GlassKind, str], int] = {}
    before = []
    for place, piece in enumerate(free):
        # What belongs to a named stack is not alike to what does not.
        same = (piece.fixed, piece.more, piece.half_range, piece.kind, piece.id if piece.id in clashes else "")
        before.append(last.get(same))
        last[same] = place
    fixed, more = sum(piece.fixed for piece in needed), sum(piece.more for piece in needed)
    begun = Subset(needed, fixed, more, tuple(piece.id for piece in needed))
    polarised = any(piece.polarises for piece in needed)
    yield from _grown(free, before, clashes, begun, slots - len(needed), 0, polarised)


_NONE: frozenset[str] = frozenset()


def _clashes(pieces: list[Piece]) -> dict[str, frozenset[str]]:
    """Return which others cannot be on beside one: a named stack's members, and stacks that share one.

    Empty without any.
    """
    parts = {piece.id: frozenset((piece.id, *piece.members)) for piece in pieces}
    if not any(piece.members for piece in pieces):
        return {}
    return {
        own: found
        for own, mine in parts.items()
        if (
            found := frozenset(other for other, theirs in parts.items() if other != own and not mine.isdisjoint(theirs))
        )
    }


def _grown(
    free: list[Piece],
    before: list[int | None],
    clashes: dict[str, frozenset[str]],
    subset: Subset,
    room: int,
    start: int,
    polarised: bool,
) -> Iterator[Subset]:
    """Yield ``subset`` and everything that can be put on it from place ``start`` on."""
    yield subset
    if room == 0:
        return
    pieces, fixed, more, ids = subset
    for place in range(start, len(free)):
        piece = free[place]
        if piece.polarises and polarised:
            continue
        twin = before[place]
        if twin is not None and free[twin].id not in ids:
            continue
        if clashes and not clashes.get(piece.id, _NONE).isdisjoint(ids):
            continue
        bigger = Subset((*pieces, piece), fixed + piece.fixed, more + piece.more, (*ids, piece.id))
        if room == 1:
            yield bigger
        else:
            yield from _grown(free, before, clashes, bigger, room - 1, place + 1, polarised or piece.polarises)


def _shown(hit: _Hit, target: float, undominated: list[_Hit], question: FinderQuestion, now: _Now) -> Stack:
    seconds = target * 2.0**hit.error
    return Stack(
        glass=hit.subset.ids,
        aperture=hit.setting.aperture,
        iso=hit.setting.iso,
        stops=hit.subset.fixed + hit.turned,
        seconds=question.film.corrected(seconds) if question.film else seconds,
        error_stops=hit.error,
        sure_half_range=sum(piece.half_range for piece in hit.subset.pieces),
        reasons=tuple(_reasons(hit, undominated, now if question.order is Order.HANDS else None)),
        matters=hit in undominated,
        hand_moves=now.moves(hit.subset.ids),
        turned=_turned(hit),
        changes=now.changes(hit),
    )


def _turned(hit: _Hit) -> float | None:
    """Return what the variable in the stack is set to: its weak end and what it adds beyond the fixed shares."""
    for piece in hit.subset.pieces:
        if piece.kind is GlassKind.VARIABLE:
            return piece.fixed + hit.turned
    return None


def _reasons(hit: _Hit, undominated: list[_Hit], now: _Now | None) -> Iterator[Reason]:
    """Yield why one would take it, and what it costs: by the order of hands the changes first."""
    glasses = len(hit.subset.pieces)
    if now:
        away = 2 * math.log2(hit.setting.f_number / now.metered_f)
        if now.changes(hit) == 0:
            turned = f"only turn it to {_turned(hit) or 0:.1f}" if hit.subset.more > 0 else "nothing to change"
            yield Reason("as_it_is", turned)
        if abs(away) > DEPTH_STOPS + _SAME:
            opened = "opened" if away < 0 else "closed"
            yield Reason("other_depth", f"{opened} {abs(away):.0f} stops: another depth of field")
    if glasses == min(len(other.subset.pieces) for other in undominated):
        yield Reason("fewest_glasses", "fewest filters")
    if abs(hit.error) <= min(abs(other.error) for other in undominated) + _SAME:
        yield Reason("closest_time", "closest to the time")
    if hit.setting.diffraction == 0 and hit.setting.iso_distance == 0:
        yield Reason("cleanest", "sharp aperture, base ISO")
    if hit.setting.diffraction > SOFT_STOPS:
        yield Reason("soft", f"f/{hit.setting.aperture} softens fine detail")
    if hit.setting.iso_distance > _SAME:
        yield Reason("off_base_iso", f"ISO {hit.setting.iso} is off the base")
    if hit.subset.more > 0:
        yield Reason("turned", "variable to be set by eye or reading")
    if abs(hit.error) > _CLOSE:
        longer = "longer" if hit.error > 0 else "shorter"
        yield Reason("off_target", f"{abs(hit.error):.1f} stop {longer} than wanted")


def _none_because(question: FinderQuestion, must: Counter[str], pieces: list[Piece], nearest: _Hit | None) -> str:
    wanted = time_in_words(question.target.seconds)
    if nearest is None:
        if len(must) > question.slots:
            return f"{len(must)} filters are asked for and the holder takes {question.slots}."
        polarising = {piece.id for piece in pieces if piece.polarises}
        if len(polarising & must.keys()) > 1:
            return "Two polarising filters are asked for; together their stops mean nothing."
        return "No stack fits this holder."
    short = abs(nearest.error)
    if nearest.error > 0:
        return f"{wanted} is {short:.1f} stops too short for this light: open up, raise the ISO or take filters off."
    return f"{wanted} is {short:.1f} stops out of reach: more filters, a smaller aperture or less light is needed."
