"""Studies that begin with a table."""

from __future__ import annotations

from dataclasses import replace

from ridge.core.numerals import count_word
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.changes.tables import TakeTable, series_of
from ridge.studies.content.state import StudyState, empty_study

MOST_STUDIES = 12


def begin_with_table(title: str, table: TakeTable, apart: bool) -> list[StudyState]:
    """One study with the table, or, ``apart``, one for every y column, each with the x that belongs to it.

    Raises ChangeRefused.
    """
    places = [place for place, column in enumerate(table.columns) if column.role == "y"]
    if not apart or len(places) < 2:
        return [table.apply(empty_study(title)).state]
    if len(places) > MOST_STUDIES:
        raise ChangeRefused(f"That would make {len(places)} studies; {count_word(MOST_STUDIES)} at most at once.")
    return [_one(title, table, own) for own in series_of([column.role for column in table.columns])]


def _one(title: str, table: TakeTable, own: dict[str, int]) -> StudyState:
    """The study of one y column: its own x, uncertainties and what belongs to all; the other y columns are left out."""
    columns = list(table.columns)
    for i, column in enumerate(columns):
        if column.role in ("x", "y", "x_error", "y_error") and own.get(column.role) != i:
            columns[i] = column.model_copy(update={"role": "skip"})
    place = own["y"]
    label = columns[place].name or columns[place].symbol or f"column {place + 1}"
    state = table.model_copy(update={"columns": columns}).apply(empty_study(title)).state
    return replace(_without_gaps(state), title=f"{title[: 195 - len(label)]}: {label}")


def _without_gaps(state: StudyState) -> StudyState:
    """Rows without a y are those of the other series."""
    y = state.column("y")
    assert y is not None
    kept = [row for row, cell in enumerate(y.cells) if cell.strip()]
    if len(kept) > LIMITS["rows"] or len(kept) == state.row_count:
        return state
    return replace(state, columns=tuple(replace(c, cells=tuple(c.cells[row] for row in kept)) for c in state.columns))
