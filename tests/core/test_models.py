"""Every family: its own curve comes back, derivatives are exact, parameters stand in their usual ranges."""

from __future__ import annotations

from unittest import TestCase

import mpmath
import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from ridge.core import Readings, fit
from ridge.core.errors import FormulaError, OutsideSense
from ridge.core.models import (
    FAMILIES,
    Constant,
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
from ridge.core.models.square_root import SquareRoot
from tests.examples import examples

X = np.array([0.4, 0.9, 1.3, 2.2, 2.9, 3.1, 4.2, 5.0, 5.8, 6.1, 7.4, 8.3, 9.1, 9.9])
EXAMPLES: list[tuple[Model, dict[str, float]]] = [
    (Constant(), {"c": 3.0}),
    (Line(), {"slope": 2.5, "intercept": -1.0}),
    (Polynomial(3), {"c0": 1.0, "c1": -4.0, "c2": 0.5, "c3": 0.25}),
    (Polynomial(4, terms=[1, 4]), {"c1": 3.0, "c4": -0.01}),
    (Exponential(), {"a": 3.0, "k": -0.4}),
    (Exponential(level=True), {"a": 30.0, "k": -0.4, "c": 7.0}),
    (Logarithmic(), {"a": 3.0, "b": -1.0}),
    (Logarithmic(shift=True), {"a": 3.0, "x0": -2.0, "b": 1.0}),
    (Power(), {"a": 3.0, "n": 1.7}),
    (SquareRoot(), {"a": 2.0, "b": -1.0}),
    (Reciprocal(), {"a": 5.0, "b": 1.0}),
    (Sinusoid(), {"amplitude": 3.0, "angular_frequency": 2.0, "phase": 1.0, "midline": 4.0}),
    (Sinusoid(form="cos"), {"amplitude": 3.0, "angular_frequency": 2.0, "phase": -1.0, "midline": 4.0}),
    (Sinusoid(degrees=True), {"amplitude": 3.0, "angular_frequency": 115.0, "phase": 60.0, "midline": 4.0}),
    (Logistic(), {"upper": 30.0, "rate": 1.2, "midpoint": 4.0}),
    (Logistic(level=True), {"upper": 30.0, "rate": -1.2, "midpoint": 4.0, "lower": 5.0}),
    (Gaussian(), {"height": 20.0, "centre": 4.0, "width": 1.5, "level": 2.0}),
    (Formula("p*exp(-q*x)+r*x"), {"p": 10.0, "q": 0.8, "r": 0.5}),
]


class EveryFamily(TestCase):
    def test_all_are_registered_and_tried(self) -> None:
        self.assertEqual({type(model) for model, _ in EXAMPLES}, set(FAMILIES.values()))

    def test_a_fit_of_its_own_curve_returns_it(self) -> None:
        for model, values in EXAMPLES:
            with self.subTest(repr(model)):
                result = fit(Readings(X, model.evaluate(X, values)), model)
                for name, value in values.items():
                    self.assertAlmostEqual(result.values[name] / value, 1, delta=1e-9, msg=name)
                self.assertEqual(tuple(result.parameters), model.parameter_names)
                self.assertTrue(result.statistics.exact)
                self.assertIsNone(result.statistics.f_statistic)

    def test_derivatives_by_parameters_are_exact(self) -> None:
        for model, values in EXAMPLES:
            gradient = model.gradient(X[:3], values)
            for i, name in enumerate(model.parameter_names):
                for row, x in enumerate(X[:3]):
                    step = 1e-6 * max(1.0, abs(values[name]))
                    up, down = (model.evaluate([x], values | {name: values[name] + side * step})[0] for side in (1, -1))
                    self.assertAlmostEqual(
                        gradient[row, i], (up - down) / (2 * step), delta=1e-6 * (1 + abs(gradient[row, i]))
                    )

    def test_derivatives_by_x(self) -> None:
        for model, values in EXAMPLES:
            for x in (0.9, 3.3):
                slope = (model.evaluate([x + 1e-6], values)[0] - model.evaluate([x - 1e-6], values)[0]) / 2e-6
                bend = (model.slope([x + 1e-6], values)[0] - model.slope([x - 1e-6], values)[0]) / 2e-6
                self.assertAlmostEqual(model.slope([x], values)[0], slope, delta=1e-5 * (1 + abs(slope)))
                self.assertAlmostEqual(model.bend([x], values)[0], bend, delta=1e-5 * (1 + abs(bend)))

    def test_units_of_x_and_y_scale_the_curve_and_not_the_fit(self) -> None:
        noise = np.random.default_rng(3).normal(0, 0.05, len(X))
        for model, values in EXAMPLES:
            y = model.evaluate(X, values)
            y = y + noise * np.ptp(y)
            plain = fit(Readings(X, y), model)
            scaled = fit(Readings(X * 8, y * 0.25), model)
            with self.subTest(repr(model)):
                self.assertAlmostEqual(scaled.statistics.r_squared or 0, plain.statistics.r_squared or 0, delta=1e-10)
                np.testing.assert_allclose(scaled.fitted, plain.fitted * 0.25, rtol=1e-8, atol=1e-9)

    def test_the_order_of_rows_does_not_matter(self) -> None:
        noise = np.random.default_rng(4).normal(0, 0.05, len(X))
        order = np.random.default_rng(5).permutation(len(X))
        for model, values in EXAMPLES:
            y = model.evaluate(X, values)
            y = y + noise * np.ptp(y)
            one, other = fit(Readings(X, y), model), fit(Readings(X[order], y[order]), model)
            for name in model.parameter_names:
                self.assertAlmostEqual(one.values[name], other.values[name], delta=1e-8 * (1 + abs(one.values[name])))

    def test_residuals_are_orthogonal_to_the_derivatives(self) -> None:
        # The condition of a least-squares minimum, in units of its own size.
        noise = np.random.default_rng(6).normal(0, 0.05, len(X))
        for model, values in EXAMPLES:
            y = model.evaluate(X, values)
            result = fit(Readings(X, y + noise * (np.ptp(y) or 1.0)), model)
            gradient = model.gradient(X, result.values)
            products = gradient.T @ result.residuals
            sizes = np.linalg.norm(gradient, axis=0) * np.linalg.norm(result.residuals)
            self.assertLess(np.max(np.abs(products) / sizes), 1e-9, repr(model))

    @examples(25)
    @given(st.floats(-3, 3), st.floats(0.5, 4), st.floats(-100, 100), st.floats(0.1, 50))
    def test_a_sinusoid_anywhere(self, phase: float, cycles: float, offset: float, span: float) -> None:
        x = offset + span * (X - X[0]) / np.ptp(X)
        true = {"amplitude": 2.0, "angular_frequency": 2 * np.pi * cycles / span, "phase": phase, "midline": -1.0}
        result = fit(Readings(x, Sinusoid().evaluate(x, true)), Sinusoid())
        self.assertAlmostEqual(result.values["angular_frequency"] / true["angular_frequency"], 1, delta=1e-8)
        self.assertTrue(-np.pi < result.values["phase"] <= np.pi)
        self.assertAlmostEqual(np.cos(result.values["phase"] - phase), 1, delta=1e-9)


class Ranges(TestCase):
    def test_amplitude_and_frequency_are_positive(self) -> None:
        for form in ("sin", "cos"):
            model = Sinusoid(form=form)
            given = {"amplitude": -2.0, "angular_frequency": -1.5, "phase": 9.0, "midline": 1.0}
            usual = model.canonical(given)
            self.assertTrue(usual["amplitude"] > 0 and usual["angular_frequency"] > 0)
            self.assertTrue(-np.pi < usual["phase"] <= np.pi)
            np.testing.assert_allclose(model.evaluate(X, given), model.evaluate(X, usual), atol=1e-12)

    def test_width_is_positive_and_upper_lies_above_lower(self) -> None:
        self.assertEqual(Gaussian().canonical({"width": -2.0})["width"], 2.0)
        model, given = Logistic(level=True), {"upper": 1.0, "rate": 2.0, "midpoint": 3.0, "lower": 5.0}
        usual = model.canonical(given)
        self.assertEqual((usual["upper"], usual["lower"]), (5.0, 1.0))
        np.testing.assert_allclose(model.evaluate(X, given), model.evaluate(X, usual), rtol=1e-12)

    def test_degrees_and_radians_are_the_same_curve(self) -> None:
        y = 3 * np.sin(1.1 * X + 0.4) + 4 + 0.1 * np.cos(7 * X)
        radians, degrees = fit(Readings(X, y), Sinusoid()), fit(Readings(X, y), Sinusoid(degrees=True))
        for name in ("angular_frequency", "phase"):
            self.assertAlmostEqual(np.degrees(radians.values[name]), degrees.values[name], places=8)
        np.testing.assert_allclose(radians.fitted, degrees.fitted, rtol=1e-10)

    def test_arguments_outside_sense(self) -> None:
        for make in (
            lambda: Polynomial(0), lambda: Polynomial(13), lambda: Polynomial(2, terms=[0, 1]), lambda: Polynomial(2, terms=[]),
            lambda: Sinusoid(form="tan"), lambda: Line(float("nan")), lambda: Line().with_fixed({"gradient": 1.0}),
        ):  # fmt: skip
            with self.assertRaises(OutsideSense):
                make()

    def test_a_formula_without_parameters_is_a_curve_but_no_fit(self) -> None:
        known = Formula("2*x + 1")
        np.testing.assert_array_equal(known.evaluate([0.0, 1.5], {}), [1.0, 4.0])
        with self.assertRaises(FormulaError):
            fit(Readings(X, X), known)

    def test_other_names_for_the_variable(self) -> None:
        result = fit(Readings(X, 3 * X + 1), Formula("a*t + b", variable="t"))
        self.assertAlmostEqual(result.values["a"], 3, places=10)


class Derived(TestCase):
    """Derived quantities by their textbook formulas; standard errors against mpmath's derivatives."""

    def test_values(self) -> None:
        noise = np.random.default_rng(8).normal(0, 0.05, len(X))
        cases: list[tuple[Model, dict[str, float], dict[str, float]]] = [
            (Line(), {"slope": 2.0, "intercept": -6.0}, {"x-intercept": 3.0, "angle of slope": 63.43494882}),
            (Polynomial(2), {"c0": 21.0, "c1": -10.0, "c2": 1.0}, {"x of the vertex": 5.0, "y of the vertex": -4.0, "discriminant": 16.0}),
            (Exponential(), {"a": 3.0, "k": -0.5}, {"half-life": 2 * np.log(2), "time constant": 2.0, "growth factor": np.exp(-0.5)}),
            (Exponential(), {"a": 3.0, "k": 0.5}, {"doubling time": 2 * np.log(2)}),
            (Logarithmic(), {"a": 3.0, "b": 1.0}, {"change per doubling": 3 * np.log(2)}),
            (Sinusoid(), {"amplitude": 3.0, "angular_frequency": np.pi / 2, "phase": 0.0, "midline": 4.0}, {"period": 4.0, "frequency": 0.25, "greatest value": 7.0, "least value": 1.0, "next crest": 13.0}),
            (Logistic(), {"upper": 30.0, "rate": 1.2, "midpoint": 4.0}, {"steepest slope": 9.0}),
            (Gaussian(), {"height": 20.0, "centre": 4.0, "width": 1.5, "level": 2.0}, {"full width at half maximum": 3.5322300675, "area over the level": 20 * 1.5 * np.sqrt(2 * np.pi)}),
        ]  # fmt: skip
        for model, values, expected in cases:
            y = model.evaluate(X, values)
            exact = {quantity.name: quantity for quantity in fit(Readings(X, y), model).derived}
            for name, value in expected.items():
                self.assertAlmostEqual(exact[name].value, value, places=7, msg=name)
            scattered = {quantity.name: quantity for quantity in fit(Readings(X, y + noise), model).derived}
            for name in expected:
                self.assertGreater(scattered[name].standard_error or 0, 0, name)

    def test_an_error_by_hand(self) -> None:
        noise = np.random.default_rng(8).normal(0, 0.05, len(X))
        result = fit(Readings(X, 3 * np.exp(-0.5 * X) + noise), Exponential())
        half_life = next(quantity for quantity in result.derived if quantity.name == "half-life")
        k = result.parameters["k"]
        slope = float(mpmath.diff(lambda k: -mpmath.log(2) / k, k.value))
        self.assertAlmostEqual(half_life.standard_error or 0, abs(slope) * (k.standard_error or 0), places=12)
        self.assertNotIn("doubling time", [quantity.name for quantity in result.derived])
