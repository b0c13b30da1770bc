"""Patterns and cautions."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit
from ridge.core.judging.order import find_order
from ridge.core.judging.patterns import pattern_of
from ridge.core.judging.significance import CHECK
from ridge.core.models import Line


def codes(x: list[float], y: list[float], **more: object) -> list[str]:
    return [caution.code for caution in fit(Readings(x, y, **more), Line()).cautions]  # type: ignore[arg-type]


class Order(TestCase):
    def test_normal_approximation_takes_over_smoothly(self) -> None:
        random = np.random.default_rng(2)
        residuals = random.normal(0, 1, 400) + 0.4 * np.sin(np.arange(400) / 9)
        by_draws = find_order(residuals, random.normal(0, 1, (4000, 400)))
        by_normal = find_order(residuals, None)
        assert by_draws is not None and by_normal is not None
        self.assertAlmostEqual(by_draws.chance, by_normal.chance, delta=0.04)

    def test_what_the_residuals_of_neighbours_say(self) -> None:
        x = np.arange(18.0)
        for signs, said in (
            (np.tile([1, -1], 9), "alternate more"), (np.tile([1, 1, -1, -1], 5)[:18], "a period of about 4"),
            (np.repeat([1, -1, 1], 6), "more alike"),
        ):  # fmt: skip
            y = 2 * x + signs * (1 + 0.1 * np.cos(7 * x))
            pattern = pattern_of(fit(Readings(x, y), Line()))
            self.assertTrue(pattern.visible)
            caution = next(c for c in fit(Readings(x, y), Line()).cautions if c.code == "patterned-residuals")
            if (pattern.bend_p or 1) >= CHECK:
                self.assertIn(said, caution.message)

    def test_signs_and_changes_of_a_small_case(self) -> None:
        # By hand: y − x is 1, −1, −1, 1 about a line of slope one through the middle.
        pattern = pattern_of(fit(Readings([1, 2, 3, 4], [2, 1, 2, 5]), Line()))
        self.assertEqual((pattern.above, pattern.below, pattern.changes), (2, 2, 2))


class Cautions(TestCase):
    x = list(np.linspace(0, 9, 10))
    noise = [0.02, 0.09, 0.02, -0.21, 0.1, 0.03, -0.11, 0.05, 0.02, 0.01]  # random: default_rng(1)

    def test_a_good_line_has_none(self) -> None:
        self.assertEqual(codes(self.x, [1 + 2 * x + e for x, e in zip(self.x, self.noise, strict=True)]), [])

    def test_a_reading_far_off_is_named(self) -> None:
        y = [1 + 2 * x + e for x, e in zip(self.x, self.noise, strict=True)]
        y[6] += 4
        caution = fit(Readings(self.x, y), Line()).cautions[0]
        self.assertEqual((caution.code, caution.rows), ("far-off", (6,)))
        self.assertIn("Row 7", caution.message)

    def test_a_bend_is_told_with_its_side(self) -> None:
        for sign, word in ((1, "above the line at both ends"), (-1, "below the line at both ends")):
            y = [sign * x * x + e for x, e in zip(self.x, self.noise, strict=True)]
            caution = fit(Readings(self.x, y), Line()).cautions[-1]
            self.assertEqual(caution.code, "patterned-residuals")
            self.assertIn(word, caution.message)

    def test_a_loose_cloud_is_no_law(self) -> None:
        self.assertIn("slope-not-significant", codes([1, 2, 3, 4, 5], [1, 4, 2, 1, 4]))

    def test_an_exact_fit_is_called_exact(self) -> None:
        self.assertEqual(codes([1, 2, 3, 4], [0.1, 0.2, 0.3, 0.4]), ["exact-fit"])

    def test_three_readings_are_few(self) -> None:
        self.assertIn("few-readings", codes([1, 2, 3], [2, 4, 6.2]))

    def test_one_reading_that_decides(self) -> None:
        self.assertIn("one-reading-decides", codes([1, 1.1, 1.2, 0.9, 1, 9], [1, 1.3, 0.8, 1.1, 0.9, 4]))

    def test_uncertainties_that_do_not_match_the_scatter(self) -> None:
        y = [1 + 2 * x + e for x, e in zip(self.x, self.noise, strict=True)]
        for error in (0.01, 5.0):
            self.assertIn("errors-do-not-match", codes(self.x, y, y_error=error, absolute_errors=True))
        self.assertEqual(codes(self.x, y, y_error=0.15, absolute_errors=True), [])

    def test_uncertainties_of_x_are_said_to_be_unused(self) -> None:
        y = [1 + 2 * x + e for x, e in zip(self.x, self.noise, strict=True)]
        self.assertEqual(codes(self.x, y, x_error=0.1), ["x-errors-not-used"])

    def test_each_says_what_to_do(self) -> None:
        for x, y in (([1, 2], [1, 3]), ([1, 2, 3], [2, 4, 6.2]), ([1, 2, 3, 4, 5], [1, 4, 2, 1, 4])):
            for caution in fit(Readings(x, y), Line()).cautions:
                self.assertTrue(caution.message.endswith(".") and caution.remedy.endswith("."))
