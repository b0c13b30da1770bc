"""Clock readings: times of day, which are counted from the first one, or a stopwatch, whose readings stay as they are."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from ridge.exchange.cells import CLOCK_UNITS, NotANumber, read_clock
from ridge.exchange.tables.result import Option, Question

_THREE = re.compile(r"\d{1,4}:\d\d:\d\d(?:[.,]\d+)?")
_HALF_DAY = re.compile(r"[ap]\.?m\.?|Z|UTC|[+-]\d\d:?\d\d$", re.I)
_OF_DAY = re.compile(r"\b(?:clock|local|time of day|utc|gmt|o'clock)\b", re.I)


def kept_as_clock(cells: Sequence[str], name: str, unit: str, chosen: str | None) -> str | None:
    """The clock unit in which readings stay as they are; "" for times of day; None where nothing says which."""
    if chosen is not None:
        return chosen if chosen in CLOCK_UNITS else ""
    filled = [cell for cell in cells if cell]
    if any(_HALF_DAY.search(cell) for cell in filled) or _OF_DAY.search(name):
        return ""
    if unit in CLOCK_UNITS:
        return unit
    if any(int(cell.partition(":")[0]) > 24 or "." in cell for cell in filled if ":" in cell and cell[0].isdigit()):
        return "h:min:s" if all(_THREE.fullmatch(cell) for cell in filled) else "min:s"
    seconds = [
        int(cell.split(":")[0]) * 60 + int(cell.split(":")[1][:2]) for cell in filled if re.match(r"\d+:\d\d", cell)
    ]
    if any(later < before for before, later in pairwise(seconds)):
        return ""
    return None


def ask_clock(cells: Sequence[str], place: int, unit: str) -> Question:
    """Asks what clock readings are; ``unit`` suits their steps."""
    first = next(cell for cell in cells if cell)
    last = next(cell for cell in reversed(cells) if cell)
    three = _THREE.fullmatch(first)
    kept = ["h:min:s"] if three else ["min:s", "h:min"]
    words = {"h:min:s": "hours, minutes and seconds", "min:s": "minutes and seconds", "h:min": "hours and minutes"}
    options = [Option(f"times of day: counted from the first one, {first}", {"elapsed": {place: unit}})]
    options += [
        Option(f"{words[kind]} as on a stopwatch, kept as written", {"elapsed": {place: kind}}) for kind in kept
    ]
    return Question("clock", f"What are {first} … {last}?", tuple(options), place)


def is_clock(cell: str, unit: str) -> bool:
    """Whether a cell can be read in a column of clock readings."""
    try:
        return read_clock(cell, unit) is not None
    except NotANumber:
        return False
