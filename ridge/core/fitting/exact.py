"""Linear least squares in exact fractions, for the readings whose digits extended precision cannot keep.

The readings are doubles, hence fractions; the normal equations in fractions lose nothing, so squaring the condition
number does no harm here.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from flint import fmpq, fmpq_mat

from ridge.core.models.base import Extended
from ridge.core.readings import Array

MOST = 3000
"""Readings times parameters up to which fractions are quick."""


@dataclass(frozen=True)
class ExactSolution:
    """Coefficients (p,), covariance for unit variance (p, p), each rounded once."""

    coefficients: Array
    unit_covariance: Array


def solve_exactly(t: Extended, powers: tuple[int, ...], target: Extended, weights: Array) -> ExactSolution | None:
    """Least squares of ``target`` on powers of ``t``; None where the columns are dependent."""
    nodes = [_fraction(value) for value in t]
    wanted = [_fraction(value) for value in target]
    shares = [_fraction(np.longdouble(weight)) for weight in weights]
    highest = 2 * max(powers, default=0)
    moments = [fmpq(0)] * (highest + 1)
    sides = [fmpq(0)] * (highest + 1)
    for node, value, share in zip(nodes, wanted, shares, strict=True):
        power = share
        for k in range(highest + 1):
            moments[k] += power
            sides[k] += power * value
            power *= node
    size = len(powers)
    matrix = fmpq_mat(size, size, [moments[i + j] for i in powers for j in powers])
    try:
        inverse = matrix.inv()
    except ZeroDivisionError:
        return None
    found = inverse * fmpq_mat(size, 1, [sides[i] for i in powers])
    return ExactSolution(
        np.array([_double(found[i, 0]) for i in range(size)]),
        np.array([[_double(inverse[i, j]) for j in range(size)] for i in range(size)]),
    )


def _fraction(value: np.longdouble) -> fmpq:
    top, bottom = value.as_integer_ratio()
    return fmpq(int(top), int(bottom))


def _double(value: fmpq) -> float:
    """The nearest double; infinite where there is none."""
    try:
        return float(Fraction(int(value.p), int(value.q)))
    except OverflowError:
        return np.inf if value > 0 else -np.inf
