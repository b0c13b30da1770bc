"""Lines and polynomials against certified results.

Source: NIST/ITL Statistical Reference Datasets, linear regression, all ten problems.
"""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from ridge.core import Fit, Readings, fit
from ridge.core.models import Line, Model, Polynomial
from tests.reference.strd_problems import digits, problems, readings_of

DIGITS = 13


def model_of(problem: dict[str, Any]) -> Model:
    degree = problem.get("degree", 1)
    if degree == 1:
        return Line() if problem["intercept"] else Line(intercept=0.0)
    return Polynomial(degree, None if problem["intercept"] else range(1, degree + 1))


def names_of(problem: dict[str, Any]) -> list[str]:
    degree = problem.get("degree", 1)
    if degree == 1:
        return ["intercept", "slope"] if problem["intercept"] else ["slope"]
    return [f"c{power}" for power in range(0 if problem["intercept"] else 1, degree + 1)]


class Certified(TestCase):
    solved: list[tuple[dict[str, Any], Fit]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.solved = [(problem, fit(readings_of(problem), model_of(problem))) for problem in problems("linear")]

    def agree(self, computed: float | None, certified: str, what: str) -> None:
        self.assertGreaterEqual(digits(computed, certified), DIGITS, what)

    def test_all_ten_are_there(self) -> None:
        self.assertEqual(len(self.solved), 10)

    def test_coefficients(self) -> None:
        for problem, result in self.solved:
            for name, value in zip(names_of(problem), problem["coefficients"], strict=True):
                self.agree(result.parameters[name].value, value, f"{problem['name']} {name}")

    def test_standard_errors(self) -> None:
        for problem, result in self.solved:
            for name, value in zip(names_of(problem), problem["standard_deviations"], strict=True):
                self.agree(result.parameters[name].standard_error, value, f"{problem['name']} error of {name}")

    def test_sums_and_r_squared(self) -> None:
        for problem, result in self.solved:
            statistics = result.statistics
            self.agree(statistics.residual_sum_of_squares, problem["residual_sum_of_squares"], f"{problem['name']} RSS")
            self.agree(statistics.residual_standard_deviation, problem["residual_standard_deviation"], problem["name"])
            # Without a constant NIST certifies R² with the uncorrected total sum of squares.
            certified = statistics.r_squared if problem["intercept"] else statistics.r_squared_about_zero
            self.agree(certified, problem["r_squared"], f"{problem['name']} R²")
            self.assertEqual(statistics.degrees_of_freedom, problem["degrees_of_freedom"])

    def test_exact_ones_are_called_exact(self) -> None:
        exact = [problem["name"] for problem, result in self.solved if result.statistics.exact]
        self.assertEqual(exact, ["wampler1", "wampler2"])

    def test_far_from_zero_keeps_the_digits(self) -> None:
        # Moving x by a power of two is exact, so slope and scatter must not change at all to 12 digits.
        problem = next(problem for problem in problems("linear") if problem["name"].lower() == "norris")
        near = readings_of(problem)
        moved = fit(Readings(near.x + 2.0**30, near.y), Line())
        exact = fit(Readings((near.x + 2.0**30) - 2.0**30, near.y), Line())
        for value, other in (
            (moved.parameters["slope"].value, exact.parameters["slope"].value),
            (moved.statistics.residual_sum_of_squares, exact.statistics.residual_sum_of_squares),
        ):
            self.assertAlmostEqual(value / other, 1, delta=1e-12)
