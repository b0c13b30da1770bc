"""Readings, curves, measured range, answers and residuals, painted into axes."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt
from matplotlib.axes import Axes

from ridge.core.readings import Array
from ridge.exchange.figure.content import DrawnCurve, DrawnSeries, FigureContent
from ridge.exchange.figure.paper import INK, LICHEN, MUTE, RULE, SHEET

LOOKS: dict[str, tuple[str, Any]] = {
    "A": ("#156353", "solid"), "B": ("#A9501A", (0, (9, 4))), "C": ("#5647A0", (0, (14, 4, 3, 4))),
    "D": ("#8C2F5E", (0, (5, 3))), "E": ("#3D5F86", (0, (12, 3, 3, 3, 3, 3))), "F": ("#6E5A1E", (0, (18, 5))),
}  # fmt: skip
"""Colour and dash of each fit, the same as on the screen."""
MARK_INKS = {
    "ink": INK, "pine": "#156353", "copper": "#A9501A", "iris": "#5647A0", "plum": "#8C2F5E", "slate": "#3D5F86",
}  # fmt: skip
"""Colours of the marks, the same as on the screen."""
SHAPES = {"circle": "o", "square": "s", "triangle": "^", "diamond": "D", "cross": "P"}
_POINTS = 0.72  # points of the drawing to a pixel of the screen
_MANY = 3000
_DOTTED = (0, (1, 1.6))


def color_of(content: FigureContent, letter: str) -> str:
    return INK if content.grey else LOOKS[letter][0]


def line_look(content: FigureContent, letter: str) -> dict[str, Any]:
    """Colour, width and dash of a curve."""
    return {
        "color": color_of(content, letter),
        "linewidth": content.line_width * _POINTS,
        "linestyle": LOOKS[letter][1],
    }


def mark_size(content: FigureContent) -> float:
    return content.mark_size * 1.9 * _POINTS


def ink_of_marks(content: FigureContent) -> str:
    return INK if content.grey else MARK_INKS[content.mark_colour]


def _tint(color: str, share: float) -> str:
    """A colour thinned with white: not every format knows transparency."""
    parts = (int(color[at : at + 2], 16) for at in (1, 3, 5))
    return "#" + "".join(f"{round(255 - (255 - part) * share):02x}" for part in parts)


def _hatch_beyond(axes: Axes, content: FigureContent) -> None:
    """Ground without readings is hatched, also over a band."""
    if content.measured is None:
        return
    low, high = content.measured
    for start, end in ((content.x_axis.view[0], low), (high, content.x_axis.view[1])):
        if end > start:
            axes.axvspan(start, end, facecolor="none", edgecolor=RULE, hatch="////", linewidth=0, zorder=0.95)


def paint_plot(axes: Axes, content: FigureContent) -> None:
    """Everything that stands in the plot but its texts."""
    _hatch_beyond(axes, content)
    for place, curve in reversed(list(enumerate(content.curves))):
        _paint_curve(axes, content, curve, leading=place == 0)
    for series in content.series:
        _paint_series(axes, content, series)
    _paint_marks(axes, content)


def _paint_curve(axes: Axes, content: FigureContent, curve: DrawnCurve, *, leading: bool) -> None:
    look = line_look(content, curve.letter)
    if leading and curve.low is not None and curve.high is not None:
        banded = np.isfinite(curve.low) & np.isfinite(curve.high)
        tint = _tint(look["color"], 0.14)
        axes.fill_between(curve.x, curve.low, curve.high, where=banded, color=tint, linewidth=0, zorder=0.9)
    low, high = curve.measured
    inside = (curve.x >= low) & (curve.x <= high)
    known = np.isfinite(curve.y)
    ends = np.interp([low, high], curve.x[known], curve.y[known]) if known.any() else [np.nan, np.nan]
    axes.plot(np.r_[low, curve.x[inside], high], np.r_[ends[0], curve.y[inside], ends[1]], **look)
    for beyond in (curve.x < low, curve.x > high):
        axes.plot(curve.x[beyond], curve.y[beyond], **{**look, "linestyle": _DOTTED})


def _paint_series(axes: Axes, content: FigureContent, series: DrawnSeries) -> None:
    size, ink = mark_size(content), ink_of_marks(content)
    shape: dict[str, Any] = {"marker": SHAPES[series.shape], "linestyle": "none", "zorder": 3}
    known = np.isfinite(content.x) & np.isfinite(content.y)
    used, assumed, aside = (
        rows & known for rows in (series.used & ~series.assumed, series.used & series.assumed, series.aside)
    )
    every = used | assumed
    if content.join:
        order = np.flatnonzero(every)[np.argsort(content.x[every], kind="stable")]
        axes.plot(content.x[order], content.y[order], color=MUTE, linewidth=0.6, zorder=1.5)
    if content.x_error is not None or content.y_error is not None:
        _paint_errors(axes, content, every)
    many = int(every.sum()) > _MANY
    axes.plot(
        content.x[used], content.y[used], color=ink, markeredgecolor="none", markersize=1.6 if many else size,
        rasterized=many, **shape,
    )  # fmt: skip
    hollow: dict[str, Any] = {"markerfacecolor": SHEET, "markeredgecolor": ink, "markersize": size}
    axes.plot(content.x[aside], content.y[aside], **hollow, **shape)
    axes.plot(content.x[assumed], content.y[assumed], **hollow, **shape)
    axes.plot(content.x[assumed], content.y[assumed], **{**shape, "marker": "+"}, color=ink, markersize=size * 0.7)


def _paint_errors(axes: Axes, content: FigureContent, rows: npt.NDArray[np.bool_]) -> None:
    def both(error: tuple[Array, Array] | None) -> npt.NDArray[np.float64] | None:
        return None if error is None else np.nan_to_num(np.stack([side[rows] for side in error]).clip(min=0))

    axes.errorbar(
        content.x[rows], content.y[rows], xerr=both(content.x_error), yerr=both(content.y_error), fmt="none",
        ecolor=ink_of_marks(content), elinewidth=0.7, capsize=1.8, zorder=2.5,
    )  # fmt: skip


def _paint_marks(axes: Axes, content: FigureContent) -> None:
    fill = SHEET if content.grey else LICHEN
    for x, y, direction in content.marks:
        corner = ([x, x, content.x_axis.view[0]], [content.y_axis.view[0], y, y])
        axes.plot(*corner, color=INK, linewidth=0.7, linestyle=(0, (3, 2)), zorder=2)
        axes.plot([x], [y], "D", color=fill, markeredgecolor=INK, markersize=5, zorder=4, gid=direction)


def paint_bar(axes: Axes, content: FigureContent) -> None:
    """The measured range as a heavy bar on the x axis."""
    if content.measured is None:
        return
    low, high = (float(np.clip(end, *content.x_axis.view)) for end in content.measured)
    bar: dict[str, Any] = {"solid_capstyle": "butt", "clip_on": False, "zorder": 5}
    axes.plot([low, high], [0, 0], color=INK, linewidth=3.2, transform=axes.get_xaxis_transform(), **bar)


def paint_residuals(axes: Axes, content: FigureContent) -> None:
    """The residuals of the leading curve with a band of the typical miss."""
    _hatch_beyond(axes, content)
    color = color_of(content, content.curves[0].letter) if content.curves else MUTE
    axes.axhline(0, color=color, linewidth=0.9)
    if content.residuals is None:
        return
    if content.deviation:
        tint = _tint(color, 0.1)
        axes.axhspan(-content.deviation, content.deviation, color=tint, linewidth=0, zorder=0.9)
    used = np.logical_or.reduce([series.used for series in content.series]) & np.isfinite(content.x)
    x, residuals = content.x[used], content.residuals[used]
    if len(x) <= _MANY:
        # One broken line: a file with hundreds of them takes long to draw again.
        ends = np.column_stack((np.zeros(len(x)), residuals, np.full(len(x), np.nan))).ravel()
        axes.plot(np.repeat(x, 3), ends, color=color, linewidth=0.9, solid_capstyle="butt")
    axes.plot(x, residuals, "o", color=color, markersize=3, rasterized=len(x) > _MANY)
