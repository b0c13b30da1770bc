"""Uncertainty carried through formulas: the worked examples of JCGM 100 (numbers from memory), the package ``uncertainties`` on random
formulas, and simulation."""

from __future__ import annotations

from math import pi
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from uncertainties import correlated_values, ufloat
from uncertainties import umath as um

from ridge.core.carrying import CONSTANTS, expanded, in_quadrature, propagate, rectangular
from ridge.core.carrying.unit_algebra import factor_between, plain_if_it_is, simplified
from ridge.core.errors import LengthsDiffer, OutsideSense, UnitsDiffer
from tests.examples import examples

quick = examples(80)
value = st.floats(0.5, 5.0).map(lambda one: round(one, 3))
error = st.floats(0.0005, 0.05).map(lambda one: round(one, 4))


class Guide(TestCase):
    def test_end_gauge(self) -> None:
        """JCGM 100, H.1: length 50.000838 mm, combined standard uncertainty 32 nm; with the terms of second order 34 nm."""
        sources = {
            "ls": (50.000623e6, 25.0), "d": (215.0, 9.7), "da": (0.0, 0.58e-6), "theta": (-0.1, 0.41),
            "as": (11.5e-6, 1.2e-6), "dt": (0.0, 0.029),
        }  # fmt: skip
        found = propagate("ls + d - ls*(da*theta + as*dt)", sources, units={})
        self.assertAlmostEqual(float(found.value), 50.000838e6, delta=0.6)
        self.assertAlmostEqual(float(found.standard_error), 32.0, delta=0.5)
        self.assertAlmostEqual(sum(float(share) for share in found.budget.values()), 1.0, delta=1e-12)
        self.assertAlmostEqual(float(found.budget["ls"]), (25 / 31.71) ** 2, delta=0.01)

    def test_simultaneous_resistance_and_reactance(self) -> None:
        """H.2: correlated means of V, I and φ give R = 127.732(71) Ω, X = 219.847(295) Ω, Z = 254.260(236) Ω."""
        sources = {"V": (4.9990, 0.0032), "I": (19.661e-3, 0.0095e-3), "phi": (1.04446, 0.00075)}
        r = {("V", "I"): -0.36, ("V", "phi"): 0.86, ("I", "phi"): -0.65}
        for formula, result, uncertainty in (
            ("V/I*cos(phi)", 127.732, 0.071), ("V/I*sin(phi)", 219.847, 0.295), ("V/I", 254.260, 0.236)
        ):  # fmt: skip
            found = propagate(formula, sources, correlations=r)
            self.assertAlmostEqual(float(found.value), result, delta=2e-3, msg=formula)
            self.assertAlmostEqual(float(found.standard_error), uncertainty, delta=2e-3, msg=formula)

    def test_kinds_of_limits(self) -> None:
        """4.3.7 and 4.3.3: a rectangular half-width over √3; an expanded uncertainty over its factor; parts in quadrature."""
        self.assertAlmostEqual(rectangular(0.5), 0.288675, delta=1e-6)
        self.assertEqual(expanded(0.24, 2), 0.12)
        self.assertAlmostEqual(in_quadrature(0.5, 0.2), 0.538516, delta=1e-6)

    def test_constants(self) -> None:
        """CODATA, from SciPy: what is exact since 2019 has no uncertainty; G has one."""
        self.assertEqual(CONSTANTS["c_light"].value, 299792458.0)
        for exact in ("c_light", "h_planck", "e_charge", "k_boltzmann", "N_avogadro", "R_gas"):
            self.assertEqual(CONSTANTS[exact].standard_error, 0.0, exact)
        self.assertGreater(CONSTANTS["G_newton"].standard_error, 0)


class BesideAnotherPackage(TestCase):
    @quick
    @given(value, value, value, error, error, error)
    def test_shared_sources(self, a: float, b: float, c: float, ua: float, ub: float, uc: float) -> None:
        x, y, z = ufloat(a, ua), ufloat(b, ub), ufloat(c, uc)
        sources = {"a": (a, ua), "b": (b, ub), "c": (c, uc)}
        for formula, theirs in (
            ("a*b + a/c - a", x * y + x / z - x),
            ("sqrt(a^2 + b^2)*exp(-c)", um.sqrt(x**2 + y**2) * um.exp(-z)),
            ("ln(a*b)/c + sin(a)", um.log(x * y) / z + um.sin(x)),
            ("a^b - c^2/a", x**y - z**2 / x),
        ):
            mine = propagate(formula, sources, simulate=False)
            self.assertAlmostEqual(
                float(mine.value), theirs.nominal_value, delta=1e-10 * max(1, abs(theirs.nominal_value))
            )
            self.assertAlmostEqual(float(mine.standard_error), theirs.std_dev, delta=1e-9 * max(1e-3, theirs.std_dev))

    @quick
    @given(value, value, error.filter(bool), error.filter(bool), st.floats(-0.95, 0.95))
    def test_correlated_sources(self, a: float, b: float, ua: float, ub: float, r: float) -> None:
        covariance = [[ua * ua, r * ua * ub], [r * ua * ub, ub * ub]]
        x, y = correlated_values([a, b], covariance)
        mine = propagate("a*b^2/(a + b)", {"a": (a, ua), "b": (b, ub)}, correlations={("a", "b"): r}, simulate=False)
        theirs = x * y**2 / (x + y)
        self.assertAlmostEqual(float(mine.standard_error), theirs.std_dev, delta=1e-7 * max(1e-3, theirs.std_dev))
        self.assertAlmostEqual(sum(float(one) for one in mine.budget.values()), 1.0, delta=1e-9)

    def test_a_source_counts_once(self) -> None:
        found = propagate("x - x + 2*x - x", {"x": (3.0, 0.5)})
        self.assertEqual((float(found.value), float(found.standard_error)), (3.0, 0.5))
        self.assertEqual(float(propagate("x - x", {"x": (3.0, 0.5)}).standard_error), 0.0)


class Curved(TestCase):
    def test_where_first_order_is_a_poor_rule_a_simulation_stands_beside_it(self) -> None:
        found = propagate("x^2", {"x": (np.array([0.0, 0.1, 10.0]), 0.1)})
        self.assertEqual(found.curved.tolist(), [True, True, False])
        self.assertTrue(np.isnan(found.simulated[2]))
        # Of the square of a normal variable about zero: √2·σ² (from its kurtosis, a fact of statistics).
        self.assertAlmostEqual(float(found.simulated[0]), 2**0.5 * 0.01, delta=3e-4)
        self.assertEqual(float(found.standard_error[0]), 0.0)

    def test_the_same_every_time(self) -> None:
        one, other = (propagate("exp(x)", {"x": (0.0, 0.8)}) for _ in range(2))
        self.assertTrue(one.curved)
        self.assertEqual(float(one.simulated), float(other.simulated))

    def test_limits_cover_as_often_as_they_say(self) -> None:
        """Simulated: of 4 000 readings of h and t, the true √h/t lies within ± one standard uncertainty in 68 %."""
        draw = np.random.default_rng(5)
        h, t = 2.0 + 0.02 * draw.standard_normal(4000), 3.0 + 0.05 * draw.standard_normal(4000)
        found = propagate("sqrt(h)/t", {"h": (h, 0.02), "t": (t, 0.05)})
        inside = np.abs(found.value - 2.0**0.5 / 3.0) <= found.standard_error
        self.assertAlmostEqual(float(inside.mean()), 0.683, delta=0.03)


class Units(TestCase):
    def test_worked_out(self) -> None:
        one = (1.0, 0.1)
        for formula, units, wanted in (
            ("a/b", {"a": "mV", "b": "g/kg"}, "mV"),
            ("4*pi^2*a/b^2", {"a": "m", "b": "s"}, "m/s²"),
            ("sqrt(a)/b", {"a": "cm", "b": "s"}, "√cm/s"),
            ("a + b", {"a": "mm", "b": "mm"}, "mm"),
            ("2*a - 1", {"a": "m"}, "m"),
            ("a*b", {"a": "°C", "b": "1/min"}, "K/min"),
            ("exp(-a/b)", {"a": "s", "b": "s"}, ""),
        ):
            names = dict.fromkeys(units, one)
            self.assertEqual(propagate(formula, names, units=units).unit, wanted, formula)

    def test_refused_with_the_place(self) -> None:
        sources = {"a": (2.0, 0.1), "b": (3.0, 0.1)}
        for formula, units, why in (
            ("2*b*(a + b)", {"a": "m", "b": "s"}, r"^a \+ b: m and s cannot be added"),
            ("b + sin(a)", {"a": "m"}, r"^sin\(a\): its argument is in m"),
            ("ln(a)", {"a": "kg"}, r"^ln\(a\): its argument is in kg"),
            ("2^a", {"a": "s"}, "the exponent is in s"),
            ("a^b", {"a": "s"}, "cannot be raised to a power that is no plain number"),
            ("273.15 + a", {"a": "°C"}, "^a is converted to kelvin automatically: write a"),
        ):
            with self.assertRaisesRegex(UnitsDiffer, why):
                propagate(formula, sources, units=units)

    def test_converted_before_they_are_combined(self) -> None:
        """Each by hand; molar volume and constants as CODATA has them."""
        exact = {name: (one.value, one.standard_error) for name, one in CONSTANTS.items()}
        of = {name: one.unit for name, one in CONSTANTS.items()}
        for formula, values, units, wanted, unit in (
            ("k_boltzmann*T", {"T": 20.0}, {"T": "°C"}, 1.380649e-23 * 293.15, "J"),
            ("k_boltzmann*T", {"T": 68.0}, {"T": "°F"}, 1.380649e-23 * 293.15, "J"),
            ("sin(w)", {"w": 30.0}, {"w": "°"}, 0.5, ""),
            ("cos(w)", {"w": 1.0471975511965976}, {"w": "rad"}, 0.5, ""),
            ("ln(a/b)", {"a": 200.0, "b": 1.0}, {"a": "cm", "b": "m"}, 0.6931471805599453, ""),
            ("1 - p", {"p": 20.0}, {"p": "%"}, 0.8, ""),
            (
                "n*R_gas*T/p",
                {"n": 1.0, "T": 0.0, "p": 101.325},
                {"n": "mol", "T": "°C", "p": "kPa"},
                0.0224139695,
                "m³",
            ),
            ("1/sqrt(epsilon_0*mu_0)", {}, {}, 299792458.0, "m/s"),
            ("a + b", {"a": 1.0, "b": 2.0}, {"a": "m", "b": "cm"}, 1.02, "m"),
            ("a - b", {"a": 20.0, "b": 15.0}, {"a": "°C", "b": "°C"}, 5.0, "K"),
            ("a/b", {"a": 313.15, "b": 40.0}, {"a": "K", "b": "°C"}, 1.0, ""),
            ("2*a", {"a": 68.0}, {"a": "°F"}, 586.3, "K"),
            ("max(a, b)", {"a": 1.0, "b": 150.0}, {"a": "m", "b": "cm"}, 1.5, "m"),
            ("if(a > b, 1, 2)", {"a": 1.0, "b": 90.0}, {"a": "m", "b": "cm"}, 1.0, ""),
            ("a - 1", {"a": 3.0}, {"a": "m"}, 2.0, "m"),
            ("2^p", {"p": 50.0}, {"p": "%"}, 2**0.5, ""),
        ):
            names = {name: (value, 0.0) for name, value in values.items()}
            used = {name: one for name, one in exact.items() if name in formula}
            found = propagate(formula, {**names, **used}, units={**units, **{name: of[name] for name in used}})
            self.assertAlmostEqual(float(found.value) / wanted, 1, 8, formula)
            self.assertEqual((found.unit, found.unit_remark), (unit, ""), formula)

    def test_an_uncertainty_is_a_difference(self) -> None:
        found = propagate(
            "k_boltzmann*T",
            {"k_boltzmann": (1.380649e-23, 0.0), "T": (20.0, 0.5)},
            units={"k_boltzmann": "J/K", "T": "°C"},
        )
        self.assertAlmostEqual(float(found.standard_error) / (0.5 * 1.380649e-23), 1, 9)
        fahrenheit = propagate("2*T", {"T": (68.0, 0.9)}, units={"T": "°F"})
        self.assertAlmostEqual(float(fahrenheit.standard_error), 2 * 0.5, 9)

    def test_every_unit_of_the_catalogue_against_hand_checked_values(self) -> None:
        """In coherent SI (SI Brochure, 9th ed., tables 2 to 8; inch, pound, atmosphere and calorie from NIST SP 811, appendix B)."""
        for unit, base, factor in (
            ("mm", "m", 1e-3), ("km", "m", 1e3), ("µm", "m", 1e-6), ("nm", "m", 1e-9), ("Å", "m", 1e-10), ("inch", "m", 0.0254),
            ("min", "s", 60.0), ("h", "s", 3600.0), ("d", "s", 86400.0), ("ms", "s", 1e-3), ("g", "kg", 1e-3), ("mg", "kg", 1e-6),
            ("L", "m³", 1e-3), ("mL", "m³", 1e-6), ("km/h", "m/s", 1 / 3.6), ("rpm", "rad/s", 0.10471975511965977), ("bar", "Pa", 1e5),
            ("atm", "Pa", 101325.0), ("hPa", "Pa", 100.0), ("eV", "J", 1.602176634e-19), ("kWh", "J", 3.6e6), ("cal", "J", 4.184),
            ("mV", "V", 1e-3), ("µA", "A", 1e-6), ("kΩ", "Ω", 1e3), ("pF", "F", 1e-12), ("mT", "T", 1e-3), ("°", "rad", 0.017453292519943295),
            ("%", "1", 0.01), ("‰", "1", 0.001), ("g/kg", "1", 1e-3), ("mol/L", "mol/m³", 1e3), ("µS/cm", "S/m", 1e-4), ("kHz", "Hz", 1e3),
            ("m·s⁻²", "m/s²", 1.0), ("N·m", "J", 1.0), ("lb", "kg", 0.45359237), ("u", "kg", 1.66053906892e-27),
        ):  # fmt: skip
            found = factor_between(unit, "" if base == "1" else base)
            assert found is not None, unit
            self.assertAlmostEqual(found / factor, 1, 8, unit)

    def test_what_is_no_unit_is_not_converted(self) -> None:
        sources = {"a": (2.0, 0.1), "b": (3.0, 0.1)}
        for formula, units, remark in (
            ("a*b", {"a": "flurbs", "b": "s"}, "'flurbs' is not a unit"),
            ("a*b", {"a": "√(cm", "b": "s"}, "'√(cm' is not a unit"),
        ):
            found = propagate(formula, sources, units=units)
            self.assertIn(remark, found.unit_remark, formula)
            self.assertTrue(np.isfinite(found.value))

    def test_roots_of_units(self) -> None:
        """Of the speed of a jet from a height: √h in √cm, and back."""
        found = propagate("sqrt(h)/t", {"h": (4.0, 0.1), "t": (2.0, 0.1)}, units={"h": "cm", "t": "s"})
        self.assertEqual(found.unit, "√cm/s")
        self.assertEqual(propagate("r^2", {"r": (2.0, 0.1)}, units={"r": "√cm"}).unit, "cm")
        self.assertEqual(propagate("2*pi/w", {"w": (2.0, 0.1)}, units={"w": "rad/h"}).unit, "h")
        self.assertEqual(propagate("2*w", {"w": (2.0, 0.1)}, units={"w": "rad/h"}).unit, "rad/h")

    def test_simplified_and_converted(self) -> None:
        for unit, simple, factor in (
            ("N/(kg·m/s²)", "", 1.0), ("m·N/mm", "N", 1000.0), ("cm·min/s", "cm", 60.0), ("g/kg", "", 0.001), ("m²·s/(cm·min)", "cm", 1000 / 6),
            ("cm/s²", "cm/s²", 1.0), ("mm/N", "mm/N", 1.0), ("rad/s", "rad/s", 1.0), ("√cm/s", "√cm/s", 1.0), ("kg·m/s²", "kg·m/s²", 1.0),
        ):  # fmt: skip
            with self.subTest(unit):
                self.assertEqual(simplified(unit), simple)
                self.assertAlmostEqual(factor_between(unit, simple) or 0, factor, delta=1e-9 * factor)
        self.assertEqual(simplified("flurbs"), "flurbs")
        # What is proposed stays as students write it: only what is a plain 1 goes.
        for unit, proposed in (
            ("mV/(g/kg)", "mV/(g/kg)"),
            ("N/(kg·m/s²)", ""),
            ("g/kg", "g/kg"),
            ("rad", "rad"),
            ("flurbs", "flurbs"),
        ):
            self.assertEqual(plain_if_it_is(unit), proposed)
        self.assertEqual(factor_between("cm", "m"), 0.01)
        self.assertAlmostEqual(factor_between("rad/s", "rpm") or 0, 30 / pi, delta=1e-12)
        self.assertIsNone(factor_between("cm", "s"))
        self.assertIsNone(factor_between("cm", "flurbs"))


class BadInput(TestCase):
    def test_what_is_said(self) -> None:
        with self.assertRaises(OutsideSense):
            propagate("a*b", {"a": (1.0, 0.1)})
        with self.assertRaises(OutsideSense):
            propagate("a", {"a": (1.0, -0.1)})
        with self.assertRaises(LengthsDiffer):
            propagate("a*b", {"a": ([1.0, 2.0], 0.1), "b": ([1.0, 2.0, 3.0], 0.1)})
        with self.assertRaises(OutsideSense):
            propagate("a*b", {"a": (1.0, 0.1), "b": (1.0, 0.1)}, correlations={("a", "b"): 1.5})

    def test_rows_fail_alone(self) -> None:
        found = propagate("1/a + ln(b)", {"a": ([0.0, 1.0, 2.0], 0.1), "b": ([1.0, -1.0, 2.0], [0.0, 0.1, 3.0])})
        self.assertFalse(np.isfinite(found.value[0]))
        self.assertTrue(np.isnan(found.value[1]))
        self.assertTrue(np.isfinite(found.value[2]) and found.curved[2])

    def test_very_large_and_small(self) -> None:
        for size in (1e-30, 1e30):
            found = propagate("a*b", {"a": (2 * size, 0.1 * size), "b": (3.0, 0.0)}, units={"a": "m"})
            self.assertAlmostEqual(float(found.standard_error) / size, 0.3, delta=1e-12)
            self.assertFalse(found.curved)
