"""The API of tables that are not yet in a study: pasted, or read from a file. Stores nothing."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, UploadedFile
from pydantic import StringConstraints

from ridge.exchange.files import ENCODINGS, LARGEST, read_file
from ridge.exchange.tables import LONGEST, NoTable, TextTable, read_text_table
from ridge.exchange.tables.result import Decimal, Separator
from ridge.studies.content.changes.tables import HowRead
from ridge.studies.content.fields import Role
from ridge.studies.words.schemas import Message

router = Router(tags=["tables"])
_PASSED = 12  # lines that are left out which a preview names one by one


class UnderstoodCellOut(Schema):
    """A cell that is no number, and why."""

    row: int
    text: str
    why: str


class UnderstoodColumnOut(Schema):
    """A column as it was understood, with its first cells and the first of those that are no numbers; ``why``: the reason
    for its role."""

    name: str
    symbol: str
    unit: str
    role: Role | Literal["skip"]
    why: str
    times: str
    since: str
    numbers: bool
    cells: list[str]
    wrong: list[UnderstoodCellOut]
    wrong_count: int


class SeparatorOut(Schema):
    value: Separator
    why: str


class DecimalOut(Schema):
    value: Decimal
    why: str


class OptionOut(Schema):
    """An answer to a question and what it chooses."""

    words: str
    choices: HowRead


class QuestionOut(Schema):
    """What a table leaves open; ``column``: the place of the one that it is about."""

    about: str
    words: str
    column: int | None
    options: list[OptionOut]


class PassedOverOut(Schema):
    """Lines that are no part of the table, and why."""

    first: int
    last: int
    text: str
    why: str


class SpanOut(Schema):
    """Lines of the text, from 1."""

    first: int
    last: int


class UnderstoodOut(Schema):
    """What was understood of a table. ``tables``: first and last line of each one in the text; ``nothing``: why nothing of
    it can be used."""

    separator: SeparatorOut
    decimal: DecimalOut
    header: int
    turned: bool
    row_count: int
    nothing: str
    tables: list[SpanOut]
    table: int
    questions: list[QuestionOut]
    passed_over: list[PassedOverOut]
    passed_over_more: int
    columns: list[UnderstoodColumnOut]


class FileTableOut(Schema):
    """A file's table as text, with what could be chosen instead."""

    name: str
    kind: str
    text: str
    sheets: list[str]
    sheet: str
    encoding: str
    encodings: list[str]
    remarks: list[str]


class UnderstandIn(HowRead):
    """A table as text, and what was chosen about it."""

    text: Annotated[str, StringConstraints(max_length=LONGEST)]


@router.post("/tables/understand", response={200: UnderstoodOut, 400: Message})
def understand(request: HttpRequest, body: UnderstandIn) -> Any:
    """How a table reads."""
    try:
        return _told(read_text_table(body.text, body.choices, frozenset()))
    except NoTable as reason:
        return 400, Message(message=str(reason))


def _told(table: TextTable) -> UnderstoodOut:
    return UnderstoodOut(
        separator=SeparatorOut(value=table.separator.value, why=table.separator.why),
        decimal=DecimalOut(value=table.decimal.value, why=table.decimal.why),
        header=table.header,
        turned=table.turned,
        row_count=table.row_count,
        nothing=table.nothing,
        tables=[SpanOut(first=first, last=last) for first, last in table.tables],
        table=table.table,
        questions=[
            QuestionOut(
                about=question.about, words=question.words, column=question.column,
                options=[OptionOut(words=option.words, choices=HowRead.model_validate(option.choices)) for option in question.options],
            )
            for question in table.questions
        ],
        passed_over=[PassedOverOut(first=one.first, last=one.last, text=one.text, why=one.why) for one in table.passed_over[:_PASSED]],
        passed_over_more=max(0, len(table.passed_over) - _PASSED),
        columns=[
            UnderstoodColumnOut(
                name=column.name[:100], symbol=column.symbol[:20], unit=column.unit[:40], why=column.why[:100],
                role=column.role,  # type: ignore[arg-type]  # checked by the schema
                times=column.times, since=column.since[:60], numbers=column.numbers, cells=[cell[:60] for cell in column.cells],
                wrong=[UnderstoodCellOut(row=row, text=text[:60], why=why) for row, text, why in column.wrong], wrong_count=column.wrong_count,
            )
            for column in table.columns
        ],
    )  # fmt: skip


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
        remarks=list(found.remarks),
    )  # fmt: skip
