"""The front door: every router of the API, one a screen."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Schema, Status

from jackstaff.records.soundness import trouble
from jackstaff_core import VERSION

from . import (
    bench,
    kit,
    lessons,
    log,
    logfiles,
    looks,
    mount,
    outing,
    outings,
    ownership,
    pairs,
    phone,
    pictures,
    replica,
    run,
    session,
    standins,
    start,
)
from .refusals import Faults, RefusingAPI, install


class Health(Schema):
    """Whether the server answers, and which version it is."""

    status: str
    version: str


api = RefusingAPI(
    title="Jackstaff",
    version=VERSION,
    description="Exposure sums for neutral density filters, runs and frames.",
    docs_url=None,
    urls_namespace="jackstaff",
)
install(api)


@api.get("/health", response={200: Health, 503: Faults}, tags=["health"])
def health(request: HttpRequest) -> object:
    """Return whether the server answers and its database with it, and which version it is."""
    if problem := trouble():
        problem_text, cure = problem.split(". ", 1)
        return Status(503, {"errors": [{"field": "database", "problem": f"{problem_text}.", "instead": cure}]})
    return {"status": "ok", "version": VERSION}


api.add_router("", mount.router)
api.add_router("", phone.router)
api.add_router("", bench.router)
api.add_router("", looks.router)
api.add_router("/outing", outing.router)
api.add_router("", outings.router)
api.add_router("", kit.router)
api.add_router("/run", run.router)
api.add_router("/standins", standins.router)
api.add_router("/session", session.router)
api.add_router("/account", ownership.router)
api.add_router("/start", start.router)
api.add_router("/replica", replica.router)
api.add_router("", pairs.router)
api.add_router("", pictures.router)
api.add_router("", lessons.router)
api.add_router("", logfiles.router)
api.add_router("/frames", log.router)
