"""Limits by the profile of the sum of squares: against a line's own, a scan by hand, and how often they hold the truth."""

from __future__ import annotations

from unittest import TestCase
from unittest.mock import patch

import numpy as np
from scipy.stats import t as student

from ridge.core import Fit, Readings, fit
from ridge.core.errors import OutsideSense
from ridge.core.fitting.effort import QUICK, UNCHECKED, Effort
from ridge.core.fitting.refits import NoProfile, Refits
from ridge.core.models import Exponential, Line, Logistic
from ridge.core.predicting.curve_limits import curve_limits, x_limits
from ridge.core.predicting.parameter_limits import asymmetric, intervals, profile_interval
from ridge.core.wording.answers import word_prediction, word_solution
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.derived import word_derived
from ridge.core.wording.limits import limits_text
from ridge.core.wording.naming import Naming

X = np.linspace(0.5, 10, 25)
NOISE = np.random.default_rng(1).normal(0, 0.2, 25)
WIDE = np.linspace(0, 4, 6)


def decay(seed: int, spread: float = 1.5) -> Fit:
    """An exponential over so few and so loose readings that ± cannot serve."""
    y = 10 * np.exp(-0.5 * WIDE) + np.random.default_rng(seed).normal(0, spread, len(WIDE))
    return fit(Readings(WIDE, y), Exponential())


class Profiles(TestCase):
    def test_for_a_linear_model_the_usual_interval(self) -> None:
        result = fit(Readings(X, 2 * X + 1 + NOISE), Line())
        found = profile_interval(result, "slope")
        np.testing.assert_allclose([found.low, found.high], result.parameters["slope"].interval())
        self.assertFalse(found.misleading)

    def test_the_sum_of_squares_at_its_ends(self) -> None:
        readings = Readings(X[:8], (30 * np.exp(-0.1 * X) + 7 + 3 * NOISE)[:8])
        result = fit(readings, Exponential())
        found = profile_interval(result, "k")
        s, lowest = result.statistics.residual_standard_deviation or 0, result.statistics.residual_sum_of_squares
        rise = student.ppf(0.975, 6) ** 2 * s**2
        for end in (found.low, found.high):
            held = fit(readings, Exponential(), fixed={"k": end})
            self.assertAlmostEqual(held.statistics.residual_sum_of_squares, lowest + rise, delta=1e-4 * rise)

    def test_a_asymmetric_one_is_called_misleading(self) -> None:
        readings = Readings(X[:10], (40 / (1 + np.exp(-1.2 * (X - 6))) + 4 * NOISE)[:10])
        self.assertTrue(profile_interval(fit(readings, Logistic()), "upper").misleading)
        with self.assertRaises(OutsideSense):
            profile_interval(fit(readings, Logistic()), "height")

    def test_the_method_is_said(self) -> None:
        calm = fit(Readings(X, 30 * np.exp(-0.4 * X) + 7 + NOISE), Exponential(level=True))
        self.assertEqual({one.method for one in intervals(calm).values()}, {"standard error"})
        wild = fit(Readings(X[:14], (40 / (1 + np.exp(-1.2 * (X - 6))) + 4 * NOISE)[:14]), Logistic())
        found = intervals(wild)
        self.assertEqual(found["upper"].method, "profile")
        profile = profile_interval(wild, "upper")
        self.assertEqual((found["upper"].low, found["upper"].high), (profile.low, profile.high))
        self.assertEqual(intervals(fit(Readings([1, 2], [1.0, 3.0]), Line()))["slope"].method, "none")


class OfPredictions(TestCase):
    def test_for_a_line_the_usual_limits_and_fiellers(self) -> None:
        result = fit(Readings(X, 2 * X + 1 + 5 * NOISE), Line())
        usual, crossing = result.predict(4.3), result.solve(9.0, 2)[0]
        where = "ridge.core.predicting.curve_limits."
        with patch(where + "can_mislead", return_value=True), patch(where + "misleads", return_value=True):
            limits = curve_limits(result, 4.3, float(usual.mean_high - usual.value), 0.95, Effort())
            ends = x_limits(result, crossing.value, 9.0, 2, (crossing.low, crossing.high), 0.95, Effort())
        np.testing.assert_allclose(limits.ends or (), (usual.mean_low, usual.mean_high), rtol=1e-5)
        np.testing.assert_allclose(ends.ends or (), (crossing.low, crossing.high), rtol=1e-5)

    def test_the_sum_of_squares_at_the_limits_by_a_scan(self) -> None:
        result = decay(7)
        found = result.predict(6.0, checked=True)
        self.assertTrue(bool(found.profiled))
        s, lowest = result.statistics.residual_standard_deviation or 0, result.statistics.residual_sum_of_squares
        wanted = lowest + student.ppf(0.975, 4) ** 2 * s**2
        y = result.readings.y
        rates = np.linspace(-6, 2, 400_001)
        for limit in (float(found.mean_low), float(found.mean_high)):
            # With the curve held at the limit, a = limit·exp(−6k) at each rate.
            sums = sum((yi - limit * np.exp(rates * (xi - 6))) ** 2 for xi, yi in zip(WIDE, y, strict=True))
            self.assertAlmostEqual(float(np.min(sums)), wanted, delta=2e-3 * wanted)

    def test_a_new_reading_adds_the_squares_side_by_side(self) -> None:
        result = decay(7)
        found = result.predict([2.0, 6.0], checked=True)
        scatter = (result.critical_value(0.95) or 0) * (result.reading_deviation or 0)
        up = np.hypot(found.mean_high - found.value, scatter)
        np.testing.assert_allclose(found.high, found.value + up)

    def test_they_hold_the_truth_more_often_than_standard_errors(self) -> None:
        plain = checked = 0
        truth = 10 * np.exp(-0.5 * 8)
        for seed in range(60):
            result = decay(seed)
            by_errors, by_profile = result.predict(8.0), result.predict(8.0, checked=True)
            plain += bool(by_errors.mean_low <= truth <= by_errors.mean_high)
            checked += bool(by_profile.mean_low <= truth <= by_profile.mean_high)
        self.assertGreater(checked, plain)
        self.assertGreaterEqual(checked, 53)  # 95 % of 60 are 57, give or take 1.7

    def test_a_calm_fit_and_a_line_keep_their_standard_errors(self) -> None:
        calm = fit(Readings(X, 30 * np.exp(-0.4 * X) + 7 + NOISE), Exponential(level=True))
        line = fit(Readings(X, 2 * X + NOISE), Line())
        for result in (calm, line):
            plain, checked = result.predict(X), result.predict(X, checked=True)
            self.assertFalse(checked.profiled.any())
            np.testing.assert_array_equal(plain.high, checked.high)
        self.assertFalse(calm.solve(15.0, checked=True)[0].profiled)

    def test_where_refits_cost_too_much_standard_errors_serve_and_it_is_said_of_which_number(self) -> None:
        result = decay(7)
        with patch.object(Refits, "_minimum", side_effect=NoProfile):
            found = result.predict(6.0, checked=True)
            self.assertEqual((bool(found.profiled), bool(found.unchecked)), (False, True))
            self.assertEqual({one.method for one in intervals(decay(2)).values()}, {"no profile"})
            self.assertTrue(result.solve(15.0, checked=True)[0].unchecked)

    def test_where_little_work_may_be_done_they_are_left_for_later(self) -> None:
        result = decay(2)
        self.assertEqual({one.method for one in intervals(result, refits=1.0).values()}, {"unchecked"})
        self.assertTrue(bool(result.predict(6.0, checked=True, refits=1.0).unchecked))
        self.assertTrue(result.solve(15.0, checked=True, refits=1.0)[0].unchecked)
        self.assertEqual(intervals(result, refits=QUICK), intervals(result))

    def test_before_any_refit_it_is_said_that_none_was_made(self) -> None:
        result = decay(7)
        self.assertEqual({one.method for one in intervals(result, refits=UNCHECKED).values()}, {"unchecked"})
        self.assertTrue(bool(result.predict(6.0).unchecked))
        self.assertFalse(bool(result.predict(6.0, checked=True).unchecked))
        line = fit(Readings(X, 2 * X + NOISE), Line())
        self.assertFalse(bool(line.predict(6.0).unchecked))

    def test_an_x_without_an_end(self) -> None:
        found = decay(3).solve(1.0, checked=True)[0]
        self.assertLess(found.low, found.value)
        self.assertEqual(found.bounded, bool(np.isfinite(found.high) and np.isfinite(found.low)))


class InWords(TestCase):
    naming = Naming("t", "T", "min", "°C", "time", "temperature")

    def test_one_end_both_or_none(self) -> None:
        self.assertEqual(limits_text(2.123, 3.456, "m"), "2.1 to 3.5\u00a0m")
        self.assertEqual(limits_text(-2.98, 0.04), "−3.0 to 0.1")
        self.assertEqual(limits_text(2.123, np.inf), "above 2.12")
        self.assertEqual(limits_text(-np.inf, 3.456, "m"), "below 3.46\u00a0m")
        self.assertEqual(limits_text(-np.inf, np.inf, "m"), "no limits")

    def test_an_answer_says_which_limits_these_are(self) -> None:
        result = decay(7)
        words = word_prediction(result, result.predict(6.0, checked=True), self.naming)
        self.assertRegex(words.result, r"^T = \S+\s°C \(95\s% prediction interval \S+ to \S+\)$")
        self.assertIn("± standard errors would be misleading here", words.sentence)
        plain = word_prediction(result, result.predict(6.0), self.naming)
        self.assertNotIn("mislead", plain.sentence)
        solution = result.solve(2.0, checked=True)[0]
        said = word_solution(result, solution, 2.0, 1, self.naming).sentence
        self.assertEqual(solution.profiled, "misleading" in said)

    def test_what_follows_from_the_parameter_has_its_limits_too(self) -> None:
        result = decay(8)
        found = intervals(result)
        k = found["k"]
        said = {one.name: one.text for one in word_derived(result, self.naming, found)}
        low, high = np.log(2) / -k.low, np.log(2) / -k.high
        value = np.log(2) / -result.values["k"]
        self.assertIn(f"(95\xa0% CI {limits_text(low, high, value=value)})", said["half-life"])
        plain = {one.name: one.text for one in word_derived(result, self.naming)}
        self.assertIn("±", plain["half-life"])

    def test_a_rate_that_may_be_zero_leaves_the_half_life_open(self) -> None:
        result = decay(2)
        found = intervals(result)
        self.assertGreater(found["k"].high, 0)
        said = {one.name: one.text for one in word_derived(result, self.naming, found)}
        self.assertIn(limits_text(np.log(2) / -found["k"].low, np.inf), said["half-life"])

    def test_a_rate_without_a_lower_limit(self) -> None:
        result = decay(3)
        k = intervals(result)["k"]
        self.assertEqual(k.low, -np.inf)
        said = {one.name: one.text for one in word_derived(result, self.naming, {"k": k})}
        growth, half_life = np.exp(result.values["k"]), np.log(2) / -result.values["k"]
        self.assertIn(limits_text(0.0, float(np.exp(k.high)), value=growth), said["growth factor"])
        self.assertIn(limits_text(0.0, np.log(2) / -k.high, value=half_life), said["half-life"])

    def test_the_caution_names_the_parameter_and_its_limits(self) -> None:
        result = decay(2)
        found = intervals(result)
        (finding,) = asymmetric(result, found, 0.95)
        caution = word_caution(finding, self.naming)
        self.assertIn(f"k {limits_text(found['k'].low, found['k'].high, value=result.values['k'])}", caution.message)
        self.assertIn("Quote these limits", caution.remedy)
        calm = fit(Readings(X, 30 * np.exp(-0.4 * X) + 7 + NOISE), Exponential(level=True))
        self.assertEqual(asymmetric(calm, intervals(calm), 0.95), [])
