"""Calculated columns, multipliers, uncertainties, counts and series: from cells to what is fitted."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import statsmodels.api as sm
from django.test import SimpleTestCase

from ridge.studies.analysis.calculated import calculate
from ridge.studies.analysis.fits import fit_all
from ridge.studies.content.changes import ChangeRefused, read_change
from ridge.studies.content.changes.cells import SetCells
from ridge.studies.content.fields import Role
from ridge.studies.content.readable import apply_sound
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import ColumnState, FitState, StudyState
from ridge.studies.content.symbols import symbol_problem
from ridge.studies.words.analyse import analyse
from ridge.studies.words.formula_editor import look_at
from tests.api.test_api import ApiCase
from tests.fits import computed, curve_of, drawn, refusal_of, refused


def column(symbol: str, role: Role, cells: str, **more: Any) -> ColumnState:
    return ColumnState(symbol or role, "", symbol, more.pop("unit", ""), role, cells=tuple(cells.split()), **more)


def calculated(symbol: str, formula: str, rows: int, role: Role = "other", **more: Any) -> ColumnState:
    return ColumnState(symbol, "", symbol, more.pop("unit", ""), role, cells=("",) * rows, formula=formula, **more)


def study(*columns: ColumnState, **more: Any) -> StudyState:
    return StudyState("Test", columns, **more)


D, Q = column("d", "x", "1 4 9 16 0"), column("Q", "y", "2 4 6 8 1")


class Calculated(SimpleTestCase):
    def test_from_other_columns(self) -> None:
        found = calculate(study(D, Q, calculated("r", "sqrt(d) + Q/2", 5), calculated("n", "row", 5)))
        self.assertEqual(found["r"].texts, ("2", "4", "6", "8", "0.5"))
        self.assertEqual(found["n"].texts, ("1", "2", "3", "4", "5"))

    def test_an_error_names_its_row(self) -> None:
        found = calculate(study(D, Q, calculated("v", "1/d", 5)))
        self.assertEqual(found["v"].texts, ("1", "0.25", "0.1111", "0.0625", ""))
        self.assertEqual(found["v"].problem, "1/d has no value in row 5: 1/d has no value at d = 0.")
        found = calculate(study(D, Q, calculated("v", "2 + ln(d - 4)/Q", 5)))
        self.assertEqual(dict(found["v"].wrong)[0], "ln(d - 4) has no value at d = 1")
        self.assertEqual(sorted(found["v"].wrong), [0, 1, 4])

    def test_as_many_digits_as_the_sources_justify(self) -> None:
        for cells, formula, texts in (
            ("2 3", "sqrt(d)", ("1.414", "1.732")),
            ("2.00 3.00", "sqrt(d)", ("1.4142", "1.7321")),
            ("2.0000001 3", "sqrt(d)", ("1.4142136", "1.7320508")),
            ("1.25e-30 3", "2*d", ("2.5e-30", "6")),
        ):
            found = calculate(study(column("d", "x", cells), column("Q", "y", "1 2"), calculated("r", formula, 2)))
            self.assertEqual(found["r"].texts, texts)

    def test_as_x_it_follows_and_is_fitted(self) -> None:
        state = study(replace(D, role="other"), calculated("r", "sqrt(d)", 5, "x"), Q)
        table = read_table(state)
        np.testing.assert_array_equal(table.readings.x, [1, 2, 3, 4, 0])
        slope = computed(analyse(state).fits[0]).parameters[0]
        expected = sm.OLS([2, 4, 6, 8, 1], sm.add_constant([1.0, 2, 3, 4, 0])).fit()
        self.assertAlmostEqual(float(slope.full), expected.params[1], places=12)

    def test_nothing_is_written_over_a_calculated_column(self) -> None:
        state = study(D, calculated("r", "sqrt(d)", 5), Q)
        for at, width in ((1, 1), (0, 2), (0, 3), (1, 2)):
            with self.assertRaisesRegex(ChangeRefused, "is calculated as"):
                SetCells(row=1, column=at, block=[["7"] * width]).apply(state)
        for at in (0, 2):
            written = SetCells(row=1, column=at, block=[["7"]]).apply(state).state
            self.assertEqual(written.columns[at].cells[1], "7")

    def test_a_calculated_x_without_a_value_is_no_unknown(self) -> None:
        state = study(replace(D, role="other"), calculated("u", "1/d", 5, "x"), Q)
        table = read_table(state)
        self.assertEqual(table.status.tolist(), [Status.USED] * 4 + [Status.PROBLEM])
        self.assertEqual(table.problems[0].message, "Row 5: 1/d has no value at d = 0.")
        self.assertFalse(table.unknowns)

    def test_from_a_fit_and_its_parameters(self) -> None:
        found = calculate(study(D, Q, calculated("f", "A", 5), calculated("s", "2 A_slope", 5)))
        expected = sm.OLS([2, 4, 6, 8, 1], sm.add_constant([1.0, 4, 9, 16, 0])).fit()
        np.testing.assert_allclose([float(text) for text in found["f"].texts], expected.fittedvalues, rtol=1e-5)
        self.assertAlmostEqual(float(found["s"].texts[0]), 2 * expected.params[1], places=6)

    def test_what_cannot_be_used_is_said(self) -> None:
        for formula, said in (
            ("sqrt(dd)", "There is no column 'dd'. Available: d, Q, w, row"),
            ("w + 1", "calculated from itself"),
            ("2*(d", "never closed"),
            ("A_width", "Fit A has no parameter width"),
            ("d d d + 1e999", "too large"),
        ):
            with self.subTest(formula):
                self.assertIn(said, calculate(study(D, Q, calculated("w", formula, 5)))["w"].problem)

    def test_two_columns_from_each_other(self) -> None:
        found = calculate(study(D, Q, calculated("v", "w + 1", 5), calculated("w", "v + 1", 5)))
        self.assertIn("calculated from this column", found["w"].problem)
        self.assertTrue(found["v"].problem)

    def test_a_fitted_column_cannot_use_a_fit(self) -> None:
        state = study(D, replace(Q, role="other"), calculated("v", "A + 1", 5, "y"))
        self.assertIn("would depend on itself", read_table(state).column_problems["v"])

    def test_typing_into_it_is_refused(self) -> None:
        state = study(D, Q, calculated("v", "1/d", 5))
        for change in (
            {"kind": "set_cells", "row": 0, "column": 2, "block": [["1"]]},
            {"kind": "write_cells", "cells": [{"row": 0, "key": "v", "text": "1"}]},
        ):
            with self.assertRaisesMessage(ChangeRefused, "v is calculated as 1/d"):
                read_change(change).apply(state)

    def test_a_filled_column_does_not_turn_into_a_formula(self) -> None:
        with self.assertRaisesMessage(ChangeRefused, "holds typed cells"):
            read_change({"kind": "edit_column", "key": "Q", "formula": "d"}).apply(study(D, Q))


class Multipliers(SimpleTestCase):
    def test_values_are_cells_times_the_power_of_ten(self) -> None:
        table = read_table(study(replace(D, exponent=3), replace(Q, exponent=-3)))
        np.testing.assert_array_equal(table.readings.x, [1000, 4000, 9000, 16000, 0])
        np.testing.assert_array_equal(table.readings.y, [0.002, 0.004, 0.006, 0.008, 0.001])

    def test_clock_units(self) -> None:
        table = read_table(study(column("t", "x", "6:30 13:45 25:00 7.5", unit="h:min"), column("h", "y", "1 2 3 4")))
        np.testing.assert_array_equal(table.readings.x, [6.5, 13.75, 25, 7.5])
        self.assertEqual(table.naming.x_unit, "h")


class FitsAsFunctions(ApiCase):
    """A fit is used by its letter: in columns, in known curves and in own formulas."""

    X, Y = np.array([0.0, 1, 2, 3, 4, 5]), np.array([1.0, 2.9, 5.2, 6.8, 9.1, 11.2])

    def state(self, *fits: FitState, **more: Any) -> StudyState:
        x, y = (" ".join(map(repr, values.tolist())) for values in (self.X, self.Y))
        return study(column("t", "x", x), column("h", "y", y), *more.pop("columns", ()), fits=fits)

    def made(self, text: str, *before: FitState) -> Any:
        state = self.state(*(before or (FitState("A", "line"), FitState("B", "polynomial"))))
        change = read_change({"kind": "add_fit", "family": "formula", "options": {"text": text}})
        return change.apply(state).state

    def curves(self, state: StudyState) -> dict[str, Any]:
        return {one.wanted.letter: one.curve for one in fit_all(read_table(state), state.linked_fits)}

    def test_a_known_curve_of_two_fits(self) -> None:
        state = self.made("A(t) - B(t)")
        found = self.curves(state)
        at = np.linspace(-1, 7, 9)
        line, parabola = np.polyfit(self.X, self.Y, 1), np.polyfit(self.X, self.Y, 2)
        np.testing.assert_allclose(found["C"].evaluate(at), np.polyval(line, at) - np.polyval(parabola, at), atol=1e-12)
        said = analyse(state).fits[2]
        self.assertEqual(said.kind, "known")
        self.assertIn("A\\left(t\\right)", said.form_latex)

    def test_with_parameters_of_its_own_and_it_follows(self) -> None:
        state = self.made("p*A(2*t) + q")
        fit = self.curves(state)["C"]
        line = np.polyval(np.polyfit(self.X, self.Y, 1), 2 * self.X)
        expected = np.polyfit(line, self.Y, 1)
        np.testing.assert_allclose([fit.values["p"], fit.values["q"]], expected, rtol=1e-9)
        change = read_change({"kind": "set_fit", "letter": "A", "family": "exponential"})
        changed = self.curves(change.apply(state).state)["C"]
        self.assertGreater(abs(changed.values["p"] - fit.values["p"]), 1e-3)

    def test_a_letter_that_is_a_parameter_stays_one(self) -> None:
        state = self.made("A*(t - 1) + A")
        self.assertEqual(self.curves(state)["C"].model.parameter_names, ("A",))
        old = self.state(
            FitState("A", "line"), FitState("B", "formula", options={"text": "A(t - 1)"})
        )  # kept before fits could be called
        self.assertEqual(self.curves(old)["B"].model.parameter_names, ("A",))

    def test_a_circle_and_a_fit_that_is_gone(self) -> None:
        state = self.made("2*A(t)", FitState("A", "line"))
        with self.assertRaisesRegex(ChangeRefused, "Fit B calls A itself"):
            read_change({"kind": "set_fit", "letter": "A", "family": "formula", "options": {"text": "B(t)/2"}}).apply(
                state
            )
        gone = read_change({"kind": "remove_fit", "letter": "A"}).apply(state).state
        self.assertIn("no fit A to call any more", refusal_of(analyse(gone).fits[0]))
        both = self.made("A(t)", FitState("A", "interpolation"))
        self.assertIn("is no fitted curve", refusal_of(analyse(both).fits[1]))

    def test_in_columns(self) -> None:
        line = np.polyfit(self.X, self.Y, 1)
        for formula, values in (
            ("h - A(t)", self.Y - np.polyval(line, self.X)),
            ("A(t + 1) - A", np.full(6, line[0])),
            ("A(0)", np.full(6, line[1])),
        ):
            state = self.state(FitState("A", "line"), columns=(calculated("r", formula, 6),))
            found = calculate(state)["r"]
            self.assertEqual(found.problem, "")
            np.testing.assert_allclose([float(text) for text in found.texts], values, rtol=1e-4, atol=1e-7)
        fitted = calculate(self.state(FitState("A", "line"), columns=(calculated("w", "A(t)", 6, "weight"),)))["w"]
        self.assertIn("would depend on itself", fitted.problem)
        own = self.state(
            FitState("A", "line"), columns=(column("A", "other", "1 2 3 4 5 6"), calculated("r", "A(t + 1)", 6))
        )
        self.assertEqual(calculate(own)["r"].texts[1], "4")  # a column of that symbol: a product

    def test_the_editor_says_what_the_letter_is(self) -> None:
        found = look_at(self.state(FitState("A", "line"), FitState("B", "line")), "B", "A(t) + d", False, None)
        self.assertEqual(found.parameters, ["d"])
        self.assertIn("A(…) is fit A", found.notes[0].message)


class SymbolsAndWhatIsTyped(ApiCase):
    def test_symbols(self) -> None:
        for symbol, others, why, proposal in (
            ("R", ["U"], "", ""), ("", ["U"], "", ""), ("R", ["R"], "Another column", "R_2"), ("R_1", ["R₁"], "Another column", "R_2"),
            ("sin", [], "is a function", "d"), ("ln", [], "is a function", "d"), ("e", [], "Euler", "d"), ("row", [], "number of the row", "d"),
            ("my depth", [], "cannot be written", "my_depth"), ("2x", [], "cannot be written", "x"), ("h'", [], "cannot be written", "h"),
            ("ש", [], "cannot be written", "d"), ("θ_0", [], "", ""), ("½", [], "cannot be written", "d"),
        ):  # fmt: skip
            found, taken = symbol_problem(symbol, others, "depth")
            self.assertEqual(bool(found), bool(why), symbol)
            self.assertIn(why, found)
            if proposal:
                self.assertEqual(symbol_problem(taken, others), ("", ""), (symbol, taken))
                self.assertTrue(taken.startswith(proposal[0]) or "_" in taken, (symbol, taken))

    def test_they_are_refused_and_undone_changes_come_back(self) -> None:
        state = study(D, Q)
        for more in (
            {"symbol": "Q"},
            {"symbol": "sin"},
            {"symbol": "a b"},
            {"uncertainty": "abc"},
            {"uncertainty": "0"},
            {"uncertainty": "inf"},
        ):
            with self.assertRaises(ChangeRefused):
                read_change({"kind": "edit_column", "key": D.key, **more}).apply(state)
        removed = read_change({"kind": "add_column", "symbol": "k"}).apply(state)
        again = removed.inverse.apply(removed.state).inverse.apply(state).state
        self.assertEqual(again, removed.state)

    def test_the_form_is_told_while_one_types(self) -> None:
        made = self.new()
        self.change(made, 0, kind="set_cells", row=0, column=0, block=[["1", "2"], ["2", "4"], ["0", "6"]])
        ask = {"key": "", "name": "", "symbol": "x", "uncertainty": "5 %%", "formula": "1/x + A(x)"}
        found = self.post(f"/studies/{made}/column", ask)
        self.assertIn("no value in row 3", found["formula"]["no_value"].lower())
        self.assertEqual(len(found["formula"]["values"]), 2)
        self.assertIn("more than one % sign", found["uncertainty_problem"])
        self.assertEqual([name["name"] for name in found["names"]][:3], ["x", "y", "row"])
        found = self.post(f"/studies/{made}/column", ask | {"formula": "1/(x"})
        self.assertEqual((found["formula"]["position"], found["formula"]["latex"]), (2, ""))
        self.assertIn(
            "no column 'z'", self.post(f"/studies/{made}/column", ask | {"formula": "z + 1"})["formula"]["problem"]
        )

    def test_the_unit_typed_converts_the_values_shown(self) -> None:
        made = self.new()
        self.change(made, 0, kind="set_cells", row=0, column=0, block=[["1.2", "2"], ["2.5", "4"]])
        x, _ = self.client.get(f"/api/studies/{made}").json()["columns"]
        self.change(made, 1, kind="edit_column", key=x["key"], unit="m", symbol="L")
        for formula, values, remark in (("L", ["1200", "2500"], ""), ("L*1000", ["1.2e6", "2.5e6"], "Remove 1000")):
            found = self.post(f"/studies/{made}/column", {"key": "", "name": "", "symbol": "c", "uncertainty": "", "formula": formula, "unit": "mm"})  # fmt: skip
            self.assertEqual(found["formula"]["values"], values)
            self.assertIn(remark, found["formula"]["unit_remark"])


class Uncertainties(SimpleTestCase):
    def test_one_for_the_whole_column(self) -> None:
        table = read_table(study(replace(D, uncertainty="0.5"), replace(Q, uncertainty="2 %")))
        assert table.readings.x_error is not None and table.readings.y_error is not None
        np.testing.assert_array_equal(table.readings.x_error, [0.5] * 5)
        np.testing.assert_allclose(table.readings.y_error, [0.04, 0.08, 0.12, 0.16, 0.02])

    def test_a_column_in_per_cent(self) -> None:
        errors = ColumnState("e", "", "", "%", "y_error", cells=("1", "2", "1", "2", "10"))
        table = read_table(study(D, Q, errors))
        assert table.readings.y_error is not None
        np.testing.assert_allclose(table.readings.y_error, [0.02, 0.08, 0.06, 0.16, 0.1])

    def test_what_is_no_uncertainty(self) -> None:
        table = read_table(study(D, replace(Q, uncertainty="some")))
        self.assertIsNone(table.readings.y_error)
        self.assertIn("'some' is not a number", table.column_problems["Q"])

    def test_from_a_formula(self) -> None:
        state = study(D, Q, calculated("u", "0.1 + Q/100", 5, "y_error"))
        found = read_table(state).readings.y_error
        assert found is not None
        np.testing.assert_allclose(found, [0.12, 0.14, 0.16, 0.18, 0.11])


class Counts(SimpleTestCase):
    def test_a_count_is_as_good_as_repeated_rows(self) -> None:
        counted = study(D, Q, column("", "count", "3 1 2 1 4"))
        rows = np.repeat(np.arange(5), [3, 1, 2, 1, 4])
        x, y = np.array([1.0, 4, 9, 16, 0]), np.array([2.0, 4, 6, 8, 1])
        expected = sm.OLS(y[rows], sm.add_constant(x[rows])).fit()
        fit = analyse(counted).fits[0]
        slope = computed(fit).parameters[0]
        value, error = float(slope.full), float(slope.full_error)
        self.assertAlmostEqual(value, expected.params[1], places=12)
        self.assertAlmostEqual(error, expected.bse[1], places=12)
        found = {s.name: s for s in computed(fit).statistics}
        self.assertEqual(found["n"].full, "11")
        self.assertAlmostEqual(float(found["r_squared"].full), expected.rsquared, places=12)
        # statsmodels leaves the variance out of its count of parameters
        self.assertAlmostEqual(float(found["aic"].full) - 2, expected.aic, places=9)
        self.assertIn("11 readings in 5 rows", drawn(fit).method)

    def test_half_a_count_is_no_count(self) -> None:
        table = read_table(study(D, Q, column("", "count", "3 1.5 2 0 4")))
        self.assertEqual(
            [p.message for p in table.problems],
            ["Row 2: not a whole number of repeats.", "Row 4: the number of repeats has to be above zero."],
        )


class SeriesOfOneStudy(SimpleTestCase):
    def setUp(self) -> None:
        x, y = column("t", "x", "1 2 3 1 2 3"), column("h", "y", "1 2 3 2 4 6.5")
        self.state = study(x, y, column("", "series", "ebb ebb ebb flood flood flood"))

    def test_fitted_together_and_one_by_one(self) -> None:
        state = replace(
            self.state,
            fits=(FitState("A", "line"), FitState("B", "line", series="ebb"), FitState("C", "line", series="flood")),
        )
        analysis = analyse(state)
        slopes = [float(computed(fit).parameters[0].full) for fit in analysis.fits]
        np.testing.assert_allclose(slopes, [1.625, 1.0, 2.25], rtol=1e-13)
        self.assertEqual((analysis.series, analysis.series_of), (["ebb", "flood"], [0, 0, 0, 1, 1, 1]))

    def test_series_that_share_no_line_are_named(self) -> None:
        t = column("t", "x", "0 1 2 3 4 5 6 0 1 2 3 4 5 6", unit="s")
        which = column("", "series", "ebb " * 7 + "flood " * 7)
        low = "0.1 1.0 2.1 2.9 4.0 5.1 5.9"
        for high, apart in (("1.1 2.0 3.1 3.9 5.0 6.1 6.9", True), ("0.0 1.1 1.9 3.1 4.0 4.9 6.1", False)):
            state = study(t, column("h", "y", f"{low} {high}", unit="m"), which, fits=(FitState("A", "line"),))
            cautions = {one.code: one for one in drawn(analyse(state).fits[0]).cautions}
            self.assertEqual("series-differ" in cautions, apart)
            if apart:
                one = cautions["series-differ"]
                self.assertIn("flood above it and ebb below it", one.message)
                self.assertEqual([action.label for action in one.actions], ["Fit to ebb only"])
                alone = replace(state, fits=(FitState("A", "line", series="ebb"),))
                self.assertNotIn("series-differ", [o.code for o in drawn(analyse(alone).fits[0]).cautions])

    def test_a_series_that_is_gone(self) -> None:
        fit = analyse(replace(self.state, fits=(FitState("A", "line", series="spring"),))).fits[0]
        self.assertIn("no readings of spring any more", refusal_of(fit))


class Models(SimpleTestCase):
    """Every family through the study: its name, its letters, what can be chosen in it."""

    def test_each_family_gets_an_equation_and_meanings(self) -> None:
        t = np.arange(1.0, 25)
        bell = 4 * np.exp(-((t - 12) ** 2) / 18) + 0.4 + 0.01 * np.cos(7 * t)
        state = study(column("t", "x", " ".join(map(str, t))), column("h", "y", " ".join(map(str, bell))))
        for family, name in (
            ("line", "line"), ("polynomial", "quadratic"), ("exponential", "exponential"), ("logarithmic", "logarithmic"),
            ("power", "power law"), ("reciprocal", "reciprocal"), ("sinusoid", "sinusoid in radians"),
            ("logistic", "logistic"), ("gaussian", "Gaussian peak"),
        ):  # fmt: skip
            with self.subTest(family):
                changed = read_change({"kind": "set_fit", "letter": "A", "family": family}).apply(state)
                self.assertTrue(changed.inverse.apply(changed.state).state == state)
                fit = analyse(changed.state).fits[0]
                self.assertEqual((fit.name, refusal_of(fit)), (name, ""))
                self.assertTrue(computed(fit).equation_text.startswith("h = "))
                self.assertTrue(all(parameter.meaning for parameter in computed(fit).parameters))
                self.assertGreater(len(curve_of(fit).x), 90)

    def test_an_own_formula_and_its_mistakes(self) -> None:
        state = study(column("t", "x", "1 2 3 4 5"), column("h", "y", "3 5 7 9 11.1"))
        change = {"kind": "set_fit", "letter": "A", "family": "formula", "options": {"text": "p t + q"}}
        fit = analyse(read_change(change).apply(state).state).fits[0]
        self.assertEqual([parameter.name for parameter in computed(fit).parameters], ["p", "q"])
        change["options"] = {"text": "p t + q)"}
        fit = analyse(read_change(change).apply(state).state).fits[0]
        self.assertEqual(refused(fit).refused_at, [7, 8])
        self.assertTrue(refusal_of(fit))

    def test_in_logarithms_and_orthogonal(self) -> None:
        state = study(
            column("x", "x", "1 2 3 4", uncertainty="0.1"), column("y", "y", "2.7 7.5 20 55", uncertainty="1")
        )
        for family, method in (("exponential", "logarithms"), ("line", "orthogonal")):
            change = {"kind": "set_fit", "letter": "A", "family": family, "method": method}
            fit = analyse(read_change(change).apply(state).state).fits[0]
            self.assertEqual(refusal_of(fit), "")
            self.assertIn("logarithms" if method == "logarithms" else "distances", drawn(fit).method)
        with self.assertRaises(ChangeRefused):
            apply_sound(read_change({"kind": "set_fit", "letter": "A", "method": "logarithms"}), state)

    def test_up_to_six_with_letters_of_their_own(self) -> None:
        state = build_sample("mooring-line")
        for letter in "BCDEF":
            state = read_change({"kind": "add_fit", "family": "polynomial"}).apply(state).state
            self.assertEqual(state.fits[-1].letter, letter)
        with self.assertRaisesMessage(ChangeRefused, "6 fits at most"):
            read_change({"kind": "add_fit", "family": "line"}).apply(state)
        state = read_change({"kind": "remove_fit", "letter": "C"}).apply(state).state
        state = read_change({"kind": "lead_with", "letter": "E"}).apply(state).state
        self.assertEqual([fit.letter for fit in state.fits], ["E", "A", "B", "D", "F"])
        self.assertEqual(read_change({"kind": "add_fit", "family": "line"}).apply(state).state.fits[-1].letter, "C")

    def test_coordinates_in_which_a_model_is_straight(self) -> None:
        x = np.arange(1.0, 9)
        noise = 0.01 * np.cos(5 * x)
        for family, options, y, axes in (
            ("exponential", {"level": True}, 3 * np.exp(-x / 2) + 1 + noise, ("none", "ln")),
            ("logarithmic", {}, 2 * np.log(x) + noise, ("ln", "none")),
            ("power", {}, 2 * x**1.5 + noise, ("ln", "ln")),
            ("reciprocal", {}, 2 / x + noise, ("reciprocal", "none")),
        ):
            state = study(
                column("t", "x", " ".join(map(str, x))), column("h", "y", " ".join(map(str, y))),
                fits=(FitState("A", family, options=options),),
            )  # fmt: skip
            straight = analyse(state).straight
            assert straight is not None
            self.assertEqual((straight.x, straight.y), axes)
        quadratic = (FitState("A", "polynomial", fixed={"c1": 0.0}),)
        straight = analyse(replace(state, fits=quadratic)).straight
        assert straight is not None
        self.assertEqual((straight.x, straight.x_power, straight.x_title), ("power", 2, "t²"))
        self.assertIn("straight already", analyse(replace(state, fits=(FitState("A", "line"),))).straight_refusal)


class TooLong(ApiCase):
    def test_a_formula_that_is_too_long_is_kept_as_typed_and_told(self) -> None:
        study = self.new()
        self.change(study, 0, kind="set_cells", row=0, column=0, block=[["1", "2"], ["2", "3.1"], ["3", "4"]])
        text = "a*x" + "+x" * 300
        state = self.change(study, 1, kind="set_fit", letter="A", family="formula", options={"text": text})
        fit = state["analysis"]["fits"][0]
        self.assertEqual(fit["options"]["text"], text)
        self.assertIn("603 characters; 500 at most", fit["refusal"])
        column = self.change(study, 2, kind="add_column", role="other", name="long", formula="x" + "+x" * 300)[
            "columns"
        ][-1]
        self.assertIn("500 at most", column["problem"])


class AnotherNameForTheVariable(ApiCase):
    def test_what_is_meant_is_proposed_and_taken_at_one_press(self) -> None:
        study = self.new()
        self.change(study, 0, kind="set_cells", row=0, column=0, block=[["1", "2"], ["2", "3.1"], ["3", "4"]])
        x = self.read(f"/studies/{study}")["columns"][0]["key"]
        self.change(study, 1, kind="edit_column", key=x, name="time", symbol="T")
        state = self.change(study, 2, kind="set_fit", letter="A", family="formula", options={"text": "v*time+b"})
        fit = state["analysis"]["fits"][0]
        self.assertIn("T does not occur in the formula. Does time stand for T, time?", fit["refusal"])
        (action,) = [one for one in fit["actions"] if one["label"] == "Use T for time"]
        fit = self.change(study, 3, **action["change"])["analysis"]["fits"][0]
        self.assertEqual([one["name"] for one in fit["parameters"]], ["v", "b"])
        fit = self.change(study, 4, kind="set_fit", letter="A", options={"text": "y(t) = m*t + c"})["analysis"]["fits"][
            0
        ]
        self.assertEqual([one["name"] for one in fit["parameters"]], ["m", "c"])
