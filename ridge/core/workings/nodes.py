"""The nodes of an interpolation in exact numbers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np

from ridge.core.errors import TooFewReadings
from ridge.core.readings import Readings
from ridge.core.workings.exact_columns import ExactColumn, column_of


@dataclass(frozen=True)
class Nodes:
    """Nodes of an interpolation, ascending, each with the weighted mean of its y. ``rows_of``: the first reading of each, from 0; ``repeated``: the readings of each x that has
    several y."""

    x: ExactColumn
    y: ExactColumn
    rows_of: tuple[int, ...]
    repeated: tuple[tuple[int, ...], ...]

    def __len__(self) -> int:
        return len(self.rows_of)

    @cached_property
    def xs(self) -> list[Fraction]:
        return [self.x.fraction(place) for place in range(len(self))]

    @cached_property
    def ys(self) -> list[Fraction]:
        return [self.y.fraction(place) for place in range(len(self))]


def nodes_of(readings: Readings) -> Nodes:
    """Of the readings in use. Raises TooFewReadings for fewer than two different x."""
    used = np.flatnonzero(readings.used)
    rows = used[np.argsort(readings.x[used], kind="stable")]
    x, firsts, counts = np.unique(readings.x[rows], return_index=True, return_counts=True)
    if len(x) < 2:
        raise TooFewReadings(2, len(x))
    several = [rows[first : first + count].tolist() for first, count in zip(firsts, counts, strict=True) if count > 1]
    y = column_of(readings.y[rows[firsts]])
    if several:
        weights = dict(zip(used.tolist(), readings.used_weights.tolist(), strict=True))
        means = {group[0]: _mean(readings, group, weights) for group in several}
        y = ExactColumn.of(means.get(row, y.fraction(place)) for place, row in enumerate(rows[firsts].tolist()))
    repeated = tuple(tuple(group) for group in several if len(set(readings.y[group].tolist())) > 1)
    return Nodes(column_of(x), y, tuple(rows[firsts].tolist()), repeated)


def _mean(readings: Readings, rows: list[int], weights: Mapping[int, float]) -> Fraction:
    """The weighted mean of y of these rows."""
    shares = ExactColumn.of([weights[row] for row in rows])
    return column_of(readings.y[rows]).dot(shares) / shares.total()
