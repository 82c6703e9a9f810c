"""Work that may take long, done in processes of their own which have no database.

Each has a limit of time, of processor time and of memory. Work that goes beyond one of them is ended together with its
process, and another process takes its place: no thread of the server's is ever interrupted, and none is held up.
"""

from __future__ import annotations

import contextlib
import multiprocessing
import os
import resource
import threading
from collections.abc import Callable
from concurrent.futures import TimeoutError as OutOfSeconds
from typing import ParamSpec, TypeVar

from pebble import ProcessExpired, ProcessPool

Given = ParamSpec("Given")
Result = TypeVar("Result")

CHILDREN = 2
"""Processes for each worker of the server."""
MOST_WAITING = 20
"""Pieces of work that are done or wait for a process, for each worker of the server."""
SECONDS, CPU_SECONDS = 20.0, 20
"""How long one piece of work may take, and how much of a processor it may use."""
MEMORY_BYTES = 3_000_000_000
"""Addresses a process may have. What it needs is a tenth of that; libraries reserve more than they use."""
PRELOADED = ("jackstaff_core.answering", __name__)
"""What every child knows from the start; whoever measures a picture first reads the imaging in, half a second once."""

_waiting = threading.BoundedSemaphore(MOST_WAITING)
_starting = threading.Lock()
_pools: dict[int, ProcessPool] = {}


class Full(Exception):
    """So much work waits that no more is taken."""


class Ended(Exception):
    """The work went beyond its limit of time or memory, and was ended; its text says which."""


def ask(work: Callable[Given, Result], *given: Given.args, **named: Given.kwargs) -> Result:
    """Return the result of ``work`` as a child process found it, within ``SECONDS``; raises as ``ask_within`` does."""
    return ask_within(SECONDS, work, *given, **named)


def ask_within(seconds: float, work: Callable[Given, Result], *given: Given.args, **named: Given.kwargs) -> Result:
    """Return the result of ``work`` as a child process found it.

    Parameters
    ----------
    seconds : float
        After which it is ended.
    work : Callable[Given, Result]
        A function of the core or of the imaging, by its name in its module.
    given, named : object
        What can be pickled.

    Raises
    ------
    Full
        Too much work waits.
    Ended
        It took too long, or needed too much memory.
    Exception
        Whatever the work itself raised.
    """
    if not _waiting.acquire(blocking=False):
        raise Full
    try:
        found: Result = _pool().schedule(_bounded, (work, given, named), timeout=seconds).result()
    except OutOfSeconds:
        raise Ended(f"longer than {seconds:g} seconds") from None
    except ProcessExpired:
        raise Ended(f"longer than {CPU_SECONDS} seconds of a processor") from None
    except MemoryError:
        raise Ended("more memory than one question may have") from None
    finally:
        _waiting.release()
    return found


def _pool() -> ProcessPool:
    """Return this process's own: a pool does not outlive a fork."""
    with _starting:
        if os.getpid() not in _pools:
            # Made from a small process that has read the modules in: a fork of this one would take its threads' locks
            # along as they stand.
            context = multiprocessing.get_context("forkserver")
            context.set_forkserver_preload(list(PRELOADED))
            _pools[os.getpid()] = ProcessPool(CHILDREN, initializer=_limit_memory, context=context)
        return _pools[os.getpid()]


def _limit_memory() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))


def _bounded(work: Callable[..., Result], given: tuple[object, ...], named: dict[str, object]) -> Result:
    """Do the work within so much more of the processor than this process has used so far, and return its answer."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    until = int(used.ru_utime + used.ru_stime) + CPU_SECONDS
    with contextlib.suppress(ValueError):
        resource.setrlimit(resource.RLIMIT_CPU, (until, resource.RLIM_INFINITY))
    return work(*given, **named)
