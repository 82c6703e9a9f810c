"""What is said where nothing else caught a fault: under /api in the agreed shape, elsewhere in a plain sentence."""

from __future__ import annotations

import sys
from collections.abc import Callable

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase

BUSY_MARKS = ("locked", "busy")


def server_error(request: HttpRequest) -> HttpResponse:
    """Django's handler500: a database that stayed busy is said as such, all else as a fault of ours."""
    error = sys.exc_info()[1]
    if isinstance(error, OperationalError) and any(mark in str(error) for mark in BUSY_MARKS):
        response = _said(request, 503, "Somebody else is writing; nothing was kept.", "Try again in a few seconds.")
        response.headers["Retry-After"] = "5"
        return response
    return _said(request, 500, "Something went wrong here; nothing was kept.", "Try again; what you typed is not lost.")


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Django's handler400: a host, a path or a form it does not take."""
    return _said(request, 400, "This request cannot be understood.", "Load the page again.")


def forbidden(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Django's handler403."""
    return _said(request, 403, "This page is out of date.", "Load it again.")


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Django's handler404."""
    return _said(request, 404, "There is nothing at this address.", "See /api/openapi.json for what there is.")


class WrongMethod:
    """Django middleware: an address that is asked in a way it does not know says which ones it does."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        response = self.get_response(request)
        if response.status_code != 405:
            return response
        allowed = response.headers.get("Allow", "")
        cure = f"Ask with {allowed}." if allowed else "See /api/openapi.json for how to ask."
        said = _said(request, 405, f"This address does not take {request.method}.", cure)
        if allowed:
            said.headers["Allow"] = allowed
        return said


def _said(request: HttpRequest, status: int, problem: str, instead: str) -> HttpResponse:
    if request.path.startswith("/api/"):
        fault = {"field": "request", "problem": problem, "instead": instead}
        return JsonResponse({"errors": [fault]}, status=status)
    return HttpResponse(f"{problem} {instead}", status=status, content_type="text/plain; charset=utf-8")
