"""Workings beside worked examples that were published. Their numbers are from memory unless it says otherwise."""

from __future__ import annotations

from fractions import Fraction as F
from itertools import pairwise
from unittest import TestCase

from ridge.core import Readings
from ridge.core.models import Formula, Line
from ridge.core.results.steps import Step, Table, parameter_name
from ridge.core.workings import work
from tests.core.test_certified_linear import model_of, names_of
from tests.core.workings.test_against_sympy import checks_hold, named
from tests.reference.strd_problems import digits, problems, readings_of


class Published(TestCase):
    def test_a_line_through_three_points(self) -> None:
        """Strang, "Introduction to Linear Algebra", 5th ed., section 4.3: (0, 6), (1, 0), (2, 0) give 5 − 3t, with the
        projection (5, 2, −1) and the error (1, −2, 1)."""
        readings = Readings([0, 1, 2], [6, 0, 0])
        steps = work("least-squares", readings, Line()).steps
        self.assertEqual(named(steps, "normal-matrix"), [[5, 3], [3, 3]])
        self.assertEqual(named(steps, "normal-right-hand-side"), [0, 6])
        self.assertEqual(named(steps, "coefficients"), [-3, 5])
        self.assertEqual(named(steps, "fitted"), [5, 2, -1])
        self.assertEqual(named(steps, "residuals"), [1, -2, 1])
        self.assertEqual(named(work("line-by-sums", readings, Line()).steps, "coefficients"), [-3, 5])

    def test_an_interpolating_parabola(self) -> None:
        """Lay, "Linear Algebra and Its Applications", exercises of section 1.2: through (1, 12), (2, 15), (3, 16) runs 7 + 6t − t²."""
        steps = work("through-points", Readings([1, 2, 3], [12, 15, 16])).steps
        self.assertEqual(named(steps, "reduced"), [[1, 0, 0, -1], [0, 1, 0, 6], [0, 0, 1, 7]])
        self.assertEqual(named(steps, "coefficients"), [-1, 6, 7])

    def test_divided_differences(self) -> None:
        """Burden and Faires, "Numerical Analysis", 9th ed., section 3.3: five values of a Bessel function; P₄(1.5) = 0.5118200."""
        readings = Readings([1.0, 1.3, 1.6, 1.9, 2.2], [0.7651977, 0.6200860, 0.4554022, 0.2818186, 0.1103623])
        steps = work("divided-differences", readings, x=1.5).steps
        first = [float(entry) for entry in named(steps, "divided-differences")[0][1:]]
        wanted = [0.7651977, -0.4837057, -0.1087339, 0.0658784, 0.0018251]
        for mine, theirs in zip(first, wanted, strict=True):
            self.assertAlmostEqual(mine, theirs, delta=6e-8)
        self.assertAlmostEqual(float(named(steps, "value-at-x")), 0.5118200, delta=6e-8)

    def test_lagranges_form(self) -> None:
        """The same book, section 3.1: 1/x at 2, 2.75 and 4 gives x²/22 − 35x/88 + 49/44, and 29/88 at 3."""
        steps = work("lagrange", Readings([2, 2.75, 4], [0.5, 0.3636363636363636, 0.25]), x=3.0).steps
        for mine, theirs in zip(named(steps, "equation"), (F(49, 44), F(-35, 88), F(1, 22)), strict=True):
            self.assertAlmostEqual(float(mine), float(theirs), delta=1e-14)
        self.assertAlmostEqual(float(named(steps, "value-at-x")), 29 / 88, delta=1e-14)

    def test_natural_and_clamped_splines(self) -> None:
        """The same book, section 3.5: through (1, 2), (2, 3), (3, 5), clamped with slopes 2 and 1."""
        readings = Readings([1, 2, 3], [2, 3, 5])
        natural = named(work("natural-spline", readings).steps, "pieces")
        self.assertEqual([row[3:] for row in natural], [[2, F(3, 4), 0, F(1, 4)], [3, F(3, 2), F(3, 4), F(-1, 4)]])
        clamped = named(work("clamped-spline", readings, end_slopes=(2, 1)).steps, "pieces")
        self.assertEqual([row[3:] for row in clamped], [[2, 2, F(-5, 2), F(3, 2)], [3, F(3, 2), 2, F(-3, 2)]])

    def test_straight_pieces(self) -> None:
        """Common practice: halfway between two entries of a table lies their mean."""
        steps = work("straight-pieces", Readings([10, 20, 40], [1.5, 2.5, 8.5]), x=30.0).steps
        self.assertEqual(named(steps, "value-at-x"), F(11, 2))

    def test_a_calibration(self) -> None:
        """Miller and Miller, "Statistics and Chemometrics for Analytical Chemistry", chapter 5: fluorescein standards; slope
        1.93, intercept 1.52, s 0.4329, standard errors 0.0409 and 0.2950; x of 13.5 is 6.21 with 0.24."""
        readings = Readings([0, 2, 4, 6, 8, 10, 12], [2.1, 5.0, 9.0, 12.6, 17.3, 21.0, 24.7])
        steps = work("goodness-of-fit", readings, Line()).steps
        self.assertAlmostEqual(named(steps, "s"), 0.4329, delta=6e-5)
        slope, intercept = named(steps, "parameters")
        self.assertAlmostEqual(slope[0], 1.93, delta=5e-3)
        self.assertAlmostEqual(slope[1], 0.0409, delta=5e-5)
        self.assertAlmostEqual(intercept[0], 1.52, delta=5e-3)
        self.assertAlmostEqual(intercept[1], 0.2950, delta=7e-5)
        by_textbook = [step.value for step in steps if step.name == "standard-error-line"]
        self.assertAlmostEqual(by_textbook[0], 0.0409, delta=5e-5)
        self.assertAlmostEqual(by_textbook[1], 0.2950, delta=7e-5)
        solved = work("solve-for-x", readings, Line(), y=13.5).steps
        self.assertAlmostEqual(float(solved[-1].left[0]), 6.21, delta=5e-3)  # type: ignore[attr-defined]
        self.assertAlmostEqual(named(solved, "standard-error-of-x"), 0.24, delta=5e-3)
        checks_hold(self, solved)


class Certified(TestCase):
    """NIST/ITL Statistical Reference Datasets, from the files beside the tests."""

    def test_linear_problems(self) -> None:
        """Coefficients and sums of squares come out exactly from the decimals of the readings: fifteen digits agree."""
        found = problems("linear")
        self.assertEqual(len(found), 10)
        for problem in found:
            readings, model = readings_of(problem), model_of(problem)
            steps = work("least-squares", readings, model, form="decimals").steps
            names, values = names_of(problem), named(steps, "equation")
            ordered = dict(zip(model.parameter_names, values, strict=True))
            for name, certified in zip(names, problem["coefficients"], strict=True):
                self.assertGreaterEqual(digits(float(ordered[name]), certified), 14, f"{problem['name']} {name}")
            checks_hold(self, steps)
            judged = work("goodness-of-fit", readings, model).steps
            total = next(step for step in judged if step.name == "residual-table").sums[-1]  # type: ignore[attr-defined]
            self.assertGreaterEqual(digits(float(total), problem["residual_sum_of_squares"]), 14, problem["name"])
            if total:
                s = named(judged, "s")
                self.assertGreaterEqual(digits(s, problem["residual_standard_deviation"]), 14, problem["name"])
                rows = dict(
                    zip((one.split("_")[-1] for one in self.names(judged)), named(judged, "parameters"), strict=True)
                )
                for name, certified in zip(names, problem["standard_deviations"], strict=True):
                    self.assertGreaterEqual(digits(rows[name][1], certified), 13, f"{problem['name']} {name}")
                checks_hold(self, judged)

    def names(self, steps: tuple[Step, ...]) -> tuple[str, ...]:
        table = next(step for step in steps if step.name == "parameters")
        assert isinstance(table, Table)
        return tuple(parameter_name(label) or "" for label in table.labels)

    def test_the_path_of_a_nonlinear_problem(self) -> None:
        """Misra1a from both published starts to the certified parameters and sum of squares."""
        problem = next(one for one in problems("nonlinear") if one["name"] == "Misra1a")
        model, readings = Formula(problem["model"]), readings_of(problem)
        for start in ("start1", "start2"):
            begin = {one["name"]: one[start] for one in problem["parameters"]}
            steps = work("least-squares-path", readings, model, start=begin).steps
            path = named(steps, "path")
            self.assertEqual([float(value) for value in path[0][:-1]], list(begin.values()))
            totals = [row[-1] for row in path]
            self.assertTrue(all(after < before * (1 + 1e-12) for before, after in pairwise(totals)))
            self.assertGreaterEqual(digits(totals[-1], problem["residual_sum_of_squares"]), 9)
            for value, one in zip(path[-1], problem["parameters"], strict=False):
                self.assertGreaterEqual(digits(value, one["certified"]), 8, one["name"])
            checks_hold(self, steps)
