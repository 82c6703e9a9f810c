"""JSON answers compressed: a first visit's are six times as large raw.

Pictures, archives and the built files are compressed already, and are left as they are.
"""

from __future__ import annotations

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware


class CompressJson(GZipMiddleware):
    """Django's own compression, with its random padding, for JSON and nothing else."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        """Compress an answer whose sender takes it so and gains by it."""
        if not response.get("Content-Type", "").startswith("application/json"):
            return response
        return super().process_response(request, response)
