"""Units in formulas: curves of fits, and conversions that are already in the formula."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np

from ridge.core.carrying.coherent import FitCurve, in_coherent_units
from ridge.core.errors import UnitsDiffer
from ridge.core.formula import Program, parse

LINE = FitCurve(parse("2*x + 1").tree, "x", "N", "mm")


def value(text: str, units: dict[str, str], wanted: str = "", curve: FitCurve = LINE, **values: Any):  # type: ignore[no-untyped-def]
    found = in_coherent_units(parse(text, curves=(("A", None),)).tree, units, wanted, curves={"A": curve})
    (number,) = Program([found.tree], list(values))(*(np.array(one) for one in values.values()))
    return float(number), found.unit


class CurvesOfFits(TestCase):
    def test_the_argument_is_converted_to_the_unit_of_x_and_the_value_from_that_of_y(self) -> None:
        for text, units, wanted, expected in (
            ("A(F)", {"F": "kN"}, "", (2001.0, "mm")),
            ("A(F)", {"F": "kN"}, "m", (2.001, "m")),
            ("A(F) - h", {"F": "N", "h": "cm"}, "", (-7.0, "mm")),
            ("A(2*F)", {"F": "N"}, "", (5.0, "mm")),
            ("A(3)", {}, "", (7.0, "mm")),
        ):
            with self.subTest(text, units=units, wanted=wanted):
                found, unit = value(text, units, wanted, LINE, **dict.fromkeys(units, 1.0))
                self.assertAlmostEqual(found, expected[0])
                self.assertEqual(unit, expected[1])

    def test_of_itself(self) -> None:
        curve = FitCurve(LINE.tree, "x", "cm", "mm")
        self.assertEqual(value("A(A(x))", {"x": "cm"}, curve=curve, x=10.0), (2 * 2.1 + 1, "mm"))

    def test_temperatures(self) -> None:
        """A curve over °C is asked in K and in °C; one of °C is absolute in a product."""
        over = FitCurve(LINE.tree, "x", "°C", "mm")
        self.assertAlmostEqual(value("A(T)", {"T": "K"}, curve=over, T=293.15)[0], 41)
        self.assertAlmostEqual(value("A(T)", {"T": "°C"}, curve=over, T=20)[0], 41)
        of = FitCurve(LINE.tree, "x", "s", "°C")
        self.assertAlmostEqual(value("2*A(t)", {"t": "s"}, curve=of, t=9.5)[0], 2 * (20 + 273.15))

    def test_another_kind_of_quantity_is_refused_with_its_place(self) -> None:
        with self.assertRaisesRegex(UnitsDiffer, r"A\(m\): the argument is in kg, but x of the fit is in N"):
            value("A(m)", {"m": "kg"}, m=1.0)

    def test_a_unit_that_is_not_known_leaves_everything_unconverted(self) -> None:
        curve = FitCurve(LINE.tree, "x", "blips", "mm")
        found = in_coherent_units(parse("A(x)", curves=(("A", None),)).tree, {"x": "blips"}, "m", curves={"A": curve})
        self.assertEqual(found.unit, "")
        self.assertIn("'blips' is not a unit", found.remark)


class ConvertedTwice(TestCase):
    def test_a_factor_in_the_formula_that_converts_the_unit_is_named(self) -> None:
        for text, unit, wanted, factor in (
            ("L*1000", "m", "mm", "1000"),
            ("L/1000", "mm", "m", "1000"),
            ("3.6*L", "m/s", "km/h", "3.6"),
        ):
            with self.subTest(text):
                found = in_coherent_units(parse(text).tree, {"L": unit}, wanted)
                self.assertEqual(found.unit, wanted)
                self.assertEqual(
                    found.remark,
                    f"The result is converted from {unit} to {wanted} automatically. Remove {factor} if it converts the unit.",
                )
        for text, unit, wanted in (("L*2", "m", "mm"), ("L*1000", "m", ""), ("L*1000", "m", "m"), ("1000*L", "m", "s")):
            with self.subTest(text, wanted=wanted):
                self.assertEqual(in_coherent_units(parse(text).tree, {"L": unit}, wanted).remark, "")
