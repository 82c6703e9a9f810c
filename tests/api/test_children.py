"""Work in processes of its own: ended where it goes beyond its limits, and the next one is done all the same."""

from __future__ import annotations

import os
import sys
import time

import pytest

from jackstaff import children
from jackstaff_core.words.refusal import Refusal, Refusals


def sleep() -> None:
    time.sleep(60)


def burn() -> None:
    while True:
        pass


def hoard() -> int:
    return len(bytearray(children.MEMORY_BYTES))


def loaded() -> list[str]:
    return [name for name in sys.modules if name.partition(".")[0] in ("django", "sqlite3")]


def refuse(*, several: bool = False) -> None:
    one = Refusal("stack.1", "It is none.", "Give one.")
    raise Refusals([one, one.under("bench")]) if several else one


@pytest.mark.parametrize(
    ("work", "why"),
    [(sleep, "longer than 0.5 seconds"), (burn, "longer than 0.5 seconds"), (hoard, "more memory")],
)
def test_work_beyond_its_limits_is_ended_and_the_next_is_done(work: object, why: str) -> None:
    with pytest.raises(children.Ended, match=why):
        children.ask_within(0.5 if work is not hoard else 20, work)  # type: ignore[arg-type]
    assert children.ask(os.getpid) != os.getpid()


def test_a_processor_is_lent_for_so_long() -> None:
    with pytest.raises(children.Ended, match="of a processor"):
        children.ask(_burn_within, 1)
    assert children.ask(os.getpid) != os.getpid()


def _burn_within(seconds: int) -> None:
    """In the child, whose module is its own."""
    children.CPU_SECONDS = seconds
    children._bounded(burn, (), {})


def test_a_child_has_no_database() -> None:
    assert children.ask(loaded) == []


@pytest.mark.parametrize("several", [False, True])
def test_a_refusal_comes_back_whole(several: bool) -> None:
    with pytest.raises(Refusals if several else Refusal) as refused:
        children.ask(refuse, several=several)
    if isinstance(refused.value, Refusals):
        assert [each.field for each in refused.value.all] == ["stack.1", "bench.stack.1"]
    assert "stack.1: It is none. Give one." in str(refused.value)


def test_no_more_work_waits_than_is_agreed() -> None:
    for _ in range(children.MOST_WAITING):
        children._waiting.acquire()
    try:
        with pytest.raises(children.Full):
            children.ask(os.getpid)
    finally:
        for _ in range(children.MOST_WAITING):
            children._waiting.release()
