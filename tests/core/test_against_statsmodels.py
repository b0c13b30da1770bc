"""Every statistic of the line against statsmodels, a general-purpose reference library."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
import statsmodels.api as sm

from ridge.core import Fit, Readings, fit
from ridge.core.judging.influence import readings_far_off
from ridge.core.judging.patterns import pattern_of
from ridge.core.judging.significance import ALARM
from ridge.core.models import Line


def close(ours: object, theirs: object, rtol: float = 1e-9) -> None:
    np.testing.assert_allclose(np.asarray(ours, dtype=float), np.asarray(theirs, dtype=float), rtol=rtol)


def example(n: int = 23, seed: int = 5) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    random = np.random.default_rng(seed)
    x = random.uniform(-3, 40, n)
    sigma = random.uniform(0.4, 2.5, n)
    return x, 4.2 - 0.73 * x + sigma * random.normal(size=n), sigma


class OrdinaryLeastSquares(TestCase):
    def setUp(self) -> None:
        self.x, self.y, _ = example()
        self.fit = fit(Readings(self.x, self.y), Line())
        self.reference = sm.OLS(self.y, sm.add_constant(self.x)).fit()

    def test_parameters(self) -> None:
        names = ["intercept", "slope"]
        parameters = [self.fit.parameters[name] for name in names]
        close([p.value for p in parameters], self.reference.params)
        close([p.standard_error for p in parameters], self.reference.bse)
        close([p.t for p in parameters], self.reference.tvalues)
        close([p.p_value for p in parameters], self.reference.pvalues)
        for level in (0.68, 0.95, 0.99):
            close([p.interval(level) for p in parameters], self.reference.conf_int(1 - level))
        close(self.fit.covariance, self.reference.cov_params()[::-1, ::-1])

    def test_statistics(self) -> None:
        ours = self.fit.statistics
        close(ours.r_squared, self.reference.rsquared)
        close(ours.adjusted_r_squared, self.reference.rsquared_adj)
        close(ours.f_statistic, self.reference.fvalue)
        close(ours.f_p_value, self.reference.f_pvalue)
        close(ours.residual_sum_of_squares, self.reference.ssr)
        close(ours.regression_sum_of_squares, self.reference.ess)
        close(ours.total_sum_of_squares, self.reference.centered_tss)
        close(ours.residual_standard_deviation, np.sqrt(self.reference.scale))
        close(ours.correlation, np.corrcoef(self.x, self.y)[0, 1])
        # statsmodels does not count the residual variance among the parameters; Burnham and Anderson do.
        close(ours.aic, self.reference.aic + 2)
        close(ours.bic, self.reference.bic + np.log(ours.n))
        close(ours.aicc, ours.aic + 2 * 3 * 4 / (ours.n - 4))  # type: ignore[operator]

    def test_leverage_and_influence(self) -> None:
        influence = self.reference.get_influence()
        close(self.fit.leverage, influence.hat_matrix_diag)
        close(self.fit.standardised_residuals, influence.resid_studentized_internal)
        close(self.fit.cooks_distance, influence.cooks_distance[0])
        close(self.fit.residuals, self.reference.resid)

    def test_both_intervals_of_a_prediction(self) -> None:
        at = np.array([-20.0, 0.0, 12.5, 90.0])
        for level in (0.9, 0.95):
            frame = self.reference.get_prediction(sm.add_constant(at)).summary_frame(1 - level)
            ours = self.fit.predict(at, level)
            close(ours.value, frame["mean"])
            close(ours.standard_error, frame["mean_se"])
            close([ours.mean_low, ours.mean_high], [frame["mean_ci_lower"], frame["mean_ci_upper"]])
            close([ours.low, ours.high], [frame["obs_ci_lower"], frame["obs_ci_upper"]])

    def test_limits_of_x_are_where_the_prediction_band_meets_y(self) -> None:
        # For one reading Fieller's limits are, by their definition, these crossings.
        solution = self.fit.solve(-9.0, level=0.95)[0]
        ends = self.reference.get_prediction(sm.add_constant([solution.low, solution.high])).summary_frame(0.05)
        meets = sorted((*ends["obs_ci_lower"], *ends["obs_ci_upper"]), key=lambda v: abs(v + 9))
        close(meets[:2], [-9.0, -9.0])

    def test_bend_is_the_f_test_of_the_nested_models(self) -> None:
        larger = sm.OLS(self.y, np.column_stack([np.ones_like(self.x), self.x, self.x**2])).fit()
        close(pattern_of(self.fit).bend_p, larger.compare_f_test(self.reference)[1])

    def test_far_off_readings_are_those_of_the_bonferroni_test(self) -> None:
        y = self.y.copy()
        y[7] += 9
        y[11] -= 2
        changed = fit(Readings(self.x, y), Line())
        theirs = sm.OLS(y, sm.add_constant(self.x)).fit().outlier_test()[:, 2]
        self.assertEqual(readings_far_off(changed), list(np.flatnonzero(theirs < ALARM)))
        self.assertEqual(readings_far_off(changed), [7])


class Weighted(TestCase):
    def setUp(self) -> None:
        self.x, self.y, self.sigma = example(17, 11)

    def compare(self, ours: Fit, theirs: Any) -> None:
        for name, i in (("intercept", 0), ("slope", 1)):
            close(ours.parameters[name].value, theirs.params[i], rtol=1e-10)
            close(ours.parameters[name].standard_error, theirs.bse[i], rtol=1e-9)

    def test_weights(self) -> None:
        weight = 1 / self.sigma
        ours = fit(Readings(self.x, self.y, weight=weight), Line())
        theirs = sm.WLS(self.y, sm.add_constant(self.x), weights=weight).fit()
        self.compare(ours, theirs)
        close(ours.statistics.residual_sum_of_squares, theirs.ssr, rtol=1e-10)
        close(ours.statistics.r_squared, theirs.rsquared, rtol=1e-10)
        close(ours.statistics.f_statistic, theirs.fvalue, rtol=1e-9)
        close(ours.statistics.aic, theirs.aic + 2, rtol=1e-10)
        design = np.sqrt(weight)[:, None] * sm.add_constant(self.x)
        hat = design @ np.linalg.inv(design.T @ design) @ design.T
        close(ours.leverage, np.diag(hat), rtol=1e-9)

    def test_relative_uncertainties_count_by_their_ratios_alone(self) -> None:
        theirs = sm.WLS(self.y, sm.add_constant(self.x), weights=self.sigma**-2).fit()
        for factor in (1.0, 1000.0):
            self.compare(fit(Readings(self.x, self.y, y_error=factor * self.sigma), Line()), theirs)

    def test_equal_uncertainties_change_nothing(self) -> None:
        plain = fit(Readings(self.x, self.y), Line()).statistics
        equal = fit(Readings(self.x, self.y, y_error=3.0), Line()).statistics
        close(equal.residual_sum_of_squares, plain.residual_sum_of_squares, rtol=1e-12)

    def test_absolute_uncertainties_set_the_scale(self) -> None:
        ours = fit(Readings(self.x, self.y, y_error=self.sigma, absolute_errors=True), Line())
        coefficients, covariance = np.polyfit(self.x, self.y, 1, w=1 / self.sigma, cov="unscaled")
        close([p.value for p in ours.parameters.values()], coefficients, rtol=1e-10)
        close(ours.covariance, covariance, rtol=1e-9)
        chi = float(np.sum(((self.y - np.polyval(coefficients, self.x)) / self.sigma) ** 2))
        close(ours.statistics.chi_squared, chi, rtol=1e-10)
        close(ours.statistics.reduced_chi_squared, chi / 15, rtol=1e-10)
        low, high = ours.parameters["slope"].interval(0.95)
        half = 1.959963984540054 * float(np.sqrt(covariance[0, 0]))  # normal quantile, common practice
        close(high - low, 2 * half, rtol=1e-9)

    def test_weighted_predictions(self) -> None:
        ours = fit(Readings(self.x, self.y, weight=self.sigma), Line())
        theirs = sm.WLS(self.y, sm.add_constant(self.x), weights=self.sigma).fit()
        at = np.array([0.0, 55.0])
        frame = theirs.get_prediction(sm.add_constant(at), weights=1).summary_frame(0.05)
        prediction = ours.predict(at)
        close(prediction.mean_low, frame["mean_ci_lower"], rtol=1e-9)
        close(prediction.high, frame["obs_ci_upper"], rtol=1e-9)


class ThroughAFixedPoint(TestCase):
    def test_without_a_constant_sums_count_from_zero(self) -> None:
        x, y, _ = example()
        ours = fit(Readings(x, y), Line(intercept=0.0))
        theirs = sm.OLS(y, x).fit()
        statistics = ours.statistics
        close(ours.parameters["slope"].standard_error, theirs.bse[0], rtol=1e-10)
        close(statistics.r_squared_about_zero, theirs.rsquared, rtol=1e-10)
        close(statistics.r_squared, 1 - theirs.ssr / theirs.centered_tss, rtol=1e-10)
        close(statistics.adjusted_r_squared, 1 - theirs.mse_resid / (theirs.centered_tss / (len(x) - 1)), rtol=1e-10)
        close(statistics.total_sum_of_squares, theirs.uncentered_tss, rtol=1e-10)
        self.assertEqual(statistics.compared_with, "zero")
        close(statistics.f_statistic, theirs.fvalue, rtol=1e-10)
        frame = theirs.get_prediction([[3.0], [70.0]]).summary_frame(0.05)
        close(ours.predict([3.0, 70.0]).low, frame["obs_ci_lower"], rtol=1e-9)

    def test_an_intercept_of_five_is_a_shift_of_y(self) -> None:
        x, y, _ = example()
        fixed, shifted = fit(Readings(x, y), Line(5.0)), fit(Readings(x, y - 5), Line(0.0))
        close(fixed.parameters["slope"].value, shifted.parameters["slope"].value, rtol=1e-12)
        self.assertEqual(fixed.parameters["intercept"].value, 5.0)
        self.assertTrue(fixed.parameters["intercept"].fixed)
        self.assertIsNone(fixed.parameters["intercept"].standard_error)
