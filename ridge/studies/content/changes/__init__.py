"""Every change that can be made to a study. A new kind is a class here and its place in ``AnyChange``."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, TypeAdapter

from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.cells import DeleteRows, InsertRows, RestoreRows, SetCells
from ridge.studies.content.changes.columns import AddColumn, EditColumn, PutColumnSettings, RemoveColumn, SwapAxes
from ridge.studies.content.changes.converting import ConvertColumn
from ridge.studies.content.changes.fits import (
    AddFit,
    DuplicateFit,
    LeadWith,
    MoveFit,
    MoveGrip,
    PutFits,
    RefineFit,
    RemoveFit,
    SetFit,
)
from ridge.studies.content.changes.generated import GenerateReadings
from ridge.studies.content.changes.marks import AssumeRows, MarkRows
from ridge.studies.content.changes.page import EditStudy, KeepAnswer, RemoveAnswer, SetAnswer
from ridge.studies.content.changes.picturing import PutPicture, ScalePicture
from ridge.studies.content.changes.plot import SetPlot
from ridge.studies.content.changes.repeats import AverageRepeats
from ridge.studies.content.changes.report import SetReport
from ridge.studies.content.changes.rows import PutOrder, RemoveEmptyRows, SortRows, WriteCells
from ridge.studies.content.changes.sampled import AddSamples
from ridge.studies.content.changes.tables import TakeTable
from ridge.studies.content.changes.whole_table import PutTable

AnyChange = Annotated[
    SetCells
    | InsertRows
    | DeleteRows
    | RestoreRows
    | WriteCells
    | SortRows
    | PutOrder
    | RemoveEmptyRows
    | GenerateReadings
    | AddSamples
    | MarkRows
    | AssumeRows
    | EditColumn
    | PutColumnSettings
    | AddColumn
    | RemoveColumn
    | SwapAxes
    | ConvertColumn
    | AverageRepeats
    | TakeTable
    | PutTable
    | EditStudy
    | AddFit
    | SetFit
    | RemoveFit
    | LeadWith
    | MoveFit
    | DuplicateFit
    | RefineFit
    | MoveGrip
    | PutFits
    | SetPlot
    | PutPicture
    | ScalePicture
    | KeepAnswer
    | RemoveAnswer
    | SetAnswer
    | SetReport,
    Field(discriminator="kind"),
]
_ADAPTER: TypeAdapter[Change] = TypeAdapter(AnyChange)


def read_change(stored: object) -> Change:
    """A change from the history's JSON."""
    return _ADAPTER.validate_python(stored)


__all__ = ["AnyChange", "Change", "ChangeRefused", "Outcome", "read_change"]
