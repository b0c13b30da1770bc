"""How well a fit fits, out of its residual table: R², s, standard errors, intervals, F (e.g. Draper and Smith, chapters 1 and 5)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np

from ridge.core.formula.tree import Name, Node
from ridge.core.results.fit import Fit
from ridge.core.results.steps import (
    Check,
    Exact,
    Matrix,
    Origin,
    Statement,
    Step,
    Table,
    Values,
    parameter,
    parameter_name,
)
from ridge.core.workings.asked import Asked
from ridge.core.workings.exact_columns import ExactColumn, combined, shown
from ridge.core.workings.exact_matrices import times_vector
from ridge.core.workings.linear_problem import LinearProblem, is_linear, linear_problem
from ridge.core.workings.numbers_put_in import worked
from ridge.core.workings.residual_table import Missed, residual_table, weighted_mean

ROUNDING = 1e-8


@dataclass(frozen=True)
class Inference:
    """What standard errors and intervals of a fit rest on: the straight line behind it where least squares was in logarithms."""

    fit: Fit
    asked: Asked

    @cached_property
    def problem(self) -> LinearProblem | None:
        """The system of a model that is linear in its parameters and fitted in y."""
        if not is_linear(self.fit.model, self.fit.least_squares_in):
            return None
        return linear_problem(self.fit.readings, self.fit.model, rising=self.asked.rising)

    @cached_property
    def names(self) -> tuple[str, ...]:
        """Free parameters in the order of the columns."""
        if self.problem is None:
            return self.fit.model.free_names
        return tuple(name for unknown in self.problem.unknowns if (name := parameter_name(unknown)) is not None)

    @property
    def inverse(self) -> tuple[tuple[Fraction, ...], ...] | None:
        """(AᵀA)⁻¹ of a linear model; None for others, and where there is none."""
        return None if self.problem is None else self.problem.inverse

    @cached_property
    def coefficients(self) -> tuple[Fraction, ...] | None:
        if self.inverse is None or self.problem is None:
            return None
        return times_vector(self.inverse, self.problem.normal_right)

    @cached_property
    def missed(self) -> Missed:
        problem, found = self.problem, self.coefficients
        fitted: ExactColumn | None = None
        if problem is not None and found is not None:
            offset = problem.y - problem.right
            fitted = combined(problem.columns, found, problem.count) + offset
        return residual_table(self.fit.readings, self.fit.model, self.fit.values, fitted)

    def unit_matrix(self) -> Matrix:
        """(AᵀA)⁻¹, or (JᵀJ)⁻¹ of a model that is not linear."""
        weighted = self.fit.readings.weighted
        headings: tuple[Node, ...] = tuple(parameter(name) for name in self.names)
        if self.inverse is not None and self.problem is not None:
            symbol = "(A^TWA)^-1" if weighted else "(A^TA)^-1"
            rows = tuple(tuple(shown(value, self.problem.rational) for value in row) for row in self.inverse)
            return Matrix("inverse", symbol, rows, headings, origins=(Origin("readings"),))
        places = [list(self.fit.parameters).index(name) for name in self.names]
        block = self.fit.unit_covariance[np.ix_(places, places)]
        symbol = "(J^TWJ)^-1" if weighted else "(J^TJ)^-1"
        return Matrix("inverse", symbol, tuple(map(tuple, block.tolist())), headings, facts={"tangent": True})


def inference_of(asked: Asked) -> Inference:
    fit = asked.fit
    return Inference(fit.log_line if fit.log_line is not None else fit, asked)


def goodness_of_fit(asked: Asked) -> list[Step]:
    """Residual table, RSS, total sum of squares, R², degrees of freedom, s; standard error, relative error, t and interval of every
    parameter; F. Each as far as the fit has it."""
    told = inference_of(asked)
    fit = told.fit
    steps: list[Step] = []
    if asked.fit.log_line is not None:
        steps.append(Statement("in-logarithms"))
    missed = told.missed
    steps.append(missed.table)
    numbers = _squares(told, missed, steps)
    given = fit.least_squares_in == "given"
    count = fit.statistics.n
    numbers["n"] = Fraction(count)
    numbers["p"] = Fraction(0 if given else len(told.names))
    steps.append(worked("degrees-of-freedom", Name("nu"), "n - p", numbers, facts={"p": int(numbers["p"])}))
    numbers["nu"] = numbers["n"] - numbers["p"]
    if not numbers["nu"]:
        return [*steps, Statement("no-freedom")]
    steps.append(worked("s", Name("s"), "sqrt(rss/nu)", numbers, origins=(Origin("residual-table"),)))
    numbers["s"] = steps[-1].value
    if given:
        return [*steps, Statement("nothing-fitted")]
    if fit.readings.absolute_errors:
        numbers["s"] = float(fit.readings.reference_error)
        steps.append(Statement("absolute-errors", facts={"sigma": numbers["s"]}))
    if float(numbers["s"]) == 0:
        return [*steps, Statement("no-scatter")]
    steps += _standard_errors(asked, told, numbers)
    return steps + _f_test(fit, numbers) + _agreement(fit, numbers)


def _squares(told: Inference, missed: Missed, steps: list[Step]) -> dict[str, Exact]:
    """The residual and the total sum of squares, and R²."""
    numbers: dict[str, Exact] = {"rss": missed.rss}
    mean = weighted_mean(missed.y, missed.weights)
    length = len(missed.y)
    about = missed.y - ExactColumn((mean.numerator,) * length, mean.denominator)
    squares = about * about if missed.weights is None else about * about * missed.weights
    steps.append(
        Values(
            "total-squares",
            (Name("mean_y"), Name("tss")),
            (shown(mean, missed.y.rational), shown(squares.total(), squares.rational)),
            origins=(Origin("readings"),),
            facts={"weighted": missed.weights is not None},
        )
    )
    numbers["tss"] = steps[-1].value[1]
    if numbers["tss"]:
        steps.append(
            worked(
                "r-squared",
                Name("r_squared"),
                "1 - rss/tss",
                numbers,
                origins=(Origin("residual-table"), Origin("total-squares")),
            )
        )
    else:
        steps.append(Statement("no-variation"))
    return numbers


def _standard_errors(asked: Asked, told: Inference, numbers: dict[str, Exact]) -> list[Step]:
    fit = told.fit
    matrix = told.unit_matrix()
    steps: list[Step] = [matrix]
    critical = fit.critical_value(asked.level)
    assert critical is not None  # there are degrees of freedom, or absolute uncertainties
    rows = []
    for place, name in enumerate(told.names):
        diagonal = {"s": numbers["s"], "diagonal": matrix.rows[place][place]}
        left = error_of(parameter(name))
        steps.append(
            worked(
                "standard-error",
                left,
                "s*sqrt(diagonal)",
                diagonal,
                origins=(Origin("inverse", place, place), Origin("s")),
            )
        )
        error = float(steps[-1].value)
        value = fit.parameters[name].value
        if told.coefficients is not None:
            value = float(told.coefficients[place])
        half = critical * error
        rows.append((value, error, abs(error / value) if value else None, value / error, value - half, value + half))
    steps += _textbook(told, numbers)
    headings = tuple(Name(name) for name in ("estimate", "standard_error", "relative_error", "t", "low", "high"))
    facts = {
        "level": asked.level,
        "critical": critical,
        "nu": int(numbers["nu"]),
        "absolute": fit.readings.absolute_errors,
    }
    labels = tuple(parameter(name) for name in told.names)
    origins = (Origin("standard-error"),)
    steps.append(Table("parameters", headings, tuple(rows), labels=labels, facts=facts, origins=origins))
    return steps


def error_of(node: Node) -> Node:
    """The name of its standard error."""
    return Name(f"error of {parameter_name(node) or ''}")


def _textbook(told: Inference, numbers: dict[str, Exact]) -> list[Step]:
    """Of a line with both parameters free: the formulas with Sxx."""
    problem = told.problem
    if problem is None or problem.line is None:
        return []
    steep, flat = problem.line
    spread = line_spread(problem, steep)
    values = {**numbers, **spread}
    rational = problem.rational
    steps: list[Step] = [
        worked("spread-of-x", Name("s_xx"), "sum_xx - sum_x^2/n", spread, rational),
        worked("standard-error-line", error_of(problem.unknowns[steep]), "s/sqrt(s_xx)", values, rational),
        worked(
            "standard-error-line", error_of(problem.unknowns[flat]), "s*sqrt(1/n + mean_x^2/s_xx)", {**values, "n": spread["n"]}, rational
        ),
    ]  # fmt: skip
    return steps


def line_spread(problem: LinearProblem, steep: int) -> dict[str, Exact]:
    """n (the sum of weights where there are any), the mean and the sums of the column of a line, and Sxx; fractions."""
    column = problem.columns[steep]
    weighed = column if problem.weights is None else column * problem.weights
    count = Fraction(problem.count) if problem.weights is None else problem.weights.total()
    total, squares = weighed.total(), weighed.dot(column)
    return {
        "n": count, "sum_x": total, "sum_xx": squares, "mean_x": total / count, "s_xx": squares - total**2 / count,
    }  # fmt: skip


def _f_test(fit: Fit, numbers: dict[str, Exact]) -> list[Step]:
    """F against what the model is compared with; none where it has nothing beyond that."""
    statistics = fit.statistics
    if statistics.f_statistic is None or not statistics.terms:
        return []
    compared: dict[str, Exact] = {
        "rss": numbers["rss"], "nu": numbers["nu"], "k": Fraction(statistics.terms), "s": numbers["s"],
        "tss_null": numbers["tss"] if statistics.compared_with == "constant" else statistics.total_sum_of_squares,
    }  # fmt: skip
    formula = "(tss_null - rss)/(k*s^2)" if fit.readings.absolute_errors else "(tss_null - rss)*nu/(k*rss)"
    facts = {"compared_with": statistics.compared_with, "k": statistics.terms}
    return [worked("f", Name("F"), formula, compared, facts=facts)]


def _agreement(fit: Fit, numbers: dict[str, Exact]) -> list[Step]:
    """That the page has the same s and R²."""
    statistics = fit.statistics
    pairs: list[tuple[str, Exact, float | None]] = [("s", numbers["s"], fit.reading_deviation)]
    if numbers["tss"]:
        pairs.append(("r_squared", 1 - numbers["rss"] / numbers["tss"], statistics.r_squared))
    kept = [(Name(name), mine, theirs) for name, mine, theirs in pairs if theirs is not None]
    headings, left, right = zip(*kept, strict=True)
    return [Check("fit", headings, left, right, ROUNDING)]


def product_with(matrix: Sequence[Sequence[Exact]], row: Sequence[Exact]) -> Exact:
    """row·matrix·rowᵀ."""
    total: Exact = Fraction(0)
    for mine, line in zip(row, matrix, strict=True):
        for other, value in zip(row, line, strict=True):
            total = total + mine * value * other
    return total
