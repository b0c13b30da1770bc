"""Least squares in logarithms, and orthogonal distances with uncertainties of both."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
import statsmodels.api as sm

from ridge.core import Readings, fit
from ridge.core.errors import OutsideSense, UndefinedAt
from ridge.core.models import Exponential, Formula, Line, Logarithmic, Polynomial, Power

X = np.linspace(0.5, 10, 20)
FACTORS = np.exp(np.random.default_rng(2).normal(0, 0.1, 20))


class InLogarithms(TestCase):
    def test_an_exponential_is_the_line_through_ln_y(self) -> None:
        y = 3 * np.exp(-0.3 * X) * FACTORS
        ours = fit(Readings(X, y), Exponential(), least_squares_in="logarithms")
        theirs = sm.OLS(np.log(y), sm.add_constant(X)).fit()
        self.assertAlmostEqual(ours.values["a"], np.exp(theirs.params[0]), places=11)
        self.assertAlmostEqual(ours.values["k"], theirs.params[1], places=12)
        self.assertAlmostEqual(ours.statistics.r_squared or 0, theirs.rsquared, places=12)
        self.assertAlmostEqual(ours.parameters["k"].standard_error or 0, theirs.bse[1], places=12)
        np.testing.assert_allclose(ours.parameters["a"].interval(), np.exp(theirs.conf_int()[0]), rtol=1e-10)
        np.testing.assert_allclose(ours.residuals, y - np.exp(theirs.fittedvalues), rtol=1e-8, atol=1e-12)

    def test_a_power_law_is_the_line_through_both_logarithms(self) -> None:
        y = 3 * X**1.4 * FACTORS
        ours = fit(Readings(X, y), Power(), least_squares_in="logarithms")
        slope, intercept = np.polyfit(np.log(X), np.log(y), 1)
        self.assertAlmostEqual(ours.values["n"], slope, places=11)
        self.assertAlmostEqual(ours.values["a"], np.exp(intercept), places=10)
        self.assertEqual([caution.code for caution in ours.cautions], ["in-logarithms"])

    def test_intervals_are_those_of_the_line_to_the_power_of_e(self) -> None:
        y = 3 * np.exp(-0.3 * X) * FACTORS
        ours = fit(Readings(X, y), Exponential(), least_squares_in="logarithms")
        theirs = sm.OLS(np.log(y), sm.add_constant(X)).fit().get_prediction([[1.0, 4.2]])
        found = ours.predict(4.2)
        np.testing.assert_allclose(
            [float(found.low), float(found.high)], np.exp(theirs.conf_int(obs=True)[0]), rtol=1e-10
        )
        np.testing.assert_allclose(
            [float(found.mean_low), float(found.mean_high)], np.exp(theirs.conf_int()[0]), rtol=1e-10
        )
        solution = ours.solve(float(found.value))[0]
        self.assertAlmostEqual(solution.value, 4.2, places=9)
        self.assertTrue(solution.low < 4.2 < solution.high)

    def test_it_differs_from_least_squares_in_y(self) -> None:
        y = 3 * np.exp(0.4 * X) * FACTORS
        logs, plain = (fit(Readings(X, y), Exponential(), least_squares_in=way) for way in ("logarithms", "y"))
        self.assertNotAlmostEqual(logs.values["k"], plain.values["k"], places=4)

    def test_fixed_parameters_and_the_logarithmic_model(self) -> None:
        y = 3 * np.exp(-0.3 * X) * FACTORS
        kept = fit(Readings(X, y), Exponential(), fixed={"a": 3.0}, least_squares_in="logarithms")
        self.assertAlmostEqual(kept.values["a"], 3.0, places=12)
        same = fit(Readings(X, np.log(X) * FACTORS), Logarithmic(), least_squares_in="logarithms")
        self.assertEqual(same.values, fit(Readings(X, np.log(X) * FACTORS), Logarithmic()).values)

    def test_refusals(self) -> None:
        with self.assertRaises(UndefinedAt) as caught:
            fit(Readings([1, 2, 3, 4], [2.0, 0.0, 5.0, -1.0]), Exponential(), least_squares_in="logarithms")
        self.assertEqual(caught.exception.rows, (1, 3))
        for model in (Exponential(level=True), Line(), Polynomial(2)):
            with self.assertRaises(OutsideSense):
                fit(Readings(X, X), model, least_squares_in="logarithms")
        with self.assertRaises(OutsideSense):
            fit(Readings(X, X), Exponential(), fixed={"a": -1.0}, least_squares_in="logarithms")


class Orthogonal(TestCase):
    # Pearson's data with York's weights (York, Canadian Journal of Physics 44, 1966); data and result from memory.
    x = [0.0, 0.9, 1.8, 2.6, 3.3, 4.4, 5.2, 6.1, 6.5, 7.4]
    y = [5.9, 5.4, 4.4, 4.6, 3.5, 3.7, 2.8, 2.8, 2.4, 1.5]
    weight_x = np.array([1000, 1000, 500, 800, 200, 80, 60, 20, 1.8, 1])
    weight_y = np.array([1, 1.8, 4, 8, 20, 20, 70, 70, 100, 500])

    def readings(self, absolute: bool = False) -> Readings:
        return Readings(
            self.x, self.y, x_error=self.weight_x**-0.5, y_error=self.weight_y**-0.5, absolute_errors=absolute
        )

    def test_yorks_line(self) -> None:
        result = fit(self.readings(), Line(), least_squares_in="orthogonal")
        self.assertAlmostEqual(result.values["slope"], -0.4805334, places=6)
        self.assertAlmostEqual(result.values["intercept"], 5.4799102, places=6)

    def test_reduced_chi_squared_and_errors(self) -> None:
        # S/(n − 2) = 11.8663531941/8, from memory of the same example.
        absolute = fit(self.readings(True), Line(), least_squares_in="orthogonal")
        self.assertAlmostEqual(absolute.statistics.chi_squared or 0, 11.8663532, places=5)
        relative = fit(self.readings(), Line(), least_squares_in="orthogonal")
        ratio = (relative.parameters["slope"].standard_error or 0) / (absolute.parameters["slope"].standard_error or 1)
        self.assertAlmostEqual(ratio, np.sqrt(11.8663532 / 8), places=5)

    def test_small_errors_of_x_change_nothing(self) -> None:
        y = 30 * np.exp(-0.4 * X) + 7
        noisy = y + np.random.default_rng(3).normal(0, 0.2, 20)
        readings = Readings(X, noisy, x_error=1e-7, y_error=0.2)
        for model in (Exponential(level=True), Formula("p*exp(-q*x)+r")):
            plain, both = fit(readings, model), fit(readings, model, least_squares_in="orthogonal")
            for name in model.parameter_names:
                self.assertAlmostEqual(both.values[name] / plain.values[name], 1, delta=1e-5)
                ratio = (both.parameters[name].standard_error or 0) / (plain.parameters[name].standard_error or 1)
                self.assertAlmostEqual(ratio, 1, delta=0.02)

    def test_the_axes_may_be_swapped(self) -> None:
        one = fit(self.readings(), Line(), least_squares_in="orthogonal")
        swapped = Readings(self.y, self.x, x_error=self.weight_y**-0.5, y_error=self.weight_x**-0.5)
        other = fit(swapped, Line(), least_squares_in="orthogonal")
        self.assertAlmostEqual(other.values["slope"], 1 / one.values["slope"], places=5)

    def test_the_caution_goes_away(self) -> None:
        self.assertIn("x-errors-not-used", [c.code for c in fit(self.readings(), Line()).cautions])
        orthogonal = fit(self.readings(), Line(), least_squares_in="orthogonal")
        self.assertNotIn("x-errors-not-used", [c.code for c in orthogonal.cautions])
