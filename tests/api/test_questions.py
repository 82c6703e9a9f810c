"""The stateless questions: their fixed shape, their refusals, and what fuzzing finds."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from functools import cache
from typing import Any
from uuid import uuid4

import pytest
import schemathesis
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from hypothesis import HealthCheck, given, settings
from hypothesis.strategies import one_of
from schemathesis import GenerationMode
from schemathesis.specs.openapi.checks import positive_data_acceptance
from tools.serving import Server
from tools.visits import SignedIn

from jackstaff.api.api import api
from tests.conftest import GUESSED, OTHER_PASSWORD

from .conftest import SCHEMA

READING = {"shutter": "1/40", "aperture": "9", "iso": "64"}


def post(path: str, question: object, client: Client | None = None) -> tuple[int, Any]:
    response = (client or Client()).post(f"/api/{path}", json.dumps(question), content_type="application/json")
    return response.status_code, json.loads(response.content)


@pytest.mark.django_db
def test_health() -> None:
    answer = Client().get("/api/health").json()
    assert answer == {"status": "ok", "version": "0.1.0"}


def test_readout_and_density_have_their_fixed_fields() -> None:
    assert post("readout", {"text": "4"}) == (
        200,
        {"ambiguous": True, "readings": [{"seconds": 0.25, "mark": "1/4"}, {"seconds": 4.0, "mark": "4"}]},
    )
    status, label = post("density", {"text": "ND2-400"})
    assert status == 200
    assert label["readings"][0].keys() == {
        "notation", "stops", "density", "factor", "stops_max", "density_max", "factor_max",
    }  # fmt: skip
    assert post("density", {"text": "ND8"})[1] == {
        "ambiguous": False,
        "readings": [{"notation": "factor", "stops": 3.0, "density": pytest.approx(0.90309), "factor": 8.0}],
    }


def test_exposure_has_its_fixed_fields() -> None:
    status, answer = post(
        "exposure",
        {
            "reading": {**READING, "step": "third"},
            "stack": [
                {"stops": 9, "offset": 0.2, "offset_sd": 0.1},
                {"label": "ND16"},
                {"stops": 2, "in_reading": True},
            ],
            "settings": {"aperture": "11"},
            "scale": "exact",
            "dial_limit": 30,
        },
    )
    assert status == 200
    assert answer["seconds"] == answer["exact_seconds"] == pytest.approx(370.501, rel=1e-5)
    assert answer["bulb"] is True
    assert answer["dial_mark"] is None
    assert answer["steps"][1] == {
        "name": "9 stops",
        "stops": 9,
        "seconds": pytest.approx(12.6992),
        "kind": "glass",
        "glass": 0,
    }
    assert {advice["severity"] for advice in answer["advice"]} <= {"note", "caution", "harm"}
    assert answer["rounded"][0]["stops"] == pytest.approx(-0.0416, abs=1e-3)


def test_steer_has_its_fixed_fields() -> None:
    question = {"float": "aperture", "reading": READING, "stops": 9, "settings": {"iso": "64"}, "target_seconds": 30}
    status, answer = post("steer", question)
    assert status == 200
    assert answer["value"] == pytest.approx(13.80, abs=0.01)
    assert [mark["mark"] for mark in answer["nearest"]] == ["13", "14"]
    assert answer["nearest"][0].keys() == {"mark", "exact", "cost_stops"}
    assert "missing_stops" not in answer
    assert post("steer", {**question, "target_seconds": 6000})[1]["missing_stops"] > 3


STACKS = {
    "reading": {"shutter": 1 / 64, "aperture": 8, "iso": 100},
    "glass": [
        {"id": "ten", "kind": "solid", "stops": 10},
        {"id": "three", "kind": "solid", "stops": 3},
        {"id": "turn", "kind": "variable", "min": 2, "max": 5, "usable_max": 4.5},
        {"id": "pol", "kind": "polariser", "min": 1.5, "max": 2},
    ],
    "slots": 3,
    "target": {"seconds": 120},
    "apertures": ["5.6", "22"],
    "isos": ["100"],
}


def test_stacks_have_their_fixed_fields() -> None:
    status, answer = post("stacks", STACKS)
    assert status == 200
    best = answer["stacks"][0]
    assert (best["glass"], best["aperture"], best["iso"], best["stops"]) == (["ten", "three"], "8", "100", 13)
    assert best["seconds"] == pytest.approx(128)
    assert best["error_stops"] == pytest.approx(0.0931094)
    assert best["reasons"]
    assert answer["count"] >= len(answer["stacks"])
    none = post("stacks", {**STACKS, "target": {"seconds": 80_000}, "slots": 1})[1]
    assert (none["stacks"], none["count"]) == ([], 0)
    assert none["none_because"].endswith(".")
    assert none["nearest"]["glass"] == ["ten"]


@pytest.mark.parametrize(
    ("path", "question", "field"),
    [
        ("readout", {"text": "abc"}, "text"),
        ("readout", {}, "text"),
        ("readout", {"text": "4", "step": "quarter"}, "step"),
        ("density", {"text": "1.000"}, "text"),
        ("exposure", {"reading": {**READING, "shutter": "240"}}, "reading.shutter"),
        ("exposure", {"reading": {**READING, "iso": True}}, "reading.iso"),
        ("exposure", {"reading": {**READING, "aperture": []}}, "reading.aperture"),
        ("exposure", {"reading": READING, "stack": [{"stops": 3}, {"label": "ND10"}]}, "stack.1.label"),
        ("exposure", {"reading": READING, "stack": [{"stops": -1}]}, "stack.0.stops"),
        ("exposure", {"reading": READING, "stack": [{"stops": 1}] * 9}, "stack"),
        ("exposure", {"reading": READING, "aperature": "11"}, "aperature"),
        ("exposure", {"reading": {"ev100": 12}}, "settings.aperture"),
        ("steer", {"float": "iso", "reading": READING}, "target_seconds"),
        ("steer", {"float": "sideways", "reading": READING}, "float"),
        ("stacks", {**STACKS, "slots": 5}, "slots"),
        ("stacks", {**STACKS, "slots": True}, "slots"),
        ("stacks", {**STACKS, "must": ["none"]}, "must.0"),
        ("stacks", {**STACKS, "glass": [STACKS["glass"][0]] * 2}, "glass"),  # type: ignore[index]
        ("run/lateness", {"planned_seconds": 0, "actual_seconds": 1}, "planned_seconds"),
        ("nowhere", {}, "path"),
    ],
)
def test_refusals_say_where_what_and_what_instead(path: str, question: object, field: str) -> None:
    status, answer = post(path, question)
    assert status == (404 if path == "nowhere" else 422)
    fault = answer["errors"][0]
    assert fault["field"] == field
    assert fault["problem"].endswith(".")
    assert fault["instead"].endswith(".")


@pytest.mark.parametrize("body", ["", "{", "[]", "null", '{"reading": NaN}', '{"text": 1e999}', '{"text":"\\ud800"}'])
def test_broken_bodies_are_refused(body: str) -> None:
    for path in ("readout", "density", "exposure", "steer", "stacks"):
        response = Client().post(f"/api/{path}", body, content_type="application/json")
        assert response.status_code == 422, body
        assert response.json()["errors"]


def test_an_integer_no_float_holds_is_refused() -> None:
    thing = {"id": str(uuid4()), "sort": "glass", "name": "x", "facts": {"kind": "solid", "stops": 10**400}}
    status, answer = post("kit/check", {"items": [thing]})
    assert status == 422
    assert answer["errors"][0]["field"] == "items.0.facts.stops"
    for path in ("rig", "looks", "exposure"):
        assert post(path, {"reading": READING, "stack": [{"stops": 10**400}], "focal_mm": 10**400})[0] == 422


def test_a_huge_body_is_refused() -> None:
    response = Client().post("/api/readout", '{"text":"' + "9" * 4_100_000 + '"}', content_type="application/json")
    assert response.status_code == 413


@pytest.mark.django_db
def test_questions_need_no_sign_in_and_keep_nothing() -> None:
    client = Client(enforce_csrf_checks=True)
    with CaptureQueriesContext(
        connection,
    ) as queries:
        assert post("exposure", {"reading": READING, "stack": [{"stops": 9}]}, client)[0] == 200
    assert len(queries) == 0
    assert not client.cookies


AT_BOUNDS = 24
"""How many cases with values at and past the bounds an operation is tried with, spread evenly over all there are."""
AT_RANDOM = 6


@cache
def described() -> Any:
    """The API as the server describes it; made once, where it is needed."""
    return schemathesis.openapi.from_dict(dict(api.get_openapi_schema()))


def operations(path_regex: str) -> list[tuple[str, str]]:
    """Paths and methods alone: what an operation is tried with is made by the one test that needs it."""
    return [(path, way) for path, ways in SCHEMA["paths"].items() if re.match(path_regex, path) for way in ways]


def try_all(path: str, way: str, holds: Callable[[Any], None]) -> None:
    """Hold an operation to ``holds`` at its bounds and at random."""
    schema = described()
    operation = schema[path][way]
    modes = list(GenerationMode)
    config = schema.config.generation
    cases = list(schema.iter_coverage_cases(operation, generation_modes=modes, generation_config=config))
    for case in cases[:: max(1, len(cases) // AT_BOUNDS)]:
        holds(case)

    @settings(max_examples=AT_RANDOM, suppress_health_check=list(HealthCheck), derandomize=True)
    @given(one_of([operation.as_strategy(generation_mode=mode) for mode in modes]))
    def at_random(case: Any) -> None:
        holds(case)

    at_random()


QUESTIONS = operations(
    "^/api/(?!health|openapi|session|frames|outings|kit$|kit/items|kit/order|kit/schema|kit/facts"
    "|looks/drawing|account|log/read|replica)"
)
# Beside what is kept lie questions that anybody may ask; those have been asked.
OF_RECORDS = [
    (path, way)
    for path, way in operations("^/api/(frames|outings|kit|replica|log/evidence|log/learnt|log/file|account)")
    if way == "get" or (path, way) not in QUESTIONS
]


@pytest.mark.parametrize(("path", "way"), QUESTIONS)
def test_no_question_breaks_the_server(path: str, way: str, server: Server) -> None:
    def holds(case: Any) -> None:
        # The core refuses more than a schema can say; that it refuses in words is held above.
        response = case.call(base_url=server.url)
        # Nor is a body over the limit of size anybody's to validate; that it is refused is held above, too.
        if response.status_code != 413:
            case.validate_response(response, excluded_checks=[positive_data_acceptance])

    try_all(path, way, holds)


@pytest.fixture(scope="session")
def signed_in(server: Server) -> dict[str, dict[str, str]]:
    """Cookies and headers of an account of its own: what is kept here, and how often its password was guessed at, meets
    nobody else's tests."""
    visit = SignedIn(server.url, GUESSED, OTHER_PASSWORD)
    return {"cookies": visit.cookies, "headers": visit.headers}


@pytest.mark.parametrize(("path", "way"), OF_RECORDS)
def test_no_record_operation_breaks_the_server(
    path: str, way: str, server: Server, signed_in: dict[str, dict[str, str]]
) -> None:
    def holds(case: Any) -> None:
        response = case.call(base_url=server.url, **signed_in)
        assert response.status_code < 500, response.text[:300]
        assert "html" not in response.headers.get("Content-Type", [""])[0], (response.status_code, response.text[:200])
        if response.status_code in (400, 401, 403, 404, 409, 413, 422, 429):
            faults = response.json()["errors"]
            assert all(
                fault["problem"].endswith(".") and fault["instead"].endswith((".", "]", ")")) for fault in faults
            )

    try_all(path, way, holds)
