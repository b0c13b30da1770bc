"""What is asked of fits: lists, every solution, every fit, features; and answers that are kept and follow."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from scipy.integrate import quad

from ridge.core.decimal_sign import written_with
from ridge.core.fitting.effort import UNCHECKED
from ridge.core.wording.clock import clock_text
from ridge.studies.analysis.fits import fit_all
from ridge.studies.content.changes import ChangeRefused, read_change
from ridge.studies.content.fields import Direction
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import AnswerState, FitState, Question, StudyState
from ridge.studies.words.analyse import analyse
from ridge.studies.words.answers import answer
from ridge.studies.words.schemas import AnswerOut
from tests.api.test_api import ApiCase
from tests.api.test_columns import column, study
from tests.fits import computed, drawn

X = np.linspace(0, 10, 21)
Y = (X - 4) ** 2 / 2 - 3 + 0.1 * np.sin(7 * X)


def parabola(*fits: FitState) -> StudyState:
    texts = " ".join(map(repr, X.tolist())), " ".join(map(repr, np.round(Y, 4).tolist()))
    chosen = fits or (FitState("A", "polynomial"), FitState("B", "line"))
    return study(column("t", "x", texts[0], unit="s"), column("h", "y", texts[1], unit="m"), fits=chosen)


def ask(state: StudyState, direction: Direction, given: str = "", **more: Any) -> AnswerOut:
    table = read_table(state)
    return answer(fit_all(table, state.fits), Question(direction, given, **more), state.level, table.naming)


def loose_decay(*answers: AnswerState) -> StudyState:
    """So few and loose readings of an exponential that ± standard errors mislead."""
    texts = "0 0.8 1.6 2.4 3.2 4", "11.2 5.1 6.4 0.2 3.9 1.4"
    one = study(
        column("t", "x", texts[0], unit="s"), column("h", "y", texts[1], unit="m"), fits=(FitState("A", "exponential"),)
    )
    return replace(one, answers=answers)


class LimitsThatAreNoPlusMinus(SimpleTestCase):
    def test_parameter_answer_and_caution_say_so(self) -> None:
        found = analyse(loose_decay(AnswerState("a", "y_at_x", "8")))
        fit, said = found.fits[0], found.answers[0]
        self.assertEqual([one.asymmetric for one in computed(fit).parameters if one.name == "k"], [True])
        self.assertIn("asymmetric", [one.code for one in drawn(fit).cautions])
        self.assertIn("(95\u00a0% prediction interval ", said.result)
        self.assertIn("± standard errors would be misleading", said.sentence)
        assert said.mark is not None and said.mark.y_low is not None and said.mark.y_high is not None
        self.assertGreater(said.mark.y_high - said.mark.y, said.mark.y - said.mark.y_low)

    def test_a_preview_spares_the_refits(self) -> None:
        found = analyse(loose_decay(AnswerState("a", "y_at_x", "8")), refits=UNCHECKED)
        self.assertFalse(any(one.asymmetric for one in computed(found.fits[0]).parameters))
        self.assertNotIn("mislead", found.answers[0].sentence)

    def test_in_a_table_of_answers(self) -> None:
        rows = ask(loose_decay(), "y_at_x", "1, 8").rows
        self.assertIn(" to ", rows[0].new)
        self.assertIn(" to ", rows[1].curve)


class Asking(SimpleTestCase):
    def test_a_list_and_a_range_with_both_intervals(self) -> None:
        found = ask(parabola(), "y_at_x", "1, 2 to 4 step 1")
        self.assertEqual([row.asked for row in found.rows], [f"t = {n}\u00a0s" for n in (1, 2, 3, 4)])
        self.assertTrue(all(" to " in row.curve and " to " in row.new for row in found.rows))
        one = ask(parabola(), "y_at_x", "3")
        self.assertEqual(found.rows[2].result, one.result.partition(" (")[0])
        self.assertIn(found.rows[2].new.removesuffix("\u00a0m"), one.result)
        self.assertEqual(ask(parabola(), "y_at_x", "3", fit="all").result, "1 value of h, from every fit")
        self.assertEqual(found.result, "4 values of h, from A")

    def test_several_y_are_averaged_only_where_that_is_said(self) -> None:
        single = [ask(parabola(), "x_at_y", text) for text in ("-2.2", "-0.5", "1.3")]
        apart = ask(parabola(), "x_at_y", "-2.2; -0.5; 1.3")
        self.assertEqual([row.result for row in apart.rows], [one.result for one in single])
        self.assertEqual([row.asked for row in apart.rows], [one.asked for one in single])
        self.assertEqual(apart.result, "3 values of t, from A")
        together = ask(parabola(), "x_at_y", "-2.2; -0.5; 1.3", repeats=3)
        self.assertIn("the mean of 3 readings", together.asked)

    def test_a_curve_adjusted_by_hand_gives_values_without_intervals(self) -> None:
        hand = FitState("A", "polynomial", by_hand=True, values={"c0": 5.0, "c1": -4.0, "c2": 0.5})
        asked: list[tuple[Direction, str]] = [
            ("y_at_x", "3"),
            ("x_at_y", "5"),
            ("tangent", "6"),
            ("area", "2 to 8"),
            ("roots", ""),
            ("turning", ""),
        ]
        for direction, given in asked:
            with self.subTest(direction):
                found = ask(parabola(hand), direction, given)
                results: list[Any] = [found, *found.rows]
                for one in results:
                    self.assertTrue(one.result.endswith("(adjusted by hand)"), one.result)
                    self.assertEqual(
                        {(number.low, number.high) for number in one.numbers} | {(None, None)}, {(None, None)}
                    )
                    self.assertTrue(all(number.limits == "adjusted by hand" for number in one.numbers))
                    self.assertNotIn("CI", one.result)
        self.assertEqual(ask(parabola(hand), "y_at_x", "3.333").short, "\u22122.778\u00a0m")
        listed = ask(parabola(hand), "y_at_x", "1, 2")
        self.assertEqual([(row.curve, row.new) for row in listed.rows], [("", "")] * 2)
        self.assertTrue(all("adjusted by hand" in row.result for row in listed.rows))

    def test_a_saved_prediction_is_unchanged_in_either_decimal_sign(self) -> None:
        said = {}
        for sign in ("point", "comma"):
            with written_with(sign):
                said[sign] = ask(parabola(), "y_at_x", "3.5").result
        self.assertNotEqual(said["point"], said["comma"])
        for was in said.values():
            kept = AnswerState("k", "y_at_x", "3.5", was=was)
            for sign in ("point", "comma"):
                with written_with(sign):  # type: ignore[arg-type]
                    self.assertEqual(analyse(replace(parabola(), answers=(kept,))).answers[0].was, "")

    def test_every_fit_side_by_side(self) -> None:
        state = parabola(FitState("A", "polynomial"), FitState("B", "line"), FitState("C", "interpolation"))
        found = ask(state, "y_at_x", "3", fit="all")
        self.assertEqual([row.letter for row in found.rows], ["A", "B", "C"])
        self.assertEqual(found.rows[2].new, "")
        self.assertEqual(ask(state, "y_at_x", "3", fit="B").result.partition(" (")[0], found.rows[1].result)
        # A line that never takes the value says so in its row; the others answer.
        low = ask(state, "x_at_y", "-2.5", fit="all")
        self.assertEqual(low.rows[0].problem, "")

    def test_every_x_of_a_y(self) -> None:
        found = ask(parabola(), "x_at_y", "5")
        self.assertEqual(len(found.rows), 2)
        # The parabola takes 5 at 4 ± 4, give or take the ripple: the first one inside the readings is the answer.
        self.assertIn("t = 0.0", found.result)
        self.assertIn("t = 8.00\u00a0s (95\u00a0% CI ", found.rows[1].result)
        self.assertIn("One more t with that h", found.sentence)
        self.assertIn("the curve never takes", ask(parabola(), "x_at_y", "-50").problem.lower())

    def test_features_against_scipy_and_the_parabola(self) -> None:
        state = parabola()
        c0, c1, c2 = np.polyfit(X, np.round(Y, 4), 2)[::-1]
        slope = ask(state, "tangent", "6")
        self.assertAlmostEqual(float(slope.full), c1 + 12 * c2, places=8)
        self.assertAlmostEqual(slope.mark.slope if slope.mark and slope.mark.slope else 0, c1 + 12 * c2, places=8)
        self.assertTrue(slope.result.startswith("slope ") and "m/s" in slope.result)
        area = ask(state, "area", "2 to 8")
        expected = quad(lambda t: c0 + c1 * t + c2 * t * t, 2, 8)[0]
        self.assertAlmostEqual(float(area.full), expected, places=8)
        self.assertIn("m·s", area.result)
        turning = ask(state, "turning")
        self.assertAlmostEqual(float(turning.full), -c1 / (2 * c2), places=8)
        self.assertIn("minimum at", turning.result)
        roots = ask(state, "roots")
        self.assertEqual(len(roots.rows), 2)
        self.assertIn("none within", ask(state, "inflexions").problem)
        self.assertEqual(len(ask(state, "crossing", "B").rows), 2)

    def test_what_cannot_be_asked(self) -> None:
        state = parabola()
        asked: tuple[tuple[Direction, str, str], ...] = (
            ("y_at_x", "soon", "is not a number"), ("tangent", "1, 2", "One t at a time"), ("area", "5", "needs two t"),
            ("crossing", "A", "another fit"), ("crossing", "F", "another fit"), ("y_at_x", "1 to 9 step -1", "do not lead"),
        )  # fmt: skip
        for direction, given, said in asked:
            self.assertIn(said, ask(state, direction, given).problem, direction)
        spline = parabola(FitState("A", "interpolation"))
        self.assertIn("choose a fit", ask(spline, "turning").problem)
        self.assertIn("no answer until", ask(study(column("t", "x", ""), column("h", "y", "")), "y_at_x", "1").problem)

    def test_outside_the_domain_and_beyond(self) -> None:
        state = parabola(FitState("A", "logarithmic", options={"shift": True}))
        self.assertIn("no value at t", ask(state, "y_at_x", "-1e6").problem)
        far = ask(parabola(), "y_at_x", "20")
        self.assertIn("1.0 times the measured range", far.place)
        self.assertIn("turns the curve steeply up", far.beyond_says)


class OnAClock(SimpleTestCase):
    """A column read off a clock takes and shows clock readings wherever its values are asked or told."""

    @staticmethod
    def tide(unit: str = "h:min") -> StudyState:
        cells = "0:00 2:00 4:00 6:00 8:00 10:00" if unit == "h:min" else "0 2 4 6 8 10"
        return study(column("t", "x", cells, unit=unit), column("h", "y", "1.0 1.9 3.1 4.0 5.0 6.1", unit="m"))

    def test_the_ask_line_takes_what_the_column_takes(self) -> None:
        clock, plain = self.tide(), self.tide("h")
        for typed, number in (
            ("30:00", "30"),
            ("6:30", "6.5"),
            ("6.5", "6.5"),
            ("0:45 to 3:45 step 1:30", "0.75 to 3.75 step 1.5"),
        ):
            for direction in ("y_at_x", "tangent"):
                found, wanted = ask(clock, direction, typed), ask(plain, direction, number)
                self.assertEqual(
                    (found.problem, found.numbers, found.mark), (wanted.problem, wanted.numbers, wanted.mark), typed
                )
        self.assertEqual(ask(clock, "y_at_x", "6:30").asked, "t = 6:30")
        self.assertEqual(ask(clock, "area", "1:30 to 4:15").asked, "Area under A from t = 1:30 to 4:15")
        self.assertEqual(ask(clock, "area", "1:30 to 4:15").numbers, ask(plain, "area", "1.5 to 4.25").numbers)
        self.assertIn("is not a time as h:min", ask(clock, "y_at_x", "6:75").problem)
        self.assertIn("clock time", ask(plain, "y_at_x", "6:30").problem)

    def test_what_is_found_is_shown_on_the_clock_as_well(self) -> None:
        found = ask(self.tide(), "x_at_y", "3.5")
        assert found.mark is not None
        minutes = round(found.mark.x * 60, 3)
        self.assertIn(f"({int(minutes // 60)}:{minutes % 60:06.3f}".rstrip("0"), found.result)
        self.assertIn("; 95\u00a0% CI ", found.result)
        self.assertIn("h (95\u00a0% CI ", ask(self.tide("h"), "x_at_y", "3.5").result)

    def test_the_range_of_a_fit(self) -> None:
        state = replace(self.tide(), fits=(FitState("A", "line", x_range=(1.5, 8.25)),))
        self.assertIn("Only t from 1:30 to 8:15 is used.", analyse(state).fits[0].range_text)

    def test_every_kind_of_clock_text(self) -> None:
        for value, unit, text in (
            (13.5, "h:min", "13:30"), (-0.25, "h:min", "−0:15"), (0.0, "min:s", "0:00"), (1.5083333333333333, "min:s", "1:30.5"),
            (26.0, "h:min:s", "26:00:00"), (1 / 3600, "h:min:s", "0:00:01"), (59.9999999, "min:s", "60:00"), (1.999999999, "h:min:s", "2:00:00"),
        ):  # fmt: skip
            self.assertEqual(clock_text(value, unit), text)


class Keeping(ApiCase):
    def test_kept_named_moved_and_told_when_it_changes(self) -> None:
        key = self.new(sample="draining-bucket")
        state = self.read(f"/studies/{key}")
        version = state["version"]
        asked = self.post(f"/studies/{key}/ask", {"direction": "turning"})
        kept = self.change(key, version, kind="keep_answer", direction="turning", was=asked["result"])
        mine = kept["analysis"]["answers"][-1]
        self.assertEqual((mine["result"], mine["was"]), (asked["result"], ""))
        moved = self.change(key, version + 1, kind="set_answer", key=mine["key"], name="empty", to=0)
        self.assertEqual(moved["analysis"]["answers"][0]["name"], "empty")
        after = self.change(key, version + 2, kind="set_cells", row=3, column=1, block=[["29"]])
        changed = after["analysis"]["answers"][0]
        self.assertEqual(changed["was"], asked["result"])
        seen = self.change(key, version + 3, kind="set_answer", key=mine["key"], was=changed["result"])
        self.assertEqual(seen["analysis"]["answers"][0]["was"], "")
        back = self.post(f"/studies/{key}/undo", {"version": version + 4})
        self.assertEqual(back["analysis"]["answers"][0]["was"], asked["result"])
        self.change(key, version + 5, kind="keep_answer", direction="y_at_x", given="", status=400)
        self.post(f"/studies/{key}/ask", {"direction": "dance"}, status=422)

    def test_undo_of_removing_brings_all_of_it_back(self) -> None:
        state = build_sample("tide")
        kept = read_change({"kind": "keep_answer", "direction": "area", "given": "0 to 6", "fit": "A", "name": "a"})
        with_it = kept.apply(state).state
        removed = read_change({"kind": "remove_answer", "key": with_it.answers[-1].key}).apply(with_it)
        self.assertEqual(read_change(removed.inverse.stored()).apply(removed.state).state.answers, with_it.answers)
        with self.assertRaises(ChangeRefused):
            read_change({"kind": "set_answer", "key": "gone"}).apply(state)
        self.assertEqual(analyse(with_it).answers[-1].name, "a")
