"""Answers at x and at y, by their definitions."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from functools import partial

import numpy as np
import numpy.typing as npt
from scipy import optimize

from ridge.core.errors import NoSolution, OutsideSense
from ridge.core.fitting import fit
from ridge.core.fitting.effort import QUESTION, Effort
from ridge.core.models import Exponential, Line, Polynomial, Sinusoid
from ridge.core.predicting.at_x import predict
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.crossings import MOST_CHANGES, _halved, bracketed, find_crossings, search_grid
from ridge.core.predicting.curve_limits import curve_limits, x_limits
from ridge.core.predicting.parameter_limits import misleads
from ridge.core.predicting.sense import Sense, prediction_within, solutions_within
from ridge.core.readings import Readings
from tests.core.by_definition.designs import Design, close, readings

Floats = npt.NDArray[np.float64]


class AtX(unittest.TestCase):
    def test_both_intervals_from_the_design(self) -> None:
        x, y = readings(1, lambda x: 3 + x - 0.2 * x**2)
        error = np.linspace(0.3, 0.9, 14)
        plain, weighed = Readings(x, y), Readings(x, y, weight=1 / error**2)
        for held, weights, given in (
            (plain, None, False),
            (weighed, 1 / error**2, False),
            (Readings(x, y, y_error=error, absolute_errors=True), 1 / error**2, True),
        ):
            one, of = Design(x, y, [0, 1, 2], weights, given), fit(held, Polynomial(2))
            found = predict(of, [-3, 2.5, 17])
            # A new reading has weight one; where uncertainties are given, what the fit says of a reading.
            scatter = one.s if not given else of.reading_deviation or 0
            for place, at in enumerate((-3, 2.5, 17)):
                half, new = (
                    one.t * one.error(at),
                    one.t * np.hypot(one.error(at), scatter),
                )
                close(found.value[place], one.value(at), rtol=1e-9)
                close(found.mean_high[place] - found.value[place], half, rtol=1e-9)
                close(found.value[place] - found.mean_low[place], half, rtol=1e-9)
                close(found.high[place] - found.value[place], new, rtol=1e-9)
                close(found.value[place] - found.low[place], new, rtol=1e-9)
            close(found.beyond, [3, 0, 7])
            close(found.beyond_ranges, [0.3, 0, 0.7])

    def test_limits_of_sense_cut_them_off(self) -> None:
        x, y = readings(2, lambda x: 0.5 + 0.1 * x)
        plain = predict(fit(Readings(x, y), Line()), 0.0)
        cut = prediction_within(plain, Sense(low=0.4, high=0.6))
        self.assertEqual(float(cut.low), 0.4)
        self.assertEqual(float(cut.high), 0.6)
        self.assertEqual(float(cut.mean_low), max(0.4, float(plain.mean_low)))
        self.assertIs(prediction_within(plain, Sense()), plain)
        self.assertIsNot(prediction_within(plain, Sense(low=0)), plain)
        self.assertIsNot(prediction_within(plain, Sense(high=9)), plain)

    def test_what_was_checked_and_what_was_not(self) -> None:
        x, y = readings(9, lambda x: 10 * np.exp(-0.4 * x), n=9, scatter=1.2)
        line, bent = fit(Readings(x, y), Line()), fit(Readings(x, y), Exponential())
        for model, misleading in ((line, False), (bent, True)):
            plain, checked = predict(model, x), predict(model, x, checked=True)
            self.assertEqual(plain.unchecked.tolist(), [misleading] * len(x))
            self.assertFalse(plain.profiled.any())
            self.assertFalse(checked.unchecked.any())
            self.assertEqual(bool(checked.profiled.any()), misleading)
        through = fit(Readings(x[:2], y[:2]), Line())
        self.assertFalse(predict(through, x, checked=True).profiled.any())

    def test_the_curve_of_a_linear_model_needs_no_profile(self) -> None:
        x, y = readings(10, lambda x: 1 + 2 * x)
        line, bent = fit(Readings(x, y), Line()), fit(Readings(x, 1 + np.exp(x / 5)), Exponential())
        self.assertIsNone(curve_limits(line, 3.0, 0.5, 0.95, Effort(QUESTION)).ends)
        for half in (0.0, float("inf")):
            self.assertIsNone(curve_limits(bent, 3.0, half, 0.95, Effort(QUESTION)).ends)

    def test_limits_mislead_when_the_rise_is_not_one_at_either_side(self) -> None:
        self.assertFalse(misleads(lambda side: side * side))
        self.assertTrue(misleads(lambda side: side * side if side < 0 else 2.0))
        self.assertTrue(misleads(lambda side: side * side if side > 0 else 2.0))


class AtY(unittest.TestCase):
    def test_a_line_by_root_finding(self) -> None:
        """Fieller's limits are where y leaves the interval of the mean of as many readings."""
        x, y = readings(3, lambda x: 2 + 1.5 * x)
        error = np.linspace(0.3, 0.9, 14)
        for powers, fixed in (([0, 1], None), ([1], {"intercept": 0.0})):
            for weights in (None, 1 / error**2):
                one = Design(x, y, powers, weights)
                held = Readings(x, y, weight=weights)
                for target, repeats in ((9.0, 1), (30.0, 1), (9.0, 4)):
                    found = solve(fit(held, Line(), fixed=fixed), target, repeats)[0]
                    middle = (target - (one.coefficients[0] if 0 in powers else 0)) / one.coefficients[-1]
                    self.assertAlmostEqual(found.value, middle, 8)
                    for end, far in ((found.low, middle - 20), (found.high, middle + 20)):
                        self.assertAlmostEqual(
                            end, optimize.brentq(partial(one.outside, y=target, repeats=repeats), middle, far), 7
                        )
                    by_delta = np.hypot(one.error(middle), one.s / np.sqrt(repeats)) / abs(one.coefficients[-1])
                    self.assertAlmostEqual(found.standard_error or 0, by_delta, 8)
                    self.assertEqual(found.bounded, True)

    def test_a_list_is_the_mean_of_its_readings(self) -> None:
        x, y = readings(3, lambda x: 2 + 1.5 * x)
        found = fit(Readings(x, y), Line())
        self.assertEqual(solve(found, [8.0, 9, 10, 9])[0].value, solve(found, 9.0, 4)[0].value)
        # Repeats that agree make the pooled scatter smaller, those that scatter make it larger.
        s = found.statistics.residual_standard_deviation or 0
        wide, mean, tight = (solve(found, list(9 + size * s * np.array([-1.0, 0, 1, 0])))[0] for size in (5, 1, 0))
        self.assertLess(wide.low, mean.low)
        self.assertLess(mean.low, tight.low)

    def test_every_one_of_a_list_has_to_be_a_number(self) -> None:
        x, y = readings(3, lambda x: 2 + 1.5 * x)
        found = fit(Readings(x, y), Line())
        for bad in ([8.0, np.nan], [np.inf], [], [[1.0, 2.0]]):
            with self.assertRaises(OutsideSense):
                solve(found, bad)
        for repeats in (0, 1.5):
            with self.assertRaises(OutsideSense):
                solve(found, 9.0, repeats)  # type: ignore[arg-type]

    def test_limits_are_held_against_refits_only_where_that_is_asked_for(self) -> None:
        x = np.array([0.0, 1, 2, 3, 4, 5, 6])
        y = 10 * np.exp(-0.5 * x) + np.array([1.5, -1.2, 0.9, -1.4, 1.3, -0.6, 0.2])
        loose = fit(Readings(x, y), Exponential())
        plain, checked = solve(loose, 8.0)[0], solve(loose, 8.0, checked=True)[0]
        self.assertEqual((plain.profiled, plain.unchecked, checked.unchecked), (False, plain.bounded, False))
        limits = x_limits(loose, plain.value, 8.0, 1, (plain.low, plain.high), 0.95, Effort(QUESTION)).ends
        self.assertEqual((checked.low, checked.high), limits or (plain.low, plain.high))
        self.assertEqual(checked.profiled, limits is not None)

    def test_x_at_a_y_of_a_fit_in_logarithms(self) -> None:
        """The scatter grows with y: a reading of y scatters by y times s of the line in ln y."""
        x = np.linspace(0, 6, 12)
        y = 10 * np.exp(-0.5 * x) * np.exp(np.random.default_rng(42).normal(0, 0.1, 12))
        found = fit(Readings(x, y), Exponential(), least_squares_in="logarithms")
        one = Design(x, np.log(y), [0, 1])
        solution = solve(found, 2.0)[0]

        def outside(at: float) -> float:
            value = np.exp(one.value(at))
            return float(abs(value - 2.0) - one.t * value * np.hypot(one.s, one.error(at)))

        for end, far in ((solution.low, -9.0), (solution.high, 20.0)):
            if np.isfinite(end):
                close(end, optimize.brentq(outside, solution.value, far), rtol=1e-6)
        at = predict(found, [1.0, 8.0])
        close(at.standard_error, [np.exp(one.value(v)) * one.error(v) for v in (1.0, 8.0)], rtol=1e-8)
        close(at.high, [np.exp(one.value(v) + one.t * np.hypot(one.s, one.error(v))) for v in (1.0, 8.0)], rtol=1e-8)

    def test_a_slope_that_may_be_zero_sets_no_limits(self) -> None:
        x, y = readings(4, lambda x: 2 + 0 * x, scatter=1.0)
        found = solve(fit(Readings(x, y), Line()), 2.5)[0]
        self.assertEqual((found.low, found.high, found.bounded), (-np.inf, np.inf, False))

    def test_an_interval_keeps_what_lies_in_it(self) -> None:
        x, y = readings(5, lambda x: (x - 5) ** 2)
        line = fit(Readings(x, 2 * x + 0.1 * y), Line())
        at = solve(line, 8.0)[0].value
        self.assertEqual(len(solve(line, 8.0, interval=(at - 1, at + 1))), 1)
        for interval in ((at + 0.1, at + 1), (at - 1, at - 0.1)):
            with self.assertRaises(NoSolution):
                solve(line, 8.0, interval=interval)
        bowl = fit(Readings(x, y), Polynomial(2))
        both = solve(bowl, 9.0)
        self.assertEqual(len(both), 2)
        self.assertEqual(
            [one.value for one in solve(bowl, 9.0, interval=(5.0, 12.0))], [max(one.value for one in both)]
        )
        with self.assertRaises(OutsideSense):
            solve(bowl, 9.0, interval=(5.0, 5.0))

    def test_both_branches_of_a_bowl_with_their_limits(self) -> None:
        x, y = readings(6, lambda x: 3 + (x - 4) ** 2 / 3)
        one, found = Design(x, y, [0, 1, 2]), fit(Readings(x, y), Polynomial(2))
        for target, repeats in ((9.0, 1), (9.0, 3), (60.0, 1)):
            c = one.coefficients
            expected = sorted(np.roots([c[2], c[1], c[0] - target]).real)
            solutions = solve(found, target, repeats)
            close(sorted(s.value for s in solutions), expected, rtol=1e-9)
            self.assertEqual([s.beyond for s in solutions], sorted(s.beyond for s in solutions))
            for s in solutions:
                turn = -c[1] / 2 / c[2]
                far = s.value + 10 * (s.value - turn)
                outer = optimize.brentq(partial(one.outside, y=target, repeats=repeats), s.value, far)
                inner = optimize.brentq(partial(one.outside, y=target, repeats=repeats), s.value, turn)
                close([s.low, s.high], sorted([inner, outer]), rtol=1e-6)
                error = np.hypot(one.error(s.value), one.s / np.sqrt(repeats)) / abs(one.value(s.value, 1))
                close(s.standard_error, error, rtol=1e-8)

    def test_a_value_just_below_the_turn_is_told_there(self) -> None:
        x, y = readings(6, lambda x: 3 + (x - 4) ** 2 / 3)
        one, found = Design(x, y, [0, 1, 2]), fit(Readings(x, y), Polynomial(2))
        turn = -one.coefficients[1] / 2 / one.coefficients[2]
        band = one.t * float(np.hypot(one.error(turn), one.s))
        near = solve(found, one.value(turn) - 0.9 * band)
        self.assertEqual([s.touches for s in near], [True])
        self.assertAlmostEqual(near[0].value, turn, 6)
        with self.assertRaises(NoSolution):
            solve(found, one.value(turn) - 1.1 * band)

    def test_limits_of_sense_of_x(self) -> None:
        x, y = readings(6, lambda x: 3 + (x - 4) ** 2 / 3)
        both = solve(fit(Readings(x, y), Polynomial(2)), 9.0)
        right = max(both, key=lambda s: s.value)
        sense = Sense(low=right.value - 0.1, high=right.value + 0.1)
        kept = solutions_within(both, sense)
        self.assertEqual([(s.value, s.low, s.high) for s in kept], [(right.value, sense.low, sense.high)])
        wide = solutions_within([right], Sense(low=-1e9))
        self.assertEqual((wide[0].low, wide[0].high), (right.low, right.high))

    def test_a_sinusoid_comes_back_with_every_period(self) -> None:
        x = np.linspace(0, 10, 60)
        y = 3 * np.sin(2 * x) + np.random.default_rng(7).normal(0, 0.05, 60)
        found = fit(Readings(x, y), Sinusoid())
        values = np.array(sorted(s.value for s in solve(found, 1.0)))
        close(found.evaluate(values), 1.0, atol=1e-9)
        # Two in each period, over seven measured ranges.
        self.assertAlmostEqual(len(values), 2 * 70 / np.pi, delta=2.1)


class Crossings(unittest.TestCase):
    grid = np.linspace(-5, 5, 101)

    def test_every_zero_once(self) -> None:
        cases: list[tuple[Callable[[Floats], Floats], list[float]]] = [
            (lambda x: x - 1.23456789, [1.23456789]),
            (lambda x: (x - 1) * (x - 1.001), [1.0, 1.001]),  # both between two places of the grid
            (lambda x: (x - 1.03) ** 2, [1.03]),  # touches
            (lambda x: (x - 1.03) ** 2 + 0.01, []),  # nearly
            (lambda x: -((x - 1.03) ** 2), [1.03]),
            (lambda x: 1 / (x - 1.03), []),  # jumps
            (np.sin, [-np.pi, 0.0, np.pi]),
            (lambda x: np.sqrt(x - 0.33), [0.33]),  # at the edge of where it has values
            (lambda x: np.log(x) + 4, [np.exp(-4)]),  # between that edge and the grid
            (lambda x: 0 * x + 7, []),
            (lambda x: 0 * x, []),  # level at zero: no single place
        ]
        for function, expected in cases:
            close(find_crossings(function, self.grid), expected, atol=1e-7)

    def test_what_varies_by_rounding_alone_is_level(self) -> None:
        self.assertEqual(find_crossings(lambda x: 1e-15 * x, self.grid, 1e-13), [])

    def test_what_changes_sign_at_every_step_comes_to_an_end(self) -> None:
        """Rounding noise, as a curve of 10¹⁰² has it: only so many changes are followed, in work that does not grow with them."""
        asked = 0

        def noise(x: np.ndarray) -> np.ndarray:
            nonlocal asked
            asked += np.size(x)
            return np.asarray(np.where(np.asarray(x).view(np.int64) % 2 == 0, 1.0, -1.0) * (1 + np.abs(x)))

        find_crossings(noise, np.linspace(0.1, 1, 2001))
        self.assertLess(asked, 2001 + MOST_CHANGES * 210 + 20_000)
        self.assertEqual(len(find_crossings(lambda x: 1e-12 * x, self.grid, 1e-13)), 1)

    def test_bracketed_to_the_last_digit(self) -> None:
        self.assertLessEqual(abs(bracketed(lambda x: x * x - 2, 1, 2) - np.sqrt(2)), np.spacing(np.sqrt(2)))
        self.assertAlmostEqual(bracketed(lambda x: float("nan") if 0.9 < x < 0.95 else x - 1.5, 0, 2), 1.5, 9)

    def test_the_grid_is_finer_for_more_cycles(self) -> None:
        self.assertEqual([len(search_grid(0, 1, cycles)) for cycles in (0, 31, 100, 1e6)], [2001, 2001, 6400, 200_001])

    def test_an_edge_that_stays_above_zero_is_no_crossing(self) -> None:
        grid = np.linspace(0, 10, 41)
        with np.errstate(invalid="ignore"):
            self.assertEqual(find_crossings(lambda x: np.sqrt(x - 4.1) + 1e-9, grid), [])
            found = find_crossings(lambda x: np.sqrt(x - 4.1) - 1e-3, grid)
        np.testing.assert_allclose(found, [4.1 + 1e-6], rtol=1e-12)

    def test_where_some_places_between_have_no_value(self) -> None:
        def broken(x: float) -> float:
            return float("nan") if 0.6 < x < 0.8 else 0.3 - x

        self.assertAlmostEqual(bracketed(broken, 0.0, 1.0), 0.3, 12)
        for low in (-3.0, -1e-3, 0.25):
            self.assertAlmostEqual(_halved(broken, low, 1.0), 0.3, 12)
