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
from ridge.core.formula.tree import ZERO, Node, number, substitute
from ridge.core.readings import Array

NEGLIGIBLE = 1e-11
"""A column whose new direction is shorter than this share of its length adds nothing that doubles could tell."""


@dataclass(frozen=True)
class Projection:
    """The best linear parameters of each trial, shape (trials, m); what is left, (trials, n); and its squared length.

    ``directions``: orthonormal columns, (m, trials, n). The squared length is infinite where a trial has no value.
    """

    coefficients: Array
    rest: Array
    rss: Array
    directions: Array


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
        tree = substitute(tree, {name: number(value) for name, value in fixed.items()})
        offset = substitute(tree, dict.fromkeys(linear, ZERO))
        columns = [differentiate(tree, name) for name in linear]
        self._values = Program([offset, *columns], (variable, *self.nonlinear))
        slopes = [differentiate(tree, name) for name in nonlinear]
        self._slopes = Program(slopes, (variable, *self.nonlinear, *self.linear))
        self.has_offset = offset != ZERO

    def columns(self, x: Array, shapes: Array) -> tuple[Array | None, Array]:
        """Offset (trials, n), None where there is none, and columns (m, trials, n)."""
        size = (len(shapes), len(x))
        offset, *columns = self._values(x, *(shapes[:, i : i + 1] for i in range(len(self.nonlinear))))
        held = np.empty((len(columns), *size))
        for place, column in zip(held, columns, strict=True):
            place[:] = column
        return (np.broadcast_to(offset, size) if self.has_offset else None), held

    def columns_of_one(self, x: Array, shape: Array) -> tuple[Any, list[Any]]:
        """Offset, None where there is none, and columns for one trial (k,), each an array (n,) or a number."""
        offset, *columns = self._values(x, *shape)
        return (offset if self.has_offset else None), columns

    def slopes_of_one(self, x: Array, shape: Array, coefficients: Array) -> list[Any]:
        """Derivatives by the nonlinear parameters for one trial, each an array (n,) or a number."""
        return self._slopes(x, *shape, *coefficients)

    def slopes(self, x: Array, shapes: Array, coefficients: Array) -> Array:
        """Derivatives by the nonlinear parameters, (k, trials, n)."""
        inputs = [shapes[:, i : i + 1] for i in range(len(self.nonlinear))]
        inputs += [coefficients[:, i : i + 1] for i in range(len(self.linear))]
        found = self._slopes(x, *inputs)
        held = np.empty((len(found), len(shapes), len(x)))
        for place, column in zip(held, found, strict=True):
            place[:] = column
        return held

    def project(self, x: Array, y: Array, root: Array | None, shapes: Array) -> Projection:
        """Solve for the linear parameters of every trial. ``root``: square roots of the weights, None for ones."""
        offset, basis = self.columns(x, shapes)
        rest = np.empty((len(shapes), len(x)))
        rest[:] = y
        if offset is not None:
            rest -= offset
        if root is not None:
            basis *= root
            rest *= root
        count = len(basis)
        factor = np.zeros((count, count, len(shapes)))
        shares = np.zeros((count, len(shapes)))
        for j in range(count):
            column = basis[j]
            length = np.sqrt(np.einsum("sn,sn->s", column, column))
            for i in range(j):
                share = np.einsum("sn,sn->s", basis[i], column)
                factor[i, j] = share
                column -= share[:, None] * basis[i]
            left = np.sqrt(np.einsum("sn,sn->s", column, column))
            told = left > NEGLIGIBLE * length
            factor[j, j] = np.where(told, left, np.inf)
            column *= np.where(told, 1 / left, 0.0)[:, None]
            share = np.einsum("sn,sn->s", column, rest)
            shares[j] = share
            rest -= share[:, None] * column
        coefficients = np.zeros((len(shapes), count))
        for j in range(count - 1, -1, -1):
            known = shares[j].copy()
            for i in range(j + 1, count):
                known -= factor[j, i] * coefficients[:, i]
            coefficients[:, j] = known / factor[j, j]
        rss = np.einsum("sn,sn->s", rest, rest)
        # A trial that overflows somewhere has no value, even where the sums happen to be finite.
        rss = np.where(np.isfinite(rss) & np.all(np.isfinite(coefficients), axis=1), rss, np.inf)
        return Projection(coefficients, rest, rss, basis)
