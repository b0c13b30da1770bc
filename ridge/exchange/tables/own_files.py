"""Tables that Ridge itself wrote: the readings of a study as they go out, recognised when they come back."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Protocol

COMPUTED = re.compile(r"(?:fitted|residual) [A-F]")
STATUS, REASON = "status", "reason"
EXCLUDED = ("set aside", "excluded")
"""What stands in the status column of a row that is excluded; other words are derived from the cells."""
STATUSES = ("", "in use", "unusable", "unknown", "unknown sample", *EXCLUDED)


class Headed(Protocol):
    """A column as far as it is recognised by its heading."""

    @property
    def said(self) -> str: ...

    def becomes(self, role: str, why: str) -> None: ...


def propose_own(columns: Sequence[Headed]) -> bool:
    """Give the columns that Ridge added to a table of readings their roles; False where it is no such table."""
    names = [column.said for column in columns]
    if not names or names[0] != "row" or STATUS not in names:
        return False
    for column, name in zip(columns, names, strict=True):
        if name == "row" or COMPUTED.fullmatch(name):
            column.becomes("skip", "was written by Ridge, and is computed again")
        elif name in (STATUS, REASON):
            column.becomes("other", "says which rows are excluded")
    return True


def excluded_rows(status: Sequence[str], reasons: Sequence[str]) -> dict[int, str] | None:
    """Return the reason of each excluded row (from 0) by the words of a status column; None where these are not Ridge's."""
    words = [word.strip().lower() for word in status]
    if not any(words) or any(word not in STATUSES for word in words):
        return None
    return {
        row: (reasons[row].strip() if row < len(reasons) else "") or "excluded in the file"
        for row, word in enumerate(words)
        if word in EXCLUDED
    }
