"""Reads one file to text in a process of its own, so that nothing in a file can harm the server.

Run by ``ridge.exchange.files``: ``python sheet_reader.py KIND SHEET BYTES SECONDS < file``, the last two being the limits
that it sets itself before it looks at the file. Writes JSON:
``{"sheets": [...], "sheet": "...", "text": "...", "remarks": [...]}`` with cells parted by tabs, or ``{"problem": "..."}``.
"""

import datetime
import io
import json
import re
import resource
import sys
import zipfile
from typing import Any
from xml.sax.saxutils import escape, unescape

CELLS = 3_000_000


class Unreadable(Exception):
    pass


def write_cell(value: Any) -> str:
    """A cell as text: numbers in full, dates as ISO, nothing that would break the row."""
    if value is None or isinstance(value, bool):
        return "" if value is None else str(value).lower()
    if isinstance(value, int | float):
        return repr(value).removesuffix(".0") if value == value and abs(value) < 1e308 else str(value)
    if isinstance(value, datetime.timedelta):
        seconds = value.total_seconds()
        hours, rest = divmod(seconds, 3600)
        minutes, seconds = divmod(rest, 60)
        return f"{int(hours):02}:{int(minutes):02}:{seconds:06.3f}"
    if isinstance(value, datetime.datetime | datetime.date | datetime.time):
        return value.isoformat(" ") if isinstance(value, datetime.datetime) else value.isoformat()
    return str(value).replace("\t", " ").replace("\r", " ").replace("\n", " ")


def read_workbook(data: bytes, wanted: str) -> tuple[list[str], str, list[list[Any]]]:
    from python_calamine import CalamineWorkbook

    book = CalamineWorkbook.from_filelike(io.BytesIO(data))
    names = list(book.sheet_names)
    if not names:
        raise Unreadable("There is no sheet in this file.")
    rows: list[list[Any]] = []
    chosen = wanted if wanted in names else names[0]
    for name in [chosen] if wanted in names else names:
        sheet = book.get_sheet_by_name(name)
        if sheet.total_height * sheet.total_width > CELLS:
            raise Unreadable(
                f"The sheet '{name}' spans more than 3 million cells. Copy the part that is meant into a new file."
            )
        rows = sheet.to_python(skip_empty_area=True)
        if rows:
            chosen = name
            put_back(rows, sheet.start or (0, 0), lost_cells(data, name))
            break
    return names, chosen, rows


def put_back(rows: list[list[Any]], start: tuple[int, int], lost: dict[tuple[int, int], str]) -> None:
    """Write cells that the library leaves empty into the rows, the first of which is that of ``start``."""
    for (row, column), text in lost.items():
        row, column = row - start[0], column - start[1]
        if 0 <= row < len(rows) and 0 <= column < len(rows[row]) and rows[row][column] in ("", None):
            rows[row][column] = text


MACROS = ("xl/vbaProject.bin", "Basic/", "Scripts/")
"""Where workbooks keep programs: XLSX in one part, ODS in folders."""
CALCULATED = re.compile(rb"<f[ />]|<table:table-cell[^>]*table:formula=")


def remarks_on(data: bytes, name: str) -> list[str]:
    """What a workbook holds that a table does not take over, in sentences."""
    said = []
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        held = archive.namelist()
        if any(one.startswith(MACROS) for one in held):
            said.append("The workbook holds macros. They were not read and do not run here.")
        if "content.xml" in held:
            sheet = sheet_of_ods(archive.read("content.xml"), name)
        else:
            path = sheet_path(archive, name)
            sheet = archive.read(path) if path in held else b""
    count = sum(1 for _ in CALCULATED.finditer(sheet))
    if count:
        cells, values = (
            ("One cell is", "its last value was") if count == 1 else (f"{count} cells are", "their last values were")
        )
        said.append(f"{cells} calculated by formulas; {values} taken.")
    return said


def sheet_of_ods(content: bytes, name: str) -> bytes:
    """One sheet of an ODS document, as XML."""
    named = re.escape(escape(name).encode())
    found = re.search(rb'<table:table\b[^>]*table:name="' + named + rb'"[^>]*>(.*?)</table:table>', content, re.S)
    return found[1] if found else b""


def lost_cells(data: bytes, name: str) -> dict[tuple[int, int], str]:
    """Formulas without a stored value and error values by row and column from 0, which the library reads as nothing."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        held = set(archive.namelist())
        if "content.xml" in held:
            content = archive.read("content.xml")
            return lost_in_ods(content, name) if b"table:formula" in content else {}
        path = sheet_path(archive, name)
        sheet = archive.read(path) if path in held else b""
    if b"<f" not in sheet and b't="e"' not in sheet:
        return {}
    lost = {}
    for match in XLSX_CELL.finditer(sheet):
        letters, row, kind, formula, value = (match[i] or b"" for i in range(1, 6))
        if value and b't="e"' not in kind:
            continue
        column = 0
        for letter in letters:
            column = 26 * column + letter - 64
        text = value if value else b"=" + (formula or b"formula")
        lost[int(row) - 1, column - 1] = unescape(text.decode(errors="replace"))[:60]
    return lost


XLSX_CELL = re.compile(
    rb'<c r="([A-Z]{1,3})(\d+)"([^>]*)>\s*(?:<f(?:[^>]*/>|[^>]*>([^<]*)</f>))?\s*(?:<v\s*/>|<v>([^<]*)</v>)?\s*</c>'
)


def sheet_path(archive: zipfile.ZipFile, name: str) -> str:
    """Where the sheet of a name stands in an XLSX archive (ISO/IEC 29500-1, 18.2.19 and 9.2)."""
    book = archive.read("xl/workbook.xml").decode(errors="replace")
    links = archive.read("xl/_rels/workbook.xml.rels").decode(errors="replace")
    for sheet in re.findall(r"<(?:\w+:)?sheet\b[^>]*>", book):
        if unescape(attribute(sheet, "name")) == name:
            for link in re.findall(r"<Relationship\b[^>]*>", links):
                if attribute(link, "Id") == attribute(sheet, r"\w+:id"):
                    target = attribute(link, "Target")
                    return target.lstrip("/") if target.startswith("/") else f"xl/{target}"
    return ""


def attribute(tag: str, name: str) -> str:
    match = re.search(rf'\s{name}="([^"]*)"', tag)
    return match[1] if match else ""


def lost_in_ods(content: bytes, name: str) -> dict[tuple[int, int], str]:
    """The same in an ODS document (ISO/IEC 26300), whose rows and cells may stand for several alike."""
    lost: dict[tuple[int, int], str] = {}
    row = 0
    for line in re.finditer(
        rb"<table:table-row\b([^>]*?)(?:/>|>(.*?)</table:table-row>)", sheet_of_ods(content, name), re.S
    ):
        column = 0
        for cell in re.finditer(rb"<table:(?:covered-)?table-cell\b([^>]*)>", line[2] or b""):
            held = cell[1].decode(errors="replace")
            if "table:formula=" in held and "office:value-type=" not in held:
                formula = unescape(attribute(held, "table:formula"))
                lost[row, column] = "=" + formula.partition("=")[2][:60]
            column += int(attribute(held, "table:number-columns-repeated") or 1)
        row += int(attribute(line[1].decode(errors="replace"), "table:number-rows-repeated") or 1)
    return lost


def read_json(data: bytes) -> list[list[Any]]:
    """A list of rows, a list of objects, or an object of lists; see docs/files.md."""
    try:
        content = json.loads(data)
    except json.JSONDecodeError as cause:
        raise Unreadable(f"This is not valid JSON, from line {cause.lineno}, column {cause.colno} on.") from None
    except (ValueError, RecursionError):
        raise Unreadable("This is not valid JSON, or too deeply nested for a table.") from None
    if isinstance(content, dict) and content and all(isinstance(column, list) for column in content.values()):
        height = max(len(column) for column in content.values())
        if height * len(content) > CELLS:
            raise Unreadable("This file holds more than 3 million cells.")
        return [list(content)] + [
            [column[i] if i < len(column) else None for column in content.values()] for i in range(height)
        ]
    if isinstance(content, list) and content and all(isinstance(row, dict) for row in content):
        names = list(dict.fromkeys(name for row in content for name in row))
        if len(names) * len(content) > CELLS:
            raise Unreadable("This file holds more than 3 million cells.")
        return [names] + [[row.get(name) for name in names] for row in content]
    if isinstance(content, list) and content and all(isinstance(row, list) for row in content):
        return content
    raise Unreadable("This JSON holds no table. It takes a list of rows, a list of objects, or an object of lists.")


def main() -> None:
    kind, wanted, memory, seconds = sys.argv[1:5]
    resource.setrlimit(resource.RLIMIT_AS, (int(memory), int(memory)))
    resource.setrlimit(resource.RLIMIT_CPU, (int(seconds), int(seconds)))
    data = sys.stdin.buffer.read()
    try:
        sheets: list[str] = []
        remarks: list[str] = []
        if kind == "json":
            chosen, rows = "", read_json(data)
        else:
            sheets, chosen, rows = read_workbook(data, wanted)
            remarks = remarks_on(data, chosen)
        for row in rows:
            for cell in row:
                if isinstance(cell, list | dict):
                    raise Unreadable("A cell holds a list or an object where a number should stand.")
        text = "\n".join("\t".join(write_cell(cell) for cell in row) for row in rows)
        result: dict[str, Any] = {"sheets": sheets, "sheet": chosen, "text": text, "remarks": remarks}
    except Unreadable as reason:
        result = {"problem": str(reason)}
    except MemoryError:
        result = {"problem": "This file takes more memory than it may. Copy the part that is meant into a new file."}
    except Exception:
        result = {"problem": "This file is broken or not what its name says. Save it again, or as CSV."}
    json.dump(result, sys.stdout)


if __name__ == "__main__":
    main()
