"""The API of tables that are not yet in a study: pasted, or read from a file. Stores nothing."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, UploadedFile
from pydantic import Field, StringConstraints

from ridge.exchange.files import ENCODINGS, LARGEST, read_file
from ridge.exchange.tables import LONGEST, NoTable, read_text_table
from ridge.studies.schemas import FileTableOut, Message, UnderstoodCellOut, UnderstoodColumnOut, UnderstoodOut

router = Router(tags=["tables"])
SHOWN = 8  # rows that a preview shows


class UnderstandIn(Schema):
    """A table as text; what is None is guessed. ``elapsed`` gives the unit of a column of times by its place from 0."""

    text: Annotated[str, StringConstraints(max_length=LONGEST)]
    separator: Literal["tab", "semicolon", "comma", "spaces"] | None = None
    decimal: Literal["point", "comma"] | None = None
    header: Annotated[int, Field(ge=0, le=1000)] | None = None
    day_first: bool | None = None
    elapsed: dict[int, Literal["s", "min", "h", "d", ""]] | None = None


@router.post("/tables/understand", response={200: UnderstoodOut, 400: Message})
def understand(request: HttpRequest, body: UnderstandIn) -> Any:
    """How a table reads."""
    try:
        table = read_text_table(body.text, body.separator, body.decimal, body.header, body.day_first, body.elapsed)
    except NoTable as reason:
        return 400, Message(message=str(reason))
    return UnderstoodOut(
        separator=table.separator,
        decimal=table.decimal,
        header=table.header,
        passed_over=table.passed_over,
        row_count=table.row_count,
        columns=[
            UnderstoodColumnOut(
                name=column.name[:100],
                symbol=column.symbol[:20],
                unit=column.unit[:40],
                role=column.role,
                times=column.times,
                since=column.since[:60],
                ambiguous=column.ambiguous,
                cells=[cell[:60] for cell in column.cells[:SHOWN]],
                wrong=[UnderstoodCellOut(row=row, text=column.cells[row][:60]) for row in column.wrong[:SHOWN]],
                wrong_count=len(column.wrong),
            )
            for column in table.columns
        ],
    )


class FileIn(Schema):
    """``sheet`` of a workbook and ``encoding`` of a text file; empty to let Ridge choose."""

    sheet: Annotated[str, StringConstraints(max_length=200)] = ""
    encoding: Annotated[str, StringConstraints(max_length=40)] = ""


@router.post("/tables/file", response={200: FileTableOut, 400: Message})
def from_file(request: HttpRequest, file: File[UploadedFile], body: Form[FileIn]) -> Any:
    """The table in a file as text, ready to be understood like a pasted one."""
    name = (file.name or "file")[-200:]
    if (file.size or 0) > LARGEST:
        return 400, Message(message="This file is larger than 20 MB. Save the part that is meant as a file of its own.")
    try:
        found = read_file(name, file.read(), body.sheet, body.encoding)
    except NoTable as reason:
        return 400, Message(message=str(reason))
    return FileTableOut(
        name=name, kind=found.kind, text=found.text, sheets=list(found.sheets), sheet=found.sheet,
        encoding=found.encoding, encodings=list(ENCODINGS) if found.kind == "text" else [],
    )  # fmt: skip
