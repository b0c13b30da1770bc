"""What the Workings lens shows: what can be followed, and a working step by step."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal

import numpy as np

from ridge.core.errors import OutsideSense, RidgeError
from ridge.core.numerals import capital, significant
from ridge.core.results.steps import Origin, Step, Table
from ridge.core.wording.exact_numbers import READABLE, Written
from ridge.core.wording.readings import word_refusal
from ridge.core.wording.working_steps import Grid, LineNumber, NumbersLine, WordedStep, title_of
from ridge.core.wording.working_text import grid_latex, step_latex
from ridge.core.workings import Working
from ridge.exchange.cells import NotANumber
from ridge.studies.analysis.curves import finite
from ridge.studies.analysis.fits import fit_one
from ridge.studies.analysis.followed import ANSWER, Followable, Wanted, follow, followables
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.answer_words import unanswered
from ridge.studies.words.fit_words import name_of
from ridge.studies.words.lens_schemas import (
    CellOut,
    FollowableOut,
    GridOut,
    LineOut,
    OriginOut,
    PathOut,
    StepLineOut,
    TracedNumberOut,
    WhatOut,
    WorkingOut,
    WorkingStepOut,
)

NEEDS: Mapping[str, Literal["x", "y"]] = {"interval-at": "x", "solve-for-x": "y"}
"""What has to be given for a working."""
ASKS = {"divided-differences", "lagrange", "straight-pieces"}
"""Workings that also take an x, where one is wanted."""
PATH_DRAWN = 8
PATH_PLACES = 121


def followables_of(state: StudyState) -> list[FollowableOut]:
    """What can be followed in this study."""
    return [_followable(one, state) for one in followables(state)]


def _followable(one: Followable, state: StudyState) -> FollowableOut:
    return FollowableOut(
        key=one.key, kind=one.kind, name=_name(one, state), x=one.x, y=one.y,
        whats=[
            WhatOut(
                what=what, title=title_of(what), needs="" if one.x or one.y else NEEDS.get(what, ""),
                asks_x=not one.x and (what in ASKS or what.endswith("-spline")),
            )
            for what in one.whats
        ],
    )  # fmt: skip


def _name(one: Followable, state: StudyState) -> str:
    if one.kind == "form":
        return one.name
    table = read_table(state)
    if one.kind == "fit":
        wanted = next(fit for fit in state.linked_fits if fit.letter == one.key)
        return f"{one.key}, {one.name or name_of(fit_one(table, wanted))}"
    answer = next(kept for kept in state.answers if ANSWER + kept.key == one.key)
    return one.name or unanswered(answer, table.naming).asked


def working_of(state: StudyState, wanted: Wanted, attempts: Sequence[Mapping[str, float]]) -> WorkingOut:
    """The working in words, or why there is none."""
    try:
        working = follow(state, wanted, attempts)
    except (RidgeError, NotANumber) as problem:
        refusal = refusal_of(state, wanted, problem)
        return WorkingOut(title="", steps=[], note="", text="", latex="", path=None, attempts=[], refusal=refusal)
    worded = working.worded
    steps = [_step(step, said) for step, said in zip(working.steps, worded, strict=True)]
    long = any(
        cell is not None and cell.exact for said in worded if said.grid for row in said.grid.cells for cell in row
    )
    note = (
        f"Fractions of more than {READABLE} digits are shown as decimals; point at one to see it whole." if long else ""
    )
    return WorkingOut(
        title=working.title, steps=steps, note=note if wanted.form == "fractions" else "", text=working.text,
        latex=working.latex, path=_path(working), attempts=[dict(one) for one in attempts],
    )  # fmt: skip


def refusal_of(state: StudyState, wanted: Wanted, problem: RidgeError | NotANumber) -> str:
    """Why there is no such working, as a sentence."""
    table = read_table(state)
    if isinstance(problem, NotANumber):
        return f"{capital(str(problem))}."
    if isinstance(problem, OutsideSense):
        symbol = {"x": table.naming.x, "y": table.naming.y, "model": "The model", "fit": "The fit"}.get(
            problem.name, ""
        )
        return f"{symbol} {problem.reason}" if symbol else capital(problem.reason)
    return word_refusal(problem, table.readings, table.naming, "working")


def _step(step: Step, said: WordedStep) -> WorkingStepOut:
    rows_of = getattr(step, "rows_of", ())
    return WorkingStepOut(
        name=said.name, kind=said.kind, sentence=said.sentence, folded=said.folded, holds=said.holds,
        lines=[
            StepLineOut(text=line.text, latex=line.latex, marked=line.marked if isinstance(line, NumbersLine) else line.latex)
            for line in said.lines
        ],
        numbers=[_number(one) for one in said.numbers],
        grid=None if said.grid is None else _grid(said.grid, rows_of),
        origins=[_origin(one) for one in said.origins], latex=step_latex(said),
    )  # fmt: skip


def _number(number: LineNumber) -> TracedNumberOut:
    at = number.traced.made_at
    place = (
        {"step": None, "row": 0, "column": 0} if at is None else {"step": at.step, "row": at.row, "column": at.column}
    )
    return TracedNumberOut(text=number.text, own=number.traced.own, **place)


def _origin(one: Origin) -> OriginOut:
    return OriginOut(step=one.step, row=one.row, column=one.column)


def _grid(grid: Grid, rows_of: Sequence[int]) -> GridOut:
    return GridOut(
        look=grid.look, symbol=LineOut(text=grid.symbol.text, latex=grid.symbol.latex),
        heads=[LineOut(text=head.text, latex=head.latex) for head in grid.heads],
        labels=[LineOut(text=label.text, latex=label.latex) for label in grid.labels],
        rows=list(grid.rows), columns=list(grid.columns), count=grid.count,
        readings=[rows_of[row] for row in grid.rows] if len(rows_of) else [],
        cells=[[_cell(cell) for cell in row] for row in grid.cells], sums=[_cell(cell) for cell in grid.sums],
        bar=grid.bar, marked=[list(place) for place in grid.marked], marked_row=grid.marked_row, zero_rows=grid.zero_rows, latex=grid_latex(grid),
    )  # fmt: skip


def _cell(cell: Written | None) -> CellOut | None:
    if cell is None:
        return None
    return CellOut(text=cell.number.text, exact=cell.exact, minus=cell.minus, top=cell.top, bottom=cell.bottom)


def _path(working: Working) -> PathOut | None:
    """Curves of the path from its start to its end, and how its sum of squares falls."""
    path = next((step for step in working.steps if step.name == "path" and isinstance(step, Table)), None)
    if path is None:
        return None
    asked = working.asked
    low, high = asked.readings.measured_range
    x = np.linspace(low, high, PATH_PLACES)
    names, model = path.facts["names"], asked.wanted_model
    values = [dict(zip(names, (float(value or 0) for value in row), strict=False)) for row in path.rows]
    shown = sorted({*range(min(PATH_DRAWN, len(values))), len(values) - 1})
    used = asked.readings.used
    every = max(1, int(used.sum()) // 2000)
    return PathOut(
        x=x.tolist(), steps=shown, curves=[finite(model.evaluate(x, values[place])) for place in shown],
        totals=[float(row[-1] or 0) for row in path.rows],
        totals_text=[significant(float(row[-1] or 0), 4).text for row in path.rows],
        readings_x=asked.readings.x[used][::every].tolist(), readings_y=asked.readings.y[used][::every].tolist(),
    )  # fmt: skip
