"""Run the tests of core and pictures whose code has changed since they last passed: ``make check``.

A folder of tests is remembered by the content of all that it reads: its modules, what they import of the project, and
the tables and documents beside them.
"""

from __future__ import annotations

import ast
import hashlib
import json
import subprocess
import sys
from functools import cache
from pathlib import Path

ROOT = Path(__file__).parents[1]
KEPT = ROOT / "build" / "checked.json"
PLACES = {"jackstaff_core": "core", "jackstaff_imaging": "imaging", "tests": "."}
READ_BESIDE = ("tests/conftest.py", "tests/core/vectors", "docs/models.md", "docs/formats", "pyproject.toml")
"""What tests read without importing it, and what says how they run."""
NOT_NEEDED = ("playwright", "schemathesis", "django", "anyio", "pytest_cov", "randomly")
"""Plugins of pytest that no test of core and pictures asks for."""


def groups() -> dict[str, list[Path]]:
    """Return the folders of tests with their modules."""
    folders = [ROOT / "tests/imaging", ROOT / "tests/core", *sorted((ROOT / "tests/core").rglob("*/"))]
    modules = {str(folder.relative_to(ROOT)): sorted(folder.glob("test_*.py")) for folder in dict.fromkeys(folders)}
    return {name: files for name, files in modules.items() if files}


def digest(files: list[Path]) -> str:
    """Return the digest of all that these tests read."""
    reads = set(files)
    waiting = list(files)
    while waiting:
        for path in imported(waiting.pop()):
            if path not in reads:
                reads.add(path)
                waiting.append(path)
    beside = [ROOT / name for name in READ_BESIDE]
    every = [*reads, *(path for each in beside for path in (sorted(each.rglob("*")) if each.is_dir() else [each]))]
    whole = hashlib.sha256(sys.version.encode())
    for path in sorted(path for path in every if path.is_file()):
        whole.update(str(path.relative_to(ROOT)).encode())
        whole.update(path.read_bytes())
    return whole.hexdigest()


@cache
def imported(path: Path) -> tuple[Path, ...]:
    """Return the modules of the project that a module imports."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    own = path.relative_to(ROOT).parts
    package = [part for part in own[:-1] if part not in ("core", "imaging") or own[0] == "tests"]
    names: list[list[str]] = []
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            names += [alias.name.split(".") for alias in node.names]
        elif isinstance(node, ast.ImportFrom):
            base = package[: len(package) - node.level + 1] if node.level else []
            base = [*base, *(node.module.split(".") if node.module else [])]
            names += [base, *([*base, alias.name] for alias in node.names)]
    found = [where for name in names if (where := _file(name))]
    # A module that reads the whole core tests all of it.
    if "rglob" in path.read_text(encoding="utf-8"):
        found += sorted((ROOT / "core").rglob("*.py"))
    return tuple(dict.fromkeys(found))


def _file(name: list[str]) -> Path | None:
    if not name or name[0] not in PLACES:
        return None
    at = ROOT / PLACES[name[0]] / Path(*name)
    return next((path for path in (at.with_suffix(".py"), at / "__init__.py") if path.is_file()), None)


def main() -> int:
    known = json.loads(KEPT.read_text()) if KEPT.exists() else {}
    now = {name: digest(files) for name, files in groups().items()}
    changed = [name for name, each in now.items() if known.get(name) != each]
    if not changed:
        print("No test of core or pictures has anything new to say.")
        return 0
    files = [str(path) for name in changed for path in groups()[name]]
    workers = ["-n", "2"] if len(files) > 4 else []
    plugins = [part for name in NOT_NEEDED for part in ("-p", f"no:{name}")]
    quiet = ["-W", "ignore::pytest.PytestConfigWarning"]
    command = [sys.executable, "-m", "pytest", *quiet, *plugins, *workers, *files]
    status = subprocess.run(command, cwd=ROOT, check=False)
    if status.returncode == 0:
        KEPT.parent.mkdir(exist_ok=True)
        KEPT.write_text(json.dumps(now, indent=1))
    return status.returncode


if __name__ == "__main__":
    raise SystemExit(main())
