"""Limits of sense on a column: what is predicted, solved and drawn respects them and says so."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase

from ridge.studies.content.changes import read_change
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.words.analyse import analyse
from ridge.studies.words.remedies import other_model
from tests.api.test_answers import ask
from tests.api.test_api import ApiCase
from tests.api.test_columns import column, study
from tests.fits import computed, curve_of, drawn


def falling(
    lowest: str = "", highest: str = "", x_lowest: str = "", x_highest: str = "", exponent: int = 0
) -> StudyState:
    """A level that falls along a line, and a quadratic through it."""
    t = replace(
        column("t", "x", "0 1 2 3 4 5 6 7", unit="s"), lowest=x_lowest, highest=x_highest, limits_why="the clip ends"
    )
    h = column("h", "y", "8.1 7.0 5.9 5.2 4.0 2.9 2.1 1.1", unit="m")
    h = replace(h, lowest=lowest, highest=highest, limits_why="no water below the floor", exponent=exponent)
    return study(t, h, fits=(FitState("A", "line"), FitState("B", "polynomial")))


class Sense(SimpleTestCase):
    def test_a_value_that_makes_no_sense_is_not_given(self) -> None:
        self.assertIn("−", ask(falling(), "y_at_x", "10").result)
        found = ask(falling("0"), "y_at_x", "10")
        self.assertEqual(found.result, "")
        self.assertIn(
            "but h is at least 0\u00a0m (no water below the floor): the model does not hold there", found.problem
        )
        self.assertIn("h is at least 0\u00a0m", ask(falling("0"), "x_at_y", "-1").problem)

    def test_limits_end_where_sense_does(self) -> None:
        found = ask(falling("0"), "y_at_x", "7.9")
        self.assertIn("prediction interval 0.00 to", found.result)
        self.assertIn(
            "They end where h makes sense: h is at least 0\u00a0m (no water below the floor).", found.sentence
        )
        assert found.mark is not None
        self.assertEqual(found.mark.y_low, 0.0)

    def test_x_too(self) -> None:
        self.assertEqual(ask(falling(x_highest="7"), "y_at_x", "9").problem, "t is at most 7\u00a0s (the clip ends).")
        far = ask(falling(x_highest="7"), "x_at_y", "0")
        self.assertIn("only where t makes no sense: t is at most 7\u00a0s (the clip ends)", far.problem)
        first = ask(falling(x_lowest="0", x_highest="7"), "x_at_y", "1.2")
        self.assertIn("The limits end there: t lies between 0\u00a0s and 7\u00a0s (the clip ends).", first.sentence)

    def test_curves_and_features_end_there(self) -> None:
        fit = analyse(falling("0", x_lowest="-0.2")).fits[0]
        self.assertIn(
            "The curve ends where values make no sense any more: t is at least −0.2\u00a0s (the clip ends)",
            fit.range_text,
        )
        curve = curve_of(fit)
        self.assertGreaterEqual(min(curve.x), -0.2)
        self.assertGreaterEqual(min(value for value in curve.y if value is not None), 0.0)
        self.assertGreaterEqual(min(value for value in curve.low if value is not None), 0.0)
        self.assertIn("make sense", ask(falling(x_highest="7"), "roots").problem)

    def test_in_the_unit_of_the_column(self) -> None:
        found = ask(falling("0.5", exponent=-3), "y_at_x", "7.6")
        self.assertIn("0.0005", found.problem + found.sentence)

    def test_what_cannot_be_read_is_said_and_changes_nothing(self) -> None:
        for wrong in (falling("low"), falling("3", "2")):
            table = read_table(wrong)
            self.assertIn("imits of sense", " ".join(table.column_problems.values()))
            self.assertEqual(ask(wrong, "y_at_x", "10").result, ask(falling(), "y_at_x", "10").result)


class Kept(ApiCase):
    def test_edited_undone_and_carried_in_the_file(self) -> None:
        made = self.new(sample="draining-bucket")
        state = self.read(f"/studies/{made}")
        key = next(one["key"] for one in state["columns"] if one["role"] == "y")
        version = state["version"]
        changed = self.change(made, version, kind="edit_column", key=key, lowest="0", limits_why="empty")

        def held() -> tuple[str, str]:
            column = next(one for one in self.read(f"/studies/{made}")["columns"] if one["key"] == key)
            return column["lowest"], column["limits_why"]

        self.assertEqual(held(), ("0", "empty"))
        file = self.client.get(f"/api/studies/{made}/study.json")
        self.assertRegex((file.getvalue() if file.streaming else file.content).decode(), r'"limits_why": ?"empty"')
        self.post(f"/studies/{made}/undo", {"version": changed["version"]})
        self.assertEqual(held(), ("", ""))

    def test_the_better_model_is_one_press_away(self) -> None:
        action = other_model(build_sample("can-of-soup"), "A")
        assert action is not None
        self.assertEqual(action.label, "Use exponential with level: typical miss 0.34\u00a0°C, not 4.9\u00a0°C")
        made = self.new(sample="can-of-soup")
        offered = self.read(f"/studies/{made}/better/A")
        self.change(made, self.read(f"/studies/{made}")["version"], **offered["change"])
        found = self.read(f"/studies/{made}")["analysis"]["fits"][0]
        self.assertEqual((found["name"], found["cautions"]), ("exponential with level", []))
        self.assertIsNone(self.read(f"/studies/{made}/better/A"))
        # Asked for only where it may help.
        self.assertEqual(
            [caution.other_model for caution in drawn(analyse(build_sample("can-of-soup")).fits[0]).cautions], [True]
        )

    def test_two_misses_that_are_nearly_alike_are_told_apart(self) -> None:
        state = build_sample("draining-bucket")
        state = read_change({"kind": "set_fit", "letter": "A", "family": "gaussian"}).apply(state).state
        action = other_model(state, "A")
        assert action
        self.assertEqual(action.label, "Use quadratic: typical miss 0.105\u00a0cm, not 0.111\u00a0cm")


class Rounding(SimpleTestCase):
    def test_a_curve_through_every_reading_leaves_nothing_to_draw(self) -> None:
        texts = "0.1 0.2 0.4", "1.1 2.3 2.7"
        for family, options in (("polynomial", {"degree": 2}), ("exponential", {"level": True})):
            one = study(
                column("t", "x", texts[0]), column("h", "y", texts[1]), fits=(FitState("A", family, options=options),)
            )
            found = analyse(one)
            self.assertEqual(set(computed(found.fits[0]).residuals), {0.0})
            self.assertEqual(found.view.residual, 1.25)
            self.assertIn("goes through every reading by construction", drawn(found.fits[0]).how_well)

    def test_a_bent_one_that_misses_some_is_not_said_to_meet_them(self) -> None:
        fits = (FitState("A", "exponential", options={"level": True}),)
        found = analyse(study(column("t", "x", "0.1 0.2 0.4"), column("h", "y", "1.1 2.3 1.7"), fits=fits)).fits[0]
        self.assertIn("still misses some of them", drawn(found).how_well)
        self.assertIn(
            "does not even go through all of them", drawn(found).cautions[0].message + drawn(found).cautions[-1].message
        )
