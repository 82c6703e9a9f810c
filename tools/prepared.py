"""Make a data folder as ``make demo`` and ``make account`` do, in one process: ``python -m tools.prepared NAME ...``.

The names become accounts whose password stands in the folder's file ``password``.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path

import django
from django.core.management import call_command


def main(names: list[str]) -> None:
    django.setup()
    call_command("bring_up")
    call_command("load_demo")
    if names:
        call_command("add_account", *names, password_from=str(Path(os.environ["JACKSTAFF_DATA_DIR"]) / "password"))


if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jackstaff.site.settings")
    main(sys.argv[1:])
