"""Where a picture lies without marks, how many bends picks show, and lengths and angles between places."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from ridge.core.errors import OutsideSense
from ridge.pictures import Placing, Scale, angle, count_bends, length, pixels_at, places, steps
from tests.examples import examples

NUMBER = st.floats(-1e6, 1e6)


class Placed(TestCase):
    @examples(60)
    @given(NUMBER, NUMBER, st.floats(1e-6, 1e6), st.floats(1e-6, 1e6), st.floats(-720, 720))
    def test_there_and_back(self, x: float, y: float, width: float, height: float, turn: float) -> None:
        matrix = Placing(x, y, width, height, turn).matrix(640, 480)
        pixels = np.array([[0.0, 0.0], [640.0, 480.0], [320.0, 240.0], [12.5, 400.0]])
        at = places(matrix, pixels)
        np.testing.assert_allclose(at[2], [x, y], rtol=1e-12, atol=1e-9 * max(width, height))
        # Far from zero a number has fewer digits left for a pixel.
        room = 1e-9 + 1e-13 * max(abs(x) * 640 / width, abs(y) * 480 / height)
        np.testing.assert_allclose(pixels_at(matrix, at), pixels, atol=1e3 * room)

    def test_turned_against_the_clock_about_its_middle(self) -> None:
        matrix = Placing(0, 0, 4, 2, 90).matrix(400, 200)
        # The middle of the right edge comes to the top.
        np.testing.assert_allclose(places(matrix, [(400, 100)]), [[0, 2]], atol=1e-12)

    def test_the_same_as_by_marks(self) -> None:
        placed = Placing(5, 2, 10, 4).matrix(100, 40)
        marked = Scale([((0, 40), 0.0), ((100, 40), 10.0)], [((0, 40), 0.0), ((0, 0), 4.0)]).matrix
        np.testing.assert_allclose(placed, marked, atol=1e-12)
        np.testing.assert_allclose(steps(placed), (0.1, 0.1))

    def test_what_is_no_place(self) -> None:
        for values in ((0, 0, 0, 1), (0, 0, 1, -1), (math.nan, 0, 1, 1), (0, 0, math.inf, 1)):
            with self.subTest(values), self.assertRaises(OutsideSense):
                Placing(*values)


class Bent(TestCase):
    def test_of_polynomials_the_turning_points(self) -> None:
        """A polynomial with zeros at whole numbers turns once between each two of them (Rolle)."""
        for degree in range(1, 7):
            zeros = np.arange(degree)
            x = np.linspace(-0.4, degree - 0.6, 60)
            y = np.prod(x[:, None] - zeros[None, :], axis=1)
            scaled = 400 * y / np.abs(y).max()
            found = count_bends(np.column_stack([60 * x, scaled]), 0.0)
            self.assertEqual((found.count, found.degree, found.points), (degree - 1, degree, degree + 1))

    def test_a_shaking_hand_makes_no_bends(self) -> None:
        shake = np.random.default_rng(4).uniform(-0.9, 0.9, 40)
        x = np.arange(40) * 10.0
        self.assertEqual(count_bends(np.column_stack([x, 3 * np.arange(40) + shake]), 2.0).count, 0)
        valley = np.column_stack([x, 0.02 * (x - 200) ** 2 + shake])
        self.assertEqual(count_bends(valley, 2.0).count, 1)

    def test_in_any_order_and_none(self) -> None:
        self.assertEqual(count_bends([(20, 0), (0, 0), (10, 50)]).count, 1)
        for few in ([], [(0, 0)], [(0, 0), (1, 100)], [(0, 5), (1, 5), (2, 5)]):
            self.assertEqual(count_bends(few).count, 0)


class Measured(TestCase):
    def test_a_triangle_of_three_four_and_five(self) -> None:
        """Euclid, Elements I.47."""
        corners = np.array([[0.0, 0.0], [3.0, 0.0], [3.0, 4.0]])
        self.assertEqual(length(corners[[0, 2]]), 5.0)
        self.assertAlmostEqual(angle(corners), 90.0, 12)
        self.assertAlmostEqual(angle(corners[[1, 0, 2]]), math.degrees(math.atan2(4, 3)), 12)

    def test_nearly_straight_and_nearly_closed(self) -> None:
        self.assertAlmostEqual(angle(np.array([[1.0, 0.0], [0.0, 0.0], [-1.0, 1e-9]])), 180 - math.degrees(1e-9), 9)
        self.assertAlmostEqual(angle(np.array([[1.0, 0.0], [0.0, 0.0], [1.0, 1e-9]])), math.degrees(1e-9), 12)
        with self.assertRaises(OutsideSense):
            angle(np.array([[1.0, 0.0], [1.0, 0.0], [2.0, 0.0]]))
