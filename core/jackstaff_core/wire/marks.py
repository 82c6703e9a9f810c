"""What a field of a question may hold, said beside its type in ``Annotated``: bounds, sizes, names, shapes.

Reader (wire/reader.py), writer and JSON Schema (wire/schema.py) are made from these.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class Between:
    """A number from ``low`` to ``high``, both included unless ``above`` says that the low end is not."""

    low: float = -math.inf
    high: float = math.inf
    unit: str = ""
    above: bool = False


@dataclass(frozen=True, slots=True)
class Size:
    """Letters of a text, or entries of a list or map."""

    least: int = 0
    most: int = 1_000_000


@dataclass(frozen=True, slots=True)
class Named:
    """The field's name in JSON, where Python keeps that word for itself."""

    name: str


@dataclass(frozen=True, slots=True)
class Was:
    """The field's name in what was written in earlier days: it is read, and never written again."""

    name: str


@dataclass(frozen=True, slots=True)
class Inline:
    """The parts of this value stand in JSON beside the fields of the question that holds it."""


@dataclass(frozen=True, slots=True)
class Tagged:
    """One of several shapes, told apart by the text under ``by``."""

    by: str
    shapes: tuple[tuple[str, type], ...]


@dataclass(frozen=True, slots=True)
class Matches:
    """Text of this pattern; ``instead`` says which."""

    pattern: str
    instead: str


@dataclass(frozen=True, slots=True)
class Checked:
    """A last look by a function of the value that raises Refusal with an empty field."""

    by: Callable[[Any], None]
