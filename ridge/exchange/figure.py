"""The figure as a vector drawing: readings, curve, measured range, answers and the residual strip."""

from __future__ import annotations

import io
from dataclasses import dataclass
from threading import Lock
from typing import Any

import matplotlib
import numpy as np
from matplotlib.axes import Axes
from matplotlib.figure import Figure
from matplotlib.ticker import FuncFormatter

from ridge.core.readings import Array

INK, MUTE, RULE, PINE, LICHEN, SHEET = "#1C2A30", "#5A686C", "#CDD2CA", "#156353", "#DDE9A6", "#FFFFFF"
MM = 1 / 25.4
# Matplotlib's settings are one global table; drawings take turns.
_drawing = Lock()


@dataclass(frozen=True)
class FigureContent:
    """What is seen. x and y may hold NaN; masks have one entry a row; marks are (x, y, horizontal?).

    ``curve`` and band are sampled over the view. ``residuals`` is None where there is no fit.
    """

    title: str
    x_label: str
    y_label: str
    residual_label: str
    x: Array
    y: Array
    y_error: Array | None
    used: Array
    aside: Array
    x_view: tuple[float, float]
    y_view: tuple[float, float]
    residual_view: float
    measured: tuple[float, float] | None
    curve_x: Array
    curve_y: Array
    band_low: Array
    band_high: Array
    residuals: Array | None
    deviation: float | None
    marks: tuple[tuple[float, float, str], ...]
    equation: str


class CannotDraw(ValueError):
    """The numbers leave no room for the sums and differences that drawing needs."""


def _check_drawable(low: float, high: float) -> None:
    span = high - low
    if not (1e-290 < span < 1e290 and low + span * 1e-9 > low):
        raise CannotDraw(
            "These numbers are too large, too small or too close together to be drawn. Choose another unit."
        )


def draw_svg(content: FigureContent, width_mm: float = 170, height_mm: float = 125) -> bytes:
    """The figure as SVG with text as outlines, so that it looks the same wherever it is opened. Raises CannotDraw."""
    for low, high in (content.x_view, content.y_view, (-content.residual_view, content.residual_view)):
        _check_drawable(low, high)
    settings: dict[Any, Any] = {
        "svg.fonttype": "path", "svg.hashsalt": "ridge", "font.size": 9, "axes.linewidth": 0.8, "hatch.linewidth": 0.4,
        "axes.edgecolor": MUTE, "text.color": INK, "axes.labelcolor": INK, "xtick.color": MUTE, "ytick.color": MUTE,
        "axes.unicode_minus": True, "text.parse_math": False,
    }  # fmt: skip
    with _drawing, matplotlib.rc_context(settings):
        figure = Figure(figsize=(width_mm * MM, height_mm * MM), facecolor=SHEET)
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
        figure.savefig(
            buffer, format="svg", metadata={"Date": None, "Title": content.title, "Description": content.equation}
        )
    return buffer.getvalue()


def _plain(axes: Axes) -> None:
    axes.set_facecolor("none")
    for side in ("top", "right"):
        axes.spines[side].set_visible(False)
    number = FuncFormatter(lambda value, _: f"{value:.6g}".replace("-", "\u2212"))
    axes.xaxis.set_major_formatter(number)
    axes.yaxis.set_major_formatter(number)


def _hatch_beyond(axes: Axes, content: FigureContent) -> None:
    """Ground without readings is hatched."""
    if content.measured is None:
        return
    low, high = content.measured
    for start, end in ((content.x_view[0], low), (high, content.x_view[1])):
        if end > start:
            axes.axvspan(start, end, facecolor="none", edgecolor=RULE, hatch="////", linewidth=0, zorder=0)


def _draw_plot(axes: Axes, content: FigureContent) -> None:
    _plain(axes)
    axes.grid(axis="y", color=RULE, linewidth=0.5)
    _hatch_beyond(axes, content)
    if len(content.curve_x):
        banded = np.isfinite(content.band_low) & np.isfinite(content.band_high)
        axes.fill_between(
            content.curve_x, content.band_low, content.band_high, where=banded, color=PINE, alpha=0.14, linewidth=0
        )
        low, high = content.measured or (np.nan, np.nan)
        inside = (content.curve_x >= low) & (content.curve_x <= high)
        ends = np.interp([low, high], content.curve_x, content.curve_y)
        axes.plot(
            np.r_[low, content.curve_x[inside], high],
            np.r_[ends[0], content.curve_y[inside], ends[1]],
            color=PINE,
            linewidth=1.6,
        )
        for beyond in (content.curve_x < low, content.curve_x > high):
            axes.plot(
                content.curve_x[beyond], content.curve_y[beyond], color=PINE, linewidth=1.6, linestyle=(0, (1, 1.6))
            )
    if content.y_error is not None:
        shown = content.used & np.isfinite(content.y_error)
        axes.errorbar(
            content.x[shown],
            content.y[shown],
            content.y_error[shown],
            fmt="none",
            ecolor=INK,
            elinewidth=0.7,
            capsize=1.8,
        )
    many = int(content.used.sum()) > 3000
    axes.plot(
        content.x[content.used], content.y[content.used], "o", color=INK, markersize=2 if many else 4.2,
        linestyle="none", zorder=3, rasterized=many,
    )  # fmt: skip
    axes.plot(
        content.x[content.aside],
        content.y[content.aside],
        "o",
        markerfacecolor=SHEET,
        markeredgecolor=INK,
        markersize=4.2,
        zorder=3,
    )
    for x, y, direction in content.marks:
        corner = ([x, x, content.x_view[0]], [content.y_view[0], y, y])
        axes.plot(*corner, color=INK, linewidth=0.7, linestyle=(0, (3, 2)), zorder=2)
        axes.plot([x], [y], "D", color=LICHEN, markeredgecolor=INK, markersize=5, zorder=4, gid=direction)
    if content.equation:
        axes.set_title(content.equation, loc="right", fontsize=9, color=PINE)
    axes.set_xlim(*content.x_view)
    axes.set_ylim(*content.y_view)
    axes.set_ylabel(content.y_label)
    axes.tick_params(labelbottom=False)
    _bar(axes, content)


def _bar(axes: Axes, content: FigureContent) -> None:
    """The measured range as a heavy bar on the x axis."""
    if content.measured is None:
        return
    low, high = (float(np.clip(end, *content.x_view)) for end in content.measured)
    bar: dict[str, Any] = {
        "transform": axes.get_xaxis_transform(),
        "solid_capstyle": "butt",
        "clip_on": False,
        "zorder": 5,
    }
    axes.plot([low, high], [0, 0], color=INK, linewidth=3.2, **bar)


def _draw_strip(axes: Axes, content: FigureContent) -> None:
    _plain(axes)
    _hatch_beyond(axes, content)
    axes.set_xlabel(content.x_label)
    axes.set_ylabel(content.residual_label)
    axes.axhline(0, color=PINE, linewidth=0.9)
    axes.set_ylim(-content.residual_view, content.residual_view)
    if content.residuals is None:
        return
    if content.deviation:
        axes.axhspan(-content.deviation, content.deviation, color=PINE, alpha=0.1, linewidth=0)
    x, residuals = content.x[content.used], content.residuals[content.used]
    if len(x) <= 3000:
        axes.vlines(x, 0, residuals, color=PINE, linewidth=0.9)
    axes.plot(x, residuals, "o", color=PINE, markersize=3, rasterized=len(x) > 3000)
