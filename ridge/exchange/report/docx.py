"""A report as a text document (DOCX) with equations, headings and tables of its own kind."""

from __future__ import annotations

import io
import unicodedata
from datetime import datetime
from typing import Any
from xml.etree import ElementTree

from docx import Document
from docx.document import Document as DocumentType
from docx.enum.section import WD_SECTION
from docx.enum.text import WD_ALIGN_PARAGRAPH
from docx.opc.constants import RELATIONSHIP_TYPE
from docx.oxml import OxmlElement, parse_xml
from docx.oxml.ns import qn
from docx.shared import Mm, Pt, RGBColor
from docx.text.paragraph import Paragraph as DocxParagraph

from ridge.exchange.data_files import plain
from ridge.exchange.report.content import (
    Block,
    Formula,
    Grid,
    Heading,
    Listing,
    Paragraph,
    Picture,
    Report,
    Run,
    Text,
    plain_text,
    runs,
)
from ridge.exchange.report.docx_table import add_table
from ridge.exchange.report.formulas import to_omml
from ridge.exchange.report.html import LANGUAGE, SHORT

_WIDEST = 160.0  # mm between the margins
_LEFT_TO_RIGHT = "\u200e"
_BETWEEN = 6.35  # mm between columns
_INK = RGBColor(0x1C, 0x2A, 0x30)
_SMALL = Pt(9)


def write_docx(report: Report, made: datetime) -> bytes:
    """The report as Office Open XML (ISO/IEC 29500), which says when it was ``made``."""
    document = Document()
    section = document.sections[0]
    section.page_width, section.page_height = Mm(210), Mm(297)
    section.left_margin = section.right_margin = Mm(25)
    _name_styles(document)
    _describe(document, report, made)
    _number_pages(section.footer.paragraphs[0])
    _add_text(document.add_heading("", 0), report.title)
    if report.author or report.date:
        line = document.add_paragraph(style="Subtitle")
        for place, part in enumerate(part for part in (report.author, report.date) if part):
            # Marks of direction keep the number of a date from joining a name that runs to the left.
            _add_text(line, (Run(f"{_LEFT_TO_RIGHT} · {_LEFT_TO_RIGHT}" * (place > 0)), Run(part)), within=True)
    for block in report.blocks:
        _add(document, block)
    buffer = io.BytesIO()
    document.save(buffer)
    return buffer.getvalue()


def _name_styles(document: DocumentType) -> None:
    """Plain black headings: whoever hands it in gives it the look of the course."""
    document.styles["Normal"].font.size = Pt(11)
    language = OxmlElement("w:lang")
    for what in ("w:val", "w:eastAsia", "w:bidi"):
        language.set(qn(what), "en-GB")
    properties = document.styles["Normal"].element.get_or_add_rPr()
    properties.append(language)
    for name in ("Title", "Heading 1", "Subtitle", "Caption"):
        document.styles[name].font.color.rgb = _INK
    document.styles["Caption"].font.bold = False
    document.styles["Caption"].paragraph_format.keep_with_next = True


def _describe(document: DocumentType, report: Report, made: datetime) -> None:
    told = document.core_properties
    told.title, told.author = plain(report.title)[:255], plain(report.author)[:255]
    told.last_modified_by, told.comments, told.language, told.revision = plain(report.author)[:255], "", LANGUAGE, 1
    told.created = told.modified = made
    # The template's picture of itself.
    package = document.part.package
    for key, relation in list(package.rels.items()):
        if relation.reltype == RELATIONSHIP_TYPE.THUMBNAIL:
            del package.rels[key]


def _number_pages(paragraph: DocxParagraph) -> None:
    paragraph.alignment = WD_ALIGN_PARAGRAPH.RIGHT
    for place, what in enumerate(("PAGE", "NUMPAGES")):
        if place:
            paragraph.add_run(" / ").font.size = _SMALL
        field = OxmlElement("w:fldSimple")
        field.set(qn("w:instr"), what)
        run = OxmlElement("w:r")
        text = OxmlElement("w:t")
        text.text = "1"
        run.append(text)
        field.append(run)
        paragraph._p.append(field)


def _add(document: DocumentType, block: Block) -> None:
    match block:
        case Heading(text):
            _add_text(document.add_heading("", 1), text)
        case Paragraph(text, kind):
            paragraph = document.add_paragraph()
            if kind == "caution":
                _set_apart(paragraph)
            paragraph.paragraph_format.keep_with_next = kind == "title"
            _add_text(paragraph, text, italic=kind == "lead", size=_SMALL if kind == "note" else None)
        case Formula():
            document.add_paragraph()._p.append(parse_xml(ElementTree.tostring(to_omml(block.latex))))
        case Grid():
            _add_grid(document, block)
        case Picture():
            document.add_picture(io.BytesIO(block.image), width=Mm(min(block.width, _WIDEST)))
            paragraph = document.paragraphs[-1]
            paragraph.paragraph_format.keep_with_next = True
            described = paragraph._p.find(f".//{qn('wp:docPr')}")
            if described is not None:
                described.set("descr", plain(block.alternative))
                described.set("name", "Figure")
            caption = document.add_paragraph(style="Caption")
            caption.paragraph_format.keep_with_next = False
            _add_text(caption, block.caption)
        case Listing(items, numbered):
            for item in items:
                _add_text(document.add_paragraph(style="List Number" if numbered else "List Bullet"), item)


def _set_apart(paragraph: DocxParagraph) -> None:
    """A caution: on amber behind a bar, as on the page."""
    properties = paragraph._p.get_or_add_pPr()
    edges = OxmlElement("w:pBdr")
    bar = OxmlElement("w:left")
    for name, value in (("val", "single"), ("sz", "18"), ("space", "6"), ("color", "8A5A00")):
        bar.set(qn(f"w:{name}"), value)
    edges.append(bar)
    ground = OxmlElement("w:shd")
    for name, value in (("val", "clear"), ("color", "auto"), ("fill", "FBF1DA")):
        ground.set(qn(f"w:{name}"), value)
    properties.append(edges)
    properties.append(ground)
    paragraph.paragraph_format.left_indent = Mm(3)


def _add_text(
    paragraph: DocxParagraph, text: Text, *, italic: bool = False, size: Any = None, within: bool = False
) -> None:
    """``within``: part of a line that keeps the direction of the document."""
    if not within and _runs_leftwards(plain_text(text)):
        paragraph._p.get_or_add_pPr().append(OxmlElement("w:bidi"))
    for run in runs(text):
        if run.style == "formula":
            paragraph._p.append(parse_xml(ElementTree.tostring(to_omml(run.text))))
            continue
        added = paragraph.add_run(plain(run.text))
        added.bold = True if "bold" in run.style else None
        added.italic = True if "italic" in run.style or italic else None
        added.font.subscript = True if run.style == "sub" else None
        added.font.size = size
        if any(unicodedata.bidirectional(letter) in ("R", "AL") for letter in run.text):
            added.font.rtl = True


def _runs_leftwards(text: str) -> bool:
    """Whether the first letter that has a direction is written from right to left (Unicode annex 9, rules P2 and P3)."""
    directions = (unicodedata.bidirectional(letter) for letter in text)
    return next((one for one in directions if one in ("L", "R", "AL")), "L") != "L"


def _add_grid(document: DocumentType, grid: Grid) -> None:
    """A table under its caption; a long one in columns of the page."""
    _add_text(document.add_paragraph(style="Caption"), grid.caption)
    if grid.beside > 1:
        _columns(document, grid.beside)
    between = _BETWEEN * (grid.beside - 1)
    add_table(document, grid, (_WIDEST - between) / grid.beside, SHORT, _write_cell)
    if grid.beside > 1:
        _columns(document, 1)


def _write_cell(paragraph: DocxParagraph, text: Text, size: Any) -> None:
    _add_text(paragraph, text, size=size)


def _columns(document: DocumentType, count: int) -> None:
    """A new section on the same page with so many columns."""
    section = document.add_section(WD_SECTION.CONTINUOUS)
    columns = section._sectPr.find(qn("w:cols"))
    if columns is None:
        columns = OxmlElement("w:cols")
        section._sectPr.append(columns)
    columns.set(qn("w:num"), str(count))
    columns.set(qn("w:space"), "360")
