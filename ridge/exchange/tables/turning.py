"""Tables that lie on their side: one line for each quantity."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import zip_longest

from ridge.exchange.tables.cutting import Cutter
from ridge.exchange.tables.heading_parts import read_heading
from ridge.exchange.tables.lines import Lines
from ridge.exchange.tables.result import NoTable, Option, Question
from ridge.exchange.tables.signs import is_number

_MOST_LINES = 12
_LONG = 6


def wants_turning(
    rows: Sequence[Sequence[str]], count: int, decimal: str, chosen: bool | None
) -> tuple[bool, list[Question]]:
    """Whether each line is one quantity: few lines, many cells, a name before the numbers; asked where there are no names."""
    if chosen is not None:
        return chosen, []
    if count == 1 and len(rows[0]) > 3 and all(is_number(cell, decimal) for cell in rows[0]):
        options = (
            Option("readings of one quantity", {"turned": True}),
            Option("one reading of each of several quantities", {"turned": False}),
        )
        return False, [Question("turned", f"One line of {len(rows[0])} numbers: what are they?", options)]
    if not 2 <= count <= _MOST_LINES:
        return False, []
    held = [gathered(row, decimal) for row in rows if sum(map(bool, row)) > 1]
    if len(held) < 2 or len(held) < count - 2:
        return False, []
    widths = {len(row) for row in held}
    if len(widths) > 1 or min(widths) < 4 or min(widths) <= len(held):
        return False, []
    numbers = [sum(is_number(cell, decimal) for cell in row[1:] if cell) for row in held]
    whole = [count >= 0.8 * sum(map(bool, row[1:])) and count > 1 for count, row in zip(numbers, held, strict=True)]
    named = [bool(row[0]) and not is_number(row[0], decimal) for row in held]
    headings = [read_heading(row[0].rstrip(" :=")) for row in held]
    quantities = all(symbol or unit for _, symbol, unit in headings)
    if all(whole) and all(named) and quantities and min(widths) >= _LONG - 1:
        return True, []
    if (
        all(whole)
        and len(held) == count
        and (all(named) or (not any(named) and len(held) <= 3 and min(widths) >= _LONG))
    ):
        options = (
            Option("each line is one quantity", {"turned": True}),
            Option("each column is one quantity", {"turned": False}),
        )
        return False, [
            Question("turned", f"{len(held)} lines of {min(widths)} numbers: what is one quantity?", options)
        ]
    return False, []


def gathered(row: Sequence[str], decimal: str) -> list[str]:
    """The words before the first number put together: ``t / s 0 1 2`` cut at every space."""
    first = next((place for place, cell in enumerate(row) if is_number(cell, decimal)), 0)
    return [" ".join(row[:first]).rstrip(" :="), *row[first:]] if first else list(row)


def turned(lines: Lines, cutter: Cutter, decimal: str) -> tuple[Lines, Cutter]:
    """The lines with rows and columns exchanged. Raises NoTable where that makes far too many columns."""
    if len(lines.texts) > 1_000:
        raise NoTable(f"{len(lines.texts)} lines are too many to become columns.")
    rows = [gathered(row, decimal) for row in cutter.rows(lines.texts) if sum(map(bool, row)) > 1]
    texts = ["\t".join(cell.replace("\t", " ") for cell in column) for column in zip_longest(*rows, fillvalue="")]
    texts = [text for text in texts if text.strip()]
    return Lines(texts, range(1, len(texts) + 1)), Cutter("tab", width=len(rows))
