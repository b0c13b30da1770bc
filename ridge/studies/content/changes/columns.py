"""Columns: their name, symbol, unit and role; adding, removing, swapping x and y."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import Field

from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.fields import (
    Cells,
    Exponent,
    Key,
    Limit,
    Name,
    Place,
    Role,
    Symbol,
    TypedFormula,
    Uncertainty,
    Unit,
    Why,
)
from ridge.studies.content.state import ColumnSettings, ColumnState, PictureScale, PictureState, StudyState, new_key
from ridge.studies.content.symbols import symbol_problem
from ridge.studies.content.uncertainties import uncertainty_problem

ROLE_WORDS = {
    "x": "x", "y": "y", "x_error": "uncertainty of x", "y_error": "uncertainty of y", "weight": "weight", "count": "count of repeats", "series": "series", "other": "other",
}  # fmt: skip


def called(column: ColumnState) -> str:
    """What to call a column in a label or message."""
    return column.name or column.symbol or f"the {ROLE_WORDS[column.role]} column"


def find_column(state: StudyState, key: str) -> int:
    for place, column in enumerate(state.columns):
        if column.key == key:
            return place
    raise ChangeRefused("That column is no longer there.")


class PutColumnSettings(Change):
    """Settings of several columns at once."""

    kind: Literal["put_column_settings"] = "put_column_settings"
    columns: Annotated[list[ColumnSettings], Field(min_length=1)]

    def apply(self, state: StudyState) -> Outcome:
        if len({settings.key for settings in self.columns}) < len(self.columns):
            raise ChangeRefused("A column comes twice.")
        columns = list(state.columns)
        before = []
        for settings in self.columns:
            at = find_column(state, settings.key)
            before.append(_settings(columns[at]))
            columns[at] = replace(columns[at], **vars(settings))
        label = f"change {called(columns[find_column(state, self.columns[0].key)])}"
        return Outcome(replace(state, columns=tuple(columns)), PutColumnSettings(columns=before), label)


class EditColumn(Change):
    """Some settings of one column. A role that may be held once passes its holder this column's old role."""

    kind: Literal["edit_column"] = "edit_column"
    key: Key
    name: Name | None = None
    symbol: Symbol | None = None
    unit: Unit | None = None
    role: Role | None = None
    formula: TypedFormula | None = None
    exponent: Exponent | None = None
    uncertainty: Uncertainty | None = None
    lowest: Limit | None = None
    highest: Limit | None = None
    limits_why: Why | None = None

    def apply(self, state: StudyState) -> Outcome:
        at = find_column(state, self.key)
        old = state.columns[at]
        given = {k: v for k, v in self.model_dump(exclude={"kind", "key"}).items() if v is not None}
        if self.formula and any(cell.strip() for cell in old.cells):
            raise ChangeRefused(
                f"{called(old)} holds typed cells. Add a new column for the formula, or clear these first."
            )
        others = [column.symbol for column in state.columns if column.key != self.key]
        _check(given.get("symbol", ""), others, given.get("name", old.name))
        _check_uncertainty(given.get("uncertainty", ""), given.get("formula", old.formula))
        changed = [replace(old, **given)]
        if self.role not in (None, "other", old.role) and (holder := state.column(self.role)):
            changed.append(replace(holder, role=old.role))
        elif self.role is not None and self.role != old.role and old.role in ("x", "y"):
            raise ChangeRefused(f"A study needs an {old.role} column: give that role to another column instead.")
        outcome = PutColumnSettings(columns=[_settings(column) for column in changed]).apply(state)
        what = {
            "name": "name", "symbol": "symbol", "unit": "unit", "role": "role", "formula": "formula",
            "exponent": "multiplier", "uncertainty": "uncertainty", "lowest": "least value", "highest": "greatest value",
            "limits_why": "reason of the limits",
        }  # fmt: skip
        label = f"change the {' and '.join(what[k] for k in given) or 'settings'} of {called(changed[0])}"
        return replace(outcome, label=label)


class AddColumn(Change):
    """A new column, at the right end unless ``at`` says where."""

    kind: Literal["add_column"] = "add_column"
    key: Key = Field(default_factory=new_key)
    name: Name = ""
    symbol: Symbol = ""
    unit: Unit = ""
    role: Role = "other"
    formula: TypedFormula = ""
    exponent: Exponent = 0
    uncertainty: Uncertainty = ""
    lowest: Limit = ""
    highest: Limit = ""
    limits_why: Why = ""
    at: Place | None = None
    cells: Cells | None = None

    def apply(self, state: StudyState) -> Outcome:
        if len(state.columns) >= LIMITS["columns"]:
            raise ChangeRefused(f"A study holds {LIMITS['columns']} columns at most.")
        if self.role != "other" and state.column(self.role):
            raise ChangeRefused(f"There is a column for {ROLE_WORDS[self.role]} already.")
        if self.cells is None:  # what was removed comes back as it was
            _check(self.symbol, [column.symbol for column in state.columns], self.name)
            _check_uncertainty(self.uncertainty, self.formula)
        cells = ("",) * state.row_count if self.cells is None else tuple(self.cells)
        if len(cells) != state.row_count:
            raise ChangeRefused("This column does not belong to this table.")
        settings = self.model_dump(exclude={"kind", "at", "cells"})
        column = ColumnState(**settings, cells=cells)
        at = len(state.columns) if self.at is None else self.at
        columns = (*state.columns[:at], column, *state.columns[at:])
        return Outcome(replace(state, columns=columns), RemoveColumn(key=self.key), f"add {called(column)}")


class RemoveColumn(Change):
    """Take a column out. The x and the y column stay."""

    kind: Literal["remove_column"] = "remove_column"
    key: Key

    def apply(self, state: StudyState) -> Outcome:
        at = find_column(state, self.key)
        column = state.columns[at]
        if column.role in ("x", "y"):
            raise ChangeRefused(f"A study needs its {column.role} column: give that role to another column first.")
        inverse = AddColumn.like(**vars(_settings(column)), at=at, cells=column.cells)
        columns = state.columns[:at] + state.columns[at + 1 :]
        return Outcome(replace(state, columns=columns), inverse, f"remove {called(column)}")


class SwapAxes(Change):
    """What was x becomes y, and the reverse, with their uncertainties."""

    kind: Literal["swap_axes"] = "swap_axes"

    def apply(self, state: StudyState) -> Outcome:
        other: dict[Role, Role] = {"x": "y", "y": "x", "x_error": "y_error", "y_error": "x_error"}
        columns = tuple(replace(column, role=other.get(column.role, column.role)) for column in state.columns)
        return Outcome(replace(state, columns=columns, picture=_swapped(state.picture)), SwapAxes(), "swap x and y")


def _swapped(picture: PictureState | None) -> PictureState | None:
    """The picture with the meaning of its axes exchanged; one without marks on them stays where it is."""
    if picture is None or picture.scale is None or picture.scale.y_marks is None:
        return picture
    scale = PictureScale(x_marks=picture.scale.y_marks, y_marks=picture.scale.x_marks)
    return replace(picture, scale=scale, log_x=picture.log_y, log_y=picture.log_x)


def _check(symbol: str, others: list[str], name: str) -> None:
    """Raises ChangeRefused for a symbol that formulas cannot use."""
    why, proposal = symbol_problem(symbol, others, name)
    if why:
        raise ChangeRefused(f"{why} Take {proposal} instead." if proposal else why)


def _check_uncertainty(text: str, formula: str) -> None:
    """Raises ChangeRefused for what is no uncertainty of a column."""
    if why := uncertainty_problem(text, calculated=bool(formula.strip())):
        raise ChangeRefused(why)


def _settings(column: ColumnState) -> ColumnSettings:
    return ColumnSettings(**{name: value for name, value in vars(column).items() if name != "cells"})
