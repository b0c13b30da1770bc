"""Curves through every reading, against SciPy's own and by hand."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import mpmath
import numpy as np
from scipy.interpolate import (
    Akima1DInterpolator,
    BarycentricInterpolator,
    CubicSpline,
    PchipInterpolator,
    make_interp_spline,
)

from ridge.core import Readings, interpolate
from ridge.core.errors import NoSolution, OutsideSense, RepeatedX, TooFewReadings

X = np.array([0.0, 0.7, 1.9, 2.4, 3.8, 5.0, 5.5, 7.1])
Y = np.array([1.0, 2.2, 1.7, 0.3, -0.4, 0.9, 1.8, 1.0])
AT = np.linspace(-0.5, 7.6, 60)


class AgainstScipy(TestCase):
    def check(self, kind: str, reference: Any, **more: object) -> None:
        curve = interpolate(Readings(X[::-1], Y[::-1]), kind, **more)  # type: ignore[arg-type]
        np.testing.assert_allclose(curve.evaluate(X), Y, atol=1e-12)
        np.testing.assert_allclose(curve.evaluate(AT), reference(AT), rtol=1e-10, atol=1e-11)

    def test_cubic_splines(self) -> None:
        for ends in ("natural", "not-a-knot", "periodic"):
            self.check("cubic-spline", CubicSpline(X, Y, bc_type=ends), ends=ends)
        clamped = CubicSpline(X, Y, bc_type=((1, 0.5), (1, -2.0)))
        self.check("cubic-spline", clamped, ends="clamped", end_slopes=(0.5, -2.0))

    def test_monotone_and_higher_splines(self) -> None:
        self.check("monotone", PchipInterpolator(X, Y, extrapolate=True))
        for degree in (1, 2, 3, 4, 5):
            self.check("spline", make_interp_spline(X, Y, k=degree), degree=degree)

    def test_the_polynomial_through_all(self) -> None:
        self.check("polynomial", BarycentricInterpolator(X, Y))
        self.assertNotEqual(interpolate(Readings(X, Y), "polynomial").evaluate(1.0), Akima1DInterpolator(X, Y)(1.0))


class ByHand(TestCase):
    def test_straight_pieces_and_beyond(self) -> None:
        curve = interpolate(Readings([1, 2, 4], [1.0, 3.0, 2.0]), "linear")
        np.testing.assert_allclose(curve.evaluate([1.5, 3.0, 0.0, 6.0]), [2.0, 2.5, -1.0, 1.0])
        self.assertEqual(curve.pieces[1].coefficients, (3.0, -0.5))
        found = curve.predict(6.0)
        self.assertEqual((float(found.beyond), float(found.beyond_ranges)), (2.0, 2 / 3))

    def test_a_natural_spline_through_three(self) -> None:
        # Through (0, 0), (1, 1), (2, 0): S = 1.5x − 0.5x³ on the first piece (worked by hand).
        curve = interpolate(Readings([0, 1, 2], [0.0, 1.0, 0.0]), "cubic-spline", ends="natural")
        np.testing.assert_allclose(curve.pieces[0].coefficients, (0.0, 1.5, 0.0, -0.5), atol=1e-14)
        self.assertAlmostEqual(float(curve.predict(0.5).value), 0.6875)
        np.testing.assert_allclose(curve.bend([0.0, 2.0]), 0, atol=1e-12)

    def test_nineteen_points_on_a_line_stay_on_it(self) -> None:
        x = np.arange(19.0)
        curve = interpolate(Readings(x, x), "polynomial")
        at = np.linspace(0, 18, 1801)
        self.assertLess(np.max(np.abs(curve.evaluate(at) - at)), 1e-12)
        self.assertEqual(curve.pieces[0].coefficients, (0.0, 1.0, *[0.0] * 17))

    def test_derivatives_of_the_polynomial(self) -> None:
        curve = interpolate(Readings([0, 1, 3, 4], [1.0, 2.0, 28.0, 65.0]), "polynomial")  # x³ + 1
        at = np.array([0.0, 0.3, 1.0, 2.2, 4.0])
        np.testing.assert_allclose(curve.slope(at), 3 * at**2, atol=1e-12)
        np.testing.assert_allclose(curve.bend(at), 6 * at, atol=1e-11)

    def test_polynomial_against_high_precision(self) -> None:
        x = np.cos(np.pi * (np.arange(40) + 0.5) / 40)
        curve = interpolate(Readings(x, np.exp(x)), "polynomial")
        for place in (-0.95, 0.123, 0.8):
            self.assertAlmostEqual(float(curve.predict(place).value), float(mpmath.exp(place)), places=13)

    def test_areas_and_solutions(self) -> None:
        curve = interpolate(Readings([0, 1, 2], [0.0, 1.0, 0.0]), "cubic-spline", ends="natural")
        self.assertAlmostEqual(curve.area(0, 2), 1.25)  # 2·∫(1.5x − 0.5x³) from 0 to 1
        self.assertAlmostEqual(curve.area(2, 0), -1.25)
        self.assertEqual([round(found.value, 12) for found in curve.solve(0.6875)], [0.5, 1.5])
        with self.assertRaises(NoSolution):
            curve.solve(3.0)


class Care(TestCase):
    def test_runge_swings_and_is_said(self) -> None:
        x = np.linspace(-5, 5, 11)
        curve = interpolate(Readings(x, 1 / (1 + x * x)), "polynomial")
        # Largest error of the degree-10 interpolant, about 1.92 (Runge's example, common in textbooks).
        at = np.linspace(-5, 5, 2001)
        self.assertAlmostEqual(np.max(np.abs(curve.evaluate(at) - 1 / (1 + at * at))), 1.9156, places=3)
        codes = [caution.code for caution in curve.cautions]
        self.assertEqual(codes, ["many-nodes-one-polynomial", "swings", "no-residuals"])
        self.assertEqual(
            [c.code for c in interpolate(Readings(x, 1 / (1 + x * x)), "monotone").cautions], ["no-residuals"]
        )

    def test_repeated_x_is_averaged_only_when_told(self) -> None:
        readings = Readings([1, 2, 2, 3], [1.0, 4.0, 6.0, 2.0], weight=[1, 1, 3, 1])
        with self.assertRaises(RepeatedX) as caught:
            interpolate(readings, "linear")
        self.assertEqual(caught.exception.rows, (1, 2))
        curve = interpolate(readings, "linear", average_repeats=True)
        self.assertEqual(curve.predict(2.0).value, 5.5)
        self.assertIn("repeats-averaged", [caution.code for caution in curve.cautions])

    def test_rows_set_aside_are_not_gone_through(self) -> None:
        curve = interpolate(Readings([1, 2, 3], [1.0, 9.0, 3.0], included=[True, False, True]), "linear")
        self.assertEqual(curve.predict(2.0).value, 2.0)

    def test_refusals(self) -> None:
        with self.assertRaises(TooFewReadings):
            interpolate(Readings([1.0], [1.0]), "linear")
        with self.assertRaises(TooFewReadings):
            interpolate(Readings([1.0, 2, 3], [1.0, 2, 3]), "spline", degree=3)
        for arguments in (
            {"kind": "bezier"},
            {"kind": "cubic-spline", "ends": "free"},
            {"kind": "spline", "degree": 6},
        ):
            with self.assertRaises(OutsideSense):
                interpolate(Readings(X, Y), **arguments)
        with self.assertRaises(OutsideSense):
            interpolate(Readings([0, 1, 2], [0.0, 1.0, 3.0]), "cubic-spline", ends="periodic")
        with self.assertRaises(OutsideSense):
            interpolate(Readings(X, Y), "linear").predict(np.nan)
