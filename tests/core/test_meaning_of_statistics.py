"""What R², F, s and the typical miss mean: the same for every model, with and without constant, weights and counts."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
import statsmodels.api as sm
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import chi2

from ridge.core import Fit, Readings, fit, with_values
from ridge.core.judging.comparison import leave_one_out, nested_test
from ridge.core.judging.misses import in_y, typical_miss
from ridge.core.models import (
    Exponential,
    Formula,
    Gaussian,
    Line,
    Logistic,
    Model,
    Polynomial,
    Power,
    Reciprocal,
    Sinusoid,
)
from ridge.core.wording.judgement import how_well, list_statistics
from ridge.core.wording.naming import Naming
from tests.examples import examples

X = np.linspace(1, 10, 14)
Y = 5 + 2 * X + np.random.default_rng(2).normal(0, 0.6, 14)
MODELS: tuple[Model, ...] = (
    Line(), Line(0.0), Line(5.0), Polynomial(2), Polynomial(2, [1, 2]), Exponential(), Exponential(level=True), Power(),
    Reciprocal(), Logistic(), Formula("a*x"), Formula("a*x^b"), Formula("a*exp(k*x)"), Formula("a*x+c"),
)  # fmt: skip


class AboutTheMean(TestCase):
    def test_every_model_by_the_definition(self) -> None:
        weight = np.linspace(1, 3, 14)
        for model in MODELS:
            for weights in (None, weight):
                with self.subTest(f"{model!r} {weights is not None}"):
                    result = fit(Readings(X, Y, weight=weights), model)
                    w = np.ones(14) if weights is None else weights
                    rest = Y - result.evaluate(X)
                    about = Y - np.average(Y, weights=w)
                    expected = float(1 - (w @ rest**2) / (w @ about**2))
                    found = result.statistics
                    self.assertAlmostEqual(found.r_squared or 0, expected, places=11)
                    degrees = 14 - len(result.model.free_names)
                    self.assertAlmostEqual(found.adjusted_r_squared or 0, 1 - (1 - expected) * 13 / degrees, places=11)
                    if model.has_constant:
                        self.assertIsNone(found.r_squared_about_zero)
                    else:
                        zero = float(1 - (w @ rest**2) / (w @ Y**2))
                        self.assertAlmostEqual(found.r_squared_about_zero or 0, zero, places=11)

    def test_with_a_fixed_term_too(self) -> None:
        """Not about what the fixed term leaves: with a fixed slope that would always be zero."""
        x, y = np.array([1.0, 2, 3, 4, 6, 7]), np.array([2.1, 3.9, 6.2, 7.8, 12.5, 14.1])
        for model in (Line().with_fixed({"slope": 2.0}), Polynomial(2).with_fixed({"c1": 1.5})):
            made = fit(Readings(x, y), model)
            wanted = 1 - np.sum((y - made.fitted) ** 2) / np.sum((y - y.mean()) ** 2)
            self.assertAlmostEqual(made.statistics.r_squared or 0, wanted, delta=1e-13)

    def test_the_better_fit_never_looks_worse(self) -> None:
        """Of fits to the same readings the one with the smaller RSS has the larger R², whatever constants they have."""
        fits = [fit(Readings(X, Y), model) for model in MODELS]
        by_rss = sorted(fits, key=lambda one: one.statistics.residual_sum_of_squares)
        shares = [one.statistics.r_squared or 0 for one in by_rss]
        self.assertEqual(shares, sorted(shares, reverse=True))

    def test_a_curve_that_misses_by_more_than_the_mean_has_a_negative_one_and_says_so(self) -> None:
        result = fit(Readings(X, 20 - X + 0.1 * Y), Line(0.0))
        self.assertLess(result.statistics.r_squared or 0, 0)
        self.assertIn("R² is negative", how_well(result, Naming()))
        self.assertIn("the mean of y would miss by less", how_well(result, Naming()))

    def test_a_second_figure_where_no_constant_is_free(self) -> None:
        rows = {row.name: row for row in list_statistics(fit(Readings(X, Y), Line(0.0)), Naming())}
        self.assertEqual(rows["r_squared_about_zero"].label, "R² about zero")
        self.assertNotIn(
            "r_squared_about_zero", {r.name for r in list_statistics(fit(Readings(X, Y), Line()), Naming())}
        )

    def test_in_logarithms_the_curve_in_y_is_compared(self) -> None:
        y = 40 * np.exp(-0.3 * X) * np.exp(np.resize([0.1, -0.05, -0.06, 0.02], 14))
        logarithms, plain = (fit(Readings(X, y), Exponential(), least_squares_in=way) for way in ("logarithms", "y"))
        expected = 1 - np.sum((y - logarithms.evaluate(X)) ** 2) / np.sum((y - y.mean()) ** 2)
        self.assertAlmostEqual(in_y(logarithms).r_squared or 0, expected, places=12)
        self.assertGreaterEqual(in_y(plain).r_squared or 0, in_y(logarithms).r_squared or 0)
        self.assertLessEqual(typical_miss(plain) or 0, typical_miss(logarithms) or 0)


class WhatFComparesWith(TestCase):
    def test_the_simplest_special_case(self) -> None:
        for model, null in (
            (Line(), "constant"), (Line(0.0), "zero"), (Line(5.0), "fixed"), (Polynomial(2, [1, 2]), "zero"), (Exponential(), "constant"),
            (Power(), "constant"), (Logistic(), "constant"), (Sinusoid(), "constant"), (Gaussian(), "constant"), (Reciprocal(), "constant"),
            (Exponential().with_fixed({"k": -0.2}), "zero"), (Exponential().with_fixed({"a": 3.0}), "zero"),
            (Exponential(level=True).with_fixed({"c": 2.0}), "fixed"), (Formula("a*x"), "zero"), (Formula("a*exp(k*x)"), "constant"),
            (Formula("a*x^n"), "constant"), (Formula("a/(1+b*x)"), "constant"), (Formula("sin(w*x)"), "zero"), (Formula("a*sqrt(x)"), "zero"),
        ):  # fmt: skip
            self.assertEqual(model.null, null, repr(model))

    def test_by_the_definition(self) -> None:
        for model in MODELS:
            with self.subTest(repr(model)):
                result = fit(Readings(X, Y), model)
                null = {"constant": Y.mean(), "zero": 0.0, "fixed": 5.0}[result.model.null]
                rss = float(np.sum((Y - result.evaluate(X)) ** 2))
                free = len(result.model.free_names)
                terms = free - (result.model.null == "constant")
                expected = (np.sum((Y - null) ** 2) - rss) / terms / (rss / (14 - free))
                self.assertAlmostEqual((result.statistics.f_statistic or 0) / expected, 1, places=8)
                meaning = next(r.meaning for r in list_statistics(result, Naming()) if r.name == "f_statistic")
                self.assertIn({"constant": "its mean", "zero": "zero", "fixed": "fixed"}[result.model.null], meaning)

    def test_the_exponential_against_statsmodels(self) -> None:
        """F of a nonlinear model with the constant as a special case is that of its linearisation against a constant."""
        result = fit(Readings(X, Y), Exponential())
        gradient = result.model.gradient(X, result.values)
        theirs = sm.OLS(Y - result.evaluate(X) + gradient @ list(result.values.values()), gradient).fit()
        self.assertAlmostEqual(theirs.ssr / result.statistics.residual_sum_of_squares, 1, places=9)

    def test_known_errors_are_used(self) -> None:
        result = fit(Readings(X, Y, y_error=0.6, absolute_errors=True), Line())
        theirs = sm.OLS(Y, sm.add_constant(X)).fit()
        self.assertAlmostEqual((result.statistics.f_statistic or 0) / (theirs.ess / 0.36), 1, places=9)
        loose = fit(Readings(X, 5 + np.resize([0.6, -0.6], 14), y_error=0.6, absolute_errors=True), Line())
        explained = loose.statistics.regression_sum_of_squares / 0.36
        self.assertAlmostEqual(loose.statistics.f_p_value or 0, float(chi2.sf(explained, 1)), places=10)
        square = fit(Readings(X, Y, y_error=0.6, absolute_errors=True), Polynomial(2))
        test = nested_test(result, square)
        gained = (result.statistics.residual_sum_of_squares - square.statistics.residual_sum_of_squares) / 0.36
        self.assertAlmostEqual(test.p or 0, float(chi2.sf(gained, 1)), places=10)


class TypicalMiss(TestCase):
    def test_the_size_of_the_weights_does_not_matter(self) -> None:
        for factor in (1e-8, 1.0, 1e4, 1e12):
            result = fit(Readings(X, Y, weight=np.full(14, factor)), Line())
            self.assertAlmostEqual(typical_miss(result) or 0, typical_miss(fit(Readings(X, Y), Line())) or 0, places=9)
            said = how_well(fit(Readings(X, Y), Line()), Naming()).partition("misses a reading by ")[2][:4]
            self.assertIn(f"misses a reading by {said}", how_well(result, Naming()))

    def test_it_is_of_the_plain_residuals(self) -> None:
        error = 0.3 * X
        result = fit(Readings(X, Y, y_error=error), Line())
        rest = Y - result.evaluate(X)
        self.assertAlmostEqual(typical_miss(result) or 0, float(np.sqrt(rest @ rest / 12)), places=12)
        s = next(
            row for row in list_statistics(result, Naming(y_unit="mm")) if row.name == "residual_standard_deviation"
        )
        self.assertIn("for a new reading whose standard uncertainty is", s.meaning)
        rss = next(row for row in list_statistics(result, Naming()) if row.name == "residual_sum_of_squares")
        self.assertTrue(rss.meaning.startswith("Weighted sum"))

    def test_for_given_numbers_too(self) -> None:
        given_fit = with_values(Readings(X, Y, weight=np.full(14, 1e4)), Line(), {"slope": 2.0, "intercept": 5.0})
        rest = Y - 5 - 2 * X
        self.assertAlmostEqual(typical_miss(given_fit) or 0, float(np.sqrt(rest @ rest / 14)), places=12)


class WhatOneRowDoes(TestCase):
    """Counted rows are left out as a whole: each diagnostic is that of the fit really made without the row."""

    def check(self, result: Fit) -> None:
        readings, s = result.readings, result.reading_deviation or 1.0
        weights = readings.used_weights
        free = len(result.model.free_names)
        errors = leave_one_out(result)
        for row in range(len(readings)):
            included = np.ones(len(readings), dtype=bool)
            included[row] = False
            other = fit(readings.choosing(included), result.model)
            moved = result.evaluate(readings.x) - other.evaluate(readings.x)
            self.assertAlmostEqual(
                float(result.cooks_distance[row]), float(weights @ moved**2) / (free * s * s), places=8
            )
            missed = float(readings.y[row] - other.evaluate(readings.x[row]))
            self.assertAlmostEqual(float(errors.misses[row]), missed, places=8)
        counts = readings.used_counts
        self.assertAlmostEqual(errors.error, float(np.sqrt(counts @ errors.misses**2 / counts.sum())), places=12)

    def test_the_row_that_occurred_six_times(self) -> None:
        y = [1.1, 2.9, 5.2, 6.8, 9.1, 11.0, 13.9, 15.1]
        result = fit(Readings(np.arange(8.0), y, count=[1, 1, 1, 1, 1, 1, 6, 1]), Line())
        self.assertAlmostEqual(float(result.cooks_distance[6]), 11.4794, places=4)
        self.check(result)

    @examples(25)
    @given(st.lists(st.integers(1, 9), min_size=14, max_size=14), st.booleans())
    def test_any_counts_and_weights(self, counts: list[int], weighted: bool) -> None:
        weight = np.linspace(1, 4, 14) if weighted else None
        self.check(fit(Readings(X, Y, count=counts, weight=weight), Polynomial(2)))

    def test_a_row_that_alone_determines_a_parameter_is_the_loudest(self) -> None:
        result = fit(Readings([1, 1, 1, 1, 9.0], [1, 2, 3, 2, 5.0]), Line())
        self.assertEqual(float(result.cooks_distance[4]), np.inf)
        self.assertIn((4,), [caution.rows for caution in result.cautions if caution.code == "one-reading-decides"])
        exact = fit(Readings([1, 2, 3.0], [2, 4, 6.0]), Line())
        self.assertFalse(np.isinf(exact.cooks_distance).any())
