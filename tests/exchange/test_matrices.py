"""Matrices of a report: in MathML, as native matrices of a text document, and drawn for the PDF."""

from __future__ import annotations

import io
from dataclasses import replace
from datetime import datetime
from unittest import TestCase
from xml.etree import ElementTree
from zipfile import ZipFile

import pypdfium2

from ridge.core.decimal_sign import written_with
from ridge.exchange.report.docx import write_docx
from ridge.exchange.report.formulas import OMML, to_mathml, to_omml
from ridge.exchange.report.html import write_html
from ridge.exchange.report.pdf import write_pdf
from ridge.exchange.typeset import draw_equation
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import ReportPart
from ridge.studies.out.report import report_of
from ridge.studies.words.analyse import analyse

MATRIX = r"\mathbf{A} = \left[\begin{array}{rr|r}1 & 25 & 3 \\ 4 & \frac{5}{2} & 6\end{array}\right]"
M = f"{{{OMML}}}"


class Matrices(TestCase):
    def test_mathml(self) -> None:
        found = ElementTree.fromstring(to_mathml(MATRIX))
        rows = list(found.iter("{http://www.w3.org/1998/Math/MathML}mtr"))
        self.assertEqual([len(row) for row in rows], [3, 3])

    def test_native_in_a_text_document(self) -> None:
        found = to_omml(MATRIX)
        (matrix,) = found.iter(f"{M}m")
        self.assertEqual([len(row.findall(f"{M}e")) for row in matrix.findall(f"{M}mr")], [3, 3])
        (fence,) = found.iter(f"{M}d")
        self.assertEqual(fence.find(f"{M}dPr/{M}begChr").get(f"{M}val"), "[")  # type: ignore[union-attr]
        self.assertEqual("".join(text.text or "" for text in found.iter(f"{M}t")), "\U0001d400=12534526")

    def test_drawn_with_columns_flush_right_and_its_height(self) -> None:
        plain, found = draw_equation("1"), draw_equation(MATRIX)
        assert plain is not None and found is not None
        self.assertGreater(found.ascent + found.descent, 2 * (plain.ascent + plain.descent))
        larger = draw_equation(MATRIX.replace("25 &", "2555555 &"))
        assert larger is not None
        self.assertGreater(larger.width, found.width)

    def test_what_is_no_matrix_is_not_drawn_as_one(self) -> None:
        self.assertIsNone(draw_equation(r"\left[\begin{array}{rr}1 & \unknown \\ 2 & 3\end{array}\right]"))


class WorkingInTheReport(TestCase):
    def setUp(self) -> None:
        parts = (
            ReportPart(
                "working", of="form:quadratic", what="least-squares", form="decimals", places=3, heading="By hand"
            ),
            ReportPart("working", of="B", what="goodness-of-fit"),
            ReportPart("working", of="gone", what="goodness-of-fit"),
        )
        self.state = replace(build_sample("sheer-line"), report=parts)
        self.analysis = analyse(self.state)

    def test_in_every_file(self) -> None:
        report = report_of(self.state, self.analysis)
        pdf = pypdfium2.PdfDocument(write_pdf(report))
        text = " ".join(page.get_textpage().get_text_range() for page in pdf)
        pdf.close()
        html = write_html(report)
        docx = ZipFile(io.BytesIO(write_docx(report_of(self.state, self.analysis, "png"), datetime(2026, 1, 1))))
        body = docx.read("word/document.xml").decode()
        for where, found in (("pdf", text), ("html", html), ("docx", body)):
            for wanted in ("By hand", "right-hand side", "How well it fits", "There is no such working here any more."):
                self.assertIn(wanted, found, where)
        self.assertGreater(html.count("<mtable"), 5)
        self.assertGreater(body.count("<m:m>"), 5)

    def test_with_a_decimal_comma(self) -> None:
        with written_with("comma"):
            html = write_html(report_of(self.state, analyse(self.state)))
        self.assertIn("0,618", html.replace("</mn><mo>", "").replace("</mo><mn>", ""))
        self.assertNotIn("0.618", html)
