"""What is said where nothing else caught a fault: under /api in the agreed shape, elsewhere in a plain sentence."""

from __future__ import annotations

import logging
import sys
from collections.abc import Callable
from dataclasses import dataclass

from django.core.exceptions import DisallowedHost
from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.multipartparser import MultiPartParserError
from django.http.response import HttpResponseBase


@dataclass(frozen=True, slots=True)
class _Trouble:
    """What a database or a disk says when it fails, and how it is told."""

    marks: tuple[str, ...]
    status: int
    problem: str
    instead: str
    wait: int


_TROUBLES = (
    _Trouble(("locked", "busy"), 503, "Somebody else is writing; nothing was kept.", "Try again in a few seconds.", 5),
    _Trouble(
        ("disk is full", "no space left", "could not extend"),
        507,
        "The server's disk is full; nothing was kept there.",
        "What you wrote stays on this device. Whoever looks after the server has to make room.",
        60,
    ),
    _Trouble(
        ("disk i/o error", "input/output error"),
        503,
        "The server's disk failed or is full; nothing was kept there.",
        "What you wrote stays on this device. Whoever looks after the server has to look at its disk.",
        60,
    ),
    _Trouble(
        ("readonly", "read-only", "permission denied"),
        503,
        "The server may read its records but not write them; nothing was kept there.",
        "What you wrote stays on this device. Whoever looks after the server has to let it write.",
        60,
    ),
    _Trouble(
        ("unable to open", "no such table", "no such column", "malformed", "not a database", "does not exist"),
        503,
        "The server's records cannot be read.",
        "What you wrote stays on this device. Whoever looks after the server has to put a copy back (make restore).",
        60,
    ),
    _Trouble(
        ("connection", "terminating", "shutting down", "starting up", "too many clients"),
        503,
        "The server's database does not answer; nothing was kept there.",
        "What you wrote stays on this device and is sent again.",
        15,
    ),
)
_FAILS = (DatabaseError, OSError)


def server_error(request: HttpRequest) -> HttpResponse:
    """Django's handler500: a database or disk that fails is said as such, all else as a fault of ours."""
    error = sys.exc_info()[1]
    reason = str(error).lower()
    for trouble in _TROUBLES if isinstance(error, _FAILS) else ():
        if any(mark in reason for mark in trouble.marks):
            response = _said(request, trouble.status, trouble.problem, trouble.instead)
            response.headers["Retry-After"] = str(trouble.wait)
            return response
    return _said(request, 500, "Something went wrong here; nothing was kept.", "Try again; what you typed is not lost.")


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Django's handler400: a host, a path or a form it does not take."""
    if isinstance(exception, DisallowedHost):
        cure = "Whoever looks after it names it: make serve HOST=..."
        return _said(request, 400, "This server does not answer to that name.", cure)
    if isinstance(exception, MultiPartParserError):
        return _said(request, 400, "The form arrived damaged; nothing was kept.", "Send it again.")
    return _said(request, 400, "This request cannot be understood.", "Load the page again.")


def forbidden(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Django's handler403."""
    return _said(request, 403, "This page is out of date.", "Load it again.")


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Django's handler404."""
    return _said(request, 404, "There is nothing at this address.", "See /api/openapi.json for what there is.")


class OneLine(logging.Filter):
    """What strangers do is told in one line, without the way it took through our code."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Keep the record, without its traceback."""
        record.exc_info = None
        return True


class WrongMethod:
    """Django middleware: an address that is asked in a way it does not know says which ones it does."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answer, and say which methods an address takes where another was used."""
        response = self.get_response(request)
        if response.status_code != 405:
            return response
        allowed = response.headers.get("Allow", "")
        cure = f"Ask with {allowed}." if allowed else "See /api/openapi.json for how to ask."
        refusal = _said(request, 405, f"This address does not take {request.method}.", cure)
        if allowed:
            refusal.headers["Allow"] = allowed
        return refusal


def _said(request: HttpRequest, status: int, problem: str, instead: str) -> HttpResponse:
    if request.path.startswith("/api/"):
        fault = {"field": "request", "problem": problem, "instead": instead}
        return JsonResponse({"errors": [fault]}, status=status)
    return HttpResponse(f"{problem} {instead}", status=status, content_type="text/plain; charset=utf-8")
