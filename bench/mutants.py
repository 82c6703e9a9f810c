"""Would the tests notice? Small changes to the core and to who may do what, sampled, each run against its own tests.

Run by ``make mutants``; COUNT and SEED choose the sample. NEAREST=1 asks only the tests that name the changed module.

Each change is made in a copy of the sources, so that nothing here is touched; annotations and docstrings, which nothing
runs, are left alone. The tests that name what was changed go first, the others after them. Printed: every change that
nobody noticed, as soon as that is known, and the share noticed.
"""

from __future__ import annotations

import ast
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import cosmic_ray.plugins
from cosmic_ray.ast import ast_nodes, get_ast
from cosmic_ray.mutating import mutate_code

ROOT = Path(__file__).parents[1]
AIM = 0.85
NEAREST = os.environ.get("NEAREST") == "1"
# Nothing tells "==" from "is" where choices, small numbers or None are compared.
_THE_SAME = ("_Eq_Is", "_NotEq_IsNot", "_Is_Eq", "_IsNot_NotEq")
_SORTS = [
    *("BinaryOperator", "Comparison", "UnaryOperator", "Number", "Boolean", "AddNot"),
    *("ReplaceTrue", "ReplaceFalse", "ReplaceAnd", "ReplaceOr", "ReplaceContinue"),
]
OPERATORS = [
    name
    for name in cosmic_ray.plugins.operator_names()
    if any(sort in name for sort in _SORTS) and not name.endswith(_THE_SAME)
]
PATIENCE = 5
"""How many times as long as on the untouched sources the tests may take before a change counts as one that hangs."""
_DOORS_HELD_BY = ("whose", "documents", "frames", "kit", "outings", "looks", "replica", "log")


@dataclass(frozen=True, slots=True)
class Change:
    """One place in one file, by what is done there."""

    module: Path
    operator: str
    occurrence: int
    line: int

    def made(self) -> str:
        """Return the file with the change in it."""
        code = (ROOT / self.module).read_text(encoding="utf-8")
        changed = mutate_code(code, cosmic_ray.plugins.get_operator(self.operator)(), self.occurrence)
        return code if changed is None else str(changed)

    def told(self) -> str:
        """Return where it is, what stood there and what stands there now."""
        was, now = (text.splitlines() for text in ((ROOT / self.module).read_text(encoding="utf-8"), self.made()))
        before, after = next(((old, new) for old, new in zip(was, now, strict=False) if old != new), ("", ""))
        return f"{self.module}:{self.line}\n    - {before.strip()}\n    + {after.strip()}"


def changes(module: Path) -> list[Change]:
    """Return every change that could be made to a file and would be run."""
    code = (ROOT / module).read_text(encoding="utf-8")
    idle = _idle(code)
    nodes = list(ast_nodes(get_ast(code)))
    found = []
    for name in OPERATORS:
        operator = cosmic_ray.plugins.get_operator(name)()
        spots = [start for node in nodes for start, _ in operator.mutation_positions(node)]
        found += [Change(module, name, at, start[0]) for at, start in enumerate(spots) if not idle(start)]
    return found


def _idle(code: str) -> Callable[[tuple[int, int]], bool]:
    """Return whether a position lies where nothing is run: in an annotation."""
    spans = []
    for node in ast.walk(ast.parse(code)):
        marks = [getattr(node, "annotation", None), getattr(node, "returns", None)]
        spans += [
            ((mark.lineno, mark.col_offset), (mark.end_lineno, mark.end_col_offset))
            for mark in marks
            if mark is not None
        ]
    return lambda start: any(low <= tuple(start) < high for low, high in spans)


@dataclass(frozen=True, slots=True)
class Watch:
    """Tests that are to notice, and how long they take on the untouched sources [s]."""

    tests: list[str]
    seconds: float

    def noticed(self, change: Change) -> bool:
        """Return whether they fail with the change; told at once where they do not."""
        seen = _failing(self._nearest_first(change.module), change, self.seconds * PATIENCE)
        if not seen:
            print(f"  {change.told()}", flush=True)
        return seen

    def _nearest_first(self, module: Path) -> list[str]:
        dotted = ".".join(module.with_suffix("").parts[1:])
        files = [file for part in self.tests for file in sorted(_test_files(ROOT / part))]
        own = [file for file in files if file.name == f"test_{module.stem}.py" and module.parent.name in file.parts]
        nearest = [file for file in files if re.search(rf"\b{dotted}\b", file.read_text(encoding="utf-8"))]
        others = [] if NEAREST and (own or nearest) else files
        return [str(file) for file in dict.fromkeys([*own, *nearest, *others])]


def watched_by(tests: list[str]) -> Watch:
    """Time the tests on the untouched sources, where they have to pass."""
    began = time.monotonic()
    if _failing(tests, None, None):
        raise SystemExit(f"{' '.join(tests)}: red as it is; nothing can be told from it")
    return Watch(tests, time.monotonic() - began)


def _test_files(part: Path) -> list[Path]:
    return list(part.rglob("test_*.py")) if part.is_dir() else [part]


def _failing(tests: list[str], change: Change | None, most_seconds: float | None) -> bool:
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder)
        for part in ("core", "imaging", "server"):
            shutil.copytree(ROOT / part, copy / part, ignore=shutil.ignore_patterns("__pycache__"))
        if change is not None:
            (copy / change.module).write_text(change.made(), encoding="utf-8")
        sources = [str(copy / part) for part in ("core", "imaging", "server")]
        environment = {
            **os.environ,
            "PYTHONPATH": ":".join(sources),
            "JACKSTAFF_DATA_DIR": str(copy / "var"),
            "PYTHONDONTWRITEBYTECODE": "1",
        }
        # The tests' own settings would put the untouched sources first.
        instead = f"pythonpath={' '.join([str(ROOT), *sources])}"
        asked = [
            sys.executable,
            "-m",
            "pytest",
            "-q",
            "-x",
            "-p",
            "no:cacheprovider",
            "-p",
            "no:randomly",
            "-o",
            instead,
            *tests,
        ]
        try:
            run = subprocess.run(
                asked, check=False, cwd=ROOT, env=environment, capture_output=True, timeout=most_seconds
            )
        except subprocess.TimeoutExpired:
            return True
        return run.returncode != 0


def main() -> None:
    count, seed = int(os.environ.get("COUNT", "60")), int(os.environ.get("SEED", "1"))
    dice = random.Random(seed)
    core = sorted(path.relative_to(ROOT) for path in (ROOT / "core/jackstaff_core").rglob("*.py"))
    doors = [Path("server/jackstaff") / name for name in ("api/door.py", "api/ownership.py", "site/headers.py")]
    doors += [Path("server/jackstaff/documents") / name for name in ("pictures.py", "outings.py", "kit.py")]
    for title, modules, tests, share in (
        ("core", core, ["tests/core"], count),
        ("permissions", doors, [f"tests/api/test_{part}.py" for part in _DOORS_HELD_BY], max(4, count // 6)),
    ):
        every = [change for module in modules for change in changes(module)]
        sample = dice.sample(every, min(share, len(every)))
        print(f"{title}: not noticed of {len(sample)}, a sample of {len(every)}", flush=True)
        watch = watched_by(tests)
        with ThreadPoolExecutor(2) as pool:
            killed = sum(pool.map(watch.noticed, sample))
        print(f"{title}: {killed} of {len(sample)} noticed = {killed / len(sample):.2f} (aim {AIM})", flush=True)


if __name__ == "__main__":
    main()
