"""A study's content as plain immutable values, which changes turn into one another."""

from __future__ import annotations

import secrets
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

ROLES = ("x", "y", "x_error", "y_error", "weight", "count", "series", "other")
DIRECTIONS = ("y_at_x", "x_at_y", "tangent", "area", "roots", "turning", "inflexions", "crossing")
"""What can be asked of a fit: y at one x or more, x at a y, the slope at an x, the area between two x, and the places
where the curve is zero, turns, changes its bend or meets another fit."""
PARTS = (
    "question", "answers", "figure", "model", "equation_errors", "parameters", "correlations", "judgement", "tests",
    "residual_plot", "cautions", "readings", "method",
)  # fmt: skip
"""What a report can be made of, in its usual order."""
ON_REQUEST = ("equation_errors", "correlations", "tests", "residual_plot")
"""Parts that are not shown until they are wanted."""
FORMULA_TYPED = 4000
"""Characters of a formula that are kept as typed; one longer than formulas may be is told so, not cut."""
LIMITS = {"rows": 200_000, "columns": 12, "cell": 200, "answers": 200, "fits": 6, "paragraphs": 40}


def new_key() -> str:
    """A short name for a column or an answer, unique within its study."""
    return secrets.token_hex(4)


@dataclass(frozen=True)
class ColumnState:
    """``cells`` are texts as typed, those of a calculated column (``formula``) empty. Values are the numbers in the
    cells times 10 to the ``exponent``. ``uncertainty``: that of every value of the column, as typed (``0.5``, ``2 %``).
    ``lowest``, ``highest``: the least and the greatest value that makes sense, as typed, and why (``limits_why``)."""

    key: str
    name: str
    symbol: str
    unit: str
    role: str
    cells: tuple[str, ...] = ()
    formula: str = ""
    exponent: int = 0
    uncertainty: str = ""
    lowest: str = ""
    highest: str = ""
    limits_why: str = ""


@dataclass(frozen=True)
class FitState:
    """``options`` go to the family's constructor; ``series``: the label of the readings it is fitted to, all if empty;
    ``method``: what least squares is done in, see ``ridge.core.fit``. ``by_hand``: its parameters are ``values`` (read off
    the readings where none are given); otherwise ``values`` are where the search begins, if there are any. ``bounds``:
    lowest and highest by parameter, None for no bound; ``x_range``: the stretch of x that it is fitted to, all if None. ``decimals``: how many the course wants in the equation,
    by parameter; of others as many as it needs."""

    letter: str
    family: str
    fixed: Mapping[str, float] = field(default_factory=dict)
    options: Mapping[str, Any] = field(default_factory=dict)
    series: str = ""
    method: str = "y"
    by_hand: bool = False
    values: Mapping[str, float] = field(default_factory=dict)
    bounds: Mapping[str, tuple[float | None, float | None]] = field(default_factory=dict)
    x_range: tuple[float, float] | None = None
    name: str = ""
    hidden: bool = False
    decimals: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class LinkedFit(FitState):
    """A fit whose formula calls others by their letters, with those: ``calls``. A letter without a fit is left out."""

    calls: tuple[FitState, ...] = ()


@dataclass(frozen=True)
class AnswerState:
    """``given`` as typed; for a crossing the letter of the other fit. ``fit``: the letter of the fit that is asked, the
    leading one if empty, every one if "all". ``name``: what the user calls it; ``was``: the answer when it was kept."""

    key: str
    direction: str
    given: str
    repeats: int = 1
    fit: str = ""
    name: str = ""
    was: str = ""


@dataclass(frozen=True)
class ReportPart:
    """A part of the report: one of ``PARTS``, or "own" for a paragraph of one's own with its ``heading`` and ``text``."""

    part: str
    shown: bool = True
    heading: str = ""
    text: str = ""


def with_every_part(parts: Iterable[ReportPart]) -> tuple[ReportPart, ...]:
    """The same with what is missing of ``PARTS`` behind them, not shown."""
    parts = tuple(parts)
    named = {part.part for part in parts}
    return (*parts, *(ReportPart(part, shown=False) for part in PARTS if part not in named))


WHOLE_REPORT = tuple(ReportPart(part, shown=part not in ON_REQUEST) for part in PARTS)


@dataclass(frozen=True)
class StudyState:
    """``aside`` maps rows (from 0) that are set aside to the reason, ``assumed`` those that were not measured;
    ``plot`` holds what differs from the plot as it draws itself, see ``PlotSettings``; ``letters`` the course's letters
    by parameter, ``rising`` whether terms are written from the lowest power up; ``author`` and ``date`` stand under the
    title of the report as typed; ``report`` holds each of ``PARTS`` once, and paragraphs of one's own."""

    title: str
    columns: tuple[ColumnState, ...]
    question: str = ""
    absolute_errors: bool = False
    level: float = 0.95
    aside: Mapping[int, str] = field(default_factory=dict)
    assumed: Mapping[int, str] = field(default_factory=dict)
    plot: Mapping[str, Any] = field(default_factory=dict)
    letters: Mapping[str, str] = field(default_factory=dict)
    rising: bool = False
    fits: tuple[FitState, ...] = (FitState("A", "line"),)
    answers: tuple[AnswerState, ...] = ()
    author: str = ""
    date: str = ""
    report: tuple[ReportPart, ...] = WHOLE_REPORT

    @property
    def row_count(self) -> int:
        return len(self.columns[0].cells)

    @property
    def filled_rows(self) -> int:
        """Rows down to the last one in which something is typed."""
        filled = self.row_count
        while filled and not any(column.cells[filled - 1] for column in self.columns):
            filled -= 1
        return filled

    @property
    def linked_fits(self) -> tuple[FitState, ...]:
        """The fits, each with those that it calls."""
        return tuple(self.linked(fit) for fit in self.fits)

    def linked(self, fit: FitState, above: tuple[str, ...] = ()) -> FitState:
        """A fit with those that it calls, and these with theirs; one that would call itself is left out."""
        letters = [letter for letter in fit.options.get("curves") or () if letter not in (*above, fit.letter)]
        if not letters:
            return fit
        named = {one.letter: one for one in self.fits}
        calls = tuple(self.linked(named[letter], (*above, fit.letter)) for letter in letters if letter in named)
        return LinkedFit(**vars(fit), calls=calls)

    def column(self, role: str) -> ColumnState | None:
        """The first column with this role."""
        return next((column for column in self.columns if column.role == role), None)


def empty_study(title: str) -> StudyState:
    """A new study: two empty columns and a line to be fitted."""
    return StudyState(
        title=title,
        columns=(ColumnState(new_key(), "", "", "", "x"), ColumnState(new_key(), "", "", "", "y")),
    )
