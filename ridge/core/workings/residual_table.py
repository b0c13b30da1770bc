"""The table that a student makes by hand: observed, model, residual, its square, and the total."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from ridge.core.errors import UndefinedAt
from ridge.core.formula.tree import Name, Node, multiply, number, power
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.steps import Exact, Origin, Table
from ridge.core.workings.exact_columns import ExactColumn, SideBySide, column_of

_RESIDUAL = Name("residual")
SQUARE = power(_RESIDUAL, number(2))


@dataclass(frozen=True)
class Missed:
    """The table, the sum of squares at its foot, and what it is made of."""

    table: Table
    rss: Exact
    residuals: ExactColumn
    y: ExactColumn
    weights: ExactColumn | None


def residual_table(
    readings: Readings, model: Model, values: Mapping[str, float], fitted: ExactColumn | None = None
) -> Missed:
    """Of the readings in use at these parameters; ``fitted``: the model's values where they are known exactly.

    Raises UndefinedAt where the model has no value.
    """
    used = np.flatnonzero(readings.used)
    rows = tuple(used.tolist())
    if fitted is None:
        curve = model.evaluate(readings.x[used], values)
        wrong = ~np.isfinite(curve)
        if wrong.any():
            raise UndefinedAt(
                tuple(rows[place] for place in np.flatnonzero(wrong)), "The curve has no value there with these numbers",
                "Change a number, or set them aside.",
            )  # fmt: skip
        fitted = column_of(curve, rational=False)
    x, y = column_of(readings.x[used]), column_of(readings.y[used])
    residuals = y - fitted
    weights = column_of(readings.used_weights) if readings.weighted else None
    squares = residuals * residuals
    columns: list[tuple[Node, ExactColumn]] = [
        (Name("x"), x), (Name("y"), y), (Name("fitted"), fitted), (_RESIDUAL, residuals)
    ]  # fmt: skip
    if weights is not None:
        columns.append((Name("w"), weights))
        squares = squares * weights
    columns.append((SQUARE if weights is None else multiply(Name("w"), SQUARE), squares))
    total = squares.total()
    rss: Exact = total if squares.rational else float(total)
    table = Table(
        "residual-table", tuple(heading for heading, _ in columns),
        SideBySide([column for _, column in columns]), rows,
        (*([None] * (len(columns) - 1)), rss), (*([""] * (len(columns) - 1)), "rss"), origins=(Origin("readings", "row"),),
        facts={"signs": _signs(residuals), "weighted": weights is not None},
    )  # fmt: skip
    return Missed(table, rss, residuals, y, weights)


def _signs(residuals: ExactColumn) -> tuple[int, int]:
    """How many readings lie above the curve, and how many below."""
    return sum(top > 0 for top in residuals.tops), sum(top < 0 for top in residuals.tops)


def weighted_mean(column: ExactColumn, weights: ExactColumn | None) -> Fraction:
    return column.total() / len(column) if weights is None else column.dot(weights) / weights.total()
