"""What the figure of a study shows, for drawing in any format."""

from __future__ import annotations

import math

import numpy as np

from ridge.core.readings import Array
from ridge.exchange.figure import FigureContent
from ridge.studies.analysis import sample_curve
from ridge.studies.fits import fit_one
from ridge.studies.readings import Status, read_table
from ridge.studies.schemas import AnalysisOut
from ridge.studies.state import StudyState


def axis_label(name: str, symbol: str, unit: str) -> str:
    """``depth h / m``."""
    label = f"{name} {symbol}".strip()
    return f"{label} / {unit}" if unit else label


def _array(values: list[float | None]) -> Array:
    return np.array([math.nan if value is None else value for value in values], dtype=float)


def figure_content(
    state: StudyState,
    analysis: AnalysisOut,
    x_low: float | None = None,
    x_high: float | None = None,
    y_low: float | None = None,
    y_high: float | None = None,
) -> FigureContent:
    """The figure of the leading fit over the given view, or over all readings."""
    table = read_table(state)
    naming, readings = table.naming, table.readings
    x_view = (analysis.view.x.low, analysis.view.x.high)
    y_view = (analysis.view.y.low, analysis.view.y.high)
    if x_low is not None and x_high is not None and x_low < x_high:
        x_view = (x_low, x_high)
    if y_low is not None and y_high is not None and y_low < y_high:
        y_view = (y_low, y_high)
    worded = analysis.fits[0] if analysis.fits else None
    curve = None
    residuals = None
    result = None
    if worded and not worded.refusal:
        result = fit_one(table, state.fits[0]).fit
    if result is not None:
        curve = sample_curve(result, *x_view, state.level)
        residuals = result.residuals
    empty = np.array([])
    return FigureContent(
        title=state.title,
        x_label=axis_label(naming.x_name, naming.x, naming.x_unit),
        y_label=axis_label(naming.y_name, naming.y, naming.y_unit),
        residual_label=axis_label("residual", "", naming.y_unit),
        x=readings.x,
        y=readings.y,
        y_error=readings.y_error,
        used=table.status == Status.USED,
        aside=table.status == Status.ASIDE,
        x_view=x_view,
        y_view=y_view,
        residual_view=analysis.view.residual,
        measured=(analysis.measured.low, analysis.measured.high) if analysis.measured else None,
        curve_x=np.array(curve.x) if curve else empty,
        curve_y=_array(curve.y) if curve else empty,
        band_low=_array(curve.low) if curve else empty,
        band_high=_array(curve.high) if curve else empty,
        residuals=residuals,
        deviation=worded.deviation if worded else None,
        marks=tuple(
            (answer.mark.x, answer.mark.y, answer.direction)
            for answer in [*analysis.answers, *(unknown.answer for unknown in analysis.unknowns)]
            if answer.mark
        ),
        equation=worded.equation_text if worded else "",
    )
