"""Reducing a matrix by operations on its rows, each written down (common practice: Gauss and Jordan's elimination)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

RowsOfFractions = tuple[tuple[Fraction, ...], ...]

NOTHING = Fraction(1, 10**12)
"""Share of a column's largest number below which a rounded number counts as zero."""


@dataclass(frozen=True)
class RowOperation:
    """``how``, ``target``, ``source`` and ``factor`` as in ``ridge.core.results.steps.Operation``; ``rows`` after it."""

    how: Literal["swap", "scale", "subtract"]
    target: int
    source: int
    factor: Fraction
    rows: RowsOfFractions


@dataclass(frozen=True)
class Reduction:
    """``rows``: where it ends; ``pivots``: the column of the leading one of each row that is not zero."""

    operations: tuple[RowOperation, ...]
    rows: RowsOfFractions
    pivots: tuple[int, ...]


def reduce_rows(
    rows: Sequence[Sequence[Fraction]], columns: int, *, rational: bool = True, upwards: bool = True
) -> Reduction:
    """The reduced row echelon form over the first ``columns`` columns; with ``upwards`` False only the echelon form, its
    pivots as they come. ``rational`` False: numbers are rounded, and a difference that rounding leaves counts as zero."""
    matrix = [list(row) for row in rows]
    sizes = [max((abs(row[place]) for row in matrix), default=Fraction(0)) for place in range(columns)]
    operations: list[RowOperation] = []
    pivots: list[int] = []

    def done(how: Literal["swap", "scale", "subtract"], target: int, source: int, factor: Fraction) -> None:
        operations.append(RowOperation(how, target, source, factor, tuple(tuple(row) for row in matrix)))

    for column in range(columns):
        top = len(pivots)
        nothing = Fraction(0) if rational else NOTHING * sizes[column]
        found = next((row for row in range(top, len(matrix)) if abs(matrix[row][column]) > nothing), None)
        if found is None:
            for row in range(top, len(matrix)):
                matrix[row][column] = Fraction(0)
            continue
        if found != top:
            matrix[top], matrix[found] = matrix[found], matrix[top]
            done("swap", top, found, Fraction(1))
        pivot = matrix[top][column]
        if upwards and pivot != 1:
            matrix[top] = [value / pivot for value in matrix[top]]
            done("scale", top, top, 1 / pivot)
        for row in range(0 if upwards else top + 1, len(matrix)):
            factor = matrix[row][column] / matrix[top][column]
            if row != top and factor:
                matrix[row] = [mine - factor * other for mine, other in zip(matrix[row], matrix[top], strict=True)]
                done("subtract", row, top, factor)
        pivots.append(column)
    return Reduction(tuple(operations), tuple(tuple(row) for row in matrix), tuple(pivots))
