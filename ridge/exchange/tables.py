"""A table as columns: what separates its cells, which decimal sign it uses, what its heading says, which are times."""

from __future__ import annotations

import csv
import re
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import zip_longest

from ridge.exchange.cells import NotANumber, read_number, read_plain
from ridge.exchange.headings import read_heading
from ridge.exchange.times import SECONDS, find_times

SEPARATORS = {"tab": "\t", "semicolon": ";", "comma": ",", "spaces": ""}
DECIMALS = ("point", "comma")
LONGEST = 20_000_000
WIDEST = 60
_SAMPLE = 60  # lines that the guesses look at
_MANY = 12  # columns beyond which those without a part are left out
_ABOVE = 30  # lines that may stand above the table


_ERROR_NAME = re.compile(
    r"^(?:±|u$|u_|σ|Δ|(?i:err|uncert|std|s\.?d\.?$|standard (?:error|dev)))|(?i:error|uncertainty|deviation)$"
)
_WEIGHT_NAME = re.compile(r"^(?:w|weights?)$", re.I)


class NoTable(ValueError):
    """The text holds no table; the message says why and what to do."""


@dataclass(frozen=True)
class TableColumn:
    """One column. ``cells`` are ready for the grid; ``wrong``: rows (from 0) whose cell is text but no number.

    ``times``: "date" or "clock" where the cells were such and are now the time since ``since``, in ``unit``; empty
    otherwise. ``ambiguous``: whether its days and months could be taken either way.
    """

    name: str
    symbol: str
    unit: str
    role: str
    cells: tuple[str, ...]
    wrong: tuple[int, ...]
    times: str = ""
    since: str = ""
    ambiguous: bool = False


@dataclass(frozen=True)
class TextTable:
    """What was understood. All columns have the same number of cells. ``header``: the line (from 1, empty ones not
    counted) that is the heading, 0 for none; the lines above it, or above the first row, are passed over."""

    separator: str
    decimal: str
    header: int
    passed_over: int
    columns: tuple[TableColumn, ...]

    @property
    def row_count(self) -> int:
        return len(self.columns[0].cells)


def read_text_table(
    text: str,
    separator: str | None = None,
    decimal: str | None = None,
    header: int | None = None,
    day_first: bool | None = None,
    elapsed: Mapping[int, str] | None = None,
) -> TextTable:
    """Understand a table. What is not given is guessed from the first lines.

    Numbers are brought to a decimal point without thousands separators, since ``1,234`` alone could mean two things;
    what is no number stays as it was written. A column of dates or clock times becomes the time since its first one, in
    the unit that ``elapsed`` gives for it (by its place from 0; "" leaves it as it is) or in one that suits its span.
    Raises NoTable.
    """
    return _read(text, separator, decimal, header, day_first, tuple(sorted((elapsed or {}).items())))


@lru_cache(maxsize=3)  # what was just looked through is taken in next, read in the same way
def _read(
    text: str,
    separator: str | None,
    decimal: str | None,
    header: int | None,
    day_first: bool | None,
    elapsed: tuple[tuple[int, str], ...],
) -> TextTable:
    if len(text) > LONGEST:
        raise NoTable("This is too long to import: 20 million characters at most. Import a part of it.")
    lines = [
        line for line in text.replace("\0", "").replace("\r\n", "\n").replace("\r", "\n").split("\n") if line.strip()
    ]
    if not lines:
        raise NoTable("There is nothing to import. Copy some rows first.")
    if separator is None or decimal is None:
        separator, decimal = _guess(lines[:_SAMPLE], separator, decimal)
    above = header - 1 if header else _lines_above(_split(lines[: _ABOVE + _SAMPLE], separator), decimal)
    if above >= len(lines):
        raise NoTable(f"There are only {len(lines)} lines. Choose another one for the header row.")
    written = [cells for cells in _columns_of(lines[above:], separator) if any(cells)]
    if not written:
        raise NoTable("These cells are empty.")
    if len(written) > WIDEST:
        raise NoTable(
            f"This table has {len(written)} columns; {WIDEST} at most can be looked through. Take the ones that are meant."
        )
    top = [list(row) for row in zip(*(cells[: _SAMPLE + 2] for cells in written), strict=True)]
    has_header = _has_header(top, decimal) if header is None else header > 0
    has_units = has_header and len(top) > 1 and _is_unit_row(top[1:], decimal)
    begin = has_header + has_units
    columns = []
    for i, cells in enumerate(written):
        name, symbol, unit = read_heading(cells[0] if has_header else "")
        unit = unit or (cells[1].strip("()[]") if has_units else "")
        columns.append(_read_column(cells[begin:], name, symbol, unit, decimal, day_first, dict(elapsed).get(i)))
    return TextTable(separator, decimal, above + 1 if has_header else 0, above, _with_roles(columns))


def _read_column(
    written: list[str],
    name: str,
    symbol: str,
    unit: str,
    decimal: str,
    day_first: bool | None,
    elapsed: str | None,
) -> TableColumn:
    if decimal == "point" and read_plain(written) is not None:
        return TableColumn(name, symbol, unit, "other", tuple(written), ())
    times = find_times(written, day_first) if elapsed != "" else None
    if times is not None:
        unit = elapsed if elapsed in SECONDS else times.fitting_unit
        cells = tuple(
            cell if cell is not None else text for cell, text in zip(times.elapsed(unit), written, strict=True)
        )
        return TableColumn(name, symbol, unit, "other", cells, times.wrong, times.kind, times.first, times.ambiguous)
    read = [_to_grid(cell, decimal) for cell in written]
    wrong = tuple(row for row, (_, is_number) in enumerate(read) if not is_number)
    return TableColumn(name, symbol, unit, "other", tuple(cell for cell, _ in read), wrong)


def _lines_above(rows: list[list[str]], decimal: str) -> int:
    """How many lines stand above the table: titles and notes before its heading, or before its first row of numbers."""
    widths = [sum(1 for cell in row if cell) for row in rows[: _ABOVE + _SAMPLE]]
    usual = Counter(widths).most_common(1)[0][0]
    first = next((place for place, row in enumerate(rows[:_ABOVE]) if _mostly_numbers(row, decimal)), 0)
    if usual < 2 or first < 1:
        return 0
    if first == 2 and widths[0] >= usual and _is_unit_row(rows[1:], decimal):
        return 0
    return first - 1 if widths[first - 1] >= usual else first


def _mostly_numbers(row: list[str], decimal: str) -> bool:
    filled = [cell for cell in row if cell]
    return bool(filled) and 2 * sum(_to_grid(cell, decimal)[1] for cell in filled) >= len(filled)


def _guess(lines: list[str], separator: str | None, decimal: str | None) -> tuple[str, str]:
    """The separator and decimal sign that make the most even table with the most numbers."""
    best, best_score = ("tab", "point"), (-1.0, -1.0, -1.0)
    tabs = any("\t" in line for line in lines)
    for name in [separator] if separator else ["tab"] if tabs else SEPARATORS:
        if SEPARATORS[name] and not any(SEPARATORS[name] in line for line in lines) and separator is None:
            continue
        rows = _split(lines, name)
        width, count = Counter(len(row) for row in rows).most_common(1)[0]
        for sign in [decimal] if decimal else DECIMALS:
            if name == "comma" and sign == "comma" and decimal is None:
                continue
            cells = [cell for row in rows[1:] or rows for cell in row if cell]
            numbers = sum(_to_grid(cell, sign)[1] for cell in cells) / (len(cells) or 1)
            even = count / len(rows)
            plain = 0.01 if sign == "point" else 0.0
            tabbed = 0.5 if name == "tab" else 0.0
            # Without a single number, as under a heading alone, gaps between words say little.
            columns = 1 if name == "spaces" and not numbers else min(width, 3)
            score = (round(even * numbers, 3), columns + tabbed, plain)
            if score > best_score:
                best, best_score = (name, sign), score
    return best


def _split(lines: list[str], separator: str) -> list[list[str]]:
    if separator == "spaces":
        return [re.split(r"[ \u00a0]+", line.strip()) for line in lines]
    if not any('"' in line for line in lines):
        sign = SEPARATORS[separator]
        return [
            [cell.strip() for cell in line.split(sign)] if " " in line or "\u00a0" in line else line.split(sign)
            for line in lines
        ]
    try:
        return [[cell.strip() for cell in row] for row in csv.reader(lines, delimiter=SEPARATORS[separator])]
    except csv.Error:
        return [[cell.strip() for cell in line.split(SEPARATORS[separator])] for line in lines]


def _columns_of(lines: list[str], separator: str) -> list[list[str]]:
    """The cells column by column, short rows filled up. Raises NoTable for a table that is far too wide."""
    sign = SEPARATORS[separator]
    count = lines[0].count(sign) if sign else 0
    text = sign.join(lines) if sign else ""
    if sign and '"' not in text and all(line.count(sign) == count for line in lines):
        # One split of everything: a hundred thousand little lists would keep the collector busy.
        _refuse_too_wide(count + 1, len(lines))
        cells = text.split(sign)
        if " " in text or "\u00a0" in text:
            cells = [cell.strip() for cell in cells]
        return [cells[i :: count + 1] for i in range(count + 1)]
    rows = _split(lines, separator)
    width = max(len(row) for row in rows)
    _refuse_too_wide(width, len(rows))
    return [list(cells) for cells in zip_longest(*rows, fillvalue="")]


def _refuse_too_wide(width: int, height: int) -> None:
    if width > 20_000 or width * height > 4_000_000:
        raise NoTable(f"This is too wide to import: {width} columns. Import a part of it.")


def _to_grid(cell: str, decimal: str) -> tuple[str, bool]:
    """The cell as the grid takes it, and whether it is a number or empty."""
    body = cell
    if decimal == "comma":
        if re.fullmatch(r"[+\-\u2212]?\d{1,3}(?:\.\d{3})+(?:,\d*)?", body):
            body = body.replace(".", "")
        body = body.replace(",", ".")
    elif re.fullmatch(r"[+\-\u2212]?\d{1,3}(?:,\d{3})+(?:\.\d*)?", body):
        body = body.replace(",", "")
    elif "," in body:
        return cell, False
    try:
        read_number(body)
    except NotANumber:
        return cell, False
    return body, True


def _has_header(rows: list[list[str]], decimal: str) -> bool:
    """A first row of text over numbers."""
    first, rest = rows[0], rows[1 : 1 + _SAMPLE]
    texts = [i for i, cell in enumerate(first) if cell and not _to_grid(cell, decimal)[1]]
    if not texts:
        return False
    if not rest:
        return len(texts) == len([cell for cell in first if cell])
    for i in texts:
        below = [row[i] for row in rest if row[i]]
        if below and sum(_to_grid(cell, decimal)[1] for cell in below) >= 0.5 * len(below):
            return True
    return False


def _is_unit_row(body: list[list[str]], decimal: str) -> bool:
    """A second row of short texts over numbers."""
    first = [cell for cell in body[0] if cell]
    texts = [cell for cell in first if not _to_grid(cell, decimal)[1]]
    return (
        bool(first)
        and len(body) > 1
        and len(texts) == len(first)
        and all(len(cell.strip("()[]")) <= 8 for cell in first)
    )


def _with_roles(columns: list[TableColumn]) -> tuple[TableColumn, ...]:
    """x and y are the first two columns of numbers; uncertainties and weights by their names. Of a very wide table the
    rest is left out unless it is asked for."""
    given: set[str] = set()
    before = ""
    found = []
    for column in columns:
        numbers = 2 * len(column.wrong) <= len(column.cells)
        known = column.symbol or column.name
        role = "other"
        if numbers and (_ERROR_NAME.search(known) or _ERROR_NAME.search(column.name)) and before:
            role = "x_error" if before == "x" else "y_error"
        elif numbers and _WEIGHT_NAME.match(column.name or column.symbol):
            role = "weight"
        elif numbers:
            role = "x" if "x" not in given else "y" if "y" not in given else "other"
        if role in given:
            role = "other"
        if role == "other" and len(columns) > _MANY:
            role = "skip"
        if role != "other":
            given.add(role)
        before = role if role in ("x", "y") else before
        found.append(replace(column, role=role))
    if "y" not in given:
        # The only other column of numbers is y, whatever it is called.
        place = next((i for i, column in enumerate(found) if column.role in ("x_error", "weight")), None)
        if place is not None:
            found[place] = replace(found[place], role="y")
    return tuple(_paired(found))


def _paired(columns: list[TableColumn]) -> list[TableColumn]:
    """Where the heading of x comes again, what follows it is another pair, with its uncertainty if there is one."""
    first = next((column for column in columns if column.role == "x"), None)
    if first is None or not (first.name or first.symbol):
        return columns
    found, before, place_of_x = list(columns), "", 0
    for place, column in enumerate(columns):
        if column.role not in ("other", "skip") or 2 * len(column.wrong) > len(column.cells):
            continue
        if (column.name, column.symbol, column.unit) == (first.name, first.symbol, first.unit):
            before, place_of_x = "x", place
        elif before == "x":
            found[place_of_x] = replace(columns[place_of_x], role="x")
            found[place] = replace(column, role="y")
            before = "y"
        elif before == "y" and _ERROR_NAME.search(column.symbol or column.name):
            found[place] = replace(column, role="y_error")
            before = ""
    return found
