"""Axes of a figure: their ticks, titles and grid, and where on the paper each of their texts stands. Lengths in mm."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from matplotlib.axes import Axes
from matplotlib.patches import PathPatch
from matplotlib.path import Path

from ridge.core.numerals import place as magnitude
from ridge.core.wording.headings import over
from ridge.exchange.figure.content import AxisLook, FigureContent
from ridge.exchange.figure.paper import MUTE, PAD, RULE, Paper
from ridge.exchange.figure.texts import POINT, Line, Words, axis_title, broken, width_of
from ridge.exchange.figure.ticks import Ticks, spread, ticks

TICK, TICK_GAP = 1.2, 0.9
_ABOUT_X, _ABOUT_Y = 13.0, 8.0  # from one tick to the next, roughly


@dataclass(frozen=True)
class Frame:
    """An axis system: where it stands on the paper, in mm."""

    left: float
    bottom: float
    width: float
    height: float


def title_of(look: AxisLook, found: Ticks, size: float, room: float) -> list[Line]:
    if look.title:
        return broken(look.title, size, room, 2)
    return axis_title(look.name, look.symbol, over(look.unit, found.exponent), size, room)


def upright_ticks(look: AxisLook, height: float, text_height: float, *, signed: bool = False) -> Ticks:
    """Ticks of an upright axis that leave room between their texts."""
    found = Ticks((), (), ())
    for count in range(max(2, int(height / _ABOUT_Y)), 0, -1):
        found = ticks(look, count, signed=signed)
        places = spread(found.places, look, height)
        if min(np.diff(places), default=height) >= text_height:
            break
    if signed:
        # About zero one tick to either side says more than none.
        power = magnitude(0.9 * look.view[1])
        far = float(f"{int(0.9 * look.view[1] / 10.0**power)}e{power}")
        found = found if len(found.places) >= 3 else ticks(replace(look, step=far), 2, signed=True)
        return replace(found, minors=())
    return found


def level_ticks(look: AxisLook, width: float, left: float, tick_size: float) -> tuple[Ticks, float]:
    """Ticks of the x axis that leave room between them, and where the axis ends on the right."""
    right = width - PAD
    for count in range(max(2, int((right - left) / _ABOUT_X)), 0, -1):
        found = ticks(look, count)
        widths = [Words(text, tick_size).width for text in found.texts]
        # The last text may reach past the axis.
        end = width - PAD
        for _ in range(2):
            places = spread(found.places, look, end - left)
            past = max((place + half / 2 - (end - left) for place, half in zip(places, widths, strict=True)), default=0)
            end = min(end, width - PAD - max(past, 0.0))
        places = spread(found.places, look, end - left)
        free = [
            second - first - (one + other) / 2
            for first, second, one, other in zip(places, places[1:], widths, widths[1:], strict=False)
        ]
        if min(free, default=9.0) >= 1.5:
            return found, end
    first = Ticks(found.places[:1], found.texts[:1], (), found.exponent)
    return first, end


def prepare(axes: Axes, x: AxisLook, y: AxisLook, x_ticks: Ticks, y_ticks: Ticks, content: FigureContent) -> None:
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
        out = TICK / 25.4 / across
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
    lines = [Path([(start, one), (end, one)] if upright else [(one, start), (one, end)]) for one in at]
    if lines:
        # All as one path: a file with hundreds of lines takes long to draw again.
        whole = Path.make_compound_path(*lines)
        axes.add_artist(PathPatch(whole, transform=axes.transAxes, clip_on=False, fill=False, **look))


def write_x(
    paper: Paper, frame: Frame, look: AxisLook, found: Ticks, title: list[Line], size: float, line: float
) -> None:
    down = frame.bottom - TICK - TICK_GAP - 0.75 * size * POINT
    for text, place in zip(found.texts, spread(found.places, look, frame.width), strict=True):
        paper.write_centred((Words(text, size),), frame.left + place, down, color=MUTE)
    down = frame.bottom - TICK - TICK_GAP - size * 1.25 * POINT - 0.6
    for one in title:
        down -= line
        half = width_of(one) / 2
        middle = min(max(frame.left + frame.width / 2, PAD + half), paper.width - PAD - half)
        paper.write_centred(one, middle, down + 0.3 * line)


def write_y(
    paper: Paper,
    frame: Frame,
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
        at = frame.left - TICK - TICK_GAP - width_of(words), frame.bottom + place - 0.36 * size * POINT
        paper.write(words, *at, color=MUTE)
    for place_, one in enumerate(title):
        middle = min(frame.bottom + frame.height / 2, frame.bottom + frame.height + room - width_of(one) / 2)
        paper.write_centred(one, PAD + (place_ + 0.75) * line, middle, upwards=True)
