"""No request works longer than is fair to others: past its time it is ended with words.

A watching thread raises :class:`OutOfTime` in the thread of the late request; transactions roll back on the way out.
"""

from __future__ import annotations

import ctypes
import itertools
import threading
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

MOST_SECONDS, MOST_SECONDS_FILES = 20.0, 120.0
"""How long a request may work, and how long one that takes in a whole log."""
FILES = ("/api/log/read", "/api/account/archive")
_GLANCE = 0.5
_KEPT = {False: "nothing was kept", True: "a part of it may be kept"}
"""A log is taken in by chunks, each whole, so that nobody else waits for all of it."""


class OutOfTime(BaseException):
    """Raised wherever the late request happens to be; no ``except Exception`` swallows it."""


class _Watch:
    """The requests that are being worked on: their thread and until when."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._running: dict[int, tuple[int, float]] = {}
        self._names = itertools.count()
        self._watching = False

    def begin(self, seconds: float) -> int:
        """Watch over this thread; hands back the name to end it by."""
        with self._lock:
            if not self._watching:
                self._watching = True
                threading.Thread(target=self._look, daemon=True, name="deadline").start()
            name = next(self._names)
            self._running[name] = (threading.get_ident(), time.monotonic() + seconds)
        return name

    def end(self, name: int) -> None:
        """Watch no longer. Raises OutOfTime here where it was raised and has not arrived yet, or never at all."""
        with self._lock:
            late = self._running.pop(name, None) is None
            if late:
                ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(threading.get_ident()), None)

    def _look(self) -> None:
        while True:
            time.sleep(_GLANCE)
            with self._lock:
                now = time.monotonic()
                for name, (thread, until) in list(self._running.items()):
                    if now > until:
                        del self._running[name]
                        ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(thread), ctypes.py_object(OutOfTime))


class Deadline:
    """Ends a request that works too long with 503 and words."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self.watch = _Watch()

    def __call__(self, request: HttpRequest) -> HttpResponse:
        in_parts = request.path in FILES
        seconds = MOST_SECONDS_FILES if in_parts else MOST_SECONDS
        try:
            name = self.watch.begin(seconds)
            try:
                return self.get_response(request)
            finally:
                self.watch.end(name)
        except OutOfTime:
            fault = {
                "field": "request",
                "problem": f"This took longer than {seconds:.0f} seconds and was ended; {_KEPT[in_parts]}.",
                "instead": "Send it again: what is kept already stays as it is."
                if in_parts
                else "Ask for less at once.",
            }
            return JsonResponse({"errors": [fault]}, status=503)
