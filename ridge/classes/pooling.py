"""All readings of a class in one study, the student as series."""

from __future__ import annotations

from dataclasses import replace

from ridge.classes.models import Copy, Worksheet
from ridge.core.numerals import group
from ridge.studies.content.columns import column_values
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.state import ColumnState, StudyState, empty_study, new_key
from ridge.studies.content.store import read_state

QUESTION = 2000
"""Characters of a question."""


class NothingToPool(Exception):
    """The message says why."""


def pooled(worksheet: Worksheet) -> tuple[StudyState, str]:
    """The study, and how many readings it has of whom, and what was left out and why: units are not mixed. Raises NothingToPool."""
    rows: list[tuple[str, str, str]] = []
    students: list[str] = []
    left_out: list[str] = []
    columns: tuple[ColumnState, ColumnState] | None = None
    for copy in sorted(worksheet.of_class.select_related("study"), key=lambda one: one.student.casefold()):
        state = read_state(copy.study)
        own = x_and_y(state)
        found = _used(copy, state, own) if own else []
        if why := left_out_for(copy.student, own if found else None, columns):
            left_out.append(why)
        else:
            columns = columns or own
            students.append(copy.student)
            rows += found
    if columns is None:
        raise NothingToPool("No copy has readings yet.")
    said = f"{group(str(len(rows)))} readings of {len(students)} student{'' if len(students) == 1 else 's'}."
    if left_out:
        said += f" Left out: {', '.join(left_out)}."
    who, xs, ys = zip(*rows, strict=True)
    x, y = columns
    state = replace(
        empty_study(f"{worksheet.title[:180]}, the class"),
        columns=(
            ColumnState(key=new_key(), name="student", symbol="", unit="", role="series", cells=tuple(who)),
            _taken(x, tuple(xs)),
            _taken(y, tuple(ys)),
        ),
        question=said[:QUESTION],
    )
    return state, said


def left_out_for(
    student: str, own: tuple[ColumnState, ColumnState] | None, columns: tuple[ColumnState, ColumnState] | None
) -> str:
    """Who is left out and why, empty for nobody. ``own``: the student's x and y, where there are readings; ``columns``: those of the first."""
    if own is None:
        return f"{student} (no readings)"
    if columns is not None and _measured_in(own) != _measured_in(columns):
        return f"{student} (measured in {_units(own)})"
    return ""


def x_and_y(state: StudyState) -> tuple[ColumnState, ColumnState] | None:
    by_role = {column.role: column for column in state.columns}
    x, y = by_role.get("x"), by_role.get("y")
    return (x, y) if x and y else None


def _used(copy: Copy, state: StudyState, columns: tuple[ColumnState, ColumnState]) -> list[tuple[str, str, str]]:
    """The student with x and y of every reading in use."""
    status = read_table(state).status
    rows = [row for row in range(min(len(status), state.row_count)) if status[row] == Status.USED]
    x, y = (_cells(state, column) for column in columns)
    return [(copy.student, x[row], y[row]) for row in rows]


def _cells(state: StudyState, column: ColumnState) -> list[str]:
    """As typed; of a calculated column its numbers."""
    if not column.formula:
        return list(column.cells)
    return [repr(float(number)) for number in column_values(state)[column.key].numbers]


def _measured_in(columns: tuple[ColumnState, ColumnState]) -> list[tuple[str, int]]:
    return [(one.unit, one.exponent) for one in columns]


def _units(columns: tuple[ColumnState, ColumnState]) -> str:
    powers = {one.key: f"10^{one.exponent} " if one.exponent else "" for one in columns}
    return " and ".join(f"{powers[one.key]}{one.unit or 'no unit'}" for one in columns)


def _taken(column: ColumnState, cells: tuple[str, ...]) -> ColumnState:
    """A column of the same name and unit with other cells."""
    return ColumnState(
        key=new_key(), name=column.name, symbol=column.symbol, unit=column.unit, role=column.role, exponent=column.exponent, cells=cells,
    )  # fmt: skip
