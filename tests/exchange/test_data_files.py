"""Files of tables, each opened by a library other than the one that wrote it, and the figure in every format."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from dataclasses import replace
from typing import Any
from unittest import TestCase

import numpy as np
import pandas as pd
from odf.opendocument import load
from odf.table import Table, TableCell, TableRow
from PIL import Image
from python_calamine import CalamineWorkbook

from ridge.core.predicting.at_x import predict
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.features import tangent, turning_points
from ridge.exchange.data_files import Sheet, harmless, write_csv, write_ods, write_xlsx
from ridge.exchange.figure import FORMATS, draw
from ridge.studies.analysis.fits import fit_one
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import AnswerState
from ridge.studies.out.data import about_sheet, answers_sheet, parameters_sheet, readings_sheet
from ridge.studies.out.figure import figure_content
from ridge.studies.words.analyse import analyse
from tests.fits import computed

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
        self.assertEqual(fits.columns[3][slope], computed(analysis.fits[0]).parameters[0].number)
        self.assertIn(state.question, about_sheet(state, analysis).columns[1])

    def test_quantities_of_ones_own_are_numbers_too(self) -> None:
        analysis = analyse(build_sample("mooring-line"))
        sheet = parameters_sheet(analysis)
        place = sheet.columns[2].index("stiffness")
        kind, value, error, unit = (sheet.columns[column][place] for column in (1, 3, 4, 5))
        parameter = computed(analysis.fits[0]).parameters[0]
        slope, its_error = parameter.number, parameter.standard_error or 0
        self.assertEqual((kind, unit), ("follows", "N/mm"))
        self.assertAlmostEqual(float(value) * slope, 1, 12)
        self.assertAlmostEqual(float(error) / (its_error / slope**2), 1, 9)

    def test_answers_are_numbers_in_their_cells(self) -> None:
        """Read back by another reader and compared with the core, question by question."""
        asked = (
            AnswerState("a", "y_at_x", "180", fit="all"), AnswerState("b", "x_at_y", "15.7", fit="A", name="half"),
            AnswerState("c", "tangent", "40", fit="A"), AnswerState("d", "area", "0 to 60", fit="A"),
            AnswerState("e", "turning", "", fit="A"), AnswerState("f", "x_at_y", "-50", fit="A"),
        )  # fmt: skip
        state = replace(build_sample("draining-bucket"), answers=asked)
        fit = fit_one(read_table(state), state.fits[0]).fit
        assert fit is not None
        body = write_xlsx([answers_sheet(state, analyse(state))])
        head, *rows = CalamineWorkbook.from_filelike(io.BytesIO(body)).get_sheet_by_name("Answers").to_python()
        table: list[dict[str, Any]] = [dict(zip(map(str, head), row, strict=True)) for row in rows]

        def one(**wanted: str) -> dict[str, Any]:
            (found,) = [
                row for row in table if all(row[key.replace("_", " ")] == value for key, value in wanted.items())
            ]
            return found

        prediction = predict(fit, 180.0)
        new, curve = (
            one(fit="A", quantity="h", limits_of="new reading"),
            one(asked="t = 180 s", fit="A", limits_of="curve"),
        )
        self.assertEqual(
            (new["value"], new["low"], new["high"]),
            tuple(float(v) for v in (prediction.value, prediction.low, prediction.high)),
        )
        self.assertEqual((curve["low"], curve["high"]), (float(prediction.mean_low), float(prediction.mean_high)))
        self.assertEqual((new["unit"], new["level"]), ("cm", 0.95))
        halves = [row for row in table if row["name"] == "half"]
        self.assertEqual(
            [(row["value"], row["low"], row["high"]) for row in halves],
            [(s.value, s.low, s.high) for s in solve(fit, 15.7)],
        )
        self.assertEqual({row["unit"] for row in halves}, {"s"})
        self.assertEqual(one(quantity="slope")["value"], tangent(fit, 40.0).slope.value)
        self.assertEqual(one(quantity="area")["unit"], "cm·s")
        place = turning_points(fit)[0]
        self.assertEqual([row["value"] for row in table if "urning" in row["asked"]], [place.x, place.y])
        # What has no answer says why, and holds no number.
        refused = table[-1]
        self.assertEqual(refused["value"], "")
        self.assertTrue(refused["answer"])

    def test_rows_are_whole_numbers(self) -> None:
        sheet = readings_sheet(build_sample("tide"))
        self.assertEqual(list(sheet.columns[0][:3]), [1, 2, 3])
        self.assertTrue(write_csv(sheet).decode("utf-8-sig").splitlines()[1].startswith("1,"))
        self.assertEqual(sheet.headings[1], "time since midnight t / h:min")


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
