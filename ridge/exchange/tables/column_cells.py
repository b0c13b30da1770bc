"""One column of a table: what its cells hold, and its cells as the grid takes them."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field

from ridge.exchange.cells import read_plain
from ridge.exchange.tables.times import MONTH_WORD, time_kind
from ridge.exchange.tables.unit_names import is_unit
from ridge.exchange.tables.written import MISSING, Written, read_written

FIRST = 8
"""Cells of a column that are shown before it is taken, and of its cells without a number those that are named."""
_DIGIT = re.compile(r"\d")


@dataclass(frozen=True)
class Kind:
    """``what``: "numbers", "date", "clock" or "words". ``unit``: what stands behind the numbers; ``uncertain``: whether
    they carry an uncertainty, ``of_value`` in per cent of the value."""

    what: str
    unit: str = ""
    uncertain: bool = False
    of_value: bool = False


def kind_of(cells: Sequence[str], decimal: str, *, as_text: bool = False) -> Kind:
    """What a column holds, from some of its cells."""
    filled = [cell for cell in cells if cell]
    if not as_text and (kind := time_kind(filled)):
        return Kind(kind)
    read = [read_written(cell, decimal) for cell in filled]
    numbers = [one for one in read if isinstance(one, Written)]
    words = [one for cell, one in zip(filled, read, strict=True) if isinstance(one, str) and not _gap(cell, one)]
    if not numbers or len(words) > len(numbers):
        return Kind("words")
    units = Counter(one.unit for one in numbers if one.unit)
    unit = ""
    if units:
        unit, often = units.most_common(1)[0]
        known = is_unit(unit) or (often > 1 and 5 * often >= 4 * len(numbers))
        if not known or MONTH_WORD.fullmatch(unit) or 2 * often < len(numbers) or 2 * often <= sum(units.values()):
            if 2 * sum(units.values()) > len(numbers):
                return Kind("words")
            unit = ""  # one cell does not say it for all
    uncertain = [one for one in numbers if one.uncertainty]
    return Kind("numbers", unit, bool(uncertain), bool(uncertain) and all(one.of_value for one in uncertain))


_DAY = re.compile(r"\d{1,2}/\d{1,2}")


def like_days(cells: Sequence[str]) -> str:
    """The first of cells such as ``12/5`` and ``13/5`` that may be days of months as well as fractions; empty where they are
    neither, or plainly fractions, as ``1/2`` is."""
    filled = [cell for cell in cells if cell]
    parts = [tuple(map(int, cell.split("/"))) for cell in filled if _DAY.fullmatch(cell)]
    if not parts or 2 * len(parts) < len(filled):
        return ""
    days = all((1 <= a <= 31 and 1 <= b <= 12) or (1 <= b <= 31 and 1 <= a <= 12) for a, b in parts)
    return next((cell for cell in filled if _DAY.fullmatch(cell)), "") if days and max(a for a, _ in parts) > 9 else ""


def _gap(cell: str, why: str) -> bool:
    """Whether a cell without a number is a gap in a column of numbers rather than a word."""
    return cell.lower() in MISSING or why.startswith(("is an error", "is a limit", "is marked", "is a formula"))


@dataclass
class Cells:
    """The cells of a column as they are read, part by part: all of them, or the first few and what is wrong."""

    kind: Kind
    decimal: str
    heading_unit: str
    whole: bool
    values: list[str] = field(default_factory=list)
    errors: list[str] = field(default_factory=list)
    wrong: list[tuple[int, str, str]] = field(default_factory=list)
    wrong_count: int = 0
    count: int = 0
    one_by_one: int = 0
    times: list[str] = field(default_factory=list)

    def add(self, cells: Sequence[str]) -> None:
        begin = self.count
        self.count += len(cells)
        if self.kind.what in ("date", "clock"):
            self.times += cells
            return
        values, errors = self._read(cells, begin)
        room = len(values) if self.whole else max(0, FIRST - begin)
        self.values += values[:room]
        if self.kind.uncertain:
            self.errors += (errors or [""] * len(values))[:room]

    def _read(self, cells: Sequence[str], begin: int) -> tuple[Sequence[str], list[str] | None]:
        if (plain := self._plain(cells)) is not None:
            return plain, None
        if self.kind.what == "numbers" and (taken := self._taken_apart(cells)) is not None:
            return taken
        if self.kind.what == "words" and not self.whole and not _DIGIT.search("".join(cells)):
            self._count_words(cells, begin)
            return cells[:FIRST], None
        self.one_by_one += len(cells)
        values: list[str] = []
        errors: list[str] = []
        for row, cell in enumerate(cells, begin):
            value, error = self._one(row, cell) if cell else ("", "")
            values.append(value)
            errors.append(error)
        return values, errors if self.kind.uncertain else None

    def _plain(self, cells: Sequence[str]) -> Sequence[str] | None:
        """All cells with a decimal point, where every one is a number alone; for long columns, at once."""
        if self.decimal == "point":
            return cells if read_plain(cells) is not None else None
        joined = "\n".join(cells)
        if self.kind.what != "numbers" or "." in joined:
            return None
        plain = joined.replace(",", ".").split("\n")
        return plain if read_plain(plain) is not None else None

    def _taken_apart(self, cells: Sequence[str]) -> tuple[Sequence[str], list[str] | None] | None:
        """The same where every cell ends in the unit of the column, or is a value ± an uncertainty without a unit."""
        unit = self.kind.unit
        if self.kind.uncertain:
            if unit or self.kind.of_value or not all("±" in cell for cell in cells):
                return None
            parts = [cell.partition("±") for cell in cells]
            values = self._plain([before.strip() for before, _, _ in parts])
            errors = self._plain([after.strip() for _, _, after in parts])
            if values is None or errors is None or any(error.startswith("-") for error in errors):
                return None
            return values, list(errors)
        fits = not self.heading_unit or _same_unit(self.heading_unit, unit)
        if unit and fits and all(cell.endswith(unit) for cell in cells):
            stripped = self._plain([cell.removesuffix(unit).rstrip() for cell in cells])
            return None if stripped is None else (stripped, None)
        return None

    def _count_words(self, cells: Sequence[str], begin: int) -> None:
        for row, cell in enumerate(cells, begin):
            if len(self.wrong) >= FIRST:
                break
            if cell:
                self.wrong.append((row, cell, "is not a number"))
        self.wrong_count += sum(map(bool, cells))

    def _one(self, row: int, cell: str) -> tuple[str, str]:
        read = read_written(cell, self.decimal)
        why = read if isinstance(read, str) else self._unfit(read)
        if isinstance(why, str) and why:
            self.wrong_count += 1
            if len(self.wrong) < FIRST:
                self.wrong.append((row, cell, why))
            return cell, ""
        assert isinstance(read, Written)
        return (cell if self.kind.what == "words" else read.value), self._error(read)

    def _unfit(self, read: Written) -> str:
        """Why a number with a unit or an uncertainty does not fit into this column; empty where it does."""
        said = self.heading_unit or self.kind.unit
        if self.kind.what != "numbers":
            return "" if not read.unit and not read.uncertainty else "is not a number alone"
        if read.uncertainty and not self.kind.uncertain:
            return "has an uncertainty behind it"
        if read.unit and read.unit != self.kind.unit:
            return f"is in {read.unit}, the others in {said}" if said else f"has {read.unit} behind it"
        if read.unit and self.heading_unit and not _same_unit(self.heading_unit, read.unit):
            return f"is in {read.unit}, the heading says {self.heading_unit}"
        return ""

    def _error(self, read: Written) -> str:
        if not read.uncertainty or read.of_value == self.kind.of_value:
            return read.uncertainty
        # In a column of absolute uncertainties one in per cent becomes what it is of its value.
        return repr(abs(float(read.value)) * float(read.uncertainty) / 100)


def _same_unit(one: str, other: str) -> bool:
    plain = str.maketrans({" ": "", "μ": "µ", "Ω": "Ω", "(": "", ")": "", "^": "", "²": "2", "³": "3"})
    return one.translate(plain) == other.translate(plain)
