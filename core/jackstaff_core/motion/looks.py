"""From what should blur to a window of time, and back: what a time does to each thing in the picture.

Each kind of subject has a measure that grows with time, classes of it with names ("veil", "streaks", "gone"), and so a
window of times for each look. Wished looks meet in one aim, or in a stated conflict with two frames to blend.
Boundaries are contiguous. Sources, limits and verdicts are those of water, cloud, foliage, people and trails.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated

from ..scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from ..wire.marks import Between, Size
from ..words.advice import Advice
from ..words.refusal import Refusal, within
from .subjects import Camera, Moving, Subject, finite_or_none, subject_motion

MOST_SUBJECTS = 12
Word = Annotated[str, Size(1, 120)]


@dataclass(frozen=True, slots=True)
class Want:
    """A look of a kind; ``id`` names the one subject that is to have it, such as the lower of two layers of cloud."""

    kind: Word
    look: Word
    id: Word | None = None


@dataclass(frozen=True, slots=True)
class OwnLook:
    """A look of one's own: a name and the stretch of the kind's measure it means."""

    kind: Word
    look: Word
    low: Annotated[float, Between(0)]
    high: Annotated[float, Between(0)] | None = None

    def __post_init__(self) -> None:
        if self.high is not None and self.high <= self.low:
            raise Refusal("high", "A look ends after it begins.", "Give the larger measure last.")


@dataclass(frozen=True, slots=True)
class Window:
    """Times [s] that give a look; ``to_seconds`` None is open, ``from_seconds`` None is never."""

    kind: str
    look: str
    from_seconds: float | None
    to_seconds: float | None
    status: str
    id: str | None = None


@dataclass(frozen=True, slots=True)
class Aim:
    """The times that give every wish, with a middle to steer for and the stops either side of it."""

    from_seconds: float
    to_seconds: float | None
    middle_seconds: float
    half_stops: float


@dataclass(frozen=True, slots=True)
class BlendFrame:
    """One of the frames to blend: its window and the kinds it is for."""

    from_seconds: float
    to_seconds: float | None
    kinds: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Conflict:
    """Wishes that no one time gives, and the frames that would give them when blended."""

    text: str
    wants: tuple[Want, ...]
    frames: tuple[BlendFrame, ...]


@dataclass(frozen=True, slots=True)
class Looks:
    """Windows of every subject, and the aim where the wishes meet; ``conflict`` where they do not."""

    windows: tuple[Window, ...]
    aim: Aim | None
    conflict: Conflict | None
    advice: tuple[Advice, ...]


@dataclass(frozen=True, slots=True)
class Rendering:
    """What a time does to one subject; only what applies is set. Contrasts are - for darker than the ground."""

    kind: str
    look: str
    status: str
    text: str
    id: str | None = None
    streak_share: float | None = None
    residual_texture: float | None = None
    body_contrast: float | None = None
    feet_contrast: float | None = None
    veil: float | None = None
    veil_texture: float | None = None
    standing_ghosts: float | None = None
    worst_seconds: float | None = None
    blur_share: float | None = None
    blur_px: float | None = None
    trail_px: float | None = None
    trail_stops: float | None = None
    rise_m: float | None = None
    turns: float | None = None


Subjects = Annotated[tuple[Subject, ...], Size(0, MOST_SUBJECTS)]
Wants = Annotated[tuple[Want, ...], Size(0, MOST_SUBJECTS)]


@dataclass(frozen=True, slots=True)
class LooksQuestion:
    """The camera, what moves before it, and what is wished for each."""

    camera: Camera
    subjects: Subjects
    wants: Wants = ()
    own: Annotated[tuple[OwnLook, ...], Size(0, 24)] = ()


def looks(question: LooksQuestion) -> Looks:
    """Return the windows of every subject, and the aim where the wishes meet.

    Raises
    ------
    Refusal
        A subject, camera or wish that cannot be.
    """
    moving = _ready(question)
    windows = tuple(
        window
        for subject, each in zip(question.subjects, moving, strict=True)
        for window in _windows(subject, each, question.own)
    )
    advice = tuple(advice for each in moving for advice in each.advice)
    wished = [(want, _wished(place, want, windows)) for place, want in enumerate(question.wants)]
    aim, conflict = _meet(wished)
    return Looks(windows, aim, conflict, advice)


def looks_at(question: LooksQuestion, seconds: float) -> tuple[Rendering, ...]:
    """Return what ``seconds`` does to each subject, in their order.

    Parameters
    ----------
    question : LooksQuestion
        Subjects, lens and limits.
    seconds : float
        Exposure [s], 1/32000 to 86,400.

    Raises
    ------
    Refusal
        As :func:`looks`; a time outside 1/32000 s to 24 h.
    """
    within("seconds", seconds, SHORTEST_SECONDS, LONGEST_SECONDS, "s")
    return tuple(
        _rendering(subject, each, seconds) for subject, each in zip(question.subjects, _ready(question), strict=True)
    )


def _ready(question: LooksQuestion) -> list[Moving]:
    if len(question.subjects) > MOST_SUBJECTS:
        raise Refusal("subjects", f"{len(question.subjects)} subjects are too many.", f"Give at most {MOST_SUBJECTS}.")
    return [
        subject_motion(f"subjects.{place}", subject, question.camera) for place, subject in enumerate(question.subjects)
    ]


def _windows(subject: Subject, first: Moving, own: Sequence[OwnLook]) -> Iterator[Window]:
    # A look of one's own with a preset's name is that preset as this person means it.
    edited = {mine.look for mine in own if mine.kind == subject.kind}
    begun = 0.0
    for look, bound in first.classes:
        ends = math.inf if math.isinf(bound) else first.reached(bound)
        if look in edited:
            pass
        elif math.isinf(begun):
            yield Window(subject.kind, look, None, None, first.status, subject.id)
        else:
            yield Window(subject.kind, look, begun, finite_or_none(ends), first.status, subject.id)
        begun = ends
    for mine in own:
        if mine.kind == subject.kind:
            yield _own_window(subject, first, mine)


def _own_window(subject: Subject, first: Moving, mine: OwnLook) -> Window:
    bounds = [mine.low, math.inf if mine.high is None else mine.high]
    if first.falls:
        bounds = [math.inf if mine.high is None else mine.high, mine.low]
        times = [0.0 if math.isinf(bounds[0]) else first.reached(bounds[0]), first.reached(bounds[1])]
    else:
        times = [
            0.0 if mine.low <= 0 else first.reached(mine.low),
            math.inf if math.isinf(bounds[1]) else first.reached(bounds[1]),
        ]
    return Window(
        subject.kind,
        mine.look,
        finite_or_none(times[0]),
        finite_or_none(times[1]) if not math.isinf(times[0]) else None,
        first.status,
        subject.id,
    )


def _look(first: Moving, seconds: float) -> str:
    """Return the class a time falls into; a boundary belongs to the class before it."""
    value = first.measure(seconds)
    for look, bound in first.classes:
        if (value >= bound * (1 - 1e-12)) if first.falls else (value <= bound * (1 + 1e-12)):
            return look
    return first.classes[-1][0]


def _rendering(subject: Subject, first: Moving, seconds: float) -> Rendering:
    look = _look(first, seconds)
    found = first.effect(seconds)
    return Rendering(subject.kind, look, first.status, first.words(look, found), subject.id, **found)


def _wished(place: int, want: Want, windows: Sequence[Window]) -> list[Window]:
    """Return the windows of a wish, one a subject of its kind, or that of the one subject it names."""
    of_kind = [window for window in windows if window.kind == want.kind and want.id in (None, window.id)]
    if not of_kind:
        raise Refusal(
            f"wants.{place}.kind", f"Nothing of the kind '{want.kind}' is in the picture.", "Add the subject first."
        )
    found = [window for window in of_kind if window.look == want.look]
    if not found:
        known = ", ".join(dict.fromkeys(window.look for window in of_kind))
        raise Refusal(f"wants.{place}.look", f"'{want.look}' is no look of {want.kind}.", f"Give one of: {known}.")
    return found


_Span = tuple[float, float]


def _span(windows: Sequence[Window]) -> _Span | None:
    """Return the times in all of these windows, None when there are none."""
    low, high = 0.0, math.inf
    for window in windows:
        if window.from_seconds is None:
            return None
        low = max(low, window.from_seconds)
        high = min(high, math.inf if window.to_seconds is None else window.to_seconds)
    return (low, high) if low < high else None


def _meet(wished: list[tuple[Want, list[Window]]]) -> tuple[Aim | None, Conflict | None]:
    if not wished:
        return None, None
    for want, windows in wished:
        if any(window.from_seconds is None for window in windows):
            text = f"No time gives {want.look} {want.kind} here."
            return None, Conflict(text, (want,), ())
    together = _span([window for _, windows in wished for window in windows])
    if together:
        return _aim(*together), None
    return None, _conflict(wished)


_OPEN_STOPS = 2.0
"""How far into an open window one steers."""
_NARROWEST, _WIDEST = 0.1, 5.0


def _aim(low: float, high: float) -> Aim:
    top = min(high if math.isfinite(high) else max(low, SHORTEST_SECONDS) * 2**_OPEN_STOPS, LONGEST_SECONDS)
    bottom = min(low if low > 0 else top / 2**_OPEN_STOPS, top)
    half = math.log2(top / bottom) / 2
    return Aim(low, finite_or_none(high), math.sqrt(bottom * top), min(max(half, _NARROWEST), _WIDEST))


def _conflict(wished: list[tuple[Want, list[Window]]]) -> Conflict:
    """Return two frames that between them give every wish, where two are enough."""
    spans = [(want, _span(windows)) for want, windows in wished]
    if any(span is None for _, span in spans):
        lonely = next(want for want, span in spans if span is None)
        return Conflict(
            f"The {lonely.kind} differ so much that no one time gives them all '{lonely.look}'.", (lonely,), ()
        )
    sound = sorted(((want, span) for want, span in spans if span), key=lambda each: (each[1][0], each[1][1]))
    apart = [(wish, other) for at, (wish, a) in enumerate(sound) for other, b in sound[at + 1 :] if a[1] <= b[0]]
    first, second = apart[0] if apart else (sound[0][0], sound[-1][0])
    text = f"{_capital(first.look)} {first.kind} and {second.look} {second.kind} do not fit into one frame"
    for cut in range(1, len(sound)):
        groups = [_overlap(sound[:cut]), _overlap(sound[cut:])]
        if groups[0] and groups[1]:
            frames = tuple(
                BlendFrame(span[0], finite_or_none(span[1]), tuple(want.kind for want, _ in part))
                for span, part in zip(groups, (sound[:cut], sound[cut:]), strict=True)
                if span
            )
            return Conflict(f"{text}: shoot two and blend them.", (first, second), frames)
    return Conflict(f"{text}, and two frames are not enough: give up one wish.", (first, second), ())


def _overlap(part: Sequence[tuple[Want, _Span]]) -> _Span | None:
    low, high = max(span[0] for _, span in part), min(span[1] for _, span in part)
    return (low, high) if low < high else None


def _capital(word: str) -> str:
    return word[:1].upper() + word[1:]
