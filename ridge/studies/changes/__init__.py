"""Every change that can be made to a study. A new kind is a class here and its place in ``AnyChange``."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, TypeAdapter

from ridge.studies.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.changes.cells import DeleteRows, InsertRows, RestoreRows, SetCells
from ridge.studies.changes.columns import AddColumn, EditColumn, PutColumnSettings, RemoveColumn, SwapAxes
from ridge.studies.changes.marks import MarkRows
from ridge.studies.changes.page import EditStudy, KeepAnswer, RemoveAnswer, SetFit
from ridge.studies.changes.tables import PutTable, TakeTable

AnyChange = Annotated[
    SetCells
    | InsertRows
    | DeleteRows
    | RestoreRows
    | MarkRows
    | EditColumn
    | PutColumnSettings
    | AddColumn
    | RemoveColumn
    | SwapAxes
    | TakeTable
    | PutTable
    | EditStudy
    | SetFit
    | KeepAnswer
    | RemoveAnswer,
    Field(discriminator="kind"),
]
_ADAPTER: TypeAdapter[Change] = TypeAdapter(AnyChange)


def read_change(stored: object) -> Change:
    """A change from the history's JSON."""
    return _ADAPTER.validate_python(stored)


__all__ = ["AnyChange", "Change", "ChangeRefused", "Outcome", "read_change"]
