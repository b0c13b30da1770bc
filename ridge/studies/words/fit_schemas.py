"""What the API says of a fit: a kind for each thing that can come of it, with what only that kind has."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from ridge.studies.analysis.curves import CurveOut, StretchOut
from ridge.studies.content.changes.fits import SetFit
from ridge.studies.content.changes.marks import MarkRows
from ridge.studies.content.changes.page import EditStudy
from ridge.studies.content.fields import Letter, Method
from ridge.studies.content.options import Family
from ridge.studies.content.state import OwnQuantity


class ActionOut(Schema):
    """What can be done at one press: its label and the change that it makes."""

    label: str
    change: Annotated[SetFit | EditStudy | MarkRows, Field(discriminator="kind")]


class CautionOut(Schema):
    """``other_model``: whether it is worth asking for a model that the readings prefer."""

    code: str
    message: str
    remedy: str
    rows: list[int]
    actions: list[ActionOut]
    other_model: bool


class ParameterOut(Schema):
    """``text`` is the value with its standard error, or with its limits where these are unequal (``asymmetric``). ``value`` and
    ``uncertainty`` stand on their own, each with its power of ten. ``limits``: those at the
    study's level, and ``interval`` the same behind the level; ``t_test``: t and p of it in one text; ``number`` and ``standard_error`` with all their digits, and ``full`` and ``full_error``
    the same as texts."""

    name: str
    symbol: str
    meaning: str
    text: str
    value: str
    uncertainty: str
    unit: str
    relative: str
    fixed: bool
    interval: str
    limits: str
    asymmetric: bool
    t: str
    p: str
    t_test: str
    full: str
    full_error: str
    number: float
    standard_error: float | None


class StatisticOut(Schema):
    name: str
    label: str
    value: str
    unit: str
    full: str
    number: float | None
    meaning: str
    absent: str


class ShareOut(Schema):
    """What a source contributes to the variance, and its share in per cent."""

    source: str
    share: float
    text: str


class DerivedOut(Schema):
    """``text`` with its unit, ``value`` without; ``interval`` at the study's level. Of a quantity of one's own ``formula`` is given, with
    its ``budget``, what is to be said of it (``remark``), whether it agrees with the accepted value, or the ``problem``; ``simpler``: a
    simpler unit into which it can be converted, "1" for a plain number, null where its own is simple."""

    name: str
    text: str
    full: str
    value: str = ""
    unit: str = ""
    interval: str = ""
    meaning: str = ""
    formula: str = ""
    budget: list[ShareOut] = []
    remark: str = ""
    agreement: str = ""
    problem: str = ""
    number: float | None = None
    standard_error: float | None = None
    simpler: str | None = None


class BoundsOut(Schema):
    name: str
    low: float | None
    high: float | None


class HandleOut(Schema):
    """Where a parameter can be turned to, in its unit, and what turning it up does. ``text``: its value with the digits that
    the equation shows; ``of_course``: whether the course has settled the span and the step."""

    name: str
    symbol: str
    unit: str
    value: float
    text: str
    low: float
    high: float
    step: float
    of_course: bool
    does: str


class GripOut(Schema):
    """A place of a curve set by hand that can be moved."""

    name: str
    x: float
    y: float
    does: str


class PieceOut(Schema):
    text: str
    latex: str


class DifferenceOut(Schema):
    """A given curve minus the leading fit over the measured range."""

    sentence: str
    x: list[float]
    y: list[float | None]


class OtherWayOut(Schema):
    """The same model by least squares in y, beside the one in logarithms: each parameter's letter and value."""

    parameters: list[DerivedOut]
    r_squared: str
    typical_miss: str


class CheckOut(Schema):
    """One thing that an expert checks where a fit fails; ``state``: fine, cause or open."""

    question: str
    state: Literal["fine", "cause", "open"]
    said: str


class DecimalsOut(Schema):
    """Decimals of a parameter in the equation: ``shown``, and those with which it is ``safe``: it stays within a tenth of s.
    ``significant``: decimals less significant digits, so that one can be chosen by the other."""

    name: str
    symbol: str
    shown: int
    safe: int
    significant: int


class ChoiceOut(Schema):
    value: bool | int | str
    word: str


class SettingOut(Schema):
    """An option that can be set by itself: "pick" one of the choices, "several" of them, or a "number"."""

    option: str
    kind: Literal["pick", "several", "number"]
    label: str
    value: bool | int | float | str | list[int]
    choices: list[ChoiceOut]


class WayOut(Schema):
    """A way of least squares."""

    method: Literal["y", "logarithms", "orthogonal"]
    word: str


class DescribedFit(Schema):
    """What a fit is asked to be, whatever comes of it. ``form``: its key in the catalogue; ``settings``: what can be chosen
    within it; ``ways``: of least squares, where there are several. ``label``: what the user calls it. ``started``: whether the
    search began from given values. ``range_text``: which stretch of x is used, where it is not all."""

    letter: Letter
    family: Family | Literal["unknown"]
    form: str
    settings: list[SettingOut]
    ways: list[WayOut]
    name: str
    label: str
    hidden: bool
    by_hand: bool
    follows: list[OwnQuantity] = []
    options: dict[str, bool | int | float | str | list[int] | list[str] | None]
    fixed: dict[str, float]
    bounds: list[BoundsOut]
    x_range: StretchOut | None
    range_text: str
    series: str
    started: bool
    least_squares_in: Method
    form_text: str
    form_latex: str


class RefusedFit(DescribedFit):
    """No curve, and why. ``refused_rows``: the rows that stand in its way; ``refused_at``: the place in the formula, from and
    to; ``actions``: what can be done at one press."""

    kind: Literal["refused"] = "refused"
    refusal: str
    refused_rows: list[int]
    refused_at: list[int]
    actions: list[ActionOut]
    checklist: list[CheckOut]


class DrawnFit(DescribedFit):
    """A curve. ``measured``: the range of its own readings; ``curve``: samples of it, where it is to be seen."""

    measured: StretchOut
    how_well: str
    method: str
    cautions: list[CautionOut]
    curve: CurveOut | None = None


class ComputedFit(DrawnFit):
    """A curve with parameters. ``plus_minus``: what ± and limits beside parameters are. ``safe_text`` and ``safe_latex``: the
    equation with as many decimals as it needs, which is copied; the one that is shown may have those of the course."""

    equation_text: str
    equation_latex: str
    safe_text: str
    safe_latex: str
    rounding: str
    parameters: list[ParameterOut]
    plus_minus: str
    derived: list[DerivedOut]
    r_squared: str
    typical_miss: str
    deviation: float | None
    statistics: list[StatisticOut]
    residuals: list[float | None]
    refining: bool
    """Whether limits are by standard errors for the time being."""


class FittedFit(ComputedFit):
    """By least squares. ``rounding_cost``: what the decimals of the course cost; ``other_way``: the same model by least squares
    in y, beside one in logarithms; ``checklist``: where the readings cannot tell all parameters of an own formula."""

    kind: Literal["fit"] = "fit"
    decimals: list[DecimalsOut]
    rounding_cost: str
    other_way: OtherWayOut | None
    checklist: list[CheckOut]


class HandFit(ComputedFit):
    """Set by hand. ``least_rss``: the least sum of squared residuals that least squares finds, where it finds one."""

    kind: Literal["hand"] = "hand"
    handles: list[HandleOut]
    grips: list[GripOut]
    least_rss: str
    difference: DifferenceOut | None = None


class KnownFit(ComputedFit):
    """A curve with every number given."""

    kind: Literal["known"] = "known"
    difference: DifferenceOut | None = None


class InterpolationFit(DrawnFit):
    """A curve through every reading."""

    kind: Literal["interpolation"] = "interpolation"
    pieces: list[PieceOut]
    pieces_more: int


class MovingFitOut(Schema):
    """What is drawn of a fit while a hand moves something; of one by hand also where it can be taken hold of, null for others."""

    letter: Letter
    curve: CurveOut | None
    residuals: list[float | None] = []
    r_squared: str = ""
    typical_miss: str = ""
    deviation: float | None = None
    handles: list[HandleOut] | None = None
    grips: list[GripOut] | None = None
    difference: DifferenceOut | None = None


FitOut = Annotated[RefusedFit | FittedFit | HandFit | KnownFit | InterpolationFit, Field(discriminator="kind")]
