"""Divided differences, and Newton's form of the polynomial through the readings (common practice; e.g. Burden and Faires,
"Numerical Analysis", 9th ed., section 3.3)."""

from __future__ import annotations

from fractions import Fraction

from ridge.core.formula.tree import Name, Node, add, multiply, subtract
from ridge.core.results.steps import Equation, Exact, Origin, Step, Table
from ridge.core.workings.asked import Asked
from ridge.core.workings.ends import nodes_steps
from ridge.core.workings.exact_columns import exactly
from ridge.core.workings.numbers_put_in import worked
from ridge.core.workings.one_polynomial import check_size, in_powers, polynomial_end


def divided_differences(asked: Asked) -> list[Step]:
    """The table, its upper edge as coefficients, Newton's form, the same in powers of x, each point put back in; and the value at
    ``x`` where one is asked for. Raises TooFewReadings, OutsideSense for too many points."""
    nodes, steps = asked.nodes, nodes_steps(asked)
    if asked.clash:
        return steps
    check_size(len(nodes))
    count, x = len(nodes), nodes.xs
    orders: list[list[Fraction | None]] = [list(nodes.ys)]
    for order in range(1, count):
        before = orders[-1]
        column: list[Fraction | None] = [
            (before[row + 1] - before[row]) / (x[row + order] - x[row]) for row in range(count - order)  # type: ignore[operator]
        ]  # fmt: skip
        orders.append(column + [None] * order)
    headings: tuple[Node, ...] = (Name("x"), Name("y"), *(Name(f"order_{order}") for order in range(1, count)))
    rows = tuple((x[row], *(column[row] for column in orders)) for row in range(count))
    steps.append(
        Table("divided-differences", headings, rows, nodes.rows_of, marked_row=0, origins=(Origin("readings", "row"),))
    )
    tops = [column[0] for column in orders]
    given: dict[str, Exact] = {f"f_{order}": value for order, value in enumerate(tops) if value is not None}
    given |= {f"x_{place}": value for place, value in enumerate(x[:-1])}
    tree = _newton(count)
    steps.append(
        Equation("newton-form", Name("y"), tree, given, tidy=True, origins=(Origin("divided-differences", 0),))
    )
    if asked.x is not None:
        numbers = {**given, "x": exactly(asked.x)}
        steps.append(worked("value-at-x", Name("y"), tree, numbers, numbers_only=True))
    return steps + polynomial_end(asked, in_powers([value for value in tops if value is not None], x))


def _newton(count: int) -> Node:
    """f_0 + f_1·(x − x_0) + f_2·(x − x_0)·(x − x_1) + …"""
    tree: Node = Name("f_0")
    for order in range(1, count):
        term: Node = Name(f"f_{order}")
        for place in range(order):
            term = multiply(term, subtract(Name("x"), Name(f"x_{place}")))
        tree = add(tree, term)
    return tree
