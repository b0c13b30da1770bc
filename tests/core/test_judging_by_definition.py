"""What is judged, recomputed from its definition with plain loops, refits and general libraries, over many random studies."""

from __future__ import annotations

import itertools
import unittest
from collections.abc import Iterator
from typing import Any

import numpy as np
import numpy.typing as npt
import statsmodels.api as sm
from scipy import optimize, stats

from ridge.core.by_hand import with_values
from ridge.core.fitting import fit
from ridge.core.judging import between
from ridge.core.judging.beside_constant import chance_beside_constant, constant_does_as_well
from ridge.core.judging.cautions import findings_of
from ridge.core.judging.clean import Scatter, _scatter, chance_of_at_least, two_sided
from ridge.core.judging.groups import groups_apart
from ridge.core.judging.influence import _chance_of_standardised, readings_far_off, readings_that_decide
from ridge.core.judging.order import count_changes, find_order
from ridge.core.judging.patterns import Pattern, _spread_trend, pattern_of, ranks, signs_probability
from ridge.core.judging.ranking import bends, order_models
from ridge.core.judging.resampling import (
    Draw,
    bootstrap,
    each_in_turn,
    k_fold,
    movement,
    random_shares,
    root_mean_square,
)
from ridge.core.judging.significance import ALARM, CHECK, SIGNIFICANT
from ridge.core.models import Constant, Exponential, Formula, Line, Logistic, Model, Polynomial, Power, Sinusoid
from ridge.core.predicting.at_x import predict
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit

Floats = npt.NDArray[np.float64]


def studies(seed: int, count: int, model: Model, degree: int) -> Iterator[tuple[Fit, Floats]]:
    """Fits to scatter about polynomials, one reading in half of them far off or far away, and the design of each."""
    random = np.random.default_rng(seed)
    for place in range(count):
        n = int(random.integers(degree + 5, 30))
        x = np.sort(random.uniform(0, 10, n))
        if place % 3 == 1:
            x[-1] = 10 + random.uniform(2, 25)
        y = 3 + 2 * x + random.normal(0, 1, n)
        if place % 2:
            y[int(random.integers(n))] += random.normal(0, 7)
        found = fit(Readings(x, y), model)
        yield found, np.vander(x, degree + 1, increasing=True)


def hat(design: Floats) -> Floats:
    return np.asarray(design @ np.linalg.pinv(design))


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

    def test_the_order_of_few_is_that_of_all_arrangements(self) -> None:
        """Wald and Wolfowitz's mean and variance of the number of runs, against every arrangement of the same signs."""
        for above, n in ((4, 9), (6, 12), (3, 11)):
            arrangements = np.array(list(itertools.combinations(range(n), above)))
            signs = np.zeros((len(arrangements), n))
            np.put_along_axis(signs, arrangements, 1, axis=1)
            changes = np.count_nonzero(np.diff(signs, axis=1), axis=1)
            mean, spread = changes.mean(), changes.std()
            pairs = np.count_nonzero(signs[:, 2:] != signs[:, :-2], axis=1)
            for row in (0, len(signs) // 2, len(signs) - 1):
                found = find_order(signs[row] * 2 - 1, None)
                off = max(abs(changes[row] - mean) - 0.5, 0) / spread
                assert found.chance is not None and found.chance_of_pairs is not None
                self.assertAlmostEqual(found.chance, 2 * stats.norm.sf(off), 10)
                self.assertAlmostEqual(
                    found.chance_of_pairs, stats.norm.sf((pairs[row] - pairs.mean() - 0.5) / spread), 10
                )

    def test_with_draws_it_is_their_share(self) -> None:
        residuals = np.array([1.0, 2, 3, -1, -2, -3, 1, 2, -1])
        drawn = np.random.default_rng(7).normal(size=(500, 9))
        found = find_order(residuals, drawn)
        signs = drawn > 0
        changes = (signs[:, 1:] != signs[:, :-1]).sum(axis=1)
        pairs = (signs[:, 2:] != signs[:, :-2]).sum(axis=1)
        self.assertEqual(
            found.chance, min(1, 2 * min((1 + (changes >= 3).sum()) / 501, (1 + (changes <= 3).sum()) / 501))
        )
        self.assertEqual(found.chance_of_pairs, (1 + (pairs >= 5).sum()) / 501)

    def test_seven_or_one_sided_say_nothing(self) -> None:
        for signs in ([1, -1, 1, -1, 1, -1, 1], [1.0] * 12):
            self.assertIsNone(find_order(np.array(signs, dtype=float), None).chance)
        self.assertIsNotNone(find_order(np.array([1.0] * 11 + [-1]), None).chance)
        self.assertIsNotNone(find_order(np.array([-1.0] * 11 + [1]), None).chance)


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
        self.assertEqual((pattern.order_p, pattern.pairs_p), (alone.order_p, alone.pairs_p))
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
            return Pattern(1, 1, 1, **{"order_p": 1, "pairs_p": 1, "bend_p": 1, "bend": 0, **found})  # type: ignore[arg-type]

        below, above = CHECK * 0.999, CHECK * 1.001
        for name in ("order_p", "pairs_p", "bend_p"):
            self.assertTrue(one(**{name: below}).visible)
            self.assertFalse(one(**{name: above}).visible)
        self.assertTrue(one(spread_p=below).spread_changes)
        self.assertFalse(one(spread_p=above).spread_changes)
        self.assertFalse(Pattern(0, 0, 0, None, None, None, 0).visible)


class GroupsOfReadings(unittest.TestCase):
    """The F-test for shifts of groups, by statsmodels with a dummy variable for each."""

    def test_as_statsmodels_has_it(self) -> None:
        random = np.random.default_rng(50)
        named = 0
        for place in range(30):
            n = int(random.integers(9, 25))
            x, which = random.uniform(0, 10, n), random.integers(0, 3, n)
            weights = random.uniform(0.5, 2, n) if place % 2 else np.ones(n)
            y = 1 + 2 * x + random.normal(0, 1, n) + (place % 3) * 0.9 * which
            found = groups_apart(fit(Readings(x, y, weight=weights), Line()), which)
            assert found is not None
            design = np.column_stack([np.ones(n), x])
            dummies = np.column_stack([design, *(which == one for one in np.unique(which)[1:])]).astype(float)
            more, before = sm.WLS(y, dummies, weights).fit(), sm.WLS(y, design, weights).fit()
            self.assertAlmostEqual(found.p, more.compare_f_test(before)[1], 9)
            named += found.p < ALARM
            for one, off in found.offsets.items():
                rest = (y - before.fittedvalues)[which == one]
                self.assertAlmostEqual(off, float(np.average(rest, weights=weights[which == one])), 9)
        self.assertTrue(5 < named < 25)

    def test_rows_of_no_group_and_one_group(self) -> None:
        x, y = np.arange(8.0), np.array([0.1, 1.2, 1.9, 3.1, 5.0, 6.1, 6.9, 8.0])
        line = fit(Readings(x, y), Line())
        self.assertIsNone(groups_apart(line, np.zeros(8, dtype=int)))
        self.assertIsNone(groups_apart(line, np.full(8, -1)))
        some = groups_apart(line, np.array([0, 0, 0, -1, -1, 1, 1, 1]))
        assert some is not None
        self.assertEqual(set(some.offsets), {0, 1})
        self.assertIsNone(groups_apart(fit(Readings(x, 2 * x), Line()), np.arange(8) % 2))


class BesideAConstant(unittest.TestCase):
    def test_with_a_constant_among_its_cases_it_is_f(self) -> None:
        for found, _ in studies(15, 10, Line(), 1):
            result = stats.linregress(found.readings.x, found.readings.y)
            p = chance_beside_constant(found)
            assert p is not None
            self.assertAlmostEqual(p, result.pvalue, 9)

    def test_without_one_it_is_held_against_the_mean_as_well(self) -> None:
        random = np.random.default_rng(16)
        for slope in (0.02, 0.4, 2):
            x = np.linspace(1, 10, 12)
            y = 5 * x**slope + random.normal(0, 0.5, 12)
            found = fit(Readings(x, y), Power())
            r2 = 1 - np.sum(found.residuals**2) / np.sum((y - y.mean()) ** 2)
            p = chance_beside_constant(found)
            assert p is not None
            if r2 <= 0:
                self.assertEqual(p, 1)
                continue
            over_mean = stats.f.sf(r2 / (1 - r2) * 10 / 1, 1, 10)
            self.assertAlmostEqual(p, max(over_mean, found.statistics.f_p_value or 0), 9)
            self.assertEqual(constant_does_as_well(found), p > SIGNIFICANT)

    def test_every_parameter_beyond_the_first_counts(self) -> None:
        random = np.random.default_rng(41)
        x = np.linspace(1, 10, 14)
        y = 5 + 0.05 * x + random.normal(0, 1.0, 14)
        found = fit(Readings(x, y), Formula("a*x + b*x^2 + c*x^3"))
        r2 = 1 - np.sum(found.residuals**2) / np.sum((y - y.mean()) ** 2)
        p = chance_beside_constant(found)
        assert p is not None
        expected = stats.f.sf(r2 / (1 - r2) * 11 / 2, 2, 11) if r2 > 0 else 1.0
        self.assertAlmostEqual(p, max(expected, found.statistics.f_p_value or 0), 9)

    def test_where_there_is_nothing_to_test(self) -> None:
        x = np.arange(1.0, 7)
        for y, model in (
            (x**2, Polynomial(2)),  # exact
            (np.full(6, 3.0), Line()),  # all equal
            (np.array([1.0, 2, 1, 2, 1, 2]), Constant()),
            (np.array([1.0, 2, 1, 2, 1, 3]), Polynomial(5)),  # no degrees of freedom
        ):
            self.assertIsNone(chance_beside_constant(fit(Readings(x, y), model)))


class BetweenReadings(unittest.TestCase):
    def curve(self, text: str, x: Floats) -> Fit:
        """A given curve with readings on it."""
        given = Formula(text)
        return with_values(Readings(x, given.evaluate(x, {})), given, {})

    def test_poles_are_found_where_the_formula_divides_by_zero(self) -> None:
        x = np.linspace(0, 10, 21) + 0.13
        self.assertEqual(len(between.poles_inside(self.curve("1/(x - 4.2)/(x - 7.7)", x))), 2)
        np.testing.assert_allclose(between.poles_inside(self.curve("1/(x - 4.2)/(x - 7.7)", x)), [4.2, 7.7], atol=1e-9)
        np.testing.assert_allclose(
            between.poles_inside(self.curve("tan(x)", x)), np.pi * (np.arange(3) + 0.5), atol=1e-9
        )
        # What is zero above and below stays finite; beyond the readings it does not count.
        self.assertEqual(between.poles_inside(self.curve("(x - 4.2)/(x - 4.2)", x)), [])
        self.assertEqual(between.poles_inside(self.curve("1/(x - 12)", x)), [])
        self.assertEqual(between.poles_inside(self.curve("sin(x - 4.2)/(x - 4.2)", x)), [])

    def test_a_gap_is_found_where_there_is_no_value(self) -> None:
        x = np.array([-3.0, -2.5, -2, 2, 2.5, 3])
        gap = between.undefined_inside(self.curve("sqrt(x^2 - 1)", x))
        assert gap is not None
        self.assertTrue(-1 < gap < 1)
        self.assertIsNone(between.undefined_inside(self.curve("sqrt(x^2 + 1)", x)))
        self.assertEqual(between.undefined_inside(self.curve("x + 0/x", x)), 0.0)

    def test_waves_count_their_cycles(self) -> None:
        x = np.linspace(0, 10, 41)
        one = between.waves(self.curve("3*sin(2*x + 1)", x))
        self.assertEqual([wave.free for wave in one], [False])
        self.assertAlmostEqual(one[0].number, 20 / (2 * np.pi), 9)
        two = between.waves(self.curve("sin(x) + cos(5*x)", x))
        self.assertEqual(sorted(round(wave.number, 6) for wave in two), [round(v / (2 * np.pi), 6) for v in (10, 50)])
        fitted = fit(Readings(x, 2 * np.sin(1.5 * x) + 0.01 * np.cos(9 * x)), Sinusoid())
        self.assertEqual([wave.free for wave in between.waves(fitted)], [True])
        self.assertAlmostEqual(between.waves(fitted)[0].number, 15 / (2 * np.pi), 2)

    def test_a_curve_swings_when_it_leaves_all_readings_by_a_third_of_their_height(self) -> None:
        x = np.linspace(0, 10, 11)
        hump = "exp(-((x - 4.5)/0.1)^2)"
        for text, outside in (
            (f"x/10 + 0.93*{hump}", 0.38),  # up to 1.38 where the readings end at 1
            (f"x/10 + 0.87*{hump}", 0.0),
            (f"x/10 - 0.83*{hump}", 0.38),
            (f"x/10 - 0.77*{hump}", 0.0),
        ):
            self.assertAlmostEqual(between.swings(self.curve(text, x)), outside, 3)

    def test_levels_that_no_reading_comes_near(self) -> None:
        random = np.random.default_rng(17)
        x = np.linspace(0, 10, 30)
        for rate, far in ((0.05, True), (0.5, False)):
            y = 20 + 80 * np.exp(-rate * x) + random.normal(0, 0.02, 30)
            found = fit(Readings(x, y), Exponential(level=True))
            levels = list(between.distant_levels(found))
            self.assertEqual(len(levels), int(far))
            if far:
                level, decay = found.values["c"], found.values["k"]
                left = abs(found.evaluate([10.0])[0] - level)
                self.assertAlmostEqual(levels[0].value, level, 6)
                self.assertAlmostEqual(levels[0].left, left, 6)
                # A fifth of what is left: after ln 5 lifetimes.
                self.assertAlmostEqual(levels[0].near_at / (10 + np.log(5) / abs(decay)), 1, 1)

    def test_a_level_on_the_left_is_one_too(self) -> None:
        x = np.linspace(-10, 0, 30)
        y = 5 + 40 * np.exp(0.05 * x) + np.random.default_rng(18).normal(0, 0.01, 30)
        levels = list(between.distant_levels(fit(Readings(x, y), Exponential(level=True))))
        self.assertEqual(len(levels), 1)
        self.assertLess(levels[0].near_at, -10)

    def test_a_step_between_neighbours(self) -> None:
        x = np.arange(10.0)
        random = np.random.default_rng(19)
        steep = fit(Readings(x, np.where(x > 4.5, 10.0, 0.0) + random.normal(0, 0.05, 10)), Logistic())
        self.assertEqual(between.step_between(steep), (4.0, 5.0))
        gentle = fit(Readings(x, 10 / (1 + np.exp(-(x - 4.5))) + random.normal(0, 0.05, 10)), Logistic())
        self.assertIsNone(between.step_between(gentle))
        self.assertIsNone(between.step_between(fit(Readings(x, np.where(x > 4.5, 10.0, 0.0)), Polynomial(5))))


class Resampled(unittest.TestCase):
    def setUp(self) -> None:
        random = np.random.default_rng(20)
        self.x = np.linspace(0, 10, 24)
        self.y = 1 + 2 * self.x + random.normal(0, 1, 24)
        self.found = fit(Readings(self.x, self.y), Line())

    def line(self, rows: npt.NDArray[np.intp]) -> Floats:
        return np.asarray(np.polynomial.polynomial.polyfit(self.x[rows], self.y[rows], 1))

    def check(self, draws: list[Draw]) -> None:
        for draw in draws:
            kept, out = np.flatnonzero(draw.included), np.flatnonzero(~draw.included)
            a, b = self.line(kept)
            assert draw.fit is not None
            self.assertAlmostEqual(draw.fit.values["slope"], b, 9)
            self.assertAlmostEqual(draw.error, float(np.sqrt(np.mean((self.y[out] - a - b * self.x[out]) ** 2))), 9)

    def test_each_draw_is_a_fit_to_what_it_kept(self) -> None:
        for share, kept in ((0.5, 12), (0.1, 2), (0.99, 23)):
            draws = random_shares(self.found, share, 5, seed=3)
            self.assertEqual([int(draw.included.sum()) for draw in draws], [kept] * 5)
            self.check(draws)
        folds = k_fold(self.found, 5, seed=3)
        self.check(folds)
        np.testing.assert_array_equal(sum((~draw.included).astype(int) for draw in folds), np.ones(24))
        self.assertEqual(sorted(int((~draw.included).sum()) for draw in folds), [4, 5, 5, 5, 5])
        turns = each_in_turn(self.found)
        self.check(turns)
        self.assertEqual([int(np.flatnonzero(~draw.included)[0]) for draw in turns], list(range(24)))

    def test_the_error_counts_every_reading_that_was_held_out(self) -> None:
        draws = k_fold(self.found, 5, seed=3)
        misses = np.concatenate(
            [self.y[~draw.included] - draw.fit.evaluate(self.x[~draw.included]) for draw in draws if draw.fit]
        )
        self.assertAlmostEqual(root_mean_square(draws, self.found), float(np.sqrt(np.mean(misses**2))), 9)
        nothing = [Draw(draws[0].included, None, float("nan"))]
        self.assertTrue(np.isnan(root_mean_square(nothing, self.found)))

    def test_repeats_count_as_often_as_they_occurred(self) -> None:
        count = np.array([1.0, 3, 1, 2, 1, 1, 5, 1])
        x, y = self.x[:8], self.y[:8]
        found = fit(Readings(x, y, count=count), Line())
        draws = k_fold(found, 3, seed=1)
        total = sum(
            float(count[~draw.included] @ (y[~draw.included] - draw.fit.evaluate(x[~draw.included])) ** 2)
            for draw in draws
            if draw.fit
        )
        self.assertAlmostEqual(root_mean_square(draws, found), float(np.sqrt(total / count.sum())), 9)

    def test_movement_is_the_deviation_of_the_curves(self) -> None:
        draws = random_shares(self.found, 0.5, 7, seed=4)
        x = np.linspace(0, 10, 121)
        apart = np.std([draw.fit.evaluate(x) for draw in draws if draw.fit], axis=0, ddof=1)
        moved = movement(draws, self.found)
        self.assertAlmostEqual(moved.typical, float(np.median(apart)), 12)
        self.assertAlmostEqual(moved.largest, float(apart.max()), 12)
        self.assertEqual(moved.at, x[int(np.argmax(apart))])
        self.assertTrue(np.isnan(movement(draws[:1], self.found).typical))

    def test_the_bootstrap_follows_davison_and_hinkley(self) -> None:
        design = np.stack([np.ones(24), self.x], axis=1)
        for error in (None, np.linspace(0.5, 2, 24)):
            readings = Readings(self.x, self.y, y_error=error, absolute_errors=error is not None)
            found = fit(readings, Line())
            root = np.ones(24) if error is None else 1 / error
            weighted = design * root[:, None]
            solve = np.linalg.pinv(weighted)
            fitted = design @ (solve @ (self.y * root))
            spread = (self.y - fitted) * root / np.sqrt(1 - np.diag(weighted @ solve))
            spread -= spread.mean()
            random = np.random.default_rng(5)
            expected = []
            for _ in range(40):
                drawn = random.integers(0, 24, 24)
                expected.append(solve @ ((fitted + spread[drawn] / root) * root))
            again = bootstrap(found, times=40, level=0.9, seed=5)
            names = found.model.parameter_names
            values = np.array(expected)[:, [["intercept", "slope"].index(name) for name in names]]
            np.testing.assert_allclose(again.values, values, rtol=1e-9)
            for place, name in enumerate(names):
                np.testing.assert_allclose(
                    again.intervals[name], np.quantile(values[:, place], [0.05, 0.95]), rtol=1e-9
                )

    def test_readings_drawn_with_repetition(self) -> None:
        count = np.array([1.0, 2, 1, 4] * 6)
        found = fit(Readings(self.x, self.y, count=count), Line())
        again = bootstrap(found, times=10, seed=6, of="readings")
        random = np.random.default_rng(6)
        for values in again.values:
            rows = random.integers(0, 24, 24)
            root = np.sqrt(count[rows])
            design = np.stack([np.ones(24), self.x[rows]], axis=1) * root[:, None]
            a, b = np.linalg.lstsq(design, self.y[rows] * root, rcond=None)[0]
            named = dict(zip(found.model.parameter_names, values, strict=True))
            self.assertAlmostEqual(named["slope"], b, 8)
            self.assertAlmostEqual(named["intercept"], a, 8)


class Ranking(unittest.TestCase):
    def test_weights_and_order_follow_aicc(self) -> None:
        random = np.random.default_rng(21)
        x = np.linspace(0, 10, 30)
        y = 3 + 2 * x - 0.15 * x**2 + random.normal(0, 0.4, 30)
        models: list[Model] = [Constant(), Line(), Polynomial(2), Polynomial(3), Polynomial(6)]
        fitted = [(model, fit(Readings(x, y), model), "") for model in models]
        ranked = order_models(fitted)
        aicc = {id(model): float(one.statistics.aicc or 0) for model, one, _ in fitted}
        # Those that are no better than a constant, as a constant itself, have no part in the weights.
        active = [
            value
            for (model, one, _), value in zip(fitted, aicc.values(), strict=True)
            if not constant_does_as_well(one)
        ]
        best = min(active)
        total = sum(np.exp(-(value - best) / 2) for value in active)
        for one in ranked:
            assert one.difference is not None and one.fit is not None
            self.assertAlmostEqual(one.difference, aicc[id(one.model)] - best, 9)
            idle = constant_does_as_well(one.fit)
            self.assertAlmostEqual(one.weight, 0 if idle else float(np.exp(-one.difference / 2) / total), 9)
            self.assertEqual(one.close, one.difference <= 2 and not idle)
            self.assertEqual(one.parameters, one.fit.model.parameter_names.__len__())
        self.assertEqual(ranked[0].model.parameter_names, Polynomial(2).parameter_names)
        close = [one for one in ranked if one.close]
        self.assertEqual([one.parameters for one in close], sorted(one.parameters for one in close))
        rest = [one.difference or 0 for one in ranked if not one.close]
        self.assertEqual(rest, sorted(rest))

    def test_bends_are_those_of_the_law(self) -> None:
        random = np.random.default_rng(22)
        x = np.linspace(-1, 1, 60)
        laws = (2 * x, x**2, x**3 - x / 2, np.polynomial.chebyshev.chebval(x, [0, 0, 0, 0, 1]))
        for wanted, law in enumerate(laws):
            found = [bends(Readings(x, law + random.normal(0, 0.02, 60))) for _ in range(20)]
            self.assertGreaterEqual(min(found), wanted)
            self.assertGreaterEqual(found.count(wanted), 17)  # in one of twenty another power helps by chance
        # Three readings are no evidence of any.
        self.assertEqual(bends(Readings(x[:3], np.array([0.0, 1, 0]))), 0)


class CautionsFound(unittest.TestCase):
    """What is found and with which numbers, each where it just begins."""

    def facts(self, found: Fit, code: str) -> dict[str, float] | None:
        return next((dict(one.facts) for one in findings_of(found) if one.code == code), None)

    def rows(self, found: Fit, code: str) -> tuple[int, ...] | None:
        return next((one.rows for one in findings_of(found) if one.code == code), None)

    def scattered(self, n: int, seed: int = 30) -> tuple[Floats, Floats]:
        x = np.linspace(0, 10, n)
        return x, 2 + 3 * x + np.random.default_rng(seed).normal(0, 1, n)

    def test_few_readings_are_less_than_two_a_parameter(self) -> None:
        for n, few in ((3, True), (4, False)):
            x, y = self.scattered(n)
            found = self.facts(fit(Readings(x, y), Line()), "few-readings")
            self.assertEqual(found, {"n": n, "parameters": 2} if few else None)
        x, y = self.scattered(2)
        as_many = self.facts(fit(Readings(x, y), Line()), "as-many-parameters-as-readings")
        self.assertEqual(as_many, {"n": 2, "parameters": 2, "through": 1.0})
        self.assertEqual(self.facts(fit(Readings(x, np.array([4.0, 4.0])), Line()), "y-all-equal"), {})

    def test_given_errors_that_do_not_match(self) -> None:
        x, y = self.scattered(12)
        for error in (0.3, 1.0, 4.0):
            found = fit(Readings(x, y, y_error=np.full(12, error), absolute_errors=True), Line())
            chi = float(np.sum((found.residuals / error) ** 2))
            p = 2 * min(stats.chi2.cdf(chi, 10), stats.chi2.sf(chi, 10))
            facts = self.facts(found, "errors-do-not-match")
            self.assertEqual(facts is not None, p < ALARM)
            if facts:
                self.assertAlmostEqual(facts["reduced"], chi / 10, 9)
                self.assertAlmostEqual(facts["p"], p, 12)

    def test_what_a_pattern_tells(self) -> None:
        x = np.linspace(0, 10, 30)
        for y, bend, many in (
            (0.2 * x**2, 1.0, 0.0),
            (-0.2 * x**2, -1.0, 0.0),
            (x + np.where(np.arange(30) % 2, 1, -1), None, 1.0),
        ):
            found = fit(Readings(x, y + np.random.default_rng(31).normal(0, 0.1, 30)), Line())
            facts, pattern = self.facts(found, "patterned-residuals"), pattern_of(found)
            assert facts is not None
            self.assertEqual(facts["many"], many)
            if bend:
                self.assertEqual(facts["bend"], bend)
            self.assertEqual(
                (facts["bend_p"], facts["order_p"], facts["pairs_p"]),
                (pattern.bend_p, pattern.order_p, pattern.pairs_p),
            )

    def test_a_line_that_says_nothing_and_a_term_too_many(self) -> None:
        x = np.linspace(0, 10, 15)
        noise = np.random.default_rng(32).normal(0, 1, 15)
        level = fit(Readings(x, 5 + noise), Line())
        facts = self.facts(level, "slope-not-significant")
        assert facts is not None
        self.assertAlmostEqual(facts["p"], stats.linregress(x, 5 + noise).pvalue, 9)
        self.assertEqual((facts["searched"], facts["patterned"]), (0.0, 0.0))
        through = fit(Readings(x, 5 + noise), Line(), fixed={"intercept": 0})
        self.assertIsNone(self.facts(through, "slope-not-significant"))
        for degree, law in ((2, 4 * x), (3, 4 * x - x**2)):
            found = fit(Readings(x, law + noise), Polynomial(degree))
            design = sm.OLS(law + noise, np.vander(x, degree + 1)).fit()
            facts = self.facts(found, "highest-term-not-needed")
            self.assertEqual(facts is not None, design.pvalues[0] > SIGNIFICANT)
            if facts:
                self.assertEqual(facts["degree"], degree)
                self.assertAlmostEqual(facts["p"], design.pvalues[0], 9)

    def test_cycles(self) -> None:
        random = np.random.default_rng(33)
        x = np.linspace(2, 12, 30)
        short = fit(Readings(x, 3 * np.sin(0.4 * x) + random.normal(0, 0.02, 30)), Sinusoid())
        facts = self.facts(short, "less-than-a-cycle")
        assert facts is not None
        cycles = 10 * abs(short.values["angular_frequency"]) / 2 / np.pi
        self.assertAlmostEqual(facts["cycles"], cycles, 9)
        self.assertAlmostEqual(facts["until"], 2 + 10 / cycles, 9)
        fast = fit(
            Readings(x, 3 * np.sin(0.4 * x)), Formula("a*sin(w*x)"), start={"a": 3, "w": 0.4 + 2 * np.pi * 29 / 10}
        )
        found = self.facts(fast, "fewer-than-two-readings-a-cycle")
        if found is not None:
            turns = 10 * abs(fast.values["w"]) / 2 / np.pi
            self.assertAlmostEqual(found["cycles"], turns, 6)
            self.assertAlmostEqual(found["apart"], 10 / turns / 4, 6)

    def test_a_pole_with_the_side_that_has_most_readings(self) -> None:
        x = np.array([0.0, 0.5, 1, 3, 3.5, 4, 4.5, 5, 6])
        y = 2 / (x - 2) + np.random.default_rng(34).normal(0, 0.01, 9)
        facts = self.facts(fit(Readings(x, y), Formula("a/(x - b)"), start={"a": 2, "b": 2}), "pole-inside")
        assert facts is not None
        self.assertAlmostEqual(facts["x"], 2, 1)
        self.assertEqual(
            {name: facts[name] for name in ("number", "from", "to", "kept")},
            {"number": 1, "from": 3, "to": 6, "kept": 6},
        )

    def test_rows_that_take_no_part_or_are_supposed(self) -> None:
        x, y = self.scattered(8)
        gone = y.copy()
        gone[3] = np.nan
        included = np.ones(8, dtype=bool)
        included[5] = False
        assumed = np.zeros(8, dtype=bool)
        assumed[[1, 5]] = True
        x[3:4] = x[3]
        found = fit(Readings(x, gone, included=included, assumed=assumed), Line())
        self.assertEqual(self.rows(found, "rows-left-out"), (3,))
        self.assertEqual(self.rows(found, "assumed-readings"), (1,))
        whole = fit(Readings(*self.scattered(8)), Line())
        self.assertIsNone(self.rows(whole, "rows-left-out"))
        self.assertIsNone(self.rows(whole, "assumed-readings"))

    def test_errors_of_x_and_logarithms(self) -> None:
        x, y = self.scattered(8)
        errors = Readings(x, y, x_error=np.full(8, 0.1), y_error=np.full(8, 1.0))
        self.assertEqual(self.facts(fit(errors, Line()), "x-errors-not-used"), {})
        self.assertIsNone(self.facts(fit(errors, Line(), least_squares_in="orthogonal"), "x-errors-not-used"))
        self.assertEqual(
            self.facts(fit(Readings(x, y), Exponential(), least_squares_in="logarithms"), "in-logarithms"), {}
        )
        self.assertIsNone(self.facts(fit(Readings(x, y), Exponential()), "in-logarithms"))


if __name__ == "__main__":
    unittest.main()
