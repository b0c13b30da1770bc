"""Curves set by hand, known curves and interpolations; what can be done with a fit; remedies; the formula editor."""

from __future__ import annotations

import time
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from scipy.interpolate import CubicSpline

from ridge.studies.analysis.fits import fit_one
from ridge.studies.content.changes import ChangeRefused, read_change
from ridge.studies.content.readable import apply_sound
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.words.analyse import analyse
from ridge.studies.words.comparison_words import comparison_of, without_reading
from ridge.studies.words.fit_schemas import FitOut, RefusedFit
from ridge.studies.words.formula_editor import look_at
from tests.api.test_api import ApiCase
from tests.api.test_columns import column, study
from tests.fits import (
    by_hand,
    change_of,
    computed,
    curve_of,
    difference_of,
    drawn,
    fitted,
    refusal_of,
    refused,
    through_all,
)

SOUP = build_sample("can-of-soup")


def done(state: StudyState, **change: Any) -> StudyState:
    return apply_sound(read_change(change), state).state


def only(state: StudyState) -> FitOut:
    return analyse(state).fits[0]


def of(*fits: FitState, x: str = "0 1 2 3 4 5 6", y: str = "1 2.2 2.8 4.1 5.2 5.8 7.1") -> StudyState:
    return study(column("t", "x", x), column("h", "y", y), fits=fits or (FitState("A", "line"),))


class ByHand(SimpleTestCase):
    def test_it_begins_with_values_read_off_and_is_refined_from_there(self) -> None:
        state = done(SOUP, kind="set_fit", letter="A", family="exponential", options={"level": True}, by_hand=True)
        hand = only(state)
        self.assertEqual((hand.kind, hand.name), ("hand", "exponential with level, by hand"))
        self.assertEqual([h.name for h in by_hand(hand).handles], ["a", "k", "c"])
        self.assertEqual([g.name for g in by_hand(hand).grips], ["begin", "bend", "level"])
        self.assertEqual(drawn(hand).cautions, [])
        turned = done(state, kind="set_fit", letter="A", values={"a": 60.0, "k": -0.05, "c": 20.0})
        np.testing.assert_allclose(by_hand(only(turned)).handles[2].value, 20.0)
        refined = done(turned, kind="refine_fit", letter="A", keep=True)
        first, beside = analyse(refined).fits
        self.assertEqual((first.kind, beside.kind, beside.letter), ("fit", "hand", "B"))
        best = only(done(SOUP, kind="set_fit", letter="A", family="exponential", options={"level": True}))
        self.assertEqual(computed(first).equation_text, computed(best).equation_text)
        self.assertTrue(first.started)
        self.assertIn("from A", difference_of(beside).sentence)

    def test_a_grip_is_moved(self) -> None:
        state = done(of(), kind="set_fit", letter="A", by_hand=True)
        moved = done(state, kind="move_grip", letter="A", grip="shift", x=3.0, y=5.0)
        line = fit_one(read_table(moved), moved.fits[0]).fit
        assert line is not None
        self.assertAlmostEqual(float(line.evaluate([3.0])[0]), 5.0, delta=0.01)
        with self.assertRaises(ChangeRefused):
            done(state, kind="move_grip", letter="A", grip="vertex", x=3.0, y=5.0)

    def test_the_nearest_minimum_is_not_always_the_best(self) -> None:
        """A sinusoid begun far too fast settles on a poor minimum; that is said, and the better one is a press away."""
        x = np.linspace(0, 20, 41)
        y = 3 * np.sin(0.9 * x + 0.4) + 10
        text = " ".join(map(repr, x.tolist())), " ".join(map(repr, np.round(y, 3).tolist()))
        state = of(FitState("A", "sinusoid", values={"angular_frequency": 3.0}), x=text[0], y=text[1])
        caution = drawn(only(state)).cautions[0]
        self.assertEqual(caution.code, "better-elsewhere")
        better = only(done(state, **change_of(caution.actions[0])))
        self.assertNotIn("better-elsewhere", [one.code for one in drawn(better).cautions])

    def test_x_in_degrees_is_an_angle_in_a_typed_formula(self) -> None:
        """Malus's law on angles in degrees: without conversion sin would take them for radians."""
        angles = np.arange(0, 100, 10)
        light = np.round(5 * np.cos(np.radians(angles)) ** 2 + 0.3, 3)
        text = " ".join(map(str, angles)), " ".join(map(str, light))
        state = study(column("w", "x", text[0], unit="°"), column("I", "y", text[1]), fits=(FitState("A", "line"),))
        for formula, option in (
            ("a*cos(w)^2 + c", True), ("a*cos(w*pi/180)^2 + c", None), ("a*cos(w/180*3.141592653589793)^2 + c", None), ("a*w + c", None),
        ):  # fmt: skip
            typed = done(state, kind="set_fit", letter="A", family="formula", options={"text": formula})
            self.assertEqual(typed.fits[0].options.get("degrees"), option, formula)
            if "cos" in formula:
                found = fit_one(read_table(typed), typed.fits[0]).fit
                assert found is not None
                self.assertAlmostEqual(found.values["a"], 5, 2)
        chosen = done(
            state, kind="set_fit", letter="A", family="formula", options={"text": "a*cos(w)^2", "degrees": False}
        )
        self.assertFalse(chosen.fits[0].options["degrees"])
        again = done(chosen, kind="set_fit", letter="A", options={"text": "a*cos(w)^2 + c"})
        self.assertFalse(again.fits[0].options["degrees"])
        metres = study(column("w", "x", text[0], unit="m"), column("I", "y", text[1]), fits=(FitState("A", "line"),))
        self.assertNotIn(
            "degrees",
            done(metres, kind="set_fit", letter="A", family="formula", options={"text": "a*cos(w)"}).fits[0].options,
        )

    def test_copied_rows_are_set_aside_at_a_press(self) -> None:
        state = of(x="0 1 2 3 4 5 6 " * 2, y="1 2.2 2.8 4.1 5.2 5.8 7.1 " * 2)
        caution = next(one for one in drawn(only(state)).cautions if one.code == "copied-rows")
        self.assertEqual(caution.rows, list(range(7, 14)))
        once = done(state, **change_of(caution.actions[0]))
        self.assertEqual(only(once).parameters, only(of()).parameters)  # type: ignore[union-attr]
        self.assertNotIn("copied-rows", [one.code for one in drawn(only(once)).cautions])

    def test_undo_puts_everything_back(self) -> None:
        fit = FitState("A", "line", bounds={"slope": (0.0, None)}, x_range=(1.0, 4.0), name="first", hidden=True)
        state = of(fit)
        for change in (
            {"kind": "set_fit", "letter": "A", "by_hand": True, "values": {"slope": 1.0, "intercept": 0.0}},
            {"kind": "set_fit", "letter": "A", "x_range": [], "bounds": {}, "name": "", "hidden": False},
            {"kind": "duplicate_fit", "letter": "A"},
        ):
            outcome = read_change(change).apply(state)
            back = read_change(outcome.inverse.stored()).apply(outcome.state).state
            self.assertEqual(back.fits, state.fits)


class WholeFits(SimpleTestCase):
    def test_a_known_curve_and_its_difference(self) -> None:
        state = of(FitState("A", "line"), FitState("B", "formula", options={"text": "t + 1"}))
        known = analyse(state).fits[1]
        self.assertEqual((known.kind, known.name), ("known", "known curve"))
        self.assertIn("nothing was fitted", drawn(known).method)
        self.assertTrue(difference_of(known).sentence)
        self.assertIsNone(curve_of(known).low[0])

    def test_names_hiding_order_and_copies(self) -> None:
        state = of(FitState("A", "line"), FitState("B", "polynomial"))
        state = done(state, kind="set_fit", letter="B", name="my parabola", hidden=True)
        hidden = analyse(state).fits[1]
        self.assertEqual((hidden.label, drawn(hidden).curve), ("my parabola", None))
        state = done(state, kind="move_fit", letter="B", to=0)
        self.assertEqual([fit.letter for fit in state.fits], ["B", "A"])
        state = done(state, kind="duplicate_fit", letter="B")
        self.assertEqual((state.fits[2].letter, state.fits[2].name), ("C", "my parabola (copy)"))
        full = of(*(FitState(letter, "line") for letter in "ABCDEF"))
        with self.assertRaises(ChangeRefused):
            done(full, kind="duplicate_fit", letter="A")

    def test_bounds_and_ranges(self) -> None:
        state = done(of(), kind="set_fit", letter="A", bounds={"slope": [None, 0.5]})
        bounded = only(state)
        self.assertIn("at-bound", [one.code for one in drawn(bounded).cautions])
        caution = next(one for one in drawn(bounded).cautions if one.code == "at-bound")
        self.assertEqual(only(done(state, **change_of(caution.actions[0]))).bounds, [])
        part = only(done(of(), kind="set_fit", letter="A", x_range=[1.0, 4.0]))
        self.assertEqual(
            (drawn(part).measured.low, drawn(part).measured.high) if drawn(part).measured else (), (1.0, 4.0)
        )
        for bad in (
            {"x_range": [2.0]},
            {"x_range": [3.0, 1.0]},
            {"bounds": {"slope": [2.0, 1.0]}},
            {"values": {"k": 1.0}},
        ):
            with self.assertRaises(ChangeRefused):
                done(of(), kind="set_fit", letter="A", **bad)

    def test_a_term_is_left_out(self) -> None:
        state = of(FitState("A", "polynomial", options={"degree": 2, "terms": [2]}))
        self.assertEqual([p.name for p in computed(only(state)).parameters], ["c2"])
        # Another degree begins with all its terms.
        self.assertEqual(
            len(computed(only(done(state, kind="set_fit", letter="A", options={"degree": 3}))).parameters), 4
        )

    def test_the_courses_letters_everywhere(self) -> None:
        state = done(of(), kind="edit_study", letters={"slope": "b", "intercept": "a"}, rising=True)
        fit = only(state)
        self.assertEqual(fit.form_text, "h = a + b·t")
        self.assertEqual([p.symbol for p in computed(fit).parameters], ["b", "a"])

    def test_both_ways_side_by_side(self) -> None:
        state = of(FitState("A", "exponential", method="logarithms"))
        fit = only(state)
        other = fitted(fit).other_way
        assert other is not None
        self.assertEqual(len(other.parameters), 2)
        self.assertIsNone(fitted(only(of(FitState("A", "exponential")))).other_way)


class Rounding(SimpleTestCase):
    def test_decimals_are_shown_told_undone_and_forgotten_with_the_parameter(self) -> None:
        state = of()
        safe = only(state)
        coarse = done(state, kind="set_fit", letter="A", decimals={"slope": 0, "intercept": 0})
        fit = only(coarse)
        self.assertEqual(computed(fit).equation_text, "h = t + 1")
        self.assertEqual(
            (computed(fit).safe_text, computed(fit).safe_latex),
            (computed(safe).equation_text, computed(safe).equation_latex),
        )
        self.assertIn("differs by up to", fitted(fit).rounding_cost)
        self.assertEqual([one.shown for one in fitted(fit).decimals], [0, 0])
        self.assertEqual([one.safe for one in fitted(fit).decimals], [one.shown for one in fitted(safe).decimals])
        outcome = read_change({"kind": "set_fit", "letter": "A", "decimals": {}}).apply(coarse)
        self.assertEqual(computed(only(outcome.state)).equation_text, computed(safe).equation_text)
        self.assertEqual(computed(only(outcome.inverse.apply(outcome.state).state)).equation_text, "h = t + 1")
        self.assertEqual(done(coarse, kind="set_fit", letter="A", family="exponential").fits[0].decimals, {})
        with self.assertRaises(ChangeRefused):
            done(state, kind="set_fit", letter="A", decimals={"phase": 1})

    def test_decimals_and_significant_digits_are_told_in_each_other(self) -> None:
        fit = only(of(y="1001 1002.2 1002.8 1004.1 1005.2 1005.8 1007.1"))
        for one, parameter in zip(fitted(fit).decimals, computed(fit).parameters, strict=True):
            rounded = round(parameter.number, 3 + one.significant)
            self.assertEqual(rounded, float(f"{parameter.number:.3g}"))


class InLogarithms(SimpleTestCase):
    def test_a_model_that_is_no_line_there_is_fitted_in_y(self) -> None:
        logs = done(SOUP, kind="set_fit", letter="A", method="logarithms")
        fit = only(logs)
        self.assertTrue(computed(fit).typical_miss.endswith("°C"))
        self.assertGreater(
            float(computed(fit).typical_miss.split("\u00a0")[0]),
            float(computed(only(SOUP)).typical_miss.split("\u00a0")[0]),
        )
        with_level = done(logs, kind="set_fit", letter="A", family="exponential", options={"level": True})
        self.assertEqual(with_level.fits[0].method, "y")
        self.assertEqual(refusal_of(only(with_level)), "")
        with self.assertRaises(ChangeRefused):
            done(with_level, kind="set_fit", letter="A", method="logarithms")


class Interpolating(SimpleTestCase):
    def test_the_numbers_are_scipys(self) -> None:
        state = of(FitState("A", "interpolation", options={"kind": "cubic-spline", "ends": "not-a-knot"}))
        found = only(state)
        self.assertFalse({"r_squared", "residuals", "parameters"} & set(found.model_dump()))
        self.assertIn("no R²", drawn(found).method)
        self.assertEqual(len(through_all(found).pieces), 6)
        curve = curve_of(found)
        x, y = [0, 1, 2, 3, 4, 5, 6], [1, 2.2, 2.8, 4.1, 5.2, 5.8, 7.1]
        np.testing.assert_allclose(np.array(curve.y, dtype=float), CubicSpline(x, y)(curve.x), atol=1e-9)

    def test_repeats_are_averaged_when_asked(self) -> None:
        state = of(FitState("A", "interpolation", options={"kind": "linear"}), x="0 1 1 2", y="0 1 3 4")
        refusal = refused(only(state))
        self.assertIn("occur more than once", refusal.refusal)
        averaged = only(done(state, **change_of(refusal.actions[0])))
        self.assertIn("repeats-averaged", [one.code for one in drawn(averaged).cautions])

    def test_one_polynomial_through_many_and_its_remedy(self) -> None:
        x = " ".join(str(i) for i in range(20))
        y = " ".join(str((i * 7) % 5) for i in range(20))
        state = of(FitState("A", "interpolation", options={"kind": "polynomial"}), x=x, y=y)
        caution = next(one for one in drawn(only(state)).cautions if one.code == "many-nodes-one-polynomial")
        self.assertEqual(only(done(state, **change_of(caution.actions[0]))).name, "cubic spline, natural ends")

    def test_it_has_no_parameters(self) -> None:
        state = of(FitState("A", "interpolation"))
        for bad in ({"by_hand": True}, {"fixed": {"a": 1.0}}, {"method": "orthogonal"}):
            with self.assertRaises(ChangeRefused):
                done(state, kind="set_fit", letter="A", **bad)


class Remedies(SimpleTestCase):
    def actions(self, state: StudyState) -> dict[str, dict[str, Any]]:
        fit = only(state)
        found = fit.actions if isinstance(fit, RefusedFit) else [a for c in fit.cautions for a in c.actions]
        return {one.label: change_of(one) for one in found}

    def test_each_remedy_mends_what_it_says(self) -> None:
        redundant = of(FitState("A", "formula", options={"text": "a*b*t + c"}))
        label, change = next(iter(self.actions(redundant).items()))
        self.assertRegex(label, r"^Fix [ab] at ")
        self.assertNotIn("not-identifiable", [c.code for c in drawn(only(done(redundant, **change))).cautions])
        logs = of(FitState("A", "logarithmic"))
        actions = self.actions(logs)
        self.assertEqual(set(actions), {"Allow a shift", "Set row 1 aside"})
        for change in actions.values():
            self.assertEqual(refusal_of(only(done(logs, **change))), "")
        gone = of(FitState("A", "line", series="pier"))
        self.assertEqual(refusal_of(only(done(gone, **self.actions(gone)["Fit to all series"]))), "")
        falling = " ".join(str(9 - 0.4 * i) for i in range(15)), " ".join(map(str, range(15)))
        bent = of(FitState("A", "formula", options={"text": "a*t"}), x=falling[1], y=falling[0])
        self.assertEqual(only(done(bent, **self.actions(bent)["Add a constant term: + c"])).options["text"], "a*t + c")
        high = of(FitState("A", "polynomial", options={"degree": 4}))
        self.assertEqual(only(done(high, **self.actions(high)["Lower the degree to 3"])).name, "cubic")

    def test_a_failing_formula_is_explained_in_the_experts_order(self) -> None:
        broken = only(of(FitState("A", "formula", options={"text": "a*ln(t) + b"})))
        self.assertEqual([c.state for c in refused(broken).checklist][:2], ["cause", "open"])
        self.assertEqual(refused(only(of(FitState("A", "formula", options={"text": ""})))).checklist, [])


class Comparing(ApiCase):
    def test_fits_side_by_side(self) -> None:
        state = of(FitState("A", "line"), FitState("B", "polynomial"), FitState("C", "interpolation"))
        found = comparison_of(state)
        self.assertEqual([fit.letter for fit in found.fits], ["A", "B"])
        self.assertEqual([(n.smaller, n.larger) for n in found.nested], [("A", "B")])
        names = [c.name for c in found.criteria]
        for fit in found.fits:
            self.assertFalse(fit.values[names.index("r_squared")].best)
        self.assertEqual(sum(fit.values[names.index("aicc")].best for fit in found.fits), 1)
        self.assertEqual([rung.degree for rung in found.ladder], [1, 2, 3, 4, 5, 6])
        shares = [rung.r_squared or 0 for rung in found.ladder]
        self.assertEqual(shares, sorted(shares))

    def test_other_readings_are_not_compared(self) -> None:
        state = of(FitState("A", "line"), FitState("B", "line", x_range=(0.0, 4.0)))
        found = comparison_of(state)
        self.assertIn("not made to the same readings", found.remark)
        self.assertFalse(any(value.best for fit in found.fits for value in fit.values))

    def test_without_a_reading(self) -> None:
        found = without_reading(of(y="1 2.2 2.8 4.1 5.2 5.8 9.1"), "A", 6)
        assert found is not None and found.curve is not None
        x, y = np.arange(6.0), np.array([1, 2.2, 2.8, 4.1, 5.2, 5.8])
        expected = np.polyval(np.polyfit(x, y, 1), found.curve.x)
        np.testing.assert_allclose(np.array(found.curve.y, dtype=float), expected, atol=1e-9)
        self.assertIsNone(without_reading(of(), "A", 99))
        self.assertIsNone(without_reading(of(), "F", 0))
        hand = without_reading(of(FitState("A", "line", by_hand=True)), "A", 0)
        self.assertIn("Nothing is fitted here", hand.sentence if hand else "")
        bounded = without_reading(of(FitState("A", "line", bounds={"slope": (None, 0.5)})), "A", 6)
        assert bounded is not None and bounded.curve is not None
        steps = np.diff(np.array(bounded.curve.y, dtype=float)) / np.diff(bounded.curve.x)
        np.testing.assert_allclose(steps, 0.5)  # what ran against its bound stays there
        two = without_reading(of(x="1 2", y="1 2"), "A", 0)
        self.assertIn("there is no fit", two.sentence if two else "")

    def test_through_the_api(self) -> None:
        key = self.new(sample="can-of-soup")
        self.assertEqual(len(self.read(f"/studies/{key}/comparison")["fits"]), 1)
        self.assertIn("Without row 1", self.read(f"/studies/{key}/without/A/0")["sentence"])
        self.read(f"/studies/{key}/without/F/0", status=404)
        look = self.post(f"/studies/{key}/formula", {"letter": "B", "text": "p*exp(-q*t)+r"})
        self.assertEqual(look["parameters"], ["p", "q", "r"])
        self.assertIn("exp", [one["name"] for one in self.read("/formula_names")])


class Previews(ApiCase):
    """What a live gesture gets: the readings are sent again only where the change touches them."""

    def preview(self, key: str, version: int, **change: Any) -> Any:
        return self.post(f"/studies/{key}/preview", {"version": version, "change": change})

    def test_readings_are_left_out_where_they_stay(self) -> None:
        key = self.new(sample="can-of-soup")
        stored = self.read(f"/studies/{key}")
        turned = self.preview(key, 0, kind="set_fit", letter="A", by_hand=True, values={"a": 60, "k": -0.03})
        self.assertTrue(turned["same_readings"])
        self.assertEqual((turned["x"], turned["status"], turned["y_error"]), ([], [], None))
        self.assertEqual(len(turned["fits"][0]["residuals"]), len(stored["analysis"]["x"]))
        moved = self.preview(key, 0, kind="set_cells", row=1, column=1, block=[["70"]])
        self.assertFalse(moved["same_readings"])
        self.assertEqual(moved["y"][1], 70)
        aside = self.preview(key, 0, kind="mark_rows", marks=[{"row": 1, "reason": "?"}])
        self.assertFalse(aside["same_readings"])
        self.assertEqual(self.read(f"/studies/{key}")["version"], 0)

    def test_a_table_is_not_remembered_beyond_what_it_was_read_from(self) -> None:
        state = of()
        first = read_table(state)
        self.assertIs(read_table(done(state, kind="set_fit", letter="A", family="power")), first)
        renamed = done(state, kind="edit_column", key="t", unit="s")
        self.assertEqual(read_table(renamed).naming.x_unit, "s")
        self.assertEqual(read_table(done(state, kind="edit_study", rising=True)).naming.rising, True)
        self.assertEqual(read_table(done(state, kind="mark_rows", marks=[{"row": 0, "reason": ""}])).readings.n, 6)


class FormulaEditor(SimpleTestCase):
    def test_a_mistake_has_its_place(self) -> None:
        look = look_at(of(), "A", "a*(t + b", False, None)
        self.assertIn("bracket", look.problem)
        self.assertEqual((look.latex, look.parameters), ("", []))
        self.assertIsNotNone(look.position)
        self.assertIn("Type a formula", look_at(of(), "A", "  ", False, None).problem)

    def test_checks_while_typing(self) -> None:
        codes = {n.code for n in look_at(of(), "A", "a*ln(t) + e*sinn", False, None).notes}
        self.assertEqual(codes, {"euler", "like-a-function", "undefined"})
        undefined = next(n for n in look_at(of(), "A", "a*ln(t)", False, None).notes if n.code == "undefined")
        self.assertEqual(undefined.rows, [0])
        self.assertEqual(look_at(of(), "A", "2*t + 1", False, None).parameters, [])

    def test_a_part_on_its_own(self) -> None:
        look = look_at(of(), "A", "a*exp(-k*t) + b", False, 1)
        assert look.part is not None
        self.assertEqual(look.parts[0], "a*exp(-k*t) + b")
        self.assertEqual(len(look.part.values), 7)
        self.assertEqual(look.part.values[0], "1")  # parameters that nothing is known of are one

    def test_an_edit_keeps_the_values_of_its_parameters(self) -> None:
        state = of(FitState("A", "line"))
        look = look_at(state, "A", "slope*t + intercept + q", False, 0)
        assert look.part is not None
        fit = fit_one(read_table(state), state.fits[0]).fit
        assert fit is not None
        self.assertAlmostEqual(float(look.part.values[0]), fit.values["intercept"] + 1, places=4)

    def test_hostile_text_ends_soon(self) -> None:
        start = time.monotonic()
        for text in ("((((" * 120, "9^9^9^9^9^9^9*t", "t" * 480, "а*t", "sin(" * 90 + "t"):
            look_at(of(), "A", text[:500], False, 0)
        self.assertLess(time.monotonic() - start, 10)  # two seconds each, by the map
