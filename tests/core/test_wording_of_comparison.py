"""Fits side by side, what an expert checks, and interpolations, in words."""

from __future__ import annotations

import pickle
from unittest import TestCase

import numpy as np
import statsmodels.api as sm

from ridge.core import Readings, fit, interpolate
from ridge.core.errors import FormulaError, NoFit, RidgeError, TooFewReadings, UndefinedAt
from ridge.core.formula import parse
from ridge.core.judging.comparison import compare, degree_ladder, nested_test
from ridge.core.models import Exponential, Formula, Line, Polynomial
from ridge.core.wording.checklist import failing_checks
from ridge.core.wording.comparison import (
    CRITERIA,
    criterion_value,
    word_criterion,
    word_ladder,
    word_nested,
    word_without,
)
from ridge.core.wording.equation import word_equation, write_symbols
from ridge.core.wording.interpolation import (
    beyond_interpolation,
    how_it_goes,
    interpolation_name,
    word_between,
    word_place_between,
)
from ridge.core.wording.naming import Naming, parameter_called
from ridge.core.wording.pieces import word_piece
from ridge.core.wording.suggestion import word_bends

X = np.arange(12.0)
Y = 2 + 0.8 * X + np.random.default_rng(4).normal(0, 0.5, 12)
NAMES = Naming(x="t", y="h", x_unit="h", y_unit="cm")


class Comparing(TestCase):
    def test_criteria_agree_with_statsmodels(self) -> None:
        """s, adjusted R² and the left-out error (from the PRESS residuals) of statsmodels' OLS on the same readings."""
        fits = [fit(Readings(X, Y), Polynomial(degree)) for degree in (1, 2, 3)]
        for degree, row in zip((1, 2, 3), compare(fits), strict=True):
            reference = sm.OLS(Y, np.vander(X, degree + 1)).fit()
            press = reference.get_influence().resid_press
            self.assertAlmostEqual(criterion_value(row, "leave_one_out") or 0, np.sqrt(np.mean(press**2)), places=9)
            self.assertAlmostEqual(criterion_value(row, "adjusted_r_squared") or 0, reference.rsquared_adj, places=9)
            s = criterion_value(row, "residual_standard_deviation") or 0
            self.assertAlmostEqual(s, np.sqrt(reference.mse_resid), places=9)

    def test_values_as_a_table_shows_them(self) -> None:
        row = compare([fit(Readings(X, Y), Line())])[0]
        shown = {c.name: word_criterion(c.name, criterion_value(row, c.name), NAMES) for c in CRITERIA}
        self.assertEqual(shown["parameters"], "2")
        self.assertTrue(shown["residual_standard_deviation"].endswith("cm"))
        self.assertEqual(word_criterion("aicc", None, NAMES), "–")
        self.assertTrue(all(c.meaning.endswith(".") for c in CRITERIA))

    def test_nested_models(self) -> None:
        readings = Readings(X, Y)
        line, cubic = fit(readings, Line()), fit(readings, Polynomial(3))
        said = word_nested(nested_test(line, cubic), "A", "B")
        self.assertIn("prefer the simpler model.", said)
        bent = Readings(X, Y + 0.5 * X**2)
        said = word_nested(nested_test(fit(bent, Line()), fit(bent, Polynomial(2))), "A", "B")
        self.assertIn("The extra parameter of", said)
        self.assertIn("improves the fit significantly", said)
        exact = Readings(X[:4], Y[:4])
        said = word_nested(nested_test(fit(exact, Line()), fit(exact, Polynomial(3))), "A", "B")
        self.assertIn("no degrees of freedom are left", said)

    def test_the_ladder_of_degrees(self) -> None:
        rungs = degree_ladder(fit(Readings(X, Y), Line()))
        said = word_ladder(rungs, NAMES)
        self.assertIn("R² never falls as the degree rises", said)
        best = min(rungs, key=lambda rung: rung.leave_one_out_error)
        self.assertIn(f"lowest at degree {best.degree}", said)
        self.assertIn("too few readings", word_ladder(rungs[:1], NAMES))
        self.assertIn(
            "still falling at degree 2", word_ladder(degree_ladder(fit(Readings(X, X**2 + Y), Line()), 2), NAMES)
        )

    def test_without_a_reading(self) -> None:
        said = word_without(6, -0.25, 3.0, 0.5, NAMES)
        self.assertEqual(
            said, "Without row 7 the curve moves by up to 0.25\u00a0cm, at t = 3\u00a0h, 0.50 times its typical miss."
        )

    def test_bends(self) -> None:
        self.assertEqual(word_bends(2, 4), "")
        self.assertIn("No curvature", word_bends(0, 9))
        self.assertIn("Two bends are seen", word_bends(2, 9))
        self.assertIn("cycle", word_bends(5, 9))


class Checklist(TestCase):
    def states(self, text: str, y: np.ndarray = Y) -> dict[str, str]:
        readings = Readings(X, y)
        model, error, found = None, None, None
        try:
            model = Formula(text)
            found = fit(readings, model)
        except RidgeError as caught:
            error = caught
        return {
            c.question.split()[-1].strip("?"): c.state for c in failing_checks(readings, model, error, found, NAMES)
        }

    def test_each_cause_is_found(self) -> None:
        self.assertEqual(self.states("a*x + (b")["meant"], "cause")
        self.assertEqual(self.states("a*ln(x) + b")["be"], "cause")  # ln 0 at the first reading
        self.assertEqual(self.states("a*b*x + c")["many"], "cause")
        self.assertEqual(self.states("a*b*x")["something"], "open")

    def test_where_it_began_and_too_few(self) -> None:
        readings = Readings(X[:1], Y[:1])
        model = Formula("a*x + b")
        checks = failing_checks(readings, model, NoFit("none"), None, NAMES)
        self.assertEqual([c.state for c in checks if "begin" in c.question], ["cause"])
        few = failing_checks(readings, model, TooFewReadings(2, 1), None, NAMES)
        self.assertEqual(few[0].state, "cause")

    def test_errors_survive_the_way_from_another_process(self) -> None:
        for error in (TooFewReadings(3, 1), UndefinedAt((2,), "why", "what"), FormulaError("m", 3, 2, "f", "p")):
            again = pickle.loads(pickle.dumps(error))
            self.assertEqual((type(again), str(again), vars(again)), (type(error), str(error), vars(error)))

    def test_models_and_trees_too(self) -> None:
        tree = parse("a*sin(b*x)^2 + if(x > 1, a, b)").tree
        self.assertIs(pickle.loads(pickle.dumps(tree)), tree)
        result = fit(Readings(X, np.exp(0.2 * X) + 0.1 * Y), Formula("a*exp(k*x)"))
        again = pickle.loads(pickle.dumps(result))
        self.assertEqual(again.values, result.values)
        np.testing.assert_array_equal(again.evaluate(X), result.evaluate(X))


class Interpolations(TestCase):
    def test_what_they_are_called_and_do(self) -> None:
        readings = Readings(X, Y)
        for kind in ("linear", "polynomial", "cubic-spline", "monotone", "spline"):
            curve = interpolate(readings, kind)
            self.assertTrue(how_it_goes(curve).endswith("."))
            self.assertTrue(beyond_interpolation(curve).startswith("Beyond the ends"))
            self.assertNotIn("-spline", interpolation_name(kind))
        self.assertEqual(interpolation_name("cubic-spline", "clamped"), "cubic spline, clamped ends")
        periodic = interpolate(Readings([0.0, 1, 2], [1.0, 2, 1]), "cubic-spline", ends="periodic")
        self.assertIn("repeats itself", how_it_goes(periodic))
        self.assertIn("repeats itself", beyond_interpolation(periodic))

    def test_values_and_places(self) -> None:
        curve = interpolate(Readings([0.0, 2, 4], [1.0, 3, 3]), "linear")
        result, sentence = word_between(curve, 1.0, 2.0, NAMES)
        self.assertEqual(result, "h = 2\u00a0cm")
        self.assertTrue(sentence.startswith("Interpolated at 1"))
        self.assertIn("has no uncertainty", sentence)
        self.assertTrue(word_between(curve, 6.0, 3.0, NAMES)[1].startswith("Extrapolated at 6"))
        self.assertEqual(word_between(curve, 1.0, 2.0, NAMES, asked_y=True)[0], "t = 1\u00a0h")
        self.assertEqual(word_place_between(curve, 1.0, NAMES), "")
        self.assertIn(
            "2\u00a0h past the last reading, 0.50 times the measured range", word_place_between(curve, 6.0, NAMES)
        )
        self.assertIn("before the first", word_place_between(curve, -1.0, NAMES))

    def test_a_natural_spline_begins_without_a_square(self) -> None:
        """Its bend at the ends is zero by definition; what rounding leaves of it is not written."""
        curve = interpolate(Readings(X, Y), "cubic-spline")
        self.assertNotIn("²", word_piece(curve.pieces[0], NAMES).text)
        self.assertIn("²", word_piece(curve.pieces[1], NAMES).text)


class Letters(TestCase):
    def test_the_letters_and_the_order_of_the_course(self) -> None:
        naming = Naming(letters=(("intercept", "a"), ("slope", "b")), rising=True)
        self.assertEqual(write_symbols(Line(), naming)[0], "y = a + b·x")
        self.assertEqual(write_symbols(Polynomial(2), Naming(rising=True))[0], "y = c₀ + c₁·x + c₂·x²")
        self.assertTrue(write_symbols(Exponential(level=True), Naming(rising=True))[0].startswith("y = c + a"))
        self.assertEqual(parameter_called("intercept", naming), "intercept a")
        self.assertEqual(parameter_called("k", naming), "k")

    def test_numbers_in_that_order(self) -> None:
        result = fit(Readings(X, Y), Line())
        text = word_equation(result, Naming(rising=True)).text
        self.assertRegex(text, r"^y = [\d.]+ \+ [\d.]+·x$")
        self.assertRegex(word_equation(result).text, r"^y = [\d.]+·x \+ [\d.]+$")
