"""The secret key: made at first start, kept in a file only its owner can read."""

from __future__ import annotations

import os
from pathlib import Path

from django.core.management.utils import get_random_secret_key


def secret_key(file: Path) -> str:
    """The key in ``file``; a new one is written there when the file does not exist."""
    file.parent.mkdir(parents=True, exist_ok=True)
    try:
        # O_EXCL: of two processes that start together only one writes.
        descriptor = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    except FileExistsError:
        return file.read_text().strip()
    key = get_random_secret_key() + get_random_secret_key()
    with os.fdopen(descriptor, "w") as handle:
        handle.write(key)
    return key
