"""Slope and intercept of a straight line out of sums (the normal equations of a line, e.g. Draper and Smith, section 1.2)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from ridge.core.errors import OutsideSense
from ridge.core.formula import parse
from ridge.core.formula.tree import Name, Node, multiply, number, power, substitute
from ridge.core.results.steps import Check, Coefficients, Equation, Exact, Origin, Statement, Step, Table, Values
from ridge.core.workings.asked import Asked
from ridge.core.workings.ends import closing_steps, opening_steps
from ridge.core.workings.exact_columns import ExactColumn, SideBySide, shown
from ridge.core.workings.linear_problem import LinearProblem, is_constant
from ridge.core.workings.numbers_put_in import worked

_SLOPE = "(n*sum_xy - sum_x*sum_y)/(n*sum_xx - sum_x^2)"
_FROM_SUMS = Origin("sums")


def line_by_sums(asked: Asked) -> list[Step]:
    """Table, sums, slope and intercept by formula and about the means. For every model that is a straight line in something.

    Raises OutsideSense for another model.
    """
    problem = asked.problem
    steep = [place for place, heading in enumerate(problem.headings) if not is_constant(heading)]
    flat = [place for place, heading in enumerate(problem.headings) if is_constant(heading)]
    if len(steep) > 1 or not problem.headings:
        raise OutsideSense(
            "model", "is not a straight line in one quantity: its parameters do not follow from these sums."
        )
    sums = _sums_of(problem, steep[0] if steep else None)
    steps = [*opening_steps(asked, problem), sums.table, sums.line]
    if steep and flat:
        found = _both(problem, sums, steep[0], flat[0], steps)
    elif steep:
        found = _through_known(problem, sums, steep[0], steps)
    else:
        steps.append(sums.worked("intercept", problem.unknowns[0], "sum_y/n"))
        found = {0: sums.numbers["sum_y"] / sums.numbers["n"]}
    if found is None:
        return steps
    in_order = tuple(found[place] for place in range(len(problem.unknowns)))
    carried = tuple(shown(value, problem.rational) for value in in_order)
    steps.append(Coefficients("coefficients", problem.unknowns, carried))
    return steps + closing_steps(asked, problem, in_order)


@dataclass(frozen=True)
class _Sums:
    """The table, its sums in one line, and the sums by name: n (the sum of the weights where there are any), sum_x, sum_y, sum_xx,
    sum_xy, sum_yy."""

    table: Table
    line: Values
    numbers: Mapping[str, Fraction]
    facts: Mapping[str, Any]
    rational: bool

    def worked(self, name: str, left: Node, formula: str | Node, more: Mapping[str, Exact] | None = None) -> Equation:
        numbers: dict[str, Exact] = {**self.numbers, **(more or {})}
        return worked(name, left, formula, numbers, self.rational, facts=self.facts, origins=(_FROM_SUMS,))


def _sums_of(problem: LinearProblem, steep: int | None) -> _Sums:
    y, y_heading, weights = problem.right, problem.right_heading, problem.weights
    plain = {"sum_y": (y_heading, y)}
    products = {"sum_yy": (power(y_heading, number(2)), y * y)}
    if steep is not None:
        t, heading = problem.columns[steep], problem.headings[steep]
        plain = {"sum_x": (heading, t), **plain}
        products = {
            "sum_xx": (power(heading, number(2)), t * t),
            "sum_xy": (multiply(heading, y_heading), t * y),
            **products,
        }
    summed: dict[str, tuple[Node, ExactColumn]] = {**plain, **products}
    unsummed: list[tuple[Node, ExactColumn]] = []
    count = Fraction(problem.count)
    if weights is not None:
        unsummed = list(plain.values())
        weight = Name("w")
        summed = {name: (multiply(weight, heading), column * weights) for name, (heading, column) in summed.items()}
        summed = {"n": (weight, weights), **summed}
        count = weights.total()
    columns = [*unsummed, *summed.values()]
    numbers = {"n": count} | {name: column.total() for name, (_, column) in summed.items()}
    facts = {
        "of": {name: heading for name, (heading, _) in summed.items()}, "weighted": weights is not None,
        "x_heading": problem.headings[steep] if steep is not None else None, "y_heading": y_heading,
    }  # fmt: skip
    rational = problem.rational
    totals = [None] * len(unsummed) + [shown(column.total(), column.rational) for _, column in summed.values()]
    table = Table(
        "table", tuple(heading for heading, _ in columns), SideBySide([column for _, column in columns]),
        problem.rows_of, tuple(totals), ("",) * len(unsummed) + tuple(summed), facts=facts, origins=(Origin("readings", "row"),),
    )  # fmt: skip
    carried = tuple(shown(value, rational or value.denominator == 1) for value in numbers.values())
    line = Values("sums", tuple(Name(name) for name in numbers), carried, facts=facts, origins=(Origin("table"),))
    return _Sums(table, line, numbers, facts, rational)


def _with(formula: str, slope: Node) -> Node:
    return substitute(parse(formula).tree, {"slope": slope})


def _both(problem: LinearProblem, sums: _Sums, steep: int, flat: int, steps: list[Step]) -> dict[int, Fraction] | None:
    """Slope and intercept, by both routes; None where all x are equal."""
    slope_name, intercept_name = problem.unknowns[steep], problem.unknowns[flat]
    assert isinstance(slope_name, Name)  # only an intercept stands behind a logarithm
    numbers = sums.numbers
    bottom = numbers["n"] * numbers["sum_xx"] - numbers["sum_x"] ** 2
    if not bottom:
        steps.append(sums.worked("divisor", Name("divisor"), "n*sum_xx - sum_x^2"))
        steps.append(Statement("all-x-equal", facts={"rows_of": problem.rows_of}))
        return None
    slope = (numbers["n"] * numbers["sum_xy"] - numbers["sum_x"] * numbers["sum_y"]) / bottom
    steps.append(sums.worked("slope", slope_name, _SLOPE))
    known = {slope_name.name: slope}
    by_sums = sums.worked("intercept", intercept_name, _with("(sum_y - slope*sum_x)/n", slope_name), known)
    steps.append(by_sums)
    means = {"mean_x": numbers["sum_x"] / numbers["n"], "mean_y": numbers["sum_y"] / numbers["n"]}
    steps.append(sums.worked("mean-x", Name("mean_x"), "sum_x/n"))
    steps.append(sums.worked("mean-y", Name("mean_y"), "sum_y/n"))
    spreads = {}
    for name, formula in (
        ("s_xx", "sum_xx - sum_x^2/n"),
        ("s_xy", "sum_xy - sum_x*sum_y/n"),
        ("s_yy", "sum_yy - sum_y^2/n"),
    ):
        steps.append(sums.worked(name.replace("_", "-"), Name(name), formula))
        first, second = (numbers["sum_" + letter] for letter in name[-2:])
        spreads[name] = numbers["sum_" + name[-2:]] - first * second / numbers["n"]
    about = {**spreads, **means, **known}
    again = sums.worked("slope-about-means", slope_name, "s_xy/s_xx", about)
    level = sums.worked("intercept-about-means", intercept_name, _with("mean_y - slope*mean_x", slope_name), about)
    steps += [again, level]
    steps.append(
        Check(
            "both-routes",
            (slope_name, intercept_name),
            (shown(slope, sums.rational), by_sums.number),
            (again.number, level.number),
            0.0 if sums.rational else 1e-9,
        )
    )
    if spreads["s_yy"]:
        steps.append(sums.worked("correlation", Name("r"), "s_xy/sqrt(s_xx*s_yy)", about))
    return {steep: slope, flat: means["mean_y"] - slope * means["mean_x"]}


def _through_known(problem: LinearProblem, sums: _Sums, steep: int, steps: list[Step]) -> dict[int, Fraction] | None:
    """The slope where nothing else is free."""
    if not sums.numbers["sum_xx"]:
        steps.append(Statement("all-x-zero", facts={"rows_of": problem.rows_of}))
        return None
    steps.append(sums.worked("slope", problem.unknowns[steep], "sum_xy/sum_xx"))
    return {steep: sums.numbers["sum_xy"] / sums.numbers["sum_xx"]}
