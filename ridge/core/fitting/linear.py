"""Weighted linear least squares in extended precision.

Orthogonalisation by modified Gram–Schmidt, done twice for every column (Björck, "Numerical Methods for
Least Squares Problems", SIAM 1996, chapter 2.4; "twice is enough", Giraud et al. 2005). The condition
number is never squared, and the sums are carried in the machine's extended type.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.models.base import Extended
from ridge.core.readings import Array


@dataclass(frozen=True)
class LinearSolution:
    """Result of one solve with n rows and p columns, all in the units handed in."""

    coefficients: Extended  # (p,)
    inverse_factor: Extended  # (p, p), R⁻¹; R⁻¹R⁻ᵀ is the covariance for unit variance
    projections: Extended  # (p,), the target along each orthonormal column
    leverage: Array  # (n,)
    weighted_residuals: Extended  # (n,), root weight times residual


class DependentColumn(Exception):
    """Column ``index`` of the design is a combination of the columns before it."""

    def __init__(self, index: int) -> None:
        self.index = index
        super().__init__(index)


def solve(design: Extended, target: Extended, root_weights: Extended) -> LinearSolution:
    """Least-squares coefficients of ``target`` on ``design``.

    design (n, p), target (n,), root_weights (n,): square roots of the weights. n ≥ p.
    Raises DependentColumn when a column adds nothing to those before it.
    """
    n, p = design.shape
    basis = np.empty((p, n), dtype=np.longdouble)
    factor = np.zeros((p, p), dtype=np.longdouble)
    rest = target * root_weights
    projections = np.zeros(p, dtype=np.longdouble)
    tolerance = 4 * n * np.finfo(np.float64).eps
    for j in range(p):
        column = design[:, j] * root_weights
        length = np.sqrt(np.dot(column, column))
        for _ in range(2):
            for i in range(j):
                share = np.dot(basis[i], column)
                factor[i, j] += share
                column = column - share * basis[i]
        left = np.sqrt(np.dot(column, column))
        if not left > tolerance * length:
            raise DependentColumn(j)
        factor[j, j] = left
        basis[j] = column / left
    for _ in range(2):
        for j in range(p):
            share = np.dot(basis[j], rest)
            projections[j] += share
            rest = rest - share * basis[j]

    inverse = np.zeros_like(factor)
    for j in range(p):
        inverse[j, j] = 1 / factor[j, j]
        for i in range(j - 1, -1, -1):
            inverse[i, j] = -np.dot(factor[i, i + 1 : j + 1], inverse[i + 1 : j + 1, j]) / factor[i, i]
    leverage = np.einsum("pn,pn->n", basis, basis).astype(np.float64)
    return LinearSolution(inverse @ projections, inverse, projections, leverage, rest)
