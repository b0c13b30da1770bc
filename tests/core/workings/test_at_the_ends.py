"""Workings of bad, very large, very small and very many readings, and of every model."""

from __future__ import annotations

from fractions import Fraction as F
from typing import Any
from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit, interpolate
from ridge.core.catalogue import MODELS
from ridge.core.errors import OutsideSense, RidgeError, TooFewReadings, UndefinedAt
from ridge.core.models import Exponential, Formula, Line, Logarithmic, Polynomial, Power, Sinusoid
from ridge.core.wording.naming import Naming
from ridge.core.workings import WORKINGS, work
from ridge.core.workings.offered import offered_for
from tests.core.workings.test_against_sympy import checks_hold, named


def names(working: Any) -> list[str]:
    return [step.name for step in working.steps]


X = [1.0, 2.0, 3.0, 4.0, 6.0, 7.0]
Y = [2.1, 3.9, 6.2, 7.8, 12.5, 14.1]


class BadReadings(TestCase):
    def test_no_parabola_through_four_readings(self) -> None:
        working = work("least-squares", Readings([1, 2, 2, 4], [2, 3, 5, 4]), Polynomial(2))
        self.assertIn("none", names(working))
        self.assertEqual(next(s for s in working.steps if s.name == "clash").facts["groups"], ((1, 2),))
        self.assertIn("passes through rows 1 and 4 and halves the gap between 2 and 3", working.text)

    def test_all_x_equal(self) -> None:
        working = work("line-by-sums", Readings([2, 2, 2], [1, 2, 3]), Line())
        self.assertEqual(named(working.steps, "divisor"), 0)
        self.assertIn("the divisor is zero", working.text)
        text = work("least-squares", Readings([2, 2, 2], [1, 2, 3]), Line()).text
        self.assertIn("free", text)

    def test_one_x_with_two_y(self) -> None:
        readings = Readings([1, 2, 2], [1, 2, 3])
        for what in ("through-points", "divided-differences", "lagrange", "straight-pieces", "natural-spline"):
            self.assertEqual(names(work(what, readings))[-1], "no-curve", what)
            averaged = work(what, readings, average_repeats=True)
            self.assertIn("averaged", names(averaged), what)
        self.assertEqual(
            named(work("through-points", readings, average_repeats=True).steps, "coefficients"), [F(3, 2), F(-1, 2)]
        )

    def test_fewer_readings_than_coefficients(self) -> None:
        working = work("least-squares", Readings([1, 2], [3, 4]), Polynomial(2))
        self.assertIn("many solutions", working.text)
        self.assertIn("c₂ = −1 + 1/2·c₀", working.text)

    def test_none_at_all(self) -> None:
        for what in WORKINGS:
            with self.assertRaises(RidgeError, msg=what):
                work(what, Readings([], []), Line(), x=1.0, y=1.0)

    def test_missing_cells_and_rows_set_aside_are_left_out(self) -> None:
        readings = Readings([1, 2, np.nan, 4, 5], [2, 4, 6, np.nan, 11], included=[True, True, True, True, True])
        working = work("line-by-sums", readings, Line())
        self.assertEqual(len(named(working.steps, "table")), 3)
        self.assertIn("two of the 5 rows are left out", working.text)

    def test_an_own_formula_that_is_not_linear(self) -> None:
        with self.assertRaises(OutsideSense):
            work("least-squares", Readings(X, Y), Formula("a*exp(b*x)"))
        self.assertEqual(
            offered_for(Formula("a*exp(b*x)")),
            ("by-hand", "least-squares-path", "goodness-of-fit", "interval-at", "solve-for-x"),
        )

    def test_logarithms_of_what_has_none(self) -> None:
        with self.assertRaises(UndefinedAt) as caught:
            work("least-squares", Readings([0, 1, 2], [1, 2, 3]), Logarithmic())
        self.assertEqual(caught.exception.rows, (0,))
        with self.assertRaises(UndefinedAt):
            work("line-by-sums", Readings([1, 2, 3], [1, -2, 3]), Exponential(), least_squares_in="logarithms")

    def test_wrong_arguments(self) -> None:
        readings = Readings(X, Y)
        for wrong in ({"form": "roman"}, {"places": 13}, {"places": -1}):
            with self.assertRaises(OutsideSense):
                work("line-by-sums", readings, Line(), **wrong)
        for what, more in (
            ("nonsense", {}),
            ("interval-at", {}),
            ("solve-for-x", {}),
            ("interval-at", {"x": float("nan")}),
            ("solve-for-x", {"y": float("inf")}),
        ):
            with self.assertRaises(OutsideSense):
                work(what, readings, Line(), **more)  # type: ignore[arg-type]
        with self.assertRaises(OutsideSense):
            work("line-by-sums", readings)
        with self.assertRaises(OutsideSense):
            work("line-by-sums", readings, Polynomial(2))
        with self.assertRaises(TooFewReadings):
            work("natural-spline", Readings([1], [2]))


class FarNumbers(TestCase):
    def test_at_every_power_of_ten(self) -> None:
        for power in (-30, -12, 12, 30):
            for which in ("x", "y"):
                size = float(f"1e{power}")
                x = [value * size if which == "x" else value for value in X]
                y = [value * size if which == "y" else value for value in Y]
                x, y = [float(f"{v:.6g}") for v in x], [float(f"{v:.6g}") for v in y]
                for model in (Line(), Polynomial(3)):
                    working = work("least-squares", Readings(x, y), model)
                    checks_hold(self, working.steps)
                    self.assertIn("×", working.text)
                    self.assertTrue(working.latex)

    def test_fractions_too_long_to_be_read_are_decimals_with_the_fraction_behind(self) -> None:
        working = work("least-squares", Readings([1.234567, 2.345678, 3.456789, 5.1], [2.1, 3.9, 6.2, 7.7]), Line())
        grid = next(step.grid for step in working.worded if step.name == "normal-matrix")
        assert grid is not None
        cell = grid.cells[0][0]
        assert cell is not None
        self.assertNotIn("/", cell.number.text)
        self.assertIn("/", cell.exact)


class EveryModel(TestCase):
    def test_every_working_that_a_model_offers(self) -> None:
        x = np.array([0.5, 1, 2, 3, 4.5, 6, 7, 8.5])
        bumps = np.array([0.03, -0.02, 0.05, -0.04, 0.01, 0.02, -0.03, 0.01])
        for entry in MODELS:
            if entry.family == Formula.family:
                continue  # nothing is typed
            model = entry.model()
            y = 3 + 2 * np.sin(0.8 * x + 0.3) + bumps if model.periodic else 2.5 * np.exp(-0.3 * x) + 1 + bumps
            fitted = fit(Readings(x, y), model)
            offered = offered_for(model)
            self.assertIn("goodness-of-fit", offered)
            wanted = float(fitted.evaluate(2.4))
            for what in offered:
                for form in ("fractions", "decimals"):
                    working = work(what, fitted.readings, fitted, form=form, x=2.4, y=wanted)
                    for step in working.steps:
                        if step.kind == "check":
                            self.assertTrue(step.value, f"{entry.key}, {what}: {step}")
                    self.assertTrue(working.text and working.latex and working.mathml)
                    self.assertNotRegex(working.text, r"\bnan\b|undefined", f"{entry.key}, {what}")

    def test_in_logarithms(self) -> None:
        for model in (Exponential(), Power(), Logarithmic()):
            fitted = fit(Readings(X, Y), model, least_squares_in="logarithms")
            for what in ("line-by-sums", "least-squares", "goodness-of-fit", "interval-at", "solve-for-x"):
                checks_hold(self, work(what, fitted.readings, fitted, x=2.5, y=5.0).steps)

    def test_with_errors_in_both_directions(self) -> None:
        """The equation is that of the fit, not of least squares in y."""
        readings = Readings(X, Y, x_error=0.3, y_error=0.2)
        fitted = fit(readings, Line(), least_squares_in="orthogonal")
        self.assertEqual(offered_for(Line(), "orthogonal"), ("by-hand", "solve-for-x"))
        working = work("solve-for-x", readings, fitted, y=5.0)
        checks_hold(self, working.steps)
        self.assertIn("no-uncertainty", names(working))
        by_hand = work("by-hand", readings, Line(), values=fitted.values)
        self.assertAlmostEqual(
            float(next(s for s in by_hand.steps if s.name == "residual-table").sums[-1]),  # type: ignore[attr-defined]
            float(np.sum(readings.used_weights * fitted.residuals**2)), delta=1e-9,
        )  # fmt: skip

    def test_fixed_parameters_and_left_out_terms(self) -> None:
        readings = Readings(X, Y)
        for model in (
            Line(intercept=0.5),
            Line(intercept=0.0),
            Line().with_fixed({"slope": 2.0}),
            Polynomial(3, terms=[1, 3]),
            Formula("a*x^2 + b/x"),
        ):
            for what in ("least-squares", "goodness-of-fit", "interval-at"):
                checks_hold(self, work(what, readings, model, x=2.5).steps)

    def test_known_uncertainties_and_counts(self) -> None:
        for readings in (
            Readings(X, Y, y_error=0.2, absolute_errors=True),
            Readings(X, Y, y_error=[0.1, 0.2, 0.1, 0.3, 0.2, 0.1]),
            Readings(X, Y, count=[1, 2, 3, 1, 2, 1]),
        ):
            for what in ("line-by-sums", "least-squares", "goodness-of-fit", "interval-at", "solve-for-x"):
                checks_hold(self, work(what, readings, Line(), x=2.5, y=5.0).steps)

    def test_interpolations_agree_with_the_curve(self) -> None:
        readings = Readings(X, Y)
        for kind, more, what in (
            ("linear", {}, "straight-pieces"),
            ("polynomial", {}, "divided-differences"),
            ("polynomial", {}, "lagrange"),
            ("cubic-spline", {"ends": "natural"}, "natural-spline"),
            ("cubic-spline", {"ends": "not-a-knot"}, "not-a-knot-spline"),
            ("cubic-spline", {"ends": "clamped", "end_slopes": (1.0, 2.0)}, "clamped-spline"),
        ):
            curve = interpolate(readings, kind, **more)
            slopes = more.get("end_slopes", (0.0, 0.0))
            for x in (0.5, 2.5, 6.1, 8.0):
                mine = named(work(what, readings, x=x, end_slopes=slopes).steps, "value-at-x")  # type: ignore[arg-type]
                self.assertAlmostEqual(float(mine), float(curve.evaluate(x)), delta=1e-9, msg=f"{what} at {x}")

    def test_all_solutions_of_a_sinusoid(self) -> None:
        x = np.arange(0, 12, 0.5)
        readings = Readings(x, 5 + 2 * np.sin(0.9 * x + 1) + 0.01 * np.cos(7 * x))
        fitted = fit(readings, Sinusoid())
        working = work("solve-for-x", readings, fitted, y=6.0)
        found = [float(value) for value in working.steps[-1].left]  # type: ignore[attr-defined]
        wanted = sorted(one.value for one in fitted.solve(6.0, interval=(0, 11.5)))
        np.testing.assert_allclose(found, wanted, rtol=1e-9)
        self.assertIn("sine lies between", work("solve-for-x", readings, fitted, y=9.0).text)


class ManyReadings(TestCase):
    def test_a_hundred_thousand(self) -> None:
        x = np.round(np.linspace(0, 10, 100_000), 4)
        readings = Readings(x, np.round(3 * x + 1 + 0.1 * np.sin(1e4 * x), 3))
        for what, model in (
            ("line-by-sums", Line()),
            ("least-squares", Polynomial(2)),
            ("goodness-of-fit", Line()),
            ("by-hand", Exponential()),
        ):
            working = work(what, readings, model, form="decimals")
            checks = [step.value for step in working.steps if step.kind == "check"]
            self.assertTrue(all(checks), what)
            grids = [step.grid for step in working.worded if step.grid is not None]
            self.assertTrue(all(len(grid.rows) <= 14 for grid in grids))
        with self.assertRaises(OutsideSense):
            work("natural-spline", readings)
        with self.assertRaises(OutsideSense):
            work("through-points", readings)


class Letters(TestCase):
    def test_the_courses_letters_and_order(self) -> None:
        naming = Naming(x="t", y="h", letters=(("slope", "b"), ("intercept", "a")), rising=True)
        working = work("least-squares", Readings(X, Y), Line(), naming=naming)
        self.assertIn("h = a + b·t", working.text)
        matrix = next(step for step in working.worded if step.name == "design-matrix")
        assert matrix.grid is not None
        self.assertEqual([head.text for head in matrix.grid.heads], ["1", "t"])
        self.assertEqual(named(working.steps, "design-matrix")[1], [1, 2])

    def test_greek_and_foreign_symbols(self) -> None:
        naming = Naming(x="θ", y="λ_max")
        for what in ("line-by-sums", "least-squares"):
            working = work(what, Readings(X, Y), Line(), naming=naming)
            self.assertIn("θ", working.text)
            self.assertIn(r"\lambda" if r"\lambda" in working.latex else "λ", working.latex)

    def test_a_step_cannot_be_changed(self) -> None:
        working = work("least-squares", Readings(X, Y), Line())
        step = next(step for step in working.steps if step.name == "normal-matrix")
        step.value[0][0] = 7
        self.assertNotEqual(step.value[0][0], 7)
        with self.assertRaises(AttributeError):
            step.name = "other"  # type: ignore[misc]
