"""Files of readings, written by other libraries than the ones that read them; and what is refused, with the reason."""

from __future__ import annotations

import contextlib
import csv
import io
import json
import re
import struct
import subprocess
import zipfile
from collections.abc import Mapping, Sequence
from datetime import date, datetime
from typing import Any
from unittest import TestCase, mock

import xlsxwriter
from odf.opendocument import OpenDocumentSpreadsheet
from odf.table import Table, TableCell, TableRow
from odf.text import P

from ridge.exchange.files import read_file
from ridge.exchange.tables import NoTable, read_text_table

ROWS: list[list[Any]] = [["time (s)", "h / m"], [0, 1.25], [0.5, 2.5], [1, -3e-7], [1.5, 123456.789]]


def as_xlsx(sheets: Mapping[str, Sequence[Sequence[Any]]]) -> bytes:
    held = io.BytesIO()
    book = xlsxwriter.Workbook(held, {"in_memory": True, "default_date_format": "yyyy-mm-dd hh:mm:ss"})
    for name, rows in sheets.items():
        sheet = book.add_worksheet(name)
        for place, row in enumerate(rows):
            sheet.write_row(place, 0, row)
    book.close()
    return held.getvalue()


def as_ods(rows: list[list[Any]]) -> bytes:
    book = OpenDocumentSpreadsheet()
    sheet = Table(name="first")
    for row in rows:
        line = TableRow()
        for value in row:
            if isinstance(value, str):
                cell = TableCell(valuetype="string")
                cell.addElement(P(text=value))
            else:
                cell = TableCell(valuetype="float", value=repr(value))
                cell.addElement(P(text=str(round(value, 1))))  # what is shown may be rounded: the value counts
            line.addElement(cell)
        sheet.addElement(line)
    book.spreadsheet.addElement(sheet)
    held = io.BytesIO()
    book.write(held)
    return held.getvalue()


def as_csv(rows: list[list[Any]], encoding: str = "utf-8", **how: Any) -> bytes:
    held = io.StringIO()
    csv.writer(held, **how).writerows(rows)
    return held.getvalue().encode(encoding)


class RoundTrips(TestCase):
    def check(self, name: str, data: bytes) -> None:
        table = read_text_table(read_file(name, data).text)
        self.assertEqual([(c.name or c.symbol, c.unit) for c in table.columns], [("time", "s"), ("h", "m")])
        for place, column in enumerate(table.columns):
            self.assertEqual([float(cell) for cell in column.cells], [row[place] for row in ROWS[1:]])

    def test_xlsx(self) -> None:
        self.check("a.xlsx", as_xlsx({"first": ROWS}))

    def test_ods(self) -> None:
        self.check("a.ods", as_ods(ROWS))

    def test_csv_and_tsv(self) -> None:
        self.check("a.csv", as_csv(ROWS))
        self.check("a.tsv", as_csv(ROWS, delimiter="\t"))
        self.check("a.txt", as_csv(ROWS, encoding="utf-16"))
        self.check("a.csv", as_csv(ROWS, encoding="utf-8-sig", quoting=csv.QUOTE_ALL))

    def test_three_shapes_of_json(self) -> None:
        names, body = ROWS[0], ROWS[1:]
        self.check("a.json", json.dumps(ROWS).encode())
        self.check("a.json", json.dumps([dict(zip(names, row, strict=True)) for row in body]).encode())
        self.check("a.json", json.dumps({name: [row[i] for row in body] for i, name in enumerate(names)}).encode())

    def test_a_name_does_not_decide(self) -> None:
        self.check("a.csv", as_xlsx({"first": ROWS}))
        self.check("readings", json.dumps(ROWS).encode())


class Workbooks(TestCase):
    def test_the_first_sheet_that_holds_anything_or_the_chosen_one(self) -> None:
        data = as_xlsx({"empty": [], "notes": [["by hand"]], "data": ROWS})
        found = read_file("a.xlsx", data)
        self.assertEqual((found.sheets, found.sheet), (("empty", "notes", "data"), "notes"))
        self.assertIn("h / m", read_file("a.xlsx", data, sheet="data").text)

    def test_dates_become_elapsed_time(self) -> None:
        rows: list[list[Any]] = [
            ["when", "T"],
            [datetime(2026, 5, 4, 8, 0), 1],
            [datetime(2026, 5, 4, 10, 30), 2],
            [date(2026, 5, 5), 3],
        ]
        table = read_text_table(read_file("a.xlsx", as_xlsx({"s": rows})).text)
        self.assertEqual((table.columns[0].times, table.columns[0].unit), ("date", "h"))
        self.assertEqual(table.columns[0].cells, ("0", "2.5", "16"))

    def test_a_formula_gives_its_value_and_is_not_run(self) -> None:
        held = io.BytesIO()
        book = xlsxwriter.Workbook(held, {"in_memory": True})
        sheet = book.add_worksheet()
        sheet.write_row(0, 0, [1, 2])
        sheet.write_formula(1, 0, '=WEBSERVICE("http://localhost/")', None, 7)
        sheet.write_number(1, 1, 4)
        book.close()
        self.assertEqual(read_file("a.xlsx", held.getvalue()).text, "1\t2\n7\t4")

    def test_blank_cells_keep_their_place(self) -> None:
        self.assertEqual(read_file("a.xlsx", as_xlsx({"s": [[1, None, 3], [None, 5, 6]]})).text, "1\t\t3\n\t5\t6")


class Encodings(TestCase):
    def test_usual_ones_are_guessed_and_others_chosen(self) -> None:
        rows = [["Höhe (µm)", "Größe"], ["1", "2"], ["3", "4"]]
        self.assertEqual(read_file("a.csv", as_csv(rows, "cp1252")).encoding, "windows-1252")
        self.assertIn("Höhe (µm)", read_file("a.csv", as_csv(rows, "cp1252")).text)
        russian = [["глубина", "m"], ["1", "2"]]
        self.assertIn("глубина", read_file("a.csv", as_csv(russian, "cp1251"), encoding="windows-1251").text)
        with self.assertRaisesRegex(NoTable, "is not written in utf-8"):
            read_file("a.csv", as_csv(russian, "cp1251"), encoding="utf-8")


class Refused(TestCase):
    def refused(self, name: str, data: bytes, said: str) -> None:
        with self.assertRaises(NoTable) as caught:
            read_file(name, data)
        self.assertIn(said, str(caught.exception))

    def test_what_is_no_table(self) -> None:
        workbook = as_xlsx({"s": ROWS})
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as archive:
            archive.writestr("readme.txt", "1,2")
        for name, data, said in (
            ("a.csv", b"", "empty"),
            ("a.xlsx", b"\x89PNG\r\n\x1a\n" + bytes(100), "picture (PNG)"),
            ("a.csv", b"%PDF-1.7", "PDF"),
            ("a.csv", bytes(range(32)) * 40, "not a text"),
            ("a.xlsx", workbook[: len(workbook) // 2], "is damaged"),
            ("a.xlsx", b"1,2\n3,4", "not what its name says"),
            ("a.xlsx", b"\xd0\xcf\x11\xe0" + bytes(600), "old binary workbook"),
            ("a.zip", packed.getvalue(), "not a workbook"),
            ("a.xlsx", as_xlsx({"s": []}), "sheet is empty"),
            ("a.csv", b"x" * 20_000_001, "larger than 20 MB"),
            ("a.json", b'{"a": 1}', "holds no table"),
            ("a.json", b"[[1, 2", "not valid JSON"),
            ("a.json", b"[" * 100_000, "JSON"),
            ("a.json", b'[[1, {"b": 2}]]', "a list or an object"),
        ):
            with self.subTest(said):
                self.refused(name, data, said)

    def test_messages_tell_nothing_of_the_inside(self) -> None:
        """No names of exceptions, of libraries or of Python."""
        inside = re.compile(r"Error|Exception|Traceback|recursion|calamine|python|unicode string|object at", re.I)
        broken = io.BytesIO()
        with zipfile.ZipFile(broken, "w") as archive:
            archive.writestr("content.xml", "<a><b></a>")
            archive.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        deep, comma, no_ods = b"[" * 5_000_000, b"[[1, 2], [3, 4],]", broken.getvalue()
        for name, data in (
            ("a.json", deep),
            ("a.json", comma),
            ("a.ods", no_ods),
            ("a.json", b"[[1e99999999999, -1]]"),
        ):
            with self.subTest(name), contextlib.suppress(NoTable):
                try:
                    read_file(name, data)
                except NoTable as reason:
                    self.assertNotRegex(str(reason), inside)
                    raise

    def test_a_heading_that_begins_like_a_packed_file(self) -> None:
        table = read_text_table(read_file("a.csv", b"PK,value\n1,2\n2,3\n3,5\n").text)
        self.assertEqual([column.name or column.symbol for column in table.columns], ["PK", "value"])

    def test_quotes_that_are_never_closed(self) -> None:
        for text in ('"1,2\n3,4\n5,6\n', '"1;2\n"3;4\n"5;6\n', 'a,b\n"1,2\n' + "3,4\n" * 40):
            with self.subTest(text), contextlib.suppress(NoTable):
                self.assertGreater(read_text_table(text).row_count, 0)

    def test_bombs(self) -> None:
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("[Content_Types].xml", "")
            archive.writestr("xl/worksheets/sheet1.xml", b"0" * 310_000_000)
        self.refused("a.xlsx", bomb.getvalue(), "unpacks to more than 300 MB")

    def test_entities_are_not_expanded(self) -> None:
        nested = "".join(f'<!ENTITY e{i} "{f"&e{i - 1};" * 10}">' for i in range(1, 9))
        sheet = (
            f'<?xml version="1.0"?><!DOCTYPE x [<!ENTITY e0 "0123456789">{nested}]>'
            '<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData><row r="1">'
            '<c r="A1" t="inlineStr"><is><t>&e8;</t></is></c></row></sheetData></worksheet>'
        )
        rewritten = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(as_xlsx({"s": ROWS}))) as old, zipfile.ZipFile(rewritten, "w") as new:
            for name in old.namelist():
                new.writestr(name, sheet if name == "xl/worksheets/sheet1.xml" else old.read(name))
        with contextlib.suppress(NoTable):  # refusing it is as good
            self.assertLess(len(read_file("a.xlsx", rewritten.getvalue()).text), 1000)

    def test_two_cells_far_apart(self) -> None:
        held = io.BytesIO()
        book = xlsxwriter.Workbook(held, {"in_memory": True})
        sheet = book.add_worksheet()
        sheet.write_number(0, 0, 1)
        sheet.write_number(1_048_575, 16_383, 2)
        book.close()
        with self.assertRaises(NoTable):
            read_file("a.xlsx", held.getvalue())

    def test_a_reader_that_dies_or_hangs_harms_nobody(self) -> None:
        data = as_xlsx({"s": ROWS})
        for effect, said in (
            ({"side_effect": subprocess.TimeoutExpired("reader", 1)}, "The server is busy"),
            ({"return_value": mock.Mock(returncode=-9)}, "more time or memory"),
        ):
            with mock.patch("ridge.exchange.files.subprocess.run", **effect), self.assertRaises(NoTable) as caught:
                read_file("a.xlsx", data)
            self.assertIn(said, str(caught.exception))

    def test_very_wide_and_nul_bytes(self) -> None:
        with self.assertRaises(NoTable) as caught:
            read_text_table(read_file("a.csv", b",".join([b"1"] * 1_000_000) + b"\n").text)
        self.assertIn("200 000 characters", str(caught.exception))
        table = read_text_table(read_file("a.csv", b"a,b\n1,\x002\n3,4\n").text)
        self.assertEqual(table.columns[1].cells, ("2", "4"))

    def test_a_broken_number_of_bytes_of_any_kind_is_refused_or_read(self) -> None:
        for seed in range(40):
            data = struct.pack("<64I", *((seed * 2654435761 + i * 40503) % 2**32 for i in range(64)))
            try:
                read_file(f"a.{'csv' if seed % 2 else 'xlsx'}", data)
            except NoTable as reason:
                self.assertTrue(str(reason).endswith("."))


class BesideTheTable(TestCase):
    """What a workbook holds that is not taken over is said."""

    def test_formulas(self) -> None:
        held = io.BytesIO()
        book = xlsxwriter.Workbook(held, {"in_memory": True})
        sheet = book.add_worksheet("first")
        book.add_worksheet("second").write_row(0, 0, [1, 2])
        sheet.write_column(0, 0, [1, 2, 3])
        for row in range(3):
            sheet.write_formula(row, 1, f"=2*A{row + 1}", value=2 * row + 2)
        book.close()
        said = read_file("a.xlsx", held.getvalue()).remarks
        self.assertEqual(said, ("3 cells are calculated by formulas; their last values were taken.",))
        self.assertEqual(read_file("a.xlsx", held.getvalue(), sheet="second").remarks, ())
        self.assertEqual(read_file("a.xlsx", as_xlsx({"s": ROWS})).remarks, ())

    def test_formulas_of_ods(self) -> None:
        book = OpenDocumentSpreadsheet()
        sheet, line = Table(name="first"), TableRow()
        line.addElement(TableCell(valuetype="float", value="1"))
        line.addElement(TableCell(valuetype="float", value="2", formula="of:=2*[.A1]"))
        sheet.addElement(line)
        book.spreadsheet.addElement(sheet)
        held = io.BytesIO()
        book.write(held)
        said = read_file("a.ods", held.getvalue()).remarks
        self.assertEqual(said, ("One cell is calculated by formulas; its last value was taken.",))

    def test_macros(self) -> None:
        held = io.BytesIO(as_xlsx({"s": ROWS}))
        with zipfile.ZipFile(held, "a") as archive:
            archive.writestr("xl/vbaProject.bin", bytes(20))
        found = read_file("a.xlsm", held.getvalue())
        self.assertEqual(found.remarks, ("The workbook holds macros. They were not read and do not run here.",))
        self.assertEqual(read_text_table(found.text).row_count, 4)


class WithoutStoredValues(TestCase):
    """What a reader of values alone would take for nothing: it is kept as text, so that its row can be named."""

    def test_xlsx(self) -> None:
        held = io.BytesIO()
        book = xlsxwriter.Workbook(held, {"in_memory": True})
        book.add_worksheet("first")
        sheet = book.add_worksheet("R & D")
        sheet.write_row(1, 1, ["t / s", "h / m"])
        for row in range(2, 6):
            sheet.write_number(row, 1, row)
            sheet.write_formula(row, 2, f"=B{row + 1}*2", None, row * 2)
        book.close()
        changed = {
            b"<f>B4*2</f><v>6</v>": b"<f>B4*2</f>",
            b'<c r="C5"><f>B5*2</f><v>8</v>': b'<c r="C5" t="e"><f>B5*2</f><v>#DIV/0!</v>',
            b"<f>B6*2</f><v>10</v>": b"<f>B6*2</f><v></v>",
        }
        out = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(held.getvalue())) as given, zipfile.ZipFile(out, "w") as archive:
            for name in given.namelist():
                body = given.read(name)
                if name.endswith("sheet2.xml"):
                    for old, new in changed.items():
                        self.assertIn(old, body)
                        body = body.replace(old, new)
                archive.writestr(name, body)
        table = read_text_table(read_file("a.xlsx", out.getvalue()).text)
        self.assertEqual(table.columns[1].cells, ("4", "=B4*2", "#DIV/0!", "=B6*2"))
        self.assertEqual(
            table.columns[1].wrong,
            (
                (1, "=B4*2", "is a formula without a stored value"),
                (2, "#DIV/0!", "is an error of the spreadsheet"),
                (3, "=B6*2", "is a formula without a stored value"),
            ),
        )

    def test_ods(self) -> None:
        book = OpenDocumentSpreadsheet()
        sheet = Table(name="first")
        for cells in (["t", "h"], [0, 1.5], [1, "=[.A3]*2"], [2, 4.5]):
            line = TableRow()
            for value in cells:
                if isinstance(value, str) and value.startswith("="):
                    cell = TableCell(formula=f"of:{value}")
                elif isinstance(value, str):
                    cell = TableCell(valuetype="string")
                    cell.addElement(P(text=value))
                else:
                    cell = TableCell(valuetype="float", value=repr(value))
                line.addElement(cell)
            sheet.addElement(line)
        book.spreadsheet.addElement(sheet)
        held = io.BytesIO()
        book.write(held)
        table = read_text_table(read_file("a.ods", held.getvalue()).text)
        self.assertEqual(table.columns[1].cells, ("1.5", "=[.A3]*2", "4.5"))
        self.assertEqual(table.columns[1].wrong[0][2], "is a formula without a stored value")
