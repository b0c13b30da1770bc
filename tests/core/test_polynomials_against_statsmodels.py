"""Polynomials, reciprocals and logarithms against statsmodels: statistics, both intervals, leverage, influence, nested tests."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
import statsmodels.api as sm

from ridge.core import Fit, Readings, fit
from ridge.core.errors import OutsideSense
from ridge.core.judging.comparison import contains, degree_ladder, leave_one_out, nested_test
from ridge.core.models import Exponential, Line, Logarithmic, Model, Polynomial, Power, Reciprocal, Sinusoid

RANDOM = np.random.default_rng(5)
X = np.sort(RANDOM.uniform(1, 9, 24))
Y = 4 + 2 * X - 0.6 * X**2 + 0.05 * X**3 + RANDOM.normal(0, 0.5, 24)
WEIGHT = RANDOM.uniform(0.5, 3, 24)
CASES: list[tuple[Model, np.ndarray]] = [
    (Polynomial(2), np.column_stack([X**0, X, X**2])),
    (Polynomial(4), np.column_stack([X**k for k in range(5)])),
    (Polynomial(3, terms=[1, 3]), np.column_stack([X, X**3])),
    (Reciprocal(), np.column_stack([1 / X, X**0])),
    (Logarithmic(), np.column_stack([np.log(X), X**0])),
]


class AgainstStatsmodels(TestCase):
    def pairs(self) -> list[tuple[Fit, Any, np.ndarray]]:
        found: list[tuple[Fit, Any, np.ndarray]] = []
        for model, design in CASES:
            found.append((fit(Readings(X, Y), model), sm.OLS(Y, design).fit(), design))
            found.append((fit(Readings(X, Y, weight=WEIGHT), model), sm.WLS(Y, design, weights=WEIGHT).fit(), design))
        return found

    def test_parameters_and_statistics(self) -> None:
        for ours, theirs, _ in self.pairs():
            errors = np.array([parameter.standard_error for parameter in ours.parameters.values()], dtype=float)
            np.testing.assert_allclose(list(ours.values.values()), theirs.params, rtol=1e-8)
            np.testing.assert_allclose(errors, theirs.bse, rtol=1e-8)
            np.testing.assert_allclose(
                np.array([p.p_value for p in ours.parameters.values()], dtype=float),
                theirs.pvalues,
                rtol=1e-6,
                atol=1e-300,
            )
            np.testing.assert_allclose(
                [p.interval(0.9) for p in ours.parameters.values()], theirs.conf_int(0.1), rtol=1e-8
            )
            statistics = ours.statistics
            for mine, other in (
                (statistics.r_squared, 1 - theirs.ssr / theirs.centered_tss),
                (statistics.r_squared_about_zero or theirs.rsquared, theirs.rsquared),
                (statistics.f_statistic, theirs.fvalue), (statistics.residual_sum_of_squares, theirs.ssr),
                (statistics.aic, theirs.aic + 2), (statistics.bic, theirs.bic + np.log(24)),
            ):  # fmt: skip  # the variance counts as a parameter here
                self.assertAlmostEqual(mine / other, 1, delta=1e-8)

    def test_both_intervals(self) -> None:
        at = np.array([0.5, 3.3, 9.7])
        for (model, _), (ours, theirs, _) in zip([case for case in CASES for _ in range(2)], self.pairs(), strict=True):
            gradient = model.gradient(at, ours.values)
            summary = theirs.get_prediction(gradient).summary_frame(alpha=0.05)
            found = ours.predict(at)
            np.testing.assert_allclose(found.mean_low, summary["mean_ci_lower"], rtol=1e-7)
            np.testing.assert_allclose(found.high, summary["obs_ci_upper"], rtol=1e-7)

    def test_leverage_and_influence(self) -> None:
        for ours, theirs, _ in self.pairs()[::2]:
            influence = theirs.get_influence()
            np.testing.assert_allclose(ours.leverage, influence.hat_matrix_diag, rtol=1e-8)
            np.testing.assert_allclose(ours.standardised_residuals, influence.resid_studentized_internal, rtol=1e-7)
            np.testing.assert_allclose(ours.deleted_residuals, influence.resid_studentized_external, rtol=1e-7)
            np.testing.assert_allclose(ours.cooks_distance, influence.cooks_distance[0], rtol=1e-7)
            misses = leave_one_out(ours)
            self.assertTrue(misses.exact)
            np.testing.assert_allclose(misses.misses, influence.resid_press, rtol=1e-7)

    def test_correlations_of_the_parameters(self) -> None:
        ours, theirs, _ = self.pairs()[0]
        covariance = theirs.cov_params()
        errors = np.sqrt(np.diag(covariance))
        np.testing.assert_allclose(ours.correlations, covariance / np.outer(errors, errors), rtol=1e-8)
        np.testing.assert_allclose(ours.covariance, covariance, rtol=1e-7)

    def test_f_test_of_nested_models(self) -> None:
        small, large = fit(Readings(X, Y), Line()), fit(Readings(X, Y), Polynomial(3))
        f, p, added = (
            sm.OLS(Y, np.column_stack([X**k for k in range(4)]))
            .fit()
            .compare_f_test(sm.OLS(Y, sm.add_constant(X)).fit())
        )
        ours = nested_test(small, large)
        self.assertEqual(ours.added, int(added))
        self.assertAlmostEqual((ours.f or 0) / f, 1, delta=1e-9)
        self.assertAlmostEqual((ours.p or 0) / p, 1, delta=1e-6)


class Nesting(TestCase):
    def test_which_models_contain_which(self) -> None:
        for larger, smaller in (
            (Polynomial(2), Line()), (Line(), Line(intercept=0.0)), (Exponential(level=True), Exponential()),
            (Logarithmic(shift=True), Logarithmic()), (Polynomial(3), Polynomial(3, terms=[1, 3])),
            (Sinusoid(), Sinusoid().with_fixed({"midline": 0.0})),
        ):  # fmt: skip
            if (larger.fixed, smaller.fixed) != ({}, {"intercept": 0.0}):
                self.assertTrue(contains(larger, smaller), (larger, smaller))
            self.assertFalse(contains(smaller, larger), (larger, smaller))
        self.assertFalse(contains(Power(), Exponential()))

    def test_other_pairs_are_refused(self) -> None:
        readings = Readings(X, Y)
        with self.assertRaises(OutsideSense):
            nested_test(fit(readings, Polynomial(2)), fit(readings, Line()))
        with self.assertRaises(OutsideSense):
            nested_test(fit(Readings(X[1:], Y[1:]), Line()), fit(readings, Polynomial(2)))

    def test_r_squared_rises_with_the_degree_and_the_leave_one_out_error_does_not(self) -> None:
        rungs = degree_ladder(fit(Readings(X, Y), Line()))
        shares = [rung.r_squared or 0 for rung in rungs]
        self.assertEqual(shares, sorted(shares))
        errors = [rung.leave_one_out_error for rung in rungs]
        self.assertIn(int(np.argmin(errors)) + 1, (3, 4))
        self.assertEqual(len(rungs), 8)
        self.assertEqual(len(degree_ladder(fit(Readings(X[:4], Y[:4]), Line()))), 3)
