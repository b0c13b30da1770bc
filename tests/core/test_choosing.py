"""Comparing, ranking and resampling."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from scipy.stats import probplot

from ridge.core import Readings, fit
from ridge.core.errors import OutsideSense
from ridge.core.judging.beside_constant import chance_beside_constant
from ridge.core.judging.comparison import compare, leave_one_out
from ridge.core.judging.quantiles import normal_quantiles
from ridge.core.judging.ranking import TRIED, bends, rank_models
from ridge.core.judging.resampling import bootstrap, k_fold, random_shares, root_mean_square
from ridge.core.judging.significance import CHECK
from ridge.core.models import Constant, Exponential, Line, Polynomial, Sinusoid
from ridge.core.wording.suggestion import reason, word_suggested

X = np.linspace(0.5, 10, 25)
NOISE = np.random.default_rng(1).normal(0, 0.2, 25)


class LeftOut(TestCase):
    def test_each_miss_is_that_of_a_fit_without_the_reading(self) -> None:
        y = 30 * np.exp(-0.4 * X) + 7 + NOISE
        for model in (Exponential(level=True), Polynomial(3)):
            result = leave_one_out(fit(Readings(X, y), model))
            for row in (0, 7, 24):
                others = np.arange(25) != row
                alone = fit(Readings(X[others], y[others]), model)
                self.assertAlmostEqual(result.misses[row], y[row] - alone.evaluate([X[row]])[0], places=7)
            self.assertAlmostEqual(result.error, np.sqrt(np.mean(result.misses**2)), places=12)

    def test_the_tangent_plane_is_close_and_said(self) -> None:
        x = np.linspace(0.5, 10, 80)
        y = 30 * np.exp(-0.4 * x) + 7 + np.random.default_rng(2).normal(0, 0.2, 80)
        result = leave_one_out(fit(Readings(x, y), Exponential(level=True)))
        self.assertFalse(result.exact)
        row = fit(Readings(x[1:], y[1:]), Exponential(level=True))
        self.assertAlmostEqual(result.misses[0] / (y[0] - row.evaluate([x[0]])[0]), 1, delta=0.02)

    def test_a_reading_that_alone_sets_a_parameter(self) -> None:
        readings = Readings([1, 1, 1, 2.0], [1.0, 1.1, 0.9, 3.0])
        self.assertTrue(np.isnan(leave_one_out(fit(readings, Line())).misses[3]))

    def test_rows_side_by_side(self) -> None:
        readings = Readings(X, 2 * X + 1 + NOISE)
        rows = compare([fit(readings, Line()), fit(readings, Polynomial(4))])
        self.assertLess(rows[0].aicc or 0, rows[1].aicc or 0)
        self.assertGreater(rows[1].r_squared or 0, rows[0].r_squared or 0)
        self.assertEqual([row.parameters for row in rows], [2, 5])


class Ranking(TestCase):
    def test_the_right_kind_comes_first(self) -> None:
        for y, first in (
            (2 * X + 1, "Line()"), (30 * np.exp(-0.4 * X) + 7, "Exponential(level=True)"), (3 * X**1.7, "Power()"),
            (3 * np.sin(2 * X) + 4, "Sinusoid(degrees=False, form='sin')"), (0.1 * (X - 2) * (X - 5) * (X - 8), "Polynomial(3)"),
        ):  # fmt: skip
            ranked = rank_models(Readings(X, y + NOISE))
            self.assertEqual(repr(ranked[0].model), first)
            self.assertEqual(len(ranked), len(TRIED))
            self.assertAlmostEqual(sum(one.weight for one in ranked), 1, places=9)
            sentences = [reason(one) for one in ranked]
            self.assertTrue(all(sentence.endswith(".") for sentence in sentences))

    def test_none_is_hidden_where_it_cannot_be_fitted(self) -> None:
        ranked = rank_models(Readings(X - 5, X + NOISE))
        refused = [one for one in ranked if one.fit is None]
        self.assertIn("Logarithmic()", [repr(one.model) for one in refused])
        self.assertTrue(all(one.refusal for one in refused))
        self.assertEqual(ranked[-1].fit, None)

    def test_three_readings(self) -> None:
        ranked = rank_models(Readings([1, 2, 4], [1.0, 2.1, 3.7]))
        self.assertEqual(len(ranked), len(TRIED))

    def test_four_readings_are_ranked_by_the_f_test_and_leave_one_out(self) -> None:
        """AICc does not exist for two parameters at n = 4; the constant, which has one, must not win for that reason."""
        x, y = np.array([1.0, 2, 3, 4]), np.array([2.1, 3.7, 6.2, 7.9])
        ranked = rank_models(Readings(x, y))
        line = next(one for one in ranked if repr(one.model) == "Line()")
        constant = next(one for one in ranked if one.model.flat)
        assert line.fit is not None and line.fit.statistics.r_squared is not None
        self.assertGreater(line.fit.statistics.r_squared, 0.99)
        self.assertLess(ranked.index(line), ranked.index(constant))
        self.assertIn("too few readings to compare", reason(line))
        self.assertIn("other models are significantly better", reason(constant))
        # By hand: without each reading in turn, the line through the other three.
        off = [y[i] - np.polyval(np.polyfit(np.delete(x, i), np.delete(y, i), 1), x[i]) for i in range(4)]
        self.assertAlmostEqual(line.leave_one_out or 0, float(np.sqrt(np.mean(np.square(off)))), places=10)
        self.assertTrue(word_suggested([], few=True).startswith("Too few readings to compare"))

    def test_the_more_models_are_tried_the_more_evidence_is_needed(self) -> None:
        x = np.arange(12.0)
        y = 0.40 * x + np.array([1, -2, 1.5, 0, 2, -1, -2, 2, -1.5, 1, 0.5, -1.5])
        alone = rank_models(Readings(x, y), [Constant(), Line()])
        p = chance_beside_constant(fit(Readings(x, y), Line())) or 0
        self.assertTrue(0.05 / 12 < p < 0.05, p)
        self.assertEqual([repr(one.model) for one in alone], ["Line()", "Constant()"])
        self.assertTrue(rank_models(Readings(x, y))[0].model.flat)

    def test_bends(self) -> None:
        for y, count in ((2 * X + 1, 0), ((X - 5) ** 2, 1), ((X - 2) * (X - 5) * (X - 8) / 5, 2)):
            self.assertEqual(bends(Readings(X, y + NOISE)), count)


class Resampling(TestCase):
    result = fit(Readings(X, 2 * X + 1 + NOISE, included=np.arange(25) != 3), Line())

    def test_shares_are_random_and_repeatable(self) -> None:
        one, other = random_shares(self.result, 0.5, 6, seed=3), random_shares(self.result, 0.5, 6, seed=3)
        for first, second in zip(one, other, strict=True):
            np.testing.assert_array_equal(first.included, second.included)
            self.assertEqual(first.included.sum(), 12)
            self.assertFalse(first.included[3])
        self.assertFalse(np.array_equal(one[0].included, random_shares(self.result, 0.5, 1, seed=4)[0].included))

    def test_the_error_is_that_of_the_readings_left_out(self) -> None:
        draw = random_shares(self.result, 0.5, 1)[0]
        assert draw.fit is not None
        out = self.result.readings.used & ~draw.included
        misses = self.result.readings.y[out] - draw.fit.evaluate(X[out])
        self.assertAlmostEqual(draw.error, np.sqrt(np.mean(misses**2)), places=12)

    def test_folds_leave_each_reading_out_once(self) -> None:
        draws = k_fold(self.result, 5)
        left_out = sum((self.result.readings.used & ~draw.included).astype(int) for draw in draws)
        np.testing.assert_array_equal(left_out, self.result.readings.used.astype(int))
        every = k_fold(self.result, 24)
        self.assertAlmostEqual(root_mean_square(every, self.result), leave_one_out(self.result).error, places=10)

    def test_overfitting_shows(self) -> None:
        readings = Readings(X[:12], (2 * X + 1 + 5 * NOISE)[:12])
        calm, wild = (
            root_mean_square(k_fold(fit(readings, model), 6), fit(readings, model)) for model in (Line(), Polynomial(8))
        )
        self.assertGreater(wild, 2 * calm)

    def test_bootstrap_intervals_agree_with_students(self) -> None:
        usual = self.result.parameters["slope"].interval()
        for of in ("residuals", "readings"):
            low, high = bootstrap(self.result, 400, of=of).intervals["slope"]
            self.assertAlmostEqual((high - low) / (usual[1] - usual[0]), 1, delta=0.25)

    def test_bootstrap_of_a_curve_that_sometimes_fails(self) -> None:
        result = fit(Readings(X[:6], np.sin(X[:6]) + NOISE[:6]), Sinusoid())
        found = bootstrap(result, 30, of="readings")
        self.assertEqual(len(found.values) + found.failed, 30)

    def test_arguments_outside_sense(self) -> None:
        for call in (
            lambda: random_shares(self.result, 1.0), lambda: random_shares(self.result, 0.5, 0), lambda: k_fold(self.result, 1),
            lambda: k_fold(self.result, 99), lambda: bootstrap(self.result, of="rows"), lambda: bootstrap(self.result, level=2),
        ):  # fmt: skip
            with self.assertRaises(OutsideSense):
                call()


class Quantiles(TestCase):
    def test_against_scipy(self) -> None:
        result = fit(Readings(X, 2 * X + 1 + NOISE), Line())
        found = normal_quantiles(result)
        np.testing.assert_allclose(found.observed, np.sort(result.standardised_residuals), rtol=1e-12)
        # SciPy's probplot uses Filliben's places, which differ a little from Blom's.
        (expected, _), _ = probplot(result.standardised_residuals)
        np.testing.assert_allclose(found.expected, expected, atol=0.06)
        self.assertEqual(list(found.rows), list(np.argsort(result.standardised_residuals)))

    def test_few_readings_are_not_tested(self) -> None:
        self.assertIsNone(normal_quantiles(fit(Readings([1, 2, 4], [1.0, 3.0, 4.0]), Line())).p)

    def test_normal_scatter_is_called_so_whatever_the_number_of_readings(self) -> None:
        random = np.random.default_rng(4)
        for n in (8, 12, 50, 300):
            x = np.linspace(0, 10, n)
            alarms = sum(
                (normal_quantiles(fit(Readings(x, 2 * x + random.normal(0, 1, n)), Line())).p or 1) < CHECK
                for _ in range(300)
            )
            self.assertLess(alarms, 12, n)  # one in a hundred is expected: 3, give or take 1.7
            skewed = fit(Readings(x, 2 * x + random.exponential(1, n) ** 2), Line())
            if n >= 50:
                self.assertLess(normal_quantiles(skewed).p or 1, CHECK)
