"""Own formulas against certified results, with and without starting values.

Source: NIST/ITL Statistical Reference Datasets, nonlinear regression, 18 problems; certified to 11 digits.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest import TestCase

from ridge.core import Fit, fit
from ridge.core.models import Formula
from tests.reference.strd_problems import digits, problems, readings_of

DIGITS = 9


class Certified(TestCase):
    problems: list[dict[str, Any]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.problems = problems("nonlinear")

    def check(self, problem: dict[str, Any], result: Fit, where: str) -> None:
        for parameter in problem["parameters"]:
            found, what = result.parameters[parameter["name"]], f"{problem['name']} {parameter['name']} {where}"
            self.assertGreaterEqual(digits(found.value, parameter["certified"]), DIGITS, what)
            self.assertGreaterEqual(digits(found.standard_error, parameter["certified_sd"]), DIGITS, f"error of {what}")

    def test_all_are_there(self) -> None:
        self.assertEqual(len(self.problems), 18)

    def test_from_both_starts(self) -> None:
        for problem in self.problems:
            for which in ("start1", "start2"):
                start = {parameter["name"]: parameter[which] for parameter in problem["parameters"]}
                self.check(problem, fit(readings_of(problem), Formula(problem["model"]), start=start), f"from {which}")

    def test_the_certified_minimum_without_a_start(self) -> None:
        for problem in self.problems:
            found = fit(readings_of(problem), Formula(problem["model"]))
            agreed = digits(found.statistics.residual_sum_of_squares, problem["residual_sum_of_squares"])
            self.assertGreaterEqual(agreed, DIGITS, problem["name"])
            self.assertEqual(found.statistics.degrees_of_freedom, problem["degrees_of_freedom"])

    def test_the_same_input_gives_the_same_output(self) -> None:
        for problem in self.problems[:4]:
            one, other = (fit(readings_of(problem), Formula(problem["model"])) for _ in range(2))
            self.assertEqual(one.values, other.values)

    def test_fits_in_several_threads_do_not_disturb_each_other(self) -> None:
        problem = next(problem for problem in self.problems if problem["name"] == "Lanczos1")
        readings, model = readings_of(problem), Formula(problem["model"])
        start = {parameter["name"]: parameter["start2"] for parameter in problem["parameters"]}
        with ThreadPoolExecutor(4) as threads:
            for result in threads.map(lambda _: fit(readings, model, start=start), range(40)):
                self.check(problem, result, "in a thread")
