"""x at a y: a published worked example, Fieller's limits by simulation, and where there are none."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
from scipy.stats import t

from ridge.core import Readings, fit
from ridge.core.errors import NoSolution, OutsideSense
from ridge.core.models import Line, Power


class WorkedExample(TestCase):
    """Fluorescence of seven standards, from J. N. Miller and J. C. Miller, "Statistics and Chemometrics for
    Analytical Chemistry", chapter 5 (calibration; three unknowns). Readings and results from memory,
    to the digits that the book prints."""

    def setUp(self) -> None:
        self.fit = fit(Readings([0, 2, 4, 6, 8, 10, 12], [2.1, 5.0, 9.0, 12.6, 17.3, 21.0, 24.7]), Line())

    def test_the_line(self) -> None:
        slope, intercept = self.fit.parameters["slope"], self.fit.parameters["intercept"]
        self.assertEqual(round(slope.value, 2), 1.93)
        self.assertEqual(round(intercept.value, 2), 1.52)
        self.assertEqual(round(self.fit.statistics.correlation or 0, 4), 0.9989)
        # The book sums rounded squares, which moves its last digit by one.
        self.assertAlmostEqual(self.fit.statistics.residual_standard_deviation or 0, 0.4329, delta=1e-4)
        self.assertEqual(round(slope.standard_error or 0, 4), 0.0409)
        self.assertAlmostEqual(intercept.standard_error or 0, 0.2950, delta=1e-4)
        # The book: 1.93 ± 0.11 and 1.52 ± 0.76 with 95 % confidence.
        for parameter, half in ((slope, 0.11), (intercept, 0.76)):
            low, high = parameter.interval(0.95)
            self.assertEqual(round((high - low) / 2, 2), half)

    def test_three_unknowns_read_once(self) -> None:
        for y, x, error in ((2.9, 0.72, 0.26), (13.5, 6.21, 0.24), (23.0, 11.13, 0.26)):
            solution = self.fit.solve(y)[0]
            self.assertEqual(round(solution.value, 2), x)
            self.assertEqual(round(solution.standard_error or 0, 2), error)

    def test_four_readings_of_one_unknown_narrow_the_limits(self) -> None:
        solution = self.fit.solve(13.5, repeats=4)[0]
        self.assertEqual(round(solution.standard_error or 0, 2), 0.14)
        # The book's limits, ± t times the standard error, differ from Fieller's by less than they print.
        self.assertAlmostEqual((solution.high - solution.low) / 2, 0.36, delta=0.015)

    def test_a_list_of_repeats_is_their_mean_with_pooled_scatter(self) -> None:
        """(5·s² + 0.2)/(5 + 3) with eight degrees of freedom (Draper and Smith, section 3.2); 0.2 is Σ(y − 13.5)²."""
        listed, mean = self.fit.solve([13.2, 13.4, 13.6, 13.8])[0], self.fit.solve(13.5, repeats=4)[0]
        self.assertEqual(listed.value, mean.value)
        s = self.fit.statistics.residual_standard_deviation or 0
        pooled = np.sqrt((5 * s**2 + 0.2) / 8)
        self.assertAlmostEqual((listed.standard_error or 0) / (mean.standard_error or 1), pooled / s, places=12)
        half = float(t.ppf(0.975, 8)) * (listed.standard_error or 0)
        self.assertAlmostEqual((listed.high - listed.low) / 2 / half, 1, delta=0.01)  # Fieller's are a little wider


class Limits(TestCase):
    def test_they_cover_the_truth_as_often_as_they_say(self) -> None:
        random = np.random.default_rng(20261125)
        x = np.linspace(0, 10, 8)
        truth, repeats, runs, covered = 6.5, 2, 1500, 0
        for _ in range(runs):
            result = fit(Readings(x, 1 + 2 * x + random.normal(0, 2.5, 8)), Line())
            seen = 1 + 2 * truth + random.normal(0, 2.5, repeats)
            solution = result.solve(seen, level=0.9)[0]
            covered += solution.low <= truth <= solution.high
        # Four standard deviations of a binomial count either way.
        self.assertAlmostEqual(covered / runs, 0.9, delta=4 * np.sqrt(0.9 * 0.1 / runs))

    def test_asymmetric_limits_where_the_slope_is_uncertain(self) -> None:
        solution = fit(Readings([1, 2, 3, 4, 5, 6], [1, 3, 2, 5, 3, 6]), Line()).solve(9.0, level=0.8)[0]
        self.assertTrue(solution.bounded)
        self.assertGreater(solution.high - solution.value, 1.5 * (solution.value - solution.low))

    def test_no_limits_where_the_slope_is_not_told_from_zero(self) -> None:
        solution = fit(Readings([1, 2, 3, 4, 5], [1, 4, 2, 1, 4]), Line()).solve(3.0)[0]
        self.assertFalse(solution.bounded)
        self.assertEqual((solution.low, solution.high), (-np.inf, np.inf))
        self.assertGreater(solution.standard_error or 0, 0)

    def test_through_the_origin_sums_are_about_zero(self) -> None:
        # By hand: slope b = Σxy/Σx², s_x = s/b·√(1/m + x0²/Σx²) (common practice for lines through the origin).
        x, y = np.array([1.0, 2.0, 4.0, 5.0]), np.array([2.2, 3.9, 8.3, 9.8])
        solution = fit(Readings(x, y), Line(0.0)).solve(6.0, repeats=3)[0]
        b = (x @ y) / (x @ x)
        s = np.sqrt(np.sum((y - b * x) ** 2) / 3)
        self.assertAlmostEqual(solution.value, 6 / b)
        self.assertAlmostEqual(solution.standard_error or 0, s / b * np.sqrt(1 / 3 + (6 / b) ** 2 / (x @ x)))

    def test_refusals(self) -> None:
        level = fit(Readings([1, 2, 3], [4, 4, 4]), Line())
        with self.assertRaises(NoSolution):
            level.solve(5.0)
        line = fit(Readings([1, 2, 3], [4, 5, 7]), Line())
        wrong: list[dict[str, Any]] = [{"y": float("nan")}, {"y": []}, {"y": 5, "repeats": 0}, {"y": 5, "level": 1.0}]
        for arguments in wrong:
            with self.assertRaises(OutsideSense):
                line.solve(**arguments)

    def test_two_readings_give_a_value_without_uncertainty(self) -> None:
        solution = fit(Readings([0, 1], [1, 3]), Line()).solve(2.0)[0]
        self.assertEqual((solution.value, solution.standard_error, solution.bounded), (0.5, None, False))


class EndsOfTheRangeOfAModel(TestCase):
    def test_an_interval_that_reaches_zero_ends_at_zero(self) -> None:
        """A power law has no value at x = 0: not at a few times 10⁻¹⁶ either, which is rounding."""
        x = np.array([1, 1.5, 2, 2.5, 3, 3.5])
        found = fit(Readings(x, 100 / x**2 + np.array([32.0, -36, 36, -28, 32, -24])), Power())
        (solution,) = found.solve(8.0)
        self.assertEqual(solution.low, 0.0)
