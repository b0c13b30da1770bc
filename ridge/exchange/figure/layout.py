"""A figure laid out: every margin follows from the texts that stand in it, so that none is cut and none lies on another."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np
from matplotlib.axes import Axes
from matplotlib.collections import LineCollection
from matplotlib.figure import Figure

from ridge.core.wording.headings import over
from ridge.core.wording.numbers import significant
from ridge.exchange.figure.content import AxisLook, DrawnCurve, FigureContent, check_drawable
from ridge.exchange.figure.labels import Box, Points, dense, free_spot, moved
from ridge.exchange.figure.legend import legend
from ridge.exchange.figure.paint import (
    SHAPES,
    color_of,
    line_look,
    mark_size,
    paint_bar,
    paint_plot,
    paint_residuals,
)
from ridge.exchange.figure.paper import MUTE, RULE, Paper
from ridge.exchange.figure.texts import (
    POINT,
    Line,
    Words,
    axis_title,
    broken,
    depth_of,
    height_of,
    width_of,
)
from ridge.exchange.figure.ticks import Ticks, spread, ticks
from ridge.exchange.typeset import to_mathtext

Only = Literal["", "residuals"]

_WIDE = 120.0
"""From this width on, in mm, texts are of the larger size."""
_FULL = 130.0
"""From this width on, in mm, marks and lines are as thick as on the screen; narrower figures have finer ones."""
_PAD = 1.5
_TICK, _TICK_GAP, _BESIDE = 1.2, 0.9, 1.4
_STRIP = 0.22  # of the height that both axes share
_ABOUT_X, _ABOUT_Y = 13.0, 8.0  # mm from one tick to the next, roughly
_BELOW = 6.0  # mm below the axes that nothing but their texts takes
_MARK_RADIUS = 1.0


@dataclass(frozen=True)
class _Frame:
    """An axis system: where it stands on the paper, in mm."""

    left: float
    bottom: float
    width: float
    height: float


def lay_out(content: FigureContent, width: float, only: Only = "") -> Figure:
    """The whole figure ``width`` mm wide; ``only`` its residuals. Raises CannotDraw."""
    check_drawable(content)
    finer = min(1.0, max(0.62, width / _FULL))
    content = replace(content, mark_size=content.mark_size * finer, line_width=content.line_width * finer)
    size = 9.0 if width >= _WIDE else 7.5
    tick_size = size - 0.5
    room = width - 2 * _PAD
    title = broken(content.title, size + 1.5, room, 2, "bold") if content.title else []
    title_height = sum(height_of(line) for line in title) + (1.0 if title else 0.0)
    line_height = size * 1.25 * POINT
    tick_height = tick_size * 1.25 * POINT

    # Down: the axes keep their height; the legend is added below them.
    both = content.aspect * width
    bottom_of_axes = _TICK + _TICK_GAP + tick_height + 2.2 * line_height  # the title of x may take two lines
    inner = max(both - title_height - bottom_of_axes - 2 * _PAD, 18.0)
    gap = max(0.045 * inner, tick_height + 0.6)
    strip_height = inner if only else _STRIP * (inner - gap)
    plot_height = inner - gap - strip_height

    y_ticks = _upwards(content.y_axis, plot_height, tick_height) if not only else Ticks((), (), ())
    r_ticks = _upwards(content.residual_axis, strip_height, tick_height, signed=True)
    y_title = _title(content.y_axis, y_ticks, size, plot_height) if not only else []
    # Beside the ticks of x there is room as well.
    r_title = _title(content.residual_axis, r_ticks, size, strip_height + gap + _BELOW)
    tick_width = max((Words(text, tick_size).width for one in (y_ticks, r_ticks) for text in one.texts), default=0.0)
    titles = max(len(y_title), len(r_title)) * line_height
    left = _PAD + titles + _BESIDE + tick_width + _TICK_GAP + _TICK
    x_ticks, right = _across(content.x_axis, width, left, tick_size)
    x_title = _title(content.x_axis, x_ticks, size, width - _PAD - left)

    labelled = _in_plot(content) if not only else frozenset[str]()
    spots = _spots(content, _Frame(left, 0, right - left, plot_height), labelled, size) if not only else {}
    with_equation = frozenset(letter for letter in spots if content.label == "equation")
    entries, legend_height = legend(content, size, room, with_equation) if not only else ([], 0.0)
    legend_height += 1.0 if entries else 0.0
    below = _PAD + legend_height + len(x_title) * line_height + 0.6 + tick_height + _TICK_GAP + _TICK
    height = below + inner + title_height + _PAD

    paper = Paper(width, height)
    strip_frame = _Frame(left, below, right - left, strip_height)
    strip = paper.axes(strip_frame.left, strip_frame.bottom, strip_frame.width, strip_frame.height)
    _prepare(strip, content.x_axis, content.residual_axis, x_ticks, r_ticks, replace(content, grid="none"))
    paint_residuals(strip, content)
    _write_y(paper, strip_frame, content.residual_axis, r_ticks, r_title, tick_size, line_height, room=gap - 0.5)
    if not only:
        plot_frame = _Frame(left, below + strip_height + gap, right - left, plot_height)
        plot = paper.axes(plot_frame.left, plot_frame.bottom, plot_frame.width, plot_frame.height)
        _prepare(plot, content.x_axis, content.y_axis, x_ticks, y_ticks, content)
        paint_plot(plot, content)
        paint_bar(plot, content)
        _write_y(paper, plot_frame, content.y_axis, y_ticks, y_title, tick_size, line_height)
        for letter, (line, box) in spots.items():
            at = plot_frame.left + box.left, plot_frame.bottom + box.bottom + depth_of(line)
            paper.write(line, *at, color=color_of(content, letter), halo=True)
    _write_x(paper, strip_frame, content.x_axis, x_ticks, x_title, tick_size, line_height)
    for place in entries:
        y = _PAD + legend_height - 1.0 - place.down
        start = _PAD + place.left
        middle = y + 0.32 * size * POINT
        if place.entry.kind == "curve":
            paper.rule(start, start + place.entry.sample, middle, **line_look(content, place.entry.key))
        else:
            paper.mark(start + place.entry.sample / 2, middle, SHAPES[place.entry.key], mark_size(content))
        paper.write(place.entry.line, start + place.entry.sample + 1.2, y)
    down = height - _PAD
    for line in title:
        down -= height_of(line)
        paper.write(line, _PAD, down + depth_of(line))
    return paper.figure


def _title(look: AxisLook, found: Ticks, size: float, room: float) -> list[Line]:
    if look.title:
        return broken(look.title, size, room, 2)
    return axis_title(look.name, look.symbol, over(look.unit, found.exponent), size, room)


def _upwards(look: AxisLook, height: float, text_height: float, *, signed: bool = False) -> Ticks:
    """Ticks of an upright axis that leave room between their texts."""
    found = Ticks((), (), ())
    for count in range(max(2, int(height / _ABOUT_Y)), 0, -1):
        found = ticks(look, count, signed=signed)
        places = spread(found.places, look, height)
        if min(np.diff(places), default=height) >= text_height:
            break
    if signed:
        # About zero one tick to either side says more than none.
        far = float(significant(0.85 * look.view[1], 1).plain)
        found = found if len(found.places) >= 3 else ticks(replace(look, step=far), 2, signed=True)
        return replace(found, minors=())
    return found


def _across(look: AxisLook, width: float, left: float, tick_size: float) -> tuple[Ticks, float]:
    """Ticks of the x axis that leave room between them, and where the axis ends on the right."""
    right = width - _PAD
    for count in range(max(2, int((right - left) / _ABOUT_X)), 0, -1):
        found = ticks(look, count)
        widths = [Words(text, tick_size).width for text in found.texts]
        # The last text may reach past the axis.
        end = width - _PAD
        for _ in range(2):
            places = spread(found.places, look, end - left)
            past = max((place + half / 2 - (end - left) for place, half in zip(places, widths, strict=True)), default=0)
            end = min(end, width - _PAD - max(past, 0.0))
        places = spread(found.places, look, end - left)
        free = [
            second - first - (one + other) / 2
            for first, second, one, other in zip(places, places[1:], widths, widths[1:], strict=False)
        ]
        if min(free, default=9.0) >= 1.5:
            return found, end
    first = Ticks(found.places[:1], found.texts[:1], (), found.exponent)
    return first, end


def _prepare(axes: Axes, x: AxisLook, y: AxisLook, x_ticks: Ticks, y_ticks: Ticks, content: FigureContent) -> None:
    """Scales, limits, tick marks and grid; the texts are written apart."""
    axes.set_facecolor("none")
    for side in ("top", "right"):
        axes.spines[side].set_visible(False)
    axes.set_xscale(x.scale)
    axes.set_yscale(y.scale)
    axes.set_autoscale_on(False)
    axes.set_xlim(*x.view)
    axes.set_ylim(*y.view)
    axes.set_xticks([])
    axes.set_yticks([])
    axes.set_xticks([], minor=True)
    axes.set_yticks([], minor=True)
    inches = np.array(axes.get_window_extent().size) / axes.figure.dpi
    for found, look, upright in ((x_ticks, x, False), (y_ticks, y, True)):
        across = inches[0 if upright else 1]
        major, minor = (_shares(places, look) for places in (found.places, found.minors))
        out = _TICK / 25.4 / across
        if content.grid == "minor":
            _strokes(axes, major, upright, 0, 1, color=RULE, linewidth=0.5, zorder=0.5)
            _strokes(axes, minor, upright, 0, 1, color=RULE, linewidth=0.25, zorder=0.5)
        elif content.grid == "major" and upright:
            _strokes(axes, major, upright, 0, 1, color=RULE, linewidth=0.5, zorder=0.5)
        _strokes(axes, major, upright, -out, 0, color=MUTE, linewidth=0.8, zorder=2)
        _strokes(axes, minor, upright, -0.6 * out, 0, color=MUTE, linewidth=0.5, zorder=2)


def _shares(places: tuple[float, ...], look: AxisLook) -> list[float]:
    """Where along the axis, from 0 to 1; none that lies outside it."""
    return [share for share in spread(places, look, 1.0) if -1e-9 <= share <= 1 + 1e-9]


def _strokes(axes: Axes, at: list[float], upright: bool, start: float, end: float, **look: Any) -> None:
    """Short lines across an axis, or long ones over the plot, in shares of the axes."""
    lines = [[(start, one), (end, one)] if upright else [(one, start), (one, end)] for one in at]
    axes.add_collection(LineCollection(lines, transform=axes.transAxes, clip_on=False, **look), autolim=False)


def _write_x(
    paper: Paper, frame: _Frame, look: AxisLook, found: Ticks, title: list[Line], size: float, line: float
) -> None:
    down = frame.bottom - _TICK - _TICK_GAP - 0.75 * size * POINT
    for text, place in zip(found.texts, spread(found.places, look, frame.width), strict=True):
        paper.write_centred((Words(text, size),), frame.left + place, down, color=MUTE)
    down = frame.bottom - _TICK - _TICK_GAP - size * 1.25 * POINT - 0.6
    for one in title:
        down -= line
        half = width_of(one) / 2
        middle = min(max(frame.left + frame.width / 2, _PAD + half), paper.width - _PAD - half)
        paper.write_centred(one, middle, down + 0.3 * line)


def _write_y(
    paper: Paper,
    frame: _Frame,
    look: AxisLook,
    found: Ticks,
    title: list[Line],
    size: float,
    line: float,
    room: float = 0.0,
) -> None:
    """Texts and title of an upright axis; ``room`` above it that a long title may take."""
    for text, place in zip(found.texts, spread(found.places, look, frame.height), strict=True):
        words = (Words(text, size),)
        at = frame.left - _TICK - _TICK_GAP - width_of(words), frame.bottom + place - 0.36 * size * POINT
        paper.write(words, *at, color=MUTE)
    for place_, one in enumerate(title):
        middle = min(frame.bottom + frame.height / 2, frame.bottom + frame.height + room - width_of(one) / 2)
        paper.write_centred(one, _PAD + (place_ + 0.75) * line, middle, upwards=True)


def _in_plot(content: FigureContent) -> frozenset[str]:
    """Curves that have a label in the plot; a curve alone needs no letter."""
    if content.label == "none" or (content.label == "letter" and len(content.curves) < 2):
        return frozenset()
    return frozenset(curve.letter for curve in content.curves)


def _spots(content: FigureContent, frame: _Frame, wanted: frozenset[str], size: float) -> dict[str, tuple[Line, Box]]:
    """The label of each curve and where it finds room; one that finds none stays away."""
    axes = (frame.width, frame.height)
    lines = {curve.letter: _trace(content, curve, frame) for curve in content.curves}
    drawn: Points = np.concatenate(
        [*(dense(line) for line in lines.values()), _readings(content, frame), np.empty((0, 2))]
    )
    found: dict[str, tuple[Line, Box]] = {}
    for curve in content.curves:
        label = _label(content, curve, size)
        if curve.letter not in wanted or label is None:
            continue
        extent = (width_of(label), height_of(label))
        box = free_spot(lines[curve.letter], extent, axes, [box for _, box in found.values()], drawn)
        if box is not None:
            found[curve.letter] = (label, moved(box, curve.moved, axes) if curve.moved else box)
    return found


def _label(content: FigureContent, curve: DrawnCurve, size: float) -> Line | None:
    letter = Words(curve.letter, size, "bold")
    if content.label == "letter":
        return (letter,)
    text = to_mathtext(curve.latex) if curve.latex else None
    if text is None:
        return None
    start = (Words(f"{curve.letter}  ", size, "bold"),) if len(content.curves) > 1 else ()
    return (*start, Words(text, size * 1.08, "equation"))


def _trace(content: FigureContent, curve: DrawnCurve, frame: _Frame) -> Points:
    """The curve in mm from the lower left of the plot, as far as it is seen."""
    return _placed(content, curve.x, curve.y, frame)


def _readings(content: FigureContent, frame: _Frame) -> Points:
    """Every mark of a reading as the corners of the square about it, and the ends of its error bars."""
    used = np.logical_or.reduce([series.used | series.aside for series in content.series])
    x, y = content.x[used], content.y[used]
    ends = [_placed(content, x, y, frame)]
    if content.y_error is not None:
        for sign, error in zip((-1, 1), content.y_error, strict=True):
            ends += [_placed(content, x, y + sign * share * error[used], frame) for share in (0.25, 0.5, 0.75, 1.0)]
    if content.marks:
        marks = np.array([mark[:2] for mark in content.marks])
        ends.append(_placed(content, marks[:, 0], marks[:, 1], frame))
    centres = np.concatenate(ends)
    around = np.array([(0, 0), (-1, -1), (-1, 1), (1, -1), (1, 1)]) * _MARK_RADIUS
    return (centres[:, None, :] + around[None, :, :]).reshape(-1, 2)


def _placed(content: FigureContent, x: np.ndarray, y: np.ndarray, frame: _Frame) -> Points:
    with np.errstate(all="ignore"):
        found = np.column_stack(
            (
                spread(tuple(x.tolist()), content.x_axis, frame.width),
                spread(tuple(y.tolist()), content.y_axis, frame.height),
            )
        )
    inside = np.isfinite(found).all(axis=1) & (found >= 0).all(axis=1)
    inside &= (found[:, 0] <= frame.width) & (found[:, 1] <= frame.height)
    return np.asarray(found[inside])
