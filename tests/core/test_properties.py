"""What must hold for any readings."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.stats import linregress

from ridge.core import Readings, fit
from ridge.core.errors import NotIdentifiable
from ridge.core.models import Line
from tests.examples import examples

numbers = st.integers(-(10**6), 10**6).map(lambda value: value / 128)
pairs = st.lists(st.tuples(numbers, numbers), min_size=3, max_size=30)
quick = examples(60)


def columns(rows: list[tuple[float, float]]) -> tuple[np.ndarray, np.ndarray]:
    x, y = (np.array(column) for column in zip(*rows, strict=True))
    assume(np.ptp(x) > 0)
    return x, y


class AnyReadings(TestCase):
    @quick
    @given(pairs)
    def test_the_line_is_that_of_scipy(self, rows: list[tuple[float, float]]) -> None:
        x, y = columns(rows)
        assume(np.ptp(y) > 0)
        ours, theirs = fit(Readings(x, y), Line()), linregress(x, y)
        scale = np.ptp(y) / np.ptp(x)
        self.assertAlmostEqual(ours.parameters["slope"].value / scale, theirs.slope / scale, delta=1e-9)

    @quick
    @given(pairs, st.randoms(use_true_random=False))
    def test_the_order_of_the_rows_does_not_matter(self, rows: list[tuple[float, float]], random: object) -> None:
        x, y = columns(rows)
        shuffled = list(rows)
        random.shuffle(shuffled)  # type: ignore[attr-defined]
        first, second = fit(Readings(x, y), Line()), fit(Readings(*columns(shuffled)), Line())
        for name in ("slope", "intercept"):
            a, b = first.parameters[name].value, second.parameters[name].value
            self.assertAlmostEqual(a, b, delta=1e-11 * (1 + np.abs(y).max() + np.abs(x).max()))

    @quick
    @given(pairs, st.integers(-20, 20), st.integers(-20, 20))
    def test_units_scale_the_parameters_exactly(self, rows: list[tuple[float, float]], i: int, j: int) -> None:
        x, y = columns(rows)
        plain = fit(Readings(x, y), Line())
        scaled = fit(Readings(x * 2.0**i, y * 2.0**j), Line())
        self.assertEqual(scaled.parameters["slope"].value, plain.parameters["slope"].value * 2.0 ** (j - i))
        self.assertEqual(scaled.parameters["intercept"].value, plain.parameters["intercept"].value * 2.0**j)
        self.assertEqual(scaled.statistics.r_squared, plain.statistics.r_squared)

    @quick
    @given(pairs, numbers, numbers)
    def test_a_fit_of_a_lines_own_points_returns_it(
        self, rows: list[tuple[float, float]], slope: float, intercept: float
    ) -> None:
        x, _ = columns(rows)
        result = fit(Readings(x, slope * x + intercept), Line())
        size = 1 + abs(slope) * np.abs(x).max() + abs(intercept)
        self.assertAlmostEqual(float(result.evaluate(x[0])), slope * x[0] + intercept, delta=1e-12 * size)
        self.assertTrue(result.statistics.exact)
        self.assertIsNone(result.statistics.f_statistic)
        self.assertIsNone(result.parameters["slope"].t)

    @quick
    @given(pairs)
    def test_residuals_and_leverage_add_up(self, rows: list[tuple[float, float]]) -> None:
        x, y = columns(rows)
        result = fit(Readings(x, y), Line())
        self.assertAlmostEqual(float(result.residuals.sum()), 0, delta=1e-9 * (1 + np.abs(y).max()) * len(y))
        self.assertAlmostEqual(float(result.leverage.sum()), 2, delta=1e-9)

    @quick
    @given(pairs, numbers)
    def test_solving_what_was_predicted_returns_x(self, rows: list[tuple[float, float]], at: float) -> None:
        x, y = columns(rows)
        result = fit(Readings(x, y), Line())
        assume(abs(result.parameters["slope"].value) > 1e-6)
        back = result.solve(float(result.predict(at).value))[0].value
        self.assertAlmostEqual(back, at, delta=1e-6 * (1 + abs(at) + np.abs(x).max()))

    @quick
    @given(st.lists(numbers, min_size=2, max_size=8), numbers)
    def test_equal_x_have_no_slope(self, y: list[float], x: float) -> None:
        with self.assertRaises(NotIdentifiable):
            fit(Readings([x] * len(y), y), Line())
