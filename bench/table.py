"""One table of figures: printed as they come, and written into docs/benchmarks.md with the day they were taken."""

from __future__ import annotations

from datetime import date
from pathlib import Path

PAGE = Path(__file__).parents[1] / "docs" / "benchmarks.md"
BEGIN, END = "<!-- make bench writes from here -->", "<!-- to here -->"
_rows: list[tuple[str, str, str]] = []


def row(what: str, figure: str, aim: str = "") -> None:
    """Return one line: what against which reference, the ratio with its two figures, and what it should be."""
    _rows.append((what, figure, aim))
    print(f"| {what} | {figure} | {aim} |", flush=True)


def ratio(what: str, ours: float, other: float, unit: str, aim: str = "") -> None:
    """Return one line of two figures in the same unit."""
    row(what, f"{ours / other:.2f} ({_short(ours)} to {_short(other)} {unit})", aim)


def _short(figure: float) -> str:
    return f"{figure:.0f}" if figure >= 10 else f"{figure:.2f}"


def write(day: date, machine: str) -> None:
    """Put the table into the page in place of the one before."""
    before, _, rest = PAGE.read_text(encoding="utf-8").partition(BEGIN)
    _, _, after = rest.partition(END)
    table = "\n".join(f"| {' | '.join(each)} |" for each in [("what", "figure", "aim"), ("---",) * 3, *_rows])
    PAGE.write_text(
        f"{before}{BEGIN}\nTaken on {day.isoformat()}, {machine}.\n\n{table}\n{END}{after}", encoding="utf-8"
    )
