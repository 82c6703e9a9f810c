"""Refusals as the API says them: 422 with where, what and what instead."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.openapi.schema import OpenAPISchema

from jackstaff import children
from jackstaff.accounts.throttle import TooManyGuesses
from jackstaff_core.scales.spoken import time_in_words
from jackstaff_core.words.refusal import Refusal, Refusals

from .door import AnotherAccount
from .mount import SCHEMAS
from .wired import ELSEWHERE


class Fault(Schema):
    """One refusal: where, what, and what instead."""

    field: str
    problem: str
    instead: str


class Faults(Schema):
    """Everything that was refused."""

    errors: list[Fault]


class TooLarge(Refusal):
    """A file larger than is taken: said as 413."""


class Busy(Exception):
    """The server does as much of this work as it can: said as 503, nothing kept."""


_ELSE = (
    "Whatever else stands in the way, said alike: 400 not understood, 405 another method, 429 too many wrong "
    "passwords, 431 an address too long, 500 a fault of ours, 503 busy or its records cannot be reached, 507 no room"
)


class RefusingAPI(NinjaAPI):
    """Answers every refusal in one shape, and documents it on every operation."""

    def get_openapi_schema(
        self, *, path_prefix: str | None = None, path_params: dict[str, Any] | None = None
    ) -> OpenAPISchema:
        """Return the schema, with the refusals that ninja leaves out added to each operation."""
        schema = super().get_openapi_schema(path_prefix=path_prefix, path_params=path_params)
        schema["components"]["schemas"] |= {
            "Fault": Fault.model_json_schema(),
            "Faults": {
                "title": "Faults",
                "type": "object",
                "required": ["errors"],
                "properties": {"errors": {"type": "array", "items": {"$ref": "#/components/schemas/Fault"}}},
            },
        }
        own = schema["components"]["schemas"]
        if twice := {name for name in own.keys() & SCHEMAS.made.keys() if "enum" not in own[name]}:
            raise RuntimeError(f"Two shapes are called alike: {', '.join(sorted(twice))}.")
        schema["components"]["schemas"] |= SCHEMAS.made
        refused = {"content": {"application/json": {"schema": {"$ref": "#/components/schemas/Faults"}}}}
        for operations in schema["paths"].values():
            for operation in operations.values():
                codes = {422: "Refused, with the cure"}
                if "requestBody" in operation:
                    codes[413] = "Larger than 4 MB"
                if "security" in operation:
                    codes[401] = "Not signed in"
                    codes[403] = "A page out of date"
                    codes[409] = "Signed in as another account than the one named, or a key that is taken"
                for code, description in codes.items():
                    operation["responses"].setdefault(code, {"description": description, **refused})
                operation["responses"] = {
                    **{str(code): response for code, response in operation["responses"].items()},
                    "default": {"description": _ELSE, **refused},
                }
        schema.update(_ours(dict(schema)))
        return schema


def _ours(part: Any) -> Any:
    """Return the pointers to the core's own descriptions, where they really stand."""
    if isinstance(part, dict):
        return type(part)({name: _ours(each) for name, each in part.items()})
    if isinstance(part, list):
        return [_ours(each) for each in part]
    return part.replace(ELSEWHERE, SCHEMAS.ref) if isinstance(part, str) else part


def install(api: NinjaAPI) -> None:
    """Teach ``api`` to answer every kind of refusal in the one shape."""

    @api.exception_handler(Refusal)
    def refused(request: HttpRequest, refusal: Refusal) -> HttpResponse:
        status = 413 if isinstance(refusal, TooLarge) else 422
        return faulty(api, request, status, refusal.field, refusal.problem, refusal.instead)

    @api.exception_handler(Refusals)
    def all_refused(request: HttpRequest, refusals: Refusals) -> HttpResponse:
        return api.create_response(request, {"errors": [each.fault for each in refusals.all]}, status=422)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        faults = [fault for item in error.errors for fault in _faults(item)]
        distinct = {fault["field"]: fault for fault in reversed(faults)}
        return api.create_response(request, {"errors": list(reversed(distinct.values()))}, status=422)

    @api.exception_handler(HttpError)
    def unreadable(request: HttpRequest, error: HttpError) -> HttpResponse:
        if error.status_code == 400:
            return faulty(api, request, 422, "body", "The body is not readable JSON.", "Send one JSON object.")
        if error.status_code == 403:
            return faulty(api, request, 403, "request", "This page is out of date.", "Load it again.")
        return faulty(api, request, error.status_code, "request", f"{error}.", "Wait a little and try again.")

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return faulty(api, request, 413, "body", "The body is larger than 4 MB.", "Send less at once.")

    @api.exception_handler(Busy)
    def busy(request: HttpRequest, error: Busy) -> HttpResponse:
        response = faulty(
            api, request, 503, "request", "Others' pictures are being measured.", "Try again in a few seconds."
        )
        response["Retry-After"] = "5"
        return response

    @api.exception_handler(children.Full)
    def full(request: HttpRequest, error: children.Full) -> HttpResponse:
        response = faulty(
            api, request, 503, "request", "Others' questions are being worked on.", "Try again in a few seconds."
        )
        response["Retry-After"] = "5"
        return response

    @api.exception_handler(children.Ended)
    def ended(request: HttpRequest, error: children.Ended) -> HttpResponse:
        problem = f"This needed {error} and was ended; nothing was kept."
        return faulty(api, request, 503, "request", problem, "Ask for less at once.")

    @api.exception_handler(TooManyGuesses)
    def too_many(request: HttpRequest, error: TooManyGuesses) -> HttpResponse:
        problem, cure = "There were too many wrong passwords.", f"Try again in {time_in_words(error.seconds)}."
        response = faulty(api, request, 429, "password", problem, cure)
        response["Retry-After"] = str(error.seconds)
        return response

    @api.exception_handler(AnotherAccount)
    def another(request: HttpRequest, error: AnotherAccount) -> HttpResponse:
        problem = "This page is for another account than the one signed in; nothing was kept."
        return faulty(api, request, 409, "account", problem, "Sign in again on this page.")

    @api.exception_handler(AuthenticationError)
    def unknown(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return faulty(api, request, 401, "session", "You are not signed in.", "Sign in first.")


def faulty(api: NinjaAPI, request: HttpRequest, status: int, field: str, problem: str, instead: str) -> HttpResponse:
    """Return one fault as an answer."""
    return api.create_response(
        request, {"errors": [{"field": field, "problem": problem, "instead": instead}]}, status=status
    )


def _faults(item: dict[str, Any]) -> list[dict[str, str]]:
    """Return the faults in one part; the core's own, where it was the core that read it, with their place."""
    own = (item.get("ctx") or {}).get("error")
    if not isinstance(own, Refusal | Refusals):
        return [_fault(item)]
    where = ".".join(str(part) for part in item["loc"][2:])
    every = own.all if isinstance(own, Refusals) else (own,)
    return [(each.under(where) if where else each).fault for each in every]


def _fault(item: dict[str, Any]) -> dict[str, str]:
    # The location starts with where it stood (a body under its parameter's name) and may end with a union's member.
    where, *rest = item["loc"]
    place = [str(part) for part in (rest[1:] if where == "body" else rest)]
    if len(place) > 1 and place[-1] in _MEMBERS:
        place.pop()
    field = ".".join(place) or str(where)
    dial = str(rest[-1]) in _MEMBERS if len(rest) > 2 else False
    context = item.get("ctx") or {}
    match item["type"]:
        case "missing":
            problem, instead = "is missing.", "Give it."
        case "extra_forbidden":
            problem, instead = "is not a part of this question.", "Leave it out."
        case "enum" | "literal_error":
            problem, instead = "has an unknown value.", f"Give {context.get('expected', 'a listed value')}."
        case "string_type" | "float_type" | "finite_number" if dial:
            problem, instead = "is neither a dial mark nor a number.", 'Give a mark in quotes like "1/60", or a number.'
        case "string_type":
            problem, instead = "is not a text.", "Give it in quotes."
        case "float_type" | "int_type" | "float_parsing" | "int_parsing" | "finite_number":
            problem, instead = "is not a number.", "Give a plain number."
        case "value_error":
            problem, instead = f"does not hold together: {context.get('error')}.", "Correct one of them."
        case _:
            message = str(item["msg"])
            problem, instead = f"was refused: {message[:1].lower()}{message[1:]}.", "Give a value within these bounds."
    return {"field": field, "problem": f"'{field}' {problem}", "instead": instead}


_MEMBERS = {"str", "float", "constrained-str", "constrained-float"}
