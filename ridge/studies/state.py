"""A study's content as plain immutable values, which changes turn into one another."""

from __future__ import annotations

import secrets
from collections.abc import Mapping
from dataclasses import dataclass, field

ROLES = ("x", "y", "x_error", "y_error", "weight", "other")
DIRECTIONS = ("y_at_x", "x_at_y")
LIMITS = {"rows": 200_000, "columns": 12, "cell": 200, "answers": 200}


def new_key() -> str:
    """A short name for a column or an answer, unique within its study."""
    return secrets.token_hex(4)


@dataclass(frozen=True)
class ColumnState:
    key: str
    name: str
    symbol: str
    unit: str
    role: str
    cells: tuple[str, ...] = ()


@dataclass(frozen=True)
class FitState:
    letter: str
    family: str
    fixed: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class AnswerState:
    key: str
    direction: str
    given: str
    repeats: int = 1


@dataclass(frozen=True)
class StudyState:
    """``aside`` maps rows (from 0) that are set aside to the reason."""

    title: str
    columns: tuple[ColumnState, ...]
    question: str = ""
    absolute_errors: bool = False
    level: float = 0.95
    aside: Mapping[int, str] = field(default_factory=dict)
    fits: tuple[FitState, ...] = (FitState("A", "line"),)
    answers: tuple[AnswerState, ...] = ()

    @property
    def row_count(self) -> int:
        return len(self.columns[0].cells)

    def column(self, role: str) -> ColumnState | None:
        """The first column with this role."""
        return next((column for column in self.columns if column.role == role), None)


def empty_study(title: str) -> StudyState:
    """A new study: two empty columns and a line to be fitted."""
    return StudyState(
        title=title,
        columns=(ColumnState(new_key(), "", "", "", "x"), ColumnState(new_key(), "", "", "", "y")),
    )
