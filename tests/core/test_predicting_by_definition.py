"""What is predicted, recomputed from its definition: from the design of a least-squares problem, by root finding and by refits of
general libraries."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
import numpy.typing as npt
from scipy import optimize, stats
from scipy.integrate import quad

from ridge.core.errors import NoSolution, OutsideSense
from ridge.core.fitting import fit
from ridge.core.fitting.effort import QUESTION, Effort
from ridge.core.models import Exponential, Formula, Line, Logistic, Model, Polynomial, Sinusoid
from ridge.core.predicting.at_x import predict
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.crossings import bracketed, find_crossings, search_grid
from ridge.core.predicting.curve_limits import curve_limits, x_limits
from ridge.core.predicting.derived import derived_of, limits_of
from ridge.core.predicting.features import Place, area, crossings, inflexions, roots, tangent, turning_points
from ridge.core.predicting.parameter_limits import can_mislead, intervals, misleads, profile_interval, sides
from ridge.core.predicting.sense import Sense, prediction_within, solutions_within
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit

Floats = npt.NDArray[np.float64]


def close(found: Any, expected: Any, rtol: float = 1e-7, atol: float = 0.0) -> None:
    np.testing.assert_allclose(np.asarray(found, dtype=float), np.asarray(expected, dtype=float), rtol=rtol, atol=atol)


class Design:
    """A weighted polynomial fit done with numpy alone."""

    def __init__(
        self, x: Floats, y: Floats, powers: list[int], weights: Floats | None = None, given: bool = False
    ) -> None:
        self.powers = powers
        weights = np.ones(len(x)) if weights is None else weights
        rows = self.rows(x) * np.sqrt(weights)[:, None]
        self.pull = np.linalg.pinv(rows)  # what each reading, times its root weight, gives to each coefficient
        self.coefficients = self.pull @ (y * np.sqrt(weights))
        self.degrees = len(x) - len(powers)
        rest = y * np.sqrt(weights) - rows @ self.coefficients
        self.s = 1.0 if given else float(np.sqrt(rest @ rest / self.degrees))
        self.unit = self.pull @ self.pull.T
        self.t = float(stats.norm.ppf(0.975) if given else stats.t.ppf(0.975, self.degrees))

    def rows(self, x: npt.ArrayLike, order: int = 0) -> Floats:
        at = np.atleast_1d(np.asarray(x, dtype=float))
        found = []
        for power in self.powers:
            factor = float(np.prod([power - i for i in range(order)])) if order else 1.0
            found.append(factor * at ** max(power - order, 0) if factor else 0 * at)
        return np.stack(found, axis=1)

    def value(self, x: float, order: int = 0) -> float:
        return float((self.rows(x, order) @ self.coefficients)[0])

    def error(self, x: float, order: int = 0) -> float:
        row = self.rows(x, order)[0]
        return self.s * float(np.sqrt(row @ self.unit @ row))

    def outside(self, x: float, y: float, repeats: int = 1) -> float:
        """Positive where y is not within the interval of the mean of so many new readings at x."""
        return abs(self.value(x) - y) - self.t * float(np.hypot(self.error(x), self.s / np.sqrt(repeats)))


def readings(seed: int, law: Callable[[Floats], Floats], n: int = 14, scatter: float = 0.4) -> tuple[Floats, Floats]:
    random = np.random.default_rng(seed)
    x = np.linspace(0, 10, n)
    return x, law(x) + random.normal(0, scatter, n)


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
        self.assertEqual(solve(found, [8.0, 9, 10, 9])[0].low, solve(found, 9.0, 4)[0].low)

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
        self.assertEqual(len(find_crossings(lambda x: 1e-12 * x, self.grid, 1e-13)), 1)

    def test_bracketed_to_the_last_digit(self) -> None:
        self.assertLessEqual(abs(bracketed(lambda x: x * x - 2, 1, 2) - np.sqrt(2)), np.spacing(np.sqrt(2)))
        self.assertAlmostEqual(bracketed(lambda x: float("nan") if 0.9 < x < 0.95 else x - 1.5, 0, 2), 1.5, 9)

    def test_the_grid_is_finer_for_more_cycles(self) -> None:
        self.assertEqual([len(search_grid(0, 1, cycles)) for cycles in (0, 31, 100, 1e6)], [2001, 2001, 6400, 200_001])


class Features(unittest.TestCase):
    def setUp(self) -> None:
        self.x, self.y = readings(8, lambda x: 1 + 0.5 * x - 0.4 * x**2 + 0.03 * x**3, n=20, scatter=0.2)
        self.design = Design(self.x, self.y, [0, 1, 2, 3])
        self.found = fit(Readings(self.x, self.y), Polynomial(3))

    def check(self, places: list[Place], order: int) -> None:
        """Delta method: the place moves with the derivative that is zero there, the value with both."""
        one = self.design
        self.assertTrue(places)
        for place in places:
            close(one.value(place.x, order), 0, atol=1e-9)
            next_one = one.value(place.x, order + 1)
            close(place.x_error, one.error(place.x, order) / abs(next_one), rtol=1e-7)
            row = one.rows(place.x)[0] - one.value(place.x, 1) / next_one * one.rows(place.x, order)[0]
            if order:
                close(place.y_error, one.s * np.sqrt(row @ one.unit @ row), rtol=1e-7)
            close(place.x_half, one.t * (place.x_error or 0), rtol=1e-9)
            close(place.y, one.value(place.x), atol=1e-9)

    def test_places_where_a_derivative_is_zero(self) -> None:
        self.check(roots(self.found), 0)
        self.check(turning_points(self.found), 1)
        self.check(inflexions(self.found), 2)
        kinds = {place.kind: place for place in turning_points(self.found)}
        self.assertEqual(set(kinds), {"maximum", "minimum"})
        self.assertGreater(kinds["maximum"].y, kinds["minimum"].y)

    def test_slope_and_value_of_a_tangent(self) -> None:
        found, one = tangent(self.found, 6.5), self.design
        for quantity, order in ((found.value, 0), (found.slope, 1)):
            close(quantity.value, one.value(6.5, order), rtol=1e-9)
            close(quantity.standard_error, one.error(6.5, order), rtol=1e-8)
            close(quantity.high - quantity.value, one.t * one.error(6.5, order), rtol=1e-8)
            close(quantity.value - quantity.low, one.t * one.error(6.5, order), rtol=1e-8)

    def test_area_by_quadrature(self) -> None:
        one = self.design
        for low, high in ((1.0, 9.0), (9.0, 1.0), (-2.0, 14.0)):
            found = area(self.found, low, high)
            close(found.value, quad(one.value, low, high)[0], rtol=1e-9)
            direction = np.array([(high ** (p + 1) - low ** (p + 1)) / (p + 1) for p in one.powers])
            close(found.standard_error, one.s * np.sqrt(direction @ one.unit @ direction), rtol=1e-7)
        for ends in ((np.nan, 1.0), (0.0, np.inf)):
            with self.assertRaises(OutsideSense):
                area(self.found, *ends)

    def test_crossings_share_the_scatter_of_their_readings(self) -> None:
        """The same readings pull both curves: what they share in each counts once."""
        line, one = fit(Readings(self.x, self.y), Line()), Design(self.x, self.y, [0, 1])
        both = crossings(line, self.found)
        self.assertEqual(len(both), 3)
        for place in both:
            a, b = one.rows(place.x)[0] @ one.pull, self.design.rows(place.x)[0] @ self.design.pull
            smaller = min(one.s, self.design.s)
            steep = one.value(place.x, 1) - self.design.value(place.x, 1)

            def of_sum(times: float, other: float, a: Floats = a, b: Floats = b, smaller: float = smaller) -> float:
                own = (times * one.s) ** 2 * (a @ a) + (other * self.design.s) ** 2 * (b @ b)
                return float(np.sqrt(own + 2 * times * other * smaller**2 * (a @ b)))

            close(place.x_error, of_sum(1, -1) / abs(steep), rtol=1e-6)
            share = one.value(place.x, 1) / steep
            close(place.y_error, of_sum(1 - share, share), rtol=1e-6)
            close(place.width, max(one.t, self.design.t))

    def test_crossings_of_other_readings_share_nothing(self) -> None:
        x, y = readings(9, lambda x: 6 - x, n=20)
        line, one = fit(Readings(x, y), Line()), Design(x, y, [0, 1])
        for place in crossings(line, self.found):
            steep = one.value(place.x, 1) - self.design.value(place.x, 1)
            expected = np.hypot(one.error(place.x), self.design.error(place.x)) / abs(steep)
            close(place.x_error, expected, rtol=1e-6)


class DerivedQuantities(unittest.TestCase):
    def test_by_the_delta_method_with_differences(self) -> None:
        x = np.linspace(0, 10, 40)
        random = np.random.default_rng(10)
        for model, y in (
            (Exponential(), 5 * np.exp(-0.4 * x)),
            (Sinusoid(), 2 + 3 * np.sin(1.3 * x + 0.4)),
            (Logistic(), 8 / (1 + np.exp(-(x - 5)))),
        ):
            found = fit(Readings(x, y + random.normal(0, 0.05, 40)), model)
            names = found.model.parameter_names
            quantities = derived_of(found)
            self.assertTrue(quantities)
            for quantity in quantities:
                form = next(
                    one
                    for one in (*found.model.derived, *found.model.derived_beyond(found.values, 10.0))
                    if one.name == quantity.name
                )
                of = Formula(form.expression, variable="unused")

                def value(values: dict[str, float], of: Formula = of) -> float:
                    return float(of.evaluate(np.zeros(1), {n: values[n] for n in of.parameter_names})[0])

                self.assertAlmostEqual(value(dict(found.values)), quantity.value, 9)
                gradient = []
                for name in names:
                    step = 1e-6 * (abs(found.values[name]) or 1)
                    up, down = ({**found.values, name: found.values[name] + way * step} for way in (1, -1))
                    gradient.append((value(up) - value(down)) / 2 / step)
                g = np.array(gradient)
                expected = float(np.sqrt(g @ found.covariance @ g))
                close(quantity.standard_error, expected, rtol=2e-5)
                moving = [name for name, slope in zip(names, g, strict=True) if abs(slope) > 1e-9]
                self.assertEqual(quantity.of, moving[0] if len(moving) == 1 else "")

    def test_limits_are_carried_over_from_the_parameter(self) -> None:
        """1/|k| of a loose decay: its limits are those of k, taken through the formula."""
        x = np.array([0.0, 1, 2, 3, 4, 5])
        y = 10 * np.exp(-0.5 * x) + np.array([1.5, -1.2, 0.9, -1.4, 1.3, -0.6])
        found = fit(Readings(x, y), Exponential())
        of_k = intervals(found, 0.95)
        self.assertEqual(of_k["k"].method, "profile")
        for quantity in derived_of(found):
            if quantity.of != "k":
                continue
            form = next(one for one in found.model.derived if one.name == quantity.name)
            of = Formula(form.expression, variable="unused")
            ends = [float(of.evaluate(np.zeros(1), {"k": k})[0]) for k in (of_k["k"].low, of_k["k"].high)]
            close(limits_of(found, quantity, of_k, 0.95), sorted(ends), rtol=1e-9)

    def test_otherwise_they_are_by_the_standard_error(self) -> None:
        x = np.linspace(0, 5, 40)
        y = 10 * np.exp(-0.5 * x) + np.random.default_rng(11).normal(0, 0.02, 40)
        found = fit(Readings(x, y), Exponential())
        t = stats.t.ppf(0.995, 38)
        for quantity in derived_of(found):
            low, high = limits_of(found, quantity, {}, 0.99)
            error = quantity.standard_error or 0
            close([low, high], [quantity.value - t * error, quantity.value + t * error], rtol=1e-9)


class Profiles(unittest.TestCase):
    def test_when_two_refits_say_that_half_widths_mislead(self) -> None:
        """A quarter off on either side: the rise at one half-width is 1/1.25² or 1/0.75² then."""
        for down, up, expected in (
            (1.0, 1.0, False), (0.65, 1.0, False), (0.63, 1.0, True), (1.0, 0.63, True),
            (1.76, 1.0, False), (1.79, 1.0, True), (1.0, 1.79, True), (np.inf, 1.0, True), (np.nan, 1.0, True),
        ):  # fmt: skip
            self.assertEqual(misleads(lambda side, down=down, up=up: down if side < 0 else up), expected)  # type: ignore[misc]

    def test_sides_are_where_the_rise_is_one(self) -> None:
        for down, up in ((1.0, 1.0), (0.6, 2.5), (0.05, 9.5)):
            found = sides(lambda s, down=down, up=up: (s / (down if s < 0 else up)) ** 2)  # type: ignore[misc]
            close(found, (down, up), atol=1e-4)
        self.assertEqual(sides(lambda s: (s / 20) ** 2), (np.inf, np.inf))
        self.assertEqual(sides(lambda s: 0.5)[1], np.inf)
        below, above = sides(lambda s: np.inf if s > 3 else (s / 4) ** 2)
        self.assertAlmostEqual(above, 3, 3)
        self.assertAlmostEqual(below, 4, 3)

    def loose(self) -> Fit:
        x = np.array([0.0, 1, 2, 3, 4, 5, 6])
        y = 10 * np.exp(-0.5 * x) + np.array([1.5, -1.2, 0.9, -1.4, 1.3, -0.6, 0.2])
        return fit(Readings(x, y), Exponential())

    def least(self, found: Fit, held: Callable[[Floats], Floats], start: Floats) -> float:
        """The least sum of squares of a·exp(k·x) under a condition, by scipy."""
        x, y = found.readings.x, found.readings.y
        result = optimize.least_squares(
            lambda p: y - held(p)[0] * np.exp(held(p)[1] * x), start, xtol=1e-14, ftol=1e-14
        )
        return float(2 * result.cost)

    def test_of_a_parameter(self) -> None:
        found = self.loose()
        ends = profile_interval(found, "k")
        t, s = stats.t.ppf(0.975, 5), found.statistics.residual_standard_deviation or 0
        for k in (ends.low, ends.high):
            rss = self.least(found, lambda p, k=k: np.array([p[0], k]), np.array([10.0]))  # type: ignore[misc]
            close((rss - found.statistics.residual_sum_of_squares) / (t * s) ** 2, 1, rtol=1e-3)
        self.assertTrue(ends.misleading)

    def test_of_the_curve_where_it_is_a_parameter(self) -> None:
        """At x = 0 the curve is a: its limits there are those of a, and one rise of the sum of squares marks them anywhere."""
        found = self.loose()
        t, s = stats.t.ppf(0.975, 5), found.statistics.residual_standard_deviation or 0
        for at in (0.0, 4.0, 9.0):
            plain = predict(found, at)
            half = float(plain.mean_high - plain.value)
            ends = curve_limits(found, at, half, 0.95, Effort(QUESTION)).ends
            if ends is None:
                continue
            for value in ends:
                if np.isfinite(value):
                    rss = self.least(found, partial(_through, at, value), np.array([-0.5]))
                    close((rss - found.statistics.residual_sum_of_squares) / (t * s) ** 2, 1, rtol=2e-2)
        checked = predict(found, 9.0, checked=True)
        self.assertTrue(bool(checked.profiled))
        scatter = t * s
        close(checked.high, checked.value + np.hypot(checked.mean_high - checked.value, scatter))
        close(checked.low, checked.value - np.hypot(checked.value - checked.mean_low, scatter))

    def test_of_an_x_with_the_reading_of_the_unknown(self) -> None:
        found = self.loose()
        t, s = stats.t.ppf(0.975, 5), found.statistics.residual_standard_deviation or 0
        solution = solve(found, 4.0)[0]
        limits = x_limits(found, solution.value, 4.0, 1, (solution.low, solution.high), 0.95, Effort(QUESTION))
        x, y = found.readings.x, found.readings.y
        for at in limits.ends or ():
            if not np.isfinite(at):
                continue
            result = optimize.least_squares(
                lambda p, at=at: np.append(y, 4.0) - p[0] * np.exp(p[1] * np.append(x, at)), [10, -0.5], xtol=1e-14
            )
            rise = (2 * result.cost - found.statistics.residual_sum_of_squares) / (t * s) ** 2
            close(rise, 1, rtol=2e-2)
        for ends in ((solution.value, 9.0), (0.0, solution.value), (-np.inf, 9.0)):
            self.assertIsNone(x_limits(found, solution.value, 4.0, 1, ends, 0.95, Effort(QUESTION)).ends)

    def test_which_fits_they_can_mislead_in(self) -> None:
        x = np.arange(1.0, 9)
        y = np.array([1.0, 3, 2, 5, 4, 6, 9, 8])
        cases: list[tuple[Model, bool]] = [(Line(), False), (Polynomial(2), False), (Exponential(), True)]
        for model, expected in cases:
            self.assertEqual(can_mislead(fit(Readings(x, y), model)), expected)
        self.assertFalse(can_mislead(fit(Readings(x, y), Exponential(), least_squares_in="logarithms")))
        self.assertFalse(can_mislead(fit(Readings(x, 2 * np.exp(0.1 * x)), Exponential())))


def _through(at: float, value: float, p: Floats) -> Floats:
    """a and k of the decay with this k that has a value at a place."""
    return np.array([value * np.exp(-p[0] * at), p[0]])


if __name__ == "__main__":
    unittest.main()
