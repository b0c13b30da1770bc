"""A model that is linear in its free parameters as a system of equations, one for each reading, in exact numbers."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property

import numpy as np

from ridge.core.errors import OutsideSense, TooFewReadings, UndefinedAt
from ridge.core.formula import differentiate
from ridge.core.formula.linearity import is_affine
from ridge.core.formula.tree import ZERO, Name, Node, Number, add, call, multiply, names_in, number, substitute
from ridge.core.models import Line, Model
from ridge.core.readings import Readings
from ridge.core.results.steps import parameter
from ridge.core.workings.exact_columns import ExactColumn, column_of, exactly
from ridge.core.workings.exact_matrices import inverse_of
from ridge.core.workings.exact_values import exact_values


@dataclass(frozen=True)
class LinearProblem:
    """**A**·unknowns = right, with a weight for each row where readings weigh differently.

    ``headings``: what each unknown is multiplied by, a tree in ``x``. ``right_heading``: what stands on the right. ``rows_of``: the
    reading of each row, from 0. ``known``: what was brought to the other side. ``in_logarithms``: whether it is the straight line
    behind a fit in logarithms.
    """

    model: Model
    unknowns: tuple[Node, ...]
    headings: tuple[Node, ...]
    columns: tuple[ExactColumn, ...]
    right_heading: Node
    right: ExactColumn
    weights: ExactColumn | None
    rows_of: tuple[int, ...]
    x: ExactColumn
    y: ExactColumn
    x_heading: Node
    y_heading: Node
    known: Node = ZERO
    in_logarithms: bool = False

    @property
    def count(self) -> int:
        """Number of equations."""
        return len(self.rows_of)

    @property
    def rational(self) -> bool:
        return all(column.rational for column in (*self.columns, self.right))

    @cached_property
    def weighted_columns(self) -> tuple[ExactColumn, ...]:
        return self.columns if self.weights is None else tuple(column * self.weights for column in self.columns)

    @cached_property
    def normal(self) -> tuple[tuple[Fraction, ...], ...]:
        """AᵀA, with weights AᵀWA."""
        return tuple(tuple(mine.dot(other) for other in self.columns) for mine in self.weighted_columns)

    @cached_property
    def normal_right(self) -> tuple[Fraction, ...]:
        return tuple(column.dot(self.right) for column in self.weighted_columns)

    @cached_property
    def inverse(self) -> tuple[tuple[Fraction, ...], ...] | None:
        """(AᵀA)⁻¹; None where there is none."""
        return inverse_of(self.normal)

    @property
    def line(self) -> tuple[int, int] | None:
        """The columns of slope and intercept of a straight line with both of them free; None for anything else."""
        flat = [is_constant(heading) for heading in self.headings]
        return (flat.index(False), flat.index(True)) if sorted(flat) == [False, True] else None

    @cached_property
    def augmented_square(self) -> tuple[tuple[Fraction, ...], ...]:
        """[A|y]ᵀ[A|y]: it has the same row space as [A|y], hence the same reduced row echelon form."""
        all_columns = (*self.columns, self.right)
        return tuple(tuple(mine.dot(other) for other in all_columns) for mine in all_columns)


def is_linear(model: Model, least_squares_in: str = "y") -> bool:
    """Whether its free parameters follow from one system of linear equations."""
    if least_squares_in == "logarithms":
        return model.logarithms is not None
    return least_squares_in == "y" and is_affine(model.expression, frozenset(model.free_names))


def headings_of(model: Model) -> tuple[Node, ...]:
    """What each free parameter of a linear model is multiplied by, in the order of its written equation."""
    names, tree = _in_order(model)
    return tuple(substitute(differentiate(tree, name), dict.fromkeys(names, ZERO)) for name in names)


def is_constant(heading: Node) -> bool:
    """Whether a column under this heading is all ones."""
    return isinstance(heading, Number) and heading.value == 1


def _in_order(model: Model) -> tuple[tuple[str, ...], Node]:
    """The free parameters in the order of the written equation, and the equation in ``x`` with the others' numbers."""
    names = tuple(name for name in names_in(model.written_expression) if name in model.free_names)
    known: dict[str, Node] = {name: number(value) for name, value in model.fixed.items()}
    return names, substitute(model.written_expression, {model.variable: Name("x"), **known})


def linear_problem(
    readings: Readings, model: Model, least_squares_in: str = "y", rising: bool = False
) -> LinearProblem:
    """The problem of fitting ``model``. ``rising``: whether terms are written from the lowest power up.

    Raises OutsideSense for a model that is not linear in its parameters, TooFewReadings where there are none, UndefinedAt.
    """
    if not is_linear(model, least_squares_in):
        raise OutsideSense("model", "is not linear in its parameters: no system of linear equations gives them.")
    used = np.flatnonzero(readings.used)
    rows = tuple(used.tolist())
    if not rows:
        raise TooFewReadings(1, 0)
    x, y = column_of(readings.x[used]), column_of(readings.y[used])
    weights = column_of(readings.used_weights) if readings.weighted else None
    form = model.logarithms if least_squares_in == "logarithms" else None
    if form is not None and form.of_y:
        return _in_logarithms(readings, model, rows, weights, rising)
    names, tree = _in_order(model)
    headings = headings_of(model)
    if rising and not model.typed:
        names, headings = names[::-1], headings[::-1]
    plain_x = readings.x[used]
    columns = tuple(exact_values(heading, x, plain_x, rows) for heading in headings)
    known = substitute(tree, dict.fromkeys(names, ZERO))
    right = y
    brought = not (isinstance(known, Number) and known.value == 0)
    if brought:
        right = y - exact_values(known, x, plain_x, rows)
    if not all(column.rational for column in columns):
        right = replace(right, rational=False)  # beside rounded numbers, fractions would say too much
    return LinearProblem(
        model, tuple(parameter(name) for name in names), headings, columns, Name("y_left") if brought else Name("y"), right,
        weights, rows, x, y, Name("x"), Name("y"), known,
    )  # fmt: skip


def _in_logarithms(
    readings: Readings, model: Model, rows: tuple[int, ...], weights: ExactColumn | None, rising: bool
) -> LinearProblem:
    """ln y on a straight line in x or ln x."""
    form = model.logarithms
    assert form is not None
    used = list(rows)
    x, y = readings.x[used], readings.y[used]
    wrong = (y <= 0) | (form.of_x & (x <= 0))
    if wrong.any():
        raise UndefinedAt(
            tuple(rows[place] for place in np.flatnonzero(wrong)),
            f"Logarithms need positive y{' and x' if form.of_x else ''}",
            "Set these readings aside.",
        )
    if readings.y_error is not None:
        relative = Readings(
            np.where(readings.used, readings.x, np.nan), readings.y, y_error=np.abs(readings.y_error / readings.y),
            weight=readings.weight, count=readings.count, included=readings.included,
        )  # fmt: skip
        weights = column_of(relative.used_weights)
    x_column = column_of(np.log(x), rational=False) if form.of_x else column_of(x)
    y_column = column_of(np.log(y), rational=False)
    x_heading = call("ln", Name("x")) if form.of_x else Name("x")
    y_heading = call("ln", Name("y"))
    terms: list[tuple[str, Node, Node, ExactColumn]] = [
        (form.slope, parameter(form.slope), x_heading, x_column),
        (form.factor, call("ln", parameter(form.factor)), number(1), ExactColumn.ones(len(rows))),
    ]
    if rising:
        terms.reverse()
    right = y_column
    known: Node = ZERO
    for name, _, heading, column in terms:
        if name in model.fixed:
            value = model.fixed[name] if name == form.slope else float(np.log(model.fixed[name]))
            right = right - column.times(exactly(value))
            known = add(known, multiply(number(value), heading))
    free = [term for term in terms if term[0] not in model.fixed]
    return LinearProblem(
        Line(), tuple(term[1] for term in free), tuple(term[2] for term in free), tuple(term[3] for term in free),
        y_heading if right is y_column else Name("y_left"), right, weights, rows, x_column, y_column, x_heading, y_heading,
        known, True,
    )  # fmt: skip
