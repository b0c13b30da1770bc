"""Predictions in both directions: by hand, by simulation, and what must hold for any readings."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.stats import t as student

from ridge.core import Readings, fit
from ridge.core.models import Line
from tests.examples import examples

numbers = st.integers(-4000, 4000).map(lambda value: value / 64)
pairs = st.lists(st.tuples(numbers, numbers), min_size=4, max_size=20)
quick = examples(60)


class WorkedExample(TestCase):
    """Shear strength of twenty batches of a propellant by age, from D. C. Montgomery and E. A. Peck, "Introduction to Linear
    Regression Analysis", chapter 2. Readings and results from memory. The book goes on with a rounded slope and the sum of
    squares that follows from it, which moves its limits by up to 0.15."""

    AGE = (15.50, 23.75, 8.00, 17.00, 5.50, 19.00, 24.00, 2.50, 7.50, 11.00, 13.00, 3.75, 25.00, 9.75, 22.00, 18.00, 6.00, 12.50, 2.00, 21.50)  # fmt: skip
    STRENGTH = (2158.70, 1678.15, 2316.00, 2061.30, 2207.50, 1708.30, 1784.70, 2575.00, 2357.90, 2256.70, 2165.20, 2399.55, 1779.80, 2336.75, 1765.30, 2053.50, 2414.40, 2200.50, 2654.20, 1753.70)  # fmt: skip

    def test_the_line_its_slope_the_mean_and_a_new_batch(self) -> None:
        result = fit(Readings(self.AGE, self.STRENGTH), Line())
        self.assertEqual(round(result.values["intercept"], 2), 2627.82)
        self.assertEqual(round(result.values["slope"], 2), -37.15)
        low, high = result.parameters["slope"].interval(0.95)
        self.assertEqual((round(low, 2), round(high, 2)), (-43.22, -31.08))
        mean = result.predict([13.3625], level=0.95)
        self.assertAlmostEqual(mean.mean_low[0], 2086.230, delta=0.15)
        self.assertAlmostEqual(mean.mean_high[0], 2176.571, delta=0.15)
        new = result.predict([10.0], level=0.95)
        self.assertAlmostEqual(new.low[0], 2048.32, delta=0.15)
        self.assertAlmostEqual(new.high[0], 2464.32, delta=0.15)


class ByHand(TestCase):
    def test_the_textbook_formulas(self) -> None:
        # s²(1/n + (x − x̄)²/Σ(x − x̄)²), and one s² more for a new reading (Draper and Smith, section 3.1).
        x, y = np.array([0.0, 1.0, 2.0, 3.0, 4.0]), np.array([1.2, 2.9, 5.3, 6.8, 9.1])
        result = fit(Readings(x, y), Line())
        sxx = np.sum((x - 2) ** 2)
        slope = np.sum((x - 2) * y) / sxx
        s = np.sqrt(np.sum((y - y.mean() - slope * (x - 2)) ** 2) / 3)
        at = 7.5
        spread = 1 / 5 + (at - 2) ** 2 / sxx
        quantile = student.ppf(0.95, 3)
        prediction = result.predict(at, level=0.9)
        self.assertAlmostEqual(float(prediction.value), y.mean() + slope * (at - 2))
        self.assertAlmostEqual(float(prediction.mean_high - prediction.value), quantile * s * np.sqrt(spread))
        self.assertAlmostEqual(float(prediction.value - prediction.low), quantile * s * np.sqrt(1 + spread))
        self.assertAlmostEqual(float(prediction.beyond_ranges), 3.5 / 4)

    def test_far_from_zero_the_interval_does_not_drown_in_rounding(self) -> None:
        x = np.array([0.0, 1.0, 2.0, 3.0, 4.0])
        y = np.array([1.2, 2.9, 5.3, 6.8, 9.1])
        near, far = fit(Readings(x, y), Line()), fit(Readings(x + 2.0**40, y), Line())
        a, b = near.predict(2.5), far.predict(2.5 + 2.0**40)
        self.assertAlmostEqual(float(a.standard_error), float(b.standard_error), places=9)


class Coverage(TestCase):
    """Simulated studies: intervals cover the truth as often as they say, within four binomial deviations."""

    RUNS = 1200

    def test_slope_curve_and_new_reading(self) -> None:
        random = np.random.default_rng(8)
        for n in (8, 20, 100):
            x = np.sort(random.uniform(0, 10, n))
            at = 12.0
            hits = {(what, level): 0 for what in ("slope", "curve", "new") for level in (0.9, 0.95, 0.99)}
            for _ in range(self.RUNS):
                result = fit(Readings(x, 3 - 0.4 * x + random.normal(0, 0.7, n)), Line())
                new = 3 - 0.4 * at + random.normal(0, 0.7)
                for level in (0.9, 0.95, 0.99):
                    low, high = result.parameters["slope"].interval(level)
                    hits["slope", level] += low <= -0.4 <= high
                    there = result.predict(at, level)
                    hits["curve", level] += bool(there.mean_low <= 3 - 0.4 * at <= there.mean_high)
                    hits["new", level] += bool(there.low <= new <= there.high)
            for (what, level), count in hits.items():
                tolerance = 4 * np.sqrt(level * (1 - level) / self.RUNS)
                self.assertAlmostEqual(count / self.RUNS, level, delta=tolerance, msg=f"{what}, n={n}, {level}")

    def test_known_uncertainties_that_differ(self) -> None:
        random = np.random.default_rng(9)
        x = np.linspace(0, 5, 9)
        sigma = np.resize([0.1, 0.5, 1.5], 9)
        covered = 0
        for _ in range(self.RUNS):
            readings = Readings(x, 1 + 2 * x + random.normal(0, sigma), y_error=sigma, absolute_errors=True)
            low, high = fit(readings, Line()).parameters["slope"].interval(0.95)
            covered += low <= 2 <= high
        self.assertAlmostEqual(covered / self.RUNS, 0.95, delta=4 * np.sqrt(0.95 * 0.05 / self.RUNS))


class AnyReadings(TestCase):
    @quick
    @given(pairs, numbers)
    def test_a_new_reading_is_less_certain_than_the_line(self, rows: list[tuple[float, float]], at: float) -> None:
        x, y = (np.array(column) for column in zip(*rows, strict=True))
        assume(np.ptp(x) > 0)
        there = fit(Readings(x, y), Line()).predict(at)
        self.assertLessEqual(float(there.low), float(there.mean_low))
        self.assertLessEqual(float(there.mean_low), float(there.value))
        self.assertLessEqual(float(there.value), float(there.mean_high))
        self.assertLessEqual(float(there.mean_high), float(there.high))

    @quick
    @given(pairs, st.sampled_from([0.5, 0.8, 0.9, 0.95]))
    def test_a_higher_level_is_wider(self, rows: list[tuple[float, float]], level: float) -> None:
        x, y = (np.array(column) for column in zip(*rows, strict=True))
        assume(np.ptp(x) > 0)
        result = fit(Readings(x, y), Line())
        narrow, wide = result.predict(x, level), result.predict(x, level + 0.04)
        self.assertTrue(np.all(wide.high >= narrow.high))

    @quick
    @given(pairs, numbers, st.integers(-6, 6), st.integers(-6, 6))
    def test_limits_move_with_the_units(self, rows: list[tuple[float, float]], y0: float, i: int, j: int) -> None:
        x, y = (np.array(column) for column in zip(*rows, strict=True))
        assume(np.ptp(x) > 0)
        plain = fit(Readings(x, y), Line())
        assume(abs(plain.parameters["slope"].value) > 1e-6 and not plain.statistics.exact)
        scaled = fit(Readings(x * 2.0**i, y * 2.0**j), Line())
        a, b = plain.solve(y0)[0], scaled.solve(y0 * 2.0**j)[0]
        self.assertEqual(a.bounded, b.bounded)
        self.assertAlmostEqual(b.value / 2.0**i, a.value, delta=1e-9 * (1 + abs(a.value)))
        if a.bounded:
            self.assertAlmostEqual(b.low / 2.0**i, a.low, delta=1e-6 * (1 + abs(a.low)))

    @quick
    @given(pairs, numbers)
    def test_the_value_lies_within_its_limits(self, rows: list[tuple[float, float]], y0: float) -> None:
        x, y = (np.array(column) for column in zip(*rows, strict=True))
        assume(np.ptp(x) > 0)
        result = fit(Readings(x, y), Line())
        assume(abs(result.parameters["slope"].value) > 1e-6)
        solution = result.solve(y0, repeats=3)[0]
        slack = 1e-9 * (1 + abs(solution.value))
        self.assertLessEqual(solution.low, solution.value + slack)
        self.assertGreaterEqual(solution.high, solution.value - slack)
