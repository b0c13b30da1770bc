"""Patterns and cautions."""

from __future__ import annotations

from itertools import combinations, pairwise
from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit
from ridge.core.judging.patterns import few_runs_probability, find_pattern
from ridge.core.models import Line


def codes(x: list[float], y: list[float], **more: object) -> list[str]:
    return [caution.code for caution in fit(Readings(x, y, **more), Line()).cautions]  # type: ignore[arg-type]


class Runs(TestCase):
    def test_exact_probability_by_counting_every_order(self) -> None:
        for above, below in ((2, 3), (4, 4), (5, 2), (3, 6)):
            n = above + below
            counts: dict[int, int] = {}
            for places in combinations(range(n), above):
                signs = [i in places for i in range(n)]
                runs = 1 + sum(a != b for a, b in pairwise(signs))
                counts[runs] = counts.get(runs, 0) + 1
            total = sum(counts.values())
            for runs in range(2, n + 1):
                expected = sum(count for r, count in counts.items() if r <= runs) / total
                self.assertAlmostEqual(few_runs_probability(above, below, runs), expected, places=12)

    def test_normal_approximation_takes_over_smoothly(self) -> None:
        self.assertAlmostEqual(few_runs_probability(100, 100, 90), few_runs_probability(101, 100, 90), delta=0.02)

    def test_signs_and_runs_of_a_small_case(self) -> None:
        # By hand: y − x is 1, −1, −1, 1 about a line of slope one through the middle.
        pattern = find_pattern(fit(Readings([1, 2, 3, 4], [2, 1, 2, 5]), Line()))
        self.assertEqual((pattern.above, pattern.below, pattern.runs), (2, 2, 3))


class Cautions(TestCase):
    x = list(np.linspace(0, 9, 10))
    noise = [0.1, -0.2, 0.05, 0.2, -0.1, -0.15, 0.1, 0.15, -0.1, -0.05]

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
