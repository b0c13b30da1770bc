"""Pasted tables: separators, decimal signs, headings, roles, and what is no number."""

from __future__ import annotations

import csv
import io
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.exchange.tables import Choices, NoTable, TextTable, read_text_table
from ridge.exchange.tables.heading_parts import read_heading
from tests.examples import examples


def cells(table: TextTable) -> list[tuple[str, ...]]:
    return [column.cells for column in table.columns]


class Separators(TestCase):
    rows = [("0", "1.25"), ("0.5", "2.41"), ("1", "-3.1e-2")]

    def test_each_is_found(self) -> None:
        for name, mark in (("tab", "\t"), ("semicolon", ";"), ("comma", ","), ("spaces", "   ")):
            table = read_text_table("\n".join(mark.join(row) for row in self.rows))
            self.assertEqual((table.separator.value, table.decimal.value, table.header), (name, "point", 0))
            self.assertEqual(cells(table), [("0", "0.5", "1"), ("1.25", "2.41", "-3.1e-2")])

    def test_decimal_commas(self) -> None:
        for mark in (";", "\t", " "):
            table = read_text_table(f"0,5{mark}1,25\n1,0{mark}2,5\n1,5{mark}3,125\n")
            self.assertEqual(table.decimal.value, "comma")
            self.assertEqual(cells(table), [("0.5", "1.0", "1.5"), ("1.25", "2.5", "3.125")])

    def test_thousands(self) -> None:
        table = read_text_table("1;1.234,5\n2;12.000\n3;1.000.000,25", Choices(decimal="comma"))
        self.assertEqual(cells(table)[1], ("1234.5", "12000", "1000000.25"))
        table = read_text_table("1\t1,234.5\n2\t12,000\n3\t7")
        self.assertEqual((table.decimal.value, cells(table)[1]), ("point", ("1234.5", "12000", "7")))

    def test_a_choice_is_obeyed(self) -> None:
        table = read_text_table("0,5\n1,5\n2,5", Choices(separator="tab", decimal="comma"))
        self.assertEqual(cells(table), [("0.5", "1.5", "2.5")])
        table = read_text_table("0,5\n1,5\n2,5", Choices(separator="comma"))
        self.assertEqual(cells(table), [("0", "1", "2"), ("5", "5", "5")])
        self.assertFalse(read_text_table("t\ty\n1\t2", Choices(header=0)).header)

    def test_quotes_as_a_csv_writer_sets_them(self) -> None:
        written = io.StringIO()
        csv.writer(written).writerows([["place, side", "depth (m)"], ['quay, "north"', "1.5"], ["buoy", "2.5"]])
        table = read_text_table(written.getvalue())
        self.assertEqual(table.columns[0].cells, ('quay, "north"', "buoy"))
        self.assertEqual((table.columns[1].name, table.columns[1].unit), ("depth", "m"))

    def test_rows_of_unequal_length_and_empty_columns(self) -> None:
        table = read_text_table("1\t\t2\n3\n5\t\t6\t\n\n")
        self.assertEqual(cells(table), [("1", "3", "5"), ("2", "", "6")])

    def test_line_ends_and_nul_bytes(self) -> None:
        self.assertEqual(cells(read_text_table("1\t2\r\n3\t4\r5\t\x006")), [("1", "3", "5"), ("2", "4", "6")])

    @examples(150)
    @given(st.text(max_size=80))
    def test_any_text_is_understood_or_refused(self, text: str) -> None:
        try:
            table = read_text_table(text)
        except NoTable as reason:
            self.assertTrue(str(reason))
        else:
            self.assertEqual(len({len(column.cells) for column in table.columns}), 1)

    @examples(60)
    @given(
        st.lists(st.tuples(st.floats(-1e6, 1e6), st.floats(-1e6, 1e6)), min_size=2, max_size=20),
        st.sampled_from(["\t", ";"]), st.booleans(),
    )  # fmt: skip
    def test_numbers_come_through(self, rows: list[tuple[float, float]], mark: str, comma: bool) -> None:
        written = [[f"{value:.4f}" for value in row] for row in rows]
        text = "\n".join(mark.join(cell.replace(".", ",") if comma else cell for cell in row) for row in written)
        table = read_text_table(text)
        self.assertEqual([list(row) for row in zip(*cells(table), strict=True)], written)


class OnlyAHeading(TestCase):
    def test_its_separator_is_still_found(self) -> None:
        table = read_text_table("time t / s;height h / m\n")
        self.assertEqual((table.separator.value, table.header, table.row_count), ("semicolon", 1, 0))
        self.assertEqual([column.unit for column in table.columns], ["s", "m"])


class Roles(TestCase):
    def test_a_voltage_called_u_is_no_uncertainty(self) -> None:
        self.assertEqual([c.role for c in read_text_table("t / s,U / V\n0,1\n1,2").columns], ["x", "y"])
        self.assertEqual([c.role for c in read_text_table("t,U,u_U\n0,1,0.1\n1,2,0.1").columns], ["x", "y", "y_error"])
        self.assertEqual([c.role for c in read_text_table("t,u\n0,1\n1,2").columns], ["x", "y"])


class Headings(TestCase):
    def test_the_three_notations(self) -> None:
        for text, expected in (
            # As Ridge's own files have them.
            ("speed v / (m/s)", ("speed", "v", "m/s")), ("S / (g/kg)", ("", "S", "g/kg")),
            ("fitted A / (m/s)", ("fitted", "A", "m/s")),
            ("time (s)", ("time", "", "s")), ("t / s", ("", "t", "s")), ("t [s]", ("", "t", "s")), ("time t / s", ("time", "t", "s")),
            ("stretch L (mm)", ("stretch", "L", "mm")), ("u_L / mm", ("", "u_L", "mm")), ("v/(m/s)", ("", "v", "m/s")),
            ("wind speed", ("wind speed", "", "")), ("ρ [kg/m³]", ("", "ρ", "kg/m³")), ("", ("", "", "")), ("x0", ("", "x0", "")),
        ):  # fmt: skip
            self.assertEqual(read_heading(text), expected, text)

    def test_a_heading_is_told_from_readings(self) -> None:
        self.assertTrue(read_text_table("t\ty\n1\t2\n2\t3").header)
        self.assertFalse(read_text_table("1\tn/a\n2\t3\n4\t5").columns[0].wrong)
        self.assertFalse(read_text_table("1\t2\n2\t3").header)
        only = read_text_table("time (s)\theight (m)")
        self.assertEqual((only.header, only.row_count), (True, 0))

    def test_units_in_a_row_of_their_own(self) -> None:
        table = read_text_table("time\theight\n(s)\tm\n1\t2\n2\t3")
        self.assertEqual([column.unit for column in table.columns], ["s", "m"])
        self.assertEqual(table.row_count, 2)

    def test_a_heading_that_comes_again_begins_another_pair(self) -> None:
        for heading, roles in (
            ("time / s;a / m;time / s;b / m", ["x", "y", "x", "y"]),
            ("t;h;u_h;t;v;u_v", ["x", "y", "y_error", "x", "y", "y_error"]),
            ("time / s;a / m;time / min;b / m", ["x", "y", "other", "other"]),
            ("t;h;t", ["x", "y", "other"]),
        ):
            row = ";".join("1" for _ in roles)
            table = read_text_table(f"{heading}\n{row}\n{row}\n")
            self.assertEqual([column.role for column in table.columns], roles, heading)

    def test_roles(self) -> None:
        for heading, roles in (
            ("t;h;u_h", ["x", "y", "y_error"]), ("t;u_t;h;u_h", ["x", "x_error", "y", "y_error"]), ("place;t;h", ["other", "x", "y"]),
            ("t;h;weight", ["x", "y", "weight"]), ("load;stretch;uncertainty", ["x", "y", "y_error"]), ("a;b;c;d", ["x", "y", "other", "other"]),
        ):  # fmt: skip
            count = heading.count(";") + 1
            first = "quay" if heading.startswith("place") else "1"
            body = "\n".join(";".join([first, *[str(row + i) for i in range(1, count)]]) for row in range(4))
            table = read_text_table(f"{heading}\n{body}")
            self.assertEqual([column.role for column in table.columns], roles, heading)


class NoNumbers(TestCase):
    def test_they_are_kept_as_written_and_listed(self) -> None:
        table = read_text_table("t\th\n1\t2\n2\tn/a\n3\t5 %\n4\t0x1F\n5\t€ 3\n6\t12:30\n7\t8")
        self.assertEqual([row for row, _, _ in table.columns[1].wrong], [1, 2, 3, 4, 5])
        self.assertIn((4, "€ 3", "carries a currency sign"), table.columns[1].wrong)
        self.assertEqual(table.columns[1].cells[1:6], ("n/a", "5 %", "0x1F", "€ 3", "12:30"))

    def test_nothing(self) -> None:
        for text in ("", "  \n\n", "\t\t\n\t"):
            with self.assertRaises(NoTable):
                read_text_table(text)
