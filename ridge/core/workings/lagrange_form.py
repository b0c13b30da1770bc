"""Lagrange's form of the polynomial through the readings (common practice; e.g. Burden and Faires, section 3.1)."""

from __future__ import annotations

from fractions import Fraction
from math import prod

from ridge.core.formula.tree import Name, Node, add, multiply, subtract
from ridge.core.results.steps import Equation, Exact, Origin, Step, Table
from ridge.core.workings.asked import Asked
from ridge.core.workings.ends import nodes_steps
from ridge.core.workings.exact_columns import exactly
from ridge.core.workings.numbers_put_in import worked
from ridge.core.workings.one_polynomial import check_size, in_powers, polynomial_end


def lagrange_form(asked: Asked) -> list[Step]:
    """Of each node the product of its distances to the others and y over it, the sum of the terms, the same in powers of x, each
    point put back in; and the value at ``x`` where one is asked for. Raises TooFewReadings, OutsideSense for too many points."""
    nodes, steps = asked.nodes, nodes_steps(asked)
    if asked.clash:
        return steps
    check_size(len(nodes))
    count, x, y = len(nodes), nodes.xs, nodes.ys
    products = [
        prod((x[row] - other for place, other in enumerate(x) if place != row), start=Fraction(1))
        for row in range(count)
    ]
    weights = [value / product for value, product in zip(y, products, strict=True)]
    steps.append(
        Table(
            "lagrange-weights",
            (Name("x"), Name("y"), Name("distance_product"), Name("lagrange_weight")),
            tuple(zip(x, y, products, weights, strict=True)),
            nodes.rows_of,
            origins=(Origin("readings", "row"),),
        )
    )
    given: dict[str, Exact] = {f"a_{row}": value for row, value in enumerate(weights)}
    given |= {f"x_{row}": value for row, value in enumerate(x)}
    tree = _lagrange(count)
    steps.append(
        Equation("lagrange-form", Name("y"), tree, given, tidy=True, origins=(Origin("lagrange-weights", None, 3),))
    )
    if asked.x is not None:
        steps.append(worked("value-at-x", Name("y"), tree, {**given, "x": exactly(asked.x)}, numbers_only=True))
    coefficients = [Fraction(0)] * count
    for row in range(count):
        others = [other for place, other in enumerate(x) if place != row]
        term = in_powers([*([Fraction(0)] * (count - 1)), weights[row]], others)
        coefficients = [mine + more for mine, more in zip(coefficients, term, strict=True)]
    return steps + polynomial_end(asked, coefficients)


def _lagrange(count: int) -> Node:
    """Σ a_i·Π (x − x_j), j ≠ i."""
    total: Node | None = None
    for row in range(count):
        term: Node = Name(f"a_{row}")
        for place in range(count):
            if place != row:
                term = multiply(term, subtract(Name("x"), Name(f"x_{place}")))
        total = term if total is None else add(total, term)
    assert total is not None
    return total
