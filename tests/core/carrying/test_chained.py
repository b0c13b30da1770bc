"""Uncertainty carried from formula to formula: the package ``uncertainties``, and simulation."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from uncertainties import correlated_values, ufloat, umath

from ridge.core.carrying import carry, simulated
from ridge.core.errors import UnitsDiffer
from ridge.core.formula import parse
from tests.examples import examples


def trees(**formulas: str):  # type: ignore[no-untyped-def]
    return {name: parse(text).tree for name, text in formulas.items()}


size = st.floats(0.5, 5).map(lambda one: round(one, 3))
error = st.floats(0.001, 0.3).map(lambda one: round(one, 3))


class Steps(TestCase):
    @examples(60)
    @given(st.tuples(size, size, size), st.tuples(error, error, error))
    def test_shared_sources_count_once(self, values: tuple[float, ...], errors: tuple[float, ...]) -> None:
        """Three steps, of which the last uses the first in two ways; the package ``uncertainties`` keeps track in its own way."""
        a, b, c = (ufloat(value, one) for value, one in zip(values, errors, strict=True))
        s = a * b
        t = umath.sqrt(s) + c
        z = t / s - a
        sources = dict(zip("abc", zip(values, errors, strict=True), strict=True))
        found = carry(trees(s="a*b", t="sqrt(s) + c", z="t/s - a"), sources, 1)
        for name, expected in (("s", s), ("t", t), ("z", z)):
            self.assertAlmostEqual(float(found[name].value[0]), expected.n, delta=1e-12 * max(1, abs(expected.n)))
            self.assertAlmostEqual(float(found[name].standard_error[0]), expected.s, delta=1e-9 * max(1, expected.s))

    def test_correlated_sources(self) -> None:
        covariance = [[0.04, 0.018], [0.018, 0.09]]
        a, b = correlated_values([2.0, 3.0], covariance)
        expected = a * b / (a + b)
        found = carry(
            trees(p="a*b", q="p/(a + b)"), {"a": (2.0, 0.2), "b": (3.0, 0.3)}, 2, correlations={("a", "b"): 0.3}
        )
        np.testing.assert_allclose(found["q"].standard_error, [expected.s, expected.s], rtol=1e-12)

    def test_a_difference_from_itself_is_exact(self) -> None:
        found = carry(trees(s="a + b", d="s - a - b"), {"a": (1e30, 1e29), "b": (1e-30, 1e-31)}, 3)
        self.assertEqual(list(found["d"].standard_error), [0, 0, 0])

    def test_ten_columns_that_each_use_the_last_twice(self) -> None:
        """2¹⁰ ways lead from the source to the last step; each derivative is taken once."""
        steps = {"c0": "a + a"} | {f"c{i}": f"c{i - 1} + c{i - 1}" for i in range(1, 60)}
        found = carry(trees(**steps), {"a": (1.0, 0.5)}, 1)
        self.assertEqual(float(found["c59"].standard_error[0]), 0.5 * 2.0**60)

    def test_where_the_formula_is_infinitely_steep(self) -> None:
        found = carry(trees(r="sqrt(a)"), {"a": (np.array([0.0, 4.0, 0.0, 1.0]), np.array([0.1, 0.2, 0.0, np.nan]))}, 4)
        self.assertFalse(np.isfinite(found["r"].standard_error[0]))
        self.assertAlmostEqual(float(found["r"].standard_error[1]), 0.05)
        self.assertEqual(float(found["r"].standard_error[2]), 0.0)
        self.assertTrue(np.isnan(found["r"].standard_error[3]))

    def test_units_go_along(self) -> None:
        found = carry(
            trees(v="s/t", k="m*v^2", w="s + l"), {"l": (5.0, 0.1), "s": (1.0, 0.1), "t": (2.0, 0.1), "m": (3.0, 0.1)}, 1,
            units={"s": "m", "t": "s", "m": "kg", "l": "cm"},
        )  # fmt: skip
        self.assertEqual((found["v"].unit, found["k"].unit), ("m/s", "kg·m²/s²"))
        self.assertEqual((found["w"].unit, found["w"].unit_remark), ("m", ""))
        self.assertAlmostEqual(float(found["w"].value[0]), 1.05)
        with self.assertRaisesRegex(UnitsDiffer, "s \\+ t: m and s cannot be added"):
            carry(trees(w="s + t"), {"s": (1.0, 0.1), "t": (2.0, 0.1)}, 1, units={"s": "m", "t": "s"})
        wanted = carry(trees(v="s/t"), {"s": (1.0, 0.1), "t": (2.0, 0.1)}, 1, units={"s": "m", "t": "s", "v": "km/h"})
        self.assertAlmostEqual(float(wanted["v"].value[0]), 1.8)

    def test_a_simulation_agrees_where_it_is_nearly_straight_and_not_where_it_is_curved(self) -> None:
        steps, sources = trees(u="a*b", v="u^2"), {"a": (2.0, 0.01), "b": (3.0, 0.02)}
        first = float(carry(steps, sources, 1)["v"].standard_error[0])
        self.assertAlmostEqual(float(simulated(steps, sources, "v", [0])[0]) / first, 1, delta=0.02)
        curved = trees(w="(a - 2)^2")
        self.assertEqual(float(carry(curved, sources, 1)["w"].standard_error[0]), 0)
        # The square of a normal deviate has the variance 2σ⁴.
        self.assertAlmostEqual(float(simulated(curved, sources, "w", [0])[0]), 2**0.5 * 1e-4, delta=5e-6)
