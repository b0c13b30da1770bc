"""Refits beside a fit: the sums of squares that limits are read from, held against whole fits and SciPy."""

from __future__ import annotations

import unittest

import numpy as np
from scipy.optimize import least_squares

from ridge.core import Readings, fit
from ridge.core.fitting.effort import Effort
from ridge.core.fitting.refits import NoProfile, Refits
from ridge.core.models import Exponential, Formula, Logistic, Model, Power, Sinusoid
from ridge.core.predicting.parameter_limits import intervals, sides
from ridge.core.results.fit import Fit

X = np.arange(1.0, 13.0)
NOISE = np.array([0.3, -0.5, 0.2, 0.6, -0.4, 0.1, -0.3, 0.5, -0.1, -0.6, 0.4, -0.2])
CASES: tuple[tuple[Model, np.ndarray], ...] = (
    (Exponential(level=True), 20 * np.exp(-0.3 * X) + 4 + NOISE),
    (Power(), 3 * X**0.8 + NOISE),
    (Sinusoid(), 3 * np.sin(0.9 * X + 0.4) + 10 + NOISE),
    (Formula("a*x/(b+x)"), 9 * X / (2 + X) + NOISE),
)


def all_fits(size: float = 1.0) -> list[Fit]:
    return [fit(Readings(X, y * size, y_error=0.2 * size * (1 + X / 20)), model) for model, y in CASES]


class Against(unittest.TestCase):
    def test_whole_fits_with_the_parameter_fixed(self) -> None:
        for size in (1.0, 1e30, 1e-30):
            for one in all_fits(size):
                refits = Refits(one, Effort())
                assert one.reading_deviation
                for name, parameter in one.parameters.items():
                    assert parameter.standard_error
                    for away in (-1.5, 0.01, 2.0):
                        value = parameter.value + away * parameter.standard_error
                        start = {other: v for other, v in one.values.items() if other != name}
                        whole = fit(one.readings, one.model, fixed={name: value}, start=start)
                        expected = whole.statistics.residual_sum_of_squares / one.reading_deviation**2
                        with self.subTest(model=repr(one.model), name=name, away=away, size=size):
                            self.assertAlmostEqual(refits.holding(name, value), expected, delta=1e-8 * expected)

    def test_whole_fits_with_one_more_reading(self) -> None:
        for one in all_fits():
            refits, at = Refits(one, Effort()), 7.3
            assert one.reading_deviation
            for y, weight in ((float(one.evaluate(at)) + 1, 0.5), (float(one.evaluate(at)) - 0.4, 1e5)):
                readings = Readings(
                    np.append(X, at),
                    np.append(one.readings.y, y),
                    weight=np.append(one.readings.used_weights, weight),
                )
                whole = fit(readings, one.model, start=one.values).statistics.residual_sum_of_squares
                with self.subTest(model=repr(one.model), y=y):
                    expected = whole / one.reading_deviation**2
                    self.assertAlmostEqual(refits.with_one_more(at, y, weight), expected, delta=1e-8 * expected)

    def test_whole_fits_without_a_reading(self) -> None:
        for one in all_fits():
            refits = Refits(one, Effort())
            for place in (0, 5, 11):
                included = np.arange(12) != place
                whole = fit(one.readings.choosing(included), one.model, start=one.values)
                found = refits.without(place)
                for name, value in whole.values.items():
                    error = whole.parameters[name].standard_error
                    assert error
                    with self.subTest(model=repr(one.model), name=name, place=place):
                        self.assertAlmostEqual(found[name], value, delta=1e-6 * error)

    def test_scipy_with_a_rate_held(self) -> None:
        one = fit(Readings(X, CASES[0][1]), Exponential(level=True))
        assert one.reading_deviation
        for k in (-0.5, -0.25, -0.1):
            found = least_squares(lambda p, k=k: CASES[0][1] - p[0] * np.exp(k * X) - p[1], (10.0, 1.0))
            expected = 2 * found.cost / one.reading_deviation**2
            self.assertAlmostEqual(Refits(one, Effort()).holding("k", k), expected, delta=1e-7 * expected)


class NoEnd(unittest.TestCase):
    def test_readings_without_a_level_leave_standard_errors_and_it_is_said(self) -> None:
        # A logistic curve through a plain decay: its upper level and its midpoint run off together.
        y = 66 * np.exp(-0.05 * np.arange(0, 96, 6)) + 17 + np.resize(NOISE, 16)
        one = fit(Readings(np.arange(0.0, 96.0, 6.0), y), Logistic())
        self.assertIn("no profile", {limits.method for limits in intervals(one).values()})

    def test_a_sum_that_rises_at_once_is_no_limit(self) -> None:
        with self.assertRaises(NoProfile):
            sides(lambda share: 1e9 * share**2)

    def test_work_is_counted(self) -> None:
        one, effort = all_fits()[0], Effort(1e5)
        refits = Refits(one, effort)
        with self.assertRaises(NoProfile):
            for step in range(50):
                refits.holding("k", one.values["k"] + step * 0.01)
