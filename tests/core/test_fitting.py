"""Fits without starting values, with fixed and bounded parameters, ranges, redundancy and refusals."""

from __future__ import annotations

from unittest import TestCase
from unittest.mock import patch

import numpy as np
from scipy.optimize import curve_fit, minimize_scalar

from ridge.core import Readings, fit
from ridge.core.errors import BeyondDoubles, NoFit, NotIdentifiable, OutsideSense, TooFewReadings, UndefinedAt
from ridge.core.fitting import nonlinear_fit
from ridge.core.fitting.effort import Effort
from ridge.core.models import (
    Exponential,
    Formula,
    Gaussian,
    Line,
    Logarithmic,
    Logistic,
    Polynomial,
    Power,
    Reciprocal,
    Sinusoid,
)

X = np.linspace(0.5, 10, 25)
NOISE = np.random.default_rng(1).normal(0, 0.2, 25)


def left(columns: np.ndarray, y: np.ndarray) -> float:
    basis = np.linalg.qr(columns)[0]
    rest = y - basis @ (basis.T @ y)
    rest -= basis @ (basis.T @ rest)
    return float(rest @ rest)


def dense_minimum(columns: object, trials: np.ndarray, y: np.ndarray) -> float:
    """The least sum of squares over one nonlinear parameter, by brute force."""
    assert callable(columns)
    found = np.array([left(columns(trial), y) for trial in trials])
    best = np.inf
    for i in np.argsort(found)[:12]:
        low, high = trials[max(0, i - 1)], trials[min(len(trials) - 1, i + 1)]
        result = minimize_scalar(
            lambda value: left(columns(value), y),
            bounds=(low, high),
            method="bounded",
            options={"xatol": 1e-12 * abs(high - low)},
        )
        best = min(best, float(result.fun))
    return best


class WithoutStarts(TestCase):
    """The best minimum, as found by a dense search of the same problem."""

    def test_random_sinusoids(self) -> None:
        random = np.random.default_rng(11)
        for i in range(40):
            n, cycles, span = int(random.integers(8, 61)), random.uniform(0.6, 8), 10 ** random.uniform(-4, 4)
            u = np.linspace(0, 1, n) if i % 2 else np.sort(random.uniform(0, 1, n))
            x, size = span * (u + random.uniform(-50, 50)), 10 ** random.uniform(-3, 3)
            y = size * (
                random.normal() * 5 + np.sin(2 * np.pi * cycles * u + random.uniform(0, 7)) + random.normal(0, 0.15, n)
            )
            result = fit(Readings(x, y), Sinusoid())
            place = (x - x.min()) / np.ptp(x)
            trials = np.linspace(0.05, max(10, n / 2), int(40 * max(10, n / 2)))
            best = dense_minimum(
                lambda f, p=place: np.column_stack(
                    [np.sin(2 * np.pi * f * p), np.cos(2 * np.pi * f * p), np.ones_like(p)]
                ),
                trials,
                y,
            )
            self.assertLessEqual(result.statistics.residual_sum_of_squares, best * (1 + 1e-6), (i, n, cycles))

    def test_fast_cycles_in_many_readings(self) -> None:
        """No worse than the minimum downhill from the truth, whether each frequency is tried or their spectrum is looked at."""
        random = np.random.default_rng(13)
        for n, cycles in ((130, 31.3), (200, 48.7), (300, 40.4), (300, 3.3), (900, 25.2), (2000, 210.9)):
            for even in (True, False):
                u = np.linspace(0, 1, n) if even else np.sort(random.uniform(0, 1, n))
                x = 40 + 7 * u
                y = 3 + np.sin(2 * np.pi * cycles * u + random.uniform(0, 7)) + random.normal(0, 0.4, n)
                found = fit(Readings(x, y), Sinusoid()).statistics.residual_sum_of_squares
                from_truth = fit(
                    Readings(x, y), Sinusoid(), start={"angular_frequency": 2 * np.pi * cycles / 7, "phase": 0}
                )
                best = from_truth.statistics.residual_sum_of_squares
                self.assertLessEqual(found, best * (1 + 1e-7), (n, cycles, even))

    def test_decays_of_any_length_in_many_readings(self) -> None:
        random = np.random.default_rng(14)
        for n in (170, 800, 5000):
            for rate in (-0.4, -4.0, -40.0, -n / 4):
                u = np.sort(random.uniform(0, 1, n))
                y = 2 + 3 * np.exp(rate * u) + random.normal(0, 0.1, n)
                found = fit(Readings(u, y), Exponential(level=True)).statistics.residual_sum_of_squares
                from_truth = fit(Readings(u, y), Exponential(level=True), start={"k": rate})
                best = from_truth.statistics.residual_sum_of_squares
                self.assertLessEqual(found, best * (1 + 1e-7), (n, rate))

    def test_random_exponentials_with_level(self) -> None:
        random = np.random.default_rng(12)
        for i in range(40):
            n, span = int(random.integers(8, 61)), 10 ** random.uniform(-4, 4)
            u = np.linspace(0, 1, n) if i % 2 else np.sort(random.uniform(0, 1, n))
            k, size = random.choice([-1, 1]) * 10 ** random.uniform(-0.3, 1.3), 10 ** random.uniform(-3, 3)
            y = size * (random.normal() * 5 + np.exp(k * (u - (k > 0))) + random.normal(0, 0.05, n))
            x = span * (u + random.uniform(-3, 3))
            result = fit(Readings(x, y), Exponential(level=True))
            place = (x - x.min()) / np.ptp(x)
            trials = np.concatenate([-np.geomspace(2000, 1e-3, 400), np.geomspace(1e-3, 2000, 400)])
            best = dense_minimum(
                lambda k, p=place: np.column_stack([np.exp(k * p - max(k, 0)), np.ones_like(p)]), trials, y
            )
            self.assertLessEqual(result.statistics.residual_sum_of_squares, best * (1 + 1e-6), (i, n, k))

    def test_many_readings_of_a_fast_wave(self) -> None:
        x = np.linspace(0, 100, 3000)
        y = 2 * np.sin(2 * np.pi * 3.21 * x + 1) + np.random.default_rng(2).normal(0, 1, 3000)
        self.assertAlmostEqual(
            fit(Readings(x, y), Sinusoid()).values["angular_frequency"], 2 * np.pi * 3.21, delta=1e-3
        )

    def test_against_scipy_given_good_starts(self) -> None:
        def gaussian(x: np.ndarray, h: float, m: float, s: float, c: float) -> np.ndarray:
            return np.asarray(h * np.exp(-((x - m) ** 2) / (2 * s * s)) + c)

        y = gaussian(X, 20, 4, 1.5, 2) + NOISE
        error = np.linspace(0.1, 0.4, 25)
        theirs, covariance = curve_fit(
            gaussian, X, y, p0=(18, 4.2, 1.2, 1), sigma=error, absolute_sigma=True, ftol=1e-14, xtol=1e-14
        )
        ours = fit(Readings(X, y, y_error=error, absolute_errors=True), Gaussian())
        for i, name in enumerate(("height", "centre", "width", "level")):
            self.assertAlmostEqual(ours.values[name], theirs[i], delta=1e-6)
            self.assertAlmostEqual(ours.parameters[name].standard_error or 0, np.sqrt(covariance[i, i]), delta=1e-5)

    def test_a_power_law_with_a_reading_at_zero(self) -> None:
        x = np.arange(12.0)
        y = 3 * x**1.5 + NOISE[:12]
        result = fit(Readings(x, y), Power())
        theirs, covariance = curve_fit(lambda x, a, n: a * x**n, x[1:], y[1:], p0=(3, 1.5))
        self.assertAlmostEqual(
            result.values["n"], theirs[1], delta=1e-6
        )  # at x = 0 the curve is 0 whatever the parameters
        self.assertEqual(result.statistics.degrees_of_freedom, 10)
        own = fit(Readings(x, y), Formula("a*x^n"))
        self.assertAlmostEqual(own.values["n"], result.values["n"], places=9)
        ratio = (result.parameters["n"].standard_error or 0) / np.sqrt(covariance[1, 1])
        self.assertAlmostEqual(ratio, 1, delta=0.1)

    def test_weights_repeat_readings(self) -> None:
        y = 30 * np.exp(-0.4 * X) + 7 + NOISE
        counts = np.arange(25) % 3 + 1
        weighted = fit(Readings(X, y, weight=counts), Exponential(level=True))
        repeated = fit(Readings(np.repeat(X, counts), np.repeat(y, counts)), Exponential(level=True))
        for name in ("a", "k", "c"):
            self.assertAlmostEqual(weighted.values[name], repeated.values[name], delta=1e-8)


class Kept(TestCase):
    y = 30 * np.exp(-0.4 * X) + 7 + NOISE

    def test_a_fixed_parameter_stays(self) -> None:
        for fixed in ({"c": 6.0}, {"k": -0.5}, {"a": 28.0}, {"a": 28.0, "c": 6.0}):
            result = fit(Readings(X, self.y), Exponential(level=True), fixed=fixed)
            for name, value in fixed.items():
                self.assertEqual(result.values[name], value)
                self.assertTrue(result.parameters[name].fixed)
                self.assertIsNone(result.parameters[name].standard_error)
            self.assertEqual(result.statistics.degrees_of_freedom, 25 - 3 + len(fixed))
            free = [name for name in ("a", "k", "c") if name not in fixed]
            gradient = result.model.gradient(X, result.values)[:, [("a", "k", "c").index(name) for name in free]]
            self.assertLess(np.max(np.abs(gradient.T @ result.residuals)) / np.max(np.abs(gradient)), 1e-7)

    def test_fixed_terms_of_a_polynomial(self) -> None:
        y = 2 + 3 * X - 0.5 * X**2 + NOISE
        result = fit(Readings(X, y), Polynomial(2), fixed={"c2": -0.5})
        line = fit(Readings(X, y + 0.5 * X**2), Line())
        self.assertAlmostEqual(result.values["c1"], line.values["slope"], places=10)
        self.assertAlmostEqual(result.values["c0"], line.values["intercept"], places=10)

    def test_a_fixed_phase_or_period(self) -> None:
        y = 3 * np.sin(1.2 * X + 0.5) + 4 + NOISE
        result = fit(Readings(X, y), Sinusoid(), fixed={"angular_frequency": 1.2})
        design = np.column_stack([np.sin(1.2 * X), np.cos(1.2 * X), np.ones_like(X)])
        s, c, d = np.linalg.lstsq(design, y, rcond=None)[0]
        self.assertAlmostEqual(result.values["amplitude"], np.hypot(s, c), places=8)
        self.assertAlmostEqual(result.values["midline"], d, places=8)
        self.assertEqual(fit(Readings(X, y), Sinusoid(), fixed={"phase": 0.0}).values["phase"], 0.0)

    def test_bounds(self) -> None:
        free = fit(Readings(X, self.y), Exponential(level=True))
        inside = fit(Readings(X, self.y), Exponential(level=True), bounds={"k": (-2, 0), "c": (0, 100)})
        self.assertAlmostEqual(inside.values["k"], free.values["k"], delta=1e-7)
        at = fit(Readings(X, self.y), Exponential(level=True), bounds={"c": (0, 5)})
        self.assertEqual(at.values["c"], 5)
        self.assertIn("at-bound", [caution.code for caution in at.cautions])
        kept = fit(Readings(X, self.y), Exponential(level=True), fixed={"c": 5})
        self.assertAlmostEqual(at.values["k"], kept.values["k"], delta=1e-8)
        line = fit(Readings(X, 2 * X - 3 + NOISE), Line(), bounds={"intercept": (0, np.inf)})
        self.assertEqual(line.values["intercept"], 0)
        self.assertAlmostEqual(
            line.values["slope"], fit(Readings(X, 2 * X - 3 + NOISE), Line(0.0)).values["slope"], places=12
        )

    def test_part_of_the_range(self) -> None:
        readings = Readings(X, self.y)
        part = fit(readings, Line(), x_range=(2, 5))
        inside = (X >= 2) & (X <= 5)
        self.assertEqual(part.statistics.n, inside.sum())
        self.assertAlmostEqual(
            part.values["slope"], fit(Readings(X[inside], self.y[inside]), Line()).values["slope"], places=12
        )
        self.assertEqual(len(part.residuals), 25)

    def test_starts(self) -> None:
        y = np.sin(3 * X) + 0.05 * NOISE
        near = fit(Readings(X, y), Formula("a*sin(b*x)"), start={"a": 1, "b": 3.1})
        self.assertAlmostEqual(near.values["b"], 3, delta=0.02)
        free = fit(Readings(X, y), Formula("a*sin(b*x)"))
        self.assertLessEqual(
            free.statistics.residual_sum_of_squares, near.statistics.residual_sum_of_squares * (1 + 1e-9)
        )
        away = fit(Readings(X, y), Formula("a*sin(b*x)"), start={"a": 1, "b": 0.4})
        self.assertGreater(away.statistics.residual_sum_of_squares, 5 * near.statistics.residual_sum_of_squares)


class Redundant(TestCase):
    def test_one_parameter_too_many_still_gives_the_curve(self) -> None:
        result = fit(Readings([1, 2, 4], [1.0, 2.0, 2.7]), Formula("a*ln(b*x + c) + d"))
        np.testing.assert_allclose(result.fitted, [1.0, 2.0, 2.7], atol=1e-9)
        held = result.held[0]
        self.assertEqual((held.name, held.value, held.why, held.combination), ("b", 1.0, "redundant", "c/b"))
        caution = next(caution for caution in result.cautions if caution.code == "not-identifiable")
        self.assertIn("c/b", caution.message)
        self.assertIn("Fix b", caution.remedy)

    def test_combinations_are_named(self) -> None:
        y = 3 * X + 1 + NOISE
        for text, combination in (("a*b*x + c", "b·a"), ("(a+b)*x + c", "b + a"), ("a*x/b + c", "b/a")):
            held = fit(Readings(X, y), Formula(text)).held
            self.assertEqual(len(held), 1, text)
            self.assertEqual(held[0].combination, combination)

    def test_the_curve_is_that_of_the_plain_formula(self) -> None:
        y = 30 * np.exp(-0.4 * X) + 7 + NOISE
        doubled, plain = (
            fit(Readings(X, y), Formula("a*exp(k*x + p) + c")),
            fit(Readings(X, y), Formula("a*exp(k*x) + c")),
        )
        np.testing.assert_allclose(doubled.fitted, plain.fitted, rtol=1e-8)
        self.assertEqual(doubled.statistics.degrees_of_freedom, plain.statistics.degrees_of_freedom)
        self.assertAlmostEqual(
            doubled.parameters["k"].standard_error or 0, plain.parameters["k"].standard_error or 1, delta=1e-9
        )

    def test_an_effort_that_is_spent_gives_the_best_so_far(self) -> None:
        y = 3 * np.exp(-((X - 3) ** 2)) + 2 * np.exp(-((X - 7) ** 2)) + NOISE
        result = fit(Readings(X, y), Formula("a*exp(-(x-b)^2/c)+d*exp(-(x-f)^2/g)+h*exp(-k*x)"), effort=Effort(1e7))
        self.assertTrue(result.cut_short)
        self.assertIn("search-cut-short", [caution.code for caution in result.cautions])

    def test_many_readings_are_polished_once_when_the_effort_is_spent(self) -> None:
        """Powers of extended numbers take 430 times as long as an addition: what is held anyway is not polished before."""
        x = np.linspace(0.1, 10, 50_000)
        y = 30 * np.exp(-0.4 * x) + 7 + np.random.default_rng(1).normal(0, 0.5, 50_000)
        with patch.object(nonlinear_fit, "polish", wraps=nonlinear_fit.polish) as polished:
            result = fit(Readings(x, y), Formula("p*x^q+r*x^s+u*x^v"), effort=Effort(1e9))
        self.assertTrue(result.cut_short)
        self.assertLessEqual(polished.call_count, 2)
        model = result.model
        self.assertGreater(model.polish_operations[0], 3 * 400)
        self.assertLess(model.operations, 3 * 100)


class Refused(TestCase):
    def test_too_few_readings(self) -> None:
        for model, needed in (
            (Line(), 2),
            (Polynomial(3), 4),
            (Exponential(level=True), 3),
            (Sinusoid(), 4),
            (Gaussian(), 4),
        ):
            with self.assertRaises(TooFewReadings) as caught:
                fit(Readings([1.0], [2.0]), model)
            self.assertEqual((caught.exception.needed, caught.exception.found), (needed, 1))
        with self.assertRaises(TooFewReadings) as caught:
            fit(Readings([1, 2], [1.0, 2.0]), Formula("a*ln(b*x + c) + d"))
        self.assertEqual(caught.exception.needed, 3)  # of its four parameters three can be told

    def test_readings_where_the_model_has_no_value_are_named(self) -> None:
        x = np.array([0.0, 1, 2, 3, -4, 5])
        for model, rows in (
            (Logarithmic(), (0, 4)),
            (Reciprocal(), (0,)),
            (Formula("a*ln(x)+b"), (0, 4)),
            (Formula("a/x+b*x"), (0,)),
        ):
            with self.assertRaises(UndefinedAt) as caught:
                fit(Readings(x, x + 10), model)
            self.assertEqual(caught.exception.rows, rows, repr(model))
        with self.assertRaises(UndefinedAt) as caught:
            fit(Readings([-1.0, 2, 3, 4, 5], [1.0, 2, 3, 4, 6]), Power())
        self.assertEqual(caught.exception.rows, (0,))

    def test_no_parameters_at_all(self) -> None:
        with self.assertRaises(NoFit):
            fit(Readings([1.0, 2, 3], [1.0, 2, 3]), Formula("a*ln(-x^2)"))

    def test_too_few_different_x(self) -> None:
        x = [1.0, 1, 2, 2, 3, 3]
        with self.assertRaises(NotIdentifiable) as caught:
            fit(Readings(x, [1.0, 2, 3, 2, 5, 6]), Polynomial(3))
        self.assertIn("degree 2", caught.exception.remedy)
        with self.assertRaises(NotIdentifiable):
            fit(Readings([2.0] * 5, [1.0, 2, 3, 4, 5]), Exponential(level=True))

    def test_arguments_outside_sense(self) -> None:
        readings = Readings(X, X + NOISE)
        for arguments in (
            {"fixed": {"gradient": 1.0}}, {"fixed": {"slope": np.inf}}, {"start": {"m": 1.0}}, {"start": {"slope": np.nan}},
            {"bounds": {"slope": (2, 1)}}, {"x_range": (5, 2)}, {"least_squares_in": "z"}, {"least_squares_in": "logarithms"},
            {"least_squares_in": "orthogonal"},
        ):  # fmt: skip
            with self.assertRaises(OutsideSense):
                fit(readings, Line(), **arguments)
        with self.assertRaises(OutsideSense):
            fit(readings, Formula("a*sqrt(b-x)"), start={"a": 1, "b": -5})

    def test_a_parameter_beyond_doubles(self) -> None:
        with self.assertRaises(BeyondDoubles):
            fit(Readings(X + 1e5, np.exp(-X) + 0.001 * NOISE), Exponential())

    def test_a_logistic_that_never_turns(self) -> None:
        result = fit(Readings(X, np.exp(0.3 * X) + 0.01 * NOISE), Logistic())
        self.assertTrue(all(np.isfinite(value) for value in result.values.values()))


class SumsOfPeaks(TestCase):
    """Two and three peaks on a decaying ground without starting values; shapes as in the certified Gauss problems, invented."""

    def test_the_minimum_is_that_from_the_true_values(self) -> None:
        x = np.arange(1.0, 251.0)
        for peaks in (
            ((101.9, 107.0, 23.6), (72.0, 153.3, 19.5)),  # so close that one broad peak covers both
            ((100.5, 50.0, 12.0), (72.0, 110.0, 14.0), (60.0, 180.0, 17.0)),
        ):
            text, values = "b*exp(-d*x)", {"b": 99.0, "d": 0.011}
            for number, peak in enumerate(peaks):
                text += f" + h{number}*exp(-(x - c{number})^2/w{number}^2)"
                values |= dict(zip((f"h{number}", f"c{number}", f"w{number}"), peak, strict=True))
            model = Formula(text)
            y = model.evaluate(x, values) + np.random.default_rng(0).normal(0, 2.5, 250)
            found, best = fit(Readings(x, y), model), fit(Readings(x, y), model, start=values)
            rss, lowest = (one.statistics.residual_sum_of_squares for one in (found, best))
            self.assertLess(rss / lowest - 1, 1e-9)


class Signs(TestCase):
    def test_a_width_comes_out_positive(self) -> None:
        x = np.linspace(-4, 5, 30)
        y = 3 * np.exp(-(((x - 0.5) / 1.4) ** 2)) + 0.02 * np.random.default_rng(5).normal(size=30)
        for text, names in (
            ("a*exp(-((x-b)/w)^2)", ("w",)),
            ("a*sinc(x/w)^2 + c", ("w",)),
            ("a/(1 + (x/w)^2)", ("w",)),
        ):
            found = fit(Readings(x, y), Formula(text))
            for name in names:
                self.assertGreater(found.values[name], 0, text)
        given = fit(Readings(x, y), Formula("a*exp(-((x-b)/w)^2)"), start={"a": 3.0, "b": 0.4, "w": -1.0})
        self.assertLess(given.values["w"], 0)  # a start that was given is kept to

    def test_a_sign_that_matters_stays(self) -> None:
        x = np.linspace(0, 5, 20)
        found = fit(Readings(x, 3 * np.exp(-0.7 * x)), Formula("a*exp(k*x)"))
        self.assertAlmostEqual(found.values["k"], -0.7, places=9)
