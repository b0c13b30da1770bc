"""Workings of a study: of every sample in both forms, before a fit, of answers, by hand with attempts, and what is refused."""

from __future__ import annotations

from typing import Any, Literal

from ridge.core.errors import NoFit, OutsideSense, RepeatedX, UndefinedAt
from ridge.core.numerals import significant
from ridge.core.workings import Working
from ridge.exchange.cells import NotANumber
from ridge.studies.analysis.fits import fit_one
from ridge.studies.analysis.followed import Wanted, follow, followables
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import AnswerState, FitState, StudyState
from tests.api.test_api import ApiCase
from tests.api.test_columns import column, study

FOUR = study(column("x", "x", "1 2 2 4"), column("y", "y", "2 3 5 4"), fits=(FitState("A", "line"),))


def value(working: Working, name: str) -> Any:
    return next(step for step in working.steps if step.name == name).value


FORMS: tuple[Literal["fractions", "decimals"], ...] = ("fractions", "decimals")


class EverySample(ApiCase):
    def test_every_working_in_both_forms(self) -> None:
        """Every check holds, and every step has its words."""
        followed = 0
        for sample in SAMPLES:
            state = build_sample(sample.name)
            readings = read_table(state).readings
            x, y = float(readings.x[readings.used].mean()), float(readings.y[readings.used].mean())
            for one in followables(state):
                for what in one.whats:
                    if what in ("divided-differences", "lagrange", "through-points") and readings.n > 13:
                        continue
                    form = FORMS[followed % 2]  # turn by turn: the numbers are the same
                    with self.subTest(f"{sample.name}, {one.key}, {what}, {form}"):
                        followed += self.holds(state, Wanted(one.key, what, form, 4, str(x), str(y)))
        self.assertGreater(followed, 150)

    def holds(self, state: StudyState, wanted: Wanted) -> bool:
        try:
            working = follow(state, wanted)
        except (UndefinedAt, RepeatedX, OutsideSense, NoFit):
            return False
        for step in working.steps:
            if step.kind == "check":
                self.assertTrue(step.value, step)
        self.assertTrue(working.text and working.latex)
        return True

    def test_the_last_line_is_the_fit(self) -> None:
        """To twelve digits, for every fit of every sample that is solved from one system of equations."""
        found = 0
        for sample in SAMPLES:
            state = build_sample(sample.name)
            for one in followables(state):
                if one.kind != "fit" or "least-squares" not in one.whats:
                    continue
                fit = fit_one(read_table(state), next(f for f in state.linked_fits if f.letter == one.key)).fit
                assert fit is not None
                equation = next(
                    step for step in follow(state, Wanted(one.key, "least-squares")).steps if step.name == "equation"
                )
                for name, number in equation.values.items():  # type: ignore[attr-defined]
                    self.assertEqual(
                        significant(float(number), 12).plain,
                        significant(fit.values[name], 12).plain,
                        f"{sample.name} {name}",
                    )
                    found += 1
        self.assertGreater(found, 10)


class Study(ApiCase):
    def test_before_a_fit(self) -> None:
        working = follow(FOUR, Wanted("form:quadratic", "least-squares"))
        self.assertEqual([str(one) for one in value(working, "coefficients")], ["-2/3", "4", "-4/3"])
        self.assertIn("halves the gap between 2 and 3", working.text)

    def test_of_answers(self) -> None:
        state = study(
            column("x", "x", "1 2 3 4"), column("y", "y", "2 3 5 6"), fits=(FitState("A", "line"),),
            answers=(AnswerState("one", "y_at_x", "2.5"), AnswerState("two", "x_at_y", "4"), AnswerState("three", "tangent", "2")),
        )  # fmt: skip
        kept = {one.key: one for one in followables(state) if one.kind == "answer"}
        self.assertEqual(set(kept), {"answer:one", "answer:two"})
        self.assertEqual(value(follow(state, Wanted("answer:one", "interval-at")), "value-at-x"), [4])
        solved = follow(state, Wanted("answer:two", "solve-for-x"))
        self.assertEqual(solved.steps[-1].left, (2.5,))  # type: ignore[attr-defined]

    def test_what_is_typed(self) -> None:
        self.assertEqual(str(value(follow(FOUR, Wanted("A", "interval-at", x="2.5")), "leverage-at-x")[0]), "5/19")
        with self.assertRaises(NotANumber):
            follow(FOUR, Wanted("A", "interval-at", x="two"))

    def test_weights_and_units_of_the_study(self) -> None:
        state = study(column("t", "x", "1 2 3 4"), column("h", "y", "2 3 5 6"), fits=(FitState("A", "line"),))
        text = follow(state, Wanted("A", "line-by-sums")).text
        self.assertIn("h = m·t + c", text)
        self.assertIn("Σt·h", text)


class Routes(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.new(sample="mooring-line")

    def working(self, status: int = 200, **given: Any) -> Any:
        response = self.client.get(f"/api/studies/{self.study}/working", given)
        self.assertEqual(response.status_code, status, response.content[:300])
        return response.json()

    def test_what_can_be_followed(self) -> None:
        found = self.read(f"/studies/{self.study}/workings")
        self.assertEqual({one["kind"] for one in found}, {"fit", "answer", "form"})
        fit = found[0]
        self.assertEqual(fit["key"], "A")
        self.assertEqual([one["what"] for one in fit["whats"]][:2], ["line-by-sums", "least-squares"])
        self.assertEqual({one["what"]: one["needs"] for one in fit["whats"]}["interval-at"], "x")

    def test_a_working(self) -> None:
        found = self.working(of="A", what="line-by-sums", form="decimals", places=3)
        names = [step["name"] for step in found["steps"]]
        table = found["steps"][names.index("table")]["grid"]
        self.assertEqual(len(table["cells"][0]), len(table["heads"]))
        self.assertEqual(len(table["readings"]), len(table["rows"]))
        self.assertTrue(all(step["holds"] is not False for step in found["steps"]))

    def test_what_is_refused(self) -> None:
        for given in (
            {"of": "A", "what": "nonsense"},
            {"of": "F", "what": "line-by-sums"},
            {"of": "form:none", "what": "least-squares"},
            {"of": "A", "what": "interval-at"},
            {"of": "A", "what": "interval-at", "x": "abc"},
        ):
            found = self.working(200, **given)
            self.assertEqual(found["steps"], [])
            self.assertTrue(found["refusal"].endswith("."), given)
        self.working(422, of="A", what="line-by-sums", places=99)

    def test_attempts_by_hand_come_from_the_history(self) -> None:
        version = self.read(f"/studies/{self.study}")["version"]
        for slope, intercept in ((1.0, 2.0), (3.0, 2.0), (2.0, 1.0)):
            values = {"slope": slope, "intercept": intercept}
            self.change(self.study, version, kind="set_fit", letter="A", by_hand=True, values=values)
            version += 1
        found = self.working(of="A", what="by-hand")
        log = next(step for step in found["steps"] if step["name"] == "attempts")["grid"]
        self.assertEqual([row[0]["text"] for row in log["cells"]], ["1", "3", "2"])
        path = self.working(of="A", what="least-squares-path")["path"]
        self.assertEqual(len(path["curves"]), len(path["steps"]))
        self.assertEqual(path["totals"], sorted(path["totals"], reverse=True))

    def test_with_a_decimal_comma(self) -> None:
        self.client.put("/api/decimal_sign", {"sign": "comma"}, content_type="application/json")
        found = self.working(of="A", what="line-by-sums", form="decimals")
        table = next(step for step in found["steps"] if step["name"] == "table")["grid"]
        text = "".join(cell["text"] for row in table["cells"] for cell in row if cell)
        self.assertIn(",", text)
        self.assertNotIn(".", text)
