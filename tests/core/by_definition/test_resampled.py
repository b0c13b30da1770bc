"""Fits drawn anew, by their definitions."""

from __future__ import annotations

import unittest

import numpy as np
import numpy.typing as npt

from ridge.core.fitting import fit
from ridge.core.judging.resampling import (
    Draw,
    _mean_square,
    bootstrap,
    each_in_turn,
    k_fold,
    movement,
    random_shares,
    root_mean_square,
)
from ridge.core.models import Formula, Line
from ridge.core.readings import Readings

Floats = npt.NDArray[np.float64]


class Resampled(unittest.TestCase):
    def setUp(self) -> None:
        random = np.random.default_rng(20)
        self.x = np.linspace(0, 10, 24)
        self.y = 1 + 2 * self.x + random.normal(0, 1, 24)
        self.found = fit(Readings(self.x, self.y), Line())

    def line(self, rows: npt.NDArray[np.intp]) -> Floats:
        return np.asarray(np.polynomial.polynomial.polyfit(self.x[rows], self.y[rows], 1))

    def check(self, draws: list[Draw]) -> None:
        for draw in draws:
            kept, out = np.flatnonzero(draw.included), np.flatnonzero(~draw.included)
            a, b = self.line(kept)
            assert draw.fit is not None
            self.assertAlmostEqual(draw.fit.values["slope"], b, 9)
            self.assertAlmostEqual(draw.error, float(np.sqrt(np.mean((self.y[out] - a - b * self.x[out]) ** 2))), 9)

    def test_each_draw_is_a_fit_to_what_it_kept(self) -> None:
        for share, kept in ((0.5, 12), (0.1, 2), (0.99, 23)):
            draws = random_shares(self.found, share, 5, seed=3)
            self.assertEqual([int(draw.included.sum()) for draw in draws], [kept] * 5)
            self.check(draws)
        folds = k_fold(self.found, 5, seed=3)
        self.check(folds)
        np.testing.assert_array_equal(sum((~draw.included).astype(int) for draw in folds), np.ones(24))
        self.assertEqual(sorted(int((~draw.included).sum()) for draw in folds), [4, 5, 5, 5, 5])
        turns = each_in_turn(self.found)
        self.check(turns)
        self.assertEqual([int(np.flatnonzero(~draw.included)[0]) for draw in turns], list(range(24)))

    def test_the_error_counts_every_reading_that_was_held_out(self) -> None:
        draws = k_fold(self.found, 5, seed=3)
        misses = np.concatenate(
            [self.y[~draw.included] - draw.fit.evaluate(self.x[~draw.included]) for draw in draws if draw.fit]
        )
        self.assertAlmostEqual(root_mean_square(draws, self.found), float(np.sqrt(np.mean(misses**2))), 9)
        nothing = [Draw(draws[0].included, None, float("nan"))]
        self.assertTrue(np.isnan(root_mean_square(nothing, self.found)))

    def test_repeats_count_as_often_as_they_occurred(self) -> None:
        count = np.array([1.0, 3, 1, 2, 1, 1, 5, 1])
        x, y = self.x[:8], self.y[:8]
        found = fit(Readings(x, y, count=count), Line())
        draws = k_fold(found, 3, seed=1)
        total = sum(
            float(count[~draw.included] @ (y[~draw.included] - draw.fit.evaluate(x[~draw.included])) ** 2)
            for draw in draws
            if draw.fit
        )
        self.assertAlmostEqual(root_mean_square(draws, found), float(np.sqrt(total / count.sum())), 9)

    def test_movement_is_the_deviation_of_the_curves(self) -> None:
        draws = random_shares(self.found, 0.5, 7, seed=4)
        x = np.linspace(0, 10, 121)
        apart = np.std([draw.fit.evaluate(x) for draw in draws if draw.fit], axis=0, ddof=1)
        moved = movement(draws, self.found)
        self.assertAlmostEqual(moved.typical, float(np.median(apart)), 12)
        self.assertAlmostEqual(moved.largest, float(apart.max()), 12)
        self.assertEqual(moved.at, x[int(np.argmax(apart))])
        self.assertTrue(np.isnan(movement(draws[:1], self.found).typical))

    def test_movement_where_the_curves_have_values_only_in_part(self) -> None:
        x = np.linspace(1, 10, 12)
        found = fit(Readings(x, np.log(x - 0.9) + np.sin(9 * x) / 9), Formula("a*ln(x - b)"), start={"a": 1, "b": 0.9})
        draws = random_shares(found, 0.6, 8, seed=2)
        places = np.linspace(1, 10, 121)
        with np.errstate(all="ignore"):
            curves = np.array([draw.fit.evaluate(places) for draw in draws if draw.fit])
            apart = np.std(curves, axis=0, ddof=1)
        # Some of the curves begin only behind the first reading.
        self.assertTrue(np.isnan(apart).any() and np.isfinite(apart).any())
        moved = movement(draws, found)
        self.assertAlmostEqual(moved.typical, float(np.nanmedian(apart)), 12)
        self.assertAlmostEqual(moved.largest, float(np.nanmax(apart)), 12)

    def test_the_bootstrap_follows_davison_and_hinkley(self) -> None:
        design = np.stack([np.ones(24), self.x], axis=1)
        for error in (None, np.linspace(0.5, 2, 24)):
            readings = Readings(self.x, self.y, y_error=error, absolute_errors=error is not None)
            found = fit(readings, Line())
            root = np.ones(24) if error is None else 1 / error
            weighted = design * root[:, None]
            solve = np.linalg.pinv(weighted)
            fitted = design @ (solve @ (self.y * root))
            spread = (self.y - fitted) * root / np.sqrt(1 - np.diag(weighted @ solve))
            spread -= spread.mean()
            random = np.random.default_rng(5)
            expected = []
            for _ in range(40):
                drawn = random.integers(0, 24, 24)
                expected.append(solve @ ((fitted + spread[drawn] / root) * root))
            again = bootstrap(found, times=40, level=0.9, seed=5)
            names = found.model.parameter_names
            values = np.array(expected)[:, [["intercept", "slope"].index(name) for name in names]]
            np.testing.assert_allclose(again.values, values, rtol=1e-9)
            for place, name in enumerate(names):
                np.testing.assert_allclose(
                    again.intervals[name], np.quantile(values[:, place], [0.05, 0.95]), rtol=1e-9
                )

    def test_readings_drawn_with_repetition(self) -> None:
        count = np.array([1.0, 2, 1, 4] * 6)
        found = fit(Readings(self.x, self.y, count=count), Line())
        again = bootstrap(found, times=10, seed=6, of="readings")
        random = np.random.default_rng(6)
        for values in again.values:
            rows = random.integers(0, 24, 24)
            root = np.sqrt(count[rows])
            design = np.stack([np.ones(24), self.x[rows]], axis=1) * root[:, None]
            a, b = np.linalg.lstsq(design, self.y[rows] * root, rcond=None)[0]
            named = dict(zip(found.model.parameter_names, values, strict=True))
            self.assertAlmostEqual(named["slope"], b, 8)
            self.assertAlmostEqual(named["intercept"], a, 8)

    def test_a_draw_that_cannot_be_fitted_is_counted(self) -> None:
        found = fit(Readings([0.0, 1, 2], [0.1, 0.9, 2.2]), Line())
        again = bootstrap(found, times=200, seed=8, of="readings")
        self.assertEqual(len(again.values) + again.failed, 200)
        # Of 27 draws three are one reading three times.
        self.assertTrue(8 < again.failed < 40)

    def test_misses_of_very_different_size(self) -> None:
        root = _mean_square(np.array([1e-200, -1e200]), np.ones(2))
        self.assertAlmostEqual(root / 1e200, np.sqrt(0.5), 12)
