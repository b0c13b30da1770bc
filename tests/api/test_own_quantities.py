"""Quantities of one's own that follow from a fit: kept, worded, held against an accepted value, undone, in the files."""

from __future__ import annotations

from typing import Any

from ridge.core import Readings, fit
from ridge.core.carrying import follow
from ridge.core.models import Line
from tests.api.test_api import ApiCase

X, Y = [0.2, 0.4, 0.6, 0.8], [0.81, 1.60, 2.42, 3.21]
G = {"name": "g", "formula": "4*pi^2/m", "accepted": "9.81", "accepted_error": "0.02"}


class OwnQuantities(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.new(title="Pendulum")
        block = [[str(x), str(y)] for x, y in zip(X, Y, strict=True)]
        self.change(self.study, 0, kind="set_cells", row=0, column=0, block=block)

    def put(self, version: int, *wanted: dict[str, Any], **more: Any) -> Any:
        return self.change(self.study, version, kind="set_fit", letter="A", follows=list(wanted), **more)

    def own(self, answer: Any) -> list[Any]:
        return [one for one in answer["analysis"]["fits"][0]["derived"] if one["formula"]]

    def test_value_limits_budget_and_agreement(self) -> None:
        (found,) = self.own(self.put(1, G))
        wanted = follow("4*pi^2/slope", fit(Readings(X, Y), Line()))
        self.assertAlmostEqual(float(found["full"]), wanted.value, delta=1e-12)
        self.assertIn("9.84 ± 0.05", found["text"])
        self.assertTrue(found["interval"])
        self.assertEqual([one["source"] for one in found["budget"]], ["m"])
        self.assertEqual(
            found["agreement"],
            "Accepted value 9.810 ± 0.020. Differs by 0.63 standard uncertainties: no disagreement (p = 0.58). A difference of 0.25 would be noticed four times in five.",
        )

    def test_the_budget_sums_to_one(self) -> None:
        (found,) = self.own(self.put(1, {"name": "at 1", "formula": "m + c"}))
        self.assertAlmostEqual(sum(one["share"] for one in found["budget"]), 1, delta=2e-3)

    def test_each_is_refused_at_its_place(self) -> None:
        found = self.own(
            self.put(
                1, {"name": "p", "formula": "q*m"}, {"name": "q", "formula": "m*("}, {"name": "r", "formula": "2*m"}
            )
        )
        self.assertIn("stands for nothing", found[0]["problem"])
        self.assertTrue(found[1]["problem"])
        self.assertTrue(found[2]["text"] and not found[2]["problem"])
        refused = self.own(self.put(2, {**G, "accepted": "about ten"}))
        self.assertIn("not a number", refused[0]["problem"])
        self.put(3, *[G] * 13, status=422)

    def test_it_follows_the_readings_is_undone_and_goes_out(self) -> None:
        before = self.own(self.put(1, G))[0]["full"]
        after = self.own(self.change(self.study, 2, kind="set_cells", row=0, column=1, block=[["0.9"]]))[0]["full"]
        self.assertNotEqual(before, after)
        report = self.client.get(f"/api/studies/{self.study}/report.html").content.decode()
        self.assertIn('<th scope="row"', report)
        self.assertRegex(report, r">g<|>g</")
        self.assertIn("standard uncertainties", report)
        undone = self.post(f"/studies/{self.study}/undo", {"version": 3})
        self.assertEqual(self.own(undone)[0]["full"], before)
        again = self.post(f"/studies/{self.study}/undo", {"version": undone["version"]})
        self.assertEqual(self.own(again), [])

    def test_constants_of_nature(self) -> None:
        (found,) = self.own(self.put(1, {"name": "E", "formula": "h_planck*m"}))
        self.assertAlmostEqual(
            float(found["full"]) / 6.62607015e-34, fit(Readings(X, Y), Line()).parameters["slope"].value, delta=1e-9
        )

    def test_through_a_copy(self) -> None:
        self.put(1, G)
        copy = self.post(f"/studies/{self.study}/duplicate", status=201)["id"]
        self.assertEqual(self.read(f"/studies/{copy}")["analysis"]["fits"][0]["follows"][0]["formula"], "4*pi^2/m")

    def test_from_means_answers_and_other_fits(self) -> None:
        """By what they have to come to: the line passes through both means, an answer is what its line says, and a fit has no difference
        from itself."""
        self.change(self.study, 1, kind="add_fit", family="line")
        self.change(self.study, 2, kind="keep_answer", direction="y_at_x", given="0.5", name="h_5")
        self.change(self.study, 3, kind="keep_answer", direction="x_at_y", given="2", name="x_u")
        formulas = ("mean_y - m*mean_x", "h_5", "h_5 - 0.5*m - c", "x_u", "m - B_m", "B_slope", "(2 - c)/m")
        found = self.own(self.put(4, *({"name": f"q{n}", "formula": one} for n, one in enumerate(formulas))))
        self.assertEqual([one["problem"] for one in found], [""] * len(formulas))
        made = fit(Readings(X, Y), Line())
        slope, intercept = (made.parameters[name] for name in ("slope", "intercept"))
        told, solved = made.predict(0.5), made.solve(2.0)[0]
        for one, (value, error) in zip(
            found,
            (
                (intercept.value, intercept.standard_error), (float(told.value), float(told.standard_error)), (0, 0), (solved.value, solved.standard_error),
                (0, 0), (slope.value, slope.standard_error), (solved.value, None),
            ),
            strict=True,
        ):  # fmt: skip
            with self.subTest(one["formula"]):
                self.assertAlmostEqual(one["number"], value, delta=1e-9)
                if error is not None:
                    self.assertAlmostEqual(one["standard_error"] or 0, error, delta=1e-7)

    def test_limits_of_an_answer_are_those_of_its_own(self) -> None:
        """An x found from a y: half-width t·u with the degrees of freedom of the scatter that all of it comes from, near Fieller's limits
        where these are nearly symmetric."""
        self.change(self.study, 1, kind="keep_answer", direction="x_at_y", given="2", name="x_u")
        (found,) = self.own(self.put(2, {"name": "q", "formula": "x_u"}))
        solved = fit(Readings(X, Y), Line()).solve(2.0)[0]
        low, high = (float(end) for end in found["interval"].replace("\u2212", "-").split(" to "))
        self.assertAlmostEqual(high - low, solved.high - solved.low, delta=0.02 * (solved.high - solved.low))

    def test_what_x_shares_cancels_at_the_means(self) -> None:
        """The line passes through both means wherever the zero of x lies."""
        keys = [one["key"] for one in self.read(f"/studies/{self.study}")["columns"]]
        self.change(self.study, 1, kind="edit_column", key=keys[0], uncertainty="0.1 shared")
        centre, intercept = self.own(
            self.put(2, {"name": "q", "formula": "m*mean_x + c - mean_y"}, {"name": "c", "formula": "c"})
        )
        self.assertAlmostEqual(centre["standard_error"] or 0, 0, delta=1e-7)
        self.assertGreater(intercept["standard_error"], 0.3)

    def test_known_values(self) -> None:
        known = [
            {"symbol": "L", "value": "1.25", "uncertainty": "±0.01", "unit": "m", "origin": "Pendulum of last week: L"}
        ]
        (found,) = self.own(self.put(1, {"name": "q", "formula": "L*m", "known": known}))
        wanted = follow("L*slope", fit(Readings(X, Y), Line()), known={"L": (1.25, 0.01 / 3**0.5)})
        self.assertAlmostEqual(found["standard_error"], wanted.standard_error or 0, delta=1e-12)
        self.assertEqual([one["source"] for one in found["budget"]], ["m", "L"])
        shown = [{**known[0], "value": "1.25", "uncertainty": "half a digit"}]
        (found,) = self.own(self.put(2, {"name": "q", "formula": "L", "known": shown}))
        self.assertAlmostEqual(found["standard_error"], 0.005 / 3**0.5, delta=1e-12)
        wrong = [{**known[0], "value": "much"}]
        (found,) = self.own(self.put(3, {"name": "q", "formula": "L*m", "known": wrong}))
        self.assertIn("not a number", found["problem"])
        script = self.client.get(f"/api/studies/{self.study}/script.py").content.decode()
        self.assertIn("following", script)

    def test_a_column_that_takes_a_letter_changes_nothing(self) -> None:
        known = {"symbol": "m", "value": "2", "uncertainty": "", "unit": ""}
        wanted = (G, {"name": "T", "formula": "m*k", "known": [known]}, {"name": "twice", "formula": "2*slope"})
        before = self.own(self.put(1, *wanted))
        x = self.read(f"/studies/{self.study}")["columns"][0]["key"]
        found = self.own(self.change(self.study, 2, kind="edit_column", key=x, symbol="m"))
        slope = self.read(f"/studies/{self.study}")["analysis"]["fits"][0]["parameters"][0]
        self.assertEqual(slope["symbol"], "k")
        self.assertEqual(found[0]["full"], before[0]["full"])
        # A value that is given by that name is the one that is meant; the slope is k now.
        self.assertEqual(found[1]["full"], found[2]["full"])

    def test_in_another_unit(self) -> None:
        keys = [one["key"] for one in self.read(f"/studies/{self.study}")["columns"]]
        self.change(self.study, 1, kind="edit_column", key=keys[0], symbol="t", unit="s")
        self.change(self.study, 2, kind="edit_column", key=keys[1], symbol="phi", unit="rad")
        own, other, none = self.own(
            self.put(
                3, {"name": "speed", "formula": "m"}, {"name": "speed", "formula": "m", "unit": "rpm"}, {"name": "speed", "formula": "m", "unit": "kg"}
            )
        )  # fmt: skip
        self.assertEqual((own["unit"], other["unit"], none["unit"]), ("rad/s", "rpm", "rad/s"))
        self.assertAlmostEqual(other["number"], own["number"] * 60 / (2 * 3.141592653589793), delta=1e-9)
        self.assertAlmostEqual(other["standard_error"] / own["standard_error"], 30 / 3.141592653589793, delta=1e-9)
        self.assertIn("cannot be converted into kg", none["remark"])

    def test_simplified_on_request(self) -> None:
        keys = [one["key"] for one in self.read(f"/studies/{self.study}")["columns"]]
        self.change(self.study, 1, kind="edit_column", key=keys[0], symbol="F", unit="N")
        self.change(self.study, 2, kind="edit_column", key=keys[1], symbol="L", unit="mm")
        known = [{"symbol": "L_0", "value": "4.2", "unit": "m"}]
        wanted = {"name": "E", "formula": "L_0/m", "known": known}
        (found,) = self.own(self.put(3, wanted))
        self.assertEqual((found["unit"], found["simpler"]), ("N", None))
        (other,) = self.own(self.put(4, {**wanted, "unit": "kN"}))
        self.assertEqual(other["unit"], "kN")
        self.assertAlmostEqual(other["number"], found["number"] / 1000, delta=1e-9)
        known = [{"symbol": "L_0", "value": "4.2", "unit": "cm/N"}]
        (found,) = self.own(self.put(5, {"name": "ratio", "formula": "L_0/m", "known": known}))
        self.assertEqual((found["unit"], found["simpler"]), ("", None))

    def test_results_of_another_study(self) -> None:
        self.put(1, G)
        self.change(self.study, 2, kind="keep_answer", direction="y_at_x", given="0.5", name="h_5")
        offered = {one["name"]: one for one in self.read(f"/studies/{self.study}/results")}
        self.assertEqual(list(offered), ["m of A", "c of A", "g of A", "h_5"])
        made = fit(Readings(X, Y), Line())
        self.assertEqual(float(offered["m of A"]["value"]), made.parameters["slope"].value)
        self.assertAlmostEqual(
            float(offered["g of A"]["uncertainty"]), follow("4*pi^2/slope", made).standard_error or 0, delta=1e-5
        )
        self.assertAlmostEqual(
            float(offered["h_5"]["uncertainty"]), float(made.predict(0.5).standard_error), delta=1e-5
        )


class ConvertedAnswers(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.new(title="Ramp")
        block = [["1", "2.1"], ["2", "3.9"], ["3", "6.2"], ["4", "7.8"], ["5", "10.1"]]
        found = self.change(self.study, 0, kind="set_cells", row=0, column=0, block=block)
        keys = [one["key"] for one in found["columns"]]
        self.change(self.study, 1, kind="edit_column", key=keys[0], symbol="t", unit="min")
        self.change(self.study, 2, kind="edit_column", key=keys[1], symbol="s", unit="cm")
        for number, (direction, given) in enumerate(
            (("y_at_x", "3.5"), ("x_at_y", "5"), ("tangent", "2"), ("area", "1 to 3"))
        ):
            self.before = self.change(
                self.study, 3 + number, kind="keep_answer", direction=direction, given=given, key=f"k{number}"
            )

    def test_each_into_another_unit_and_back(self) -> None:
        for number, (own, unit, factor) in enumerate(
            (("cm", "m", 0.01), ("min", "s", 60.0), ("cm/min", "mm/s", 10 / 60), ("cm·min", "cm·s", 60.0))
        ):
            with self.subTest(unit):
                plain = self.before["analysis"]["answers"][number]
                self.assertEqual((plain["unit"], plain["own_unit"]), ("", own))
                after = self.change(self.study, 7 + 2 * number, kind="set_answer", key=f"k{number}", unit=unit)
                found = after["analysis"]["answers"][number]
                self.assertEqual(found["unit"], unit)
                self.assertIn(unit, found["result"])
                for one, other in zip(plain["numbers"], found["numbers"], strict=True):
                    self.assertEqual((other["unit"], other["limits"]), (unit, one["limits"]))
                    for name in ("value", "low", "high"):
                        self.assertAlmostEqual(other[name], one[name] * factor, delta=1e-9)
                # Where it stands on the plot, and what was asked, stay in the study's own units.
                self.assertEqual(found["mark"], plain["mark"])
                self.assertEqual(found["asked"], plain["asked"])
                undone = self.post(f"/studies/{self.study}/undo", {"version": after["version"]})
                self.assertEqual(undone["analysis"]["answers"][number]["result"], plain["result"])

    def test_what_cannot_be_is_said(self) -> None:
        found = self.change(self.study, 7, kind="set_answer", key="k0", unit="kg")["analysis"]["answers"][0]
        self.assertIn("cm cannot be converted into kg", found["sentence"])
        self.assertIn("cm", found["result"])
