"""All readings and all leading fits of a class over one plot: who measured what."""

from __future__ import annotations

import uuid

import numpy as np
from ninja import Schema

from ridge.classes.models import Worksheet
from ridge.classes.pooling import left_out_for, x_and_y
from ridge.core.wording.headings import heading
from ridge.studies.analysis.curves import StretchOut, finite
from ridge.studies.analysis.fits import fit_all
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.state import ColumnState
from ridge.studies.content.store import read_state

MOST_POINTS = 200
PLACES = 61
ROOM = 0.05
"""Share of the range that is left free at each end."""


class OneOverlaidOut(Schema):
    """A student's readings in use, some of them where there are many, and samples of the leading fit."""

    student: str
    study: uuid.UUID
    x: list[float]
    y: list[float]
    curve_x: list[float]
    curve_y: list[float | None]


class OverlayOut(Schema):
    """``left_out``: who, and why: units are not mixed."""

    x_title: str
    y_title: str
    x: StretchOut
    y: StretchOut
    students: list[OneOverlaidOut]
    left_out: list[str]


def overlay(worksheet: Worksheet) -> OverlayOut | None:
    """None as long as nobody has readings."""
    found: list[OneOverlaidOut] = []
    left_out: list[str] = []
    columns: tuple[ColumnState, ColumnState] | None = None
    for copy in sorted(worksheet.of_class.select_related("study"), key=lambda one: one.student.casefold()):
        state = read_state(copy.study)
        table, own = read_table(state), x_and_y(state)
        rows = np.flatnonzero(table.status == Status.USED)
        if why := left_out_for(copy.student, own if len(rows) else None, columns):
            left_out.append(why)
            continue
        columns = columns or own
        shown = rows if len(rows) <= MOST_POINTS else rows[np.linspace(0, len(rows) - 1, MOST_POINTS).astype(int)]
        x = table.readings.x[rows]
        places = np.linspace(x.min(), x.max(), PLACES)
        leading = next((one.curve for one in fit_all(table, state.linked_fits) if one.curve), None)
        with np.errstate(all="ignore"):
            curve = finite(leading.evaluate(places)) if leading else []
        found.append(
            OneOverlaidOut(
                student=copy.student, study=copy.study_id, x=table.readings.x[shown].tolist(), y=table.readings.y[shown].tolist(),
                curve_x=places.tolist() if leading else [], curve_y=curve,
            )
        )  # fmt: skip
    if columns is None:
        return None
    of_x, of_y = columns
    return OverlayOut(
        x_title=heading(of_x.name, of_x.symbol, of_x.unit), y_title=heading(of_y.name, of_y.symbol, of_y.unit),
        x=_stretch([value for one in found for value in one.x]), y=_stretch([value for one in found for value in one.y]),
        students=found, left_out=left_out,
    )  # fmt: skip


def _stretch(values: list[float]) -> StretchOut:
    low, high = min(values), max(values)
    room = ROOM * (high - low) or abs(low) or 1.0
    return StretchOut(low=low - room, high=high + room)
