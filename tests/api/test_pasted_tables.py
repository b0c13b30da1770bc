"""Taking in a pasted table: what is understood is shown, taken as one change, and taken back as one."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes import ChangeRefused, read_change
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState, empty_study
from tests.exchange.corpus import CASES

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

    def test_beside_the_readings(self) -> None:
        first = take(empty_study("New study")).state
        columns = [{"name": "place", "symbol": "", "unit": "", "role": "other"}, {**COLUMNS[1], "role": "y"}, {"name": "times", "symbol": "", "unit": "", "role": "count"}]  # fmt: skip
        text = "quay;7;1\nbuoy;8;2\npier;9;1\nmole;10;3"
        outcome = take(first, text=text, header=0, decimal="point", columns=columns, where="beside")
        found = outcome.state.columns
        self.assertEqual([column.role for column in found], ["x", "y", "y_error", "other", "other", "count"])
        self.assertEqual(found[0].cells, ("0.5", "1.0", "1.5", ""))
        self.assertEqual(found[4].cells, ("7", "8", "9", "10"))
        self.assertEqual(outcome.inverse.apply(outcome.state).state, first)

    def test_at_a_cell(self) -> None:
        first = take(empty_study("New study")).state
        columns = [
            {"name": "depth", "symbol": "d", "unit": "m", "role": "x"},
            {"name": "place", "symbol": "", "unit": "", "role": "y"},
        ]
        outcome = take(
            first, text="7;a\n8;b\n9;c", header=0, decimal="point", columns=columns, where="at", row=2, column=2
        )
        found = outcome.state.columns
        self.assertEqual(found[2].cells, ("0.1", "0.1", "7", "8", "9"))
        self.assertEqual((found[2].name, found[2].unit, found[2].role), ("", "m", "y_error"))  # what was named stays so
        self.assertEqual((found[3].name, found[3].role, found[3].cells), ("place", "other", ("", "", "a", "b", "c")))
        self.assertEqual(found[0].cells[:3], ("0.5", "1.0", "1.5"))
        self.assertEqual(outcome.inverse.apply(outcome.state).state, first)
        empty = take(
            empty_study("New study"),
            text="7\n8",
            separator="tab",
            header=0,
            decimal="point",
            columns=columns[:1],
            where="at",
            column=1,
        )
        self.assertEqual((empty.state.columns[1].name, empty.state.columns[1].cells), ("depth", ("7", "8")))

    def test_over_the_number_of_the_row(self) -> None:
        one = take(
            empty_study("a"),
            text="4\n5\n7",
            separator="tab",
            header=0,
            decimal="point",
            columns=COLUMNS[1:2],
            alone="rows",
        )
        self.assertEqual(
            [(c.role, c.cells) for c in one.state.columns], [("x", ("1", "2", "3")), ("y", ("4", "5", "7"))]
        )
        several = take(
            empty_study("a"),
            text="4;1\n5;2",
            header=0,
            decimal="point",
            columns=[COLUMNS[1], {**COLUMNS[1], "symbol": "k"}],
            alone="rows",
        )
        by_role = {column.role: column.cells for column in several.state.columns}
        self.assertEqual((by_role["x"], by_role["y"]), (("1", "2", "1", "2"), ("4", "5", "1", "2")))

    def test_pairs_whatever_stands_first(self) -> None:
        def column(role: str, symbol: str) -> dict[str, str]:
            return {"name": "", "symbol": symbol, "unit": "", "role": role}

        for roles, expected in (
            ("x y x y", [("1", "2"), ("3", "4")]), ("y x y x", [("2", "1"), ("4", "3")]), ("x x y y", [("1", "3"), ("2", "4")]),
            ("x y y y", [("1", "2"), ("1", "3"), ("1", "4")]), ("x y y_error y", [("1", "2"), ("1", "4")]),
        ):  # fmt: skip
            columns = [column(role, f"s{place}") for place, role in enumerate(roles.split())]
            state = take(empty_study("a"), text="1;2;3;4", header=0, decimal="point", columns=columns).state
            by_role = {one.role: one.cells for one in state.columns}
            self.assertEqual(list(zip(by_role["x"], by_role["y"], strict=True)), expected, roles)

    def test_symbols_that_formulas_cannot_use_become_names(self) -> None:
        columns = [
            {"name": "", "symbol": symbol, "unit": "", "role": role}
            for symbol, role in (("t", "x"), ("sin", "y"), ("t", "other"), ("ש", "other"))
        ]
        state = take(empty_study("a"), text="1;2;3;4", header=0, decimal="point", columns=columns).state
        self.assertEqual([(c.name, c.symbol) for c in state.columns], [("", "t"), ("sin", ""), ("t", ""), ("ש", "")])

    def test_a_change_of_an_earlier_version(self) -> None:
        old = [{**COLUMNS[0], "elapsed": "min"}, {**COLUMNS[1], "elapsed": None}]
        outcome = take(empty_study("a"), text="9:00;1\n9:30;2", header=0, decimal="point", columns=old)
        self.assertEqual(outcome.state.columns[0].cells, ("0", "30"))

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
            ({"columns": [COLUMNS[0], {**other, "role": "series"}, {**other, "role": "series"}]}, "Only one column"),
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

    def test_every_table_of_the_corpus_goes_through(self) -> None:
        """Understood, each answer to each question understood again, and taken as it was shown."""
        for case in CASES:
            response = self.ask(text=case.text)
            self.assertEqual(response.status_code, 400 if case.refused else 200, case.name)
            if case.refused:
                continue
            found = response.json()
            for question in found["questions"]:
                for option in question["options"]:
                    given = {name: value for name, value in option["choices"].items() if value is not None}
                    self.assertEqual(self.ask(text=case.text, **given).status_code, 200, (case.name, option))
            if found["nothing"]:
                continue
            columns = [
                {name: column[name] for name in ("name", "symbol", "unit", "role")} for column in found["columns"]
            ]
            try:
                taken = read_change({"kind": "take_table", "text": case.text, "columns": columns}).apply(
                    empty_study("a")
                )
            except ChangeRefused as refused:
                self.assertTrue(found["questions"], (case.name, str(refused)))  # only what is still to be answered
                continue
            # Read as a study, nothing of it is lost: as many readings as rows, or as the series have together.
            self.assertGreaterEqual(taken.state.row_count, 1, case.name)
            read_table(taken.state)

    def test_choices(self) -> None:
        found = self.ask(text=TEXT, separator="comma", header=False).json()
        self.assertEqual((found["separator"]["value"], found["header"]), ("comma", 0))

    def test_refusals(self) -> None:
        self.assertEqual(self.ask(text=" ").status_code, 400)
        self.assertEqual(self.ask(text=TEXT, separator="pipe").status_code, 422)
