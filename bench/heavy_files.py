"""Files that are made to take time and memory: each is read or refused within 5 s and 300 MB (``ridge.exchange.files``)."""

from __future__ import annotations

import io
import json
import random
import subprocess
import sys
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path

import xlsxwriter

_PROBE = """
import json, resource, sys, time
from ridge.exchange.files import read_file
from ridge.exchange.tables import NoTable, read_text_table
name = sys.argv[1]
data = open(name, "rb").read()
began = time.perf_counter()
try:
    table = read_text_table(read_file(name, data).text, wanted=frozenset())
    said = f"{table.row_count} rows, {len(table.columns)} columns"
except NoTable as reason:
    said = f"refused: {reason}"
most = max(resource.getrusage(who).ru_maxrss for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN))
print(json.dumps([time.perf_counter() - began, most // 1024, said]))
"""
_TABLE = "urn:oasis:names:tc:opendocument:xmlns:"
_MOST = 19_000_000


def _ods(rows: str) -> bytes:
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        archive.writestr("META-INF/manifest.xml", "<manifest/>")
        archive.writestr(
            "content.xml",
            f'<office:document-content xmlns:office="{_TABLE}office:1.0" xmlns:table="{_TABLE}table:1.0" xmlns:text="{_TABLE}text:1.0">'
            f'<office:body><office:spreadsheet><table:table table:name="S">{rows}</table:table></office:spreadsheet></office:body>'
            "</office:document-content>",
        )
    return held.getvalue()


def _repeated(rows: int, columns: int, text: str = "1") -> str:
    kind = 'office:value-type="float" office:value="1"' if text == "1" else 'office:value-type="string"'
    cell = (
        f'<table:table-cell {kind} table:number-columns-repeated="{columns}"><text:p>{text}</text:p></table:table-cell>'
    )
    return f'<table:table-row table:number-rows-repeated="{rows}">{cell}</table:table-row>'


def _xlsx(rows: int, columns: int, far: bool = False) -> bytes:
    held = io.BytesIO()
    book = xlsxwriter.Workbook(held, {"in_memory": True, "constant_memory": True})
    sheet = book.add_worksheet()
    for row in range(rows):
        for column in range(columns):
            sheet.write_number(row, column, row / 8 + column)
    if far:
        sheet.write_number(1_048_575, 16_383, 1)
    book.close()
    return held.getvalue()


def _lines(one: Callable[[random.Random, int], str], count: int = 199_000) -> bytes:
    source = random.Random(1)
    return "\n".join(["t,a", *(one(source, row) for row in range(count))]).encode()[:_MOST]


FILES: dict[str, Callable[[], bytes]] = {
    "one-line.csv": lambda: ",".join(str(i % 1000) for i in range(4_000_000)).encode()[:15_000_000],
    "one-quote.csv": lambda: b'"' + b"1,2\n" * 4_000_000,
    "numbers.csv": lambda: _lines(lambda source, row: f"{row / 1000:.3f},{source.random():.6f}", 1_100_000),
    "five-columns.csv": lambda: _lines(lambda source, _: ",".join(f"{source.random():.14f}" for _ in range(5))),
    "units.csv": lambda: _lines(
        lambda source, _: f"{source.random():.14f} m ± 0.01,{source.random():.30f} kg (measured by hand)"
    ),
    "words.csv": lambda: _lines(
        lambda _, row: f"{row} is a label of many letters,another text of the same kind {row} n/a"
    ),
    "wide.csv": lambda: "\n".join([",".join("1" * 9000)] * 1000).encode(),
    "lists.json": lambda: json.dumps([[1, 2]] * 2_000_000).encode()[:_MOST],
    "deep.json": lambda: b"[" * 5_000_000,
    "rows-repeated.ods": lambda: _ods(_repeated(1_048_576, 2)),
    "sheet-repeated.ods": lambda: _ods(_repeated(1_048_576, 16_384)),
    "blocks-repeated.ods": lambda: _ods(_repeated(1000, 1000) * 1000),
    "text-repeated.ods": lambda: _ods(_repeated(1000, 1000, "long text " * 1000)),
    "far-apart.xlsx": lambda: _xlsx(1, 1, far=True),
    "two-columns.xlsx": lambda: _xlsx(199_000, 2),
    "six-columns.xlsx": lambda: _xlsx(199_000, 6),
    "twelve-columns.xlsx": lambda: _xlsx(199_000, 12),
}


def rows() -> Iterator[str]:
    yield "| file | MB | s | MB at most | |"
    yield "| --- | ---: | ---: | ---: | --- |"
    with tempfile.TemporaryDirectory() as folder:
        for name in FILES:
            path = Path(folder) / name
            # Elsewhere: what a process needed at most is also counted for those that it starts.
            subprocess.run([sys.executable, "-m", "bench.heavy_files", name, str(path)], check=True)
            done = subprocess.run([sys.executable, "-c", _PROBE, str(path)], capture_output=True, text=True, check=True)
            seconds, most, said = json.loads(done.stdout)
            yield f"| {name} | {path.stat().st_size / 1e6:.1f} | {seconds:.1f} | {most} | {said} |"


def run() -> None:
    for row in rows():
        print(row, flush=True)


if __name__ == "__main__":
    Path(sys.argv[2]).write_bytes(FILES[sys.argv[1]]())
