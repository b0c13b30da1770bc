"""Lines cut into cells."""

from __future__ import annotations

import csv
import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from ridge.exchange.tables.result import NoTable, Separator

SIGNS: dict[Separator, str] = {"tab": "\t", "semicolon": ";", "comma": ",", "bar": "|", "spaces": ""}
_WIDE = re.compile(r"[ \u00a0]{2,}")
_SINGLE = re.compile(r"[ \u00a0]+")
_AROUND_PLUS_MINUS = re.compile(r"[ \u00a0]*(±|\+/-)[ \u00a0]*")
_GLUED = re.compile(r"^[(\[].*[)\]]$")
_TOO_WIDE = 20_000


@dataclass(frozen=True)
class Cutter:
    """How lines are cut. ``wide``: only two spaces and more separate; ``width``: cells of a usual line."""

    separator: Separator
    wide: bool = False
    width: int = 0

    @classmethod
    def of(cls, separator: Separator, sample: Sequence[str]) -> Cutter:
        """The cutter for a separator; of spaces only the wide ones count where single ones make no even table."""
        if separator != "spaces":
            return cls(separator, width=_usual(cls(separator).rows(sample)))
        sample = [line for line in sample if any(map(str.isdigit, line))] or sample
        usual, often = Counter(map(len, cls(separator).rows(sample))).most_common(1)[0]
        wide, wide_often = Counter(map(len, cls(separator, True).rows(sample))).most_common(1)[0]
        if wide > 1 and wide_often > often:
            return cls(separator, True, wide)
        return cls(separator, width=usual)

    def rows(self, lines: Sequence[str]) -> list[list[str]]:
        """The cells of each line, without white space around them. Raises NoTable where there are far too many."""
        rows = self._cut(lines)
        widest = max(map(len, rows), default=0)
        if widest > _TOO_WIDE:
            raise NoTable(f"This is too wide to import: {widest} columns. Import a part of it.")
        return rows

    def _cut(self, lines: Sequence[str]) -> list[list[str]]:
        if self.separator == "spaces":
            pattern = _WIDE if self.wide else _SINGLE
            return [self._fitted(line, pattern.split(_AROUND_PLUS_MINUS.sub(r"\1", line.strip()))) for line in lines]
        if self.separator == "bar":
            return [[cell.strip() for cell in line.strip().strip("|").split("|")] for line in lines]
        sign = SIGNS[self.separator]
        if not any('"' in line for line in lines):
            return [
                [cell.strip() for cell in line.split(sign)] if " " in line or "\u00a0" in line else line.split(sign)
                for line in lines
            ]
        try:
            rows = list(csv.reader(lines, delimiter=sign))
            if len(rows) < len(lines):  # a quote that is not closed on its line
                rows = [next(csv.reader([line], delimiter=sign), []) for line in lines]
            return [[cell.strip() for cell in row] for row in rows]
        except csv.Error:
            return [[cell.strip() for cell in line.split(sign)] for line in lines]

    def _fitted(self, line: str, words: list[str]) -> list[str]:
        """A heading of several words over fewer columns: wide spaces separate them, or units in brackets and ``in s`` go to
        the word before them."""
        if self.width < 1 or len(words) <= self.width or self.wide:
            return words
        if len(apart := _WIDE.split(line.strip())) == self.width:
            return apart
        fitted: list[str] = []
        for word in words:
            glue = fitted and (_GLUED.match(word) or word in ("/", "in") or fitted[-1].endswith((" /", " in")))
            if glue:
                fitted[-1] += f" {word}"
            else:
                fitted.append(word)
        return fitted if len(fitted) == self.width else words


def _usual(rows: list[list[str]]) -> int:
    return Counter(map(len, rows)).most_common(1)[0][0]
