"""Curves set by hand: their judgement, their handles, and the places that can be taken hold of."""

from __future__ import annotations

import math
from itertools import product
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from ridge.core import Readings, fit, with_values
from ridge.core.by_hand import first_values, handles, move, places
from ridge.core.errors import BeyondDoubles, OutsideSense, TooFewReadings, UndefinedAt
from ridge.core.judging.comparison import leave_one_out
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
from ridge.core.predicting.features import area, roots, tangent
from ridge.core.wording.by_hand import difference_sentence, what_it_does
from ridge.core.wording.judgement import how_well, list_statistics
from ridge.core.wording.method import method_sentence
from ridge.core.wording.naming import Naming
from tests.examples import examples

X = np.linspace(1, 12, 12)
NOISE = np.random.default_rng(3).normal(0, 0.02, 12)
CURVES: list[tuple[Model, np.ndarray]] = [
    (Line(), 3 * X + 1),
    (Polynomial(2), X**2 - 9 * X),
    (Polynomial(2, terms=[2]), 0.5 * X**2),
    (Polynomial(4), X**3 - 12 * X**2),
    (Exponential(), 5 * np.exp(-0.3 * X)),
    (Exponential(level=True), 70 * np.exp(-0.3 * X) + 18),
    (Exponential(level=True), -5 * np.exp(0.2 * X) - 3),
    (Logarithmic(), 2 * np.log(X) + 1),
    (Logarithmic(shift=True), 2 * np.log(X + 3)),
    (Power(), 3 * X**-2 + 1),
    (Reciprocal(), 4 / X + 1),
    (Sinusoid(), 2 * np.sin(0.9 * X + 1) + 5),
    (Sinusoid(degrees=True, form="cos"), 2 * np.sin(0.9 * X + 1) + 5),
    (Logistic(), 5 / (1 + np.exp(-1.2 * (X - 6)))),
    (Logistic(level=True), 2 + 5 / (1 + np.exp(1.2 * (X - 6)))),
    (Gaussian(), 4 * np.exp(-((X - 7) ** 2) / 2 / 2**2) + 1),
    (Formula("p*exp(-q*x) + r"), 70 * np.exp(-0.3 * X) + 18),
]


class Given(TestCase):
    def test_at_the_fitted_values_it_is_the_fit(self) -> None:
        for model, y in CURVES:
            with self.subTest(model):
                readings = Readings(X, y + NOISE)
                fitted = fit(readings, model)
                same = with_values(readings, model, fitted.values)
                for name in ("residual_sum_of_squares", "r_squared", "total_sum_of_squares"):
                    np.testing.assert_allclose(
                        getattr(same.statistics, name), getattr(fitted.statistics, name), rtol=1e-7, err_msg=name
                    )
                self.assertEqual(same.least_squares_in, "given")

    def test_sums_by_their_definition(self) -> None:
        weight = np.linspace(1, 3, 12)
        readings = Readings(X, 3 * X + 1 + NOISE, weight=weight)
        found = with_values(readings, Line(), {"slope": 2.5, "intercept": 4.0}).statistics
        y, off = readings.y, readings.y - (2.5 * X + 4)
        rss = np.sum(weight * off**2)
        tss = np.sum(weight * (y - np.average(y, weights=weight)) ** 2)
        self.assertAlmostEqual(found.residual_sum_of_squares, rss, places=9)
        self.assertAlmostEqual(found.r_squared or 0, 1 - rss / tss, places=12)
        self.assertAlmostEqual(found.residual_standard_deviation or 0, math.sqrt(rss / 12), places=12)
        self.assertIsNone(found.f_statistic)
        self.assertIn("given", found.absent["adjusted_r_squared"])

    def test_worse_than_the_mean_is_said(self) -> None:
        result = with_values(Readings(X, X), Line(), {"slope": -1.0, "intercept": 0.0})
        self.assertLess(result.statistics.r_squared or 0, 0)
        self.assertIn("R² is negative", how_well(result, Naming()))
        self.assertIn("set by hand; nothing was fitted", method_sentence(result, Naming(), 0, by_hand=True))
        self.assertIn("known curve", method_sentence(result, Naming(), 0))
        self.assertEqual({row.name for row in list_statistics(result, Naming()) if row.absent} >= {"f_statistic"}, True)

    def test_nothing_is_claimed_to_be_known_better_than_given(self) -> None:
        result = with_values(Readings(X, 3 * X + NOISE), Line(), {"slope": 3.0, "intercept": 0.0})
        self.assertTrue(all(p.fixed and p.standard_error is None for p in result.parameters.values()))
        prediction = result.predict(5.5)
        for limit in (prediction.mean_low, prediction.mean_high, prediction.low, prediction.high):
            self.assertFalse(np.isfinite(limit))
        self.assertIsNone(result.solve(16.0)[0].standard_error)
        self.assertFalse(np.isfinite(result.solve(16.0)[0].low))
        self.assertIsNone(roots(result)[0].x_error)
        self.assertIsNone(tangent(result, 2.0).slope.standard_error)
        self.assertIsNone(area(result, 1.0, 2.0).standard_error)
        np.testing.assert_allclose(leave_one_out(result).misses, result.residuals)

    def test_a_formula_without_parameters_is_a_known_curve(self) -> None:
        result = with_values(Readings(X, 2 * X), Formula("2*x"), {})
        self.assertTrue(result.statistics.exact)
        self.assertIn("every reading lies on", how_well(result, Naming()))

    def test_bad_values(self) -> None:
        readings = Readings(X, X)
        with self.assertRaises(OutsideSense):
            with_values(readings, Line(), {"slope": 1.0})
        with self.assertRaises(OutsideSense):
            with_values(readings, Line(), {"slope": 1.0, "intercept": float("inf")})
        with self.assertRaises(TooFewReadings):
            with_values(Readings([np.nan], [1.0]), Line(), {"slope": 1.0, "intercept": 0.0})
        with self.assertRaises(UndefinedAt) as caught:
            with_values(Readings([0.0, 1, 2], [1.0, 2, 3]), Logarithmic(), {"a": 1.0, "b": 0.0})
        self.assertEqual(caught.exception.rows, (0,))
        with self.assertRaises(BeyondDoubles):
            with_values(readings, Line(), {"slope": 1e200, "intercept": 0.0})


class FirstValues(TestCase):
    def test_what_the_eye_reads_is_near(self) -> None:
        """Read off noiseless curves they are near enough to begin from: more than half of the variation is accounted for."""
        for model, y in CURVES:
            if isinstance(model, Formula) or model.parameter_names == ("c2",):
                continue
            with self.subTest(model):
                readings = Readings(X, y)
                found = with_values(readings, model, first_values(readings, model))
                self.assertGreater(found.statistics.r_squared or 0, 0.5)

    def test_two_digits_and_one_where_nothing_can_be_read(self) -> None:
        self.assertEqual(first_values(Readings(X, 3.14159 * X), Line())["slope"], 3.1)
        self.assertEqual(first_values(Readings(X, X - 6.5), Power()), {"a": 1.0, "n": 1.0})
        self.assertEqual(first_values(Readings([1.0, 1.0], [1.0, 2.0]), Line()), {"slope": 1.0, "intercept": 1.0})
        self.assertEqual(set(first_values(Readings(X, X), Formula("a*x^b"))), {"a", "b"})

    def test_fixed_parameters_are_left_alone(self) -> None:
        self.assertEqual(set(first_values(Readings(X, X), Line(intercept=0.0))), {"slope"})


class Handles(TestCase):
    def test_at_the_ends_of_what_numbers_hold(self) -> None:
        """Values so large beside the readings, or so small, that no step could be told: nothing is rounded away, nothing fails."""
        for readings, model in product(
            (Readings(X, 3 * X + 1), Readings(X, 1e-321 * X)), (model for model, _ in CURVES)
        ):
            for size in (1e-300, 1e-30, 1e30, 1e300, 1e307):
                values = dict.fromkeys(model.free_names, size)
                for handle in handles(readings, model, values):
                    self.assertTrue(handle.step > 0 and math.isfinite(handle.step), (model, handle))
                    self.assertTrue(handle.low <= handle.value <= handle.high, (model, handle))
                for place in places(readings, model, values):
                    for to_y in (-50.0, 1e300):
                        moved = move(readings, model, values, place.name, place.x, to_y)
                        self.assertTrue(all(map(math.isfinite, moved.values())), (model, place.name, moved))

    def test_one_step_moves_the_curve_visibly_and_little(self) -> None:
        for model, y in CURVES:
            readings = Readings(X, y)
            values = fit(readings, model).values
            height = float(np.ptp(y))
            dense = np.linspace(1, 12, 401)
            for handle in handles(readings, model, values):
                with self.subTest(f"{model} {handle.name}"):
                    turned = {**values, handle.name: handle.value + handle.step}
                    moved = np.abs(model.evaluate(dense, turned) - model.evaluate(dense, values)).max()
                    self.assertLess(moved, 0.03 * height)
                    self.assertGreater(moved, 0.001 * height)
                    self.assertLess(handle.low, handle.value)
                    self.assertGreater(handle.high, handle.value)

    def test_a_parameter_that_does_nothing_still_has_a_handle(self) -> None:
        handle = handles(Readings(X, X), Formula("a*sin(b*x)"), {"a": 0.0, "b": 2.0})[1]
        self.assertTrue(0 < handle.step <= 2.0)

    def test_what_it_does_is_said_for_every_parameter(self) -> None:
        for model, y in CURVES:
            readings = Readings(X, y)
            for handle in handles(readings, model, first_values(readings, model)):
                self.assertRegex(what_it_does(model, handle, Naming(x="t", x_unit="s")), r"^[A-Z].*\.$")


class Grips(TestCase):
    def test_a_grip_goes_where_it_is_moved(self) -> None:
        """Every place that is moved by a little is found there again, within the steps in which parameters are kept."""
        for model, y in CURVES:
            readings = Readings(X, y)
            values = first_values(readings, model)
            height, width = float(np.ptp(y)), 11.0
            for place in places(readings, model, values):
                with self.subTest(f"{model} {place.name}"):
                    to_x, to_y = place.x + 0.01 * width, place.y + 0.02 * height
                    moved = move(readings, model, values, place.name, to_x, to_y)
                    after = {one.name: one for one in places(readings, model, moved)}[place.name]
                    goes_up = abs(after.y - to_y) < 0.005 * height
                    goes_along = abs(after.x - to_x) < 0.005 * width
                    self.assertTrue(goes_up or goes_along, (place, after, to_x, to_y))

    def test_the_vertex_of_a_parabola(self) -> None:
        readings = Readings(X, X**2)
        moved = move(readings, Polynomial(2), {"c0": 0.0, "c1": 0.0, "c2": 1.0}, "vertex", 5.0, -2.0)
        self.assertAlmostEqual(-moved["c1"] / (2 * moved["c2"]), 5.0, delta=0.01)
        self.assertEqual(moved["c2"], 1.0)

    def test_where_the_curve_cannot_follow_it_stays(self) -> None:
        readings = Readings(X, 5 * np.exp(-0.3 * X))
        values = {"a": 5.0, "k": -0.3}
        self.assertEqual(move(readings, Exponential(), values, "bend", 6.5, -1.0), values)

    def test_fixed_parameters_and_odd_names(self) -> None:
        readings = Readings(X, X)
        self.assertEqual([p.name for p in places(readings, Line(intercept=0.0), {"slope": 1.0})], [])
        self.assertEqual(places(readings, Formula("middle*x + low"), {"middle": 1.0, "low": 0.0}), [])
        with self.assertRaises(OutsideSense):
            move(readings, Line(), {"slope": 1.0, "intercept": 0.0}, "vertex", 1.0, 1.0)

    @examples(60)
    @given(st.floats(-3, 3), st.floats(-20, 20), st.floats(-5, 15), st.floats(-50, 50))
    def test_turning_a_line_keeps_its_middle(self, slope: float, intercept: float, x: float, y: float) -> None:
        readings = Readings(X, 3 * X)
        moved = move(readings, Line(), {"slope": slope, "intercept": intercept}, "turn", x, y)
        self.assertAlmostEqual(moved["slope"] * 6.5 + moved["intercept"], slope * 6.5 + intercept, delta=0.5)


class Differing(TestCase):
    def test_the_sentence(self) -> None:
        x = np.linspace(0, 10, 101)
        said = difference_sentence(x, 0.1 * x - 0.2, "B", "A", Naming(y_unit="cm", x="t", x_unit="h"))
        self.assertIn("at most 0.80\u00a0cm above it, at t = 10\u00a0h", said)
        self.assertIn("the same as A", difference_sentence(x, 0 * x, "B", "A", Naming()))
