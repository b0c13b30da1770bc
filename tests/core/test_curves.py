"""Predictions and features of curves: against the delta method by hand, simulation, and known answers."""

from __future__ import annotations

from unittest import TestCase

import mpmath
import numpy as np
from scipy.stats import t as student

from ridge.core import Fit, Readings, fit
from ridge.core.errors import NoSolution, OutsideSense
from ridge.core.models import Exponential, Formula, Gaussian, Line, Logistic, Polynomial, Reciprocal, Sinusoid
from ridge.core.predicting.curve_at_y import solve_curve
from ridge.core.predicting.features import area, crossings, inflexions, roots, tangent, turning_points

X = np.linspace(0.5, 10, 25)
NOISE = np.random.default_rng(1).normal(0, 0.2, 25)


class YatX(TestCase):
    def test_the_delta_method_by_hand(self) -> None:
        result = fit(Readings(X, 30 * np.exp(-0.4 * X) + 7 + NOISE), Exponential(level=True))
        gradient = np.array(
            [np.exp(result.values["k"] * 3.3), result.values["a"] * 3.3 * np.exp(result.values["k"] * 3.3), 1]
        )
        variance = gradient @ result.covariance @ gradient
        found = result.predict(3.3)
        self.assertAlmostEqual(float(found.standard_error), np.sqrt(variance), places=12)
        width = student.ppf(0.975, 22)
        s = result.statistics.residual_standard_deviation or 0
        self.assertAlmostEqual(float(found.high), float(found.value) + width * np.sqrt(variance + s**2), places=10)

    def test_far_from_zero_the_curve_keeps_its_digits(self) -> None:
        years = 1990.0 + np.arange(30)
        y = 3 + 0.2 * (years - 2000) + 0.01 * (years - 2000) ** 3
        near = fit(Readings(years - 2000, y + NOISE[:1]), Polynomial(3))
        far = fit(Readings(years, y + NOISE[:1]), Polynomial(3))
        at = np.array([1993.5, 2011.25])
        np.testing.assert_allclose(far.evaluate(at), near.evaluate(at - 2000), rtol=1e-13)
        np.testing.assert_allclose(far.predict(at).standard_error, near.predict(at - 2000).standard_error, rtol=1e-6)

    def test_intervals_cover_as_often_as_they_say(self) -> None:
        random = np.random.default_rng(9)
        for model, values, spread in (
            (Polynomial(2), {"c0": 1.0, "c1": 2.0, "c2": -0.3}, 1.0),
            (Exponential(level=True), {"a": 30.0, "k": -0.4, "c": 7.0}, 1.0),
            (Sinusoid(), {"amplitude": 3.0, "angular_frequency": 1.2, "phase": 0.5, "midline": 4.0}, 0.5),
        ):
            curve = model.evaluate(X, values)
            truth = float(model.evaluate([4.4], values)[0])
            inside_curve = inside_new = 0
            for _ in range(300):
                found = fit(Readings(X, curve + random.normal(0, spread, 25)), model).predict(4.4, level=0.9)
                inside_curve += bool(found.mean_low <= truth <= found.mean_high)
                inside_new += bool(found.low <= truth + random.normal(0, spread) <= found.high)
            # Three standard deviations of a count of 300 at 90 % are 0.052.
            self.assertAlmostEqual(inside_curve / 300, 0.9, delta=0.055, msg=repr(model))
            self.assertAlmostEqual(inside_new / 300, 0.9, delta=0.055, msg=repr(model))


class XatY(TestCase):
    def test_a_line_by_the_general_way_gives_fiellers_limits(self) -> None:
        for noise in (NOISE, 12 * NOISE):
            result = fit(Readings(X, 2 * X + 1 + noise), Line())
            for repeats in (1, 4):
                exact = result.solve(9.0, repeats=repeats)[0]
                general = solve_curve(result, 9.0, repeats, 0.95, None)[0]
                np.testing.assert_allclose(
                    np.array([general.value, general.standard_error, general.low, general.high], dtype=float),
                    np.array([exact.value, exact.standard_error, exact.low, exact.high], dtype=float), rtol=1e-9,
                )  # fmt: skip

    def test_every_solution_in_the_interval(self) -> None:
        wave = fit(Readings(X, 3 * np.sin(2 * X + 1) + 4 + 0.1 * NOISE), Sinusoid())
        found = wave.solve(5.0, interval=(0, 10))
        np.testing.assert_allclose(wave.evaluate([one.value for one in found]), 5.0, atol=1e-12)
        self.assertEqual({one.level for one in wave.solve(5.0, level=0.9)}, {0.9})
        self.assertEqual(len(found), 6)  # sin θ = 1/3 for θ from 1 to 21
        parabola = fit(Readings(X, (X - 3) * (X - 7) + NOISE), Polynomial(2))
        self.assertEqual(len(parabola.solve(0.0)), 2)

    def test_a_pole_is_no_solution(self) -> None:
        result = fit(Readings(X, 5 / X + 1 + 0.01 * NOISE), Reciprocal())
        found = result.solve(2.0, interval=(-10, 20))
        self.assertEqual(len(found), 1)
        self.assertAlmostEqual(found[0].value, result.values["a"] / (2 - result.values["b"]), places=10)

    def test_a_value_never_taken(self) -> None:
        result = fit(Readings(X, (X - 5) ** 2 + NOISE), Polynomial(2))
        with self.assertRaises(NoSolution):
            result.solve(-50.0)
        # Far out a parabola takes every value above its vertex: at about 5 ± √10⁹.
        far = sorted(one.value for one in result.solve(1e9))
        np.testing.assert_allclose(far, [5 - 10**4.5, 5 + 10**4.5], rtol=2e-2)
        level = fit(Readings(X, np.full(25, 3.0)), Polynomial(2))
        with self.assertRaises(NoSolution):
            level.solve(3.0)

    def test_limits_that_have_no_end(self) -> None:
        # Near the level of a decay any later x could have given that y.
        result = fit(Readings(X, 30 * np.exp(-0.8 * X) + 7 + NOISE), Exponential(level=True))
        one = result.solve(7.15)[0]
        self.assertTrue(np.isinf(one.high) and not one.bounded and np.isfinite(one.low))

    def test_unknown_arguments(self) -> None:
        result = fit(Readings(X, 2 * X + NOISE), Polynomial(2))
        for arguments in ({"repeats": 0}, {"level": 1.0}, {"interval": (3, 1)}):
            with self.assertRaises(OutsideSense):
                result.solve(5.0, **arguments)


class Features(TestCase):
    def parabola(self) -> Fit:
        return fit(Readings(X, (X - 3) * (X - 7) + NOISE), Polynomial(2))

    def test_the_vertex_two_ways(self) -> None:
        result = self.parabola()
        vertex = turning_points(result)[0]
        derived = {quantity.name: quantity for quantity in result.derived}
        self.assertEqual(vertex.kind, "minimum")
        self.assertAlmostEqual(vertex.x, derived["x of the vertex"].value, places=10)
        self.assertAlmostEqual(vertex.x_error or 0, derived["x of the vertex"].standard_error or 1, places=10)

    def test_errors_by_simulation(self) -> None:
        random = np.random.default_rng(4)
        result = self.parabola()
        s = result.statistics.residual_standard_deviation or 0
        found: dict[str, list[float]] = {"root": [], "vertex": [], "area": [], "slope": []}
        for _ in range(300):
            other = fit(Readings(X, result.fitted + random.normal(0, s, 25)), Polynomial(2))
            found["root"].append(roots(other)[0].x)
            found["vertex"].append(turning_points(other)[0].x)
            found["area"].append(area(other, 2, 6).value)
            found["slope"].append(tangent(other, 4).slope.value)
        for name, error in (
            ("root", roots(result)[0].x_error), ("vertex", turning_points(result)[0].x_error),
            ("area", area(result, 2, 6).standard_error), ("slope", tangent(result, 4).slope.standard_error),
        ):  # fmt: skip
            self.assertAlmostEqual(np.std(found[name]) / (error or 1), 1, delta=0.13, msg=name)

    def test_known_places(self) -> None:
        wave = fit(Readings(X, 3 * np.sin(2 * X + 1) + 4), Sinusoid())
        crests = [place.x for place in turning_points(wave, (0, 10)) if place.kind == "maximum"]
        np.testing.assert_allclose(
            crests, [(np.pi / 2 - 1) / 2 + np.pi * k for k in range(4)][: len(crests)], atol=1e-8
        )
        peak = fit(Readings(X, 20 * np.exp(-((X - 4) ** 2) / 4.5) + 2), Gaussian())
        np.testing.assert_allclose([place.x for place in inflexions(peak, (0, 8))], [2.5, 5.5], atol=1e-7)
        bend = fit(Readings(X, 30 / (1 + np.exp(-1.2 * (X - 4)))), Logistic())
        self.assertAlmostEqual(inflexions(bend, (0, 10))[0].x, 4, places=7)
        self.assertAlmostEqual(tangent(bend, 4).slope.value, 9, places=7)

    def test_areas_against_high_precision(self) -> None:
        decay = fit(Readings(X, 30 * np.exp(-0.4 * X) + 7), Formula("p*exp(-q*x)+r"))
        expected = float(mpmath.quad(lambda x: 30 * mpmath.exp(-mpmath.mpf("0.4") * x) + 7, [1, 8]))
        self.assertAlmostEqual(area(decay, 1, 8).value, expected, places=9)
        self.assertAlmostEqual(area(decay, 8, 1).value, -expected, places=9)
        hyperbola = fit(Readings(X, 5 / X), Reciprocal())
        with self.assertRaises(OutsideSense):
            area(hyperbola, np.nan, 2)

    def test_crossing_of_two_lines_through_the_same_readings(self) -> None:
        readings = Readings(X, 2 * X + 1 + NOISE)
        line, origin = fit(readings, Line()), fit(readings, Line(0.0))
        place = crossings(line, origin)[0]
        self.assertAlmostEqual(
            place.x, line.values["intercept"] / (origin.values["slope"] - line.values["slope"]), places=9
        )
        # Equal readings are the same readings, whatever objects hold them.
        again = crossings(line, fit(Readings(X, 2 * X + 1 + NOISE), Line(0.0)))[0]
        self.assertEqual(place, again)
        others = Readings(X[::-1], (2 * X + 1 + NOISE)[::-1])
        independent = crossings(line, fit(others, Line(0.0)))[0]
        self.assertNotAlmostEqual(place.x_error or 0, independent.x_error or 0, places=3)

    def test_the_error_of_a_crossing_by_simulation(self) -> None:
        """Fits to readings that they share in part: the scatter of their crossing over many new readings."""
        random, found = np.random.default_rng(5), []
        truth, included = 2 * X + 1, np.median(X) + 2 > X
        for _ in range(1500):
            y = truth + random.normal(0, 0.3, len(X))
            every = Readings(X, y, y_error=0.3, absolute_errors=True)
            place = crossings(fit(every, Line()), fit(every.choosing(included), Line(0.0)))[0]
            found.append((place.x, place.x_error or 0))
        places, errors = np.array(found).T
        self.assertAlmostEqual(float(np.median(errors)) / float(np.std(places)), 1, delta=0.15)

    def test_beyond_is_said(self) -> None:
        place = roots(fit(Readings(X, 2 * X + 30 + NOISE), Line()))[0]
        self.assertGreater(place.beyond_ranges, 1)
