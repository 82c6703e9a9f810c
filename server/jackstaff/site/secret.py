"""The signing key, made once and kept beside the database."""

import os
from pathlib import Path

from django.core.management.utils import get_random_secret_key


def secret_key(path: Path) -> str:
    """Read the key at ``path``, making it first when it is missing.

    Several workers may start at once: the file is created exclusively, so all agree on one key.
    """
    try:
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    except FileExistsError:
        return path.read_text().strip()
    with os.fdopen(handle, "w") as file:
        key = get_random_secret_key()
        file.write(key)
    return key
