"""Test what each module of the core leans on, and that no two of its classes share a name."""

from __future__ import annotations

import ast
import sys
from pathlib import Path

import pytest

import jackstaff_core

CORE = Path(jackstaff_core.__file__).parent
SOURCES = sorted(CORE.rglob("*.py"))
ALLOWED = {"astral", "jackstaff_core"} | set(sys.stdlib_module_names)
NO_CLOCK = {"now", "today", "utcnow", "time", "monotonic", "perf_counter"}


@pytest.mark.parametrize("source", SOURCES, ids=lambda path: path.relative_to(CORE).as_posix())
def test_a_module_leans_on_the_standard_library_and_astral_alone_and_reads_no_clock(source: Path) -> None:
    tree = ast.parse(source.read_text(encoding="utf-8"))
    leant = {
        name.partition(".")[0]
        for node in ast.walk(tree)
        for name in (
            [alias.name for alias in node.names]
            if isinstance(node, ast.Import)
            else [node.module or ""]
            if isinstance(node, ast.ImportFrom) and node.level == 0
            else []
        )
    }
    assert leant <= ALLOWED
    asked = {
        node.func.attr
        for node in ast.walk(tree)
        if isinstance(node, ast.Call)
        and isinstance(node.func, ast.Attribute)
        and isinstance(node.func.value, ast.Name)
        and node.func.value.id in {"datetime", "date", "time"}
    }
    assert not asked & NO_CLOCK


def test_no_two_classes_share_a_name() -> None:
    named: dict[str, list[str]] = {}
    for source in SOURCES:
        for node in ast.walk(ast.parse(source.read_text(encoding="utf-8"))):
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                named.setdefault(node.name, []).append(source.relative_to(CORE).as_posix())
    assert {name: places for name, places in named.items() if len(places) > 1} == {}
