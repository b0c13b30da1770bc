"""A formula worked out in exact numbers over a column of x; in doubles where it holds roots, logarithms and the like."""

from __future__ import annotations

from fractions import Fraction

import numpy as np

from ridge.core.errors import UndefinedAt
from ridge.core.formula import Program
from ridge.core.formula.tree import Name, Negative, Node, Number, Operation
from ridge.core.readings import Array
from ridge.core.workings.exact_columns import ExactColumn, column_of, exactly

HIGHEST_POWER = 24
MOST_DIVIDED = 300
"""Rows up to which quotients are kept as fractions; their common denominator grows with every row."""


def exact_values(tree: Node, x: ExactColumn, plain_x: Array, rows: tuple[int, ...]) -> ExactColumn:
    """A formula in ``x`` at every x. ``plain_x``: the same as doubles; ``rows``: the readings that they belong to.

    Raises UndefinedAt where it has no value.
    """
    found = _exact(tree, x)
    if found is not None:
        return found
    with np.errstate(all="ignore"):
        values = np.broadcast_to(Program([tree], ("x",))(plain_x)[0], plain_x.shape)
    wrong = ~np.isfinite(values)
    if wrong.any():
        raise UndefinedAt(
            tuple(rows[place] for place in np.flatnonzero(wrong)),
            "The formula has no value",
            "Set these readings aside, or choose another model.",
        )
    return column_of(values, rational=False)


def _exact(tree: Node, x: ExactColumn) -> ExactColumn | None:
    """None where it is no matter of the four operations and whole powers."""
    match tree:
        case Number(value):
            number = exactly(value)
            return ExactColumn((number.numerator,) * len(x), number.denominator)
        case Name("x"):
            return x
        case Negative(part):
            inner = _exact(part, x)
            return None if inner is None else inner.times(Fraction(-1))
        case Operation("^", base, Number(value)) if value.is_integer() and 0 <= value <= HIGHEST_POWER:
            inner = _exact(base, x)
            if inner is None:
                return None
            power = int(value)
            return ExactColumn(tuple(top**power for top in inner.tops), inner.bottom**power, inner.rational)
        case Operation("+" | "-" | "*" | "/" as sign, left, right):
            first, second = _exact(left, x), _exact(right, x)
            if first is None or second is None:
                return None
            return first * turned if sign == "/" and (turned := _inverse(second)) else _joined(sign, first, second)
        case _:
            return None


def _joined(sign: str, first: ExactColumn, second: ExactColumn) -> ExactColumn | None:
    match sign:
        case "+":
            return first + second
        case "-":
            return first - second
        case "*":
            return first * second
    return None


def _inverse(column: ExactColumn) -> ExactColumn | None:
    """1 over each; None where that is too much, or has no value."""
    if 0 in column.tops or len(set(column.tops)) > MOST_DIVIDED:
        return None
    return ExactColumn.of([1 / column.fraction(place) for place in range(len(column))])
