"""One trial of a separable model: its best linear parameters, and how the sum of squares bends there.

With few readings nearly all time goes into calls, so the readings are touched by one program and one factorisation, and
what is left, a handful of numbers, is worked on as plain floats.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, isfinite
from typing import Any, Protocol

import numpy as np
from scipy.linalg.lapack import dgeqrf

from ridge.core.fitting.descend import Data
from ridge.core.fitting.separable import NEGLIGIBLE
from ridge.core.readings import Array

Row = list[float]


@dataclass(frozen=True)
class Minimum:
    """Nonlinear parameters (k,), linear ones (m,), and the sum of squares there. ``settled``: whether the way there came to its end."""

    theta: Array
    coefficients: Array
    rss: float
    settled: bool = True


class Split(Protocol):
    """A model split as in ``Separable``, with what a descent from one trial asks of it."""

    @property
    def parts(self) -> list[list[int | None]]: ...

    @property
    def operations(self) -> int: ...

    def split_of_one(self, x: Array, theta: Sequence[float]) -> tuple[Any, list[Any], list[Any]]: ...


class Ground:
    """What every place of one descent stands on: the problem and the readings."""

    def __init__(self, problem: Split, data: Data) -> None:
        self.problem, self.data = problem, data

    def triangle(self, columns: list[Any]) -> list[Row]:
        """R of the columns, each an array (n,) or a number, times the root weights: row by row. Below the diagonal the factorisation keeps its own notes.

        Where there are fewer readings than columns, rows of zeros take their place.
        """
        count, length = len(columns), len(self.data.x)
        held = (np.empty if length >= count else np.zeros)((max(length, count), count), order="F")
        for j, column in enumerate(columns):
            held[:length, j] = column
        if self.data.root is not None:
            held[:length] *= self.data.root[:, None]
        found = dgeqrf(held, overwrite_a=1)[0][:count]
        return found.tolist()  # type: ignore[no-any-return]


class Place:
    """The best linear parameters at given nonlinear ones. ``rss`` is infinite where the model has no value."""

    def __init__(self, ground: Ground, theta: Row) -> None:
        self.theta, self._ground = theta, ground
        offset, columns, derivatives = ground.problem.split_of_one(ground.data.x, theta)
        wanted = ground.data.y if offset is None else ground.data.y - offset
        told = list(range(len(columns)))
        rows = ground.triangle([*columns, *derivatives, wanted])
        while (extra := _adds_nothing(rows, len(told))) is not None:
            del told[extra]
            rows = ground.triangle([*(columns[j] for j in told), *derivatives, wanted])
        self.coefficients = [0.0] * len(columns)
        self._count = count = len(told)
        for i in range(count - 1, -1, -1):
            row = rows[i]
            known = row[-1]
            for j in range(i + 1, count):
                known -= row[j] * self.coefficients[told[j]]
            self.coefficients[told[i]] = known / row[i]
        self._residuals = residuals = rows[count:]
        rss = 0.0
        for row in residuals:
            rss += row[-1] * row[-1]
        self.rss = rss if isfinite(rss + sum(self.coefficients)) else inf

    def minimum(self, settled: bool) -> Minimum:
        return Minimum(np.array(self.theta), np.array(self.coefficients), self.rss, settled)

    def slopes(self) -> tuple[list[Row], Row]:
        """Derivatives by each nonlinear parameter and the residuals, the linear parameters taken out, in turned coordinates."""
        slopes: list[Row] = []
        place = self._count
        for parts in self._ground.problem.parts:
            slope = [0.0] * len(self._residuals)
            for j in parts:
                factor = 1.0 if j is None else self.coefficients[j]
                for i in range(place - self._count + 1):
                    slope[i] += factor * self._residuals[i][place]
                place += 1
            slopes.append(slope)
        return slopes, [row[-1] for row in self._residuals]


def _adds_nothing(rows: list[Row], count: int) -> int | None:
    """The first of so many columns that is a combination of those before it."""
    for i in range(count):
        left = abs(rows[i][i])
        length = left
        for row in rows[:i]:
            length += abs(row[i])
        if left <= NEGLIGIBLE * length:
            return i
    return None
