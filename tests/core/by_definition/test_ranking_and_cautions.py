"""The order of models and the list of cautions, by their definitions."""

from __future__ import annotations

import unittest

import numpy as np
import numpy.typing as npt
import statsmodels.api as sm
from scipy import stats

from ridge.core.fitting import fit
from ridge.core.judging.beside_constant import chance_beside_constant
from ridge.core.judging.cautions import findings_of
from ridge.core.judging.patterns import pattern_of
from ridge.core.judging.ranking import bends, order_models
from ridge.core.judging.significance import ALARM, SIGNIFICANT
from ridge.core.models import Constant, Exponential, Formula, Line, Model, Polynomial, Sinusoid
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit

Floats = npt.NDArray[np.float64]


class Ranking(unittest.TestCase):
    def test_weights_and_order_follow_aicc(self) -> None:
        random = np.random.default_rng(21)
        x = np.linspace(0, 10, 30)
        y = 3 + 2 * x - 0.15 * x**2 + random.normal(0, 0.4, 30)
        models: list[Model] = [Constant(), Line(), Polynomial(2), Polynomial(3), Polynomial(6)]
        fitted = [(model, fit(Readings(x, y), model), "") for model in models]
        ranked = order_models(fitted)
        aicc = {id(model): float(one.statistics.aicc or 0) for model, one, _ in fitted}
        # Those not significantly better than a constant (at 0.05 over the four other models), and the constant, have no weight.
        weak = {id(one): (chance_beside_constant(one) or 0) > 0.05 / 4 for _, one, _ in fitted}
        active = [aicc[id(model)] for model, one, _ in fitted if not weak[id(one)] and not model.flat]
        best = min(active)
        total = sum(np.exp(-(value - best) / 2) for value in active)
        for one in ranked:
            assert one.difference is not None and one.fit is not None
            self.assertAlmostEqual(one.difference, aicc[id(one.model)] - best, 9)
            idle = weak[id(one.fit)] or one.model.flat
            self.assertEqual(one.surpassed, one.model.flat)
            self.assertAlmostEqual(one.weight, 0 if idle else float(np.exp(-one.difference / 2) / total), 9)
            self.assertEqual(one.close, one.difference <= 2 and not idle)
            self.assertEqual(one.parameters, one.fit.model.parameter_names.__len__())
        self.assertEqual(ranked[0].model.parameter_names, Polynomial(2).parameter_names)
        close = [one for one in ranked if one.close]
        self.assertEqual([one.parameters for one in close], sorted(one.parameters for one in close))
        rest = [one.difference or 0 for one in ranked if not one.close and not one.model.flat]
        self.assertEqual(rest, sorted(rest))

    def test_bends_are_those_of_the_law(self) -> None:
        random = np.random.default_rng(22)
        x = np.linspace(-1, 1, 60)
        laws = (2 * x, x**2, x**3 - x / 2, np.polynomial.chebyshev.chebval(x, [0, 0, 0, 0, 1]))
        for wanted, law in enumerate(laws):
            found = [bends(Readings(x, law + random.normal(0, 0.02, 60))) for _ in range(20)]
            self.assertGreaterEqual(min(found), wanted)
            self.assertGreaterEqual(found.count(wanted), 17)  # in one of twenty another power helps by chance
        # Three readings are no evidence of any.
        self.assertEqual(bends(Readings(x[:3], np.array([0.0, 1, 0]))), 0)

    def test_bends_of_exact_laws_and_of_the_seventh_degree(self) -> None:
        x = np.arange(-4.0, 5)
        self.assertEqual(bends(Readings(x, x**2)), 1)
        self.assertEqual(bends(Readings(x, x**3 - 4 * x)), 2)
        x = np.linspace(-1, 1, 60)
        law = np.polynomial.chebyshev.chebval(x, [0, 0, 0, 0, 0, 0, 0, 1])
        # Only polynomials up to the sixth are tried: what the seventh would add is not seen.
        self.assertLess(bends(Readings(x, law + np.random.default_rng(23).normal(0, 0.01, 60))), 6)


class CautionsFound(unittest.TestCase):
    """What is found and with which numbers, each where it just begins."""

    def facts(self, found: Fit, code: str) -> dict[str, float] | None:
        return next((dict(one.facts) for one in findings_of(found) if one.code == code), None)

    def rows(self, found: Fit, code: str) -> tuple[int, ...] | None:
        return next((one.rows for one in findings_of(found) if one.code == code), None)

    def scattered(self, n: int, seed: int = 30) -> tuple[Floats, Floats]:
        x = np.linspace(0, 10, n)
        return x, 2 + 3 * x + np.random.default_rng(seed).normal(0, 1, n)

    def test_few_readings_are_less_than_two_a_parameter(self) -> None:
        for n, few in ((3, True), (4, False)):
            x, y = self.scattered(n)
            found = self.facts(fit(Readings(x, y), Line()), "few-readings")
            self.assertEqual(found, {"n": n, "parameters": 2} if few else None)
        x, y = self.scattered(2)
        as_many = self.facts(fit(Readings(x, y), Line()), "as-many-parameters-as-readings")
        self.assertEqual(as_many, {"n": 2, "parameters": 2, "through": 1.0})
        self.assertEqual(self.facts(fit(Readings(x, np.array([4.0, 4.0])), Line()), "y-all-equal"), {})

    def test_given_errors_that_do_not_match(self) -> None:
        x, y = self.scattered(12)
        for error in (0.3, 1.0, 4.0):
            found = fit(Readings(x, y, y_error=np.full(12, error), absolute_errors=True), Line())
            chi = float(np.sum((found.residuals / error) ** 2))
            p = 2 * min(stats.chi2.cdf(chi, 10), stats.chi2.sf(chi, 10))
            facts = self.facts(found, "errors-do-not-match")
            self.assertEqual(facts is not None, p < ALARM)
            if facts:
                self.assertAlmostEqual(facts["reduced"], chi / 10, 9)
                self.assertAlmostEqual(facts["p"], p, 12)

    def test_what_a_pattern_tells(self) -> None:
        x = np.linspace(0, 10, 18)
        for y, bend, many in (
            (0.2 * x**2, 1.0, 0.0),
            (-0.2 * x**2, -1.0, 0.0),
            (x + np.where(np.arange(18) % 2, 1, -1), None, 1.0),
        ):
            found = fit(Readings(x, y + np.random.default_rng(31).normal(0, 0.1, 18)), Line())
            facts, pattern = self.facts(found, "patterned-residuals"), pattern_of(found)
            assert facts is not None
            self.assertEqual(facts["many"], many)
            if bend:
                self.assertEqual(facts["bend"], bend)
            self.assertEqual(
                (facts["bend_p"], facts["order_p"]),
                (pattern.bend_p, pattern.order_p),
            )

    def test_a_line_that_says_nothing_and_a_term_too_many(self) -> None:
        x = np.linspace(0, 10, 15)
        noise = np.random.default_rng(32).normal(0, 1, 15)
        level = fit(Readings(x, 5 + noise), Line())
        facts = self.facts(level, "slope-not-significant")
        assert facts is not None
        self.assertAlmostEqual(facts["p"], stats.linregress(x, 5 + noise).pvalue, 9)
        self.assertEqual((facts["searched"], facts["patterned"]), (0.0, 0.0))
        through = fit(Readings(x, 5 + noise), Line(), fixed={"intercept": 0})
        self.assertIsNone(self.facts(through, "slope-not-significant"))
        for degree, law in ((2, 4 * x), (3, 4 * x - x**2)):
            found = fit(Readings(x, law + noise), Polynomial(degree))
            design = sm.OLS(law + noise, np.vander(x, degree + 1)).fit()
            facts = self.facts(found, "highest-term-not-needed")
            self.assertEqual(facts is not None, design.pvalues[0] > SIGNIFICANT)
            if facts:
                self.assertEqual(facts["degree"], degree)
                self.assertAlmostEqual(facts["p"], design.pvalues[0], 9)

    def test_cycles(self) -> None:
        random = np.random.default_rng(33)
        x = np.linspace(2, 12, 30)
        short = fit(Readings(x, 3 * np.sin(0.4 * x) + random.normal(0, 0.02, 30)), Sinusoid())
        facts = self.facts(short, "less-than-a-cycle")
        assert facts is not None
        cycles = 10 * abs(short.values["angular_frequency"]) / 2 / np.pi
        self.assertAlmostEqual(facts["cycles"], cycles, 9)
        self.assertAlmostEqual(facts["until"], 2 + 10 / cycles, 9)
        fast = fit(
            Readings(x, 3 * np.sin(0.4 * x)), Formula("a*sin(w*x)"), start={"a": 3, "w": 0.4 + 2 * np.pi * 29 / 10}
        )
        found = self.facts(fast, "fewer-than-two-readings-a-cycle")
        if found is not None:
            turns = 10 * abs(fast.values["w"]) / 2 / np.pi
            self.assertAlmostEqual(found["cycles"], turns, 6)
            self.assertAlmostEqual(found["apart"], 10 / turns / 4, 6)

    def test_a_pole_with_the_side_that_has_most_readings(self) -> None:
        x = np.array([0.0, 0.5, 1, 3, 3.5, 4, 4.5, 5, 6])
        y = 2 / (x - 2) + np.random.default_rng(34).normal(0, 0.01, 9)
        facts = self.facts(fit(Readings(x, y), Formula("a/(x - b)"), start={"a": 2, "b": 2}), "pole-inside")
        assert facts is not None
        self.assertAlmostEqual(facts["x"], 2, 1)
        self.assertEqual(
            {name: facts[name] for name in ("number", "from", "to", "kept")},
            {"number": 1, "from": 3, "to": 6, "kept": 6},
        )

    def test_rows_that_take_no_part_or_are_supposed(self) -> None:
        x, y = self.scattered(8)
        gone = y.copy()
        gone[3] = np.nan
        included = np.ones(8, dtype=bool)
        included[5] = False
        assumed = np.zeros(8, dtype=bool)
        assumed[[1, 5]] = True
        x[3:4] = x[3]
        found = fit(Readings(x, gone, included=included, assumed=assumed), Line())
        self.assertEqual(self.rows(found, "rows-left-out"), (3,))
        self.assertEqual(self.rows(found, "assumed-readings"), (1,))
        whole = fit(Readings(*self.scattered(8)), Line())
        self.assertIsNone(self.rows(whole, "rows-left-out"))
        self.assertIsNone(self.rows(whole, "assumed-readings"))

    def test_errors_of_x_and_logarithms(self) -> None:
        x, y = self.scattered(8)
        errors = Readings(x, y, x_error=np.full(8, 0.1), y_error=np.full(8, 1.0))
        self.assertEqual(self.facts(fit(errors, Line()), "x-errors-not-used"), {})
        self.assertIsNone(self.facts(fit(errors, Line(), least_squares_in="orthogonal"), "x-errors-not-used"))
        self.assertEqual(
            self.facts(fit(Readings(x, y), Exponential(), least_squares_in="logarithms"), "in-logarithms"), {}
        )
        self.assertIsNone(self.facts(fit(Readings(x, y), Exponential()), "in-logarithms"))

    def test_two_readings_a_cycle_are_counted_between_first_and_last(self) -> None:
        # Twelve readings are eleven steps: five and a half cycles at most.
        x = np.linspace(0, 11, 12)
        for cycles, few in ((5.25, False), (5.6, True)):
            w = 2 * np.pi * cycles / 11
            y = 3 * np.sin(w * x + 0.4) + np.random.default_rng(1).normal(0, 0.05, 12)
            found = fit(Readings(x, y), Formula("a*sin(w*x + p)"), start={"a": 3, "w": w, "p": 0.4})
            self.assertEqual(self.facts(found, "fewer-than-two-readings-a-cycle") is not None, few)
