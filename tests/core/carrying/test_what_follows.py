"""What follows from fits, whether it agrees, and where to measure next: by published examples (from memory), by refitting, and by
simulation."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from scipy.stats import norm, ttest_ind

from ridge.core import Fit, Readings, fit
from ridge.core.carrying import Follows, agree, follow, where_next
from ridge.core.errors import OutsideSense
from ridge.core.models import Constant, Exponential, Line, Polynomial, Sinusoid

X = np.array([0.5, 1, 2, 3, 4.5, 6, 7, 8.5])
BUMPS = np.array([0.03, -0.02, 0.05, -0.04, 0.01, 0.02, -0.03, 0.01])


def line() -> Fit:
    return fit(Readings(X, 2 * X + 1 + BUMPS), Line())


class Follow(TestCase):
    def test_the_thermometer_of_the_guide(self) -> None:
        """JCGM 100, H.3: corrections on temperatures less 20 °C: intercept −0.1712(29), slope 0.00218(67), r = −0.930; at 30 °C
        the correction is −0.1494(41)."""
        t = [21.521, 22.012, 22.512, 23.003, 23.507, 23.999, 24.513, 25.002, 25.503, 26.010, 26.511]
        b = [-0.171, -0.169, -0.166, -0.159, -0.164, -0.165, -0.156, -0.157, -0.159, -0.161, -0.160]
        made = fit(Readings(np.array(t) - 20, b), Line())
        self.assertAlmostEqual(made.parameters["intercept"].value, -0.1712, delta=5e-5)
        self.assertAlmostEqual(made.parameters["intercept"].standard_error or 0, 0.0029, delta=5e-5)
        found = follow("intercept + slope*(30 - 20)", made)
        self.assertAlmostEqual(found.value, -0.1494, delta=5e-5)
        self.assertAlmostEqual(found.standard_error or 0, 0.0041, delta=5e-5)
        self.assertAlmostEqual(sum(found.budget.values()), 1.0, delta=1e-12)
        self.assertAlmostEqual(found.degrees_of_freedom, 9, delta=1e-9)

    def test_a_prediction_is_what_follows_too(self) -> None:
        made = fit(Readings(X, 5 * np.exp(-0.3 * X) + BUMPS), Exponential())
        found, told = follow("a*exp(k*4)", made), made.predict(4.0)
        self.assertAlmostEqual(found.value, float(told.value), delta=1e-12)
        self.assertAlmostEqual(found.standard_error or 0, float(told.standard_error), delta=1e-10)
        low, high = found.interval(0.95)
        self.assertAlmostEqual(low, float(told.mean_low), delta=1e-9)
        self.assertAlmostEqual(high, float(told.mean_high), delta=1e-9)

    def test_quantities_built_in(self) -> None:
        made = fit(Readings(X, 5 * np.exp(-0.3 * X) + BUMPS), Exponential())
        half_life = next(one for one in made.derived if one.name == "half-life")
        found = follow("-ln(2)/k", made)
        self.assertAlmostEqual(found.value, half_life.value, delta=1e-12)
        self.assertAlmostEqual(found.standard_error or 0, half_life.standard_error or 1, delta=1e-12)

    def test_letters_several_fits_and_known_values(self) -> None:
        one, other = line(), fit(Readings(X, X - BUMPS), Line())
        self.assertEqual(follow("m", one).value, one.parameters["slope"].value)
        ratio = follow("A_slope/B_slope", {"A": one, "B": other})
        a, b = one.parameters["slope"], other.parameters["slope"]
        relative = np.hypot((a.standard_error or 0) / a.value, (b.standard_error or 0) / b.value)
        self.assertAlmostEqual((ratio.standard_error or 0) / ratio.value, relative, delta=1e-12)
        self.assertGreater(ratio.degrees_of_freedom, 6)
        self.assertLessEqual(ratio.degrees_of_freedom, 12)
        found = follow("L*slope", one, known={"L": (2.0, 0.5)}, units={"L": "m", "slope": "1/s"})
        self.assertEqual(found.unit, "m/s")
        self.assertGreater(found.budget["L"], 0.99)

    def test_divided_by_what_may_be_zero(self) -> None:
        draw = np.random.default_rng(2)
        flat = fit(Readings(X, draw.normal(0, 1, len(X))), Line())
        found = follow("1/slope", flat)
        self.assertFalse(found.bounded(0.95))
        self.assertEqual(found.interval(0.95), (-np.inf, np.inf))
        self.assertTrue(follow("1/slope", line()).bounded(0.95))

    def test_without_scatter_nothing_is_claimed(self) -> None:
        found = follow("slope", fit(Readings([1, 2], [3, 5]), Line()))
        self.assertIsNone(found.standard_error)
        self.assertEqual(found.interval(), (-np.inf, np.inf))

    def test_a_name_that_is_nothing(self) -> None:
        with self.assertRaises(OutsideSense):
            follow("slope*q", line())

    def test_coverage(self) -> None:
        """Of 400 simulated lines through eight readings, the limits of 1/slope at 95 % hold the true one in about 95 %."""
        draw = np.random.default_rng(11)
        held = 0
        for _ in range(400):
            low, high = follow("1/slope", fit(Readings(X, 2 * X + 1 + draw.normal(0, 0.5, len(X))), Line())).interval(
                0.95
            )
            held += low <= 0.5 <= high
        self.assertAlmostEqual(held / 400, 0.95, delta=0.035)


class Agree(TestCase):
    def test_with_an_accepted_value(self) -> None:
        found = agree(follow("slope", line()), 2.0, 0.0)
        self.assertAlmostEqual(
            found.standard_uncertainties or 0, found.difference / (found.standard_error or 1), delta=1e-12
        )
        self.assertIn("no disagreement", found.message)
        self.assertIn("a disagreement", agree(follow("slope", line()), 2.5, 0.01).message)

    def test_two_means_as_by_welch(self) -> None:
        """Two constants fitted apart, compared: SciPy's t-test with unequal variances."""
        a, b = np.array([5.1, 4.9, 5.3, 5.0, 5.2]), np.array([5.6, 5.9, 5.2, 5.8])
        fits = [fit(Readings(np.arange(len(one)), one), Constant()) for one in (a, b)]
        name = next(iter(fits[0].parameters))
        first, second = (follow(name, one) for one in fits)
        found = agree(first, second)
        theirs = ttest_ind(a, b, equal_var=False)
        self.assertAlmostEqual(found.p or 0, theirs.pvalue, delta=1e-10)
        self.assertAlmostEqual(found.degrees_of_freedom, theirs.df, delta=1e-9)

    def test_nothing_to_judge_by(self) -> None:
        found = agree(follow("slope", fit(Readings([1, 2], [3, 5]), Line())), 2.0, 0.1)
        self.assertIsNone(found.p)
        self.assertIn("cannot be judged", found.message)
        with self.assertRaises(OutsideSense):
            agree(follow("slope", line()), 2.0, -1.0)


class WhereNext(TestCase):
    def models(self) -> list[tuple[Fit, str]]:
        return [
            (line(), "slope"),
            (fit(Readings(X, 0.2 * X**2 - X + BUMPS), Polynomial(2)), "c2"),
            (fit(Readings(X, 5 * np.exp(-0.3 * X) + BUMPS), Exponential()), "k"),
            (fit(Readings(X, 2 * np.sin(0.8 * X + 0.3) + 5 + BUMPS), Sinusoid()), "angular_frequency"),
        ]

    def test_against_brute_force(self) -> None:
        """One reading more on the curve at each of five places, refitted: the ratio of unit uncertainties is the map's."""
        for made, name in self.models():
            found = where_next(made, name, between=(0.0, 10.0))
            place = list(made.parameters).index(name)
            now = np.sqrt(made.unit_covariance[place, place])
            for at in found.x[::60]:
                y = np.append(made.readings.y, float(made.evaluate(at)))
                more = fit(Readings(np.append(made.readings.x, at), y), made.model, start=made.values)
                ratio = np.sqrt(more.unit_covariance[place, place]) / now
                told = np.interp(at, found.x, found.standard_error) / found.now
                self.assertAlmostEqual(told, ratio, delta=2e-3, msg=f"{name} at {at}")

    def test_the_best_place_is_the_best(self) -> None:
        for made, name in self.models():
            found = where_next(made, name, between=(0.0, 10.0))
            self.assertLessEqual(
                np.interp(found.best, found.x, found.standard_error), found.standard_error.min() * (1 + 1e-6)
            )
        self.assertEqual(where_next(line(), "slope", between=(0.0, 10.0)).best, 10.0)

    def test_how_many_readings(self) -> None:
        made = line()
        found = where_next(made, at=4.0, between=(0.0, 8.0))
        needed = found.readings_needed(0.5)
        assert needed is not None
        place = np.full(needed, found.best)
        more = fit(Readings(np.append(X, place), np.append(made.readings.y, made.evaluate(place))), Line())
        ratio = np.sqrt(more.curve.unit_variance(4.0) / made.curve.unit_variance(4.0))
        self.assertLessEqual(float(ratio), 0.5 + 1e-9)
        fewer = np.full(needed - 1, found.best)
        less = fit(Readings(np.append(X, fewer), np.append(made.readings.y, made.evaluate(fewer))), Line())
        self.assertGreater(float(np.sqrt(less.curve.unit_variance(4.0) / made.curve.unit_variance(4.0))), 0.5)

    def test_where_one_place_is_not_enough_there_is_a_plan(self) -> None:
        found = where_next(line(), "slope", between=(0.0, 10.0))
        self.assertIsNone(found.readings_needed(0.1))
        plan = found.plan(0.1)
        assert plan is not None
        self.assertEqual({round(at, 6) for at in plan}, {0.0, 10.0})
        with self.assertRaises(OutsideSense):
            found.readings_needed(1.5)

    def test_what_is_refused(self) -> None:
        for wrong in ({"what": ""}, {"what": "slope*q"}, {"what": "slope", "between": (3.0, 3.0)}):
            with self.assertRaises(OutsideSense):
                where_next(line(), **wrong)
        with self.assertRaises(OutsideSense):
            where_next(fit(Readings([1, 2], [3, 5]), Line()), "slope")


class Nonlinear(TestCase):
    """Limits of curved formulas against the distribution of the sources, by SciPy or by hand."""

    def found(self, formula: str, **known: tuple[float, float]) -> Follows:
        line = fit(Readings([1, 2, 3, 4], [1.1, 1.9, 3.2, 3.9]), Line())
        return follow(formula, line, known=known)

    def test_quantiles_of_monotone_functions(self) -> None:
        """A rising or falling function takes quantiles to quantiles (a fact of statistics)."""
        z = float(norm.ppf(0.975))
        for formula, known, ends in (
            ("3/d", {"d": (0.5, 0.1)}, (3 / (0.5 + 0.1 * z), 3 / (0.5 - 0.1 * z))),
            ("exp(3*b)", {"b": (1.0, 0.3)}, (np.exp(3 - 0.9 * z), np.exp(3 + 0.9 * z))),
            ("(c - 1)^(-1)", {"c": (1.5, 0.1)}, (1 / (0.5 + 0.1 * z), 1 / (0.5 - 0.1 * z))),
            ("1/(c - 1)", {"c": (1.5, 0.1)}, (1 / (0.5 + 0.1 * z), 1 / (0.5 - 0.1 * z))),
            ("z^3", {"z": (0.0, 0.1)}, (-((0.1 * z) ** 3), (0.1 * z) ** 3)),
        ):
            low, high = self.found(formula, **known).interval()
            self.assertAlmostEqual(low / ends[0], 1, delta=0.06, msg=formula)
            self.assertAlmostEqual(high / ends[1], 1, delta=0.06, msg=formula)

    def test_a_pole_within_reach_leaves_no_bound_in_any_form(self) -> None:
        for formula in ("1/(c - 1)", "(c - 1)^(-1)", "(c - 1)^-2"):
            self.assertEqual(self.found(formula, c=(1.2, 0.2)).interval(), (-np.inf, np.inf), formula)

    def test_no_uncertainty_of_exactly_zero_at_a_turning_point(self) -> None:
        for formula, known, size in (
            ("z^3", (0.0, 0.1), np.sqrt(15) * 0.1**3), ("abs(z)", (0.0, 0.1), 0.1 * np.sqrt(1 - 2 / np.pi)),
            ("z^2/2", (0.0, 0.1), 0.1**2 / np.sqrt(2)),
        ):  # fmt: skip  # moments of a normal variable
            found = self.found(formula, z=known)
            self.assertAlmostEqual((found.standard_error or 0) / size, 1, delta=0.05, msg=formula)
        crest = self.found("sin(z)", z=(np.pi / 2, 0.1))
        self.assertGreater(crest.standard_error or 0, 0.005)
        self.assertEqual(self.found("z - z", z=(1.0, 0.1)).standard_error, 0.0)

    def test_verdict_and_interval_agree(self) -> None:
        found = self.found("3/d", d=(0.5, 0.2))
        low, high = found.interval()
        for accepted in (15.0, low * 1.05, high * 0.95):
            self.assertGreater(agree(found, accepted).p or 0, 0.05, accepted)
        for accepted in (low * 0.9, high * 1.15):
            self.assertLess(agree(found, accepted).p or 1, 0.05, accepted)

    def test_parameters_of_few_readings_have_the_tails_of_t(self) -> None:
        line = fit(Readings([1, 2, 3, 4], [1.1, 1.9, 3.2, 3.9]), Line())
        slope = line.parameters["slope"]
        low, high = follow("exp(3*slope)", line).interval()
        ends = [np.exp(3 * end) for end in slope.interval(0.95)]  # Student's t with two degrees of freedom
        self.assertAlmostEqual(np.log(low) / np.log(ends[0]), 1, delta=0.05)
        self.assertAlmostEqual(np.log(high) / np.log(ends[1]), 1, delta=0.05)
