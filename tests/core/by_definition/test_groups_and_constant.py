"""Groups of readings that lie apart, and whether a constant does as well, by their definitions."""

from __future__ import annotations

import unittest

import numpy as np
import numpy.typing as npt
import statsmodels.api as sm
from scipy import stats

from ridge.core.fitting import fit
from ridge.core.judging.beside_constant import chance_beside_constant
from ridge.core.judging.groups import groups_apart
from ridge.core.judging.significance import ALARM
from ridge.core.models import Constant, Formula, Line, Polynomial, Power
from ridge.core.readings import Readings
from tests.core.by_definition.random_studies import studies

Floats = npt.NDArray[np.float64]


class GroupsOfReadings(unittest.TestCase):
    """The F-test for shifts of groups, by statsmodels with a dummy variable for each."""

    def test_as_statsmodels_has_it(self) -> None:
        random = np.random.default_rng(50)
        named = 0
        for place in range(30):
            n = int(random.integers(9, 25))
            x, which = random.uniform(0, 10, n), random.integers(0, 3, n)
            weights = random.uniform(0.5, 2, n) if place % 2 else np.ones(n)
            y = 1 + 2 * x + random.normal(0, 1, n) + (place % 3) * 0.9 * which
            found = groups_apart(fit(Readings(x, y, weight=weights), Line()), which)
            assert found is not None
            design = np.column_stack([np.ones(n), x])
            dummies = np.column_stack([design, *(which == one for one in np.unique(which)[1:])]).astype(float)
            more, before = sm.WLS(y, dummies, weights).fit(), sm.WLS(y, design, weights).fit()
            self.assertAlmostEqual(found.p, more.compare_f_test(before)[1], 9)
            named += found.p < ALARM
            for one, off in found.offsets.items():
                rest = (y - before.fittedvalues)[which == one]
                self.assertAlmostEqual(off, float(np.average(rest, weights=weights[which == one])), 9)
        self.assertTrue(5 < named < 25)

    def test_rows_of_no_group_and_one_group(self) -> None:
        x, y = np.arange(8.0), np.array([0.1, 1.2, 1.9, 3.1, 5.0, 6.1, 6.9, 8.0])
        line = fit(Readings(x, y), Line())
        self.assertIsNone(groups_apart(line, np.zeros(8, dtype=int)))
        self.assertIsNone(groups_apart(line, np.full(8, -1)))
        some = groups_apart(line, np.array([0, 0, 0, -1, -1, 1, 1, 1]))
        assert some is not None
        self.assertEqual(set(some.offsets), {0, 1})
        self.assertIsNone(groups_apart(fit(Readings(x, 2 * x), Line()), np.arange(8) % 2))

    def test_one_degree_of_freedom_is_enough(self) -> None:
        x, y = np.array([0.0, 1, 2, 3]), np.array([0.0, 1.2, 3.1, 3.9])
        found = groups_apart(fit(Readings(x, y), Line()), np.array([0, 0, 1, 1]))
        assert found is not None
        design = np.column_stack([np.ones(4), x])
        more = sm.OLS(y, np.column_stack([design, [0, 0, 1, 1]])).fit()
        self.assertAlmostEqual(found.p, more.compare_f_test(sm.OLS(y, design).fit())[1], 9)
        self.assertIsNone(groups_apart(fit(Readings(x[:3], y[:3]), Line()), np.array([0, 0, 1])))


class BesideAConstant(unittest.TestCase):
    def test_with_a_constant_among_its_cases_it_is_f(self) -> None:
        for found, _ in studies(15, 10, Line(), 1):
            result = stats.linregress(found.readings.x, found.readings.y)
            p = chance_beside_constant(found)
            assert p is not None
            self.assertAlmostEqual(p, result.pvalue, 9)

    def test_without_one_it_is_held_against_the_mean_as_well(self) -> None:
        random = np.random.default_rng(16)
        for slope in (0.02, 0.4, 2):
            x = np.linspace(1, 10, 12)
            y = 5 * x**slope + random.normal(0, 0.5, 12)
            found = fit(Readings(x, y), Power())
            r2 = 1 - np.sum(found.residuals**2) / np.sum((y - y.mean()) ** 2)
            p = chance_beside_constant(found)
            assert p is not None
            if r2 <= 0:
                self.assertEqual(p, 1)
                continue
            over_mean = stats.f.sf(r2 / (1 - r2) * 10 / 1, 1, 10)
            self.assertAlmostEqual(p, max(over_mean, found.statistics.f_p_value or 0), 9)

    def test_every_parameter_beyond_the_first_counts(self) -> None:
        random = np.random.default_rng(41)
        x = np.linspace(1, 10, 14)
        y = 5 + 0.05 * x + random.normal(0, 1.0, 14)
        found = fit(Readings(x, y), Formula("a*x + b*x^2 + c*x^3"))
        r2 = 1 - np.sum(found.residuals**2) / np.sum((y - y.mean()) ** 2)
        p = chance_beside_constant(found)
        assert p is not None
        expected = stats.f.sf(r2 / (1 - r2) * 11 / 2, 2, 11) if r2 > 0 else 1.0
        self.assertAlmostEqual(p, max(expected, found.statistics.f_p_value or 0), 9)

    def test_where_there_is_nothing_to_test(self) -> None:
        x = np.arange(1.0, 7)
        for y, model in (
            (x**2, Polynomial(2)),  # exact
            (np.full(6, 3.0), Line()),  # all equal
            (np.array([1.0, 2, 1, 2, 1, 2]), Constant()),
            (np.array([1.0, 2, 1, 2, 1, 3]), Polynomial(5)),  # no degrees of freedom
        ):
            self.assertIsNone(chance_beside_constant(fit(Readings(x, y), model)))

    def test_three_parameters_beside_the_mean(self) -> None:
        x = np.linspace(1, 10, 14)
        y = 5 + 0.4 * x + np.random.default_rng(43).normal(0, 1.0, 14)
        found = fit(Readings(x, y), Formula("a*x/(b + x) + c*x"), start={"a": 5, "b": 0.1, "c": 0.3})
        r2 = 1 - np.sum(found.residuals**2) / np.sum((y - y.mean()) ** 2)
        p = chance_beside_constant(found)
        assert p is not None
        self.assertNotEqual(found.statistics.compared_with, "constant")
        over_mean = stats.f.sf(r2 / (1 - r2) * 11 / 2, 2, 11)
        self.assertAlmostEqual(p, max(over_mean, found.statistics.f_p_value or 0), 12)
