"""Setting readings aside and using them again; saying which ones were assumed, not measured."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from ridge.core.numerals import name_rows
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.fields import Reason, Row
from ridge.studies.content.state import StudyState


class Mark(Schema):
    """``reason`` None: the row is not marked; a text, also an empty one: it is."""

    row: Row
    reason: Reason | None


class _Marking(Change):
    """Mark rows with a reason each, or take the marks away."""

    marks: Annotated[list[Mark], Field(min_length=1)]

    def _marked(self, before: Mapping[int, str], state: StudyState) -> tuple[dict[int, str], list[Mark]]:
        """The marks as they are afterwards, and what brings the old ones back."""
        if max(mark.row for mark in self.marks) >= state.row_count:
            raise ChangeRefused("That is beyond the last row.")
        after = dict(before)
        for mark in self.marks:
            after.pop(mark.row, None)
            if mark.reason is not None:
                after[mark.row] = mark.reason
        return after, [Mark(row=mark.row, reason=before.get(mark.row)) for mark in self.marks]

    def _label(self, given: str, taken: str) -> str:
        """What happened in a few words; ``given`` and ``taken`` have ``{}`` where the rows are named."""
        rows = name_rows(sorted(mark.row for mark in self.marks))
        return (taken if all(mark.reason is None for mark in self.marks) else given).format(rows)


class MarkRows(_Marking):
    """Set rows aside or use them again."""

    kind: Literal["mark_rows"] = "mark_rows"

    def apply(self, state: StudyState) -> Outcome:
        aside, before = self._marked(state.aside, state)
        return Outcome(replace(state, aside=aside), MarkRows(marks=before), self._label("set aside {}", "use {} again"))


class AssumeRows(_Marking):
    """Mark readings as assumed, with the reason, or as measured after all."""

    kind: Literal["assume_rows"] = "assume_rows"

    def apply(self, state: StudyState) -> Outcome:
        assumed, before = self._marked(state.assumed, state)
        label = self._label("mark {} as assumed", "mark {} as measured")
        return Outcome(replace(state, assumed=assumed), AssumeRows(marks=before), label)
