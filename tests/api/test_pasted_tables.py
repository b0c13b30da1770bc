"""Taking in a pasted table: what is understood is shown, taken as one change, and taken back as one."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from ridge.studies.changes import ChangeRefused, read_change
from ridge.studies.readings import read_table
from ridge.studies.state import LIMITS, StudyState, empty_study

TEXT = "time (s);height h / m;u_h\n0,5;1,25;0,1\n1,0;n/a;0,1\n1,5;4,5;0,2"
COLUMNS = [
    {"name": "time", "symbol": "t", "unit": "s", "role": "x"},
    {"name": "height", "symbol": "h", "unit": "m", "role": "y"},
    {"name": "", "symbol": "u_h", "unit": "m", "role": "y_error"},
]


def take(state: StudyState, **more: Any) -> Any:
    change = {
        "kind": "take_table",
        "text": TEXT,
        "separator": "semicolon",
        "decimal": "comma",
        "header": True,
        "columns": COLUMNS,
    }
    return read_change(change | more).apply(state)


class Taking(TestCase):
    def test_the_readings_are_the_tables(self) -> None:
        outcome = take(empty_study("New study"))
        table = read_table(outcome.state)
        self.assertEqual(outcome.label, "import 3 rows")
        self.assertEqual(table.readings.x.tolist(), [0.5, 1.0, 1.5])
        self.assertEqual(table.readings.used.tolist(), [True, False, True])
        self.assertEqual((table.naming.x, table.naming.y_unit, table.naming.y_name), ("t", "m", "height"))
        self.assertEqual([problem.row for problem in table.problems], [1])

    def test_undo_gives_the_old_table_and_redo_the_new_one(self) -> None:
        state = take(empty_study("New study")).state
        other = take(state, text="1;2\n3;4", header=False, decimal="point", columns=COLUMNS[:2])
        back = other.inverse.apply(other.state)
        self.assertEqual(back.state, state)
        self.assertEqual(back.inverse.apply(back.state).state, other.state)

    def test_the_same_text_is_read_the_same_from_the_history(self) -> None:
        change = read_change(
            {
                "kind": "take_table",
                "text": TEXT,
                "separator": "semicolon",
                "decimal": "comma",
                "header": True,
                "columns": COLUMNS,
            }
        )
        again = read_change(change.stored())
        self.assertEqual(again.apply(empty_study("a")).state.columns, change.apply(empty_study("a")).state.columns)

    def test_below_the_readings(self) -> None:
        first = take(empty_study("New study")).state
        columns = [COLUMNS[1], COLUMNS[0], {"name": "place", "symbol": "", "unit": "", "role": "other"}]
        outcome = take(first, text="7;2;quay\n8;3;buoy", header=False, decimal="point", columns=columns, where="below")
        by_role = {column.role: column.cells for column in outcome.state.columns}
        self.assertEqual(by_role["x"], ("0.5", "1.0", "1.5", "2", "3"))
        self.assertEqual(by_role["y"][3:], ("7", "8"))
        self.assertEqual(by_role["y_error"], ("0.1", "0.1", "0.2", "", ""))
        self.assertEqual(by_role["other"], ("", "", "", "quay", "buoy"))
        self.assertEqual(outcome.inverse.apply(outcome.state).state, first)

    def test_one_column_still_makes_a_study(self) -> None:
        state = take(
            empty_study("a"), text="1\n2", separator="tab", header=False, decimal="point", columns=COLUMNS[1:2]
        ).state
        self.assertEqual([column.role for column in state.columns], ["x", "y"])
        self.assertEqual(state.columns[1].cells, ("1", "2"))

    def test_refusals_leave_the_study_alone(self) -> None:
        wide = "\t".join(str(i) for i in range(LIMITS["columns"] + 1))
        other = {"name": "", "symbol": "", "unit": "", "role": "other"}
        for more, word in (
            ({"columns": COLUMNS[:2]}, "other columns"),
            ({"columns": [COLUMNS[0], COLUMNS[0], COLUMNS[2]]}, "Only one column"),
            ({"text": wide, "separator": "tab", "header": False, "columns": [other] * (LIMITS["columns"] + 1)}, "columns at most"),
            ({"text": "1\n" * (LIMITS["rows"] + 1), "separator": "tab", "header": False, "columns": COLUMNS[:1]}, "rows at most"),
            ({"text": "x" * 300 + ";2;3", "header": False}, "characters at most"),
            ({"text": "  "}, "nothing to import"),
        ):  # fmt: skip
            with self.assertRaises(ChangeRefused) as caught:
                take(empty_study("a"), **more)
            self.assertIn(word, str(caught.exception))


class Understanding(TestCase):
    def ask(self, **body: Any) -> Any:
        return self.client.post("/api/tables/understand", body, content_type="application/json")

    def test_what_is_shown(self) -> None:
        found = self.ask(text=TEXT).json()
        self.assertEqual(
            (found["separator"]["value"], found["decimal"]["value"], found["header"], found["row_count"]),
            ("semicolon", "comma", 1, 3),
        )
        self.assertEqual([column["role"] for column in found["columns"]], ["x", "y", "y_error"])
        self.assertEqual(found["columns"][1]["wrong"], [{"row": 1, "text": "n/a", "why": "marks a missing value"}])
        self.assertEqual(found["columns"][0]["cells"], ["0.5", "1.0", "1.5"])

    def test_choices(self) -> None:
        found = self.ask(text=TEXT, separator="comma", header=False).json()
        self.assertEqual((found["separator"]["value"], found["header"]), ("comma", 0))

    def test_refusals(self) -> None:
        self.assertEqual(self.ask(text=" ").status_code, 400)
        self.assertEqual(self.ask(text=TEXT, separator="pipe").status_code, 422)
