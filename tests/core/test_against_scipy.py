"""Numbers beside those of SciPy and statsmodels, or beside a simulation, at places where a slip would look right.

Bounds of linear models (``scipy.optimize.lsq_linear``), logarithms with uncertainties (statsmodels' WLS on ln y), the likelihood
with known uncertainties (``scipy.stats.norm``), tests of nested models (``scipy.stats.f``), and quantities whose uncertainty
is seen by drawing readings anew.
"""

from __future__ import annotations

from unittest import TestCase

import numpy as np
import statsmodels.api as sm
from scipy.optimize import lsq_linear
from scipy.stats import chi2, f, norm

from ridge.core import Fit, Readings, fit
from ridge.core.judging.comparison import nested_test
from ridge.core.judging.misses import in_y, typical_miss
from ridge.core.judging.quantiles import normal_quantiles
from ridge.core.judging.resampling import bootstrap, k_fold, movement, root_mean_square
from ridge.core.models import Exponential, Line, Polynomial, Power
from ridge.core.models.square_root import SquareRoot
from ridge.core.predicting.derived import derived_of, limits_of
from ridge.core.predicting.features import crossings
from ridge.core.predicting.parameter_limits import intervals

RANDOM = np.random.default_rng(31)
X = np.linspace(0.5, 8, 18)
NOISE = RANDOM.normal(0, 1, 18)


class BoundsOfLinearModels(TestCase):
    """Each bound in force, or not, as SciPy's active-set solver finds it."""

    def test_beside_lsq_linear(self) -> None:
        y = 1 + 0.4 * X + 0.05 * X**2 + 0.2 * NOISE
        design = np.stack([np.ones(18), X, X**2], axis=1)
        for bounds in (
            {"c0": (2.0, 3.0)}, {"c1": (-np.inf, 0.1)}, {"c2": (0.1, np.inf)}, {"c0": (-1.0, 0.0), "c2": (0.0, 0.02)},
            {"c0": (-5.0, 5.0)}, {"c1": (0.5, 2.0), "c2": (-1.0, 0.0), "c0": (0.0, 0.5)},
        ):  # fmt: skip
            low = [bounds.get(name, (-np.inf, np.inf))[0] for name in ("c0", "c1", "c2")]
            high = [bounds.get(name, (-np.inf, np.inf))[1] for name in ("c0", "c1", "c2")]
            theirs = lsq_linear(design, y, (low, high), tol=1e-14).x
            ours = fit(Readings(X, y), Polynomial(2), bounds=bounds)
            np.testing.assert_allclose([ours.values[name] for name in ("c0", "c1", "c2")], theirs, atol=1e-7)
            held = {one.name for one in ours.held if one.why == "bound"}
            near = {
                name
                for name, value, a, b in zip(("c0", "c1", "c2"), theirs, low, high, strict=True)
                if abs(value - a) < 1e-9 or abs(value - b) < 1e-9
            }
            self.assertEqual(held, near, bounds)


class InLogarithms(TestCase):
    """An uncertainty u of y counts as u/y in ln y."""

    def test_uncertainties_that_are_known_and_that_are_not(self) -> None:
        y = 6 * np.exp(-0.4 * X) * np.exp(0.05 * NOISE)
        u = 0.02 + 0.03 * y + 0.01 * X
        for absolute in (False, True):
            ours = fit(
                Readings(X, y, y_error=u, absolute_errors=absolute), Exponential(), least_squares_in="logarithms"
            )
            theirs = sm.WLS(np.log(y), sm.add_constant(X), weights=(y / u) ** 2).fit()
            np.testing.assert_allclose(ours.values["k"], theirs.params[1], rtol=1e-11)
            np.testing.assert_allclose(np.log(ours.values["a"]), theirs.params[0], rtol=1e-10)
            error = theirs.bse[1] / (np.sqrt(theirs.scale) if absolute else 1.0)
            np.testing.assert_allclose(ours.parameters["k"].standard_error, error, rtol=1e-9)  # type: ignore[arg-type]

    def test_a_power_law_and_how_well_it_does_in_y(self) -> None:
        y = 3 * X**1.7 * np.exp(0.1 * NOISE)
        ours = fit(Readings(X, y), Power(), least_squares_in="logarithms")
        theirs = sm.OLS(np.log(y), sm.add_constant(np.log(X))).fit()
        np.testing.assert_allclose(ours.values["n"], theirs.params[1], rtol=1e-11)
        rest = y - np.exp(theirs.params[0]) * X ** theirs.params[1]
        np.testing.assert_allclose(typical_miss(ours), np.sqrt(np.sum(rest**2) / 16))  # type: ignore[arg-type]
        share = 1 - np.sum(rest**2) / np.sum((y - y.mean()) ** 2)
        found = in_y(ours)
        np.testing.assert_allclose(found.r_squared, share)  # type: ignore[arg-type]
        np.testing.assert_allclose(found.adjusted_r_squared, 1 - (1 - share) * 17 / 16)  # type: ignore[arg-type]


class Likelihood(TestCase):
    def test_with_known_uncertainties(self) -> None:
        u = 0.1 + 0.02 * X
        y = 2 * X - 1 + u * NOISE
        ours = fit(Readings(X, y, y_error=u, absolute_errors=True), Line())
        log_likelihood = norm.logpdf(y, ours.fitted, u).sum()
        np.testing.assert_allclose(ours.statistics.aic, 4 - 2 * log_likelihood)  # type: ignore[arg-type]
        np.testing.assert_allclose(ours.statistics.bic, 2 * np.log(18) - 2 * log_likelihood)  # type: ignore[arg-type]
        np.testing.assert_allclose(ours.statistics.aicc, 4 - 2 * log_likelihood + 12 / 15)  # type: ignore[arg-type]
        np.testing.assert_allclose(ours.statistics.chi_squared, np.sum(((y - ours.fitted) / u) ** 2))  # type: ignore[arg-type]
        np.testing.assert_allclose(ours.statistics.reduced_chi_squared, ours.statistics.chi_squared / 16)  # type: ignore[operator, arg-type]


class NestedModels(TestCase):
    """F and its degrees of freedom by hand, p by SciPy."""

    def test_two_terms_more(self) -> None:
        y = 2 * X - 1 + 0.02 * X**3 + NOISE
        small, large = (fit(Readings(X, y), model) for model in (Line(), Polynomial(3)))
        one, other = (found.statistics.residual_sum_of_squares for found in (small, large))
        ratio = (one - other) / 2 / (other / 14)
        test = nested_test(small, large)
        self.assertEqual((test.added, test.degrees_of_freedom), (2, 14))
        np.testing.assert_allclose(test.f, ratio, rtol=1e-9)  # type: ignore[arg-type]
        np.testing.assert_allclose(test.p, f.sf(ratio, 2, 14), rtol=1e-8)  # type: ignore[arg-type]

    def test_with_known_uncertainties(self) -> None:
        u = np.full(18, 0.8)
        y = 2 * X - 1 + 0.02 * X**3 + u * NOISE
        small, large = (
            fit(Readings(X, y, y_error=u, absolute_errors=True), model) for model in (Line(), Polynomial(3))
        )
        gained = (small.statistics.chi_squared or 0) - (large.statistics.chi_squared or 0)
        test = nested_test(small, large)
        np.testing.assert_allclose(test.f, gained / 2, rtol=1e-9)  # type: ignore[arg-type]
        np.testing.assert_allclose(test.p, chi2.sf(gained, 2), rtol=1e-9)  # type: ignore[arg-type]

    def test_the_curve_as_a_whole(self) -> None:
        y = 2 * X - 1 + 0.3 * X**2 + NOISE
        ours = fit(Readings(X, y), Polynomial(2)).statistics
        np.testing.assert_allclose(ours.f_p_value, f.sf(ours.f_statistic, 2, 15), rtol=1e-9)  # type: ignore[arg-type]


class WhatFollows(TestCase):
    """Limits of a derived quantity come from those of its parameter, turned round where it falls with it."""

    def test_the_lower_limit_is_the_lower_one(self) -> None:
        result = fit(Readings(X[:7], 9 * np.exp(-0.35 * X[:7]) + 2 + 1.2 * NOISE[:7]), Exponential(level=True))
        limits = intervals(result, 0.95)
        self.assertEqual(limits["k"].method, "profile")
        half = next(one for one in derived_of(result) if one.name == "half-life")
        low, high = limits_of(result, half, limits, 0.95)
        self.assertLess(low, half.value)
        self.assertGreater(high, half.value)
        # ln 2 over the rate: the steepest rate halves soonest (limits["k"].low is the most negative one).
        np.testing.assert_allclose(low, -np.log(2) / limits["k"].low, rtol=1e-6)
        expected = -np.log(2) / limits["k"].high if limits["k"].high < 0 else np.inf
        np.testing.assert_allclose(high, expected, rtol=1e-6)


class ByDrawingAnew(TestCase):
    """Uncertainties beside the scatter of what comes out when the readings are drawn a thousand times."""

    def drawn(self, truth: np.ndarray, error: float, count: int) -> np.ndarray:
        return truth + np.random.default_rng(5).normal(0, error, (count, len(truth)))

    def test_a_crossing_of_two_fits_to_the_same_readings(self) -> None:
        """They share their scatter, which counts once. The uncertainties are known, so that no misfit adds to it."""
        truth, error = 1 + 0.5 * X + 1.2 * np.sqrt(X), 0.15
        seen = []
        for y in self.drawn(truth, error, 600):
            readings = Readings(X, y, y_error=np.full(18, error), absolute_errors=True)
            first, *_ = crossings(fit(readings, Line()), fit(readings, SquareRoot()))
            assert first.x_error is not None and first.y_error is not None
            seen.append((first.x, first.x_error, first.y, first.y_error))
        found = np.array(seen)
        for place in (0, 2):
            np.testing.assert_allclose(np.median(found[:, place + 1]), found[:, place].std(), rtol=0.1)

    def test_where_the_scatter_cancels(self) -> None:
        """A line and a parabola through the same readings cross at the zeros of the second orthogonal polynomial, whatever y is."""
        y = 1 + 0.8 * X + 0.06 * (X - 4) ** 2 + 0.15 * NOISE
        readings = Readings(X, y, y_error=np.full(18, 0.15), absolute_errors=True)
        for one in crossings(fit(readings, Line()), fit(readings, Polynomial(2))):
            self.assertLess(one.x_error or 0, 1e-6)

    def test_the_bootstrap_of_a_line(self) -> None:
        """Residuals enlarged by their leverage scatter as the readings do: the standard errors come back."""
        y = 2 * X - 1 + 0.5 * NOISE
        result = fit(Readings(X, y), Line())
        drawn = bootstrap(result, times=2000, seed=3)
        for column, parameter in zip(drawn.values.T, result.parameters.values(), strict=True):
            np.testing.assert_allclose(np.std(column), parameter.standard_error, rtol=0.06)  # type: ignore[arg-type]
            low, high = drawn.intervals[parameter.name]
            np.testing.assert_allclose([low, high], np.percentile(column, [2.5, 97.5]))


class LeftOut(TestCase):
    def line(self) -> Fit:
        return fit(Readings(X, 2 * X - 1 + 0.5 * NOISE), Line())

    def test_folds_are_those_of_numpys_generator(self) -> None:
        result = self.line()
        draws = k_fold(result, folds=4, seed=9)
        parts = np.array_split(np.random.default_rng(9).permutation(18), 4)
        misses = []
        for draw, part in zip(draws, parts, strict=True):
            self.assertEqual(np.flatnonzero(~draw.included).tolist(), sorted(part.tolist()))
            rest = np.setdiff1d(np.arange(18), part)
            slope, intercept = np.polyfit(X[rest], result.readings.y[rest], 1)
            missed = result.readings.y[part] - slope * X[part] - intercept
            np.testing.assert_allclose(draw.error, np.sqrt(np.mean(missed**2)), rtol=1e-8)
            misses.extend(missed)
        np.testing.assert_allclose(root_mean_square(draws, result), np.sqrt(np.mean(np.square(misses))), rtol=1e-8)

    def test_how_far_curves_lie_apart(self) -> None:
        result = self.line()
        draws = k_fold(result, folds=3, seed=1)
        at = np.linspace(X[0], X[-1], 121)
        apart = np.std([draw.fit.evaluate(at) for draw in draws if draw.fit is not None], axis=0, ddof=1)
        found = movement(draws, result)
        np.testing.assert_allclose([found.typical, found.largest], [np.median(apart), apart.max()])
        self.assertAlmostEqual(found.at, float(at[np.argmax(apart)]))

    def test_quantiles_are_in_order(self) -> None:
        result = self.line()
        found = normal_quantiles(result)
        np.testing.assert_allclose(found.expected, norm.ppf((np.arange(1, 19) - 0.375) / 18.25))
        np.testing.assert_array_equal(found.observed, np.sort(result.standardised_residuals))
        np.testing.assert_array_equal(result.standardised_residuals[found.rows], found.observed)


class Orthogonal(TestCase):
    def test_leverage_is_that_of_the_weights_carried_over(self) -> None:
        """diag(W^½ X (XᵀWX)⁻¹ Xᵀ W^½) with 1/W = u_y² + slope²·u_x²."""
        u_x, u_y = 0.05 + 0.02 * X, 0.2 + 0.05 * X
        result = fit(
            Readings(X, 2 * X - 1 + u_y * NOISE, x_error=u_x, y_error=u_y), Line(), least_squares_in="orthogonal"
        )
        weight = 1 / (u_y**2 + (result.values["slope"] * u_x) ** 2)
        design = np.stack([X, np.ones(18)], axis=1) * np.sqrt(weight)[:, None]
        hat = design @ np.linalg.inv(design.T @ design) @ design.T
        np.testing.assert_allclose(result.leverage, np.diag(hat), rtol=1e-8)
        self.assertAlmostEqual(float(result.leverage.sum()), 2.0, places=8)
