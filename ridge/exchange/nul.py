"""The one character that no text of a study holds: databases and files end at it."""

from __future__ import annotations

from typing import Any


def without_nul(value: Any) -> Any:
    """What was read from JSON, its texts without U+0000."""
    match value:
        case str():
            return value.replace("\0", "")
        case list():
            return [without_nul(one) for one in value]
        case dict():
            return {without_nul(name): without_nul(one) for name, one in value.items()}
    return value
