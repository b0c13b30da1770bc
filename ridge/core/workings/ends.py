"""How workings of a fit begin and end: what is taken, and the equation with its check against the fit itself."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from math import exp

from ridge.core.formula.tree import Call, Name, Node, add, call, multiply, subtract
from ridge.core.results.steps import (
    Check,
    Equation,
    Exact,
    ModelEquation,
    Origin,
    Statement,
    Step,
    parameter,
    parameter_name,
)
from ridge.core.workings.asked import Asked
from ridge.core.workings.exact_columns import exactly, shown
from ridge.core.workings.linear_problem import LinearProblem, is_constant

ROUNDING = 1e-9
"""Relative difference between a working and the fit beyond which they disagree; the fit's own rounding is far below."""


def opening_steps(asked: Asked, problem: LinearProblem) -> list[Step]:
    """Which readings take part, with what weights, the form, and what is brought to the other side."""
    readings = asked.readings
    facts = {"used": problem.count, "rows": len(readings), "counts": (readings.count is not None and readings.n) or 0}
    steps: list[Step] = [Statement("readings", facts=facts)]
    if problem.weights is not None:
        steps.append(Statement("weights", facts={"from_errors": readings.y_error is not None}))
    steps.append(ModelEquation("general-form", asked.wanted_model))
    if problem.in_logarithms:
        steps.append(Equation("straightened", problem.y_heading, _sum_of(problem), facts={"logarithms": True}))
    if problem.right_heading == Name("y_left"):
        steps.append(Equation("known-part", Name("y_left"), subtract(problem.y_heading, problem.known)))
    return steps


def nodes_steps(asked: Asked, opening: str = "nodes") -> list[Step]:
    """The nodes of an interpolation, and which readings share an x."""
    nodes = asked.nodes
    steps: list[Step] = [Statement(opening, facts={"count": len(nodes), "degree": len(nodes) - 1})]
    if nodes.repeated:
        steps.append(Statement("no-curve" if asked.clash else "averaged", facts={"groups": nodes.repeated}))
    return steps


def _sum_of(problem: LinearProblem) -> Node:
    """Unknowns times what stands over their columns."""
    tree = problem.known
    for unknown, heading in zip(problem.unknowns, problem.headings, strict=True):
        tree = add(tree, unknown if is_constant(heading) else multiply(unknown, heading))
    return tree


def closing_steps(asked: Asked, problem: LinearProblem, found: Sequence[Fraction]) -> list[Step]:
    """The equation with its numbers, and that the fit has the same ones."""
    model, fit = asked.wanted_model, asked.fit
    steps: list[Step] = []
    values: dict[str, Exact] = {name: exactly(value) for name, value in model.fixed.items()}
    for unknown, value in zip(problem.unknowns, found, strict=True):
        match unknown:
            case Call("ln", (inside,)):
                name = parameter_name(inside)
                assert name is not None
                values[name] = exp(value)
                given = {"exponent": float(value)}
                steps.append(
                    Equation("back", inside, call("exp", Name("exponent")), given, values[name], numbers_only=True)
                )
            case _:
                name = parameter_name(unknown)
                assert name is not None
                values[name] = shown(value, problem.rational)
    ordered = {name: values[name] for name in model.parameter_names}
    steps.append(ModelEquation("equation", model, ordered, origins=(Origin("coefficients"),)))
    free = [name for name in model.parameter_names if name not in model.fixed]
    steps.append(
        Check(
            "fit",
            tuple(parameter(name) for name in free),
            tuple(ordered[name] for name in free),
            tuple(fit.parameters[name].value for name in free),
            ROUNDING,
        )
    )
    return steps
