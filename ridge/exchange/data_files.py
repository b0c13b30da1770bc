"""Tables as files for other programs: CSV, XLSX and ODS. What looks like a formula goes out as harmless text."""

from __future__ import annotations

import csv
import io
import math
import re
import zipfile
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import IO
from xml.sax.saxutils import escape, quoteattr

import xlsxwriter
from xlsxwriter.utility import xl_col_to_name

from ridge.core.decimal_sign import decimal_sign, in_sign

KINDS = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "ods": "application/vnd.oasis.opendocument.spreadsheet",
}
_RISKY = ("=", "+", "-", "@", "\t", "\r")
_SHEET_FILE = re.compile(r"xl/worksheets/sheet(\d+)\.xml")
_DIMENSION = re.compile(r'<dimension ref="[^"]*"/>')
_AT_ONCE = 2000  # rows


@dataclass(frozen=True)
class Sheet:
    """A table: its name, headings, and columns of equal length, of numbers (NaN for none) and texts."""

    name: str
    headings: Sequence[str]
    columns: Sequence[Sequence[float | str]]

    @property
    def rows(self) -> int:
        return len(self.columns[0]) if self.columns else 0


def harmless(text: str) -> str:
    """A text that no spreadsheet takes for a formula: an apostrophe goes before what would begin one."""
    return f"'{text}" if text.startswith(_RISKY) else text


def write_csv(sheet: Sheet) -> bytes:
    """The table as CSV in UTF-8 with a mark that spreadsheets know it by; numbers with every digit. With a decimal comma there are
    semicolons between cells."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, delimiter=";" if decimal_sign() == "comma" else ",")
    writer.writerow([harmless(heading) for heading in sheet.headings])
    written = [[_digits(cell) for cell in column] for column in sheet.columns]
    writer.writerows(zip(*written, strict=True))
    return ("\ufeff" + buffer.getvalue()).encode()


def _digits(cell: float | str) -> str:
    if isinstance(cell, str):
        return harmless(cell)
    if not math.isfinite(cell):
        return ""
    return in_sign(repr(cell))


def write_xlsx(sheets: Sequence[Sheet]) -> bytes:
    """The tables as one workbook (ISO/IEC 29500).

    The library makes it with its headings; the rows are put into their sheets as a stream, since cell by cell a hundred
    thousand of them take it three times as long.
    """
    bare = io.BytesIO()
    with xlsxwriter.Workbook(bare, {"strings_to_formulas": False, "strings_to_urls": False}) as book:
        bold = book.add_format({"bold": True})
        for sheet in sheets:
            page = book.add_worksheet(sheet.name[:31])
            page.freeze_panes(1, 0)
            page.set_column(0, max(0, len(sheet.columns) - 1), 16)
            for place, heading in enumerate(sheet.headings):
                page.write_string(0, place, harmless(heading), bold)
    buffer = io.BytesIO()
    with zipfile.ZipFile(bare) as made, zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for info in made.infolist():
            body = made.read(info)
            number = _SHEET_FILE.fullmatch(info.filename)
            if number is None:
                archive.writestr(info, body, zipfile.ZIP_DEFLATED)
                continue
            with archive.open(info.filename, "w") as file:
                _write_rows(file, body.decode(), sheets[int(number[1]) - 1])
    return buffer.getvalue()


def _write_rows(file: IO[bytes], bare: str, sheet: Sheet) -> None:
    """A sheet's XML with all its rows after the headings."""
    letters = [xl_col_to_name(place) for place in range(len(sheet.columns))]
    if letters:
        bare = _DIMENSION.sub(f'<dimension ref="A1:{letters[-1]}{sheet.rows + 1}"/>', bare)
    before, end, after = bare.partition("</sheetData>")
    file.write(before.encode())
    lines: list[str] = []
    for row, cells in enumerate(zip(*sheet.columns, strict=True), 2):
        written = "".join([_xlsx_cell(f"{letter}{row}", cell) for letter, cell in zip(letters, cells, strict=True)])
        lines.append(f'<row r="{row}">{written}</row>')
        if len(lines) == _AT_ONCE:
            file.write("".join(lines).encode())
            lines.clear()
    file.write("".join(lines).encode())
    file.write((end + after).encode())


def _xlsx_cell(place: str, cell: float | str) -> str:
    if isinstance(cell, str):
        if not cell:
            return ""
        return f'<c r="{place}" t="inlineStr"><is><t xml:space="preserve">{_as_xml(cell)}</t></is></c>'
    return f'<c r="{place}"><v>{cell!r}</v></c>' if math.isfinite(cell) else ""


@lru_cache(maxsize=1024)
def _as_xml(text: str) -> str:
    return escape(plain(harmless(text)))


_ODS_HEAD = (
    '<?xml version="1.0" encoding="UTF-8"?><office:document-content '
    'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" '
    'xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" '
    'xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.3"><office:body><office:spreadsheet>'
)
_ODS_FOOT = "</office:spreadsheet></office:body></office:document-content>"
_ODS_MANIFEST = (
    '<?xml version="1.0" encoding="UTF-8"?><manifest:manifest '
    'xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3">'
    f'<manifest:file-entry manifest:full-path="/" manifest:version="1.3" manifest:media-type="{KINDS["ods"]}"/>'
    '<manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>'
)


def write_ods(sheets: Sequence[Sheet]) -> bytes:
    """The tables as an OpenDocument spreadsheet (ISO/IEC 26300), written as a stream: the usual library builds a tree of
    objects, which takes minutes for a hundred thousand rows."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(zipfile.ZipInfo("mimetype"), KINDS["ods"])  # first and not compressed, as the standard asks
        archive.writestr("META-INF/manifest.xml", _ODS_MANIFEST)
        with archive.open("content.xml", "w") as content:
            content.write(_ODS_HEAD.encode())
            for sheet in sheets:
                content.write(f"<table:table table:name={quoteattr(plain(sheet.name))}>".encode())
                content.write(_ods_row(sheet.headings).encode())
                for cells in zip(*sheet.columns, strict=True):
                    content.write(_ods_row(cells).encode())
                content.write(b"</table:table>")
            content.write(_ODS_FOOT.encode())
    return buffer.getvalue()


def _ods_row(cells: Sequence[float | str]) -> str:
    return f"<table:table-row>{''.join(map(_ods_cell, cells))}</table:table-row>"


def _ods_cell(cell: float | str) -> str:
    if isinstance(cell, str):
        if not cell:
            return "<table:table-cell/>"
        return f'<table:table-cell office:value-type="string"><text:p>{_as_xml(cell)}</text:p></table:table-cell>'
    if not math.isfinite(cell):
        return "<table:table-cell/>"
    return f'<table:table-cell office:value-type="float" office:value="{cell!r}"><text:p>{cell!r}</text:p></table:table-cell>'


def plain(text: str) -> str:
    """Without the characters that XML does not know."""
    return "".join(letter for letter in text if (letter >= " " or letter in "\t\n") and letter not in "\ufffe\uffff")
