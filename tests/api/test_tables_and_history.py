"""Tables from files, series and studies that begin with a table, and the history, through the API."""

from __future__ import annotations

import io
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from ridge.studies.content.store import read_state
from ridge.studies.models import Study
from tests.api.test_api import ApiCase
from tests.exchange.test_files import ROWS, as_csv, as_xlsx

WIDE = "t / s;ebb / m;u;flood / m\n0;1;0.1;\n1;2;0.1;4\n2;3;0.2;6\n3;;0.2;8\n"


def take(text: str, *roles: str, **more: Any) -> dict[str, Any]:
    names = text.split("\n")[0].split(";")
    columns = [
        {"name": name.split(" / ")[0], "symbol": "", "unit": name.partition(" / ")[2], "role": role}
        for name, role in zip(names, roles, strict=True)
    ]
    return {
        "kind": "take_table",
        "text": text,
        "separator": "semicolon",
        "decimal": "point",
        "header": 1,
        "columns": columns,
        **more,
    }


class Files(ApiCase):
    def send(self, name: str, data: bytes, **more: str) -> Any:
        return self.client.post("/api/tables/file", {"file": SimpleUploadedFile(name, data), **more})

    def test_a_workbook_becomes_text_to_be_looked_through(self) -> None:
        found = self.send("week.xlsx", as_xlsx({"notes": [["x"]], "data": ROWS}), sheet="data").json()
        self.assertEqual((found["sheets"], found["sheet"], found["name"]), (["notes", "data"], "data", "week.xlsx"))
        table = self.post("/tables/understand", {"text": found["text"]})
        self.assertEqual((table["header"], table["row_count"]), (1, 4))

    def test_text_says_its_encoding(self) -> None:
        found = self.send("a.csv", as_csv([["T / °C", "x"], [1, 2]], "cp1252")).json()
        self.assertEqual(found["encoding"], "windows-1252")
        self.assertIn("utf-16", found["encodings"])

    def test_what_is_wrong_is_said(self) -> None:
        for name, data, said in (
            ("a.csv", b"", "empty"),
            ("a.xlsx", b"GIF89a", "picture"),
            ("a.csv", b"1" * 20_000_001, "20 MB"),
        ):
            answer = self.send(name, data)
            self.assertEqual(answer.status_code, 400)
            self.assertIn(said, answer.json()["message"])
        self.assertEqual(self.client.post("/api/tables/file", {}).status_code, 422)
        self.assertFalse(Study.objects.exists())


class Series(ApiCase):
    def test_several_y_become_series_of_one_study(self) -> None:
        study = self.new()
        state = self.change(study, 0, **take(WIDE, "x", "y", "y_error", "y"))
        cells = {column["role"]: column["cells"] for column in state["columns"]}
        self.assertEqual(cells["x"], ["0", "1", "2", "1", "2", "3"])
        self.assertEqual(cells["y"], ["1", "2", "3", "4", "6", "8"])
        self.assertEqual(cells["series"], ["ebb"] * 3 + ["flood"] * 3)
        self.assertEqual(cells["other"], ["0.1", "0.1", "0.2", "", "", ""])
        self.assertEqual(state["analysis"]["summary"], "6 used")
        self.assertEqual(state["analysis"]["series"], ["ebb", "flood"])

    def test_pairs_have_an_x_each(self) -> None:
        text = "t1;h1;t2;h2\n0;1;5;2\n1;2;6;3\n"
        state = self.change(self.new(), 0, **take(text, "x", "y", "x", "y"))
        cells = {column["role"]: column["cells"] for column in state["columns"]}
        self.assertEqual((cells["x"], cells["series"]), (["0", "1", "5", "6"], ["h1", "h1", "h2", "h2"]))

    def test_series_are_told_apart_by_their_symbols(self) -> None:
        for symbols, labels in ((("A", "B"), ["height A", "height B"]), (("h", "h"), ["height h 1", "height h 2"])):
            change = take("t;a;b\n0;1;5\n", "x", "y", "y")
            for column, symbol in zip(change["columns"][1:], symbols, strict=True):
                column |= {"name": "height", "symbol": symbol}
            state = self.change(self.new(), 0, **change)
            self.assertEqual(state["analysis"]["series"], labels)

    def test_or_studies_of_their_own(self) -> None:
        self.post(
            "/studies", {"title": "Tide", "table": take(WIDE, "x", "y", "y_error", "y"), "apart": True}, status=201
        )
        studies = {study.title: read_state(study) for study in Study.objects.all()}
        self.assertEqual(set(studies), {"Tide: ebb", "Tide: flood"})
        ebb, flood = studies["Tide: ebb"], studies["Tide: flood"]
        self.assertEqual([column.role for column in ebb.columns], ["x", "y", "y_error"])
        self.assertEqual([column.cells for column in flood.columns], [("1", "2", "3"), ("4", "6", "8")])

    def test_a_study_begins_with_a_table(self) -> None:
        card = self.post("/studies", {"title": "week", "table": take(WIDE, "x", "y", "other", "skip")}, status=201)
        self.assertEqual((card["title"], card["summary"]), ("week", "3 readings"))
        refused = self.post("/studies", {"table": take(WIDE, "skip", "skip", "skip", "skip")}, status=400)
        self.assertIn("No column is chosen", refused["message"])

    def test_several_y_without_an_x(self) -> None:
        refused = self.change(self.new(), 0, status=400, **take(WIDE, "other", "y", "other", "y"))
        self.assertIn("need an x", refused["message"])


class History(ApiCase):
    def test_every_step_in_words_and_back_to_any(self) -> None:
        study = self.new()
        self.fill(study)
        self.change(study, 1, kind="edit_study", title="Renamed")
        self.change(study, 2, kind="add_fit", family="power")
        steps = self.read(f"/studies/{study}/history")["steps"]
        self.assertEqual([step["label"] for step in steps[:2]], ["add fit B, power law", "change the title"])
        self.assertEqual((steps[-1]["number"], steps[-1]["label"]), (0, "the beginning"))
        back = self.post(f"/studies/{study}/go_to", {"version": 3, "number": 1})
        self.assertEqual(
            (back["title"], len(back["analysis"]["fits"]), back["redo"]), ("New study", 1, "change the title")
        )
        self.assertEqual(
            [step["done"] for step in self.read(f"/studies/{study}/history")["steps"]], [False, False, True, True]
        )
        forth = self.post(f"/studies/{study}/go_to", {"version": 4, "number": 3})
        self.assertEqual((forth["title"], len(forth["analysis"]["fits"])), ("Renamed", 2))
        empty = self.post(f"/studies/{study}/go_to", {"version": 5, "number": 0})
        self.assertEqual(empty["row_count"], 0)
        self.post(f"/studies/{study}/go_to", {"version": 6, "number": 9}, status=400)
        self.post(f"/studies/{study}/go_to", {"version": 2, "number": 1}, status=409)

    def test_a_new_step_ends_what_was_undone(self) -> None:
        study = self.new()
        self.fill(study)
        self.post(f"/studies/{study}/undo", {"version": 1})
        self.change(study, 2, kind="edit_study", title="Other")
        self.assertEqual(
            [step["label"] for step in self.read(f"/studies/{study}/history")["steps"]],
            ["change the title", "the beginning"],
        )


class LargeFiles(ApiCase):
    def test_a_hundred_thousand_rows(self) -> None:
        rows = io.StringIO()
        rows.write("t;h\n")
        for i in range(100_000):
            rows.write(f"{i / 10};{(i * 7919) % 1000 / 100}\n")
        card = self.post("/studies", {"title": "log", "table": take(rows.getvalue(), "x", "y")}, status=201)
        self.assertEqual(card["summary"].replace("\u202f", ""), "100000 readings")
