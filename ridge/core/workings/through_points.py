"""The polynomial through n points from its system of equations, by row reduction (common practice)."""

from __future__ import annotations

from ridge.core.formula.tree import Name, Node, number, power
from ridge.core.models import Polynomial
from ridge.core.results.steps import Matrix, ModelEquation, Origin, Step, System, parameter
from ridge.core.workings.asked import Asked
from ridge.core.workings.ends import nodes_steps
from ridge.core.workings.exact_columns import SideBySide
from ridge.core.workings.one_polynomial import check_size, polynomial_end, raised
from ridge.core.workings.solving import solve_by_rows

_FROM_READINGS = (Origin("readings", "row"),)


def through_points(asked: Asked) -> list[Step]:
    """One equation a point, the matrix of powers, its reduction, the polynomial, and each point put back in.

    Raises TooFewReadings for fewer than two points, OutsideSense for too many.
    """
    nodes, steps = asked.nodes, nodes_steps(asked, "points")
    if asked.clash:
        return steps
    check_size(len(nodes))
    powers = list(range(len(nodes)))
    if not asked.rising:
        powers.reverse()
    unknowns: tuple[Node, ...] = tuple(parameter(f"c{one}") for one in powers)
    columns = tuple(raised(nodes.x, one) for one in powers)
    rows = SideBySide(columns)
    steps += [
        ModelEquation("general-form", Polynomial(len(nodes) - 1)),
        System("each-reading", unknowns, rows, nodes.y, nodes.rows_of, origins=_FROM_READINGS),
        Matrix(
            "design-matrix", "A", rows, tuple(power(Name("x"), number(one)) for one in powers), rows_of=nodes.rows_of,
            origins=_FROM_READINGS,
        ),
        Matrix(
            "right-hand-side", "y", SideBySide([nodes.y]), (Name("y"),), rows_of=nodes.rows_of, vector=True,
            origins=_FROM_READINGS,
        ),
    ]  # fmt: skip
    square = [[column.fraction(row) for column in columns] for row in range(len(nodes))]
    solving = solve_by_rows(square, nodes.ys, unknowns, Name("y"), True, (Origin("design-matrix", "row", "column"),))
    assert solving.solution is not None  # powers of different x are independent (Vandermonde)
    rising = [value for _, value in sorted(zip(powers, solving.solution, strict=True))]
    return [*steps, *solving.steps, *polynomial_end(asked, rising)]
