"""The report's files under second readers: PDF/UA by pypdf, its letters as pictures, DOCX by pandoc, HTML by its own rules."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime
from functools import cache
from typing import Any
from unittest import TestCase
from xml.etree import ElementTree

import numpy as np
import pypandoc
import pypdfium2
from PIL import Image, ImageDraw, ImageFont
from pypdf import PdfReader
from pypdf.generic import ContentStream

from ridge.exchange.faces import FACES, LAST, MISSING
from ridge.exchange.report.content import NUMBER, TEXT, Formula, Grid, Listing, Paragraph, Report, Run, joined
from ridge.exchange.report.docx import write_docx
from ridge.exchange.report.html import write_html
from ridge.exchange.report.pdf import REPLACED, write_pdf
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import ColumnState, FitState, StudyState
from ridge.studies.out.report import report_of
from ridge.studies.words.analyse import analyse
from tests.exchange.test_report import Reader, spaces
from tests.fits import computed

MADE = datetime(2026, 5, 12, 9, 30)
ALPHABETS = {
    "Greek": "ω φ µ θ Ω λ",
    "Cyrillic": "Прилив у причала",
    "Hebrew": "גאות",
    "Arabic": "المد",
    "raised and lowered": "10⁻⁷ c₀ x₁₂",
    "signs": "± × − √ ≤ ∞ ·",
}


@cache
def of_sample(name: str, picture: str = "svg") -> Report:
    state = build_sample(name)
    return report_of(state, analyse(state), "png" if picture == "png" else "svg")


@cache
def pdf_of(name: str) -> bytes:
    return write_pdf(of_sample(name))


def text_of(body: bytes) -> str:
    return spaces(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(body)).pages))


def elements(body: bytes) -> Iterator[Any]:
    """Every element of the structure, depth first."""
    root: Any = PdfReader(io.BytesIO(body)).trailer["/Root"]

    def walk(node: Any) -> Iterator[Any]:
        node = node.get_object()
        if not hasattr(node, "get"):
            return
        if "/S" in node:
            yield node
        kids = node.get("/K")
        kids = kids.get_object() if hasattr(kids, "get_object") else kids
        for kid in kids if isinstance(kids, list) else [kids]:
            if kid is not None and not isinstance(kid, int):
                yield from walk(kid)

    yield from walk(root["/StructTreeRoot"])


class PdfUa(TestCase):
    """Rules of ISO 14289-1 that a reader of files can check: sections 7.1 to 7.5 and 7.21."""

    def test_it_says_what_it_is_and_in_which_language(self) -> None:
        for sample in SAMPLES:
            reader = PdfReader(io.BytesIO(pdf_of(sample.name)))
            root: Any = reader.trailer["/Root"]
            self.assertEqual((root["/Lang"], root["/MarkInfo"]["/Marked"]), ("en", True))
            self.assertTrue(root["/ViewerPreferences"]["/DisplayDocTitle"])
            packet = root["/Metadata"].get_object().get_data().decode()
            self.assertIn('pdfuaid:part="1"', packet)
            self.assertIn(f">{sample.title}</rdf:li>", packet)
            self.assertEqual({page.get("/Tabs") for page in reader.pages}, {"/S"})

    def test_everything_is_tagged_or_an_artefact(self) -> None:
        for sample in SAMPLES:
            reader = PdfReader(io.BytesIO(pdf_of(sample.name)))
            for page in reader.pages:
                depth = 0
                for _, operator in ContentStream(page.get_contents(), reader).operations:
                    depth += {b"BDC": 1, b"BMC": 1, b"EMC": -1}.get(operator, 0)
                    if operator in (b"Tj", b"TJ", b"Do", b"f", b"f*", b"S", b"B", b"sh"):
                        self.assertGreater(depth, 0, (sample.name, operator))

    def test_headings_do_not_skip_and_tables_have_heads(self) -> None:
        for sample in SAMPLES:
            kinds = [str(one["/S"]) for one in elements(pdf_of(sample.name))]
            self.assertEqual(next(kind for kind in kinds if kind in ("/H1", "/H2", "/H3")), "/H1")
            self.assertEqual(kinds.count("/H1"), 1)
            self.assertNotIn("/H3", kinds)
            heads = {str(one["/ID"]) for one in elements(pdf_of(sample.name)) if one["/S"] == "/TH" and "/ID" in one}
            cells = [one for one in elements(pdf_of(sample.name)) if one["/S"] == "/TD"]
            self.assertGreater(len(cells), 10)
            for cell in cells:
                # One for its column, one for its row.
                own = [str(head) for head in cell["/A"]["/Headers"]]
                self.assertGreaterEqual(len(own), 2)
                self.assertLessEqual(set(own), heads)

    def test_pictures_say_ranges_and_trend_and_fonts_are_inside(self) -> None:
        said = [str(one.get("/Alt", "")) for one in elements(pdf_of("can-of-soup")) if one["/S"] == "/Figure"]
        self.assertTrue(all(said))
        figure = spaces(next(text for text in said if text.startswith("Plot of")))
        for words in ("16 readings", "t from 0 to 90 min", "T from 18.1 to 83.3 °C", "falls", "in a pattern unlikely"):
            self.assertIn(words, figure)
        tide = [str(one.get("/Alt", "")) for one in elements(pdf_of("tide")) if one["/S"] == "/Figure"]
        self.assertIn("rises and falls with five turns", " ".join(tide))
        for sample in SAMPLES:
            for page in PdfReader(io.BytesIO(pdf_of(sample.name))).pages:
                resources: Any = page["/Resources"]
                for font in resources["/Font"].values():
                    inner = font.get_object()["/DescendantFonts"][0].get_object()
                    descriptor = inner["/FontDescriptor"].get_object()
                    self.assertTrue("/FontFile2" in descriptor or "/FontFile3" in descriptor)
                    self.assertIn("/ToUnicode", font.get_object())


def ink(image: Image.Image) -> Any:
    """The part of a picture that is not white, scaled to one size."""
    pixels = 255 - np.asarray(image.convert("L")).astype(float)
    rows, columns = np.flatnonzero(pixels.max(axis=1) > 60), np.flatnonzero(pixels.max(axis=0) > 60)
    part = pixels[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1]
    return np.asarray(Image.fromarray(part.clip(0, 255).astype("uint8")).resize((240, 60))).astype(float)


def alike(first: Any, second: Any) -> float:
    """How closely two pictures agree: 1 for the same."""
    return float(np.corrcoef(first.ravel(), second.ravel())[0, 1])


def printed(text: str) -> Any:
    """A text as the PDF shows it, its title white: only the paragraph leaves ink."""
    page = pypdfium2.PdfDocument(write_pdf(Report(" ", "", "", (Paragraph(text),))))[0]
    image = page.render(scale=6).to_pil()
    return ink(image.crop((0, 0, image.width, image.height * 9 // 10)))


def drawn(text: str, path: str) -> Any:
    """The same by another program from the same face."""
    image = Image.new("L", (3000, 300), 255)
    face = ImageFont.truetype(path, 120, layout_engine=ImageFont.Layout.RAQM if ImageFont.core.HAVE_RAQM else None)
    ImageDraw.Draw(image).text((40, 60), text, font=face, fill=0)
    return ink(image)


class Letters(TestCase):
    """Letters as they look, not only as they are said to be: text that reads well can be drawn wrongly."""

    def test_greek_and_cyrillic_letters_are_themselves(self) -> None:
        book = str(FACES[0].path)
        for text in ("ωφµθΩλ", "Прилив", "f w m o", "m/s²"):
            right = alike(printed(text), drawn(text, book))
            self.assertGreater(right, 0.93, text)
        # What was drawn in place of a Greek letter once: a Latin one.
        self.assertLess(alike(printed("ω"), drawn("f", book)), 0.7)

    def test_hebrew_and_arabic_come_from_the_last_face(self) -> None:
        for text in (ALPHABETS["Hebrew"], ALPHABETS["Arabic"]):
            if not ImageFont.core.HAVE_RAQM:
                self.skipTest("Pillow cannot shape these letters here.")
            self.assertGreater(alike(printed(text), drawn(text, str(LAST.path))), 0.9, text)

    def test_every_alphabet_reads_back_and_nothing_is_blank(self) -> None:
        report = Report("Letters", "", "", tuple(Paragraph(text) for text in ALPHABETS.values()))
        text = text_of(write_pdf(report))
        for alphabet, letters in ALPHABETS.items():
            if alphabet not in ("Hebrew", "Arabic"):  # whose order on the page is not that in the text
                self.assertIn(spaces(letters), text, alphabet)
            else:
                self.assertTrue(set(letters) & set(text) or any("\ufb1d" <= one <= "\ufefc" for one in text), alphabet)
        self.assertNotIn(MISSING, text)
        self.assertNotIn(REPLACED[:30], text)

    def test_what_no_face_has_is_replaced_and_said(self) -> None:
        report = Report("潮汐 at the pontoon", "林", "", (Paragraph("水深 h"), Formula("水 = 2", "水 = 2")))
        text = text_of(write_pdf(report))
        self.assertIn(f"{MISSING}{MISSING} at the pontoon", text)
        self.assertIn(REPLACED[:40], text)
        # The other files keep them, as the note says.
        self.assertIn("潮汐", Reader(write_html(report)).text)
        self.assertIn("水深", pandoc(write_docx(report, MADE)))


def pandoc(body: bytes, kind: str = "plain") -> str:
    """The document as another reader has it."""
    return str(pypandoc.convert_text(body, kind, format="docx", extra_args=["--wrap=none", "--quiet"]))


class DocxByPandoc(TestCase):
    def test_every_sample_is_read_whole(self) -> None:
        for sample in SAMPLES:
            report = of_sample(sample.name, "png")
            found = pandoc(write_docx(report, MADE), "html")
            tables = [block for block in report.blocks if isinstance(block, Grid)]
            self.assertEqual(found.count("<table"), len(tables), sample.name)
            self.assertGreaterEqual(found.count("<h1"), 4)
            self.assertIn('class="math', found)
            said = spaces(Reader(found).text)
            self.assertIn(spaces(build_sample(sample.name).question), said)
            for number, table in enumerate(tables, 1):
                self.assertIn(f"Table {number}. ", said)
                for row in table.rows:
                    for cell in row[1:2]:
                        self.assertIn(str(cell).replace("\u202f", " ").replace("\u00a0", " ")[:12], said)

    def test_language_pages_author_and_day(self) -> None:
        body = write_docx(of_sample("lantern", "png"), MADE)
        with zipfile.ZipFile(io.BytesIO(body)) as archive:
            names = archive.namelist()
            core = archive.read("docProps/core.xml").decode()
            styles = archive.read("word/styles.xml").decode()
            footer = "".join(archive.read(name).decode() for name in names if "footer" in name)
        self.assertFalse([name for name in names if "thumbnail" in name])
        self.assertIn("2026-05-12T09:30:00Z", core)
        self.assertIn("<dc:language>en</dc:language>", core)
        self.assertNotIn("python-docx", core)
        self.assertIn('w:val="en-GB"', styles)
        self.assertIn('w:instr="PAGE"', footer)
        self.assertIn('w:instr="NUMPAGES"', footer)

    def test_a_name_from_right_to_left_leaves_the_date_where_it_is(self) -> None:
        report = Report("Tide", "נועה לוי", "12 May", (Paragraph("المد والجزر"),))
        with zipfile.ZipFile(io.BytesIO(write_docx(report, MADE))) as archive:
            root = ElementTree.fromstring(archive.read("word/document.xml"))
        w = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
        runs = {("".join(t.text or "" for t in run.iter(f"{w}t"))): run for run in root.iter(f"{w}r")}
        self.assertIsNotNone(runs["נועה לוי"].find(f"{w}rPr/{w}rtl"))
        self.assertIsNone(runs["12 May"].find(f"{w}rPr/{w}rtl"))
        self.assertTrue(any(True for _ in root.iter(f"{w}bidi")))
        html = write_html(report)
        self.assertIn("<bdi>נועה לוי</bdi> · <bdi>12 May</bdi>", html)

    def test_own_paragraphs_keep_bold_lists_and_formulas(self) -> None:
        blocks = (
            Paragraph(joined("A ", (Run("bold", "bold"), Run(" word and "), Run("E = a d^{n}", "formula")))),
            Listing(("one", "two"), numbered=False),
        )
        said = pandoc(write_docx(Report("Own", "", "", blocks), MADE), "markdown")
        self.assertIn("**bold**", said)
        self.assertRegex(said, r"\$E = ad\^\{?n\}?\$")
        self.assertRegex(said, r"(?m)^- +one")


class HtmlByItsRules(TestCase):
    def test_landmarks_heads_and_reach(self) -> None:
        for sample in SAMPLES:
            html = write_html(of_sample(sample.name))
            page = Reader(html)
            names = [tag for tag, _ in page.tags]
            self.assertEqual(names.count("main"), 1)
            for part in html.split("<th ")[1:]:
                self.assertTrue(Reader(f"<th {part.partition('</th>')[0]}").text.strip(), part[:80])
            for tag, attributes in page.tags:
                if attributes.get("class") in ("formula", "table"):
                    self.assertEqual(attributes.get("tabindex"), "0", tag)
                    self.assertTrue(attributes.get("aria-label"))

    def test_numbers_stand_under_one_another(self) -> None:
        grid = Grid("", ("a", "n"), (("x", "1.5"), ("y", "−12.25 ± 0.5"), ("z", "100"), ("e", "")), (TEXT, NUMBER))
        self.assertEqual(grid.before_point(1), ["−1", "", "", "−12"])


class Headings(TestCase):
    def test_a_multiplier_is_said_over_its_numbers_everywhere(self) -> None:
        state = build_sample("sheer-line")
        text = spaces(Reader(write_html(report_of(state, analyse(state)))).text)
        self.assertIn("height of the sheer y / (10⁻³ m)", text)
        self.assertIn("residual A / (10⁻³ m)", text)
        docx = spaces(pandoc(write_docx(of_sample("sheer-line", "png"), MADE)))
        self.assertIn("(10⁻³ m)", docx)
        self.assertIn("(10⁻³ m)", text_of(pdf_of("sheer-line")))
        self.assertIn("618", docx)

    def test_symbols_and_units_are_set(self) -> None:
        html = write_html(of_sample("sheer-line"))
        self.assertIn("<i>c</i><sub>0</sub>", html)
        self.assertIn("v</i> /\u00a0(m/s)", write_html(of_sample("current")))
        text = spaces(Reader(write_html(of_sample("tide"))).text)
        self.assertIn("time since midnight t / h:min", text)
        self.assertIn("rad/h", text)
        self.assertNotIn("c_0", Reader(html).text)


class HostileContent(TestCase):
    """Names, units, notes and paragraphs of any kind: every file opens and says them."""

    LONG = "x" * 300
    NASTY = ("<b>&amp;", "=1+2", "نعم", "\\frac{", "$", "%", "|", "‮gnp.exe")

    def state(self, fits: tuple[FitState, ...], rows: int = 12) -> StudyState:
        x = [str(row) for row in range(rows)]
        y = [str(round(3 + 2 * row + (row * 7 % 5) * 0.3, 3)) for row in range(rows)]
        columns = (
            ColumnState("x", f"{self.NASTY[0]} {self.LONG}"[:100], "x", self.NASTY[1], "x", cells=tuple(x)),
            ColumnState("y", self.NASTY[2], "y_<&", self.NASTY[4], "y", cells=tuple(y)),
            ColumnState(
                "n", self.NASTY[3], "", self.LONG[:40], "other", cells=tuple(self.NASTY[row % 8] for row in range(rows))
            ),
        )
        return StudyState(
            "", columns, question=self.LONG, author=self.NASTY[2], date="<i>", aside={2: self.LONG}, fits=fits
        )

    def test_every_file_opens(self) -> None:
        six = tuple(
            FitState(letter, "polynomial", options={"degree": 2 + place}, name=self.LONG[:60])
            for place, letter in enumerate("ABCDEF")
        )
        cases: tuple[tuple[int, tuple[FitState, ...]], ...] = (
            (0, ()),
            (200, six),
            (2, (FitState("A", "formula", options={"text": "a*("}), FitState("B", "logistic"))),
            (3, (FitState("A", "interpolation", options={"kind": "cubic-spline"}),)),
            (12, (FitState("A", "formula", options={"text": "if(x<5, a*x+b, c)"}),)),
        )
        for rows, fits in cases:
            with self.subTest(rows=rows):
                state = self.state(fits, rows)
                analysis = analyse(state)
                report = report_of(state, analysis)
                self.assertGreaterEqual(len(PdfReader(io.BytesIO(write_pdf(report))).pages), 1)
                page = Reader(write_html(report))
                self.assertNotIn("script", [tag for tag, _ in page.tags])
                self.assertTrue(pandoc(write_docx(report_of(state, analysis, "png"), MADE)))

    def test_cases_are_read_as_cases(self) -> None:
        formula = Formula("y = if(…)", r"y = \begin{cases}a\,x & x < 5\\c & \text{otherwise}\end{cases}")
        said = pandoc(write_docx(Report("Cases", "", "", (formula,)), MADE), "markdown")
        self.assertRegex(said, r"\\left\\\{|\\begin\{cases\}")
        self.assertIn("otherwise", said)

    def test_splines_and_cases_are_typeset(self) -> None:
        for options, family in (
            ({"kind": "cubic-spline"}, "interpolation"),
            ({"text": "if(x<5, a*x+b, c)"}, "formula"),
        ):
            state = self.state((FitState("A", family, options=options),))
            state = replace(
                state,
                columns=tuple(
                    replace(c, symbol="xyn"[place], name="", unit="") for place, c in enumerate(state.columns)
                ),
            )
            report = report_of(state, analyse(state))
            formulas = [block for block in report.blocks if isinstance(block, Formula)]
            self.assertGreater(len(formulas), 1)
            # Drawn as pictures, each with its text; none is left as plain words.
            figures = [one for one in elements(write_pdf(report)) if one["/S"] == "/Figure"]
            self.assertEqual(len(figures), len(formulas) + 1)

    def test_a_hundred_thousand_rows(self) -> None:
        rows = 100_000
        cells = tuple(str(row) for row in range(rows)), tuple(str(row * 2 % 977) for row in range(rows))
        columns = (
            ColumnState("x", "", "x", "s", "x", cells=cells[0]),
            ColumnState("y", "", "y", "m", "y", cells=cells[1]),
        )
        state = StudyState("Many", columns)
        report = report_of(state, analyse(state))
        self.assertIn("Summary of the readings in use", text_of(write_pdf(report)))


class OneReading(TestCase):
    def test_the_parts_come_in_the_order_of_an_account(self) -> None:
        """The question, the answer with its cautions, then figure, model, parameters, judgement and the rest."""
        text = text_of(pdf_of("can-of-soup"))
        places = [
            text.index(words)
            for words in (
                "When can the soup be eaten", "Answer T = 45", "On the model of this answer", "Figure 1.", "Model Exponential",
                "Table 1. Parameters", "How well it fits", "Table 3. Readings", "Method Least squares", "References",
            )
        ]  # fmt: skip
        self.assertEqual(places, sorted(places))
        # Said beside the answer, it is not said again.
        self.assertEqual(text.count("The residuals are curved"), 1)

    def test_of_two_models_one_is_preferred_and_methods_are_cited(self) -> None:
        text = text_of(pdf_of("current"))
        self.assertIn("A (logarithmic) is to be preferred to B (power law)", text)
        self.assertRegex(
            text, r"weighted by the uncertainties of v \(0\.006 m/s each\), of which only the ratios count \[2, 4\]"
        )

    def test_captions_say_what_is_seen(self) -> None:
        text = text_of(pdf_of("tide"))
        for words in (
            "Hollow marks: readings set aside",
            "Heavy bar: the measured range",
            "Hatching and dotted curves: beyond it",
            "Band: 95 % confidence interval",
            "the answer",
        ):
            self.assertIn(words, text)
        self.assertNotIn("Error bars", text)
        self.assertIn("Error bars: standard uncertainties", text_of(pdf_of("mooring-line")))

    def test_weights_are_told_truly(self) -> None:
        text = text_of(pdf_of("lantern"))
        self.assertIn("4 % of the fitted E", text)
        self.assertIn("weighted RSS", text)
        self.assertIn("typical miss 14.1 lx", text)
        # Equal weights of any size leave the typical miss as it is.
        bucket = build_sample("draining-bucket")
        for weight in ("1", "10000"):
            column = ColumnState("w", "", "w", "", "weight", cells=(weight,) * 16)
            fit = analyse(replace(bucket, columns=(*bucket.columns, column), fits=bucket.fits[:1])).fits[0]
            self.assertEqual(computed(fit).typical_miss.replace("\u00a0", " "), "0.105 cm")
            self.assertIn("0.11", computed(fit).how_well)

    def test_parts_on_request_hold_what_they_promise(self) -> None:
        state = build_sample("current")
        wanted = ("equation_errors", "tests", "correlations", "residual_plot")
        state = replace(state, report=tuple(replace(part, shown=part.part in wanted) for part in state.report))
        analysis = analyse(state)
        text = text_of(write_pdf(report_of(state, analysis)))
        page = Reader(write_html(report_of(state, analysis)))
        labels = spaces(" ".join(tag.get("aria-label") or "" for _, tag in page.tags))
        self.assertIn("v = (0.0842 ± 0.0012)·ln(z) + (0.4593 ± 0.0016)", labels)
        for parameter in computed(analysis.fits[0]).parameters:
            self.assertIn(parameter.t.replace("\u202f", " "), text)
        for words in ("p of F", "AICc", "Correlation coefficients", "Residuals (reading less fitted value) of A"):
            self.assertIn(words, text)
