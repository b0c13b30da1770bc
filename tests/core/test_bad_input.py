"""What the core does with readings that are not fit to be fitted: an exception or a caution that names the place."""

from __future__ import annotations

import warnings
from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit
from ridge.core.errors import BeyondDoubles, LengthsDiffer, NotIdentifiable, OutsideSense, RidgeError, TooFewReadings
from ridge.core.models import Line

NAN, INF = float("nan"), float("inf")


class BadReadings(TestCase):
    def setUp(self) -> None:
        # Never a bare NumPy warning: one would fail the test.
        caught = warnings.catch_warnings()
        caught.__enter__()
        warnings.simplefilter("error")
        self.addCleanup(caught.__exit__, None, None, None)

    def test_lengths_that_differ(self) -> None:
        for arguments in ({"y": [1.0]}, {"y": [1.0, 2.0], "y_error": [1.0]}, {"y": [1.0, 2.0], "included": [True]}):
            with self.assertRaises(LengthsDiffer):
                Readings([1.0, 2.0], **arguments)

    def test_text_and_tables(self) -> None:
        for x in (["one", 2], [[1, 2], [3, 4]]):
            with self.assertRaises(OutsideSense):
                Readings(x, [1, 2])  # type: ignore[arg-type]

    def test_missing_and_infinite_values_are_left_out(self) -> None:
        readings = Readings([1, NAN, 3, INF, 5, 6], [1, 2, NAN, 4, INF, 6])
        self.assertEqual(readings.used.tolist(), [True, False, False, False, False, True])
        self.assertEqual(readings.unknowns.tolist(), [False, True, False, False, False, False])

    def test_weights_and_uncertainties_outside_sense_are_left_out(self) -> None:
        readings = Readings([1, 2, 3, 4], [1, 2, 3, 4], y_error=[1, 0, -1, NAN])
        self.assertEqual(readings.used.tolist(), [True, False, False, False])
        readings = Readings([1, 2, 3, 4], [1, 2, 3, 4], weight=[1, 0, -1, NAN])
        self.assertEqual(readings.used.tolist(), [True, False, False, False])

    def test_uncertainties_of_very_different_size(self) -> None:
        for errors in ([2, 2, 2, 1e162], [1, 1, 1, 1e-200], [1e-160, 1, 1, 1e160]):
            for absolute in (False, True):
                readings = Readings([0, 1, 2, 3], [0, 1, 2.5, 9], y_error=errors, absolute_errors=absolute)
                result = fit(readings, Line())
                self.assertTrue(np.isfinite(result.parameters["slope"].value))
                self.assertTrue(np.isfinite(result.residuals).all())

    def test_weights_too_large_to_be_added_up(self) -> None:
        with self.assertRaises(OutsideSense):
            fit(Readings([1, 2, 3], [1, 2, 4], weight=[1e308, 1e308, 1e308]), Line())
        fit(Readings([1, 2, 3], [1, 2, 4], weight=[1e-308, 1, 1e300]), Line())

    def test_absolute_without_uncertainties(self) -> None:
        with self.assertRaises(OutsideSense):
            Readings([1, 2], [1, 2], absolute_errors=True)

    def test_too_few(self) -> None:
        for x, model in (([], Line()), ([1.0], Line()), ([], Line(0.0))):
            with self.assertRaises(TooFewReadings) as caught:
                fit(Readings(x, x), model)
            self.assertEqual(caught.exception.found, len(x))
            self.assertIn("add", str(caught.exception))

    def test_all_x_equal_says_what_can_be_known(self) -> None:
        with self.assertRaises(NotIdentifiable) as caught:
            fit(Readings([3, 3, 3], [1, 2, 4]), Line())
        self.assertIn("mean of y", caught.exception.combination)
        self.assertEqual(fit(Readings([3, 3, 3], [1, 2, 3]), Line(0.0)).parameters["slope"].value, 2 / 3)
        with self.assertRaises(NotIdentifiable):
            fit(Readings([0, 0], [1, 2]), Line(0.0))

    def test_all_y_equal_is_a_level_line_with_a_caution(self) -> None:
        result = fit(Readings([1, 2, 3], [7.1, 7.1, 7.1]), Line())
        self.assertEqual(result.parameters["slope"].value, 0.0)
        self.assertIsNone(result.statistics.r_squared)
        self.assertEqual([caution.code for caution in result.cautions], ["y-all-equal"])

    def test_huge_and_tiny_numbers_fit_or_say_why_not(self) -> None:
        for scale in (1e-300, 1e-160, 1e-100, 1e100, 1e150):
            result = (
                fit(Readings([1, 2, 3, 4], [scale, 3 * scale, 4 * scale, 9 * scale]), Line())
                if scale > 1e-150
                else None
            )
            if result is None:
                with self.assertRaises(BeyondDoubles):
                    fit(Readings([1, 2, 3, 4], [scale, 3 * scale, 4 * scale, 9 * scale]), Line())
            else:
                self.assertAlmostEqual(result.parameters["slope"].value / scale, 2.5)
        with self.assertRaises(BeyondDoubles):
            fit(Readings([1e308, -1e308, 0.5e308], [1e-320, 3e-320, 2e-320]), Line())
        tiny = fit(Readings([1e-300, 2e-300, 4e-300], [1.0, 2.5, 3.5]), Line())
        self.assertAlmostEqual(tiny.parameters["slope"].value / 1e300, 0.7857142857142857)

    def test_every_exception_is_the_cores_own(self) -> None:
        for x, y in (
            ([], []),
            ([1], [1]),
            ([1, 1], [1, 2]),
            ([1e308, -1e308], [1e308, -1e308]),
            ([NAN] * 3, [NAN] * 3),
        ):
            try:
                fit(Readings(x, y), Line())
            except RidgeError as error:
                self.assertTrue(str(error).endswith("."))

    def test_levels_and_places_outside_sense(self) -> None:
        result = fit(Readings([1, 2, 3], [1, 2, 4]), Line())
        for level in (0.0, 1.0, -1, 2, NAN):
            with self.assertRaises(OutsideSense):
                result.predict(1.0, level)
            with self.assertRaises(OutsideSense):
                result.parameters["slope"].interval(level)
        with self.assertRaises(OutsideSense):
            result.predict([1.0, INF])
        with self.assertRaises(OutsideSense):
            Line(intercept=NAN)

    def test_two_readings_leave_the_uncertainty_open(self) -> None:
        result = fit(Readings([1, 2], [1, 3]), Line())
        self.assertIsNone(result.parameters["slope"].standard_error)
        self.assertEqual(result.parameters["slope"].interval(), (-INF, INF))
        self.assertEqual(float(result.predict(3.0).high), INF)
        self.assertEqual([caution.code for caution in result.cautions], ["as-many-parameters-as-readings"])


class Shape(TestCase):
    def test_arrays_stand_in_the_order_of_the_readings(self) -> None:
        readings = Readings([3, 1, NAN, 2], [6.1, 2, 9, 4], included=[True, True, True, False])
        result = fit(readings, Line())
        self.assertEqual(np.isfinite(result.residuals).tolist(), [True, True, False, True])
        self.assertEqual(np.isfinite(result.leverage).tolist(), [True, True, False, False])
        self.assertEqual(result.statistics.n, 2)

    def test_predictions_take_the_shape_of_x(self) -> None:
        result = fit(Readings([1, 2, 3], [1, 2, 4]), Line())
        self.assertEqual(result.predict(2.0).value.shape, ())
        self.assertEqual(result.predict([[1, 2], [3, 4]]).low.shape, (2, 2))
        self.assertEqual(result.predict([0, 1, 3, 7]).beyond.tolist(), [1, 0, 0, 4])
        self.assertEqual(result.predict([0, 1, 3, 7]).beyond_ranges.tolist(), [0.5, 0, 0, 2])

    def test_one_million_readings(self) -> None:
        x = np.arange(1_000_000) * 1e-3
        result = fit(Readings(x, 2 + 3 * x + np.sin(x)), Line())
        self.assertAlmostEqual(result.parameters["slope"].value, 3, delta=1e-4)
