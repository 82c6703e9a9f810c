"""The core as a browser's worker takes it: our package, astral's and the time zones in one archive."""

from __future__ import annotations

import sys
import zipfile
from pathlib import Path

import astral
import tzdata

import jackstaff_core

SOURCES = (jackstaff_core, astral, tzdata)
_ALWAYS = (1980, 1, 1, 0, 0, 0)


def pack(target: Path) -> int:
    """Write the archive; how many files are in it."""
    target.parent.mkdir(parents=True, exist_ok=True)
    count = 0
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as archive:
        for package in SOURCES:
            root = Path(str(package.__file__)).parent
            for path in sorted(path for path in root.rglob("*") if path.is_file() and path.suffix != ".pyc"):
                entry = zipfile.ZipInfo(str(Path(root.name) / path.relative_to(root)), _ALWAYS)
                entry.compress_type = zipfile.ZIP_DEFLATED
                archive.writestr(entry, path.read_bytes())
                count += 1
    return count


if __name__ == "__main__":
    pack(Path(sys.argv[1]))
