"""Exact fractions to python-flint's and back, and the inverse of a matrix of them."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from flint import fmpq, fmpq_mat


def to_flint(value: Fraction) -> fmpq:
    return fmpq(value.numerator, value.denominator)


def from_flint(value: fmpq) -> Fraction:
    return Fraction(int(value.p), int(value.q))


def inverse_of(rows: Sequence[Sequence[Fraction]]) -> tuple[tuple[Fraction, ...], ...] | None:
    """The inverse of a square matrix; None where it has none."""
    size = len(rows)
    try:
        found = fmpq_mat(size, size, [to_flint(value) for row in rows for value in row]).inv()
    except ZeroDivisionError:
        return None
    return tuple(tuple(from_flint(found[i, j]) for j in range(size)) for i in range(size))


def times_vector(rows: Sequence[Sequence[Fraction]], vector: Sequence[Fraction]) -> tuple[Fraction, ...]:
    return tuple(sum((a * b for a, b in zip(row, vector, strict=True)), Fraction(0)) for row in rows)
