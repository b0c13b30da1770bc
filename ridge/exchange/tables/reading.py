"""A table understood: its separator, its decimal sign, its heading, its columns, what is asked and what is left out."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import zip_longest

from ridge.exchange.cells import CLOCK_UNITS
from ridge.exchange.tables.column_cells import FIRST, Cells, Kind, kind_of, like_days
from ridge.exchange.tables.cutting import Cutter
from ridge.exchange.tables.heading_parts import read_heading, symbol_and_unit
from ridge.exchange.tables.lines import LONGEST, MOST_ROWS, Lines, lines_of
from ridge.exchange.tables.result import Choices, NoTable, Option, PassedOver, Question, TableColumn, TextTable
from ridge.exchange.tables.roles import Proposed, propose
from ridge.exchange.tables.signs import find_decimal, find_separator, is_number
from ridge.exchange.tables.stopwatch import ask_clock, is_clock, kept_as_clock
from ridge.exchange.tables.table_lines import LOOKED_AT, Block, find_layout
from ridge.exchange.tables.times import SECONDS, find_times
from ridge.exchange.tables.turning import turned, wants_turning
from ridge.exchange.tables.unit_names import is_unit
from ridge.exchange.tables.written import Written, read_written

__all__ = ["LONGEST", "MOST_ROWS", "WIDEST", "read_text_table"]

WIDEST = 60
"""Columns that can be looked through."""
AS_IT_IS = Choices()
"""Nothing chosen."""
_SAMPLE = 90  # lines by which separator and decimal sign are found
_AT_ONCE = 60_000  # cells that are cut at a time
_TOO_MANY_CELLS = 12_000_000
_MOST_WORK = 100_000  # cells that are taken apart one by one
_FEW = 8  # different labels that may be series


def read_text_table(text: str, choices: Choices = AS_IT_IS, wanted: frozenset[int] | None = None) -> TextTable:
    """Understand a table. What is not chosen is decided from the text; where that leaves two ways open, it is asked.

    Numbers are brought to a decimal point without thousands separators; what is no number stays as it was written. A
    column of dates becomes the time since its first one, in a unit that suits its steps or is chosen. Values with an
    uncertainty (``0.10 ± 0.01``) become two columns. ``wanted``: the places of the columns of which all cells are wanted, all
    if None; of the others only the first ones are told, with what is wrong counted. Raises NoTable.
    """
    lines = lines_of(text)
    sample = lines.texts[: _SAMPLE + 30]
    separator, questions = find_separator(sample, choices.separator, choices.decimal)
    cutter = Cutter.of(separator.value, sample)
    cut = cutter.rows(sample)
    decimal, more = find_decimal(cut, text, separator.value, choices.decimal)
    questions = questions or more
    if (
        choices.separator is None
        and separator.value not in ("semicolon", "bar")
        and not any("\t" in line for line in sample)
    ):
        _refuse_prose(sample)
    is_turned, more = wants_turning(cut, len(lines.texts), decimal.value, choices.turned)
    questions += more
    if is_turned:
        lines, cutter = turned(lines, cutter, decimal.value)
        if not lines.texts:
            raise NoTable("These cells are empty.")
    layout = find_layout(lines, cutter, decimal.value, choices)
    questions += layout.questions
    block = layout.block
    held = _Held(lines, cutter, block)
    columns, more = _columns(held, decimal.value, choices, wanted)
    passed = list(layout.passed_over)
    if lines.more:
        passed.append(
            PassedOver(lines.numbers[-1] + 1, lines.numbers[-1] + lines.more, "", "more rows than a study holds")
        )
    return TextTable(
        separator, decimal, _line_of(block), is_turned, len(block.rows), columns, (*questions, *more), tuple(passed),
        tuple(_span(one, lines) for one in layout.blocks), layout.chosen, _nothing(columns, len(block.rows), lines.more),
    )  # fmt: skip


_WORD = re.compile(r"[^\W\d_]{2,}")
_NUMBER = re.compile(r"(?<![^\W\d_])\d[\d.,:]*")


def _refuse_prose(sample: Sequence[str]) -> None:
    """Raises NoTable for sentences: many words, few numbers, and most lines without one."""
    words, numbers = (
        sum(len(_WORD.findall(line)) for line in sample),
        sum(len(_NUMBER.findall(line)) for line in sample),
    )
    without = sum(1 for line in sample if not _NUMBER.search(line))
    if (
        words >= 6
        and words > 3 * max(1, numbers)
        and (2 * without >= len(sample) or words > 6 * numbers)
        and ";" not in sample[0]
    ):
        raise NoTable("This reads like text, not like a table. Copy rows of numbers.")


def _line_of(block: Block) -> int:
    return -1 if block.comment else block.names + 1 if block.names >= 0 else 0


def _span(block: Block, lines: Lines) -> tuple[int, int]:
    held = [
        place
        for place in (block.over, block.names, block.units, *block.rows[:1], *block.rows[-1:])
        if 0 <= place < len(lines.numbers)
    ]
    return (lines.numbers[min(held)], lines.numbers[max(held)]) if held else (0, 0)


def _nothing(columns: Sequence[TableColumn], rows: int, more: int) -> str:
    """Why nothing of a table could be used."""
    if more:
        return f"This table has {rows + more} rows; a study holds {MOST_ROWS} at most. Import a part of it."
    if not rows:
        return "There is a heading, but there are no rows below it."
    if not any(column.numbers for column in columns):
        return "No column holds numbers."
    return ""


class _Held:
    """The cells of a block, column by column, a part of the lines at a time."""

    def __init__(self, lines: Lines, cutter: Cutter, block: Block) -> None:
        self._lines, self._cutter, self.block = lines, cutter, block
        self._special = self._cut([place for place in (block.over, block.names, block.units) if place >= 0])
        first = self.rows_at(block.rows[:LOOKED_AT])
        self.width = max([*map(len, first), *map(len, self._special.values()), 1])
        if self.width * len(block.rows) > _TOO_MANY_CELLS:
            raise NoTable(
                f"This is too much to import: {self.width} columns and {len(block.rows)} rows. Import a part of it."
            )
        # As in tables whose first heading is missing: names stand over all columns but the row numbers.
        self._shift = int(
            self.width - len(self._special.get(block.names, [""] * self.width)) == 1
            and all(len(row) == self.width for row in first)
        )
        self.first = self._columns(first)
        if self._shift and not _numbers_rows(self.first[0]):
            self._shift = 0

    def rows_at(self, places: Sequence[int]) -> list[list[str]]:
        return self._cutter.rows([self._lines.texts[place] for place in places])

    def _cut(self, places: list[int]) -> dict[int, list[str]]:
        return {place: self.rows_at([place])[0] for place in places}

    def _columns(self, rows: list[list[str]]) -> list[Sequence[str]]:
        columns: list[Sequence[str]] = list(zip_longest(*rows, fillvalue=""))
        return columns + [("",) * len(rows)] * (self.width - len(columns))

    def parts(self) -> Iterator[list[Sequence[str]]]:
        """All columns, some rows at a time."""
        rows = self.block.rows
        height = max(200, _AT_ONCE // self.width)
        for begin in range(0, len(rows), height):
            columns = self._columns(self.rows_at(rows[begin : begin + height]))
            if len(columns) > self.width:
                raise NoTable(
                    f"From row {begin + 1} on there are more columns than above: {len(columns)}, not {self.width}."
                )
            yield columns

    def over(self, line: int, column: int) -> str:
        """What stands over a column in one of the lines of the heading."""
        if line not in self._special or (line != self.block.over and column < self._shift):
            return ""
        cells = self._special[line]
        place = column - (self._shift if line != self.block.over or len(cells) < self.width else 0)
        return cells[place] if 0 <= place < len(cells) else ""

    def group(self, column: int) -> str:
        """What stands over several names: over this one or, where there is a gap, over one before it."""
        if self.block.over < 0:
            return ""
        return next((said for place in range(column, -1, -1) if (said := self.over(self.block.over, place))), "")


def _numbers_rows(cells: Sequence[str]) -> bool:
    """Whether a column without a heading names or counts the rows: words, or 0, 1, 2 …"""
    if not any(cell.isdigit() for cell in cells):
        return not any(is_number(cell, "point") for cell in cells)
    return cells[0] in ("0", "1") and all(cell == str(int(cells[0]) + place) for place, cell in enumerate(cells))


def _columns(
    held: _Held, decimal: str, choices: Choices, wanted: frozenset[int] | None
) -> tuple[tuple[TableColumn, ...], list[Question]]:
    """Every column that holds anything, with its role; and what is asked about them."""
    kept = _filled_columns(held)
    if len(kept) > WIDEST:
        raise NoTable(
            f"This table has {len(kept)} columns; {WIDEST} at most can be looked through. Take the ones that are meant."
        )
    if not kept:
        raise NoTable("These cells are empty.")
    headed = [_Headed(held, place, decimal) for place in kept]
    readers: list[Cells] = []
    questions: list[Question] = []
    place = 0
    for one in headed:
        chosen = choices.elapsed.get(place)
        kind = kind_of(one.first, decimal, as_text=chosen == "")
        if kind.what == "numbers" and (day := like_days(one.first)) and not choices.fractions:
            kind = Kind("words")
            if choices.fractions is None:
                questions.append(_ask_fraction(day, place))
        whole = wanted is None or place in wanted or (kind.uncertain and place + 1 in wanted)
        readers.append(Cells(kind, decimal, one.unit, whole))
        place += 2 if kind.uncertain else 1
    for part in held.parts():
        for reader, at in zip(readers, kept, strict=True):
            reader.add(part[at])
        if sum(reader.one_by_one for reader in readers) > _MOST_WORK:
            raise NoTable(
                "This table is too much work to read: hardly a cell is a number alone. Import a part of it, or without units."
            )
    found: list[tuple[TableColumn, Proposed]] = []
    for one, reader in zip(headed, readers, strict=True):
        if reader.kind.what in ("date", "clock"):
            column, asked = _times(one, reader, len(found), choices)
            questions += asked
            found.append((column, one.proposed(column, reader.kind)))
            continue
        column = _column(one, reader)
        if _is_unit_of(column, reader, found):
            before, proposed = found[-1]
            proposed.unit = column.cells[0]
            found[-1] = (replace(before, unit=column.cells[0]), proposed)
            found.append((column, _skipped(one, column)))
            continue
        found.append((column, one.proposed(column, reader.kind)))
        if reader.kind.uncertain:
            own = _uncertainty(one, reader, column)
            found.append((own, Proposed("", "", own.unit, True, own=True)))
    roles = propose([proposed for _, proposed in found], choices)
    columns = tuple(
        # The x of a pair keeps its own name: what stands over both names the series.
        replace(column, role=one.role, why=one.why, name=one.alone if one.role == "x" and one.group else column.name)
        for (column, _), one in zip(found, roles.columns, strict=True)
    )
    return columns, questions + roles.questions


def _filled_columns(held: _Held) -> list[int]:
    """Places of the columns that have a heading or any cell that holds something."""
    filled = {place for place in range(held.width) if held.over(held.block.names, place) or any(held.first[place])}
    if len(filled) < held.width and len(held.block.rows) > LOOKED_AT:
        for part in held.parts():
            filled |= {place for place in range(held.width) if place not in filled and any(part[place])}
    return sorted(filled)


class _Headed:
    """What stands over a column, and its first cells."""

    def __init__(self, held: _Held, place: int, decimal: str) -> None:
        heading = held.over(held.block.names, place)
        self.first = held.first[place]
        self.number_name = bool(heading) and is_number(heading, decimal)
        self.name, self.symbol, self.unit = (heading, "", "") if self.number_name else read_heading(heading)
        below = held.over(held.block.units, place)
        if (told := symbol_and_unit(below)) is not None:
            self.symbol, self.unit = self.symbol or told[0], self.unit or told[1]
        self.unit = self.unit or _bare(below)
        self.group, self.alone = held.group(place), self.name if heading else ""
        if self.group and self.group != heading:
            name, symbol, unit = read_heading(self.group)
            self.name = f"{name} {self.name}".strip() if name else self.name
            self.unit = self.unit or unit
            if not self.symbol and not heading:
                self.symbol = symbol
            self.alone = self.alone if heading else self.name

    def proposed(self, column: TableColumn, kind: Kind) -> Proposed:
        cells = [cell for cell in self.first if cell]
        numbers = (
            [float(one.value) for cell in cells if isinstance(one := read_written(cell, "point"), Written)]
            if kind.what == "numbers"
            else []
        )
        complete = len(numbers) == len(self.first) and not kind.unit and not kind.uncertain
        start = numbers[0] if numbers else 0.0
        consecutive = (
            complete and len(numbers) > 2 and all(value == start + place for place, value in enumerate(numbers))
        )
        counts = consecutive and start in (0, 1)
        different = len(set(cells))
        return Proposed(
            column.name, column.symbol, column.unit, column.numbers, time=bool(column.times), counts=counts, consecutive=consecutive,
            whole=bool(numbers) and len(numbers) == len(cells) and all(value >= 1 and value == int(value) for value in numbers),
            dotted=counts and all(cell.endswith(".") for cell in cells), words=_words(column),
            alone=self.alone, labels=different if different <= _FEW and different < len(cells) else 0, number_name=self.number_name, group=self.group,
        )  # fmt: skip


def _words(column: TableColumn) -> str:
    """Why a column holds no numbers, where its cells are more than words."""
    told = next(((cell, why) for _, cell, why in column.wrong if why != "is not a number"), None)
    return f"no plain numbers: “{told[0][:20]}” {told[1]}" if told and not column.numbers else ""


def _bare(unit: str) -> str:
    bare = unit.strip().strip("()[]{}").strip()
    return "" if bare in ("-", "–", "—", "1") else bare


def _column(one: _Headed, reader: Cells) -> TableColumn:
    numbers = reader.kind.what == "numbers"
    return TableColumn(
        one.name, one.symbol, one.unit or (reader.kind.unit if numbers else ""), "other", "", tuple(reader.values),
        tuple(reader.wrong), reader.wrong_count, numbers=numbers or not any(one.first),
    )  # fmt: skip


def _uncertainty(one: _Headed, reader: Cells, column: TableColumn) -> TableColumn:
    unit = "%" if reader.kind.of_value else column.unit
    return TableColumn("", "", unit, "other", "", tuple(reader.errors), part="uncertainty")


def _is_unit_of(column: TableColumn, reader: Cells, found: Sequence[tuple[TableColumn, Proposed]]) -> bool:
    """Whether a column says nothing but the unit of the one before it, in every row."""
    if reader.kind.what != "words" or not found or not column.cells or not found[-1][0].numbers or found[-1][0].unit:
        return False
    return len(set(column.cells)) == 1 and is_unit(column.cells[0]) and column.name.lower() in ("", "unit", "units")


def _skipped(one: _Headed, column: TableColumn) -> Proposed:
    proposed = Proposed(one.name, one.symbol, "", False)
    proposed.becomes("skip", "the unit of the column before it")
    return proposed


def _times(one: _Headed, reader: Cells, place: int, choices: Choices) -> tuple[TableColumn, list[Question]]:
    """A column of dates or clock times: elapsed, or kept as a stopwatch shows them."""
    kind, chosen, whole = reader.kind.what, choices.elapsed.get(place), reader.whole
    # A unit that is none of time cannot be that of the times, but is not lost.
    strange = one.unit and one.unit not in SECONDS and one.unit not in CLOCK_UNITS
    name = f"{one.name or one.symbol} ({one.unit})".strip() if strange else one.name
    cells = reader.times
    questions: list[Question] = []
    if kind == "clock":
        times = find_times(cells)
        kept = kept_as_clock(cells, name, one.unit, chosen)
        if kept:
            wrong = [
                (row, cell, "is not a clock time")
                for row, cell in enumerate(cells)
                if cell and not is_clock(cell, kept)
            ]
            shown = tuple(cells if whole else cells[:FIRST])
            return TableColumn(name, one.symbol, kept, "other", "", shown, tuple(wrong[:FIRST]), len(wrong), kind), []
        if kept is None:
            questions.append(ask_clock(cells, place, times.fitting_unit if times else "s"))
    times = find_times(cells, choices.day_first)
    if times is None:
        return TableColumn(
            name, one.symbol, one.unit, "other", "", tuple(cells if whole else cells[:FIRST]), numbers=False
        ), []
    if times.ambiguous and choices.day_first is None:
        questions.append(_ask_order(times.first, place))
    unit = chosen if chosen in SECONDS else one.unit if one.unit in SECONDS else times.fitting_unit
    elapsed = times.elapsed(unit)
    shown = tuple(cell if cell is not None else text for cell, text in zip(elapsed, cells, strict=True))
    wrong = [(row, cells[row], "is not a time") for row in times.wrong]
    column = TableColumn(
        name, one.symbol, unit, "other", "", shown if whole else shown[:FIRST], tuple(wrong[:FIRST]), len(wrong), times.kind, times.first,
    )  # fmt: skip
    return column, questions


def _ask_fraction(cell: str, place: int) -> Question:
    over, under = (int(part) for part in cell.split("/"))
    value = repr(over / under).removesuffix(".0")[:8]
    options = (
        Option(f"{over} divided by {under}, {value}", {"fractions": True}),
        Option("a day and a month, kept as a label", {"fractions": False}),
    )
    return Question("fractions", f"What is {cell}?", options, place)


def _ask_order(first: str, place: int) -> Question:
    options = (Option("day, month", {"day_first": True}), Option("month, day", {"day_first": False}))
    return Question("day_first", f"What comes first in {first}?", options, place)
