"""What the API says: every number worded, every shape typed."""

from __future__ import annotations

from datetime import datetime
from typing import Literal
from uuid import UUID

from pydantic import BaseModel as Schema

from ridge.core.decimal_sign import Sign
from ridge.studies.analysis.curves import StretchOut, ViewOut
from ridge.studies.content.changes.plot import PlotSettings
from ridge.studies.content.course import Course
from ridge.studies.content.fields import Direction, Role
from ridge.studies.content.options import Family, FitOptions
from ridge.studies.content.state import ReportPart
from ridge.studies.words.fit_schemas import FitOut, MovingFitOut
from ridge.studies.words.picture_words import PictureOut


class Message(Schema):
    """Why a request was not carried out, and what to do."""

    message: str


class NamingOut(Schema):
    """``x_over``, ``y_over``: what stands after the stroke of a heading, ``(m/s)``; ``x_clock``, ``y_clock``: how a clock shows
    them, empty where none does."""

    x: str
    y: str
    x_unit: str
    y_unit: str
    x_name: str
    y_name: str
    x_over: str
    y_over: str
    x_clock: str
    y_clock: str


class CellPatchOut(Schema):
    """A cell that is not as it was."""

    row: int
    text: str


class NoValueOut(Schema):
    """A row in which a calculated column has no value, and why."""

    row: int
    why: str


class ColumnOut(Schema):
    """``cells`` None: as the client already has them, but for those in ``patch``; of a calculated column they are what its
    formula gives.
    ``problem``: what is wrong with the column as a whole. ``over``: what stands after the stroke of its heading, with its
    multiplier: ``(10⁻³ m)``."""

    key: str
    name: str
    symbol: str
    unit: str
    role: Role
    formula: str
    exponent: int
    over: str
    uncertainty: str
    lowest: str
    highest: str
    limits_why: str
    problem: str
    cells: list[str] | None
    patch: list[CellPatchOut] = []
    no_value: list[NoValueOut]


class ProblemOut(Schema):
    """``incomplete``: nothing in the row is wrong, but something is missing."""

    row: int
    column: str
    message: str
    incomplete: bool


class StraightOut(Schema):
    """The coordinates in which the leading model is a straight line: for each axis what is done to its values ("none",
    "ln", "reciprocal" or "power", with ``shift`` taken off first and ``power`` raised to), its title, and the line."""

    x: str
    y: str
    x_shift: float
    y_shift: float
    x_power: float
    x_title: str
    y_title: str
    line: str


class MarkOut(Schema):
    """Where an answer stands on the plot; ``slope`` of a tangent there, ``to_x`` the other end of an area."""

    x: float
    y: float
    x_low: float | None
    x_high: float | None
    y_low: float | None
    y_high: float | None
    slope: float | None = None
    to_x: float | None = None


class NumberOut(Schema):
    """A result as a number, in full; ``limits`` says what ``low`` and ``high`` are the limits of. None where there is none."""

    quantity: str
    value: float
    low: float | None = None
    high: float | None = None
    unit: str
    limits: str = ""


class AnswerRowOut(Schema):
    """One of several results. ``letter`` of the fit it comes from; ``curve`` and ``new``: the interval of the curve and that
    of a new reading, or the limits of an x."""

    letter: str
    asked: str
    result: str
    curve: str = ""
    new: str = ""
    place: str = ""
    extrapolation: str = ""
    short: str = ""
    problem: str = ""
    mark: MarkOut | None = None
    numbers: list[NumberOut] = []


class AnswerOut(Schema):
    """``problem`` says why there is no answer; then the rest is empty but for what was asked. ``rows``: the single results
    where there are several. ``was``: the answer when it was kept, if it is another one now. ``beyond_says``: what the
    model does where the answer stands, outside the readings. ``extrapolation``: ``place`` without what it rests on. ``asked_at``: ``asked`` without of how many readings it is
    the mean; ``short``: the value alone, as it stands at its mark. ``unit``: into which it was converted; ``own_unit``: that of what was
    asked, empty where there is none or several."""

    key: str
    direction: Direction
    given: str
    repeats: int
    fit: str = ""
    name: str = ""
    unit: str = ""
    own_unit: str = ""
    asked: str
    asked_at: str = ""
    rows: list[AnswerRowOut] = []
    was: str = ""
    beyond_says: str = ""
    result: str = ""
    short: str = ""
    sentence: str = ""
    place: str = ""
    extrapolation: str = ""
    full: str = ""
    problem: str = ""
    mark: MarkOut | None = None
    beyond: bool = False
    numbers: list[NumberOut] = []
    refining: bool = False
    """Whether its limits are by standard errors for the time being."""


class ResultOut(Schema):
    """A result that another study can take over: ``value`` in full and its standard ``uncertainty``, empty where it has none."""

    name: str
    symbol: str
    text: str
    value: str
    uncertainty: str
    unit: str


class UnknownOut(Schema):
    rows: list[int]
    label: str
    short: str
    answer: AnswerOut


class MovedRowOut(Schema):
    """A row with its errors where the study has any; ``status`` as in ``Status``."""

    row: int
    x: float | None
    y: float | None
    x_error: float | None = None
    y_error: float | None = None
    status: int


class MovedAnswerOut(Schema):
    """Where an answer stands now, and those of its several results; ``short``: the value at its mark."""

    key: str
    mark: MarkOut | None
    short: str
    marks: list[MarkOut | None]


class MovingOut(Schema):
    """What is drawn while a hand moves something: rows that are no longer where they were, and every curve with its residuals. All that is
    said of it is in ``AnalysisOut``, which is asked for when the hand rests."""

    rows: list[MovedRowOut]
    fits: list[MovingFitOut]
    answers: list[MovedAnswerOut]
    unknowns: list[MovedAnswerOut]


class AnalysisOut(Schema):
    """Everything computed from one state. Arrays have one entry a row; ``status`` as in ``Status``. ``same_readings``: in a
    preview of a change that leaves the readings alone, they are not sent again: ``status``, ``x``, ``y``, both errors,
    ``series_of`` and ``repeated_x`` are empty and stay as they were. ``failures``: parts, in words, that failed in a way nobody
    foresaw; they are tried again whenever they are asked for. ``refining``: limits somewhere are by standard errors for the time being;
    ``refined`` tells more."""

    same_readings: bool = False
    naming: NamingOut
    status: list[int]
    x: list[float | None]
    y: list[float | None]
    y_error: list[float | None] | None
    x_error: list[float | None] | None
    series: list[str]
    series_of: list[int] | None
    repeated_x: list[int]
    straight: StraightOut | None
    straight_refusal: str
    summary: str
    problems: list[ProblemOut]
    problems_more: int
    measured: StretchOut | None
    before_fit: str
    view: ViewOut
    fits: list[FitOut]
    answers: list[AnswerOut]
    unknowns: list[UnknownOut]
    failures: list[str]
    refining: bool


class AsideOut(Schema):
    row: int
    reason: str


class AssumedOut(Schema):
    row: int
    reason: str


class StudyOut(Schema):
    """A study at one version. Undo and redo carry what they would do, in words. ``instrument``: whether one is being read, or may post."""

    id: UUID
    version: int
    title: str
    question: str
    absolute_errors: bool
    level: float
    row_count: int
    columns: list[ColumnOut]
    aside: list[AsideOut]
    assumed: list[AssumedOut]
    plot: PlotSettings
    letters: dict[str, str]
    rising: bool
    author: str
    date: str
    report: list[ReportPart]
    picture: PictureOut | None
    instrument: bool
    is_copy: bool
    course: Course | None
    undo: str | None
    redo: str | None
    analysis: AnalysisOut
    decimal_sign: Sign
    offered_sign: Sign | None = None
    """The sign that was typed just now, where it is another one and the user has chosen none."""


class ConflictOut(Schema):
    """The study was changed elsewhere; here is the newer state."""

    message: str
    study: StudyOut


class EntryOut(Schema):
    label: str
    value: str


class ReadingOut(Schema):
    """One row in words."""

    row: int
    entries: list[EntryOut]


class PointOut(Schema):
    x: float
    y: float


class ThumbnailCurveOut(Schema):
    letter: str
    points: list[PointOut]


class ThumbnailOut(Schema):
    """Points and curves of a card, scaled to the unit square (y upwards); ``bar`` is the measured range."""

    points: list[PointOut]
    aside: list[PointOut]
    curves: list[ThumbnailCurveOut]
    bar: StretchOut | None


class CardOut(Schema):
    """``equation``: that of the leading fit, or its name where it has none; ``equation_latex`` is then empty."""

    id: UUID
    title: str
    question: str
    changed: datetime
    deleted: datetime | None
    readings: int
    summary: str
    equation: str
    equation_latex: str
    thumbnail: ThumbnailOut
    offered_sign: Sign | None = None


class SampleOut(Schema):
    name: str
    title: str
    question: str
    discover: str


class ShelfOut(Schema):
    guest: bool
    decimal_sign: Sign
    cards: list[CardOut]
    bin: list[CardOut]
    samples: list[SampleOut]


class PlaceOut(Schema):
    """A place on the plot, in the units of the axes."""

    x: float
    y: float


class OfferedParameterOut(Schema):
    """A parameter of a model, by the letter that it has as long as no course gives it another."""

    name: str
    symbol: str
    meaning: str


class OfferOut(Schema):
    """One form of a family as the catalogue offers it. ``tried``: whether it is laid over readings to choose from. ``parameters``: none of
    an own formula."""

    key: str
    name: str
    family: Family
    options: FitOptions
    group: Literal["model", "interpolation"]
    synonyms: list[str]
    tried: bool
    parameters: list[OfferedParameterOut]


class CandidateOut(Schema):
    """One model of the catalogue laid over the readings; ``said``: what an interpolation does, or the gravest caution about
    it."""

    key: str
    family: Family
    options: FitOptions
    group: Literal["model", "interpolation"]
    name: str
    refusal: str
    r_squared: str = ""
    typical_miss: str = ""
    said: str = ""
    curve: list[PlaceOut] = []


class RankingOut(Schema):
    """Keys of the catalogue in order, the reason for each, and which are as good as the best with nothing left over."""

    order: list[str]
    reasons: list[str]
    suggested: list[bool]
    summary: str


class StepOut(Schema):
    """One step of the history; ``number`` 0 is the beginning. ``done``: whether it is in force."""

    number: int
    label: str
    made: datetime | None
    done: bool


class HistoryOut(Schema):
    steps: list[StepOut]
    more: int


class KnownNameOut(Schema):
    """A name that a formula may use; ``column``: whether it stands for a column of the study."""

    name: str
    insert: str
    meaning: str
    column: bool = False


class NoteOut(Schema):
    """Something about a formula; ``position`` and ``length``: its place in the text, if it has one."""

    code: str
    message: str
    position: int | None
    length: int
    rows: list[int]


class PartOut(Schema):
    """A part of a formula on its own: over the view, and at each reading, empty where it has no value."""

    text: str
    latex: str
    x: list[float]
    y: list[float | None]
    values: list[str]


class FormulaOut(Schema):
    """A formula as it is typed. ``problem``, if any, with its place; otherwise what it reads as."""

    latex: str = ""
    parameters: list[str] = []
    problem: str = ""
    position: int | None = None
    length: int = 0
    possible: str = ""
    notes: list[NoteOut] = []
    parts: list[str] = []
    part: PartOut | None = None
