"""What the log knows of the glass: every reviewed frame becomes a statement about the stack that was on it.

    error against the label = sum of offsets in use + bias + lateness + correction - came out
                                                                                        [stops, + denser than labelled]

A filter that was metered through and taken off counts the other way round.

A correction counts unless the person said that the frame before was wrong by its scene's metering or by taste; a frame
that was wrong for one of these says nothing of its filters.

Drift and film are out already: lateness is against the time the light asked for. Frames with variable glass, a
polariser or an unknown glass, aborted frames, those nobody watched and those of the simulated camera are left aside:
they say nothing certain. A frame pair is worth ``PAIR_WEIGHT`` frames. A session ends when nothing was shot for
``SESSION_GAP``.

Source: log/calibration.py. Limits: reviewed frames of solid filters; a person's verdict is good to a third of a stop.
Verdict: computed, with its sd, never shown below 0.05 stop.
"""

from __future__ import annotations

import math
import statistics
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..filters.kind import GlassKind
from .calibration import MOST_FRAMES, MOST_GLASSES, MOST_SESSIONS, Calibrated, Judged, Learnt, learn, shown_sd
from .finished_frame import FinishedFrame, UsedGlass
from .frame import ErrorCause

SESSION_GAP = timedelta(hours=6)
PAIR_WEIGHT, MOST_PAIRS = 4.0, 12
"""A pair is good to about 0.1 stop where a glance at a frame is good to 0.2: four times the weight."""
MOST_REVIEWED = MOST_FRAMES // 2
"""Of a longer log the newest reviewed frames speak; of as many sessions the newest have a habit of their own."""
WILD_STOPS = 8.0
"""A frame further from its label says that something else went wrong [stops]."""
TREND_FRAMES, TREND_DAYS = 6, 60.0
NOT_THE_FILTER = (ErrorCause.SCENE, ErrorCause.TASTE)


@dataclass(frozen=True, slots=True)
class GlassKnown:
    """A solid glass of the kit: its label, the offset in use, and what frame pairs measured [stops in all]."""

    id: str
    name: str
    stops: float
    offset: float | None = None
    pairs: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class Witness:
    """One frame's word on a glass: what it alone would say, the others' part and the session's habit taken out."""

    frame: str
    at: datetime
    error_stops: float
    habit_stops: float


@dataclass(frozen=True, slots=True)
class Known:
    """What the frames say of a glass against its label; ``sd`` as it may be shown. ``advice`` says what to do."""

    id: str
    name: str
    stops: float
    offset: float | None
    mean: float
    sd: float
    frames: int
    pairs: int
    doubted: bool
    advice: str
    trend_a_year: float | None
    witnesses: tuple[Witness, ...]


@dataclass(frozen=True, slots=True)
class Habit:
    """How a session leaned, apart from its glass [stops, + needs more time than reckoned]."""

    began: datetime
    zone: str | None
    """Whose clock the place of its first frame has; None is not known."""
    mean: float
    sd: float
    frames: int


@dataclass(frozen=True, slots=True)
class Evidence:
    """``asides`` counts the reviewed frames that could not be used, by why."""

    glass: tuple[Known, ...]
    habits: tuple[Habit, ...]
    used: int
    asides: Mapping[str, int]


def weigh_log(frames: Sequence[FinishedFrame], kit: Sequence[GlassKnown]) -> Evidence:
    """Learn from the log; glass that no frame speaks of is left out."""
    reviewed = sorted((each for each in frames if each.error_stops is not None and not each.dark), key=_opened)
    known = _learnable(reviewed, kit)
    asides: Counter[str] = Counter()
    used: list[FinishedFrame] = []
    for frame in reviewed[-MOST_REVIEWED:]:
        if why := _aside(frame, known):
            asides[why] += 1
        else:
            used.append(frame)
    sessions = _sessions(used)
    recent = set(sorted(set(sessions.values()))[-MOST_SESSIONS:])
    judged = [
        Judged(
            _ids(frame.put_on),
            against_label(frame),
            began.isoformat() if (began := sessions[frame.id]) in recent else None,
            off=_ids(frame.taken_off),
        )
        for frame in used
    ]
    paired = [(fact, stops) for fact in known.values() for stops in fact.pairs[-MOST_PAIRS:]]
    judged += [Judged((each.id,), stops - each.stops, None, PAIR_WEIGHT) for each, stops in paired]
    if not any(each.glass or each.off for each in judged):
        return Evidence((), (), len(used), asides)
    learnt = learn(judged)
    deltas = {piece.id: piece.mean for piece in learnt.calibration.glass}
    zones = {frame.opened_at: frame.zone for frame in used}
    habits = {session.id: session for session in learnt.calibration.sessions}
    glass = tuple(
        _known(found, known[found.id], learnt, known, _witnesses(found.id, used, deltas, habits, sessions))
        for found in learnt.calibration.glass
    )
    return Evidence(
        tuple(sorted(glass, key=lambda piece: -abs(piece.mean))),
        tuple(
            Habit(
                began := datetime.fromisoformat(habit.id),
                zones.get(began),
                habit.mean,
                shown_sd(habit.sd),
                habit.frames,
            )
            for habit in habits.values()
        ),
        len(used),
        asides,
    )


WORTH_SAYING = 0.3
"""Less than this [stops] one frame cannot tell from its own doubt."""


@dataclass(frozen=True, slots=True)
class FilterFinding:
    """How much denser (+) than reckoned one frame found the one filter it speaks of [stops]."""

    glass: str
    name: str
    stops: float


def single_frame_finding(frame: FinishedFrame) -> FilterFinding | None:
    """Return what one frame alone says of a filter: None where it speaks of several, of none, or of something else.

    The measure is that of the whole log (``against_label``), beside the offset in use. Verdict: estimate; it is one
    frame's word.
    """
    counted = _counted(frame)
    if frame.error_stops is None or frame.dark or frame.film is not None or len(counted) != 1 or not frame.put_on:
        return None
    (glass,) = counted
    if glass.id is None or _aside(frame, {glass.id: GlassKnown(glass.id, glass.name, glass.stops)}):
        return None
    stops = against_label(frame) - (glass.offset or 0.0)
    return FilterFinding(glass.id, glass.name, stops) if abs(stops) >= WORTH_SAYING else None


def against_label(frame: FinishedFrame) -> float:
    """Return how much denser than its labels the stack was, by this reviewed frame alone [stops]."""
    in_use = sum(each.offset or 0.0 for each in frame.put_on) - sum(each.offset or 0.0 for each in frame.taken_off)
    taught = 0.0 if frame.correction_for in NOT_THE_FILTER else frame.correction_stops
    return in_use + frame.bias_stops + taught + frame.late_stops - (frame.error_stops or 0.0)


def _opened(frame: FinishedFrame) -> datetime:
    return frame.opened_at


def _counted(frame: FinishedFrame) -> list[UsedGlass]:
    """Return the glass that the frame speaks of: what came on after the metering, and what went off."""
    return [*frame.put_on, *frame.taken_off]


def _ids(glass: Iterable[UsedGlass]) -> tuple[str, ...]:
    return tuple(each.id for each in glass if each.id)


def _learnable(frames: Sequence[FinishedFrame], kit: Sequence[GlassKnown]) -> dict[str, GlassKnown]:
    """Return the kit, or of a very large one the glass that most frames speak of."""
    spoken = Counter(each.id for frame in frames for each in _counted(frame))
    most = sorted(kit, key=lambda thing: -(spoken[thing.id] + len(thing.pairs)))[:MOST_GLASSES]
    return {each.id: each for each in most}


def _aside(frame: FinishedFrame, known: Mapping[str, GlassKnown]) -> str | None:
    if frame.aborted:
        return "given up"
    if frame.practice:
        return "made with the simulated camera"
    if frame.expected:
        return "nobody metered: the reading was a forecast"
    if frame.because in NOT_THE_FILTER:
        return "its metering or your taste was the reason"
    if not frame.watched:
        return "the time is not known well"
    if abs(against_label(frame)) > WILD_STOPS:
        return "further off than a filter can be"
    counted = _counted(frame)
    if any(each.kind not in (None, GlassKind.SOLID) for each in counted):
        return "a variable filter or a polariser was on"
    if any(each.id not in known for each in counted):
        return "a filter is not in the kit"
    return None


def _sessions(frames: Iterable[FinishedFrame]) -> dict[str, datetime]:
    """Return when the session of each frame began; ``frames`` in order of time."""
    began: dict[str, datetime] = {}
    last: FinishedFrame | None = None
    for frame in frames:
        fresh = last is None or frame.opened_at - last.opened_at > SESSION_GAP
        began[frame.id] = frame.opened_at if fresh or last is None else began[last.id]
        last = frame
    return began


def _witnesses(
    glass: str,
    used: Sequence[FinishedFrame],
    deltas: Mapping[str, float],
    habits: Mapping[str, Calibrated],
    sessions: Mapping[str, datetime],
) -> tuple[Witness, ...]:
    found = []
    for frame in used:
        on, off = _ids(frame.put_on), _ids(frame.taken_off)
        times = on.count(glass) - off.count(glass)
        if times == 0:
            continue
        habit = habits.get(sessions[frame.id].isoformat())
        leaned = habit.mean if habit else 0.0
        others = sum(deltas[each] for each in on) - sum(deltas[each] for each in off) - times * deltas[glass]
        alone = (against_label(frame) - others - leaned) / times
        found.append(Witness(frame.id, frame.opened_at, alone, leaned))
    return tuple(found)


def _known(
    found: Calibrated, glass: GlassKnown, learnt: Learnt, kit: Mapping[str, GlassKnown], witnesses: tuple[Witness, ...]
) -> Known:
    doubted = found.id in learnt.doubted
    return Known(
        glass.id,
        glass.name,
        glass.stops,
        glass.offset,
        found.mean,
        shown_sd(found.sd),
        len(witnesses),
        len(glass.pairs),
        doubted,
        _advice(found, glass, doubted, [_other(pair, glass.id) for pair in _tangles(learnt, glass.id)], kit),
        _trend(witnesses),
        witnesses,
    )


def _tangles(learnt: Learnt, glass: str) -> list[tuple[str, str]]:
    return [(each.first, each.other) for each in learnt.tangled if glass in (each.first, each.other)]


def _other(pair: tuple[str, str], glass: str) -> str:
    return pair[1] if pair[0] == glass else pair[0]


def _advice(
    found: Calibrated, glass: GlassKnown, doubted: bool, tangled: list[str], kit: Mapping[str, GlassKnown]
) -> str:
    sure = 2 * shown_sd(found.sd)
    if doubted:
        way = "denser" if found.mean > 0 else "weaker"
        return (
            f"Its frames agree that it is {abs(found.mean):.1f} stops {way} than its label."
            " Is the label wrong, or was something left on?"
        )
    if tangled:
        names = " and ".join(kit[each].name for each in tangled)
        return (
            f"Always used with {names}: only the two together are known. One frame with {glass.name} alone would tell."
        )
    if sure > 0.25:
        return "A frame or two more with it alone, or a frame pair, would settle it."
    settled = glass.offset is not None and abs(found.mean - glass.offset) < 0.1
    if settled:
        return "In use already; the frames agree."
    if abs(found.mean) < 0.1:
        return "As good as its label."
    return "Known well enough to use."


def _trend(witnesses: Sequence[Witness]) -> float | None:
    """Return the stops a year, by least squares, where it stands out by more than two sd; None otherwise.

    Habits stay in: a glass that changes slowly looks like habits that lean further each time.
    """
    if len(witnesses) < TREND_FRAMES:
        return None
    days = [(witness.at - witnesses[0].at).total_seconds() / 86_400 for witness in witnesses]
    if days[-1] - days[0] < TREND_DAYS:
        return None
    errors = [witness.error_stops + witness.habit_stops for witness in witnesses]
    slope, start = statistics.linear_regression(days, errors)
    rest = [error - start - slope * day for day, error in zip(days, errors, strict=True)]
    middle = statistics.fmean(days)
    spread = math.fsum((day - middle) ** 2 for day in days)
    sd = math.sqrt(math.fsum(each**2 for each in rest) / (len(rest) - 2) / spread)
    return slope * 365.25 if abs(slope) > 2 * max(sd, 1e-12) and abs(slope) * 365.25 > 0.05 else None
