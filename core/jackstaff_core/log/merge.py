"""Two writings of one frame that did not know of each other become one: what happened is kept from both.

An opening and an end are written once: of several ends the first stands until it is taken back. What somebody
says about the frame (note, review, conditions) is the later writer's.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import timedelta

from .frame import EventKind as Kind
from .frame import Frame, FrameEvent, FrameRun, FrameState, Reread

_ENDS = frozenset({Kind.CLOSED, Kind.ABORTED})
_LONGER = frozenset({Kind.EXTENDED, Kind.CUT})


def merge_frames(winner: Frame, loser: Frame) -> Frame:
    """Return the winner's frame with whatever happened according to the loser."""
    known = {event.id for event in winner.events}
    news = [event for event in loser.events if event.id not in known]
    if not news:
        return replace(winner, run=_run(winner.run, loser.run, ())) if winner.run else winner
    events = _in_order([*winner.events, *news])
    end, others = _end(events)
    ending = next((doc for doc in (winner, loser) if end and _last_end(doc) == end.id), None)
    # A second page's end of the same frame never happened.
    events = [event for event in events if event.id not in others]
    state = winner.state if end and ending is None else ending.state if ending else _open_or(winner, events)
    whole = ending or winner
    is_open = state == FrameState.OPEN
    run = winner.run and _run(winner.run, loser.run, news)
    if run and ending and ending.run:
        run = replace(run, busy_until=ending.run.busy_until, watched=ending.run.watched)
    return replace(
        winner,
        state=state,
        opened_at=winner.opened_at + _shifted(news),
        closed_at=None if is_open else whole.closed_at,
        closed_by=None if is_open else whole.closed_by,
        events=tuple(events),
        run=run,
    )


def would_lose(winner: Frame, loser: Frame) -> bool:
    """Return whether the loser says something about the frame that is not in what is kept."""
    fields = ("note", "review", "conditions")
    return any(getattr(loser, name) and getattr(loser, name) != getattr(winner, name) for name in fields)


def _in_order(events: Sequence[FrameEvent]) -> list[FrameEvent]:
    return sorted(events, key=lambda event: event.at)


def _end(events: Sequence[FrameEvent]) -> tuple[FrameEvent | None, set[object]]:
    """Return the end that stands, and what belongs to ends that came after it."""
    end: FrameEvent | None = None
    others: set[object] = set()
    for event in events:
        if event.kind == Kind.TAKEN_BACK:
            end = None
        elif event.kind in _ENDS:
            if end is None:
                end = event
            else:
                others |= {event.id}
                others |= {each.id for each in events if each.kind == Kind.AIMED and each.at == event.at != end.at}
    return end, others


def _last_end(doc: Frame) -> object:
    end, _ = _end(_in_order(doc.events))
    return end and end.id


def _open_or(winner: Frame, events: Sequence[FrameEvent]) -> FrameState:
    """Without an end that stands it is open, where events say that it opened at all."""
    taken_back = any(event.kind == Kind.TAKEN_BACK for event in events)
    return FrameState.OPEN if taken_back else winner.state


def _shifted(news: Sequence[FrameEvent]) -> timedelta:
    return timedelta(seconds=sum(event.seconds or 0.0 for event in news if event.kind == Kind.SHIFTED))


def _run(run: FrameRun, other: FrameRun | None, news: Sequence[FrameEvent]) -> FrameRun:
    """Return the readings on the way and longer or shorter, from both."""
    longer = sum(event.seconds or 0.0 for event in news if event.kind in _LONGER)
    rereads: dict[float, Reread] = {}
    for each in (*run.rereads, *(other.rereads if other else ())):
        known = rereads.get(each.at_seconds)
        # One reading, of which one side may have heard whether it counts.
        if known is None or known.believed is None:
            rereads[each.at_seconds] = each if known is None else replace(known, believed=each.believed)
    return replace(
        run,
        bias_stops=max(-10.0, min(10.0, round(run.bias_stops + longer, 6))),
        rereads=tuple(sorted(rereads.values(), key=lambda reread: reread.at_seconds)[-200:]),
        server_clock=run.server_clock or (other.server_clock if other else None),
        # One phone watched: whichever has seen further has the whole.
        looks=max(run.looks, other.looks if other else (), key=lambda looks: looks[-1].at_seconds if looks else -1e9),
    )
