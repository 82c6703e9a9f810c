"""A request that has gone on for too long begins nothing more, and says so in words.

Questions are bounded by what may be asked, pictures by their size; what is left waits for the database or takes in a
whole log. It is asked before each piece of work that others would wait for (records/timelimit.py), so a late request
ends between two transactions and never within one.
"""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

from jackstaff.records.timelimit import OutOfTime, limited

MOST_SECONDS, MOST_SECONDS_FILES = 20.0, 120.0
"""How long a request may begin new work, and how long one that takes in a whole log."""
FILES = ("/api/log/read", "/api/account/archive")
IN_PARTS = (*FILES, "/api/replica")
"""What is kept piece by piece: a part of it may be when the time is up."""
_KEPT = {False: "nothing was kept", True: "a part of it may be kept"}


class Deadline:
    """Ends a request that goes on for too long with 503 and words."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer a request within the time it may take."""
        in_parts = request.path in IN_PARTS
        seconds = MOST_SECONDS_FILES if request.path in FILES else MOST_SECONDS
        try:
            with limited(seconds):
                return self.get_response(request)
        except OutOfTime:
            fault = {
                "field": "request",
                "problem": f"This took longer than {seconds:.0f} seconds and was ended; {_KEPT[in_parts]}.",
                "instead": "Send it again: what is kept already stays as it is."
                if in_parts
                else "Ask for less at once.",
            }
            return JsonResponse({"errors": [fault]}, status=503)
