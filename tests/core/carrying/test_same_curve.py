"""Whether two series follow one curve: Chow's test against regression with a dummy variable, and how often it errs."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
import statsmodels.api as sm

from ridge.core import Readings, fit
from ridge.core.carrying import same_curve
from ridge.core.errors import OutsideSense
from ridge.core.models import Exponential, Line, Polynomial


def two(y: np.ndarray, x: np.ndarray, **more: object):  # type: ignore[no-untyped-def]
    readings = Readings(x, y, **more)  # type: ignore[arg-type]
    first = np.arange(len(x)) < len(x) // 2
    return readings, first


class SameCurve(TestCase):
    x = np.tile(np.arange(1.0, 8), 2)
    y = np.r_[2.1, 3.9, 6.2, 7.8, 10.1, 12.2, 13.8, 3.0, 4.7, 6.6, 8.9, 10.4, 12.7, 14.5]

    def test_against_a_dummy_variable(self) -> None:
        """Both series in one regression, with an offset and a slope of their own for the second: the F of these two together and the
        standard error of each, from statsmodels."""
        for errors in (None, np.tile([0.1, 0.3], 7)):
            readings, first = two(self.y, self.x, y_error=errors)
            found = same_curve(fit(readings.choosing(first), Line()), fit(readings.choosing(~first), Line()))
            second = (~first).astype(float)
            rows = np.column_stack([np.ones(14), self.x, second, second * self.x])
            other = sm.WLS(self.y, rows, weights=1.0 if errors is None else 1 / errors**2).fit()
            test = other.f_test(np.array([[0, 0, 1, 0], [0, 0, 0, 1]]))
            assert found.f is not None and found.p is not None
            self.assertAlmostEqual(found.f / float(test.fvalue), 1, 10)
            self.assertAlmostEqual(found.p / float(test.pvalue), 1, 10)
            self.assertEqual((found.saved, found.degrees_of_freedom), (2, 10))
            self.assertAlmostEqual(found.parameters["slope"].difference, -other.params[3], 10)
            self.assertAlmostEqual(found.parameters["intercept"].difference, -other.params[2], 10)

    def test_known_uncertainties(self) -> None:
        """Then χ² decides: what is saved, in units of the known variance."""
        readings, first = two(self.y, self.x, y_error=np.full(14, 0.2), absolute_errors=True)
        one, other = fit(readings.choosing(first), Line()), fit(readings.choosing(~first), Line())
        found = same_curve(one, other)
        rss = [
            float(np.polyfit(self.x[rows], self.y[rows], 1, full=True)[1][0]) for rows in (first, ~first, slice(None))
        ]
        assert found.f is not None
        self.assertAlmostEqual(found.f, (rss[2] - rss[0] - rss[1]) / 0.04 / 2, 9)

    def test_it_errs_as_often_as_it_says(self) -> None:
        """Two series from one line: of 1 000 pairs one in twenty is called different, within three standard deviations."""
        draw = np.random.default_rng(5)
        x = np.tile(np.linspace(0, 1, 6), 2)
        below = 0
        for _ in range(1000):
            readings, first = two(1 + 2 * x + draw.normal(0, 0.1, 12), x)
            found = same_curve(fit(readings.choosing(first), Line()), fit(readings.choosing(~first), Line()))
            assert found.p is not None
            below += found.p < 0.05
        self.assertLess(abs(below - 50), 3 * np.sqrt(1000 * 0.05 * 0.95))

    def test_curved_models(self) -> None:
        x = np.tile(np.linspace(0, 4, 9), 2)
        draw = np.random.default_rng(2)
        same = 3 * np.exp(-0.5 * x) + draw.normal(0, 0.02, 18)
        readings, first = two(same, x)
        alike = same_curve(fit(readings.choosing(first), Exponential()), fit(readings.choosing(~first), Exponential()))
        readings, first = two(np.where(first, same, same * np.exp(-0.2 * x)), x)
        unlike = same_curve(fit(readings.choosing(first), Exponential()), fit(readings.choosing(~first), Exponential()))
        assert alike.p is not None and unlike.p is not None
        self.assertGreater(alike.p, 0.05)
        self.assertLess(unlike.p, 1e-6)

    def test_what_cannot_be_compared(self) -> None:
        readings, first = two(self.y, self.x)
        one, other = readings.choosing(first), readings.choosing(~first)
        for left, right in (
            (fit(one, Line()), fit(other, Polynomial(2))), (fit(readings, Line()), fit(other, Line())), (fit(one, Line()), fit(other, Line(intercept=0.0))),
        ):  # fmt: skip
            with self.assertRaises(OutsideSense):
                same_curve(left, right)

    def test_two_readings_each_leave_nothing_to_test_with(self) -> None:
        readings, first = two(np.array([1.0, 2, 1.5, 2.5]), np.array([1.0, 2, 1, 2]))
        found = same_curve(fit(readings.choosing(first), Line()), fit(readings.choosing(~first), Line()))
        self.assertIsNone(found.p)
        self.assertIsNone(found.parameters["slope"].p)
