"""Errors that all readings share: against the covariance of correlated readings, the package ``uncertainties``, and simulated studies."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from scipy.special import ndtri
from uncertainties import ufloat

from ridge.core import Readings, fit
from ridge.core.carrying import (
    SharedError,
    follow,
    intervals_with_shared,
    moved_by,
    place_with_shared,
    prediction_with_shared,
    quantity_with_shared,
    solution_with_shared,
    with_shared,
)
from ridge.core.models import Exponential, Line, Polynomial, Sinusoid
from ridge.core.predicting.at_x import predict
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.features import area, tangent, turning_points
from ridge.core.predicting.parameter_limits import intervals
from ridge.core.results.fit import Fit

X = np.array([0.5, 1, 2, 3, 4.5, 6, 7, 8.5])
BUMPS = np.array([0.03, -0.02, 0.05, -0.04, 0.01, 0.02, -0.03, 0.01])
ZERO, FACTOR = 0.4, 0.02


def zero(rows: int = 8, size: float = ZERO) -> SharedError:
    return SharedError("zero", y=np.full(rows, size))


def errors_of(one: Fit) -> list[float]:
    return [parameter.standard_error or 0.0 for parameter in one.parameters.values()]


class Parameters(TestCase):
    def setUp(self) -> None:
        self.y = 2 * X + 1 + BUMPS
        self.line = fit(Readings(X, self.y), Line())

    def test_as_least_squares_of_correlated_readings(self) -> None:
        """Of ordinary least squares on readings with covariance V: (XᵀX)⁻¹XᵀVX(XᵀX)⁻¹ (e.g. Draper and Smith, section 9.2)."""
        design = np.column_stack([X, np.ones(8)])
        inverse = np.linalg.inv(design.T @ design)
        s = self.line.statistics.residual_standard_deviation or 0.0
        for error, moves in ((zero(), np.full(8, ZERO)), (SharedError("factor", y=FACTOR * self.y), FACTOR * self.y)):
            covariance = s**2 * np.eye(8) + np.outer(moves, moves)
            expected = inverse @ design.T @ covariance @ design @ inverse
            found = with_shared(self.line, moved_by(self.line, [error]))
            np.testing.assert_allclose(np.array(errors_of(found)), np.sqrt(np.diag(expected)), rtol=1e-9)
            np.testing.assert_allclose(found.covariance, expected, rtol=1e-9, atol=1e-15)

    def test_a_zero_moves_the_intercept_alone(self) -> None:
        found = with_shared(self.line, moved_by(self.line, [zero()]))
        slope, intercept = errors_of(found)
        self.assertAlmostEqual(slope, errors_of(self.line)[0], delta=1e-14)
        self.assertAlmostEqual(intercept, float(np.hypot(errors_of(self.line)[1], ZERO)), delta=1e-12)
        self.assertEqual(found.values, self.line.values)
        self.assertEqual(found.statistics, self.line.statistics)

    def test_a_zero_of_x_by_the_package_uncertainties(self) -> None:
        off = ufloat(0, 0.3)
        xs = [x + off for x in X]
        mean_x, mean_y = sum(xs) / 8, float(self.y.mean())
        slope = sum((x - mean_x) * (y - mean_y) for x, y in zip(xs, self.y, strict=True)) / sum(
            (x - mean_x) ** 2 for x in xs
        )
        intercept = mean_y - slope * mean_x
        moved = moved_by(self.line, [SharedError("zero of x", x=np.full(8, 0.3))])
        self.assertAlmostEqual(moved[0].on_parameter("intercept"), -0.3 * self.line.values["slope"])
        self.assertAlmostEqual(abs(moved[0].on_parameter("intercept")), intercept.std_dev, delta=1e-9)
        self.assertAlmostEqual(abs(moved[0].on_parameter("slope")), slope.std_dev, delta=1e-9)

    def test_degrees_of_freedom_grow_with_what_is_shared(self) -> None:
        """Welch and Satterthwaite (JCGM 100, G.4.1): u⁴/(s⁴/ν) with six degrees of freedom."""
        found = with_shared(self.line, moved_by(self.line, [zero()]))
        whole, scatter = errors_of(found)[1], errors_of(self.line)[1]
        self.assertAlmostEqual(found.parameters["intercept"].degrees_of_freedom, whole**4 / (scatter**4 / 6), places=3)
        self.assertAlmostEqual(found.parameters["slope"].degrees_of_freedom, 6, places=6)
        low, high = found.parameters["intercept"].interval(0.95)
        self.assertAlmostEqual((high - low) / 2 / whole, float(ndtri(0.975)), delta=0.01)

    def test_nothing_fitted_and_nothing_shared(self) -> None:
        self.assertEqual(moved_by(self.line, []), ())
        self.assertIs(with_shared(self.line, ()), self.line)
        exact = fit(Readings([1, 2], [3, 5]), Line())
        self.assertEqual(moved_by(exact, [zero(2)]), ())

    def test_in_logarithms(self) -> None:
        """A scale factor of y is a factor of a, and leaves k alone."""
        y = 5 * np.exp(-0.3 * X) * (1 + BUMPS)
        made = fit(Readings(X, y), Exponential(), least_squares_in="logarithms")
        found = with_shared(made, moved_by(made, [SharedError("factor", y=FACTOR * y)]))
        a, k = found.parameters["a"], found.parameters["k"]
        self.assertAlmostEqual(k.standard_error or 0, made.parameters["k"].standard_error or 1, delta=1e-12)
        line = made.parameters["a"].logarithm
        assert a.logarithm is not None and line is not None
        self.assertAlmostEqual(
            a.logarithm.standard_error or 0, float(np.hypot(line.standard_error or 0, FACTOR)), delta=1e-5
        )

    def test_limits_that_are_not_equally_far(self) -> None:
        y = np.array([9.1, 5.2, 3.9, 1.2, 1.6])
        made = fit(Readings(np.arange(5.0), y), Exponential(level=True))
        found = intervals(made)
        self.assertIn("profile", {one.method for one in found.values()})
        moved = moved_by(made, [SharedError("zero", y=np.full(5, 0.5))])
        wide = intervals_with_shared(found, made, with_shared(made, moved), 0.95)
        effect = moved[0].on_parameter("c")
        for name, one in found.items():
            if one.method == "profile" and name == "c":
                far = float(ndtri(0.975)) * effect
                value = made.values[name]
                self.assertAlmostEqual(value - wide[name].low, float(np.hypot(value - one.low, far)), places=9)
        self.assertAlmostEqual(effect, 0.5, places=5)

    def test_at_the_ends(self) -> None:
        for size in (1e-30, 1e30):
            made = fit(Readings(X, self.y * size), Line())
            found = with_shared(made, moved_by(made, [zero(size=ZERO * size)]))
            self.assertAlmostEqual(errors_of(found)[1] / size, float(np.hypot(errors_of(self.line)[1], ZERO)), places=9)


class Answers(TestCase):
    def setUp(self) -> None:
        self.line = fit(Readings(X, 2 * X + 1 + BUMPS), Line())
        self.moved = moved_by(self.line, [zero()])

    def test_y_at_x(self) -> None:
        plain = predict(self.line, 4.0)
        found = prediction_with_shared(plain, self.moved)
        self.assertAlmostEqual(float(found.standard_error), float(np.hypot(plain.standard_error, ZERO)), places=12)
        far = float(ndtri(0.975)) * ZERO
        half = float(plain.mean_high - plain.value)
        self.assertAlmostEqual(float(found.mean_high - found.value), float(np.hypot(half, far)), places=12)
        self.assertIs(prediction_with_shared(plain, ()), plain)

    def test_x_read_by_the_same_instrument(self) -> None:
        """A calibration takes a wrong zero out again: the unknown is read with the same zero."""
        plain = solve(self.line, 9.0)[0]
        same = solution_with_shared(plain, self.line, 9.0, self.moved)
        self.assertAlmostEqual(same.standard_error or 0, plain.standard_error or 1, places=9)
        of_x = moved_by(self.line, [SharedError("zero of x", x=np.full(8, 0.3))])
        wide = solution_with_shared(plain, self.line, 9.0, of_x)
        self.assertAlmostEqual(wide.standard_error or 0, float(np.hypot(plain.standard_error or 0, 0.3)), places=9)

    def test_a_factor_of_y_at_a_wanted_y(self) -> None:
        through = fit(Readings(X, 2 * X + BUMPS), Line(), fixed={"intercept": 0})
        factor = moved_by(through, [SharedError("factor", y=FACTOR * through.readings.y)])
        plain = solve(through, 9.0)[0]
        found = solution_with_shared(plain, through, 9.0, factor)
        self.assertAlmostEqual(found.standard_error or 0, plain.standard_error or 1, delta=1e-6)

    def test_slopes_and_areas(self) -> None:
        slope = quantity_with_shared(
            tangent(self.line, 3.0).slope, self.moved, lambda one: tangent(one, 3.0).slope.value, 0.95
        )
        self.assertAlmostEqual(slope.standard_error or 0, tangent(self.line, 3.0).slope.standard_error or 1, places=9)
        plain = area(self.line, 1.0, 4.0)
        under = quantity_with_shared(plain, self.moved, lambda one: area(one, 1.0, 4.0).value, 0.95)
        self.assertAlmostEqual(
            under.standard_error or 0, float(np.hypot(plain.standard_error or 0, 3 * ZERO)), places=9
        )

    def test_where_it_turns(self) -> None:
        bowl = fit(Readings(X, (X - 4) ** 2 + 2 + BUMPS), Polynomial(2))
        moved = moved_by(bowl, [zero(), SharedError("zero of x", x=np.full(8, 0.3))])
        plain = turning_points(bowl)[0]
        found = place_with_shared(plain, moved, [(turning_points(a.up), turning_points(a.down)) for a in moved], 0.95)
        far = float(ndtri(0.975))
        for ends, alone, shared in (
            ((found.x_low, found.x, found.x_high), (plain.x_low, plain.x, plain.x_high), 0.3),
            ((found.y_low, found.y, found.y_high), (plain.y_low, plain.y, plain.y_high), ZERO),
        ):
            for side in (0, 2):
                widened = float(np.hypot(alone[side] - alone[1], far * shared))
                self.assertAlmostEqual(abs(ends[side] - ends[1]), widened, places=6)

    def test_simulated_studies(self) -> None:
        """Of 400 studies whose readings share a zero, 95 % limits hold the truth in about 380; without what is shared in far fewer."""
        draw = np.random.default_rng(7)
        held = alone = 0
        for _ in range(400):
            y = 2 * X + 1 + 0.1 * draw.standard_normal(8) + ZERO * draw.standard_normal()
            made = fit(Readings(X, y), Line())
            found = with_shared(made, moved_by(made, [zero()])).parameters["intercept"].interval(0.95)
            held += found[0] < 1 < found[1]
            low, high = made.parameters["intercept"].interval(0.95)
            alone += low < 1 < high
        self.assertTrue(366 <= held <= 394, held)
        self.assertLess(alone, 200)


class WhatFollows(TestCase):
    def test_the_budget_names_what_is_shared(self) -> None:
        line = fit(Readings(X, 2 * X + 1 + BUMPS), Line())
        moved = {"": moved_by(line, [zero()])}
        found = follow("intercept/slope", line, moved=moved)
        whole = with_shared(line, moved[""])
        gradient = np.array([-line.values["intercept"] / line.values["slope"] ** 2, 1 / line.values["slope"]])
        self.assertAlmostEqual(
            found.standard_error or 0, float(np.sqrt(gradient @ whole.covariance @ gradient)), places=12
        )
        self.assertGreater(found.budget["zero"], 0.9)
        self.assertAlmostEqual(sum(found.budget.values()), 1, places=12)
        self.assertGreater(found.degrees_of_freedom, 100)

    def test_what_two_fits_share_cancels_between_them(self) -> None:
        one = fit(Readings(X, 2 * X + 1 + BUMPS), Line())
        other = fit(Readings(X + 1, 2 * X + 1.5 - BUMPS), Line())
        moved = {"A": moved_by(one, [zero()]), "B": moved_by(other, [zero()])}
        fits = {"A": one, "B": other}
        apart, together = (
            follow("A_intercept - B_intercept", fits),
            follow("A_intercept - B_intercept", fits, moved=moved),
        )
        self.assertAlmostEqual(together.standard_error or 0, apart.standard_error or 1, places=12)
        added = follow("A_intercept + B_intercept", fits, moved=moved)
        self.assertAlmostEqual(
            added.standard_error or 0, float(np.hypot(apart.standard_error or 0, 2 * ZERO)), places=9
        )

    def test_fits_to_the_same_readings(self) -> None:
        """C₁J₁ᵀJ₂C₂σ²: the same fit twice has no difference, and of nested ones the difference is what the smaller has less (Hausman's
        lemma: var(A − B) = var(B) − var(A) for an efficient A)."""
        readings = Readings(X, 2 * X + 1 + BUMPS, y_error=0.05, absolute_errors=True)
        one, other = fit(readings, Line()), fit(readings, Polynomial(2))
        same = follow("A_slope - B_slope", {"A": one, "B": fit(readings, Line())})
        self.assertLess(same.standard_error or 0, 1e-7)
        found = follow("A_slope - B_c1", {"A": one, "B": other})
        less = (other.parameters["c1"].standard_error or 0) ** 2 - (one.parameters["slope"].standard_error or 0) ** 2
        self.assertAlmostEqual(found.standard_error or 0, float(np.sqrt(less)), places=9)

    def test_fits_that_bend_by_simulation(self) -> None:
        draw = np.random.default_rng(3)
        t = np.linspace(0, 10, 40)
        true = 5 + 3 * np.sin(1.1 * t + 0.4)
        differences, told = [], 0.0
        for number in range(300):
            readings = Readings(t, true + 0.2 * draw.standard_normal(40), y_error=0.2, absolute_errors=True)
            one, other = fit(readings, Sinusoid()), fit(readings.within(0, 6), Sinusoid())
            name = "angular_frequency"
            differences.append(one.values[name] - other.values[name])
            if number == 0:
                told = follow(f"A_{name} - B_{name}", {"A": one, "B": other}).standard_error or 0.0
        self.assertAlmostEqual(told / float(np.std(differences)), 1, delta=0.15)
