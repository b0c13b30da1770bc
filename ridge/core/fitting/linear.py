"""Weighted linear least squares in extended precision.

Orthogonalisation by Gram–Schmidt, repeated where a column cancels (Björck, "Numerical Methods for Least Squares
Problems", SIAM 1996, chapter 2.4; "twice is enough", Giraud et al., Numerische Mathematik 101, 2005). The condition
number is never squared, and the sums are carried in the machine's extended type.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np
from scipy.linalg.lapack import dgeqrf, dorgqr, dtrtri

from ridge.core.models.base import Extended, ExtendedNumber
from ridge.core.readings import Array

EPSILON = float(np.finfo(np.float64).eps)
FAR = 1e100
"""Columns longer than this, or shorter than its inverse, leave the doubles when they are squared."""
WELL_TOLD = 1e3
"""Condition number of columns of length one up to which a factor in doubles keeps thirteen digits."""


@dataclass(frozen=True)
class LinearSolution:
    """Result of one solve with n rows and p columns, all in the units handed in."""

    coefficients: Extended  # (p,)
    inverse_factor: Extended  # (p, p), R⁻¹; R⁻¹R⁻ᵀ is the covariance for unit variance
    projections: Extended  # (p,), the target along each orthonormal column
    lengths: Extended  # (p,), of the columns, weighted
    leverage: Array  # (n,)
    weighted_residuals: Extended  # (n,), root weight times residual


class DependentColumn(Exception):
    """Column ``index`` of the design is a combination of the columns before it."""

    def __init__(self, index: int) -> None:
        self.index = index
        super().__init__(index)


def solve(basis: Extended, target: Extended, root_weights: Extended | None) -> LinearSolution:
    """Least-squares coefficients of ``target`` on the columns of a design.

    basis (p, n): the columns, one a row, so that each lies together in memory; target (n,); root_weights (n,): square
    roots of the weights, None where all are one. n ≥ p. ``basis`` and ``target`` are used up: their memory holds the result.
    Raises DependentColumn when a column adds nothing to those before it.
    """
    p, n = basis.shape
    inverse = np.zeros((p, p), dtype=np.longdouble)
    lengths = np.zeros(p, dtype=np.longdouble)
    tolerance = 4 * n * EPSILON
    if root_weights is not None:
        basis *= root_weights
        target *= root_weights
    for j, column in enumerate(basis):
        lengths[j] = length = np.sqrt(np.dot(column, column))
        shares, left = _make_orthogonal(column, basis[:j], length)
        if not left > tolerance * length:
            raise DependentColumn(j)
        column /= left
        inverse[j, j] = 1 / left
        if j:
            inverse[:j, j] = (inverse[:j, :j] @ shares) / -left
    projections, _ = _make_orthogonal(target, basis, np.sqrt(np.dot(target, target)))
    directions = basis.astype(np.float64)
    leverage = np.einsum("pn,pn->n", directions, directions)
    return LinearSolution(inverse @ projections, inverse, projections, lengths, leverage, target)


def solve_in_doubles(basis: Array, target: Extended, root_weights: Extended | None) -> LinearSolution | None:
    """The same by Householder's transformations in doubles; None where the columns are too much alike for that.

    For a ``target`` that is nearly orthogonal to the columns already, as in the last step of a nonlinear fit: what is
    rounded here is a share of its small projections, so that only the factor itself has the digits of a double.
    """
    p, n = basis.shape
    if not 0 < p <= n:
        return None
    if root_weights is not None:
        basis *= root_weights.astype(np.float64)
        target *= root_weights
    factored, scales, _, _ = dgeqrf(basis.T, overwrite_a=1)
    triangle = factored[:p].copy()
    for i in range(1, p):
        triangle[i, :i] = 0.0  # where the factorisation keeps its own notes
    lengths = np.sqrt((triangle * triangle).sum(axis=0))
    inverse, info = dtrtri(triangle)
    scaled = inverse * lengths[:, None]
    alike = sqrt(p * np.vdot(scaled, scaled))
    if info or not alike < WELL_TOLD or not all(1 / FAR < length < FAR for length in lengths.tolist()):
        return None
    directions = dorgqr(factored, scales, overwrite_a=1)[0]
    projections = target.astype(np.float64) @ directions
    target -= directions @ projections
    leverage = np.einsum("np,np->n", directions, directions)
    return LinearSolution(inverse @ projections, inverse, projections, lengths, leverage, target)


def _make_orthogonal(vector: Extended, basis: Extended, length: ExtendedNumber) -> tuple[Extended, ExtendedNumber]:
    """Take the directions of ``basis`` out of ``vector``, in place; returns its shares along them and what length is left.

    Where little is left the first pass has cancelled, and a second one cleans up after it.
    """
    if not len(basis):
        return np.zeros(0, dtype=np.longdouble), length
    total = np.zeros(len(basis), dtype=np.longdouble)
    left = length
    for _ in range(2):
        before = left
        shares = basis @ vector
        vector -= shares @ basis
        total += shares
        left = np.sqrt(np.dot(vector, vector))
        if left > 0.7 * before:
            break
    return total, left
