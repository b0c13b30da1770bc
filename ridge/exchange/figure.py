"""The figure as a drawing or a picture: readings, curves, measured range, answers and the residual strip."""

from __future__ import annotations

import io
from dataclasses import dataclass, replace
from threading import Lock
from typing import Any

import matplotlib
import numpy as np
import numpy.typing as npt
from matplotlib.axes import Axes
from matplotlib.axis import Axis
from matplotlib.figure import Figure
from matplotlib.ticker import AutoMinorLocator, FuncFormatter, LogLocator, MultipleLocator, NullFormatter

from ridge.core.readings import Array, Mask
from ridge.core.wording.numbers import significant

INK, MUTE, RULE, LICHEN, SHEET = "#1C2A30", "#5A686C", "#CDD2CA", "#DDE9A6", "#FFFFFF"
LOOKS: dict[str, tuple[str, Any]] = {
    "A": ("#156353", "solid"), "B": ("#A9501A", (0, (9, 4))), "C": ("#5647A0", (0, (14, 4, 3, 4))),
    "D": ("#8C2F5E", (0, (5, 3))), "E": ("#3D5F86", (0, (12, 3, 3, 3, 3, 3))), "F": ("#6E5A1E", (0, (18, 5))),
}  # fmt: skip
"""Colour and dash of each fit, the same as on the screen."""
SHAPES = {"circle": "o", "square": "s", "triangle": "^", "diamond": "D", "cross": "P"}
MM = 1 / 25.4
HEIGHT = 0.735  # of the width
_POINTS = 0.72  # points of the drawing to a pixel of the screen
_MANY = 3000
# Matplotlib's settings are one global table; drawings take turns.
drawing_lock = Lock()


@dataclass(frozen=True)
class AxisLook:
    """An axis over ``view``: "linear" or "log"; ``step`` between ticks as typed; ``clock`` for hours and minutes."""

    label: str
    view: tuple[float, float]
    scale: str = "linear"
    step: float | None = None
    clock: bool = False


@dataclass(frozen=True)
class DrawnCurve:
    """A fit's curve sampled over the view, its band (None for none), and the range of its own readings."""

    letter: str
    label: str
    x: Array
    y: Array
    low: Array | None
    high: Array | None
    measured: tuple[float, float]


@dataclass(frozen=True)
class DrawnSeries:
    """Readings that share a mark: rows in use, set aside and assumed, each a mask over all rows."""

    name: str
    shape: str
    used: Mask
    aside: Mask
    assumed: Mask


@dataclass(frozen=True)
class FigureContent:
    """What is seen, already in the coordinates of the axes. x, y and errors have one entry a row and may hold NaN;
    marks are (x, y, direction). The first curve leads; ``residuals`` are its, None where there is no fit."""

    title: str
    x_axis: AxisLook
    y_axis: AxisLook
    residual_label: str
    x: Array
    y: Array
    x_error: tuple[Array, Array] | None
    y_error: tuple[Array, Array] | None
    series: tuple[DrawnSeries, ...]
    residual_view: float
    measured: tuple[float, float] | None
    curves: tuple[DrawnCurve, ...]
    residuals: Array | None
    deviation: float | None
    marks: tuple[tuple[float, float, str], ...]
    equation: str
    grid: str = "major"
    join: bool = False
    mark_size: float = 4.5
    line_width: float = 2.2
    grey: bool = False


class CannotDraw(ValueError):
    """The numbers leave no room for the sums and differences that drawing needs."""


def _check_drawable(low: float, high: float) -> None:
    span = high - low
    if not (1e-290 < span < 1e290 and low + span * 1e-9 > low):
        raise CannotDraw(
            "These numbers are too large, too small or too close together to be drawn. Choose another unit."
        )


FORMATS = {
    "svg": "image/svg+xml",
    "pdf": "application/pdf",
    "png": "image/png",
    "jpg": "image/jpeg",
    "tiff": "image/tiff",
    "eps": "application/postscript",
}
"""Formats of the figure and their media types."""


def draw(
    content: FigureContent, kind: str = "svg", width_mm: float = 170, resolution: int = 300, grey: bool = False
) -> bytes:
    """The figure in one of ``FORMATS``.

    ``resolution`` in dots an inch, for the formats that are pictures. ``grey``: without colour, told apart by dash and mark
    alone. In SVG text is kept as outlines, so that it looks the same wherever it is opened; PDF and EPS carry their fonts.
    Raises CannotDraw.
    """
    for low, high in (content.x_axis.view, content.y_axis.view, (-content.residual_view, content.residual_view)):
        _check_drawable(low, high)
    settings: dict[Any, Any] = {
        "svg.fonttype": "path", "svg.hashsalt": "ridge", "font.size": 9, "axes.linewidth": 0.8, "hatch.linewidth": 0.4,
        "axes.edgecolor": MUTE, "text.color": INK, "axes.labelcolor": INK, "xtick.color": MUTE, "ytick.color": MUTE,
        "axes.unicode_minus": True, "text.parse_math": False, "pdf.fonttype": 42, "ps.fonttype": 42,
    }  # fmt: skip
    content = replace(content, grey=grey)
    with drawing_lock, matplotlib.rc_context(settings), np.errstate(all="ignore"):
        figure = Figure(figsize=(width_mm * MM, width_mm * HEIGHT * MM), facecolor=SHEET)
        grid = figure.add_gridspec(
            2, 1, height_ratios=(3.4, 1), hspace=0.12, left=0.11, right=0.97, top=0.92, bottom=0.11
        )
        plot = figure.add_subplot(grid[0])
        strip = figure.add_subplot(grid[1], sharex=plot)
        _draw_plot(plot, content)
        _draw_strip(strip, content)
        figure.align_ylabels([plot, strip])
        figure.suptitle(content.title, x=0.11, ha="left", fontsize=10.5, fontweight="bold")
        buffer = io.BytesIO()
        figure.savefig(buffer, format=kind, dpi=resolution, **_told(content, kind))
    return buffer.getvalue()


def _told(content: FigureContent, kind: str) -> dict[str, Any]:
    """What the file says of itself, as far as its format can."""
    if kind == "svg":
        return {"metadata": {"Date": None, "Title": content.title, "Description": content.equation}}
    if kind == "pdf":
        return {"metadata": {"Title": content.title, "Subject": content.equation, "CreationDate": None}}
    if kind == "png":
        return {"metadata": {"Title": content.title, "Description": content.equation}}
    if kind == "tiff":
        return {"pil_kwargs": {"compression": "tiff_lzw"}}
    return {}


def _color(content: FigureContent, letter: str) -> str:
    return INK if content.grey else LOOKS[letter][0]


def _tint(color: str, share: float) -> str:
    """A colour thinned with white: not every format knows transparency."""
    parts = (int(color[at : at + 2], 16) for at in (1, 3, 5))
    return "#" + "".join(f"{round(255 - (255 - part) * share):02x}" for part in parts)


def _write_number(value: float, _: object) -> str:
    return significant(value, 6, strip=True).text


def _write_clock(value: float, _: object) -> str:
    minutes = round(abs(value) * 60)
    sign = "\u2212" if value < 0 and minutes else ""
    return f"{sign}{minutes // 60}:{minutes % 60:02}"


def _divide(axis: Axis, look: AxisLook) -> None:
    """Ticks as typed, or by themselves; written in the house's notation."""
    low, high = look.view
    if look.scale == "linear":
        if look.step and (high - low) / look.step <= 120:
            axis.set_major_locator(MultipleLocator(look.step))
        elif look.clock:
            minutes = next(
                (m for m in (1, 5, 10, 30, 60, 120, 180, 360, 720, 1440) if (high - low) * 60 / m <= 10), 1440
            )
            axis.set_major_locator(MultipleLocator(minutes / 60))
        axis.set_minor_locator(AutoMinorLocator(5))
    else:
        axis.set_major_locator(LogLocator(subs=(1.0,) if high / low > 1e3 else (1.0, 2.0, 5.0)))
        axis.set_minor_formatter(NullFormatter())
    axis.set_major_formatter(FuncFormatter(_write_clock if look.clock else _write_number))


def _plain(axes: Axes) -> None:
    axes.set_facecolor("none")
    for side in ("top", "right"):
        axes.spines[side].set_visible(False)


def _hatch_beyond(axes: Axes, content: FigureContent) -> None:
    """Ground without readings is hatched."""
    if content.measured is None:
        return
    low, high = content.measured
    for start, end in ((content.x_axis.view[0], low), (high, content.x_axis.view[1])):
        if end > start:
            axes.axvspan(start, end, facecolor="none", edgecolor=RULE, hatch="////", linewidth=0, zorder=0)


def _draw_plot(axes: Axes, content: FigureContent) -> None:
    _plain(axes)
    axes.set_xscale(content.x_axis.scale)
    axes.set_yscale(content.y_axis.scale)
    _divide(axes.xaxis, content.x_axis)
    _divide(axes.yaxis, content.y_axis)
    if content.grid != "none":
        axes.grid(axis="y", color=RULE, linewidth=0.5)
    if content.grid == "minor":
        axes.grid(axis="x", color=RULE, linewidth=0.5)
        axes.grid(which="minor", color=RULE, linewidth=0.25)
    _hatch_beyond(axes, content)
    for place, curve in reversed(list(enumerate(content.curves))):
        _draw_curve(axes, content, curve, leading=place == 0, alone=len(content.curves) == 1)
    for series in content.series:
        _draw_series(axes, content, series)
    _draw_marks(axes, content)
    if content.equation:
        axes.set_title(content.equation, loc="right", fontsize=9, color=_color(content, content.curves[0].letter))
    if len(content.series) > 1 or len(content.curves) > 1:
        axes.legend(fontsize=8, frameon=True, framealpha=1, facecolor=SHEET, edgecolor=RULE, loc="best")
    axes.set_xlim(*content.x_axis.view)
    axes.set_ylim(*content.y_axis.view)
    axes.set_ylabel(content.y_axis.label)
    axes.tick_params(labelbottom=False, which="both")
    _bar(axes, content)


def _draw_curve(axes: Axes, content: FigureContent, curve: DrawnCurve, *, leading: bool, alone: bool) -> None:
    color, dash = _color(content, curve.letter), LOOKS[curve.letter][1]
    width = content.line_width * _POINTS
    if leading and curve.low is not None and curve.high is not None:
        banded = np.isfinite(curve.low) & np.isfinite(curve.high)
        axes.fill_between(
            curve.x, curve.low, curve.high, where=banded, color=_tint(color, 0.14), linewidth=0, zorder=0.9
        )
    low, high = curve.measured
    inside = (curve.x >= low) & (curve.x <= high)
    known = np.isfinite(curve.y)
    ends = np.interp([low, high], curve.x[known], curve.y[known]) if known.any() else [np.nan, np.nan]
    axes.plot(
        np.r_[low, curve.x[inside], high],
        np.r_[ends[0], curve.y[inside], ends[1]],
        color=color,
        linewidth=width,
        linestyle=dash,
        label=None if alone else f"{curve.letter}: {curve.label}",
    )
    for beyond in (curve.x < low, curve.x > high):
        axes.plot(curve.x[beyond], curve.y[beyond], color=color, linewidth=width, linestyle=(0, (1, 1.6)))


def _draw_series(axes: Axes, content: FigureContent, series: DrawnSeries) -> None:
    size = content.mark_size * 1.9 * _POINTS
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
        _draw_errors(axes, content, every)
    many = int(every.sum()) > _MANY
    label = series.name or None
    axes.plot(
        content.x[used], content.y[used], color=INK, markeredgecolor="none", markersize=1.6 if many else size,
        rasterized=many, label=label, **shape,
    )  # fmt: skip
    hollow: dict[str, Any] = {"markerfacecolor": SHEET, "markeredgecolor": INK, "markersize": size}
    axes.plot(content.x[aside], content.y[aside], **hollow, **shape)
    axes.plot(content.x[assumed], content.y[assumed], **hollow, **shape)
    axes.plot(content.x[assumed], content.y[assumed], **{**shape, "marker": "+"}, color=INK, markersize=size * 0.7)


def _draw_errors(axes: Axes, content: FigureContent, rows: npt.NDArray[np.bool_]) -> None:
    def both(error: tuple[Array, Array] | None) -> npt.NDArray[np.float64] | None:
        return None if error is None else np.nan_to_num(np.stack([side[rows] for side in error]).clip(min=0))

    axes.errorbar(
        content.x[rows], content.y[rows], xerr=both(content.x_error), yerr=both(content.y_error), fmt="none",
        ecolor=INK, elinewidth=0.7, capsize=1.8, zorder=2.5,
    )  # fmt: skip


def _draw_marks(axes: Axes, content: FigureContent) -> None:
    for x, y, direction in content.marks:
        corner = ([x, x, content.x_axis.view[0]], [content.y_axis.view[0], y, y])
        axes.plot(*corner, color=INK, linewidth=0.7, linestyle=(0, (3, 2)), zorder=2)
        axes.plot(
            [x],
            [y],
            "D",
            color=SHEET if content.grey else LICHEN,
            markeredgecolor=INK,
            markersize=5,
            zorder=4,
            gid=direction,
        )


def _bar(axes: Axes, content: FigureContent) -> None:
    """The measured range as a heavy bar on the x axis."""
    if content.measured is None:
        return
    low, high = (float(np.clip(end, *content.x_axis.view)) for end in content.measured)
    bar: dict[str, Any] = {
        "transform": axes.get_xaxis_transform(),
        "solid_capstyle": "butt",
        "clip_on": False,
        "zorder": 5,
    }
    axes.plot([low, high], [0, 0], color=INK, linewidth=3.2, **bar)


def _draw_strip(axes: Axes, content: FigureContent) -> None:
    _plain(axes)
    _divide(axes.xaxis, content.x_axis)
    axes.yaxis.set_major_formatter(FuncFormatter(_write_number))
    _hatch_beyond(axes, content)
    axes.set_xlabel(content.x_axis.label)
    axes.set_ylabel(content.residual_label)
    color = _color(content, content.curves[0].letter) if content.curves else MUTE
    axes.axhline(0, color=color, linewidth=0.9)
    axes.set_ylim(-content.residual_view, content.residual_view)
    if content.residuals is None:
        return
    if content.deviation:
        axes.axhspan(-content.deviation, content.deviation, color=_tint(color, 0.1), linewidth=0, zorder=0.9)
    used = np.logical_or.reduce([series.used for series in content.series]) & np.isfinite(content.x)
    x, residuals = content.x[used], content.residuals[used]
    if len(x) <= _MANY:
        axes.vlines(x, 0, residuals, color=color, linewidth=0.9)
    axes.plot(x, residuals, "o", color=color, markersize=3, rasterized=len(x) > _MANY)
