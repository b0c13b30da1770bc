"""What several changes refuse."""

from __future__ import annotations

from ridge.core.numerals import group
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.state import ColumnState


def refuse_too_many_rows(count: int) -> None:
    if count > LIMITS["rows"]:
        raise ChangeRefused(
            f"A study holds {group(str(LIMITS['rows']))} rows at most; this would make {group(str(count))}."
        )


def refuse_calculated(column: ColumnState) -> None:
    if column.formula:
        name = column.name or column.symbol or "This column"
        raise ChangeRefused(
            f"{name} is calculated as {column.formula}. Change its formula in the heading, or take it out."
        )
