"""Reference vectors, kept as CSV beside the tests that hold them."""

from __future__ import annotations

import csv
from pathlib import Path

import pytest

DOCS = Path(__file__).parents[2] / "docs"
_FOLDER = Path(__file__).parent / "vectors"


def rows(name: str) -> list[dict[str, str]]:
    """The rows of ``vectors/NAME.csv``."""
    with (_FOLDER / f"{name}.csv").open(newline="", encoding="utf-8") as file:
        return list(csv.DictReader(file))


def facts(name: str) -> pytest.MarkDecorator:
    """Run a test once for each row of ``vectors/NAME.csv``, as the argument ``row``."""
    table = rows(name)
    return pytest.mark.parametrize("row", table, ids=[" ".join(row.values())[:48] for row in table])


def near(value: str | float, digits: int = 6) -> object:
    """Equal to the six significant digits that the tables carry."""
    return pytest.approx(float(value), rel=5.1 * 10.0**-digits, abs=1e-9)
