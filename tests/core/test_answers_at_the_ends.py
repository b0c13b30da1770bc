"""Answers where they used to be absent, impossible or false: far away, one-sided, at the edge of a model, with weights."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from ridge.core import Fit, Readings, fit
from ridge.core.errors import NoSolution
from ridge.core.models import (
    Exponential,
    Formula,
    Gaussian,
    Line,
    Logarithmic,
    Logistic,
    Model,
    Polynomial,
    Power,
    Reciprocal,
    Sinusoid,
)
from ridge.core.predicting.features import roots
from ridge.core.predicting.parameter_limits import intervals
from ridge.core.predicting.solution import MOST
from ridge.core.wording.answers import word_prediction, word_solution, word_solutions
from ridge.core.wording.derived import word_derived
from ridge.core.wording.families import beyond_sentence
from ridge.core.wording.features import word_places
from ridge.core.wording.naming import Naming
from tests.examples import examples
from tests.reading_back import read_back, read_interval

NAMING = Naming("t", "h", "min", "m")
X = np.linspace(1, 10, 15)
NOISE = np.random.default_rng(8).normal(0, 0.05, 15)


class FarAway(TestCase):
    def test_thirteen_ranges_away(self) -> None:
        result = fit(Readings([0, 5, 10], [0, 40, 70.0]), Formula("a*ln(b*x+1)"))
        (found,) = result.solve(300.0)
        self.assertAlmostEqual(found.value, 139.85, places=2)
        self.assertAlmostEqual(float(result.evaluate(found.value)), 300, places=6)
        place = word_solution(result, found, 300.0, 1, NAMING).place
        for part in ("130\u00a0min past the last reading", "13 times the measured range"):
            self.assertIn(part, place)

    def test_closed_forms_and_the_search_agree(self) -> None:
        """The same curve as an own formula, which has no closed form."""
        for model, text, y in (
            (Exponential(), "a*exp(k*x)", 2 * np.exp(0.2 * X)), (Exponential(level=True), "a*exp(k*x)+c", 5 + 9 * np.exp(-0.4 * X)),
            (Logarithmic(), "a*ln(x)+b", 3 + 2 * np.log(X)), (Logarithmic(shift=True), "a*ln(x-x0)+b", 3 + 2 * np.log(X + 4)),
            (Power(), "a*x^n", 3 * X**1.5), (Reciprocal(), "a/x+b", 4 / X + 1), (Logistic(), "u/(1+exp(-r*(x-m)))", 8 / (1 + np.exp(5 - X))),
            (Logistic(level=True), "l+(u-l)/(1+exp(-r*(x-m)))", 2 + 8 / (1 + np.exp(5 - X))),
            (Gaussian(), "h*exp(-(x-m)^2/(2*s^2))+b", 1 + 6 * np.exp(-((X - 5) ** 2) / 4)),
        ):  # fmt: skip
            family = fit(Readings(X, y + NOISE / 10), model)
            own = fit(Readings(X, y + NOISE / 10), Formula(text))
            for at in (0.3, 4.4, 25.0 if model.family not in ("logistic", "gaussian") else 8.1):
                target = float(family.evaluate(at))
                known, searched = ([one.value for one in one_fit.solve(target)] for one_fit in (family, own))
                np.testing.assert_allclose(known, searched, rtol=1e-5, err_msg=f"{model!r} {at}")
                self.assertLess(min(abs(x - at) for x in known), 1e-9, f"{model!r} {at}")

    def test_the_nearest_first(self) -> None:
        cubic = fit(Readings(X, (X - 2) * (X - 5) * (X + 40) + NOISE), Polynomial(3))
        found = cubic.solve(0.0)
        self.assertEqual([round(one.value) for one in found], [2, 5, -40])
        self.assertEqual([one.beyond for one in found], sorted(one.beyond for one in found))

    def test_of_very_many_the_nearest(self) -> None:
        wave = fit(Readings(np.linspace(0, 10, 200), np.sin(30 * np.linspace(0, 10, 200))), Sinusoid())
        found = wave.solve(0.3)
        self.assertEqual(len(found), MOST)
        self.assertTrue(all(one.beyond == 0 for one in found))

    def test_what_is_never_taken(self) -> None:
        """Never is said only where the equation proves it."""
        y = X**2 + NOISE
        for model, target in ((Polynomial(2), -50.0), (Exponential(), -1.0), (Gaussian(), 1e6), (Sinusoid(), 1e6)):
            with self.assertRaisesRegex(NoSolution, "^The curve never takes that value"):
                fit(Readings(X, y), model).solve(target)
        with self.assertRaisesRegex(NoSolution, "No such place was found: searched up to a thousand measured ranges"):
            fit(Readings(X, y), Formula("a*x^2 + b*x + c")).solve(-50.0)

    def test_a_logarithm_takes_every_value_however_far_out(self) -> None:
        slow = fit(Readings([1, 4, 9], [2.1, 5.0, 7.2]), Formula("a*ln(b*x+c)+d"))
        for target in (72.0, 300.0):
            (found,) = slow.solve(target)
            self.assertAlmostEqual(float(slow.evaluate(found.value)), target, places=6)
        self.assertAlmostEqual(slow.solve(72.0)[0].value / 7e9, 1, delta=0.02)

    @examples(40)
    @given(st.floats(0.5, 900))
    def test_up_to_a_thousand_ranges(self, ranges: float) -> None:
        result = fit(Readings(X, X + 0.05 * X**2 + NOISE), Formula("a*x+b*x^2"))
        at = 10 + ranges * 9
        target = float(result.evaluate(at))
        self.assertAlmostEqual(min(abs(one.value / at - 1) for one in result.solve(target)), 0, places=9)


class OneSided(TestCase):
    def test_a_period_whose_frequency_may_be_zero_is_bounded_below_only(self) -> None:
        found = 0
        for seed in range(12):
            t = np.linspace(0, 5, 7)
            y = 2 * np.sin(2 * np.pi * t / 7.6 + 0.3) + 5 + np.random.default_rng(seed).normal(0, 0.6, 7)
            result = fit(Readings(t, y), Sinusoid())
            limits = intervals(result)
            if "angular_frequency" not in limits:
                continue
            self.assertGreaterEqual(limits["angular_frequency"].low, 0)
            text = {one.name: one.text for one in word_derived(result, NAMING, limits)}["period"]
            self.assertNotIn("−", text)
            if limits["angular_frequency"].low == 0:
                found += 1
                above = read_back(text.partition("above ")[2])
                self.assertLessEqual(above, 2 * np.pi / limits["angular_frequency"].high)
        self.assertGreater(found, 0)

    def test_a_logistic_near_its_top_has_no_upper_limit_and_its_slope_is_not_blamed(self) -> None:
        y = 40 / (1 + np.exp(-1.2 * (X - 5))) + 4 * NOISE
        result = fit(Readings(X, y), Logistic())
        top = result.values["upper"]
        words = word_solution(result, result.solve(top - 0.05)[0], top - 0.05, 1, NAMING)
        self.assertIn("(95\xa0% CI above ", words.result)
        self.assertIn("No upper limit", words.sentence)
        self.assertNotIn("slope", words.sentence)

    def test_a_level_line_says_that_its_slope_is_the_reason(self) -> None:
        loose = fit(Readings([1, 2, 3, 4, 5], [1, 4, 2, 1, 4.0]), Line())
        words = word_solution(loose, loose.solve(3.0)[0], 3.0, 1, NAMING)
        self.assertEqual(
            words.sentence, "No finite 95\u00a0% limits: the slope is not significantly different from zero."
        )

    def test_where_a_model_ends_the_limits_end(self) -> None:
        result = fit(Readings(X, 2 * np.sqrt(X - 0.5) + NOISE), Formula("a*sqrt(x-b)"))
        found = result.solve(0.2)[0]
        self.assertGreaterEqual(found.low, result.values["b"] - 1e-9)

    def test_at_the_edge_of_a_model_nothing_is_said_of_too_few_readings(self) -> None:
        root = fit(Readings(X, 2 * np.sqrt(X) + NOISE), Formula("a*sqrt(x-b)"))
        words = word_prediction(root, root.predict(root.values["b"]), NAMING)
        self.assertNotIn("as many parameters as readings", words.sentence)
        self.assertIn("No finite limits", words.sentence)


class NeverAlike(TestCase):
    def test_two_zeros_that_rounding_would_make_one(self) -> None:
        wide = fit(Readings(X, (X - 5) ** 2 - 0.0004 + 40 * NOISE), Polynomial(2))
        said = word_places(roots(wide), NAMING, 0.95) if roots(wide) else []
        self.assertEqual(len(set(said)), len(said))
        near = fit(Readings(X, (X - 5) * (X - 5.01) + NOISE * 1e-7), Polynomial(2))
        solutions = near.solve(0.0)
        texts = [one.result for one in word_solutions(near, solutions, 0.0, 1, NAMING)]
        self.assertEqual(len(solutions), 2)
        self.assertEqual(len(set(texts)), 2)

    def test_a_small_value_with_a_wide_interval_keeps_a_digit(self) -> None:
        loose = fit(Readings(X, 0.044 * X + 120 * NOISE), Line())
        result = word_prediction(loose, loose.predict(5.0), NAMING).result
        value, low, high = read_interval(result.partition(" = ")[2])
        self.assertNotEqual(value, 0.0)
        self.assertGreaterEqual(high, float(loose.predict(5.0).high) - 1e-9)
        self.assertLessEqual(low, float(loose.predict(5.0).low) + 1e-9)


class Sides(TestCase):
    """What is said beyond the readings is said for the side that was asked."""

    def said(self, model: Model, y: np.ndarray, x: float) -> str:
        return beyond_sentence(fit(Readings(X, y + NOISE / 20), model), NAMING, x)

    def test_left_and_right(self) -> None:
        for model, y, left, right in (
            (Polynomial(3), X**3, "steeply down", "steeply up"), (Polynomial(2), -(X**2), "steeply down", "steeply down"),
            (Exponential(level=True), 30 * np.exp(-0.4 * X) + 7, "moves away ever faster", "levels off towards h = 7"),
            (Exponential(), np.exp(0.3 * X), "levels off towards h = 0", "moves away ever faster"),
            (Logistic(), 30 / (1 + np.exp(5 - X)), "lower limit, h = 0", "upper limit, h = 30"),
            (Logarithmic(), 9 * np.log(X), "down ever faster", "rising, ever more slowly"), (Power(), 9 / X, "rising on this side", "falling on this side"),
            (Reciprocal(), 9 / X, "grows without limit", "levels off"),
        ):  # fmt: skip
            self.assertIn(left, self.said(model, y, 0.5), repr(model))
            self.assertIn(right, self.said(model, y, 30.0), repr(model))

    def test_the_curve_really_goes_that_way(self) -> None:
        for model, y in (
            (Polynomial(3), X**3 - 8 * X),
            (Polynomial(4), -(X**4)),
            (Power(), 5 * X**-0.7),
            (Power(), 5 * X**1.7),
        ):
            result = fit(Readings(X, y + NOISE / 20), model)
            for near, far in (
                ((-100.0, -1000.0), (100.0, 1000.0)) if isinstance(model, Polynomial) else ((0.5, 0.05), (50.0, 500.0))
            ):
                rises = result.evaluate(far) > result.evaluate(near)
                said = beyond_sentence(result, NAMING, far)
                self.assertEqual("up" in said or "rising" in said, bool(rises), f"{model!r} {far}")


class NewReadings(TestCase):
    """A prediction interval holds for the reading that it names: tried on new readings drawn from the truth."""

    def held(self, share: float, at: float, **how: object) -> float:
        random, inside = np.random.default_rng(6), 0
        x = np.linspace(1, 10, 20)
        for _ in range(600):
            true = 5 + 3 * x
            error = share * true
            y = true + random.normal(0, error)
            if "error_share" in how:
                result = fit(Readings(x, y, y_error=share * np.abs(y), error_share=share), Line())
            else:
                result = fit(Readings(x, y, y_error=share * np.abs(y)), Line())
            found = result.predict(at)
            new = 5 + 3 * at + random.normal(0, share * (5 + 3 * at))
            inside += bool(found.low <= new <= found.high)
        return inside / 600

    def test_by_the_rule_of_the_column_it_holds_at_both_ends(self) -> None:
        for at in (1.0, 10.0):
            self.assertAlmostEqual(self.held(0.06, at, error_share=0.06), 0.95, delta=0.03)

    def test_without_the_rule_it_does_not_and_says_for_which_reading_it_is_meant(self) -> None:
        self.assertGreater(self.held(0.06, 1.0), 0.99)
        self.assertLess(self.held(0.06, 10.0), 0.9)

    def words(self, **how: object) -> str:
        result: Fit = fit(Readings(X, 5 + 3 * X + NOISE, **how), Line())  # type: ignore[arg-type]
        return word_prediction(result, result.predict(5.0), NAMING).sentence

    def test_the_reading_is_named(self) -> None:
        self.assertNotIn("The prediction interval is for", self.words())
        self.assertNotIn("The prediction interval is for", self.words(y_error=0.1))
        error = 0.06 * (5 + 3 * X)
        self.assertIn("a new reading with an uncertainty of 6\u00a0%", self.words(y_error=error, error_share=0.06))
        self.assertIn("a new reading whose standard uncertainty is", self.words(y_error=np.linspace(0.1, 0.4, 15)))
        self.assertIn("a new reading of weight 1", self.words(weight=np.linspace(1, 4, 15)))

    def test_the_unknown_is_read_with_the_uncertainty_of_its_y(self) -> None:
        error = 0.06 * (5 + 3 * X)
        by_rule, plain = (
            fit(Readings(X, 5 + 3 * X + NOISE, y_error=error, error_share=share), Line()) for share in (0.06, None)
        )
        low, high = (by_rule.solve(y)[0].standard_error or 0 for y in (8.0, 35.0))
        self.assertGreater(high, 3 * low)
        self.assertLess((plain.solve(35.0)[0].standard_error or 0) / (plain.solve(8.0)[0].standard_error or 0), 1.5)
