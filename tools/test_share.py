"""Print which share of the project's lines are tests; a quarter to a third is the aim."""

from __future__ import annotations

import subprocess

LEAST = 0.25
_CODE = (".py", ".ts", ".tsx", ".sh")
"""Style sheets and data do not count on either side."""
_GENERATED = ("web/src/api/schema.d.ts", "/migrations/")


def main() -> None:
    files = subprocess.run(["git", "ls-files", "-co", "--exclude-standard"], check=True, capture_output=True, text=True)
    lines = {True: 0, False: 0}
    for path in files.stdout.split():
        if path.endswith(_CODE) and not any(part in path for part in _GENERATED):
            with open(path, encoding="utf-8") as file:
                is_test = path.startswith("tests/") or ".test." in path
                lines[is_test] += sum(1 for line in file if line.strip())
    tests, whole = lines[True], sum(lines.values())
    # Tests that are added make the whole longer, too.
    missing = max(0, round((LEAST * whole - tests) / (1 - LEAST)))
    said = f"{missing} lines of tests are missing to a quarter" if missing else "a quarter to a third is the aim"
    print(f"Tests are {tests / whole:.0%} of the code, {tests} of {whole} lines: {said}.")


if __name__ == "__main__":
    main()
