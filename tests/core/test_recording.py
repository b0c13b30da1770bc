"""What readings show of how they were taken: found where it is there, and not where it is not."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from scipy.stats import f

from ridge.core import Readings, fit
from ridge.core.judging.cautions import findings_of
from ridge.core.judging.clean import Scatter
from ridge.core.judging.drift import find_drift
from ridge.core.judging.patterns import pattern_of
from ridge.core.judging.recording import coarse_step, copied_rows, end_of_range, few_places, step_of
from ridge.core.judging.significance import CHECK
from ridge.core.models import Constant, Line, Polynomial
from ridge.core.wording.naming import Naming
from ridge.core.wording.residuals import word_residuals


class Copies(TestCase):
    def test_blocks_and_neighbours(self) -> None:
        x, y = [1, 2, 3, 4], [2.1, 3.9, 6.2, 7.7]
        self.assertEqual(copied_rows(Readings(x * 2, y * 2)), (4, 5, 6, 7))
        self.assertEqual(copied_rows(Readings(np.repeat(x, 2), np.repeat(y, 2))), (1, 3, 5, 7))

    def test_repeats_that_happen_to_agree(self) -> None:
        x = np.repeat([1.0, 2, 3, 4], 3)
        y = [2.1, 2.1, 2.2, 3.9, 4.0, 3.9, 6.1, 6.2, 6.0, 7.7, 7.9, 7.7]
        self.assertEqual(copied_rows(Readings(x, y)), ())

    def test_repeats_of_one_sample_are_no_copies(self) -> None:
        self.assertEqual(copied_rows(Readings([1, 2, 3, 3, 3, 3], [2, 4, 6, 6, 6, 6.0])), ())

    def test_rows_that_are_set_aside_do_not_count(self) -> None:
        x, y = [1, 2, 3, 4] * 2, [2.1, 3.9, 6.2, 7.7] * 2
        self.assertEqual(copied_rows(Readings(x, y, included=[True] * 4 + [False] * 4)), ())


class Steps(TestCase):
    def test_step_of_values(self) -> None:
        for step in (1e-30, 0.002, 0.05, 0.5, 1.0, 20.0, 1e30):
            values = np.array([3, 7, 10, 11, 13, 18]) * step
            self.assertAlmostEqual((step_of(values) or 0) / step, 1)
        self.assertIsNone(step_of(np.random.default_rng(1).normal(size=9)))
        self.assertIsNone(step_of(np.array([1.0, 2, 1, 2, 1])))
        self.assertIsNone(step_of(np.array([0.0, 0, 0, 0, 0])))

    def test_a_step_below_the_scatter_is_not_mentioned(self) -> None:
        random = np.random.default_rng(3)
        x = np.linspace(0, 10, 25)
        fine = fit(Readings(x, np.round(2 * x + random.normal(0, 0.3, 25), 1)), Line())
        coarse = fit(Readings(x, np.round(2 * x + random.normal(0, 0.03, 25), 1)), Line())
        self.assertIsNone(coarse_step(fine, True))
        found = coarse_step(coarse, False)
        assert found is not None
        self.assertAlmostEqual(found.step, 0.1)

    def test_no_pattern_is_claimed_beside_it(self) -> None:
        """Rounded to whole units a shallow line makes stairs, whose residuals are alike and change sign at every stair."""
        x = np.linspace(1, 10, 40)
        codes = [one.code for one in findings_of(fit(Readings(x, np.round(0.35 * x + 5)), Line()))]
        self.assertIn("coarse-step", codes)
        self.assertNotIn("patterned-residuals", codes)


class Ends(TestCase):
    x = np.linspace(1, 10, 20)
    y = np.round(2 * x + 1 + np.random.default_rng(2).normal(0, 0.3, 20), 2)

    def test_upper_and_lower_end(self) -> None:
        upper = end_of_range(fit(Readings(self.x, np.minimum(self.y, 16)), Line()))
        lower = end_of_range(fit(Readings(self.x, np.maximum(self.y, 7)), Line()))
        assert upper is not None and lower is not None
        self.assertEqual((upper.value, upper.top, upper.rows[-1]), (16, True, 19))
        self.assertEqual((lower.value, lower.top, lower.rows[0]), (7, False, 0))
        self.assertAlmostEqual(upper.expected, 21, delta=1)

    def test_nothing_where_the_others_end_there_too(self) -> None:
        self.assertIsNone(end_of_range(fit(Readings(self.x, self.y), Line())))
        level = np.round(5 + np.random.default_rng(4).normal(0, 0.1, 20), 1)
        self.assertIsNone(end_of_range(fit(Readings(self.x, level), Line())))
        self.assertIsNone(end_of_range(fit(Readings([1, 2, 3, 4], [5, 5, 5, 6]), Line())))


class Places(TestCase):
    def test_as_many_places_as_parameters(self) -> None:
        two = Readings(np.repeat([1.0, 5.0], 4), [2.0, 2.1, 1.9, 2.2, 7.0, 7.2, 6.9, 7.1])
        self.assertEqual(few_places(fit(two, Line())), 2)
        self.assertIsNone(few_places(fit(two, Constant())))
        three = Readings(np.repeat([1.0, 2.0, 5.0], 3), [2.0, 2.1, 1.9, 3.2, 3.0, 3.2, 6.9, 7.1, 7.0])
        self.assertIsNone(few_places(fit(three, Line())))
        self.assertEqual(few_places(fit(three, Polynomial(2))), 3)

    def test_what_cannot_be_tested_is_said(self) -> None:
        two = fit(Readings(np.repeat([1.0, 5.0], 3), [2.0, 2.1, 1.9, 7.0, 7.2, 6.9]), Line())
        said = " ".join(word_residuals(two, Naming()))
        self.assertIn("The shape of the line is not tested", said)
        self.assertIn("that takes eight readings", said)


class Order(TestCase):
    def readings(self, seed: int, drift: float, n: int = 24) -> Readings:
        random = np.random.default_rng(seed)
        x = random.permutation(np.linspace(1, 10, n))
        return Readings(x, 2 * x + random.normal(0, 0.3, n) + np.linspace(0, drift, n))

    def test_drift_is_the_f_test_of_the_row(self) -> None:
        readings = self.readings(1, 0.5)
        found = pattern_of(fit(readings, Line())).drift
        assert found is not None
        n = len(readings)
        columns = np.stack([np.ones(n), readings.x, np.arange(n) / (n - 1)], axis=1)
        full, rest = np.linalg.lstsq(columns, readings.y, rcond=None)[:2]
        plain = np.linalg.lstsq(columns[:, :2], readings.y, rcond=None)[1]
        self.assertAlmostEqual(found.change, full[2], 9)
        self.assertAlmostEqual(found.p, f.sf((plain[0] - rest[0]) / rest[0] * (n - 3), 1, n - 3), 9)

    def test_found_with_its_size_and_hardly_without(self) -> None:
        seen = [pattern_of(fit(self.readings(seed, 1.2), Line())) for seed in range(40)]
        self.assertGreaterEqual(sum(one.drifts for one in seen), 38)
        self.assertAlmostEqual(float(np.mean([one.drift.change for one in seen if one.drift])), 1.2, delta=0.1)
        alarms = sum(pattern_of(fit(self.readings(seed, 0.0), Line())).drifts for seed in range(200))
        self.assertLessEqual(alarms, 5)

    def test_rows_in_order_of_x_say_nothing(self) -> None:
        x = np.linspace(1, 10, 20)
        y = 2 * x + np.random.default_rng(5).normal(0, 0.3, 20)
        self.assertIsNone(pattern_of(fit(Readings(x, y), Line())).drift)
        self.assertIsNone(pattern_of(fit(Readings(x[::-1], y[::-1]), Line())).drift)


class Groups(TestCase):
    def seen(self, n: int, apart: float, studies: int = 40) -> int:
        count = 0
        for seed in range(studies):
            random = np.random.default_rng(seed)
            x = np.linspace(1, 10, n)
            y = 2 * x + random.normal(0, 1, n) + np.where(random.random(n) < 0.5, apart, 0)
            count += pattern_of(fit(Readings(x, y), Line())).mixed
        return count

    def test_power_and_false_alarms(self) -> None:
        self.assertGreaterEqual(self.seen(40, 6.0), 37)
        self.assertLessEqual(self.seen(40, 0.0, 300), 300 * CHECK + 4)

    def test_the_smaller_group_is_named(self) -> None:
        random = np.random.default_rng(1)
        x = np.linspace(1, 10, 30)
        moved = np.zeros(30)
        moved[[3, 7, 12, 18, 20, 24, 29]] = 4
        found = findings_of(fit(Readings(x, x + random.normal(0, 0.3, 30) + moved), Line()))
        mixed = next(one for one in found if one.code == "two-groups")
        self.assertEqual(mixed.rows, (3, 7, 12, 18, 20, 24, 29))


class Bounds(TestCase):
    def test_no_drift_of_few(self) -> None:
        x = np.array([3.0, 1, 2, 5, 4])
        scatter = Scatter(np.stack([np.ones(5), x], axis=1))
        self.assertIsNone(find_drift(x, np.ones(5), np.ones(5), np.arange(5), scatter))
