"""Test that each model says its source, its limits and its verdict."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

import jackstaff_core

CORE = Path(jackstaff_core.__file__).parent
SOURCES = sorted(CORE.rglob("*.py"))
MODULES = {path.relative_to(CORE).with_suffix("").as_posix(): path for path in SOURCES}
TABLE = (Path(__file__).parents[2] / "docs/models.md").read_text(encoding="utf-8")
MODELS = sorted(
    set(re.findall(r"`([\w/]+)\.py`", "\n".join(line for line in TABLE.splitlines() if line.startswith("| "))))
    & MODULES.keys()
)


@pytest.mark.parametrize("model", MODELS)
def test_a_model_says_where_it_comes_from_how_far_it_goes_and_what_it_is_worth(model: str) -> None:
    said = (ast.get_docstring(ast.parse(MODULES[model].read_text(encoding="utf-8"))) or "").lower()
    assert [word for word in ("source", "limits", "verdict") if word not in said] == []
