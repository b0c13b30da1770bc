"""Setting readings aside and taking them back."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, StringConstraints

from ridge.core.wording.numbers import name_rows
from ridge.studies.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.changes.cells import Row
from ridge.studies.state import StudyState


class Mark(Schema):
    """``reason`` None: the row is in use; a text, also an empty one: it is set aside."""

    row: Row
    reason: Annotated[str, StringConstraints(max_length=200)] | None


class MarkRows(Change):
    """Set rows aside or take them back."""

    kind: Literal["mark_rows"] = "mark_rows"
    marks: Annotated[list[Mark], Field(min_length=1)]

    def apply(self, state: StudyState) -> Outcome:
        if max(mark.row for mark in self.marks) >= state.row_count:
            raise ChangeRefused("That is beyond the last row.")
        before = [Mark(row=mark.row, reason=state.aside.get(mark.row)) for mark in self.marks]
        aside = dict(state.aside)
        for mark in self.marks:
            aside.pop(mark.row, None)
            if mark.reason is not None:
                aside[mark.row] = mark.reason
        rows = sorted(mark.row for mark in self.marks)
        verb = "take back" if all(mark.reason is None for mark in self.marks) else "set aside"
        return Outcome(replace(state, aside=aside), MarkRows(marks=before), f"{verb} {name_rows(rows)}")
