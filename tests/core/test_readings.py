"""Readings: what takes part, what is an unknown, and how weights combine."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit
from ridge.core.models import Line

NAN = float("nan")


class Columns(TestCase):
    def test_values_are_copied_and_cannot_be_changed_underneath(self) -> None:
        x = np.array([1.0, 2.0, 3.0])
        readings = Readings(x, [1, 2, 4])
        x[0] = 99
        self.assertEqual(readings.x[0], 1.0)
        with self.assertRaises(ValueError):
            readings.x[0] = 5.0

    def test_one_uncertainty_serves_every_reading(self) -> None:
        readings = Readings([1, 2, 3], [1, 2, 4], y_error=0.5)
        assert readings.y_error is not None
        self.assertEqual(readings.y_error.tolist(), [0.5, 0.5, 0.5])

    def test_measured_range_is_of_the_readings_in_use(self) -> None:
        readings = Readings([5, -2, 3, NAN, 90], [1, 2, 3, 4, 5], included=[True, True, True, True, False])
        self.assertEqual(readings.measured_range, (-2.0, 5.0))
        self.assertTrue(np.isnan(Readings([], []).measured_range[0]))

    def test_a_row_set_aside_is_no_unknown(self) -> None:
        readings = Readings([NAN, NAN], [1, 2], included=[True, False])
        self.assertEqual(readings.unknowns.tolist(), [True, False])

    def test_length_and_repr(self) -> None:
        readings = Readings([1, 2, NAN], [1, 2, 3])
        self.assertEqual(len(readings), 3)
        self.assertEqual(repr(readings), "Readings(3 rows, 2 used)")
        self.assertEqual(repr(Line()), "Line()")
        self.assertEqual(repr(Line(0.0)), "Line(intercept=0.0)")
        self.assertEqual(repr(fit(readings, Line())), "Fit(y = x, n=2)")


class Weights(TestCase):
    def test_those_from_uncertainties_have_mean_one(self) -> None:
        readings = Readings([1, 2, 3, 4], [1, 2, 3, 4], y_error=[0.1, 0.2, 0.2, 0.4])
        self.assertAlmostEqual(float(readings.used_weights.mean()), 1.0)
        # Harmonic mean of the squares, by hand: 4 / (1/0.01 + 2/0.04 + 1/0.16) = 0.0256.
        self.assertAlmostEqual(readings.reference_error, np.sqrt(0.0256))

    def test_given_weights_are_taken_as_they_are(self) -> None:
        self.assertEqual(Readings([1, 2], [1, 2], weight=[3, 5]).used_weights.tolist(), [3, 5])

    def test_both_multiply(self) -> None:
        readings = Readings([1, 2], [1, 2], y_error=[1, 1], weight=[2, 7])
        self.assertEqual(readings.used_weights.tolist(), [2, 7])

    def test_a_weight_of_two_is_a_reading_taken_twice(self) -> None:
        x, y = [1.0, 2.0, 3.0, 4.0], [1.1, 1.9, 3.2, 3.9]
        weighted = fit(Readings(x, y, weight=[1, 2, 1, 1]), Line())
        repeated = fit(Readings([*x, 2.0], [*y, 1.9]), Line())
        for name in ("slope", "intercept"):
            self.assertAlmostEqual(weighted.parameters[name].value, repeated.parameters[name].value, places=12)

    def test_extreme_uncertainties_do_not_overflow(self) -> None:
        for size in (1e-200, 1e200):
            readings = Readings([1, 2, 3], [1, 2, 4], y_error=[size, 2 * size, size])
            self.assertTrue(np.isfinite(readings.used_weights).all())
            self.assertAlmostEqual(fit(readings, Line()).parameters["slope"].value, 1.5)
