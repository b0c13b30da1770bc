"""A figure laid out: every margin follows from the texts that stand in it, so that none is cut and none lies on another."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from matplotlib.figure import Figure

from ridge.exchange.figure.axes import (
    TICK,
    TICK_GAP,
    Frame,
    level_ticks,
    prepare,
    title_of,
    upright_ticks,
    write_x,
    write_y,
)
from ridge.exchange.figure.content import FigureContent, check_drawable
from ridge.exchange.figure.labels import labelled, spots_of
from ridge.exchange.figure.legend import legend
from ridge.exchange.figure.paint import SHAPES, color_of, line_look, mark_size, paint_bar, paint_plot, paint_residuals
from ridge.exchange.figure.paper import MUTE, PAD, Paper
from ridge.exchange.figure.texts import POINT, Words, broken, depth_of, height_of
from ridge.exchange.figure.ticks import Ticks
from ridge.exchange.figure.underlay import paint_underlay

Only = Literal["", "residuals"]

_WIDE = 120.0
"""From this width on, in mm, texts are of the larger size."""
_FULL = 130.0
"""From this width on, in mm, marks and lines are as thick as on the screen; narrower figures have finer ones."""
_BESIDE = 1.4
_SMALLER = 1.5  # points by which a note is smaller
_STRIP = 0.22  # of the height that both axes share
_BELOW = 6.0  # mm below the axes that nothing but their texts takes


def lay_out(content: FigureContent, width: float, only: Only = "") -> Figure:
    """The whole figure ``width`` mm wide; ``only`` its residuals. Raises CannotDraw."""
    check_drawable(content)
    finer = min(1.0, max(0.62, width / _FULL))
    content = replace(content, mark_size=content.mark_size * finer, line_width=content.line_width * finer)
    size = 9.0 if width >= _WIDE else 7.5
    tick_size = size - 0.5
    room = width - 2 * PAD
    title = broken(content.title, size + 1.5, room, 2, "bold") if content.title else []
    title_height = sum(height_of(line) for line in title) + (1.0 if title else 0.0)
    line_height = size * 1.25 * POINT
    tick_height = tick_size * 1.25 * POINT

    # Down: the axes keep their height; the legend is added below them.
    both = content.aspect * width
    bottom_of_axes = TICK + TICK_GAP + tick_height + 2.2 * line_height  # the title of x may take two lines
    inner = max(both - title_height - bottom_of_axes - 2 * PAD, 18.0)
    gap = max(0.045 * inner, tick_height + 0.6)
    strip_height = inner if only else _STRIP * (inner - gap)
    plot_height = inner - gap - strip_height

    y_ticks = upright_ticks(content.y_axis, plot_height, tick_height) if not only else Ticks((), (), ())
    r_ticks = upright_ticks(content.residual_axis, strip_height, tick_height, signed=True)
    y_title = title_of(content.y_axis, y_ticks, size, plot_height) if not only else []
    # Beside the ticks of x there is room as well.
    r_title = title_of(content.residual_axis, r_ticks, size, strip_height + gap + _BELOW)
    tick_width = max((Words(text, tick_size).width for one in (y_ticks, r_ticks) for text in one.texts), default=0.0)
    titles = max(len(y_title), len(r_title)) * line_height
    left = PAD + titles + _BESIDE + tick_width + TICK_GAP + TICK
    x_ticks, right = level_ticks(content.x_axis, width, left, tick_size)
    x_title = title_of(content.x_axis, x_ticks, size, width - PAD - left)

    named = labelled(content) if not only else frozenset[str]()
    spots = spots_of(content, Frame(left, 0, right - left, plot_height), named, size) if not only else {}
    with_equation = frozenset(letter for letter in spots if content.label == "equation")
    entries, legend_height = legend(content, size, room, with_equation) if not only else ([], 0.0)
    legend_height += 1.0 if entries else 0.0
    note = broken(content.note, size - _SMALLER, room, 2) if content.note else []
    note_height = sum(height_of(line) for line in note) + (0.6 if note else 0.0)
    below = PAD + note_height + legend_height + len(x_title) * line_height + 0.6 + tick_height + TICK_GAP + TICK
    height = below + inner + title_height + PAD

    paper = Paper(width, height)
    strip_frame = Frame(left, below, right - left, strip_height)
    strip = paper.axes(strip_frame.left, strip_frame.bottom, strip_frame.width, strip_frame.height)
    prepare(strip, content.x_axis, content.residual_axis, x_ticks, r_ticks, replace(content, grid="none"))
    paint_residuals(strip, content)
    write_y(paper, strip_frame, content.residual_axis, r_ticks, r_title, tick_size, line_height, room=gap - 0.5)
    if not only:
        plot_frame = Frame(left, below + strip_height + gap, right - left, plot_height)
        plot = paper.axes(plot_frame.left, plot_frame.bottom, plot_frame.width, plot_frame.height)
        prepare(plot, content.x_axis, content.y_axis, x_ticks, y_ticks, content)
        paint_underlay(plot, content, plot_frame.width, plot_frame.height)
        paint_plot(plot, content)
        paint_bar(plot, content)
        write_y(paper, plot_frame, content.y_axis, y_ticks, y_title, tick_size, line_height)
        for letter, (line, box) in spots.items():
            at = plot_frame.left + box.left, plot_frame.bottom + box.bottom + depth_of(line)
            paper.write(line, *at, color=color_of(content, letter), halo=True)
    write_x(paper, strip_frame, content.x_axis, x_ticks, x_title, tick_size, line_height)
    for place in entries:
        y = PAD + note_height + legend_height - 1.0 - place.down
        start = PAD + place.left
        middle = y + 0.32 * size * POINT
        if place.entry.kind == "curve":
            paper.rule(start, start + place.entry.sample, middle, **line_look(content, place.entry.key))
        else:
            paper.mark(start + place.entry.sample / 2, middle, SHAPES[place.entry.key], mark_size(content))
        paper.write(place.entry.line, start + place.entry.sample + 1.2, y)
    down = PAD + note_height - 0.6
    for line in note:
        down -= height_of(line)
        paper.write(line, PAD, down + depth_of(line), color=MUTE)
    down = height - PAD
    for line in title:
        down -= height_of(line)
        paper.write(line, PAD, down + depth_of(line))
    return paper.figure
