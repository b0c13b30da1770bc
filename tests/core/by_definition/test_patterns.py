"""Patterns in residuals, and residuals without any, by the definitions of their tests."""

from __future__ import annotations

import itertools
import unittest

import numpy as np
import numpy.typing as npt
import statsmodels.api as sm
from scipy import stats
from statsmodels.stats.stattools import durbin_watson

from ridge.core.by_hand import with_values
from ridge.core.fitting import fit
from ridge.core.judging.clean import Scatter, _scatter, chance_of_at_least, two_sided
from ridge.core.judging.influence import readings_far_off
from ridge.core.judging.order import count_changes, find_order
from ridge.core.judging.patterns import Pattern, _spread_trend, pattern_of, ranks, signs_probability
from ridge.core.judging.periodogram import find_wave
from ridge.core.judging.significance import CHECK, RESIDUAL_CHECKS, SIGNIFICANT, WAVE_CHECK
from ridge.core.models import Constant, Line, Polynomial
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from tests.core.by_definition.random_studies import hat, studies

Floats = npt.NDArray[np.float64]


class CleanResiduals(unittest.TestCase):
    def test_what_is_left_is_the_residual_of_least_squares(self) -> None:
        random = np.random.default_rng(6)
        design = np.vander(random.uniform(1, 5, 14), 3)
        values = random.normal(size=14)
        scatter = Scatter(design * [1e9, 1, 1e-14])
        np.testing.assert_allclose(scatter.left_of(values), sm.OLS(values, design).fit().resid, atol=1e-11)
        np.testing.assert_allclose(scatter.leverage, np.diag(hat(design)), atol=1e-11)

    def test_a_direction_that_says_nothing_new_takes_up_nothing(self) -> None:
        x = np.linspace(0, 1, 9)
        twice = Scatter(np.stack([np.ones(9), x, 2 * x - 3, np.zeros(9)], axis=1))
        np.testing.assert_allclose(twice.leverage, np.diag(hat(np.stack([np.ones(9), x], axis=1))), atol=1e-12)

    def test_how_many_draws_there_are(self) -> None:
        # The same draws in every version, so that what is computed stays.
        pinned = np.random.default_rng(20).standard_normal((999, 1))[:2, 0]
        np.testing.assert_array_equal(_scatter(1, 999)[:2, 0], pinned)
        self.assertFalse(_scatter(1, 999).flags.writeable)
        for n, draws in ((100, 999), (101, 399)):
            drawn = Scatter(np.ones((n, 1))).simulated()
            self.assertEqual(drawn.shape, (draws, n))
            np.testing.assert_allclose(drawn.mean(axis=1), 0, atol=1e-12)
            self.assertTrue(np.array_equal(drawn, Scatter(np.ones((n, 1))).simulated()))

    def test_chances_count_the_draws_and_the_finding_itself(self) -> None:
        drawn = np.array([1.0, 2, 3, 4])
        self.assertEqual([chance_of_at_least(drawn, found) for found in (0, 3, 4, 5)], [1, 3 / 5, 2 / 5, 1 / 5])
        self.assertEqual([two_sided(drawn, found) for found in (5, 0, 2.5, 4)], [2 / 5, 2 / 5, 1, 4 / 5])


class SignsOfResiduals(unittest.TestCase):
    def test_the_sign_test_is_the_binomial_one(self) -> None:
        for above, below in itertools.product(range(9), range(9)):
            expected = stats.binomtest(above, above + below).pvalue if above + below else None
            found = signs_probability(above, below)
            self.assertAlmostEqual(found or 0, expected or 0, 12)

    def test_changes_are_counted_over_zeros(self) -> None:
        self.assertEqual(count_changes(np.array([1.0, 0, -2, -3, 0, 4, 5])), 2)

    def test_von_neumanns_ratio(self) -> None:
        """The ratio by statsmodels; its chance with draws by their share, without by the normal distribution."""
        residuals = np.array([1.0, 2, 3, -1, -2, -3, 1, 2, -1])
        drawn = np.random.default_rng(7).normal(size=(500, 9))
        found, plain = find_order(residuals, drawn), find_order(residuals, None)
        assert found is not None and plain is not None
        ratio = durbin_watson(residuals)
        ratios = durbin_watson(drawn, axis=1)
        above, below = (ratios >= ratio).sum(), (ratios <= ratio).sum()
        self.assertAlmostEqual(found.ratio, ratio)
        self.assertEqual(found.chance, min(1, 2 * min((1 + above) / 501, (1 + below) / 501)))
        self.assertAlmostEqual(plain.chance, 2 * stats.norm.sf(abs(ratio - 2) * 3 / 2))

    def test_seven_or_one_sided_say_nothing(self) -> None:
        for signs in ([1, -1, 1, -1, 1, -1, 1], [1.0] * 12):
            self.assertIsNone(find_order(np.array(signs, dtype=float), None))
        self.assertIsNotNone(find_order(np.array([1.0] * 11 + [-1]), None))
        self.assertIsNotNone(find_order(np.array([-1.0] * 11 + [1]), None))


class Patterns(unittest.TestCase):
    def test_bend_is_the_f_test_of_one_more_power(self) -> None:
        for model, degree in ((Line(), 1), (Polynomial(2), 2), (Constant(), 0)):
            for found, design in studies(8, 30, model, degree):
                if readings_far_off(found):
                    continue
                x = found.readings.x
                more = np.column_stack([design, (x - x.mean()) ** (degree + 1)])
                test = sm.OLS(found.readings.y, more).fit()
                before = sm.OLS(found.readings.y, design).fit()
                p = test.compare_f_test(before)[1]
                pattern = pattern_of(found)
                if found.statistics.degrees_of_freedom - 1 < 3:
                    self.assertIsNone(pattern.bend_p)
                    continue
                assert pattern.bend_p is not None
                self.assertAlmostEqual(pattern.bend_p, p, 9)
                self.assertEqual(pattern.bend, int(np.sign(test.params[-1])) if degree == 1 else 0)

    def test_bend_of_a_line_through_the_origin_is_tried_with_the_square(self) -> None:
        random = np.random.default_rng(9)
        x = np.linspace(1, 9, 14)
        y = 2 * x + 0.05 * (x - 5) ** 2 + random.normal(0, 0.2, 14)
        pattern = pattern_of(fit(Readings(x, y), Line(), fixed={"intercept": 0}))
        u = (x - x.mean()) / np.abs(x - x.mean()).max()
        more, before = sm.OLS(y, np.column_stack([x, u**2])).fit(), sm.OLS(y, x).fit()
        assert pattern.bend_p is not None
        self.assertAlmostEqual(pattern.bend_p, more.compare_f_test(before)[1], 9)

    def test_bend_is_weighted_as_the_fit_is(self) -> None:
        random = np.random.default_rng(10)
        x, error = np.linspace(0, 9, 16), random.uniform(0.2, 2, 16)
        y = 1 + x + 0.03 * x**2 + error * random.normal(0, 1, 16)
        found = fit(Readings(x, y, y_error=error, absolute_errors=False), Line())
        u = x - x.mean()
        more = sm.WLS(y, np.column_stack([np.ones(16), u, u**2]), 1 / error**2).fit()
        before = sm.WLS(y, np.column_stack([np.ones(16), u]), 1 / error**2).fit()
        p = pattern_of(found).bend_p
        assert p is not None
        self.assertAlmostEqual(p, more.compare_f_test(before)[1], 9)

    def test_a_reading_far_off_is_left_out_of_the_order_of_the_others(self) -> None:
        random = np.random.default_rng(11)
        x = np.linspace(0, 10, 20)
        y = 2 * x + random.normal(0, 0.3, 20)
        y[4] += 9
        found, rest = fit(Readings(x, y), Line()), np.delete(np.arange(20), 4)
        self.assertEqual(readings_far_off(found), [4])
        alone = pattern_of(fit(Readings(x[rest], y[rest]), Line()))
        pattern = pattern_of(found)
        self.assertEqual(pattern.order_p, alone.order_p)
        assert pattern.bend_p is not None and alone.bend_p is not None
        self.assertAlmostEqual(pattern.bend_p, alone.bend_p, 9)

    def test_where_a_tenth_lies_far_off_it_is_the_curve_that_does(self) -> None:
        few, many = self.far_from_a_curve(1), self.far_from_a_curve(3)
        self.assertEqual((len(readings_far_off(few)), len(readings_far_off(many))), (1, 3))
        for found, left_out in ((few, True), (many, False)):
            u, rows = found.readings.x, np.arange(20)
            kept = np.delete(rows, readings_far_off(found)) if left_out else rows
            design = np.stack([np.ones(len(kept)), u[kept], u[kept] ** 2], axis=1)
            more, before = (
                sm.OLS(found.readings.y[kept], design).fit(),
                sm.OLS(found.readings.y[kept], design[:, :2]).fit(),
            )
            p = pattern_of(found).bend_p
            assert p is not None
            self.assertAlmostEqual(p, more.compare_f_test(before)[1], 9)

    def far_from_a_curve(self, count: int) -> Fit:
        """Twenty readings whose given errors say that so many of them are far off."""
        random = np.random.default_rng(24)
        x = np.linspace(0, 10, 20)
        y = x + random.normal(0, 0.1, 20)
        y[[4, 11, 15][:count]] += 0.5
        return fit(Readings(x, y, y_error=np.full(20, 0.1), absolute_errors=True), Line())

    def test_spread_of_many_is_spearman_s(self) -> None:
        random = np.random.default_rng(13)
        for grows in (0, 0.2):
            x = np.sort(random.uniform(0, 10, 90))
            y = 2 * x + random.normal(0, 1 + grows * x)
            found = fit(Readings(x, y), Line())
            sizes = np.abs(found.standardised_residuals)
            r = stats.spearmanr(sizes, found.fitted)
            pattern = pattern_of(found)
            if readings_far_off(found):
                continue
            assert pattern.spread_p is not None
            self.assertAlmostEqual(pattern.spread_p, r.pvalue, 9)
            self.assertEqual(pattern.spread, int(np.sign(r.statistic)))

    def test_spread_in_full_order_is_certain(self) -> None:
        """Seventy residuals whose sizes rise with the curve without a single exception."""
        x = np.arange(70.0)
        sizes = 0.5 + 0.01 * x
        found = with_values(Readings(x, 2 * x + sizes * (-1.0) ** np.arange(70)), Line(), {"slope": 2, "intercept": 0})
        chance, way = _spread_trend(found.residuals, found.fitted, np.zeros(70), None)
        self.assertEqual((chance, way), (0.0, 1))
        self.assertEqual(_spread_trend(found.residuals, np.full(70, 3.0), np.zeros(70), None), (None, 0))
        missing = found.fitted.copy()
        missing[3] = np.nan
        self.assertEqual(_spread_trend(found.residuals, missing, np.zeros(70), None), (None, 0))
        tied = np.where(x < 35, 0.5, 1.0) * (-1.0) ** np.arange(70)
        r = stats.spearmanr(np.abs(tied), found.fitted)
        again, _ = _spread_trend(tied, found.fitted, np.zeros(70), None)
        assert again is not None
        self.assertAlmostEqual(again / r.pvalue, 1, 9)

    def test_spread_of_few_is_held_against_draws(self) -> None:
        random = np.random.default_rng(14)
        x = np.linspace(0, 10, 30)
        found = fit(Readings(x, 2 * x + random.normal(0, 0.1 + 0.3 * x)), Line())
        room = np.sqrt(1 - found.leverage)
        drawn = np.abs(Scatter(np.stack([np.ones(30), x], axis=1)).simulated()) / room
        shares = np.array([stats.spearmanr(one, found.fitted).statistic for one in drawn])
        own = stats.spearmanr(np.abs(found.residuals) / room, found.fitted).statistic
        p = pattern_of(found).spread_p
        assert p is not None
        expected = 2 * min((1 + (shares >= own - 1e-12).sum()) / 1000, (1 + (shares <= own + 1e-12).sum()) / 1000)
        self.assertAlmostEqual(p, min(1, expected), 9)

    def test_ranks_share_ties(self) -> None:
        values = np.array([3.0, 1, 3, 2, 2, 2, 9])
        np.testing.assert_array_equal(ranks(values), stats.rankdata(values))

    def test_what_counts_as_a_pattern(self) -> None:
        def one(**found: float) -> Pattern:
            return Pattern(1, 1, 1, **{"order_p": 1, "bend_p": 1, "bend": 0, **found})  # type: ignore[arg-type]

        self.assertAlmostEqual(WAVE_CHECK + (RESIDUAL_CHECKS - 1) * CHECK, SIGNIFICANT)
        below, above = CHECK * 0.999, CHECK * 1.001
        for name, limit in (("order_p", CHECK), ("bend_p", CHECK), ("wave_p", WAVE_CHECK)):
            self.assertTrue(one(**{name: limit * 0.999}).visible)
            self.assertFalse(one(**{name: limit * 1.001}).visible)
        self.assertTrue(one(spread_p=below).spread_changes)
        self.assertFalse(one(spread_p=above).spread_changes)
        self.assertFalse(Pattern(0, 0, 0, None, None, 0).visible)


class Waves(unittest.TestCase):
    """A wave in the residuals of a line, and none where there is none; the statistic against SciPy's periodogram."""

    def line(self, x: Floats, wave: float, period: float, seed: int, scatter: float = 1.0) -> Fit:
        random = np.random.default_rng(seed)
        y = 2 * x + 5 + wave * np.sin(2 * np.pi * x / period + seed) + random.normal(0, scatter, len(x))
        return fit(Readings(x, y), Line())

    def test_a_wave_twenty_times_the_scatter_is_found_with_its_period(self) -> None:
        x = np.linspace(1, 10, 20)
        for seed in range(20):
            found = pattern_of(self.line(x, 14.4, 3.5, seed, 0.72))
            self.assertTrue(found.waves)
            self.assertTrue(found.visible)
            self.assertAlmostEqual(found.period / 3.5, 1, delta=0.12)

    def test_power_at_three_times_the_scatter(self) -> None:
        """At least 95 % from 15 evenly spaced readings on and at 20 unevenly spaced ones, slow or fast; fewer leave less."""
        for n, least in ((10, 0.5), (12, 0.75), (15, 0.95)):
            for period in (2.2, 3.5, 6.0):
                seen = sum(
                    pattern_of(self.line(np.linspace(1, 10, n), 3.0, period, seed)).visible for seed in range(60)
                )
                self.assertGreaterEqual(seen, 60 * least, (n, period))
        for spacing in ("even", "uneven"):
            x = np.linspace(1, 10, 20) if spacing == "even" else np.sort(np.random.default_rng(8).uniform(1, 10, 20))
            for period in (1.4, 2.2, 6.0):
                seen = sum(pattern_of(self.line(x, 3.0, period, seed)).visible for seed in range(60))
                self.assertGreaterEqual(seen, 57, (spacing, period))

    def test_false_alarms(self) -> None:
        random = np.random.default_rng(3)
        alarms = 0
        for _ in range(300):
            x = np.sort(random.uniform(0, 10, 16))
            alarms += pattern_of(fit(Readings(x, 2 * x + random.normal(size=16)), Line())).waves
        self.assertLessEqual(alarms, 13)  # six are expected

    def test_any_period_among_many_readings(self) -> None:
        """By the fast transform: found with its period wherever the frequency lies, x even or not, weighted or not."""
        for n in (61, 200, 1000):
            for seed in range(20):
                random = np.random.default_rng((seed, n))
                x = np.linspace(0, 10, n) if seed % 2 else np.sort(random.uniform(0, 10, n))
                period = 10 / random.uniform(3, n / 3)
                error = random.uniform(0.7, 1.5, n) if seed % 4 < 2 else np.ones(n)
                y = 2 * x + 2.5 * np.sin(2 * np.pi * x / period + seed) + error * random.normal(0, 1, n)
                found = pattern_of(fit(Readings(x, y, y_error=error), Line()))
                self.assertTrue(found.waves, (n, seed))
                self.assertAlmostEqual(found.period / period, 1, delta=0.12)

    def test_the_transform_gives_the_share_of_least_squares(self) -> None:
        random = np.random.default_rng(6)
        x = np.sort(random.uniform(0, 10, 200))
        found = self.line(x, 1.0, 0.7, 1)
        wave = find_wave(x, found.residuals, np.ones(200), Scatter(np.stack([np.ones(200), x], axis=1)), None)
        assert wave is not None
        turn = 2 * np.pi * x / wave.period
        columns = np.stack([np.cos(turn), np.sin(turn)], axis=1)
        rest = np.linalg.lstsq(columns, found.residuals, rcond=None)[1][0]
        share = 1 - rest / float(found.residuals @ found.residuals)
        count = int((199 / 2.2 - 1) * 2 + 1)
        self.assertAlmostEqual(np.log(wave.p) / np.log(count * (1 - share) ** 98), 1, delta=0.03)

    def test_the_share_of_a_frequency_is_that_of_least_squares(self) -> None:
        """By the fit of line and wave together, with NumPy."""
        x = np.sort(np.random.default_rng(4).uniform(0, 10, 14))
        found = self.line(x, 2.0, 3.0, 1)
        scatter = Scatter(np.stack([np.ones(14), x], axis=1))
        wave = find_wave(x, found.residuals, np.ones(14), scatter, None)
        assert wave is not None
        turn = 2 * np.pi * x / wave.period
        columns = np.stack([np.ones(14), x, np.cos(turn), np.sin(turn)], axis=1)
        rest = np.linalg.lstsq(columns, found.readings.y, rcond=None)[1][0]
        share = 1 - rest / float(found.residuals @ found.residuals)
        places = 10  # from 1 to 13/2.2 cycles in steps of half a cycle
        self.assertAlmostEqual(wave.p, min(1.0, places * (1 - share) ** 5), places=9)
