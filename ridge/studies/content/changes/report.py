"""The report: who hands it in, which parts it has and in which order, and paragraphs of one's own."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import Field

from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.fields import Author, ReportDate
from ridge.studies.content.state import PARTS, SEVERAL, ReportPart, StudyState, with_every_part

Parts = Annotated[list[ReportPart], Field(max_length=len(PARTS) + LIMITS["paragraphs"])]


class SetReport(Change):
    """Author and date as typed, and the parts in their order; what is left out stays. Of the parts of a report that are
    not named, none is shown."""

    kind: Literal["set_report"] = "set_report"
    author: Author | None = None
    date: ReportDate | None = None
    parts: Parts | None = None

    def apply(self, state: StudyState) -> Outcome:
        changed = replace(
            state,
            author=state.author if self.author is None else self.author,
            date=state.date if self.date is None else self.date,
            report=state.report if self.parts is None else read_parts(self.parts),
        )
        if changed == state:
            raise ChangeRefused("There is nothing to change.")
        inverse = SetReport.like(author=state.author, date=state.date, parts=list(state.report))
        label = "edit the report" if self.parts is not None else "change author and date of the report"
        return Outcome(changed, inverse, label)


def read_parts(parts: list[ReportPart]) -> tuple[ReportPart, ...]:
    """The parts, every usual one among them. Raises ChangeRefused where one comes twice."""
    named = [part.part for part in parts if part.part not in SEVERAL]
    if len(set(named)) < len(named):
        raise ChangeRefused("A part of the report comes twice.")
    if len(parts) - len(named) > LIMITS["paragraphs"]:
        raise ChangeRefused(f"A report holds {LIMITS['paragraphs']} paragraphs of your own and workings at most.")
    return with_every_part(parts)
