"""What all ways to the one polynomial through the readings have in common: how many they take, and how they end."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from ridge.core.errors import OutsideSense
from ridge.core.formula.tree import Name
from ridge.core.models import Polynomial
from ridge.core.results.steps import Check, ModelEquation, Origin, Step
from ridge.core.workings.asked import Asked
from ridge.core.workings.exact_columns import ExactColumn, combined

MOST_POINTS = 13
"""Points that are joined by one polynomial here: degree 12 at most."""


def check_size(count: int) -> None:
    """Raises OutsideSense for more than ``MOST_POINTS``."""
    if count > MOST_POINTS:
        raise OutsideSense(
            "readings",
            f"{count} points need a polynomial of degree {count - 1}; it is worked out for {MOST_POINTS} points at most. "
            "Set readings aside, or follow a spline.",
        )


def raised(x: ExactColumn, exponent: int) -> ExactColumn:
    """Each number to a whole power."""
    return ExactColumn(tuple(top**exponent for top in x.tops), x.bottom**exponent)


def polynomial_end(asked: Asked, coefficients: Sequence[Fraction]) -> list[Step]:
    """The polynomial with its numbers, from the constant up, and each point put back in."""
    nodes = asked.nodes
    again = combined([raised(nodes.x, power) for power in range(len(coefficients))], coefficients, len(nodes))
    values = {f"c{power}": value for power, value in enumerate(coefficients)}
    return [
        ModelEquation("equation", Polynomial(len(nodes) - 1), values, origins=(Origin("coefficients"),)),
        Check("points-put-in", tuple(Name("y") for _ in again), tuple(again), tuple(nodes.y), at=tuple(nodes.x)),
    ]  # fmt: skip


def in_powers(newton: list[Fraction], x: list[Fraction]) -> list[Fraction]:
    """Coefficients of 1, x, x², … of Newton's form, multiplied out from its last term on."""
    result = [newton[-1]]
    for value, node in zip(reversed(newton[:-1]), reversed(x[: len(newton) - 1]), strict=True):
        longer = [Fraction(0), *result]
        for place, coefficient in enumerate(result):
            longer[place] -= node * coefficient
        longer[0] += value
        result = longer
    return result
