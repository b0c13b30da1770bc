"""The line against certified results.

Source: NIST/ITL Statistical Reference Datasets, linear regression: Norris, NoInt1, NoInt2.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from unittest import TestCase

from ridge.core import Fit, Readings, fit
from ridge.core.models import Line

PROBLEMS = Path(__file__).parent.parent / "reference" / "strd"
DIGITS = 13


def load(name: str) -> dict[str, Any]:
    problem: dict[str, Any] = json.loads((PROBLEMS / f"linear-{name}.json").read_text())
    return problem


def solve(problem: dict[str, Any]) -> Fit:
    x, y = ([float(value) for value in problem[axis]] for axis in "xy")
    return fit(Readings(x, y), Line() if problem["intercept"] else Line(intercept=0.0))


class CertifiedLine(TestCase):
    def agree(self, computed: float | None, certified: str, what: str) -> None:
        assert computed is not None
        self.assertLess(abs(computed / float(certified) - 1), 10**-DIGITS, what)

    def test_coefficients_and_their_standard_deviations(self) -> None:
        for name in ("norris", "noint1", "noint2"):
            problem = load(name)
            result = solve(problem)
            order = ["intercept", "slope"] if problem["intercept"] else ["slope"]
            for parameter, value, deviation in zip(
                order, problem["coefficients"], problem["standard_deviations"], strict=True
            ):
                self.agree(result.parameters[parameter].value, value, f"{name} {parameter}")
                self.agree(result.parameters[parameter].standard_error, deviation, f"{name} error of {parameter}")

    def test_sums_and_r_squared(self) -> None:
        for name in ("norris", "noint1", "noint2"):
            problem = load(name)
            statistics = solve(problem).statistics
            self.agree(statistics.residual_sum_of_squares, problem["residual_sum_of_squares"], f"{name} RSS")
            self.agree(statistics.residual_standard_deviation, problem["residual_standard_deviation"], f"{name} s")
            self.agree(statistics.r_squared, problem["r_squared"], f"{name} R²")
            self.assertEqual(statistics.degrees_of_freedom, problem["degrees_of_freedom"])

    def test_far_from_zero_keeps_the_digits(self) -> None:
        # Moving x by a power of two is exact, so slope and scatter must not change at all to 12 digits.
        problem = load("norris")
        near = solve(problem)
        moved = fit(Readings([float(x) + 2.0**30 for x in problem["x"]], near.readings.y), Line())
        exact = fit(Readings([(float(x) + 2.0**30) - 2.0**30 for x in problem["x"]], near.readings.y), Line())
        self.assertAlmostEqual(moved.parameters["slope"].value / exact.parameters["slope"].value, 1, delta=1e-12)
        self.assertAlmostEqual(
            moved.statistics.residual_sum_of_squares / exact.statistics.residual_sum_of_squares, 1, delta=1e-12
        )
