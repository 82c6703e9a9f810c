"""Write the published schemas of the open formats: ``make types``."""

from __future__ import annotations

import json
import os
from pathlib import Path

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jackstaff.site.settings")
django.setup()

# The room of files reads the records, which need Django to stand.
from jackstaff.files import log_exchange  # noqa: E402
from jackstaff_core.gear import kitfile  # noqa: E402
from jackstaff_core.practice.dryrun import scenario  # noqa: E402

FOLDER = Path(__file__).parents[1] / "docs" / "formats"


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    for name, schema in (("kit", kitfile.schema()), ("log", log_exchange.schema()), ("dry-run", scenario.schema())):
        text = json.dumps(schema, indent=2, ensure_ascii=False)
        (FOLDER / f"{name}.schema.json").write_text(text + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
