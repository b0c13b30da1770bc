"""The x at which the curve takes a wanted y: turned over step by step, by the quadratic formula, or by narrowing down."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from fractions import Fraction
from math import isfinite

import numpy as np

from ridge.core.errors import NoSolution, OutsideSense
from ridge.core.formula import parse
from ridge.core.formula.tree import Name, Node, names_in, number, substitute
from ridge.core.models import Polynomial
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.solution import Solution
from ridge.core.results.fit import Fit
from ridge.core.results.steps import Check, Equation, Exact, ModelEquation, Origin, Statement, Step, Table, parameter
from ridge.core.workings.asked import Asked
from ridge.core.workings.exact_columns import exactly
from ridge.core.workings.goodness_of_fit import inference_of, line_spread
from ridge.core.workings.numbers_put_in import worked
from ridge.core.workings.undoing import NoValue, Undone, occurs_once, undo

ROUNDING = 1e-7
MOST_HALVINGS = 60
BRACKETED = 1e-12
"""Width of a bracket, as a share of the measured range, at which halving ends."""


def solve_for_x(asked: Asked) -> list[Step]:
    """Every solution between the readings and the nearest beyond; then the uncertainty of x as far as it can be shown.

    Raises OutsideSense where no y is given.
    """
    if asked.y is None or not isfinite(asked.y):
        raise OutsideSense("y", "is needed for this working: a finite number.")
    model, fit = asked.wanted_model, asked.fit
    told = inference_of(asked)
    values: dict[str, Exact] = dict(fit.values)
    if told.coefficients is not None and asked.fit.log_line is None:
        values |= dict(zip(told.names, told.coefficients, strict=True))
    values |= {name: exactly(value) for name, value in model.fixed.items()}
    steps: list[Step] = [ModelEquation("equation", model, {name: values[name] for name in model.parameter_names})]
    y = exactly(asked.y)
    letters = {name: parameter(name) for name in model.parameter_names}
    tree = substitute(model.written_expression, {model.variable: Name("x"), **letters})
    steps.append(Equation("set-equal", Name("y_wanted"), tree, {"y_wanted": y}, numbers_only=True, facts={"y": y}))
    found: list[Exact] = []
    try:
        if isinstance(model, Polynomial) and model.degree == 2:
            found = _quadratic(values, y, steps)
        elif occurs_once(tree, "x"):
            found = _turned_over(asked, tree, y, values, steps)
        else:
            found = _narrowed_down(fit, asked.y, steps)
    except TypeError:  # an operation without an inverse here
        found = _narrowed_down(fit, asked.y, steps)
    if not found:
        return steps
    return steps + _uncertainty(asked, found)


def _turned_over(asked: Asked, tree: Node, y: Fraction, values: dict[str, Exact], steps: list[Step]) -> list[Exact]:
    model = asked.wanted_model
    low, high = asked.readings.measured_range
    if model.periodic:
        cycles = model.cycles({name: float(value) for name, value in values.items()}, low, high)
        if cycles and cycles < 1:
            high = low + (high - low) / cycles
    try:
        ways = undo(tree, "x", y, {parameter(name).name: value for name, value in values.items()}, low, high)
    except NoValue as failure:
        steps.append(Statement("no-x", facts={"how": failure.how, "value": failure.value, "left": failure.left}))
        return []
    found: list[Exact] = []
    shown_before: set[tuple[Node, Node, Exact]] = set()
    for way in ways:
        for one in way:
            key = (one.left, one.formula, one.value)
            if key not in shown_before:
                shown_before.add(key)
                steps.append(_undone(one))
        value = way[-1].value if way else y
        if not any(abs(float(value) - float(other)) <= 1e-12 * abs(float(value)) for other in found):
            found.append(value)
    return sorted(found, key=float)


def _undone(one: Undone) -> Equation:
    inside = {name: one.numbers[name] for name in names_in(one.left) if name in one.numbers}
    made = worked("turned", one.left, one.formula, one.numbers, facts={"how": one.how}, numbers_only=True)
    return replace(made, given={**made.given, **inside}, result=one.value)


def _quadratic(values: Mapping[str, Exact], y: Fraction, steps: list[Step]) -> list[Exact]:
    """By the formula with the discriminant."""
    a, b, c = values["c2"], values.get("c1", Fraction(0)), values.get("c0", Fraction(0)) - y
    numbers: dict[str, Exact] = {"a": a, "b": b, "c": c}
    zero = parse("a*x^2 + b*x + c").tree
    steps.append(Equation("brought-to-zero", number(0), zero, numbers, tidy=True, numbers_only=True, facts=numbers))
    if not a:
        steps.append(Statement("no-x", facts={"how": "quadratic", "value": a}))
        return []
    steps.append(worked("discriminant", Name("D"), "b^2 - 4*a*c", numbers))
    numbers["D"] = steps[-1].value
    if numbers["D"] < 0:
        steps.append(Statement("no-x", facts={"how": "discriminant", "value": numbers["D"]}))
        return []
    found: list[Exact] = []
    for name, formula in (("x_1", "(-b + sqrt(D))/(2*a)"), ("x_2", "(-b - sqrt(D))/(2*a)")):
        steps.append(worked("root", Name(name), formula, numbers, origins=(Origin("discriminant"),)))
        if steps[-1].value not in found:
            found.append(steps[-1].value)
    return found


def _narrowed_down(fit: Fit, y: float, steps: list[Step]) -> list[Exact]:
    """Values tried from both sides, the bracket halved each time (bisection, common practice)."""
    try:
        solutions = solve(fit, y)
    except NoSolution:
        steps.append(Statement("no-x", facts={"how": "nowhere", "value": exactly(y)}))
        return []
    found: list[Exact] = []
    low, high = fit.readings.measured_range
    width = (high - low) or 1.0
    for place, solution in enumerate(sorted(solutions[:3], key=lambda one: one.value), 1):
        bracket = _bracket(fit, y, solution, width)
        if bracket is None:
            continue
        rows, value = _halved(fit, y, *bracket, BRACKETED * width)
        headings = tuple(Name(name) for name in ("x_below", "x_above", "x_middle", "y_middle", "difference"))
        steps.append(Table("bisection", headings, rows, facts={"number": place, "of": min(3, len(solutions))}))
        found.append(value)
    return found


def _bracket(fit: Fit, y: float, solution: Solution, width: float) -> tuple[float, float] | None:
    """Two round x, one on either side, between which the curve passes the value once."""
    step = 10.0 ** np.floor(np.log10(width / 4))
    for _ in range(12):
        low = float(np.floor(solution.value / step) * step)
        high = low + step
        ends = fit.evaluate(np.array([low, high])) - y
        if np.isfinite(ends).all() and ends[0] * ends[1] < 0:
            return low, float(round(high, 12)) if abs(high) > 1e-6 else high
        if ends[0] == 0:
            return None
        step /= 10
    return None


def _halved(fit: Fit, y: float, low: float, high: float, enough: float) -> tuple[tuple[tuple[Exact, ...], ...], float]:
    rows = []
    below = float(fit.evaluate(low)) < y
    middle = (low + high) / 2
    for _ in range(MOST_HALVINGS):
        middle = (low + high) / 2
        at = float(fit.evaluate(middle))
        rows.append((exactly(low), exactly(high), exactly(middle), at, at - y))
        if at == y or high - low <= enough:
            break
        if (at < y) == below:
            low = middle
        else:
            high = middle
    return tuple(rows), middle


def _uncertainty(asked: Asked, found: list[Exact]) -> list[Step]:
    """Standard error of each x from the curve's and a reading's, over the slope there; of a line by the textbook's formula."""
    fit = asked.fit
    assert asked.y is not None
    try:
        solutions = solve(fit, asked.y, level=asked.level)
    except NoSolution:
        return [Statement("no-x", facts={"how": "nowhere", "value": exactly(asked.y)})]
    steps: list[Step] = []
    pairs: list[tuple[Exact, Solution]] = []
    for value in found:
        nearest = min(solutions, key=lambda one: abs(one.value - float(value)))
        pairs.append((value, nearest))
    deviation = fit.reading_deviation
    if fit.least_squares_in != "y" or deviation is None:
        steps.append(Statement("no-uncertainty", facts={"given": fit.least_squares_in == "given"}))
    else:
        for value, _ in pairs:
            steps += _standard_error(asked, value, deviation)
    headings = tuple(Name(f"x_{place}") for place in range(1, len(pairs) + 1)) if len(pairs) > 1 else (Name("x"),)
    left = tuple(value for value, _ in pairs)
    return [*steps, Check("fit", headings, left, tuple(solution.value for _, solution in pairs), ROUNDING)]


def _standard_error(asked: Asked, value: Exact, deviation: float) -> list[Step]:
    fit, told = asked.fit, inference_of(asked)
    problem = told.problem
    assert asked.y is not None
    share = float(fit.readings.new_reading(asked.y)) ** 2
    straight = problem is not None and not fit.model.bends and len(told.names) == 2
    if problem is not None and straight:
        steep = told.names.index("slope")
        spread = line_spread(problem, steep)
        slope_name = parameter("slope")
        numbers: dict[str, Exact] = {
            **spread, "s": deviation, slope_name.name: told.coefficients[steep] if told.coefficients else fit.values["slope"],
            "x": value, "one": Fraction(1) if share == 1 else share,
        }  # fmt: skip
        formula = substitute(parse("s/abs(slope)*sqrt(one + 1/n + (x - mean_x)^2/s_xx)").tree, {"slope": slope_name})
        return [worked("standard-error-of-x", Name("se_x"), formula, numbers, facts={"x": value})]
    slope = float(fit.curve.slope(float(value)))
    if not slope:
        return [Statement("level-there", facts={"x": value})]
    h = float(fit.curve.unit_variance(float(value)))
    numbers = {"s": deviation, "h": h, "gradient": slope, "one": Fraction(1) if share == 1 else share}
    return [worked("standard-error-of-x", Name("se_x"), "s*sqrt(one + h)/abs(gradient)", numbers, facts={"x": value})]
