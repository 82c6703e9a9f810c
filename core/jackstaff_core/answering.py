"""A question as JSON text, answered as JSON text: the same words whether a server asks the core or a browser's worker.

    200 {"...": the answer}      422 {"errors": [{"field", "problem", "instead"}]}      404 for a name nobody knows

Source: the table of questions and the wire's reader. Limits: those of each question; a body of four million letters.
Verdict: each answer's own.
"""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Any

from .gear.kitfile import KitQuestion, kit_answer
from .questions import QUESTIONS, ask
from .wire.reader import read
from .words.refusal import Refusal, Refusals

MOST_LETTERS = 4_000_000
LONG = frozenset(
    {
        "stacks",
        "reach",
        "light",
        "calibration",
        "outing/days",
        "outing/swaps",
        "outing/fillable",
        "outing/wait",
        "log/evidence",
        "log/learnt",
    }
)
"""Questions that may take longer than a key press: they never hold up the others."""
KIT_CHECK = "kit/check"
"""Items read and handed back whole: each sort has facts of its own, so that no one type describes the answer."""


def parsed(body: str | bytes) -> Any:
    """Return the JSON of a body.

    Raises
    ------
    Refusal
        It is none, or holds a number that is none.
    """
    try:
        return json.loads(body, parse_constant=_no_number)
    except (ValueError, RecursionError):
        raise Refusal("body", "The body is not readable JSON.", "Send one JSON object.") from None


def answer(name: str, body: str | bytes) -> tuple[int, str]:
    """Return the status and the text of the answer to a question by its address under /api.

    Refusals are a 404 or 422.
    """
    if name not in names():
        return 404, _faults([Refusal("address", f"Nobody answers '{name}' here.", "Ask the server.")])
    try:
        if len(body) > MOST_LETTERS:
            raise Refusal("body", "The body is larger than 4 MB.", "Send less at once.")
        given = parsed(body)
        return 200, json.dumps(kit_answer(read(KitQuestion, given).items) if name == KIT_CHECK else ask(name, given))
    except Refusals as refusals:
        return 422, _faults(refusals.all)
    except Refusal as refusal:
        return 422, _faults([refusal])


def _faults(refusals: Iterable[Refusal]) -> str:
    return json.dumps({"errors": [each.fault for each in refusals]})


def _no_number(text: str) -> float:
    raise ValueError(text)


def names() -> list[str]:
    """Return the questions that can be asked."""
    return [*QUESTIONS, KIT_CHECK]
