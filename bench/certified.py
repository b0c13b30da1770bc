"""Digits agreed with NIST's certified results, and the time each fit takes."""

from __future__ import annotations

import time
from collections.abc import Iterator
from typing import Any

from ridge.core import Fit, fit
from ridge.core.models import Formula, Line, Model, Polynomial
from tests.reference.strd_problems import digits, problems, readings_of


def _model(problem: dict[str, Any]) -> tuple[Model, list[str]]:
    degree, first = problem.get("degree", 1), 0 if problem["intercept"] else 1
    if degree == 1:
        return (Line(), ["intercept", "slope"]) if problem["intercept"] else (Line(intercept=0.0), ["slope"])
    return Polynomial(degree, range(first, degree + 1)), [f"c{power}" for power in range(first, degree + 1)]


def linear() -> Iterator[str]:
    yield "| problem | coefficients | standard errors | R² | RSS |"
    yield "| --- | ---: | ---: | ---: | ---: |"
    for problem in problems("linear"):
        model, names = _model(problem)
        result = fit(readings_of(problem), model)
        found = result.parameters
        values = min(digits(found[n].value, c) for n, c in zip(names, problem["coefficients"], strict=True))
        errors = min(
            digits(found[n].standard_error, c) for n, c in zip(names, problem["standard_deviations"], strict=True)
        )
        statistics = result.statistics
        share = digits(statistics.r_squared, problem["r_squared"])
        rss = digits(statistics.residual_sum_of_squares, problem["residual_sum_of_squares"])
        yield f"| {problem['name']} | {values:.1f} | {errors:.1f} | {share:.1f} | {rss:.1f} |"


def _agreed(problem: dict[str, Any], result: Fit) -> tuple[float, float]:
    found = result.parameters
    return (
        min(digits(found[p["name"]].value, p["certified"]) for p in problem["parameters"]),
        min(digits(found[p["name"]].standard_error, p["certified_sd"]) for p in problem["parameters"]),
    )


def nonlinear() -> Iterator[str]:
    yield "| problem | start 1: values, errors | start 2: values, errors | no start: RSS | ms from start 1 | ms without |"
    yield "| --- | ---: | ---: | ---: | ---: | ---: |"
    for problem in problems("nonlinear"):
        readings, model, cells = readings_of(problem), Formula(problem["model"]), []
        for which in ("start1", "start2", None):
            start = None if which is None else {p["name"]: p[which] for p in problem["parameters"]}
            begin = time.perf_counter()
            result = fit(readings, model, start=start)
            took = 1e3 * (time.perf_counter() - begin)
            cells.append((result, took))
        first, second = (_agreed(problem, cells[i][0]) for i in (0, 1))
        rss = digits(cells[2][0].statistics.residual_sum_of_squares, problem["residual_sum_of_squares"])
        yield (
            f"| {problem['name']} | {first[0]:.1f}, {first[1]:.1f} | {second[0]:.1f}, {second[1]:.1f} | {rss:.1f} "
            f"| {cells[0][1]:.0f} | {cells[2][1]:.0f} |"
        )
