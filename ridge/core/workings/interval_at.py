"""The confidence interval of the curve and the prediction interval of a new reading at an x (Draper and Smith, section 3.1)."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from math import exp, log

import numpy as np

from ridge.core.errors import OutsideSense
from ridge.core.formula.tree import Name
from ridge.core.predicting.at_x import predict
from ridge.core.results.fit import Fit
from ridge.core.results.steps import Check, Exact, Matrix, Origin, Statement, Step, Values
from ridge.core.workings.asked import Asked
from ridge.core.workings.exact_columns import ExactColumn, exactly, shown
from ridge.core.workings.exact_values import exact_values
from ridge.core.workings.goodness_of_fit import ROUNDING, Inference, inference_of, line_spread, product_with
from ridge.core.workings.numbers_put_in import worked


def interval_at(asked: Asked) -> list[Step]:
    """The value at ``x``, its standard error, and both intervals at ``level``; e to their power where least squares was in logarithms.

    Raises OutsideSense where no x is given.
    """
    if asked.x is None or not np.isfinite(asked.x):
        raise OutsideSense("x", "is needed for this working: a finite number.")
    told = inference_of(asked)
    fit = told.fit
    x: Exact = exactly(asked.x)
    steps: list[Step] = []
    if asked.fit.log_line is not None:
        form = asked.wanted_model.logarithms
        steps.append(Statement("in-logarithms"))
        if form is not None and form.of_x:
            if asked.x <= 0:
                raise OutsideSense("x", "must be positive here: its logarithm is taken.")
            x = log(asked.x)
    row, value = _row_at(told, x, steps)
    # Of a model that is not linear the fit's own factor of the matrix keeps more digits than the matrix.
    h = (
        product_with(told.unit_matrix().rows, row)
        if told.inverse is not None
        else float(fit.curve.unit_variance(float(x)))
    )
    numbers: dict[str, Exact] = {"value": value, "h": h}
    steps += [
        told.unit_matrix(),
        Values("leverage-at-x", (Name("h"),), (h,), origins=(Origin("row-at-x"), Origin("inverse"))),
    ]
    deviation, critical = fit.reading_deviation, fit.critical_value(asked.level)
    if fit.least_squares_in == "given" or deviation is None or critical is None:
        return [*steps, Statement("nothing-fitted" if fit.least_squares_in == "given" else "no-freedom")]
    numbers |= {"s": deviation, "critical": critical}
    facts = {
        "level": asked.level, "nu": fit.statistics.degrees_of_freedom, "absolute": fit.readings.absolute_errors, "critical": critical
    }  # fmt: skip
    steps.append(worked("standard-error-at-x", Name("se_value"), "s*sqrt(h)", numbers))
    steps += _textbook(told, x, numbers)
    steps.append(Statement("critical-value", facts=facts))
    steps += _limits("mean", "critical*s*sqrt(h)", numbers, facts)
    if fit.readings.error_share is not None:
        numbers["share"] = float(fit.readings.new_reading(float(value))) ** 2
        steps += _limits("new", "critical*s*sqrt(share + h)", numbers, facts)
    else:
        steps += _limits("new", "critical*s*sqrt(1 + h)", numbers, facts)
    return steps + _end(asked, steps)


def _row_at(told: Inference, x: Exact, steps: list[Step]) -> tuple[tuple[Exact, ...], Exact]:
    """What each parameter is multiplied by at x (its derivatives, of a model that is not linear), and the value there."""
    problem, found, fit = told.problem, told.coefficients, told.fit
    if problem is not None and found is not None:
        column = ExactColumn.of([x], isinstance(x, Fraction))
        plain = np.array([float(x)])
        parts = [exact_values(heading, column, plain, (0,)) for heading in problem.headings]
        row = tuple(part[0] for part in parts)
        offset = exact_values(problem.known, column, plain, (0,))
        total = sum((part.fraction(0) * one for part, one in zip(parts, found, strict=True)), offset.fraction(0))
        value = shown(total, problem.rational and isinstance(x, Fraction) and all(part.rational for part in parts))
        headings = problem.headings
    else:
        gradient = fit.model.gradient(np.array([float(x)]), fit.values)[0]
        places = [list(fit.parameters).index(name) for name in told.names]
        row = tuple(float(gradient[place]) for place in places)
        value = float(fit.evaluate(float(x)))
        headings = tuple(Name(f"by_{place}") for place in range(len(row)))
    facts = {"x": x, "names": told.names, "tangent": problem is None}
    steps.append(Matrix("row-at-x", "a", (row,), headings, facts=facts))
    steps.append(Values("value-at-x", (Name("fitted"),), (value,), facts=facts, origins=(Origin("row-at-x"),)))
    return row, value


def _textbook(told: Inference, x: Exact, numbers: dict[str, Exact]) -> list[Step]:
    """Of a line with both parameters free."""
    problem = told.problem
    if problem is None or problem.line is None or not isinstance(x, Fraction):
        return []
    steep = problem.line[0]
    if problem.headings[steep] != Name("x"):
        return []
    values = {**line_spread(problem, steep), **numbers, "x": x}
    formula = "s*sqrt(1/n + (x - mean_x)^2/s_xx)"
    return [worked("standard-error-line", Name("se_value"), formula, values, problem.rational)]


def _limits(what: str, half: str, numbers: dict[str, Exact], facts: Mapping[str, object]) -> list[Step]:
    first = worked(f"{what}-half", Name("half"), half, numbers, facts=facts)
    value, width = float(numbers["value"]), float(first.number)
    ends = (value - width, value + width)
    return [
        first,
        Values(f"{what}-interval", (Name("low"), Name("high")), ends, facts=facts, origins=(Origin(f"{what}-half"),)),
    ]


def _end(asked: Asked, steps: list[Step]) -> list[Step]:
    """Out of logarithms, and that the page has the same."""
    fit: Fit = asked.fit
    found = {step.name: step.value for step in steps}
    limits = [*found["mean-interval"], *found["new-interval"]]
    more: list[Step] = []
    if fit.log_line is not None:
        limits = [exp(one) for one in limits]
        more = [
            Values("mean-interval-back", (Name("low"), Name("high")), tuple(limits[:2]), facts={"level": asked.level}),
            Values("new-interval-back", (Name("low"), Name("high")), tuple(limits[2:]), facts={"level": asked.level}),
        ]
    assert asked.x is not None
    told = predict(fit, asked.x, asked.level)
    right = tuple(float(one) for one in (told.mean_low, told.mean_high, told.low, told.high))
    headings = tuple(Name(name) for name in ("low", "high", "low_new", "high_new"))
    return [*more, Check("fit", headings, tuple(limits), right, ROUNDING)]
