"""Draws of shares: what is left out, how far the curves move, and what is said of it."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit
from ridge.core.fitting.effort import Effort
from ridge.core.judging.comparison import leave_one_out
from ridge.core.judging.resampling import each_in_turn, k_fold, movement, random_shares, root_mean_square
from ridge.core.models import Line, Polynomial
from ridge.core.wording.naming import Naming
from ridge.core.wording.resampling import word_failed, word_left_out, word_movement

X = np.linspace(0, 10, 14)
Y = 2 * X + 1 + np.random.default_rng(4).normal(0, 1, 14)
NAMING = Naming("t", "h", "s", "m", "time", "height")


class InTurn(TestCase):
    def test_each_reading_once_and_the_error_of_the_hat_matrix(self) -> None:
        result = fit(Readings(X, Y, included=X[3] != X), Line())
        draws = each_in_turn(result)
        self.assertEqual([np.flatnonzero(result.readings.used & ~draw.included).tolist() for draw in draws],
                         [[row] for row in range(14) if row != 3])  # fmt: skip
        self.assertAlmostEqual(root_mean_square(draws, result), leave_one_out(result).error, places=12)

    def test_a_counted_row_is_held_out_as_often_as_it_occurred(self) -> None:
        result = fit(Readings(X, Y, count=[1.0, 6.0] * 7), Line())
        self.assertAlmostEqual(root_mean_square(each_in_turn(result), result), leave_one_out(result).error, places=12)

    def test_as_many_parts_as_readings_leave_each_out(self) -> None:
        result = fit(Readings(X, Y), Polynomial(2))
        one, other = root_mean_square(each_in_turn(result), result), root_mean_square(k_fold(result, 14, 3), result)
        self.assertAlmostEqual(one, other, places=12)


class Work(TestCase):
    def test_draws_for_which_no_work_is_left_have_no_fit(self) -> None:
        result, spent = fit(Readings(X, Y), Line()), Effort(-1.0)
        for draws in (
            random_shares(result, 0.5, 5, 1, spent),
            k_fold(result, 5, 1, spent),
            each_in_turn(result, spent),
        ):
            self.assertTrue(all(draw.fit is None for draw in draws))
            self.assertTrue(np.isnan(root_mean_square(draws, result)))


class Movement(TestCase):
    def test_by_hand_from_the_lines_of_the_draws(self) -> None:
        result = fit(Readings(X, Y), Line())
        draws = random_shares(result, 0.5, 6, 2)
        x = np.linspace(0, 10, 121)
        lines = np.array([np.polyval(np.polyfit(X[d.included], Y[d.included], 1), x) for d in draws])
        apart = lines.std(axis=0, ddof=1)
        found = movement(draws, result)
        self.assertAlmostEqual(found.typical, float(np.median(apart)), places=10)
        self.assertAlmostEqual(found.largest, float(apart.max()), places=10)
        self.assertAlmostEqual(found.at, float(x[apart.argmax()]))

    def test_one_draw_tells_nothing(self) -> None:
        result = fit(Readings(X, Y), Line())
        self.assertTrue(np.isnan(movement(random_shares(result, 0.5, 1, 2), result).typical))
        self.assertEqual(word_movement(movement([], result), NAMING), "")

    def test_a_curve_that_follows_the_scatter_moves_more(self) -> None:
        calm, wild = (fit(Readings(X, Y), Polynomial(degree)) for degree in (1, 5))
        one, other = (movement(random_shares(result, 0.6, 8, 1), result).largest for result in (calm, wild))
        self.assertGreater(other, 3 * one)


class InWords(TestCase):
    def test_what_a_ratio_says(self) -> None:
        self.assertEqual(
            word_left_out(1.1, 1.0, NAMING),
            "The error on held-out readings is 1.1 times the typical miss: no sign of overfitting.",
        )
        self.assertIn("some overfitting", word_left_out(1.8, 1.0, NAMING))
        self.assertIn("overfitting. Try", word_left_out(5.0, 1.0, NAMING))
        self.assertEqual(word_left_out(0.5, None, NAMING), "The error on held-out readings is 0.50\u00a0m.")
        self.assertIn("choose a larger subset", word_left_out(float("nan"), 1.0, NAMING))

    def test_what_failed(self) -> None:
        self.assertEqual((word_failed(0, 9), word_failed(2, 9)), ("", "2 of 9 could not be fitted."))
