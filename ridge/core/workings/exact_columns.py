"""Columns of exact numbers: whole numbers over one denominator, so that sums over many readings stay quick."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import isfinite, lcm

import numpy as np

from ridge.core.errors import BeyondDoubles
from ridge.core.numerals import decimal
from ridge.core.readings import Array
from ridge.core.results.steps import Exact


def exactly(value: float) -> Fraction:
    """The decimal that a person would write for this double: 1/10 for 0.1. Raises BeyondDoubles for what is not finite."""
    if not isfinite(value):
        raise BeyondDoubles("number")
    return Fraction(decimal(value))


@dataclass(frozen=True)
class ExactColumn(Sequence[Exact]):
    """Numbers ``tops[i]``/``bottom``. ``rational``: whether they are meant exactly; otherwise they are rounded values, such as
    logarithms, and are given as floats."""

    tops: tuple[int, ...]
    bottom: int = 1
    rational: bool = True

    @classmethod
    def of(cls, values: Iterable[float | Fraction], rational: bool = True) -> ExactColumn:
        parts = [value if isinstance(value, Fraction) else exactly(value) for value in values]
        bottom = lcm(*{part.denominator for part in parts}) if parts else 1
        return cls(tuple(part.numerator * (bottom // part.denominator) for part in parts), bottom, rational)

    @classmethod
    def ones(cls, length: int) -> ExactColumn:
        return cls((1,) * length)

    def __len__(self) -> int:
        return len(self.tops)

    def __getitem__(self, place):  # type: ignore[no-untyped-def]
        if isinstance(place, slice):
            return [shown(Fraction(top, self.bottom), self.rational) for top in self.tops[place]]
        return shown(Fraction(self.tops[place], self.bottom), self.rational)

    def __iter__(self) -> Iterator[Exact]:
        return (shown(Fraction(top, self.bottom), self.rational) for top in self.tops)

    def fraction(self, place: int) -> Fraction:
        return Fraction(self.tops[place], self.bottom)

    def __mul__(self, other: ExactColumn) -> ExactColumn:
        """Number by number."""
        tops = tuple(a * b for a, b in zip(self.tops, other.tops, strict=True))
        return ExactColumn(tops, self.bottom * other.bottom, self.rational and other.rational)

    def __sub__(self, other: ExactColumn) -> ExactColumn:
        bottom = lcm(self.bottom, other.bottom)
        mine, theirs = bottom // self.bottom, bottom // other.bottom
        tops = tuple(a * mine - b * theirs for a, b in zip(self.tops, other.tops, strict=True))
        return ExactColumn(tops, bottom, self.rational and other.rational)

    def times(self, factor: Fraction) -> ExactColumn:
        tops = tuple(top * factor.numerator for top in self.tops)
        return ExactColumn(tops, self.bottom * factor.denominator, self.rational)

    def __add__(self, other: ExactColumn) -> ExactColumn:
        return self - other.times(Fraction(-1))

    def total(self) -> Fraction:
        return Fraction(sum(self.tops), self.bottom)

    def dot(self, other: ExactColumn) -> Fraction:
        tops = sum(a * b for a, b in zip(self.tops, other.tops, strict=True))
        return Fraction(tops, self.bottom * other.bottom)


def shown(value: Fraction, rational: bool) -> Exact:
    """The number as a step carries it: a float where exactness has ended."""
    if rational:
        return value
    try:
        return float(value)
    except OverflowError:
        raise BeyondDoubles("number") from None


def column_of(values: Array, rational: bool = True) -> ExactColumn:
    """The decimals that a person would write for these doubles. Raises BeyondDoubles for what is not finite."""
    if not np.isfinite(values).all():
        raise BeyondDoubles("number")
    parts = [_digits(repr(value)) for value in values.tolist()]
    places = max(0, *(place for _, place in parts))
    return ExactColumn(tuple(digits * 10 ** (places - place) for digits, place in parts), 10**places, rational)


def _digits(text: str) -> tuple[int, int]:
    """Whole number and how many of its digits stand behind the point (negative: zeros before it)."""
    mantissa, _, power = text.partition("e")
    whole, _, rest = mantissa.partition(".")
    rest = rest.rstrip("0")
    return int(whole + rest), len(rest) - int(power or 0)


class SideBySide(Sequence[tuple[Exact, ...]]):
    """Columns as the rows of a table, made one by one as they are looked at."""

    def __init__(self, columns: Sequence[ExactColumn]) -> None:
        self.columns = tuple(columns)

    def __len__(self) -> int:
        return len(self.columns[0]) if self.columns else 0

    def __getitem__(self, place):  # type: ignore[no-untyped-def]
        return tuple(column[place] for column in self.columns)

    def __iter__(self) -> Iterator[tuple[Exact, ...]]:
        return iter(zip(*self.columns, strict=True))


def combined(columns: Sequence[ExactColumn], factors: Sequence[Fraction], length: int) -> ExactColumn:
    """Σ factor·column."""
    total = ExactColumn((0,) * length)
    for column, factor in zip(columns, factors, strict=True):
        total = total + column.times(factor)
    return total
