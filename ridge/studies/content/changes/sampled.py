"""Readings of an instrument, added below the others as they are taken. Those of one run are one step of the history."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from ridge.core.numerals import group
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.columns import find_column
from ridge.studies.content.changes.refusals import refuse_calculated, refuse_too_many_rows
from ridge.studies.content.changes.whole_table import PutTable, cut_back, lost_from
from ridge.studies.content.fields import Cells, Key, Row, RowCount, RunName
from ridge.studies.content.state import ColumnSettings, StudyState


class SampledColumn(Schema):
    """The cells of one column, from the first row that is added on."""

    key: Key
    cells: Cells


class AddSamples(Change):
    """Rows from ``at`` on. ``run``: whose they are. ``headings``: what columns are called from now on. ``rows_after`` cuts the table back:
    that is how the inverse takes away what was added."""

    kind: Literal["add_samples"] = "add_samples"
    run: RunName
    at: Row
    columns: Annotated[list[SampledColumn], Field(min_length=1)]
    headings: list[ColumnSettings] = Field(default_factory=list)
    rows_after: RowCount | None = None

    def apply(self, state: StudyState) -> Outcome:
        count = len(self.columns[0].cells)
        named = {column.key for column in self.columns}, {settings.key for settings in self.headings}
        if len(named[0]) < len(self.columns) or len(named[1]) < len(self.headings):
            raise ChangeRefused("A column comes twice.")
        if self.at > state.row_count or any(len(column.cells) != count for column in self.columns):
            raise ChangeRefused("These readings do not belong to this table.")
        rows = max(state.row_count, self.at + count)
        refuse_too_many_rows(rows)
        columns = [replace(c, cells=c.cells + ("",) * (rows - len(c.cells))) for c in state.columns]
        before, headings = [], []
        calculated = [column.formula for column in columns]
        for settings in self.headings:
            place = find_column(state, settings.key)
            held = {name: getattr(columns[place], name) for name in vars(settings)}
            headings.append(ColumnSettings(**held))
            cells = ("",) * rows if settings.formula else columns[place].cells
            columns[place] = replace(columns[place], **vars(settings), cells=cells)
        for sampled in self.columns:
            place = find_column(state, sampled.key)
            refuse_calculated(columns[place])
            cells = columns[place].cells
            before.append(SampledColumn(key=sampled.key, cells=cells[self.at : self.at + count]))
            columns[place] = replace(
                columns[place], cells=cells[: self.at] + tuple(sampled.cells) + cells[self.at + count :]
            )
        after = cut_back(replace(state, columns=tuple(columns)), self.rows_after)
        inverse: Change = AddSamples(
            run=self.run, at=self.at, columns=before, headings=headings, rows_after=state.row_count
        )
        # Headings are written before cells, so that they could not be taken back where one of them has made a column calculated, or not.
        if lost_from(state, after) or calculated != [column.formula for column in columns]:
            inverse = PutTable.of(state)
        label = f"take {group(str(count))} reading{'' if count == 1 else 's'}"
        return Outcome(after, inverse, label)

    def joined(self, later: AddSamples) -> AddSamples | None:
        """This and the next rows of the same run as one change; None where they are not next to it."""
        ours, theirs = [column.key for column in self.columns], [column.key for column in later.columns]
        if (
            self.run != later.run
            or self.at + len(self.columns[0].cells) != later.at
            or ours != theirs
            or later.headings
        ):
            return None
        columns = [
            SampledColumn(key=one.key, cells=(*one.cells, *other.cells))
            for one, other in zip(self.columns, later.columns, strict=True)
        ]
        return AddSamples(run=self.run, at=self.at, columns=columns, headings=self.headings, rows_after=self.rows_after)
