"""A model split into the parameters that enter linearly and the rest (Golub and Pereyra, SIAM J. Numer. Anal. 10, 1973).

With the rest given, the linear ones follow from one least-squares solve, so that only the rest is searched. All
trials are computed side by side: shapes of parameters are (trials, number), of curves (trials, readings).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ridge.core.formula import Program, differentiate
from ridge.core.formula.tree import ZERO, Name, Node, contains, number, substitute
from ridge.core.readings import Array

NEGLIGIBLE = 1e-11
"""A column whose new direction is shorter than this share of its length adds nothing that doubles could tell."""


@dataclass(frozen=True)
class Projection:
    """The best linear parameters of each trial, shape (trials, m); what is left, (trials, n); and its squared length.

    ``directions``: orthonormal columns, each (trials, n), or (n,) where it is the same for all. The squared length is
    infinite where a trial has no value.
    """

    coefficients: Array
    residuals: Array
    rss: Array
    directions: list[Array]


class Separable:
    """``tree`` as offset + Σ coefficient·column, with exact derivatives by the nonlinear parameters.

    Parameters
    ----------
    tree, variable : the formula and its independent variable
    linear, nonlinear : names, together all free parameters
    fixed : values of all other names
    """

    def __init__(
        self, tree: Node, variable: str, linear: Sequence[str], nonlinear: Sequence[str], fixed: Mapping[str, float]
    ) -> None:
        self.linear, self.nonlinear = tuple(linear), tuple(nonlinear)
        self._parts_of_sum: dict[tuple[int, ...], Separable] = {}
        tree = substitute(tree, {name: number(value) for name, value in fixed.items()})
        self._tree, self._variable = tree, variable
        offset = substitute(tree, dict.fromkeys(linear, ZERO))
        columns = [differentiate(tree, name) for name in linear]
        self._values = Program([offset, *columns], (variable, *self.nonlinear))
        self._still = {j for j, column in enumerate(columns) if not contains(column, set(nonlinear))}
        self._order = sorted(range(len(columns)), key=lambda j: j not in self._still)
        slopes = [differentiate(tree, name) for name in nonlinear]
        self._slopes = Program(slopes, (variable, *self.nonlinear, *self.linear))
        self.has_offset = offset != ZERO
        by_shape = [[differentiate(part, name) for part in (offset, *columns)] for name in nonlinear]
        self.parts = [[j - 1 if j else None for j, part in enumerate(row) if part != ZERO] for row in by_shape]
        """For each nonlinear parameter the columns that move with it: their numbers, None for the offset."""
        moving = [part for row in by_shape for part in row if part != ZERO]
        self._split = Program([offset, *columns, *moving], (variable, *self.nonlinear))
        width = len(columns) + len(self.nonlinear) + 1
        self.operations = self._split.operations + self._slopes.operations + 2 * width * width
        """How many operations on the readings one trial costs, its slopes included."""

    def form_of(self, places: Sequence[int]) -> Node:
        """The term of the nonlinear parameters in these places with their names taken off: equal for terms of one kind."""
        (column,) = {self.parts[i][0] for i in places}
        assert column is not None
        blank = {self.nonlinear[i]: Name(f"_{place}") for place, i in enumerate(places)}
        return substitute(differentiate(self._tree, self.linear[column]), blank)

    def only(self, places: Sequence[int]) -> Separable:
        """The same without the terms of all nonlinear parameters but those in the given places, each of one term alone."""
        key = tuple(places)
        if key not in self._parts_of_sum:
            moved = {j for i, (j,) in enumerate(self.parts) if i not in places}
            gone = {self.linear[j]: ZERO for j in moved if j is not None}
            linear = [name for name in self.linear if name not in gone]
            nonlinear = [self.nonlinear[i] for i in places]
            self._parts_of_sum[key] = Separable(substitute(self._tree, gone), self._variable, linear, nonlinear, {})
        return self._parts_of_sum[key]

    def split_of_one(self, x: Array, theta: Sequence[float]) -> tuple[Any, list[Any], list[Any]]:
        """Offset, None where there is none; columns; and their derivatives by the nonlinear parameters, as in ``parts``.

        For one trial (k,). Each is an array (n,) or a number.
        """
        offset, *found = self._split(x, *theta)
        count = len(self.linear)
        return (offset if self.has_offset else None), found[:count], found[count:]

    def slopes(self, x: Array, thetas: Array, coefficients: Array) -> Array:
        """Derivatives by the nonlinear parameters, (k, trials, n)."""
        inputs = [thetas[:, i : i + 1] for i in range(len(self.nonlinear))]
        inputs += [coefficients[:, i : i + 1] for i in range(len(self.linear))]
        found = self._slopes(x, *inputs)
        held = np.empty((len(found), len(thetas), len(x)))
        for place, column in zip(held, found, strict=True):
            place[:] = column
        return held

    def project(self, x: Array, y: Array, root: Array | None, thetas: Array) -> Projection:
        """Solve for the linear parameters of every trial. ``root``: square roots of the weights, None for ones.

        Columns that are the same in every trial come first: they are worked on once.
        """
        size = (len(thetas), len(x))
        offset, *columns = self._values(x, *(thetas[:, i : i + 1] for i in range(len(self.nonlinear))))
        residuals = y - offset if self.has_offset else y
        if root is not None:
            residuals = residuals * root
        directions: list[Array] = []
        factors: list[list[Any]] = []  # of each column along the directions before it
        inverses: list[Any] = []  # of what length is left of it, 0 where it adds nothing
        shares: list[Any] = []
        for j in self._order:
            column = np.empty(size[1:] if j in self._still else size)
            column[:] = columns[j]
            if root is not None:
                column *= root
            along = []
            for direction in directions:
                share = _inner(column, direction)
                along.append(share)
                column -= _spread(share) * direction
            left = _inner(column, column)
            told = left > NEGLIGIBLE**2 * (left + sum(share * share for share in along))
            inverse = np.where(told, 1 / np.sqrt(left), 0.0)
            column *= _spread(inverse)
            share = _inner(column, residuals)
            residuals = residuals - _spread(share) * column
            directions.append(column)
            factors.append(along)
            inverses.append(inverse)
            shares.append(share)
        coefficients = np.zeros((len(thetas), len(columns)))
        for place in range(len(columns) - 1, -1, -1):
            known = shares[place]
            for later in range(place + 1, len(columns)):
                known = known - factors[later][place] * coefficients[:, self._order[later]]
            coefficients[:, self._order[place]] = known * inverses[place]
        residuals = np.broadcast_to(residuals, size) if residuals.ndim == 1 else residuals
        rss = _inner(residuals, residuals)
        # A trial that overflows somewhere has no value, even where the sums happen to be finite.
        rss[~np.isfinite(rss + coefficients.sum(axis=1))] = np.inf
        return Projection(coefficients, residuals, rss, directions)


def _inner(a: Array, b: Array) -> Any:
    """Inner products along the readings of vectors (n,) or (trials, n): a number, or one a trial."""
    return a @ b if b.ndim == 1 else b @ a if a.ndim == 1 else np.einsum("sn,sn->s", a, b)


def _spread(numbers: Any) -> Any:
    """Numbers, one a trial, so that they multiply vectors (trials, n)."""
    return numbers[:, None] if np.ndim(numbers) else numbers
