"""Write the published schemas of the open formats: ``make types``."""

from __future__ import annotations

import json
from pathlib import Path

from jackstaff_core import kitfile

FOLDER = Path(__file__).parents[1] / "docs" / "formats"


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    text = json.dumps(kitfile.schema(), indent=2, ensure_ascii=False)
    (FOLDER / "kit.schema.json").write_text(text + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
