"""What is understood of a table, what is asked about it, and what is left out of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Generic, Literal, NamedTuple, TypeVar

Separator = Literal["tab", "semicolon", "comma", "bar", "spaces"]
Decimal = Literal["point", "comma"]
Several = Literal["series", "first"]
Alone = Literal["rows", "y", "x"]
Value = TypeVar("Value")


class NoTable(ValueError):
    """The text holds no table; the message says why and what to do."""


class Decision(NamedTuple, Generic[Value]):
    """What was decided, and why in a few words; ``why`` is empty where it was said by whoever asked."""

    value: Value
    why: str = ""


@dataclass(frozen=True)
class Choices:
    """How a table is to be read; what is None is decided from the table, or asked.

    ``header``: the line (from 1, empty ones not counted) with the names, 0 for none. ``table``: which of several below
    one another, from 0. ``turned``: whether each line is one quantity. ``elapsed``: by the place of a column of times,
    from 0, the unit in which the time since the first one counts; or ``h:min``, ``min:s``, ``h:min:s`` to keep clock
    readings as they are written; "" to leave them as text. ``several``: whether all columns that may be y are series of
    one study, or only the first is y. ``fractions``: whether ``12/5`` is 2.4 rather than a day of a month. ``alone``: what the only column of numbers is: y over the number of the row, y
    without an x, or x. ``numbering``: whether a first column that counts 1, 2, 3 is a label.
    """

    separator: Separator | None = None
    decimal: Decimal | None = None
    header: int | None = None
    day_first: bool | None = None
    table: int | None = None
    turned: bool | None = None
    elapsed: Mapping[int, str] = field(default_factory=dict)
    several: Several | None = None
    alone: Alone | None = None
    numbering: bool | None = None
    fractions: bool | None = None


@dataclass(frozen=True)
class Option:
    """One answer to a question, in words, and the choices that it stands for."""

    words: str
    choices: Mapping[str, Any]


@dataclass(frozen=True)
class Question:
    """Something that the table leaves open. ``column``: the place it is about, None for the table as a whole."""

    about: str
    words: str
    options: tuple[Option, ...]
    column: int | None = None


@dataclass(frozen=True)
class PassedOver:
    """Lines of the text (from 1, empty ones counted) that are no part of the table, what they say, and the reason."""

    first: int
    last: int
    text: str
    why: str


@dataclass(frozen=True)
class TableColumn:
    """One column. ``cells`` are ready for the grid, all of them or, of a survey, the first few.

    ``wrong``: rows (from 0) whose cell is no number and what stands there, the first few of ``wrong_count``.
    ``role``: what it is proposed as, with ``why``. ``times``: "date" or "clock" where the cells were such and are now the
    time since ``since``, in ``unit``; empty otherwise. ``numbers``: whether it holds numbers rather than words.
    ``part``: "" or "uncertainty" where it was taken out of the cells of the column before it.
    """

    name: str
    symbol: str
    unit: str
    role: str
    why: str
    cells: tuple[str, ...]
    wrong: tuple[tuple[int, str, str], ...] = ()
    wrong_count: int = 0
    times: str = ""
    since: str = ""
    numbers: bool = True
    part: str = ""


@dataclass(frozen=True)
class TextTable:
    """What was understood. ``header``: the line (from 1, empty ones not counted) that is the heading, 0 for none.

    ``tables``: first and last line of each table of the text, of which ``table`` is the one that was read. ``nothing``:
    why nothing of it could be used; empty where something can.
    """

    separator: Decision[Separator]
    decimal: Decision[Decimal]
    header: int
    turned: bool
    row_count: int
    columns: tuple[TableColumn, ...]
    questions: tuple[Question, ...] = ()
    passed_over: tuple[PassedOver, ...] = ()
    tables: tuple[tuple[int, int], ...] = ()
    table: int = 0
    nothing: str = ""
