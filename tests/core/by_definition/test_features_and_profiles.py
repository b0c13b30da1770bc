"""Features of a curve, derived quantities and profile likelihood, by their definitions."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from functools import partial

import numpy as np
import numpy.typing as npt
from scipy import optimize, stats
from scipy.integrate import quad

from ridge.core.errors import OutsideSense
from ridge.core.fitting import fit
from ridge.core.fitting.effort import QUESTION, Effort
from ridge.core.models import Exponential, Formula, Line, Logistic, Model, Polynomial, Sinusoid
from ridge.core.models.base import Derived
from ridge.core.predicting.at_x import predict
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.curve_limits import curve_limits, x_limits
from ridge.core.predicting.derived import DerivedQuantity, _along, derived_of, limits_of
from ridge.core.predicting.features import Place, area, crossings, inflexions, roots, tangent, turning_points
from ridge.core.predicting.parameter_limits import can_mislead, intervals, misleads, profile_interval, sides
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from tests.core.by_definition.designs import Design, close, readings

Floats = npt.NDArray[np.float64]


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
            # Limits of x: there the derivative is just as far from zero as its own interval reaches (Fieller's idea).
            for end in (place.x_low, place.x_high):
                if np.isfinite(end):
                    close(abs(one.value(end, order)), one.t * one.error(end, order), rtol=1e-6)
            self.assertTrue(place.x_low < place.x < place.x_high)
            close(place.y_high - place.y, one.t * (place.y_error or 0), rtol=1e-9)
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
            close(place.y_high - place.y, max(one.t, self.design.t) * (place.y_error or 0), rtol=1e-6)

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

    def test_where_a_quantity_goes_as_its_parameter_goes_to_infinity(self) -> None:
        x, y = readings(12, lambda x: 10 * np.exp(-0.3 * x))
        found = fit(Readings(x, y), Exponential())
        form = Derived("share", "k/(1 + k)", (0, 0), "")
        quantity = DerivedQuantity("share", 0.2, 0.1, (0, 0), False, "", "k")
        way = np.array([1.0, 10, 100, 1000, np.inf])
        # At infinity itself it has no value: the last one before counts.
        self.assertAlmostEqual(_along(found, form, quantity, way), 1000 / 1001, 12)
        self.assertAlmostEqual(_along(found, form, quantity, way[:4]), 1000 / 1001, 12)


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
