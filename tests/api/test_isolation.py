"""One failing part takes only itself down, says so, and loses nothing."""

from __future__ import annotations

from typing import Any
from unittest.mock import patch

from ridge.studies.api import shelf
from ridge.studies.models import Column, StudyFit
from ridge.studies.words import analyse as analysis
from tests.api.test_api import ApiCase
from tests.cold import forget_recent

READINGS = [["1", "2.1"], ["2", "3.9"], ["3", "6.2"], ["4", "7.8"], ["5", "10.3"]]


class Planted(ApiCase):
    """Failures that nobody foresaw, planted one by one."""

    def setUp(self) -> None:
        forget_recent()
        self.study = self.new(title="Depth")
        self.sound = self.new(title="Sound")
        for study in (self.study, self.sound):
            self.change(study, 0, kind="set_cells", row=0, column=0, block=READINGS)
        self.change(self.study, 1, kind="add_fit", family="polynomial")
        self.change(self.study, 2, kind="keep_answer", direction="y_at_x", given="2.5")
        forget_recent()

    def everything_else_works(self) -> Any:
        """The shelf, the study with its readings, undo, history, the bin; the study as it was read is returned."""
        cards = {card["title"]: card for card in self.read("/shelf")["cards"]}
        self.assertEqual(set(cards), {"Depth", "Sound"})
        self.assertIn("5 readings", cards["Sound"]["summary"])
        self.assertTrue(cards["Sound"]["equation"])
        state = self.read(f"/studies/{self.study}")
        self.assertEqual(state["columns"][0]["cells"], ["1", "2", "3", "4", "5"])
        self.assertTrue(self.read(f"/studies/{self.study}/history")["steps"])
        version = state["version"]
        self.post(f"/studies/{self.study}/undo", {"version": version})
        self.post(f"/studies/{self.study}/redo", {"version": version + 1})
        self.assertEqual(self.client.delete(f"/api/studies/{self.study}").status_code, 200)
        self.assertEqual([card["title"] for card in self.read("/shelf")["bin"]], ["Depth"])
        self.post(f"/studies/{self.study}/restore")
        return state

    def test_in_the_whole_analysis(self) -> None:
        with patch.object(analysis, "_analyse", side_effect=RuntimeError("planted")), self.assertLogs("ridge"):
            with patch.object(shelf, "fit_all", side_effect=RuntimeError("planted")):
                card = next(card for card in self.read("/shelf")["cards"] if card["title"] == "Depth")
                self.assertIn("not everything could be drawn", card["summary"])
            state = self.everything_else_works_without_equations()
        self.assertTrue(state["analysis"]["failures"])
        # Nothing of it is remembered: once the fault is gone, so is the failure.
        whole = self.read(f"/studies/{self.study}")["analysis"]
        self.assertEqual((whole["failures"], len(whole["fits"]), len(whole["answers"])), ([], 2, 1))

    def everything_else_works_without_equations(self) -> Any:
        state = self.read(f"/studies/{self.study}")
        self.assertEqual(state["analysis"]["x"], [1, 2, 3, 4, 5])
        self.post(f"/studies/{self.study}/undo", {"version": state["version"]})
        self.post(f"/studies/{self.study}/redo", {"version": state["version"] + 1})
        return state

    def test_in_one_fit(self) -> None:
        original = analysis.word_fitted

        def planted(one: Any, *rest: Any, **more: Any) -> Any:
            if one.wanted.letter == "A":
                raise ZeroDivisionError
            return original(one, *rest, **more)

        with patch.object(analysis, "word_fitted", planted), self.assertLogs("ridge"):
            state = self.everything_else_works()
        first, second = state["analysis"]["fits"]
        self.assertIn("Ridge failed", first["refusal"])
        self.assertTrue(second["equation_text"])
        self.assertTrue(any("fit A" in part for part in state["analysis"]["failures"]))

    def test_in_one_answer(self) -> None:
        with patch.object(analysis, "answer", side_effect=KeyError("planted")), self.assertLogs("ridge"):
            state = self.everything_else_works()
        self.assertIn("Ridge failed", state["analysis"]["answers"][0]["problem"])
        self.assertTrue(all(fit["equation_text"] for fit in state["analysis"]["fits"]))

    def test_in_one_column(self) -> None:
        added = self.change(self.study, 3, kind="add_column", role="other", name="twice", formula="2*x")
        key = next(column["key"] for column in added["columns"] if column["name"] == "twice")
        forget_recent()
        with patch("ridge.studies.content.columns.parse", side_effect=KeyError("planted")), self.assertLogs("ridge"):
            state = self.everything_else_works()
        column = next(column for column in state["columns"] if column["key"] == key)
        self.assertIn("Ridge failed", column["problem"])
        self.assertTrue(state["analysis"]["fits"][0]["equation_text"])

    def test_in_one_thumbnail(self) -> None:
        original = shelf._thumbnail

        def planted(table: Any, fits: Any) -> Any:
            if len(fits) == 2:
                raise ArithmeticError("planted")
            return original(table, fits)

        with patch.object(shelf, "_thumbnail", planted), self.assertLogs("ridge"):
            card = next(card for card in self.read("/shelf")["cards"] if card["title"] == "Depth")
            self.everything_else_works()
        self.assertIn("5 readings", card["summary"])
        self.assertTrue(self.read("/shelf")["cards"][0]["thumbnail"]["points"])

    def test_in_the_tables_themselves(self) -> None:
        """What is stored can no longer be read: the study says so instead of taking the shelf with it."""
        StudyFit.objects.filter(study_id=self.study, letter="A").update(settings={"bounds": {"a": 3}})
        forget_recent()
        with self.assertLogs("ridge"):
            cards = {card["title"]: card for card in self.read("/shelf")["cards"]}
            self.assertIn("could not be read", cards["Depth"]["summary"])
            self.assertIn("5 readings", cards["Sound"]["summary"])
            answer = self.client.get(f"/api/studies/{self.study}")
        self.assertEqual(answer.status_code, 500)
        self.assertIn("Ridge failed", answer.json()["message"])

    def test_in_a_family_that_is_not_known_any_more(self) -> None:
        StudyFit.objects.filter(study_id=self.study, letter="A").update(family="no such family")
        forget_recent()
        with self.assertLogs("ridge"):
            state = self.everything_else_works()
        self.assertIn("Ridge failed", state["analysis"]["fits"][0]["refusal"])
        self.assertTrue(state["analysis"]["fits"][1]["equation_text"])


class NumbersBesideLetters(ApiCase):
    """A number in scientific notation right before a name."""

    def test_a_formula_with_one_can_be_stored_and_opened(self) -> None:
        study = self.new()
        self.change(study, 0, kind="set_cells", row=0, column=0, block=READINGS)
        for version, (text, names) in enumerate(
            (("1e3F*x+b", ["F", "b"]), ("1e5x*k", ["k"]), ("2e2L+x", ["L"]), ("1e3a*x", ["a"])), start=1
        ):
            state = self.change(study, version, kind="set_fit", letter="A", family="formula", options={"text": text})
            self.assertEqual([p["name"] for p in state["analysis"]["fits"][0]["parameters"]], names, text)
            forget_recent()
            self.read(f"/studies/{study}")
            self.read("/shelf")

    def test_a_column_with_one_too(self) -> None:
        study = self.new()
        self.change(study, 0, kind="set_cells", row=0, column=0, block=READINGS)
        self.change(study, 1, kind="add_column", role="other", name="far", formula="1e3x")
        forget_recent()
        cells = self.read(f"/studies/{study}")["columns"][-1]["cells"]
        self.assertEqual([float(cell) for cell in cells], [1000, 2000, 3000, 4000, 5000])
        self.assertEqual(Column.objects.filter(study_id=study, formula="1e3x").count(), 1)


class NotReadBack(ApiCase):
    """What could not be opened again is refused before it is stored."""

    def setUp(self) -> None:
        self.study = self.new()
        self.change(self.study, 0, kind="set_cells", row=0, column=0, block=READINGS)

    def refused(self, **change: Any) -> None:
        with self.assertLogs("ridge", "ERROR"):
            message = self.change(self.study, 1, 400, **change)["message"]
        self.assertIn("cannot store", message)
        state = self.read(f"/studies/{self.study}")
        self.assertEqual((state["version"], state["undo"][:7]), (1, "fill in"))

    def test_a_formula_that_crashes_when_it_is_computed(self) -> None:
        with patch("ridge.core.models.own_formula.Formula.evaluate", side_effect=KeyError("F")):
            self.refused(kind="set_fit", letter="A", family="formula", options={"text": "a*x"})

    def test_a_column_that_crashes_when_it_is_computed(self) -> None:
        with patch("ridge.studies.content.columns.Program", side_effect=KeyError("F")):
            self.refused(kind="add_column", role="other", name="far", formula="2*x")

    def test_an_inverse_that_the_history_does_not_know(self) -> None:
        with patch("ridge.studies.content.changes.fits.PutFits.stored", return_value={"kind": "no such change"}):
            self.refused(kind="add_fit", family="polynomial")
