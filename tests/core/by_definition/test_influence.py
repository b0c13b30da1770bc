"""Readings far off the curve and readings that decide, by their definitions."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
import numpy.typing as npt
import statsmodels.api as sm
from scipy import optimize, stats

from ridge.core.fitting import fit
from ridge.core.judging.influence import _chance_of_standardised, readings_far_off, readings_that_decide
from ridge.core.judging.significance import ALARM
from ridge.core.models import Exponential, Line, Polynomial
from ridge.core.predicting.at_x import predict
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from tests.core.by_definition.random_studies import hat, studies

Floats = npt.NDArray[np.float64]


class FarOff(unittest.TestCase):
    """Bonferroni's bound on the externally studentised residual, against statsmodels' outlier test."""

    def test_the_same_rows_as_statsmodels(self) -> None:
        named = 0
        for model, degree in ((Line(), 1), (Polynomial(2), 2)):
            for found, design in studies(1, 60, model, degree):
                test = sm.OLS(found.readings.y, design).fit().outlier_test(method="bonferroni")
                expected = np.flatnonzero(test[:, 2] < ALARM).tolist()
                named += len(expected)
                self.assertEqual(readings_far_off(found), expected)
        self.assertGreater(named, 20)

    def test_given_errors_are_held_against_the_normal_distribution(self) -> None:
        random = np.random.default_rng(2)
        named = 0
        for _ in range(40):
            x, error = np.linspace(0, 9, 12), random.uniform(0.5, 2, 12)
            y = 1 + x + error * random.normal(0, 1, 12)
            y[random.integers(12)] += random.normal(0, 4)
            found = fit(Readings(x, y, y_error=error, absolute_errors=True), Line())
            model = sm.WLS(y, sm.add_constant(x), 1 / error**2).fit()
            # With errors that hold as they are, the residual in units of its own deviation, without any estimate of the scatter.
            own = (
                (y - model.fittedvalues)
                / error
                / np.sqrt(1 - np.diag(hat(np.stack([np.ones(12), x], axis=1) / error[:, None])))
            )
            expected = np.flatnonzero(12 * 2 * stats.norm.sf(np.abs(own)) < ALARM).tolist()
            named += len(expected)
            self.assertEqual(readings_far_off(found), expected)
        self.assertGreater(named, 8)

    def test_two_degrees_of_freedom_are_too_few(self) -> None:
        x = np.arange(5.0)
        y = 2 * x + np.array([0, 0, 100.0, 0, 0])
        self.assertEqual(readings_far_off(fit(Readings(x[:4], y[:4]), Line())), [])
        self.assertEqual(readings_far_off(fit(Readings(x, y), Polynomial(2))), [])

    def test_a_bent_curve_that_follows_its_last_reading_is_asked_without_it(self) -> None:
        x = np.array([0, 0.3, 0.6, 0.9, 1.2, 1.5, 1.8, 2.1, 2.4, 6.0])
        random = np.random.default_rng(3)
        law = 2 * np.exp(0.8 * x)
        sound = fit(Readings(x, law + random.normal(0, 0.05, 10)), Exponential())
        self.assertGreater(sound.leverage[-1], 0.9)
        self.assertNotIn(9, readings_far_off(sound))

    def test_where_the_curve_holds_on_to_it_a_fit_without_it_decides(self) -> None:
        """By scipy's curve_fit to the others: the reading in units of what the prediction leaves open."""
        x = np.append(np.linspace(0, 2, 11), 5.0)
        scatter = np.random.default_rng(40).normal(0, 0.02, 12)
        named = 0
        for share in (0.0, 0.05, 0.2, 0.5, 1.0, 2.0):
            y = 2 * np.exp(0.6 * x) + scatter
            y[-1] *= 1 + share
            found = fit(Readings(x, y), Exponential())
            (a, k), covariance = optimize.curve_fit(_growth, x[:-1], y[:-1], p0=(2, 0.6))
            slope = np.array([np.exp(k * 5), a * 5 * np.exp(k * 5)])
            s2 = np.sum((y[:-1] - _growth(x[:-1], a, k)) ** 2) / 9
            off = (y[-1] - _growth(5.0, a, k)) / np.sqrt(slope @ covariance @ slope + s2)
            expected = 12 * 2 * stats.t.sf(abs(off), 9) < ALARM
            suspected = 12 * 2 * stats.t.sf(abs(found.deleted_residuals[-1]), 9) < ALARM
            if suspected and found.leverage[-1] >= 0.9:
                named += 1
                self.assertEqual(11 in readings_far_off(found), expected)
        self.assertGreater(named, 1)


def _growth(x: Any, a: float, k: float) -> Any:
    return a * np.exp(k * x)


class Decides(unittest.TestCase):
    """Readings without which a line or a quadratic would lie outside its own limits, by refits, loops and scipy's Beta."""

    def expected(self, found: Fit, design: Floats, degree: int) -> list[int]:
        x, y = found.readings.x, found.readings.y
        n, degrees = len(x), found.statistics.degrees_of_freedom
        leverage = np.diag(hat(design))
        places = np.linspace(x.min(), x.max(), 101)
        limits = predict(found, places)
        half = limits.mean_high - limits.value
        standardised = found.standardised_residuals
        moved, per = np.zeros(n), np.zeros(n)
        for row in range(n):
            rest = np.delete(np.arange(n), row)
            other = np.polynomial.polynomial.polyfit(x[rest], y[rest], degree)
            moved[row] = np.max(np.abs(np.polynomial.polynomial.polyval(places, other) - limits.value) / half)
            per[row] = moved[row] / abs(standardised[row])
        even = np.diag(hat(np.vander(np.linspace(x.min(), x.max(), n), degree + 1, increasing=True)))
        step = (x.max() - x.min()) / (n - 1)
        decides = []
        for row in range(n):
            # r²/d follows Beta(½, (d − 1)/2): Cook and Weisberg 1982, section 2.2.1.
            chance = sum(
                stats.beta.sf(min((moved[row] / one) ** 2 / degrees, 1), 0.5, (degrees - 1) / 2) for one in per
            )
            nearest = min(abs(x[row] - other) for other in np.delete(x, row))
            at = round((x[row] - x.min()) / step)
            around = max(even[min(max(at + off, 0), n - 1)] for off in (-1, 0, 1))
            lonely = nearest > 2 * step and 1 - leverage[row] < (1 - around) / 1.5
            if leverage[row] > 1 - 1e-6 or (moved[row] > 1 and (lonely or chance < ALARM)):
                decides.append(row)
        return decides

    def test_as_defined(self) -> None:
        named = 0
        for model, degree in ((Line(), 1), (Polynomial(2), 2)):
            for found, design in studies(4, 60, model, degree):
                expected = self.expected(found, design, degree)
                named += len(expected)
                self.assertEqual(readings_that_decide(found), expected)
        self.assertGreater(named, 15)

    def test_the_chance_of_a_standardised_residual_is_that_of_beta(self) -> None:
        x, y = np.arange(9.0), np.array([1.0, 3, 2, 5, 4, 6, 9, 8, 9])
        found = fit(Readings(x, y), Line())
        sizes = np.array([0.3, 1.0, 2.0, 2.6, 3.0])
        expected = stats.beta.sf(np.minimum(sizes**2 / 7, 1), 0.5, 3)
        np.testing.assert_allclose(_chance_of_standardised(found, sizes, 7), expected, atol=1e-12)
        given = fit(Readings(x, y, y_error=np.ones(9), absolute_errors=True), Line())
        np.testing.assert_allclose(_chance_of_standardised(given, sizes, 7), 2 * stats.norm.sf(sizes))

    def test_a_lonely_reading_of_a_bent_curve_is_measured_by_a_fit_without_it(self) -> None:
        random = np.random.default_rng(5)
        x = np.append(np.linspace(0, 2, 12), 8.0)
        y = 5 * np.exp(-0.7 * x) + random.normal(0, 0.02, 13)
        self.assertEqual(readings_that_decide(fit(Readings(x, y), Exponential(level=True))), [12])

    def test_one_reading_alone_at_its_x_holds_a_parameter(self) -> None:
        x = np.array([1.0, 1, 1, 1, 1, 5])
        y = np.array([2.0, 2.2, 1.9, 2.1, 2.05, 7])
        self.assertEqual(readings_that_decide(fit(Readings(x, y), Line())), [5])

    def test_a_lonely_reading_of_a_bent_curve_is_left_out_and_fitted_again(self) -> None:
        x = np.array([1.06, 8.23, 9.1, 9.2, 9.51, 9.76, 9.76])
        y = np.array([3.96, 6.86, 6.17, 8.3, 6.96, 7.16, 6.93])
        found, others = fit(Readings(x, y), Exponential()), fit(Readings(x[1:], y[1:]), Exponential())
        places = np.linspace(x.min(), x.max(), 300)
        limits = predict(found, places)
        moved = np.abs(others.evaluate(places) - limits.value) / (limits.mean_high - limits.value)
        self.assertGreater(moved.max(), 1)
        self.assertEqual(readings_that_decide(found), [0])
