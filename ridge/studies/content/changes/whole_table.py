"""The whole table as it was: what undoes a change that does not know its own way back."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Any, Literal

from pydantic import Field

from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import Change, Outcome
from ridge.studies.content.changes.plot import PlotSettings
from ridge.studies.content.fields import Reason, Row
from ridge.studies.content.state import AnswerState, ColumnState, FitState, PictureState, StudyState


class PutTable(Change):
    """The whole table as it was; and the fits, answers, plot and picture where numbers in its units were changed with it."""

    kind: Literal["put_table"] = "put_table"
    columns: Annotated[list[ColumnState], Field(min_length=2, max_length=LIMITS["columns"])]
    aside: list[tuple[Row, Reason]] = Field(default_factory=list)
    assumed: list[tuple[Row, Reason]] = Field(default_factory=list)
    fits: Annotated[list[FitState], Field(max_length=LIMITS["fits"])] | None = None
    answers: list[AnswerState] | None = None
    plot: PlotSettings | None = None
    picture: PictureState | None = None

    @classmethod
    def of(cls, state: StudyState, *, whole: bool = False) -> PutTable:
        """What puts the table back as it is now; ``whole``: what holds numbers in its units as well."""
        rest: dict[str, Any] = {}
        if whole:
            rest = {
                "fits": list(state.fits),
                "answers": list(state.answers),
                "plot": dict(state.plot),
                "picture": state.picture,
            }
        return cls.like(
            columns=list(state.columns),
            aside=sorted(state.aside.items()),
            assumed=sorted(state.assumed.items()),
            **rest,
        )

    def apply(self, state: StudyState) -> Outcome:
        changed = replace(state, columns=tuple(self.columns), aside=dict(self.aside), assumed=dict(self.assumed))
        whole = False
        if self.fits is not None and self.answers is not None and self.plot is not None:
            whole = True
            changed = replace(
                changed,
                fits=tuple(self.fits),
                answers=tuple(self.answers),
                plot=self.plot.stored(),
                picture=self.picture,
            )
        return Outcome(changed, PutTable.of(state, whole=whole), "put the table back")


def cut_back(state: StudyState, rows: int | None) -> StudyState:
    """The table with its first rows only, and the marks of those; all of it for None."""
    if rows is None or rows >= state.row_count:
        return state
    aside, assumed = ({row: why for row, why in marks.items() if row < rows} for marks in (state.aside, state.assumed))
    columns = tuple(replace(column, cells=column.cells[:rows]) for column in state.columns)
    return replace(state, columns=columns, aside=aside, assumed=assumed)


def lost_from(before: StudyState, after: StudyState) -> bool:
    """Whether rows or columns went that only a whole table brings back."""
    return len(after.columns) < len(before.columns) or after.row_count < before.row_count
