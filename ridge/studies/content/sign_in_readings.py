"""Which decimal sign readings are written with."""

from __future__ import annotations

import re

from ridge.core.decimal_sign import Sign
from ridge.exchange.tables import NoTable, read_text_table
from ridge.studies.content.changes.base import Change
from ridge.studies.content.changes.cells import SetCells
from ridge.studies.content.changes.tables import TakeTable

_WITH: dict[Sign, re.Pattern[str]] = {
    "comma": re.compile(r"[-+−]?\d+,\d+"),
    "point": re.compile(r"[-+−]?\d*\.\d+"),
}
_LOOKED_AT = 100_000  # characters of a table, from its beginning
_LINES = 90


def sign_in(change: Change) -> Sign | None:
    """The sign that the numbers of a change are written with; None where it has none."""
    if isinstance(change, TakeTable):
        text = "\n".join(change.text[:_LOOKED_AT].splitlines()[:_LINES])
        try:
            sign: Sign = "comma" if read_text_table(text, change.choices).decimal.value == "comma" else "point"
        except NoTable:
            return None  # it begins farther down
        return sign if _WITH[sign].search(text) else None
    if isinstance(change, SetCells):
        cells = [cell.strip() for line in change.block for cell in line]
        for sign, pattern in _WITH.items():
            if any(pattern.fullmatch(cell) for cell in cells):
                return sign
    return None
