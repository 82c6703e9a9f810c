"""A question: what is asked, the function that answers, what it answers."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any

from .marks import Size

Words = Annotated[str, Size(1, 120)]
"""A short text that somebody typed."""


@dataclass(frozen=True, slots=True)
class Question:
    """``question_type`` is read from JSON, ``answer`` works it out, ``answer_type`` is written.

    ``drop_none`` leaves out nulls; ``documents`` where the answer holds what writes itself (``to_json``), or a field
    that JSON calls otherwise.
    """

    question_type: type
    answer: Callable[[Any], Any]
    answer_type: type
    drop_none: bool = False
    documents: bool = False
