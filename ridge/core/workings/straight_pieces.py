"""The straight line through the two readings on either side (common practice: linear interpolation)."""

from __future__ import annotations

from bisect import bisect_right

from ridge.core.formula.tree import Name
from ridge.core.results.steps import Origin, Step, Table
from ridge.core.workings.asked import Asked
from ridge.core.workings.ends import nodes_steps
from ridge.core.workings.exact_columns import exactly
from ridge.core.workings.numbers_put_in import worked

_VALUE = "y_0 + (y_1 - y_0)/(x_1 - x_0)*(x - x_0)"


def straight_pieces(asked: Asked) -> list[Step]:
    """The slope of every piece; and the value at ``x`` where one is asked for, beyond the ends by the outermost piece.

    Raises TooFewReadings for fewer than two different x.
    """
    nodes, steps = asked.nodes, nodes_steps(asked)
    if asked.clash:
        return steps
    count, x, y = len(nodes), nodes.xs, nodes.ys
    rows = tuple(
        (x[row], x[row + 1], y[row], y[row + 1], (y[row + 1] - y[row]) / (x[row + 1] - x[row]))
        for row in range(count - 1)
    )
    headings = tuple(Name(name) for name in ("x_0", "x_1", "y_0", "y_1", "piece_slope"))
    here = None if asked.x is None else min(max(bisect_right(x, exactly(asked.x)) - 1, 0), count - 2)
    steps.append(
        Table("pieces", headings, rows, nodes.rows_of[:-1], marked_row=here, origins=(Origin("readings", "row"),))
    )
    if asked.x is not None and here is not None:
        numbers = dict(zip(("x_0", "x_1", "y_0", "y_1"), rows[here][:4], strict=True)) | {"x": exactly(asked.x)}
        steps.append(worked("value-at-x", Name("y"), _VALUE, numbers, origins=(Origin("pieces", here),)))
    return steps
