"""What the API says in the lenses beside the plot: residuals, comparison, resampling."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel as Schema
from pydantic import Field, StringConstraints

from ridge.studies.analysis.curves import CurveOut, ViewOut
from ridge.studies.content import fields


class BinOut(Schema):
    """A bar of a histogram."""

    low: float
    high: float
    count: int


class ResidualRowOut(Schema):
    """A row of the residual table, worded; ``row`` counts from 0."""

    row: int
    observed: str
    fitted: str
    residual: str
    squared: str
    standardised: str
    leverage: str
    cook: str


class ResidualsOut(Schema):
    """Arrays have one entry for each of ``rows``. ``expected``: the normal quantile of each standardised residual;
    ``sentences``: what the residuals show; ``over``: what stands after the stroke of a heading of ``table``, by its name."""

    letter: str
    rows: list[int]
    all_drawn: bool
    x: list[float | None]
    fitted: list[float | None]
    residual: list[float | None]
    standardised: list[float | None]
    expected: list[float | None]
    bins: list[BinOut]
    sentences: list[str]
    over: dict[str, str]
    table: list[ResidualRowOut]


class CriterionOut(Schema):
    name: str
    label: str
    meaning: str


class ValueOut(Schema):
    text: str
    best: bool


class ComparedOut(Schema):
    """One fit in the comparison, its ``values`` in the order of the criteria."""

    letter: str
    name: str
    values: list[ValueOut]


class NestedOut(Schema):
    smaller: str
    larger: str
    sentence: str


class RungOut(Schema):
    """A polynomial on the ladder of degrees; ``error``: what a reading misses by when it is left out, typically."""

    degree: int
    r_squared: float | None
    error: float | None
    r_squared_text: str
    error_text: str


class AlikeRowOut(Schema):
    """One parameter of two fits: both values, and what their difference says."""

    symbol: str
    first: str
    second: str
    says: str


class AlikeOut(Schema):
    """Two fits of one model to different readings, and whether one curve would do for both."""

    first: str
    second: str
    sentence: str
    rows: list[AlikeRowOut]


class ComparisonOut(Schema):
    """``remark``: why the criteria do not compare these fits, if so."""

    criteria: list[CriterionOut]
    fits: list[ComparedOut]
    remark: str
    nested: list[NestedOut]
    alike: list[AlikeOut]
    ladder: list[RungOut]
    ladder_sentence: str


class ResamplingIn(Schema):
    """How shares of the readings are drawn.

    ``kind``: "shares" (``times`` random ones of ``share`` per cent), "parts" (each of ``parts`` left out in turn) or
    "in_turn" (each reading left out). ``letters`` of the fits, one after the other. The same ``seed``, the same draws.
    """

    kind: Literal["shares", "parts", "in_turn"] = "shares"
    share: Annotated[int, Field(ge=10, le=90)] = 50
    times: Annotated[int, Field(ge=4, le=25)] = 9
    parts: Annotated[int, Field(ge=2, le=25)] = 5
    seed: Annotated[int, Field(ge=0, le=999_999)] = 1
    letters: Annotated[str, StringConstraints(pattern="^[A-F]{0,6}$")] = ""


class DrawOut(Schema):
    """The curve of one draw, empty where it could not be fitted; ``error``: what it misses the readings left out by."""

    y: list[float | None]
    error: str


class ResampledOut(Schema):
    """One fit on every draw, its curves sampled at ``x``. ``own``: its typical miss where it is fitted to all readings."""

    letter: str
    name: str
    parameters: int
    own: str
    left_out: str
    error: float | None
    sentence: str
    x: list[float]
    draws: list[DrawOut]


class ResamplingOut(Schema):
    """``letters``: the fits that can be made anew. ``left_out``: the rows left out of each draw. ``remark``: why there are
    no draws, or which fits are not among them."""

    letters: list[str]
    left_out: list[list[int]]
    fits: list[ResampledOut]
    remark: str
    view: ViewOut


class WithoutOut(Schema):
    """A fit without one of its readings."""

    row: int
    sentence: str
    curve: CurveOut | None


class WhatOut(Schema):
    """A working by its name. ``needs``: "x" or "y" where a number has to be given; ``asks_x``: whether an x may be."""

    what: str
    title: str
    needs: Literal["", "x", "y"]
    asks_x: bool


class FollowableOut(Schema):
    """Something that can be followed: a fit, an answer, a form. ``x`` and ``y``: what an answer is about."""

    key: str
    kind: Literal["fit", "form", "answer"]
    name: str
    x: str
    y: str
    whats: list[WhatOut]


class NextPlaceIn(Schema):
    """Of what more readings are wanted: ``own:A:0`` (a quantity of one's own by its place), ``parameter:A:slope``, ``answer:`` and its key,
    or ``apart:A:B``; between which x, as typed (the measured range where empty), and to which share of its uncertainty, in per cent."""

    of: fields.Followed
    low: fields.TypedNumber = ""
    high: fields.TypedNumber = ""
    share: Annotated[int, Field(ge=1, le=99)] = 50


class NextPlaceOut(Schema):
    """How much one more reading is worth, from 0 to 1 of the most, at each ``x``; most at ``best``. ``problem``: why that cannot be said."""

    called: str = ""
    x: list[float] = []
    worth: list[float] = []
    best: float | None = None
    sentences: list[str] = []
    problem: str = ""


class WorkingIn(Schema):
    """Which working of what, how its numbers are written, and for which x or y, as typed."""

    of: fields.Followed
    what: fields.WorkingName
    form: fields.NumberKind = "fractions"
    places: fields.Places = 4
    x: fields.TypedNumber = ""
    y: fields.TypedNumber = ""


class LineOut(Schema):
    text: str
    latex: str


class CellOut(Schema):
    """A number; of a fraction also its parts. ``exact``: the fraction behind a decimal."""

    text: str
    exact: str
    minus: bool
    top: str
    bottom: str


class OriginOut(Schema):
    """Where numbers come from: cells of an earlier step or of ``readings``; null for all rows or columns, "row" and "column" for
    the number's own."""

    step: str
    row: int | Literal["row", "column"] | None
    column: int | Literal["row", "column"] | None


class GridOut(Schema):
    """A table or a matrix. ``rows`` and ``columns``: those that are shown, of ``count`` rows, from 0; ``readings``: that each row belongs to.
    ``bar``: columns behind a bar; ``marked``: cells pointed out, by row and column."""

    look: Literal["table", "matrix"]
    symbol: LineOut
    heads: list[LineOut]
    labels: list[LineOut]
    rows: list[int]
    columns: list[int]
    count: int
    readings: list[int]
    cells: list[list[CellOut | None]]
    sums: list[CellOut | None]
    bar: int
    marked: list[list[int]]
    marked_row: int | None
    zero_rows: int
    latex: str


class StepLineOut(LineOut):
    """An equation; ``marked``: its LaTeX with each number of the step in a group ``\\htmlData{number=…}``, from 0."""

    marked: str


class TracedNumberOut(Schema):
    """A number in the lines of a step. ``own``: the step makes it, the others are put in; the earlier step that made it, from 0, with
    row and column there: of the foot of a table the row after its last. null where no earlier step has it."""

    text: str
    own: bool
    step: int | None
    row: int
    column: int


class WorkingStepOut(Schema):
    """``folded``: detail that is opened on request; ``holds``: of a check; ``latex``: of the whole step, to be copied."""

    name: str
    kind: Literal["statement", "equation", "table", "matrix", "operation", "check"]
    sentence: str
    lines: list[StepLineOut]
    numbers: list[TracedNumberOut]
    grid: GridOut | None
    folded: bool
    holds: bool | None
    origins: list[OriginOut]
    latex: str


class PathOut(Schema):
    """Curves at ``x`` of those ``steps`` of a path that are drawn, and the sum of squares of each step."""

    x: list[float]
    steps: list[int]
    curves: list[list[float | None]]
    totals: list[float]
    totals_text: list[str]
    readings_x: list[float]
    readings_y: list[float]


class WorkingOut(Schema):
    """A working; ``text`` and ``latex``: the whole of it, to be copied. ``attempts``: values by hand that can be taken up again;
    ``refusal``: why there are no steps, otherwise empty."""

    title: str
    steps: list[WorkingStepOut]
    note: str
    text: str
    latex: str
    path: PathOut | None
    attempts: list[dict[str, float]]
    refusal: str = ""
