"""Weighted linear least squares in extended precision.

Orthogonalisation by modified Gram–Schmidt, repeated where a column cancels (Björck, "Numerical Methods for
Least Squares Problems", SIAM 1996, chapter 2.4; "twice is enough", Giraud et al. 2005). The condition
number is never squared, and the sums are carried in the machine's extended type.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.models.base import Extended, ExtendedNumber
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


def solve(design: Extended, target: Extended, root_weights: Extended | None) -> LinearSolution:
    """Least-squares coefficients of ``target`` on ``design``.

    design (n, p), target (n,), root_weights (n,): square roots of the weights, None where all are one. n ≥ p.
    ``design`` and ``target`` are used up: their memory holds the result.
    Raises DependentColumn when a column adds nothing to those before it.
    """
    n, p = design.shape
    basis = design.T
    factor = np.zeros((p, p), dtype=np.longdouble)
    tolerance = 4 * n * np.finfo(np.float64).eps
    spare = np.empty(n, dtype=np.longdouble)
    for j, column in enumerate(basis):
        if root_weights is not None:
            column *= root_weights
        length = np.sqrt(np.dot(column, column))
        left = _make_orthogonal(column, basis[:j], factor[:j, j], length, spare)
        if not left > tolerance * length:
            raise DependentColumn(j)
        factor[j, j] = left
        column /= left
    rest = target
    if root_weights is not None:
        rest *= root_weights
    projections = np.zeros(p, dtype=np.longdouble)
    _make_orthogonal(rest, basis, projections, np.sqrt(np.dot(rest, rest)), spare)

    inverse = np.zeros_like(factor)
    for j in range(p):
        inverse[j, j] = 1 / factor[j, j]
        for i in range(j - 1, -1, -1):
            inverse[i, j] = -np.dot(factor[i, i + 1 : j + 1], inverse[i + 1 : j + 1, j]) / factor[i, i]
    leverage = np.einsum("pn,pn->n", basis, basis).astype(np.float64)
    return LinearSolution(inverse @ projections, inverse, projections, leverage, rest)


def _make_orthogonal(
    vector: Extended, basis: Extended, shares: Extended, length: ExtendedNumber, spare: Extended
) -> ExtendedNumber:
    """Take the directions of ``basis`` out of ``vector``, in place, adding to ``shares``; returns what length is left.

    Where little is left the first pass has cancelled, and a second one cleans up after it. ``spare``: room for one vector.
    """
    if not len(basis):
        return length
    left = length
    for _ in range(2):
        before = left
        for i, direction in enumerate(basis):
            share = np.dot(direction, vector)
            shares[i] += share
            vector -= np.multiply(direction, share, out=spare)
        left = np.sqrt(np.dot(vector, vector))
        if left > 0.7 * before:
            break
    return left
