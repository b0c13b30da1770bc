"""Where in the lines the table stands: its heading, its rows, and what is no part of it."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from ridge.exchange.tables.cutting import Cutter
from ridge.exchange.tables.heading_parts import symbol_and_unit
from ridge.exchange.tables.lines import Lines
from ridge.exchange.tables.result import Choices, NoTable, Option, PassedOver, Question
from ridge.exchange.tables.signs import is_number
from ridge.exchange.tables.unit_names import is_unit
from ridge.exchange.tables.written import MISSING, Written, read_written

LOOKED_AT = 400  # lines that are looked at one by one; of longer texts also the last ones and those after empty lines
_ENDS = 60
_EVERY = 5_000  # lines of a text that is looked at whole
_FOOT = re.compile(
    r"(?:grand |sub)?total|sum|Σ|mean|average|avg\.?|⌀|median|std\.?(?: ?dev\.?)?|st\.? ?dev\.?|standard (?:deviation|error)|s\.?d\.?|s\.?e\.?m?\.?"
    r"|min(?:imum)?|max(?:imum)?|count|variance|var|range|slope|intercept|r²|r\^2|r2|rsq|correl(?:ation)?", re.I
)  # fmt: skip
_RUN = re.compile(
    r"(?:run|trial|set|series|group|part|table|experiment|test|block|day|station)\.? (?:no\.? ?)?(?:\d{1,3}|[A-Z]|I{1,3}|IV|V):?",
    re.I,
)
_SHOWN = 60


@dataclass(frozen=True)
class Block:
    """One table: places in the lines of its heading (names, -1 for none; units; what stands over several names) and of
    its rows. ``comment``: the number of the line that is the heading where that is a comment, else 0."""

    names: int
    units: int
    over: int
    rows: tuple[int, ...] | range
    comment: int = 0


@dataclass(frozen=True)
class Layout:
    """``blocks``: the tables of the text, of which ``chosen`` is read."""

    blocks: tuple[Block, ...]
    chosen: int
    passed_over: tuple[PassedOver, ...]
    questions: tuple[Question, ...] = ()

    @property
    def block(self) -> Block:
        return self.blocks[self.chosen]


@dataclass
class _Rows:
    """The lines as cells where they were looked at: which hold numbers, and how many."""

    cells: dict[int, list[str]]
    decimal: str
    counts: dict[int, int] = field(default_factory=dict)
    usual: int = 1
    width: int = 1

    def __post_init__(self) -> None:
        for place, row in self.cells.items():
            self.counts[place] = sum(1 for cell in row if cell and is_number(cell, self.decimal))
        held = Counter(count for count in self.counts.values() if count)
        self.usual = held.most_common(1)[0][0] if held else 0
        widths = Counter(len(row) for place, row in self.cells.items() if self.counts[place])
        self.width = widths.most_common(1)[0][0] if widths else max(map(len, self.cells.values()), default=1)

    def filled(self, place: int) -> list[str]:
        return [cell for cell in self.cells[place] if cell]

    def is_data(self, place: int) -> bool:
        """Whether a line holds readings; one with nothing but marks for missing values is among them."""
        if place not in self.cells:
            return self.usual > 0
        filled = self.filled(place)
        if all(cell.lower() in MISSING or _is_no_heading(cell) for cell in filled):
            return True
        if self.is_run(place):
            return False
        return self.counts[place] > 0 and 2 * self.counts[place] >= min(self.usual, len(filled))

    def is_run(self, place: int) -> bool:
        """Whether a line says whose rows follow: ``Run 2``, also where it was cut at the space."""
        return place in self.cells and bool(_RUN.fullmatch(" ".join(self.filled(place))))

    def text(self, place: int) -> str:
        return " ".join(self.filled(place))[:_SHOWN]


def _is_no_heading(cell: str) -> bool:
    """Whether a cell is no number for a reason that only a reading has: an error of a spreadsheet, a limit, a formula."""
    read = read_written(cell, "point")
    return isinstance(read, str) and read.startswith(("is an error", "is a limit", "is a formula", "is marked"))


def find_layout(lines: Lines, cutter: Cutter, decimal: str, choices: Choices) -> Layout:
    """The table that is meant, or the one that was chosen. Raises NoTable."""
    count = len(lines.texts)
    if count <= _EVERY:
        places: Sequence[int] = range(count)
    else:
        after = sorted(lines.gaps)[:LOOKED_AT]
        places = sorted(
            {
                *range(LOOKED_AT),
                *range(count - _ENDS, count),
                *(p for gap in after for p in range(gap, min(gap + 3, count))),
            }
        )
    rows = _Rows(dict(zip(places, cutter.rows([lines.texts[p] for p in places]), strict=True)), decimal)
    passed: list[PassedOver] = list(lines.passed_over)

    def pass_over(place: int, why: str, last: int | None = None) -> None:
        passed.append(
            PassedOver(lines.numbers[place], lines.numbers[place if last is None else last], rows.text(place), why)
        )

    if choices.header is not None and choices.header > count:
        raise NoTable(f"There are only {count} lines. Choose another one for the header row.")
    questions: tuple[Question, ...] = ()
    blocks = _blocks(rows, lines, count, cutter, choices.header)
    if not blocks:
        names = (
            choices.header - 1
            if choices.header is not None
            else next((place for place in rows.cells if len(rows.filled(place)) > 1), 0)
        )
        units = names + 1 if names + 1 < count and _is_unit_row(rows, names + 1, rows.width) else -1
        for place in range(max(0, names)):
            if place in rows.cells:
                pass_over(place, "stands above the heading")
        rest = range(max(names, units) + 1, count)
        return Layout((Block(names, units, -1, rest),), 0, tuple(passed))
    sizes = [len(block.rows) for block in blocks]
    chosen = choices.table if choices.table is not None and choices.table < len(blocks) else sizes.index(max(sizes))
    block, foot = _without_foot(blocks[chosen], rows)
    for place, why in foot:
        pass_over(place, why)
    if block.names < 0 and block.rows and choices.header is None:
        block, questions = _numbers_as_names(block, rows)
    blocks[chosen] = block
    mine = {
        block.names,
        block.units,
        block.over,
        *(p for p in block.rows if p in rows.cells),
        *(place for place, _ in foot),
    }
    for other, one in enumerate(blocks):
        if other != chosen:
            held = [p for p in (one.over, one.names, one.units, *one.rows) if p >= 0]
            held = [place for place in held if place < count]
            pass_over(
                min(held), f"another table of {len(one.rows)} {'row' if len(one.rows) == 1 else 'rows'}", max(held)
            )
            mine |= set(held)
    for place in sorted(set(rows.cells) - mine):
        if rows.filled(place) and not (block.rows and block.rows[0] <= place <= block.rows[-1] and rows.is_data(place)):
            pass_over(place, _why_passed(place, block, rows))
    for number, text in lines.comments.items():
        if number != block.comment:
            passed.append(PassedOver(number, number, text[:_SHOWN], "a comment"))
    return Layout(tuple(blocks), chosen, tuple(sorted(passed, key=lambda one: one.first)), questions)


def _blocks(rows: _Rows, lines: Lines, count: int, cutter: Cutter, header: int | None) -> list[Block]:
    """The tables one below the other: rows of readings, each with the lines of text over them; the first one with the
    heading that was chosen."""
    blocks: list[Block] = []
    texts: list[int] = []
    held: list[int] = []
    heading = (-1, -1, -1)
    seen: dict[tuple[str, ...], int] = {}

    def close() -> None:
        if held:
            whole = held[-1] - held[0] + 1 == len(held)
            blocks.append(Block(*heading, range(held[0], held[-1] + 1) if whole else tuple(held)))
        held.clear()

    if header is not None:
        heading = (header - 1, -1, -1)
        if header in rows.cells and header and _is_unit_row(rows, header, rows.width):
            heading = (header - 1, header, -1)
    for place in range(max(header or 0, heading[1] + 1), count):
        if place in rows.cells and not rows.filled(place):
            continue
        if not rows.is_data(place):
            texts.append(place)
            continue
        if header is not None and not blocks and not held:
            held += texts if header == 0 else []
        elif place in rows.cells and (texts or place in lines.gaps or not held):
            found = _heading(rows, texts, place)
            names = tuple(rows.filled(found[0])) if found[0] >= 0 else ()
            again = bool(names) and names in seen and held
            wide = (
                bool(held)
                and place in lines.gaps
                and _width(rows, place) != _width(rows, held[-1])
                and _width(rows, place) > 1
            )
            run = any(rows.is_run(text) for text in texts)
            if not held or (names and not again) or (wide and not names) or run:
                close()
                heading = found
                seen[names] = place
        texts = []
        held.append(place)
    close()
    return _with_comment_heading(blocks, lines, rows, cutter)


def _width(rows: _Rows, place: int) -> int:
    return len(rows.filled(place)) if place in rows.cells else rows.width


def _heading(rows: _Rows, texts: list[int], first: int) -> tuple[int, int, int]:
    """Places of names, units and what stands over several names, among the lines of text right above a row; -1 for none."""
    width = len(rows.cells[first])
    near = [place for place in texts if place in rows.cells][-4:]
    if not near or near[-1] != first - 1:
        return -1, -1, -1
    names, units, over = near[-1], -1, -1
    named = (
        len(near) > 1
        and _could_be_names(rows, near[-2], width)
        and len(rows.filled(near[-2])) >= len(rows.filled(names))
    )
    if named and _is_unit_row(rows, names, width):
        names, units = near[-2], near[-1]
    if not _could_be_names(rows, names, width):
        return -1, -1, -1
    above = near[near.index(names) - 1] if near.index(names) else -1
    if above >= 0 and _stands_over(rows, above, names):
        over = above
    return names, units, over


def _could_be_names(rows: _Rows, place: int, width: int) -> bool:
    row, filled = rows.cells[place], rows.filled(place)
    if rows.is_run(place) and width > 1:
        return False
    if width == 1:
        return len(filled) == 1
    return (len(filled) > 1 and len(row) <= width + 1 and 2 * len(filled) >= width) or (
        len(row) == width and len(filled) >= 1 and width == 2
    )


def _stands_over(rows: _Rows, above: int, names: int) -> bool:
    """Whether a line names groups of columns: gaps in it, and names below that come again or fill the gaps."""
    row, below = rows.cells[above], rows.cells[names]
    filled = [cell for cell in row if cell]
    if len(row) < 2 or not filled or len(filled) == len(below) or len(row) > len(below):
        return False
    return "" in row[1:] or (len(row) > 1 and len(set(below)) < len(below))


def _is_unit_row(rows: _Rows, place: int, width: int) -> bool:
    """A line of nothing but units, in brackets or not, or of symbols with their units, as in ``t (s)``."""
    filled = rows.filled(place)
    if not filled or rows.counts[place] or (width > 1 and len(filled) < 1):
        return False
    if all(symbol_and_unit(cell) for cell in filled):
        return True
    bare = [cell.strip("()[]{}") for cell in filled]
    bracketed = all(cell[0] in "([{" for cell in filled)
    units = sum((is_unit(cell) and " / " not in cell) or cell in ("-", "–", "—") for cell in bare)
    return (
        bracketed
        or 2 * units > len(filled)
        or (units > 0 and 2 * units >= len(filled) and all(len(cell) <= 8 for cell in bare))
    )


def _with_comment_heading(blocks: list[Block], lines: Lines, rows: _Rows, cutter: Cutter) -> list[Block]:
    """A comment right above the first row with as many words as that has cells is its heading."""
    if not blocks or blocks[0].names >= 0 or not lines.comments:
        return blocks
    first = blocks[0].rows[0]
    number = max((number for number in lines.comments if number < lines.numbers[first]), default=0)
    if not number or (first > 0 and lines.numbers[first - 1] > number):
        return blocks
    cells = cutter.rows([lines.comments[number]])[0]
    if len(cells) != len(rows.cells[first]) or any(is_number(cell, rows.decimal) for cell in cells):
        return blocks
    place = len(lines.texts)
    lines.texts.append(lines.comments[number])
    rows.cells[place], rows.counts[place] = cells, 0
    return [replace(blocks[0], names=place, comment=number), *blocks[1:]]


def _without_foot(block: Block, rows: _Rows) -> tuple[Block, list[tuple[int, str]]]:
    """The block without rows at its end that are sums or means of those above."""
    summed = len(block.rows) <= _EVERY  # of longer ones not every row was looked at
    foot: list[tuple[int, str]] = []
    tail = block.rows
    while len(tail) > 2:
        last = tail[-1]
        if last not in rows.cells:
            break
        filled = rows.filled(last)
        word = next((cell for cell in rows.cells[last] if cell), "")
        if _FOOT.fullmatch(word.strip(" :=")) and not _named_alike(block, rows, rows.cells[last].index(word)):
            foot.append((last, "looks like a sum or a mean of the rows above"))
        elif summed and len(filled) < rows.width and rows.counts[last] == len(filled) and _is_sum(rows, tail):
            foot.append((last, "the sum or the mean of the rows above"))
        else:
            break
        tail = tail[:-1]
    return replace(block, rows=tail), foot


def _named_alike(block: Block, rows: _Rows, column: int) -> bool:
    """Whether words such as ``min`` and ``max`` stand in most rows of a column, where they are labels."""
    cells = [
        rows.cells[place][column] for place in block.rows if place in rows.cells and column < len(rows.cells[place])
    ]
    return sum(bool(_FOOT.fullmatch(cell.strip(" :="))) for cell in cells) > max(8, 0.5 * len(cells))


def _is_sum(rows: _Rows, tail: Sequence[int]) -> bool:
    last = rows.cells[tail[-1]]
    for column, cell in enumerate(last):
        if not cell:
            continue
        value = read_written(cell, rows.decimal)
        above = [
            read_written(rows.cells[p][column], rows.decimal)
            for p in tail[:-1]
            if p in rows.cells and column < len(rows.cells[p])
        ]
        numbers = [float(one.value) for one in above if isinstance(one, Written)]
        if not isinstance(value, Written) or len(numbers) < 2:
            return False
        close = 1e-6 * max(map(abs, numbers), default=0.0) + 0.6 * 10.0 ** -len(value.value.partition(".")[2])
        if min(abs(float(value.value) - sum(numbers)), abs(float(value.value) - sum(numbers) / len(numbers))) > close:
            return False
    return True


def _numbers_as_names(block: Block, rows: _Rows) -> tuple[Block, tuple[Question, ...]]:
    """A first row of numbers that names columns: words or nothing over the first column, numbers over the others."""
    first = block.rows[0]
    if first not in rows.cells:
        return block, ()
    rest = [place for place in block.rows[1:6] if place in rows.cells]
    row = rows.cells[first]
    if not rest or len(row) < 2:
        return block, ()
    corner = row[0]
    below = [rows.cells[place][0] for place in rest if rows.cells[place]]
    odd = (
        bool(below)
        and all(is_number(cell, rows.decimal) for cell in below if cell)
        and all(below)
        and not is_number(corner, rows.decimal)
    )
    if not odd or corner.lower() in MISSING or any(not is_number(cell, rows.decimal) for cell in row[1:] if cell):
        return block, ()
    as_names = replace(block, names=first, rows=block.rows[1:])
    if not corner and len(row) < 3:
        return block, ()
    if len(row) > 2:
        return as_names, ()
    line = first + 1
    return as_names, (
        Question(
            "header",
            f"Is the first line, “{' '.join(row)[:40]}”, a heading?",
            (Option("a heading", {"header": line}), Option("a reading", {"header": 0})),
        ),
    )


def _why_passed(place: int, block: Block, rows: _Rows) -> str:
    if block.rows and place < block.rows[0]:
        return "stands above the heading" if block.names >= 0 and not block.comment else "stands above the table"
    if block.names >= 0 and block.names in rows.cells and rows.filled(place) == rows.filled(block.names):
        return "the heading again"
    return "no row of numbers"
