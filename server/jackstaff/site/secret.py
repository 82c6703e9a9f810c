"""The signing key, made once and kept beside the database."""

import fcntl
import os
from pathlib import Path

from django.core.management.utils import get_random_secret_key


def secret_key(path: Path) -> str:
    """Read the key at ``path``, making it first when it is missing or was left empty.

    Several workers may start at once: whoever holds the file's lock writes, the others wait and read the same key.
    """
    with os.fdopen(os.open(path, os.O_RDWR | os.O_CREAT, 0o600), "r+") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        key = file.read().strip()
        if not key:
            key = get_random_secret_key()
            file.seek(0)
            file.write(key)
        return key
