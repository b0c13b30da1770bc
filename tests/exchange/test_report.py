"""The report read back by other readers: PDF by pypdf, DOCX as its XML, HTML by the parser of the standard library."""

from __future__ import annotations

import io
import zipfile
from dataclasses import replace
from datetime import datetime
from html.parser import HTMLParser
from typing import Any
from unittest import TestCase
from xml.etree import ElementTree

from PIL import Image
from pypdf import PdfReader
from python_calamine import CalamineWorkbook

from ridge.core.wording.rounding import round_with_uncertainty
from ridge.exchange.data_files import write_xlsx
from ridge.exchange.report.content import TEXT, Formula, Grid, Paragraph, Report, plain_text
from ridge.exchange.report.docx import write_docx
from ridge.exchange.report.formulas import OMML, to_mathml, to_omml
from ridge.exchange.report.html import write_html
from ridge.exchange.report.pdf import write_pdf
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import AnswerState, FitState, ReportPart
from ridge.studies.out.data import answers_sheet, parameters_sheet
from ridge.studies.out.report import report_of
from ridge.studies.words.analyse import analyse
from ridge.studies.words.schemas import AnalysisOut
from tests.fits import computed, drawn

W = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
M = f"{{{OMML}}}"
MADE = datetime(2026, 5, 12)
HOSTILE = '<script>alert(1)</script> & "=1+2" \u202eback \x00\x07 ﷽'


def of_sample(name: str, picture: str = "svg") -> Report:
    state = replace(build_sample(name), author="Field group 3", date="12 May")
    return report_of(state, analyse(state), "png" if picture == "png" else "svg")


class Reader(HTMLParser):
    """Tags with their attributes, and the text that is seen."""

    def __init__(self, html: str) -> None:
        super().__init__()
        self.tags: list[tuple[str, dict[str, str | None]]] = []
        self.text = ""
        self._unseen = False
        self.feed(html)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append((tag, dict(attrs)))
        self._unseen = tag == "style" or dict(attrs).get("class") == "unseen"
        # A cell is a text of its own.
        self.text += " " if tag in ("td", "th", "caption", "p", "li") else ""

    def handle_endtag(self, tag: str) -> None:
        self._unseen = False

    def handle_data(self, data: str) -> None:
        self.text += "" if self._unseen else data


def spaces(text: str) -> str:
    """With every kind of space the same, since layout breaks lines where it likes."""
    return " ".join(text.replace("\u202f", " ").replace("\u00a0", " ").replace("\u2009", " ").split())


def document(body: bytes) -> ElementTree.Element:
    with zipfile.ZipFile(io.BytesIO(body)) as archive:
        return ElementTree.fromstring(archive.read("word/document.xml"))


def said(root: ElementTree.Element) -> str:
    return " ".join("".join(t.text or "" for t in paragraph.iter(f"{W}t")) for paragraph in root.iter(f"{W}p"))


class Html(TestCase):
    def test_every_sample_needs_nothing_else_and_runs_nothing(self) -> None:
        for sample in SAMPLES:
            html = write_html(of_sample(sample.name))
            page = Reader(html)
            self.assertIn(sample.title, page.text)
            names = [tag for tag, _ in page.tags]
            self.assertNotIn("script", names)
            self.assertNotIn("link", names)
            for tag, attributes in page.tags:
                for name in ("src", "href"):
                    self.assertTrue((attributes.get(name) or "data:").startswith("data:"), (tag, name))
            figure = next(attributes for tag, attributes in page.tags if tag == "img")
            self.assertTrue(figure["alt"])
            self.assertIn("math", names)
            self.assertEqual(names.count("h1"), 1)

    def test_what_is_typed_means_nothing_but_itself(self) -> None:
        report = Report(HOSTILE, HOSTILE, "", (Paragraph(HOSTILE), Grid(HOSTILE, (HOSTILE,), ((HOSTILE,),), (TEXT,))))
        page = Reader(write_html(report))
        self.assertNotIn("script", [tag for tag, _ in page.tags])
        # Twice the title, the author, the paragraph, caption, head and cell of the table.
        self.assertEqual(page.text.count("<script>alert(1)</script>"), 7)
        self.assertNotIn("\x00", page.text)


class Pdf(TestCase):
    def test_pages_with_their_text_fonts_tags_and_alternatives(self) -> None:
        state = build_sample("salinity-probe")
        analysis = analyse(state)
        reader = PdfReader(io.BytesIO(write_pdf(of_sample("salinity-probe"))))
        text = spaces(" ".join(page.extract_text() for page in reader.pages))
        self.assertIn("Salinity probe, calibration", text)
        self.assertIn("Field group 3 · 12 May", text)
        self.assertIn(spaces(drawn(analysis.fits[0]).how_well), text)
        for unknown in analysis.unknowns:
            self.assertIn(spaces(unknown.answer.result), text)
        for parameter in computed(analysis.fits[0]).parameters:
            self.assertIn(spaces(f"{parameter.value} ± {parameter.uncertainty}"), text)
        self.assertEqual(reader.metadata and reader.metadata.title, "Salinity probe, calibration")
        root: Any = reader.trailer["/Root"]
        self.assertTrue(root["/MarkInfo"]["/Marked"])
        self.assertEqual(root["/Lang"], "en")
        fonts = {}
        for page in reader.pages:
            resources: Any = page["/Resources"]
            for font in resources["/Font"].values():
                inner = font.get_object()["/DescendantFonts"][0].get_object()
                descriptor = inner["/FontDescriptor"].get_object()
                fonts[str(inner["/BaseFont"])] = any(key in descriptor for key in ("/FontFile2", "/FontFile3"))
        self.assertTrue(all(fonts.values()), fonts)
        self.assertTrue(any("Literata" in name for name in fonts), fonts)

    def test_what_is_typed_is_printed_as_it_is(self) -> None:
        report = Report("=1+2 <b>", "", "", (Paragraph("<img src=file:///etc/passwd> & more"), Paragraph("\x07שלום")))
        text = PdfReader(io.BytesIO(write_pdf(report))).pages[0].extract_text()
        self.assertIn("=1+2 <b>", text)
        self.assertIn("<img src=file:///etc/passwd> & more", text)


class Docx(TestCase):
    def test_headings_tables_equations_and_a_figure_with_its_alternative(self) -> None:
        for sample in SAMPLES:
            root = document(write_docx(of_sample(sample.name, "png"), MADE))
            styles = [style.get(f"{W}val") for style in root.iter(f"{W}pStyle")]
            self.assertIn("Title", styles)
            self.assertGreaterEqual(styles.count("Heading1"), 4, sample.name)
            self.assertGreater(len(list(root.iter(f"{W}tbl"))), 1)
            self.assertGreater(len(list(root.iter(f"{W}tblHeader"))), 1)
            self.assertTrue(list(root.iter(f"{M}oMath")), sample.name)
            described = next(part for part in root.iter() if part.tag.endswith("}docPr"))
            self.assertTrue((described.get("descr") or "").startswith("Plot of"))

    def test_the_figure_is_as_sharp_as_print_needs(self) -> None:
        with zipfile.ZipFile(io.BytesIO(write_docx(of_sample("tide", "png"), MADE))) as archive:
            name = next(name for name in archive.namelist() if name.startswith("word/media/"))
            picture = Image.open(io.BytesIO(archive.read(name)))
        self.assertGreater(picture.width, 160 / 25.4 * 200)

    def test_what_is_typed_is_text(self) -> None:
        report = Report(HOSTILE, "", "", (Paragraph(HOSTILE, "caution"), Formula("y", "y=1")))
        text = said(document(write_docx(report, MADE)))
        self.assertEqual(text.count("<script>alert(1)</script>"), 2)


class Formulas(TestCase):
    LATEX = r"T = \frac{60.2\, e^{-0.0432\, t}}{\sqrt{x_{1}^{2} + 1}} - 1.2 \times 10^{-3}"

    def test_the_parts_of_an_equation_as_office_math(self) -> None:
        root = to_omml(self.LATEX)
        kinds = [part.tag.removeprefix(M) for part in root.iter()]
        for kind in ("f", "num", "den", "sSup", "sSubSup", "rad", "degHide"):
            self.assertIn(kind, kinds)
        fraction = next(root.iter(f"{M}f"))
        over = "".join(t.text or "" for t in fraction.find(f"{M}num").iter(f"{M}t"))  # type: ignore[union-attr]
        under = "".join(t.text or "" for t in fraction.find(f"{M}den").iter(f"{M}t"))  # type: ignore[union-attr]
        self.assertEqual(over.replace("\u2009", ""), "60.2e−0.0432t")
        self.assertEqual(under, "x12+1")

    def test_as_mathml(self) -> None:
        names = [part.tag.split("}")[1] for part in ElementTree.fromstring(to_mathml(self.LATEX)).iter()]
        for name in ("mfrac", "msqrt", "msup", "mn"):
            self.assertIn(name, names)


class SameNumbers(TestCase):
    def test_page_report_and_workbook_agree_to_the_last_digit_shown(self) -> None:
        for sample in SAMPLES:
            state = build_sample(sample.name)
            analysis = analyse(state)
            report = spaces(Reader(write_html(report_of(state, analysis))).text)
            book = CalamineWorkbook.from_filelike(
                io.BytesIO(write_xlsx([parameters_sheet(analysis), answers_sheet(state, analysis)]))
            )
            full = {
                (row[0], row[1], row[2]): (row[3], row[4]) for row in book.get_sheet_by_name("Fits").to_python()[1:]
            }
            for fit in analysis.fits:
                for one in computed(fit).parameters:
                    value, error = (
                        float(str(cell)) if cell not in ("", None) else None
                        for cell in full[fit.letter, "parameter", one.name]
                    )
                    assert value is not None
                    shown = round_with_uncertainty(value, error)
                    self.assertEqual((shown.value, shown.uncertainty), (one.value, one.uncertainty), sample.name)
                    said = one.text
                    self.assertIn(spaces(said), report)
            for answer in analysis.answers:
                if answer.result and not answer.rows:
                    self.assertIn(spaces(answer.result), report)
                    cells = [str(cell) for row in book.get_sheet_by_name("Answers").to_python() for cell in row]
                    self.assertIn(spaces(answer.result), [spaces(cell) for cell in cells])


class Parts(TestCase):
    def test_order_own_paragraphs_and_what_is_left_out(self) -> None:
        state = build_sample("salinity-probe")
        wanted = (
            ReportPart("own", heading="Set-up", text="First.\n\nSecond."),
            ReportPart("answers"),
            ReportPart("question"),
        )
        report = report_of(replace(state, report=(*wanted, ReportPart("model", shown=False))), analyse(state))
        text = Reader(write_html(report)).text
        self.assertLess(text.index("Set-up"), text.index("Answers"))
        self.assertLess(text.index("Answers"), text.index(state.question))
        self.assertNotIn("Parameters", text)
        self.assertNotIn("Model", text)

    def test_many_readings_are_summarised(self) -> None:
        state = build_sample("mooring-line")
        cells = {"x": [str(row + 1) for row in range(500)], "y": [str(2 * row + row % 3) for row in range(500)]}
        columns = tuple(replace(c, cells=tuple(cells.get(c.role, ["1"] * 500))) for c in state.columns)
        many = replace(state, columns=columns, aside={}, answers=())
        grids = [block for block in report_of(many, analyse(many)).blocks if isinstance(block, Grid)]
        summary = grids[-1]
        self.assertEqual(summary.head[1:], ("readings", "minimum", "maximum", "mean", "standard deviation"))
        x = summary.rows[0]
        # Mean and standard deviation of 1 … n: (n + 1)/2 and √(n(n + 1)/12).
        self.assertEqual(x[1:], ("500", "1", "500", "250.5", "144.48"))

    def test_several_fits_interpolations_and_refusals_are_told_apart(self) -> None:
        fits = (
            FitState("A", "line"),
            FitState("B", "interpolation", options={"kind": "cubic-spline", "average": True}),
            FitState("C", "formula", options={"text": "a*("}),
            FitState("D", "formula", options={"text": "30 - t/4"}, name="as promised"),
            FitState("E", "sinusoid", hidden=True),
        )
        state = replace(build_sample("draining-bucket"), fits=fits)
        text = Reader(write_html(report_of(state, analyse(state)))).text
        for words in ("A, line", "B, cubic spline, natural ends", "D, as promised", "de Boor", "Draper"):
            self.assertIn(words, text)
        self.assertNotIn("E, ", text)
        self.assertIn("C, own formula: ", text)

    def test_an_empty_study_has_a_report(self) -> None:
        state = replace(build_sample("mooring-line"), answers=())
        empty = replace(
            state, columns=tuple(replace(column, cells=()) for column in state.columns), aside={}, assumed={}
        )
        report = report_of(empty, analyse(empty))
        self.assertIn(state.question, Reader(write_html(report)).text)
        self.assertTrue(write_docx(report_of(empty, analyse(empty), "png"), MADE).startswith(b"PK"))


class Answers(TestCase):
    """Answers stand in the report as they stand on the page, also those that there are not."""

    def report(self, *answers: AnswerState, level: float = 0.95) -> tuple[AnalysisOut, Report]:
        state = replace(build_sample("draining-bucket"), answers=answers, level=level)
        analysis = analyse(state)
        return analysis, report_of(replace(state, report=(ReportPart("answers"),)), analysis)

    def test_one_value_with_its_limits_and_where_it_stands(self) -> None:
        analysis, report = self.report(AnswerState("a", "y_at_x", "180", name="after three minutes"))
        _, paragraph, preference = report.blocks
        assert isinstance(paragraph, Paragraph) and isinstance(preference, Paragraph)
        self.assertIn("is to be preferred to", plain_text(preference.text))
        answer = analysis.answers[0]
        for said in (
            "after three minutes: ",
            answer.asked,
            answer.result,
            answer.sentence,
            answer.place,
            answer.beyond_says,
        ):
            self.assertIn(said, plain_text(paragraph.text))
        self.assertNotIn("..", plain_text(paragraph.text))

    def test_a_range_from_every_fit_is_a_table(self) -> None:
        analysis, report = self.report(AnswerState("a", "y_at_x", "10 to 40 step 10", fit="all"))
        grid = report.blocks[1]
        assert isinstance(grid, Grid)
        self.assertEqual(len(grid.rows), len(analysis.answers[0].rows))
        self.assertEqual([row[1] for row in grid.rows], [row.result for row in analysis.answers[0].rows])
        self.assertEqual(len(grid.head), len(grid.kinds))
        self.assertNotIn("position", grid.head)

    def test_columns_that_say_nothing_are_left_out_but_the_place_beyond_is_said(self) -> None:
        _, report = self.report(AnswerState("a", "y_at_x", "100, 200"))
        grid = report.blocks[1]
        assert isinstance(grid, Grid)
        self.assertEqual(grid.head[-1], "position")
        self.assertEqual(grid.rows[0][-1], "")
        self.assertIn("past the last reading", grid.rows[1][-1])

    def test_no_answer_is_a_caution_with_its_reason(self) -> None:
        analysis, report = self.report(AnswerState("a", "x_at_y", "-50"))
        paragraph = report.blocks[1]
        assert isinstance(paragraph, Paragraph)
        self.assertEqual(paragraph.kind, "caution")
        self.assertIn(analysis.answers[0].problem, plain_text(paragraph.text))

    def test_without_answers_there_is_no_heading(self) -> None:
        self.assertEqual(self.report()[1].blocks, ())

    def test_another_level_is_said_everywhere(self) -> None:
        state = replace(build_sample("salinity-probe"), level=0.9)
        text = spaces(Reader(write_html(report_of(state, analyse(state)))).text)
        self.assertIn("90 % limits", text)
        self.assertIn("(90 % CI ", text)
        self.assertNotIn("95 %", text)


class ReadingsTable(TestCase):
    def rows(self, **changes: Any) -> tuple[tuple[str, ...], ...]:
        state = replace(build_sample("mooring-line"), **changes)
        report = report_of(replace(state, report=(ReportPart("readings"),)), analyse(state))
        grid = report.blocks[-1]
        assert isinstance(grid, Grid)
        return tuple(tuple(plain_text(cell) for cell in row) for row in grid.rows)

    def test_what_is_not_simply_in_use_says_why(self) -> None:
        rows = self.rows(aside={2: "slipped", 4: ""}, assumed={1: "from the maker"})
        said = [row[-1] for row in rows]
        self.assertEqual([said[1], said[2], said[4]], ["assumed: from the maker", "set aside: slipped", "set aside"])
        self.assertEqual(said[0], "")

    def test_nothing_to_say_nothing_said(self) -> None:
        # Row, columns, fitted value and residual.
        width = len(build_sample("mooring-line").columns) + 3
        self.assertTrue(all(len(row) == width for row in self.rows(aside={}, assumed={})))

    def test_cells_stand_as_they_were_typed(self) -> None:
        state = build_sample("mooring-line")
        for place, row in enumerate(self.rows()):
            self.assertEqual(row[1 : 1 + len(state.columns)], tuple(column.cells[place] for column in state.columns))


class ByHandAndKnown(TestCase):
    def test_a_curve_with_given_numbers_claims_no_uncertainty(self) -> None:
        fits = (FitState("A", "line", by_hand=True, values={"slope": -0.25, "intercept": 28.0}),)
        state = replace(build_sample("draining-bucket"), fits=fits, answers=())
        analysis = analyse(state)
        report = report_of(state, analysis)
        text = spaces(Reader(write_html(report)).text)
        self.assertIn("nothing was fitted", text)
        self.assertNotIn("Draper", text)
        self.assertNotIn(" ± ", text.split("Readings")[0].split("Parameters")[-1].split("How well")[0])
