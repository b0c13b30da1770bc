"""Uncertainties as they are given in the laboratory, and the standard uncertainty that each comes to."""

from __future__ import annotations

from dataclasses import replace
from math import sqrt
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from ridge.core import fit
from ridge.core.models import Line
from ridge.core.predicting.at_x import predict
from ridge.core.readings import Array
from ridge.exchange.cells import NotANumber
from ridge.studies.analysis.calculated import uncertainty_from_sources
from ridge.studies.content.changes import read_change
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import ColumnState, FitState, StudyState
from ridge.studies.content.uncertainties import last_digit, read_uncertainty, uncertainty_problem
from tests.api.test_api import ApiCase
from tests.api.test_columns import calculated, column, study

VALUES = np.array([10.0, -20.0])


class Typed(SimpleTestCase):
    def comes_to(self, text: str, *expected: float, digit: float = np.nan) -> None:
        with self.subTest(text):
            np.testing.assert_allclose(read_uncertainty(text).standard(VALUES, digit), expected, rtol=1e-12)

    def test_standard(self) -> None:
        for text in ("0.5", "0,5", "5e-1", "5×10⁻¹"):
            self.comes_to(text, 0.5, 0.5)
        for text in ("2 %", "2%", "2 % of the value", "2 per cent"):
            self.comes_to(text, 0.2, 0.4)
        self.comes_to("1e-30", 1e-30, 1e-30)
        self.assertEqual(read_uncertainty("").parts, ())

    def test_limits(self) -> None:
        """JCGM 100:2008, 4.3.7; 0.29 of the step of a digital indication: F.2.2.1."""
        for text in ("±0.5", "± 0.5", "+-0.5", "+/- 0.5", "within 0.5", "within ±0.5"):
            self.comes_to(text, 0.5 / sqrt(3), 0.5 / sqrt(3))
        self.comes_to("±3 %", 0.3 / sqrt(3), 0.6 / sqrt(3))
        for text in ("half a digit", "½ digit", "0.5 digit", "±0.5 digits", "half the last digit"):
            self.comes_to(text, 0.1 / sqrt(12), 0.1 / sqrt(12), digit=0.1)
        self.assertAlmostEqual(float(read_uncertainty("half a digit").standard(VALUES, 1.0)[0]), 0.29, 2)
        self.comes_to("2 digits", 0.2 / sqrt(3), 0.2 / sqrt(3), digit=0.1)

    def test_expanded(self) -> None:
        """JCGM 100:2008, 4.3.3 and its example: a mass standard, 240 µg at three standard deviations, so 80 µg (from memory); 4.3.4
        gives 1.64, 1.96 and 2.58 for 90, 95 and 99 per cent."""
        for text in ("240 (k = 3)", "240 k=3", "±240 (k = 3)", "240, k = 3"):
            self.comes_to(text, 80, 80)
        for level, factor in ((90, 1.64), (95, 1.96), (99, 2.58)):
            self.assertAlmostEqual(1 / float(read_uncertainty(f"1 ({level} %)").standard(VALUES)[0]), factor, 2)
        self.comes_to("4 % (k = 2)", 0.2, 0.4)

    def test_what_all_readings_share(self) -> None:
        """A zero and a scale factor (JCGM 100:2008, 5.2 on what inputs have in common): no part of what each value has for itself."""
        for text in (
            "0.5; 0.2 shared",
            "0.5; shared 0.2",
            "0.5 and 0.2 in common",
            "0.2 (shared); 0.5",
            "0.5; 0.2 shared by all",
        ):
            with self.subTest(text):
                found = read_uncertainty(text)
                self.comes_to(text, 0.5, 0.5)
                (shift,) = found.shifts(VALUES)
                np.testing.assert_allclose(shift, [0.2, 0.2])
        (shift,) = read_uncertainty("±1.5 % shared").shifts(VALUES)
        np.testing.assert_allclose(shift, np.array([0.15, -0.3]) / sqrt(3))
        (shift,) = read_uncertainty("1 (k = 2) shared").shifts(VALUES)
        np.testing.assert_allclose(shift, [0.5, 0.5])
        self.assertEqual(read_uncertainty("0.2 shared").parts, ())
        self.assertEqual(read_uncertainty("0.2 shared").shared[0].shared_as("cm"), "zero 0.2\u00a0cm")
        self.assertEqual(
            read_uncertainty("±1 % shared").shared[0].shared_as("cm"), "scale factor limits ±1\u00a0%, divided by √3"
        )
        for text in ("shared", "0.2 shared shared x", "-1 shared"):
            with self.assertRaises(NotANumber):
                read_uncertainty(text)

    def test_parts_in_quadrature(self) -> None:
        for text in ("0.3; 0.4", "0.3 + 0.4", "0.3 and 0.4"):
            self.comes_to(text, 0.5, 0.5)
        self.comes_to("3 %; 0.4", 0.5, sqrt(0.6**2 + 0.4**2))
        self.assertAlmostEqual(read_uncertainty("3 %; 4 %").share or 0, 0.05)
        self.assertIsNone(read_uncertainty("3 %; 0.4").share)

    def test_how_it_was_given_is_said(self) -> None:
        self.assertEqual(
            read_uncertainty("±0.5; 2 %").text, "limits ±0.5, divided by √3 and standard uncertainty 2\u00a0%"
        )
        self.assertEqual(read_uncertainty("0.8 (k = 2)").text, "0.8 expanded with k = 2")
        self.assertEqual(read_uncertainty("half a digit").text, "limits ±0.5 last digit, divided by √3")
        self.assertTrue(read_uncertainty("2 %").plain)
        self.assertFalse(read_uncertainty("±2").plain)

    def test_what_is_none(self) -> None:
        for text, why in (
            ("abc", "is not a number"), ("0", "is not above zero"), ("-1", "is not above zero"), ("−1 %", "is not above zero"), ("inf", "is not finite"),
            ("5 %%", "more than one % sign"), ("%", "is not above zero"), ("5 % of what", "is not a number"), ("1,234", "may mean"),
            ("±", "is not a number"), ("±0", "is not above zero"), ("0.5 (k = 0)", "is not above zero"), ("0.5 (k = x)", "is not a number"),
            ("0.5 (120 %)", "between 50 % and 100 %"), ("0.5;", "is not above zero"), ("1;1;1;1;1;1;1", "6 at most"), ("digit", "is not a number"),
        ):  # fmt: skip
            with self.subTest(text), self.assertRaises(NotANumber) as caught:
                read_uncertainty(text)
            self.assertIn(why, str(caught.exception), text)
        self.assertIn("calculated", uncertainty_problem("carried", calculated=False))
        self.assertEqual(uncertainty_problem("carried", calculated=True), "")
        self.assertIn("no last digit", uncertainty_problem("half a digit", calculated=True))

    def test_the_last_digit_of_a_column(self) -> None:
        self.assertEqual(last_digit(["1.2", "3", "", "0.55"]), 0.01)
        self.assertEqual(last_digit(["12", "7"], -3), 1e-3)
        self.assertEqual(last_digit(["1,25"]), 0.01)
        self.assertTrue(np.isnan(last_digit(["", "abc"])))


def typed(*cells: str, exponent: int = 0) -> ColumnState:
    return ColumnState("u", "", "u", "", "y_error", exponent=exponent, cells=cells)


class OfReadings(SimpleTestCase):
    def errors(self, state: StudyState) -> Array:
        found = read_table(state).readings.y_error
        assert found is not None
        return found

    def test_of_a_column(self) -> None:
        x = column("t", "x", "1 2 3")
        state = study(x, column("h", "y", "1.2 3.4 5.6", uncertainty="half a digit"))
        np.testing.assert_allclose(self.errors(state), 0.1 / sqrt(12))
        self.assertIn("limits ±0.5 last digit", read_table(state).how_uncertain)
        state = study(x, column("h", "y", "12 34 56", uncertainty="±0.5; 3 %", exponent=-3))
        np.testing.assert_allclose(self.errors(state), np.hypot(0.5 / sqrt(3), 0.03 * np.array([0.012, 0.034, 0.056])))
        self.assertEqual(read_table(study(x, column("h", "y", "1 2 3", uncertainty="0.1"))).how_uncertain, "")

    def test_of_single_cells(self) -> None:
        state = study(
            column("t", "x", "1 2 3 4"), column("h", "y", "10 20 30 40"), typed("0.5", "±0.3", "0.4 (k = 2)", "2 %"),
        )  # fmt: skip
        np.testing.assert_allclose(self.errors(state), [0.5, 0.3 / sqrt(3), 0.2, 0.8])
        state = study(
            column("t", "x", "1 2 3"), column("h", "y", "10 20 30"), typed("5", "±3", "what", exponent=-1),
        )  # fmt: skip
        table = read_table(state)
        np.testing.assert_allclose(self.errors(state)[:2], [0.5, 0.3 / sqrt(3)])
        self.assertEqual([problem.row for problem in table.problems], [2])


class CarriedIntoColumns(SimpleTestCase):
    L = column("L", "other", "1.00 2.00 4.00", unit="m", uncertainty="0.01")
    T = column("T", "other", "2.006 2.837 4.012", unit="s", uncertainty="0.002")

    def test_from_columns(self) -> None:
        """g from length and period, by the rule for products and powers (JCGM 100, 5.1.6)."""
        g = column("g", "y", "", formula="4*pi^2*L/T^2", uncertainty="carried", unit="m/s²")
        state = study(column("n", "x", "1 2 3"), self.L, self.T, g)
        L, T = np.array([1, 2, 4.0]), np.array([2.006, 2.837, 4.012])
        expected = 4 * np.pi**2 * L / T**2 * np.hypot(0.01 / L, 2 * 0.002 / T)
        found = read_table(state)
        np.testing.assert_allclose(found.readings.y_error, expected, rtol=1e-12)  # type: ignore[arg-type]
        self.assertIn("carried from what it is calculated from", found.how_uncertain)
        step = uncertainty_from_sources(state, g).step
        assert step is not None
        self.assertEqual(step.unit, "m/s²")

    def test_through_columns_of_columns_each_source_counts_once(self) -> None:
        s = column("s", "other", "", formula="L*T")
        back = column("b", "other", "", formula="s/T - L")
        state = study(column("n", "x", "1 2 3"), column("y", "y", "1 2 3"), self.L, self.T, s, back)
        step = uncertainty_from_sources(state, back).step
        assert step is not None
        np.testing.assert_allclose(step.standard_error, 0, atol=1e-15)

    def test_from_parameters_of_a_fit_with_their_covariance(self) -> None:
        """m·mean + c has the uncertainty of the mean alone: s/√n."""
        rest = column("r", "other", "", formula="A_slope*2.5 + A_intercept")
        state = study(column("x", "x", "1 2 3 4"), column("y", "y", "2 3 5 6"), rest, fits=(FitState("A", "line"),))
        step = uncertainty_from_sources(state, rest).step
        assert step is not None
        x, y = np.arange(1, 5.0), np.array([2, 3, 5, 6.0])
        s = np.sqrt(np.sum((y - np.polyval(np.polyfit(x, y, 1), x)) ** 2) / 2)
        np.testing.assert_allclose(step.standard_error, s / 2, rtol=1e-12)

    def test_through_the_curve_of_a_fit(self) -> None:
        """At each row that of the prediction; of what is left of a reading s·√(1 − h), since the fit is made to it (e.g. Cook and
        Weisberg 1982, section 2.1)."""
        x, y = column("x", "x", "1 2 3 4 6"), column("y", "y", "2.1 2.9 5.2 6.1 9.3", uncertainty="0.3")
        for formula, check in (
            ("A", "curve"), ("A(x)", "curve"), ("A(2*x - x)", "curve"), ("y - A", "left"), ("y - A(x)", "left"), ("A(5)", "at five"),
        ):  # fmt: skip
            with self.subTest(formula):
                one = calculated("c", formula, 5)
                state = study(x, y, one, fits=(FitState("A", "line"),), absolute_errors=True)
                found = uncertainty_from_sources(state, one)
                assert found.step is not None and not found.problem
                made = fit(read_table(state).readings, Line())
                at = np.full(5, 5.0) if check == "at five" else made.readings.x
                expected = predict(made, at).standard_error
                if check == "left":
                    expected = 0.3 * np.sqrt(1 - made.leverage)
                np.testing.assert_allclose(found.step.standard_error, expected, rtol=1e-9)
                self.assertIsNone(found.poor)

    def test_an_x_that_formulas_cannot_name(self) -> None:
        """Its curve is not taken at the number of the row instead."""
        one = calculated("c", "A", 3)
        x = replace(column("x", "x", "10 20 30"), symbol="x'")
        state = study(x, column("y", "y", "1 2 4"), one, fits=(FitState("A", "line"),))
        self.assertIn("no symbol that formulas can use", uncertainty_from_sources(state, one).problem)

    def test_the_unit_of_a_curve_is_that_of_y(self) -> None:
        x, y = column("x", "x", "1 2 3 4 6", unit="N"), column("y", "y", "2.1 2.9 5.2 6.1 9.3", unit="mm")
        for formula, unit in (("A(x)", "mm"), ("y - A", "mm"), ("A_slope", "mm/N"), ("A_slope*x + A_intercept", "mm")):
            with self.subTest(formula):
                one = calculated("c", formula, 5)
                step = uncertainty_from_sources(study(x, y, one, fits=(FitState("A", "line"),)), one).step
                assert step is not None
                self.assertEqual((step.unit, step.unit_remark), (unit, ""))

    def test_what_is_shared_is_carried_apart(self) -> None:
        """Through a difference the zero goes, through a square it is 2·h·0.2; it does not weigh the readings."""
        h = column("h", "other", "1 2 3 4", uncertainty="0.1; 0.2 shared")
        flat = calculated("d", "h - 2*h/2", 4, "y", uncertainty="carried")
        square = calculated("q", "h^2", 4, "y", uncertainty="carried")
        x = column("x", "x", "1 2 3 4")
        self.assertEqual(read_table(study(x, h, flat)).shared, ())
        table = read_table(study(x, h, square))
        (shared,) = table.shared
        assert shared.y is not None and table.readings.y_error is not None
        np.testing.assert_allclose(shared.y, [0.4, 0.8, 1.2, 1.6])
        np.testing.assert_allclose(table.readings.y_error, [0.2, 0.4, 0.6, 0.8])
        self.assertEqual(shared.name, "h, zero 0.2")
        alone = calculated("q", "h^2", 4, "y", uncertainty="carried")
        table = read_table(study(x, column("h", "other", "1 2 3 4", uncertainty="0.2 shared"), alone))
        self.assertIsNone(table.readings.y_error)
        self.assertEqual(len(table.shared), 1)

    def test_why_there_is_none(self) -> None:
        plain = column("p", "other", "1 2 3")
        for formula, why in (
            ("p^2", "Nothing that it is calculated from"),
            ("B(p)", "cannot be calculated"),
            ("row", "Nothing"),
        ):
            one = column("c", "other", "", formula=formula)
            state = study(
                column("n", "x", "1 2 3"), column("y", "y", "1 2 4"), plain, one, fits=(FitState("A", "line"),)
            )
            self.assertIn(why, uncertainty_from_sources(state, one).problem, formula)
        fitted = column("q", "y", "", formula="p^2", uncertainty="carried")
        table = read_table(study(column("n", "x", "1 2 3"), plain, fitted))
        self.assertIn("Nothing that it is calculated from", table.column_problems[fitted.key])
        self.assertIsNone(table.readings.y_error)

    def test_where_first_order_is_a_poor_rule(self) -> None:
        wide = column("d", "other", "1 2 3", uncertainty="0.8")
        one = column("c", "other", "", formula="(d - 1)^2")
        found = uncertainty_from_sources(study(column("n", "x", "1 2 3"), column("y", "y", "1 2 4"), wide, one), one)
        assert found.poor is not None
        self.assertEqual(found.poor[0], 1)
        self.assertAlmostEqual(found.poor[1], np.sqrt(4 * 0.8**2 + 2 * 0.8**4), delta=0.03)


class Form(ApiCase):
    def look(self, made: str, **given: Any) -> Any:
        return self.post(
            f"/studies/{made}/column", {"key": "", "name": "", "symbol": "k", "uncertainty": "", "formula": "", **given}
        )

    def test_what_the_form_says(self) -> None:
        made = self.new()
        keys = [one["key"] for one in self.read(f"/studies/{made}")["columns"]]
        block = [["1.0", "2.00"], ["2.0", "4.00"], ["3.0", "6.00"]]
        self.change(made, 0, kind="set_cells", row=0, column=0, block=block)
        self.change(made, 1, kind="edit_column", key=keys[0], symbol="t", unit="s", uncertainty="half a digit")
        self.change(made, 2, kind="edit_column", key=keys[1], symbol="h", unit="cm", uncertainty="±0.3; 1 %")
        found = self.look(made, key=keys[1], uncertainty="half a digit")
        self.assertEqual(
            found["uncertainty_used"],
            "Used as a standard uncertainty of 0.00289\u00a0cm: limits ±0.5 last digit, divided by √3.",
        )
        self.assertIn("2.00\u00a0% of each value", self.look(made, uncertainty="4 % (k = 2)")["uncertainty_used"])
        self.assertEqual(self.look(made, uncertainty="0.5")["uncertainty_used"], "")
        self.assertEqual(self.look(made, key=keys[1], uncertainty="0.5")["uncertainty_used"], "")
        self.assertEqual(
            self.look(made, key=keys[1], uncertainty="50")["uncertainty_used"], "It is larger than 3 of the values."
        )
        self.assertIn(
            "larger than one of the values", self.look(made, key=keys[1], uncertainty="±4")["uncertainty_used"]
        )
        formula = self.look(made, formula="h/t")["formula"]
        self.assertEqual((formula["unit"], formula["unit_remark"]), ("cm/s", ""))
        self.assertRegex(formula["carried"], r"^Standard uncertainty from its sources: 0\.\d+ to 0\.\d+\u00a0cm/s\.$")
        self.assertIn("h + t: cm and s cannot be added", self.look(made, formula="h + t")["formula"]["problem"])
        self.assertIn(
            "no last digit", self.look(made, formula="h/t", uncertainty="half a digit")["uncertainty_problem"]
        )

    def test_what_a_change_refuses(self) -> None:
        state = study(column("n", "x", "1 2 3"), column("y", "y", "1 2 4"))
        for text in ("±", "carried", "1 (k = 0)"):
            with self.assertRaises(ChangeRefused):
                read_change({"kind": "edit_column", "key": state.columns[1].key, "uncertainty": text}).apply(state)
