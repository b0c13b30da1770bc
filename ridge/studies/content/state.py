"""A study's content as plain immutable values, which changes turn into one another.

Each part is described once: the same class serves memory, history, database, study file and API.
"""

from __future__ import annotations

import secrets
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from hashlib import blake2b
from typing import Annotated, Any, get_args

import orjson
from pydantic import ConfigDict, Field
from pydantic.dataclasses import dataclass as description

from ridge.pictures.opening import MediaType
from ridge.studies.content import fields
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.course import Course
from ridge.studies.content.options import FamilyName, Options

SEVERAL = ("own", "working")
"""Parts that a report may have several times."""
PARTS = tuple(part for part in get_args(fields.PartName) if part not in SEVERAL)
"""What a report can be made of, in its usual order."""
ON_REQUEST = ("equation_errors", "correlations", "tests", "residual_plot", "comments")
"""Parts that are not shown until they are wanted."""

STRICT = ConfigDict(extra="forbid")


def new_key() -> str:
    """A short name for a column or an answer, unique within its study."""
    return secrets.token_hex(4)


@description(frozen=True, config=STRICT)
class ColumnSettings:
    """All of a column but its cells. Values are the numbers in the cells times 10 to the ``exponent``. ``uncertainty``: that of
    every value of the column, as typed (``0.5``, ``2 %``). ``lowest``, ``highest``: the least and the greatest value that makes
    sense, as typed, and why (``limits_why``)."""

    key: fields.Key
    name: fields.Name
    symbol: fields.Symbol
    unit: fields.Unit
    role: fields.Role
    formula: fields.TypedFormula = ""
    exponent: fields.Exponent = 0
    uncertainty: fields.Uncertainty = ""
    lowest: fields.Limit = ""
    highest: fields.Limit = ""
    limits_why: fields.Why = ""


@description(frozen=True, config=STRICT)
class ColumnState(ColumnSettings):
    """A column. ``cells`` are texts as typed, those of a calculated column (``formula``) empty."""

    cells: fields.Cells = ()


@description(frozen=True, config=STRICT)
class KnownValue:
    """A value known beforehand, as typed with its uncertainty. ``origin``: where it is from, such as another study."""

    symbol: fields.Symbol
    value: fields.TypedNumber
    uncertainty: fields.Uncertainty = ""
    unit: fields.Unit = ""
    origin: fields.Origin = ""


@description(frozen=True, config=STRICT)
class OwnQuantity:
    """A quantity of one's own that follows from the parameters of a fit, and an accepted value to hold it against, as typed with its
    standard uncertainty; empty for none. ``known``: values known beforehand that its formula uses. ``unit``: into which it is converted;
    empty for its own."""

    name: fields.QuantityName
    formula: fields.TypedFormula
    accepted: fields.TypedNumber = ""
    accepted_error: fields.TypedNumber = ""
    known: Annotated[tuple[KnownValue, ...], Field(max_length=LIMITS["known"])] = ()
    unit: fields.Unit = ""


@description(frozen=True, config=STRICT)
class FitState:
    """``options`` go to the family's constructor; ``series``: the label of the readings it is fitted to, all if empty;
    ``method``: what least squares is done in, see ``ridge.core.fit``. ``by_hand``: its parameters are ``values`` (read off
    the readings where none are given); otherwise ``values`` are where the search begins, if there are any. ``bounds``:
    lowest and highest by parameter, None for no bound; ``x_range``: the stretch of x that it is fitted to, all if None.
    ``decimals``: how many the course wants in the equation, by parameter; of others as many as it needs."""

    letter: fields.Letter
    family: FamilyName
    fixed: Mapping[str, fields.Number] = field(default_factory=dict)
    options: Options = field(default_factory=dict)
    series: fields.Label = ""
    method: fields.Method = "y"
    by_hand: bool = False
    values: Mapping[str, fields.Number] = field(default_factory=dict)
    bounds: Mapping[str, fields.Bounds] = field(default_factory=dict)
    x_range: tuple[fields.Number, fields.Number] | None = None
    name: fields.FitName = ""
    hidden: bool = False
    decimals: Mapping[str, fields.Decimals] = field(default_factory=dict)
    follows: tuple[OwnQuantity, ...] = ()


@description(frozen=True, config=STRICT)
class LinkedFit(FitState):
    """A fit whose formula calls others by their letters, with those: ``calls``. A letter without a fit is left out."""

    calls: tuple[FitState, ...] = ()


@dataclass(frozen=True)
class Question:
    """What is asked of a fit and not kept; see ``AnswerState``, which can be asked just as well."""

    direction: fields.Direction
    given: str = ""
    repeats: int = 1
    fit: str = ""
    key: str = ""
    name: str = ""


@description(frozen=True, config=STRICT)
class AnswerState:
    """``given`` as typed; for a crossing the letter of the other fit. ``fit``: the letter of the fit that is asked, the
    leading one if empty, every one if "all". ``name``: what the user calls it; ``was``: the answer when it was kept; ``unit``: into
    which it is converted, empty for the study's own."""

    key: fields.Key
    direction: fields.Direction
    given: fields.Given = ""
    repeats: fields.Repeats = 1
    fit: fields.Asked = ""
    name: fields.AnswerName = ""
    was: fields.AnswerWas = ""
    unit: fields.Unit = ""


@description(frozen=True, config=STRICT)
class ReportPart:
    """A part of the report: one of ``PARTS``, "own" for a paragraph of one's own with its ``heading`` and ``text``, or "working" for the
    working ``what`` of ``of`` (see ``ridge.studies.analysis.followed``) with its numbers in ``form``, at ``x`` or ``y`` as typed."""

    part: fields.PartName
    shown: bool = True
    heading: fields.PartHeading = ""
    text: fields.PartText = ""
    of: fields.Followed = ""
    what: fields.WorkingName = ""
    form: fields.NumberKind = "fractions"
    places: fields.Places = 4
    x: fields.TypedNumber = ""
    y: fields.TypedNumber = ""


def with_every_part(parts: Iterable[ReportPart]) -> tuple[ReportPart, ...]:
    """The same with what is missing of ``PARTS`` behind them, not shown."""
    parts = tuple(parts)
    named = {part.part for part in parts}
    return (*parts, *(ReportPart(part, shown=False) for part in PARTS if part not in named))


WHOLE_REPORT = tuple(ReportPart(part, shown=part not in ON_REQUEST) for part in PARTS)


@description(frozen=True, config=STRICT)
class PicturePlace:
    """Where the middle of a picture lies under the plot, how large it is there before it is turned, and by how many degrees against the
    clock; in the numbers of the table, of a logarithmic axis in their decimal logarithms."""

    x: fields.Number
    y: fields.Number
    width: fields.Above
    height: fields.Above
    turn: fields.Number = 0.0


@description(frozen=True, config=STRICT)
class ScaleMark:
    """A place in a picture, in pixels from its upper left corner, and its value as typed."""

    px: fields.Pixel
    py: fields.Pixel
    value: fields.TypedNumber = ""


TwoMarks = Annotated[tuple[ScaleMark, ...], Field(min_length=2, max_length=2)]


@description(frozen=True, config=STRICT)
class PictureScale:
    """Two marks on each axis; or, without any for y, the two ends of a known length, the value of the second."""

    x_marks: TwoMarks
    y_marks: TwoMarks | None = None


@description(frozen=True, config=STRICT)
class MeasuredOnPicture:
    """A length between two places of a picture, or an angle at the second of three, each (px, py); and what it is called."""

    points: Annotated[tuple[fields.PicturePoint, ...], Field(min_length=2, max_length=3)]
    name: fields.AnswerName = ""


@description(frozen=True, config=STRICT)
class PictureState:
    """A picture that lies under the plot; its bytes are kept apart, under ``digest``. ``scale`` tells what its pixels mean, and where it lies
    then; without one, and with a known length, it lies at ``place``. ``log_x``, ``log_y``: whether it lies on logarithmic axes. ``shine``:
    how much of it is seen. ``locked``: nothing moves it. ``pick_error``: by how many pixels a pick may be off."""

    digest: fields.Digest
    media_type: MediaType
    width: fields.PixelCount
    height: fields.PixelCount
    place: PicturePlace
    scale: PictureScale | None = None
    log_x: bool = False
    log_y: bool = False
    shine: fields.Shine = 0.75
    hidden: bool = False
    locked: bool = False
    credit: fields.Credit = ""
    licence: fields.Credit = ""
    description: fields.Description = ""
    pick_error: fields.PickError = 1.0
    measured: Annotated[tuple[MeasuredOnPicture, ...], Field(max_length=LIMITS["measured"])] = ()

    @property
    def of_axes(self) -> bool:
        """Whether marks on both axes say where it lies."""
        return self.scale is not None and self.scale.y_marks is not None


@dataclass(frozen=True)
class StudyState:
    """``aside`` maps rows (from 0) that are set aside to the reason, ``assumed`` those that were not measured;
    ``plot`` holds what differs from the plot as it draws itself, see ``PlotSettings``; ``letters`` the course's letters
    by parameter, ``rising`` whether terms are written from the lowest power up; ``author`` and ``date`` stand under the
    title of the report as typed; ``report`` holds each of ``PARTS`` once, and paragraphs of one's own. ``course``: what the worksheet settles
    that the study is a copy of; no change touches it."""

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
    picture: PictureState | None = None
    course: Course | None = None

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


def content_of(state: StudyState) -> bytes:
    """The same for equal contents, in whatever study, and different for others."""
    return blake2b(orjson.dumps(state, default=dict, option=orjson.OPT_NON_STR_KEYS), digest_size=16).digest()


def empty_study(title: str) -> StudyState:
    """A new study: two empty columns and a line to be fitted."""
    return StudyState(
        title=title,
        columns=(ColumnState(new_key(), "", "", "", "x"), ColumnState(new_key(), "", "", "", "y")),
    )
