"""Pixels to values and back: known places come out, on every kind of axis, turned and slanted."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from ridge.core.errors import OutsideSense
from ridge.core.readings import Array
from ridge.pictures import Scale
from tests.examples import examples

Pair = tuple[float, float]


def drawn(angle: float, slant: float, log_y: bool) -> tuple[Array, Array]:
    """Origin and axes of a plot in pixels, by hand: x from 0 to 10 over 400 pixels, y from 1 to 100 over 300, turned."""
    a, b = np.radians(angle), np.radians(angle - 90 + slant)
    steps = 2.0 if log_y else 99.0
    return np.array([80.0, 420.0]), np.array(
        [[np.cos(a) * 40, np.cos(b) * 300 / steps], [np.sin(a) * 40, np.sin(b) * 300 / steps]]
    )


def place(origin: Array, axes: Array, x: float, y: float, log_y: bool) -> Pair:
    up = np.log10(y) if log_y else y - 1
    at = origin + axes @ np.array([x, up])
    return float(at[0]), float(at[1])


class Scales(TestCase):
    def test_known_places_turned_by_seven_degrees(self) -> None:
        for log_y in (False, True):
            for angle, slant in ((0.0, 0.0), (7.0, 0.0), (-7.0, 4.0), (90.0, 0.0)):
                with self.subTest(log_y=log_y, angle=angle, slant=slant):
                    origin, axes = drawn(angle, slant, log_y)
                    # Marks need not lie where the axes cross: x at y = 3, y at x = 2.
                    scale = Scale(
                        x_marks=[(place(origin, axes, x, 3, log_y), x) for x in (1.0, 9.0)],
                        y_marks=[(place(origin, axes, 2, y, log_y), y) for y in (2.0, 80.0)],
                        log_y=log_y,
                    )
                    for x, y in ((0.0, 1.0), (5.0, 10.0), (10.0, 100.0), (-2.0, 250.0)):
                        pixel = place(origin, axes, x, y, log_y)
                        np.testing.assert_allclose(scale.to_values([pixel])[0], [x, y], rtol=1e-9, atol=1e-9)
                        np.testing.assert_allclose(scale.to_pixels([(x, y)])[0], pixel, rtol=1e-9, atol=1e-9)

    @examples(100)
    @given(
        st.lists(st.tuples(st.floats(-2000, 2000), st.floats(-2000, 2000)), min_size=4, max_size=4),
        st.tuples(st.floats(1e-30, 1e30), st.floats(1.1, 1e6)),
        st.booleans(),
    )
    def test_there_and_back(self, corners: list[Pair], values: Pair, log: bool) -> None:
        low, times = values
        try:
            scale = Scale(
                [(corners[0], low), (corners[1], low * times)], [(corners[2], -1.0), (corners[3], 1.0)], log_x=log
            )
        except OutsideSense:
            return
        pixels = np.array(corners)
        again = scale.to_pixels(scale.to_values(pixels))
        reach = 1e-6 * float(np.abs(pixels).max()) * max(1.0, 1 / np.sin(np.radians(scale.angle)))
        self.assertTrue(np.nanmax(np.abs(again - pixels)) <= max(reach, 1e-6) or not np.isfinite(again).all())

    def test_pixels_and_a_known_length(self) -> None:
        np.testing.assert_allclose(Scale.plain(600).to_values([(0, 600), (30, 540)]), [[0, 0], [30, 60]], atol=1e-9)
        scale = Scale.of_length(((100, 200), (103, 204)), 10.0)
        np.testing.assert_allclose(
            scale.to_values([(100, 200), (101, 200), (100, 199)]), [[0, 0], [2, 0], [0, 2]], atol=1e-9
        )

    def test_how_sure_a_pick_is(self) -> None:
        """Half a pixel over 400 pixels for ten units; a share on a logarithmic axis: two tenfolds over 300 pixels. Turning changes nothing."""
        for angle in (0.0, 7.0):
            origin, axes = drawn(angle, 0.0, True)
            scale = Scale(
                [(place(origin, axes, x, 1, True), x) for x in (0.0, 10.0)],
                [(place(origin, axes, 0, y, True), y) for y in (1.0, 100.0)],
                log_y=True,
            )
            np.testing.assert_allclose(scale.standard_error(0.5), [0.0125, 0.5 * 2 / 300 * np.log(10)], rtol=1e-9)

    def test_marks_that_contradict_each_other(self) -> None:
        good = [((0, 0), 1.0), ((100, 0), 2.0)]
        up = [((0, 0), 1.0), ((0, -100), 2.0)]
        for marks, log, why in (
            ([((0, 0), 1.0), ((1, 0), 2.0)], False, "lie at one place"),
            ([((0, 0), 1.0), ((100, 0), 1.0)], False, "have the same value"),
            ([((0, 0), 0.0), ((100, 0), 1.0)], True, "logarithmic axis"),
            ([((0, 0), 0.0)], False, "two marks"),
            ([((0, 0), np.nan), ((100, 0), 1.0)], False, "finite"),
            ([((0, 0), 1.0), ((2, -100), 2.0)], False, "same direction"),
        ):
            with self.subTest(why), self.assertRaises(OutsideSense) as caught:
                Scale(marks, up, log_x=log)
            self.assertIn(why, str(caught.exception))
        self.assertEqual(Scale(good, up).remark, "")
        self.assertIn("45°", Scale(good, [((0, 0), 1.0), ((100, -100), 2.0)]).remark)
        with self.assertRaises(OutsideSense):
            Scale.of_length(((0, 0), (0, 1)), 3)
        with self.assertRaises(OutsideSense):
            Scale.of_length(((0, 0), (0, 100)), -3)
