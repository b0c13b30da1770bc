"""What the figure of a study shows, for drawing in any format."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from ridge.core.carrying import Moved
from ridge.core.interpolation import Interpolation
from ridge.core.judging.misses import typical_miss
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming
from ridge.core.wording.straight import Straight, straighten
from ridge.exchange.figure import (
    SHAPES,
    AxisLook,
    CannotDraw,
    DrawnCurve,
    DrawnSeries,
    FigureContent,
    OnPicture,
    Underlay,
)
from ridge.exchange.figure.underlay import extent_of
from ridge.pictures import open_picture
from ridge.studies.analysis.curves import sample_curve
from ridge.studies.analysis.fits import fit_all
from ridge.studies.content.changes import ChangeRefused
from ridge.studies.content.changes.picturing import read_laid
from ridge.studies.content.changes.plot import PlotSettings
from ridge.studies.content.readings import Status, Table, is_clock, over_axis, read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_schemas import ComputedFit, FitOut
from ridge.studies.words.picture_words import credit_line, plot_matrix
from ridge.studies.words.schemas import AnalysisOut

Transform = Callable[[Array], Array]
ROOM = 0.07
ASPECT = 0.735


def _transform(what: str, shift: float, power: float) -> Transform:
    """What the straightened coordinates do to values; see ``Straight``."""

    def ln(values: Array) -> Array:
        return np.asarray(np.log(np.where(values > shift, values - shift, np.nan)))

    def reciprocal(values: Array) -> Array:
        return np.asarray(1 / np.where(values == 0, np.nan, values))

    def raised(values: Array) -> Array:
        return np.asarray(values**power)

    chosen: dict[str, Transform] = {"ln": ln, "reciprocal": reciprocal, "power": raised}
    return chosen.get(what, lambda values: values)


def figure_content(
    state: StudyState,
    analysis: AnalysisOut,
    x_low: float | None = None,
    x_high: float | None = None,
    y_low: float | None = None,
    y_high: float | None = None,
    aspect: float = ASPECT,
    picture: bytes | None = None,
) -> FigureContent:
    """The figure of every fit over the given view (in the units of the columns), or over all readings; ``aspect``: its height
    over its width. ``picture``: the bytes of the one under the plot, which is drawn unless it is hidden or lies on other axes."""
    table = read_table(state)
    settings = PlotSettings(**state.plot)
    everything = fit_all(table, state.linked_fits)
    leading = everything[0].fit if everything else None
    fitted = [one for one in everything if one.curve is not None and not one.wanted.hidden]
    straight = straighten(leading, table.naming) if leading and settings.straighten else None
    straight = straight if isinstance(straight, Straight) else None
    said = {one.letter: one for one in analysis.fits}
    to_x = _transform(straight.x, straight.x_shift, straight.x_power) if straight else _transform("none", 0, 1)
    to_y = _transform(straight.y, straight.y_shift, 1.0) if straight else _transform("none", 0, 1)

    naming, readings = table.naming, table.readings
    x_scale, y_scale = ("linear", "linear") if straight else (settings.x_scale, settings.y_scale)
    under = _underlay(state, picture, (x_scale, y_scale), straight is not None)
    x_under, y_under = extent_of(under) if under else (None, None)
    with np.errstate(all="ignore"):
        x, y = to_x(readings.x), to_y(readings.y)
        shown = (table.status == Status.USED) | (table.status == Status.ASIDE)
        x_view = _view(
            x[shown], (x_low, x_high), (analysis.view.x.low, analysis.view.x.high), x_scale, to_x, straight, x_under
        )
        y_view = _view(
            y[shown], (y_low, y_high), (analysis.view.y.low, analysis.view.y.high), y_scale, to_y, straight, y_under
        )
        seen = (x_low, x_high) if x_low is not None and x_high is not None and x_low < x_high else None
        stretch = seen or (
            x_view if straight is None else (float(np.nanmin(readings.x[shown])), float(np.nanmax(readings.x[shown])))
        )
        growing = x_scale == "log" or (straight is not None and straight.x != "none")
        curves = tuple(
            _curve(
                said[one.wanted.letter],
                one.curve,
                one.moved,
                stretch,
                state.level,
                naming,
                growing,
                to_x,
                to_y,
                settings,
            )
            for one in fitted
            if one.curve is not None
        )
        measured = (
            sorted(to_x(np.array([analysis.measured.low, analysis.measured.high])).tolist())
            if analysis.measured
            else None
        )
        kept = [*analysis.answers, *(unknown.answer for unknown in analysis.unknowns)]
        placed = [
            (float(to_x(np.array([mark.x]))[0]), float(to_y(np.array([mark.y]))[0]), one.direction)
            for one in kept
            for mark in ([row.mark for row in one.rows] or [one.mark])
            if mark
        ]
        x_error = _ends(readings.x, readings.x_error, x, to_x)
        y_error = _ends(readings.y, readings.y_error, y, to_y)
    look = {
        role: AxisLook(
            view=view, name=getattr(naming, f"{role}_name"), symbol=getattr(naming, role), unit=over_axis(state, naming, role),
            scale=scale, step=getattr(settings, f"{role}_step"), clock=is_clock(state, role),
        )
        for role, view, scale in (("x", x_view, x_scale), ("y", y_view, y_scale))
    }  # fmt: skip
    if straight:
        look = {"x": AxisLook(x_view, title=straight.x_title), "y": AxisLook(y_view, title=straight.y_title)}
    residual = analysis.view.residual
    return FigureContent(
        title=state.title,
        x_axis=look["x"],
        y_axis=look["y"],
        residual_axis=AxisLook((-residual, residual), name="residual", unit=naming.y_unit),
        x=x,
        y=y,
        x_error=x_error,
        y_error=y_error,
        series=_series(table, settings),
        measured=(measured[0], measured[1]) if measured else None,
        curves=curves,
        residuals=leading.residuals if leading else None,
        deviation=typical_miss(leading) if leading else None,
        marks=tuple(mark for mark in placed if np.isfinite(mark[:2]).all()),
        grid=settings.grid,
        join=settings.join,
        mark_size=settings.size,
        mark_colour=settings.colour,
        line_width=settings.line,
        label=settings.label,
        aspect=aspect,
        picture=under,
        note=credit_line(state.picture) if under and state.picture else "",
    )


def _underlay(state: StudyState, data: bytes | None, scales: tuple[str, str], straightened: bool) -> Underlay | None:
    wanted = state.picture
    if data is None or wanted is None or wanted.hidden or straightened:
        return None
    if scales != ("log" if wanted.log_x else "linear", "log" if wanted.log_y else "linear"):
        return None
    try:
        matrix = plot_matrix(read_laid(wanted, state), state)
    except ChangeRefused:
        return None
    return Underlay(open_picture(data).rgb, matrix, wanted.shine)


def picture_alone(state: StudyState, content: FigureContent) -> OnPicture:
    """The picture and what lies on it. Raises CannotDraw where none is shown."""
    if content.picture is None or state.picture is None:
        raise CannotDraw("There is no picture under this plot, or it is hidden.")
    found = read_laid(state.picture, state)
    exponents = [column.exponent if (column := state.column(role)) else 0 for role in ("x", "y")]

    def pixels(x: Array, y: Array) -> Array:
        return found.to_pixels(np.column_stack([x / 10.0 ** exponents[0], y / 10.0 ** exponents[1]]))

    shown = np.logical_or.reduce([series.used | series.aside for series in content.series])
    scale = state.picture.scale
    marks = [*scale.x_marks, *(scale.y_marks or ())] if scale else []
    return OnPicture(
        content.picture.rgb,
        pixels(content.x[shown], content.y[shown]),
        tuple((curve.letter, pixels(curve.x, curve.y)) for curve in content.curves),
        tuple((mark.px, mark.py, mark.value) for mark in marks),
    )


def _view(
    values: Array,
    asked: tuple[float | None, float | None],
    usual: tuple[float, float],
    scale: str,
    transform: Transform,
    straight: Straight | None,
    under: tuple[float, float] | None,
) -> tuple[float, float]:
    """The stretch of an axis in its own coordinates: as asked, or all readings that have a place on it and the picture ``under`` them."""
    low, high = asked
    if low is not None and high is not None and low < high:
        ends = transform(np.array([low, high], dtype=float))
        if np.isfinite(ends).all() and (scale != "log" or low > 0):
            return float(ends.min()), float(ends.max())
    if scale == "linear" and straight is None:
        if under is None:
            return usual
        return (min(usual[0], under[0]), max(usual[1], under[1])) if np.isfinite(values).any() else under
    even = np.log10(np.where(values > 0, values, np.nan)) if scale == "log" else values
    even = even[np.isfinite(even)]
    if not len(even) and under is not None:
        return 10 ** under[0], 10 ** under[1]
    if not len(even):
        return (1.0, 10.0) if scale == "log" else usual
    room = ROOM * float(np.ptp(even)) or 0.5
    first, last = float(even.min()) - room, float(even.max()) + room
    if under is not None:
        first, last = min(first, under[0]), max(last, under[1])
    return (10**first, 10**last) if scale == "log" else (first, last)


def _curve(
    said: FitOut,
    fit: Fit | Interpolation,
    shared: Sequence[Moved],
    stretch: tuple[float, float],
    level: float,
    naming: Naming,
    growing: bool,
    to_x: Transform,
    to_y: Transform,
    settings: PlotSettings,
) -> DrawnCurve:
    sampled = sample_curve(fit, *stretch, level, naming, growing, shared)

    def array(values: list[float | None]) -> Array:
        return to_y(np.array([np.nan if value is None else value for value in values], dtype=float))

    x = to_x(np.array(sampled.x))
    order = np.argsort(x)
    low, high = sorted(to_x(np.array(fit.readings.measured_range)).tolist())
    moved = settings.labels.get(said.letter)
    return DrawnCurve(
        letter=said.letter,
        name=said.label or said.name,
        equation=said.equation_text if isinstance(said, ComputedFit) else "",
        latex=said.equation_latex if isinstance(said, ComputedFit) else "",
        x=x[order],
        y=array(sampled.y)[order],
        low=array(sampled.low)[order],
        high=array(sampled.high)[order],
        measured=(low, high),
        moved=(moved[0], moved[1]) if moved else None,
    )


def _ends(values: Array, error: Array | None, placed: Array, transform: Transform) -> tuple[Array, Array] | None:
    """How far an error bar reaches below and above, in the coordinates of the axis."""
    if error is None:
        return None
    down, up = placed - transform(values - error), transform(values + error) - placed
    return (down, up) if transform(np.array([1.0, 2.0]))[0] < transform(np.array([1.0, 2.0]))[1] else (-up, -down)


def _series(table: Table, settings: PlotSettings) -> tuple[DrawnSeries, ...]:
    used, aside, assumed = table.status == Status.USED, table.status == Status.ASIDE, table.readings.assumed
    if table.series is None or len(table.series.names) < 2:
        return (DrawnSeries("", settings.shape, used, aside, assumed),)
    shapes = list(SHAPES)
    first = shapes.index(settings.shape)
    drawn = []
    for place, name in enumerate(table.series.names):
        rows = table.series.rows_of(name)
        drawn.append(DrawnSeries(name, shapes[(first + place) % len(shapes)], used & rows, aside & rows, assumed))
    rest = table.series.indices < 0
    return (*drawn, DrawnSeries("", settings.shape, used & rest, aside & rest, assumed))
