"""What a curve does between its readings, by definition."""

from __future__ import annotations

import unittest

import numpy as np
import numpy.typing as npt

from ridge.core.by_hand import with_values
from ridge.core.fitting import fit
from ridge.core.judging import between
from ridge.core.models import Exponential, Formula, Logistic, Polynomial, Sinusoid
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit

Floats = npt.NDArray[np.float64]


class BetweenReadings(unittest.TestCase):
    def curve(self, text: str, x: Floats) -> Fit:
        """A given curve with readings on it."""
        given = Formula(text)
        return with_values(Readings(x, given.evaluate(x, {})), given, {})

    def test_poles_are_found_where_the_formula_divides_by_zero(self) -> None:
        x = np.linspace(0, 10, 21) + 0.13
        self.assertEqual(len(between.poles_inside(self.curve("1/(x - 4.2)/(x - 7.7)", x))), 2)
        np.testing.assert_allclose(between.poles_inside(self.curve("1/(x - 4.2)/(x - 7.7)", x)), [4.2, 7.7], atol=1e-9)
        np.testing.assert_allclose(
            between.poles_inside(self.curve("tan(x)", x)), np.pi * (np.arange(3) + 0.5), atol=1e-9
        )
        # What is zero above and below stays finite; beyond the readings it does not count.
        self.assertEqual(between.poles_inside(self.curve("(x - 4.2)/(x - 4.2)", x)), [])
        self.assertEqual(between.poles_inside(self.curve("1/(x - 12)", x)), [])
        self.assertEqual(between.poles_inside(self.curve("sin(x - 4.2)/(x - 4.2)", x)), [])

    def test_a_gap_is_found_where_there_is_no_value(self) -> None:
        x = np.array([-3.0, -2.5, -2, 2, 2.5, 3])
        gap = between.undefined_inside(self.curve("sqrt(x^2 - 1)", x))
        assert gap is not None
        self.assertTrue(-1 < gap < 1)
        self.assertIsNone(between.undefined_inside(self.curve("sqrt(x^2 + 1)", x)))
        self.assertEqual(between.undefined_inside(self.curve("x + 0/x", x)), 0.0)

    def test_waves_count_their_cycles(self) -> None:
        x = np.linspace(0, 10, 41)
        one = between.waves(self.curve("3*sin(2*x + 1)", x))
        self.assertEqual([wave.free for wave in one], [False])
        self.assertAlmostEqual(one[0].number, 20 / (2 * np.pi), 9)
        two = between.waves(self.curve("sin(x) + cos(5*x)", x))
        self.assertEqual(sorted(round(wave.number, 6) for wave in two), [round(v / (2 * np.pi), 6) for v in (10, 50)])
        fitted = fit(Readings(x, 2 * np.sin(1.5 * x) + 0.01 * np.cos(9 * x)), Sinusoid())
        self.assertEqual([wave.free for wave in between.waves(fitted)], [True])
        self.assertAlmostEqual(between.waves(fitted)[0].number, 15 / (2 * np.pi), 2)

    def test_a_curve_swings_when_it_leaves_all_readings_by_a_third_of_their_height(self) -> None:
        x = np.linspace(0, 10, 11)
        hump = "exp(-((x - 4.5)/0.1)^2)"
        for text, outside in (
            (f"x/10 + 0.93*{hump}", 0.38),  # up to 1.38 where the readings end at 1
            (f"x/10 + 0.87*{hump}", 0.0),
            (f"x/10 - 0.83*{hump}", 0.38),
            (f"x/10 - 0.77*{hump}", 0.0),
        ):
            self.assertAlmostEqual(between.swings(self.curve(text, x)), outside, 3)

    def test_levels_that_no_reading_comes_near(self) -> None:
        random = np.random.default_rng(17)
        x = np.linspace(0, 10, 30)
        for rate, far in ((0.05, True), (0.5, False)):
            y = 20 + 80 * np.exp(-rate * x) + random.normal(0, 0.02, 30)
            found = fit(Readings(x, y), Exponential(level=True))
            levels = list(between.distant_levels(found))
            self.assertEqual(len(levels), int(far))
            if far:
                level, decay = found.values["c"], found.values["k"]
                left = abs(found.evaluate([10.0])[0] - level)
                self.assertAlmostEqual(levels[0].value, level, 6)
                self.assertAlmostEqual(levels[0].left, left, 6)
                # A fifth of what is left: after ln 5 lifetimes.
                self.assertAlmostEqual(levels[0].near_at / (10 + np.log(5) / abs(decay)), 1, 1)

    def test_a_level_on_the_left_is_one_too(self) -> None:
        x = np.linspace(-10, 0, 30)
        y = 5 + 40 * np.exp(0.05 * x) + np.random.default_rng(18).normal(0, 0.01, 30)
        levels = list(between.distant_levels(fit(Readings(x, y), Exponential(level=True))))
        self.assertEqual(len(levels), 1)
        self.assertLess(levels[0].near_at, -10)

    def test_a_step_between_neighbours(self) -> None:
        x = np.arange(10.0)
        random = np.random.default_rng(19)
        steep = fit(Readings(x, np.where(x > 4.5, 10.0, 0.0) + random.normal(0, 0.05, 10)), Logistic())
        self.assertEqual(between.step_between(steep), (4.0, 5.0))
        gentle = fit(Readings(x, 10 / (1 + np.exp(-(x - 4.5))) + random.normal(0, 0.05, 10)), Logistic())
        self.assertIsNone(between.step_between(gentle))
        self.assertIsNone(between.step_between(fit(Readings(x, np.where(x > 4.5, 10.0, 0.0)), Polynomial(5))))

    def test_a_curve_below_all_readings_already_swings_from_there(self) -> None:
        # Between the readings it goes no lower than at one of them, which lies above it.
        x = np.arange(9.0)
        y = np.where(x == 4, 0.0, 1.0)
        curve = with_values(Readings(x, y), Formula("1 - 1.5*exp(-(x - 4)^2)"), {})
        self.assertEqual(between.swings(curve), 0.0)
