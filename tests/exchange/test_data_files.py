"""Files of tables, each opened by a library other than the one that wrote it, and the figure in every format."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from dataclasses import replace
from unittest import TestCase

import numpy as np
import pandas as pd
from odf.opendocument import load
from odf.table import Table, TableCell, TableRow
from PIL import Image
from python_calamine import CalamineWorkbook

from ridge.exchange.data_files import Sheet, harmless, write_csv, write_ods, write_xlsx
from ridge.exchange.figure import FORMATS, draw
from ridge.studies.analysis import analyse
from ridge.studies.data import about_sheet, answers_sheet, parameters_sheet, readings_sheet
from ridge.studies.figure import figure_content
from ridge.studies.fits import fit_one
from ridge.studies.readings import read_table
from ridge.studies.samples import build_sample

NASTY = Sheet(
    "A & B",
    ["x / m", "=cmd()", "note"],
    [[1.5, float("nan"), -2e-7], ["a<b", "", "\u202eright\x07"], ["=1+1", "@sum", "-"]],
)


class Files(TestCase):
    def test_numbers_keep_every_digit_in_csv(self) -> None:
        rows = list(csv.reader(io.StringIO(write_csv(NASTY).decode("utf-8-sig"))))
        self.assertEqual(rows[0], ["x / m", "'=cmd()", "note"])
        self.assertEqual([row[0] for row in rows[1:]], ["1.5", "", "-2e-07"])
        self.assertEqual(rows[1][2], "'=1+1")
        frame = pd.read_csv(io.BytesIO(write_csv(NASTY)))
        self.assertEqual(frame["x / m"].tolist()[2], -2e-7)

    def test_a_workbook_read_by_another_library(self) -> None:
        book = CalamineWorkbook.from_filelike(io.BytesIO(write_xlsx([NASTY, replace(NASTY, name="Two")])))
        self.assertEqual(book.sheet_names, ["A & B", "Two"])
        rows = book.get_sheet_by_index(0).to_python()
        self.assertEqual(rows[1][:2], [1.5, "a<b"])
        self.assertEqual(rows[3][2], "'-")
        with zipfile.ZipFile(io.BytesIO(write_xlsx([NASTY]))) as archive:
            self.assertNotIn(b"<f>", archive.read("xl/worksheets/sheet1.xml"))

    def test_a_spreadsheet_read_by_two_other_libraries(self) -> None:
        body = write_ods([NASTY])
        rows = CalamineWorkbook.from_filelike(io.BytesIO(body)).get_sheet_by_index(0).to_python()
        self.assertEqual(rows[1], [1.5, "a<b", "'=1+1"])
        table = load(io.BytesIO(body)).spreadsheet.getElementsByType(Table)[0]
        self.assertEqual(len(table.getElementsByType(TableRow)), 4)
        values = [cell.getAttribute("value") for cell in table.getElementsByType(TableCell)]
        self.assertIn("-2e-07", values)
        with zipfile.ZipFile(io.BytesIO(body)) as archive:
            first = archive.infolist()[0]
            self.assertEqual((first.filename, first.compress_type), ("mimetype", zipfile.ZIP_STORED))

    def test_what_is_made_harmless(self) -> None:
        self.assertEqual(
            [harmless(text) for text in ("=1", "+1", "-a", "@x", "1", "")], ["'=1", "'+1", "'-a", "'@x", "1", ""]
        )


class StudyTables(TestCase):
    def test_readings_with_fitted_values_and_residuals(self) -> None:
        state = build_sample("draining-bucket")
        sheet = readings_sheet(state)
        columns = dict(zip(sheet.headings, sheet.columns, strict=True))
        self.assertEqual(list(columns)[:3], ["row", "time t / s", "level h / cm"])
        fit = fit_one(read_table(state), state.fits[0]).fit
        assert fit is not None
        self.assertEqual(columns["fitted A / cm"][0], fit.fitted[0])
        self.assertEqual(columns["residual A / cm"][5], fit.residuals[5])
        self.assertIn("unusable", columns["status"])

    def test_fits_answers_and_what_it_is_about(self) -> None:
        state = build_sample("salinity-probe")
        analysis = analyse(state)
        fits = parameters_sheet(analysis)
        slope = fits.columns[2].index("slope")
        self.assertEqual(fits.columns[3][slope], analysis.fits[0].parameters[0].number)
        answers = answers_sheet(state, analysis)
        self.assertEqual(answers.rows, len(analysis.answers) + len(analysis.unknowns))
        self.assertIn(state.question, about_sheet(state, analysis).columns[1])


class Formats(TestCase):
    def test_every_format_is_what_it_says(self) -> None:
        state = build_sample("draining-bucket")
        content = figure_content(state, analyse(state))
        begins = {
            "svg": b"<?xml",
            "pdf": b"%PDF",
            "png": b"\x89PNG",
            "jpg": b"\xff\xd8",
            "tiff": b"II*\x00",
            "eps": b"%!PS",
        }
        for kind in FORMATS:
            body = draw(content, kind, 100, 150)
            self.assertTrue(body.startswith(begins[kind]), kind)
            if kind in ("png", "jpg", "tiff"):
                picture = Image.open(io.BytesIO(body))
                self.assertAlmostEqual(picture.width, 100 / 25.4 * 150, delta=2)
        pdf = draw(content, "pdf")
        self.assertIn(b"/FontFile2", pdf)  # the fonts are in it

    def test_black_and_white(self) -> None:
        state = build_sample("draining-bucket")
        picture = Image.open(io.BytesIO(draw(figure_content(state, analyse(state)), "png", 100, 100, grey=True)))
        channels = np.asarray(picture.convert("RGB"), dtype=int)
        # ink and its tints are nearly grey: no channel strays far from another
        self.assertLess(int(np.ptp(channels, axis=-1).max()), 40)
        self.assertFalse(re.search(rb"156353", draw(figure_content(state, analyse(state)), "svg", grey=True)))
